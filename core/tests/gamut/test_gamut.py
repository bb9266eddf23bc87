from __future__ import annotations

import numpy as np
import pytest
from solids import double_cone_body

from plinto_core.colorimetry import Lab_to_LCh
from plinto_core.colorimetry.cam16 import cam16_hue
from plinto_core.colorimetry.cielab import Lab_to_XYZ, LCh_to_Lab, XYZ_to_Lab
from plinto_core.colorimetry.even_hue import (
    XYZ_to_IPT,
    XYZ_to_OKLab,
    even_hue,
    hue_of,
    in_hue,
    made_real,
    turn,
)
from plinto_core.gamut import (
    LOOKS,
    GamutBody,
    GamutBoundary,
    Perceptual,
    clip_colours,
    map_colours,
    mapping,
)
from plinto_core.gamut.mapping import fit_lightness
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
    assert np.abs(double_cone.cusp(hue) - [55, 60]).max() < 1.5


def test_greys_keep_their_tone_and_black_meets_the_medium(double_cone) -> None:
    lab = np.stack([np.linspace(0, 100, 21), np.zeros(21), np.zeros(21)], axis=1)
    mapped = map_colours(lab, double_cone, LOOKS["balanced"])
    assert np.abs(mapped[:, 1:]).max() < 1e-3
    assert mapped[0, 0] == pytest.approx(10, abs=0.6)
    assert np.allclose(mapped[10:, 0], lab[10:, 0], atol=0.01)
    assert (np.diff(mapped[:, 0]) > 0).all()


def test_colours_well_inside_do_not_move(double_cone) -> None:
    lab = np.array([[60.0, 20, 10], [70, -12, 8]])
    lab[:, 1:] *= 0.7
    assert np.allclose(map_colours(lab, double_cone, LOOKS["balanced"]), lab, atol=0.05)


def test_chroma_fades_just_above_black_and_nowhere_else(double_cone, monkeypatch) -> None:
    lightness = np.array([0.0, 1.0, 2.35, 4.0, 4.7, 6.0, 30.0])
    lab = np.stack([lightness, np.full(7, 6.0), np.full(7, -8.0)], axis=1)
    faded = map_colours(lab, double_cone, LOOKS["balanced"])
    monkeypatch.setattr(mapping, "_BLACKISH", 1e-9)
    plain = map_colours(lab, double_cone, LOOKS["balanced"])
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
        assert (lch[:, 1] <= double_cone.at(lch[:, 0], even_hue(LCh_to_Lab(lch))) + 0.5).all()
        assert np.abs(turn(even_hue(LCh_to_Lab(lch)) - even_hue(lab)))[10:40].max() < 5
        assert (np.diff(lch[:, 1]) > -0.05).all()
        assert (np.diff(lch[:20, 1]) > 0).all()


def test_lightness_compression_never_turns_back() -> None:
    lightness = np.linspace(0, 100, 400)
    for lowest in (0.0, 5.0, 20.0, 38.0):
        mapped = fit_lightness(lightness, lowest)
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
    # No screen shows C* 90 in the darks.
    for chroma in (15, 45, 90) if lightness > 30 else (15, 45):
        ring = np.stack(
            [np.full_like(angle, lightness), chroma * np.cos(angle), chroma * np.sin(angle)],
            axis=1,
        )
        mapped = map_colours(ring, press_gamut, LOOKS[look])
        steps = turn(np.diff(np.degrees(np.arctan2(mapped[:, 2], mapped[:, 1]))))
        # Beyond what any screen shows vivid hues may come as one, and turn back by less than is seen.
        assert steps.min() > (0 if chroma < 90 else -2.5)
        assert steps.max() < 14


def test_printable_colours_stay_and_clipped_blues_keep_their_hue(press_gamut) -> None:
    inside = np.array([[60.0, 10, 5], [50, -12, 8], [70, 5, -10], [30, 0, 0]])
    assert np.array_equal(clip_colours(inside, press_gamut), inside)
    blue = of_rgb([[0.0, 0, 1]])
    held = clip_colours(blue, press_gamut)
    assert np.abs(turn(even_hue(held) - even_hue(blue)))[0] < 6
    cusp = press_gamut.cusp(even_hue(held))[0]
    assert np.hypot(*held[0, 1:]) == pytest.approx(cusp[1], abs=1)
    assert held[0, 0] == pytest.approx(cusp[0], abs=2)


def of_rgb(rgb, space: str = "srgb") -> np.ndarray:
    return lab_of_device(standard_profile(space), np.asarray(rgb, float))


FULL = np.array([[1, 0, 0], [1, 1, 0], [0, 1, 0], [0, 1, 1], [0, 0, 1], [1, 0, 1], [1, 0.5, 0], [0.5, 1, 0], [1, 0, 0.5]])  # fmt: skip
WAYS = {
    **{name: (lambda lab, gamut, look=look: map_colours(lab, gamut, look)) for name, look in LOOKS.items()},
    "clipped": clip_colours,
}  # fmt: skip


