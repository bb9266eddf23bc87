"""Paths: what is seen after every step with one white, and how far two steps are apart."""

from __future__ import annotations

import numpy as np
import pytest
from handmade import cmyk_profile, simple_print

from plinto_core.colorimetry.cielab import D50, Lab_to_XYZ, XYZ_to_Lab
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.errors import BadInput, BadRecipe
from plinto_core.paths.figures import FORMULAS, difference, difference_figures
from plinto_core.paths.follow import follow
from plinto_core.paths.model import MOST_STEPS, parse_path
from plinto_core.transform.chain import lab_of_device
from plinto_core.transform.cube import parse_cube
from plinto_core.transform.path import LAB, NumbersStep, PathStep, follow_path, reversal
from plinto_core.transform.standard_spaces import standard_profile

SRGB = standard_profile("srgb")
RNG = np.random.default_rng(9)
RGB = RNG.random((300, 3)) * 255


def lut(name="Negative", **more) -> NumbersStep:
    return NumbersStep(name, "RGB ", "RGB ", lambda v: 1 - v, **more)


def test_a_press_is_seen_with_and_without_its_paper(coated) -> None:
    steps = [PathStep(SRGB), PathStep(coated, "relative", True)]
    paper = follow(steps, RGB)
    absolute = follow(steps, RGB, "absolute")
    unit = paper.values[1] / 100
    assert paper.lab[1] == pytest.approx(lab_of_device(coated, unit), abs=1e-9)
    assert absolute.lab[1] == pytest.approx(
        lab_of_device(coated, unit, intent="absolute"), abs=1e-9
    )
    assert np.abs(paper.lab[1] - absolute.lab[1]).max() > 2
    assert paper.values[1] == pytest.approx(absolute.values[1])


@pytest.mark.parametrize("into", ["relative", "absolute"])
def test_lab_after_a_press_is_seen_with_the_same_white_as_the_press(coated, into) -> None:
    steps = [PathStep(SRGB), PathStep(coated), PathStep(LAB, into), PathStep(LAB)]
    for view in ("paper", "absolute"):
        found = follow(steps, RGB, view)
        # The step into Lab changes no colour, so that no white may come between them.
        assert delta_e_2000(found.lab[1], found.lab[2]).max() < 0.01
        assert delta_e_2000(found.lab[1], found.lab[3]).max() < 0.01
    white = XYZ_to_Lab(Lab_to_XYZ(np.array([[100.0, 0, 0]])) * coated.media_white / D50)
    bare = follow(steps, np.array([[255.0] * 3]), "absolute")
    assert delta_e_2000(bare.lab[2], white)[0] < 0.6


def test_a_first_list_of_lab_is_taken_as_it_stands() -> None:
    lab = np.array([[50.0, 20, -30]])
    assert follow([PathStep(LAB)], lab).lab[0] == pytest.approx(lab)
    assert follow([PathStep(LAB)], lab, "absolute").lab[0] == pytest.approx(lab)


def test_the_numbers_of_a_table_are_those_of_the_profile_before_it_unless_it_says() -> None:
    opposite = 255 - RGB
    found = follow([PathStep(SRGB), lut()], RGB)
    assert found.values[1] == pytest.approx(opposite)
    assert found.lab[1] == pytest.approx(lab_of_device(SRGB, opposite / 255), abs=1e-9)
    wide = standard_profile("oprgb")
    said = follow([PathStep(SRGB), lut(gives=wide)], RGB)
    assert said.lab[1] == pytest.approx(lab_of_device(wide, opposite / 255), abs=1e-9)
    # What follows converts from there.
    into = follow([PathStep(SRGB), lut(gives=wide), PathStep(SRGB)], RGB)
    straight = follow_path([PathStep(wide), PathStep(SRGB)], opposite)[1]
    assert into.values[2] == pytest.approx(straight)
    alone = follow([lut()], RGB)
    assert alone.lab[0] is None
    with pytest.raises(BadInput, match="step 1"):
        alone.colours(0)
    with pytest.raises(BadInput):
        alone.colours(5)


def test_a_reversal_stands_between_a_table_and_a_profile_that_count_from_opposite_ends(
    coated,
) -> None:
    darker = NumbersStep("Darker", "CMYK", "CMYK", lambda v: 1 - (1 - v) ** 2)
    inks = RNG.random((50, 4)) * 100
    turned = [PathStep(coated), reversal("cmyk"), darker, reversal("cmyk"), PathStep(LAB)]
    found = follow(turned, inks)
    # A table that darkens the paper's share thins the inks: squares of the inks themselves.
    assert found.values[3] == pytest.approx((inks / 100) ** 2 * 100)
    assert found.lab[4] == pytest.approx(lab_of_device(coated, (inks / 100) ** 2), abs=1e-9)
    assert follow([PathStep(SRGB), reversal("rgb")], RGB).values[1] == pytest.approx(255 - RGB)
    with pytest.raises(BadInput, match="takes CMYK numbers"):
        follow([PathStep(SRGB), reversal("cmyk")], RGB)
    with pytest.raises(BadInput, match="cannot be reversed"):
        reversal("lab")


