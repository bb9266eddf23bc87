"""Start, name, check and carry out deliveries."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.db import transaction
from django.utils import timezone

from plinto_core.arrays import Progress
from plinto_core.errors import CoreError
from plinto_core.icc.colorants import inks_of
from plinto_core.recipes import NO_LIMIT, Recipe, parse_recipe, run_recipe, tac_in_force
from plinto_core.recipes.checks import Circumstances, Finding, check_delivery
from plinto_core.recipes.corrected import corrected_recipe
from plinto_core.recipes.file_names import file_name
from plinto_core.recipes.output import result_size
from plinto_core.recipes.report import ConversionReport
from plinto_core.recipes.sources import HOUSE_DEFAULTS, settle_extra_channels
from plinto_core.recipes.ticket import PrintTicket, print_ticket
from plinto_server import access, store
from plinto_server.apps.conditions.services import facts_of
from plinto_server.apps.deliveries.models import Run
from plinto_server.apps.jobs.models import Destination, Job
from plinto_server.apps.jobs.services import check_runnable, picture_facts, source_of
from plinto_server.apps.profiles.models import StoredProfile
from plinto_server.apps.profiles.services import (
    load_profile,
    load_table,
    store_profile,
    usable_profile,
)
from plinto_server.apps.work.acts import enqueue
from plinto_server.apps.work.kinds import Described
from plinto_server.errors import Conflict

NO_PRESS = "Corrected artwork, for no press"
SUFFIXES = {"TIFF": "tif", "JPEG": "jpg", "PNG": "png", "PDF": "pdf"}


@transaction.atomic
def start_delivery(destination: Destination, recipe: dict[str, object] | None = None) -> Run:
    """Queue a delivery of the present recipe, or of a former one again.

    Raises Conflict while the house rules wait for an answer, and where the check before
    delivery finds what stops it.
    """
    checked = parse_recipe(recipe or destination.recipe)
    stops = [f for f in findings(destination, checked) if f.level == "stop"]
    if stops:
        raise Conflict(stops[0].text)
    return _queued(destination, checked)


@transaction.atomic
def start_corrected(destination: Destination, space: str | None = None) -> Run:
    """Queue the artwork with its corrections and for no press, in a space by reference, else in the
    space that it is corrected in; raises BadProfile, or Conflict while the house rules ask."""
    job = destination.job
    if job.question:
        raise Conflict("The house rules ask what the artwork's colours mean. Answer that first.")
    recipe = parse_recipe(destination.recipe)
    if space is None:
        own = check_runnable(job, recipe).route.space
        space = own.digest
        if not access.mine(job.owner, StoredProfile).filter(sha256=space).exists():
            store_profile(own.data, "embedded", holder=job.owner)
    else:
        usable_profile(job.owner, space, "destination")
    made = corrected_recipe(recipe, space)
    settle_extra_channels(picture_facts(job.artwork), made.extra_channels)
    check_runnable(job, made)
    return _queued(destination, made, corrected=True)


def again(run: Run) -> Run:
    """Queue a former delivery's recipe once more, for the job's present picture."""
    if not run.corrected:
        return start_delivery(run.destination, run.recipe)
    recipe = parse_recipe(run.recipe)
    check_runnable(run.destination.job, recipe)
    return _queued(run.destination, recipe, corrected=True)


def _queued(destination: Destination, recipe: Recipe, *, corrected: bool = False) -> Run:
    run = Run.objects.create(
        destination=destination,
        artwork=destination.job.artwork,
        recipe=recipe.model_dump(mode="json"),
        corrected=corrected,
        file_name=name_of(destination, recipe),
    )
    enqueue(run)
    return run


@transaction.atomic
def start_all(job: Job) -> list[Run]:
    """Queue a delivery for every destination of a job, or none where one cannot be delivered."""
    return [start_delivery(d) for d in job.destinations.select_related("condition__profile")]


def suffix_of(recipe: Recipe) -> str:
    """The ending of a delivered file; films in TIFF, and a TIFF for every ink, come as one ZIP."""
    several = recipe.delivery.films is not None or recipe.delivery.apart
    if several and recipe.delivery.format == "TIFF":
        return "zip"
    return SUFFIXES[recipe.delivery.format]


def name_of(destination: Destination, recipe: Recipe) -> str:
    """The name that the recipe's pattern gives the next delivery; raises BadRecipe."""
    artwork = destination.job.artwork
    facts = artwork.facts
    tac = tac_in_force(recipe, destination.condition.tac) or NO_LIMIT
    try:
        _, resolution = result_size(
            facts["width"], facts["height"], picture_facts(artwork).resolution, recipe.delivery
        )
    except CoreError:
        resolution = None
    values = {
        "artwork": artwork.file_name.rsplit(".", 1)[0],
        "job": destination.job.name,
        "condition": destination.condition.key,
        "intent": recipe.intent,
        "tac": f"{tac:g}",
        "bits": str(recipe.delivery.bits),
        "ppi": f"{resolution[0]:.0f}" if resolution else "",
        "date": timezone.localdate().isoformat(),
        "number": str(destination.runs.count() + 1),
    }
    return file_name(recipe.delivery.file_name, values, suffix_of(recipe))


