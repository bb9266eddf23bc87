"""What corrections of lightness, chroma and hue keep: hue, saturation, the order of hues."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from plinto_core.colorimetry.cielab import Lab_to_LCh, Lab_to_XYZ, LCh_to_Lab, XYZ_to_Lab
from plinto_core.colorimetry.even_hue import (
    XYZ_to_IPT,
    XYZ_to_OKLab,
    brought_in_sight,
    even_hue,
    hue_of,
    turn,
)
from plinto_core.corrections import Adjustment, Correction, HueBand
from plinto_core.corrections.former import shifted_formerly
from plinto_core.corrections.shift import shifted
from plinto_core.transform.sides import device_to_xyz
from plinto_core.transform.standard_spaces import standard_profile

SRGB = standard_profile("srgb")
BLUES = np.array([[0.0, 0, 1], [0.2, 0.2, 1], [0.1, 0.0, 0.7], [0.3, 0.4, 0.9]])
SKIN = np.array([[65.0, 18, 20], [45, 16, 22], [30, 10, 14], [78, 12, 18]])


def ok_hue(lab: np.ndarray) -> np.ndarray:
    return hue_of(XYZ_to_OKLab(Lab_to_XYZ(lab)))


def lab_of(rgb: np.ndarray) -> np.ndarray:
    return XYZ_to_Lab(device_to_xyz(SRGB, rgb, 1))


@pytest.mark.parametrize("chroma", [-80, -40, 40])
def test_blues_stay_blue_when_their_chroma_changes(chroma) -> None:
    lab = lab_of(BLUES)
    found = shifted(Correction(chroma=chroma), lab)
    assert np.abs(turn(even_hue(found) - even_hue(lab))).max() <= 1
    # In IPT too, in which nothing is computed.
    hues = [hue_of(XYZ_to_IPT(Lab_to_XYZ(brought_in_sight(v)))) for v in (lab, found)]
    assert np.abs(turn(hues[1] - hues[0])).max() <= 6
    former = shifted_formerly(Correction(chroma=chroma), lab)
    assert np.abs(turn(ok_hue(former) - ok_hue(lab)))[0] > 8


@pytest.mark.parametrize("lightness", [-100, -60, -20, 30, 80])
def test_saturation_and_hue_stay_when_lightness_changes(lightness) -> None:
    found = shifted(Correction(lightness=lightness), SKIN)
    saturation = [np.hypot(v[:, 1], v[:, 2]) / v[:, 0] for v in (SKIN, found)]
    assert saturation[1] == pytest.approx(saturation[0], rel=0.05)
    assert np.abs(turn(ok_hue(found) - ok_hue(SKIN))).max() <= 0.1


@pytest.mark.parametrize("lightness", [-100, -30, 30, 100])
def test_lightness_runs_evenly_from_black_to_white(lightness) -> None:
    grey = np.zeros((1001, 3))
    grey[:, 0] = np.linspace(0, 100, 1001)
    found = shifted(Correction(lightness=lightness), grey)[:, 0]
    assert (found[0], found[-1]) == pytest.approx((0, 100), abs=1e-9)
    middle = 100 * 0.5 ** (2 ** (-lightness / 100))
    assert found[500] == pytest.approx(middle, abs=1e-6)
    slope = np.diff(found) / 0.1
    assert slope.min() > 0.3
    assert slope.max() < 3.1


BANDS = st.builds(
    HueBand,
    hue=st.floats(0, 360),
    width=st.floats(10, 120),
    shift=st.floats(-45, 45),
    chroma=st.just(0.0),
    lightness=st.just(0.0),
)


@given(st.lists(BANDS, min_size=1, max_size=6))
def test_hues_keep_their_order_for_every_setting(bands) -> None:
    hue = np.arange(0, 360, 1.0)
    ring = LCh_to_Lab(np.stack([np.full(360, 60.0), np.full(360, 30.0), hue], axis=1))
    found = Lab_to_LCh(shifted(Correction(hues=tuple(bands)), ring))[:, 2]
    steps = turn(np.diff(np.append(found, found[0])))
    assert steps.min() > 0


def test_one_narrow_band_turns_its_hue_as_far_as_asked() -> None:
    lab = LCh_to_Lab(np.array([[60.0, 40, 30]]))
    found = shifted(Correction(hues=(HueBand(hue=30, width=10, shift=40),)), lab)
    assert Lab_to_LCh(found)[0, 2] == pytest.approx(70, abs=0.5)
    away = LCh_to_Lab(np.array([[60.0, 40, 120]]))
    assert shifted(Correction(hues=(HueBand(hue=30, width=10, shift=40),)), away) == pytest.approx(
        away, abs=0.01
    )


def test_former_methods_correct_as_they_did() -> None:
    correction = Correction(lightness=40, chroma=30, hues=(HueBand(hue=30, shift=20),))
    rgb = np.random.default_rng(1).random((50, 3))
    for method in (1, 2):
        former = XYZ_to_Lab(Adjustment((correction,), None, method).xyz(SRGB, rgb, 1))
        assert former == pytest.approx(shifted_formerly(correction, lab_of(rgb)), abs=1e-6)
    present = Adjustment((correction,)).xyz(SRGB, rgb, 1)
    assert XYZ_to_Lab(present) == pytest.approx(shifted(correction, lab_of(rgb)), abs=1e-6)
    keys = {Adjustment((correction,), None, m).key() for m in (2, 3)}
    assert len(keys) == 2


def test_colours_keep_a_meaning_at_the_ends() -> None:
    ends = np.array([[0.0, 0, 0], [100, 0, 0], [0, 10, -10], [3, 20, -40], [99, -3, 8]])
    for lightness in (-100, 100):
        found = shifted(Correction(lightness=lightness, chroma=50), ends)
        assert np.isfinite(found).all()
        assert (found[:, 0] >= 0).all()
        assert (found[:, 0] <= 100 + 1e-9).all()
