"""Bounds that keep hostile documents from filling the memory: one reader for all that is unpacked."""

from __future__ import annotations

import zlib
from collections.abc import Iterator
from typing import Any

import pikepdf

from plinto_core.errors import BadDocument
from plinto_core.words import say

_MOST_BYTES = 40 << 20
"""Of a page's or form's content: walking takes 26 times as much memory, and a second for 1.5 MB."""
MOST_OF_AN_IMAGE = 800 << 20
"""Of 8-bit samples; deeper ones weigh twice, as what is made of them does."""
_MOST_COLOURS = 250_000
"""Different colours that a stream sets: each is converted and kept, some 4 kB."""
_MOST_WORK = 4_000_000_000
"""Steps of calculator functions for one value each, of a document: some ten seconds."""
MOST_OF_A_PROFILE = 64 << 20
MOST_OF_A_FUNCTION = 64 << 20
MOST_OF_A_MESH = 256 << 20
MOST_OF_A_PALETTE = 1 << 20
_FLATE = ("/FlateDecode", "/Fl")
_STEEPEST = 1032
"""Times that deflated data can grow at most."""
_STEP = 1 << 20
_FED = 1 << 16


class _Bounds:
    """times : how much farther than usual documents may go that are known to be good; work : steps of
    calculator functions that the document at hand has taken."""

    times = 1.0
    work = 0


def widen(times: float) -> None:
    """Let documents go so many times as far, in this process."""
    _Bounds.times = times


def begin_document() -> None:
    """A document is opened: its work is counted from nothing."""
    _Bounds.work = 0


def spend(steps: int) -> None:
    """Count steps of calculator functions; raises BadDocument where the document takes too many."""
    _Bounds.work += steps
    if _Bounds.work > _MOST_WORK * _Bounds.times:
        raise BadDocument(say("document.calculator-work"))


def check_colours(count: int) -> None:
    """Raise BadDocument where a stream sets more different colours than are kept."""
    most = int(_MOST_COLOURS * _Bounds.times)
    if count > most:
        raise BadDocument(say("document.colours-many", count=count, most=most))


def check_image(width: int, height: int, channels: int, bits: int) -> None:
    """Raise BadDocument for an image whose samples would fill the memory."""
    row = width * channels * bits // 8
    if row * height * (2 if bits > 8 else 1) > MOST_OF_AN_IMAGE * _Bounds.times:
        raise _too_much("An image")


def read_bounded(stream: Any, most: int, what: str) -> bytes:
    """The unpacked bytes of a stream; raises BadDocument where they would be more than `most`.

    Deflated data are unpacked step by step and thrown away before they are unpacked for good, layer by
    layer where they were packed several times; what cannot grow that far is not looked at.
    """
    check_unpacked(stream, most, what)
    data = bytes(stream.read_bytes())
    if len(data) > most * _Bounds.times:
        raise _too_much(what)
    return data


def check_unpacked(stream: Any, most: int, what: str) -> None:
    """Raise BadDocument where a stream would unpack to more than `most` bytes, or as many times that as the
    bounds are widened."""
    most = int(most * _Bounds.times)
    raw = stream.read_raw_bytes()
    filters = stream.get("/Filter")
    if filters is None:
        names = []
    else:
        names = [str(n) for n in (filters if isinstance(filters, pikepdf.Array) else [filters])]
    layers = 0
    while layers < len(names) and names[layers] in _FLATE:
        layers += 1
    data = raw
    for layer in range(layers):
        if len(data) * _STEEPEST ** (layers - layer) <= most:
            return
        last = layer == layers - 1
        data = _inflated(data, most, what, keep=not last)
    if layers == 0 and len(raw) > most:
        raise _too_much(what)


def inflated_steps(data: bytes) -> Iterator[bytes]:
    """Deflated data unpacked, at most _STEP bytes at a time; raises zlib.error where they are damaged.

    They are fed in small pieces: what a piece has left over is copied at every step.
    """
    unpacker = zlib.decompressobj()
    for start in range(0, len(data), _FED):
        piece = data[start : start + _FED]
        while piece:
            yield unpacker.decompress(piece, _STEP)
            if unpacker.eof:
                # What stands behind the end would be left over again and again.
                return
            piece = unpacker.unconsumed_tail


def _inflated(data: bytes, most: int, what: str, *, keep: bool) -> bytes:
    """Deflated data unpacked in steps and never beyond `most`; b"" where nothing is kept of them."""
    parts: list[bytes] = []
    total = 0
    try:
        for part in inflated_steps(data):
            total += len(part)
            if total > most:
                raise _too_much(what)
            if keep:
                parts.append(part)
    except zlib.error:
        pass
    return b"".join(parts)


def _too_much(what: str) -> BadDocument:
    return BadDocument(say("document.unpacks-large", what=what))


def check_size_of_stream(source: Any) -> None:
    """Refuse content that would unpack to more than is walked, before it is unpacked; the parts of a page
    count together."""
    target = source.obj.get("/Contents") if isinstance(source, pikepdf.Page) else source
    parts = list(target) if isinstance(target, pikepdf.Array) else [target]
    for part in parts:
        if isinstance(part, pikepdf.Stream):
            check_unpacked(part, _MOST_BYTES, "A page")
    packed = sum(len(p.read_raw_bytes()) for p in parts if isinstance(p, pikepdf.Stream))
    if len(parts) > 1 and packed * _STEEPEST > _MOST_BYTES * _Bounds.times:
        total = 0
        for part in parts:
            if isinstance(part, pikepdf.Stream):
                total += len(part.read_bytes())
                if total > _MOST_BYTES * _Bounds.times:
                    raise _too_much("A page")
