"""Black points of presses with more than four inks: what their own tables print, not all inks solid."""

from __future__ import annotations

import numpy as np
import pytest
from handmade import ink_profile, linear_press, matf, mpet

from plinto_core.colorimetry import XYZ_to_Lab
from plinto_core.icc import Profile
from plinto_core.icc.write import write_profile
from plinto_core.transform.black_point import destination_black_point, source_black_point

LIMIT = 0.7
"""The tables of the press use no more than seven tenths of each ink."""


def forward(device: np.ndarray) -> np.ndarray:
    """Every ink darkens the same; all of them solid would print L* 4."""
    lightness = 100 - 96 * device.mean(axis=1)
    return np.stack([lightness, 0 * lightness, 0 * lightness], axis=1)


def backward(lab: np.ndarray) -> np.ndarray:
    share = np.clip((100 - lab[:, 0]) / 96, 0, LIMIT)
    return np.repeat(share[:, None], 6, axis=1)


@pytest.mark.parametrize("intent", [0, 1, 2])
def test_the_black_of_six_inks_is_what_the_tables_print(intent) -> None:
    profile = ink_profile(6, forward, backward, grid=3, back_grid=17)
    for find in (source_black_point, destination_black_point):
        lab = XYZ_to_Lab(find(profile, intent))
        assert lab[0] == pytest.approx(100 - 96 * LIMIT, abs=1.5)
        assert np.abs(lab[1:]).max() < 0.1


@pytest.mark.parametrize("intent", [0, 1])
def test_a_black_is_never_lighter_than_half_way_to_white(intent) -> None:
    """ISO 18619 looks for blacks from L* 0 to 50 only."""

    def washed(device: np.ndarray) -> np.ndarray:
        lightness = 100 - 32 * device.mean(axis=1)
        return np.stack([lightness, 0 * lightness, 0 * lightness], axis=1)

    profile = ink_profile(6, washed, lambda lab: np.repeat(np.clip((100 - lab[:, :1]) / 32, 0, 1), 6, axis=1), grid=3, back_grid=5)  # fmt: skip
    assert XYZ_to_Lab(source_black_point(profile, intent))[0] == pytest.approx(50, abs=1e-6)


@pytest.mark.parametrize("intent", [0, 2])
def test_an_intent_that_is_borrowed_has_no_black_of_its_own(intent) -> None:
    """ISO 18619, 6.3.1: without a table of the intent nothing is followed through it."""
    press = linear_press()
    tags = {t: press.raw(t) for t in press.directory if t not in ("A2B0", "A2B2", "B2A0", "B2A2")}
    borrowed = Profile(write_profile(press.header, tags))
    assert destination_black_point(press, intent)[1] > 0.04
    assert not destination_black_point(borrowed, intent).any()
    assert not source_black_point(borrowed, intent).any()


def test_a_table_of_version_4_without_a_perceptual_one_but_a_float_one_has_the_black_of_the_standard(
    coated_v4,
) -> None:
    """ICC.1:2010, 6.3.3: perceptual tables of version 4 meet at one black, however they are stored."""
    only = {t: coated_v4.raw(t) for t in coated_v4.directory if not t.startswith(("A2B", "B2A"))}
    floats = Profile(write_profile(coated_v4.header, {**only, "D2B0": mpet(4, 3, matf(np.full((3, 4), 0.1), np.zeros(3)))}))  # fmt: skip
    standard = np.array([0.00336, 0.0034731, 0.00287])
    for profile in (coated_v4, floats):
        assert source_black_point(profile, 0) == pytest.approx(standard, abs=1e-6)
        assert source_black_point(profile, 2) == pytest.approx(standard, abs=1e-6)
