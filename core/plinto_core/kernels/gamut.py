"""Rays from the middle of a gamut: where they leave it, and the boundary's point nearest to a colour."""

from __future__ import annotations

import math

import numpy as np
from numba import njit, prange

from plinto_core.arrays import Floats

_WIDE = 1.5
"""Radians of hue from which a triangle may hold the lightness axis, so that every hue is tried."""


_PARTS = 8
"""Parts in which sheets are worked beside each other; more than most machines have processors free."""


@njit(cache=True, parallel=True)
def cast(points: Floats, triangles: np.ndarray, radius: Floats) -> None:
    """Raise radius (rows + 1, columns) to where its rays meet any of the triangles.

    points : (sheets, m, 3) as a*, b*, L* from the centre; triangles : (t, 3) places in a sheet. Row i
    looks at i * pi / rows from +L*, column j at j turns / columns of hue. The farthest crossing stays.
    """
    sheets = points.shape[0]
    found = np.empty((_PARTS, radius.shape[0], radius.shape[1]))
    for part in prange(_PARTS):
        found[part] = radius
        first, end = part * sheets // _PARTS, (part + 1) * sheets // _PARTS
        _cast(points[first:end], triangles, found[part])
    for part in range(_PARTS):
        for i in range(radius.shape[0]):
            for j in range(radius.shape[1]):
                radius[i, j] = max(radius[i, j], found[part, i, j])


@njit(cache=True)
def _cast(points: Floats, triangles: np.ndarray, radius: Floats) -> None:
    rows, columns = radius.shape[0] - 1, radius.shape[1]
    per_row, per_column = math.pi / rows, 2 * math.pi / columns
    hue = np.empty(3)
    # The same numbers every time, so they are had once; columns run on beyond one turn either way.
    sines, cosines = np.empty(rows + 1), np.empty(rows + 1)
    for i in range(rows + 1):
        sines[i], cosines[i] = math.sin(i * per_row), math.cos(i * per_row)
    east, north = np.empty(4 * columns), np.empty(4 * columns)
    for j in range(4 * columns):
        east[j] = math.cos((j - 2 * columns) * per_column)
        north[j] = math.sin((j - 2 * columns) * per_column)
    polars, hues = np.empty(points.shape[1]), np.empty(points.shape[1])
    for sheet in range(points.shape[0]):
        for m in range(points.shape[1]):
            p = points[sheet, m]
            polars[m] = math.atan2(math.hypot(p[0], p[1]), p[2])
            hues[m] = math.atan2(p[1], p[0])
        for t in range(triangles.shape[0]):
            a = points[sheet, triangles[t, 0]]
            b = points[sheet, triangles[t, 1]]
            c = points[sheet, triangles[t, 2]]
            low, high = 10.0, -10.0
            for k in range(3):
                polar = polars[triangles[t, k]]
                low, high = min(low, polar), max(high, polar)
                hue[k] = hues[triangles[t, k]]
            second = (hue[1] - hue[0] + math.pi) % (2 * math.pi) - math.pi
            third = (hue[2] - hue[0] + math.pi) % (2 * math.pi) - math.pi
            left, right = min(0.0, second, third), max(0.0, second, third)
            # Great circles bulge towards the poles by less than a quarter of the hue squared.
            bulge = 0.25 * (right - left) ** 2 + 1e-9
            first_row = math.floor((low - bulge) / per_row)
            last_row = math.ceil((high + bulge) / per_row)
            if right - left > _WIDE:
                first_column, last_column = 0, columns - 1
                if low < 1.0:
                    first_row = 0
                if high > math.pi - 1.0:
                    last_row = rows
            else:
                first_column = math.floor((hue[0] + left) / per_column)
                last_column = math.ceil((hue[0] + right) / per_column)
            ux, uy, uz = b[0] - a[0], b[1] - a[1], b[2] - a[2]
            vx, vy, vz = c[0] - a[0], c[1] - a[1], c[2] - a[2]
            nx, ny, nz = uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx
            square = nx * nx + ny * ny + nz * nz
            if square < 1e-18:
                continue
            plane = a[0] * nx + a[1] * ny + a[2] * nz
            for i in range(max(first_row, 0), min(last_row, rows) + 1):
                sine, z = sines[i], cosines[i]
                for j in range(first_column, last_column + 1):
                    x, y = sine * east[j + 2 * columns], sine * north[j + 2 * columns]
                    along = x * nx + y * ny + z * nz
                    if abs(along) < 1e-12:
                        continue
                    r = plane / along
                    if r <= radius[i, j % columns]:
                        continue
                    px, py, pz = x * r - a[0], y * r - a[1], z * r - a[2]
                    s = (
                        (py * vz - pz * vy) * nx
                        + (pz * vx - px * vz) * ny
                        + (px * vy - py * vx) * nz
                    )
                    q = (
                        (uy * pz - uz * py) * nx
                        + (uz * px - ux * pz) * ny
                        + (ux * py - uy * px) * nz
                    )
                    slack = 1e-9 * square
                    if s >= -slack and q >= -slack and s + q <= square + slack:
                        radius[i, j % columns] = r


