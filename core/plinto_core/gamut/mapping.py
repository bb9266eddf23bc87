"""Gamut mapping by chroma and lightness compression with a knee (CIE 156, and Morovic 2008, ch. 10).

Lightness is fitted above the medium's black with a parabola that leaves light tones alone.
Chroma is kept up to the knee and then runs asymptotically towards the boundary, so that steps
stay steps however saturated the source is; no source gamut has to be known.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import Lab_to_LCh, LCh_to_Lab
from plinto_core.gamut.boundary import GamutBoundary


@dataclass(frozen=True)
class MappingLook:
    """knee : share of the boundary's chroma kept as it is; boost : factor on chroma before;
    towards_cusp : share of the way by which colours beyond the boundary move to the cusp's L*."""

    knee: float
    boost: float
    towards_cusp: float


LOOKS: dict[str, MappingLook] = {
    "perceptual": MappingLook(knee=0.7, boost=1.0, towards_cusp=0.25),
    "saturation": MappingLook(knee=0.9, boost=1.12, towards_cusp=0.5),
}


def compress_lightness(lightness: Floats, lowest: float) -> Floats:
    """L* 0..100 to lowest..100: slope 1 in the lights, a parabola in the shadows."""
    turn = min(100.0, max(50.0, 2.6 * lowest))
    below = np.clip(turn - lightness, 0.0, turn)
    return np.asarray(lightness + lowest * (below / turn) ** 2)


def map_colours(lab: Floats, boundary: GamutBoundary, look: MappingLook) -> Floats:
    """(n, 3) Lab of the source, black at L* 0, to Lab near or inside the boundary."""
    lch = Lab_to_LCh(lab)
    lightness = compress_lightness(np.clip(lch[:, 0], 0, 100), boundary.lowest)
    chroma = lch[:, 1] * look.boost
    hue = lch[:, 2]
    limit = np.maximum(boundary.at(lightness, hue), 1e-3)
    excess = np.clip(chroma / limit - look.knee, 0.0, None)
    pull = look.towards_cusp * (1 - np.exp(-excess))
    lightness = lightness + pull * (boundary.cusp(hue) - lightness)
    limit = np.maximum(boundary.at(lightness, hue), 1e-3)
    knee = look.knee * limit
    room = limit - knee
    over = np.clip(chroma - knee, 0.0, None)
    chroma = np.minimum(chroma, knee) + room * (1 - np.exp(-over / room))
    return LCh_to_Lab(np.stack([lightness, chroma, hue], axis=1))
