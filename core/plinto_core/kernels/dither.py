"""From 16 to 8 bits without steps: numbers between two levels become a fine, even pattern of both.

What a pixel's channels add up to is rounded, not each channel alone: the total of a pixel is never more
than one level from its own, so that the least of the pattern is seen, and each channel is one of the two
levels about its number. A number that is a level stays (no ink stays no ink, a solid stays a solid).
The pattern follows from the place alone: the threshold of pixel (x, y) is the fraction of
x / g + y / g², g = 1.3247… the root of g³ = g + 1, whose values fill the plane evenly
(Roberts, The unreasonable effectiveness of quasirandom sequences, 2018).
"""

from __future__ import annotations

import numpy as np
from numba import njit, prange

from plinto_core.arrays import Pixels

STEP = 257
"""16-bit numbers of one 8-bit level: 65535 / 255."""


@njit(cache=True, parallel=True)
def dithered(
    wide: Pixels, first_row: int, first_column: int, limits: np.ndarray, total: int
) -> Pixels:
    """(rows, columns, channels) of 16 bits to the same of 8 bits.

    first_row, first_column : where in the picture; limits : (channels,) levels that no channel exceeds
    by rounding; total : levels that no pixel's sum exceeds by rounding.
    """
    rows, columns, channels = wide.shape
    out = np.empty(wide.shape, np.uint8)
    for row in prange(rows):
        for column in range(columns):
            place = (first_column + column) * 0.7548776662466927
            place += (first_row + row) * 0.5698402909980532
            threshold = np.int64((place - np.floor(place)) * STEP)
            before = np.int64(0)
            gathered = threshold
            for k in range(channels):
                value = np.int64(wide[row, column, k])
                gathered += value
                level = gathered // STEP - (threshold + before) // STEP
                before += value
                # A limit is a fraction of a level: what it allows may not be rounded above it.
                if level > limits[k] and level * STEP > value:
                    level -= 1
                out[row, column, k] = level
            over = np.int64(-total)
            for k in range(channels):
                over += out[row, column, k]
            for k in range(channels):
                if over > 0 and out[row, column, k] * STEP > wide[row, column, k]:
                    out[row, column, k] -= 1
                    over -= 1
    return out
