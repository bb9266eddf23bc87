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
