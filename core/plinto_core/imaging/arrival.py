"""What a picture shows when it comes in: clipped channels, transparency, depth really used."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field

import numpy as np

from plinto_core.arrays import Pixels
from plinto_core.icc.spaces import is_subtractive
from plinto_core.imaging.facts import PictureFacts

CLIPPED = 0.01
"""Share of the pixels at a channel's end, above which it counts as clipped."""


@dataclass(frozen=True)
class Arrival:
    """Shares 0..1 of all pixels, a value for every channel.

    at_top, at_bottom : at the ends of the scale where the pixel is not plain white or black;
    transparent : not fully opaque before flattening; eight_bit : a 16-bit file whose values all
    come from 8 bits.
    """

    at_top: tuple[float, ...]
    at_bottom: tuple[float, ...]
    transparent: float
    eight_bit: bool

    def clipped(self, names: tuple[str, ...]) -> list[str]:
        """The channels of which more than a hundredth lies at one end."""
        worst = [max(a, b) for a, b in zip(self.at_top, self.at_bottom, strict=True)]
        return [n for n, w in zip(names, worst, strict=True) if w > CLIPPED]


@dataclass
class ArrivalCheck:
    """Looks at bands while they pass; `result` is complete when all have passed."""

    facts: PictureFacts
    _pixels: int = 0
    _top: np.ndarray = field(init=False)
    _bottom: np.ndarray = field(init=False)
    _transparent: int = 0
    _fine: bool = False

    def __post_init__(self) -> None:
        self._top = np.zeros(self.facts.channels, np.int64)
        self._bottom = np.zeros(self.facts.channels, np.int64)

    def watch(self, bands: Iterator[Pixels]) -> Iterator[Pixels]:
        """The same flattened bands, looked at."""
        for band in bands:
            self._look(band)
            yield band

    def _look(self, band: Pixels) -> None:
        full = np.iinfo(band.dtype).max
        flat = band.reshape(-1, band.shape[2])
        self._pixels += flat.shape[0]
        top, bottom = flat == full, flat == 0
        if band.shape[2] > 1:
            # Plain white and black are meant; a channel alone at its end has lost its steps.
            plain = top.all(axis=1) | bottom.all(axis=1)
            top[plain] = False
            bottom[plain] = False
            if is_subtractive(self.facts.space):
                bottom[:] = False
        self._top += top.sum(axis=0)
        self._bottom += bottom.sum(axis=0)
        if full > 255 and not self._fine:
            self._fine = bool((flat % 257 != 0).any())

    def see_alpha(self, alpha: Pixels) -> None:
        """Count what is not opaque in a band's alpha channel, before it is flattened."""
        self._transparent += int((alpha < np.iinfo(alpha.dtype).max).sum())

    @property
    def result(self) -> Arrival:
        count = max(1, self._pixels)
        return Arrival(
            tuple(float(v) / count for v in self._top),
            tuple(float(v) / count for v in self._bottom),
            self._transparent / count,
            self.facts.bits == 16 and not self._fine,
        )
