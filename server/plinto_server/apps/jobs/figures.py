"""The figures beside the pictures: per intent, at the pointer, and the highest total ink."""

from __future__ import annotations

from typing import Any

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import Lab_to_XYZ
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.errors import CoreError
from plinto_core.icc.spaces import INTENTS, channel_names
from plinto_core.kernels.apply import max_total
from plinto_core.recipes import ColourRoute, Recipe
from plinto_core.recipes.fit import detail_kept, fits
from plinto_core.transform.gamut_test import THRESHOLD
from plinto_core.transform.sides import xyz_to_device
from plinto_server.apps.artwork import working_copy
from plinto_server.apps.jobs.models import Destination
from plinto_server.apps.jobs.rendering import (
    VEIL_SCALE,
    gamut_link,
    preview_size,
    route_of,
    tac_rule,
)

EDGE = 220
EXACT_PIXELS = 24_000_000


def intent_figures(destination: Destination, recipe: Recipe) -> list[dict[str, Any]]:
    """For every intent: share out of gamut, dE00 mean and 95th percentile, detail kept.

    Measured on the picture reduced to 220 pixels. Detail is the mean local lightness contrast
    of the print as a share of the original's.
    """
    small = working_copy.reduced(destination.job.artwork.sha256, EDGE)
    device = small.reshape(-1, small.shape[2]) / float(np.iinfo(small.dtype).max)
    found = []
    for intent in INTENTS:
        route = route_of(destination, recipe.model_copy(update={"intent": intent}))
        inks = route.link(size=preview_size(route)).evaluate(device)
        source, printed = route.source_lab(device), route.print_lab(inks)
        errors = delta_e_2000(source, printed)
        out = gamut_link(route).evaluate(device)[:, 0] * VEIL_SCALE > THRESHOLD
        found.append(
            {
                "intent": intent,
                "out_of_gamut": round(float(out.mean()) * 100, 1),
                "de00_mean": round(float(errors.mean()), 1),
                "de00_p95": round(float(np.percentile(errors, 95)), 1),
                "detail": round(detail_kept(source, printed, small.shape[:2]) * 100, 0),
            }
        )
    return found


def fit_advice(destination: Destination, recipe: Recipe) -> list[dict[str, Any]]:
    """Every intent with and without BPC for the reduced picture, one of them advised."""
    small = working_copy.reduced(destination.job.artwork.sha256, EDGE)
    device = small.reshape(-1, small.shape[2]) / float(np.iinfo(small.dtype).max)
    found = fits(route_of(destination, recipe), device, small.shape[:2])
    return [
        {
            "intent": f.intent,
            "bpc": f.bpc,
            "out_of_gamut": round(f.out_of_gamut * 100, 1),
            "de00_mean": round(f.de00_mean, 1),
            "de00_p95": round(f.de00_p95, 1),
            "de00_max": round(f.de00_max, 1),
            "detail": round(f.detail * 100),
            "banding": round(f.banding * 100, 1),
            "drift": round(f.drift, 2),
            "advised": f.advised,
        }
        for f in found
    ]


def ink_figures(destination: Destination, recipe: Recipe) -> dict[str, Any]:
    """Highest TAC and where it is, mean coverage of every ink.

    On every pixel up to 24 million, on the reduced working copy beyond that; "exact" says which.
    """
    route = route_of(destination, recipe)
    link = route.link(size=preview_size(route))
    chain = working_copy.levels(destination.job.artwork.sha256)
    level = next((c for c in chain if c.shape[0] * c.shape[1] <= EXACT_PIXELS), chain[-1])
    factor = chain[0].shape[1] / level.shape[1]
    best, where = -1, (0, 0)
    sums = np.zeros(route.destination.channels)
    for start in range(0, level.shape[0], 512):
        part = np.array(level[start : start + 512])
        inks = link.apply(part.reshape(-1, part.shape[2]), bits=16)
        total, at = max_total(inks)
        sums += inks.sum(axis=0)
        if total > best:
            best = int(total)
            where = (int(at) % level.shape[1], start + int(at) // level.shape[1])
    names = channel_names(route.destination.colour_space)
    area = level.shape[0] * level.shape[1] * 65535.0
    return {
        "tac_max": round(best / 655.35, 1),
        "tac_at": [int(where[0] * factor), int(where[1] * factor)],
        "tac_rule": tac_rule(destination, recipe),
        "exact": level is chain[0],
        "coverage": {n: round(float(s / area) * 100, 1) for n, s in zip(names, sums, strict=True)},
    }


def readout(destination: Destination, recipe: Recipe, x: int, y: int) -> dict[str, Any]:
    """Everything at one pixel, by the exact float path."""
    level = working_copy.levels(destination.job.artwork.sha256)[0]
    row, column = min(max(y, 0), level.shape[0] - 1), min(max(x, 0), level.shape[1] - 1)
    pixel = np.asarray(level[row, column])
    device = pixel[None].astype(np.float64) / np.iinfo(level.dtype).max
    route = route_of(destination, recipe)
    inks = route.inks(device)
    source, printed = route.source_lab(device), route.print_lab(inks)
    scale = 100.0 if route.source.colour_space == "CMYK" else 255.0
    return {
        "x": column,
        "y": row,
        "source_space": route.source.description,
        "source": {
            n: round(float(v) * scale, 1)
            for n, v in zip(channel_names(route.source.colour_space), device[0], strict=True)
        },
        "lab": [round(float(v), 1) for v in source[0]],
        "print_lab": [round(float(v), 1) for v in printed[0]],
        "inks": {
            n: round(float(v) * 100, 1)
            for n, v in zip(channel_names(route.destination.colour_space), inks[0], strict=True)
        },
        "tac": round(float(inks.sum()) * 100, 1),
        "tac_rule": tac_rule(destination, recipe),
        "de00": round(float(delta_e_2000(source, printed)[0]), 1),
        "out_of_gamut": bool(route.out_of_gamut(device)[0] > THRESHOLD),
    }


def neutral_axis(destination: Destination, recipe: Recipe) -> dict[str, Any]:
    """Inks along the greys from black to white, for the separation plot: (33 steps)."""
    route = route_of(destination, recipe)
    lightness = np.linspace(0, 100, 33)
    grey = _grey_device(route, lightness)
    inks = route.inks(grey) * 100
    names = channel_names(route.destination.colour_space)
    return {
        "lightness": [round(float(v), 1) for v in route.source_lab(grey)[:, 0]],
        "inks": {n: [round(float(v), 2) for v in inks[:, i]] for i, n in enumerate(names)},
        "print_lightness": [round(float(v), 1) for v in route.print_lab(inks / 100)[:, 0]],
    }


def _grey_device(route: ColourRoute, lightness: Floats) -> Floats:
    lab = np.stack([lightness, 0 * lightness, 0 * lightness], axis=1)
    try:
        return xyz_to_device(route.source, Lab_to_XYZ(lab), 1)
    except CoreError:
        # A source without a way back has no grey axis; equal values come nearest.
        ramp = np.linspace(0, 1, lightness.size)[:, None]
        return np.repeat(ramp, route.source.channels, axis=1)


def deciding_facts(destination: Destination, recipe: Recipe) -> dict[str, Any]:
    """The one or two facts of each stage, kept with the destination."""
    figures = intent_figures(destination, recipe)
    chosen = next(f for f in figures if f["intent"] == recipe.intent)
    inks = ink_figures(destination, recipe)
    return {"intent": chosen, "tac_max": inks["tac_max"], "tac_rule": inks["tac_rule"]}
