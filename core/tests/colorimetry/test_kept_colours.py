"""Differences and hues of many pairs, and what they must be by themselves."""

from __future__ import annotations

import numpy as np
import pytest
from kept import as_kept

from plinto_core.colorimetry.cielab import Lab_to_LCh, LCh_to_Lab
from plinto_core.colorimetry.difference import (
    delta_e_76,
    delta_e_94,
    delta_e_2000,
    delta_e_cmc,
    in_figures,
    lch_parts,
)
from plinto_core.colorimetry.even_hue import even_hue, in_its_hue

RNG = np.random.default_rng(12)
FIRST = RNG.uniform([0, -80, -80], [100, 80, 80], (40, 3))
SECOND = FIRST + RNG.normal(0, 8, (40, 3))
FIRST[:3], SECOND[:3] = [[50, 0, 0]] * 3, [[50, 1, 0], [51, 0, 0], [50, 0, -1]]


@pytest.mark.parametrize("formula", [delta_e_2000, delta_e_94, delta_e_cmc])
def test_differences_of_pairs(formula) -> None:
    as_kept(f"colours/{formula.__name__}", np.round(formula(FIRST, SECOND), 4).tolist(), abs=2e-4)


def test_the_parts_of_a_difference_make_it_whole() -> None:
    lightness, chroma, hue = lch_parts(FIRST, SECOND)
    assert np.sqrt(lightness**2 + chroma**2 + hue**2) == pytest.approx(delta_e_76(FIRST, SECOND))
    assert lightness == pytest.approx(SECOND[:, 0] - FIRST[:, 0])
    assert chroma == pytest.approx(Lab_to_LCh(SECOND)[:, 1] - Lab_to_LCh(FIRST)[:, 1])
    # A hue that turns to greater angles is positive.
    lab = LCh_to_Lab(np.array([[50.0, 30, 10], [50, 30, 350], [50, 30, 10]]))
    assert lch_parts(lab[:1], LCh_to_Lab(np.array([[50.0, 30, 20]])))[2][0] > 0
    assert lch_parts(lab[:1], lab[1:2])[2][0] < 0


def test_figures_of_differences() -> None:
    found = in_figures(np.arange(101.0))
    assert (found.mean, found.p95, found.p99, found.max) == pytest.approx((50, 95, 99, 100))


def test_hues_that_look_even() -> None:
    hues = np.arange(0.0, 360.0, 15.0)
    lab = LCh_to_Lab(np.stack([np.full(24, 55.0), np.full(24, 45.0), hues], axis=1))
    turned = even_hue(lab)
    moved = in_its_hue(lab, np.full(24, 40.0), np.full(24, 70.0))
    kept = {"hue": np.round(turned, 3).tolist(), "moved": np.round(moved, 3).tolist()}
    as_kept("colours/even-hue", kept, abs=0.004)
    assert Lab_to_LCh(moved)[:, :2] == pytest.approx(np.tile([40.0, 70.0], (24, 1)), abs=0.01)
    assert np.cos(np.radians(even_hue(moved) - turned)).min() > 0.999
