"""Changes to printers, media and their queue; each function is one change."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import Exists, Q

from plinto_core.document import OutputPolicy, parse_policy
from plinto_core.fields import checked
from plinto_core.printing import (
    ColourDuty,
    Judgement,
    MediumSettings,
    SentColours,
    judge_route,
    refusal,
)
from plinto_core.recipes import parse_recipe
from plinto_server import store
from plinto_server.apps.conditions.models import PrintingCondition
from plinto_server.apps.deliveries.models import Run
from plinto_server.apps.policies.models import Document, Policy, PolicyRun
from plinto_server.apps.policies.services import examine
from plinto_server.apps.printers.models import Medium, Printer, PrintJob
from plinto_server.apps.profiles.services import load_profile
from plinto_server.apps.work.acts import has_task, put_task
from plinto_server.errors import Conflict
from plinto_server.removal import Use, remove
from plinto_server.revisions import merged, settle


def medium_from(medium: Medium, given: Mapping[str, Any]) -> Medium:
    """A medium with checked fields laid over it, not kept yet; raises BadRecipe."""
    for name in ("name", "condition", "policy"):
        if name in given:
            setattr(medium, name, given[name])
    duty = _laid_over(medium.duty, given.get("duty", {}))
    medium.duty = checked(ColourDuty, duty, "printing.duties-not-usable").model_dump()
    settings = _laid_over(medium.settings, given.get("settings", {}))
    medium.settings = checked(MediumSettings, settings, "printing.settings-not-usable").model_dump()
    return medium


def _laid_over(base: Mapping[str, Any], given: Any) -> Any:
    """Fields laid over others; what are no fields is returned as it is, to be refused."""
    return merged(base, given) if isinstance(given, Mapping) else given


def facts_of_medium(medium: Medium) -> dict[str, Any]:
    """What can be changed of a medium, as data."""
    return {
        "name": medium.name,
        "condition": medium.condition_id,
        "policy": medium.policy_id,
        "duty": ColourDuty.model_validate(medium.duty).model_dump(),
        "settings": MediumSettings.model_validate(medium.settings).model_dump(),
    }


@transaction.atomic
def change_medium(
    medium: Medium, given: Mapping[str, Any], patch: dict[str, Any], match: int | None
) -> Medium:
    """Lay a patch (`given` : its checked form) over a medium; raises Stale where it collides.

    One that the guard refuses is kept too, but nothing is sent to it; jobs in the queue keep what
    they came with.
    """
    before = facts_of_medium(medium)
    settle(medium, before, patch, match)
    medium_from(medium, given)
    if medium.stamp(before, facts_of_medium(medium), patch):
        medium.save()
    return medium


@transaction.atomic
def change_printer(printer: Printer, given: Mapping[str, Any], match: int | None) -> Printer:
    """Rename a printer, pause it or let it go on; raises Stale where it collides."""
    before = {n: getattr(printer, n) for n in ("name", "place", "paused")}
    settle(printer, before, given, match)
    after = {**before, **given}
    if printer.stamp(before, after):
        for name, value in after.items():
            setattr(printer, name, value)
        printer.save()
    if before["paused"] != after["paused"]:
        dispatch(printer)
    return printer


def remove_printer(printer: Printer) -> None:
    """Take a printer out of the list; refused while something is in its queue."""
    if printer.jobs.filter(state__in=["waiting", "held", "running"]).exists():
        raise Conflict("Something is in the printer's queue. Cancel it or let it end first.")
    remove(printer)


def uses_of_policy(policy: Policy, user: Any) -> list[Use]:
    """The media that work by a policy."""
    rows = Medium.objects.filter(policy=policy, removed=None, printer__removed=None)
    return [
        Use("medium", f"{m.printer.name}, {m.name}", "/printers")
        for m in rows.select_related("printer")
    ]


def uses_of_printer(printer: Printer, user: Any) -> list[Use]:
    """The media of a printer, which leave the list with it."""
    rows = printer.media.filter(removed=None)
    return [Use("medium", f"{printer.name}, {m.name}", "/printers") for m in rows]


def uses_of_condition(condition: PrintingCondition, user: Any) -> list[Use]:
    """The media that print a condition."""
    rows = Medium.objects.filter(condition=condition, removed=None, printer__removed=None)
    rows = rows.filter(printer__owner=user).select_related("printer")
    return [Use("medium", f"{m.printer.name}, {m.name}", "/printers") for m in rows]


def judged(medium: Medium, policy: OutputPolicy | None = None) -> list[Judgement]:
    """The guard's view of a medium with its policy, or another one."""
    if policy is None and medium.policy is not None:
        policy = parse_policy(medium.policy.present)
    return judge_route(
        ColourDuty.model_validate(medium.duty),
        sent_by(policy, medium),
        MediumSettings.model_validate(medium.settings),
        in_file=policy is not None and policy.mirror,
        transfer=medium.condition.mirror,
    )


def sent_by(policy: OutputPolicy | None, medium: Medium) -> SentColours:
    """What a policy does to files for a medium, as the guard needs to know it."""
    prints = medium.condition.profile.sha256
    own = medium.condition.profile.colour_space == "RGB"
    if policy is None:
        return SentColours(False, prints, prints, True, ("RGB",))
    converting = [r for r in policy.rules if r.changes]
    foreign = []
    # What stays CMYK is no printer's that takes RGB; of one that prints with inks it may be its own.
    for space in ("RGB", "Lab", *(["CMYK"] if own else [])):
        kinds = ("images", "line art", "vectors", "text", "shadings")
        if any(policy.rule_for(objects, space)[1].passes for objects in kinds):
            foreign.append(space)
    return SentColours(
        converts=any(r.space != "grey" for r in converting),
        made_for=policy.destination,
        prints=prints,
        profile_in=policy.profile_in,
        foreign=tuple(foreign),
    )


