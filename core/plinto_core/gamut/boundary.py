"""The gamut as mapping looks at it: largest chroma over L* and hue, even enough to bend rays along."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from scipy.ndimage import gaussian_filter1d, map_coordinates

from plinto_core.arrays import Floats
from plinto_core.gamut.body import GamutBody
from plinto_core.kernels.gamut import leave_along, nearest_in_leaf

ROUNDED, EXACT = (81, 90), (101, 180)
"""Steps of lightness and hue."""
_EVENED = 0.7
"""Nodes over which corners of the boundary are rounded, so that tones along it have no kink."""
_NEUTRAL = 1.0
"""C*ab up to which the darkest colour passes for a neutral black."""


@dataclass(frozen=True)
class GamutBoundary:
    """chroma : (lightness steps, hue steps) largest C*ab over L* 0..100 and all hues; lowest, highest : L*
    of the neutrals."""

    chroma: Floats
    lowest: float
    highest: float

    @classmethod
    def of_body(cls, body: GamutBody, *, rounded: bool = True) -> GamutBoundary:
        """The body cut at every L*, its ridges rounded by a little for what is bent along it; not
        `rounded` it is cut closer and keeps them, for what is to lie on it."""
        steps = ROUNDED if rounded else EXACT
        lightness, hue = np.meshgrid(
            np.linspace(0, 100, steps[0]), np.arange(steps[1]) * 360 / steps[1], indexing="ij"
        )
        chroma = body.chroma_at(lightness.ravel(), hue.ravel()).reshape(lightness.shape)
        if rounded:
            chroma = gaussian_filter1d(chroma, _EVENED, axis=1, mode="wrap")
            chroma = gaussian_filter1d(chroma, _EVENED, axis=0, mode="nearest")
        surface = body.vertices.reshape(-1, 3)
        grey = surface[np.hypot(surface[:, 1], surface[:, 2]) <= _NEUTRAL, 0]
        lowest, highest = body.lightness_range
        return cls(chroma, min(lowest, float(grey.min())), highest)

    def at(self, lightness: Floats, hue: Floats) -> Floats:
        """Largest chroma at L* and hue in degrees, bilinear."""
        last, hues = self.chroma.shape[0] - 1, self.chroma.shape[1]
        rows = np.clip(lightness / 100 * last, 0, last)
        columns = (hue % 360) / 360 * hues
        return np.asarray(map_coordinates(self._round, [rows, columns], order=1, mode="nearest"))

    def along(self, focus: Floats, lightness: Floats, chroma: Floats, hue: Floats) -> Floats:
        """Where rays from greys at L* `focus` through (lightness, chroma) at a hue leave the gamut: 1 is
        the colour itself, at most 4, to a millionth."""
        out = np.empty(len(focus))
        leave_along(self._round, focus, lightness, chroma, hue, 4.0, 22, out)
        return np.maximum(out, 1e-3)

    def in_leaf(
        self, lightness: Floats, chroma: Floats, hue: Floats, weight: float
    ) -> tuple[Floats, Floats]:
        """(n,) lightness and chroma of the nearest colour of the same hue within the boundary, colours
        within it as they are.

        weight : of differences in chroma against those in lightness, for greys; for a colour it is
        divided by 1 + 0.045 C* (CIE 94).
        """
        nearest = np.empty((len(lightness), 2))
        nearest_in_leaf(self._round, lightness, chroma, hue, weight, nearest)
        return nearest[:, 0], nearest[:, 1]

    @cached_property
    def _round(self) -> Floats:
        """The chroma with its first hue once more behind the last."""
        return np.concatenate([self.chroma, self.chroma[:, :1]], axis=1)

    def cusp(self, hue: Floats) -> Floats:
        """L* at which a hue reaches its largest chroma."""
        levels = np.linspace(0, 100, len(self.chroma))
        weight = np.maximum(self.chroma, 1e-9) ** 8
        column = (weight * levels[:, None]).sum(0) / weight.sum(0)
        x = np.linspace(0, 360, len(column) + 1)
        return np.asarray(np.interp(hue % 360, x, np.append(column, column[0])))