def test_a_recipe_takes_any_colours_to_its_own_numbers(coated) -> None:
    wide = standard_profile("oprgb")
    recipe = NumbersStep(
        "Recipe", "RGB ", "CMYK", lambda v: np.concatenate([1 - v, 0 * v[:, :1]], 1),
        takes=wide, gives=coated,
    )  # fmt: skip
    from_srgb = follow([PathStep(SRGB), recipe], RGB)
    converted = follow_path([PathStep(SRGB), PathStep(wide)], RGB)[1]
    assert from_srgb.values[1][:, :3] == pytest.approx(100 - converted / 2.55, abs=1e-6)
    assert from_srgb.lab[1] == pytest.approx(lab_of_device(coated, from_srgb.values[1] / 100))
    own = follow([PathStep(wide), recipe], RGB)
    assert own.values[1][:, :3] == pytest.approx(100 - RGB / 2.55, abs=1e-6)
    lab = follow([PathStep(LAB), recipe], np.array([[100.0, 0, 0]]))
    assert lab.values[1][0] == pytest.approx([0, 0, 0, 0], abs=0.1)


def test_a_table_in_the_wrong_place_is_named(coated) -> None:
    with pytest.raises(BadInput, match="takes RGB numbers.*gives CMYK"):
        follow([PathStep(coated), lut("Film look")], np.zeros((1, 4)))
    cube = parse_cube(b"LUT_1D_SIZE 2\n0 0 0\n1 1 1\n")
    same = NumbersStep("t", "RGB ", "RGB ", cube.apply)
    assert follow([PathStep(SRGB), same], RGB).values[1] == pytest.approx(RGB)


def test_inks_of_a_link_are_read_by_the_profile_after_it() -> None:
    press = cmyk_profile(simple_print, lambda lab: np.zeros((len(lab), 4)))
    numbers = NumbersStep("L", "RGB ", "CMYK", lambda v: np.concatenate([1 - v, 0 * v[:, :1]], 1))
    found = follow([PathStep(SRGB), numbers, PathStep(press)], RGB)
    assert found.lab[1] == pytest.approx(found.lab[2])
    with pytest.raises(BadInput, match="gives CMYK numbers"):
        follow([PathStep(SRGB), numbers, PathStep(LAB)], RGB)


FIRST = RNG.uniform([5, -60, -60], [95, 60, 60], (997, 3))
SECOND = FIRST + RNG.normal(0, 3, (997, 3))
NAMES = tuple(str(i) for i in range(997))


@pytest.mark.parametrize("formula", FORMULAS)
def test_figures_are_what_numpy_says(formula) -> None:
    found = difference_figures(formula, FIRST, SECOND, NAMES, (0.5, 3.0))
    signed = difference(formula, FIRST, SECOND)
    size = np.abs(signed)
    assert found.count == 997
    assert found.mean == pytest.approx(np.mean(size), abs=1e-4)
    assert found.median == pytest.approx(np.median(size), abs=1e-4)
    assert found.p95 == pytest.approx(np.percentile(size, 95), abs=1e-4)
    assert (found.least, found.greatest) == pytest.approx((signed.min(), signed.max()), abs=1e-4)
    assert found.deviation == pytest.approx(np.std(signed), abs=1e-4)
    # Nine tenths of 997 are 897.3: the smallest 898.
    assert found.best90 == pytest.approx(np.mean(np.sort(size)[:898]), abs=1e-4)
    assert found.shares == pytest.approx((np.mean(size <= 0.5), np.mean(size <= 3.0)), abs=1e-6)
    assert sum(found.histogram.counts) == 997
    assert [w.row for w in found.worst[:3]] == list(np.argsort(-size)[:3])
    assert found.worst[0].name == str(found.worst[0].row)
    negative = formula in ("lightness", "chroma", "hue")
    assert (found.least < 0) == negative


def test_one_colour_that_does_not_move_has_figures_too() -> None:
    one = np.array([[50.0, 0, 0]])
    found = difference_figures("2000", one, one, ("a",))
    assert (found.mean, found.greatest, found.deviation, found.best90) == (0, 0, 0, 0)
    assert found.shares == (1, 1, 1)


@pytest.mark.parametrize("thresholds", [(2.0, 1.0), (0.0, 1.0), (1.0, 1.0), (1, 2, 3, 4, 5, 6, 7)])
def test_thresholds_must_rise(thresholds) -> None:
    with pytest.raises(BadInput, match="rising"):
        difference_figures("2000", FIRST, SECOND, NAMES, thresholds)


def test_paths_as_data_are_checked() -> None:
    step = {"kind": "profile", "ref": "srgb", "intent": "absolute", "bpc": False}
    path = parse_path({"name": " Proof ", "steps": [step, {"kind": "lab"}]})
    assert path.name == "Proof"
    assert path.steps[0].intent == "absolute"
    assert path.steps[1].bpc
    for wrong in (
        {"steps": []}, {"steps": [step] * (MOST_STEPS + 1)}, {"steps": [{**step, "intent": "vivid"}]},
        {"steps": [{**step, "more": 1}]}, {"steps": [step], "version": 2}, [], {"name": "x" * 101, "steps": [step]},
    ):  # fmt: skip
        with pytest.raises(BadRecipe):
            parse_path(wrong)
