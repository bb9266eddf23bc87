"""What a worker does for a print: the policy, then the simulated RIP of the printer."""

from __future__ import annotations

from pathlib import Path

from plinto_core.arrays import Progress
from plinto_core.document import parse_policy
from plinto_core.inks.consumption import Supplies
from plinto_core.printing import MediumSettings
from plinto_core.printing import Printer as SimulatedPrinter
from plinto_core.printing.guard import ColourDuty
from plinto_core.printing.report import PrintReport
from plinto_core.printing.rip import print_file
from plinto_core.simulator import CONDITIONS, PressModel
from plinto_server import store
from plinto_server.apps.policies.models import Document
from plinto_server.apps.policies.services import run_on_file
from plinto_server.apps.printers.models import PrintJob
from plinto_server.apps.printers.services import dispatch
from plinto_server.apps.profiles.services import load_profile
from plinto_server.apps.work.kinds import Described

_POLICY_SHARE = 0.5


def print_job(job: PrintJob, target: Path, progress: Progress) -> PrintReport:
    """Bring a file to the printer's inks where a policy says so, and print it."""
    source = store.path_of(job.sha256)
    condition = job.condition
    models = {c.key: c.model for c in CONDITIONS if isinstance(c.model, PressModel)}
    printer = SimulatedPrinter(
        press=load_profile(condition.profile.sha256),
        supplies=Supplies.model_validate(condition.supplies or {}),
        medium=MediumSettings.model_validate(job.settings),
        model=models.get(condition.key),
    )
    tac = condition.tac
    said = {"settings": printer.medium, "colour": ColourDuty.model_validate(job.duty or {})}
    if job.policy is None:
        done = print_file(source, target, printer, load_profile, copies=job.copies, tac=tac, progress=progress)  # fmt: skip
        return done.model_copy(update=said)
    # The medium says what is printed; a document's own output intent would mean another press.
    policy = parse_policy(job.policy).model_copy(update={"own_intent": False})
    ending = "pdf" if job.kind == Document.PDF else "tif"
    with store.scratch(f".{ending}") as ready:
        report = run_on_file(policy, job.kind, source, ready, _first(progress))
        done = print_file(ready, target, printer, load_profile, copies=job.copies, tac=tac, progress=_second(progress))  # fmt: skip
    return done.model_copy(update={**said, "policy": report})


def _first(progress: Progress) -> Progress:
    return lambda share: progress(share * _POLICY_SHARE)


def _second(progress: Progress) -> Progress:
    return lambda share: progress(_POLICY_SHARE + share * (1 - _POLICY_SHARE))


def described(job: PrintJob) -> Described:
    """A print as the queue shows it."""
    copies = f", {job.copies} copies" if job.copies > 1 else ""
    stem = job.file_name.rsplit(".", 1)[0]
    return Described(
        job.file_name,
        f"{job.printer.name}, {job.medium_name}{copies}",
        "/printers",
        f"{stem}_printed.zip",
        job.policy or job.recipe,
    )


def ended(job: PrintJob) -> None:
    """The printer is free for the next one."""
    dispatch(job.printer)
