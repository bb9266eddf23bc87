"""Run a recipe on a picture: bands in, bands out, and a report of what was done."""

from __future__ import annotations

import time
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import NamedTuple

import numpy as np

from plinto_core.arrays import Floats, Pixels, Progress
from plinto_core.colorimetry.difference import Differences, delta_e_2000, in_figures
from plinto_core.corrections import Place
from plinto_core.errors import BadRecipe
from plinto_core.gamut.outside import THRESHOLD, WAYS, shares_by_way
from plinto_core.icc.colorants import ink_names
from plinto_core.imaging.facts import PictureFacts
from plinto_core.imaging.reader import open_picture
from plinto_core.imaging.resample import resampled
from plinto_core.kernels.apply import max_total
from plinto_core.recipes.evenness import evenness_of_greys
from plinto_core.recipes.families import FamilyLoss, family_losses
from plinto_core.recipes.output import write_output
from plinto_core.recipes.pixel_path import PixelPath
from plinto_core.recipes.recipe import Recipe
from plinto_core.recipes.report import (
    ConversionReport,
    DestinationUsed,
    OutOfGamut,
    PixelPlace,
    PixelSize,
    SourceUsed,
    TotalInk,
)
from plinto_core.recipes.route import ColourRoute
from plinto_core.recipes.runnable import Prepared, prepare
from plinto_core.recipes.sources import (
    FindTable,
    Resolve,
    no_tables,
    settle_extra_channels,
)
from plinto_core.recipes.unconverted import unconverted_figures
from plinto_core.transform.link import DeviceLink, LinkError
from plinto_core.words import say

SAMPLES = 200_000
"""About how many pixels the report's colour statistics are measured on."""


