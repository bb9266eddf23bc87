"""Encodings of the profile connection space (ICC.1:2022, 6.3.4; ICC.1:2001-04, 6.3.4)."""

from __future__ import annotations

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import Lab_to_XYZ, XYZ_to_Lab

XYZ_SCALE = 1.0 + 32767.0 / 32768.0
_LEGACY_LAB = 65280.0 / 65535.0


def lab_to_unit(lab: Floats, *, legacy: bool) -> Floats:
    """Lab to 0..1; `legacy` is the 16-bit encoding of lut16Type, where L* 100 is FF00h."""
    unit = np.stack(
        [lab[:, 0] / 100.0, (lab[:, 1] + 128.0) / 255.0, (lab[:, 2] + 128.0) / 255.0], axis=1
    )
    return unit * _LEGACY_LAB if legacy else unit


def unit_to_lab(unit: Floats, *, legacy: bool) -> Floats:
    """The inverse of lab_to_unit."""
    if legacy:
        unit = unit / _LEGACY_LAB
    return np.stack(
        [unit[:, 0] * 100.0, unit[:, 1] * 255.0 - 128.0, unit[:, 2] * 255.0 - 128.0], axis=1
    )


def xyz_to_pcs(xyz: Floats, space: str, *, legacy: bool) -> Floats:
    """XYZ under D50, Y = 1, to the encoded values of a PCS."""
    if space == "XYZ ":
        return xyz / XYZ_SCALE
    return lab_to_unit(XYZ_to_Lab(xyz), legacy=legacy)


def pcs_to_xyz(unit: Floats, space: str, *, legacy: bool) -> Floats:
    """The inverse of xyz_to_pcs."""
    if space == "XYZ ":
        return unit * XYZ_SCALE
    return Lab_to_XYZ(unit_to_lab(unit, legacy=legacy))
