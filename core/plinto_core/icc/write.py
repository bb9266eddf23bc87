"""Put a profile together: header, directory, padded tags, profile ID (ICC.1:2022, 7.2 to 7.4)."""

from __future__ import annotations

import hashlib
import struct
from dataclasses import replace

from plinto_core.icc.header import HEADER_SIZE, IccHeader


def write_profile(header: IccHeader, tags: dict[str, bytes]) -> bytes:
    """Bytes of a profile; equal tag data is stored once and shared.

    The profile ID is the MD5 of the file with flags, intent and ID zeroed, for v4 as for v2.
    """
    directory_size = 4 + 12 * len(tags)
    offset = HEADER_SIZE + directory_size
    body = bytearray()
    places: dict[bytes, tuple[int, int]] = {}
    directory = struct.pack(">I", len(tags))
    for name, data in tags.items():
        if data not in places:
            start = offset + len(body)
            pad = -start % 4
            body += bytes(pad) + data
            places[data] = (start + pad, len(data))
        where, size = places[data]
        directory += name.encode("latin-1") + struct.pack(">II", where, size)
    body += bytes(-(offset + len(body)) % 4)
    total = offset + len(body)
    blank = replace(header, size=total, profile_id=bytes(16))
    hashed = replace(blank, flags=0, rendering_intent=0).pack() + directory + bytes(body)
    digest = hashlib.md5(hashed, usedforsecurity=False).digest()
    return replace(blank, profile_id=digest).pack() + directory + bytes(body)
