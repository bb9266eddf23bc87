"""The moments of a recipe in words, for choosing two of them to compare."""

from __future__ import annotations

from typing import Any

from plinto_core.icc.spaces import INTENT_WORDS
from plinto_core.recipes import parse_recipe
from plinto_server.apps.jobs.models import Destination

_NAMES = {
    "version": "method of separation",
    "source": "source profile",
    "extra_channels": "channels beside the colours",
    "negative": "artwork as a negative",
    "numbers": "numbers of the press",
    "arrival": "arrival space",
    "link": "device link",
    "perceptual": "how perceptual is made",
    "vivid": "source widened",
    "corrections": "corrections",
    "before": "colour table before",
    "after": "colour table after",
    "plates": "plates",
    "delivery": "delivery",
}


def moments_of(destination: Destination) -> list[dict[str, Any]]:
    """Every kept moment: its number, what changed into it, and whether it is the present one."""
    found = []
    before: dict[str, Any] | None = None
    for number, recipe in destination.moments.values_list("number", "recipe"):
        recipe = parse_recipe(recipe).model_dump(mode="json")
        label = "start" if number == 0 else "earlier changes"
        found.append(
            {
                "number": number,
                "label": label if before is None else described(before, recipe),
                "current": number == destination.position,
            }
        )
        before = recipe
    return found


def described(before: dict[str, Any], after: dict[str, Any]) -> str:
    """What differs between two recipes, in a few words."""
    changed = [key for key in after if after[key] != before.get(key)]
    words = [_words(key, before, after) for key in changed]
    return ", ".join(words) or "no change"


def _words(key: str, before: dict[str, Any], after: dict[str, Any]) -> str:
    value = after[key]
    if key == "intent":
        return INTENT_WORDS[value]
    if key == "bpc":
        return "BPC on" if value else "BPC off"
    if key == "ink_rules":
        return _ink_rules(before.get("ink_rules"), value)
    if key == "delivery":
        old = before.get("delivery", {})
        parts = [n.replace("_", " ") for n in value if value[n] != old.get(n)]
        return f"delivery: {', '.join(parts)}"
    return _NAMES.get(key, key)


def _ink_rules(before: dict[str, Any] | None, after: dict[str, Any] | None) -> str:
    if after is None:
        return "ink rules of the profile"
    if before is None:
        return f"own ink rules, TAC {after['tac']:g} %"
    parts = [f"TAC {after['tac']:g} %"] if after["tac"] != before["tac"] else []
    new, old = after.get("black") or {}, before.get("black") or {}
    if old and not new:
        parts.append("black of the profile")
    parts += [f"black {n} {_shown(v)}" for n, v in new.items() if v != old.get(n)]
    parts += [said for key, said in _OTHERS.items() if after[key] != before[key]]
    return ", ".join(parts)


_OTHERS = {"limits": "ink limits", "protect": "black protection", "name": "name of the ink rules"}


def _shown(value: Any) -> str:
    return f"{value:g}" if isinstance(value, int | float) else str(value)
