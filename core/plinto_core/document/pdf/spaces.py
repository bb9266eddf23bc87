"""Colour spaces of a PDF (ISO 32000-2, 8.6) as one frozen description each."""

from __future__ import annotations

import hashlib
from dataclasses import dataclass
from typing import Any

import numpy as np
import pikepdf

from plinto_core.arrays import Floats
from plinto_core.colorimetry.adaptation import bradford
from plinto_core.colorimetry.cielab import D50, Lab_to_XYZ
from plinto_core.document.pdf.bounds import (
    MOST_OF_A_PALETTE,
    MOST_OF_A_PROFILE,
    read_bounded,
)
from plinto_core.document.pdf.functions import Function, digest_of, numbers, read_function
from plinto_core.errors import BadDocument, CoreError
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import FAMILY_OF
from plinto_core.words import Said, say

_DEEPEST = 6
_DEVICE = {
    "/DeviceRGB": ("RGB", 3), "/RGB": ("RGB", 3), "/DeviceCMYK": ("CMYK", 4), "/CMYK": ("CMYK", 4),
    "/DeviceGray": ("grey", 1), "/G": ("grey", 1), "/CalCMYK": ("CMYK", 4),
}  # fmt: skip
_NO_COLOUR = ("All", "None")


@dataclass(frozen=True)
class Calibration:
    """CalRGB and CalGray: gamma, matrix to XYZ (columns A, B, C) and the white it is meant for."""

    white: tuple[float, float, float]
    gamma: tuple[float, ...]
    matrix: tuple[float, ...]


@dataclass(frozen=True)
class ColourSpace:
    """family : RGB, CMYK, grey, Lab, spot or pattern; label : the PDF's own name for it.

    profile : of an ICCBased space; names, alternate, tint : of Separation and DeviceN; base,
    table : of Indexed, table (entries, base channels) 0..1 or Lab; problem : why an embedded
    profile could not be used. `key` tells spaces apart.
    """

    family: str
    label: str
    channels: int
    key: str
    profile: Profile | None = None
    calibration: Calibration | None = None
    names: tuple[str, ...] = ()
    alternate: ColourSpace | None = None
    tint: Function | None = None
    base: ColourSpace | None = None
    table: Floats | None = None
    ranges: tuple[float, ...] = (-100, 100, -100, 100)
    problem: Said | None = None

    @property
    def plates(self) -> tuple[str, ...]:
        """The process inks that a Separation or DeviceN is for, where it names no spot colour;
        "All" and "None" among them. () for all other spaces."""
        named = self.colour.names
        return named if named and all(is_process(n) for n in named) else ()

    @property
    def ruled_as(self) -> str:
        """The family that a policy's rules know the space by: process inks by name are CMYK."""
        return "CMYK" if self.plates else self.colour.family

    @property
    def bare_grey(self) -> bool:
        """Whether it is grey that nothing gives another meaning: black ink, by definition (10.4.2)."""
        return self.family == "grey" and self.profile is None and self.calibration is None

    @property
    def colour(self) -> ColourSpace:
        """The space the colours are in: an Indexed space's base, else itself."""
        return self.base or self

    def plain(self, values: tuple[float, ...]) -> tuple[float, ...]:
        """A colour in `colour`: the entry of a palette that an index names, else as it is."""
        if self.label != "Indexed" or self.table is None:
            return values
        index = min(max(int(values[0]), 0), self.table.shape[0] - 1)
        return tuple(float(v) for v in self.table[index])

    def default_decode(self, bits: int) -> list[float]:
        """The Decode array an image of this space has without one."""
        if self.label == "Indexed":
            return [0.0, float(2**bits - 1)]
        if self.family == "Lab":
            return [0.0, 100.0, *self.ranges]
        return [0.0, 1.0] * self.channels

    def initial(self) -> list[float]:
        """The colour that selecting the space sets (8.6.8)."""
        if self.family == "CMYK":
            return [0.0, 0.0, 0.0, 1.0]
        if self.family == "spot":
            return [1.0] * self.channels
        return [0.0] * self.channels


