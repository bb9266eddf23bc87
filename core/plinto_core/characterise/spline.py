"""Smoothed polyharmonic spline through scattered points (Duchon 1977; Wahba 1990, 2.4).

What scipy's RBFInterpolator computes, to rounding (tested). Written out here because a build asks it
for 83,521 nodes and fits it sixteen times over the same points: the matrix of distances is made once,
and the sum runs on all cores.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from itertools import combinations_with_replacement

import numpy as np
from scipy.linalg.lapack import dgesv

from plinto_core.arrays import Floats
from plinto_core.kernels.radial import radial_matrix, radial_sum


@dataclass(frozen=True)
class Spline:
    """places : (n, d); weights : (n, 3) of the distances; polynomial : (terms, 3) over the points moved by
    `shift` and divided by `scale`."""

    places: Floats
    weights: Floats
    polynomial: Floats
    shift: Floats
    scale: Floats
    quintic: bool

    def __call__(self, at: Floats) -> Floats:
        """(m, d) points to (m, 3) values."""
        at = np.ascontiguousarray(at, dtype=np.float64)
        out = np.empty((len(at), 3))
        radial_sum(at, *self._across, self.quintic, out)
        return out + _terms((at - self.shift) / self.scale, _degree(self.quintic)) @ self.polynomial

    @cached_property
    def _across(self) -> tuple[Floats, Floats]:
        """Places and weights with the points along rows, as the sum reads them."""
        return np.ascontiguousarray(self.places.T), np.ascontiguousarray(self.weights.T)


@dataclass(frozen=True)
class SplinePoints:
    """Points to be fitted again and again: places (n, d), values (n, 3), and the kernel's power."""

    places: Floats
    values: Floats
    quintic: bool

    @cached_property
    def _matrix(self) -> Floats:
        return np.asarray(radial_matrix(np.ascontiguousarray(self.places), self.quintic))

    def fit(self, smoothing: float, kept: np.ndarray | None = None) -> Spline:
        """Through the points `kept` (all where None); raises LinAlgError where they determine none.

        Kernel matrix K, smoothing on its diagonal, bordered by the polynomial P:
        [[K + s I, P], [P', 0]] [w, b] = [values, 0].
        """
        chosen = np.arange(len(self.places)) if kept is None else kept
        places, values = self.places[chosen], self.values[chosen]
        low, high = places.min(axis=0), places.max(axis=0)
        shift, scale = (low + high) / 2, np.where(high > low, (high - low) / 2, 1.0)
        terms = _terms((places - shift) / scale, _degree(self.quintic))
        n, more = terms.shape
        if more > n:
            raise np.linalg.LinAlgError("fewer points than terms of the polynomial")
        system = np.zeros((n + more, n + more))
        system[:n, :n] = self._matrix[np.ix_(chosen, chosen)]
        system[np.arange(n), np.arange(n)] += smoothing
        system[:n, n:], system[n:, :n] = terms, terms.T
        right = np.zeros((n + more, 3))
        right[:n] = values
        # LAPACK as it is: what solve() asks besides takes as long again. The matrix is symmetric, so
        # that its transpose spares a copy.
        _, _, found, failed = dgesv(system.T, right, overwrite_a=True)
        if failed:
            raise np.linalg.LinAlgError("the points determine no spline")
        return Spline(places, found[:n], found[n:], shift, scale, self.quintic)


def _degree(quintic: bool) -> int:
    return 3 if quintic else 2


def _terms(places: Floats, degree: int) -> Floats:
    """(n, terms) every product of up to `degree` coordinates."""
    d = places.shape[1]
    rows = [np.ones(len(places))]
    for order in range(1, degree + 1):
        for chosen in combinations_with_replacement(range(d), order):
            rows.append(places[:, chosen].prod(axis=1))
    return np.stack(rows, axis=1)
