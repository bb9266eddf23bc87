"""Bodies of presses made by hand, and colours brought into them, as they were judged good."""

from __future__ import annotations

import numpy as np
import pytest
from handmade import ink_profile, linear_press
from kept import as_kept

from plinto_core.gamut.boundary import GamutBoundary
from plinto_core.gamut.mapping import LOOKS, clip_colours, fit_lightness, map_colours
from plinto_core.gamut.outside import gamut_miss, shares_by_way, way_out
from plinto_core.gamut.views import (
    SIGHTS,
    body_figures,
    body_of,
    gamut_figures,
    pair_figures,
    thinned,
)
from plinto_core.transform.standard_spaces import standard_profile

COLOURS = np.array(
    [[2, 0, 0], [10, 20, -60], [30, 60, 40], [30, 5, -5], [50, -70, 40], [50, 30, 0], [50, 0, 90], [55, 95, -80],
     [70, 20, 70], [80, -60, -20], [85, 5, 100], [97, 1, -4], [99, 0, 0]], float
)  # fmt: skip


@pytest.mark.parametrize("sight", SIGHTS)
def test_bodies(sight) -> None:
    press, srgb = body_of(linear_press(), sight), body_of(standard_profile("srgb"), sight)
    held = body_of(linear_press(), sight, tac=180, limits=(0.8, 1.0, 1.0, 0.5))
    assert press is not None and srgb is not None and held is not None  # noqa: PT018
    kept = {
        name: {
            **gamut_figures(body).model_dump(),
            "reach": np.round(body.reach(COLOURS), 3).tolist(),
            "nearest": np.round(body.nearest(COLOURS), 2).tolist(),
            "distance": np.round(body.distance(COLOURS), 2).tolist(),
            "printable": np.round(body.printable(COLOURS), 2).tolist(),
            "chroma": [row[::10] for row in body_figures(body).chroma[::20]],
        }
        for name, body in (("press", press), ("sRGB", srgb), ("held", held))
    }
    kept["pairs"] = [
        pair_figures(a, b).model_dump() for a, b in ((press, srgb), (srgb, press), (press, held))
    ]
    kept["both"] = round(press.intersection(srgb).volume)
    as_kept(f"gamuts/{sight}", kept, rel=2e-3, abs=0.06)


def test_two_inks_have_no_body_and_what_is_thinned_is_even() -> None:
    two = ink_profile(2, lambda v: np.stack([100 - 40 * v[:, 0] - 40 * v[:, 1], 60 * v[:, 0], 60 * v[:, 1]], axis=1), lambda lab: np.zeros((len(lab), 2)), back_grid=3)  # fmt: skip
    assert body_of(two, "paper") is None
    lab = np.random.default_rng(4).random((500, 3)) * 100
    rows = thinned(lab, 60)
    assert len(rows) <= 60
    assert len(set(rows.tolist())) == len(rows)
    as_kept("gamuts/thinned", rows.tolist(), abs=0)


@pytest.mark.parametrize("way", sorted(LOOKS))
def test_mapped_colours(way) -> None:
    body = body_of(linear_press(), "paper")
    assert body is not None
    boundary = GamutBoundary.of_body(body)
    mapped = map_colours(COLOURS, boundary, LOOKS[way])
    held = clip_colours(COLOURS, boundary)
    as_kept(f"gamuts/mapped-{way}", [np.round(v, 2).tolist() for v in (mapped, held)], abs=0.03)


def test_lightness_is_compressed_to_the_darkest() -> None:
    lightness = np.array([0, 5, 20, 50, 90, 100.0])
    found = {low: np.round(fit_lightness(lightness, low), 3).tolist() for low in (0.0, 8.0, 30.0)}
    as_kept("gamuts/lightness", {str(k): v for k, v in found.items()}, abs=0.002)


def test_the_boundary_along_lines_and_in_leaves() -> None:
    body = body_of(linear_press(), "paper")
    assert body is not None
    for rounded in (False, True):
        boundary = GamutBoundary.of_body(body, rounded=rounded)
        hue = np.arange(0.0, 360.0, 45.0)
        lightness = np.tile([25.0, 70.0], 4)
        kept = {
            "at": np.round(boundary.at(lightness, hue), 2).tolist(),
            "cusp": np.round(boundary.cusp(hue), 2).tolist(),
            "widest": np.round(boundary.widest(lightness, hue, 0.25), 3).tolist(),
            "farthest": np.round(boundary.farthest(np.full(8, 0.4), hue), 2).tolist(),
        }
        as_kept(f"gamuts/boundary{'-rounded' if rounded else ''}", kept, abs=0.03)


def test_which_way_colours_lie_outside() -> None:
    miss = gamut_miss(linear_press(), COLOURS)
    kept = [
        np.round(miss, 2).tolist(),
        way_out(miss).tolist(),
        np.round(shares_by_way(miss), 4).tolist(),
    ]
    as_kept("gamuts/outside", kept, rel=2e-3, abs=0.05)
