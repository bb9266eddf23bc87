"""Protected black is solid, exact and alone, whatever the method and limits say."""

from __future__ import annotations

import numpy as np
import pytest
import tifffile

from plinto_core.recipes import parse_recipe, run_recipe
from plinto_core.recipes.route import route_for
from plinto_core.transform.standard_spaces import standard_profile

BLACKS = [
    None,
    {"method": "none"},
    {"method": "neutral", "limit": 0},
    {"method": "gcr", "limit": 60},
]


@pytest.fixture
def resolve(coated, coated_v4):
    known = {"coated": coated, "foreign": coated_v4}
    return lambda reference: known.get(reference) or standard_profile(reference)


def run(data, folder, resolve, photometric, **recipe):
    tifffile.imwrite(folder / "in.tif", data, photometric=photometric)
    bits = data.dtype.itemsize * 8
    made = parse_recipe({"destination": "coated", "delivery": {"bits": bits}, **recipe})
    run_recipe(made, folder / "in.tif", folder / "out.tif", resolve)
    return tifffile.imread(folder / "out.tif")


@pytest.mark.parametrize(
    ("bits", "limits", "black"),
    [(8, {}, BLACKS[2]), (16, {"K": 40}, BLACKS[1])],
    ids=str,
)
def test_every_tint_of_pure_black_keeps_its_number(tmp_path, resolve, bits, limits, black) -> None:
    data = np.zeros((4, 256, 4), np.uint8 if bits == 8 else np.uint16)
    data[..., 3] = np.arange(256) * (1 if bits == 8 else 257)
    rules = {"tac": 280, "black": black, "limits": limits}
    found = run(data, tmp_path, resolve, "separated", source="foreign", ink_rules=rules)
    assert np.array_equal(found, data)


@pytest.mark.parametrize("black", BLACKS, ids=str)
def test_black_text_is_solid_and_alone(tmp_path, resolve, black) -> None:
    data = np.full((8, 8, 3), 200, np.uint8)
    data[2:4] = 0
    rules = {"tac": 280, "black": black, "limits": {"K": 70}, "protect": {"black_text": True}}
    found = run(data, tmp_path, resolve, "rgb", ink_rules=rules)
    assert (found[2:4] == [0, 0, 0, 255]).all()
    assert not (found[4:] == [0, 0, 0, 255]).all(axis=2).any()


@pytest.mark.parametrize("black", BLACKS, ids=str)
@pytest.mark.parametrize(
    ("space", "intent"), [("rgb", "perceptual"), ("rgb", "relative"), ("minisblack", "perceptual")]
)
def test_greys_in_black_reach_solid_black_without_a_jump(
    tmp_path, resolve, black, space, intent
) -> None:
    ramp = np.tile(np.arange(256, dtype=np.uint8), (4, 1))
    data = np.repeat(ramp[..., None], 3, axis=2) if space == "rgb" else ramp
    rules = {"tac": 280, "black": black, "protect": {"neutral_to_black": True}}
    found = run(data, tmp_path, resolve, space, ink_rules=rules, intent=intent)[0].astype(int)
    assert found[:, :3].max() == 0
    assert (found[0, 3], found[255, 3]) == (255, 0)
    steps = np.diff(found[:, 3])
    assert steps.max() <= 0
    assert steps.min() >= -6


def test_the_tac_stands_above_protection(tmp_path, resolve) -> None:
    data = np.zeros((4, 4, 3), np.uint8)
    rules = {"tac": 80, "protect": {"black_text": True, "neutral_to_black": True}}
    assert run(data, tmp_path, resolve, "rgb", ink_rules=rules).max() == 204


def test_nothing_is_protected_where_nobody_asks(coated, coated_v4) -> None:
    rules = {"tac": 300, "black": {"method": "none"}, "protect": {"pure_black": False}}
    route = route_for(
        parse_recipe({"destination": "coated", "ink_rules": rules}), coated_v4, coated
    )
    assert route.inks(np.array([[0.0, 0.0, 0.0, 1.0]]))[0, 3] == 0
