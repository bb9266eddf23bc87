"""The same recipe for another condition: what is kept, what adapted, what wants attention."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any, Literal

from plinto_core.imaging.films import FilmRules
from plinto_core.inks.rules import InkRules
from plinto_core.inks.separation import PRESENT
from plinto_core.recipes.recipe import Recipe
from plinto_core.words import Said, say


@dataclass(frozen=True)
class ConditionFacts:
    """What re-targeting must know of a condition.

    inks : channel names of its profile; process : "offset", "flexo", "screen", "transfer",
    "inkjet"; ticket : its media, passes and drying.
    """

    name: str
    profile: str
    inks: tuple[str, ...]
    tac: float
    process: str = "offset"
    mirror: bool = False
    ticket: dict[str, Any] = field(default_factory=dict)


@dataclass(frozen=True)
class Note:
    """way : "kept", "adapted" or "attention"."""

    way: Literal["kept", "adapted", "attention"]
    text: Said


def retarget(recipe: Recipe, old: ConditionFacts, new: ConditionFacts) -> tuple[Recipe, list[Note]]:
    """The recipe for another condition and what happened to its parts."""
    notes: list[Note] = []
    changes: dict[str, Any] = {"destination": new.profile, "version": PRESENT}
    notes.append(Note("kept", say("recipes.kept-source")))
    _ink_rules(recipe, old, new, changes, notes)
    _regions(recipe, new, changes, notes)
    _plates(recipe, old, new, changes, notes)
    _delivery(recipe, old, new, changes, notes)
    if recipe.link is not None:
        changes["link"] = None
        text = say("recipes.link-left-out")
        notes.append(Note("attention", text))
    if recipe.after is not None and len(new.inks) != 3:
        changes["after"] = None
        notes.append(
            Note(
                "attention",
                say("recipes.table-left-out"),
            )
        )
    order = {"attention": 0, "adapted": 1, "kept": 2}
    # Built anew, so that the whole is checked and not only its parts.
    adapted = Recipe.model_validate({**recipe.model_dump(mode="json"), **_plain(changes)})
    return adapted, sorted(notes, key=lambda n: order[n.way])


def _plain(changes: dict[str, Any]) -> dict[str, Any]:
    return {
        key: value.model_dump(mode="json") if hasattr(value, "model_dump") else value
        for key, value in changes.items()
    }


_NO_INKS = (("R", "G", "B"), ("Grey",))
"""Channels of devices that take no inks."""


def _ink_rules(
    recipe: Recipe,
    old: ConditionFacts,
    new: ConditionFacts,
    changes: dict[str, Any],
    notes: list[Note],
) -> None:
    rules = recipe.ink_rules
    if rules is None:
        return
    if new.inks in _NO_INKS:
        changes["ink_rules"] = None
        notes.append(Note("attention", say("recipes.rules-left-out", condition=new.name)))
        return
    gone = [n for n in rules.limits if n not in new.inks]
    if gone:
        kept = {n: v for n, v in rules.limits.items() if n in new.inks}
        rules = rules.model_copy(update={"limits": kept})
        changes["ink_rules"] = rules
        notes.append(
            Note(
                "attention",
                say("recipes.limits-left-out", condition=new.name, inks=list(gone)),
            )
        )
    share = rules.tac / old.tac if old.tac else 1.0
    tac = min(new.tac, round(new.tac * min(1.0, share)))
    if tac != rules.tac:
        changes["ink_rules"] = InkRules.model_validate({**rules.model_dump(), "tac": tac})
        notes.append(
            Note(
                "adapted",
                say(
                    "recipes.tac-adapted",
                    before=rules.tac,
                    after=tac,
                    condition=new.name,
                    borne=new.tac,
                ),
            )
        )
    notes.append(Note("kept", say("recipes.kept-black")))
    if rules.limits:
        notes.append(
            Note(
                "attention",
                say("recipes.limits-to-check", limits=_list(rules.limits), condition=old.name),
            )
        )


def _regions(
    recipe: Recipe, new: ConditionFacts, changes: dict[str, Any], notes: list[Note]
) -> None:
    black = [c for c in recipe.corrections if c.black is not None]
    if not black:
        return
    if "K" not in new.inks or changes.get("ink_rules", recipe.ink_rules) is None:
        kept = [
            c.model_dump(mode="json") | ({"black": None} if c.black else {})
            for c in recipe.corrections
        ]
        changes["corrections"] = kept
        notes.append(
            Note(
                "attention",
                say("recipes.region-black-left-out"),
            )
        )
        return
    names = ", ".join(c.name or "a region" for c in black)
    notes.append(Note("attention", say("recipes.region-black-anew", names=names)))


def _plates(
    recipe: Recipe,
    old: ConditionFacts,
    new: ConditionFacts,
    changes: dict[str, Any],
    notes: list[Note],
) -> None:
    if not recipe.plates:
        return
    fitting = {n: p for n, p in recipe.plates.items() if n in new.inks}
    gone = [n for n in recipe.plates if n not in fitting]
    if gone:
        changes["plates"] = {n: p.model_dump(mode="json") for n, p in fitting.items()}
        notes.append(
            Note(
                "attention",
                say("recipes.plates-left-out", condition=new.name, plates=list(gone)),
            )
        )
    curves = [n for n, p in fitting.items() if p.curve]
    dots = [n for n, p in fitting.items() if p.minimum]
    if curves:
        notes.append(
            Note(
                "attention",
                say("recipes.curves-to-check", plates=list(curves), condition=old.name),
            )
        )
    if dots:
        way: Literal["kept", "attention"] = "kept" if old.process == new.process else "attention"
        wording = "recipes.dots-kept" if way == "kept" else "recipes.dots-to-check"
        notes.append(Note(way, say(wording, plates=dots, before=old.process, now=new.process)))


def _delivery(
    recipe: Recipe,
    old: ConditionFacts,
    new: ConditionFacts,
    changes: dict[str, Any],
    notes: list[Note],
) -> None:
    delivery = recipe.delivery.model_dump(mode="json")
    if delivery["mirror"] != new.mirror and old.mirror != new.mirror:
        delivery["mirror"] = new.mirror
        notes.append(
            Note(
                "adapted",
                say(
                    "recipes.mirrored-now" if new.mirror else "recipes.no-longer-mirrored",
                    condition=new.name,
                ),
            )
        )
    if recipe.delivery.apart and new.inks in _NO_INKS:
        delivery["apart"] = False
        notes.append(Note("adapted", say("recipes.one-file", condition=new.name)))
    if recipe.delivery.films is not None:
        if new.process in ("screen", "flexo") and new.inks not in _NO_INKS:
            notes.append(
                Note(
                    "attention",
                    say("recipes.films-to-check", condition=old.name),
                )
            )
        else:
            delivery["films"] = None
            notes.append(Note("adapted", say("recipes.films-left-out", condition=new.name)))
    elif new.process == "screen" and old.process != "screen" and new.inks not in _NO_INKS:
        notes.append(
            Note(
                "attention",
                say("recipes.films-wanted", condition=new.name, ruling=FilmRules().ruling),
            )
        )
    if new.ticket and delivery["ticket"] != {**delivery["ticket"], **new.ticket}:
        delivery["ticket"] = {**delivery["ticket"], **new.ticket}
        notes.append(Note("adapted", say("recipes.ticket-taken", condition=new.name)))
    if delivery != recipe.delivery.model_dump(mode="json"):
        changes["delivery"] = delivery


def _list(limits: dict[str, float]) -> str:
    return ", ".join(f"{n} {v:.0f} %" for n, v in limits.items())
