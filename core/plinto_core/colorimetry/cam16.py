"""The hue of CAM16 (CIE 248:2022), by which blues are judged beside OKLab's: the two part in the darks."""

from __future__ import annotations

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import D50

_CONES = np.array(
    [
        [0.401288, 0.650173, -0.051461],
        [-0.250268, 1.204414, 0.045854],
        [-0.002079, 0.048952, 0.953127],
    ]
)
_ADAPTING = 64.0
"""Luminance in cd/m2: a fifth of a white under 1000 lx, about what prints are looked at in (ISO 3664, P2)."""
_LUMINANCE_FACTOR = (
    lambda k: 0.2 * k**4 * 5 * _ADAPTING + 0.1 * (1 - k**4) ** 2 * (5 * _ADAPTING) ** (1 / 3)
)(1 / (5 * _ADAPTING + 1))


def cam16_hue(xyz: Floats) -> Floats:
    """(..., 3) XYZ under D50, Y 1 for white, to (...,) hue in degrees, -180 to 180; the eye is adapted to
    that white in full."""
    cones = np.asarray(xyz) @ _CONES.T / (_CONES @ D50)
    signal = (_LUMINANCE_FACTOR * np.abs(cones)) ** 0.42
    signal = np.sign(cones) * 400.0 * signal / (signal + 27.13)
    red, green, blue = np.moveaxis(signal, -1, 0)
    across, up = red - 12 * green / 11 + blue / 11, (red + green - 2 * blue) / 9
    return np.asarray(np.degrees(np.arctan2(up, across)))
