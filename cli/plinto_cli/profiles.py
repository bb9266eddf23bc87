"""`plinto profile show`, `plinto profile check` and `plinto build`."""

from __future__ import annotations

import json
import sys
from pathlib import Path

import click

from plinto_cli.files import progress_bar, read_json, write_bytes, write_json
from plinto_core.characterise.build import BuildSettings, build_profile, parse_settings
from plinto_core.icc import Profile, check_profile
from plinto_core.icc.describe import describe_profile
from plinto_core.inks.rules import InkRules, parse_ink_rules
from plinto_core.measurement import read_characterisation


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
def check_command(file: str) -> None:
    """List the problems of a profile; exit status 1 where there are any."""
    try:
        data = Path(file).read_bytes()
    except OSError:
        data = Profile.read(file).data
    problems = check_profile(data)
    for problem in problems:
        click.echo(
            f"{problem.severity}: {problem.tag + ': ' if problem.tag else ''}{problem.message}"
        )
    if problems:
        sys.exit(1)
    click.echo("no problems found")


@click.command("build")
@click.argument("measurements")
@click.argument("output", metavar="OUT.icc")
@click.option("--ink-rules", metavar="FILE.json")
@click.option("--settings", metavar="FILE.json", help="description, version, size, copyright")
@click.option("--report", metavar="FILE.json")
def build_command(
    measurements: str, output: str, ink_rules: str | None, settings: str | None, report: str | None
) -> None:
    """Build an output profile from characterisation data in CGATS text."""
    data = read_characterisation(measurements)
    rules = parse_ink_rules(read_json(ink_rules, "ink rules")) if ink_rules else InkRules(tac=320)
    chosen = parse_settings(read_json(settings, "settings")) if settings else BuildSettings()
    with progress_bar("Building") as progress:
        result = build_profile(data, rules, chosen, progress=progress)
    write_bytes(Path(output), result.data)
    write_json(report, result.report)
    fit, trip = result.report["forward_fit"], result.report["round_trip"]
    click.echo(
        f"{fit['patches']:.0f} patches; forward fit by cross-validation, dE00: "
        f"mean {fit['mean']:.2f}, 95 % {fit['p95']:.2f}, 99 % {fit['p99']:.2f}, max {fit['max']:.2f}"
    )
    click.echo(
        f"round trip inside the gamut, dE00: mean {trip['mean']:.2f}, 95 % {trip['p95']:.2f}, "
        f"99 % {trip['p99']:.2f}, max {trip['max']:.2f}"
    )
    reached = max(result.report["tac_reached"].values())
    click.echo(f"highest TAC in its tables: {reached:.1f} of {rules.tac:.0f} %")
    for note in data.notes:
        click.echo(f"note: {note}")
