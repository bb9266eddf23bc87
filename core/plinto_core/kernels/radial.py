"""Sums of powers of distances, the body of a polyharmonic spline."""

from __future__ import annotations

import numpy as np
from numba import njit, prange

from plinto_core.arrays import Floats


@njit(cache=True, inline="always")
def _power(square, quintic):  # type: ignore[no-untyped-def]
    """-r**5 or r**3 of a squared distance: both make the spline's matrix definite on one side."""
    r = np.sqrt(square)
    return -square * square * r if quintic else square * r


@njit(cache=True, parallel=True)
def radial_matrix(places: Floats, quintic: bool) -> Floats:
    """(n, n) power of the distance of every two of (n, d) places."""
    n, d = places.shape
    out = np.empty((n, n))
    for i in prange(n):
        for j in range(n):
            square = 0.0
            for k in range(d):
                away = places[i, k] - places[j, k]
                square += away * away
            out[i, j] = _power(square, quintic)
    return out


@njit(cache=True, parallel=True, fastmath=True)
def radial_sum(at: Floats, places: Floats, weights: Floats, quintic: bool, out: Floats) -> None:
    """Fill out (m, 3): for (m, d) points the sum over (d, n) places of their (3, n) weights times the
    power of the distance. Sums may run in any order: what that changes is far below rounding."""
    d, n = places.shape
    for i in prange(at.shape[0]):
        first, second, third = 0.0, 0.0, 0.0
        for j in range(n):
            square = 0.0
            for k in range(d):
                away = at[i, k] - places[k, j]
                square += away * away
            value = _power(square, quintic)
            first += value * weights[0, j]
            second += value * weights[1, j]
            third += value * weights[2, j]
        out[i, 0], out[i, 1], out[i, 2] = first, second, third
