"""Building from a chart: fit, round trip, ink limits, and that others can open the result."""

from __future__ import annotations

import io
from dataclasses import replace
from datetime import date, datetime

import numpy as np
import pytest
from PIL import Image, ImageCms

from plinto_core.characterise import BuildSettings, build_profile, fit_forward_model, forward_model
from plinto_core.characterise.ink_axes import InkAxes
from plinto_core.characterise.settings import parse_settings
from plinto_core.colorimetry import D50, XYZ_to_Lab, delta_e_2000
from plinto_core.colorimetry.cielab import Lab_to_XYZ
from plinto_core.colorimetry.spectra import reflectance_to_XYZ
from plinto_core.errors import BadRecipe, Cancelled
from plinto_core.gamut import Perceptual
from plinto_core.icc import Profile, check_profile
from plinto_core.inks.rules import parse_ink_rules
from plinto_core.measurement import cmyk_chart, parse_cgats
from plinto_core.measurement.characterisation import Characterisation
from plinto_core.simulator import CONDITIONS, measure_chart
from plinto_core.simulator.press import predicted_lab
from plinto_core.transform import convert, lab_of_device
from plinto_core.transform.link import grid_nodes
from plinto_core.transform.sides import xyz_to_device
from plinto_core.transform.standard_spaces import standard_profile
from plinto_core.transform.table import node_values


def truth(inks: np.ndarray) -> np.ndarray:
    """Media-relative Lab of the simulated press, without noise."""
    absolute = predicted_lab(CONDITIONS[0].model, np.vstack([np.zeros((1, 4)), inks]))
    from plinto_core.colorimetry import Lab_to_XYZ

    xyz = Lab_to_XYZ(absolute)
    return XYZ_to_Lab(xyz[1:] / xyz[0] * D50)


def test_forward_fit_holds_on_mixtures_it_never_saw(coated_measurements) -> None:
    model = fit_forward_model(coated_measurements)
    inks = np.random.default_rng(9).random((2000, 4))
    error = delta_e_2000(model(inks), truth(inks))
    assert error.mean() < 0.5
    assert np.percentile(error, 95) < 1.0
    assert model.validation.p95 < 1.0


def test_round_trip_inside_the_gamut(coated_build) -> None:
    trip = coated_build.report.round_trip
    assert trip.mean <= 0.5
    assert trip.p99 <= 1.5


def test_profile_tells_the_truth_about_the_press(coated) -> None:
    inks = np.random.default_rng(12).random((2000, 4))
    error = delta_e_2000(lab_of_device(coated, inks), truth(inks))
    assert error.mean() < 0.6
    assert np.percentile(error, 99) < 2.5


def test_no_table_exceeds_the_tac_and_the_rule_is_used(coated_build) -> None:
    reached = coated_build.report.tac_reached
    assert all(319 < value <= 320 for value in reached.values())


@pytest.mark.parametrize("which", ["coated", "coated_v4"])
def test_profiles_pass_the_check_and_work_in_pillow(which, request) -> None:
    profile = request.getfixturevalue(which)
    assert check_profile(profile.data) == []
    output = ImageCms.ImageCmsProfile(io.BytesIO(profile.data))
    source = ImageCms.ImageCmsProfile(io.BytesIO(standard_profile("srgb").data))
    transform = ImageCms.buildTransform(source, output, "RGB", "CMYK", renderingIntent=0)
    image = ImageCms.applyTransform(Image.new("RGB", (2, 2), (200, 30, 40)), transform)
    c, m, y, _ = image.getpixel((0, 0))
    assert m > 180 > c
    assert y > 120


def test_three_intents_differ_as_they_should(coated) -> None:
    srgb = standard_profile("srgb")
    vivid = np.array([[0.1, 0.95, 0.3]])
    lab = {
        intent: lab_of_device(coated, convert(srgb, coated, vivid, intent=intent, bpc=True))[0]
        for intent in ("perceptual", "relative", "saturation")
    }
    chroma = {k: np.hypot(v[1], v[2]) for k, v in lab.items()}
    assert chroma["saturation"] > chroma["perceptual"] > 0.9 * chroma["saturation"]
    # Printable colours stay under relative only.
    dark = np.array([[0.2, 0.25, 0.2]])
    asked = lab_of_device(srgb, dark)[0]
    away = {
        intent: delta_e_2000(
            lab_of_device(coated, convert(srgb, coated, dark, intent=intent))[0][None], asked[None]
        )[0]
        for intent in ("perceptual", "relative")
    }
    assert away["relative"] < 0.3 < 0.6 < away["perceptual"]


