"""Another picture under the same job: brought back from work elsewhere, or a former one again."""

from __future__ import annotations

from typing import Any

from django.db import transaction

from plinto_core.recipes import parse_recipe
from plinto_core.recipes.corrected import brought_back
from plinto_core.recipes.sources import settle_extra_channels
from plinto_server.apps.artwork.models import Artwork
from plinto_server.apps.house.services import rules_in_force
from plinto_server.apps.jobs.models import Destination, FormerArtwork, Job
from plinto_server.apps.jobs.services import (
    check_runnable,
    first_recipe,
    fresh_destination,
    make_moment,
    picture_facts,
)
from plinto_server.errors import Conflict

OF_THE_PICTURE = ("page", "source", "arrival", "negative", "before", "vivid", "corrections")
"""Parts of a recipe that belong to the picture, and come back with it."""


@transaction.atomic
def replace_artwork(job: Job, artwork: Artwork, *, corrections_in_it: bool) -> Job:
    """Put another picture under a job; its points, regions and recipes stay.

    corrections_in_it : the picture was delivered with the job's corrections, so they are turned off.
    A picture that the job had before comes back with what its recipes said of it. The former picture
    is kept. Raises Conflict for a picture of another shape, in which points and regions would lie
    elsewhere, and what a run of the recipes would stumble on.
    """
    job = Job.objects.select_related("artwork", "owner").select_for_update().get(pk=job.pk)
    if artwork.pk == job.artwork_id:
        raise Conflict("The job has this picture already.")
    _same_shape(job.artwork, artwork)
    destinations = [fresh_destination(d.pk) for d in job.destinations.all()]
    kept = {
        str(d.pk): {k: d.recipe[k] for k in OF_THE_PICTURE if k in d.recipe} for d in destinations
    }
    FormerArtwork.objects.update_or_create(job=job, artwork=job.artwork, defaults={"settled": kept})
    before = FormerArtwork.objects.filter(job=job, artwork=artwork).first()
    old, job.artwork = job.artwork, artwork
    job.points = _moved_points(job.points, old, artwork)
    job.question = ""
    for destination in destinations:
        destination.job = job
        known = before.settled.get(str(destination.pk)) if before else None
        _take(destination, known, artwork, corrections_in_it=corrections_in_it)
    job.save(update_fields=["artwork", "points", "question"])
    return job


def _same_shape(old: Artwork, new: Artwork) -> None:
    (w, h), (wide, high) = ((a.facts["width"], a.facts["height"]) for a in (old, new))
    # Sides of resampled pictures are rounded to whole pixels, so the products may miss by a side.
    if abs(wide * h - w * high) > max(w, h, wide, high):
        raise Conflict(
            f"The picture has {wide} × {high} pixels and the job's {w} × {h}: another shape, in which"
            " points and regions would lie elsewhere. Make a job of its own of it."
        )


def _moved_points(points: list[dict[str, Any]], old: Artwork, new: Artwork) -> list[Any]:
    x, y = (new.facts[k] / old.facts[k] for k in ("width", "height"))
    return [
        {**p, "x": min(int((p["x"] + 0.5) * x), new.facts["width"] - 1),
         "y": min(int((p["y"] + 0.5) * y), new.facts["height"] - 1)}
        for p in points
    ]  # fmt: skip


def _take(
    destination: Destination, known: dict[str, Any] | None, artwork: Artwork, *,
    corrections_in_it: bool,
) -> None:  # fmt: skip
    """Lay over a recipe what the new picture says, as a moment that can be undone."""
    job = destination.job
    changes: dict[str, Any]
    if known is not None:
        changes = known
    else:
        start, question = first_recipe(artwork, destination.condition, rules_in_force(job.owner))
        changes = {k: start[k] for k in ("page", "source", "arrival")}
        job.question = question or job.question
        if corrections_in_it:
            changes |= brought_back(parse_recipe(destination.recipe))
    recipe = parse_recipe({**destination.recipe, **changes})
    settle_extra_channels(picture_facts(artwork), recipe.extra_channels)
    check_runnable(job, recipe)
    # What was measured was measured on the former picture.
    Destination.objects.filter(pk=destination.pk).update(facts={})
    destination.facts = {}
    make_moment(destination, recipe.model_dump(mode="json"), changes)
