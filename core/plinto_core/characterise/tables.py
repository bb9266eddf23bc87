"""The tables of an output profile as lut16Type, PCS Lab in the legacy 16-bit encoding."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.icc.curves import SampledCurve
from plinto_core.icc.tables import Table, pack_mft2
from plinto_core.inks.forward import ForwardTable
from plinto_core.kernels.interpolate import interpolate
from plinto_core.transform.encoding import lab_to_unit, unit_to_lab

_ENTRIES = 1024
_IDENTITY = SampledCurve(np.linspace(0, 1, 2))
_CENTRE = 128.0 / 255.0 * 65280.0 / 65535.0
"""Encoded a* = b* = 0; the curves put it on the middle node, so that greys are exact."""


_DARKS, _NEUTRALS = 1.1, 1.6
"""How much finer nodes lie near black and near the greys than if they were spread evenly; more of it
leaves vivid blues to too few of them."""


def _finer(t: Floats, slope: float) -> Floats:
    """0..1 to 0..1, as steep as `slope` at 0 and 2 - slope at 1."""
    return np.asarray(slope * t - (slope - 1.0) * t**2)


def _lightness_curve() -> SampledCurve:
    """Spread encoded L* 0..100 over the whole grid, finer in the darks; the rest of the code range is
    white."""
    x = np.linspace(0, 1, _ENTRIES)
    t = np.minimum(x * 65535.0 / 65280.0, 1.0)
    return SampledCurve(_finer(t, _DARKS))


def _opponent_curve() -> SampledCurve:
    """Finer steps around neutral, where the eye and the inks need them; monotone, odd."""
    x = np.linspace(0, 1, _ENTRIES)
    low = x < _CENTRE
    t = np.where(low, (_CENTRE - x) / _CENTRE, (x - _CENTRE) / (1 - _CENTRE))
    shaped = _finer(t, _NEUTRALS)
    return SampledCurve(np.clip(np.where(low, 0.5 - 0.5 * shaped, 0.5 + 0.5 * shaped), 0, 1))


@dataclass(frozen=True)
class Grid:
    """The grid of a B2A table: size nodes a side, curves on its three inputs."""

    size: int
    curves: tuple[SampledCurve, ...] = (
        _lightness_curve(),
        _opponent_curve(),
        _opponent_curve(),
    )

    @cached_property
    def nodes(self) -> Floats:
        """(size**3, 3) Lab of the nodes, b* fastest."""
        axis = np.linspace(0, 1, self.size)
        nodes = np.meshgrid(axis, axis, axis, indexing="ij")
        return self.lab(np.stack(nodes, axis=-1).reshape(-1, 3))

    @property
    def greys(self) -> np.ndarray:
        """(size,) numbers of the nodes on the neutral axis."""
        middle = self.size // 2
        return np.arange(self.size) * self.size**2 + middle * self.size + middle

    def lab(self, places: Floats) -> Floats:
        """(n, 3) Lab at places 0..1 in the cube."""
        encoded = [curve.inverse(places[:, i]) for i, curve in enumerate(self.curves)]
        return unit_to_lab(np.stack(encoded, axis=1), legacy=True)

    def places(self, lab: Floats) -> Floats:
        """(n, 3) places 0..1 in the cube of Lab; the inverse of `lab`."""
        unit = lab_to_unit(lab, legacy=True)
        return np.stack([curve(unit[:, i]) for i, curve in enumerate(self.curves)], axis=1)


def forward_clut(forward: ForwardTable, inks: Floats) -> Floats:
    """(n, 4) tone values to (n, 3) Lab through the table, as a profile evaluator reads it."""
    grid = np.full(4, forward.size, dtype=np.int64)
    return np.asarray(interpolate(forward.flat, grid, 3, np.ascontiguousarray(inks), True))


def forward_table(lab: Floats, axes: Floats | None = None) -> bytes:
    """A2B: (g, …, g, 3) Lab on even axes, or on those that (inks, samples) input curves make."""
    unit = lab_to_unit(lab.reshape(-1, 3), legacy=True).reshape(lab.shape)
    inks = lab.ndim - 1
    before = (_IDENTITY,) * inks if axes is None else tuple(SampledCurve(axis) for axis in axes)
    return pack_mft2(Table("mft2", inks, 3, before, unit, (), None, (_IDENTITY,) * 3))


def backward_table(inks: Floats, grid: Grid) -> bytes:
    """B2A: (size**3, channels) device values 0..1."""
    return _backward(inks, grid, (_IDENTITY,) * inks.shape[1])


def roomy_table(values: Floats, grid: Grid, limits: Floats, room: float) -> bytes:
    """B2A: (size**3, inks) values from -room to 1 + room of (inks,) limits, cut to 0..limit by the
    output curves."""
    after = tuple(_cut(float(limit), room) for limit in limits)
    unit = values / np.maximum(limits, 1e-9)
    return _backward((unit + room) / (1 + 2 * room), grid, after)


def _cut(limit: float, room: float) -> SampledCurve:
    """Flat over the room, with its corners on entries: for half an ink five of them do."""
    entries = np.linspace(-room, 1 + room, round((1 + 2 * room) / room) + 1)
    return SampledCurve(np.clip(entries, 0.0, 1.0) * limit)


def _backward(values: Floats, grid: Grid, after: tuple[SampledCurve, ...]) -> bytes:
    clut = values.reshape(*(grid.size,) * 3, values.shape[1])
    return pack_mft2(Table("mft2", 3, values.shape[1], grid.curves, clut, (), None, after))


def gamut_table(missed: Floats, grid: Grid) -> bytes:
    """gamt: 0 inside the gamut, more outside (ICC.1:2022, 9.2.28). missed : (size**3,) dE00 between a
    node and its print."""
    return _backward((missed > 1.0).astype(np.float64)[:, None], grid, (_IDENTITY,))
