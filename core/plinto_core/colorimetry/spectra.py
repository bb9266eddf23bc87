"""Reflectance spectra to XYZ under D50, CIE 1931 2 degree observer (ASTM E308, ISO 13655)."""

from __future__ import annotations

from functools import cache
from importlib.resources import files

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import D50

WAVELENGTHS: Floats = np.arange(380.0, 731.0, 10.0)


@cache
def weights_d50() -> Floats:
    """(36, 3) weights per 10 nm, scaled so that the perfect diffuser has the PCS white."""
    text = files("plinto_core.colorimetry").joinpath("data/weights_d50_2deg_10nm.csv").read_text()
    rows = [line.split(",") for line in text.splitlines() if line[:1].isdigit()]
    table = np.array(rows, dtype=np.float64)[:, 1:]
    return np.asarray(table * (D50 / table.sum(axis=0)))


def reflectance_to_XYZ(reflectance: Floats, wavelengths: Floats = WAVELENGTHS) -> Floats:
    """(..., n) reflectance 0..1 at `wavelengths` (nm) to (..., 3) XYZ, Y = 1.

    Spectra at other wavelengths are interpolated linearly to 380..730 nm at 10 nm; beyond their
    ends the last value stands.
    """
    reflectance = np.asarray(reflectance, dtype=np.float64)
    if wavelengths.shape != WAVELENGTHS.shape or not np.array_equal(wavelengths, WAVELENGTHS):
        flat = reflectance.reshape(-1, reflectance.shape[-1])
        resampled = np.stack([np.interp(WAVELENGTHS, wavelengths, row) for row in flat])
        reflectance = resampled.reshape(*reflectance.shape[:-1], WAVELENGTHS.size)
    return np.asarray(reflectance @ weights_d50())
