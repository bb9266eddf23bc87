"""Screens show what they have as it is, and what they lack in its own hue."""

from __future__ import annotations

import numpy as np
import pytest

from plinto_core.colorimetry.cielab import Lab_to_XYZ
from plinto_core.colorimetry.even_hue import even_hue, turn
from plinto_core.gamut.on_screen import convert_to_screen, screen_values
from plinto_core.transform import convert, lab_of_device
from plinto_core.transform.link import grid_nodes
from plinto_core.transform.standard_spaces import standard_profile

SRGB, P3 = standard_profile("srgb"), standard_profile("p3")
SEA = np.array([[10.7, -7.7, -43.6]])


def shown(lab) -> np.ndarray:
    values = screen_values(SRGB, Lab_to_XYZ(np.asarray(lab, float)))
    return lab_of_device(SRGB, np.clip(values, 0, 1))


def test_what_a_screen_has_is_shown_as_it_is() -> None:
    rgb = grid_nodes(3, 11)
    assert np.abs(convert_to_screen(SRGB, SRGB, rgb) - rgb).max() < 1e-9
    inside = convert(SRGB, P3, rgb, intent="relative", bpc=True)
    assert np.abs(convert_to_screen(SRGB, P3, rgb) - inside).max() < 1e-6


def test_a_deep_sea_keeps_its_hue_where_channels_would_turn_it() -> None:
    clipped = convert(P3, SRGB, np.zeros((1, 3)))  # touch the profiles once
    assert clipped.max() < 1e-6
    plain = np.clip(np.asarray(_clipped(SEA)), 0, 1)
    assert np.abs(turn(even_hue(lab_of_device(SRGB, plain)) - even_hue(SEA)))[0] > 30
    assert np.abs(turn(even_hue(shown(SEA)) - even_hue(SEA)))[0] < 20


def _clipped(lab: np.ndarray) -> np.ndarray:
    from plinto_core.transform.sides import xyz_to_device

    return xyz_to_device(SRGB, Lab_to_XYZ(lab), 1)


def test_hues_of_a_wide_source_turn_little_and_neighbours_stay_together() -> None:
    t = np.linspace(0, 1, 241)
    for ends in (
        [[0, 0.3, 0.4], [0, 0.1, 0.9]],
        [[0.2, 0.9, 0.2], [0, 1, 0]],
        [[0.5, 0, 0.5], [1, 0, 1]],
    ):
        ramp = (1 - t[:, None]) * ends[0] + t[:, None] * np.array(ends[1])
        lab = lab_of_device(SRGB, np.clip(convert_to_screen(P3, SRGB, ramp), 0, 1))
        steps = np.linalg.norm(np.diff(lab, axis=0), axis=1)
        assert steps.max() < 6 * max(np.median(steps), 0.15)


@pytest.mark.parametrize("intent", ["relative", "absolute"])
def test_the_medium_is_seen_on_the_screen_as_before(coated, intent) -> None:
    inks = np.zeros((1, 4))
    seen = convert_to_screen(coated, SRGB, inks, intent=intent, bpc=False)
    plain = convert(coated, SRGB, inks, intent=intent)
    assert np.abs(seen - plain).max() < 1e-3
