"""Weighted sums along one axis, for separable filters."""

from __future__ import annotations

import numpy as np
from numba import njit, prange

from plinto_core.arrays import Floats32, Pixels


@njit(cache=True, parallel=True)
def blend_columns(pixels: Pixels, first: np.ndarray, weights: Floats32) -> Floats32:
    """(rows, old, channels) to (rows, new, channels) float32."""
    rows, _, channels = pixels.shape
    new, taps = weights.shape
    out = np.zeros((rows, new, channels), np.float32)
    for row in prange(rows):
        for column in range(new):
            at = first[column]
            for t in range(taps):
                w = weights[column, t]
                for c in range(channels):
                    out[row, column, c] += w * pixels[row, at + t, c]
    return out


@njit(cache=True, parallel=True)
def blend_rows(pixels: Floats32, first: np.ndarray, weights: Floats32) -> Floats32:
    """(old, columns, channels) to (new, columns, channels) float32."""
    _, columns, channels = pixels.shape
    new, taps = weights.shape
    out = np.zeros((new, columns, channels), np.float32)
    for row in prange(new):
        for t in range(taps):
            w = weights[row, t]
            source = first[row] + t
            for column in range(columns):
                for c in range(channels):
                    out[row, column, c] += w * pixels[source, column, c]
    return out
