"""Hue that stays when chroma goes: in CIELAB blues turn purple as they get duller, in OKLab hardly.

OKLab: B. Ottosson, A perceptual color space for image processing (2020), matrices as published.
IPT: F. Ebner and M. Fairchild, Development and testing of a color space (IPT) with improved hue
uniformity, 6th Color Imaging Conference (1998); it serves to judge what works in OKLab.
"""

from __future__ import annotations

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.adaptation import bradford
from plinto_core.colorimetry.cielab import D50, Lab_to_XYZ, XYZ_to_Lab
from plinto_core.kernels.chroma import scale_for_chroma

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


def OKLab_to_XYZ(oklab: Floats) -> Floats:
    """The inverse of XYZ_to_OKLab."""
    cones = (oklab @ np.linalg.inv(_OK).T) ** 3
    return np.asarray(cones @ np.linalg.inv(_OK_CONES).T @ np.linalg.inv(_TO_D65).T)


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


def in_sight(lab: Floats) -> np.ndarray:
    """(..., 3) CIELAB to (...,) whether a colour stimulates all three cones, so that OKLab holds."""
    grey = (Lab_to_XYZ(lab * np.array([1.0, 0.0, 0.0])) @ _TO_D65.T @ _OK_CONES.T).min(axis=-1)
    least = (Lab_to_XYZ(lab) @ _TO_D65.T @ _OK_CONES.T).min(axis=-1)
    return np.asarray(least >= _LEAST_CONE * grey)


_BLUEST = np.array([0.07, 0.15])
"""Least stimulus of the first two cones, as shares of the third's: no light has less, but for a violet of
450 nm and below, which no surface and no lamp for pictures has alone."""

_LIGHTER = 0.8
"""How much more light a colour gets that lacks one of the two wholly: CIELAB of a profile ends at b* -128, and
the bluest of a wide RGB lies beyond."""


def made_real(lab: Floats) -> Floats:
    """(n, 3) CIELAB, colours that are darker and bluer than light can be replaced by the bluest light with
    the same stimulus of the blue cones: they become lighter and stay as blue."""
    cones = Lab_to_XYZ(np.asarray(lab, dtype=np.float64)) @ _TO_D65.T @ _OK_CONES.T
    least = _BLUEST * np.maximum(cones[:, 2:], 0.0)
    hidden = (cones[:, :2] < least).any(axis=1)
    if not hidden.any():
        return np.asarray(lab, dtype=np.float64)
    lacking = np.max((least - cones[:, :2]) / np.maximum(least, 1e-12), axis=1)
    cones[:, :2] = np.maximum(cones[:, :2], least)
    cones *= 1.0 + _LIGHTER * np.clip(lacking, 0.0, 1.0)[:, None]
    real = XYZ_to_Lab(cones @ np.linalg.inv(_OK_CONES).T @ np.linalg.inv(_TO_D65).T)
    return np.where(hidden[:, None], real, lab)


def brought_in_sight(lab: Floats) -> Floats:
    """(..., 3) CIELAB, colours that no eye sees replaced by the most chromatic one of their lightness
    and CIELAB hue that stimulates all three cones."""
    lab = np.asarray(lab, dtype=np.float64)
    hidden = ~in_sight(lab)
    if not hidden.any():
        return lab
    out = lab.copy()
    beyond = lab[hidden]
    share, step = np.ones(len(beyond)), 0.5
    seen = beyond
    for _ in range(9):
        seen = beyond * np.stack([np.ones_like(share), share, share], axis=-1)
        share = np.where(in_sight(seen), np.minimum(share + step, 1.0), share - step)
        step *= 0.5
    out[hidden] = seen
    return out


_START, _WIDEST, _HALVINGS = 0.25, 4.0, 18
"""OKLab chroma of lightness 1 that is scaled, by how much at most, and how closely the scale is sought."""


def even_hue(lab: Floats) -> Floats:
    """(..., 3) CIELAB to (...,) OKLab hue in degrees.

    Colours that no eye sees, as the corners of a table are, have the hue of the one that is seen below
    them.
    """
    return hue_of(XYZ_to_OKLab(Lab_to_XYZ(brought_in_sight(lab))))


def in_its_hue(lab: Floats, lightness: Floats, chroma: Floats) -> Floats:
    """(n, 3) Lab of another (n,) L* and C*ab, and the OKLab hue that the colours have."""
    return in_hue(even_hue(lab), lightness, chroma)


def in_hue(hue: Floats, lightness: Floats, chroma: Floats) -> Floats:
    """(n, 3) Lab of (n,) OKLab hues in degrees, L* and C*ab.

    OKLab's chroma is scaled at its own lightness, and the light then made more or less, which leaves
    OKLab's hue as it is; the scale is sought for which C*ab comes out as wanted. What no eye sees any
    more lies straight on from there in CIELAB.
    """
    ok = _opponents(hue, np.full(np.shape(hue), _START))
    luminance = Lab_to_XYZ(np.stack([lightness, 0 * lightness, 0 * lightness], axis=1))[:, 1]
    cones = _OK_CONES @ _TO_D65
    opponent = np.empty((len(ok), 2))
    scale_for_chroma(
        ok, np.linalg.inv(_OK), np.asarray(np.linalg.inv(cones)), np.asarray(cones), D50, luminance,
        np.ascontiguousarray(chroma), _LEAST_CONE, _WIDEST, _HALVINGS, opponent,
    )  # fmt: skip
    there = np.hypot(opponent[:, 0], opponent[:, 1])
    rest = np.where(there > 1e-9, chroma / np.maximum(there, 1e-9), 0.0)
    return np.concatenate([np.asarray(lightness)[:, None], opponent * rest[:, None]], axis=1)


def lab_of_hue(hue: Floats, lightness: Floats, saturation: Floats) -> Floats:
    """(n, 3) Lab of (n,) OKLab hues in degrees, L*, and OKLab's chroma as a share of its lightness."""
    xyz = OKLab_to_XYZ(_opponents(hue, saturation))
    luminance = Lab_to_XYZ(np.stack([lightness, 0 * lightness, 0 * lightness], axis=1))[:, 1]
    return XYZ_to_Lab(xyz * (luminance / np.maximum(xyz[:, 1], 1e-9))[:, None])


def _opponents(hue: Floats, chroma: Floats) -> Floats:
    """(n, 3) OKLab of lightness 1."""
    angle = np.radians(hue)
    return np.stack([np.ones_like(angle), chroma * np.cos(angle), chroma * np.sin(angle)], axis=1)


def turn(degrees: Floats) -> Floats:
    """A difference of hues the short way round, -180 to 180."""
    return np.asarray((np.asarray(degrees) + 180.0) % 360.0 - 180.0)
