"""Lightness, chroma and hues of a correction, on (n, 3) CIELAB colours.

Lightness keeps black and white with a finite slope at both, and takes chroma along, so that a colour
keeps its saturation C*/L*. What a hue is, is OKLab's: a change of lightness or chroma does not turn it.
Shifts of single hues never fold the order of hues.
"""

from __future__ import annotations

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import Lab_to_LCh, LCh_to_Lab
from plinto_core.colorimetry.even_hue import in_its_hue
from plinto_core.corrections.former import NEUTRAL
from plinto_core.corrections.model import Correction, HueBand

_STEEPEST = 0.9
"""Of a hue shift against the order of hues: at 1 two hues would become one."""
_RING = np.arange(0.0, 360.0, 0.5)


def shifted(correction: Correction, lab: Floats) -> Floats:
    """(n, 3) Lab to (n, 3) Lab after lightness, chroma and hues of a correction."""
    if not (correction.lightness or correction.chroma or correction.hues):
        return lab
    lch = Lab_to_LCh(lab)
    lightness, chroma, hue = lch[:, 0], lch[:, 1], lch[:, 2]
    lighter = _lighter(lightness, correction.lightness)
    gain = np.full(chroma.shape, 1.0 + correction.chroma / 100.0)
    for band in correction.hues:
        weight = _near(band, hue, band.width) * _colourful(chroma)
        gain *= 1.0 + weight * band.chroma / 100.0
        lighter = lighter + weight * (_lighter(lighter, 2 * band.lightness) - lighter)
    gain *= np.where(lightness > 1e-6, lighter / np.maximum(lightness, 1e-6), 1.0)
    turned = hue + _colourful(chroma) * _turns(correction.hues, hue)
    start = LCh_to_Lab(np.stack([lightness, chroma, turned], axis=1))
    return in_its_hue(start, lighter, chroma * gain)


def _lighter(lightness: Floats, percent: float) -> Floats:
    """0 and 100 stay, L* 50 goes to 71 at +100 and to 25 at -100; the slope is finite everywhere.

    A fraction a x / (1 + (a - 1) x), whose slope is a at black and 1 / a at white.
    """
    if not percent:
        return lightness
    middle = 0.5 ** (2.0 ** (-percent / 100.0))
    slope = middle / (1.0 - middle)
    x = np.clip(lightness, 0.0, 100.0) / 100.0
    return np.asarray(100.0 * slope * x / (1.0 + (slope - 1.0) * x))


def _near(band: HueBand, hue: Floats, width: float) -> Floats:
    away = np.abs((hue - band.hue + 180.0) % 360.0 - 180.0)
    near = np.clip(1.0 - away / width, 0.0, 1.0)
    return np.asarray(near * near * (3 - 2 * near))


def _colourful(chroma: Floats) -> Floats:
    share = np.clip(chroma / NEUTRAL, 0.0, 1.0)
    return np.asarray(share * share * (3 - 2 * share))


def _turns(bands: tuple[HueBand, ...], hue: Floats) -> Floats:
    """(n,) degrees by which hues turn, in their order.

    A band is widened until its own shift leaves the hues beside it in order (a smoothstep is 1.5 times
    as steep as straight); where bands work against each other, all of them turn less.
    """
    wide = [(b, max(b.width, 1.5 * abs(b.shift) / _STEEPEST)) for b in bands if b.shift]
    if not wide:
        return np.zeros_like(hue)

    def total(at: Floats) -> Floats:
        return np.asarray(sum(_near(b, at, width) * b.shift for b, width in wide))

    ring = total(_RING)
    step = _RING[1] - _RING[0]
    steepest = -float((np.diff(np.append(ring, ring[0])) / step).min())
    return total(hue) * min(1.0, _STEEPEST / max(steepest, 1e-9))
