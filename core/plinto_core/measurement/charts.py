"""A chart to characterise four inks: ramps, greys and a grid that thins out towards black."""

from __future__ import annotations

from itertools import product

import numpy as np

from plinto_core.arrays import Floats

_RAMP = (2, 4, 7, 10, 15, 20, 25, 30, 40, 50, 60, 70, 75, 80, 85, 90, 95, 98, 100)
_PLANES = (
    (0, (0, 10, 20, 40, 70, 100)),
    (20, (0, 10, 20, 40, 70, 100)),
    (40, (0, 20, 40, 70, 100)),
    (60, (0, 20, 40, 70, 100)),
    (80, (0, 40, 70, 100)),
    (100, (0, 40, 70, 100)),
)


def cmyk_chart() -> Floats:
    """(n, 4) tone values 0..1, without repeats, paper first."""
    rows: list[tuple[float, ...]] = [(0, 0, 0, 0)]
    for black, steps in _PLANES:
        rows += [(c, m, y, black) for c, m, y in product(steps, repeat=3)]
    for ink in range(4):
        for value in _RAMP:
            rows.append(tuple(value if i == ink else 0 for i in range(4)))
    for value in _RAMP:
        rows.append((value, value * 0.88, value * 0.88, 0))
        rows.append((value, value * 0.88, value * 0.88, value / 2))
        rows += [(value, value, 0, 0), (value, 0, value, 0), (0, value, value, 0)]
    unique = list(dict.fromkeys(rows))
    return np.array(unique, dtype=np.float64) / 100.0
