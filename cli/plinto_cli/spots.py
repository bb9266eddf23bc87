"""`plinto spots`: builds of spot colours in the inks of presses."""

from __future__ import annotations

import json
from pathlib import Path

import click

from plinto_cli.condition import condition_in
from plinto_cli.files import read_bytes, write_bytes
from plinto_cli.references import referenced_profile
from plinto_core.errors import BadInput
from plinto_core.icc import Profile
from plinto_core.inks.rules import InkRules
from plinto_core.spots.builds import MOST_INKS, SpotOptions, spot_builds
from plinto_core.spots.table import aims_of, builds_csv
from plinto_core.swatches.files import read_swatches
from plinto_core.swatches.swatches import Swatches
from plinto_core.swatches.typed import typed_colour


@click.command("spots")
@click.argument("colours", metavar="LIST|COLOUR")
@click.option(
    "--to", "presses", multiple=True, required=True, metavar="PRESS",
    help="A printing condition's file or a profile with inks; once for every press.",
)  # fmt: skip
@click.option(
    "--inks", type=click.IntRange(1, MOST_INKS), default=3, show_default=True,
    help="The most inks in one build.",
)  # fmt: skip
@click.option(
    "--gain", type=click.FloatRange(0, 20), default=0.5, show_default=True,
    help="How much nearer, in dE, one ink more must come.",
)  # fmt: skip
@click.option(
    "--least", type=click.FloatRange(0, 50),
    help="Percent below which a tint is not used; without it the condition's own least dot.",
)  # fmt: skip
@click.option("--tac", type=click.FloatRange(50, 1500), help="Percent that a build is held to.")
@click.option("--relative", is_flag=True, help="With the paper as white, not as measured.")
@click.option("--csv", "csv_file", metavar="FILE.csv", help="All builds as a table.")
@click.option("--json", "as_json", is_flag=True, help="Everything, as JSON.")
def spots_command(
    colours: str, presses: tuple[str, ...], inks: int, gain: float, least: float | None,
    tac: float | None, csv_file: str | None, *, relative: bool, as_json: bool,
) -> None:  # fmt: skip
    """Builds of spot colours in the inks of presses, and how they miss.

    A list is CGATS, CxF or CSV; a colour is "50 -20 -35", "lch 50 40 210", "rgb 0 128 200" or "#0080c8".
    """
    names, aims = aims_of(_measured(colours))
    found = []
    for press in presses:
        called, profile, rules, own = _press(press)
        if tac is not None:
            rules = rules.model_copy(update={"tac": min(tac, rules.tac)})
        options = SpotOptions(
            inks=inks, gain=gain, least=own if least is None else least,
            white="relative" if relative else "absolute",
        )  # fmt: skip
        found.append((called, spot_builds(profile, rules, names, aims, options)))
    if csv_file:
        write_bytes(Path(csv_file), builds_csv(found).encode())
    if as_json:
        data = [
            {"press": called, "builds": [b.model_dump() for b in builds]}
            for called, builds in found
        ]
        click.echo(json.dumps(data, indent=2))
        return
    for called, builds in found:
        click.echo(called)
        for one in builds:
            made = " ".join(f"{n} {v}" for n, v in one.best.inks.items())
            click.echo(f"  {one.name}: {made}, dE00 {one.best.de00:g}, {one.way}")


def _measured(file: str) -> Swatches:
    """Of a file, or the one colour that is typed in its place."""
    if not Path(file).exists():
        try:
            return typed_colour(file)[0]
        except BadInput:
            pass  # The file's own error says more.
    found = read_swatches(read_bytes(file, "list of colours"), file)
    return next((one for one in found if one.space == "Lab "), found[0])


def _press(file: str) -> tuple[str, Profile, InkRules, float]:
    """Name, profile, ink rules and least dot of a condition's file or of a profile."""
    condition = condition_in(file)
    if condition is not None:
        facts, profile = condition
        return facts.name, profile, facts.ink_rules, facts.least_dot
    profile = referenced_profile(file)
    return profile.description or Path(file).name, profile, InkRules(), 0.0
