"""Colour space signatures (ICC.1:2022, 7.2.6 table 19) and their channel counts."""

from __future__ import annotations

from typing import Literal, get_args

CHANNELS: dict[str, int] = {
    "XYZ ": 3, "Lab ": 3, "Luv ": 3, "YCbr": 3, "Yxy ": 3, "RGB ": 3, "GRAY": 1, "HSV ": 3,
    "HLS ": 3, "CMYK": 4, "CMY ": 3, "1CLR": 1, "2CLR": 2, "3CLR": 3, "4CLR": 4, "5CLR": 5,
    "6CLR": 6, "7CLR": 7, "8CLR": 8, "9CLR": 9, "ACLR": 10, "BCLR": 11, "CCLR": 12, "DCLR": 13,
    "ECLR": 14, "FCLR": 15,
}  # fmt: skip

CLASSES: dict[str, str] = {
    "scnr": "input",
    "mntr": "display",
    "prtr": "output",
    "link": "device link",
    "spac": "colour space",
    "abst": "abstract",
    "nmcl": "named colour",
}

Intent = Literal["perceptual", "relative", "saturation", "absolute"]
INTENTS: tuple[Intent, ...] = get_args(Intent)
INTENT_WORDS: dict[str, str] = {
    "perceptual": "perceptual",
    "relative": "relative colorimetric",
    "saturation": "saturation",
    "absolute": "absolute colorimetric",
}

Family = Literal["RGB", "CMYK", "grey", "Lab", "spot"]
"""Colour spaces as rules and screens name them; spot holds every ink that is none of the others."""
FAMILIES: tuple[Family, ...] = get_args(Family)
FAMILY_OF: dict[str, Family] = {"RGB ": "RGB", "CMYK": "CMYK", "GRAY": "grey", "Lab ": "Lab"}
"""The family of a signature; signatures that are not here have none."""
SIGNATURE_OF: dict[str, str] = {family: signature for signature, family in FAMILY_OF.items()}


def said(space: str) -> str:
    """What people call a space: its family, or how many inks it has."""
    if space.endswith("CLR"):
        return "one ink" if CHANNELS[space] == 1 else f"{CHANNELS[space]} inks"
    return FAMILY_OF.get(space, space.strip())


PCS_SPACES = ("XYZ ", "Lab ")

_NAMES: dict[str, tuple[str, ...]] = {
    "RGB ": ("R", "G", "B"),
    "GRAY": ("Grey",),
    "CMYK": ("C", "M", "Y", "K"),
    "CMY ": ("C", "M", "Y"),
    "Lab ": ("L", "a", "b"),
    "XYZ ": ("X", "Y", "Z"),
}


def channel_names(space: str) -> tuple[str, ...]:
    """Short channel names of a space; numbers for n-colour spaces."""
    if space in _NAMES:
        return _NAMES[space]
    return tuple(str(i + 1) for i in range(CHANNELS[space]))


def space_of_channels(count: int) -> str:
    """The n-colour signature of `count` inks, CMYK for four."""
    if count == 4:
        return "CMYK"
    return f"{count:X}CLR"


def is_subtractive(space: str) -> bool:
    """Whether full values of the space mean most ink (white is zero)."""
    return space in ("CMYK", "CMY ") or space.endswith("CLR")