@transaction.atomic
def send_document(
    owner: User, document: Document, medium: Medium, *, copies: int = 1,
    priority: int = 0, held: bool = False, policy: OutputPolicy | None = None,
) -> PrintJob:  # fmt: skip
    """Put a document or picture into a printer's queue, through the medium's policy or another one.

    Raises Conflict with the guard's reason and remedy where colour would be managed twice or never.
    """
    if policy is None and medium.policy is not None:
        policy = parse_policy(medium.policy.present)
    _refuse(judged(medium, policy))
    return _queue(
        PrintJob(
            owner=owner,
            file_name=document.file_name,
            sha256=document.sha256,
            kind=document.kind,
            policy=policy.model_dump(mode="json") if policy else None,
            copies=copies,
            priority=priority,
            state=PrintJob.HELD if held else PrintJob.WAITING,
        ),
        medium,
    )


@transaction.atomic
def send_delivery(
    owner: User, run: Run, medium: Medium, *, copies: int = 1, priority: int = 0,
    held: bool = False,
) -> PrintJob:  # fmt: skip
    """Put a finished delivery into a printer's queue; its colours are made already."""
    if run.state != run.DONE or not run.result_sha256:
        raise Conflict("The delivery is not finished.")
    recipe = parse_recipe(run.recipe)
    if recipe.delivery.films is not None:
        raise Conflict("Films are exposed, not printed.")
    if recipe.delivery.apart:
        raise Conflict("The delivery has a file for every ink; print one that holds them all.")
    sent = SentColours(
        converts=True,
        made_for=recipe.destination,
        prints=medium.condition.profile.sha256,
        profile_in=recipe.delivery.embed,
    )
    found = judge_route(
        ColourDuty.model_validate(medium.duty),
        sent,
        MediumSettings.model_validate(medium.settings),
        in_file=recipe.delivery.mirror,
        transfer=medium.condition.mirror,
    )
    _refuse(found)
    kind, _ = examine(store.path_of(run.result_sha256))
    return _queue(
        PrintJob(
            owner=owner,
            file_name=run.file_name,
            sha256=run.result_sha256,
            kind=kind,
            recipe=run.recipe,
            copies=copies,
            priority=priority,
            state=PrintJob.HELD if held else PrintJob.WAITING,
        ),
        medium,
    )


@transaction.atomic
def send_result(
    owner: User, run: PolicyRun, medium: Medium, *, copies: int = 1, priority: int = 0,
    held: bool = False,
) -> PrintJob:  # fmt: skip
    """Put what a policy made of a document into a printer's queue, as it is."""
    if run.dry or run.state != run.DONE or not run.result_sha256:
        raise Conflict("The policy has made no file. Run it for real first.")
    policy = parse_policy(run.policy)
    sent = sent_by(policy, medium)
    if policy.own_intent and run.report["destination"] != _destination(policy):
        # The document's own output intent was the destination: it counts by its name.
        same = run.report["destination"] == medium.condition.profile.description
        sent = replace(sent, made_for=sent.prints if same else "")
    _refuse(
        judge_route(
            ColourDuty.model_validate(medium.duty),
            sent,
            MediumSettings.model_validate(medium.settings),
            in_file=policy.mirror,
            transfer=medium.condition.mirror,
        )
    )
    return _queue(
        PrintJob(
            owner=owner,
            file_name=run.file_name,
            sha256=run.result_sha256,
            kind=run.document.kind,
            copies=copies,
            priority=priority,
            state=PrintJob.HELD if held else PrintJob.WAITING,
        ),
        medium,
    )


def _destination(policy: OutputPolicy) -> str:
    return load_profile(policy.destination).description


def _refuse(found: list[Judgement]) -> None:
    refused = refusal(found)
    if refused is not None:
        raise Conflict(f"{refused.reason} {refused.remedy}".strip())


def _queue(job: PrintJob, medium: Medium) -> PrintJob:
    job.printer, job.medium, job.medium_name = medium.printer, medium, medium.name
    job.condition, job.duty, job.settings = medium.condition, medium.duty, medium.settings
    job.save()
    dispatch(job.printer)
    return job


def dispatch(printer: Printer) -> None:
    """Hand the next job of a free printer to the workers: urgent ones first, then in order."""
    printer.refresh_from_db()
    if printer.paused or printer.jobs.filter(state=PrintJob.RUNNING).exists():
        return
    waiting = printer.jobs.filter(state=PrintJob.WAITING).order_by("-priority", "created", "id")
    job = waiting.first()
    if job is not None and not has_task(job):
        put_task(job)


def free(job: PrintJob) -> Q:
    """A job is taken only while its printer is not paused and prints nothing else."""
    busy = PrintJob.objects.filter(printer_id=job.printer_id, state=PrintJob.RUNNING)
    paused = Printer.objects.filter(pk=job.printer_id, paused=True)
    return ~Q(Exists(busy)) & ~Q(Exists(paused))
