"""Backward tables fitted between their nodes: solids come back clean, limits hold, greys stay even."""

from __future__ import annotations

import imagecodecs
import numpy as np
import pytest
from PIL import ImageCms
from scipy.interpolate import RBFInterpolator

from plinto_core.characterise import BuildSettings, build_profile, fitting
from plinto_core.characterise.fitting import ROOM, _Samples, fit_inks, fit_mapped_inks
from plinto_core.characterise.forward_model import ForwardModel
from plinto_core.characterise.solids import solids, stray_ink
from plinto_core.characterise.spline import SplinePoints
from plinto_core.characterise.tables import Grid, roomy_table
from plinto_core.colorimetry import delta_e_2000
from plinto_core.colorimetry.cielab import D50, Lab_to_XYZ, XYZ_to_Lab
from plinto_core.gamut import LOOKS, GamutBoundary, map_colours
from plinto_core.icc import Profile
from plinto_core.icc.tables import parse_mft
from plinto_core.inks import ForwardTable, separate
from plinto_core.inks.rules import InkRules, parse_ink_rules
from plinto_core.kernels.fit import scatter
from plinto_core.kernels.interpolate import interpolate
from plinto_core.transform import lab_of_device
from plinto_core.transform.link import grid_nodes
from plinto_core.transform.sides import xyz_to_device
from plinto_core.transform.standard_spaces import standard_profile
from plinto_core.transform.table import node_values


def returned(profile: Profile, inks: np.ndarray) -> np.ndarray:
    """Tone values of their own printed colours, relative colorimetric."""
    return xyz_to_device(profile, Lab_to_XYZ(lab_of_device(profile, inks)), 1)


def test_solids_and_overprints_come_back_as_they_are(coated, coated_rules, coated_build) -> None:
    plain = solids(coated_rules)
    back = returned(coated, plain)
    assert np.abs(back[:6] - plain[:6]).max() <= 0.005
    assert back[plain <= 0].max() <= 0.005
    assert delta_e_2000(lab_of_device(coated, back), lab_of_device(coated, plain)).max() <= 0.2
    assert coated_build.report.stray_ink == stray_ink(coated, coated_rules) <= 0.5


def test_solids_come_back_clean_in_the_little_cms_library(coated, coated_rules) -> None:
    plain = solids(coated_rules)
    lab = lab_of_device(coated, plain).astype(np.float32)[None]
    theirs = imagecodecs.cms_transform(
        lab, ImageCms.ImageCmsProfile(ImageCms.createProfile("LAB")).tobytes(), coated.data,
        colorspace="lab", outcolorspace="cmyk", outdtype=np.float32, intent=1,
        flags=int(imagecodecs.CMS.FLAGS.NOOPTIMIZE) | int(imagecodecs.CMS.FLAGS.NOCACHE),
    )  # fmt: skip
    found = np.asarray(theirs, float)[0] / 100
    assert found[plain <= 0].max() <= 0.005
    assert np.abs(found - returned(coated, plain)).max() <= 0.001


def test_stray_ink_looks_at_what_a_solid_is_not_made_of(coated, coated_rules, monkeypatch) -> None:
    given = solids(coated_rules)[:6] + np.array([0.0, 0.03, 0.0, 0.01])
    monkeypatch.setattr("plinto_core.characterise.solids.xyz_to_device", lambda *_: given)
    assert stray_ink(coated, coated_rules) == 3.0


@pytest.mark.parametrize("tetrahedral", [False, True])
def test_what_nodes_are_told_is_what_they_give(tetrahedral) -> None:
    # Interpolation and its transpose: <W t, v> = <t, W' v>.
    rng = np.random.default_rng(1)
    size, at = 5, rng.random((400, 3))
    at[:8] = [[a, b, c] for a in (0, 1) for b in (0, 1) for c in (0, 1)]
    table, values = rng.random((size**3, 4)), rng.random((400, 4))
    total, shares = np.zeros_like(table), np.zeros(size**3)
    scatter(size, tetrahedral, at, values, np.ones(400), total, shares)
    given = interpolate(table.reshape(-1), np.array([size] * 3), 4, at, tetrahedral)
    assert (given * values).sum() == pytest.approx((table * total).sum(), rel=1e-12)
    assert shares.sum() == pytest.approx(400)


