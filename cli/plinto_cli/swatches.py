"""`plinto swatches`: lists of colours made, taken from pictures, and turned into other formats."""

from __future__ import annotations

import math
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import click
import numpy as np

from plinto_cli.files import read_bytes, resolve_profile, write_bytes
from plinto_core.arrays import Pixels
from plinto_core.disk import ask_room, write_npy
from plinto_core.errors import BadInput
from plinto_core.imaging.reader import open_picture
from plinto_core.swatches import ready
from plinto_core.swatches.files import Format, read_swatches, write_swatches
from plinto_core.swatches.sampling import Grid, dominant, sample_grid
from plinto_core.swatches.swatches import Swatches

_FORMAT_OF: dict[str, Format] = {".csv": "csv", ".txt": "cgats", ".cxf": "cxf"}
READY = ("neutrals", "solids", "chart", "extremes")
_OUT = click.option(
    "--out",
    "target",
    required=True,
    metavar="FILE",
    help="The list, as .csv, .txt (CGATS) or .cxf.",
)


def write_list(listed: Swatches, target: str) -> None:
    """Write a list in the format that the file's name says; raises BadInput."""
    form = _FORMAT_OF.get(Path(target).suffix.lower())
    if form is None:
        raise BadInput(
            f"The name {Path(target).name} says no format.", remedy="End it in .csv, .txt or .cxf."
        )
    write_bytes(Path(target), write_swatches(listed, form))
    for note in listed.notes:
        click.echo(note, err=True)


@click.group("swatches")
def swatches_group() -> None:
    """Lists of colours: made, taken from pictures, turned into other formats."""


@swatches_group.command("convert")
@click.argument("source", metavar="FILE")
@click.option(
    "--measured", is_flag=True, help="The measured colours of a file with device values too."
)
@_OUT
def convert_command(source: str, target: str, *, measured: bool) -> None:
    """Turn CSV, CGATS text, CxF3 or what a profile holds into another format."""
    found = read_swatches(read_bytes(source, "list of colours"), source)
    wanted = [one for one in found if not measured or one.space == "Lab "]
    if not wanted:
        raise BadInput("The list holds no measured colours.")
    write_list(wanted[0], target)


@swatches_group.command("make")
@click.argument("kind", type=click.Choice(READY))
@click.argument("profile", required=False)
@click.option(
    "--count", type=int, help="Steps of neutrals, steps a channel of a chart, hues of extremes."
)
@_OUT
def make_command(kind: str, profile: str | None, count: int | None, target: str) -> None:
    """Make a list that is ready: neutrals, or a profile's solids, chart or extreme colours."""
    if kind == "neutrals":
        write_list(ready.neutrals(21 if count is None else count), target)
        return
    if profile is None:
        raise click.UsageError(f"name the profile whose {kind} are wanted")
    found = resolve_profile(profile)
    if kind == "solids":
        listed = ready.solids(found)
    elif kind == "chart":
        listed = ready.chart(found, 6 if count is None else count)
    else:
        listed = ready.extremes(found, 24 if count is None else count)
    write_list(listed, target)


@swatches_group.command("sample")
@click.argument("picture")
@click.option("--region", metavar="X,Y,W,H", help="In pixels; the whole picture without it.")
@click.option("--marks", default="8x6", show_default=True, help="Columns x rows of sample marks.")
@click.option("--mark", default=5, show_default=True, help="Edge of a mark in pixels.")
@click.option("--dominant", "count", type=int, help="That many dominant colours instead of a grid.")
@_OUT
def sample_command(
    picture: str, region: str | None, marks: str, mark: int, count: int | None, target: str
) -> None:
    """Take a picture's colours: under a grid of sample marks, or its dominant ones."""
    columns, rows = _numbers(marks.lower(), "x", 2, "--marks")
    with _mapped(picture) as (pixels, space):
        high, wide = pixels.shape[:2]
        box = _numbers(region, ",", 4, "--region") if region else [0.0, 0.0, wide, high]
        if count is not None:
            x, y, w, h = (int(v) for v in box)
            part = pixels[max(y, 0) : y + h, max(x, 0) : x + w]
            if part.size == 0:
                raise BadInput("The region lies outside the picture.")
            step = max(1, int(np.sqrt(part.shape[0] * part.shape[1] / 250_000)))
            listed = dominant(np.array(part[::step, ::step]), space, count)
        else:
            grid = Grid(box[0], box[1], box[2], box[3], int(columns), int(rows), mark)
            listed = sample_grid(pixels, space, grid)
    write_list(listed, target)


def _numbers(words: str, mark: str, count: int, option: str) -> list[float]:
    try:
        found = [float(word) for word in words.split(mark)]
    except ValueError:
        found = []
    if len(found) != count or not np.isfinite(found).all():
        raise click.UsageError(f"{option} takes {count} numbers with {mark!r} between them")
    return found


@contextmanager
def _mapped(path: str) -> Iterator[tuple[Pixels, str]]:
    """A picture at full size, mapped on disk so that a large one does not fill the memory."""
    with tempfile.TemporaryDirectory() as folder, open_picture(path) as picture:
        facts = picture.facts
        shape = (facts.height, facts.width, facts.channels)
        ask_room(Path(folder), math.prod(shape) * facts.bits // 8)
        pixels = write_npy(Path(folder) / "p.npy", picture.bands(), shape, f"u{facts.bits // 8}")
        yield pixels, facts.space
