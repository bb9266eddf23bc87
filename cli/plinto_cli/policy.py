"""`plinto inspect`, `plinto policy new` and `plinto policy run`."""

from __future__ import annotations

import json
from dataclasses import asdict
from pathlib import Path
from typing import Any

import click

from plinto_cli.files import progress_bar, read_json, write_json
from plinto_cli.references import referenced_profile
from plinto_core.arrays import Progress
from plinto_core.document import (
    OutputPolicy,
    dry_run,
    dry_run_on_picture,
    inventory,
    parse_policy,
    run_policy,
    run_policy_on_picture,
    template,
)
from plinto_core.document.pdf.opening import is_pdf
from plinto_core.document.pdfx.breach import breach_data
from plinto_core.document.pdfx.check import check_document
from plinto_core.document.preflight.notes import write_notes
from plinto_core.document.reports.report import PolicyReport
from plinto_core.document.rules.checks import CHECKS
from plinto_core.document.rules.policy import TEMPLATES
from plinto_core.document.rules.standards import STANDARDS, Standard
from plinto_core.document.runs.compare import compare_on_document, compare_policies
from plinto_core.icc.spaces import FAMILY_OF, channel_names
from plinto_core.imaging.arrival import ArrivalCheck
from plinto_core.imaging.reader import open_picture
from plinto_core.imaging.writer import format_of
from plinto_core.recipes.sources import embedded_profile


def inspect_picture(path: str) -> dict[str, Any]:
    """Facts of a picture in the form of a document's inventory."""
    with open_picture(path) as picture:
        facts = picture.facts
        check = ArrivalCheck(facts)
        for _ in picture.checked_bands(check):
            pass
    profile = embedded_profile(facts)
    arrival = check.result
    return {
        "document": Path(path).name,
        "format": facts.format,
        "pages": facts.pages,
        "objects": [
            {
                "page": 1,
                "kind": "image",
                "family": facts.space.strip(),
                "profile": profile.description if profile else None,
                "pixels": [facts.width, facts.height],
                "bits": facts.bits,
                "ppi": list(facts.resolution) if facts.resolution else None,
                "print_size_mm": facts.print_size_mm,
                "transparent": arrival.transparent,
                "clipped": arrival.clipped(channel_names(facts.space)),
            }
        ],
    }


_OF_A_POLICY: Any = {
    **dict.fromkeys(
        (
            "policy",
            "destination",
            "flow",
            "stops",
            "over_tac",
            "size_after",
            "size_forecast",
            "colour",
            "output_intent_after",
            "pdfx",
            "pdfx_before",
            "findings",
        ),
        True,
    ),
    "objects": {"__all__": {"rule", "action", "after", "tac_after", "de00", "outcome"}},
}
"""What a report says of a policy; an inventory has none."""


_STANDARDS: dict[str, Standard] = {
    "X-1a": "PDF/X-1a:2003",
    **{name.removeprefix("PDF/"): name for name in STANDARDS},
}


@click.command("inspect")
@click.argument("file", metavar="FILE")
@click.option("--json", "as_json", is_flag=True, help="Everything, as JSON.")
@click.option(
    "--pdfx",
    type=click.Choice(list(_STANDARDS)),
    help="Check this part of PDF/X (ISO 15930) instead; exit status 1 where a rule is broken.",
)
def inspect_command(file: str, as_json: bool, pdfx: str | None) -> None:
    """Inventory of an image or PDF: objects, spaces, profiles, pixels, resolution, TAC."""
    if pdfx is not None:
        _check(Path(file), _STANDARDS[pdfx], as_json)
        return
    if is_pdf(Path(file)):
        with progress_bar("Reading") as progress:
            report = inventory(Path(file), progress=progress)
        found = report.model_dump(mode="json", exclude=_OF_A_POLICY)
    else:
        found = inspect_picture(file)
    if as_json:
        click.echo(json.dumps(found, indent=2))
        return
    click.echo(f"{found['document']}: {found['pages']} pages, {len(found['objects'])} objects")
    for item in found["objects"]:
        size = f", {item['pixels'][0]} × {item['pixels'][1]} px" if item.get("pixels") else ""
        ppi = item.get("ppi")
        sharp = f", {ppi if not isinstance(ppi, list) else ppi[0]:.0f} ppi" if ppi else ""
        click.echo(
            f"  page {item['page']}: {item['kind']}, {item['family']}, {item.get('profile') or 'no profile'}{size}{sharp}"
        )
    for left in found.get("not_handled", []):
        click.echo(f"  page {left['page']}: {left['kind']} not handled: {left['reason']}")