def test_an_edge_stands_inside_a_cell() -> None:
    grid = Grid(2)
    limits = np.array([1.0, 0.8, 1.0, 0.0])
    values = np.zeros((8, 4))
    values[4:] = [[1.25, 0.8, 0.5, 0.0]]
    values[:4] = [[-0.25, -0.4, 0.5, 0.0]]
    table = parse_mft(roomy_table(values, grid, limits, ROOM))
    lightness = np.linspace(0, 1, 13)
    places = grid.places(grid.lab(np.stack([lightness, 0 * lightness, 0 * lightness], axis=1)))
    given = interpolate(table.clut.reshape(-1), np.array([2] * 3), 4, places, False)
    inks = np.stack([curve(given[:, i]) for i, curve in enumerate(table.after)], axis=1)
    wanted = np.clip(
        np.stack([-0.25 + 1.5 * lightness, -0.4 + 1.2 * lightness], axis=1), 0, [1, 0.8]
    )
    assert np.allclose(inks[:, :2], wanted, atol=1e-4)
    assert np.allclose(inks[:, 2], 0.5, atol=1e-4)
    assert (inks[:, 3] == 0).all()
    assert np.allclose(node_values(table)[:4], [0, 0, 0.5, 0], atol=1e-4)


@pytest.fixture(scope="module")
def press(coated) -> ForwardTable:
    return ForwardTable.of_profile(coated)


def test_fitting_makes_colours_between_the_nodes_more_exact(press) -> None:
    rules, grid = parse_ink_rules({"tac": 260}), Grid(17)
    inks = separate(press, grid.nodes, rules).inks
    fitted = fit_inks(press, rules, grid, inks)
    drawn = np.random.default_rng(7).random((20_000, 4))
    aims = press.lab_of(drawn[drawn.sum(axis=1) <= 2.5])
    errors = []
    for values in (inks, fitted):
        given = interpolate(
            np.ascontiguousarray(values).reshape(-1),
            np.array([17] * 3),
            4,
            grid.places(aims),
            False,
        )
        errors.append(delta_e_2000(aims, press.lab_of(np.clip(given, 0, 1))))
    assert errors[0].mean() < 0.24
    assert errors[1].mean() < 0.87 * errors[0].mean()
    assert np.percentile(errors[1], 99) < 0.8 * np.percentile(errors[0], 99)


def test_fitted_nodes_keep_to_their_room_the_total_and_the_greys(press) -> None:
    rules, grid = InkRules(tac=240, limits={"C": 90.0}), Grid(17)
    inks = separate(press, grid.nodes, rules).inks
    fitted = fit_inks(press, rules, grid, inks)
    limits = rules.ink_limits()
    assert fitted.min() >= -ROOM
    assert fitted.min() < -0.05
    assert (fitted <= (1 + ROOM) * limits + 1e-12).all()
    assert np.maximum(fitted, 0).sum(axis=1).max() <= 2.4
    greys = grid.greys
    assert np.abs(grid.nodes[greys, 1:]).max() < 0.01
    light = grid.nodes[greys, 0] / 100
    assert np.allclose(1.1 * light - 0.1 * light**2, np.linspace(0, 1, 17), atol=1e-3)
    assert (fitted[greys] == inks[greys]).all()


def test_without_black_there_is_none_after_fitting(coated_measurements) -> None:
    rules = parse_ink_rules({"tac": 260, "black": {"method": "none"}})
    profile = Profile(build_profile(coated_measurements, rules, BuildSettings(size="small")).data)
    lab = np.random.default_rng(2).random((5000, 3)) * [100, 160, 160] - [0, 80, 80]
    assert xyz_to_device(profile, Lab_to_XYZ(lab), 1)[:, 3].max() == 0.0


@pytest.mark.parametrize(
    ("count", "inks", "quintic"), [(450, 4, True), (200, 4, False), (200, 3, True)]
)
@pytest.mark.parametrize("smoothing", [1e-4, 1.0])
def test_the_spline_is_the_one_of_the_standard_library(count, inks, quintic, smoothing) -> None:
    rng = np.random.default_rng(count)
    places, values = rng.random((count, inks)), rng.random((count, 3)) * 100
    kernel, degree = ("quintic", 3) if quintic else ("cubic", 2)
    known = RBFInterpolator(places, values, kernel=kernel, degree=degree, smoothing=smoothing)
    at = rng.random((300, inks)) * 1.1
    ours = SplinePoints(places, values, quintic).fit(smoothing)
    assert np.abs(ours(at) - known(at)).max() <= 1e-7


@pytest.mark.parametrize(("inks", "quintic"), [(2, True), (4, True), (3, False)])
@pytest.mark.parametrize("smoothing", [0.0, 1e-4, 1.0])
def test_what_is_left_out_is_missed_as_by_a_fit_of_the_others(inks, quintic, smoothing) -> None:
    rng = np.random.default_rng(8)
    places, values = rng.random((240, inks)), rng.random((240, 3)) * 100
    part = rng.integers(0, 5, 240)
    missed = SplinePoints(places, values, quintic).left_out(smoothing, part)
    for one in range(5):
        held, kept = part == one, part != one
        alone = SplinePoints(places[kept], values[kept], quintic).fit(smoothing)
        assert np.allclose(missed[held], values[held] - alone(places[held]), atol=1e-6)


