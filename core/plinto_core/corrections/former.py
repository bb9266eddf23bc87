"""Lightness, chroma and hues as recipes of the methods 1 and 2 have them corrected.

Kept so that those recipes run to the bytes they gave. Lightness is a power of L*, steep at black;
chroma and hue are CIELAB's, so that blues turn when their chroma changes; steep shifts of a narrow
band may fold the order of hues.
"""

from __future__ import annotations

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import Lab_to_LCh
from plinto_core.corrections.model import Correction, HueBand

NEUTRAL = 12.0
"""C*ab below which a hue's change fades, since neutral colours have no hue."""


def shifted_formerly(correction: Correction, lab: Floats) -> Floats:
    """(n, 3) Lab to (n, 3) Lab."""
    if not (correction.lightness or correction.chroma or correction.hues):
        return lab
    lch = Lab_to_LCh(lab)
    lightness, chroma, hue = lch[:, 0], lch[:, 1], lch[:, 2]
    lightness = _lighter(lightness, correction.lightness)
    gain = np.full(chroma.shape, 1.0 + correction.chroma / 100.0)
    turn = np.zeros_like(hue)
    for band in correction.hues:
        weight = _hue_weight(band, chroma, hue)
        turn += weight * band.shift
        gain *= 1.0 + weight * band.chroma / 100.0
        lightness = lightness + weight * (_lighter(lightness, 2 * band.lightness) - lightness)
    angle = np.radians(hue + turn)
    chroma = chroma * gain
    return np.stack([lightness, chroma * np.cos(angle), chroma * np.sin(angle)], axis=1)


def _lighter(lightness: Floats, percent: float) -> Floats:
    """A power of L*: 0 and 100 stay, L* 50 goes to 71 at +100 and to 25 at -100."""
    if not percent:
        return lightness
    power = 2.0 ** (-percent / 100.0)
    return np.asarray(100.0 * (np.clip(lightness, 0.0, 100.0) / 100.0) ** power)


def _hue_weight(band: HueBand, chroma: Floats, hue: Floats) -> Floats:
    away = np.abs((hue - band.hue + 180.0) % 360.0 - 180.0)
    near = np.clip(1.0 - away / band.width, 0.0, 1.0)
    colourful = np.clip(chroma / NEUTRAL, 0.0, 1.0)
    return np.asarray(near * near * (3 - 2 * near) * colourful * colourful * (3 - 2 * colourful))
