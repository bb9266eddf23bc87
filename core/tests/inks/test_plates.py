"""What happens to plates after the separation, and what a run takes."""

from __future__ import annotations

import numpy as np
import pytest
from pydantic import ValidationError

from plinto_core.errors import BadInput
from plinto_core.inks.aids import break_up, fine_share, screen_advice
from plinto_core.inks.consumption import Supplies, consumption
from plinto_core.inks.plates import PlateRule, curve_plates, finish
from plinto_core.inks.rules import InkRules

NAMES = ("C", "M", "Y", "K")


@pytest.mark.parametrize("dtype", [np.uint8, np.uint16])
def test_least_dots_and_the_clean_cut(dtype) -> None:
    full = np.iinfo(dtype).max
    tones = np.array([0, 0.5, 1, 2, 2.9, 3.1, 50, 100]) / 100
    pixels = np.zeros((8, 4), dtype)
    pixels[:, 3] = np.round(tones * full)
    finish(pixels, NAMES, {"K": PlateRule(minimum=3, cut=1.5)}, None)
    found = pixels[:, 3] / full * 100
    assert found == pytest.approx([0, 0, 0, 3, 3, 3.1, 50, 100], abs=0.25)
    assert not pixels[:, :3].any()


def test_without_a_cut_every_tone_prints_at_least_the_least_dot() -> None:
    pixels = np.array([[0, 1, 0, 0], [0, 0, 0, 0]], np.uint8)
    finish(pixels, NAMES, {"M": PlateRule(minimum=4)}, None)
    assert pixels.tolist() == [[0, 10, 0, 0], [0, 0, 0, 0]]


def test_lifted_dots_never_break_the_tac() -> None:
    pixels = np.random.default_rng(1).integers(0, 256, (5000, 4)).astype(np.uint8)
    over = pixels.sum(axis=1) > 2.4 * 255
    pixels[over] = pixels[over] // 2
    rules = InkRules(tac=240)
    finish(pixels, NAMES, {n: PlateRule(minimum=6) for n in NAMES}, rules)
    assert pixels.sum(axis=1).max() <= 2.4 * 255
    assert ((pixels == 0) | (pixels >= 15)).all()


def test_plate_curves_act_and_keep_the_tac() -> None:
    inks = np.array([[0.5, 0.5, 0.5, 0.5], [0.2, 0.0, 0.0, 0.0]])
    lift = {"C": PlateRule(curve=((0, 0), (50, 90), (100, 100)))}
    found = curve_plates(inks, NAMES, lift, 2.2)
    assert found[0].sum() == pytest.approx(2.2)
    assert found[0, 3] == 0.5  # black keeps its tone, the colours give way together
    assert found[1, 0] > 0.2
    assert curve_plates(inks, NAMES, {}, 1.0) is inks


def test_a_cut_above_the_least_dot_is_refused() -> None:
    with pytest.raises(ValidationError):
        PlateRule(minimum=2, cut=3)


def test_ink_and_cost_of_a_run() -> None:
    supplies = Supplies.model_validate(
        {
            "inks": {"C": {"film": 1.5, "price": 40}, "K": {"film": 2, "price": 30}},
            "medium_price": 0.8,
        }
    )
    found = consumption({"C": 0.5, "K": 0.25}, supplies, size_mm=(1000, 500), copies=100)
    assert found.millilitres == {"C": 0.75, "K": 0.5}
    assert found.ink_cost["C"] == pytest.approx(0.75 / 1000 * 40)
    assert found.cost_per_square_metre == pytest.approx(0.03 + 0.015 + 0.8)
    assert found.millilitres_of_run == pytest.approx({"C": 37.5, "K": 25})
    assert found.cost_of_run == pytest.approx(0.845 * 0.5 * 100)


def test_a_print_without_a_size_has_no_cost_of_its_own() -> None:
    found = consumption({"C": 0.5}, Supplies(), size_mm=None)
    assert found.cost_of_run is None
    assert found.millilitres == {}
    with pytest.raises(BadInput):
        consumption({"C": 50.0}, Supplies(), size_mm=None)


def test_screen_advice_by_hand() -> None:
    # 65 lines per inch are 25.59 lines per cm; 4.5 threads a line make 115, so 120 is offered.
    found = screen_advice(65, 1200)
    assert found.wanted_mesh == pytest.approx(115.2, abs=0.1)
    assert found.mesh == 120
    assert found.opening + found.thread == pytest.approx(10_000 / 120)
    # A dot as wide as one pitch (83 µm) in a cell of 391 µm inks 3.6 %.
    assert found.least_dot == pytest.approx(3.57, abs=0.05)
    assert found.tones == 341
    assert screen_advice(30, 1200).mesh < found.mesh


def test_break_up_takes_what_lies_below_the_dot() -> None:
    pixels = np.array([[2, 10, 0, 255]], np.uint8)
    assert fine_share(pixels, 3).tolist() == [1, 0, 0, 0]
    finish(pixels, NAMES, break_up(NAMES, 3), None)
    assert pixels.tolist() == [[0, 10, 0, 255]]


def test_over_the_total_black_gives_way_last_wherever_it_stands() -> None:
    inks = np.array([[0.8, 0.6], [0.2, 0.1]])
    lifted = {"Brick": PlateRule(curve=((0, 0), (80, 100), (100, 100)))}
    out = curve_plates(inks, ("Brick", "K"), lifted, 1.2, black_ink=1)
    assert out[0] == pytest.approx([0.6, 0.6])
    assert out[1, 1] == 0.1
    none = curve_plates(inks, ("Brick", "Sand"), lifted, 1.2, black_ink=None)
    assert none[0] == pytest.approx([0.75, 0.45])


def test_a_mesh_that_is_just_fine_enough_is_taken() -> None:
    # 50.8 lines per inch are 20 per cm; 4.5 threads a line are exactly the mesh of 90.
    assert screen_advice(50.8, 1200).mesh == 90
