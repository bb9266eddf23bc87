from __future__ import annotations

import numpy as np
import pytest
from pydantic import ValidationError

from plinto_core.colorimetry.cielab import Lab_to_LCh, Lab_to_XYZ, XYZ_to_Lab
from plinto_core.colorimetry.even_hue import XYZ_to_OKLab, hue_of
from plinto_core.corrections import Adjustment, ColourRange, Correction, Curves, HueBand, Vivid
from plinto_core.corrections.adjust import colour_weight
from plinto_core.corrections.former import shifted_formerly
from plinto_core.transform.sides import device_to_xyz
from plinto_core.transform.standard_spaces import standard_profile

SRGB = standard_profile("srgb")
COLOURS = np.array(
    [[0.5, 0.5, 0.5], [0.8, 0.2, 0.2], [0.2, 0.3, 0.8], [0.0, 0.0, 0.0], [1.0, 1.0, 1.0]]
)


def lab_after(*corrections: Correction, vivid: Vivid | None = None) -> np.ndarray:
    return XYZ_to_Lab(Adjustment(corrections, vivid).xyz(SRGB, COLOURS, 1))


PLAIN = lab_after()


def test_nothing_is_changed_by_nothing() -> None:
    assert not Adjustment()
    assert np.allclose(lab_after(Correction()), PLAIN, atol=1e-9)
    assert np.array_equal(Adjustment().xyz(SRGB, COLOURS, 1), device_to_xyz(SRGB, COLOURS, 1))


def test_lightness_keeps_black_and_white_and_the_hue() -> None:
    found = lab_after(Correction(lightness=100))
    assert found[3] == pytest.approx(PLAIN[3], abs=0.01)
    assert found[4, 0] == pytest.approx(100, abs=0.01)
    # L* 50 goes to 71 and L* 53.4 to 73.4, by a fraction whose slope at black is 2.41.
    slope = 0.5**0.5 / (1 - 0.5**0.5)
    x = PLAIN[0, 0] / 100
    assert found[0, 0] == pytest.approx(100 * slope * x / (1 + (slope - 1) * x), abs=0.01)
    ok = [hue_of(XYZ_to_OKLab(Lab_to_XYZ(v[1:3]))) for v in (PLAIN, found)]
    assert ok[1] == pytest.approx(ok[0], abs=0.05)


def test_chroma_to_grey_and_doubled() -> None:
    assert np.abs(lab_after(Correction(chroma=-100))[:, 1:]).max() < 0.05
    doubled = lab_after(Correction(chroma=100))
    assert Lab_to_LCh(doubled)[:, 1] == pytest.approx(Lab_to_LCh(PLAIN)[:, 1] * 2, abs=0.005)
    assert doubled[:, 0] == pytest.approx(PLAIN[:, 0])


def test_a_hue_band_turns_its_hue_and_leaves_others_and_greys_alone() -> None:
    hue = Lab_to_LCh(PLAIN)[1, 2]
    found = lab_after(Correction(hues=(HueBand(hue=hue, width=40, shift=20),)))
    assert Lab_to_LCh(found)[1, 2] == pytest.approx((hue + 20) % 360, abs=0.1)
    assert np.abs(found - PLAIN)[[0, 2, 3, 4]].max() < 0.02


def test_curves_act_on_the_numbers_master_first() -> None:
    half = ((0.0, 0.0), (50.0, 25.0), (100.0, 100.0))
    curves = Curves(master=half, channels={"R": ((0.0, 0.0), (25.0, 75.0), (100.0, 100.0))})
    found = Adjustment((Correction(curves=curves),)).xyz(SRGB, COLOURS[:1], 1)
    assert found == pytest.approx(device_to_xyz(SRGB, np.array([[0.75, 0.25, 0.25]]), 1), abs=1e-9)


def test_a_colour_range_is_full_inside_and_fades() -> None:
    chosen = ColourRange(lab=(50, 40, 20), radius=10, softness=100)
    lab = np.array([[50, 40, 20], [50, 49, 20], [50, 55, 20], [50, 61, 20]], dtype=float)
    weight = colour_weight(chosen, lab)
    assert weight[:2] == pytest.approx([1, 1])
    assert weight[2] == pytest.approx(0.5)
    assert weight[3] == 0


def test_a_colour_range_limits_a_correction() -> None:
    chosen = ColourRange(lab=tuple(PLAIN[1]), radius=5, softness=20)
    found = lab_after(Correction(colours=chosen, chroma=-100))
    assert np.abs(found[1, 1:]).max() < 0.05
    assert np.abs(found - PLAIN)[[0, 2, 3, 4]].max() < 1e-9


@pytest.mark.parametrize("space", ["oprgb", "p3", "romm", "stretch"])
def test_vivid_widens_chroma_with_its_strength_and_keeps_greys(space) -> None:
    chromas = [
        np.hypot(*lab_after(vivid=Vivid(space=space, strength=s))[1, 1:]) for s in (0, 50, 100)
    ]
    assert chromas[0] == pytest.approx(np.hypot(*PLAIN[1, 1:]))
    assert chromas[0] < chromas[1] < chromas[2]
    grey = lab_after(vivid=Vivid(space=space, strength=100))[[0, 3, 4]]
    assert grey == pytest.approx(PLAIN[[0, 3, 4]], abs=0.05)


@pytest.mark.parametrize(
    "points", [((0, 0),), ((0, 0), (0.1, 5)), ((50, 0), (20, 5)), ((0, -1), (100, 100)), ((0, 0), (101, 100))]
)  # fmt: skip
def test_impossible_curves_are_refused(points) -> None:
    with pytest.raises(ValidationError):
        Curves(master=points)


def test_black_is_remade_in_a_region_only() -> None:
    with pytest.raises(ValidationError, match="inside a region"):
        Correction(black={"method": "none"})


def test_former_corrections_keep_their_bytes() -> None:
    correction = Correction.model_validate(
        {
            "lightness": 20, "chroma": -30,
            "hues": [
                {"hue": 30, "width": 60, "shift": 15, "lightness": -40, "chroma": 25},
                {"hue": 280, "width": 40, "shift": -10, "lightness": 10},
            ],
        }
    )  # fmt: skip
    lab = np.array(
        [[50, 40, 30], [30, 5, 2], [70, 10, -60], [45, -40, 0], [80, 20, 20]], dtype=float
    )
    assert shifted_formerly(correction, lab) == pytest.approx(
        np.array(
            [
                [35.689, 27.141, 33.908], [27.45, 3.669, 1.937], [76.313, -0.396, -42.578],
                [49.9, -28.0, 0.0], [73.029, 12.827, 20.256],
            ]
        ),
        abs=0.001,
    )  # fmt: skip
