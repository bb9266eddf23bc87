"""What a path of greys is found guilty of, at the edge of each threshold."""

from __future__ import annotations

import numpy as np
import pytest
from handmade import linear_press

from plinto_core.examination.fidelity import printable
from plinto_core.examination.findings import judge_neutrals, judge_totals
from plinto_core.examination.neutrals import Neutrals
from plinto_core.examination.reach import IntentReach, everything
from plinto_core.transform import lab_of_device
from plinto_core.transform.standard_spaces import standard_profile

ASKED = np.linspace(100, 0, 201)


def path(inks=None, printed=None, names=("C", "M", "Y", "K"), subtractive: bool = True) -> Neutrals:
    dark = (100 - ASKED) / 100
    inks = (
        np.stack([dark * 0.6] * 3 + [dark * 0.9], axis=1)[:, : len(names)] if inks is None else inks
    )
    if printed is None:
        printed = np.stack([ASKED, 0 * ASKED, 0 * ASKED], axis=1)
    return Neutrals(names, subtractive, ASKED, inks, printed)


def codes(given: Neutrals) -> list[tuple[str, str]]:
    return [(f.code, f.severity) for f in judge_neutrals(given, "relative")]


def test_even_greys_are_found_guilty_of_nothing() -> None:
    assert codes(path()) == []


@pytest.mark.parametrize(
    ("chroma", "said"),
    [
        (2.9, []),
        (3.1, [("cast", "warning")]),
        (5.9, [("cast", "warning")]),
        (6.1, [("cast", "error")]),
    ],
)
def test_a_cast_is_judged_by_its_greatest_chroma(chroma, said) -> None:
    """3 is a warning and 6 an error; which lightness it is greatest at is said."""
    printed = np.stack([ASKED, 0 * ASKED, chroma * np.exp(-(((ASKED - 40) / 15) ** 2))], axis=1)
    found = judge_neutrals(path(printed=printed), "relative")
    assert [(f.code, f.severity) for f in found] == said
    for one in found:
        assert one.values["lightness"] == pytest.approx(40, abs=0.6)
        assert one.values["chroma"] == pytest.approx(chroma, abs=0.06)


@pytest.mark.parametrize(("back", "said"), [(0.4, []), (0.6, [("lightness-back", "error")])])
def test_lightness_that_goes_back(back, said) -> None:
    printed = np.stack([ASKED.copy(), 0 * ASKED, 0 * ASKED], axis=1)
    printed[100:, 0] += 0.5 + back
    assert codes(path(printed=printed)) == said


def test_no_black_at_all_is_a_note() -> None:
    dark = (100 - ASKED) / 100
    for most, said in ((0.009, [("no-black", "note")]), (0.011, [])):
        inks = np.stack([dark * 0.6] * 3 + [dark * most], axis=1)
        assert codes(path(inks=inks)) == said


def bump(height: float, at: float, width: float) -> np.ndarray:
    return height * np.exp(-(((ASKED - at) / width) ** 2))


def test_black_that_runs_back_says_where_and_by_how_much() -> None:
    inks = path().inks.copy()
    inks[:, 3] += bump(0.2, 50, 8)
    found = [f for f in judge_neutrals(path(inks=inks), "relative") if f.code == "black-back"]
    assert len(found) == 1
    assert found[0].severity == "error"
    first, last = found[0].values["first"], found[0].values["last"]
    assert 55 > first > last > 30
    fallen = inks[:, 3][first == ASKED] - inks[:, 3][last == ASKED]
    assert found[0].values["amount"] == pytest.approx(float(fallen[0]) * 100, abs=0.1)


def test_one_colour_against_the_other_two() -> None:
    dark = (100 - ASKED) / 100
    for sign, code in ((1, "ink-rises"), (-1, "ink-falls")):
        inks = np.stack(
            [0.5 - sign * dark * 0.3, 0.5 - sign * dark * 0.3, 0.5 + sign * dark * 0.3, dark],
            axis=1,
        )
        found = [f for f in judge_neutrals(path(inks=inks), "relative") if f.code == code]
        assert [f.values["ink"] for f in found] == ["Yellow"]
        assert found[0].values["others"] == "cyan and magenta"
        assert found[0].values["amount"] == pytest.approx(30, abs=0.1)
    # Less than 5 % is no way of its own.
    inks = np.stack([0.5 - dark * 0.3, 0.5 - dark * 0.3, 0.5 + dark * 0.049, dark], axis=1)
    assert codes(path(inks=inks)) == []
    inks[:, 2] = 0.5 + dark * 0.051
    assert codes(path(inks=inks)) == [("ink-rises", "error")]


