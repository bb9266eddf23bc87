"""Paths between presses made by hand, saved as tables: what the files give and say."""

from __future__ import annotations

import numpy as np
import pytest
from handmade import linear_press
from kept import as_kept

from plinto_core.errors import BadInput
from plinto_core.icc import Profile
from plinto_core.icc.metadata import parse_dictionary
from plinto_core.paths.figures import FORMULAS, difference_figures
from plinto_core.paths.saving import (
    GRIDS,
    SAVED_KINDS,
    SavingOptions,
    _lowered,
    save_path,
    sentence,
)
from plinto_core.transform.cube import parse_cube
from plinto_core.transform.direct import run_abstract, run_link
from plinto_core.transform.path import LAB, PathStep
from plinto_core.transform.sides import device_to_xyz
from plinto_core.transform.standard_spaces import standard_profile

SRGB, ROMM = standard_profile("srgb"), standard_profile("romm")
AT = np.random.default_rng(21).random((10, 4))


@pytest.fixture(scope="module")
def press() -> Profile:
    return linear_press("Press")


@pytest.fixture(scope="module")
def other() -> Profile:
    return linear_press("Other")


def steps_of(name: str, press: Profile, other: Profile) -> list[PathStep]:
    return {
        "to press": [PathStep(SRGB), PathStep(press, "relative", True)],
        "between": [PathStep(press), PathStep(other, "perceptual", False)],
        "cube": [PathStep(ROMM), PathStep(SRGB, "relative", True)],
        "abstract": [PathStep(LAB), PathStep(press, "relative"), PathStep(LAB, "absolute")],
        "baked": [PathStep(press), PathStep(SRGB, "absolute")],
    }[name]


@pytest.mark.parametrize(
    ("name", "options"),
    [
        ("to press", {"grid": 17}),
        ("to press", {"grid": 17, "tac": 150, "title": "Held"}),
        ("between", {"grid": 9, "keep_black": True}),
        ("between", {"grid": 9, "keep_inks": True, "tac": 260}),
        ("cube", {"kind": "cube", "grid": 17}),
        ("abstract", {"kind": "abstract", "grid": 17}),
        ("baked", {"kind": "baked", "grid": 9}),
        ("baked", {"kind": "baked", "grid": 9, "view": "absolute"}),
    ],
)
def test_saved_paths(name, options, press, other) -> None:
    view = options.get("view", "paper")
    options = {k: v for k, v in options.items() if k != "view"}
    data, report = save_path(steps_of(name, press, other), SavingOptions(**options), view)
    if report.kind == "cube":
        numbers = parse_cube(data).apply(AT[:, :3])
        held = {}
    else:
        made = Profile(data)
        held = {
            "description": made.description, "class": made.header.device_class,
            "intent": made.header.rendering_intent, "meta": parse_dictionary(made.raw("meta")),
        }  # fmt: skip
        if report.kind == "abstract":
            numbers = run_abstract(made, AT[:, :3] * [100, 120, 120] - [0, 60, 60])
        elif report.kind == "baked":
            numbers = device_to_xyz(made, AT, 0)
        else:
            numbers = run_link(made, AT[:, : made.channels])
    kept = {
        "report": report.model_dump(mode="json"),
        "held": held,
        "gives": np.round(numbers, 4).tolist(),
    }
    stem = "-".join(
        [name.replace(" ", "-"), *(str(v) for k, v in options.items() if k != "kind"), view]
    )
    as_kept(f"paths/{stem}", {k: v for k, v in kept.items() if v}, rel=5e-3, abs=0.003)


def test_totals_are_lowered_with_black_kept_and_the_others_alike() -> None:
    inks = np.array([[0.9, 0.8, 0.7, 0.6], [0.2, 0.3, 0.4, 0.1], [1, 1, 1, 1], [0, 0, 0, 1.0]])
    found = _lowered(inks, 1.5)
    share = (1.5 - 0.6) / 2.4
    assert found[0] == pytest.approx([0.9 * share, 0.8 * share, 0.7 * share, 0.6])
    assert found[1].tolist() == inks[1].tolist()
    assert found[2] == pytest.approx([0.5 / 3] * 3 + [1])
    assert found[3].tolist() == [0, 0, 0, 1]
    assert _lowered(inks, 0.5)[2] == pytest.approx([0, 0, 0, 0.5])
    three = np.array([[0.9, 0.6, 0.3]])
    assert _lowered(three, 0.9) == pytest.approx(three / 2)
    assert _lowered(three, 1.8) is three


@pytest.mark.parametrize(
    ("name", "options", "code"),
    [
        ("to press", {"kind": "cube"}, "cube-ends"),
        ("to press", {"kind": "abstract"}, "abstract-ends"),
        ("abstract", {"kind": "link"}, "both-ends-lab"),
        ("abstract", {"kind": "baked"}, "baked-start"),
        ("to press", {"keep_black": True}, "pure-inks"),
        ("to press", {"keep_inks": True}, "pure-inks"),
        ("cube", {"tac": 200}, None),
        ("to press", {"grid": 18}, None),
    ],
)
def test_paths_that_cannot_become_it(name, options, code, press, other) -> None:
    with pytest.raises(BadInput) as error:
        save_path(steps_of(name, press, other), SavingOptions(**options))
    assert code is None or error.value.said.code == f"paths.{code}"


def test_grids_that_can_be_asked_for_and_sentences(press, other) -> None:
    kept = {"grids": {str(k): v for k, v in GRIDS.items()}, "kinds": list(SAVED_KINDS)}
    for name, options in (
        ("to press", {}), ("between", {"keep_black": True, "keep_inks": True, "tac": 250}), ("cube", {"kind": "cube"}),
        ("abstract", {"kind": "abstract"}), ("baked", {"kind": "baked"}),
    ):  # fmt: skip
        kept[name] = sentence(steps_of(name, press, other), SavingOptions(**options))
    as_kept("paths/sentences", kept)


@pytest.mark.parametrize("formula", FORMULAS)
def test_figures_of_two_steps(formula) -> None:
    rng = np.random.default_rng(3)
    first = rng.uniform([0, -60, -60], [100, 60, 60], (97, 3))
    second = first + rng.normal(0, 2, first.shape)
    found = difference_figures(
        formula, first, second, tuple(str(i) for i in range(97)), (0.5, 1, 3, 6)
    )
    as_kept(f"paths/figures-{formula}", found.model_dump(mode="json"), abs=2e-3)
    assert found.count == sum(found.histogram.counts) == 97
    assert len(found.histogram.edges) == len(found.histogram.counts) + 1


def test_at_most_six_thresholds_that_rise_from_nought() -> None:
    lab = np.zeros((1, 3))
    difference_figures("2000", lab, lab, ("a",), (1, 2, 3, 4, 5, 6))
    for wrong in ((1, 2, 3, 4, 5, 6, 7), (0, 1), (1, 1), (2, 1), (-1, 1)):
        with pytest.raises(BadInput):
            difference_figures("2000", lab, lab, ("a",), wrong)
