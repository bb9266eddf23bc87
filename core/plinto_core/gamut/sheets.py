"""Two-dimensional sheets through device space, whose colours hold the boundary of a gamut.

The boundary of what n inks print lies on faces where all but two inks stand at an end, on the plane of
the TAC, and, where a solid ink is not the most colourful, on sheets inside. So sheets of every pair of
inks are laid at several levels of the others, cut at the TAC exactly.
"""

from __future__ import annotations

from collections.abc import Iterator
from itertools import combinations, product

import numpy as np

from plinto_core.arrays import Floats

_LEVELS = {3: 5, 4: 3, 5: 3, 6: 3}
"""Levels of the other inks by the number of inks; more inks get the ends alone, or it takes too long."""
STEPS = 17
"""Nodes along a side of a sheet: at four inks twice as many change the volume by less than 0.01 %."""


def device_sheets(limits: Floats, tac: float) -> Floats:
    """(sheets, STEPS**2, channels) device values 0..1 within limits (channels,) and tac, a sum of shares."""
    levels = np.linspace(0.0, 1.0, _LEVELS.get(limits.size, 2))
    found = list(_faces(limits, tac, levels))
    if tac < limits.sum() - 1e-9:
        found += list(_on_the_plane(limits, tac, levels))
    return np.stack(found).reshape(len(found), STEPS * STEPS, limits.size)


def sheet_triangles() -> np.ndarray:
    """(triangles, 3) places of nodes in a sheet."""
    places = np.arange(STEPS * STEPS).reshape(STEPS, STEPS)
    a, b, c, d = (
        places[i : STEPS - 1 + i, j : STEPS - 1 + j].ravel() for i in (0, 1) for j in (0, 1)
    )
    return np.concatenate([np.stack([a, c, b], axis=1), np.stack([c, d, b], axis=1)])


def _pairs(limits: Floats, first: int, second: int, room: float) -> tuple[Floats, Floats]:
    """A sheet of two inks, reduced evenly where both together exceed their room."""
    axis = np.linspace(0.0, 1.0, STEPS)
    x, y = np.meshgrid(axis * limits[first], axis * limits[second], indexing="ij")
    share = np.minimum(1.0, room / np.maximum(x + y, 1e-12))
    return x * share, y * share


def _faces(limits: Floats, tac: float, levels: Floats) -> Iterator[Floats]:
    """Sheets of every pair with the other inks at levels."""
    inks = range(limits.size)
    for i, j in combinations(inks, 2):
        others = [k for k in inks if k not in (i, j)]
        for level in product(levels, repeat=len(others)):
            fixed = np.array(level) * limits[others]
            if fixed.sum() > tac + 1e-9:
                continue
            sheet = np.empty((STEPS, STEPS, limits.size))
            sheet[..., i], sheet[..., j] = _pairs(limits, i, j, tac - fixed.sum())
            sheet[..., others] = fixed
            yield sheet


def _on_the_plane(limits: Floats, tac: float, levels: Floats) -> Iterator[Floats]:
    """Sheets on the plane of the TAC: a third ink takes what two leave of it."""
    inks = range(limits.size)
    for k in inks:
        for i, j in combinations([n for n in inks if n != k], 2):
            others = [n for n in inks if n not in (i, j, k)]
            for level in product(levels, repeat=len(others)):
                fixed = np.array(level) * limits[others]
                if fixed.sum() > tac + 1e-9:
                    continue
                sheet = np.empty((STEPS, STEPS, limits.size))
                sheet[..., i], sheet[..., j] = _pairs(limits, i, j, tac - fixed.sum())
                left = tac - fixed.sum() - sheet[..., i] - sheet[..., j]
                sheet[..., k] = np.clip(left, 0.0, limits[k])
                sheet[..., others] = fixed
                yield sheet