@njit(cache=True, inline="always")
def _apart(grid, row, column, aim):  # type: ignore[no-untyped-def]
    """Squared distance of aim from the bilinear surface at a fractional place."""
    rows, columns = grid.shape[0] - 1, grid.shape[1]
    row = min(max(row, 0.0), float(rows))
    i = min(int(row), rows - 1)
    f = row - i
    whole = math.floor(column)
    g = column - whole
    j = int(whole) % columns
    k = (j + 1) % columns
    total = 0.0
    for o in range(3):
        value = (1 - f) * ((1 - g) * grid[i, j, o] + g * grid[i, k, o])
        value += f * ((1 - g) * grid[i + 1, j, o] + g * grid[i + 1, k, o])
        total += (value - aim[o]) ** 2
    return total


@njit(cache=True, parallel=True)
def nearest_place(grid: Floats, aims: Floats, starts: np.ndarray, places: Floats) -> None:
    """Fill places (n, 2), the fractional row and column of the surface point nearest to each aim.

    grid : (rows + 1, columns, 3) points of the surface; starts : (n,) flat place of its nearest node.
    From there by ever smaller steps, to a sixteenth of the grid's.
    """
    rows, columns = grid.shape[0] - 1, grid.shape[1]
    for n in prange(aims.shape[0]):
        row, column = float(starts[n] // columns), float(starts[n] % columns)
        best = _apart(grid, row, column, aims[n])
        step = 1.0
        while step > 0.05:
            moved = False
            at_row, at_column = row, column
            for di in range(-1, 2):
                for dj in range(-1, 2):
                    r = min(max(at_row + di * step, 0.0), float(rows))
                    c = at_column + dj * step
                    found = _apart(grid, r, c, aims[n])
                    if found < best - 1e-12:
                        best, row, column = found, r, c
                        moved = True
            if not moved:
                step *= 0.5
        places[n, 0], places[n, 1] = row, column % columns


@njit(cache=True, inline="always")
def _edge(grid, lightness, hue):  # type: ignore[no-untyped-def]
    """Bilinear in (lightness steps, hue steps + 1) over L* 0..100 and 0..360 degrees."""
    rows, columns = grid.shape
    x = (hue % 360.0) / 360.0 * (columns - 1)
    c = min(int(x), columns - 2)
    g = x - c
    y = min(max(lightness / 100.0 * (rows - 1), 0.0), rows - 1.0)
    r = min(int(y), rows - 2)
    f = y - r
    below = grid[r, c] * (1 - g) + grid[r, c + 1] * g
    above = grid[r + 1, c] * (1 - g) + grid[r + 1, c + 1] * g
    return below * (1 - f) + above * f


@njit(cache=True, parallel=True)
def widest_angle(
    grid: Floats, lowest: float, lean: float, hue: Floats, cusp: Floats, level: Floats, out: Floats
) -> None:
    """Fill out (n,): the angle from the lightness axis at which lines of one level leave a leaf below.

    grid : as in _edge, largest C*ab; lowest : L* of the medium's black, where angles are measured; level :
    (n,) L* above it plus `lean` times C*ab, the same all along a line; cusp : (n, 2) L* and C*ab of the
    leaf. Beyond the cusp the leaf counts as running on straight from black.
    """
    for i in prange(hue.size):
        low, high = 0.0, 0.5 * math.pi
        steep = cusp[i, 1] / max(cusp[i, 0] - lowest, 1.0)
        for _ in range(22):
            middle = 0.5 * (low + high)
            sine, cosine = math.sin(middle), math.cos(middle)
            far = level[i] / (cosine + lean * sine)
            lightness = lowest + far * cosine
            if lightness >= cusp[i, 0]:
                most = steep * (lightness - lowest)
            else:
                most = _edge(grid, lightness, hue[i])
            if far * sine <= most:
                low = middle
            else:
                high = middle
        out[i] = low


@njit(cache=True, parallel=True)
def farthest_along(
    grid: Floats, lowest: float, hue: Floats, cusp: Floats, angle: Floats, out: Floats
) -> None:
    """Fill out (n,): how far from the medium's black a leaf reaches above its cusp, at an angle from the
    lightness axis; the rest as in widest_angle."""
    for i in prange(hue.size):
        low, high = 0.0, 160.0
        sine, cosine = math.sin(angle[i]), math.cos(angle[i])
        for _ in range(24):
            middle = 0.5 * (low + high)
            lightness = lowest + middle * cosine
            inside = lightness <= 100.0
            if inside and middle * sine <= _edge(grid, max(lightness, cusp[i, 0]), hue[i]):
                low = middle
            else:
                high = middle
        out[i] = low
