"""Room on the disk: asked for before much is written, and told in a sentence where there is none."""

from __future__ import annotations

import errno
import shutil
from collections.abc import Iterable
from pathlib import Path
from typing import BinaryIO

import numpy as np

from plinto_core.arrays import Pixels
from plinto_core.errors import CoreError, NoRoom, NotWritable
from plinto_core.words import say

KEPT_FREE = 4 << 20
"""Bytes that stay free for what is small: rows, reports, the log."""
_FULL = {errno.ENOSPC, errno.EDQUOT, errno.EFBIG}
_CLOSED = {errno.EROFS, errno.EACCES, errno.EPERM}


def ask_room(folder: Path, needed: int) -> None:
    """Raise NoRoom where `needed` bytes do not fit beside what must stay free."""
    free = max(0, shutil.disk_usage(folder).free - KEPT_FREE)
    if needed > free:
        raise NoRoom(say("errors.no-room", needed=needed / 1e6, free=free / 1e6))


def of_the_disk(error: OSError) -> CoreError | None:
    """What a failed write says of the disk, None where it says something else."""
    if error.errno in _FULL:
        return NoRoom(say("errors.disk-full"))
    if error.errno in _CLOSED:
        return NotWritable(say("errors.not-writable", why=error.strerror or ""))
    return None


def write_bands(file: BinaryIO, bands: Iterable[Pixels], dtype: np.typing.DTypeLike) -> None:
    """Bands of rows, one after the other. A mapped file would end the process where the disk is full."""
    for band in bands:
        file.write(np.ascontiguousarray(band, dtype).data.cast("B"))
    file.flush()


def write_npy(path: Path, bands: Iterable[Pixels], shape: tuple[int, ...], dtype: str) -> Pixels:
    """A NumPy file of the bands, together of `shape`, and its pixels mapped for reading."""
    kind = np.dtype(dtype)
    with path.open("wb") as file:
        header = {
            "descr": np.lib.format.dtype_to_descr(kind),
            "fortran_order": False,
            "shape": shape,
        }
        np.lib.format.write_array_header_1_0(file, header)
        write_bands(file, bands, kind)
    mapped: Pixels = np.load(path, mmap_mode="r")
    return mapped
