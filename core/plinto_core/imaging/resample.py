"""Resample a stream of bands to another size: Lanczos with three lobes, separable, bounded memory."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from plinto_core.arrays import Floats32, Pixels
from plinto_core.kernels.resample import blend_columns, blend_rows

LOBES = 3
_ROWS = 64


def lanczos_weights(old: int, new: int) -> tuple[np.ndarray, Floats32]:
    """First source index and (new, taps) weights of each result sample; every row sums to 1."""
    scale = max(1.0, old / new)
    taps = min(old, int(np.ceil(2 * LOBES * scale)) + 1)
    centres = (np.arange(new) + 0.5) * old / new - 0.5
    first = np.clip(np.ceil(centres - LOBES * scale).astype(np.int64), 0, old - taps)
    at = (first[:, None] + np.arange(taps) - centres[:, None]) / scale
    weights = np.where(np.abs(at) < LOBES, np.sinc(at) * np.sinc(at / LOBES), 0.0)
    weights /= weights.sum(axis=1, keepdims=True)
    return first, np.asarray(weights, dtype=np.float32)


def resampled(
    bands: Iterator[Pixels], size: tuple[int, int], wanted: tuple[int, int]
) -> Iterator[Pixels]:
    """Bands of a (height, width) picture to bands of the wanted (height, width), same depth."""
    columns, across = lanczos_weights(size[1], wanted[1])
    rows, down = lanczos_weights(size[0], wanted[0])
    taps = down.shape[1]
    held: Floats32 | None = None
    start = done = 0
    for band in bands:
        top = float(np.iinfo(band.dtype).max)
        wide = blend_columns(np.ascontiguousarray(band), columns, across)
        held = wide if held is None else np.concatenate([held, wide])
        have = start + held.shape[0]
        ready = int(np.searchsorted(rows + taps, have, side="right"))
        while done < ready:
            stop = min(ready, done + _ROWS)
            block = blend_rows(held, rows[done:stop] - start, down[done:stop])
            yield np.asarray(np.clip(block + 0.5, 0, top), dtype=band.dtype)
            done = stop
        if done < wanted[0]:
            drop = max(0, int(rows[done]) - start)
            held, start = held[drop:], start + drop
