"""What a link says of itself beside its table: the profiles it was made of, and figures as text."""

from __future__ import annotations

import struct
from collections.abc import Mapping, Sequence

from plinto_core.icc.profile import Profile
from plinto_core.icc.values import pack_mluc

_RECORD = 16
"""Bytes of a record without display names: offset and size of name and of value."""


def pack_sequence(profiles: Sequence[Profile]) -> bytes:
    """profileSequenceDescType (ICC.1:2022, 10.19): the profiles a link was made of, in their order."""
    out = b"pseq" + bytes(4) + struct.pack(">I", len(profiles))
    for profile in profiles:
        header = profile.header
        out += header.manufacturer.encode("latin-1")[:4].ljust(4, b"\0")
        out += header.model.encode("latin-1")[:4].ljust(4, b"\0")
        out += struct.pack(">Q", header.attributes)
        out += profile.raw("tech")[8:12] if "tech" in profile else bytes(4)
        for text in ("", profile.description):
            named = pack_mluc(text)
            out += named + bytes(-len(named) % 4)
    return out


def pack_dictionary(entries: Mapping[str, str]) -> bytes:
    """dictType (ICC.1:2022, 10.9), the contents of the metadataTag: names with values, in UTF-16."""
    head = b"dict" + bytes(4) + struct.pack(">II", len(entries), _RECORD)
    place = len(head) + _RECORD * len(entries)
    records, texts = b"", b""
    for pair in entries.items():
        for text in pair:
            data = text.encode("utf-16-be")
            records += struct.pack(">II", place + len(texts), len(data))
            texts += data + bytes(-len(data) % 4)
    return head + records + texts


def parse_dictionary(data: bytes) -> dict[str, str]:
    """The entries of a dictType; empty for anything else."""
    if data[:4] != b"dict" or len(data) < 16:
        return {}
    count, size = struct.unpack_from(">II", data, 8)
    found = {}
    for i in range(min(count, 1000)):
        at = 16 + i * size
        if size < _RECORD or at + _RECORD > len(data):
            break
        name, name_size, value, value_size = struct.unpack_from(">4I", data, at)
        key, text = (
            data[a : a + n].decode("utf-16-be", "replace")
            for a, n in ((name, name_size), (value, value_size))
        )
        found[key] = text
    return found
