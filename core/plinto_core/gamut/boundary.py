"""The gamut as mapping looks at it: in leaves of one hue, which is OKLab's, over L* and C*ab."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from scipy.ndimage import gaussian_filter1d, map_coordinates

from plinto_core.arrays import Floats
from plinto_core.colorimetry.even_hue import in_sight, lab_of_hue
from plinto_core.gamut.body import GamutBody
from plinto_core.keeping import Kept
from plinto_core.kernels.gamut import farthest_along, widest_angle

STEPS = 101, 180
"""Of lightness and hue."""
_EVENED = 0.4
"""Nodes over which corners of the boundary are rounded, so that tones along it have no kink; more of it
takes chroma off the ridges, where the solid inks are."""
_NEUTRAL = 1.0
"""C*ab up to which the darkest colour passes for a neutral black."""
_WIDEST = 0.8
"""OKLab chroma at lightness 1 that no press reaches."""
_HALVINGS = 22


@dataclass(frozen=True)
class GamutBoundary:
    """chroma : (lightness steps, hue steps) largest C*ab over L* 0..100 and all OKLab hues; lowest,
    highest : L* of the neutrals."""

    chroma: Floats
    lowest: float
    highest: float

    @classmethod
    def of_body(cls, body: GamutBody, *, rounded: bool = True) -> GamutBoundary:
        """The body cut at every L*, its ridges rounded by a little for what is bent along it; not
        `rounded` it keeps them, for what is to lie on it. Cut once for each body."""
        key = body.radius.tobytes(), body.centre, rounded
        return _CUT.get(key, lambda: cls._cut(body, rounded))

    @classmethod
    def _cut(cls, body: GamutBody, rounded: bool) -> GamutBoundary:
        levels, hues = np.linspace(0, 100, STEPS[0]), np.arange(STEPS[1]) * 360 / STEPS[1]
        lightness, hue = np.repeat(levels, STEPS[1]), np.tile(hues, STEPS[0])
        low, high = np.zeros(hue.size), np.full(hue.size, _WIDEST)
        for _ in range(_HALVINGS):
            middle = 0.5 * (low + high)
            lab = lab_of_hue(hue, lightness, middle)
            inside = body.contains(lab) & in_sight(lab)
            low, high = np.where(inside, middle, low), np.where(inside, high, middle)
        lab = lab_of_hue(hue, lightness, low)
        chroma = np.where(low > 1e-6, np.hypot(lab[:, 1], lab[:, 2]), 0.0).reshape(STEPS)
        if rounded:
            chroma = gaussian_filter1d(chroma, _EVENED, axis=1, mode="wrap")
            chroma = gaussian_filter1d(chroma, _EVENED, axis=0, mode="nearest")
        surface = body.vertices.reshape(-1, 3)
        grey = surface[np.hypot(surface[:, 1], surface[:, 2]) <= _NEUTRAL, 0]
        lowest, highest = body.lightness_range
        return cls(chroma, min(lowest, float(grey.min())), highest)

    def at(self, lightness: Floats, hue: Floats) -> Floats:
        """Largest chroma at L* and OKLab hue in degrees, bilinear."""
        last, hues = self.chroma.shape[0] - 1, self.chroma.shape[1]
        rows = np.clip(lightness / 100 * last, 0, last)
        columns = (hue % 360) / 360 * hues
        return np.asarray(map_coordinates(self._round, [rows, columns], order=1, mode="nearest"))

    def cusp(self, hue: Floats) -> Floats:
        """(n,) OKLab hues to (n, 2) L* and C*ab where they are most chromatic."""
        x = np.linspace(0, 360, len(self._cusps))
        return np.stack([np.interp(hue % 360, x, self._cusps[:, i]) for i in (0, 1)], axis=1)

    def widest(self, level: Floats, hue: Floats, lean: float) -> Floats:
        """(n,) radians from the lightness axis, seen from the medium's black, at which lines of constant
        L* + lean * C* leave a leaf towards the vivid darks; level : (n,) L* above black where they start."""
        out = np.empty(len(hue))
        widest_angle(self._round, self.lowest, lean, hue, self.cusp(hue), level, out)
        return np.maximum(out, 1e-6)

    def farthest(self, angle: Floats, hue: Floats) -> Floats:
        """(n,) distance from the medium's black, in L* and C*ab, to the light side of a leaf at an angle."""
        out = np.empty(len(hue))
        farthest_along(self._round, self.lowest, hue, self.cusp(hue), angle, out)
        return np.maximum(out, 1e-6)

    @cached_property
    def _round(self) -> Floats:
        """The chroma with its first hue once more behind the last."""
        return np.concatenate([self.chroma, self.chroma[:, :1]], axis=1)

    @cached_property
    def _cusps(self) -> Floats:
        """(hues + 1, 2) L* and C*ab. High powers of chroma weigh lightness: a plain maximum would jump
        between the corners of a leaf from one hue to the next."""
        levels = np.linspace(0, 100, len(self.chroma))
        weight = np.maximum(self.chroma, 1e-9) ** 30
        lightness = (weight * levels[:, None]).sum(0) / weight.sum(0)
        columns = np.arange(len(lightness))
        chroma = map_coordinates(
            self.chroma, [lightness / 100 * (len(levels) - 1), columns], order=1
        )
        cusps = np.stack([lightness, chroma], axis=1)
        return np.concatenate([cusps, cusps[:1]])


_CUT: Kept[tuple[bytes, float, bool], GamutBoundary] = Kept(24)
