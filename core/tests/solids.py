"""Solids of known volume, as the gamut engine sees them."""

from __future__ import annotations

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.gamut import GamutBody


def turned(
    profile: Floats, height: Floats, aside: tuple[float, float] = (0.0, 0.0), *, hues: int = 361
) -> GamutBody:
    """A profile of (n,) radii at (n,) L* turned around an axis that stands aside of the greys."""
    hue = np.linspace(0, 2 * np.pi, hues)
    a = profile[:, None] * np.cos(hue) + aside[0]
    b = profile[:, None] * np.sin(hue) + aside[1]
    lab = np.stack([height[:, None] + 0 * hue, a, b], axis=-1)
    places = np.arange(height.size * hues).reshape(height.size, hues)
    a, b, c, d = places[:-1, :-1], places[1:, :-1], places[:-1, 1:], places[1:, 1:]
    triangles = np.concatenate(
        [np.stack([p.ravel() for p in t], axis=1) for t in ((a, b, c), (b, d, c))]
    )
    return GamutBody.of_sheets(lab.reshape(1, -1, 3), triangles)


def double_cone_body() -> GamutBody:
    """C* 60 at L* 55, straight to black at L* 10 and white at 100."""
    return turned(np.array([0.0, 60, 0]), np.array([10.0, 55, 100]))


def ball(
    radius: float, aside: tuple[float, float] = (0.0, 0.0), lightness: float = 50
) -> GamutBody:
    polar = np.linspace(0, np.pi, 181)
    return turned(radius * np.sin(polar), lightness - radius * np.cos(polar), aside)
