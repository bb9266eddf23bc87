"""Colour differences: CIE 1976 (ISO/CIE 11664-4) and CIEDE2000 (ISO/CIE 11664-6)."""

from __future__ import annotations

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.fields import Part
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


class Differences(Part):
    """Colour differences in few figures; samples : how many there were, None where it was not kept."""

    mean: float
    p95: float
    p99: float
    max: float
    samples: int | None = None


def in_figures(errors: Floats) -> Differences:
    """(n,) differences, n > 0, to their mean, 95th and 99th percentile and maximum."""
    return Differences(
        mean=round(float(errors.mean()), 4),
        p95=round(float(np.percentile(errors, 95)), 4),
        p99=round(float(np.percentile(errors, 99)), 4),
        max=round(float(errors.max()), 4),
        samples=int(errors.size),
    )
