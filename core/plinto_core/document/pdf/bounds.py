"""Bounds that keep hostile documents from filling the memory."""

from __future__ import annotations

import zlib
from typing import Any

import pikepdf

from plinto_core.errors import BadDocument

_MOST_BYTES = 400 << 20
_WORTH_A_LOOK = 100_000


def check_size_of_stream(source: Any) -> None:
    """Refuse a stream that would unpack to hundreds of megabytes, before it is unpacked."""
    target = source.obj.get("/Contents") if isinstance(source, pikepdf.Page) else source
    parts = list(target) if isinstance(target, pikepdf.Array) else [target]
    total = 0
    for part in parts:
        if not isinstance(part, pikepdf.Stream):
            continue
        raw = part.read_raw_bytes()
        if len(raw) < _WORTH_A_LOOK or str(part.get("/Filter", "")) != "/FlateDecode":
            total += len(raw)
            continue
        unpacker = zlib.decompressobj()
        chunk = raw
        while chunk and total <= _MOST_BYTES:
            try:
                total += len(unpacker.decompress(chunk, 1 << 22))
            except zlib.error:
                break
            chunk = unpacker.unconsumed_tail
    if total > _MOST_BYTES:
        raise BadDocument("A page of the document unpacks to more than is read.")
