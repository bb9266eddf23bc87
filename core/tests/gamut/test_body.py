"""The gamut engine on solids whose volumes, boundaries and distances are known."""

from __future__ import annotations

from itertools import combinations
from math import comb

import numpy as np
import pytest
from handmade import cmyk_profile
from solids import ball, double_cone_body

from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.gamut import GamutBody
from plinto_core.gamut.of_profile import FlatGamut, gamut_of, own_total
from plinto_core.gamut.outside import gamut_distance, gamut_miss
from plinto_core.gamut.sheets import _sheets, device_sheets
from plinto_core.icc.profile import Profile
from plinto_core.transform.chain import lab_of_device
from plinto_core.transform.standard_spaces import standard_profile


def of_vectors(vectors: np.ndarray, start: np.ndarray, tac: float | None = None) -> GamutBody:
    """Inks that add vectors in Lab: the body is a zonotope."""
    return GamutBody.of_device(lambda d: start + d @ vectors, np.ones(len(vectors)), tac)


def zonotope_volume(vectors: np.ndarray) -> float:
    """The sum of |det| over all threes of the vectors (Shephard 1974)."""
    return sum(abs(np.linalg.det(vectors[list(t)])) for t in combinations(range(len(vectors)), 3))


@pytest.mark.parametrize("inks", [3, 4, 5, 6])
def test_inks_that_add_up_have_the_volume_of_their_zonotope(inks) -> None:
    angle = 2 * np.pi * np.arange(inks) / inks
    vectors = np.stack(
        [-50.0 / inks - 5 * np.cos(2 * angle), 40 * np.cos(angle), 40 * np.sin(angle)], 1
    )
    start = np.array([50.0, 0, 0]) - 0.5 * vectors.sum(axis=0)
    body = of_vectors(vectors, start)
    assert body.volume == pytest.approx(zonotope_volume(vectors), rel=0.003)


def test_round_solids_have_their_volumes() -> None:
    assert double_cone_body().volume == pytest.approx(np.pi * 60**2 * 90 / 3, rel=0.003)
    assert ball(45).volume == pytest.approx(4 / 3 * np.pi * 45**3, rel=0.003)
    assert ball(30, aside=(12, -9)).volume == pytest.approx(4 / 3 * np.pi * 30**3, rel=0.005)


def test_a_tac_cuts_the_body_on_its_plane() -> None:
    vectors = np.array([[-30.0, 60, 0], [-30, -30, 50], [-30, -30, -50]])
    start = np.array([80.0, 0, 0])
    whole = of_vectors(vectors, start)
    cut = of_vectors(vectors, start, 1.5)
    # Half of a cube lies on either side of the plane through its middle.
    assert cut.volume == pytest.approx(whole.volume / 2, rel=0.003)
    assert cut.lightness_range == pytest.approx((35, 80), abs=0.01)
    assert whole.lightness_range == pytest.approx((-10, 80), abs=0.01)


def test_an_ink_whose_solid_is_not_the_most_colourful_is_seen_at_its_best() -> None:
    def lab_of(inks):
        chroma = 80 * inks[:, :3] * (1.6 - inks[:, :3])  # most at tone value 0.8
        angle = np.radians([0, 120, 240])
        ab = chroma @ np.stack([np.cos(angle), np.sin(angle)], axis=1)
        lightness = 95 - 20 * inks[:, :3].sum(axis=1) - 30 * inks[:, 3]
        return np.concatenate([lightness[:, None], ab], axis=1)

    body = GamutBody.of_device(lab_of, np.ones(4))
    at_best = lab_of(np.array([[0.8, 0, 0, 0], [0.8, 0, 0, 0.5], [0, 0.8, 0, 0]]))
    assert body.reach(at_best) == pytest.approx(1.0, abs=0.02)


def test_in_and_out_and_how_far() -> None:
    body = ball(40)
    lab = np.array([[50.0, 39, 0], [50, 41, 0], [50, 0, -60], [95, 0, 0], [50, 1, 1], [15, 0, 0]])
    assert body.contains(lab).tolist() == [True, False, False, False, True, True]
    assert body.reach(lab[[1, 2]]) == pytest.approx([41 / 40, 1.5], abs=0.003)
    distance = body.distance(lab)
    assert (distance[[1, 2, 3]] > 0).all()
    assert (distance[[0, 4, 5]] < 0).all()
    assert distance[1] == pytest.approx(
        delta_e_2000(lab[1:2], np.array([[50.0, 40, 0]]))[0], abs=0.1
    )
    assert body.printable(lab)[[0, 4, 5]] == pytest.approx(lab[[0, 4, 5]])
    assert body.reach(body.printable(lab)[[1, 2, 3]]) == pytest.approx(1.0, abs=0.003)


def test_no_point_of_the_boundary_is_nearer_than_the_nearest() -> None:
    body = double_cone_body()
    lab = np.random.default_rng(2).uniform([0, -90, -90], [100, 90, 90], (300, 3))
    lab = lab[~body.contains(lab)]
    away = body.distance(lab)
    every = body.vertices[::4, ::4].reshape(-1, 3)
    for i in range(0, len(lab), 9):
        # Found in a space like dE00 and measured in dE00: near, and never farther by much.
        assert (
            away[i]
            <= delta_e_2000(np.repeat(lab[i : i + 1], len(every), 0), every).min() * 1.3 + 0.3
        )


