"""CIEDE2000 over arrays (ISO/CIE 11664-6)."""

from __future__ import annotations

import math

import numpy as np
from numba import njit, prange

from plinto_core.arrays import Floats


@njit(cache=True, inline="always")
def _pair(L1: float, a1: float, b1: float, L2: float, a2: float, b2: float) -> float:
    c_mean = 0.5 * (math.sqrt(a1 * a1 + b1 * b1) + math.sqrt(a2 * a2 + b2 * b2))
    c7 = c_mean**7
    g = 0.5 * (1.0 - math.sqrt(c7 / (c7 + 6103515625.0)))
    a1p, a2p = (1.0 + g) * a1, (1.0 + g) * a2
    c1, c2 = math.sqrt(a1p * a1p + b1 * b1), math.sqrt(a2p * a2p + b2 * b2)
    h1 = math.atan2(b1, a1p) if c1 > 0.0 else 0.0
    h2 = math.atan2(b2, a2p) if c2 > 0.0 else 0.0
    if h1 < 0.0:
        h1 += 2.0 * math.pi
    if h2 < 0.0:
        h2 += 2.0 * math.pi
    dh = 0.0
    mean_h = h1 + h2
    if c1 * c2 > 0.0:
        dh = h2 - h1
        if dh > math.pi:
            dh -= 2.0 * math.pi
        elif dh < -math.pi:
            dh += 2.0 * math.pi
        if abs(h1 - h2) <= math.pi:
            mean_h = 0.5 * (h1 + h2)
        elif h1 + h2 < 2.0 * math.pi:
            mean_h = 0.5 * (h1 + h2 + 2.0 * math.pi)
        else:
            mean_h = 0.5 * (h1 + h2 - 2.0 * math.pi)
    dL = L2 - L1
    dC = c2 - c1
    dH = 2.0 * math.sqrt(c1 * c2) * math.sin(0.5 * dh)
    mean_l = 0.5 * (L1 + L2)
    mean_c = 0.5 * (c1 + c2)
    t = (
        1.0
        - 0.17 * math.cos(mean_h - math.pi / 6.0)
        + 0.24 * math.cos(2.0 * mean_h)
        + 0.32 * math.cos(3.0 * mean_h + math.pi / 30.0)
        - 0.20 * math.cos(4.0 * mean_h - 63.0 * math.pi / 180.0)
    )
    turn = (math.degrees(mean_h) - 275.0) / 25.0
    theta = math.radians(30.0) * math.exp(-turn * turn)
    m7 = mean_c**7
    rc = 2.0 * math.sqrt(m7 / (m7 + 6103515625.0))
    l50 = (mean_l - 50.0) ** 2
    sl = 1.0 + 0.015 * l50 / math.sqrt(20.0 + l50)
    sc = 1.0 + 0.045 * mean_c
    sh = 1.0 + 0.015 * mean_c * t
    x, y, z = dL / sl, dC / sc, dH / sh
    return math.sqrt(max(0.0, x * x + y * y + z * z - math.sin(2.0 * theta) * rc * y * z))


@njit(cache=True, parallel=True)
def ciede2000(lab1: Floats, lab2: Floats) -> Floats:
    """(n, 3) and (n, 3) to (n,)."""
    n = lab1.shape[0]
    out = np.empty(n)
    for i in prange(n):
        out[i] = _pair(lab1[i, 0], lab1[i, 1], lab1[i, 2], lab2[i, 0], lab2[i, 1], lab2[i, 2])
    return out
