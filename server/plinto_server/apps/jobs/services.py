"""Changes to jobs and recipes: each function is one change, checked and recorded."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from plinto_core.imaging.facts import PictureFacts
from plinto_core.recipes import Recipe, parse_recipe
from plinto_core.recipes.sources import SourceChoice, choose_source
from plinto_server import store
from plinto_server.apps.artwork.models import Artwork
from plinto_server.apps.conditions.models import PrintingCondition
from plinto_server.apps.jobs.models import Destination, Job
from plinto_server.apps.profiles.services import load_profile
from plinto_server.errors import Conflict

DEPTH = 250
"""Recipes kept for undo."""


def first_recipe(artwork: Artwork, condition: PrintingCondition) -> dict[str, Any]:
    """The recipe a destination starts with: the condition's own ink rules, perceptual, BPC."""
    recipe = Recipe(
        source=needed_source(artwork),
        destination=condition.profile.sha256,
    )
    return recipe.model_dump(mode="json")


def needed_source(artwork: Artwork) -> str | None:
    """A stand-in where the picture itself cannot say what its numbers mean, else None."""
    facts = artwork.facts
    if facts["profile_problem"] and facts["space"] != "CMYK":
        return "srgb" if facts["space"] == "RGB" else "grey"
    if facts["space"] == "CMYK" and not facts["profile"]:
        first = PrintingCondition.objects.select_related("profile").first()
        return first.profile.sha256 if first else None
    return None


@transaction.atomic
def create_job(
    owner: AbstractBaseUser, artwork: Artwork, conditions: list[PrintingCondition]
) -> Job:
    """A job for an artwork, with a destination for every condition."""
    job = Job.objects.create(owner=owner, artwork=artwork, name=artwork.name)
    for condition in conditions:
        add_destination(job, condition)
    return job


def add_destination(job: Job, condition: PrintingCondition) -> Destination:
    """One more condition for a job; raises Conflict where it has it already."""
    if job.destinations.filter(condition=condition).exists():
        raise Conflict(f"The job already goes to {condition.name}.")
    return Destination.objects.create(
        job=job, condition=condition, history=[first_recipe(job.artwork, condition)]
    )


def change_recipe(destination: Destination, changes: dict[str, Any]) -> Destination:
    """Lay changes over the recipe, check the whole, and make it the present one."""
    changed = merged(destination, changes)
    new = changed.model_dump(mode="json")
    if new != destination.recipe:
        kept = destination.history[: destination.position + 1][-(DEPTH - 1) :]
        destination.history = [*kept, new]
        destination.position = len(destination.history) - 1
        destination.facts = {}
        destination.save()
    return destination


def merged(destination: Destination, changes: dict[str, Any]) -> Recipe:
    """The present recipe with changes laid over it; raises BadRecipe. Nothing is stored."""
    recipe = destination.recipe
    allowed = {"source", "intent", "bpc", "ink_rules", "delivery"}
    for key, value in changes.items():
        if key == "delivery" and isinstance(value, dict):
            recipe["delivery"] = {**recipe["delivery"], **value}
        elif key in allowed:
            recipe[key] = value
    checked = parse_recipe(recipe)
    source_of(destination.job.artwork, checked)
    return checked


def step_history(destination: Destination, by: int) -> Destination:
    """Undo (-1) or redo (+1); raises Conflict at either end."""
    position = destination.position + by
    if not 0 <= position < len(destination.history):
        raise Conflict("There is nothing to undo." if by < 0 else "There is nothing to redo.")
    destination.position = position
    destination.facts = {}
    destination.save()
    return destination


def source_of(artwork: Artwork, recipe: Recipe) -> SourceChoice:
    """The source profile of an artwork under a recipe; raises BadProfile or BadRecipe."""
    return choose_source(picture_facts(artwork), recipe.source, load_profile)


def picture_facts(artwork: Artwork) -> PictureFacts:
    """The core's facts of an artwork, its embedded profile taken from the store."""
    facts = artwork.facts
    sha = facts["profile_sha256"]
    return PictureFacts(
        format=facts["format"],
        width=facts["width"],
        height=facts["height"],
        channels=facts["channels"],
        bits=facts["bits"],
        profile=store.path_of(sha).read_bytes() if sha else None,
        declared_srgb=facts.get("declared_srgb", False),
    )
