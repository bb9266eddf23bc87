"""What a print makes of the families of hues: which lose how much."""

from __future__ import annotations

import numpy as np
from pydantic import BaseModel, ConfigDict

from plinto_core.arrays import Floats
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.gamut.outside import shares_by_way, way_out

FAMILIES = ("greys", "skin", "reds and oranges", "yellows", "greens", "blues", "purples")
_GREY = 8.0
"""C*ab up to which a colour is seen as grey rather than as a hue."""
_SKIN = ((40.0, 88.0), (8.0, 42.0), (30.0, 78.0))
"""L*, C*ab and hue angle between which light and dark skin lies in pictures."""
_FAR = 15.0
"""Mean dE00 from which a family has no near print: a colour of another name. The dullest press of four inks
stays below, a screen less does not."""
_SOME = 2.0
"""Percent of the picture that is worth a word."""
_EDGES = (345.0, 70.0, 105.0, 190.0, 300.0)
"""CIELAB hue angles at which reds and oranges, yellows, greens, blues and purples begin."""


class FamilyLoss(BaseModel):
    """share : percent of the colours that belong to it; chroma_original, chroma_aim, chroma_printed : mean
    C*ab of the artwork as it came, after corrections, and in print; chroma_kept : the last in percent of the
    first; de00_mean : mean difference; out : percent of the family that is out of gamut; far : whether a part
    of the picture that counts has no near print."""

    model_config = ConfigDict(frozen=True)

    family: str
    share: float
    chroma_original: float
    chroma_aim: float
    chroma_printed: float
    chroma_kept: float
    de00_mean: float
    out: float
    far: bool = False


def family_of(lab: Floats) -> np.ndarray:
    """(n, 3) Lab to (n,) places in FAMILIES."""
    chroma = np.hypot(lab[:, 1], lab[:, 2])
    hue = np.degrees(np.arctan2(lab[:, 2], lab[:, 1])) % 360
    turned = (hue - _EDGES[0]) % 360
    edges = [(e - _EDGES[0]) % 360 for e in _EDGES[1:]]
    found = 2 + np.searchsorted(edges, turned, side="right")
    (dark, light), (dull, vivid), (red, yellow) = _SKIN
    skin = (lab[:, 0] >= dark) & (lab[:, 0] <= light) & (chroma >= dull) & (chroma <= vivid)
    found[skin & (hue >= red) & (hue <= yellow)] = 1
    found[chroma <= _GREY] = 0
    return np.asarray(found)


def family_losses(original: Floats, aim: Floats, printed: Floats, miss: Floats) -> list[FamilyLoss]:
    """Losses of every family that is there.

    original, aim, printed : (n, 3) Lab of the artwork as it came, after corrections, and in print; miss :
    (n, 3) as gamut_miss.
    """
    families = family_of(aim)
    errors = delta_e_2000(aim, printed)
    chroma = [np.hypot(lab[:, 1], lab[:, 2]) for lab in (original, aim, printed)]
    away = way_out(miss) >= 0
    found = []
    for i, name in enumerate(FAMILIES):
        these = families == i
        if not these.any():
            continue
        came, aimed, left = (float(c[these].mean()) for c in chroma)
        kept = 100.0 if came < 0.5 else left / came * 100
        share, apart = float(these.mean()) * 100, float(errors[these].mean())
        found.append(
            FamilyLoss(
                family=name,
                share=round(share, 1),
                chroma_original=round(came, 1),
                chroma_aim=round(aimed, 1),
                chroma_printed=round(left, 1),
                chroma_kept=round(kept, 0),
                de00_mean=round(apart, 1),
                far=name != "greys" and share >= _SOME and apart >= _FAR,
                out=round(float(away[these].mean()) * 100, 1),
            )
        )
    return found


def shares_out(miss: Floats) -> dict[str, float]:
    """Percent of the colours that are out of gamut, in all and by way: out_of_gamut, too_vivid, too_dark,
    too_light."""
    vivid, dark, light = (share * 100 for share in shares_by_way(miss))
    return {
        "out_of_gamut": round(vivid + dark + light, 1),
        "too_vivid": round(vivid, 1),
        "too_dark": round(dark, 1),
        "too_light": round(light, 1),
    }
