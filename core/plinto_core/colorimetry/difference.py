"""Colour differences: CIE 1976 (ISO/CIE 11664-4), CIE 1994 (CIE 116), CMC (ISO 105-J03), CIEDE2000
(ISO/CIE 11664-6), and their parts in lightness, chroma and hue."""

from __future__ import annotations

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.fields import Part
from plinto_core.kernels.difference import ciede2000


def delta_e_76(lab1: Floats, lab2: Floats) -> Floats:
    """Euclidean distance of (..., 3) Lab pairs."""
    diff = np.asarray(lab1, float) - np.asarray(lab2, float)
    return np.asarray(np.sqrt((diff**2).sum(-1)))


def delta_e_2000(lab1: Floats, lab2: Floats) -> Floats:
    """CIEDE2000 of (..., 3) Lab pairs, kL = kC = kH = 1; shapes broadcast."""
    one, two = np.broadcast_arrays(np.asarray(lab1, float), np.asarray(lab2, float))
    flat1 = np.ascontiguousarray(one.reshape(-1, 3))
    flat2 = np.ascontiguousarray(two.reshape(-1, 3))
    return np.asarray(ciede2000(flat1, flat2).reshape(one.shape[:-1]))


def lch_parts(lab1: Floats, lab2: Floats) -> tuple[Floats, Floats, Floats]:
    """dL*, dC*ab and dH*ab of (..., 3) Lab pairs, the second less the first; dH has the sign of the turn.

    Their squares sum up to that of the 1976 difference.
    """
    one, two = np.asarray(lab1, float), np.asarray(lab2, float)
    c1, c2 = np.hypot(one[..., 1], one[..., 2]), np.hypot(two[..., 1], two[..., 2])
    turn = one[..., 1] * two[..., 2] - one[..., 2] * two[..., 1]
    square = ((two - one)[..., 1:] ** 2).sum(-1) - (c2 - c1) ** 2
    hue = np.sign(turn) * np.sqrt(np.maximum(square, 0.0))
    return two[..., 0] - one[..., 0], c2 - c1, hue


def delta_e_94(lab1: Floats, lab2: Floats) -> Floats:
    """CIE 1994 of (..., 3) Lab pairs for graphic arts, kL = kC = kH = 1; the first is the reference."""
    lightness, chroma, hue = lch_parts(lab1, lab2)
    c1 = np.hypot(np.asarray(lab1, float)[..., 1], np.asarray(lab1, float)[..., 2])
    weighted = (chroma / (1 + 0.045 * c1)) ** 2 + (hue / (1 + 0.015 * c1)) ** 2
    return np.asarray(np.sqrt(lightness**2 + weighted))


def delta_e_cmc(lab1: Floats, lab2: Floats, lightness: float = 2.0, chroma: float = 1.0) -> Floats:
    """CMC(l:c) of (..., 3) Lab pairs, 2:1 as for acceptability; the first is the reference."""
    one = np.asarray(lab1, float)
    d_l, d_c, d_h = lch_parts(lab1, lab2)
    l1, c1 = one[..., 0], np.hypot(one[..., 1], one[..., 2])
    hue = np.degrees(np.arctan2(one[..., 2], one[..., 1])) % 360
    f = np.sqrt(c1**4 / (c1**4 + 1900.0))
    bluish = (hue >= 164) & (hue <= 345)
    t = np.where(
        bluish,
        0.56 + np.abs(0.2 * np.cos(np.radians(hue + 168))),
        0.36 + np.abs(0.4 * np.cos(np.radians(hue + 35))),
    )
    s_l = np.where(l1 < 16, 0.511, 0.040975 * l1 / (1 + 0.01765 * l1))
    s_c = 0.0638 * c1 / (1 + 0.0131 * c1) + 0.638
    s_h = s_c * (f * t + 1 - f)
    return np.asarray(
        np.sqrt((d_l / (lightness * s_l)) ** 2 + (d_c / (chroma * s_c)) ** 2 + (d_h / s_h) ** 2)
    )


class Differences(Part):
    """Colour differences in few figures; samples : how many there were, None where it was not kept."""

    mean: float
    p95: float
    p99: float
    max: float
    samples: int | None = None


def in_figures(errors: Floats) -> Differences:
    """(n,) differences, n > 0, to their mean, 95th and 99th percentile and maximum."""
    return Differences(
        mean=round(float(errors.mean()), 4),
        p95=round(float(np.percentile(errors, 95)), 4),
        p99=round(float(np.percentile(errors, 99)), 4),
        max=round(float(errors.max()), 4),
        samples=int(errors.size),
    )