def _check(file: Path, standard: Standard, as_json: bool) -> None:
    breaches = breach_data(check_document(file, standard))
    if as_json:
        click.echo(
            json.dumps(
                {"standard": standard, "breaches": [b.model_dump() for b in breaches]}, indent=2
            )
        )
    elif breaches:
        for breach in breaches:
            click.echo(f"{breach.rule}, {breach.where}: {breach.text}")
    else:
        click.echo(f"Nothing was found that breaks {standard}.")
    if breaches:
        raise SystemExit(1)


@click.group("policy")
def policy_group() -> None:
    """Output policies for printers and RIPs."""


@policy_group.command("new")
@click.argument("kind", type=click.Choice(list(TEMPLATES)))
@click.option("--to", "destination", required=True, metavar="PROFILE")
@click.option("--tac", type=click.FloatRange(50, 1500), help="Total area coverage in percent.")
def policy_new(kind: str, destination: str, tac: float | None) -> None:
    """Print a policy for a usual case, to be kept in a file."""
    referenced_profile(destination)
    made = template(kind, destination, tac=tac)
    click.echo(json.dumps(made.model_dump(mode="json"), indent=2))


@policy_group.command("run")
@click.argument("policy_file", metavar="POLICY.json")
@click.argument("source_file", metavar="IN")
@click.argument("target_file", metavar="OUT", required=False)
@click.option("--dry", is_flag=True, help="Say what would be done; OUT is not needed.")
@click.option("--report", metavar="FILE.json", help="Every object with its rule, before and after.")
@click.option(
    "--notes", metavar="FILE.pdf", help="A copy of IN with the report as notes on its pages."
)
@click.option(
    "--pdfx",
    type=click.Choice(list(_STANDARDS)),
    help="Make the result for this part of PDF/X, whatever the policy says.",
)
def policy_run(
    policy_file: str,
    source_file: str,
    target_file: str | None,
    dry: bool,
    report: str | None,
    notes: str | None,
    pdfx: str | None,
) -> None:
    """Apply a policy to a PDF or a picture, and say what came of it.

    Exit status 4 where colours stay that the destination does not print (RGB for a press), where
    something could not be handled, a check warns, or the result does not keep the PDF/X part it is made
    for: the result is written, and wants to be looked at.
    """
    policy = parse_policy(read_json(policy_file, "policy"))
    if pdfx is not None:
        policy = policy.model_copy(update={"pdfx": _STANDARDS[pdfx], "pdfx_made": True})
    source, document = Path(source_file), is_pdf(Path(source_file))
    if target_file is None and not dry:
        raise click.UsageError("name the file that the result goes to, or say --dry")
    if notes is not None and not document:
        raise click.UsageError("notes stand on the pages of a PDF; IN is a picture")
    with progress_bar("Trying" if dry else "Running") as progress:
        if dry or target_file is None:
            named = target_file is not None and not document
            output = format_of(Path(str(target_file))) if named else "TIFF"
            done = _tried(policy, source, progress, output)
        else:
            run = run_policy if document else run_policy_on_picture
            done = run(policy, source, Path(target_file), referenced_profile, progress=progress)
    write_json(report, done)
    if notes is not None:
        write_notes(source, done, Path(notes))
    _say(done, FAMILY_OF[referenced_profile(policy.destination).colour_space])


def _tried(
    policy: OutputPolicy, source: Path, progress: Progress, output: str = "TIFF"
) -> PolicyReport:
    """A dry run on a PDF or a picture."""
    if is_pdf(source):
        return dry_run(policy, source, referenced_profile, progress=progress)
    return dry_run_on_picture(policy, source, referenced_profile, output=output, progress=progress)


def _say(done: PolicyReport, family: str) -> None:
    """What came of a run in a few lines; exit status 4 where something is left to be looked at."""
    for row in done.flow:
        rule = f"rule {row.rule}" if row.rule else "no rule"
        spot = f" {row.spot}" if row.spot else ""
        click.echo(f"{row.count} {row.objects} in {row.space}{spot}, {rule}: {row.outcome}")
    left = done.left_in_other_colours(family)
    for space, count in left.items():
        click.echo(f"{count} objects stay in {space}, which {done.destination} does not print.")
    for found in done.not_handled:
        click.echo(f"page {found.page}: {found.kind} not handled: {found.reason}")
    for remark in done.remarks:
        click.echo(remark)
    for finding in done.findings:
        pages = f", page {_few(finding.pages)}" if finding.pages else ""
        click.echo(f"{finding.severity}: {finding.title}{pages}: {finding.text}")
    kept = done.pdfx or done.pdfx_before
    for breach in kept.breaches if kept is not None else ():
        click.echo(f"{kept.standard}, {breach.rule}, {breach.where}: {breach.text}")  # type: ignore[union-attr]
    if done.pdfx is not None and done.pdfx.marked:
        click.echo(f"The result is marked as {done.pdfx.standard}.")
    for line in _expected(done):
        click.echo(line)
    broken = done.pdfx is not None and bool(done.pdfx.breaches)
    if left or done.not_handled or done.wants_a_look or broken:
        raise SystemExit(4)


