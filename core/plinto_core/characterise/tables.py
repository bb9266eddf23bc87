"""The tables of an output profile as lut16Type, PCS Lab in the legacy 16-bit encoding."""

from __future__ import annotations

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


def _lightness_curve() -> SampledCurve:
    """Spread encoded L* 0..100 over the whole grid; the rest of the code range is white."""
    x = np.linspace(0, 1, _ENTRIES)
    return SampledCurve(np.minimum(x * 65535.0 / 65280.0, 1.0))


def _opponent_curve() -> SampledCurve:
    """Finer steps around neutral, where the eye and the inks need them; monotone, odd."""
    x = np.linspace(0, 1, _ENTRIES)
    low = x < _CENTRE
    t = np.where(low, (_CENTRE - x) / _CENTRE, (x - _CENTRE) / (1 - _CENTRE))
    shaped = 1.45 * t - 0.45 * t**2
    return SampledCurve(np.clip(np.where(low, 0.5 - 0.5 * shaped, 0.5 + 0.5 * shaped), 0, 1))


def pcs_nodes(size: int) -> tuple[Floats, tuple[SampledCurve, ...]]:
    """(size**3, 3) Lab of the grid nodes of a B2A table, and its three input curves."""
    curves = (_lightness_curve(), _opponent_curve(), _opponent_curve())
    axis = np.linspace(0, 1, size)
    axes = [curve.inverse(axis) for curve in curves]
    nodes = np.stack(np.meshgrid(*axes, indexing="ij"), axis=-1).reshape(-1, 3)
    return unit_to_lab(nodes, legacy=True), curves


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


def backward_table(inks: Floats, size: int, curves: tuple[SampledCurve, ...]) -> bytes:
    """B2A: (size**3, channels) device values."""
    clut = inks.reshape(size, size, size, inks.shape[1])
    after = (_IDENTITY,) * inks.shape[1]
    return pack_mft2(Table("mft2", 3, inks.shape[1], curves, clut, (), None, after))


def gamut_table(missed: Floats, size: int, curves: tuple[SampledCurve, ...]) -> bytes:
    """gamt: 0 inside the gamut, more outside (ICC.1:2022, 9.2.28)."""
    clut = (missed > 1.0).astype(np.float64).reshape(size, size, size, 1)
    return pack_mft2(Table("mft2", 3, 1, curves, clut, (), None, (_IDENTITY,)))
