"""Shadings of all seven types with their colours in the destination (ISO 32000-2, 8.7.4.5)."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np
import pikepdf

from plinto_core.arrays import Floats
from plinto_core.document.pdf.bounds import MOST_OF_A_MESH, read_bounded
from plinto_core.document.pdf.division import (
    ORDER,
    divided_patches,
    divided_triangles,
    tensor_of_coons,
    triangles_of_flags,
    triangles_of_lattice,
)
from plinto_core.document.pdf.functions import numbers, read_function
from plinto_core.document.pdf.spaces import ColourSpace, read_space
from plinto_core.errors import BadDocument, NotSupported
from plinto_core.words import say

STEPS = 256
GRID = 33
_CORNERS = {4: (1, 1), 5: (1, 1), 6: (12, 4), 7: (16, 4)}
_MOST_VERTICES = 2_000_000
_AT_ONCE = 4096
"""Vertices whose bits are held at once, eight times their bytes."""
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

    Functions are evaluated at 256 places and replaced by sampled ones; meshes are divided as finely as their
    colours ask for, and converted at the corners.
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
        or flag not in (0, 2, 4, 8)
        or len(decode) < 4 + 2 * channels
    ):
        raise BadDocument(say("document.mesh-contradicts"))
    return coordinate, component, flag, decode, channels


@dataclass(frozen=True)
class _Records:
    """Vertices or patches of one layout, as stored integers: flags (n,), points (n, coordinates), colours
    (n, corners * channels). Patches that share an edge with the one before them are shorter."""

    flags: np.ndarray
    points: np.ndarray
    colours: np.ndarray


def _records(shading: Any, kind: int, channels: int) -> list[_Records]:
    """All vertices or patches in their order, neighbours of one layout together.

    Every record ends on a whole byte (ISO 32000-2, 8.7.4.5.5): those of one layout are rows of bytes.
    """
    coordinate, component, flag_bits, _, _ = _layout(shading, kind, channels)
    data = np.frombuffer(read_bounded(shading, MOST_OF_A_MESH, "A mesh"), np.uint8)
    points, corners = _CORNERS[kind]
    whole = (points * 2, corners * channels)
    later = (points * 2 - 8, corners * channels - 2 * channels) if kind in (6, 7) else whole
    sizes = [
        -(-(flag_bits + p * coordinate + c * component) // 8)
        for p, c in (whole, later, later, later)
    ]
    found: list[_Records] = []
    at = count = 0
    while at < data.size:
        flag = int(_flags(data[at : at + 1], flag_bits)[0])
        size = sizes[flag]
        # As many records as stand in a row with the same layout.
        rows = data[at : at + min(_AT_ONCE, (data.size - at) // size) * size].reshape(-1, size)
        if not len(rows):
            break
        if kind in (6, 7):
            others = (_flags(rows[:, 0], flag_bits) > 0) != (flag > 0)
            rows = rows[: int(np.argmax(others)) or len(rows)]
        count += len(rows)
        if count > _MOST_VERTICES:
            raise BadDocument(say("document.mesh-large"))
        fields = whole if flag == 0 else later
        found.append(_fields(rows, flag_bits, coordinate, component, fields))
        at += rows.size
    return found


def _flags(first: np.ndarray, bits: int) -> np.ndarray:
    """(n,) the two bits of a flag that count, of the (n,) first bytes of records."""
    return np.asarray(first.astype(np.int64) >> 8 - bits & 3 if bits else np.zeros(first.size, int))


def _fields(
    rows: np.ndarray, flag_bits: int, coordinate: int, component: int, fields: tuple[int, int]
) -> _Records:
    """(n, bytes) records to their numbers."""
    bits = np.unpackbits(rows, axis=1)
    middle = flag_bits + fields[0] * coordinate
    end = middle + fields[1] * component
    return _Records(
        _numbers_of(bits[:, :flag_bits], flag_bits)[:, 0]
        if flag_bits
        else np.zeros(len(rows), np.int64),
        _numbers_of(bits[:, flag_bits:middle], coordinate),
        _numbers_of(bits[:, middle:end], component),
    )


def _numbers_of(bits: np.ndarray, width: int) -> np.ndarray:
    """(n, count * width) bits to (n, count) numbers, most significant bit first."""
    split = bits.reshape(len(bits), -1, width)
    return np.asarray(split @ (1 << np.arange(width - 1, -1, -1, dtype=np.int64)))


def _vertices(shading: Any, kind: int, channels: int) -> tuple[list[_Records], Floats]:
    """The records, and (m, channels) the values of all their colours in their order."""
    _, component, _, decode, _ = _layout(shading, kind, channels)
    found = _records(shading, kind, channels)
    raw = [r.colours.reshape(-1, channels) for r in found]
    values = np.concatenate(raw).astype(float) if raw else np.zeros((0, channels))
    limits = np.array(decode[4 : 4 + 2 * channels]).reshape(-1, 2)
    return found, limits[:, 0] + values / (2**component - 1) * (limits[:, 1] - limits[:, 0])


def _converted_vertices(
    pdf: pikepdf.Pdf,
    made: Any,
    shading: Any,
    kind: int,
    space: ColourSpace,
    convert: Convert,
    channels: int,
) -> Any:
    """Triangles (type 4) or patches (type 7), divided until colours between their corners are right."""
    found, values = _vertices(shading, kind, space.channels)
    coordinate, _, _, decode, _ = _layout(shading, kind, space.channels)
    result = pikepdf.Stream(pdf, b"")
    for key, value in made.items():
        if key not in ("/Length", "/Filter", "/DecodeParms", "/VerticesPerRow"):
            result[key] = value
    if kind in (4, 5):
        points = np.concatenate([r.points for r in found] or [np.zeros((0, 2))]).astype(float)
        flags = np.concatenate([r.flags for r in found] or [np.zeros(0)])
        per_row = int(shading.get("/VerticesPerRow", 0))
        if kind == 5 and per_row < 2:
            raise BadDocument(say("document.mesh-contradicts"))
        corners = (
            triangles_of_flags(flags) if kind == 4 else triangles_of_lattice(len(points), per_row)
        )
        places, colours = points[corners], values[corners]
        divide, result["/ShadingType"] = divided_triangles, 4
    else:
        places, colours = _patches(found, values, space.channels, kind)
        divide, result["/ShadingType"] = divided_patches, 7
    records = np.zeros((0, 1), np.uint8)
    if len(places):
        per = 3 if kind in (4, 5) else 16
        places, colours = divide(places, colours, convert, _MOST_VERTICES // per)
        if kind in (6, 7):
            order = tuple(np.array(ORDER).T)
            places = places[:, order[0], order[1]]
            colours = colours[:, [0, 0, 1, 1], [0, 1, 1, 0]]
        else:
            places, colours = places.reshape(-1, 1, 2), colours.reshape(-1, 1, channels)
        records = _packed(places / (2**coordinate - 1), colours)
    result.write(records.tobytes())
    result["/BitsPerFlag"], result["/BitsPerCoordinate"], result["/BitsPerComponent"] = 8, 32, 16
    result["/Decode"] = pikepdf.Array([*decode[:4], *([0, 1] * channels)])
    return result


def _packed(places: Floats, colours: Floats) -> np.ndarray:
    """(n, bytes) records that share nothing: flag 0, coordinates of 32 bits, colours of 16, all from 0..1."""
    stored = [
        np.zeros((len(places), 1), np.uint8),
        np.round(np.clip(places, 0, 1) * (2**32 - 1)).astype(">u4").reshape(len(places), -1),
        np.round(np.clip(colours, 0, 1) * 65535).astype(">u2").reshape(len(places), -1),
    ]
    rows = [np.ascontiguousarray(part).view(np.uint8).reshape(len(places), -1) for part in stored]
    return np.concatenate(rows, axis=1)


def _patches(
    found: list[_Records], values: Floats, channels: int, kind: int
) -> tuple[Floats, Floats]:
    """(n, 4, 4, 2) control points and (n, 2, 2, channels) colours; an edge that a patch takes over from the
    one before it is filled in (ISO 32000-2, tables 84 and 85)."""
    points: list[Floats] = []
    colours: list[Floats] = []
    row = 0
    for part in found:
        shared = part.flags[0] > 0 and bool(points)
        corners = part.colours.shape[1] // channels
        for i, flag in enumerate(part.flags):
            own = part.points[i].reshape(-1, 2)
            tones = values[row : row + corners]
            row += corners
            if shared:
                edge = [(3 * flag + k) % 12 for k in range(4)]
                own = np.concatenate([points[-1][edge], own])
                tones = np.concatenate([colours[-1][[flag, (flag + 1) % 4]], tones])
            points.append(own)
            colours.append(tones)
    whole = [
        i for i, p in enumerate(points) if len(p) == _CORNERS[kind][0] and len(colours[i]) == 4
    ]
    grid = np.zeros((len(whole), 4, 4, 2))
    square = np.zeros((len(whole), 2, 2, channels))
    for n, i in enumerate(whole):
        for (a, b), point in zip(ORDER, points[i], strict=False):
            grid[n, a, b] = point
        square[n, [0, 0, 1, 1], [0, 1, 1, 0]] = colours[i]
    return tensor_of_coons(grid) if kind == 6 else grid, square
