"""`plinto profile show`, `check`, `examine`, `inks` and `plinto build`."""

from __future__ import annotations

import json
import sys
from pathlib import Path
from typing import cast, get_args

import click

from plinto_cli.files import progress_bar, read_json, write_bytes, write_json
from plinto_core.characterise.build import build_profile
from plinto_core.characterise.report import BuildReport
from plinto_core.characterise.settings import BuildSettings, parse_settings
from plinto_core.errors import BadInput, CoreError
from plinto_core.examination.aims import Aim, AimDifference, read_aim
from plinto_core.examination.neutrals import neutrals
from plinto_core.examination.page import examination_pdf
from plinto_core.examination.report import colour_findings, examine
from plinto_core.icc import Profile, check_profile
from plinto_core.icc.describe import describe_profile
from plinto_core.icc.spaces import is_subtractive
from plinto_core.inks.editing import with_inks
from plinto_core.inks.ink_set import InkChannel, InkRole, InkSet, Role
from plinto_core.inks.rules import InkRules, parse_ink_rules
from plinto_core.measurement import read_characterisation

_TOLD = 40
"""Lines of contradicted readings that are printed."""


@click.group("profile")
def profile_group() -> None:
    """Facts and problems of ICC profiles."""


@profile_group.command("show")
@click.argument("file")
@click.option("--json", "as_json", is_flag=True, help="As JSON.")
def show_command(file: str, as_json: bool) -> None:
    """Facts of a profile."""
    facts = describe_profile(Profile.read(file))
    if as_json:
        click.echo(json.dumps(facts, indent=2))
        return
    for key in ("description", "class", "colour_space", "pcs", "version", "size", "copyright"):
        click.echo(f"{key.replace('_', ' '):16} {facts[key]}")
    for tag, table in facts["tables"].items():
        click.echo(
            f"{tag:16} {table.get('type')}, grid {'×'.join(map(str, table.get('grid', [])))}"
        )
    for problem in facts["problems"]:
        click.echo(f"{problem['severity']:16} {problem['tag']} {problem['message']}")


@profile_group.command("check")
@click.argument("file")
@click.option(
    "--tac", type=click.FloatRange(50, 1500), help="The total that was asked for, in percent."
)
@click.option("--structure-only", is_flag=True, help="Leave the colours out.")
def check_command(file: str, tac: float | None, structure_only: bool) -> None:
    """List the problems of a profile, in its structure and its colours: greys, black that runs back,
    kinks, totals, paper. Exit status 1 where there are any."""
    try:
        data = Path(file).read_bytes()
    except OSError:
        data = Profile.read(file).data
    lines = [
        f"{p.severity}: {p.tag + ': ' if p.tag else ''}{p.message} {p.message.remedy}".rstrip()
        for p in check_profile(data)
    ]
    if not structure_only and not any(line.startswith("error: The file") for line in lines):
        try:
            found = colour_findings(Profile(data), tac)
            lines += [f"{f.severity}: {f.sentence}" for f in found if f.severity != "note"]
        except CoreError as error:
            lines.append(f"error: {error.message}")
    for line in dict.fromkeys(lines):
        click.echo(line)
    if lines:
        sys.exit(1)
    click.echo("no problems found")


