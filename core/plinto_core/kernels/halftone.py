"""Halftoning: compare tone values with a rotated spot function or a stochastic mask."""

from __future__ import annotations

import math

import numpy as np
from numba import njit, prange

from plinto_core.arrays import Floats, Floats32

ROUND, ELLIPSE, SQUARE, LINE = 0, 1, 2, 3
_R1, _R2 = 0.7548776662466927, 0.5698402909980532
"""Steps of a two-dimensional low-discrepancy sequence (the plastic number's first two powers)."""


@njit(cache=True, inline="always")
def _spot(shape: int, u: float, v: float) -> float:
    """A spot function of the cell position, -1..1; dots grow from its top."""
    cu = math.cos(2.0 * math.pi * u)
    cv = math.cos(2.0 * math.pi * v)
    if shape == 1:
        return (cu + 0.65 * cv) / 1.65
    if shape == 2:
        fu = abs(u - math.floor(u) - 0.5)
        fv = abs(v - math.floor(v) - 0.5)
        return 4.0 * min(fu, fv) - 1.0
    if shape == 3:
        return cv
    return 0.5 * (cu + cv)


@njit(cache=True)
def spot_samples(shape: int, side: int) -> Floats:
    """(side * side,) spot values over one cell."""
    out = np.empty(side * side)
    for i in range(side):
        for j in range(side):
            out[i * side + j] = _spot(shape, (i + 0.5) / side, (j + 0.5) / side)
    return out


@njit(cache=True, parallel=True)
def screen_am(
    tone: Floats32, top: int, left: int, pitch: float, angle: float, cell: Floats32
) -> np.ndarray:
    """(rows, columns) tone 0..1 to uint8 0/1. pitch : pixels a line; angle : radians.

    cell : (side, side) thresholds 0..1 over one screen cell, side a power of two. Every cell is
    moved by up to half a film pixel, evenly spread over the film: where cells repeat on whole
    pixels, only a few thresholds would be met and tones would come in steps.
    """
    rows, columns = tone.shape
    out = np.empty((rows, columns), np.uint8)
    side = cell.shape[0]
    mask = side - 1
    c, s = math.cos(angle) / pitch, math.sin(angle) / pitch
    shift = 1.0 / pitch
    for row in prange(rows):
        y = top + row + 0.5
        for column in range(columns):
            x = left + column + 0.5
            u = x * c + y * s
            v = y * c - x * s
            i = math.floor(u + 0.5)
            j = math.floor(v + 0.5)
            a = i * _R1 + j * _R2
            b = i * _R2 + j * _R1 + 0.5
            u += (a - math.floor(a) - 0.5) * shift
            v += (b - math.floor(b) - 0.5) * shift
            p = math.floor(u * side) & mask
            q = math.floor(v * side) & mask
            out[row, column] = 1 if tone[row, column] > cell[p, q] else 0
    return out


@njit(cache=True, parallel=True)
def screen_fm(tone: Floats32, top: int, left: int, mask: Floats32, dot: int) -> np.ndarray:
    """(rows, columns) tone 0..1 against a tiled mask of thresholds, `dot` pixels a spot."""
    rows, columns = tone.shape
    out = np.empty((rows, columns), np.uint8)
    high, wide = mask.shape
    for row in prange(rows):
        y = (top + row) // dot % high
        for column in range(columns):
            x = (left + column) // dot % wide
            out[row, column] = 1 if tone[row, column] > mask[y, x] else 0
    return out


@njit(cache=True)
def void_and_cluster(side: int, kernel: Floats, seed: int) -> np.ndarray:
    """(side, side) ranks 0..side²-1 of a stochastic mask (Ulichney 1993).

    kernel : (side, side) Gaussian on the torus, its centre at [0, 0].
    """
    np.random.seed(seed)
    total = side * side
    on = np.zeros((side, side), np.uint8)
    energy = np.zeros((side, side))
    rank = np.zeros((side, side), np.int64)
    first = total // 10
    placed = 0
    while placed < first:
        y, x = np.random.randint(0, side), np.random.randint(0, side)
        if on[y, x] == 0:
            on[y, x] = 1
            _add(energy, kernel, y, x, 1.0)
            placed += 1
    for _ in range(4 * total):
        y, x = _extreme(energy, on, 1)
        on[y, x] = 0
        _add(energy, kernel, y, x, -1.0)
        vy, vx = _extreme(energy, on, 0)
        on[vy, vx] = 1
        _add(energy, kernel, vy, vx, 1.0)
        if vy == y and vx == x:
            break
    start = on.copy()
    kept = energy.copy()
    for number in range(first - 1, -1, -1):
        y, x = _extreme(energy, on, 1)
        on[y, x] = 0
        _add(energy, kernel, y, x, -1.0)
        rank[y, x] = number
    on, energy = start, kept
    for number in range(first, total):
        y, x = _extreme(energy, on, 0)
        on[y, x] = 1
        _add(energy, kernel, y, x, 1.0)
        rank[y, x] = number
    return rank


@njit(cache=True)
def _add(energy: Floats, kernel: Floats, y: int, x: int, sign: float) -> None:
    side = energy.shape[0]
    for i in range(side):
        ky = i - y if i >= y else i - y + side
        for j in range(side):
            kx = j - x if j >= x else j - x + side
            energy[i, j] += sign * kernel[ky, kx]


@njit(cache=True)
def _extreme(energy: Floats, on: np.ndarray, state: int) -> tuple[int, int]:
    """The tightest dot (state 1) or the largest void (state 0)."""
    best = -1e30
    found = (0, 0)
    for i in range(energy.shape[0]):
        for j in range(energy.shape[1]):
            if on[i, j] == state:
                value = energy[i, j] if state == 1 else -energy[i, j]
                if value > best:
                    best = value
                    found = (i, j)
    return found
