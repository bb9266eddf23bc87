"""Grey artwork in an RGB space, colour tables on grey, photographic negatives."""

from __future__ import annotations

import numpy as np
import pytest

from plinto_core.errors import BadRecipe
from plinto_core.recipes import parse_recipe
from plinto_core.recipes.route import route_for
from plinto_core.transform import convert
from plinto_core.transform.cube import parse_cube
from plinto_core.transform.standard_spaces import standard_profile

TOWARDS_RED = parse_cube(
    b"LUT_3D_SIZE 2\n" + b"\n".join(
        f"{min(1, r + 0.2)} {g} {b}".encode() for b in (0, 1) for g in (0, 1) for r in (0, 1)
    )
)  # fmt: skip
GREYS = np.linspace(0, 1, 17)[:, None]


def route(coated, source, *, arrival=None, **parts):
    recipe = parse_recipe({"destination": "coated", **parts})
    space = standard_profile(arrival) if arrival else None
    return route_for(recipe, standard_profile(source), coated, lambda r: TOWARDS_RED, space)


@pytest.mark.parametrize("arrival", ["srgb", "romm"])
def test_grey_artwork_arrives_in_an_rgb_space(coated, arrival) -> None:
    found = route(coated, "grey", arrival=arrival).inks(GREYS)
    rgb = convert(
        standard_profile("grey"), standard_profile(arrival), GREYS, intent="relative", bpc=True
    )
    same = route(coated, arrival).inks(rgb)
    assert np.allclose(found, same, atol=1e-9)


@pytest.mark.parametrize("arrival", [None, "romm"])
def test_a_colour_table_tints_grey_artwork(coated, arrival) -> None:
    plain = route(coated, "grey", arrival=arrival).inks(GREYS[4:12])
    tinted = route(coated, "grey", arrival=arrival, before="table").inks(GREYS[4:12])
    assert (tinted[:, 0] < plain[:, 0] - 0.03).all()


def test_a_table_and_its_space_are_part_of_the_cache_key(coated) -> None:
    keys = {
        route(coated, "grey", **p).key
        for p in ({}, {"before": "t"}, {"arrival": "srgb"}, {"negative": True})
    }
    assert len(keys) == 4


def test_an_arrival_space_of_another_kind_is_refused(coated) -> None:
    with pytest.raises(BadRecipe, match="another kind"):
        route(coated, "srgb", arrival="grey")


@pytest.mark.parametrize("source", ["srgb", "grey"])
def test_a_photographic_negative_is_turned_before_anything_else(coated, source) -> None:
    rng = np.random.default_rng(2)
    device = rng.random((200, standard_profile(source).channels))
    negative, positive = (
        route(coated, source, negative=n, corrections=[{"lightness": 30}]) for n in (True, False)
    )
    assert np.allclose(negative.inks(1 - device), positive.inks(device))
    assert np.allclose(negative.source_lab(1 - device), positive.source_lab(device))
    assert np.allclose(negative.out_of_gamut(1 - device), positive.out_of_gamut(device))


def test_the_black_of_a_negative_is_its_white(coated) -> None:
    rules = {"tac": 300, "protect": {"black_text": True}}
    turned = route(coated, "srgb", negative=True, ink_rules=rules)
    white = np.full((1, 3), 255, np.uint8)
    assert turned.black_text(white).all()
    assert not turned.black_text(white * 0).any()
    assert np.array_equal(turned.exact_inks(np.ones((1, 3))), [[0, 0, 0, 1]])


def test_files_with_the_former_name_of_the_arrival_space_still_run() -> None:
    assert parse_recipe({"destination": "x", "working": "romm"}).arrival == "romm"
    with pytest.raises(BadRecipe, match="working"):
        parse_recipe({"destination": "x", "working": "romm", "arrival": "srgb"})
