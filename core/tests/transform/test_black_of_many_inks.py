"""Black points of presses with more than four inks: what their own tables print, not all inks solid."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from handmade import ink_profile, linear_press, matf, mpet

from plinto_core.colorimetry import XYZ_to_Lab
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.icc import Profile
from plinto_core.icc.write import write_profile
from plinto_core.recipes.route import ColourRoute
from plinto_core.transform.black_point import (
    RELATIVE,
    destination_black_point,
    source_black_point,
)
from plinto_core.transform.chain import between
from plinto_core.transform.sides import device_to_xyz
from plinto_core.transform.standard_spaces import standard_profile

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


@pytest.mark.parametrize("intent", ["perceptual", "saturation"])
@pytest.mark.parametrize("press", ["two_inks", "seven"])
def test_black_is_fitted_once_whatever_the_inks(press, intent, request) -> None:
    """A perceptual table fits blacks itself: BPC before it must not lift them once more."""
    profile = request.getfixturevalue(press)
    route = ColourRoute(standard_profile("srgb"), profile, intent, True)
    black = np.zeros((1, 3))
    with_it, without = (
        r.print_lab(r.inks(black))[0, 0] for r in (route, replace(route, bpc=False))
    )
    assert with_it == pytest.approx(without, abs=1.0)


@pytest.mark.parametrize("intent", ["perceptual", "relative"])
def test_near_black_on_two_screens_is_black_alone(two_inks, intent) -> None:
    """Brick and black together are a warmer and no darker colour than black: no grey asks for it."""
    route = ColourRoute(standard_profile("srgb"), two_inks, intent, True)
    near = np.repeat(np.array([[0.0, 5, 10, 20, 40]]).T / 255, 3, axis=1)
    inks = route.inks(near)
    assert inks[:, 0].max() < 0.01
    assert (inks[0] >= inks - 1e-6).all()
    tones = np.linspace(0, 1, 201)
    every = np.stack(np.meshgrid(tones, tones, indexing="ij"), axis=-1).reshape(-1, 2)
    colours, printed = route.print_lab(every), route.print_lab(inks)
    scale, offset = between(route.space, two_inks, RELATIVE, bpc=True)
    aims = XYZ_to_Lab(device_to_xyz(route.space, near, RELATIVE) * scale + offset)
    for aim, lab in zip(aims, printed, strict=True):
        nearest = delta_e_2000(np.broadcast_to(aim, colours.shape), colours).min()
        assert delta_e_2000(aim[None], lab[None])[0] < nearest + 1.0
