"""Changes to printers, media and their queue; each function is one change."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from django.db.models import Exists, Q

from plinto_core.document import OutputPolicy, parse_policy
from plinto_core.fields import checked
from plinto_core.printing import ColourDuty, Judgement, MediumSettings, SentColours, judge, refusal
from plinto_core.recipes import parse_recipe
from plinto_server import store
from plinto_server.apps.policies.models import Document
from plinto_server.apps.policies.services import examine
from plinto_server.apps.printers.models import Medium, Printer, PrintJob
from plinto_server.apps.queue.acts import has_task, put_task
from plinto_server.apps.queue.models import Run
from plinto_server.errors import Conflict


def save_medium(medium: Medium, duty: Any, settings: Any) -> Medium:
    """Keep a medium; one that the guard refuses is kept too, but nothing is sent to it."""
    medium.duty = checked(ColourDuty, duty, "The declared duties are").model_dump()
    medium.settings = checked(
        MediumSettings, settings, "The settings of the medium are"
    ).model_dump()
    medium.save()
    return medium


def judged(medium: Medium, policy: OutputPolicy | None = None) -> list[Judgement]:
    """The guard's view of a medium with its policy, or another one."""
    if policy is None and medium.policy is not None:
        policy = parse_policy(medium.policy.present)
    return judge(ColourDuty.model_validate(medium.duty), sent_by(policy, medium))


def sent_by(policy: OutputPolicy | None, medium: Medium) -> SentColours:
    """What a policy does to files for a medium, as the guard needs to know it."""
    prints = medium.condition.profile.sha256
    if policy is None:
        return SentColours(False, prints, prints, True, ("RGB",))
    converting = [r for r in policy.rules if r.action in ("convert", "black")]
    foreign = []
    for space in ("RGB", "Lab"):
        actions = {
            policy.rule_for(objects, space)[1].action
            for objects in ("images", "vectors", "shadings")
        }
        if actions & {"leave", "keep spot"}:
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
    owner: AbstractBaseUser, document: Document, medium: Medium, *, copies: int = 1,
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
    owner: AbstractBaseUser, run: Run, medium: Medium, *, copies: int = 1, priority: int = 0,
    held: bool = False,
) -> PrintJob:  # fmt: skip
    """Put a finished delivery into a printer's queue; its colours are made already."""
    if run.state != run.DONE or not run.result_sha256:
        raise Conflict("The delivery is not finished.")
    recipe = parse_recipe(run.recipe)
    if recipe.delivery.films is not None:
        raise Conflict("Films are exposed, not printed.")
    sent = SentColours(
        converts=True,
        made_for=recipe.destination,
        prints=medium.condition.profile.sha256,
        profile_in=recipe.delivery.embed,
    )
    _refuse(judge(ColourDuty.model_validate(medium.duty), sent))
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


@transaction.atomic
def pause(printer: Printer, *, paused: bool) -> Printer:
    """Stop a printer from taking the next job, or let it go on."""
    printer.paused = paused
    printer.save(update_fields=["paused"])
    dispatch(printer)
    return printer


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


__all__ = [
    "dispatch",
    "free",
    "judged",
    "pause",
    "save_medium",
    "send_delivery",
    "send_document",
    "sent_by",
]
