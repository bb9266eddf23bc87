"""Proof prints: started, made, read and judged."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np
from django.contrib.auth.models import User
from django.db import transaction
from django.utils import timezone

from plinto_core.arrays import Floats, Progress
from plinto_core.document.rules.policy import parse_policy
from plinto_core.document.views.separations import page_inks
from plinto_core.icc.parts import judge_part
from plinto_core.proofs import (
    Judgement,
    ProofReport,
    ProofSettings,
    ProofTolerances,
    judge,
    parse_proof_settings,
)
from plinto_core.proofs.making import proof_of_inks, proof_of_picture
from plinto_core.proofs.reading import bench_reading, device_of_strip, reading_of_file
from plinto_core.recipes import parse_recipe
from plinto_core.recipes.file_names import file_name
from plinto_core.recipes.ticket import PrintTicket
from plinto_core.simulator import SIMULATED, SimulatedCondition
from plinto_server import access, store
from plinto_server.apps.conditions.models import PrintingCondition
from plinto_server.apps.jobs.models import Destination
from plinto_server.apps.jobs.services import check_runnable
from plinto_server.apps.policies.models import Document, PolicyRun
from plinto_server.apps.profiles.services import load_profile, load_table
from plinto_server.apps.proofs.models import ProofPrint, ProofReading
from plinto_server.apps.work.acts import enqueue
from plinto_server.apps.work.kinds import Described
from plinto_server.errors import Conflict
from plinto_server.removal import Use

SUFFIXES = {"TIFF": "tif", "PDF": "pdf"}
INSTRUMENT_NOISE = 0.0008
"""Relative, as the bench instrument reads charts with."""


@transaction.atomic
def start_of_job(
    destination: Destination, proofer: PrintingCondition, settings: ProofSettings
) -> ProofPrint:
    """Queue the proof of a destination's present recipe; raises what a run would stumble on."""
    job = destination.job
    if job.question:
        raise Conflict("The house rules ask what the artwork's colours mean. Answer that first.")
    recipe = parse_recipe(destination.recipe)
    if check_runnable(job, recipe).resolution is None:
        raise Conflict(
            "The picture states no print size, so its proof has none. Set the width of the print."
        )
    judge_part(load_profile(proofer.profile.sha256), "destination")
    return _queued(
        owner=job.owner,
        title=job.name,
        press_name=destination.condition.name,
        press=recipe.destination,
        proofer=proofer,
        settings=settings,
        destination=destination,
        artwork=job.artwork,
        recipe=recipe.model_dump(mode="json"),
    )


@transaction.atomic
def start_of_page(
    run: PolicyRun, page: int, proofer: PrintingCondition, settings: ProofSettings
) -> ProofPrint:
    """Queue the proof of a page of a document under the policy of a run."""
    document = run.document
    if document.kind != Document.PDF:
        raise Conflict("A picture is proofed from its job. Make a job of it.")
    if not 1 <= page <= document.pages:
        raise Conflict(f"The document has {document.pages} pages.")
    policy = parse_policy(run.policy)
    press = load_profile(policy.destination)
    judge_part(load_profile(proofer.profile.sha256), "destination")
    known = access.mine(document.owner, PrintingCondition).filter(profile__sha256=press.digest)
    condition = known.first()
    return _queued(
        owner=document.owner,
        title=f"{document.file_name}, page {page}"[:255],
        press_name=(condition.name if condition else press.description)[:100],
        press=policy.destination,
        proofer=proofer,
        settings=settings,
        run=run,
        page=page,
    )


def _queued(
    *, owner: User, title: str, press_name: str, proofer: PrintingCondition,
    settings: ProofSettings, **parts: Any,
) -> ProofPrint:  # fmt: skip
    today = timezone.localdate().isoformat()
    lines = [
        f"{title}: {press_name} shown by {proofer.name}",
        f"{settings.intent} colorimetric, {today}",
    ]
    pattern = "{artwork}_proof_{condition}_{date}"
    values = {"artwork": title.rsplit(".", 1)[0], "condition": proofer.key, "date": today}
    proof = ProofPrint.objects.create(
        owner=owner,
        title=title,
        press_name=press_name,
        proofer=proofer,
        proofer_profile=proofer.profile.sha256,
        settings=settings.model_dump(mode="json"),
        lines=lines,
        file_name=file_name(pattern, values, SUFFIXES[settings.format]),
        **parts,
    )
    enqueue(proof)
    return proof


def make(proof: ProofPrint, target: Path, progress: Progress) -> ProofReport:
    """What a worker does for a proof."""
    settings = parse_proof_settings(proof.settings)
    proofer = load_profile(proof.proofer_profile)
    lines = tuple(proof.lines)
    if proof.run is None:
        assert proof.artwork is not None
        return proof_of_picture(
            parse_recipe(proof.recipe), store.path_of(proof.artwork.sha256), target, proofer,
            load_profile, settings, lines, find_table=load_table, progress=progress,
        )  # fmt: skip
    policy = parse_policy(proof.run.policy)
    path = store.path_of(proof.run.document.sha256)
    plates, ppi, press = page_inks(
        path, proof.page, policy, load_profile, resolution=settings.resolution
    )
    progress(0.5)
    rows = range(0, plates.ink.shape[0], 256)
    bands = (plates.ink[r : r + 256] for r in rows)
    return proof_of_inks(
        bands, plates.ink.shape[:2], ppi, press, target, proofer, settings, lines,
        progress=lambda share: progress(0.5 + share / 2),
    )  # fmt: skip


