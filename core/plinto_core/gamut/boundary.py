"""The gamut as mapping looks at it: largest chroma over L* and hue, even enough to bend rays along."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from scipy.ndimage import gaussian_filter1d, map_coordinates

from plinto_core.arrays import Floats
from plinto_core.gamut.body import GamutBody
from plinto_core.kernels.gamut import leave_along

LIGHTNESS_STEPS = 81
HUE_STEPS = 90
_EVENED = 0.7
"""Nodes over which corners of the boundary are rounded, so that tones along it have no kink."""
_NEUTRAL = 1.0
"""C*ab up to which the darkest colour passes for a neutral black."""


@dataclass(frozen=True)
class GamutBoundary:
    """chroma : (lightness steps, hue steps) largest C*ab; lowest, highest : L* of the neutrals."""

    chroma: Floats
    lowest: float
    highest: float

    @classmethod
    def of_body(cls, body: GamutBody) -> GamutBoundary:
        """The body cut at every L*, its ridges rounded by a little."""
        lightness, hue = np.meshgrid(
            np.linspace(0, 100, LIGHTNESS_STEPS),
            np.arange(HUE_STEPS) * 360 / HUE_STEPS,
            indexing="ij",
        )
        chroma = body.chroma_at(lightness.ravel(), hue.ravel()).reshape(lightness.shape)
        chroma = gaussian_filter1d(chroma, _EVENED, axis=1, mode="wrap")
        chroma = gaussian_filter1d(chroma, _EVENED, axis=0, mode="nearest")
        surface = body.vertices.reshape(-1, 3)
        grey = surface[np.hypot(surface[:, 1], surface[:, 2]) <= _NEUTRAL, 0]
        lowest, highest = body.lightness_range
        return cls(chroma, min(lowest, float(grey.min())), highest)

    def at(self, lightness: Floats, hue: Floats) -> Floats:
        """Largest chroma at L* and hue in degrees, bilinear."""
        rows = np.clip(lightness / 100 * (LIGHTNESS_STEPS - 1), 0, LIGHTNESS_STEPS - 1)
        columns = (hue % 360) / 360 * HUE_STEPS
        return np.asarray(map_coordinates(self._round, [rows, columns], order=1, mode="nearest"))

    def along(self, focus: Floats, lightness: Floats, chroma: Floats, hue: Floats) -> Floats:
        """Where rays from greys at L* `focus` through (lightness, chroma) at a hue leave the gamut: 1 is
        the colour itself, at most 4, to a millionth."""
        out = np.empty(len(focus))
        leave_along(self._round, focus, lightness, chroma, hue, 4.0, 22, out)
        return np.maximum(out, 1e-3)

    @cached_property
    def _round(self) -> Floats:
        """The chroma with its first hue once more behind the last."""
        return np.concatenate([self.chroma, self.chroma[:, :1]], axis=1)

    def cusp(self, hue: Floats) -> Floats:
        """L* at which a hue reaches its largest chroma."""
        levels = np.linspace(0, 100, LIGHTNESS_STEPS)
        weight = np.maximum(self.chroma, 1e-9) ** 8
        column = (weight * levels[:, None]).sum(0) / weight.sum(0)
        x = np.arange(HUE_STEPS + 1) * 360 / HUE_STEPS
        return np.asarray(np.interp(hue % 360, x, np.append(column, column[0])))