@pytest.mark.parametrize(("way", "least", "mean"), [("balanced", 0.8, 0.92), ("vivid", 0.85, 0.94), ("saturation", 0.88, 0.96), ("clipped", 0.8, 0.92)])  # fmt: skip
def test_full_hues_print_nearly_as_vivid_as_the_press_can(press_gamut, way, least, mean) -> None:
    lab = of_rgb(FULL)
    printed = WAYS[way](lab, press_gamut)
    hue = even_hue(printed)
    most = [press_gamut.cusp(hue + d)[:, 1] for d in (-4, 0, 4)]
    # Of what the leaf has where it is not darker by more than 25 than the colour.
    levels = np.linspace(0, 100, 201)
    near = np.array([press_gamut.at(levels, np.full(201, h))[levels >= v - 25].max() for h, v in zip(hue, lab[:, 0], strict=True)])  # fmt: skip
    kept = np.hypot(*printed[:, 1:].T) / np.minimum(near, np.max(most, axis=0))
    assert kept.min() >= least
    assert kept.mean() >= mean
    assert np.abs(turn(hue - even_hue(lab))).max() <= 10


def test_kinds_of_perceptual_differ_in_vividness(press_gamut) -> None:
    lab = of_rgb(FULL)
    chroma = [np.hypot(*WAYS[k](lab, press_gamut)[:, 1:].T).mean() for k in ("faithful", "balanced", "vivid", "saturation")]  # fmt: skip
    assert (np.diff(chroma) > 0.5).all()
    muted = of_rgb([[0.45, 0.4, 0.5], [0.6, 0.5, 0.45], [0.3, 0.35, 0.33]])
    assert np.abs(map_colours(muted, press_gamut, LOOKS["faithful"]) - map_colours(muted, press_gamut, LOOKS["balanced"])).max() < 0.3  # fmt: skip


@pytest.mark.parametrize("way", WAYS)
def test_what_gets_lighter_and_more_vivid_at_once_never_gets_duller(press_gamut, way) -> None:
    """A bright streak on a darker ground of its hue, 4,000 of them."""
    rng = np.random.default_rng(6)
    lab = of_rgb(rng.random((4000, 3)))
    chroma = np.hypot(*lab[:, 1:].T)
    lab, chroma = lab[chroma > 5], chroma[chroma > 5]
    brighter = in_hue(even_hue(lab), lab[:, 0] + 2.1, chroma + 2.1)
    seen = brighter[:, 0] <= 97
    before, after = (WAYS[way](v[seen], press_gamut) for v in (lab, brighter))
    rise = np.hypot(*after[:, 1:].T) - np.hypot(*before[:, 1:].T)
    assert (rise < -0.5).mean() < 0.01


@pytest.mark.parametrize("way", WAYS)
@pytest.mark.parametrize("step", [(3.0, 0.0), (0.0, 3.0)])
def test_lightness_or_chroma_that_rises_alone_rises_in_print(press_gamut, way, step) -> None:
    lab = of_rgb(np.random.default_rng(7).random((3000, 3)))
    chroma = np.hypot(*lab[:, 1:].T)
    there = in_hue(even_hue(lab), np.minimum(lab[:, 0] + step[0], 100), chroma + step[1])
    before, after = (WAYS[way](v, press_gamut) for v in (lab, there))
    if step[0]:
        rise = after[:, 0] - before[:, 0]
    else:
        rise = np.hypot(*after[:, 1:].T) - np.hypot(*before[:, 1:].T)
    assert (rise < -0.3).mean() < 0.01


@pytest.mark.parametrize("way", WAYS)
@pytest.mark.parametrize("space", ["p3", "oprgb", "romm"])
def test_a_wider_source_prints_no_duller(press_gamut, way, space) -> None:
    chroma = [np.hypot(*WAYS[way](of_rgb(FULL, s), press_gamut)[:, 1:].T) for s in ("srgb", space)]
    assert (chroma[0] - chroma[1]).max() < 3


@pytest.mark.parametrize("way", WAYS)
def test_blue_that_no_light_has_prints_as_the_bluest(press_gamut, way) -> None:
    romm, srgb = (WAYS[way](of_rgb([[0, 0, 1]], s), press_gamut) for s in ("romm", "srgb"))
    assert np.hypot(*romm[0, 1:]) > np.hypot(*srgb[0, 1:]) - 1.5
    assert np.abs(turn(even_hue(romm) - even_hue(srgb)))[0] < 10
    # And the corner of a table next to it.
    corner = WAYS[way](np.array([[0.0, 90, -128]]), press_gamut)
    assert np.hypot(*corner[0, 1:]) > 0.8 * np.hypot(*romm[0, 1:])


