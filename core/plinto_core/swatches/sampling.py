"""Swatches out of a picture: a grid of sample marks over a region, or its dominant colours."""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from scipy.cluster.vq import kmeans2

from plinto_core.arrays import Floats, Pixels
from plinto_core.errors import BadInput
from plinto_core.icc.spaces import CHANNELS, is_subtractive
from plinto_core.swatches.swatches import Swatches, swatches
from plinto_core.words import Said, say

MOST_MARKS = 100
"""Rows or columns of a grid."""
UNEVEN = 6.0
"""Standard deviation under a mark, in percent of the channel's range, from which it sits on an edge."""
_MOST_PIXELS = 50_000_000
"""Under all marks together: some seconds of reading."""
_CELLS = 20_000


@dataclass(frozen=True)
class Grid:
    """x, y, width, height : the region in pixels of the picture; columns, rows : sample marks; mark :
    edge of the square that one mark averages, in pixels."""

    x: float
    y: float
    width: float
    height: float
    columns: int
    rows: int
    mark: int = 5


def centres(grid: Grid) -> Floats:
    """(rows * columns, 2) x and y of the marks' middles, row by row: each in the middle of its cell."""
    across = grid.x + (np.arange(grid.columns) + 0.5) * grid.width / grid.columns
    down = grid.y + (np.arange(grid.rows) + 0.5) * grid.height / grid.rows
    return np.stack([np.tile(across, grid.rows), np.repeat(down, grid.columns)], axis=1)


def sample_grid(picture: Pixels, space: str, grid: Grid) -> Swatches:
    """The mean under every mark, named by row letter and column number, with its place.

    picture : (rows, columns, channels) of 8 or 16 bits, at full size, may lie mapped on disk; channels
    beyond those of the space are not read. Marks whose colours differ by more than UNEVEN are named in
    the notes. Raises BadInput for a grid outside the picture.
    """
    high, wide = picture.shape[:2]
    if not (1 <= grid.columns <= MOST_MARKS and 1 <= grid.rows <= MOST_MARKS):
        raise BadInput(say("swatches.grid-marks", most=MOST_MARKS))
    if not 1 <= grid.mark <= 501:
        raise BadInput(say("swatches.mark-width"))
    if grid.columns * grid.rows * grid.mark**2 > _MOST_PIXELS:
        raise BadInput(say("swatches.marks-area"))
    inside = min(grid.x, grid.y) >= 0 and min(grid.width, grid.height) > 0
    inside = inside and grid.x + grid.width <= wide + 0.5 and grid.y + grid.height <= high + 0.5
    if not inside:
        raise BadInput(say("swatches.grid-outside"))
    channels = CHANNELS[space]
    full = float(np.iinfo(picture.dtype).max)
    places = centres(grid)
    means, uneven, names = [], [], []
    for i, (x, y) in enumerate(places):
        left = int(np.clip(math.floor(x - (grid.mark - 1) / 2), 0, max(0, wide - grid.mark)))
        top = int(np.clip(math.floor(y - (grid.mark - 1) / 2), 0, max(0, high - grid.mark)))
        under = np.asarray(
            picture[top : top + grid.mark, left : left + grid.mark, :channels], dtype=np.float64
        ).reshape(-1, channels)
        means.append(under.mean(axis=0) / full)
        names.append(f"{_letters(i // grid.columns)}{i % grid.columns + 1}")
        if under.std(axis=0).max() / full * 100 > UNEVEN:
            uneven.append(names[-1])
    notes: tuple[Said, ...] = ()
    if uneven:
        more = " …" if len(uneven) > 12 else ""
        notes = (say("swatches.uneven", count=len(uneven), marks=uneven[:12], more=more),)
    return swatches(space, np.array(means) * _top(space), names, places=places, notes=notes)


def dominant(picture: Pixels, space: str, count: int = 8) -> Swatches:
    """The colours that a picture is mostly made of, by their share, each the mean of its like.

    picture : (rows, columns, channels) of 8 or 16 bits, reduced; count : 2 to 64. Colours of fewer
    likes than asked give fewer swatches. The same picture gives the same list.
    """
    if not 2 <= count <= 64:
        raise BadInput(say("swatches.dominant-count"))
    channels = CHANNELS[space]
    device = picture[..., :channels].reshape(-1, channels) / float(np.iinfo(picture.dtype).max)
    device = device[:: max(1, math.ceil(len(device) / _CELLS))]
    distinct = np.unique(np.round(device, 3), axis=0)
    if len(distinct) <= count:
        middles = distinct
    else:
        # Seeds spread along the lightest-to-darkest order, so that no run depends on chance.
        ranked = distinct[np.argsort(distinct.sum(axis=1), kind="stable")]
        seeds = ranked[np.linspace(0, len(ranked) - 1, count).astype(int)]
        middles, _ = kmeans2(device, seeds, iter=20, minit="matrix", missing="warn")
    nearest = np.argmin(((device[:, None, :] - middles[None]) ** 2).sum(-1), axis=1)
    counted = np.bincount(nearest, minlength=len(middles))
    order = [int(i) for i in np.argsort(counted)[::-1] if counted[i]]
    means = np.array([device[nearest == i].mean(axis=0) for i in order])
    names = [f"{counted[i] / len(device):.1%} of it".replace("%", " %") for i in order]
    return swatches(space, means * _top(space), names)


def _top(space: str) -> float:
    return 100.0 if is_subtractive(space) else 255.0


def _letters(row: int) -> str:
    """A to Z, then AA and so on."""
    return _letters(row // 26 - 1) + _letters(row % 26) if row >= 26 else chr(65 + row)
