from __future__ import annotations

import numpy as np
import pytest

from plinto_core.colorimetry import D50, Lab_to_XYZ, XYZ_to_Lab
from plinto_core.errors import BadProfile, NotSupported
from plinto_core.gamut.outside import gamut_distance
from plinto_core.icc import Profile
from plinto_core.icc.curves import SampledCurve
from plinto_core.icc.header import IccHeader
from plinto_core.icc.tables import Table, pack_mft2
from plinto_core.icc.values import pack_desc, pack_text, pack_xyz
from plinto_core.icc.write import write_profile
from plinto_core.transform import convert, lab_of_device
from plinto_core.transform.black_point import (
    PERCEPTUAL_BLACK,
    compensation,
    destination_black_point,
    source_black_point,
)
from plinto_core.transform.encoding import lab_to_unit, unit_to_lab
from plinto_core.transform.link import grid_nodes
from plinto_core.transform.path import LAB, PathStep, follow_path
from plinto_core.transform.sides import device_to_xyz
from plinto_core.transform.standard_spaces import standard_profile


def n_colour_profile(inks: int) -> Profile:
    """Inks that darken equally: L* 100 without, 20 with all of them full."""
    nodes = grid_nodes(inks, 3)
    lab = np.stack([100 - 80 * nodes.mean(axis=1), 0 * nodes[:, 0], 0 * nodes[:, 0]], axis=1)
    identity = SampledCurve(np.linspace(0, 1, 2))
    clut = lab_to_unit(lab, legacy=True).reshape((3,) * inks + (3,))
    table = pack_mft2(Table("mft2", inks, 3, (identity,) * inks, clut, (), None, (identity,) * 3))
    header = IccHeader(
        size=0, version=(2, 4, 0), device_class="prtr", colour_space=f"{inks}CLR", pcs="Lab "
    )
    tags = {"desc": pack_desc("n"), "cprt": pack_text("-"), "wtpt": pack_xyz(D50), "A2B0": table}
    return Profile(write_profile(header, tags))


@pytest.mark.parametrize("inks", [5, 6, 7, 8])
def test_profiles_of_many_inks_are_evaluated(inks) -> None:
    device = np.random.default_rng(inks).random((20, inks))
    lab = lab_of_device(n_colour_profile(inks), device)
    assert np.allclose(lab[:, 0], 100 - 80 * device.mean(axis=1), atol=0.01)


def test_compensation_keeps_white_and_moves_black() -> None:
    black_in, black_out = Lab_to_XYZ(np.array([0.0, 0, 0])), Lab_to_XYZ(np.array([15.0, 0, 0]))
    scale, offset = compensation(black_in, black_out)
    assert np.allclose(D50 * scale + offset, D50)
    assert np.allclose(black_in * scale + offset, black_out)


def test_v4_perceptual_black_is_the_standards(coated_v4) -> None:
    assert np.array_equal(destination_black_point(coated_v4, 0), PERCEPTUAL_BLACK)
    assert np.array_equal(source_black_point(coated_v4, 2), PERCEPTUAL_BLACK)


def test_bpc_lays_black_on_the_darkest_print_and_saves_shadow_steps(coated) -> None:
    srgb = standard_profile("srgb")
    dark = np.repeat(np.linspace(0, 0.12, 9)[:, None], 3, axis=1)
    steps = {}
    for bpc in (False, True):
        inks = convert(srgb, coated, dark, intent="relative", bpc=bpc)
        steps[bpc] = np.diff(lab_of_device(coated, inks)[:, 0])
    assert steps[True][:4].sum() > 3 * steps[False][:4].sum()


def test_absolute_scales_by_the_media_white(coated) -> None:
    paper = np.zeros((1, 4))
    assert np.allclose(lab_of_device(coated, paper), [100, 0, 0], atol=0.02)
    absolute = lab_of_device(coated, paper, intent="absolute")
    assert np.allclose(absolute, XYZ_to_Lab(coated.media_white), atol=0.02)
    assert absolute[0, 0] < 97


def test_greys_stay_grey_in_print(coated) -> None:
    ramp = np.repeat(np.linspace(0, 1, 33)[:, None], 3, axis=1)
    for intent in ("perceptual", "relative"):
        inks = convert(standard_profile("srgb"), coated, ramp, intent=intent, bpc=True)
        lab = lab_of_device(coated, inks)
        assert np.abs(lab[:, 1:]).max() < 0.8
        assert (np.diff(lab[:, 0]) > 0).all()


def test_gamut_distance_is_small_for_printed_colours_and_large_for_laser_green(coated) -> None:
    printed = lab_of_device(coated, np.array([[0.3, 0.2, 0.2, 0.1], [0, 0, 0, 0]]))
    assert gamut_distance(coated, printed).max() < 1
    assert gamut_distance(coated, np.array([[80.0, -110, 80]]))[0] > 15


def test_path_units_and_lab_as_a_step(coated) -> None:
    steps = [PathStep(LAB), PathStep(coated), PathStep(LAB), PathStep(standard_profile("srgb"))]
    traced = follow_path(steps, np.array([[60.0, 10, -10]]))
    assert traced[1].max() > 1  # inks in percent
    assert np.allclose(traced[2], traced[0], atol=0.6)
    assert 100 < traced[3][0, 2] < 255


def test_absolute_path_to_lab_shows_the_paper(coated) -> None:
    traced = follow_path([PathStep(coated), PathStep(LAB, "absolute")], np.zeros((1, 4)))
    assert np.allclose(traced[1], XYZ_to_Lab(coated.media_white), atol=0.02)


def test_legacy_and_new_lab_encodings_differ_as_the_standard_says() -> None:
    white = np.array([[100.0, 0, 0]])
    assert lab_to_unit(white, legacy=True)[0, 0] == pytest.approx(0xFF00 / 0xFFFF)
    assert lab_to_unit(white, legacy=False)[0, 0] == 1.0
    lab = np.array([[33.0, -90, 77]])
    assert np.allclose(unit_to_lab(lab_to_unit(lab, legacy=True), legacy=True), lab)


def test_a_profile_without_a_way_back_is_refused_as_destination() -> None:
    with pytest.raises(BadProfile, match="source only"):
        convert(standard_profile("srgb"), n_colour_profile(5), np.zeros((1, 3)))


def test_device_links_are_no_device_profiles() -> None:
    header = IccHeader(
        size=0, version=(2, 4, 0), device_class="link", colour_space="RGB ", pcs="CMYK"
    )
    with pytest.raises(NotSupported, match="device link"):
        device_to_xyz(Profile(write_profile(header, {"desc": pack_desc("x")})), np.zeros((1, 3)), 0)
