"""Tone values to one-bit dots: AM by ruling, angle and dot shape, FM by a stochastic mask.

The spot function is ranked over its cell, so that a flat tint of any tone value inks exactly
that share of the cell; what remains is the raster's own coarseness.
"""

from __future__ import annotations

from functools import cache
from typing import Literal

import numpy as np

from plinto_core.arrays import Floats32
from plinto_core.kernels.halftone import (
    ELLIPSE,
    LINE,
    ROUND,
    SQUARE,
    screen_am,
    screen_fm,
    spot_samples,
    void_and_cluster,
)

Shape = Literal["round", "ellipse", "square", "line"]
_SHAPES = {"round": ROUND, "ellipse": ELLIPSE, "square": SQUARE, "line": LINE}
_CELL_SIDE = 512
_MASK_SIDE = 64


@cache
def cell_thresholds(shape: Shape) -> Floats32:
    """(512, 512) thresholds 0..1 over a cell: its places in the order in which they are inked."""
    values = spot_samples(_SHAPES[shape], _CELL_SIDE)
    order = np.argsort(-values, kind="stable")
    rank = np.empty(values.size, np.float32)
    rank[order] = (np.arange(values.size) + 0.5) / values.size
    return rank.reshape(_CELL_SIDE, _CELL_SIDE)


@cache
def stochastic_mask() -> Floats32:
    """(64, 64) thresholds 0..1 in an order without grain or pattern (void and cluster)."""
    away = np.minimum(np.arange(_MASK_SIDE), _MASK_SIDE - np.arange(_MASK_SIDE)).astype(float)
    kernel = np.exp(-(away[:, None] ** 2 + away[None, :] ** 2) / (2 * 1.5**2))
    rank = void_and_cluster(_MASK_SIDE, kernel, 7)
    return np.asarray((rank + 0.5) / rank.size, dtype=np.float32)


def am_dots(
    tone: Floats32, *, top: int, left: int, pitch: float, angle: float, shape: Shape
) -> np.ndarray:
    """(rows, columns) tone 0..1 to 0/1. pitch : film pixels a screen line; angle : degrees,
    counter-clockwise on a right-reading film; lines of 0 degrees lie flat."""
    values = np.ascontiguousarray(tone, dtype=np.float32)
    return np.asarray(
        screen_am(values, top, left, pitch, -np.radians(angle), cell_thresholds(shape))
    )


def fm_dots(tone: Floats32, *, top: int, left: int, dot: int) -> np.ndarray:
    """(rows, columns) tone 0..1 to 0/1, spots of `dot` film pixels."""
    values = np.ascontiguousarray(tone, dtype=np.float32)
    return np.asarray(screen_fm(values, top, left, stochastic_mask(), dot))
