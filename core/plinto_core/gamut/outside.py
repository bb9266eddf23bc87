"""How far a colour lies outside what a profile can print, and in which way."""

from __future__ import annotations

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.gamut.body import THRESHOLD
from plinto_core.gamut.of_profile import gamut_of
from plinto_core.icc.profile import Profile

WAYS = ("vivid", "dark", "light")
"""The three ways of being out of gamut: too vivid, too dark, too light."""

__all__ = ["THRESHOLD", "WAYS", "gamut_distance", "gamut_miss", "shares_by_way", "way_out"]


def gamut_distance(profile: Profile, lab: Floats) -> Floats:
    """(n, 3) media-relative Lab to (n,) dE00 to the nearest colour that prints, 0 inside the gamut."""
    return delta_e_2000(lab, gamut_of(profile).printable(lab))


def gamut_miss(profile: Profile, lab: Floats) -> Floats:
    """(n, 3) media-relative Lab to (n, 3) dE00 by which it is too vivid, too dark and too light.

    Judged by the boundary of the forward side, whatever the backward tables make of the colour. The way
    is the larger part of what leads to the nearest colour that prints: its hue and chroma, or its
    lightness; the other two are 0, so that the sum is the distance. Black point compensation has no part
    in it: it moves the question, and not the gamut.
    """
    printed = gamut_of(profile).printable(lab)
    moved = lab - printed
    coloured = np.hypot(moved[:, 1], moved[:, 2])
    way = np.where(coloured >= np.abs(moved[:, 0]), 0, np.where(moved[:, 0] < 0, 1, 2))
    out = np.zeros_like(moved)
    out[np.arange(len(out)), way] = delta_e_2000(lab, printed)
    return np.asarray(out)


def way_out(miss: Floats) -> np.ndarray:
    """(n, 3) misses by way to (n,) the way of WAYS in which a colour is out of gamut, -1 where it is not.

    Misses that were interpolated may have several ways at once: the sum decides whether a colour is out,
    the largest part in which way, so that no colour counts twice.
    """
    return np.where(miss.sum(axis=1) > THRESHOLD, miss.argmax(axis=1), -1)


def shares_by_way(miss: Floats) -> tuple[float, float, float]:
    """Shares 0..1 of colours that are too vivid, too dark and too light."""
    ways = way_out(miss)
    vivid, dark, light = (float((ways == i).mean()) for i in range(3))
    return vivid, dark, light
