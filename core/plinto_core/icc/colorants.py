"""The inks of a profile by name (colorantTableType, ICC.1:2022, 10.4)."""

from __future__ import annotations

import struct
from collections.abc import Sequence

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.errors import BadProfile
from plinto_core.icc import reader
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import channel_names, is_subtractive
from plinto_core.words import say

SHORT = {"cyan": "C", "magenta": "M", "yellow": "Y", "black": "K"}
"""What the process inks are called wherever they stand among others."""
LONG = {short: long.capitalize() for long, short in SHORT.items()}
_LONGEST = 31


def parse_clrt(data: bytes) -> list[str]:
    """Names of a colorantTableType, in the order of the channels."""
    if reader.signature(data, 0) != "clrt":
        raise BadProfile(say("icc.colorants-type"))
    count = reader.u32(data, 8)
    if count > 15:
        raise BadProfile(say("icc.colorants-count", count=count))
    reader.need(data, 12, 38 * count, "the table of colorants")
    return [
        data[12 + 38 * i : 44 + 38 * i].split(b"\0")[0].decode("latin-1").strip()
        for i in range(count)
    ]


def pack_clrt(names: Sequence[str], pcs: Floats) -> bytes:
    """Bytes of a colorantTableType; pcs : (n, 3) values of the solids in the profile's PCS, encoded
    0..1 (legacy Lab in version 2 tables)."""
    out = b"clrt" + struct.pack(">II", 0, len(names))
    for name, row in zip(names, np.clip(pcs, 0, 1), strict=True):
        out += name.encode("latin-1", "replace")[:_LONGEST].ljust(32, b"\0")
        out += np.round(row * 65535).astype(">u2").tobytes()
    return out


def ink_names(profile: Profile) -> tuple[str, ...]:
    """What a profile's channels are called in recipes, rules, plates and reports.

    C, M, Y, K for the process inks, also among others; the colorant table's names for further inks;
    numbers from 1 where the profile names none, or names two alike.
    """
    space = profile.colour_space
    plain = channel_names(space)
    if not is_subtractive(space) or not space.endswith("CLR") or "clrt" not in profile:
        return plain
    try:
        given = parse_clrt(profile.raw("clrt"))
    except BadProfile:
        return plain
    names = tuple(SHORT.get(n.casefold(), " ".join(n.split())) for n in given)
    usable = len(names) == len(plain) and all(names) and len(set(names)) == len(names)
    return names if usable and all(n.isprintable() for n in names) else plain


def inks_of(profile: Profile) -> tuple[str, ...]:
    """The names of a profile's inks, () where its channels are none."""
    return ink_names(profile) if is_subtractive(profile.colour_space) else ()


def black_of(profile: Profile) -> int | None:
    """The place of the ink called black among a profile's channels, None without one."""
    names = inks_of(profile)
    return names.index("K") if "K" in names else None


def long_name(name: str) -> str:
    """An ink's name as one says it: "Cyan" for "C", any other as it is."""
    return LONG.get(name, name)
