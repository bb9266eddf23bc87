"""Figures of the plates: total ink, coverage, histograms, consumption, aids and limits."""

from __future__ import annotations

from typing import Any

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import Lab_to_XYZ, LCh_to_Lab
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.corrections import Place
from plinto_core.errors import CoreError
from plinto_core.icc.colorants import ink_names
from plinto_core.inks.aids import fine_share, grain_share, screen_advice
from plinto_core.inks.consumption import Supplies, consumption
from plinto_core.inks.rules import InkRules
from plinto_core.inks.separation import darkest_black, darkest_neutral
from plinto_core.kernels.apply import max_total, plate_sums
from plinto_core.recipes import ColourRoute, Recipe
from plinto_core.recipes.evenness import evenness_of_greys
from plinto_core.recipes.output import print_resolution
from plinto_core.recipes.pixel_path import PixelPath
from plinto_core.recipes.route import forward_table, separates
from plinto_core.transform.sides import xyz_to_device
from plinto_server.apps.artwork import working_copy
from plinto_server.apps.jobs.links import ink_link, path_of, route_of
from plinto_server.apps.jobs.models import Destination
from plinto_server.apps.jobs.rendering import tac_rule

EXACT_PIXELS = 24_000_000
BINS = 50
SAMPLES = 100_000
FLEXO_DOT = 3.0
"""Percent below which a flexographic dot is taken to break up."""
MOST_VANISHING = 20.0
"""Percent that a view lets vanish at most."""


