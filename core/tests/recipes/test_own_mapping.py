"""Perceptual made by the recipe, the leaf that shows it, and the most vivid print."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.corrections.adjust import Adjustment
from plinto_core.corrections.model import Vivid
from plinto_core.gamut.look import Perceptual
from plinto_core.inks.rules import InkRules
from plinto_core.recipes.fit import fits
from plinto_core.recipes.leaf import leaf
from plinto_core.recipes.recipe import Recipe
from plinto_core.recipes.route import ColourRoute, route_for
from plinto_core.recipes.vividest import vividest
from plinto_core.transform.standard_spaces import standard_profile

SRGB = standard_profile("srgb")
ANY = np.random.default_rng(5).random((3000, 3))


@pytest.fixture(scope="module")
def route(coated) -> ColourRoute:
    return ColourRoute(SRGB, coated, "perceptual", True)


def printed(route: ColourRoute, device: np.ndarray = ANY) -> np.ndarray:
    return route.print_lab(route.inks(device))


def test_balanced_is_what_a_build_makes(route) -> None:
    """The table that a build wrote and the mapping of each colour are two ways to the same print."""
    apart = delta_e_2000(printed(route), printed(replace(route, perceptual=Perceptual())))
    assert apart.mean() < 0.3
    assert apart.max() < 3.0


def test_kinds_and_controls_do_what_they_say(route) -> None:
    def chroma(**said) -> float:
        lab = printed(replace(route, perceptual=Perceptual(**said)))
        return float(np.hypot(lab[:, 1], lab[:, 2]).mean())

    assert chroma(kind="faithful") < chroma() - 0.3
    assert chroma(kind="vivid") > chroma() + 0.5
    assert chroma(colourfulness=-20) < chroma() - 2
    grey = np.full((1, 3), 0.5)
    lean = printed(replace(route, perceptual=Perceptual(grey_b=4)), grey)
    assert lean[0, 2] - printed(route, grey)[0, 2] > 2
    dark, light = (
        printed(replace(route, perceptual=Perceptual(contrast=40)), np.full((1, 3), v))[0, 0]
        - printed(replace(route, perceptual=Perceptual()), np.full((1, 3), v))[0, 0]
        for v in (0.3, 0.75)
    )
    assert dark < -1
    assert light > 1


def test_other_intents_links_and_kept_numbers_have_no_part_in_it(route, coated) -> None:
    own = Perceptual(kind="vivid")
    for intent in ("relative", "saturation", "absolute"):
        plain = replace(route, intent=intent)
        assert replace(plain, perceptual=own).key == plain.key
        assert np.array_equal(replace(plain, perceptual=own).inks(ANY[:50]), plain.inks(ANY[:50]))
    assert replace(route, perceptual=own).key != route.key
    assert replace(route, perceptual=own).key != replace(route, perceptual=Perceptual()).key
    same = replace(route, source=coated, perceptual=own)
    inks = np.random.default_rng(1).random((20, 4)) * 0.7
    assert np.allclose(same.inks(inks), inks)


def test_ink_rules_bound_what_it_maps_into(route) -> None:
    """Colours are mapped into what the rules leave, in place of being clipped to it afterwards."""
    rules = InkRules(tac=180)
    own = replace(route, perceptual=Perceptual(), rules=rules)
    dark = np.linspace(0, 0.25, 30)[:, None] * np.array([[1.0, 0.6, 0.8]])
    for way, least in ((own, 0.3), (replace(route, rules=rules), None)):
        inks = way.inks(dark)
        assert inks.sum(axis=1).max() <= 1.8 + 1e-6
        steps = np.diff(way.print_lab(inks)[:, 0])
        if least is not None:
            assert (steps > 0).all()
    # And of what rules beyond the profile's own leave, darker prints than its tables know.
    wide, black = replace(own, rules=InkRules(tac=390)), np.zeros((1, 3))
    assert printed(wide, black)[0, 0] < printed(route, black)[0, 0] - 1
    assert own.reach is not replace(route, perceptual=Perceptual()).reach


def test_a_recipe_says_it(coated) -> None:
    recipe = Recipe(destination="x", perceptual=Perceptual(kind="vivid"))
    assert Recipe.model_validate_json(recipe.model_dump_json()) == recipe
    assert route_for(recipe, SRGB, coated).mapped == Perceptual(kind="vivid")


def test_without_bpc_the_source_keeps_its_own_black(route, coated) -> None:
    """An artwork's weak black is laid on the darkest print only where BPC says so."""
    own = replace(route, source=coated, numbers="separate", perceptual=Perceptual())
    black = np.array([[0.6, 0.6, 0.6, 1.0]])
    assert printed(own, black)[0, 0] < printed(replace(own, bpc=False), black)[0, 0] - 3


