"""Hue that stays when chroma goes: in CIELAB blues turn purple as they get duller, in OKLab hardly.

OKLab: B. Ottosson, A perceptual color space for image processing (2020), matrices as published.
IPT: F. Ebner and M. Fairchild, Development and testing of a color space (IPT) with improved hue
uniformity, 6th Color Imaging Conference (1998); it serves to judge what works in OKLab.
"""

from __future__ import annotations

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.adaptation import bradford
from plinto_core.colorimetry.cielab import D50, Lab_to_XYZ

_D65 = np.array([0.3127 / 0.3290, 1.0, (1 - 0.3127 - 0.3290) / 0.3290])
_TO_D65 = bradford(D50, _D65)
_OK_CONES = np.array(
    [
        [0.8189330101, 0.3618667424, -0.1288597137],
        [0.0329845436, 0.9293118715, 0.0361456387],
        [0.0482003018, 0.2643662691, 0.6338517070],
    ]
)
_OK = np.array(
    [
        [0.2104542553, 0.7936177850, -0.0040720468],
        [1.9779984951, -2.4285922050, 0.4505937099],
        [0.0259040371, 0.7827717662, -0.8086757660],
    ]
)
_IPT_CONES = np.array([[0.4002, 0.7075, -0.0807], [-0.2280, 1.1500, 0.0612], [0.0, 0.0, 0.9184]])
_IPT = np.array([[0.4, 0.4, 0.2], [4.455, -4.851, 0.396], [0.8056, 0.3572, -1.1628]])


def XYZ_to_OKLab(xyz: Floats) -> Floats:
    """(..., 3) XYZ under D50, Y 1 for white, to OKLab."""
    return np.asarray(np.cbrt(xyz @ _TO_D65.T @ _OK_CONES.T) @ _OK.T)


def XYZ_to_IPT(xyz: Floats) -> Floats:
    """(..., 3) XYZ under D50, Y 1 for white, to IPT."""
    cones = xyz @ _TO_D65.T @ _IPT_CONES.T
    return np.asarray(np.sign(cones) * np.abs(cones) ** 0.43 @ _IPT.T)


def hue_of(opponent: Floats) -> Floats:
    """(..., 3) of a lightness and two opponent axes to (...,) degrees, -180 to 180."""
    return np.degrees(np.arctan2(opponent[..., 2], opponent[..., 1]))


_LEAST_CONE = 0.15
"""Of the grey of the same lightness: nearer to zero and below it OKLab bends and folds, for colours
that no eye sees or hardly."""


def even_hue(lab: Floats) -> Floats:
    """(..., 3) CIELAB to (...,) OKLab hue in degrees.

    Colours that no eye sees, as the corners of a table are, have the hue of the most chromatic
    colour of their lightness and CIELAB hue that stimulates all three cones.
    """
    lab = np.asarray(lab, dtype=np.float64)
    share, step = np.ones(lab.shape[:-1]), 0.5
    grey = (Lab_to_XYZ(lab * [1.0, 0.0, 0.0]) @ _TO_D65.T @ _OK_CONES.T).min(axis=-1)
    seen = lab
    for _ in range(9):
        seen = lab * np.stack([np.ones_like(share), share, share], axis=-1)
        least = (Lab_to_XYZ(seen) @ _TO_D65.T @ _OK_CONES.T).min(axis=-1)
        good = least >= _LEAST_CONE * grey
        share = np.where(good, np.minimum(share + step, 1.0), share - step)
        step *= 0.5
    return hue_of(XYZ_to_OKLab(Lab_to_XYZ(seen)))


def turn(degrees: Floats) -> Floats:
    """A difference of hues the short way round, -180 to 180."""
    return np.asarray((np.asarray(degrees) + 180.0) % 360.0 - 180.0)
