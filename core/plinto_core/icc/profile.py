"""An ICC profile as header plus lazily parsed tags (ICC.1:2022, clause 7)."""

from __future__ import annotations

import hashlib
from collections.abc import Mapping
from functools import cached_property
from pathlib import Path

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.errors import BadProfile
from plinto_core.icc import reader, values
from plinto_core.icc.curves import Curve, parse_curve
from plinto_core.icc.elements import Elements, parse_elements
from plinto_core.icc.header import D50, IccHeader
from plinto_core.icc.spaces import CHANNELS
from plinto_core.icc.tables import Table, parse_mab, parse_mft
from plinto_core.words import say

MAX_TAGS = 200
MAX_SIZE = 256 << 20
A2B = ("A2B0", "A2B1", "A2B2", "A2B1")
B2A = ("B2A0", "B2A1", "B2A2", "B2A1")
"""Table tags by intent; absolute uses the colorimetric table (ICC.1:2022, 8.10.2)."""
D2B = ("D2B0", "D2B1", "D2B2", "D2B3")
B2D = ("B2D0", "B2D1", "B2D2", "B2D3")
"""Float tables by intent, which go before the others; absolute may have one of its own."""


_COLOUR_TAGS = {
    *(f"{way}{n}" for way in ("A2B", "B2A", "D2B", "B2D") for n in range(4)),
    *(f"{c}{kind}" for c in "rgb" for kind in ("TRC", "XYZ")), "kTRC", "wtpt", "chad", "ncl2",
}  # fmt: skip


