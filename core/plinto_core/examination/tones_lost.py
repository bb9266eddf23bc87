"""Tones lost: where the artwork still has steps and a plate cannot make them any more."""

from __future__ import annotations

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.difference import delta_e_2000

FAINT, CLEAR = 0.4, 4.0
"""dE00 between neighbours that make a gradient: visible steps, but no edges."""
FLATTENED = 0.25
"""Share of a step below which the print does not show it any more."""
SOLID, BARE = 0.98, 0.01
"""Tone values from which a plate is (nearly) solid, and up to which it is bare."""
PAPER = "paper"


def tones_lost(
    source: Floats, printed: Floats, inks: Floats, names: tuple[str, ...], shape: tuple[int, ...]
) -> dict[str, float]:
    """Percent of a picture's gradients that print flat, by the plate that is solid there.

    source, printed : (rows * columns, 3) Lab of the corrected artwork and its print; inks : (.., plates)
    0..1; "paper" : where no plate prints at all. A gradient is a pair of neighbours in a row 0.4 to 4 dE00
    apart; it is lost where the print keeps less than a quarter of that. All 0 without gradients.
    """
    found = dict.fromkeys((*names, PAPER), 0.0)
    before, after = (
        delta_e_2000(grid[:, 1:].reshape(-1, 3), grid[:, :-1].reshape(-1, 3))
        for grid in (source.reshape(*shape, 3), printed.reshape(*shape, 3))
    )
    gradient = (before > FAINT) & (before < CLEAR)
    if not gradient.any():
        return found
    flat = gradient & (after < FLATTENED * before)
    plates = inks.reshape(*shape, len(names))
    left, right = (p.reshape(-1, len(names)) for p in (plates[:, :-1], plates[:, 1:]))
    count = float(gradient.sum())
    for i, name in enumerate(names):
        solid = (left[:, i] >= SOLID) & (right[:, i] >= SOLID)
        found[name] = round(float((flat & solid).sum()) / count * 100, 1)
    bare = np.maximum(left, right).max(axis=1) <= BARE
    found[PAPER] = round(float((flat & bare).sum()) / count * 100, 1)
    return found
