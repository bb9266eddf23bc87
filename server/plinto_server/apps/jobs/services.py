"""Changes to jobs and recipes: each function is one change, checked and recorded."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from plinto_core.imaging.facts import PictureFacts
from plinto_core.recipes import Recipe, parse_recipe
from plinto_core.recipes.house_rules import HouseRules, decide_source
from plinto_core.recipes.retarget import Note, retarget
from plinto_core.recipes.sources import HOUSE_DEFAULTS, SourceChoice, choose_source
from plinto_server import store
from plinto_server.apps.artwork.models import Artwork
from plinto_server.apps.conditions.models import PrintingCondition
from plinto_server.apps.conditions.services import facts_of
from plinto_server.apps.house.services import rules_in_force
from plinto_server.apps.jobs.models import Destination, Job
from plinto_server.apps.profiles.services import load_profile
from plinto_server.errors import Conflict

DEPTH = 250
"""Recipes kept for undo."""
MOST_POINTS = 20
_FIXED = {"version", "page", "destination"}
"""What a change of the recipe cannot touch: the artwork and the condition decide it."""


def first_recipe(
    artwork: Artwork, condition: PrintingCondition, rules: HouseRules
) -> tuple[dict[str, Any], str]:
    """The recipe a destination starts with by the house rules, and what they ask about it."""
    decision = decide_source(picture_facts(artwork), rules, load_profile)
    # The standard stand-ins need no naming: a recipe without a source says so already.
    own = None if decision.source in HOUSE_DEFAULTS.values() else decision.source
    source = own or needed_source(artwork)
    recipe = Recipe.model_validate(
        {
            "page": artwork.page,
            "source": source,
            "working": decision.working,
            "destination": condition.profile.sha256,
            "intent": rules.intent,
            "bpc": rules.bpc,
            "delivery": {"mirror": condition.mirror, "ticket": condition.ticket},
        }
    )
    return recipe.model_dump(mode="json"), decision.question


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
    """A job for an artwork, with a destination for every condition, by the house rules."""
    job = Job.objects.create(owner=owner, artwork=artwork, name=artwork.name)
    for condition in conditions:
        add_destination(job, condition)
    return job


def add_destination(job: Job, condition: PrintingCondition) -> Destination:
    """One more condition for a job; raises Conflict where it has it already."""
    _not_there(job, condition)
    recipe, question = first_recipe(job.artwork, condition, rules_in_force(job.owner))
    first = job.destinations.order_by("pk").first()
    if first is not None:
        # What the colours of the artwork mean has been settled in this job already.
        recipe = {**recipe, "source": first.recipe["source"], "working": first.recipe["working"]}
    elif question:
        job.question = question
        job.save(update_fields=["question"])
    return Destination.objects.create(job=job, condition=condition, history=[recipe])


def _not_there(job: Job, condition: PrintingCondition) -> None:
    if job.destinations.filter(condition=condition).exists():
        raise Conflict(f"The job already goes to {condition.name}.")


@transaction.atomic
def retarget_destination(destination: Destination, condition: PrintingCondition) -> Destination:
    """The same recipe for another condition; what happened to its parts is kept as notes."""
    _not_there(destination.job, condition)
    recipe, notes = retarget(
        parse_recipe(destination.recipe), facts_of(destination.condition), facts_of(condition)
    )
    return Destination.objects.create(
        job=destination.job,
        condition=condition,
        history=[recipe.model_dump(mode="json")],
        notes=[asdict(n) for n in _from(destination, notes)],
    )


def _from(destination: Destination, notes: list[Note]) -> list[Note]:
    return [*notes, Note("kept", f"Taken from {destination.condition.name}.")]


def dismiss_notes(destination: Destination) -> Destination:
    """The notes of re-targeting have been read."""
    destination.notes = []
    destination.save(update_fields=["notes"])
    return destination


@transaction.atomic
def answer_question(job: Job, answer: str, profile: str | None) -> Job:
    """Answer what the house rules asked: "keep", "convert" or "assign"; for every destination."""
    if not job.question:
        raise Conflict("Nothing is asked about this artwork.")
    rules = rules_in_force(job.owner)
    default = rules.default_for(picture_facts(job.artwork).space)
    changes: dict[str, Any] = {"source": None, "working": None}
    if answer == "convert":
        changes["working"] = default
    elif answer == "assign":
        changes["source"] = profile or default
    for destination in job.destinations.all():
        change_recipe(destination, changes)
    job.question = ""
    job.save(update_fields=["question"])
    return job


def set_points(job: Job, points: list[dict[str, Any]]) -> Job:
    """Replace the job's sample points; raises Conflict for more than there may be."""
    if len(points) > MOST_POINTS:
        raise Conflict(f"A job has at most {MOST_POINTS} sample points.")
    facts = job.artwork.facts
    for point in points:
        point["x"] = min(max(int(point["x"]), 0), facts["width"] - 1)
        point["y"] = min(max(int(point["y"]), 0), facts["height"] - 1)
    job.points = points
    job.save(update_fields=["points"])
    return job


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


def merged(
    destination: Destination, changes: dict[str, Any], base: dict[str, Any] | None = None
) -> Recipe:
    """The present recipe (or `base`) with changes laid over it; raises BadRecipe."""
    recipe = dict(base or destination.recipe)
    for key, value in changes.items():
        if key == "delivery" and isinstance(value, dict):
            recipe["delivery"] = {**recipe["delivery"], **value}
        elif key in Recipe.model_fields and key not in _FIXED:
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
    resolution = facts["resolution"]
    return PictureFacts(
        format=facts["format"],
        width=facts["width"],
        height=facts["height"],
        channels=facts["channels"],
        bits=facts["bits"],
        profile=store.path_of(sha).read_bytes() if sha else None,
        resolution=(resolution[0], resolution[1]) if resolution else None,
        pages=facts["pages"],
        declared_srgb=facts.get("declared_srgb", False),
    )
