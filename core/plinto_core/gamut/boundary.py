"""Gamut boundary by segment maxima (Morovic and Luo 2000; CIE 156): chroma over L* and hue."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.ndimage import gaussian_filter1d, map_coordinates

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import Lab_to_LCh

LIGHTNESS_STEPS = 41
HUE_STEPS = 48


@dataclass(frozen=True)
class GamutBoundary:
    """chroma : (lightness steps, hue steps) largest C*ab; lowest, highest : L* of the neutrals."""

    chroma: Floats
    lowest: float
    highest: float

    @classmethod
    def of_samples(cls, lab: Floats) -> GamutBoundary:
        """From (n, 3) Lab samples that fill or cover the gamut densely."""
        lch = Lab_to_LCh(lab)
        neutral = lch[lch[:, 1] < 8, 0]
        lightness = neutral if neutral.size else lch[:, 0]
        lowest, highest = float(lightness.min()), float(lightness.max())
        rows = np.clip(np.rint(lch[:, 0] / 100 * (LIGHTNESS_STEPS - 1)), 0, LIGHTNESS_STEPS - 1)
        columns = np.rint(lch[:, 2] / 360 * HUE_STEPS).astype(int) % HUE_STEPS
        chroma = np.full((LIGHTNESS_STEPS, HUE_STEPS), -1.0)
        at = np.zeros((LIGHTNESS_STEPS, HUE_STEPS))
        # The last of equal places wins, so the largest chroma of every segment stays, with its L*.
        order = np.argsort(lch[:, 1], kind="stable")
        place = (rows[order].astype(int), columns[order])
        chroma[place] = lch[order, 1]
        at[place] = lch[order, 0]
        levels = np.linspace(0, 100, LIGHTNESS_STEPS)
        for h in range(HUE_STEPS):
            known = chroma[:, h] >= 0
            use = known & (at[:, h] > lowest) & (at[:, h] < highest)
            x = np.concatenate([[lowest], at[use, h], [highest]])
            y = np.concatenate([[0.0], chroma[use, h], [0.0]])
            chroma[:, h] = np.interp(levels, x, y)
        chroma = gaussian_filter1d(chroma, 0.7, axis=1, mode="wrap")
        return cls(gaussian_filter1d(chroma, 0.7, axis=0, mode="nearest"), lowest, highest)

    @property
    def volume(self) -> float:
        """Volume in cubic CIELAB units: the integral of half the squared chroma over hue and L*.

        Levels are clipped to the neutral axis's ends; the trapezium rule over both.
        """
        levels = np.linspace(0, 100, LIGHTNESS_STEPS)
        area = 0.5 * (self.chroma**2).sum(axis=1) * (2 * np.pi / HUE_STEPS)
        area[(levels < self.lowest) | (levels > self.highest)] = 0.0
        return float(np.trapezoid(area, levels))

    def at(self, lightness: Floats, hue: Floats) -> Floats:
        """Largest chroma at L* and hue in degrees, bilinear."""
        rows = np.clip(lightness / 100 * (LIGHTNESS_STEPS - 1), 0, LIGHTNESS_STEPS - 1)
        columns = (hue % 360) / 360 * HUE_STEPS
        padded = np.concatenate([self.chroma, self.chroma[:, :1]], axis=1)
        return np.asarray(map_coordinates(padded, [rows, columns], order=1, mode="nearest"))

    def cusp(self, hue: Floats) -> Floats:
        """L* at which a hue reaches its largest chroma."""
        levels = np.linspace(0, 100, LIGHTNESS_STEPS)
        weight = np.maximum(self.chroma, 1e-9) ** 8
        column = (weight * levels[:, None]).sum(0) / weight.sum(0)
        x = np.arange(HUE_STEPS + 1) * 360 / HUE_STEPS
        return np.asarray(np.interp(hue % 360, x, np.append(column, column[0])))
