"""Working copies: flattened pixels on disk at full and halved sizes, mapped, never loaded whole."""

from __future__ import annotations

import math
from collections.abc import Iterator
from functools import lru_cache
from pathlib import Path

import numpy as np
from django.conf import settings

from plinto_core.arrays import Pixels
from plinto_core.disk import ask_room, write_npy
from plinto_core.imaging.arrival import Arrival, ArrivalCheck
from plinto_core.imaging.facts import PictureFacts
from plinto_core.imaging.reader import OpenedPicture, open_picture
from plinto_core.kernels.sample import sample_region
from plinto_server import store

SMALLEST_EDGE = 700


def folder_of(digest: str) -> Path:
    return Path(settings.DATA) / "working" / digest[:2] / digest


def facts_of(path: Path, *, page: int = 0, name: str = "") -> PictureFacts:
    """What a picture says of itself; raises BadImage or NotSupported."""
    with open_picture(path, page=page, name=name) as picture:
        return picture.facts


def take_in(digest: str, path: Path, *, page: int = 0, name: str = "") -> Arrival:
    """Make the working copy of a picture; what was seen on the way."""
    with open_picture(path, page=page, name=name) as picture:
        check = ArrivalCheck(picture.facts)
        make(digest, picture, check)
        return check.result


def make(digest: str, picture: OpenedPicture, check: ArrivalCheck) -> None:
    """Decode a picture once into level 0 and its halvings; complete or absent.

    Raises NoRoom before it is decoded where its copies do not fit.
    """
    target = folder_of(digest)
    if target.exists():
        for _ in picture.checked_bands(check):
            pass
        return
    facts = picture.facts
    target.parent.mkdir(parents=True, exist_ok=True)
    shape, kind = (facts.height, facts.width, facts.channels), f"u{facts.bits // 8}"
    # All halvings together are a third of the first level.
    ask_room(target.parent, math.prod(shape) * facts.bits // 6)
    with store.making(target) as own:
        level = write_npy(own / "0.npy", picture.checked_bands(check), shape, kind)
        number = 0
        while max(level.shape[:2]) > 2 * SMALLEST_EDGE:
            number += 1
            height, width = max(1, level.shape[0] // 2), max(1, level.shape[1] // 2)
            halved = (height, width, level.shape[2])
            level = write_npy(own / f"{number}.npy", _halves(level, height, width), halved, kind)


def _halves(level: Pixels, height: int, width: int) -> Iterator[Pixels]:
    for start in range(0, height, 256):
        rows = min(256, height - start)
        block = level[2 * start : 2 * (start + rows), : 2 * width].astype(np.uint32)
        yield (
            block[0::2, 0::2] + block[1::2, 0::2] + block[0::2, 1::2] + block[1::2, 1::2] + 2
        ) // 4


@lru_cache(maxsize=24)
def levels(digest: str) -> tuple[Pixels, ...]:
    """The mapped levels, full size first."""
    folder = folder_of(digest)
    count = len(list(folder.glob("*.npy")))
    return tuple(np.load(folder / f"{i}.npy", mmap_mode="r") for i in range(count))


def region(digest: str, box: tuple[float, float, float, float], columns: int, rows: int) -> Pixels:
    """A region (left, top, width, height in pixels) resampled to (rows, columns, channels)."""
    chain = levels(digest)
    left, top, width, height = box
    scale = min(width / columns, height / rows)
    number = int(np.clip(np.floor(np.log2(max(scale, 1e-6)) + 0.25), 0, len(chain) - 1))
    chosen = chain[number]
    fx, fy = chosen.shape[1] / chain[0].shape[1], chosen.shape[0] / chain[0].shape[0]
    x0 = max(0, int(left * fx) - 2)
    y0 = max(0, int(top * fy) - 2)
    x1 = min(chosen.shape[1], int((left + width) * fx) + 3)
    y1 = min(chosen.shape[0], int((top + height) * fy) + 3)
    # A plain writable copy: kernels are compiled for these, not for mapped read-only arrays.
    part = np.array(chosen[y0 : max(y1, y0 + 1), x0 : max(x1, x0 + 1)])
    return np.asarray(
        sample_region(part, left * fx - x0, top * fy - y0, width * fx, height * fy, columns, rows)
    )


def reduced(digest: str, edge: int) -> Pixels:
    """The whole picture with its longer edge at most `edge`, (h, w, channels)."""
    height, width = levels(digest)[0].shape[:2]
    share = min(1.0, edge / max(height, width))
    columns, rows = max(1, round(width * share)), max(1, round(height * share))
    return region(digest, (0.0, 0.0, float(width), float(height)), columns, rows)
