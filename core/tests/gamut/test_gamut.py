from __future__ import annotations

import numpy as np
import pytest
from solids import double_cone_body

from plinto_core.colorimetry import Lab_to_LCh
from plinto_core.colorimetry.cielab import Lab_to_XYZ, LCh_to_Lab, XYZ_to_Lab
from plinto_core.colorimetry.even_hue import XYZ_to_IPT, XYZ_to_OKLab, even_hue, hue_of, turn
from plinto_core.gamut import LOOKS, GamutBody, GamutBoundary, map_colours, mapping
from plinto_core.gamut.mapping import compress_lightness, hold_hue
from plinto_core.gamut.of_profile import gamut_of
from plinto_core.inks import ForwardTable, InkRules
from plinto_core.transform import lab_of_device
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


def test_chroma_fades_just_above_black_and_nowhere_else(double_cone, monkeypatch) -> None:
    lightness = np.array([0.0, 1.0, 2.35, 4.0, 4.7, 6.0, 30.0])
    lab = np.stack([lightness, np.full(7, 6.0), np.full(7, -8.0)], axis=1)
    faded = map_colours(lab, double_cone, LOOKS["perceptual"])
    monkeypatch.setattr(mapping, "_BLACKISH", 1e-9)
    plain = map_colours(lab, double_cone, LOOKS["perceptual"])
    share = np.hypot(*faded[:, 1:].T)[1:] / np.hypot(*plain[:, 1:].T)[1:]
    assert share[0] < 0.8
    assert (np.diff(share[:4]) > 0).all()
    assert share[3:] == pytest.approx(np.ones(3))


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
    # It aims three tenths of the way outside the nearest colour of its hue.
    chroma, angle = np.hypot(*held[0, 1:]), np.degrees(np.arctan2(held[0, 2], held[0, 1])) % 360
    nearest = press_gamut.in_leaf(blue[:, 0], np.hypot(*blue[0, 1:])[None], np.array([angle]), 1.4)
    assert chroma == pytest.approx(0.7 * nearest[1][0] + 0.3 * np.hypot(*blue[0, 1:]), abs=0.01)
    assert held[0, 0] == pytest.approx(0.7 * nearest[0][0] + 0.3 * blue[0, 0], abs=0.01)
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
        [44.75, 19.82, -41.89], [51.73, 47.21, 29.16], [71.55, -10.52, 36.45], [69.02, -32.45, 25.56],
        [40.4, 9.99, -20], [23.06, -0.79, -17.31], [60, 0, -0], [89.51, -13.78, 2.33],
    ],
    "saturation": [
        [45.52, 20.31, -42.78], [52.0, 47.64, 29.45], [70.42, -10.78, 37.94], [68.03, -33.47, 26.42],
        [40.4, 11.36, -22.32], [24.09, -0.71, -18.78], [60, 0, 0], [88.35, -15.31, 2.59],
    ],
    "held": [
        [33.63, 27.17, -60.32], [52.32, 59.83, 37.03], [85.48, -15.46, 46.39], [80.89, -44, 34.01],
        [40, 10, -20], [17.58, -1.26, -18.38], [60, 0, 0], [91.69, -18.74, 3.17],
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


def test_what_is_held_lies_outside_a_colour_of_its_hue(double_cone) -> None:
    lab = VIVID[[0, 1, 2, 3, 7]]
    held = Lab_to_LCh(hold_hue(lab, double_cone))
    # Taken back by what lies outside: to the boundary, where the hue is the colour's own.
    given = Lab_to_LCh(lab)
    nearest, chroma = double_cone.in_leaf(given[:, 0], given[:, 1], held[:, 2], 1.4)
    assert np.allclose(held[:, 0], 0.7 * nearest + 0.3 * given[:, 0], atol=0.01)
    assert np.allclose(held[:, 1], 0.7 * chroma + 0.3 * given[:, 1], atol=0.01)
    on = LCh_to_Lab(np.stack([nearest, chroma, held[:, 2]], axis=1))
    assert np.abs(turn(even_hue(on) - even_hue(lab))).max() < 2


def test_the_nearest_colour_of_a_hue_is_found(press_gamut) -> None:
    rng = np.random.default_rng(4)
    lightness, chroma = rng.uniform(0, 100, 60), rng.uniform(20, 140, 60)
    hue = rng.uniform(-180, 540, 60)
    found = press_gamut.in_leaf(lightness, chroma, hue, 1.5)
    levels = np.linspace(0, 100, 4001)
    for i in range(60):
        edge = press_gamut.at(levels, np.full(4001, hue[i]))
        inside = chroma[i] <= press_gamut.at(lightness[i : i + 1], hue[i : i + 1])[0]
        if inside:
            assert (found[0][i], found[1][i]) == (lightness[i], chroma[i])
            continue
        weight = 1.5 / (1 + 0.045 * chroma[i])
        away = np.hypot(levels - lightness[i], weight * (edge - chroma[i]))[edge > 0].min()
        mine = np.hypot(found[0][i] - lightness[i], weight * (found[1][i] - chroma[i]))
        assert mine == pytest.approx(away, abs=0.02)
        assert found[1][i] == pytest.approx(press_gamut.at(found[0][i : i + 1], hue[i : i + 1])[0])


def test_rays_leave_where_the_boundary_is(press_gamut) -> None:
    rng = np.random.default_rng(9)
    focus, lightness = rng.uniform(30, 80, 40), rng.uniform(10, 95, 40)
    chroma, hue = rng.uniform(5, 120, 40), rng.uniform(-180, 540, 40)
    far = press_gamut.along(focus, lightness, chroma, hue)
    for share, inside in ((0.999, True), (1.001, False)):
        at = press_gamut.at(focus + share * far * (lightness - focus), hue)
        within = share * far * chroma <= at
        assert within[(far < 3.99) & (far > 0.01)].all() == inside
        if not inside:
            assert not within[(far < 3.99) & (far > 0.01)].any()
    # At most four times the colour.
    assert press_gamut.along(*(np.array([v]) for v in (60.0, 60.0, 1.0, 40.0)))[0] == pytest.approx(
        4.0
    )


def test_an_exact_boundary_keeps_the_ridges(coated) -> None:
    body = ForwardTable.of_profile(coated).body(InkRules(tac=320))
    solids = lab_of_device(
        coated, np.array([[1.0, 0, 0, 0], [0, 1, 0, 0], [0, 0, 1, 0], [1, 1, 0, 0]])
    )
    lch = Lab_to_LCh(solids)
    short = [
        1 - GamutBoundary.of_body(body, rounded=r).at(lch[:, 0], lch[:, 2]) / lch[:, 1]
        for r in (True, False)
    ]
    # Above yellow the boundary falls too steeply for either.
    assert short[1][[0, 1, 3]].max() < 0.03
    assert (short[1] < 0.8 * short[0]).all()