def test_perceptual_keeps_steps_where_relative_flattens(coated) -> None:
    srgb = standard_profile("srgb")
    ramp = np.stack([np.linspace(0.6, 0, 24), np.full(24, 0.9), np.full(24, 0.35)], axis=1)
    steps = {}
    for intent in ("perceptual", "relative"):
        lab = lab_of_device(coated, convert(srgb, coated, ramp, intent=intent, bpc=True))
        steps[intent] = delta_e_2000(lab[1:], lab[:-1])
    assert steps["perceptual"][-8:].min() > steps["relative"][-8:].min()


def test_the_measurements_travel_inside(coated, coated_measurements) -> None:
    text = coated.text("targ")
    assert len(parse_cgats(text)[0].rows) == len(coated_measurements.device)


def test_limits_per_ink_hold_in_every_table(coated_measurements) -> None:
    rules = parse_ink_rules({"tac": 240, "limits": {"C": 80, "Y": 90}, "black": {"limit": 70}})
    profile = Profile(build_profile(coated_measurements, rules, BuildSettings(size="small")).data)
    for tag in ("B2A0", "B2A1", "B2A2"):
        nodes = node_values(profile.table(tag))
        assert (nodes.max(axis=0) <= np.array([0.8, 1, 0.9, 0.7]) + 1e-4).all()
        assert nodes.sum(axis=1).max() <= 2.4
    between = Lab_to_XYZ(
        np.random.default_rng(3).random((50_000, 3)) * [100, 200, 200] - [0, 100, 100]
    )
    for intent in (0, 1, 2):
        inks = xyz_to_device(profile, between, intent)
        assert (inks.max(axis=0) <= np.array([0.8, 1, 0.9, 0.7]) + 1e-4).all()
        assert inks.sum(axis=1).max() <= 2.4


def test_gamut_tag_separates_inside_from_outside(coated) -> None:
    from plinto_core.transform.encoding import lab_to_unit
    from plinto_core.transform.table import run_table

    lab = np.array([[60.0, 5, 5], [70, -110, 90]])
    inside, outside = run_table(
        coated.table("gamt"), lab_to_unit(lab, legacy=True), tetrahedral=False
    )[:, 0]
    assert inside == 0
    assert outside > 0.5


def test_a_chart_that_stops_at_300_percent_still_gives_a_calm_model(coated_measurements) -> None:
    keep = coated_measurements.device.sum(axis=1) <= 3.0
    data = Characterisation(coated_measurements.device[keep], coated_measurements.xyz[keep])
    model = fit_forward_model(data)
    inks = np.random.default_rng(3).random((800, 4))
    inks = inks[inks.sum(axis=1) < 3.2]
    assert delta_e_2000(model(inks), truth(inks)).max() < 6
    assert model(np.ones((1, 4)))[0, 0] < 40


def test_a_build_can_be_cancelled(coated_measurements, coated_rules) -> None:
    def stop(share: float) -> None:
        raise Cancelled

    with pytest.raises(Cancelled):
        build_profile(coated_measurements, coated_rules, progress=stop)


@pytest.mark.parametrize("data", [{"version": 3}, {"size": "vast"}, {"shape": 1}, 7])
def test_wrong_settings_are_refused(data) -> None:
    with pytest.raises(BadRecipe, match="build settings"):
        parse_settings(data)


def test_the_perceptual_look_does_not_depend_on_the_size_of_the_tables(
    coated, coated_measurements, coated_rules
) -> None:
    small = Profile(
        build_profile(coated_measurements, coated_rules, BuildSettings(size="small")).data
    )
    rgb = np.random.default_rng(4).random((4000, 3))
    for intent in ("perceptual", "saturation"):
        one, other = (
            lab_of_device(coated, convert(standard_profile("srgb"), p, rgb, intent=intent))
            for p in (small, coated)
        )
        error = delta_e_2000(one, other)
        assert error.mean() <= 0.4
        assert np.percentile(error, 99) <= 1.5
    # Blues just above black, which have twenty times as much chroma as lightness, among the darks.
    dark = grid_nodes(3, 7) * 48 / 255
    one, other = (
        lab_of_device(coated, convert(standard_profile("srgb"), p, dark, intent="perceptual"))
        for p in (small, coated)
    )
    assert delta_e_2000(one, other).max() <= 1.6


def test_black_that_is_too_dark_prints_as_the_darkest_neutral(coated) -> None:
    black = Lab_to_XYZ(np.array([[0.0, 0, 0], [4, 0, 0]]))
    lab = lab_of_device(coated, xyz_to_device(coated, black, 1))
    assert np.hypot(lab[:, 1], lab[:, 2]).max() <= 1.5
    assert lab[:, 0].max() < 10