class Profile:
    """A parsed profile. Construction reads header and tag directory and bounds both."""

    def __init__(self, data: bytes) -> None:
        if len(data) > MAX_SIZE:
            raise BadProfile(say("icc.file-large"))
        self.data = bytes(data)
        self.header = IccHeader.parse(self.data)
        self.directory = self._parse_directory()
        self._tables: dict[str, Table] = {}
        self._elements: dict[str, Elements] = {}
        self._unread: dict[str, bool] = {}

    def without_floats(self) -> Profile:
        """The same profile with its float tables passed over, as recipes of former methods read it."""
        if not set(self.directory) & {*D2B, *B2D}:
            return self
        plain = Profile(self.data)
        plain.directory = {t: at for t, at in self.directory.items() if t not in (*D2B, *B2D)}
        return plain

    @classmethod
    def read(cls, path: Path | str) -> Profile:
        """Read a profile file; raises BadProfile, also where the file cannot be read."""
        try:
            if Path(path).stat().st_size > MAX_SIZE:
                raise BadProfile(say("icc.file-large"))
            return cls(Path(path).read_bytes())
        except OSError as error:
            raise BadProfile(say("icc.file-unreadable", file=Path(path).name)) from error

    def _parse_directory(self) -> dict[str, tuple[int, int]]:
        count = reader.u32(self.data, 128)
        if count > MAX_TAGS:
            raise BadProfile(say("icc.tag-count", count=count))
        tags: dict[str, tuple[int, int]] = {}
        for i in range(count):
            at = 132 + 12 * i
            name = reader.signature(self.data, at)
            offset, size = reader.u32(self.data, at + 4), reader.u32(self.data, at + 8)
            if offset + size > len(self.data):
                raise BadProfile(say("icc.tag-beyond", tag=name))
            tags.setdefault(name, (offset, size))
        return tags

    @cached_property
    def digest(self) -> str:
        """SHA-256 of the file, the profile's identity in recipes and caches."""
        return hashlib.sha256(self.data).hexdigest()

    @cached_property
    def colour_digest(self) -> str:
        """SHA-256 of all that decides colours: two profiles that differ only in names, dates,
        copyright or embedded data share it."""
        parts = [self.header.device_class, self.header.colour_space, self.header.pcs]
        parts.append(str(self.header.version[0]))
        sha = hashlib.sha256("\0".join(parts).encode())
        for tag in sorted(self.directory):
            if tag in _COLOUR_TAGS:
                sha.update(tag.encode() + self.raw(tag))
        return sha.hexdigest()

    @property
    def colour_space(self) -> str:
        return self.header.colour_space

    @property
    def channels(self) -> int:
        return CHANNELS[self.header.colour_space]

    def __contains__(self, tag: str) -> bool:
        return tag in self.directory

    def raw(self, tag: str) -> bytes:
        """The bytes of a tag; raises BadProfile where it is missing."""
        if tag not in self.directory:
            raise BadProfile(say("icc.tag-missing", tag=tag))
        offset, size = self.directory[tag]
        return self.data[offset : offset + size]

    def table(self, tag: str) -> Table:
        """The table of an A2Bx, B2Ax or gamt tag."""
        if tag not in self._tables:
            data = self.raw(tag)
            kind = reader.signature(data, 0)
            if kind in ("mft1", "mft2"):
                self._tables[tag] = parse_mft(data)
            elif kind in ("mAB ", "mBA "):
                self._tables[tag] = parse_mab(data)
            else:
                raise BadProfile(say("icc.tag-type", tag=tag, kind=kind))
        return self._tables[tag]

    def elements(self, tag: str) -> Elements:
        """The float table of a D2Bx or B2Dx tag; raises BadProfile where it cannot be read."""
        if tag not in self._elements:
            self._elements[tag] = parse_elements(self.raw(tag))
        return self._elements[tag]

    def curve(self, tag: str) -> Curve:
        return parse_curve(self.raw(tag))[0]

    def xyz(self, tag: str) -> Floats:
        """The first tristimulus value of a tag, (3,)."""
        return np.asarray(values.parse_xyz(self.raw(tag))[0])

    def text(self, tag: str, default: str = "") -> str:
        if tag not in self.directory:
            return default
        try:
            return values.parse_text(self.raw(tag))
        except BadProfile:
            return default

    @property
    def description(self) -> str:
        return self.text("desc") or "unnamed profile"

    @property
    def is_v4(self) -> bool:
        return self.header.version[0] >= 4

    @property
    def is_matrix_shaper(self) -> bool:
        """Whether the profile's forward side is a matrix with tone curves, or grey with one."""
        if self.colour_space == "GRAY":
            return "kTRC" in self
        tags = ("rXYZ", "gXYZ", "bXYZ", "rTRC", "gTRC", "bTRC")
        return self.colour_space == "RGB " and all(t in self for t in tags)

    @property
    def media_white(self) -> Floats:
        """Media white, XYZ, adapted to D50; D50 itself for v2 displays and where none is given."""
        if "wtpt" not in self or (not self.is_v4 and self.header.device_class == "mntr"):
            return D50.copy()
        return self.xyz("wtpt")

    def forward_tag(self, intent: int) -> str | None:
        """The tag used from device to PCS for an intent 0..3, or None for matrix and grey."""
        return self._table_tag(A2B, intent)

    def backward_tag(self, intent: int) -> str | None:
        """The tag used from PCS to device for an intent 0..3, or None for matrix and grey."""
        return self._table_tag(B2A, intent)

    def forward_table(self, intent: int) -> str | None:
        """The tag that leads to the PCS, float or not; None for matrix and grey."""
        return self.float_forward(intent) or self.forward_tag(intent)

    def backward_table(self, intent: int) -> str | None:
        """The tag that leads to the device, float or not; None for matrix and grey."""
        return self.float_backward(intent) or self.backward_tag(intent)

    def float_forward(self, intent: int) -> str | None:
        """The float table used from device to PCS for an intent 0..3, None where there is none.

        One that cannot be read, or with elements that the standard does not know, is passed over for the
        table beside it, as the standard says (8.10.2); `check` tells of it.
        """
        return self._float_tag(D2B, intent)

    def float_backward(self, intent: int) -> str | None:
        """The float table used from PCS to device for an intent 0..3, None where there is none."""
        return self._float_tag(B2D, intent)

    def _float_tag(self, tags: tuple[str, ...], intent: int) -> str | None:
        # What is absolute follows from the relative table and the medium's white too.
        for tag in (tags[intent], tags[1]) if intent == 3 else (tags[intent],):
            if tag in self and self.reads(tag):
                return tag
        return None

    def reads(self, tag: str) -> bool:
        """Whether a float table can be read and run."""
        if tag not in self._unread:
            try:
                self.elements(tag)
                self._unread[tag] = False
            except BadProfile:
                self._unread[tag] = True
        return not self._unread[tag]

    def _table_tag(self, tags: Mapping[int, str] | tuple[str, ...], intent: int) -> str | None:
        if tags[intent] in self:
            return tags[intent]
        return tags[0] if tags[0] in self else None
