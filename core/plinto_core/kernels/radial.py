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


_PIECE = 256
"""Places whose distances are held at once: they stay in the nearest cache, and each pass over them is a
loop that processors take four or eight numbers at a time."""


@njit(cache=True, fastmath=True)
def _sums(x, places, weights, quintic, square, out):  # type: ignore[no-untyped-def]
    d, n = places.shape
    first, second, third = 0.0, 0.0, 0.0
    for start in range(0, n, _PIECE):
        count = min(_PIECE, n - start)
        for j in range(count):
            square[j] = 0.0
        for k in range(d):
            row = places[k, start : start + count]
            for j in range(count):
                away = x[k] - row[j]
                square[j] += away * away
        for j in range(count):
            square[j] = _power(square[j], quintic)
        one = weights[0, start : start + count]
        two = weights[1, start : start + count]
        three = weights[2, start : start + count]
        for j in range(count):
            first += square[j] * one[j]
            second += square[j] * two[j]
            third += square[j] * three[j]
    out[0], out[1], out[2] = first, second, third


@njit(cache=True, parallel=True)
def radial_sum(at: Floats, places: Floats, weights: Floats, quintic: bool, out: Floats) -> None:
    """Fill out (m, 3): for (m, d) points the sum over (d, n) places of their (3, n) weights times the
    power of the distance. Sums may run in any order: what that changes is far below rounding."""
    for i in prange(at.shape[0]):
        _sums(at[i], places, weights, quintic, np.empty(_PIECE), out[i])
