"""What the artwork's own numbers would print as they are."""

from __future__ import annotations

import numpy as np
import pytest

from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.icc import Profile
from plinto_core.recipes import parse_recipe
from plinto_core.recipes.route import route_for
from plinto_core.recipes.unconverted import unconverted_figures, unconverted_route
from plinto_core.transform.chain import lab_of_device
from plinto_core.transform.standard_spaces import standard_profile

INKS = np.random.default_rng(5).random((300, 4)) * 0.9


@pytest.fixture(scope="module")
def newsprint() -> Profile:
    from plinto_core.characterise import BuildSettings, build_profile
    from plinto_core.colorimetry.spectra import reflectance_to_XYZ
    from plinto_core.inks.rules import parse_ink_rules
    from plinto_core.measurement import cmyk_chart
    from plinto_core.measurement.characterisation import Characterisation
    from plinto_core.simulator import CONDITIONS, measure_chart

    chart = cmyk_chart()
    xyz = reflectance_to_XYZ(measure_chart(CONDITIONS[2].model, chart))
    settings = BuildSettings(size="small", description="Newsprint")
    rules = parse_ink_rules(CONDITIONS[2].rules)
    return Profile(build_profile(Characterisation(chart, xyz), rules, settings).data)


def route(source, destination, **parts):
    return route_for(parse_recipe({"destination": "press", **parts}), source, destination)


def test_numbers_print_as_the_press_prints_them_whatever_the_recipe_makes(coated, newsprint):
    rules = {"tac": 240}
    plates = {"K": {"curve": [[0, 0], [50, 80], [100, 100]]}}
    made = route(coated, newsprint, ink_rules=rules, plates=plates, corrections=[{"lightness": 40}])
    sent = unconverted_route(made)
    assert np.array_equal(sent.inks(INKS), INKS)
    expected = lab_of_device(newsprint, INKS, intent="relative")
    assert np.allclose(sent.print_lab(sent.inks(INKS)), expected)


@pytest.mark.parametrize("intent", ["relative", "absolute"])
def test_figures_compare_that_print_with_the_artwork(coated, newsprint, intent):
    figures = unconverted_figures(route(coated, newsprint, intent=intent, bpc=False), INKS)
    artwork = lab_of_device(coated, INKS, intent=intent)
    printed = lab_of_device(newsprint, INKS, intent=intent)
    errors = delta_e_2000(artwork, printed)
    assert figures.de00.mean == pytest.approx(errors.mean(), abs=1e-3)
    assert figures.de00.max == pytest.approx(errors.max(), abs=1e-3)
    assert figures.lightness == pytest.approx((printed - artwork)[:, 0].mean(), abs=0.01)
    gain = np.hypot(*printed[:, 1:].T).mean() - np.hypot(*artwork[:, 1:].T).mean()
    assert figures.chroma == pytest.approx(gain, abs=0.01)
    assert figures.tac_max == pytest.approx(INKS.sum(axis=1).max() * 100, abs=0.06)
    assert figures.chroma < -3


def test_where_nothing_can_be_sent_as_it_is_there_is_no_figure(coated, newsprint):
    assert unconverted_route(route(standard_profile("srgb"), coated)) is None
    assert unconverted_route(route(coated, coated)) is None
    assert unconverted_figures(route(standard_profile("grey"), coated), np.zeros((2, 1))) is None
    assert unconverted_route(route(standard_profile("srgb"), standard_profile("p3"))) is not None
