"""Yule-Nielsen modified spectral Neugebauer model of a press, and an instrument to read it.

Sources: Neugebauer (1937); Yule and Nielsen (1951); Viggiano (1985) for the spectral form;
Demichel (1924) for the coverage of overprints.
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import product

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import XYZ_to_Lab
from plinto_core.colorimetry.spectra import reflectance_to_XYZ
from plinto_core.simulator.materials import Ink


@dataclass(frozen=True)
class PressModel:
    """What a printing condition does to tone values.

    gain : tone value increase at 50 %, per ink, 0..1; trap : share of a film that a later ink
    lays on earlier ones; surface : first-surface reflection that no ink covers;
    yule_nielsen : the n of optical spread; least_dot : tone value 0..1 below which dots do not hold.
    """

    substrate: Floats
    inks: tuple[Ink, ...]
    gain: tuple[float, ...]
    trap: float = 0.92
    surface: float = 0.006
    yule_nielsen: float = 1.8
    least_dot: float = 0.0

    @property
    def channels(self) -> int:
        """Number of values it takes."""
        return len(self.inks)

    def reflectance(self, device: Floats) -> Floats:
        """(m, inks) tone values 0..1 to (m, 36) reflectance."""
        device = np.clip(np.asarray(device, dtype=np.float64), 0.0, 1.0)
        cover = self._effective(device)
        n = self.yule_nielsen
        if len(self.inks) > 4:
            return np.asarray(self._all_at_once(cover) ** n)
        mixed = np.zeros((device.shape[0], self.substrate.size))
        for solids in product((0, 1), repeat=len(self.inks)):
            on = np.array(solids, dtype=bool)
            weight = np.prod(np.where(on, cover, 1.0 - cover), axis=1)
            mixed += weight[:, None] * self._primary(on) ** (1.0 / n)
        return np.asarray(mixed**n)

    def _all_at_once(self, cover: Floats) -> Floats:
        """(m, 36) the same sum over all overprints as one product of matrices: many inks have many."""
        areas = np.ones((cover.shape[0], 1))
        for k in range(cover.shape[1]):
            c = cover[:, k : k + 1]
            areas = np.concatenate([areas * (1.0 - c), areas * c], axis=1)
        on = (np.arange(areas.shape[1])[:, None] >> np.arange(cover.shape[1])) & 1
        solids = np.stack([self._primary(o.astype(bool)) for o in on])
        return areas @ solids ** (1.0 / self.yule_nielsen)

    def _effective(self, device: Floats) -> Floats:
        gain = np.asarray(self.gain)
        device = np.where(device < self.least_dot, 0.0, device)
        shape = 4 * device * (1 - device) * (1 + 0.35 * (0.5 - device))
        return np.asarray(np.clip(device + gain * shape, 0.0, 1.0))

    def _primary(self, on: np.ndarray) -> Floats:
        density = np.zeros(self.substrate.size)
        layers = 0
        for ink, printed in zip(self.inks, on, strict=True):
            if printed:
                density = density + ink.density() * self.trap**layers
                layers += 1
        return np.asarray(self.surface + (1 - self.surface) * self.substrate * 10.0**-density)


@dataclass(frozen=True)
class RgbPrinter:
    """A device that takes RGB and makes its inks itself.

    engine : what prints; light : exponent of its own tone curve, by which what a channel lacks to white
    becomes ink.
    """

    engine: PressModel
    light: float = 1.25

    @property
    def channels(self) -> int:
        """Number of values it takes."""
        return 3

    @property
    def inks(self) -> tuple[Ink, ...]:
        return self.engine.inks

    @property
    def substrate(self) -> Floats:
        return self.engine.substrate

    def reflectance(self, device: Floats) -> Floats:
        """(m, 3) RGB values 0..1 to (m, 36) reflectance."""
        lacking = 1.0 - np.clip(np.asarray(device, dtype=np.float64), 0.0, 1.0)
        return self.engine.reflectance(lacking**self.light)


def measure_chart(
    model: PressModel | RgbPrinter, device: Floats, *, noise: float = 0.0008, seed: int = 1
) -> Floats:
    """(m, inks) tone values 0..1, printed and read: (m, 36) reflectance with instrument noise.

    Noise is relative, equal for neighbouring bands in part, and the same for the same seed.
    """
    clean = model.reflectance(device)
    rng = np.random.default_rng(seed)
    common = rng.normal(0.0, noise, (clean.shape[0], 1))
    single = rng.normal(0.0, noise / 2, clean.shape)
    return np.asarray(np.clip(clean * (1 + common + single), 1e-5, None))


def predicted_lab(model: PressModel | RgbPrinter, device: Floats) -> Floats:
    """(m, inks) tone values 0..1 to (m, 3) Lab of the print under D50, without noise."""
    return XYZ_to_Lab(reflectance_to_XYZ(model.reflectance(device)))
