"""Soft polygons: weight by the signed distance to the nearest edge, all cores."""

from __future__ import annotations

import math

import numpy as np
from numba import njit, prange

from plinto_core.arrays import Floats, Floats32


@njit(cache=True, parallel=True)
def polygon_weight(
    corners: Floats,
    soft: float,
    left: float,
    top: float,
    step_x: float,
    step_y: float,
    columns: int,
    rows: int,
) -> Floats32:
    """corners : (n, 2) in pixels; the weight rises from 0 to 1 over `soft` pixels about the edge.

    Inside is decided by the even-odd rule; smoothstep between.
    """
    out = np.empty((rows, columns), np.float32)
    n = corners.shape[0]
    for row in prange(rows):
        y = top + (row + 0.5) * step_y
        for column in range(columns):
            x = left + (column + 0.5) * step_x
            inside = False
            nearest = 1e30
            j = n - 1
            for i in range(n):
                ax, ay = corners[j, 0], corners[j, 1]
                bx, by = corners[i, 0], corners[i, 1]
                if (ay > y) != (by > y) and x < (bx - ax) * (y - ay) / (by - ay) + ax:
                    inside = not inside
                dx, dy = bx - ax, by - ay
                length = dx * dx + dy * dy
                t = 0.0
                if length > 0.0:
                    t = min(1.0, max(0.0, ((x - ax) * dx + (y - ay) * dy) / length))
                ex, ey = x - ax - t * dx, y - ay - t * dy
                nearest = min(nearest, ex * ex + ey * ey)
                j = i
            distance = math.sqrt(nearest)
            if not inside:
                distance = -distance
            share = min(1.0, max(0.0, distance / soft + 0.5))
            out[row, column] = share * share * (3.0 - 2.0 * share)
    return out