def test_colours_that_light_has_are_left_and_the_others_become_lighter() -> None:
    real = np.concatenate([of_rgb(FULL), of_rgb(FULL, "p3"), of_rgb(np.random.default_rng(1).random((500, 3)))])  # fmt: skip
    assert np.array_equal(made_real(real), real)
    deep = of_rgb([[0, 0, 1], [0.1, 0.1, 0.8]], "romm")
    found = made_real(deep)
    assert (found[:, 0] > deep[:, 0] + 3).all()
    # Bluer than any screen by what the blue cones see, between cyan and violet.
    assert (np.abs(turn(even_hue(found) + 95)) < 12).all()
    assert made_real(np.zeros((1, 3))) == pytest.approx(np.zeros((1, 3)))


def test_a_deep_sea_is_no_teal(press_gamut) -> None:
    """Between the hue that OKLab has for it and that of CAM16, which lie 15 degrees apart."""
    sea = np.array([[10.7, -7.7, -43.6]])
    printed = map_colours(sea, press_gamut, LOOKS["balanced"])
    away = turn(cam16_hue(Lab_to_XYZ(printed)) - cam16_hue(Lab_to_XYZ(sea)))[0]
    assert -12 < away < 0
    assert 0 < turn(even_hue(printed) - even_hue(sea))[0] < 12


def test_skin_prints_as_light_as_it_is(press_gamut) -> None:
    skin = of_rgb(np.array([(255, 219, 172), (241, 194, 125), (198, 134, 66), (92, 56, 54), (250, 190, 170)]) / 255)  # fmt: skip
    printed = map_colours(skin, press_gamut, LOOKS["balanced"])
    assert np.abs(printed[:, 0] - skin[:, 0]).max() < 2.5
    assert np.abs(turn(even_hue(printed) - even_hue(skin))).max() < 3


def test_contrast_colourfulness_and_leaning_greys(press_gamut) -> None:
    greys = np.stack([np.linspace(0, 100, 21), np.zeros(21), np.zeros(21)], axis=1)
    plain = map_colours(greys, press_gamut, Perceptual().look)
    steep = map_colours(greys, press_gamut, Perceptual(contrast=40).look)
    assert steep[[0, 20], 0] == pytest.approx(plain[[0, 20], 0], abs=0.1)
    assert (np.diff(steep[:, 0]) > 0).all()
    assert np.diff(steep[:, 0])[10] > 1.1 * np.diff(plain[:, 0])[10]
    warm = map_colours(greys, press_gamut, Perceptual(grey_a=1, grey_b=3).look)
    assert np.abs(warm[[0, 20], 1:]).max() < 0.05
    assert warm[:, 1:].max(axis=0) == pytest.approx([1, 3], abs=0.05)
    colours = of_rgb([[0.5, 0.4, 0.4], [0.4, 0.5, 0.6]])
    more = map_colours(colours, press_gamut, Perceptual(colourfulness=20).look)
    less = map_colours(colours, press_gamut, Perceptual().look)
    assert np.hypot(*more[:, 1:].T) == pytest.approx(1.2 * np.hypot(*less[:, 1:].T), rel=0.02)


VIVID = np.array(
    [[30, 90, -110], [50, 80, 60], [90, -20, 110], [85, -90, 80], [40, 10, -20], [12, 5, -30], [60, 0, 0], [97, -30, 5]],
    dtype=float,
)  # fmt: skip


def test_the_angle_and_the_distance_of_a_boundary(double_cone) -> None:
    """A cone: every hue runs straight from black (10, 0) to (55, 60) and on to white."""
    hue = np.array([10.0, 120.0, 250.0])
    wide = np.arctan2(60, 45)
    assert double_cone.widest(np.array([20.0, 30, 60]), hue, 0.25) == pytest.approx(np.full(3, wide), abs=0.03)  # fmt: skip
    assert double_cone.farthest(np.full(3, 1e-6), hue) == pytest.approx(np.full(3, 90), abs=0.7)
    assert double_cone.farthest(np.full(3, wide), hue) == pytest.approx(np.full(3, 75), abs=1.5)
    # Half way: L* 10 + r cos meets the line L* 100 - 0.75 C*.
    at = wide / 2
    distance = 90 / (np.cos(at) + 0.75 * np.sin(at))
    assert double_cone.farthest(np.full(3, at), hue) == pytest.approx(np.full(3, distance), abs=0.8)


def test_an_exact_boundary_keeps_the_ridges(coated) -> None:
    body = ForwardTable.of_profile(coated).body(InkRules(tac=320))
    solids = lab_of_device(
        coated, np.array([[1.0, 0, 0, 0], [0, 1, 0, 0], [0, 0, 1, 0], [1, 1, 0, 0]])
    )
    lch = Lab_to_LCh(solids)
    short = [
        1 - GamutBoundary.of_body(body, rounded=r).at(lch[:, 0], even_hue(solids)) / lch[:, 1]
        for r in (True, False)
    ]
    # Above yellow the boundary falls too steeply for either.
    assert short[1][[0, 1, 3]].max() < 0.03
    assert (short[1] < 0.96 * short[0]).all()
