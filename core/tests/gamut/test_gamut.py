from __future__ import annotations

import numpy as np
import pytest
from solids import double_cone_body

from plinto_core.colorimetry import Lab_to_LCh
from plinto_core.colorimetry.cielab import Lab_to_XYZ, LCh_to_Lab, XYZ_to_Lab
from plinto_core.colorimetry.even_hue import XYZ_to_IPT, XYZ_to_OKLab, even_hue, hue_of, turn
from plinto_core.gamut import LOOKS, GamutBody, GamutBoundary, map_colours
from plinto_core.gamut.mapping import compress_lightness, hold_hue
from plinto_core.gamut.of_profile import gamut_of
from plinto_core.transform.sides import device_to_xyz
from plinto_core.transform.standard_spaces import standard_profile


@pytest.fixture(scope="module")
def double_cone() -> GamutBoundary:
    """C* up to 60 at L* 55, straight to black at 10 and white at 100; a known solid."""
    return GamutBoundary.of_body(double_cone_body())


def test_boundary_of_a_known_solid(double_cone) -> None:
    hue = np.arange(0, 360, 15.0)
    assert double_cone.lowest == pytest.approx(10, abs=1.6)
    assert double_cone.highest == pytest.approx(100, abs=0.01)
    for lightness, expected in ((30, 26.7), (55, 60), (80, 26.7)):
        found = double_cone.at(np.full(hue.size, float(lightness)), hue)
        assert np.abs(found - expected).max() < 1.5
    assert np.abs(double_cone.cusp(hue) - 55).max() < 1


def test_greys_keep_their_tone_and_black_meets_the_medium(double_cone) -> None:
    lab = np.stack([np.linspace(0, 100, 21), np.zeros(21), np.zeros(21)], axis=1)
    mapped = map_colours(lab, double_cone, LOOKS["perceptual"])
    assert np.abs(mapped[:, 1:]).max() < 1e-3
    assert mapped[0, 0] == pytest.approx(10, abs=0.6)
    assert np.allclose(mapped[10:, 0], lab[10:, 0], atol=0.01)
    assert (np.diff(mapped[:, 0]) > 0).all()


def test_colours_well_inside_do_not_move(double_cone) -> None:
    lab = np.array([[60.0, 20, 10], [70, -12, 8]])
    assert np.allclose(map_colours(lab, double_cone, LOOKS["perceptual"]), lab, atol=0.05)


@pytest.mark.parametrize("look", LOOKS)
def test_everything_lands_inside_with_its_hue_and_order(double_cone, look) -> None:
    chroma = np.linspace(1, 180, 60)
    for hue in (20.0, 140.0, 290.0):
        angle = np.radians(hue)
        lab = np.stack([np.full(60, 60.0), chroma * np.cos(angle), chroma * np.sin(angle)], axis=1)
        lch = Lab_to_LCh(map_colours(lab, double_cone, LOOKS[look]))
        assert (lch[:, 1] <= double_cone.at(lch[:, 0], lch[:, 2]) + 0.5).all()
        assert np.abs(turn(even_hue(LCh_to_Lab(lch)) - even_hue(lab)))[10:].max() < 0.5
        assert (np.diff(lch[:40, 1]) > 0).all()


def test_lightness_compression_never_turns_back() -> None:
    lightness = np.linspace(0, 100, 400)
    for lowest in (0.0, 5.0, 20.0, 38.0):
        mapped = compress_lightness(lightness, lowest)
        assert mapped[0] == pytest.approx(lowest)
        assert mapped[-1] == pytest.approx(100)
        assert (np.diff(mapped) > 0).all()


@pytest.fixture(scope="module")
def press_gamut(coated) -> GamutBoundary:
    body = gamut_of(coated)
    assert isinstance(body, GamutBody)
    return GamutBoundary.of_body(body)


