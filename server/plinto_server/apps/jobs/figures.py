"""The figures beside the pictures: per intent, at the pointer and at sample points."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.difference import delta_e_2000, in_figures
from plinto_core.corrections import Place
from plinto_core.examination.fidelity import PictureTrip, picture_trip
from plinto_core.examination.tones_lost import tones_lost
from plinto_core.gamut.outside import WAYS, way_out
from plinto_core.icc import Profile
from plinto_core.icc.colorants import ink_names
from plinto_core.icc.spaces import INTENTS, is_subtractive
from plinto_core.keeping import Kept
from plinto_core.recipes import ColourRoute, Recipe, parse_recipe
from plinto_core.recipes.families import family_losses, shares_out
from plinto_core.recipes.fit import Fit, detail_kept, fits, vividness_kept
from plinto_core.recipes.leaf import leaf
from plinto_core.recipes.pixel_path import PixelPath
from plinto_core.recipes.unconverted import unconverted_figures
from plinto_core.recipes.vividest import vividest
from plinto_server.apps.artwork import working_copy
from plinto_server.apps.jobs.ink_figures import ink_figures
from plinto_server.apps.jobs.links import VEIL_SCALE, gamut_link, path_of, preview_inks, route_of
from plinto_server.apps.jobs.models import Destination
from plinto_server.apps.jobs.points import against_target
from plinto_server.apps.jobs.rendering import tac_rule

EDGE = 220
TRIED_EDGE = 140
"""Of what is tried in twenty ways."""
Figures = list[dict[str, Any]]
_KNOWN: Kept[tuple[str, str, str], Figures] = Kept(512)
"""What was measured of a picture under all intents: pages are left and come back to, and the figures do
not depend on which intent is chosen."""


def _known(
    what: str, destination: Destination, path: PixelPath, measure: Callable[[], Figures]
) -> Figures:
    """path : with the intent, and whatever else does not matter, at one value for all."""
    return _KNOWN.get((what, destination.job.artwork.picture_key, path.key), measure)


def small_picture(
    destination: Destination, edge: int = EDGE
) -> tuple[Floats, Place, tuple[int, int]]:
    """The reduced picture as (n, channels) values 0..1, its place, and its rows and columns."""
    artwork = destination.job.artwork
    small = working_copy.reduced(artwork.picture_key, edge)
    rows, columns = small.shape[:2]
    facts = artwork.facts
    size = (facts["width"], facts["height"])
    place = Place(size, 0.0, 0.0, size[0] / columns, size[1] / rows)
    device = small.reshape(-1, small.shape[2]) / float(np.iinfo(small.dtype).max)
    return device, place, (rows, columns)


def printed_lab(path: PixelPath, device: Floats, place: Place, shape: tuple[int, int]) -> Floats:
    """(n, 3) Lab of the print through preview links, regions mixed."""
    inks = path.exact(preview_inks, device, place, shape)
    return path.route.print_lab(inks)


def _percent(share: float | None) -> float | None:
    return None if share is None else round(share * 100, 1)


def intent_figures(destination: Destination, recipe: Recipe) -> Figures:
    """For every intent: shares that are too vivid, too dark and too light, what the families of hues
    lose, dE00 mean and 95th percentile, detail and vividness kept, and the vividness if the source were not
    widened.

    Measured on the picture reduced to 220 pixels, against the corrected artwork. Detail is the
    mean local lightness contrast of the print as a share of the artwork's.
    """
    path = path_of(destination, recipe.model_copy(update={"intent": INTENTS[0]}))
    return _known("intents", destination, path, lambda: _intent_figures(destination, recipe))


def _intent_figures(destination: Destination, recipe: Recipe) -> Figures:
    device, place, shape = small_picture(destination)
    found = []
    asked: dict[bool, tuple[Floats, Floats, Floats]] = {}
    plain = recipe.model_copy(update={"vivid": None})
    for intent in INTENTS:
        path = path_of(destination, recipe.model_copy(update={"intent": intent}))
        absolute = intent == "absolute"
        # The media-relative ones ask for the same, whatever they make of it.
        if absolute not in asked:
            asked[absolute] = (
                path.exact(lambda r, d: r.aim_lab(d), device, place, shape),
                path.exact(lambda r, d: gamut_link(r).evaluate(d), device, place, shape),
                path.route.source_lab(device),
            )
        source, away, original = asked[absolute]
        printed = printed_lab(path, device, place, shape)
        errors = delta_e_2000(source, printed)
        found.append(
            {
                "intent": intent,
                **shares_out(away * VEIL_SCALE),
                "families": [
                    f.model_dump()
                    for f in family_losses(original, source, printed, away * VEIL_SCALE)
                ],
                "vividness": _percent(vividness_kept(original, printed)),
                "vividness_plain": None
                if recipe.vivid is None
                else _percent(
                    vividness_kept(
                        original,
                        printed_lab(
                            path_of(destination, plain.model_copy(update={"intent": intent})),
                            device,
                            place,
                            shape,
                        ),
                    )
                ),
                "de00_mean": round(float(errors.mean()), 1),
                "de00_p95": round(float(np.percentile(errors, 95)), 1),
                "detail": round(detail_kept(source, printed, shape) * 100, 0),
            }
        )
    return found


def unconverted(destination: Destination, recipe: Recipe) -> dict[str, Any]:
    """The print of the artwork's own numbers beside the converted print, both against the artwork,
    on the picture reduced to 220 pixels; "sent" is None where numbers cannot be sent as they are."""
    device, place, shape = small_picture(destination)
    path = path_of(destination, recipe)
    sent = unconverted_figures(path.route, device)
    if sent is None:
        return {"sent": None, "converted": None}
    errors = delta_e_2000(
        path.exact(lambda r, d: r.source_lab(d), device, place, shape),
        printed_lab(path, device, place, shape),
    )
    return {
        "sent": sent.model_dump(mode="json"),
        "converted": in_figures(errors).model_dump(mode="json"),
    }


def fit_advice(destination: Destination, recipe: Recipe) -> Figures:
    """Every intent with and without BPC for the reduced picture, one of them advised."""
    route = replace(route_of(destination, recipe), intent=INTENTS[0], bpc=True)
    return _known("fit", destination, PixelPath(route), lambda: _fit_advice(destination, route))


def _fit_advice(destination: Destination, route: ColourRoute) -> Figures:
    device, _, shape = small_picture(destination)
    return [_of_fit(f) for f in fits(route, device, shape)]


def _of_fit(f: Fit) -> dict[str, Any]:
    return {
        "intent": f.intent,
        "bpc": f.bpc,
        "out_of_gamut": round(f.out_of_gamut * 100, 1),
        **{f"too_{w}": round(v * 100, 1) for w, v in zip(WAYS, f.miss, strict=True)},
        "de00_mean": round(f.de00_mean, 1),
        "de00_p95": round(f.de00_p95, 1),
        "de00_max": round(f.de00_max, 1),
        "detail": round(f.detail * 100),
        "banding": round(f.banding * 100, 1),
        "drift": round(f.drift, 2),
        "vividness": _percent(f.vividness),
        "tones_lost": f.lost,
        "advised": f.advised,
    }


def most_vivid(destination: Destination, recipe: Recipe) -> Figures:
    """Ways to a more vivid print of the picture reduced to 140 pixels, the present one first; empty where
    there is no vivid colour, or nothing to choose."""
    route = route_of(destination, recipe)
    path = PixelPath(route)

    def measure() -> Figures:
        device, _, shape = small_picture(destination, TRIED_EDGE)
        found = vividest(route, device, shape)
        ways = found.ways if found else []
        return [{"part": w.part, "changes": w.changes, "fit": _of_fit(w.fit)} for w in ways]

    return _known("most vivid", destination, path, measure)


def hue_leaf(destination: Destination, recipe: Recipe, hue: float) -> dict[str, Any]:
    """Where the colours of an OKLab hue go."""
    return leaf(route_of(destination, recipe), hue).model_dump(mode="json")


def plate_figures(destination: Destination, recipe: Recipe) -> dict[str, Any]:
    """Figures of the plates, and the tones they lose on the picture reduced to 220 pixels."""
    device, place, shape = small_picture(destination)
    path = path_of(destination, recipe)
    aim = path.exact(lambda r, d: r.aim_lab(d), device, place, shape)
    inks = path.exact(preview_inks, device, place, shape)
    names = ink_names(path.route.destination)
    lost = tones_lost(aim, path.route.print_lab(inks), inks, names, shape)
    return {**ink_figures(destination, recipe), "tones_lost": lost}


def picture_round_trip(destination: Destination, profile: Profile) -> PictureTrip:
    """What a profile gives back of a job's own colours, on the picture reduced to 220 pixels."""
    device, _, shape = small_picture(destination)
    route = route_of(destination, parse_recipe(destination.recipe))
    return picture_trip(profile, route.source_lab(device), shape)


