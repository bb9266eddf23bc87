from __future__ import annotations

import numpy as np
import pytest

from plinto_core.colorimetry.spectra import WAVELENGTHS
from plinto_core.simulator import CONDITIONS, SIMULATED, measure_chart
from plinto_core.simulator.materials import substrate
from plinto_core.simulator.press import predicted_lab

PRIMARIES = np.array([[0, 0, 0, 0], [1, 0, 0, 0], [0, 1, 0, 0], [0, 0, 1, 0], [0, 0, 0, 1.0]])


@pytest.mark.parametrize("condition", CONDITIONS, ids=lambda c: c.key)
def test_inks_have_their_hues_and_paper_is_lightest(condition) -> None:
    paper, cyan, magenta, yellow, black = predicted_lab(condition.model, PRIMARIES)
    assert paper[0] == max(paper[0], cyan[0], magenta[0], yellow[0], black[0])
    assert cyan[1] < -15
    assert cyan[2] < -15
    assert magenta[1] > 35
    assert yellow[2] > 40
    assert np.abs(black[1:]).max() < 4


def test_paper_without_ink_has_the_substrates_spectrum() -> None:
    model = CONDITIONS[0].model
    bare = model.reflectance(np.zeros((1, 4)))[0]
    assert np.allclose(bare, model.surface + (1 - model.surface) * model.substrate)


def test_a_brightener_lifts_the_blue_end_and_no_wave_beyond_what_fluoresces() -> None:
    plain, bright = substrate(0.85), substrate(0.85, brightener=0.1)
    at = {int(w): i for i, w in enumerate(WAVELENGTHS)}
    assert bright[at[440]] - plain[at[440]] == pytest.approx(0.1, abs=0.01)
    assert bright[at[730]] == pytest.approx(plain[at[730]])
    assert substrate(1.0, brightener=0.5).max() == 1.1
    assert substrate(0.0).min() == 0.02


def test_tone_darkens_steadily_and_dots_gain() -> None:
    ramp = np.zeros((21, 4))
    ramp[:, 3] = np.linspace(0, 1, 21)
    lightness = predicted_lab(CONDITIONS[0].model, ramp)[:, 0]
    assert (np.diff(lightness) < 0).all()
    assert lightness[10] < (lightness[0] + lightness[-1]) / 2


def test_dots_below_the_least_of_a_flexo_plate_leave_the_film_bare() -> None:
    film = SIMULATED["film-flexo"]
    tints = predicted_lab(film.model, np.diag([0.0299, 0.03, 0.0299, 0.05]))
    bare = predicted_lab(film.model, np.zeros((1, 4)))[0]
    assert film.least_dot == 3
    assert [bool((t == bare).all()) for t in tints] == [True, False, True, False]


def test_newsprint_is_greyer_and_smaller_than_coated() -> None:
    coated, news = (predicted_lab(c.model, PRIMARIES) for c in (CONDITIONS[0], CONDITIONS[2]))
    assert news[0, 0] < coated[0, 0] - 8
    assert news[4, 0] > coated[4, 0] + 10


def test_reading_is_repeatable_for_a_seed_and_noisy_otherwise() -> None:
    model = CONDITIONS[0].model
    one, two, other = (measure_chart(model, PRIMARIES, seed=s) for s in (1, 1, 2))
    assert np.array_equal(one, two)
    assert not np.array_equal(one, other)
    assert np.abs(one / model.reflectance(PRIMARIES) - 1).max() < 0.01
