"""Answers about presses made by hand, as they were judged good."""

from __future__ import annotations

import numpy as np
import pytest
from handmade import cmyk_profile, linear_inks, linear_press, linear_print
from kept import as_kept

from plinto_core.icc import Profile
from plinto_core.questions.picture import which_suits
from plinto_core.questions.profiles import greys_grey, reaches_total, step_tones
from plinto_core.questions.proofing import can_show, still_alike
from plinto_core.transform.standard_spaces import standard_profile


@pytest.fixture(scope="module")
def press() -> Profile:
    return linear_press("Press")


@pytest.fixture(scope="module")
def paler() -> Profile:
    """The same press with a tenth less of every ink on its paper."""
    return cmyk_profile(lambda inks: linear_print(inks * 0.9), lambda lab: np.clip(linear_inks(lab) / 0.9, 0, 1), back_grid=17, name="Paler")  # fmt: skip


def told(name: str, found) -> None:
    as_kept(f"questions/{name}", found.model_dump(mode="json"), rel=4e-3, abs=0.06)


def test_answers_about_one_press(press) -> None:
    told("total", reaches_total(press))
    told("total-150", reaches_total(press, 150.0))
    told("greys", greys_grey(press))
    told("greys-saturation", greys_grey(press, "saturation", bpc=False))


def test_answers_about_two(press, paler) -> None:
    told("shows", can_show(press, paler))
    told("shown", can_show(paler, press))
    told("alike", still_alike(press, paler))
    told("same", still_alike(press, press, 0.5))
    told("tones", step_tones(standard_profile("srgb"), press))
    told("tones-between", step_tones(press, paler))


def test_which_suits_a_picture(press, paler) -> None:
    y, x = np.mgrid[0:40, 0:60]
    device = np.stack([x / 60, y / 40, 1 - x / 80], axis=-1).reshape(-1, 3)
    found = which_suits(device, (40, 60), standard_profile("srgb"), press, paler)
    told("suits", found)
    assert found.question == "suit"
