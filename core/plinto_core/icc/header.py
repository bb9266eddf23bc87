"""Profile header (ICC.1:2022, 7.2; ICC.1:2001-04, 6.1)."""

from __future__ import annotations

import struct
from dataclasses import dataclass, field

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.errors import BadProfile
from plinto_core.icc import reader
from plinto_core.icc.spaces import CHANNELS, CLASSES, PCS_SPACES
from plinto_core.words import say

HEADER_SIZE = 128
D50 = np.array([0.9642, 1.0, 0.8249])
"""XYZ of the PCS white, Y = 1 (ICC.1:2022, 7.2.16)."""


@dataclass(frozen=True)
class IccHeader:
    """The 128 bytes that open a profile."""

    size: int
    version: tuple[int, int, int]
    device_class: str
    colour_space: str
    pcs: str
    created: tuple[int, int, int, int, int, int] = (2026, 1, 1, 0, 0, 0)
    cmm: str = "\0\0\0\0"
    platform: str = "\0\0\0\0"
    flags: int = 0
    manufacturer: str = "\0\0\0\0"
    model: str = "\0\0\0\0"
    attributes: int = 0
    rendering_intent: int = 0
    illuminant: Floats = field(default_factory=lambda: D50.copy())
    creator: str = "\0\0\0\0"
    profile_id: bytes = bytes(16)

    @classmethod
    def parse(cls, data: bytes) -> IccHeader:
        """Read and bound-check the header; raises BadProfile."""
        if len(data) < HEADER_SIZE + 4:
            raise BadProfile(say("icc.too-short", count=len(data)))
        if data[36:40] != b"acsp":
            raise BadProfile(say("icc.no-signature"))
        device_class = reader.signature(data, 12)
        colour_space = reader.signature(data, 16)
        pcs = reader.signature(data, 20)
        if device_class not in CLASSES:
            raise BadProfile(say("icc.class-unknown", kind=device_class))
        if colour_space not in CHANNELS:
            raise BadProfile(say("icc.space-unknown", space=colour_space))
        if device_class == "link":
            if pcs not in CHANNELS:
                raise BadProfile(say("icc.link-space-unknown", space=pcs))
        elif pcs not in PCS_SPACES:
            raise BadProfile(say("icc.pcs-unknown", space=pcs))
        return cls(
            size=reader.u32(data, 0),
            cmm=reader.signature(data, 4),
            version=(data[8], data[9] >> 4, data[9] & 15),
            device_class=device_class,
            colour_space=colour_space,
            pcs=pcs,
            created=struct.unpack_from(">6H", data, 24),
            platform=reader.signature(data, 40),
            flags=reader.u32(data, 44),
            manufacturer=reader.signature(data, 48),
            model=reader.signature(data, 52),
            attributes=struct.unpack_from(">Q", data, 56)[0],
            rendering_intent=reader.u32(data, 64),
            illuminant=reader.s15fixed16(data, 68, 3),
            creator=reader.signature(data, 80),
            profile_id=bytes(data[84:100]),
        )

    def pack(self) -> bytes:
        """The 128 bytes of this header."""
        out = bytearray(HEADER_SIZE)
        struct.pack_into(">I", out, 0, self.size)
        out[4:8] = self.cmm.encode("latin-1")
        out[8] = self.version[0]
        out[9] = (self.version[1] << 4) | self.version[2]
        out[12:16] = self.device_class.encode("latin-1")
        out[16:20] = self.colour_space.encode("latin-1")
        out[20:24] = self.pcs.encode("latin-1")
        struct.pack_into(">6H", out, 24, *self.created)
        out[36:40] = b"acsp"
        out[40:44] = self.platform.encode("latin-1")
        struct.pack_into(">I", out, 44, self.flags)
        out[48:52] = self.manufacturer.encode("latin-1")
        out[52:56] = self.model.encode("latin-1")
        struct.pack_into(">Q", out, 56, self.attributes)
        struct.pack_into(">I", out, 64, self.rendering_intent)
        fixed = np.round(np.asarray(self.illuminant) * 65536).astype(">i4")
        out[68:80] = fixed.tobytes()
        out[80:84] = self.creator.encode("latin-1")
        out[84:100] = self.profile_id
        return bytes(out)