@pytest.mark.parametrize("look", sorted(LOOKS))
@pytest.mark.parametrize("space", ["OKLab", "IPT"])
def test_blues_stay_blue_in_two_spaces_of_even_hue(press_gamut, look, space) -> None:
    steps = np.linspace(0, 0.5, 6)
    rgb = np.array([[r, g, 1.0] for r in steps for g in steps if abs(r - g) < 0.3])
    lab = XYZ_to_Lab(device_to_xyz(standard_profile("srgb"), rgb, 1))
    mapped = map_colours(lab, press_gamut, LOOKS[look])
    hue = (
        (lambda v: hue_of(XYZ_to_OKLab(Lab_to_XYZ(v))))
        if space == "OKLab"
        else (lambda v: hue_of(XYZ_to_IPT(Lab_to_XYZ(v))))
    )
    away = np.abs(turn(hue(mapped) - hue(lab)))
    assert away[0] <= 10
    assert away.mean() <= 5
    # Kept in CIELAB, pure blue would end as purple.
    cielab = np.degrees(np.arctan2(lab[0, 2], lab[0, 1]))
    assert abs(np.degrees(np.arctan2(mapped[0, 2], mapped[0, 1])) - cielab) > 5


@pytest.mark.parametrize("look", sorted(LOOKS))
@pytest.mark.parametrize("lightness", [25, 45, 65, 85])
def test_hues_keep_their_order(press_gamut, look, lightness) -> None:
    angle = np.radians(np.arange(0, 360, 2.0))
    for chroma in (15, 45, 90):
        ring = np.stack(
            [np.full_like(angle, lightness), chroma * np.cos(angle), chroma * np.sin(angle)],
            axis=1,
        )
        mapped = map_colours(ring, press_gamut, LOOKS[look])
        steps = turn(np.diff(np.degrees(np.arctan2(mapped[:, 2], mapped[:, 1]))))
        assert steps.min() > 0
        assert steps.max() < 12


def test_clipped_blues_are_turned_and_printable_colours_are_not(press_gamut) -> None:
    inside = np.array([[60.0, 10, 5], [50, -12, 8], [70, 5, -10]])
    assert hold_hue(inside, press_gamut) == pytest.approx(inside, abs=0.05)
    blue = XYZ_to_Lab(device_to_xyz(standard_profile("srgb"), np.array([[0.0, 0, 1]]), 1))
    held = hold_hue(blue, press_gamut)
    assert np.hypot(*held[0, 1:]) == pytest.approx(np.hypot(*blue[0, 1:]))
    moved = turn(
        np.degrees(np.arctan2(held[0, 2], held[0, 1]) - np.arctan2(blue[0, 2], blue[0, 1]))
    )
    assert moved < -5


VIVID = np.array(
    [[30, 90, -110], [50, 80, 60], [90, -20, 110], [85, -90, 80], [40, 10, -20], [12, 5, -30], [60, 0, 0], [97, -30, 5]],
    dtype=float,
)  # fmt: skip
KEPT = {
    "perceptual": [
        [42.85, 18.61, -39.66], [51.45, 46.91, 28.97], [73.96, -9.93, 33.28], [71.2, -30.23, 23.69],
        [40.4, 9.99, -20.0], [22.44, -0.83, -16.52], [60, 0, 0], [90.35, -12.69, 2.16],
    ],
    "saturation": [
        [45.52, 20.31, -42.78], [52.0, 47.64, 29.45], [70.42, -10.78, 37.94], [68.03, -33.47, 26.42],
        [40.4, 11.36, -22.32], [24.09, -0.71, -18.78], [60, 0, 0], [88.35, -15.31, 2.59],
    ],
    "held": [
        [30.0, 56.54, -130.4], [50.0, 85.12, 52.48], [90.0, -37.24, 105.42], [85.0, -95.52, 73.33],
        [40, 10, -20], [12.0, -4.34, -30.1], [60, 0, 0], [97.0, -29.94, 5.36],
    ],
}  # fmt: skip
"""What the methods made of these colours when they were decided for (docs/methods)."""


@pytest.mark.parametrize("way", KEPT)
def test_vivid_colours_land_where_they_did(double_cone, way) -> None:
    if way == "held":
        found = hold_hue(VIVID, double_cone)
    else:
        found = map_colours(VIVID, double_cone, LOOKS[way])
    assert np.abs(found - KEPT[way]).max() < 0.02


def test_what_is_held_prints_with_its_hue(double_cone) -> None:
    lab = VIVID[[0, 1, 2, 3, 7]]
    held = Lab_to_LCh(hold_hue(lab, double_cone))
    lightness = np.clip(held[:, 0], double_cone.lowest, 100)
    printed = np.stack([lightness, double_cone.at(lightness, held[:, 2]), held[:, 2]], axis=1)
    assert np.abs(turn(even_hue(LCh_to_Lab(printed)) - even_hue(lab))).max() < 2
    assert np.allclose(held[:, 1], Lab_to_LCh(lab)[:, 1])
