"""Hues of CAM16 against a library's implementation of the whole model."""

from __future__ import annotations

import warnings

import numpy as np
import pytest

from plinto_core.colorimetry.cam16 import cam16_hue
from plinto_core.colorimetry.cielab import D50


def test_hues_are_those_of_the_whole_model() -> None:
    with warnings.catch_warnings():
        # It says that it cannot plot.
        warnings.simplefilter("ignore")
        import colour

    rng = np.random.default_rng(16)
    xyz = rng.random((200, 3)) * D50 * 0.9 + 0.01
    whole = colour.XYZ_to_CAM16(xyz * 100, D50 * 100, 64.0, 20.0, discount_illuminant=True)
    away = (cam16_hue(xyz) - np.asarray(whole.h) + 180) % 360 - 180
    assert np.abs(away).max() < 0.05


@pytest.mark.parametrize("light", [0.02, 0.2, 0.9])
def test_a_hue_hardly_depends_on_the_light(light) -> None:
    red = np.array([0.4, 0.25, 0.05])
    assert cam16_hue(red * light) == pytest.approx(cam16_hue(red), abs=1.5)
