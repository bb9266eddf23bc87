"""How evenly inks run along the greys: noise between inks that print one colour is no colour error,
and still is seen on the press as soon as one ink drifts."""

from __future__ import annotations

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.fields import Part

RAMP = 512
"""Steps from white to black."""


class Evenness(Part):
    """Along 512 greys from white to black, in percent of tone value. black_back : all steps together
    in which black falls though the grey gets darker; black_step, step : the largest step of black and
    of any ink; bend : the largest change from one step to the next."""

    black_back: float
    black_step: float
    step: float
    bend: float


def evenness(inks: Floats, black_ink: int | None = 3) -> Evenness:
    """Of (n, inks) tone values 0..1 along a ramp from light to dark, n > 2; black_ink : its place, None
    where there is none."""
    steps = np.diff(inks, axis=0) * 100
    black = np.zeros(len(steps)) if black_ink is None else steps[:, black_ink]
    return Evenness(
        black_back=round(float(-black[black < 0].sum()), 2),
        black_step=round(float(np.abs(black).max()), 2),
        step=round(float(np.abs(steps).max()), 2),
        bend=round(float(np.abs(np.diff(steps, axis=0)).max()), 2),
    )
