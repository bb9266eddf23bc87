"""Shadings of all seven types with their colours in the destination (ISO 32000-2, 8.7.4.5)."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Any

import numpy as np
import pikepdf

from plinto_core.arrays import Floats
from plinto_core.document.pdf.bounds import MOST_OF_A_MESH, read_bounded
from plinto_core.document.pdf.functions import numbers, read_function, unpack
from plinto_core.document.pdf.spaces import ColourSpace, read_space
from plinto_core.errors import BadDocument, NotSupported
from plinto_core.words import say

STEPS = 256
GRID = 33
_CORNERS = {4: (1, 1), 5: (1, 1), 6: (12, 4), 7: (16, 4)}
_MOST_VERTICES = 2_000_000
Convert = Callable[[Floats], Floats]


def shading_space(shading: Any, resources: Any) -> ColourSpace:
    """The colour space of a shading dictionary."""
    if "/ColorSpace" not in shading:
        raise BadDocument(say("document.shading-no-space"))
    return read_space(shading["/ColorSpace"], resources)


def shading_samples(shading: Any, space: ColourSpace) -> Floats:
    """(n, channels) colours that the shading runs through, for limits and the inventory."""
    kind = int(shading.get("/ShadingType", 0))
    if "/Function" in shading:
        function = read_function(shading["/Function"])
        if kind == 1:
            return function(_grid(_domain(shading, 4), GRID))
        low, high = _range_of_input(shading, kind)
        return function(np.linspace(low, high, 33)[:, None])
    if kind in _CORNERS:
        return _vertices(shading, kind, space.channels)[1]
    raise BadDocument(say("document.shading-no-function"))


def converted_shading(
    pdf: pikepdf.Pdf, shading: Any, space: ColourSpace, convert: Convert, target: Any, channels: int
) -> Any:
    """A new shading with colours taken through `convert` to `channels` values 0..1 of `target`.

    Functions are evaluated at 256 places and replaced by sampled ones; vertices are converted.
    """
    kind = int(shading.get("/ShadingType", 0))
    made = _copy(pdf, shading)
    made["/ColorSpace"] = target
    if "/Background" in shading:
        made["/Background"] = pikepdf.Array(
            _rounded(convert(np.array([numbers(shading["/Background"])]))[0])
        )
    if "/Function" in shading:
        function = read_function(shading["/Function"])
        if kind == 1:
            domain = _domain(shading, 4)
            made["/Function"] = _sampled(
                pdf, convert(function(_grid(domain, GRID))), domain, (GRID, GRID), channels
            )
        else:
            low, high = _range_of_input(shading, kind)
            values = convert(function(np.linspace(low, high, STEPS)[:, None]))
            made["/Function"] = _sampled(pdf, values, [low, high], (STEPS,), channels)
        return made
    if kind not in _CORNERS:
        raise NotSupported(say("document.shading-type", kind=kind))
    return _converted_vertices(pdf, made, shading, kind, space, convert, channels)


def _copy(pdf: pikepdf.Pdf, shading: Any) -> Any:
    if isinstance(shading, pikepdf.Stream):
        made: Any = pikepdf.Stream(pdf, read_bounded(shading, MOST_OF_A_MESH, "A mesh"))
        for key, value in shading.items():
            if key not in ("/Length", "/Filter", "/DecodeParms"):
                made[key] = value
        return made
    return pikepdf.Dictionary(dict(shading.items()))


def _rounded(values: Floats) -> list[float]:
    return [round(float(v), 5) for v in values]


def _domain(shading: Any, count: int) -> list[float]:
    found = numbers(shading.get("/Domain", [0, 1] * (count // 2)))
    if len(found) != count:
        raise BadDocument(say("document.shading-domain"))
    return found


def _range_of_input(shading: Any, kind: int) -> tuple[float, float]:
    if kind in (2, 3):
        low, high = _domain(shading, 2)
        return low, high
    decode = numbers(shading.get("/Decode", [0, 1, 0, 1, 0, 1]))
    return (decode[4], decode[5]) if len(decode) >= 6 else (0.0, 1.0)


def _grid(domain: list[float], side: int) -> Floats:
    x = np.linspace(domain[0], domain[1], side)
    y = np.linspace(domain[2], domain[3], side)
    yy, xx = np.meshgrid(y, x, indexing="ij")
    return np.stack([xx.reshape(-1), yy.reshape(-1)], axis=1)


def _sampled(
    pdf: pikepdf.Pdf, values: Floats, domain: list[float], size: tuple[int, ...], channels: int
) -> Any:
    data = np.round(np.clip(values, 0, 1) * 65535).astype(">u2").tobytes()
    return pdf.make_indirect(
        pikepdf.Stream(
            pdf,
            data,
            FunctionType=0,
            Domain=domain,
            Range=[0, 1] * channels,
            Size=list(size),
            BitsPerSample=16,
        )
    )


def _layout(shading: Any, kind: int, channels: int) -> tuple[int, int, int, list[float], int]:
    """Bits of coordinates, colours and flags; Decode; bits of a record's flag."""
    coordinate, component = (
        int(shading.get("/BitsPerCoordinate", 0)),
        int(shading.get("/BitsPerComponent", 0)),
    )
    flag = int(shading.get("/BitsPerFlag", 0)) if kind != 5 else 0
    decode = numbers(shading.get("/Decode", []))
    if (
        coordinate not in (1, 2, 4, 8, 12, 16, 24, 32)
        or component not in (1, 2, 4, 8, 12, 16)
        or len(decode) < 4 + 2 * channels
    ):
        raise BadDocument(say("document.mesh-contradicts"))
    return coordinate, component, flag, decode, channels


