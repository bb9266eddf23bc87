"""A list of swatches: named colours in one space, in the units people use."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.errors import BadInput
from plinto_core.icc.spaces import CHANNELS, channel_names, is_subtractive
from plinto_core.words import Said, say

MOST = 200_000
"""Swatches in one list."""
_LONGEST = 120


@dataclass(frozen=True)
class Swatches:
    """space : a signature such as "RGB " or "Lab ", no XYZ; values : (n, channels), RGB and grey 0..255,
    inks 0..100, Lab as L* a* b*; names : n of them; places : (n, 2) x and y in the picture they were
    taken from, in pixels, nan for a colour that has none, or None; notes : what a reader should know of where they come from.
    """

    space: str
    values: Floats
    names: tuple[str, ...]
    places: Floats | None = None
    title: str = ""
    notes: tuple[Said, ...] = ()

    @property
    def columns(self) -> tuple[str, ...]:
        return channel_names(self.space)

    @property
    def digest(self) -> str:
        """SHA-256 of space, values and names: what lists are told apart by."""
        said = "\0".join((self.space, *self.names)).encode()
        return hashlib.sha256(said + np.ascontiguousarray(self.values).tobytes()).hexdigest()

    def __len__(self) -> int:
        return int(self.values.shape[0])


def swatches(
    space: str,
    values: Floats,
    names: list[str] | None = None,
    *,
    places: Floats | None = None,
    title: str = "",
    notes: tuple[Said, ...] = (),
) -> Swatches:
    """A checked list; colours without a name are numbered. Raises BadInput with the row at fault."""
    if space not in CHANNELS or space == "XYZ ":
        raise BadInput(say("swatches.space-unknown", space=space.strip()[:20]))
    values = np.asarray(values, dtype=np.float64)
    if values.ndim != 2 or values.shape[1] != CHANNELS[space]:
        raise BadInput(say("swatches.space-values", space=space.strip(), channels=CHANNELS[space]))
    if not 0 < len(values) <= MOST:
        wording = "swatches.list-size" if len(values) else "swatches.list-empty-given"
        raise BadInput(say(wording, count=len(values), most=MOST))
    low, high = bounds(space)
    wrong = ~(np.isfinite(values) & (values >= low - 0.01) & (values <= high + 0.01)).all(axis=1)
    if wrong.any():
        row = int(np.argmax(wrong))
        said = " ".join(f"{v:g}" for v in values[row])
        wording = "swatches.lab-outside" if space == "Lab " else "swatches.colour-outside"
        raise BadInput(
            say(wording, row=row + 1, colour=said, space=space.strip(), top=float(high[0]))
        )
    values = np.clip(values, low, high)
    given = names or [""] * len(values)
    named = tuple(
        " ".join(name.split())[:_LONGEST] or str(row) for row, name in enumerate(given, 1)
    )
    return Swatches(space, values, named, places, " ".join(title.split())[:200], notes)


def bounds(space: str) -> tuple[Floats, Floats]:
    """Lowest and highest value of every channel."""
    if space == "Lab ":
        return np.array([0.0, -200.0, -200.0]), np.array([150.0, 200.0, 200.0])
    top = 100.0 if is_subtractive(space) else 255.0
    return np.zeros(CHANNELS[space]), np.full(CHANNELS[space], top)
