"""Tone curves through a few points: monotone cubic, so that no point is overshot."""

from __future__ import annotations

from itertools import pairwise
from typing import Annotated

import numpy as np
from pydantic import AfterValidator
from scipy.interpolate import PchipInterpolator

from plinto_core.arrays import Floats
from plinto_core.words import say

MOST_POINTS = 16


def _checked(points: tuple[tuple[float, float], ...]) -> tuple[tuple[float, float], ...]:
    if not 2 <= len(points) <= MOST_POINTS:
        raise ValueError(say("transform.curve-count", most=MOST_POINTS))
    if any(not (0 <= x <= 100 and 0 <= y <= 100) for x, y in points):
        raise ValueError(say("transform.curve-range"))
    if any(b[0] - a[0] < 0.25 for a, b in pairwise(points)):
        raise ValueError(say("transform.curve-order"))
    return points


Points = Annotated[tuple[tuple[float, float], ...], AfterValidator(_checked)]
"""(input, output) pairs, 0..100, by rising input."""


def apply_curve(points: Points, values: Floats) -> Floats:
    """Values 0..1 through a curve; level before its first and after its last point.

    Piecewise monotone cubic Hermite interpolation (Fritsch and Carlson 1980).
    """
    x, y = np.array(points, dtype=np.float64).T / 100.0
    inside = np.clip(values, x[0], x[-1])
    return np.asarray(np.clip(PchipInterpolator(x, y)(inside), 0.0, 1.0))
