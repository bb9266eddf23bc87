"""What a profile holds: its tags with their meaning, texts read, curves and tables opened."""

from __future__ import annotations

from typing import Literal

import numpy as np
from pydantic import BaseModel, ConfigDict

from plinto_core.arrays import Floats
from plinto_core.errors import CoreError
from plinto_core.icc import values
from plinto_core.icc.check import required_tags
from plinto_core.icc.elements import CurveSet, Elements, MatrixElement
from plinto_core.icc.profile import Profile
from plinto_core.icc.reader import signature
from plinto_core.icc.spaces import INTENT_WORDS
from plinto_core.measurement.characterisation import characterisation_from_text

MEANINGS: dict[str, str] = {
    "desc": "Name of the profile",
    "cprt": "Copyright",
    "wtpt": "White of the medium",
    "bkpt": "Black of the medium",
    "chad": "Adaptation from the real white to D50",
    "lumi": "Luminance of the device's white",
    "meas": "How it was measured",
    "view": "Viewing condition",
    "vued": "Viewing condition in words",
    "tech": "Technology of the device",
    "dmnd": "Maker of the device",
    "dmdd": "Model of the device",
    "targ": "Measurements that it was built from",
    "calt": "Day and time of calibration",
    "clrt": "Names and colours of the inks",
    "clot": "Names and colours of the output's inks",
    "clro": "Order in which the inks are laid down",
    "ncl2": "List of named colours",
    "pseq": "Profiles that were joined",
    "psid": "Profiles that were joined, by their identifiers",
    "gamt": "Which colours lie outside the gamut",
    "rig0": "Gamut of the perceptual reference medium",
    "rig2": "Gamut of the saturation reference medium",
    "resp": "Densities of the solids by tone value",
    "ciis": "Which kind of image state the colours have",
    "meta": "Further facts as names and values",
    "kTRC": "Tone curve",
    "rTRC": "Tone curve of red",
    "gTRC": "Tone curve of green",
    "bTRC": "Tone curve of blue",
    "rXYZ": "Full red",
    "gXYZ": "Full green",
    "bXYZ": "Full blue",
    **{f"A2B{i}": f"Device to colour, {n}" for i, n in enumerate(list(INTENT_WORDS.values())[:3])},
    **{f"B2A{i}": f"Colour to device, {n}" for i, n in enumerate(list(INTENT_WORDS.values())[:3])},
    **{f"D2B{i}": f"Device to colour in float, {n}" for i, n in enumerate(INTENT_WORDS.values())},
    **{f"B2D{i}": f"Colour to device in float, {n}" for i, n in enumerate(INTENT_WORDS.values())},
}  # fmt: skip
"""Tags of ICC.1:2022 and ICC.1:2001-04 in plain words."""
_TEXTS = ("text", "desc", "mluc")
_LONGEST = 20_000
_POINTS = 65
_MOST = 3000
"""Patches of embedded measurements that are listed."""


class Tag(BaseModel):
    """One tag. size in bytes; required : by the standard for this class; used : whether Plinto reads
    it for colour."""

    model_config = ConfigDict(frozen=True)

    name: str
    type: str
    size: int
    meaning: str
    required: bool
    used: bool


class Patch(BaseModel):
    """A measured patch: device values in percent, Lab under D50."""

    model_config = ConfigDict(frozen=True)

    device: list[float]
    lab: tuple[float, float, float]


class TagContent(BaseModel):
    """What is in a tag: a text, numbers in rows, curves over 0..1, or the form of a table."""

    model_config = ConfigDict(frozen=True)

    kind: Literal["text", "numbers", "curves", "table", "measurements", "unknown"]
    text: str = ""
    numbers: list[list[float]] = []
    curves: dict[str, list[float]] = {}
    grid: list[int] = []
    patches: list[Patch] = []


def tags_of(profile: Profile) -> list[Tag]:
    """All tags in the file's order."""
    required, used = set(required_tags(profile)), _used(profile)
    found = []
    for name, (offset, size) in profile.directory.items():
        kind = signature(profile.data, offset).strip("\0 ") if size >= 4 else ""
        found.append(
            Tag(
                name=name,
                type="".join(c if 32 <= ord(c) < 127 else "?" for c in kind),
                size=size,
                meaning=MEANINGS.get(name, "Not of the standard, or private"),
                required=name in required,
                used=name in used,
            )
        )
    return found


