"""Bounds that keep hostile documents from filling the memory: one reader for all that is unpacked."""

from __future__ import annotations

import zlib
from collections.abc import Iterator
from typing import Any

import pikepdf

from plinto_core.errors import BadDocument
from plinto_core.words import say

_MOST_BYTES = 400 << 20
"""Of a page's or form's content."""
MOST_OF_A_PROFILE = 64 << 20
MOST_OF_A_FUNCTION = 64 << 20
MOST_OF_A_MESH = 256 << 20
MOST_OF_A_PALETTE = 1 << 20
_FLATE = ("/FlateDecode", "/Fl")
_STEEPEST = 1032
"""Times that deflated data can grow at most."""
_STEP = 1 << 20
_FED = 1 << 16


def read_bounded(stream: Any, most: int, what: str) -> bytes:
    """The unpacked bytes of a stream; raises BadDocument where they would be more than `most`.

    Deflated data are unpacked step by step and thrown away before they are unpacked for good, layer by
    layer where they were packed several times; what cannot grow that far is not looked at.
    """
    check_unpacked(stream, most, what)
    data = bytes(stream.read_bytes())
    if len(data) > most:
        raise _too_much(what)
    return data


def check_unpacked(stream: Any, most: int, what: str) -> None:
    """Raise BadDocument where a stream would unpack to more than `most` bytes."""
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
    """Refuse content that would unpack to hundreds of megabytes, before it is unpacked."""
    target = source.obj.get("/Contents") if isinstance(source, pikepdf.Page) else source
    for part in list(target) if isinstance(target, pikepdf.Array) else [target]:
        if isinstance(part, pikepdf.Stream):
            check_unpacked(part, _MOST_BYTES, "A page")