def figures_of(destination: Destination, recipe: Recipe) -> dict[str, Any]:
    """What was measured of a picture under a recipe, {} where that is yet to come."""
    return destination.facts if recipe == parse_recipe(destination.recipe) else {}


def findings(destination: Destination, recipe: Recipe) -> list[Finding]:
    """The check before delivery of a destination under a recipe."""
    artwork = destination.job.artwork
    facts = artwork.facts
    try:
        origin = source_of(artwork, recipe).origin
    except CoreError:
        origin = "none"
    if not facts["profile"] and recipe.source in HOUSE_DEFAULTS.values():
        origin = "house default"
    measured = figures_of(destination, recipe)
    condition = facts_of(destination.condition)
    return check_delivery(
        recipe,
        Circumstances(
            size=(facts["width"], facts["height"]),
            resolution=picture_facts(artwork).resolution,
            source_origin=origin,
            channels=len(condition.inks),
            inks=inks_of(load_profile(condition.profile)),
            tac_max=measured.get("tac_max"),
            tac_rule=condition.tac,
            out_of_gamut=measured.get("intent", {}).get("out_of_gamut"),
            far=tuple(
                f["family"] for f in measured.get("intent", {}).get("families", ()) if f.get("far")
            ),
            mirrored_medium=condition.mirror,
            transparency=facts["transparency"],
            pages=facts["pages"],
            question=destination.job.question,
            process=condition.process,
            extra_channels=tuple(facts.get("extra_channels", ())),
            numbers_kept=_numbers_kept(destination, recipe),
        ),
    )


def _numbers_kept(destination: Destination, recipe: Recipe) -> bool:
    try:
        return check_runnable(destination.job, recipe).route.keeps_numbers
    except CoreError:
        return False


def ticket_of(run: Run) -> PrintTicket:
    """The print ticket of a delivery, with its figures where it has ended well."""
    recipe = parse_recipe(run.recipe)
    return print_ticket(
        recipe,
        load_profile(recipe.destination),
        job=run.destination.job.name,
        condition=NO_PRESS if run.corrected else run.destination.condition.name,
        file_name=run.file_name,
        report=ConversionReport.model_validate(run.report) if run.report else None,
        tac=None if run.corrected else run.destination.condition.tac,
    )


def deliver(run: Run, target: Path, progress: Progress) -> ConversionReport:
    """What a worker does for a delivery."""
    artwork = run.artwork or run.destination.job.artwork
    source = store.path_of(artwork.sha256)
    return run_recipe(
        parse_recipe(run.recipe), source, target, load_profile,
        find_table=load_table, progress=progress,
    )  # fmt: skip


def described(run: Run) -> Described:
    """A delivery as the queue shows it."""
    destination = run.destination
    return Described(
        destination.job.name,
        NO_PRESS if run.corrected else f"Delivery for {destination.condition.name}",
        f"/jobs/{destination.job_id}/{destination.pk}/deliver",
        run.file_name,
        run.recipe,
    )
