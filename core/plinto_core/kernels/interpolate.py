"""Float interpolation in an n-dimensional grid, memory-safe for any finite or broken input.

Three inputs: tetrahedral, or trilinear where asked (tables indexed by Lab, whose neutral axis
does not run along the cell diagonals). Four inputs and more: tetrahedral over the last three,
linear over the leading ones. This is what Little CMS does, so figures can be compared.
"""

from __future__ import annotations

import numpy as np
from numba import njit, prange

from plinto_core.arrays import Floats


@njit(cache=True, inline="always")
def _position(value: float, size: int) -> tuple[int, float]:
    if not value > 0.0:
        return 0, 0.0
    if value >= 1.0:
        return size - 2, 1.0
    scaled = value * (size - 1)
    cell = int(scaled)
    if cell > size - 2:
        cell = size - 2
    return cell, scaled - cell


@njit(cache=True, inline="always")
def _tetra(
    table: Floats, base: int, sx: int, sy: int, sz: int, x: float, y: float, z: float, o: int
) -> float:
    c0 = table[base + o]
    c7 = table[base + sx + sy + sz + o]
    if x >= y:
        if y >= z:
            c1, c2 = table[base + sx + o], table[base + sx + sy + o]
            return c0 + x * (c1 - c0) + y * (c2 - c1) + z * (c7 - c2)
        if x >= z:
            c1, c2 = table[base + sx + o], table[base + sx + sz + o]
            return c0 + x * (c1 - c0) + z * (c2 - c1) + y * (c7 - c2)
        c1, c2 = table[base + sz + o], table[base + sx + sz + o]
        return c0 + z * (c1 - c0) + x * (c2 - c1) + y * (c7 - c2)
    if x >= z:
        c1, c2 = table[base + sy + o], table[base + sx + sy + o]
        return c0 + y * (c1 - c0) + x * (c2 - c1) + z * (c7 - c2)
    if y >= z:
        c1, c2 = table[base + sy + o], table[base + sy + sz + o]
        return c0 + y * (c1 - c0) + z * (c2 - c1) + x * (c7 - c2)
    c1, c2 = table[base + sz + o], table[base + sy + sz + o]
    return c0 + z * (c1 - c0) + y * (c2 - c1) + x * (c7 - c2)


@njit(cache=True, parallel=True)
def interpolate(
    table: Floats, grid: np.ndarray, outputs: int, values: Floats, tetrahedral: bool
) -> Floats:
    """table : flat grid, last input fastest, then outputs; values : (n, inputs) -> (n, outputs)."""
    count, inputs = values.shape
    out = np.empty((count, outputs))
    strides = np.empty(inputs, np.int64)
    stride = outputs
    for k in range(inputs - 1, -1, -1):
        strides[k] = stride
        stride *= grid[k]
    linear = inputs - 3 if (tetrahedral and inputs >= 3) else inputs
    corners = 1 << linear
    for i in prange(count):
        cells = np.empty(inputs, np.int64)
        parts = np.empty(inputs, np.float64)
        base = 0
        for k in range(inputs):
            cell, part = _position(values[i, k], grid[k])
            cells[k] = cell
            parts[k] = part
            base += cell * strides[k]
        for o in range(outputs):
            out[i, o] = 0.0
        for corner in range(corners):
            weight = 1.0
            at = base
            for k in range(linear):
                if corner >> k & 1:
                    weight *= parts[k]
                    at += strides[k]
                else:
                    weight *= 1.0 - parts[k]
            if weight == 0.0:
                continue
            for o in range(outputs):
                if linear < inputs:
                    value = _tetra(
                        table, at, strides[linear], strides[linear + 1], strides[linear + 2],
                        parts[linear], parts[linear + 1], parts[linear + 2], o,
                    )  # fmt: skip
                else:
                    value = table[at + o]
                out[i, o] += weight * value
    return out
