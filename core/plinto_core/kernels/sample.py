"""Resample a region of a picture to a view, bilinear, all cores."""

from __future__ import annotations

import numpy as np
from numba import njit, prange

from plinto_core.arrays import Pixels


@njit(cache=True, parallel=True)
def sample_region(
    pixels: Pixels, left: float, top: float, width: float, height: float, columns: int, rows: int
) -> Pixels:
    """(h, w, c) pixels to (rows, columns, c); the region is in pixels of `pixels`.

    Bilinear between pixel centres when the view is smaller than four times the region's pixels,
    nearest beyond that, so that single pixels can be seen. Edges repeat.
    """
    h, w, channels = pixels.shape
    out = np.empty((rows, columns, channels), pixels.dtype)
    step_x = width / columns
    step_y = height / rows
    nearest = step_x < 0.25
    for row in prange(rows):
        y = top + (row + 0.5) * step_y - 0.5
        y = min(max(y, 0.0), h - 1.0)
        y0 = int(y)
        y1 = min(y0 + 1, h - 1)
        fy = y - y0
        for column in range(columns):
            x = left + (column + 0.5) * step_x - 0.5
            x = min(max(x, 0.0), w - 1.0)
            x0 = int(x)
            x1 = min(x0 + 1, w - 1)
            fx = x - x0
            if nearest:
                yn = y1 if fy >= 0.5 else y0
                xn = x1 if fx >= 0.5 else x0
                for c in range(channels):
                    out[row, column, c] = pixels[yn, xn, c]
            else:
                for c in range(channels):
                    a = pixels[y0, x0, c] * (1.0 - fx) + pixels[y0, x1, c] * fx
                    b = pixels[y1, x0, c] * (1.0 - fx) + pixels[y1, x1, c] * fx
                    out[row, column, c] = int(a * (1.0 - fy) + b * fy + 0.5)
    return out
