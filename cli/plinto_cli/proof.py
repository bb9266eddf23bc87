"""`plinto proof`: a press shown by another printer, its strip read and judged."""

from __future__ import annotations

import json
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from functools import partial
from pathlib import Path

import click
from pydantic import ValidationError

from plinto_cli.condition import condition_in
from plinto_cli.files import progress_bar, read_bytes, read_json, write_bytes, write_json
from plinto_cli.references import referenced_profile, referenced_table, unpacked
from plinto_core.errors import BadInput
from plinto_core.icc import Profile
from plinto_core.proofs import (
    STARTING_SETS,
    ProofReport,
    ProofTolerances,
    judge,
    parse_proof_settings,
    parse_tolerances,
)
from plinto_core.proofs.making import proof_of_picture
from plinto_core.proofs.page import CRITERIA, judgement_pdf
from plinto_core.proofs.reading import bench_reading, device_of_strip, reading_of_file
from plinto_core.recipes import Recipe, parse_recipe
from plinto_core.simulator import SIMULATED
from plinto_core.swatches.files import write_swatches
from plinto_core.swatches.swatches import swatches

FAILED = 4
"""Exit status of a proof that does not pass."""
_SETS = {"contract": STARTING_SETS[0], "validation": STARTING_SETS[1]}


@click.group("proof")
def proof_group() -> None:
    """Proof prints: a press shown by another printer, read and judged."""


@proof_group.command("make")
@click.argument("source_file", metavar="IN")
@click.argument("target_file", metavar="OUT")
@click.option("--to", "press", metavar="PRESS", help="A condition's file or a profile.")
@click.option("--recipe", "recipe_file", metavar="RECIPE.json", help="In place of --to.")
@click.option(
    "--on", "proofer", required=True, metavar="PROOFER",
    help="The printer that shows the press: a condition's file or a profile.",
)  # fmt: skip
@click.option("--relative", is_flag=True, help="Leave the press's paper to the proofer's.")
@click.option("--resolution", type=float, default=300, show_default=True, help="At most, ppi.")
@click.option("--text", default="", help="A line of your own below the strip.")
@click.option("--no-strip", is_flag=True)
@click.option("--report", metavar="FILE.json", help="Needed to read and judge the strip.")
def make_command(
    source_file: str, target_file: str, press: str | None, recipe_file: str | None, proofer: str,
    resolution: float, text: str, report: str | None, *, relative: bool, no_strip: bool,
) -> None:  # fmt: skip
    """Write a picture as a press prints it, in the numbers of another printer."""
    if (press is None) == (recipe_file is None):
        raise BadInput("A press or a recipe is needed.", remedy="Give --to or --recipe.")
    target = Path(target_file)
    settings = parse_proof_settings(
        {
            "intent": "relative" if relative else "absolute",
            "format": "PDF" if target.suffix.lower() == ".pdf" else "TIFF",
            "resolution": resolution,
            "strip": not no_strip,
            "text": text,
        }
    )
    shown_by, printer = _named(proofer)
    with _opened(recipe_file) as (path, folder):
        known: dict[str, Profile] = {}
        if press is not None:
            name, known["press"] = _named(press)
            recipe = parse_recipe({"destination": "press"})
        else:
            recipe = parse_recipe(read_json(path, "recipe"))
            name = _destination(recipe, folder).description

        def find(reference: str) -> Profile:
            return known.get(reference) or referenced_profile(reference, folders=[folder])

        lines = (f"{Path(source_file).name}: {name} shown by {shown_by}",)
        with progress_bar("Proofing") as progress:
            done = proof_of_picture(
                recipe, Path(source_file), target, printer, find, settings, lines,
                find_table=partial(referenced_table, folders=[folder]), progress=progress,
            )  # fmt: skip
    write_json(report, done)
    if done.expected is not None:
        said = f"expected on the strip: dE00 {done.expected.mean:.2f} mean, {done.expected.max:.2f} at most"
        click.echo(said)
    missed = [p.name for p in done.patches if p.missed]
    if missed:
        click.echo(f"out of the proofer's reach: {', '.join(missed)}")