def test_too_few_points_are_left_to_leave_any_out() -> None:
    """Ten terms of a quadric in three inks; twelve points, four of them left out."""
    rng = np.random.default_rng(9)
    points = SplinePoints(rng.random((12, 3)), rng.random((12, 3)), False)
    points.left_out(1.0, np.arange(12))
    with pytest.raises(np.linalg.LinAlgError):
        points.left_out(1.0, np.arange(12) % 3)


@pytest.mark.parametrize("places", [np.zeros((60, 3)), np.random.default_rng(1).random((9, 3))])
def test_points_that_determine_no_spline_are_refused(places) -> None:
    with pytest.raises(np.linalg.LinAlgError):
        SplinePoints(places, np.zeros((len(places), 3)), True).fit(0.0)


@pytest.mark.parametrize(("ends", "limit"), [("darks", 1.8), ("lights", 0.9)])
def test_the_ends_of_pictures_are_mapped_as_exactly_as_others(
    coated, coated_rules, press, ends, limit
) -> None:
    body = press.body(coated_rules)
    boundary = GamutBoundary.of_body(body)
    rgb = grid_nodes(3, 33)
    rgb = rgb[rgb.max(axis=1) <= 0.28] if ends == "darks" else rgb[rgb.min(axis=1) >= 0.72]
    lab = lab_of_device(standard_profile("srgb"), rgb)
    aims = map_colours(lab, boundary, LOOKS["balanced"])
    wanted = press.lab_of(separate(press, aims, coated_rules).inks)
    found = lab_of_device(coated, xyz_to_device(coated, Lab_to_XYZ(lab), 0))
    assert delta_e_2000(wanted, found).max() <= limit


def test_halves_hold_every_sample_once_and_solids_twice_with_half_their_weight() -> None:
    rng = np.random.default_rng(3)
    weight = np.array([1.0, 5.0, 1.0, 1.0, 5.0, 400.0, 400.0])
    samples = _Samples(*(rng.random((7, n)) for n in (3, 3, 4)), weight)
    one, other = samples.halves()
    assert one.weight.tolist() == [1, 1, 5, 200, 200]
    assert other.weight.tolist() == [5, 1, 200, 200]
    assert np.array_equal(one.at, samples.at[[0, 2, 4, 5, 6]])
    assert np.array_equal(other.inks, samples.inks[[1, 3, 5, 6]])
    assert samples.weight.max() == 400


def test_colours_that_still_ask_are_met_better_where_they_weigh_more(
    press, coated_rules, monkeypatch
) -> None:
    boundary = GamutBoundary.of_body(press.body(coated_rules))
    grid = Grid(17)

    def aims_of(lab: np.ndarray) -> np.ndarray:
        return map_colours(lab, boundary, LOOKS["balanced"])

    aims = aims_of(grid.nodes)
    inks = separate(press, aims, coated_rules).inks
    rgb = grid_nodes(3, 33)
    lab = lab_of_device(standard_profile("srgb"), rgb[rgb.max(axis=1) <= 0.3])
    wanted = press.lab_of(separate(press, aims_of(lab), coated_rules).inks)

    def farthest() -> float:
        values = fit_mapped_inks(press, coated_rules, grid, inks, aims, aims_of)
        given = interpolate(
            np.ascontiguousarray(values).reshape(-1), np.array([17] * 3), 4, grid.places(lab), False
        )  # fmt: skip
        return float(delta_e_2000(wanted, press.lab_of(np.clip(given, 0, 1))).max())

    weighed = farthest()
    monkeypatch.setattr(fitting, "_EVEN_STEPS", 99)
    assert weighed < 0.95 * farthest()


@pytest.mark.parametrize(("tint", "share"), [(0.0, 1.0), (0.0625, 0.5625), (0.125, 0.25), (0.25, 0.0), (0.5, 0.0)])  # fmt: skip
def test_paper_is_white_and_the_miss_of_it_fades_up_to_a_quarter_tone(tint, share) -> None:
    """Roots of 0.9 everywhere miss paper by -0.1; the miss is taken off by (1 - 4 tint) squared."""
    model = ForwardModel(
        spline=lambda places: np.full((len(places), 3), 0.9),  # type: ignore[arg-type]
        axes=lambda device: device,  # type: ignore[arg-type]
        paper_error=np.full(3, -0.1), floor=2.0, validation=None,  # type: ignore[arg-type]
    )  # fmt: skip
    for ink in range(4):
        lab = model(np.eye(4)[ink : ink + 1] * tint)
        wanted = XYZ_to_Lab(np.full((1, 3), 0.9 + 0.1 * share) ** 6 * D50)
        assert lab == pytest.approx(wanted, abs=1e-9)
