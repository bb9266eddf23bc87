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
    if limits.size == 1:
        # One ink prints a line: the sheet has no width.
        ramp = np.linspace(0.0, min(float(limits[0]), tac), STEPS)
        return np.repeat(ramp, STEPS).reshape(1, STEPS * STEPS, 1)
    levels = np.linspace(0.0, 1.0, _LEVELS.get(limits.size, 2))
    found = list(_sheets(limits, tac, levels))
    if tac < limits.sum() - 1e-9:
        for filler in range(limits.size):
            found += _sheets(limits, tac, levels, filler)
    return np.concatenate(found).reshape(-1, STEPS * STEPS, limits.size)


def sheet_triangles() -> np.ndarray:
    """(triangles, 3) places of nodes in a sheet."""
    places = np.arange(STEPS * STEPS).reshape(STEPS, STEPS)
    a, b, c, d = (
        places[i : STEPS - 1 + i, j : STEPS - 1 + j].ravel() for i in (0, 1) for j in (0, 1)
    )
    return np.concatenate([np.stack([a, c, b], axis=1), np.stack([c, d, b], axis=1)])


def _sheets(
    limits: Floats, tac: float, levels: Floats, filler: int | None = None
) -> Iterator[Floats]:
    """Sheets of every pair with the other inks at levels, (sheets, STEPS, STEPS, channels) a pair; two inks
    that exceed their room are reduced evenly. The filler, if there is one, takes what all others leave of
    the TAC, which puts the sheet on its plane."""
    inks = [k for k in range(limits.size) if k != filler]
    axis = np.linspace(0.0, 1.0, STEPS)
    for i, j in combinations(inks, 2):
        others = [k for k in inks if k not in (i, j)]
        fixed = np.array(list(product(levels, repeat=len(others)))) * limits[others]
        room = tac - fixed.sum(axis=1)
        fixed, room = fixed[room >= -1e-9], room[room >= -1e-9, None, None]
        x, y = np.meshgrid(axis * limits[i], axis * limits[j], indexing="ij")
        share = np.minimum(1.0, room / np.maximum(x + y, 1e-12))
        sheets = np.empty((len(fixed), STEPS, STEPS, limits.size))
        sheets[..., i], sheets[..., j] = x * share, y * share
        sheets[..., others] = fixed[:, None, None, :]
        if filler is not None:
            left = room - sheets[..., i] - sheets[..., j]
            sheets[..., filler] = np.clip(left, 0.0, limits[filler])
        yield sheets
