"""Find how far a colour's opponent coordinates are scaled for a wanted C*ab, all cores."""

from __future__ import annotations

import math

import numpy as np
from numba import njit, prange

from plinto_core.arrays import Floats

_EPSILON = 216 / 24389
_KAPPA = 24389 / 27


@njit(cache=True, inline="always")
def _f(t: float) -> float:
    return float(np.cbrt(t)) if t > _EPSILON else (_KAPPA * t + 16.0) / 116.0


@njit(cache=True, parallel=True)
def scale_for_chroma(
    opponent: Floats, to_cones: Floats, to_xyz: Floats, cones_of_xyz: Floats, white: Floats,
    luminance: Floats, chroma: Floats, least: float, widest: float, halvings: int, out: Floats,
) -> None:  # fmt: skip
    """Fill out (n, 2), a* and b* at the largest scale that is neither too chromatic nor out of sight.

    opponent : (n, 3) OKLab; to_cones : (3, 3) from it to cube roots of cones; to_xyz, cones_of_xyz :
    (3, 3) between cones and XYZ; white : (3,) XYZ; luminance : (n,) Y to which the light is brought;
    chroma : (n,) C*ab that is wanted; least : share of a grey's stimulus that every cone keeps; widest :
    largest scale.
    """
    grey_cones = np.empty(3)
    for r in range(3):
        grey_cones[r] = (
            cones_of_xyz[r, 0] * white[0]
            + cones_of_xyz[r, 1] * white[1]
            + cones_of_xyz[r, 2] * white[2]
        )
    weakest = min(grey_cones[0], grey_cones[1], grey_cones[2])
    for i in prange(opponent.shape[0]):
        low, high = 0.0, widest
        a_best, b_best = 0.0, 0.0
        xyz = np.empty(3)
        cone = np.empty(3)
        for _ in range(halvings):
            scale = 0.5 * (low + high)
            for r in range(3):
                root = to_cones[r, 0] * opponent[i, 0] + scale * (
                    to_cones[r, 1] * opponent[i, 1] + to_cones[r, 2] * opponent[i, 2]
                )
                cone[r] = root * root * root
            for r in range(3):
                xyz[r] = to_xyz[r, 0] * cone[0] + to_xyz[r, 1] * cone[1] + to_xyz[r, 2] * cone[2]
            good = xyz[1] > 0.0
            if good:
                light = luminance[i] / xyz[1]
                darkest = min(cone[0], cone[1], cone[2]) * light
                good = darkest >= least * weakest * luminance[i]
                fy = _f(luminance[i])
                a = 500.0 * (_f(xyz[0] * light / white[0]) - fy)
                b = 200.0 * (fy - _f(xyz[2] * light / white[2]))
                good = good and math.hypot(a, b) <= chroma[i]
                if good:
                    a_best, b_best = a, b
            if good:
                low = scale
            else:
                high = scale
        out[i, 0], out[i, 1] = a_best, b_best
