"""Small tag types: text, numbers, signatures, named colours (ICC.1:2022, clause 10)."""

from __future__ import annotations

import struct
from dataclasses import dataclass

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.errors import BadProfile
from plinto_core.icc import reader
from plinto_core.words import say


@dataclass(frozen=True)
class NamedColours:
    """namedColor2Type: names, PCS values (n, 3) encoded 0..1 and device values (n, m)."""

    names: tuple[str, ...]
    pcs: Floats
    device: Floats


def parse_text(data: bytes) -> str:
    """Text of a text, desc or mluc tag; the English record is preferred."""
    kind = reader.signature(data, 0)
    if kind == "text":
        return reader.ascii_text(data[8:])
    if kind == "desc":
        count = reader.u32(data, 8)
        return reader.ascii_text(data[12 : 12 + min(count, len(data))])
    if kind == "mluc":
        return _parse_mluc(data)
    raise BadProfile(say("icc.text-type", kind=kind))


def _parse_mluc(data: bytes) -> str:
    count, record = reader.u32(data, 8), reader.u32(data, 12)
    if record < 12 or count > 4096:
        raise BadProfile(say("icc.texts-damaged"))
    found: dict[str, str] = {}
    for i in range(count):
        at = 16 + i * record
        language = reader.signature(data, at)[:2]
        length, offset = reader.u32(data, at + 4), reader.u32(data, at + 8)
        reader.need(data, offset, length, "a text")
        raw = data[offset : offset + length].decode("utf-16-be", errors="replace")
        found.setdefault(language, raw.rstrip("\0"))
    return found.get("en") or next(iter(found.values()), "")


def pack_desc(text: str) -> bytes:
    """textDescriptionType (ICC.1:2001-04, 6.5.17), ASCII part only."""
    raw = text.encode("ascii", "replace") + b"\0"
    return b"desc" + struct.pack(">II", 0, len(raw)) + raw + bytes(8 + 3 + 67)


def pack_mluc(text: str) -> bytes:
    """multiLocalizedUnicodeType with one English record."""
    raw = text.encode("utf-16-be")
    return (
        b"mluc" + struct.pack(">III", 0, 1, 12) + b"enGB" + struct.pack(">II", len(raw), 28) + raw
    )


def pack_text(text: str) -> bytes:
    return b"text" + bytes(4) + text.encode("ascii", "replace") + b"\0"


def parse_xyz(data: bytes) -> Floats:
    """XYZType as (n, 3)."""
    if reader.signature(data, 0) != "XYZ ":
        raise BadProfile(say("icc.tristimulus-type"))
    count = (len(data) - 8) // 12
    if count < 1:
        raise BadProfile(say("icc.tristimulus-empty"))
    return reader.s15fixed16(data, 8, 3 * count).reshape(count, 3)


def pack_xyz(xyz: Floats) -> bytes:
    values = np.round(np.asarray(xyz, float).ravel() * 65536).astype(">i4")
    return b"XYZ " + bytes(4) + values.tobytes()


def parse_sf32(data: bytes) -> Floats:
    """s15Fixed16ArrayType."""
    if reader.signature(data, 0) != "sf32":
        raise BadProfile(say("icc.numbers-type"))
    return reader.s15fixed16(data, 8, (len(data) - 8) // 4)


def pack_sf32(values: Floats) -> bytes:
    fixed = np.round(np.asarray(values, float).ravel() * 65536).astype(">i4")
    return b"sf32" + bytes(4) + fixed.tobytes()


def parse_named(data: bytes) -> NamedColours:
    """namedColor2Type (ICC.1:2022, 10.17)."""
    if reader.signature(data, 0) != "ncl2":
        raise BadProfile(say("icc.named-type"))
    count, channels = reader.u32(data, 12), reader.u32(data, 16)
    record = 32 + 6 + 2 * channels
    if channels > 15 or count * record > len(data):
        raise BadProfile(say("icc.named-claims"))
    # A blank at the end of the prefix parts it from the name.
    prefix, suffix = (d.split(b"\0")[0].decode("latin-1") for d in (data[20:52], data[52:84]))
    reader.need(data, 84, count * record, "a named colour list")
    names, pcs, device = [], [], []
    for i in range(count):
        at = 84 + i * record
        names.append(prefix + reader.ascii_text(data[at : at + 32]) + suffix)
        pcs.append(reader.u16_array(data, at + 32, 3))
        device.append(reader.u16_array(data, at + 38, channels))
    return NamedColours(
        tuple(names), np.array(pcs).reshape(count, 3), np.array(device).reshape(count, channels)
    )
