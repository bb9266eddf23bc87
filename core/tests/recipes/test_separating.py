"""Separation anew as a step: the same colour with less ink, and a link that saves it."""

from __future__ import annotations

import numpy as np
import pytest

from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.errors import BadInput
from plinto_core.icc import Profile
from plinto_core.inks.rules import parse_ink_rules
from plinto_core.paths.follow import follow
from plinto_core.paths.saving import SavingOptions, save_path
from plinto_core.recipes.separating import separation_step
from plinto_core.transform.direct import run_link
from plinto_core.transform.path import PathStep
from plinto_core.transform.standard_spaces import standard_profile

MUCH_BLACK = parse_ink_rules({"tac": 280, "black": {"method": "gcr", "strength": 90, "start": 5}})


@pytest.fixture(scope="module")
def path(coated):
    return [PathStep(coated), separation_step(coated, MUCH_BLACK, "much black")]


def mixtures() -> np.ndarray:
    inks = np.random.default_rng(6).random((6000, 4))
    return inks[inks.sum(axis=1) < 2.8]


def test_the_colour_stays_and_the_ink_falls(path) -> None:
    inks = mixtures()
    found = follow(path, inks * 100)
    errors = delta_e_2000(found.lab[0], found.lab[1])
    assert errors.mean() < 0.2
    assert np.percentile(errors, 99) < 1.0
    before, after = (v.sum(axis=1) for v in found.values)
    assert after.mean() < 0.9 * before.mean()
    assert after.max() <= 280.01


def test_a_link_of_it_saves_as_much_and_keeps_black(path) -> None:
    data, report = save_path(path, SavingOptions(keep_black=True))
    link = Profile(data)
    inks = mixtures()
    exact = follow(path, inks * 100).values[1] / 100
    through = run_link(link, inks)
    saved = [1 - v.sum() / inks.sum() for v in (exact, through)]
    assert saved[1] == pytest.approx(saved[0], abs=0.005)
    assert report.everywhere.mean < 0.15
    black = np.zeros((5, 4))
    black[:, 3] = [0, 0.25, 0.5, 0.75, 1]
    assert run_link(link, black)[:, :3].max() == 0


def test_other_colours_come_to_the_press_first(path, coated) -> None:
    srgb = standard_profile("srgb")
    rgb = np.random.default_rng(1).random((50, 3)) * 255
    straight = follow([PathStep(srgb), PathStep(coated, "perceptual", True), path[1]], rgb)
    step = separation_step(coated, MUCH_BLACK, "x", intent="perceptual", bpc=True)
    assert follow([PathStep(srgb), step], rgb).values[1] == pytest.approx(straight.values[2])


def test_only_inks_are_separated() -> None:
    with pytest.raises(BadInput, match="conditions with inks only"):
        separation_step(standard_profile("srgb"), MUCH_BLACK, "x")