GREY = ColourSpace("grey", "DeviceGray", 1, "DeviceGray")
RGB = ColourSpace("RGB", "DeviceRGB", 3, "DeviceRGB")
CMYK = ColourSpace("CMYK", "DeviceCMYK", 4, "DeviceCMYK")
_PLAIN = {"grey": GREY, "RGB": RGB, "CMYK": CMYK}


DEFAULTS = {"RGB": "/DefaultRGB", "CMYK": "/DefaultCMYK", "grey": "/DefaultGray"}
"""Names among resources that give device spaces another meaning (8.6.5.6)."""


def default_of(source: Any, resources: Any) -> Any:
    """What gives a device space its meaning where it is not the device's own: the space under its default
    name among the resources; None for any other space and where there is none."""
    if not isinstance(source, pikepdf.Name) or str(source) not in _DEVICE or resources is None:
        return None
    family, channels = _DEVICE[str(source)]
    spaces = resources.get("/ColorSpace")
    found = spaces.get(DEFAULTS[family]) if isinstance(spaces, pikepdf.Dictionary) else None
    if found is None or read_space(found, None, 2).channels != channels:
        return None
    return None if isinstance(found, pikepdf.Name) and str(found) in _DEVICE else found


def read_space(source: Any, resources: Any = None, depth: int = 0) -> ColourSpace:
    """A colour space object or name, looked up in `resources`; raises BadDocument."""
    if depth > _DEEPEST:
        raise BadDocument(say("document.spaces-deep"))
    if isinstance(source, pikepdf.Name):
        return _named(str(source), resources, depth)
    if not isinstance(source, pikepdf.Array) or len(source) == 0:
        raise BadDocument(say("document.space-none"))
    kind = str(source[0])
    if len(source) == 1 or kind in _DEVICE:
        return _named(kind, resources, depth)
    if kind == "/ICCBased":
        return _icc(source[1], resources, depth)
    if kind in ("/Indexed", "/I"):
        return _indexed(source, resources, depth)
    if kind == "/Separation":
        return _spot(source, [source[1]], resources, depth, "Separation")
    if kind == "/DeviceN":
        return _spot(source, list(source[1]), resources, depth, "DeviceN")
    if kind == "/Lab":
        ranges = tuple(numbers(source[1].get("/Range", [-100, 100, -100, 100])))
        if len(ranges) != 4:
            raise BadDocument(say("document.space-none"))
        return ColourSpace("Lab", "Lab", 3, f"Lab{ranges}", ranges=ranges)
    if kind in ("/CalRGB", "/CalGray"):
        return _calibrated(source[1], kind[1:])
    if kind == "/Pattern":
        base = read_space(source[1], resources, depth + 1)
        return ColourSpace("pattern", "Pattern", base.channels, f"Pattern:{base.key}", base=base)
    raise BadDocument(say("document.space-unknown", kind=kind))


def _named(name: str, resources: Any, depth: int) -> ColourSpace:
    spaces = resources.get("/ColorSpace") if resources is not None else None
    if name in _DEVICE:
        family = _DEVICE[name][0]
        default = DEFAULTS[family]
        if spaces is not None and default in spaces and depth < 2:
            found = read_space(spaces[default], None, depth + 2)
            if found.channels == _DEVICE[name][1]:
                return found
        return _PLAIN[family]
    if name == "/Pattern":
        return ColourSpace("pattern", "Pattern", 0, "Pattern")
    if spaces is None or name not in spaces:
        raise BadDocument(say("document.space-undefined", name=name))
    return read_space(spaces[name], resources, depth + 1)


def _icc(stream: Any, resources: Any, depth: int) -> ColourSpace:
    channels = int(stream.get("/N", 0))
    try:
        data = read_bounded(stream, MOST_OF_A_PROFILE, "A profile")
        profile = Profile(data)
        family = FAMILY_OF.get(profile.colour_space)
        if family is None or profile.channels != channels:
            raise BadDocument(say("document.icc-channels"))
    except (CoreError, pikepdf.PdfError) as error:
        fallback = {1: GREY, 3: RGB, 4: CMYK}.get(channels)
        if fallback is None:
            raise BadDocument(say("document.icc-space")) from error
        return ColourSpace(
            fallback.family, "ICCBased", channels, f"{fallback.key}:broken",
            problem=say("document.embedded-unusable", why=error.said if isinstance(error, CoreError) else say("document.damaged")),
        )  # fmt: skip
    return ColourSpace(family, "ICCBased", channels, f"ICC:{profile.digest}", profile=profile)