@proof_group.command("read")
@click.argument("proof_file", metavar="PROOF.tif")
@click.argument("report_file", metavar="REPORT.json")
@click.argument("out", metavar="OUT.txt")
@click.option(
    "--on", "printed_on", type=click.Choice(sorted(SIMULATED)), default="proofing-inkjet",
    show_default=True, help="The press simulator that prints it.",
)  # fmt: skip
@click.option("--noise", type=click.FloatRange(0, 0.05), default=0.0008, show_default=True)
def read_command(
    proof_file: str, report_file: str, out: str, printed_on: str, noise: float
) -> None:
    """Print a proof's strip on a press simulator and read it with the bench instrument."""
    report = _report(report_file)
    device = device_of_strip(Path(proof_file), report.strip)
    labs = bench_reading(device, SIMULATED[printed_on].model, noise=noise)
    listed = swatches("Lab ", labs, [p.name for p in report.patches])
    write_bytes(Path(out), write_swatches(listed, "cgats"))


@proof_group.command("judge")
@click.argument("report_file", metavar="REPORT.json")
@click.argument("readings", metavar="READINGS")
@click.option(
    "--tolerances", default="contract", show_default=True, metavar="contract|validation|FILE.json"
)
@click.option("--pdf", metavar="FILE.pdf", help="The judgement as pages.")
@click.option("--json", "as_json", is_flag=True, help="Everything, as JSON.")
def judge_command(
    report_file: str, readings: str, tolerances: str, pdf: str | None, *, as_json: bool
) -> None:
    """Judge the readings of a strip (CGATS text, CSV, CxF3); exit status 4 where it fails."""
    report = _report(report_file)
    allowed = _tolerances(tolerances)
    names = [p.name for p in report.patches]
    labs = reading_of_file(read_bytes(readings, "file of readings"), names, readings)
    found = judge(report.patches, labs, allowed, bare=report.bare)
    if pdf:
        write_bytes(Path(pdf), judgement_pdf(report, found, f"Read from {Path(readings).name}."))
    if as_json:
        click.echo(json.dumps(found.model_dump(mode="json"), indent=2))
    else:
        for one in found.criteria:
            limit = "not judged" if one.limit is None else f"at most {one.limit:g}"
            kept = {True: "kept", False: "MISSED", None: ""}[one.within]
            click.echo(f"{CRITERIA[one.key]}: {one.value:.2f}, {limit} {kept}".rstrip())
        for sign in found.signs:
            click.echo(sign)
        click.echo({True: "passes", False: "fails", None: "nothing is judged"}[found.passes])
    if found.passes is False:
        sys.exit(FAILED)


@contextmanager
def _opened(recipe_file: str | None) -> Iterator[tuple[str, str | None]]:
    """As `unpacked`, also where there is no recipe."""
    if recipe_file is None:
        yield "", None
        return
    with unpacked(recipe_file) as found:
        yield found


def _named(file: str) -> tuple[str, Profile]:
    condition = condition_in(file)
    if condition is not None:
        return condition[0].name, condition[1]
    profile = referenced_profile(file)
    return profile.description or Path(file).name, profile


def _destination(recipe: Recipe, folder: str | None) -> Profile:
    return referenced_profile(recipe.destination, folders=[folder])


def _report(file: str) -> ProofReport:
    try:
        report = ProofReport.model_validate(read_json(file, "report"))
    except ValidationError as error:
        raise BadInput(
            f"{file} is no report of a proof.", remedy="Write one with plinto proof make --report."
        ) from error
    if not report.patches:
        raise BadInput("The proof was made without a strip, so there is nothing to read.")
    return report


def _tolerances(said: str) -> ProofTolerances:
    return _SETS.get(said) or parse_tolerances(read_json(said, "set of tolerances"))
