"""multiProcessElementsType: float tables of D2Bx and B2Dx tags (ICC.1:2022, 10.16)."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from math import prod

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.errors import BadProfile
from plinto_core.icc import reader
from plinto_core.icc.tables import MAX_CHANNELS, MAX_NODES
from plinto_core.words import say

MAX_ELEMENTS = 64
MAX_SEGMENTS = 4096
_PARAMETERS = (4, 5, 5)
"""How many numbers a formula segment of each kind has."""


@dataclass(frozen=True)
class Formula:
    """A segment by a formula (10.16.2.3): kind 0, Y = (aX + b)^g + c with g, a, b, c; kind 1,
    Y = a log10(b X^g + c) + d with g, a, b, c, d; kind 2, Y = a b^(cX + d) + e with a, b, c, d, e."""

    kind: int
    parameters: tuple[float, ...]

    def __call__(self, x: Floats) -> Floats:
        p = self.parameters
        with np.errstate(all="ignore"):
            if self.kind == 0:
                base = p[1] * x + p[2]
                # A straight line goes on below nought; a power has no value there, and adds nothing.
                y = (base if p[0] == 1 else np.maximum(base, 0.0) ** p[0]) + p[3]
            elif self.kind == 1:
                inner = p[2] * x ** p[0] + p[3]
                y = p[1] * np.where(inner > 0, np.log10(np.maximum(inner, 1e-300)), 0.0) + p[4]
            else:
                y = p[0] * p[1] ** (p[2] * x + p[3]) + p[4]
        return np.nan_to_num(np.asarray(y), nan=0.0, posinf=0.0, neginf=0.0)


@dataclass(frozen=True)
class Samples:
    """A segment by evenly spaced samples, linear between them; the first, which the file leaves out, is
    the value of the segment before at the break."""

    table: Floats


@dataclass(frozen=True)
class SegmentedCurve:
    """Segments between breaks; the first reaches down and the last up without end.

    A value at a break belongs to the segment below it.
    """

    breaks: Floats
    segments: tuple[Formula | Samples, ...]

    def __call__(self, x: Floats) -> Floats:
        out = np.empty_like(x)
        which = np.searchsorted(self.breaks, x, side="left")
        for number, segment in enumerate(self.segments):
            here = which == number
            out[here] = self._part(number, segment, x[here])
        return out

    def _part(self, number: int, segment: Formula | Samples, x: Floats) -> Floats:
        if isinstance(segment, Formula):
            return segment(x)
        low, high = self.breaks[number - 1], self.breaks[number]
        first = self._part(number - 1, self.segments[number - 1], np.array([low]))
        table = np.concatenate([first, segment.table])
        return np.asarray(np.interp(x, np.linspace(low, high, table.size), table))


@dataclass(frozen=True)
class CurveSet:
    """One curve for each channel."""

    curves: tuple[SegmentedCurve, ...]


@dataclass(frozen=True)
class MatrixElement:
    """matrix : (outputs, inputs); offset : (outputs,)."""

    matrix: Floats
    offset: Floats


@dataclass(frozen=True)
class GridElement:
    """clut : (g1, .., gn, outputs) of any numbers; its inputs are held to 0..1."""

    clut: Floats


Element = CurveSet | MatrixElement | GridElement


@dataclass(frozen=True)
class Elements:
    """The steps of a float table in their order. Device values are 0..1; Lab is L* 0..100 with a* and b*
    as they are; XYZ has Y = 1 for the white."""

    inputs: int
    outputs: int
    steps: tuple[Element, ...]


def parse_elements(data: bytes) -> Elements:
    """Read a multiProcessElementsType; raises BadProfile where it is damaged, its channels do not fit
    one another or it has an element of a type that is not in the standard."""
    if reader.signature(data, 0) != "mpet":
        raise BadProfile(say("icc.elements-type", kind=reader.signature(data, 0)))
    inputs, outputs = _channels(data, 8)
    count = reader.u32(data, 12)
    if not 1 <= count <= MAX_ELEMENTS:
        raise BadProfile(say("icc.elements-count", count=count))
    steps: list[Element] = []
    channels = inputs
    for number in range(count):
        offset, size = reader.u32(data, 16 + 8 * number), reader.u32(data, 20 + 8 * number)
        reader.need(data, offset, size, "a float table")
        element = data[offset : offset + size]
        kind = reader.signature(element, 0)
        if kind in ("bACS", "eACS"):
            # They mark places for other programs and pass everything on (10.16.5).
            continue
        parse = _PARSERS.get(kind)
        if parse is None:
            raise BadProfile(say("icc.element-unknown", kind=kind))
        ends = _channels(element, 8)
        if ends[0] != channels:
            raise BadProfile(say("icc.elements-misfit", given=channels, taken=ends[0]))
        steps.append(parse(element, *ends))
        channels = ends[1]
    if channels != outputs:
        raise BadProfile(say("icc.elements-misfit", given=channels, taken=outputs))
    return Elements(inputs, outputs, tuple(steps))


def _channels(data: bytes, offset: int) -> tuple[int, int]:
    inputs, outputs = reader.u16(data, offset), reader.u16(data, offset + 2)
    if not (1 <= inputs <= MAX_CHANNELS and 1 <= outputs <= MAX_CHANNELS):
        raise BadProfile(say("icc.table-channels", inputs=inputs, outputs=outputs))
    return inputs, outputs


def _curve_set(data: bytes, inputs: int, outputs: int) -> CurveSet:
    if inputs != outputs:
        raise BadProfile(say("icc.elements-misfit", given=inputs, taken=outputs))
    curves = []
    for channel in range(inputs):
        offset, size = reader.u32(data, 12 + 8 * channel), reader.u32(data, 16 + 8 * channel)
        reader.need(data, offset, size, "a float curve")
        curves.append(_segmented(data[offset : offset + size]))
    return CurveSet(tuple(curves))


def _segmented(data: bytes) -> SegmentedCurve:
    kind = reader.signature(data, 0)
    count = reader.u16(data, 8)
    if kind != "curf" or not 1 <= count <= MAX_SEGMENTS:
        raise BadProfile(say("icc.curve-type", kind=kind))
    breaks = reader.f32(data, 12, count - 1)
    if np.any(np.diff(breaks) <= 0):
        raise BadProfile(say("icc.curve-breaks"))
    at = 12 + 4 * (count - 1)
    segments: list[Formula | Samples] = []
    for number in range(count):
        kind = reader.signature(data, at)
        if kind == "parf":
            form = reader.u16(data, at + 8)
            if form >= len(_PARAMETERS):
                raise BadProfile(say("icc.curve-form", form=form))
            numbers = reader.f32(data, at + 12, _PARAMETERS[form])
            segments.append(Formula(form, tuple(float(v) for v in numbers)))
            at += 12 + 4 * _PARAMETERS[form]
        elif kind == "samf" and 0 < number < count - 1:
            entries = reader.u32(data, at + 8)
            segments.append(Samples(reader.f32(data, at + 12, entries)))
            at += 12 + 4 * entries
        else:
            raise BadProfile(say("icc.curve-type", kind=kind))
    return SegmentedCurve(breaks, tuple(segments))


def _matrix(data: bytes, inputs: int, outputs: int) -> MatrixElement:
    numbers = reader.f32(data, 12, outputs * inputs + outputs)
    matrix = numbers[: outputs * inputs].reshape(outputs, inputs)
    return MatrixElement(matrix, numbers[outputs * inputs :])


def _grid(data: bytes, inputs: int, outputs: int) -> GridElement:
    reader.need(data, 12, 16, "a table")
    grid = tuple(data[12 : 12 + inputs])
    if min(grid) < 2:
        raise BadProfile(say("icc.table-grid"))
    count = prod(grid) * outputs
    if count > MAX_NODES:
        raise BadProfile(say("icc.table-numbers", count=count))
    return GridElement(reader.f32(data, 28, count).reshape((*grid, outputs)))


_PARSERS: dict[str, Callable[[bytes, int, int], Element]] = {
    "cvst": _curve_set,
    "matf": _matrix,
    "clut": _grid,
}
