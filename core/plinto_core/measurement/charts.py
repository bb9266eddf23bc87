"""Charts to characterise inks: ramps, greys and a grid that thins out towards black."""

from __future__ import annotations

from itertools import combinations, product

import numpy as np

from plinto_core.arrays import Floats

_RAMP = (2, 4, 7, 10, 15, 20, 25, 30, 40, 50, 60, 70, 75, 80, 85, 90, 95, 98, 100)
_LEVELS = (0.1, 0.2, 0.35, 0.5, 0.7, 0.85, 1.0)
_PLANES = (
    (0, (0, 10, 20, 40, 70, 100)),
    (20, (0, 10, 20, 40, 70, 100)),
    (40, (0, 20, 40, 70, 100)),
    (60, (0, 20, 40, 70, 100)),
    (80, (0, 40, 70, 100)),
    (100, (0, 40, 70, 100)),
)


_FILL = 1200
"""Patches of up to four inks at once that fill a chart of five inks and more."""
_MOST = 4.0
"""Most ink of such a patch, as a sum of shares: what media take in a chart."""


def ink_chart(inks: int) -> Floats:
    """(n, inks) tone values 0..1 of a chart for 1 to 8 inks, without repeats, paper first.

    Four inks have cmyk_chart. More have it for their first four, a ramp of every ink, solids of all
    pairs and triples, and seeded mixtures of up to four inks, more of them dark than by chance.
    """
    if inks == 4:
        return cmyk_chart()
    rows = [np.zeros((1, inks))]
    ramp = np.array([0, *_RAMP]) / 100.0
    rows += [ramp[:, None] * unit for unit in np.eye(inks)]
    if inks < 4:
        steps = np.array([0, 10, 20, 30, 40, 55, 70, 85, 100]) / 100.0
        rows.append(np.array(list(product(steps, repeat=inks))))
    else:
        first = cmyk_chart()
        rows.append(np.concatenate([first, np.zeros((len(first), inks - 4))], axis=1))
        for count in (2, 3, 4):
            for chosen in combinations(range(inks), count):
                rows.append(np.eye(inks)[list(chosen)].sum(axis=0)[None])
        rng = np.random.default_rng(inks)
        fill = np.zeros((_FILL, inks))
        for row in fill:
            some = rng.choice(inks, rng.integers(2, 5), replace=False)
            row[some] = rng.choice(_LEVELS, len(some))
        rows.append(fill[fill.sum(axis=1) <= _MOST])
    return np.unique(np.concatenate(rows).round(4), axis=0)


def rgb_chart() -> Floats:
    """(n, 3) RGB values 0..1 of a chart for a device that takes RGB: a grid of nine steps, ramps of the
    channels and of greys; white last."""
    steps = np.linspace(0.0, 1.0, 9)
    fine = np.linspace(0.0, 1.0, 33)[:, None]
    rows = [np.array(list(product(steps, repeat=3))), np.repeat(fine, 3, axis=1)]
    rows += [fine * unit for unit in np.eye(3)] + [1 - fine * unit for unit in np.eye(3)]
    return np.unique(np.concatenate(rows).round(4), axis=0)


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
