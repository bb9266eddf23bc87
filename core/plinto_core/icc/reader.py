"""Bounded big-endian reading of ICC numbers (ICC.1:2022, clause 4)."""

from __future__ import annotations

import struct

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.errors import BadProfile
from plinto_core.words import say


def need(data: bytes, offset: int, size: int, what: str) -> None:
    """Raise BadProfile unless `data` holds `size` bytes at `offset`."""
    if offset < 0 or size < 0 or offset + size > len(data):
        raise BadProfile(say("icc.ends-inside", part=what))


def u8(data: bytes, offset: int) -> int:
    need(data, offset, 1, "a number")
    return data[offset]


def u16(data: bytes, offset: int) -> int:
    need(data, offset, 2, "a number")
    return int(struct.unpack_from(">H", data, offset)[0])


def u32(data: bytes, offset: int) -> int:
    need(data, offset, 4, "a number")
    return int(struct.unpack_from(">I", data, offset)[0])


def signature(data: bytes, offset: int) -> str:
    """A four-character signature; bytes outside Latin-1 cannot occur."""
    need(data, offset, 4, "a signature")
    return data[offset : offset + 4].decode("latin-1")


def s15fixed16(data: bytes, offset: int, count: int) -> Floats:
    """`count` s15Fixed16Numbers as float64."""
    need(data, offset, 4 * count, "fixed point numbers")
    return np.frombuffer(data, ">i4", count, offset).astype(np.float64) / 65536.0


def u16_array(data: bytes, offset: int, count: int) -> Floats:
    """`count` uInt16Numbers scaled to 0..1."""
    need(data, offset, 2 * count, "a table")
    return np.frombuffer(data, ">u2", count, offset).astype(np.float64) / 65535.0


def f32(data: bytes, offset: int, count: int) -> Floats:
    """`count` float32Numbers as float64; raises BadProfile where one is no finite number."""
    need(data, offset, 4 * count, "float numbers")
    values = np.frombuffer(data, ">f4", count, offset).astype(np.float64)
    if not np.isfinite(values).all():
        raise BadProfile(say("icc.float-not-finite"))
    return values


def u8_array(data: bytes, offset: int, count: int) -> Floats:
    """`count` uInt8Numbers scaled to 0..1."""
    need(data, offset, count, "a table")
    return np.frombuffer(data, "u1", count, offset).astype(np.float64) / 255.0


def ascii_text(data: bytes) -> str:
    """Text up to its first NUL."""
    return data.split(b"\0", 1)[0].decode("latin-1").strip()
