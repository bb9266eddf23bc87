"""CMYK artwork made for the very press it goes to keeps its numbers unless the recipe says not."""

from __future__ import annotations

import numpy as np
import pytest
import tifffile

from plinto_core.colorimetry import delta_e_2000
from plinto_core.icc import Profile
from plinto_core.recipes import parse_recipe, run_recipe
from plinto_core.recipes.route import route_for
from plinto_core.transform import lab_of_device


def recipe_of(**parts):
    return parse_recipe({"destination": "coated", **parts})


@pytest.fixture
def artwork(coated) -> np.ndarray:
    """(40, 50, 4) uint16: any mixture, up to 400 %."""
    return np.random.default_rng(4).integers(0, 65536, (40, 50, 4)).astype(np.uint16)


@pytest.fixture
def renamed(coated) -> Profile:
    """The same press under another name and date, as another program embeds it."""
    data = bytearray(coated.data)
    data[24:36] = bytes(12)
    at = coated.directory["cprt"][0]
    data[at + 12] ^= 1
    return Profile(bytes(data))


def run(artwork, folder, coated, own, **parts):
    tifffile.imwrite(folder / "in.tif", artwork, photometric="separated", iccprofile=own.data)
    bits = artwork.dtype.itemsize * 8
    recipe = recipe_of(**{"delivery": {"bits": bits}, **parts})
    report = run_recipe(recipe, folder / "in.tif", folder / "out.tif", lambda r: coated)
    return tifffile.imread(folder / "out.tif"), report


@pytest.mark.parametrize("intent", ["perceptual", "relative", "absolute"])
def test_numbers_go_through_untouched(tmp_path, artwork, coated, renamed, intent) -> None:
    assert renamed.digest != coated.digest
    found, report = run(artwork, tmp_path, coated, renamed, intent=intent)
    assert np.array_equal(found, artwork)
    assert report.numbers == "kept"


@pytest.mark.parametrize(("given", "wanted"), [(8, 16), (16, 8)])
@pytest.mark.parametrize("rules", [None, {"tac": 400}])
def test_numbers_stay_in_another_depth(tmp_path, artwork, coated, given, wanted, rules) -> None:
    data = (artwork >> 8).astype(np.uint8) if given == 8 else artwork
    rounded = {"bits": wanted, "dither": "never"}
    found, _ = run(data, tmp_path, coated, coated, delivery=rounded, ink_rules=rules)
    own = data.astype(int) * 257 if given == 8 else np.round(data / 257)
    assert np.array_equal(found, own)


@pytest.mark.parametrize("bits", [8, 16])
def test_only_what_exceeds_the_tac_changes_and_keeps_its_colour(
    tmp_path, artwork, coated, bits
) -> None:
    data = artwork if bits == 16 else (artwork >> 8).astype(np.uint8)
    top = 2**bits - 1
    found, _ = run(data, tmp_path, coated, coated, ink_rules={"tac": 260})
    over = data.sum(axis=2, dtype=int) > 2.6 * top
    assert 0.05 < over.mean() < 0.4
    assert np.array_equal(found[~over], data[~over])
    assert found.sum(axis=2, dtype=int).max() <= 2.605 * top
    before, after = (lab_of_device(coated, a[over] / top) for a in (data, found))
    assert np.median(delta_e_2000(before, after)) < 3


def test_a_total_just_above_the_rule_changes_just_a_little(coated) -> None:
    route = route_for(recipe_of(ink_rules={"tac": 300}), coated, coated)
    inks = np.array([[0.7, 0.7, 0.7, 0.91], [0.72, 0.7, 0.68, 0.93], [0.7, 0.7, 0.7, 0.9]])
    found = route.inks(inks)
    assert np.array_equal(found[2], inks[2])
    assert np.abs(found - inks).max() < 0.06


def test_own_limits_hold_for_kept_numbers(tmp_path, artwork, coated) -> None:
    found, _ = run(artwork, tmp_path, coated, coated, ink_rules={"limits": {"C": 50}})
    kept = artwork[..., 0] <= 32767
    assert np.array_equal(found[kept], artwork[kept])
    assert found[..., 0].max() <= 32768


def test_the_rule_of_black_alone_does_not_touch_kept_numbers(tmp_path, artwork, coated) -> None:
    found, _ = run(artwork, tmp_path, coated, coated, ink_rules={"black": {"method": "none"}})
    assert np.array_equal(found, artwork)


def test_the_recipe_may_want_them_made_anew(tmp_path, artwork, coated) -> None:
    rules = {"tac": 300, "black": {"method": "gcr", "strength": 90}}
    found, report = run(artwork, tmp_path, coated, coated, ink_rules=rules, numbers="separate")
    assert report.numbers == "made anew"
    assert (found != artwork).any(axis=2).mean() > 0.9


def test_a_correction_changes_colours_by_the_nearest_mixture(coated) -> None:
    recipe = recipe_of(
        corrections=[{"lightness": 20, "colours": {"lab": [50, 60, 20], "radius": 30}}]
    )
    route = route_for(recipe, coated, coated)
    inks = np.random.default_rng(1).random((2000, 4)) * [0.8, 0.8, 0.8, 0.4]
    found = route.inks(inks)
    moved = np.abs(route.aim_lab(inks) - route.source_lab(inks)).max(axis=1) > 1e-6
    assert 0.02 < moved.mean() < 0.8
    assert np.array_equal(found[~moved], inks[~moved])
    aims = route.aim_lab(inks[moved])
    errors = delta_e_2000(aims, route.print_lab(found[moved]))
    assert np.percentile(errors, 95) < 1.5
    assert np.median(np.abs(found[moved, 3] - inks[moved, 3])) < 0.05


def test_the_choice_is_part_of_the_cache_key(coated) -> None:
    keys = {route_for(recipe_of(numbers=n), coated, coated).key for n in ("keep", "separate")}
    assert len(keys) == 2