def test_ink_axes_run_as_the_ramps_do() -> None:
    tones = np.linspace(0, 1, 11)
    device = np.zeros((44, 4))
    for ink in range(4):
        device[11 * ink : 11 * ink + 11, ink] = tones
    lab = np.stack(
        [100 - 60 * device.sum(axis=1) ** 2, 0 * tones.repeat(4), 0 * tones.repeat(4)], axis=1
    )
    axes = InkAxes.of_patches(device, lab)
    # The way that L* has gone, and a twentieth of the tone value.
    asked = np.array([[0.5, 0.2, 1.0, 0.0]])
    assert axes(asked)[0] == pytest.approx([0.2625, 0.048, 1, 0], abs=0.003)
    lonely = InkAxes.of_patches(device[:12], lab[:12])
    assert lonely.curves[1:] == (None, None, None)
    assert lonely(asked)[0, 1:] == pytest.approx([0.2, 1, 0])


REGIONS = {
    "total above 260 %": lambda d: d.sum(axis=1) > 2.6,
    "black above 50 % on colours": lambda d: (d[:, 3] > 0.5) & (d[:, :3].sum(axis=1) > 1.2),
    "black above 30 % on more of them": lambda d: (d[:, 3] > 0.3) & (d[:, :3].sum(axis=1) > 1.8),
    "dark blues": lambda d: (d[:, :2] > 0.6).all(axis=1) & (d[:, 3] > 0.2),
}


def missed(data: Characterisation, left_out) -> np.ndarray:
    """dE00 of patches that the fit has not seen."""
    part = Characterisation(data.device[~left_out], data.xyz[~left_out], "Part")
    exact = XYZ_to_Lab(data.xyz[left_out] / data.paper * D50)
    return delta_e_2000(fit_forward_model(part)(data.device[left_out]), exact)


def charted(condition: int) -> Characterisation:
    chart = cmyk_chart()
    xyz = reflectance_to_XYZ(measure_chart(CONDITIONS[condition].model, chart))
    return Characterisation(chart, xyz, "Chart")


@pytest.mark.parametrize("region", REGIONS)
def test_regions_that_were_not_measured(coated_measurements, region) -> None:
    error = missed(coated_measurements, REGIONS[region](coated_measurements.device))
    assert error.mean() <= 0.5
    assert np.percentile(error, 95) <= 1.5


def test_straight_axes_and_roots_serve_where_darks_are_missing(monkeypatch) -> None:
    data = charted(2)
    dark = REGIONS["total above 260 %"](data.device)
    error = missed(data, dark).mean()
    assert error <= 0.05
    monkeypatch.setattr(forward_model, "ROOT", 3)
    assert missed(data, dark).mean() > 1.2 * error
    monkeypatch.undo()
    monkeypatch.setattr(InkAxes, "of_patches", classmethod(lambda cls, *_: cls((None,) * 4)))
    assert missed(data, dark).mean() > 1.4 * error


def test_bare_paper_is_the_white_to_the_last_digit(coated_measurements) -> None:
    noise = np.random.default_rng(2).normal(1, 0.004, coated_measurements.xyz.shape)
    noisy = replace(coated_measurements, xyz=coated_measurements.xyz * noise)
    paper = fit_forward_model(noisy)(np.zeros((1, 4)))
    assert paper == pytest.approx(np.array([[100.0, 0.0, 0.0]]), abs=1e-9)


def test_a_profile_carries_the_day_it_was_built_or_the_one_that_is_stated(
    coated_measurements, coated_rules
) -> None:
    small = BuildSettings(size="small")
    today = Profile(build_profile(coated_measurements, coated_rules, small).data)
    assert abs((datetime(*today.header.created[:3]) - datetime.now()).days) <= 1
    stated = small.model_copy(update={"built": date(2025, 3, 9)})
    first, second = (build_profile(coated_measurements, coated_rules, stated) for _ in range(2))
    assert Profile(first.data).header.created == (2025, 3, 9, 0, 0, 0)
    assert first.data == second.data
    assert "2025-03-09" in Profile(first.data).text("targ")


def test_kinds_of_perceptual_are_built(coated_measurements, coated_rules) -> None:
    srgb, found = standard_profile("srgb"), {}
    for kind in ("faithful", "vivid"):
        settings = BuildSettings(size="small", perceptual=Perceptual(kind=kind, grey_b=2))
        profile = Profile(build_profile(coated_measurements, coated_rules, settings).data)
        rgb = np.array([[0, 1, 0], [1, 0, 1], [1, 0.5, 0], [0.5, 0.5, 0.5]])
        found[kind] = lab_of_device(profile, convert(srgb, profile, rgb, intent="perceptual"))
    chroma = {k: np.hypot(*v[:3, 1:].T).mean() for k, v in found.items()}
    assert chroma["vivid"] > chroma["faithful"] + 2
    assert found["vivid"][3, 2] == pytest.approx(2, abs=0.4)
