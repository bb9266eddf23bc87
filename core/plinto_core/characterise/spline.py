"""Smoothed polyharmonic spline through scattered points (Duchon 1977; Wahba 1990, 2.4).

What scipy's RBFInterpolator computes, to rounding (tested). Written out here because a build asks it
for 83,521 nodes and leaves parts of the same points out fifteen times: the matrix of distances is made
once, what parts miss follows from the fit of all, and the sum runs on all cores.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from itertools import combinations_with_replacement

import numpy as np
from scipy.linalg.blas import dsymm
from scipy.linalg.lapack import dgesv, dposv, dpotrf, dpotri

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


_POLYNOMIAL = 1.0
"""What polynomials have in the definite matrix (left_out): it is taken out again."""


@dataclass(frozen=True)
class SplinePoints:
    """Points to be fitted again and again: places (n, d), values (n, 3), and the kernel's power."""

    places: Floats
    values: Floats
    quintic: bool

    @cached_property
    def _matrix(self) -> Floats:
        return np.asarray(radial_matrix(np.ascontiguousarray(self.places), self.quintic))

    def fit(self, smoothing: float) -> Spline:
        """Through all points; raises LinAlgError where they determine none.

        Kernel matrix K, smoothing on its diagonal, bordered by the polynomial P:
        [[K + s I, P], [P', 0]] [w, b] = [values, 0].
        """
        terms, shift, scale = self._polynomial
        n, more = terms.shape
        if more > n:
            raise np.linalg.LinAlgError("fewer points than terms of the polynomial")
        system = np.zeros((n + more, n + more))
        system[:n, :n] = self._matrix
        system[np.arange(n), np.arange(n)] += smoothing
        system[:n, n:], system[n:, :n] = terms, terms.T
        right = np.zeros((n + more, 3))
        right[:n] = self.values
        # LAPACK as it is: what solve() asks besides takes as long again. The matrix is symmetric, so
        # that its transpose spares a copy.
        _, _, found, failed = dgesv(system.T, right, overwrite_a=True)
        if failed:
            raise np.linalg.LinAlgError("the points determine no spline")
        return Spline(self.places, found[:n], found[n:], shift, scale, self.quintic)

    def left_out(self, smoothing: float, part: np.ndarray) -> Floats:
        """(n, 3) by how much points differ from a fit of all others but those of their own part.

        part : (n,) number of the part that a point is left out with. Equal to one fit for each part
        (tested): with G the upper left of the inverse of the fit of all, what part I misses is
        inverse(G[I, I]) @ (G @ values)[I] (Rippa 1999 for single points).
        """
        lower, own = self._inverse(smoothing)
        n, more = own.shape
        if n - np.bincount(part).max() < more:
            raise np.linalg.LinAlgError("fewer points than terms of the polynomial")
        weights = dsymm(1.0, lower, self.values, lower=True) - own @ (own.T @ self.values)
        missed = np.empty((n, 3))
        for one in np.unique(part):
            at = np.flatnonzero(part == one)
            block = lower[np.ix_(at, at)] - own[at] @ own[at].T
            _, missed[at], failed = dposv(block, weights[at], lower=True)
            if failed:
                raise np.linalg.LinAlgError("the points determine no spline")
        return missed

    def precision(self, smoothing: float) -> Floats:
        """(n, n) G, the upper left of the inverse of the fit of all (left_out), whole."""
        lower, own = self._inverse(smoothing)
        n, more = own.shape
        if n <= more:
            raise np.linalg.LinAlgError("fewer points than terms of the polynomial")
        return np.asarray(np.tril(lower) + np.tril(lower, -1).T - own @ own.T)

    def _inverse(self, smoothing: float) -> tuple[Floats, Floats]:
        """(n, n) inverse of the definite matrix, lower half, and (n, terms) what polynomials have in it."""
        across, core = self._definite
        system = core.copy(order="F")
        system[np.diag_indices(len(core))] += smoothing
        lower, failed = dpotrf(system, lower=True, overwrite_a=True)
        if not failed:
            lower, failed = dpotri(lower, lower=True, overwrite_c=True)
        if failed:
            raise np.linalg.LinAlgError("the points determine no spline")
        return lower, across / np.sqrt(smoothing + _POLYNOMIAL)

    @cached_property
    def _polynomial(self) -> tuple[Floats, Floats, Floats]:
        """(n, terms) of the points, after they were moved by (d,) the second and divided by (d,) the
        third."""
        low, high = self.places.min(axis=0), self.places.max(axis=0)
        shift, scale = (low + high) / 2, np.where(high > low, (high - low) / 2, 1.0)
        return _terms((self.places - shift) / scale, _degree(self.quintic)), shift, scale

    @cached_property
    def _definite(self) -> tuple[Floats, Floats]:
        """(n, terms) orthonormal polynomials Q; (n, n) the kernel matrix without them, Q Q' instead.

        Over the weights that polynomials leave the matrix is definite, so that its inverse costs half
        of what solving the bordered one does.
        """
        across = np.linalg.qr(self._polynomial[0])[0]
        drawn = self._matrix @ across
        drawn -= across @ ((across.T @ drawn) / 2 + _POLYNOMIAL / 2 * np.eye(across.shape[1]))
        return across, self._matrix - drawn @ across.T - across @ drawn.T


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
