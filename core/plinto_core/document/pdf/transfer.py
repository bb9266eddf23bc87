"""Transfer functions, which change tones on the way to the plates (ISO 32000-2, 10.5): read, and taken out."""

from __future__ import annotations

import hashlib
from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Any

import numpy as np
import pikepdf

from plinto_core.arrays import Floats
from plinto_core.document.pdf.functions import digest_of, read_function
from plinto_core.errors import BadDocument
from plinto_core.words import say

_PLAIN = ("/Identity", "/Default")
_KEYS = ("/TR2", "/TR")
"""The first that a graphics state has holds."""
_STEPS = 4096
_MOST = 500
"""Sets that are kept for the next time they are met."""
_PROCESS = ("Cyan", "Magenta", "Yellow", "Black")
"""What the four functions of an array are for; those of red, green, blue and grey are the same."""
_ADDITIVE = {"RGB": (0, 1, 2), "grey": (3,)}


@dataclass(frozen=True)
class Transfer:
    """Transfer functions that are in force. curves : (1 or 4, 4097) what comes out at equal steps of an
    additive component 0..1; key : tells it from others."""

    curves: Floats = field(compare=False)
    key: str

    def applied(self, values: Floats, family: str, inks: tuple[str, ...]) -> Floats:
        """(n, channels) destination values 0..1 with the functions in them.

        family : of the destination, as mappers name it; inks : its inks by name, () for RGB and grey. A
        share of ink is taken as the lack of it and the result turned back (10.5.1). Of four functions
        the process inks have one each, other inks none.
        """
        out = np.array(values, dtype=np.float64)
        own = _ADDITIVE.get(family)
        for channel in range(out.shape[1]):
            place = self._place(own[channel] if own is not None else _process(inks[channel]))
            if place is None:
                continue
            given = out[:, channel] if own is not None else 1 - out[:, channel]
            made = np.interp(given, np.linspace(0, 1, _STEPS + 1), self.curves[place])
            out[:, channel] = made if own is not None else 1 - made
        return out

    def _place(self, component: int | None) -> int | None:
        return 0 if len(self.curves) == 1 else component

    def inks_of_none(self, inks: tuple[str, ...]) -> bool:
        """Whether some ink is printed where there is none of it, as by functions that turn tones round."""
        return bool(self.applied(np.zeros((1, len(inks))), "inks", inks).any())


def _process(ink: str) -> int | None:
    return _PROCESS.index(ink) if ink in _PROCESS else None


def has_transfer(state: Any) -> bool:
    """Whether a graphics state sets a transfer function that changes something."""
    return any(key in state and str(state[key]) not in _PLAIN for key in _KEYS)


class Transfers:
    """The transfer functions of a document, each set of them read once."""

    def __init__(self) -> None:
        self._known: dict[str, Transfer | None] = {}

    def after(self, state: Any, present: Transfer | None) -> Transfer | None:
        """The functions in force after a graphics state, None where tones stay as they are.

        present : those in force before it. Raises BadDocument for what is no function.
        """
        key = next((k for k in _KEYS if k in state), None)
        if key is None:
            return present
        digest = digest_of(state[key])
        if digest not in self._known:
            if len(self._known) > _MOST:
                self._known.clear()
            self._known[digest] = _read(state[key])
        return self._known[digest]


def _read(given: Any) -> Transfer | None:
    if not isinstance(given, pikepdf.Array):
        return _made([_curve(given)])
    if len(given) != len(_PROCESS):
        raise BadDocument(say("document.transfer-four", count=len(given)))
    return _made([_curve(one) for one in given])


def _made(curves: list[Floats]) -> Transfer | None:
    stacked = np.array(curves)
    if np.allclose(stacked, np.linspace(0, 1, _STEPS + 1), atol=1e-6):
        return None
    return Transfer(stacked, hashlib.sha256(stacked.tobytes()).hexdigest()[:16])


def _curve(given: Any) -> Floats:
    """(4097,) what a function makes of equal steps 0..1."""
    steps = np.linspace(0, 1, _STEPS + 1)
    if isinstance(given, pikepdf.Name):
        if str(given) not in _PLAIN:
            raise BadDocument(say("document.transfer-no-function"))
        return steps
    if not isinstance(given, pikepdf.Dictionary | pikepdf.Stream):
        raise BadDocument(say("document.transfer-no-function"))
    made = read_function(given)(steps[:, None])
    if made.shape[1] != 1 or not np.isfinite(made).all():
        raise BadDocument(say("document.transfer-no-function"))
    return np.asarray(np.clip(made[:, 0], 0, 1))


def count_transfer(pdf: pikepdf.Pdf, *, remove: bool) -> int:
    """In how many graphics states transfer functions stand; remove : they are taken out of all. Those of
    soft masks stay: they are part of the mask."""
    count = 0
    met: set[tuple[int, int]] = set()
    for state in _states(pdf):
        # A state by itself is met once more for each resources that name it.
        if state.objgen == (0, 0) or state.objgen not in met:
            met.add(state.objgen)
            count += has_transfer(state)
        for key in _KEYS:
            if remove and key in state:
                del state[key]
    return count


def _states(pdf: pikepdf.Pdf) -> Iterator[Any]:
    for thing in pdf.objects:
        if not isinstance(thing, pikepdf.Dictionary | pikepdf.Stream):
            continue
        if str(thing.get("/Type", "")) == "/ExtGState":
            yield thing
        yield from _of_pattern(thing)
        resources = thing.get("/Resources")
        if isinstance(resources, pikepdf.Dictionary):
            group = resources.get("/ExtGState")
            if isinstance(group, pikepdf.Dictionary):
                yield from (s for _, s in group.items() if isinstance(s, pikepdf.Dictionary))
            patterns = resources.get("/Pattern")
            if isinstance(patterns, pikepdf.Dictionary):
                # Those that stand by themselves are among the objects.
                for _, pattern in patterns.items():
                    if pattern.objgen == (0, 0):
                        yield from _of_pattern(pattern)


def _of_pattern(thing: Any) -> Iterator[Any]:
    if isinstance(thing, pikepdf.Dictionary | pikepdf.Stream) and "/PatternType" in thing:
        own = thing.get("/ExtGState")
        if isinstance(own, pikepdf.Dictionary):
            yield own