def test_a_colour_that_rises_again_alone() -> None:
    dark = (100 - ASKED) / 100
    falls = np.where(dark < 0.5, 0.5 - dark * 0.6, 0.2)
    again = np.where(dark < 0.5, falls, 0.2 + (dark - 0.5) * 0.6)
    found = judge_neutrals(path(inks=np.stack([again, falls, falls, dark], axis=1)), "relative")
    said = [f for f in found if f.code == "ink-again"]
    assert [(f.severity, f.values["ink"]) for f in said] == [("warning", "Cyan")]
    together = judge_neutrals(path(inks=np.stack([again, again, again, dark], axis=1)), "relative")
    assert [f.code for f in together if f.code.startswith("ink")] == []


def test_the_sharpest_kink_of_an_ink_is_named() -> None:
    inks = path().inks.copy()
    inks[:, 0] = np.where(ASKED < 30, 0.42 + (30 - ASKED) * 0.12, (100 - ASKED) * 0.006)
    found = [f for f in judge_neutrals(path(inks=inks), "relative") if f.code == "kink"]
    assert [(f.severity, f.values["ink"]) for f in found] == [("warning", "Cyan")]
    assert found[0].values["lightness"] == pytest.approx(30, abs=1)
    assert found[0].values["amount"] == pytest.approx(11.4, abs=0.1)
    inks[:, 0] = np.where(ASKED < 30, 0.42 + (30 - ASKED) * 0.007, (100 - ASKED) * 0.006)
    assert codes(path(inks=np.clip(inks, 0, 1))) == []


def test_screens_are_judged_by_colour_alone() -> None:
    grey = np.stack([(100 - ASKED) / 100] * 3, axis=1)
    grey[:, 0] += bump(0.3, 50, 5)
    assert codes(path(inks=grey, names=("R", "G", "B"), subtractive=False)) == []


def reach(intent: str, tac: float) -> IntentReach:
    return IntentReach.model_construct(intent=intent, tac=tac)


@pytest.mark.parametrize(
    ("totals", "asked", "said"),
    [
        ((300, 302), None, []), ((300, 305), None, []), ((300, 305.1), None, ["totals-differ"]), ((300.5, 300), 300, []),
        ((300.6, 300), 300, ["total"]), ((310, 320), 300, ["total", "total", "totals-differ"]),
    ],
)  # fmt: skip
def test_totals_against_each_other_and_what_was_asked(totals, asked, said) -> None:
    found = judge_totals([reach("perceptual", totals[0]), reach("relative", totals[1])], asked)
    assert [f.code for f in found] == said


@pytest.mark.parametrize(("steeper", "said"), [(5.9, 0), (6.1, 1)])
def test_a_kink_is_six_percent_of_ink_for_one_lightness(steeper, said) -> None:
    inks = path().inks.copy()
    inks[:, 0] = np.where(
        ASKED < 30, 0.42 + (30 - ASKED) * (0.006 + steeper / 100), (100 - ASKED) * 0.006
    )
    found = judge_neutrals(path(inks=inks), "relative")
    assert [f.code for f in found] == ["kink"] * said


def test_round_trips_are_asked_of_what_a_device_prints() -> None:
    """Of a screen any colour, as many as are asked for; of inks none beyond the total that its table uses."""
    rgb = printable(standard_profile("srgb"), 60)
    wanted = lab_of_device(standard_profile("srgb"), np.random.default_rng(11).random((60, 3)))
    assert rgb == pytest.approx(wanted)
    press = linear_press()
    top = float(everything(press, 1).sum(axis=1).max())
    inks = np.random.default_rng(11).random((240, 4))
    kept = inks[inks.sum(axis=1) <= top - 0.01][:60]
    assert 0 < len(kept) < 240
    assert printable(press, 60) == pytest.approx(lab_of_device(press, kept))


def test_what_rgb_leaves_out_counts_as_ink() -> None:
    found = everything(standard_profile("srgb"), 1)
    assert found.shape[1] == 3
    assert (found.min(), found.max()) == (0, 1)
    white = lab_of_device(standard_profile("srgb"), 1 - found[found.sum(axis=1).argmin()][None])
    assert white[0, 0] == pytest.approx(100, abs=0.3)