@profile_group.command("examine")
@click.argument("file")
@click.option(
    "--tac", type=click.FloatRange(50, 1500), help="The total that was asked for, in percent."
)
@click.option(
    "--aim",
    metavar="FILE",
    help="Compare paper, solids and TVI with another profile, characterisation data, an aim in JSON "
    "or rows of text.",
)
@click.option("--json", "as_json", is_flag=True, help="The whole report as JSON.")
@click.option("--pdf", metavar="FILE.pdf", help="Write it as pages, with the greys drawn.")
def examine_command(
    file: str, tac: float | None, aim: str | None, as_json: bool, pdf: str | None
) -> None:
    """What a profile prints, how it makes greys, what it gives back, what is wrong with it."""
    found = examine(Profile.read(file), tac=tac, aim=_aim(aim) if aim else None)
    if pdf:
        profile = Profile.read(file)
        greys = {r.intent: neutrals(profile, r.intent) for r in found.reach}
        write_bytes(Path(pdf), examination_pdf(found, greys))
    if as_json:
        click.echo(json.dumps(found.model_dump(mode="json"), indent=2))
        return
    click.echo(
        f"{found.holds['description']}: {found.holds['class']}, {found.holds['colour_space']}"
    )
    for reach in found.reach:
        start = "never" if reach.black_start is None else f"from L* {reach.black_start:g}"
        black = "" if reach.black_most is None else f", black {start} to {reach.black_most:g} %"
        figures = found.greys[reach.intent]
        click.echo(
            f"{reach.intent:12} total {reach.tac:g} %{black}, darkest L* {reach.darkest[0]:g}, "
            f"greys C* {figures.chroma_mean:g} mean, {figures.chroma_max:g} at most"
        )
    if found.gamut:
        gamut = found.gamut
        click.echo(
            f"gamut        volume {gamut.volume}, L* {gamut.darkest:g} to {gamut.lightest:g}, "
            f"most chroma {gamut.most_chroma:g} at L* {gamut.at_lightness:g}, hue {gamut.at_hue:g}"
        )
    for tones in found.tones:
        lost = f", vanishes below {tones.vanishes:g} %" if tones.vanishes else ""
        click.echo(f"{tones.name:12} TVI at 50 %: {tones.increase_50:g}{lost}")
    if found.round_trip:
        trip = found.round_trip
        click.echo(
            f"round trip   dE00 {trip.mean:g} mean, {trip.p95:g} at 95 %, {trip.max:g} at most"
        )
    if found.aim:
        solids = ", ".join(f"{n} {v:g}" for n, v in found.aim.solids.items())
        click.echo(f"against {found.aim.name}, dE00: {solids}")
        _judged(found.aim)
    for said in found.findings:
        click.echo(f"{said.severity}: {said.sentence}")


def _aim(file: str) -> Profile | Aim:
    try:
        data = Path(file).read_bytes()
    except OSError as error:
        raise BadInput(f"The aim {Path(file).name} cannot be read.") from error
    # The signature of every profile, ICC.1:2022 7.2.
    return Profile(data) if data[36:40] == b"acsp" else read_aim(data, Path(file).name)


def _judged(aim: AimDifference) -> None:
    for colour in aim.colours:
        if colour.holds is False:
            click.echo(
                f"missed: {colour.name} by dE00 {colour.de00:g}, {colour.tolerance:g} allowed"
            )
    for tone in aim.tones:
        if tone.holds is False:
            click.echo(
                f"missed: {tone.ink} {tone.at:g} % by {tone.missed:+g}, {tone.tolerance:g} allowed"
            )
    if aim.holds is not None:
        click.echo("the aim holds" if aim.holds else "the aim does not hold")
    if aim.left:
        click.echo(f"not in this profile: {', '.join(aim.left)}")


@profile_group.command("inks")
@click.argument("file")
@click.argument("output", metavar="[OUT.icc]", required=False)
@click.option("--name", "names", multiple=True, metavar="N=NAME", help="Call ink N otherwise.")
@click.option(
    "--role", "roles", multiple=True, metavar="N=ROLE",
    help="black, colour, light:OF, extra:A,B or none; inks by their new names.",
)  # fmt: skip
def inks_command(
    file: str, output: str | None, names: tuple[str, ...], roles: tuple[str, ...]
) -> None:
    """What the inks of a profile are called and are for, and a copy that says otherwise."""
    profile = Profile.read(file)
    if not is_subtractive(profile.colour_space):
        raise BadInput(f"{profile.description!r} is for no inks.")
    if output is None and (names or roles):
        raise BadInput("The changes need a file to go to.", remedy="Name it after the profile.")
    found = InkSet.of_profile(profile).channels
    called = {**{i: c.name for i, c in enumerate(found)}, **_by_place(names, len(found), "--name")}
    others = {old.name: called[i] for i, old in enumerate(found)}
    said = _by_place(roles, len(found), "--role")
    parts = [_role(said[i]) if i in said else _renamed_role(c, others) for i, c in enumerate(found)]
    if output is not None:
        data = with_inks(profile, [called[i] for i in range(len(found))], parts)
        write_bytes(Path(output), data)
        found = InkSet.of_profile(Profile(data)).channels
    for i, ink in enumerate(found, 1):
        of = f" of {ink.of}" if ink.of else ""
        between = f" between {' and '.join(ink.between)}" if ink.between else ""
        click.echo(f"{i} {ink.name}: {ink.role}{of}{between}")


