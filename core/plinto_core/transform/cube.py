"""Colour tables in .cube text: one- and three-dimensional, for film and photographic processes.

Keywords read: TITLE, LUT_1D_SIZE, LUT_3D_SIZE, DOMAIN_MIN, DOMAIN_MAX; red varies fastest.
"""

from __future__ import annotations

import hashlib
from dataclasses import dataclass
from pathlib import Path

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.errors import BadInput
from plinto_core.kernels.interpolate import interpolate
from plinto_core.words import say

_LARGEST = {1: 65_536, 3: 129}
_MAX_BYTES = 120 << 20


@dataclass(frozen=True)
class CubeTable:
    """title; dimensions 1 or 3; values : (size, 3), or (size, size, size, 3) indexed r, g, b."""

    title: str
    values: Floats
    low: Floats
    high: Floats
    digest: str

    @property
    def size(self) -> int:
        return int(self.values.shape[0])

    def apply(self, rgb: Floats) -> Floats:
        """(n, 3) values 0..1 to (n, 3), linear or tetrahedral in between, clipped to 0..1."""
        unit = np.clip((rgb - self.low) / (self.high - self.low), 0.0, 1.0)
        if self.values.ndim == 2:
            axis = np.linspace(0, 1, self.size)
            out = [np.interp(unit[:, i], axis, self.values[:, i]) for i in range(3)]
            return np.clip(np.stack(out, axis=1), 0.0, 1.0)
        grid = np.full(3, self.size, dtype=np.int64)
        flat = np.ascontiguousarray(self.values).reshape(-1)
        return np.clip(interpolate(flat, grid, 3, np.ascontiguousarray(unit), True), 0.0, 1.0)


def read_cube(path: Path | str) -> CubeTable:
    """A .cube file; raises BadInput for anything else."""
    path = Path(path)
    try:
        if path.stat().st_size > _MAX_BYTES:
            raise BadInput(say("transform.cube-large", file=path.name))
        data = path.read_bytes()
    except OSError as error:
        raise BadInput(say("transform.cube-unreadable", file=path.name)) from error
    return parse_cube(data)


def parse_cube(data: bytes) -> CubeTable:
    """The table in a .cube file's bytes; raises BadInput with the line at fault."""
    title, size, dimensions = "", 0, 0
    low, high = np.zeros(3), np.ones(3)
    rows: list[list[float]] = []
    for number, line in enumerate(data.decode("utf-8", "replace").splitlines(), 1):
        words = line.split("#", 1)[0].split()
        if not words:
            continue
        key = words[0].upper()
        try:
            if key == "TITLE":
                title = line.split(None, 1)[1].strip().strip('"')[:200] if len(words) > 1 else ""
            elif key in ("LUT_1D_SIZE", "LUT_3D_SIZE"):
                size, dimensions = int(words[1]), int(key[4])
            elif key in ("DOMAIN_MIN", "DOMAIN_MAX"):
                domain = np.array([float(w) for w in words[1:4]])
                low, high = (domain, high) if key.endswith("MIN") else (low, domain)
            elif key[0].isalpha():
                continue
            else:
                rows.append([float(w) for w in words])
        except (ValueError, IndexError):
            raise BadInput(say("transform.cube-line", number=number)) from None
    return _checked(data, title, size, dimensions, low, high, rows)


def _checked(
    data: bytes,
    title: str,
    size: int,
    dimensions: int,
    low: Floats,
    high: Floats,
    rows: list[list[float]],
) -> CubeTable:
    if dimensions not in (1, 3) or not 2 <= size <= _LARGEST[dimensions]:
        raise BadInput(say("transform.cube-size", entries=_LARGEST[1], points=_LARGEST[3]))
    if low.shape != (3,) or high.shape != (3,) or not (high - low > 1e-6).all():
        raise BadInput(say("transform.cube-domain"))
    if len(rows) != size**dimensions or any(len(r) != 3 for r in rows):
        raise BadInput(say("transform.cube-rows", size=size**dimensions, found=len(rows)))
    values = np.array(rows, dtype=np.float64)
    if not np.isfinite(values).all():
        raise BadInput(say("transform.cube-not-numbers"))
    if dimensions == 3:
        values = values.reshape(size, size, size, 3).transpose(2, 1, 0, 3)
    return CubeTable(title, values, low, high, hashlib.sha256(data).hexdigest())


def format_cube(title: str, values: Floats) -> str:
    """The text of a three-dimensional table; values : (size, size, size, 3) indexed r, g, b, 0..1."""
    size = values.shape[0]
    plain = title.replace('"', "'").replace("\n", " ")
    rows = values.transpose(2, 1, 0, 3).reshape(-1, 3)
    lines = [f'TITLE "{plain}"', f"LUT_3D_SIZE {size}"]
    lines += [" ".join(f"{v:.6f}" for v in row) for row in rows.tolist()]
    return "\n".join(lines) + "\n"
