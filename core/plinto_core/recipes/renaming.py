"""Recipes, ink rules and builds of a press some of whose inks are called otherwise now."""

from __future__ import annotations

from typing import Any

from plinto_core.icc.colorants import inks_of
from plinto_core.icc.profile import Profile

Renamed = dict[str, str]
"""New names by the former ones."""


def inks_renamed(former: Profile, new: Profile) -> Renamed:
    """Inks that a profile calls otherwise than the one before, channel by channel; a name that both know
    is not taken from its ink."""
    old, now = inks_of(former), inks_of(new)
    if len(old) != len(now):
        return {}
    return {a: b for a, b in zip(old, now, strict=True) if a not in now and b not in old}


def renamed_keys(values: dict[str, Any], renamed: Renamed) -> dict[str, Any]:
    """A mapping by inks under their new names."""
    return {renamed.get(name, name): value for name, value in values.items()}


def renamed_rules(rules: dict[str, Any], renamed: Renamed) -> dict[str, Any]:
    """Ink rules as data, their limits under the inks' new names."""
    return {**rules, "limits": renamed_keys(rules.get("limits", {}), renamed)}


def renamed_recipe(recipe: dict[str, Any], renamed: Renamed) -> dict[str, Any]:
    """What a recipe as data must have changed: its limits, plates and film angles."""
    changes: dict[str, Any] = {}
    if recipe.get("ink_rules"):
        changes["ink_rules"] = renamed_rules(recipe["ink_rules"], renamed)
    if recipe.get("plates"):
        changes["plates"] = renamed_keys(recipe["plates"], renamed)
    films = (recipe.get("delivery") or {}).get("films")
    if films and films.get("angles"):
        own = {**films, "angles": renamed_keys(films["angles"], renamed)}
        changes["delivery"] = {**recipe["delivery"], "films": own}
    return {k: v for k, v in changes.items() if v != recipe[k]}