def _by_place(given: tuple[str, ...], count: int, option: str) -> dict[int, str]:
    """What was said of inks by their numbers; raises BadInput."""
    found = {}
    for text in given:
        number, equals, value = text.partition("=")
        if not (equals and value and number.isdecimal() and 1 <= int(number[:4]) <= count):
            raise BadInput(
                f"{option} {text[:60]} names no ink.",
                remedy=f"Write {option} and the ink's number, 1 to {count}, an equals sign and what is meant.",
            )
        found[int(number) - 1] = value
    return found


def _role(text: str) -> InkRole:
    kind, _, rest = text.partition(":")
    if kind not in get_args(Role):
        raise BadInput(
            f"{kind[:40]!r} is no role of an ink.", remedy=f"One of {', '.join(get_args(Role))}."
        )
    two = rest.split(",")
    between = (two[0], two[1]) if kind == "extra" and len(two) == 2 else None
    return InkRole(role=cast(Role, kind), of=rest if kind == "light" else "", between=between)


def _renamed_role(ink: InkChannel, others: dict[str, str]) -> InkRole:
    between = ink.between and (others[ink.between[0]], others[ink.between[1]])
    return InkRole(role=ink.role, of=others.get(ink.of, ""), between=between)


@click.command("build")
@click.argument("measurements")
@click.argument("output", metavar="OUT.icc")
@click.option("--ink-rules", metavar="FILE.json")
@click.option(
    "--settings",
    metavar="FILE.json",
    help="description, version, size, copyright, built, perceptual",
)
@click.option("--report", metavar="FILE.json")
@click.option("--use-all", is_flag=True, help="Use readings that the others contradict as well.")
def build_command(
    measurements: str,
    output: str,
    ink_rules: str | None,
    settings: str | None,
    report: str | None,
    use_all: bool,
) -> None:
    """Build an output profile from characterisation data in CGATS text.

    Readings that all others contradict, such as a misread strip, are named and left out.
    """
    data = read_characterisation(measurements)
    rules = parse_ink_rules(read_json(ink_rules, "ink rules")) if ink_rules else InkRules(tac=320)
    chosen = parse_settings(read_json(settings, "settings")) if settings else BuildSettings()
    if use_all:
        chosen = chosen.model_copy(update={"use_all": True})
    with progress_bar("Building") as progress:
        result = build_profile(data, rules, chosen, progress=progress)
    write_bytes(Path(output), result.data)
    write_json(report, result.report)
    fit, trip = result.report.forward_fit, result.report.round_trip
    click.echo(
        f"{fit.patches} patches; forward fit by cross-validation, dE00: "
        f"mean {fit.mean:.2f}, 95 % {fit.p95:.2f}, 99 % {fit.p99:.2f}, max {fit.max:.2f}"
    )
    click.echo(
        f"round trip inside the gamut, dE00: mean {trip.mean:.2f}, 95 % {trip.p95:.2f}, "
        f"99 % {trip.p99:.2f}, max {trip.max:.2f}"
    )
    greys = result.report.greys
    if greys is not None:
        click.echo(
            f"along the greys: black runs back {greys.black_back:.2f} %, largest step of black "
            f"{greys.black_step:.2f} %, of any ink {greys.step:.2f} %"
        )
    if result.report.stray_ink is not None:
        click.echo(f"solids come back with at most {result.report.stray_ink:.1f} % of another ink")
    reached = max(result.report.tac_reached.values())
    click.echo(f"highest TAC in its tables: {reached:.1f} of {rules.tac:.0f} %")
    for note in data.notes:
        click.echo(f"note: {note}")
    _tell_misread(result.report)


def _tell_misread(report: BuildReport) -> None:
    if report.misread is None:
        click.echo("note: too few patches to tell whether any were misread")
    found = report.misread or ()
    if not found:
        return
    done = "used all the same" if report.settings.use_all else "left out; --use-all uses them"
    click.echo(f"warning: {len(found)} readings are contradicted by the others ({done}):", err=True)
    for one in found[:_TOLD]:
        inks = " ".join(f"{v:g}" for v in one.device)
        read, expected = (" ".join(f"{v:.1f}" for v in lab) for lab in (one.read, one.expected))
        click.echo(
            f"  row {one.row}, patch {one.name} ({inks}): read {read}, expected {expected}, "
            f"dE00 {one.de00:.1f}",
            err=True,
        )
    if len(found) > _TOLD:
        click.echo(f"  and {len(found) - _TOLD} more; --report has them all", err=True)