def ink_figures(destination: Destination, recipe: Recipe) -> dict[str, Any]:
    """Highest TAC and where it is; coverage, histogram and consumption of every ink; aids.

    On every pixel up to 24 million, on the reduced working copy beyond that; "exact" says which.
    Histograms and aids come from a regular sample.
    """
    path = path_of(destination, recipe)
    artwork = destination.job.artwork
    chain = working_copy.levels(artwork.picture_key)
    level = next((c for c in chain if c.shape[0] * c.shape[1] <= EXACT_PIXELS), chain[-1])
    factor = chain[0].shape[1] / level.shape[1]
    size = (artwork.facts["width"], artwork.facts["height"])
    best, where = -1, (0, 0)
    sums = np.zeros(path.route.destination.channels)
    kept = []
    step = max(1, round((level.shape[0] * level.shape[1] / SAMPLES) ** 0.5))
    for start in range(0, level.shape[0], 512):
        part = np.array(level[start : start + 512])
        place = Place(size, 0.0, start * factor, factor, factor)
        inks = path.inks(ink_link, part, place, bits=16)
        flat = inks.reshape(-1, inks.shape[2])
        total, at = max_total(flat)
        sums += plate_sums(flat)
        kept.append(inks[-start % step :: step, ::step].reshape(-1, inks.shape[2]).copy())
        if total > best:
            best = int(total)
            where = (int(at) % level.shape[1], start + int(at) // level.shape[1])
    names = ink_names(path.route.destination)
    area = level.shape[0] * level.shape[1] * 65535.0
    coverage = {n: float(s / area) for n, s in zip(names, sums, strict=True)}
    sample = np.concatenate(kept)
    return {
        "tac_max": round(best / 655.35, 1),
        "tac_at": [int(where[0] * factor), int(where[1] * factor)],
        "tac_rule": tac_rule(destination, recipe),
        "exact": level is chain[0],
        "coverage": {n: round(c * 100, 1) for n, c in coverage.items()},
        "histogram": _histogram(sample, names),
        "use": _use(destination, recipe, coverage),
        "aids": _aids(destination, recipe, path, sample, names),
        "greys": _greys(path.route),
        "regions": _black_regions(destination, recipe, path),
    }


def _greys(route: ColourRoute) -> dict[str, Any] | None:
    found = evenness_of_greys(route)
    return None if found is None else found.model_dump()


def _histogram(sample: np.ndarray, names: tuple[str, ...]) -> dict[str, list[float]]:
    """Percent of the pixels in 50 equal steps of tone value, the paper (0 %) left out."""
    edges = np.linspace(0, 65535, BINS + 1)
    found = {}
    for i, name in enumerate(names):
        plate = sample[:, i]
        counts, _ = np.histogram(plate[plate > 0], bins=edges)
        found[name] = [round(float(c) / max(1, plate.size) * 100, 3) for c in counts]
    return found


def _use(destination: Destination, recipe: Recipe, coverage: dict[str, float]) -> dict[str, Any]:
    supplies = Supplies.model_validate(destination.condition.supplies or {})
    used = consumption(
        coverage,
        supplies,
        size_mm=print_size(destination, recipe),
        copies=recipe.delivery.copies,
    )
    run = used.millilitres_of_run
    cost = used.cost_of_run
    return {
        "millilitres": {n: round(v, 3) for n, v in used.millilitres.items()},
        "run_millilitres": None if run is None else {n: round(v, 1) for n, v in run.items()},
        "cost_per_square_metre": round(used.cost_per_square_metre, 3),
        "run_cost": None if cost is None else round(cost, 2),
        "area": None if used.area is None else round(used.area, 4),
        "copies": used.copies,
        "currency": used.currency,
    }


def print_size(destination: Destination, recipe: Recipe) -> tuple[float, float] | None:
    """Width and height of the print in millimetres, None where nothing states it."""
    facts = destination.job.artwork.facts
    given = facts["resolution"]
    resolution = print_resolution(
        facts["width"], (given[0], given[1]) if given else None, recipe.delivery
    )
    if resolution is None:
        return None
    return facts["width"] / resolution[0] * 25.4, facts["height"] / resolution[1] * 25.4


def _aids(
    destination: Destination,
    recipe: Recipe,
    path: PixelPath,
    sample: np.ndarray,
    names: tuple[str, ...],
) -> dict[str, Any]:
    inks = sample[:: max(1, sample.shape[0] // 8_000)] / 65535.0
    grain = 0.0
    if "K" in names:
        lightness = path.route.print_lab(inks)[:, 0]
        black = inks[:, names.index("K")]
        grain = grain_share(lightness, black, destination.condition.process)
    films = recipe.delivery.films
    advice = None
    if destination.condition.process == "screen" or films is not None:
        ruling = films.ruling if films else 65.0
        found = screen_advice(ruling, films.resolution if films else 1200.0)
        advice = {
            "ruling": ruling,
            "mesh": found.mesh,
            "thread": round(found.thread),
            "opening": round(found.opening),
            "least_dot": round(found.least_dot, 1),
            "most_dot": round(found.most_dot, 1),
            "tones": found.tones,
        }
    dot = _vanishing(destination, advice["least_dot"] if advice else 0.0)
    fine = fine_share(sample, dot)
    return {
        "fine": {n: round(float(v) * 100, 1) for n, v in zip(names, fine, strict=True)},
        "fine_dot": dot,
        "grain": round(grain * 100, 1),
        "screen": advice,
    }


def _vanishing(destination: Destination, through_mesh: float) -> float:
    """Percent below which tones vanish: as the condition says, else through the mesh, else of flexo plates;
    0 where all are taken to print."""
    condition = destination.condition
    usual = FLEXO_DOT if condition.process == "flexo" else 0.0
    return min(float(condition.least_dot or through_mesh or usual), MOST_VANISHING)


def _black_regions(
    destination: Destination, recipe: Recipe, path: PixelPath
) -> list[dict[str, Any]]:
    """For every region whose black is remade: dE00 against the print without that, and black."""
    artwork = destination.job.artwork
    found: list[dict[str, Any]] = []
    press = path.route.destination
    black = forward_table(press).black if separates(press) else None
    if black is None:
        return found
    for number, correction in enumerate(recipe.corrections):
        if correction.black is None or correction.region is None or not correction.on:
            continue
        rest = tuple(
            c.model_copy(update={"black": None}) if i == number else c
            for i, c in enumerate(recipe.corrections)
        )
        without = PixelPath(path.route, rest)
        x, y = np.array(correction.region.corners).T / 100
        box = [np.clip(v, 0, 1) for v in (x.min(), x.max(), y.min(), y.max())]
        if correction.region.outside:
            box = [0.0, 1.0, 0.0, 1.0]
        width, height = artwork.facts["width"], artwork.facts["height"]
        area = (
            box[0] * width,
            box[2] * height,
            max(1.0, (box[1] - box[0]) * width),
            max(1.0, (box[3] - box[2]) * height),
        )
        columns, rows = 120, 120
        pixels = working_copy.region(artwork.picture_key, area, columns, rows)
        place = Place((width, height), area[0], area[1], area[2] / columns, area[3] / rows)
        inside = path.weights(place, rows, columns)[list(path.regional).index(correction)]
        chosen = inside > 0.5
        if not chosen.any():
            continue
        a, b = (
            p.inks(ink_link, pixels, place, bits=16).reshape(-1, path.route.destination.channels)[
                chosen
            ]
            / 65535.0
            for p in (without, path)
        )
        errors = delta_e_2000(path.route.print_lab(a), path.route.print_lab(b))
        found.append(
            {
                "correction": number,
                "de00_mean": round(float(errors.mean()), 2),
                "de00_max": round(float(errors.max()), 2),
                "black_before": round(float(a[:, black].mean()) * 100, 1),
                "black_after": round(float(b[:, black].mean()) * 100, 1),
            }
        )
    return found


def neutral_axis(destination: Destination, recipe: Recipe) -> dict[str, Any]:
    """Inks along the greys from black to white, for the separation plot: (33 steps)."""
    lightness = np.linspace(0, 100, 33)
    return _ramp(
        route_of(destination, recipe), np.stack([lightness, 0 * lightness, 0 * lightness], axis=1)
    )


def hue_ramp(destination: Destination, recipe: Recipe, hue: float) -> dict[str, Any]:
    """Inks along one CIELAB hue: from black through the most chromatic print to white."""
    route = route_of(destination, recipe)
    if not separates(route.destination):
        return neutral_axis(destination, recipe)
    body = forward_table(route.destination).body(InkRules())
    levels = np.linspace(0, 100, 101)
    edge = body.chroma_at(levels, np.full(levels.size, hue))
    cusp, most = float(levels[edge.argmax()]), float(edge.max())
    lightness = np.concatenate([np.linspace(0, cusp, 17), np.linspace(cusp, 100, 17)[1:]])
    chroma = most * np.minimum(
        lightness / max(cusp, 1e-6), (100 - lightness) / max(100 - cusp, 1e-6)
    )
    lch = np.stack([lightness, chroma, np.full(lightness.size, hue)], axis=1)
    return _ramp(route, LCh_to_Lab(lch))


def _ramp(route: ColourRoute, lab: Floats) -> dict[str, Any]:
    device = _source_device(route, lab)
    inks = route.inks(device) * 100
    names = ink_names(route.destination)
    printed = route.print_lab(inks / 100)
    return {
        "lightness": [round(float(v), 1) for v in lab[:, 0]],
        "inks": {n: [round(float(v), 2) for v in inks[:, i]] for i, n in enumerate(names)},
        "print_lightness": [round(float(v), 1) for v in printed[:, 0]],
        "print_chroma": [round(float(v), 1) for v in np.hypot(printed[:, 1], printed[:, 2])],
    }


def _source_device(route: ColourRoute, lab: Floats) -> Floats:
    try:
        return xyz_to_device(route.source, Lab_to_XYZ(lab), 1)
    except CoreError:
        # A source without a way back has no such ramp; equal values come nearest.
        ramp = (lab[:, :1] - lab[0, 0]) / max(float(lab[-1, 0] - lab[0, 0]), 1e-9)
        return np.repeat(ramp, route.source.channels, axis=1)


def ink_limits(destination: Destination, recipe: Recipe) -> dict[str, Any]:
    """The darkest print, the darkest grey and the gamut's volume that the ink rules leave."""
    route = route_of(destination, recipe)
    if not separates(route.destination):
        return {
            "darkest": None,
            "darkest_grey": None,
            "darkest_inks": None,
            "volume": None,
            "whole_volume": None,
        }
    rules = recipe.ink_rules or InkRules.model_validate(destination.condition.ink_rules)
    forward = forward_table(route.destination)
    point = darkest_black(forward, rules)
    volume, whole = (forward.body(r).volume for r in (rules, InkRules()))
    return {
        "darkest": [round(float(v), 1) for v in point.lab],
        "darkest_grey": [round(float(v), 1) for v in darkest_neutral(forward, rules).lab],
        "darkest_inks": {
            n: round(float(v) * 100, 1)
            for n, v in zip(ink_names(route.destination), point.inks, strict=True)
        },
        "volume": round(volume),
        "whole_volume": round(whole),
    }
