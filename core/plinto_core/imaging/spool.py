"""A picture's result kept on disk for what needs all of it at once: turning, films."""

from __future__ import annotations

import math
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import numpy as np

from plinto_core.arrays import Pixels
from plinto_core.disk import ask_room, write_bands

_ROWS = 256


@contextmanager
def spooled(
    bands: Iterator[Pixels], shape: tuple[int, int, int], dtype: type, folder: Path
) -> Iterator[Pixels]:
    """The bands as one mapped (height, width, channels) array in a file that vanishes after.

    Raises NoRoom before anything is written where they do not fit."""
    ask_room(folder, math.prod(shape) * np.dtype(dtype).itemsize)
    with tempfile.TemporaryFile(prefix=".plinto-", dir=folder) as file:
        write_bands(file, bands, dtype)
        yield np.memmap(file, dtype, "r", shape=shape)


def turned_bands(picture: Pixels, degrees: int) -> Iterator[Pixels]:
    """Bands of a (height, width, channels) picture turned clockwise by 0, 90, 180 or 270."""
    turned = np.rot90(picture, k=-(degrees // 90))
    for start in range(0, turned.shape[0], _ROWS):
        yield np.ascontiguousarray(turned[start : start + _ROWS])