def _indexed(source: Any, resources: Any, depth: int) -> ColourSpace:
    if len(source) < 4:
        raise BadDocument(say("document.indexed-incomplete"))
    base = read_space(source[1], resources, depth + 1)
    top = min(int(source[2]), 255)
    if top < 0:
        raise BadDocument(say("document.indexed-incomplete"))
    lookup = source[3]
    data = (
        read_bounded(lookup, MOST_OF_A_PALETTE, "A palette")
        if isinstance(lookup, pikepdf.Stream)
        else bytes(lookup)
    )
    needed = (top + 1) * base.channels
    data = data[:needed].ljust(needed, b"\0")
    table = np.frombuffer(data, np.uint8).reshape(top + 1, base.channels) / 255.0
    if base.family == "Lab":
        low = np.array([0.0, base.ranges[0], base.ranges[2]])
        high = np.array([100.0, base.ranges[1], base.ranges[3]])
        table = low + table * (high - low)
    digest = hashlib.sha256(data).hexdigest()[:16]
    return ColourSpace(
        base.family, "Indexed", 1, f"Indexed:{base.key}:{digest}", base=base, table=table
    )


def _spot(source: Any, names: list[Any], resources: Any, depth: int, label: str) -> ColourSpace:
    if len(source) < 4:
        raise BadDocument(say("document.spot-incomplete"))
    alternate = read_space(source[2], resources, depth + 1)
    plain = tuple(str(n).removeprefix("/") for n in names)
    if not 1 <= len(plain) <= 32:
        raise BadDocument(say("document.spot-names"))
    tint = read_function(source[3])
    return ColourSpace(
        "spot", label, len(plain), f"{label}:{plain}:{alternate.key}:{digest_of(source[3])}",
        names=plain, alternate=alternate, tint=tint,
    )  # fmt: skip


def _calibrated(source: Any, label: str) -> ColourSpace:
    white = numbers(source.get("/WhitePoint", [0.9642, 1, 0.8249]))
    if len(white) != 3 or min(white) <= 0:
        raise BadDocument(say("document.calibrated-no-white"))
    count = 3 if label == "CalRGB" else 1
    raw = source.get("/Gamma", 1)
    gamma = tuple(numbers(raw)) if isinstance(raw, pikepdf.Array) else (float(raw),) * count
    identity = [1, 0, 0, 0, 1, 0, 0, 0, 1]
    matrix = tuple(numbers(source.get("/Matrix", identity)))
    if len(gamma) != count or len(matrix) != 9:
        raise BadDocument(say("document.calibrated-contradicts"))
    calibration = Calibration((white[0], white[1], white[2]), gamma, matrix)
    return ColourSpace(
        "RGB" if count == 3 else "grey", label, count, f"{label}:{calibration}",
        calibration=calibration,
    )  # fmt: skip


def calibrated_XYZ(space: ColourSpace, values: Floats) -> Floats:
    """(n, channels) values of a CalRGB, CalGray or Lab space to XYZ under D50, white to white."""
    if space.family == "Lab":
        return Lab_to_XYZ(values)
    assert space.calibration is not None
    made = space.calibration
    linear = np.clip(values, 0, 1) ** np.array(made.gamma)
    white = np.array(made.white)
    if space.channels == 1:
        return np.asarray(linear * D50)
    xyz = linear @ np.array(made.matrix).reshape(3, 3)
    return np.asarray(xyz @ bradford(white, D50).T)


def is_process(name: str) -> bool:
    """Whether a colorant is no spot colour of its own: the process inks, All and None."""
    return name in ("Cyan", "Magenta", "Yellow", "Black", *_NO_COLOUR)