class _Measure:
    """Gathers the highest total ink and a regular sample of pixels while bands pass."""

    def __init__(self, size: tuple[int, int], bits: int) -> None:
        self.step = max(1, round((size[0] * size[1] / SAMPLES) ** 0.5))
        self.top = 65535 if bits == 16 else 255
        self.width = size[1]
        self.highest = -1
        self.where = (0, 0)
        self.row = 0
        self.before: list[Pixels] = []
        self.after: list[Pixels] = []

    def look(self, band: Pixels, result: Pixels) -> None:
        total, at = max_total(np.ascontiguousarray(result).reshape(-1, result.shape[2]))
        if total > self.highest:
            self.highest = int(total)
            self.where = (int(at) % self.width, self.row + int(at) // self.width)
        first = -self.row % self.step
        self.before.append(band[first :: self.step, :: self.step].reshape(-1, band.shape[2]).copy())
        self.after.append(
            result[first :: self.step, :: self.step].reshape(-1, result.shape[2]).copy()
        )
        self.row += band.shape[0]

    def samples(self) -> tuple[Floats, Floats]:
        before = np.concatenate(self.before)
        scale = float(np.iinfo(before.dtype).max)
        return before / scale, np.concatenate(self.after) / float(self.top)


class _Converter:
    """Source bands to bands of inks, along the recipe's pixel path, measured while they pass."""

    def __init__(
        self, recipe: Recipe, path: PixelPath, progress: Progress, dither: bool = False
    ) -> None:
        self.recipe, self.path, self.progress, self.dither = recipe, path, progress, dither
        self.links: dict[str, DeviceLink] = {}
        self.link_error: LinkError | None = None

    def link_of(self, route: ColourRoute) -> DeviceLink:
        """The measured link of a route; the worst error of all is kept."""
        if route.key not in self.links:
            link, error = route.measured_link()
            self.links[route.key] = link
            if self.link_error is None or error.mean >= self.link_error.mean:
                self.link_error = error
        return self.links[route.key]

    def bands(
        self, bands: Iterator[Pixels], size: tuple[int, int], scale: tuple[float, float],
        measure: _Measure | None,
    ) -> Iterator[Pixels]:  # fmt: skip
        """`size` (height, width) of what the bands hold; `scale` leads to the original's pixels."""
        delivery = self.recipe.delivery
        picture = (round(size[1] * scale[1]), round(size[0] * scale[0]))
        row = 0
        for band in bands:
            place = Place(picture, 0.0, row * scale[0], scale[1], scale[0])
            result = self.path.inks(
                self.link_of, band, place, bits=delivery.bits, dither=self.dither
            )
            if measure is not None:
                measure.look(band, result)
            row += band.shape[0]
            self.progress(0.1 + 0.8 * row / size[0])
            yield result


@dataclass(frozen=True)
class OpenedRun:
    """A recipe ready to run on an opened picture; bands : the picture's own, at the size of the result."""

    ready: Prepared
    facts: PictureFacts
    bands: Iterator[Pixels]
    converter: _Converter

    def inks(self, measure: _Measure | None = None) -> Iterator[Pixels]:
        """Bands of the destination's numbers, (rows, width, channels)."""
        size, facts = self.ready.size, self.facts
        scale = (facts.height / size[0], facts.width / size[1])
        return self.converter.bands(self.bands, size, scale, measure)


@contextmanager
def opened_run(
    recipe: Recipe, source: Path, resolve: Resolve, find_table: FindTable, progress: Progress
) -> Iterator[OpenedRun]:
    """Open a picture and all that a recipe needs for it; raises BadInput or NotSupported."""
    with open_picture(source, page=recipe.page) as picture:
        facts = picture.facts
        settle_extra_channels(facts, recipe.extra_channels)
        ready = prepare(recipe, facts, resolve, find_table)
        progress(0.01)
        path = PixelPath(ready.route, recipe.corrections)
        converter = _Converter(recipe, path, progress, recipe.delivery.dithers(facts.bits))
        converter.link_of(ready.route)
        progress(0.1)
        bands = picture.bands()
        if ready.size != (facts.height, facts.width):
            bands = resampled(bands, (facts.height, facts.width), ready.size)
        yield OpenedRun(ready, facts, bands, converter)


def run_recipe(
    recipe: Recipe,
    source: Path,
    target: Path,
    resolve: Resolve,
    *,
    find_table: FindTable = no_tables,
    progress: Progress = lambda share: None,
) -> ConversionReport:
    """Convert a picture; the result appears under `target` only when complete.

    Raises BadInput or NotSupported with a sentence for the user; `progress` may raise Cancelled.
    """
    began = time.monotonic()
    if source.exists() and target.exists() and source.samefile(target):
        raise BadRecipe(say("recipes.same-file"))
    with opened_run(recipe, source, resolve, find_table, progress) as opened:
        facts, ready, converter = opened.facts, opened.ready, opened.converter
        chosen, route, destination = ready.source, ready.route, ready.route.destination
        size, resolution = ready.size, ready.resolution
        measure = _Measure(size, recipe.delivery.bits)
        shape = (*size, destination.channels)
        write_output(target, opened.inks(measure), shape, resolution, recipe, destination, progress)
    before, after = measure.samples()
    rules = recipe.ink_rules
    assert converter.link_error is not None
    report = ConversionReport(
        source=SourceUsed(profile=chosen.profile.description, origin=chosen.origin),
        destination=DestinationUsed(
            profile=destination.description, channels=ink_names(destination)
        ),
        intent=route.used_intent,
        bpc=recipe.bpc,
        perceptual=None if route.keeps_numbers else route.mapped,
        numbers="kept" if route.keeps_numbers else "made anew",
        link=route.conversion.description if route.conversion else None,
        extra_channels=tuple(facts.extra_channels),
        ink_rules=rules,
        size=PixelSize(width=size[1], height=size[0]),
        resolution=(round(resolution[0], 2), round(resolution[1], 2)) if resolution else None,
        corrections=len([c for c in recipe.corrections if c.on]),
        bits=recipe.delivery.bits,
        dithered=converter.dither,
        format=recipe.delivery.format,
        profile_embedded=recipe.delivery.embed,
        flattened_on_white=facts.alpha != "none",
        tac=TotalInk(
            max=round(measure.highest / measure.top * 100, 2),
            at=PixelPlace(x=measure.where[0], y=measure.where[1]),
            rule=rules.tac if rules else None,
        ),
        link_error=converter.link_error,
        greys=evenness_of_greys(route),
        unconverted=unconverted_figures(route, before),
        seconds=round(time.monotonic() - began, 3),
        **colour_statistics(route, before, after)._asdict(),
    )
    progress(1.0)
    return report


class ColourStatistics(NamedTuple):
    """What a report says of the colours."""

    out_of_gamut: OutOfGamut
    families: tuple[FamilyLoss, ...]
    de00: Differences


def colour_statistics(route: ColourRoute, before: Floats, inks: Floats) -> ColourStatistics:
    """Shares that are too vivid, too dark and too light, what the families of hues lose, and dE00 of
    source against print, on (n, channels) samples 0..1."""
    miss = route.out_of_gamut(before)
    original, aim = route.source_lab(before), route.aim_lab(before)
    printed = route.print_lab(inks)
    by_way = [round(v, 6) for v in shares_by_way(miss)]
    return ColourStatistics(
        OutOfGamut(
            share=round(sum(shares_by_way(miss)), 6),
            threshold_de00=THRESHOLD,
            **{f"too_{w}": v for w, v in zip(WAYS, by_way, strict=True)},
        ),
        tuple(family_losses(original, aim, printed, miss)),
        in_figures(delta_e_2000(original, printed)),
    )
