"""Gamut mapping by chroma and lightness compression with a knee (CIE 156, and Morovic 2008, ch. 10).

Lightness is fitted above the medium's black with a parabola that leaves light tones alone.
Colours move along rays towards a grey: near-neutral ones at their own lightness, vivid ones
leaning towards the lightness at which their hue is most chromatic. Up to the knee they stay;
beyond, they run asymptotically towards the boundary, so that steps stay steps however saturated
the source is, and no source gamut has to be known.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import Lab_to_LCh, LCh_to_Lab
from plinto_core.colorimetry.even_hue import even_hue, turn
from plinto_core.gamut.boundary import GamutBoundary


@dataclass(frozen=True)
class MappingLook:
    """knee : share of the way to the boundary that is kept as it is; boost : factor on chroma
    before; towards_cusp : how far rays of vivid colours lean towards the cusp's lightness."""

    knee: float
    boost: float
    towards_cusp: float


LOOKS: dict[str, MappingLook] = {
    "perceptual": MappingLook(knee=0.77, boost=1.0, towards_cusp=0.9),
    "saturation": MappingLook(knee=0.9, boost=1.12, towards_cusp=0.9),
}
_TURNS = 5
_UNSURE = 4.0
"""C*ab at which a hue is half followed: near the greys it is noise."""
_BEYOND = 12.0
"""Distance from the boundary, in L* and C*ab, from which a clipped colour is turned in full."""
_IN_LEAF = 1.4
"""Of chroma against lightness where a colour is clipped. For 1 vivid colours stay as light and lose more
chroma, for 2 they turn darker; the mean dE00 is least between."""
_OUTSIDE = 0.3
"""Of the way from the boundary to a colour outside that its aim lies out there."""
_GREYISH = 20.0
"""C*ab at which a colour too dark to print no longer counts as a grey."""
_BLACKISH = 4.7
"""L* below which chroma fades: the blues there have twenty times as much of it as lightness, and no table
has nodes enough to follow them."""
_VIVID = 40.0
"""Chroma at which rays lean half way; near-neutral colours keep their lightness."""


def compress_lightness(lightness: Floats, lowest: float) -> Floats:
    """L* 0..100 to lowest..100: slope 1 in the lights, a parabola in the shadows."""
    turn = min(100.0, max(50.0, 2.6 * lowest))
    below = np.clip(turn - lightness, 0.0, turn)
    return np.asarray(lightness + lowest * (below / turn) ** 2)


def map_colours(lab: Floats, boundary: GamutBoundary, look: MappingLook) -> Floats:
    """(n, 3) Lab of the source, black at L* 0, to Lab near or inside the boundary.

    The hue that stays is OKLab's: the CIELAB hue along which a colour moves is turned until what
    comes out has it, more and more for colours that are not near the greys. Just above black chroma fades.
    """
    lab = np.array(lab)
    lab[:, 1:] *= 1.0 - (1.0 - np.clip(lab[:, :1] / _BLACKISH, 0.0, 1.0)) ** 3
    lch = Lab_to_LCh(lab)
    lightness = compress_lightness(np.clip(lch[:, 0], 0, 100), boundary.lowest)
    chroma = np.maximum(lch[:, 1] * look.boost, 1e-6)
    hue = lch[:, 2].copy()
    wanted = even_hue(lab)
    sure = chroma**2 / (chroma**2 + _UNSURE**2)
    for _ in range(_TURNS):
        drift = turn(even_hue(_along_rays(lightness, chroma, hue, boundary, look)) - wanted)
        hue -= 0.8 * sure * np.clip(drift, -30.0, 30.0)
    return _along_rays(lightness, chroma, hue, boundary, look)


def _along_rays(
    lightness: Floats, chroma: Floats, hue: Floats, boundary: GamutBoundary, look: MappingLook
) -> Floats:
    """(n, 3) Lab: compressed along the ray of each colour at a CIELAB hue in degrees."""
    vivid = chroma**2 / (chroma**2 + _VIVID**2)
    focus = lightness + look.towards_cusp * vivid * (boundary.cusp(hue) - lightness)
    far = 1.0 / boundary.along(focus, lightness, chroma, hue)
    room = 1.0 - look.knee
    over = np.clip(far - look.knee, 0.0, None)
    kept = np.minimum(far, look.knee) + room * (1.0 - np.exp(-over / room))
    share = kept / far
    return LCh_to_Lab(np.stack([focus + share * (lightness - focus), share * chroma, hue], axis=1))


def hold_hue(lab: Floats, boundary: GamutBoundary) -> Floats:
    """(n, 3) Lab aims for clipping, from colours of anywhere; those inside the boundary stay.

    A colour outside aims near the boundary's nearest colour of its own hue, which is OKLab's: left to
    itself the nearest one lies in another, where the medium is darker or more colourful. It aims a part of
    the way outside of it, so that small differences of hue may still be traded. Greys darker than the
    darkest that prints aim at that one, since a still darker colour would have a cast.

    boundary : not rounded.
    """
    lch = Lab_to_LCh(lab)
    grey = np.exp(-((lch[:, 1] / _GREYISH) ** 2))
    lightness = np.clip(lch[:, 0], 0.0, 100.0)
    lightness += grey * (np.maximum(lightness, boundary.lowest) - lightness)
    chroma, hue = lch[:, 1], lch[:, 2].copy()
    wanted = even_hue(lab)
    for _ in range(_TURNS):
        nearest, reached = boundary.in_leaf(lightness, chroma, hue, _IN_LEAF)
        over = np.clip(np.hypot(lightness - nearest, chroma - reached) / _BEYOND, 0.0, 1.0)
        held = LCh_to_Lab(np.stack([nearest, np.maximum(reached, 1e-6), hue], axis=1))
        hue -= 0.8 * over * np.clip(turn(even_hue(held) - wanted), -30.0, 30.0)
    nearest, reached = boundary.in_leaf(lightness, chroma, hue, _IN_LEAF)
    return LCh_to_Lab(
        np.stack(
            [
                nearest + _OUTSIDE * (lightness - nearest),
                reached + _OUTSIDE * (chroma - reached),
                hue,
            ],
            axis=1,
        )
    )
