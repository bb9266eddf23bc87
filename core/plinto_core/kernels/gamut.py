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


@njit(cache=True, parallel=True)
def leave_along(
    grid: Floats, focus: Floats, lightness: Floats, chroma: Floats, hue: Floats, farthest: float,
    halvings: int, out: Floats,
) -> None:  # fmt: skip
    """Fill out (n,): how far rays run within a boundary, in multiples of their colour, by bisection.

    grid : (lightness steps, hue steps + 1) largest C*ab over L* 0..100 and hue 0..360 degrees, bilinear;
    the ray of a colour starts at the grey `focus` and passes (lightness, chroma) at 1, at its hue.
    """
    rows, columns = grid.shape
    for i in prange(focus.size):
        x = (hue[i] % 360.0) / 360.0 * (columns - 1)
        c = min(int(x), columns - 2)
        g = x - c
        low, high = 0.0, farthest
        for _ in range(halvings):
            middle = 0.5 * (low + high)
            y = (focus[i] + middle * (lightness[i] - focus[i])) / 100.0 * (rows - 1)
            y = min(max(y, 0.0), rows - 1.0)
            r = min(int(y), rows - 2)
            f = y - r
            below = grid[r, c] * (1 - g) + grid[r, c + 1] * g
            above = grid[r + 1, c] * (1 - g) + grid[r + 1, c + 1] * g
            if middle * chroma[i] <= below * (1 - f) + above * f:
                low = middle
            else:
                high = middle
        out[i] = low


@njit(cache=True, parallel=True)
def nearest_in_leaf(
    grid: Floats, lightness: Floats, chroma: Floats, hue: Floats, weight: float, out: Floats
) -> None:
    """Fill out (n, 2): the L* and C*ab within a boundary that are nearest at the hue of each colour.

    grid : as in leave_along; weight : of chroma against lightness, divided by 1 + 0.045 C*. Between two
    lightnesses of the grid the boundary is a straight line.
    """
    rows, columns = grid.shape
    step = 100.0 / (rows - 1)
    for i in prange(lightness.size):
        x = (hue[i] % 360.0) / 360.0 * (columns - 1)
        c = min(int(x), columns - 2)
        g = x - c
        y = min(max(lightness[i] / step, 0.0), rows - 1.0)
        r = min(int(y), rows - 2)
        below = grid[r, c] * (1 - g) + grid[r, c + 1] * g
        above = grid[r + 1, c] * (1 - g) + grid[r + 1, c + 1] * g
        out[i, 0], out[i, 1] = lightness[i], chroma[i]
        if chroma[i] <= below + (y - r) * (above - below):
            continue
        w = weight / (1.0 + 0.045 * chroma[i])
        least = np.inf
        above = grid[0, c] * (1 - g) + grid[0, c + 1] * g
        for r in range(rows - 1):
            below = above
            above = grid[r + 1, c] * (1 - g) + grid[r + 1, c + 1] * g
            if below <= 0.0 and above <= 0.0:
                continue
            along = w * (above - below)
            aside = w * (chroma[i] - below)
            up = lightness[i] - r * step
            t = min(max((up * step + aside * along) / (step * step + along * along), 0.0), 1.0)
            away = (up - t * step) ** 2 + (aside - t * along) ** 2
            if away < least:
                least = away
                out[i, 0], out[i, 1] = (r + t) * step, below + t * (above - below)
