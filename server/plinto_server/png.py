"""Pictures for the screen: PNG, fast rather than small, with the screen's profile in it."""

from __future__ import annotations

import struct
import zlib
from functools import lru_cache

import imagecodecs
import numpy as np

from plinto_core.arrays import Pixels
from plinto_core.icc import Profile

_HEADER = 33
"""Bytes of the signature and the IHDR chunk, after which iCCP may stand (PNG, 5.6)."""


def encode(pixels: Pixels, profile: Profile | None = None) -> bytes:
    """(rows, columns, 1 or 3) uint8 to PNG; `profile` is embedded."""
    plain = bytes(imagecodecs.png_encode(np.ascontiguousarray(pixels), level=1))
    if profile is None:
        return plain
    return plain[:_HEADER] + _profile_chunk(profile.data) + plain[_HEADER:]


@lru_cache(maxsize=8)
def _profile_chunk(data: bytes) -> bytes:
    body = b"iCCP" + b"screen\0\0" + zlib.compress(data, 6)
    return struct.pack(">I", len(body) - 4) + body + struct.pack(">I", zlib.crc32(body))
