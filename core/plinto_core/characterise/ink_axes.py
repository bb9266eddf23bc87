"""Ink axes made straight: equal steps along an ink are equal steps of the colour it prints alone."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.interpolate import PchipInterpolator

from plinto_core.arrays import Floats

_ALONE = 1e-6
"""Tone value of the other inks up to which a patch shows one ink alone."""
_FEWEST = 4
"""Patches of an ink alone from which its axis is straightened."""
_KEPT = 0.05
"""Share of the axis's own scale that stays, so that an ink that stops colouring keeps a slope."""


@dataclass(frozen=True)
class InkAxes:
    """curves : for each ink, tone value 0..1 to the share of its way from paper to solid in Lab, or None
    where the chart does not show the ink alone often enough."""

    curves: tuple[PchipInterpolator | None, ...]

    @classmethod
    def of_patches(cls, device: Floats, lab: Floats) -> InkAxes:
        """From (n, inks) tone values and the (n, 3) Lab they print."""
        return cls(tuple(_curve(device, lab, k) for k in range(device.shape[1])))

    def __call__(self, device: Floats) -> Floats:
        """(n, inks) tone values to (n, inks) places along the straightened axes, 0..1."""
        return np.stack(
            [device[:, k] if c is None else c(device[:, k]) for k, c in enumerate(self.curves)],
            axis=1,
        )


def _curve(device: Floats, lab: Floats, ink: int) -> PchipInterpolator | None:
    alone = (np.delete(device, ink, axis=1) <= _ALONE).all(axis=1)
    tones, group = np.unique(np.round(device[alone, ink], 6), return_inverse=True)
    if len(tones) < _FEWEST or tones[0] > 0.0 or tones[-1] < 1.0:
        return None
    count = np.bincount(group)
    mean = np.stack([np.bincount(group, weights=lab[alone, o]) / count for o in range(3)], axis=1)
    steps = np.linalg.norm(np.diff(mean, axis=0), axis=1)
    way = np.concatenate([[0.0], np.cumsum(steps)])
    if way[-1] <= 0.0:
        return None
    return PchipInterpolator(tones, (1 - _KEPT) * way / way[-1] + _KEPT * tones)
