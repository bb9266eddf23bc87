"""What a run takes, what a screen needs, and how evenly inks run, by hand."""

from __future__ import annotations

import numpy as np
import pytest

from plinto_core.errors import BadInput
from plinto_core.inks.aids import break_up, fine_share, grain_share, screen_advice
from plinto_core.inks.consumption import Supplies, consumption
from plinto_core.inks.evenness import evenness
from plinto_core.inks.plates import PlateRule, curve_plates, finish, has_dots, tac_share
from plinto_core.inks.rules import InkRules

SUPPLIES = Supplies.model_validate(
    {"inks": {"C": {"film": 8, "price": 50}, "K": {"film": 10, "price": 20}}, "medium_price": 1.5}
)


def test_ink_and_cost_by_hand() -> None:
    found = consumption({"C": 0.25, "K": 0.5, "Gold": 1.0}, SUPPLIES, size_mm=(2000, 500), copies=3)
    assert found.millilitres == {"C": 2, "K": 5}
    assert found.ink_cost == pytest.approx({"C": 0.1, "K": 0.1})
    assert found.cost_per_square_metre == pytest.approx(1.7)
    assert (found.area, found.copies, found.currency) == (1.0, 3, "EUR")
    assert found.millilitres_of_run == {"C": 6, "K": 15}
    assert found.cost_of_run == pytest.approx(5.1)
    none = consumption({"C": 1.0001}, SUPPLIES, size_mm=None)
    assert (none.millilitres_of_run, none.cost_of_run, none.area) == (None, None, None)
    for wrong in (-0.01, 1.01):
        with pytest.raises(BadInput):
            consumption({"C": wrong}, SUPPLIES, size_mm=None)


def test_a_mesh_for_a_ruling() -> None:
    """22 lines a centimetre times 4.5 is 99 threads; a pitch of 100 micrometres in a cell of 454."""
    found = screen_advice(22 * 2.54, 600)
    assert (found.mesh, found.wanted_mesh) == (100, pytest.approx(99))
    assert (found.thread, found.opening) == (pytest.approx(38), pytest.approx(62))
    least = np.pi / 4 * (100 * 22 / 10_000) ** 2 * 100
    assert found.least_dot == pytest.approx(least)
    assert found.most_dot == pytest.approx(100 - least)
    assert found.tones == int((600 / 55.88) ** 2) + 1 == 116
    assert found.finest_ruling == pytest.approx(180 * 2.54 / 4.5)
    assert screen_advice(300, 1200).mesh == 180
    coarse = screen_advice(2, 1200)
    assert (coarse.mesh, coarse.least_dot < 1, coarse.most_dot > 99) == (34, True, True)
    worst = screen_advice(1000, 1200)
    assert (worst.least_dot, worst.most_dot) == (50, 50)


def test_fine_dots_and_grain_are_counted_between_their_edges() -> None:
    steps = np.array([[0], [1], [2], [12], [13], [255]], np.uint8)
    # Above 0.4 % (1.02) and below 5 % (12.75).
    assert fine_share(steps, 5).tolist() == [2 / 6]
    assert break_up(("C", "K"), 3) == {n: PlateRule(minimum=3, cut=3) for n in ("C", "K")}
    lightness = np.array([61, 61, 61, 60, 90, 90])
    black = np.array([0.05, 0.01, 0.15, 0.05, 0.14, 0.0])
    assert grain_share(lightness, black, "screen") == pytest.approx(2 / 6)


@pytest.mark.parametrize(("process", "shown"), [("offset", 1), ("inkjet", 2), ("flexo", 3)])
def test_finer_dots_of_black_show_in_lighter_tones_only(process, shown) -> None:
    # Mid-tones where black begins in good coated work carry it unseen, quarter tones do not.
    lightness = np.array([79.0, 71, 61, 59])
    assert grain_share(lightness, np.full(4, 0.08), process) == shown / 4


def test_evenness_by_hand() -> None:
    inks = np.array(
        [
            [0, 0, 0, 0],
            [0.1, 0, 0, 0.2],
            [0.15, 0, 0, 0.15],
            [0.15, 0.3, 0, 0.1],
            [0.15, 0.3, 0, 0.5],
        ]
    )
    found = evenness(inks)
    assert (found.black_back, found.black_step, found.step) == (10, 40, 40)
    assert found.bend == 45
    assert evenness(inks, None).black_step == 0
    assert evenness(inks, 1).black_step == 30


RAISED = {"C": PlateRule(curve=((0, 0), (50, 80), (100, 100)))}


def test_curves_lift_one_plate_and_black_stays_where_the_total_is_over() -> None:
    inks = np.array([[0.5, 0.2, 0.1, 0.3], [0.5, 0.9, 0.9, 0.6], [0, 0, 0, 1.0]])
    out = curve_plates(inks, ("C", "M", "Y", "K"), RAISED, 2.0)
    assert out[0] == pytest.approx([0.8, 0.2, 0.1, 0.3])
    share = (2.0 - 0.6) / 2.6
    assert out[1] == pytest.approx([0.8 * share, 0.9 * share, 0.9 * share, 0.6])
    assert out[2] == pytest.approx([0, 0, 0, 1])
    none = curve_plates(inks, ("C", "M", "Y", "K"), RAISED, 2.0, None)
    assert none[1] == pytest.approx(np.array([0.8, 0.9, 0.9, 0.6]) * 2 / 3.2)
    assert curve_plates(inks, ("C", "M", "Y", "K"), {"C": PlateRule()}, 0.1) is inks
    assert curve_plates(np.array([[0.9, 0.9, 0.9, 1.0]]), ("C", "M", "Y", "K"), RAISED, 0.8)[
        0
    ] == pytest.approx([0, 0, 0, 1])


def test_least_dots_are_cut_or_lifted_and_the_total_gives_way() -> None:
    rules = InkRules(tac=100)
    plates = {"C": PlateRule(minimum=10, cut=4), "K": PlateRule(minimum=6, cut=6)}
    assert has_dots(plates)
    assert not has_dots({"C": PlateRule(curve=((0, 0), (100, 90)))})
    pixels = np.array([[9, 0, 0, 14], [11, 0, 0, 16], [26, 0, 0, 0], [20, 200, 30, 15]], np.uint8)
    finish(pixels, ("C", "M", "Y", "K"), plates, rules)
    assert pixels[0].tolist() == [0, 0, 0, 0]
    assert pixels[1].tolist() == [26, 0, 0, 16]
    assert pixels[2].tolist() == [26, 0, 0, 0]
    assert pixels[3, [0, 2, 3]].tolist() == [26, 30, 0]
    assert pixels[3].sum() <= 255
    assert tac_share(None, 4) == 4
    assert tac_share(rules, 4) == pytest.approx(1, abs=0.01)
    assert tac_share(rules, 4) <= 1
