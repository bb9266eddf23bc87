"""`plinto ask`: a question answered in one go."""

from __future__ import annotations

from pathlib import Path

import click
import numpy as np

from plinto_cli.condition import condition_in
from plinto_cli.files import write_bytes, write_json
from plinto_cli.references import referenced_profile
from plinto_core.arrays import Floats
from plinto_core.errors import BadInput, BadProfile
from plinto_core.icc import Profile
from plinto_core.icc.parts import why_not_examined
from plinto_core.imaging import open_picture
from plinto_core.imaging.resample import resampled
from plinto_core.questions import QUESTIONS, Answer
from plinto_core.questions.page import answer_pdf
from plinto_core.questions.picture import which_suits
from plinto_core.questions.profiles import greys_grey, reaches_total, step_tones
from plinto_core.questions.proofing import can_show, still_alike
from plinto_core.recipes.sources import choose_source

EDGE = 120
"""Pixels of the longer side of a picture that is asked about."""
_ALL = "; ".join(f"{q.key}: {q.asked}" for q in QUESTIONS)


@click.command("ask", epilog=f"Questions and their FILEs, in this order. {_ALL}")
@click.argument("question", type=click.Choice([q.key for q in QUESTIONS]))
@click.argument("files", metavar="FILE...", nargs=-1, required=True)
@click.option(
    "--intent", type=click.Choice(["perceptual", "relative", "saturation", "absolute"]),
    default="relative", show_default=True, help="Of tones and greys.",
)  # fmt: skip
@click.option("--bpc/--no-bpc", default=True, show_default=True, help="Of tones and greys.")
@click.option("--total", type=click.FloatRange(50, 1500), default=300, show_default=True)
@click.option(
    "--mean", type=click.FloatRange(0.1, 20), default=1.5, show_default=True,
    help="dE00 up to which devices are alike.",
)  # fmt: skip
@click.option("--pdf", metavar="FILE.pdf", help="The answer as pages.")
@click.option("--json", "as_json", metavar="FILE.json", help="Everything.")
def ask_command(
    question: str, files: tuple[str, ...], intent: str, total: float, mean: float, pdf: str | None,
    as_json: str | None, *, bpc: bool,
) -> None:  # fmt: skip
    """A question about profiles or a picture, answered in words and figures."""
    found = _answer(question, list(files), intent, total, mean, bpc=bpc)
    if pdf:
        write_bytes(Path(pdf), answer_pdf(found))
    write_json(as_json, found)
    click.echo(found.said)
    for line in found.more:
        click.echo(f"  {line}")
    if found.figures is not None:
        for row in found.figures.rows:
            values = ", ".join("-" if v is None else f"{v:.{row.digits}f}" for v in row.values)
            click.echo(f"  {row.label}: {values} {row.unit}".rstrip())


def _answer(
    question: str, files: list[str], intent: str, total: float, mean: float, *, bpc: bool
) -> Answer:
    needed = {
        "show": ("PRESS", "PROOFER"), "suit": ("PICTURE", "FIRST", "SECOND"),
        "alike": ("FIRST", "SECOND"), "tones": ("FROM", "INTO"), "total": ("PROFILE",),
        "greys": ("PROFILE",),
    }[question]  # fmt: skip
    if len(files) != len(needed):
        raise BadInput(
            f"The question {question} is asked with {len(needed)} files.",
            remedy=f"Give {' '.join(needed)}.",
        )
    if question == "suit":
        device, shape, source = _picture(Path(files[0]))
        return which_suits(device, shape, source, _profile(files[1]), _profile(files[2]))
    profiles = [_profile(f) for f in files]
    if question == "show":
        return can_show(*profiles)
    if question == "alike":
        return still_alike(profiles[0], profiles[1], mean)
    if question == "tones":
        return step_tones(profiles[0], profiles[1], intent, bpc=bpc)
    if question == "total":
        return reaches_total(profiles[0], total)
    return greys_grey(profiles[0], intent, bpc=bpc)


def _profile(file: str) -> Profile:
    condition = condition_in(file)
    profile = condition[1] if condition is not None else referenced_profile(file)
    reason = why_not_examined(profile)
    if reason:
        raise BadProfile(f"{file} cannot be asked about: {reason}.")
    return profile


def _picture(path: Path) -> tuple[Floats, tuple[int, int], Profile]:
    with open_picture(path) as picture:
        facts = picture.facts
        share = min(1.0, EDGE / max(facts.width, facts.height))
        size = (max(1, round(facts.height * share)), max(1, round(facts.width * share)))
        bands = picture.bands()
        if size != (facts.height, facts.width):
            bands = resampled(bands, (facts.height, facts.width), size)
        pixels = np.concatenate(list(bands))
    device = pixels.reshape(-1, pixels.shape[2]) / float(np.iinfo(pixels.dtype).max)
    return device, size, choose_source(facts, None, referenced_profile).profile
