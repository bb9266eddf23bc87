"""The last step on separated pixels: a table per plate, then the total held below its limit."""

from __future__ import annotations

import numpy as np
from numba import njit, prange

from plinto_core.arrays import Pixels


@njit(cache=True, parallel=True)
def finish_plates(pixels: Pixels, table: Pixels, least: np.ndarray, top: int) -> None:
    """pixels : (n, inks), changed in place; table : (inks, values); least : smallest dots."""
    inks = pixels.shape[1]
    for i in prange(pixels.shape[0]):
        total = np.int64(0)
        for k in range(inks):
            pixels[i, k] = table[k, pixels[i, k]]
            total += pixels[i, k]
        while total > top:
            best = -1
            for k in range(inks):
                if pixels[i, k] > least[k] and (best < 0 or pixels[i, k] > pixels[i, best]):
                    best = k
            if best < 0:
                break
            cut = min(total - top, np.int64(pixels[i, best]) - least[best])
            pixels[i, best] -= cut
            total -= cut
