"""How a table of inks misses the colours it is meant for, and which of its nodes have to give."""

from __future__ import annotations

import numpy as np
from numba import njit, prange

from plinto_core.arrays import Floats
from plinto_core.kernels.separate import _look_up, _solve

_FAR = 0.1
"""Change of an ink above which a sample counts for less: there the inks jump, and no table follows."""


@njit(cache=True, inline="always")
def _corners(at, size, tetrahedral, index, share):  # type: ignore[no-untyped-def]
    """Nodes (8) and their shares in the value at (3,) of a cube; those with no share have 0."""
    base = 0
    part = np.empty(3)
    stride = np.array([size * size, size, 1])
    for k in range(3):
        v = min(max(at[k], 0.0), 1.0) * (size - 1)
        c = min(int(v), size - 2)
        part[k] = v - c
        base += c * stride[k]
    if not tetrahedral:
        for corner in range(8):
            w, node = 1.0, base
            for k in range(3):
                if corner >> k & 1:
                    w *= part[k]
                    node += stride[k]
                else:
                    w *= 1.0 - part[k]
            index[corner], share[corner] = node, w
        return
    for corner in range(8):
        index[corner], share[corner] = base, 0.0
    before, node = 1.0, base
    left = 7
    for place in range(3):
        largest = -1
        for k in range(3):
            if left >> k & 1 and (largest < 0 or part[k] > part[largest]):
                largest = k
        left -= 1 << largest
        index[place], share[place] = node, before - part[largest]
        before = part[largest]
        node += stride[largest]
    index[3], share[3] = node, before


@njit(cache=True, inline="always")
def _towards(press, size, x, wanted, aim, clean, pull, damping, change):  # type: ignore[no-untyped-def]
    """The change (n) of inks x that prints the aim and draws them to the wanted ones.

    Inks that are wanted at none, where `clean` is set, take no part in meeting the colour: they go.
    """
    n = x.size
    lab = np.empty(3)
    jac = np.empty((3, n))
    _look_up(press, size, n, x, lab, jac)
    system = np.zeros((3, 3))
    right = np.empty((3, 2))
    for a in range(3):
        for k in range(n):
            if wanted[k] > 0.0 or not clean:
                for b in range(3):
                    system[a, b] += jac[a, k] * jac[b, k]
        system[a, a] += damping
        right[a, 0] = aim[a] - lab[a]
        right[a, 1] = 0.0
    _solve(system, right, 3)
    most = 0.0
    for k in range(n):
        change[k] = wanted[k] - x[k]
        if wanted[k] > 0.0 or not clean:
            change[k] *= pull
            for a in range(3):
                change[k] += jac[a, k] * right[a, 0]
        most = max(most, abs(change[k]))
    if most > _FAR:
        for k in range(n):
            change[k] *= _FAR / most


@njit(cache=True, parallel=True)
def changes(
    table: Floats, size: int, tetrahedral: bool, at: Floats, press: Floats, press_size: int,
    aims: Floats, wanted: Floats, clean: np.ndarray, limits: Floats, pull: float, damping: float,
    out: Floats,
) -> None:  # fmt: skip
    """Fill out (m, n): by how much the inks that a table gives at m places should change.

    table : (nodes, n) values, clipped to 0..limits after interpolation; at : (m, 3) places 0..1 in the
    cube; press : flat forward grid; aims : (m, 3) Lab; wanted : (m, n) inks that the aims are separated
    into; clean : (m,) whether inks wanted at none have to go; pull : towards the wanted inks beside the
    colour; damping : of the step, in Lab squared.
    """
    n = limits.size
    for i in prange(at.shape[0]):
        index = np.empty(8, np.int64)
        share = np.empty(8)
        _corners(at[i], size, tetrahedral, index, share)
        x = np.zeros(n)
        for corner in range(8):
            for k in range(n):
                x[k] += share[corner] * table[index[corner], k]
        for k in range(n):
            x[k] = min(max(x[k], 0.0), limits[k])
        _towards(press, press_size, x, wanted[i], aims[i], clean[i], pull, damping, out[i])


@njit(cache=True)
def scatter(
    size: int, tetrahedral: bool, at: Floats, values: Floats, weight: Floats, total: Floats,
    shares: Floats,
) -> None:  # fmt: skip
    """Add (m, n) values at (m, 3) places to their nodes: total (nodes, n), shares (nodes,)."""
    index = np.empty(8, np.int64)
    share = np.empty(8)
    for i in range(at.shape[0]):
        _corners(at[i], size, tetrahedral, index, share)
        for corner in range(8):
            part = share[corner] * weight[i]
            if part > 0.0:
                shares[index[corner]] += part
                for k in range(values.shape[1]):
                    total[index[corner], k] += part * values[i, k]
