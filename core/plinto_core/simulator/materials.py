"""Invented inks and substrates as smooth spectra, 380..730 nm at 10 nm."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.spectra import WAVELENGTHS


@dataclass(frozen=True)
class Band:
    """An absorption band: centre and half widths in nm towards short and long waves."""

    centre: float
    short: float
    long: float
    density: float


@dataclass(frozen=True)
class Ink:
    """An ink by its absorption bands; `floor` is the density it has everywhere."""

    name: str
    bands: tuple[Band, ...]
    floor: float = 0.02

    def density(self) -> Floats:
        """(36,) decadic density of the solid on white."""
        total = np.full(WAVELENGTHS.shape, self.floor)
        for band in self.bands:
            width = np.where(band.centre > WAVELENGTHS, band.short, band.long)
            total = total + band.density * np.exp(-(((WAVELENGTHS - band.centre) / width) ** 2))
        return total

    def strength(self, factor: float) -> Ink:
        """The same ink printed with `factor` times its film."""
        bands = tuple(Band(b.centre, b.short, b.long, b.density * factor) for b in self.bands)
        return Ink(self.name, bands, self.floor * factor)

    def named(self, name: str, factor: float) -> Ink:
        """The same pigment in another ink, `factor` times as strong."""
        return Ink(name, self.strength(factor).bands, self.floor * factor)


CYAN = Ink("Cyan", (Band(645, 76, 150, 1.55), Band(420, 60, 120, 0.1)), 0.015)
MAGENTA = Ink("Magenta", (Band(545, 48, 38, 1.4), Band(430, 70, 70, 0.42)), 0.015)
YELLOW = Ink("Yellow", (Band(425, 90, 66, 1.3),), 0.015)
BLACK = Ink("Black", (Band(520, 400, 500, 1.55),), 0.10)

ORANGE = Ink("Orange", (Band(470, 120, 62, 1.55),), 0.012)
GREEN = Ink("Green", (Band(690, 88, 90, 1.5), Band(415, 70, 46, 1.25)), 0.02)
VIOLET = Ink("Violet", (Band(575, 62, 58, 1.6),), 0.03)
LIGHT_CYAN = CYAN.named("Light cyan", 0.3)
LIGHT_MAGENTA = MAGENTA.named("Light magenta", 0.3)
BRICK = Ink("Brick", (Band(505, 110, 52, 1.5), Band(420, 80, 90, 0.5)), 0.06)

# A proofer's inks absorb less where they should not, so that the presses' solids lie inside.
PROOF_CYAN = Ink("Cyan", (Band(640, 72, 150, 1.8), Band(420, 60, 120, 0.02)), 0.01)
PROOF_MAGENTA = Ink("Magenta", (Band(542, 46, 36, 1.8), Band(430, 70, 70, 0.2)), 0.01)
PROOF_YELLOW = Ink("Yellow", (Band(425, 88, 64, 1.8),), 0.01)


def substrate(level: float, *, warm: float = 0.0, brightener: float = 0.0) -> Floats:
    """(36,) reflectance: `level` at long waves, `warm` lost at 400 nm, a brightener's peak at 440."""
    slope = np.exp(-(WAVELENGTHS - 380) / 110)
    peak = brightener * np.exp(-(((WAVELENGTHS - 440) / 22) ** 2))
    edge = 0.25 * np.exp(-(WAVELENGTHS - 380) / 14) * (0.4 + brightener * 4)
    return np.asarray(np.clip(level * (1 - warm * slope) + peak - edge, 0.02, 1.1))