_SIMPLE = {"kTRC", "rTRC", "gTRC", "bTRC", "rXYZ", "gXYZ", "bXYZ"}


def _used(profile: Profile) -> set[str]:
    """The tags that some intent's colours are read from: float tables go before the others, tables
    before the matrix."""
    tables = {way(n) for n in range(4) for way in (profile.forward_table, profile.backward_table)}
    named = {tag for tag in tables if tag is not None}
    return named | {"wtpt"} | (_SIMPLE if None in tables else set())


def content_of(profile: Profile, name: str) -> TagContent:
    """What a tag holds; raises BadProfile for one that the profile does not have."""
    data = profile.raw(name)
    kind = signature(data, 0) if len(data) >= 4 else ""
    try:
        if kind in _TEXTS:
            text = values.parse_text(data)[:_LONGEST]
            measured = name == "targ" or "BEGIN_DATA" in text
            if not measured:
                return TagContent(kind="text", text=text)
            whole = values.parse_text(data)
            return TagContent(kind="measurements", text=text[:2000], patches=_patches(whole))
        if kind == "XYZ ":
            return TagContent(kind="numbers", numbers=_rows(values.parse_xyz(data)))
        if kind == "sf32":
            flat = values.parse_sf32(data)
            width = 3 if flat.size % 3 == 0 else 1
            return TagContent(kind="numbers", numbers=_rows(flat.reshape(-1, width)[:1000]))
        if kind in ("curv", "para"):
            return TagContent(kind="curves", curves={name: _drawn(profile.curve(name))})
        if kind in ("mft1", "mft2", "mAB ", "mBA "):
            table = profile.table(name)
            curves = {
                f"{place} {i + 1}": _drawn(curve)
                for place, row in (("in", table.before), ("out", table.after))
                for i, curve in enumerate(row)
            }
            grid = list(table.clut.shape[:-1]) if table.clut is not None else []
            return TagContent(kind="table", grid=grid, curves=curves)
        if kind == "mpet":
            return _float_table(profile.elements(name))
    except CoreError as error:
        return TagContent(kind="unknown", text=str(error))
    return TagContent(kind="unknown", text=data[:256].hex(" "))


def _float_table(elements: Elements) -> TagContent:
    """Its steps in words, its grid, and those of its curves that stay within 0..1 there."""
    steps: list[str] = []
    curves: dict[str, list[float]] = {}
    grid: list[int] = []
    for number, step in enumerate(elements.steps, 1):
        if isinstance(step, CurveSet):
            steps.append(f"{number}. {len(step.curves)} curves")
            drawn = [_drawn(curve) for curve in step.curves]
            if min(map(min, drawn)) >= 0 and max(map(max, drawn)) <= 1:
                curves |= {f"{number}, channel {i}": row for i, row in enumerate(drawn, 1)}
        elif isinstance(step, MatrixElement):
            rows, columns = step.matrix.shape
            steps.append(f"{number}. a matrix of {rows} by {columns} with offsets")
        else:
            grid = list(step.clut.shape[:-1])
            steps.append(f"{number}. a grid of {' by '.join(str(g) for g in grid)}")
    return TagContent(kind="table", text="\n".join(steps), grid=grid, curves=curves)


def _patches(text: str) -> list[Patch]:
    """The patches of embedded CMYK measurements, [] where they cannot be read as such."""
    try:
        measured = characterisation_from_text(text)
    except CoreError:
        return []
    lab = measured.lab
    return [
        Patch(device=[round(float(v) * 100, 1) for v in d], lab=(x, y, z))
        for d, row in zip(measured.device[:_MOST], lab[:_MOST], strict=True)
        for x, y, z in [[round(float(v), 2) for v in row]]
    ]


def _rows(numbers: Floats) -> list[list[float]]:
    return [[round(float(v), 5) for v in row] for row in np.nan_to_num(numbers)]


def _drawn(curve: object) -> list[float]:
    y = curve(np.linspace(0, 1, _POINTS))  # type: ignore[operator]
    return [round(float(v), 4) for v in np.nan_to_num(y)]
