"""Colour differences: CIE 1976 (ISO/CIE 11664-4) and CIEDE2000 (ISO/CIE 11664-6)."""

from __future__ import annotations

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.kernels.difference import ciede2000


def delta_e_76(lab1: Floats, lab2: Floats) -> Floats:
    """Euclidean distance of (..., 3) Lab pairs."""
    diff = np.asarray(lab1, float) - np.asarray(lab2, float)
    return np.asarray(np.sqrt((diff**2).sum(-1)))


def delta_e_2000(lab1: Floats, lab2: Floats) -> Floats:
    """CIEDE2000 of (..., 3) Lab pairs, kL = kC = kH = 1; shapes broadcast."""
    one, two = np.broadcast_arrays(np.asarray(lab1, float), np.asarray(lab2, float))
    flat1 = np.ascontiguousarray(one.reshape(-1, 3))
    flat2 = np.ascontiguousarray(two.reshape(-1, 3))
    return np.asarray(ciede2000(flat1, flat2).reshape(one.shape[:-1]))