def readout(destination: Destination, recipe: Recipe, x: int, y: int) -> dict[str, Any]:
    """Everything at one pixel, by the exact float path."""
    return readouts(destination, recipe, [(x, y)])[0]


def readouts(
    destination: Destination, recipe: Recipe, places: list[tuple[int, int]]
) -> list[dict[str, Any]]:
    """Everything at some pixels, by the exact float path."""
    return _readings(destination, recipe, [(x, y, "") for x, y in places])


def at_points(destination: Destination, recipe: Recipe) -> list[dict[str, Any]]:
    """Everything at the job's sample points, and the print beside the colours wanted there."""
    points = [(p["x"], p["y"], p.get("target", "")) for p in destination.job.points]
    return _readings(destination, recipe, points)


def _readings(
    destination: Destination, recipe: Recipe, places: list[tuple[int, int, str]]
) -> list[dict[str, Any]]:
    artwork = destination.job.artwork
    level = working_copy.levels(artwork.picture_key)[0]
    path = path_of(destination, recipe)
    rule = tac_rule(destination, recipe)
    found = []
    for x, y, target in places:
        row, column = min(max(y, 0), level.shape[0] - 1), min(max(x, 0), level.shape[1] - 1)
        pixel = np.asarray(level[row, column])
        device = pixel[None].astype(np.float64) / np.iinfo(level.dtype).max
        size = (level.shape[1], level.shape[0])
        found.append(_reading(path, device, column, row, rule, size, target))
    return found


