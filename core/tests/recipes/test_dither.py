"""Smooth artwork comes to be 8 bits without steps, and breaks no limit on the way."""

from __future__ import annotations

import numpy as np
import pytest
import tifffile

from plinto_core.corrections import Place
from plinto_core.errors import BadRecipe
from plinto_core.kernels.dither import dithered
from plinto_core.recipes import parse_recipe, run_recipe
from plinto_core.recipes.pixel_path import PixelPath
from plinto_core.recipes.route import route_for
from plinto_core.transform.standard_spaces import standard_profile

NO_LIMITS = np.full(4, 255)


def test_the_mean_of_a_flat_is_its_own_number_and_each_pixel_one_of_two_levels() -> None:
    rng = np.random.default_rng(3)
    for inks in rng.integers(0, 65536, (40, 4)):
        wide = np.broadcast_to(inks.astype(np.uint16), (64, 64, 4)).copy()
        found = dithered(wide, 0, 0, NO_LIMITS, 1020).astype(float)
        assert np.abs(found - inks / 257).max() < 1
        assert np.abs(found.mean(axis=(0, 1)) - inks / 257).max() < 0.02
        assert np.abs(found.sum(axis=2) - inks.sum() / 257).max() < 1
        # Evenly: no part of 8 pixels a side is off by more than a tenth of a level in its total.
        parts = found.sum(axis=2).reshape(8, 8, 8, 8).mean(axis=(1, 3))
        assert np.abs(parts - inks.sum() / 257).max() < 0.1


def test_levels_paper_and_solids_stay() -> None:
    levels = np.arange(256, dtype=np.uint16) * 257
    wide = np.stack([levels, levels[::-1], levels * 0, levels * 0 + 65535], axis=1)[:, None]
    assert np.array_equal(dithered(wide, 5, 9, NO_LIMITS, 1020), wide // 257)
    none = np.zeros((30, 30, 4), np.uint16)
    none[..., 1] = np.arange(30) * 2000 + 123
    assert not dithered(none, 0, 0, NO_LIMITS, 1020)[..., [0, 2, 3]].any()


def test_bands_join_without_a_seam() -> None:
    wide = np.random.default_rng(1).integers(0, 65536, (40, 50, 4)).astype(np.uint16)
    whole = dithered(wide, 7, 3, NO_LIMITS, 1020)
    assert np.array_equal(whole[13:], dithered(wide[13:], 20, 3, NO_LIMITS, 1020))
    assert np.array_equal(whole[:, 11:], dithered(wide[:, 11:], 7, 14, NO_LIMITS, 1020))


def test_rounding_breaks_neither_limit_nor_total() -> None:
    rng = np.random.default_rng(2)
    wide = rng.integers(0, 65536, (100, 100, 4)).astype(np.uint16)
    wide[..., 2] = np.minimum(wide[..., 2], int(0.9 * 65535))
    cut = 3.003 * 65535 / np.maximum(wide.sum(axis=2), 3.003 * 65535)
    wide = np.floor(wide * cut[..., None]).astype(np.uint16)
    limits = np.array([255, 255, 229, 255])
    found = dithered(wide, 0, 0, limits, 765)
    assert found[..., 2].max() == 229
    assert found.sum(axis=2, dtype=int).max() == 765
    assert np.abs(found - wide / 257).max() < 1


@pytest.fixture
def ramp(tmp_path):
    """A 16-bit ramp of 40 of its 8-bit levels over 2,000 pixels."""
    row = np.linspace(0.55, 0.7, 2000)
    pixels = np.repeat(np.round(row * 65535).astype(np.uint16)[None, :, None], 3, axis=2)
    path = tmp_path / "ramp.tif"
    tifffile.imwrite(
        path, np.repeat(pixels, 64, axis=0), photometric="rgb",
        iccprofile=standard_profile("srgb").data,
    )  # fmt: skip
    return path


def _printed(tmp_path, ramp, coated, **changes):
    recipe = parse_recipe({"destination": "coated", **changes})
    report = run_recipe(recipe, ramp, tmp_path / "out.tif", lambda name: coated)
    return report, tifffile.imread(tmp_path / "out.tif").astype(float)


def test_a_smooth_ramp_stays_smooth(tmp_path, ramp, coated) -> None:
    rules = {"tac": 80.3}
    _, fine = _printed(tmp_path, ramp, coated, ink_rules=rules)
    told, smooth = _printed(tmp_path, ramp, coated, ink_rules=rules, delivery={"bits": 8})
    never = {"bits": 8, "dither": "never"}
    plain_told, stepped = _printed(tmp_path, ramp, coated, ink_rules=rules, delivery=never)
    assert (told.dithered, plain_told.dithered) == (True, False)
    wanted = fine[0] / 257

    def off(found):
        """Of means of 16 columns, which an eye sees together."""
        seen = found.mean(axis=0).reshape(-1, 16, 4).mean(axis=1)
        return np.abs(seen - wanted.reshape(-1, 16, 4).mean(axis=1)).max()

    assert off(stepped) > 0.4
    assert off(smooth) < 0.1
    assert fine.sum(axis=2).max() > 0.8 * 65535
    assert smooth.sum(axis=2).max() == int(0.803 * 255)


def test_a_picture_is_one_whatever_its_bands(ramp, coated) -> None:
    recipe = parse_recipe({"destination": "coated"})
    path = PixelPath(route_for(recipe, standard_profile("srgb"), coated))
    link = path.route.measured_link()[0]
    pixels = tifffile.imread(ramp)

    def inks(top, left):
        place = Place((2000, 64), left, top)
        return path.inks(lambda route: link, pixels[top:, left:], place, bits=8, dither=True)

    assert np.array_equal(inks(0, 0)[21:, 8:], inks(21, 8))


def test_artwork_of_eight_bits_only_when_asked_and_films_never(tmp_path, coated) -> None:
    delivery = parse_recipe({"destination": "coated", "delivery": {"bits": 8}}).delivery
    assert delivery.dithers(16)
    assert not delivery.dithers(8)
    always = delivery.model_copy(update={"dither": "always"})
    assert always.dithers(8)
    assert not always.model_copy(update={"bits": 16}).dithers(16)
    films = parse_recipe(
        {"destination": "coated", "delivery": {"bits": 8, "dither": "always", "films": {}}}
    ).delivery
    assert not films.dithers(16)
    with pytest.raises(BadRecipe):
        parse_recipe({"destination": "coated", "delivery": {"dither": "sometimes"}})
