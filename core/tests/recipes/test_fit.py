"""Fit advice: its figures mean what they say, and its advice is sensible where it is plain."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.corrections.adjust import Adjustment
from plinto_core.corrections.model import Vivid
from plinto_core.gamut.outside import shares_by_way
from plinto_core.recipes.fit import (
    banding_risk,
    detail_kept,
    fits,
    local_contrast,
    neutral_drift,
    vividness_kept,
)
from plinto_core.recipes.route import ColourRoute
from plinto_core.transform.standard_spaces import standard_profile

SHAPE = (24, 32)


def picture(kind: str) -> np.ndarray:
    y, x = np.mgrid[0 : SHAPE[0], 0 : SHAPE[1]] / np.array(SHAPE).reshape(2, 1, 1)
    if kind == "vivid":
        rgb = np.stack([0.9 * x, np.full_like(x, 0.95), 0.2 + 0.5 * y], axis=-1)
    elif kind == "greys":
        rgb = np.repeat((0.5 * x + 0.5 * y)[..., None], 3, axis=-1)
    else:
        rgb = np.stack([0.5 + 0.2 * x, 0.45 + 0.15 * y, 0.4 + 0.1 * x], axis=-1)
    return rgb.reshape(-1, 3)


@pytest.fixture(scope="module")
def advice(coated):
    route = ColourRoute(standard_profile("oprgb"), coated, "perceptual", True)
    return {k: fits(route, picture(k), SHAPE) for k in ("vivid", "greys", "calm")}


def test_figures_are_those_of_each_way_alone(coated) -> None:
    """The media-relative intents ask for the same and share it; absolute asks for something else."""
    route = ColourRoute(standard_profile("oprgb"), coated, "relative", False)
    device = picture("greys")
    found = fits(route, device, SHAPE)
    for fit in found:
        way = replace(route, intent=fit.intent, bpc=fit.bpc)
        errors = delta_e_2000(way.aim_lab(device), way.print_lab(way.inks(device)))
        assert fit.de00_mean == pytest.approx(errors.mean(), abs=1e-9)
        assert fit.miss == pytest.approx(shares_by_way(way.out_of_gamut(device)), abs=1e-9)
    by = {f.intent: f for f in found}
    assert by["absolute"].miss != by["relative"].miss


def test_flat_steps_are_banding_and_kept_steps_are_not() -> None:
    ramp = np.zeros((*SHAPE, 3))
    ramp[..., 0] = 40 + np.arange(SHAPE[1])
    source = ramp.reshape(-1, 3)
    flat = source.copy()
    flat[:, 0] = np.minimum(flat[:, 0], 56)
    assert banding_risk(source, source, SHAPE) == 0
    assert banding_risk(source, flat, SHAPE) == pytest.approx(15 / 31, abs=0.02)
    assert detail_kept(source, flat, SHAPE) == pytest.approx(16 / 31, abs=0.02)
    assert local_contrast(np.full_like(source, 50), SHAPE) == 0
    assert detail_kept(np.full_like(source, 50), source, SHAPE) == 1


def test_drift_counts_neutral_colours_only() -> None:
    source = np.array([[50.0, 0, 0], [50, 60, 0]])
    printed = np.array([[50.0, 3, 4], [50, 0, 0]])
    assert neutral_drift(source, printed) == pytest.approx(5)
    assert neutral_drift(source[1:], printed[1:]) == 0


def test_every_intent_is_measured_and_one_advised(advice) -> None:
    for found in advice.values():
        assert [(f.intent, f.bpc) for f in found] == [
            ("perceptual", True), ("perceptual", False), ("relative", True), ("relative", False),
            ("saturation", True), ("saturation", False), ("absolute", False),
        ]  # fmt: skip
        assert sum(f.advised for f in found) == 1
        best = next(f for f in found if f.advised)
        assert best.intent != "absolute"
        assert best.cost == min(f.cost for f in found if f.bpc)


def test_saturation_keeps_most_vividness_and_moves_colours_farthest(advice) -> None:
    by = {f.intent: f for f in advice["vivid"] if f.bpc}
    assert by["saturation"].vividness > by["relative"].vividness + 0.01
    assert by["saturation"].de00_mean > by["relative"].de00_mean
    assert by["relative"].out_of_gamut > 0.5


def test_a_picture_inside_the_gamut_is_printed_nearly_as_it_is(advice) -> None:
    best = next(f for f in advice["calm"] if f.advised)
    assert best.out_of_gamut == 0
    assert best.de00_mean < 1
    assert best.detail == pytest.approx(1, abs=0.05)


def test_blacks_beyond_the_press_are_too_dark_and_bpc_does_not_hide_it(advice) -> None:
    by = {(f.intent, f.bpc): f for f in advice["greys"]}
    vivid, dark, light = by["relative", True].miss
    assert dark > 0
    assert vivid == light == 0
    assert by["relative", False].miss == by["relative", True].miss
    assert by["relative", True].out_of_gamut == dark
    assert by["relative", True].drift < 0.5


def test_the_same_picture_gets_the_same_advice(coated, advice) -> None:
    route = ColourRoute(standard_profile("oprgb"), coated, "absolute", False)
    assert fits(route, picture("calm"), SHAPE) == advice["calm"]


def test_what_an_intent_costs_is_the_sum_of_what_it_loses(advice) -> None:
    for fit in [*advice["vivid"], *advice["calm"]]:
        lost = max(0.0, 1.0 - fit.detail)
        parts = fit.de00_mean + 0.25 * fit.de00_p95 + 12 * lost + 15 * fit.banding + fit.drift
        parts += 10 * max(0.0, 1 - fit.vividness)
        assert fit.cost == pytest.approx(parts)
    assert max(1 - f.detail for f in advice["calm"]) > 0.01
    assert max(f.banding for f in advice["vivid"]) > 0.01


def test_vividness_is_of_vivid_colours_as_they_came() -> None:
    original = np.array([[50.0, 30, 40], [60, 0, -50], [50, 3, 4]])
    printed = np.array([[50.0, 15, 20], [60, 0, -50], [50, 0, 0]])
    assert vividness_kept(original, printed) == pytest.approx(75 / 100)
    assert vividness_kept(original[2:], printed[2:]) is None
    # Chroma that the print has more of counts too: saturation may add it.
    assert vividness_kept(original, original * [1, 1.2, 1.2]) == pytest.approx(1.2)


def test_a_widened_aim_does_not_lower_the_vividness(coated) -> None:
    plain = ColourRoute(standard_profile("srgb"), coated, "perceptual", True)
    wide = replace(plain, adjustment=Adjustment(vivid=Vivid(space="romm", strength=60)))
    device = picture("vivid")
    before, after = (fits(r, device, SHAPE)[0] for r in (plain, wide))
    assert after.vividness >= before.vividness - 0.02


def test_compensation_stays_on_unless_nothing_is_lost_without(advice) -> None:
    for found in advice.values():
        best = next(f for f in found if f.advised)
        if best.bpc:
            continue
        other = next(f for f in found if f.intent == best.intent and f.bpc)
        assert other.de00_mean - best.de00_mean >= 1
        assert best.banding <= other.banding + 0.005
    greys = {(f.intent, f.bpc): f for f in advice["greys"]}
    assert greys["relative", False].de00_mean < greys["relative", True].de00_mean
    assert next(f for f in advice["greys"] if f.advised).bpc
