"""`plinto gamut`: what profiles print, beside each other."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import click
import numpy as np

from plinto_cli.files import write_bytes
from plinto_cli.references import referenced_profile
from plinto_core.colorimetry.cielab import LCh_to_Lab
from plinto_core.errors import BadProfile
from plinto_core.gamut.body import GamutBody
from plinto_core.gamut.views import SIGHTS, Sight, body_figures, body_of, pair_figures


@click.command("gamut")
@click.argument("profiles", nargs=-1, required=True, metavar="PROFILE…")
@click.option(
    "--sight",
    type=click.Choice(SIGHTS),
    default="paper",
    help="With the paper's white, with every white as white, or with black as black too (BPC).",
)
@click.option("--tac", type=click.FloatRange(50, 1500), help="Percent that inks are held to.")
@click.option("--cut", type=click.FloatRange(0, 100), metavar="L*", help="Outlines at this L*.")
@click.option("--csv", "csv_file", metavar="FILE.csv", help="The outlines of the cut, as a table.")
@click.option("--json", "as_json", is_flag=True, help="Everything, as JSON.")
def gamut_command(
    profiles: tuple[str, ...],
    sight: Sight,
    tac: float | None,
    cut: float | None,
    csv_file: str | None,
    as_json: bool,
) -> None:
    """What profiles print, beside each other."""
    if csv_file is not None and cut is None:
        raise click.UsageError("name the lightness of the cut with --cut")
    bodies = [_body(reference, sight, tac) for reference in profiles]
    figures = [body_figures(body) for body in bodies]
    pairs = [
        (a, b, pair_figures(bodies[a], bodies[b]))
        for a in range(len(bodies))
        for b in range(len(bodies))
        if a != b
    ]
    outlines = [_outline(body, cut) for body in bodies] if cut is not None else []
    if csv_file is not None:
        rows = ["profile,a,b"] + [
            f"{json.dumps(name)},{a:.2f},{b:.2f}"
            for name, outline in zip(profiles, outlines, strict=True)
            for a, b in outline
        ]
        write_bytes(Path(csv_file), ("\n".join(rows) + "\n").encode())
    if as_json:
        found: dict[str, Any] = {
            "sight": sight,
            "bodies": [{"of": n, **f.model_dump()} for n, f in zip(profiles, figures, strict=True)],
            "pairs": [{"body": a, "on": b, **f.model_dump()} for a, b, f in pairs],
            "cut": [{"of": n, "ab": o} for n, o in zip(profiles, outlines, strict=False)],
        }
        click.echo(json.dumps(found, indent=2))
        return
    for name, body in zip(profiles, figures, strict=True):
        click.echo(
            f"{name}: volume {body.volume}, L* {body.darkest:g} to {body.lightest:g}, most chroma "
            f"{body.most_chroma:g} at L* {body.at_lightness:g}, hue {body.at_hue:g}"
        )
    for a, b, pair in pairs:
        click.echo(
            f"{profiles[a]} on {profiles[b]}: {pair.coverage * 100:.1f} % covered, "
            f"dE00 {pair.de00_mean:g} mean, {pair.de00_p95:g} at 95 %"
        )


def _body(reference: str, sight: Sight, tac: float | None) -> GamutBody:
    body = body_of(referenced_profile(reference), sight, tac)
    if body is None:
        raise BadProfile(
            f"The colours of {reference} have no volume: one or two inks make a line or a surface."
        )
    return body


def _outline(body: GamutBody, lightness: float) -> list[list[float]]:
    """a* and b* around a cut, every three degrees; empty where the body has no such lightness."""
    low, high = body.lightness_range
    if not low <= lightness <= high:
        return []
    hues = np.arange(0.0, 360.0, 3.0)
    level = np.full(hues.size, lightness)
    lab = LCh_to_Lab(np.stack([level, body.chroma_at(level, hues), hues], axis=1))
    return [[round(float(a), 2), round(float(b), 2)] for _, a, b in lab]