def test_two_bodies_share_what_both_hold() -> None:
    left, right = ball(40, (-10, 0)), ball(40, (10, 0))
    # Two balls of radius r, d apart, share pi (4r + d) (2r - d)^2 / 12.
    lens = np.pi * (4 * 40 + 20) * (2 * 40 - 20) ** 2 / 12
    assert left.intersection(right).volume == pytest.approx(lens, rel=0.01)
    assert left.coverage(right) == pytest.approx(lens / (4 / 3 * np.pi * 40**3), rel=0.01)
    assert ball(45).coverage(ball(20)) == pytest.approx(1.0)
    assert ball(20).coverage(ball(45)) == pytest.approx((20 / 45) ** 3, rel=0.01)


def test_a_body_away_from_middle_grey_is_seen_from_a_grey_of_its_own() -> None:
    light = ball(12, lightness=80)
    assert light.holds_centre
    assert light.centre == pytest.approx(80, abs=1)
    assert light.volume == pytest.approx(4 / 3 * np.pi * 12**3, rel=0.01)
    assert ball(35).intersection(light).volume == pytest.approx(
        # What two balls share whose middles are 30 apart.
        np.pi * (35 + 12 - 30) ** 2 * (30**2 + 2 * 30 * 47 - 3 * (35 - 12) ** 2) / (12 * 30),
        rel=0.02,
    )


def test_sheets_keep_limits_and_the_tac_and_reach_both() -> None:
    limits = np.array([1.0, 0.9, 0.8, 0.7])
    device = device_sheets(limits, 2.2).reshape(-1, 4)
    assert (device <= limits + 1e-12).all()
    assert (device >= 0).all()
    assert device.sum(axis=1).max() == pytest.approx(2.2)
    assert device.max(axis=0) == pytest.approx(limits)
    # The darkest corners lie on the plane with black solid.
    assert (np.abs(device - np.array([0.75, 0.0, 0.75, 0.7])).max(axis=1) < 0.03).any()


def test_what_a_press_prints_is_never_out_of_gamut_whatever_its_backward_tables_say(coated) -> None:
    rng = np.random.default_rng(5)
    inks = rng.random((30_000, 4))
    inks = inks[inks.sum(axis=1) <= own_total(coated)]
    lab = lab_of_device(coated, inks)
    assert gamut_distance(coated, lab).max() < 0.5
    careless = cmyk_profile(
        lambda inks: lab_of_device(coated, inks), lambda lab: 0.8 + 0 * lab[:, [0, 0, 0, 0]], grid=9
    )
    assert gamut_distance(careless, lab[:500]).max() < 1.5


def test_the_total_that_a_profile_uses_bounds_its_gamut(coated) -> None:
    assert own_total(coated) == pytest.approx(3.2, abs=0.01)
    assert own_total(standard_profile("srgb")) is None
    body = gamut_of(coated)
    assert isinstance(body, GamutBody)
    beyond = lab_of_device(coated, np.array([[1.0, 1, 1, 1]]))
    assert not body.contains(beyond)[0]


def test_screens_have_a_body_too() -> None:
    screen = gamut_of(standard_profile("srgb"))
    assert isinstance(screen, GamutBody)
    assert screen.lightness_range == pytest.approx((0, 100), abs=0.1)
    # By the integral of the Jacobian over RGB, 129 steps an axis: 826,904.
    assert screen.volume == pytest.approx(826_904, rel=0.01)


def test_inks_that_only_make_greys_are_a_line(coated) -> None:
    grey = cmyk_profile(
        lambda inks: np.stack([100 - 80 * inks[:, 3], 0 * inks[:, 0], 0 * inks[:, 0]], axis=1),
        lambda lab: np.stack([0 * lab[:, 0]] * 3 + [(100 - lab[:, 0]) / 80], axis=1),
    )
    line = gamut_of(grey)
    assert isinstance(line, FlatGamut)
    assert line.volume == 0
    (grey_miss, red_miss) = gamut_miss(grey, np.array([[60.0, 0, 0], [60, 40, 0]]))
    assert grey_miss.sum() < 0.5
    assert red_miss.argmax() == 0
    assert red_miss.sum() > 15


def test_one_profile_is_looked_at_once(coated) -> None:
    assert gamut_of(coated) is gamut_of(Profile(coated.data))
    absolute = gamut_of(coated, intent="absolute")
    assert absolute is not gamut_of(coated)
    assert isinstance(absolute, GamutBody)
    # The paper itself, L* 95.3, is the lightest that prints.
    assert absolute.vertices[..., 0].max() == pytest.approx(95.3, abs=0.3)


@pytest.mark.parametrize("inks", [1, 2, 3, 4, 6])
@pytest.mark.parametrize("share", [0.4, 0.8, 1.0])
def test_sheets_keep_the_limits_and_lie_on_the_plane_of_the_total(inks, share) -> None:
    limits = np.linspace(1.0, 0.6, inks)
    tac = share * limits.sum()
    sheets = device_sheets(limits, tac)
    assert sheets.min() >= -1e-12
    assert (sheets <= limits + 1e-12).all()
    totals = sheets.sum(axis=-1)
    assert totals.max() == pytest.approx(tac)
    if inks > 2 and share < 1:
        # A sheet for each ink that fills up what the others leave.
        on_plane = np.abs(totals - tac) < 1e-9
        assert on_plane.mean() > 0.03
        levels = np.linspace(0, 1, {3: 5, 4: 3, 6: 3}[inks])
        assert len(sheets) > sum(len(s) for s in _sheets(limits, tac, levels))
    if inks > 2 and share == 1:
        assert len(sheets) == comb(inks, 2) * {3: 5, 4: 3, 6: 3}[inks] ** (inks - 2)