def _expected(done: PolicyReport) -> list[str]:
    """What a dry run says of size and colour."""
    told = []
    if done.size_forecast is not None:
        told.append(
            f"{done.size_before / 1e6:.2f} MB will be about {done.size_forecast / 1e6:.2f} MB."
        )
    if done.colour is not None:
        told.append(
            f"Colours move by {done.colour.mean:.1f} dE00 in the mean, 95 % of {done.colour.objects}"
            f" {done.colour.of} by less than {done.colour.p95:.1f}, at most {done.colour.greatest:.1f}."
        )
    return told


def _few(pages: tuple[int, ...]) -> str:
    """Pages in words, the first ones of many."""
    named = ", ".join(str(p) for p in pages[:8])
    return named + (f" and {len(pages) - 8} more" if len(pages) > 8 else "")


@policy_group.command("checks")
def policy_checks() -> None:
    """The preflight checks that a policy can make."""
    for name, kind in CHECKS.items():
        limit = (
            "" if kind.start is None else f" (limit {kind.start:g} {kind.unit})".replace(" )", ")")
        )
        mends = f" Mended: {kind.mends}" if kind.mends else ""
        click.echo(f"{name}{limit}: {kind.help}{mends}")


@policy_group.command("try")
@click.argument("source_file", metavar="IN")
@click.argument("policy_files", nargs=-1, required=True, metavar="POLICY.json...")
@click.option("--json", "as_json", is_flag=True, help="Everything, as JSON.")
def policy_try(source_file: str, policy_files: tuple[str, ...], as_json: bool) -> None:
    """Several policies dry on one document or picture, side by side in size, colour and ink."""
    policies = [parse_policy(read_json(name, "policy")) for name in policy_files]
    reports = []
    for policy in policies:
        with progress_bar(policy.name) as progress:
            reports.append(_tried(policy, Path(source_file), progress))
    if as_json:
        click.echo(json.dumps([r.model_dump(mode="json") for r in reports], indent=2))
        return
    click.echo("    MB    mean  95 % greatest dE00  most ink  stops at  policy")
    for report in reports:
        size, colour, ink = report.size_forecast, report.colour, report.tac.after
        moved = (
            f"{colour.mean:6.1f}{colour.p95:6.1f}{colour.greatest:9.1f}     "
            if colour is not None
            else f"{'-':>6}{'-':>6}{'-':>9}     "
        )
        shown = f"{(size or 0) / 1e6:6.2f}  {moved}{f'{ink:.0f} %' if ink else '-':>10}"
        click.echo(f"{shown}{report.stops:>10}  {report.policy}")


@policy_group.command("compare")
@click.argument("before_file", metavar="BEFORE.json")
@click.argument("after_file", metavar="AFTER.json")
@click.option("--on", "documents", multiple=True, metavar="IN", help="Try both dry on this PDF.")
@click.option("--json", "as_json", is_flag=True, help="Everything, as JSON.")
def policy_compare(
    before_file: str, after_file: str, documents: tuple[str, ...], as_json: bool
) -> None:
    """What sets two policies apart, and what they would make of documents."""
    before = parse_policy(read_json(before_file, "policy"))
    after = parse_policy(read_json(after_file, "policy"))
    differences = [asdict(d) for d in compare_policies(before, after)]
    tried = {}
    for name in documents:
        with progress_bar("Trying") as progress:
            done = compare_on_document(
                before, after, Path(name), referenced_profile, progress=progress
            )
        tried[Path(name).name] = done.model_dump(mode="json")
    if as_json:
        click.echo(json.dumps({"differences": differences, "documents": tried}, indent=2))
        return
    for d in differences:
        click.echo(f"{d['where']}: {d['before'] or 'none'} -> {d['after'] or 'none'}")
    for name, found in tried.items():
        click.echo(f"{name}: {found['changed']} of {found['objects']} objects come out differently")