def described(proof: ProofPrint) -> Described:
    """A proof as the queue shows it."""
    return Described(
        proof.title,
        f"Proof of {proof.press_name} on {proof.proofer.name}",
        f"/proofs/{proof.pk}",
        proof.file_name,
        proof.settings,
    )


def report_of(proof: ProofPrint) -> ProofReport:
    """What was made; raises Conflict while it is not."""
    if proof.state != ProofPrint.DONE:
        raise Conflict("The proof is not made yet.")
    return ProofReport.model_validate(proof.report)


def simulated(condition: PrintingCondition) -> SimulatedCondition | None:
    """The simulator that prints a condition: its own, or that of the shipped one with its profile."""
    own = SIMULATED.get(condition.key)
    if own is not None:
        return own
    shipped = PrintingCondition.objects.filter(
        owner=None, profile_id=condition.profile_id, key__in=SIMULATED
    ).first()
    return SIMULATED[shipped.key] if shipped else None


@transaction.atomic
def read_on_bench(
    proof: ProofPrint, printed_on: PrintingCondition, tolerances: ProofTolerances, *, noise: bool
) -> ProofReading:
    """Print the proof's strip on a simulated press, read it, and judge it. Raises Conflict where a
    condition has no simulator, BadInput where the file does not suit it."""
    report = report_of(proof)
    _has_strip(report)
    model = simulated(printed_on)
    if model is None:
        raise Conflict(
            f"{printed_on.name} has no press simulator. Measure its print, and give the readings as a"
            " file."
        )
    if report.format != "TIFF":
        raise Conflict("The bench instrument reads proofs in TIFF. Make the proof as TIFF.")
    device = device_of_strip(store.path_of(proof.result_sha256), report.strip)
    sigma = INSTRUMENT_NOISE if noise else 0.0
    # Another reading is another draw of the instrument's noise.
    seed = 1 + proof.readings.count()
    labs = bench_reading(device, model.model, noise=sigma, seed=seed)
    return _kept(proof, report, labs, tolerances, way="bench", by=printed_on.name, noise=sigma)


@transaction.atomic
def read_file(
    proof: ProofPrint, data: bytes, name: str, tolerances: ProofTolerances
) -> ProofReading:
    """Judge readings from a measured file; raises BadInput."""
    report = report_of(proof)
    _has_strip(report)
    labs = reading_of_file(data, [p.name for p in report.patches], name)
    return _kept(proof, report, labs, tolerances, way="file", by=name[:255])


def _has_strip(report: ProofReport) -> None:
    if not report.patches:
        raise Conflict("The proof was made without a strip, so there is nothing to read.")


def _kept(
    proof: ProofPrint, report: ProofReport, labs: Floats, tolerances: ProofTolerances, **parts: Any
) -> ProofReading:
    found = judge(report.patches, labs, tolerances, bare=report.bare)
    return ProofReading.objects.create(
        proof=proof,
        labs=np.round(labs, 4).tolist(),
        judgement=found.model_dump(mode="json"),
        **parts,
    )


@transaction.atomic
def judge_anew(reading: ProofReading, tolerances: ProofTolerances) -> ProofReading:
    """The same readings by other tolerances."""
    report = report_of(reading.proof)
    found = judge(report.patches, np.array(reading.labs), tolerances, bare=report.bare)
    reading.judgement = found.model_dump(mode="json")
    reading.save(update_fields=["judgement"])
    return reading


def judgement_of(reading: ProofReading) -> Judgement:
    return Judgement.model_validate(reading.judgement)


def ticket_of(proof: ProofPrint) -> PrintTicket:
    """What the operator of the proofer must set."""
    ticket = proof.proofer.ticket
    media = ticket.get("media") or proof.proofer.medium or "as the condition says"
    drying = ticket.get("drying_minutes") or 0
    figures = {}
    if proof.report:
        report = ProofReport.model_validate(proof.report)
        figures["Sheet"] = f"{report.size_mm[0]:.0f} × {report.size_mm[1]:.0f} mm"
        if report.expected:
            figures["Expected on the strip"] = f"{report.expected.mean:.1f} ΔE00 in the mean"
    return PrintTicket(
        job=proof.title,
        condition=f"{proof.press_name}, shown by {proof.proofer.name}",
        file_name=proof.file_name,
        settings=(
            (
                "Colour management in the driver",
                "off",
                "The file's numbers are the proofer's; a second conversion would spoil them.",
            ),
            ("Medium", str(media), "The proofer's profile holds for this medium only."),
            ("Scaling", "100 %", "The patches have the size of an instrument's aperture."),
            ("Mirror in the driver", "off", "A proof reads right."),
            (
                "Drying",
                f"{drying:g} min" if drying else "none beyond the usual",
                "Read the strip when it is dry.",
            ),
        ),
        figures=figures,
    )


def uses_of_condition(condition: PrintingCondition, user: Any) -> list[Use]:
    """The proofs that were made on a condition."""
    rows = access.mine(user, ProofPrint).filter(proofer=condition)[:50]
    return [Use("proof", p.title, f"/proofs/{p.pk}") for p in rows]
