"""Gamuts side by side, against solids whose figures are known."""

from __future__ import annotations

import numpy as np
import pytest

from plinto_core.colorimetry.cielab import Lab_to_XYZ
from plinto_core.gamut.body import GamutBody
from plinto_core.gamut.views import (
    HUES,
    LIGHTNESSES,
    body_figures,
    body_of,
    pair_figures,
    thinned,
)
from plinto_core.transform.standard_spaces import standard_profile


def ball(radius: float) -> GamutBody:
    return GamutBody(np.full((121, 240), radius))


def test_cuts_and_leaves_of_a_ball_are_circles() -> None:
    figures = body_figures(ball(30))
    chroma = np.array(figures.chroma)
    assert chroma.shape == (LIGHTNESSES.size, HUES.size)
    expected = np.sqrt(np.clip(900 - (LIGHTNESSES - 50) ** 2, 0, None))
    assert np.abs(chroma - expected[:, None]).max() < 0.2
    assert figures.volume == pytest.approx(4 / 3 * np.pi * 30**3, rel=0.002)
    assert (figures.darkest, figures.lightest, figures.most_chroma) == (20, 80, 30)


def test_one_ball_within_another() -> None:
    small, large = ball(20), ball(40)
    inside = pair_figures(small, large)
    assert (inside.coverage, inside.de00_mean, inside.de00_p95) == (1, 0, 0)
    assert inside.intersection == round(small.volume)
    outside = pair_figures(large, small)
    assert outside.coverage == pytest.approx(1 / 8, rel=0.01)
    assert outside.de00_mean > 3
    assert outside.de00_p95 > outside.de00_mean


def test_sight_decides_what_is_white_and_what_is_black(coated) -> None:
    absolute, paper, black = (body_of(coated, s) for s in ("absolute", "paper", "black"))
    white = Lab_to_XYZ(np.array([100.0, 0, 0]))[1] * coated.media_white[1]
    assert absolute.lightness_range[1] == pytest.approx(116 * white ** (1 / 3) - 16, abs=0.6)
    assert paper.lightness_range[1] == pytest.approx(100, abs=0.2)
    assert paper.lightness_range[0] > 5
    assert black.lightness_range[0] == pytest.approx(0, abs=0.6)
    assert black.lightness_range[1] == pytest.approx(100, abs=0.2)
    assert black.volume > paper.volume > absolute.volume


def test_a_lower_total_costs_dark_colours_and_nothing_of_a_screen(coated) -> None:
    own, lower = body_of(coated, "paper"), body_of(coated, "paper", 180)
    assert lower.volume < own.volume * 0.98
    assert lower.lightness_range[0] > own.lightness_range[0] + 1
    screen = standard_profile("srgb")
    assert body_of(screen, "paper", 180).volume == body_of(screen, "paper").volume


def test_one_ink_has_no_body() -> None:
    assert body_of(standard_profile("grey"), "paper") is None


def test_a_press_holds_less_of_a_screen_than_the_other_way_round_it_seems(coated) -> None:
    screen, press = body_of(standard_profile("srgb"), "paper"), body_of(coated, "paper")
    there, back = pair_figures(screen, press), pair_figures(press, screen)
    assert there.intersection == pytest.approx(back.intersection, rel=0.001)
    assert there.coverage == pytest.approx(there.intersection / screen.volume, rel=0.01)
    assert there.coverage < back.coverage


def test_few_colours_stand_for_many_and_the_rare_ones_stay() -> None:
    grey = np.repeat([[50.0, 0, 0]], 10_000, axis=0) + np.random.default_rng(1).normal(0, 1, (10_000, 3))  # fmt: skip
    rare = np.array([[40.0, 60, -30]])
    places = thinned(np.concatenate([grey, rare]), 400)
    assert len(places) <= 400
    assert places[-1] == 10_000
    assert (np.diff(places) > 0).all()
    # As few as may be stay all, also where two are the same colour.
    assert thinned(np.repeat(rare, 3, axis=0), 3).tolist() == [0, 1, 2]
    assert thinned(np.repeat(rare, 4, axis=0), 3).tolist() == [0]
