"""CIELAB (ISO/CIE 11664-4) relative to D50, the white of the profile connection space."""

from __future__ import annotations

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.icc.header import D50 as D50

_EPSILON = (6 / 29) ** 3
_SLOPE = (29 / 6) ** 2 / 3


def XYZ_to_Lab(xyz: Floats, *, white: Floats = D50) -> Floats:
    """(..., 3) XYZ, Y = 1 for white, to L* 0..100, a*, b*. Linear below epsilon, also negative."""
    t = np.asarray(xyz, dtype=np.float64) / white
    f = np.where(t > _EPSILON, np.cbrt(t), _SLOPE * t + 4 / 29)
    return np.stack(
        [116 * f[..., 1] - 16, 500 * (f[..., 0] - f[..., 1]), 200 * (f[..., 1] - f[..., 2])],
        axis=-1,
    )


def Lab_to_XYZ(lab: Floats, *, white: Floats = D50) -> Floats:
    """(..., 3) L*, a*, b* to XYZ, Y = 1 for white; the exact inverse of XYZ_to_Lab."""
    lab = np.asarray(lab, dtype=np.float64)
    fy = (lab[..., 0] + 16) / 116
    f = np.stack([fy + lab[..., 1] / 500, fy, fy - lab[..., 2] / 200], axis=-1)
    return np.asarray(np.where(f > 6 / 29, f**3, (f - 4 / 29) / _SLOPE) * white)


def Lab_to_LCh(lab: Floats) -> Floats:
    """(..., 3) Lab to L*, C*ab, h in degrees 0..360."""
    lab = np.asarray(lab, dtype=np.float64)
    chroma = np.hypot(lab[..., 1], lab[..., 2])
    hue = np.degrees(np.arctan2(lab[..., 2], lab[..., 1])) % 360
    return np.stack([lab[..., 0], chroma, hue], axis=-1)


def LCh_to_Lab(lch: Floats) -> Floats:
    """(..., 3) L*, C*ab, h in degrees to Lab."""
    lch = np.asarray(lch, dtype=np.float64)
    hue = np.radians(lch[..., 2])
    return np.stack([lch[..., 0], lch[..., 1] * np.cos(hue), lch[..., 1] * np.sin(hue)], axis=-1)