class _Bits:
    """A cursor over the bits of a mesh."""

    def __init__(self, data: bytes) -> None:
        self.bits = np.unpackbits(np.frombuffer(data, np.uint8))
        self.at = 0

    def left(self) -> int:
        return int(self.bits.size) - self.at

    def take(self, width: int, count: int = 1) -> list[int]:
        part = self.bits[self.at : self.at + width * count]
        if part.size < width * count:
            raise BadDocument(say("document.mesh-short"))
        self.at += width * count
        padded = np.packbits(part) if width % 8 == 0 else None
        if padded is not None and width in (8, 16, 32):
            return [int(v) for v in unpack(padded, width, count)]
        return [
            int(v)
            for v in part.reshape(count, width).astype(np.int64)
            @ (1 << np.arange(width - 1, -1, -1))
        ]

    def align(self) -> None:
        self.at = -(-self.at // 8) * 8


def _records(shading: Any, kind: int, channels: int) -> list[tuple[int, list[int], list[int]]]:
    """(flag, coordinates, colour values) of every vertex or patch, as stored integers."""
    coordinate, component, flag_bits, _, _ = _layout(shading, kind, channels)
    bits = _Bits(read_bounded(shading, MOST_OF_A_MESH, "A mesh"))
    full_points, full_colours = _CORNERS[kind]
    found: list[tuple[int, list[int], list[int]]] = []
    while bits.left() >= flag_bits + coordinate:
        flag = bits.take(flag_bits)[0] & 3 if flag_bits else 0
        later = kind in (6, 7) and flag > 0
        points, colours = (
            (full_points - 4, full_colours - 2) if later else (full_points, full_colours)
        )
        if bits.left() < points * 2 * coordinate + colours * channels * component:
            break
        found.append(
            (flag, bits.take(coordinate, points * 2), bits.take(component, colours * channels))
        )
        bits.align()
        if len(found) > _MOST_VERTICES:
            raise BadDocument(say("document.mesh-large"))
    return found


def _vertices(
    shading: Any, kind: int, channels: int
) -> tuple[list[tuple[int, list[int], list[int]]], Floats]:
    _, component, _, decode, _ = _layout(shading, kind, channels)
    found = _records(shading, kind, channels)
    raw = np.array([v for _, _, colours in found for v in colours], dtype=float).reshape(
        -1, channels
    )
    limits = np.array(decode[4 : 4 + 2 * channels]).reshape(-1, 2)
    return found, limits[:, 0] + raw / (2**component - 1) * (limits[:, 1] - limits[:, 0])


def _converted_vertices(
    pdf: pikepdf.Pdf,
    made: Any,
    shading: Any,
    kind: int,
    space: ColourSpace,
    convert: Convert,
    channels: int,
) -> Any:
    found, values = _vertices(shading, kind, space.channels)
    coordinate, _, flag_bits, decode, _ = _layout(shading, kind, space.channels)
    stored = (
        np.round(np.clip(convert(values), 0, 1) * 65535).astype(int)
        if len(values)
        else np.zeros((0, channels), int)
    )
    out: list[str] = []
    row = 0
    for flag, points, colours in found:
        text = format(flag, f"0{flag_bits}b") if flag_bits else ""
        text += "".join(format(v, f"0{coordinate}b") for v in points)
        count = len(colours) // space.channels
        text += "".join(format(int(v), "016b") for v in stored[row : row + count].reshape(-1))
        row += count
        out.append(text + "0" * (-len(text) % 8))
    whole = "".join(out)
    data = int(whole, 2).to_bytes(math.ceil(len(whole) / 8), "big") if whole else b""
    result = pikepdf.Stream(pdf, data)
    for key, value in made.items():
        if key not in ("/Length", "/Filter", "/DecodeParms"):
            result[key] = value
    result["/BitsPerComponent"] = 16
    result["/Decode"] = pikepdf.Array([*decode[:4], *([0, 1] * channels)])
    return result
