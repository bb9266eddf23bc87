"""Run a recipe on a picture: bands in, bands out, and a report of what was done."""

from __future__ import annotations

import time
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import numpy as np

from plinto_core.arrays import Floats, Pixels, Progress
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.errors import BadRecipe, NotSupported
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import channel_names
from plinto_core.imaging.facts import PictureFacts
from plinto_core.imaging.reader import OpenedPicture, open_picture
from plinto_core.imaging.writer import OutputOptions, write_picture
from plinto_core.kernels.apply import max_total
from plinto_core.recipes.recipe import Recipe
from plinto_core.recipes.route import ColourRoute
from plinto_core.recipes.sources import Resolve, SourceChoice, choose_source
from plinto_core.transform.gamut_test import THRESHOLD
from plinto_core.transform.link import DeviceLink

SAMPLES = 200_000
"""About how many pixels the report's colour statistics are measured on."""


def route_for(recipe: Recipe, source: Profile, destination: Profile) -> ColourRoute:
    """The colour route of a recipe between two profiles."""
    return ColourRoute(
        source=source,
        destination=destination,
        intent=recipe.intent,
        bpc=recipe.bpc,
        rules=recipe.ink_rules,
        key=recipe.colour_key(source.digest, destination.digest),
    )


class _Measure:
    """Gathers the highest total ink and a regular sample of pixels while bands pass."""

    def __init__(self, facts: PictureFacts, bits: int) -> None:
        self.step = max(1, round((facts.width * facts.height / SAMPLES) ** 0.5))
        self.top = 65535 if bits == 16 else 255
        self.width = facts.width
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


def _converted(
    picture: OpenedPicture, link: DeviceLink, recipe: Recipe, measure: _Measure, progress: Progress
) -> Iterator[Pixels]:
    bits = recipe.delivery.bits
    done = 0
    for band in picture.bands():
        rows, width, channels = band.shape
        result = link.apply(band.reshape(-1, channels), bits=bits).reshape(rows, width, -1)
        measure.look(band, result)
        if recipe.delivery.negative:
            result = np.iinfo(result.dtype).max - result
        if recipe.delivery.mirror:
            result = result[:, ::-1]
        done += rows
        progress(0.1 + 0.85 * done / picture.facts.height)
        yield result


def run_recipe(
    recipe: Recipe,
    source: Path,
    target: Path,
    resolve: Resolve,
    *,
    progress: Progress = lambda share: None,
) -> dict[str, Any]:
    """Convert a picture; the result appears under `target` only when complete.

    Raises BadInput or NotSupported with a sentence for the user; `progress` may raise Cancelled.
    """
    began = time.monotonic()
    if source.exists() and target.exists() and source.samefile(target):
        raise BadRecipe("Input and output are the same file.", remedy="Choose another name.")
    with open_picture(source) as picture:
        facts = picture.facts
        chosen = choose_source(facts, recipe.source, resolve)
        destination = resolve(recipe.destination)
        if destination.channels not in (1, 3, 4) or destination.colour_space in ("Lab ", "XYZ "):
            raise NotSupported(
                f"Pictures of {destination.channels} inks cannot be written.",
                remedy="Choose an RGB, grey or CMYK destination.",
            )
        route = route_for(recipe, chosen.profile, destination)
        progress(0.01)
        link, link_error = route.measured_link()
        progress(0.1)
        measure = _Measure(facts, recipe.delivery.bits)
        options = OutputOptions(
            format=recipe.delivery.format,
            bits=recipe.delivery.bits,
            profile=destination.data if recipe.delivery.embed else None,
            resolution=facts.resolution,
            compression=recipe.delivery.compression,
            quality=recipe.delivery.quality,
        )
        bands = _converted(picture, link, recipe, measure, progress)
        write_picture(target, bands, (facts.height, facts.width, destination.channels), options)
    report = _report(recipe, facts, chosen, route, measure)
    report["link_error"] = link_error
    report["seconds"] = round(time.monotonic() - began, 3)
    progress(1.0)
    return report


def _report(
    recipe: Recipe, facts: PictureFacts, chosen: SourceChoice, route: ColourRoute, measure: _Measure
) -> dict[str, Any]:
    before, after = measure.samples()
    statistics = colour_statistics(route, before, after)
    rules = recipe.ink_rules
    return {
        "source": {"profile": chosen.profile.description, "origin": chosen.origin},
        "destination": {
            "profile": route.destination.description,
            "channels": list(channel_names(route.destination.colour_space)),
        },
        "intent": recipe.intent,
        "bpc": recipe.bpc,
        "ink_rules": rules.model_dump() if rules else None,
        "size": {"width": facts.width, "height": facts.height},
        "bits": recipe.delivery.bits,
        "format": recipe.delivery.format,
        "profile_embedded": recipe.delivery.embed,
        "flattened_on_white": facts.alpha != "none",
        "tac": {
            "max": round(measure.highest / measure.top * 100, 2),
            "at": {"x": measure.where[0], "y": measure.where[1]},
            "rule": rules.tac if rules else None,
        },
        **statistics,
    }


def colour_statistics(route: ColourRoute, before: Floats, inks: Floats) -> dict[str, Any]:
    """Share out of gamut and dE00 of source against print, on (n, channels) samples 0..1."""
    distance = route.out_of_gamut(before)
    errors = delta_e_2000(route.source_lab(before), route.print_lab(inks))
    return {
        "out_of_gamut": {
            "share": round(float((distance > THRESHOLD).mean()), 6),
            "threshold_de00": THRESHOLD,
        },
        "de00": {
            "mean": round(float(errors.mean()), 4),
            "p95": round(float(np.percentile(errors, 95)), 4),
            "p99": round(float(np.percentile(errors, 99)), 4),
            "max": round(float(errors.max()), 4),
            "samples": int(errors.size),
        },
    }