def _reading(
    path: PixelPath,
    device: Floats,
    x: int,
    y: int,
    rule: float,
    size: tuple[int, int],
    target: str,
) -> dict[str, Any]:
    route = path.route
    place = Place(size, float(x), float(y))
    inks = path.exact(lambda r, d: r.exact_inks(d), device, place)
    aim = path.exact(lambda r, d: r.aim_lab(d), device, place)
    away = path.exact(lambda r, d: r.out_of_gamut(d), device, place)
    way = int(way_out(away)[0])
    source, printed = route.source_lab(device), route.print_lab(inks)
    scale = 100.0 if is_subtractive(route.source.colour_space) else 255.0
    return {
        "x": x,
        "y": y,
        "source_space": route.source.description,
        "source": {
            n: round(float(v) * scale, 1)
            for n, v in zip(ink_names(route.source), device[0], strict=True)
        },
        "lab": [round(float(v), 1) for v in source[0]],
        "aim_lab": [round(float(v), 1) for v in aim[0]],
        "print_lab": [round(float(v), 1) for v in printed[0]],
        "inks": {
            n: round(float(v) * 100, 1)
            for n, v in zip(ink_names(route.destination), inks[0], strict=True)
        },
        "tac": round(float(inks.sum()) * 100, 1),
        "tac_rule": rule,
        "de00": round(float(delta_e_2000(source, printed)[0]), 1),
        "out_of_gamut": way >= 0,
        "out_way": WAYS[way] if way >= 0 else "",
        "miss": round(float(away[0].sum()), 1),
        "target": against_target(target, route, inks),
    }


def compare_results(one: Destination, a: Recipe, other: Destination, b: Recipe) -> dict[str, Any]:
    """How far the prints of two destinations of a job differ, each relative to its own medium."""
    device, place, shape = small_picture(one)
    first, second = (
        printed_lab(path_of(d, r), device, place, shape) for d, r in ((one, a), (other, b))
    )
    errors = delta_e_2000(first, second)
    return {
        "names": [one.condition.name, other.condition.name],
        "de00_mean": round(float(errors.mean()), 2),
        "de00_p95": round(float(np.percentile(errors, 95)), 2),
        "de00_max": round(float(errors.max()), 2),
        "lightness": round(float((second - first)[:, 0].mean()), 2),
        "chroma": round(float((np.hypot(*second[:, 1:].T) - np.hypot(*first[:, 1:].T)).mean()), 2),
    }


def deciding_facts(destination: Destination, recipe: Recipe) -> dict[str, Any]:
    """The one or two facts of each stage, kept with the destination."""
    figures = intent_figures(destination, recipe)
    chosen = next(f for f in figures if f["intent"] == recipe.intent)
    inks = ink_figures(destination, recipe)
    return {"intent": chosen, "tac_max": inks["tac_max"], "tac_rule": inks["tac_rule"]}
