"""The corrected artwork as a picture of its own, to be worked on elsewhere and brought back."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from plinto_core.arrays import Progress
from plinto_core.icc.profile import Profile
from plinto_core.imaging.reader import open_picture
from plinto_core.recipes.recipe import Delivery, Recipe, parse_recipe
from plinto_core.recipes.report import ConversionReport
from plinto_core.recipes.run import run_recipe
from plinto_core.recipes.runnable import prepare
from plinto_core.recipes.sources import FindTable, Resolve, no_tables

NAME = "{artwork}_corrected"
BROUGHT_BACK: dict[str, Any] = {"vivid": None, "before": None, "negative": False}
"""What a picture that was delivered with its corrections has in it already."""


def corrected_recipe(recipe: Recipe, space: str) -> Recipe:
    """The recipe that writes the artwork with its corrections and without any press.

    space : the profile, by reference, that the picture is written in. In the artwork's own space its
    numbers stay where nothing corrects them. At its own size, in 16 bits, unturned, the profile in it.
    """
    # Black is of the plates; what else such a correction does stays.
    corrections = [c.model_dump(mode="json") | {"black": None} for c in recipe.corrections]
    return parse_recipe(
        recipe.model_dump(mode="json")
        | {
            "destination": space,
            "numbers": "keep",
            "link": None,
            "intent": "relative",
            "bpc": True,
            "corrections": corrections,
            "ink_rules": None,
            "plates": {},
            "after": None,
            "delivery": Delivery(file_name=NAME).model_dump(mode="json"),
        }
    )


def run_corrected(
    recipe: Recipe, source: Path, target: Path, resolve: Resolve, *, space: str | None = None,
    find_table: FindTable = no_tables, progress: Progress = lambda share: None,
) -> ConversionReport:  # fmt: skip
    """Write the corrected artwork of a picture; `space` by reference, None for the space in which it
    is corrected. Raises as `run_recipe` does."""
    own: dict[str, Profile] = {}
    if space is None:
        with open_picture(source, page=recipe.page) as picture:
            route = prepare(recipe, picture.facts, resolve, find_table).route
        space = route.space.digest
        own[space] = route.space

    def find(reference: str) -> Profile:
        return own[reference] if reference in own else resolve(reference)

    made = corrected_recipe(recipe, space)
    return run_recipe(made, source, target, find, find_table=find_table, progress=progress)


def brought_back(recipe: Recipe) -> dict[str, Any]:
    """The parts of a recipe to change where the picture has its corrections in it already: they stay
    in the recipe, and are turned off."""
    off = [c.model_dump(mode="json") | {"on": False} for c in recipe.corrections]
    return {**BROUGHT_BACK, "corrections": off}
