"""Run one table of a profile in float (ICC.1:2022, 10.10 to 10.13)."""

from __future__ import annotations

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.icc.curves import Curve
from plinto_core.icc.tables import Table
from plinto_core.kernels.interpolate import interpolate


def _curves(curves: tuple[Curve, ...], values: Floats) -> Floats:
    if not curves:
        return values
    return np.stack([curve(values[:, i]) for i, curve in enumerate(curves)], axis=1)


def _matrix(matrix: Floats | None, values: Floats) -> Floats:
    if matrix is None:
        return values
    return np.asarray(values @ matrix[:, :3].T + matrix[:, 3])


def _grid(table: Table, values: Floats, *, tetrahedral: bool) -> Floats:
    if table.clut is None:
        return values
    grid = np.array(table.clut.shape[:-1], dtype=np.int64)
    flat = np.ascontiguousarray(table.clut).reshape(-1)
    return np.asarray(
        interpolate(flat, grid, table.outputs, np.ascontiguousarray(values), tetrahedral)
    )


def node_values(table: Table) -> Floats:
    """(nodes, outputs) of a table as they come out of it, its last curves applied, cut to 0..1."""
    if table.clut is None:
        return np.zeros((0, table.outputs))
    values = _curves(table.after, table.clut.reshape(-1, table.outputs))
    return np.asarray(np.clip(values, 0, 1))


def run_table(table: Table, values: Floats, *, tetrahedral: bool = True) -> Floats:
    """(n, inputs) encoded 0..1 to (n, outputs) encoded 0..1; values outside are clipped."""
    values = np.nan_to_num(np.asarray(values, dtype=np.float64), nan=0.0, posinf=1.0, neginf=0.0)
    if table.kind == "mAB":
        values = _grid(table, _curves(table.before, np.clip(values, 0, 1)), tetrahedral=tetrahedral)
        values = _curves(table.middle, values)
        return _curves(table.after, _matrix(table.matrix, values))
    if table.kind == "mBA":
        values = _matrix(table.matrix, _curves(table.before, np.clip(values, 0, 1)))
        values = _curves(table.middle, values)
        return _curves(table.after, _grid(table, values, tetrahedral=tetrahedral))
    values = np.clip(_matrix(table.matrix, values), 0.0, 1.0)
    values = _grid(table, _curves(table.before, values), tetrahedral=tetrahedral)
    return _curves(table.after, values)
