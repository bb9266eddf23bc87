"""curveType and parametricCurveType (ICC.1:2022, 10.6 and 10.18), and their inverses."""

from __future__ import annotations

import struct
from dataclasses import dataclass
from typing import Protocol

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.errors import BadProfile
from plinto_core.icc import reader
from plinto_core.words import say

PARAMETER_COUNTS = (1, 3, 4, 5, 7)
MAX_ENTRIES = 1 << 20


class Curve(Protocol):
    """A one-dimensional function of values 0..1."""

    def __call__(self, x: Floats) -> Floats: ...
    def inverse(self, y: Floats) -> Floats: ...
    def pack(self) -> bytes: ...


@dataclass(frozen=True)
class SampledCurve:
    """A table over 0..1, linear between its entries; values 0..1."""

    table: Floats

    def __call__(self, x: Floats) -> Floats:
        if self.table.size == 1:
            return np.full_like(x, self.table[0])
        return np.interp(x, np.linspace(0.0, 1.0, self.table.size), self.table)

    def inverse(self, y: Floats) -> Floats:
        """The inverse: what it answers, the curve takes to y again. A flat part answers with its end
        nearer the middle of the range, between two slopes with its last entry.

        Tables that fall are inverted as such; one that turns back is first made monotone.
        """
        table = self.table
        if table[-1] < table[0]:
            return 1.0 - SampledCurve(table[::-1]).inverse(y)
        rising = np.maximum.accumulate(table)
        positions = np.linspace(0.0, 1.0, rising.size)
        if rising[0] == rising[-1]:
            return np.zeros_like(y)
        first = int(np.searchsorted(rising, rising[0], side="right")) - 1
        last = int(np.searchsorted(rising, rising[-1], side="left"))
        # Of equal entries the first ends the step before them and the last begins the one behind.
        return np.interp(y, rising[first : last + 1], positions[first : last + 1])

    def pack(self) -> bytes:
        if self.is_identity():
            return b"curv" + bytes(8)
        entries = np.round(np.clip(self.table, 0, 1) * 65535).astype(">u2")
        return b"curv" + struct.pack(">II", 0, entries.size) + entries.tobytes()

    def is_identity(self) -> bool:
        return self.table.size >= 2 and bool(
            np.array_equal(self.table, np.linspace(0.0, 1.0, self.table.size))
        )


@dataclass(frozen=True)
class ParametricCurve:
    """Y = (aX + b)^g + c and its five forms."""

    kind: int
    parameters: tuple[float, ...]

    def _full(self) -> tuple[float, float, float, float, float, float, float]:
        g, a, b, c, d, e, f = self.parameters[0], 1.0, 0.0, 0.0, -np.inf, 0.0, 0.0
        p = self.parameters
        if self.kind == 1:
            a, b = p[1], p[2]
            d = -b / a if a else 0.0
        elif self.kind == 2:
            a, b, e = p[1], p[2], p[3]
            d = -b / a if a else 0.0
            f = e
        elif self.kind == 3:
            a, b, c, d = p[1:5]
        elif self.kind == 4:
            a, b, c, d, e, f = p[1:7]
        return g, a, b, c, d, e, f

    def __call__(self, x: Floats) -> Floats:
        g, a, b, c, d, e, f = self._full()
        with np.errstate(all="ignore"):
            upper = np.maximum(a * x + b, 0.0) ** g + e
            y = np.where(x >= d, upper, c * x + f)
        return np.nan_to_num(y, nan=0.0, posinf=1.0, neginf=0.0)

    def inverse(self, y: Floats) -> Floats:
        g, a, b, c, d, e, f = self._full()
        if not g or not a:
            return np.zeros_like(y)
        with np.errstate(all="ignore"):
            upper = (np.maximum(y - e, 0.0) ** (1.0 / g) - b) / a
            if not np.isfinite(d):
                return np.nan_to_num(upper, nan=0.0, posinf=1.0, neginf=0.0)
            lower = (y - f) / c if c else np.zeros_like(y)
            x = np.where(y >= float(self(np.array([d]))[0]), upper, lower)
        return np.nan_to_num(x, nan=0.0, posinf=1.0, neginf=0.0)

    def pack(self) -> bytes:
        values = np.round(np.array(self.parameters) * 65536).astype(">i4").tobytes()
        return b"para" + struct.pack(">IHH", 0, self.kind, 0) + values


IDENTITY = SampledCurve(np.array([0.0, 1.0]))


def parse_curve(data: bytes, offset: int = 0) -> tuple[Curve, int]:
    """The curve at `offset` and the bytes it takes, without padding."""
    kind = reader.signature(data, offset)
    if kind == "curv":
        count = reader.u32(data, offset + 8)
        if count > MAX_ENTRIES:
            raise BadProfile(say("icc.curve-entries", count=count))
        if count == 0:
            return IDENTITY, 12
        if count == 1:
            gamma = reader.u16(data, offset + 12) / 256.0
            return ParametricCurve(0, (gamma,)), 14
        return SampledCurve(reader.u16_array(data, offset + 12, count)), 12 + 2 * count
    if kind == "para":
        form = reader.u16(data, offset + 8)
        if form >= len(PARAMETER_COUNTS):
            raise BadProfile(say("icc.curve-form", form=form))
        count = PARAMETER_COUNTS[form]
        values = reader.s15fixed16(data, offset + 12, count)
        return ParametricCurve(form, tuple(float(v) for v in values)), 12 + 4 * count
    raise BadProfile(say("icc.curve-type", kind=kind))