def test_a_leaf_shows_where_colours_go(route) -> None:
    seen = leaf(route, 142.0)
    before, after = np.array(seen.before), np.array(seen.after)
    edge = np.array(seen.press)
    # Greys go on as greys; of the greens none prints beyond what prints in any hue near by.
    greys = before[:, 0] < 1
    assert greys.sum() == 9
    assert after[greys, 0].max() < 2
    assert after[:, 0].max() < edge[:, 0].max() + 6
    assert (before[:, 0] > edge[:, 0].max() + 10).any()
    assert seen.turned is not None
    assert 0 < seen.turned < 12
    assert edge[0, 1] > 5
    assert edge[-1, 1] == pytest.approx(100, abs=1)


def test_a_leaf_of_greys_has_no_outline(route) -> None:
    grey = replace(route, source=standard_profile("grey"))
    seen = leaf(grey, 142.0)
    assert seen.source == []
    assert len(seen.before) == 9
    assert seen.turned is None


def test_a_negative_is_shown_as_it_prints(route) -> None:
    assert np.allclose(
        np.array(leaf(replace(route, negative=True), 29.0).before),
        leaf(route, 29.0).before,
        atol=0.2,
    )


def test_the_most_vivid_print_is_the_most_vivid(route) -> None:
    y, x = np.mgrid[0:24, 0:32] / np.array([24, 32]).reshape(2, 1, 1)
    picture = np.stack([0.9 * x, 0.35 + 0.3 * y, 0.9 - 0.5 * x], axis=-1).reshape(-1, 3)
    found = vividest(route, picture, (24, 32))
    assert found is not None
    present, *others = found.ways
    assert present.part == "present"
    assert others
    vividness = [w.fit.vividness for w in found.ways]
    assert vividness == sorted(vividness)
    assert vividness[-1] >= max(f.vividness for f in fits(route, picture, (24, 32)) if f.bpc)
    # Its changes lead to what was measured.
    last = found.ways[-1]
    recipe = Recipe.model_validate({"destination": "x", **last.changes})
    way = route_for(recipe, SRGB, route.destination)
    again = next(
        f for f in fits(way, picture, (24, 32)) if (f.intent, f.bpc) == (way.intent, way.bpc)
    )
    assert again.vividness == pytest.approx(last.fit.vividness)
    wide = replace(route, adjustment=Adjustment((), Vivid(strength=50)))
    stands = vividest(wide, picture, (24, 32)).ways[0]
    assert stands.changes["vivid"]["strength"] == 50
    # Judged against the artwork as it came, not against what it was widened to.
    assert stands.fit.vividness > present.fit.vividness
    assert stands.fit.de00_mean > present.fit.de00_mean + 0.5


def test_what_is_lost_for_it_parts_the_ways(route) -> None:
    """Sweeps of vivid colours lose steps where they are widened; the ways differ by how many."""
    y, x = np.mgrid[0:24, 0:48] / np.array([24, 48]).reshape(2, 1, 1)
    faithful = replace(route, perceptual=Perceptual(kind="faithful"))

    def ways(*rgb) -> dict:
        found = vividest(faithful, np.stack(rgb, axis=-1).reshape(-1, 3), (24, 48))
        return {w.part: w.fit for w in found.ways}

    greens = ways(0.05 * x, 0.55 + 0.45 * y, 0.4 + 0.6 * x)
    assert greens["utmost"].banding > greens["present"].banding + 0.05
    assert greens["steady"].banding <= greens["present"].banding + 0.005
    assert greens["steady"].vividness < greens["utmost"].vividness
    assert "fuller" not in greens
    reds = ways(0.9 * x, 0.35 + 0.3 * y, 0.9 - 0.5 * x)
    assert reds["steady"].banding <= reds["present"].banding + 0.005 < reds["fuller"].banding
    assert reds["steady"].vividness < reds["fuller"].vividness


def test_there_is_nothing_to_try_without_vivid_colours_or_with_kept_numbers(route, coated) -> None:
    greys = np.repeat(np.linspace(0, 1, 64)[:, None], 3, axis=1)
    assert vividest(route, greys, (8, 8)) is None
    assert (
        vividest(replace(route, source=coated), np.tile([0.9, 0.1, 0.0, 0.0], (64, 1)), (8, 8))
        is None
    )
