"""Meshes divided so finely that colours converted at their corners alone are right between them.

A mesh is interpolated in the space it is stored in. Converted corners of a large triangle would lead through
other colours than the converted colours between them: so triangles are cut into k x k, patches into k x k of
their own (exactly: a part of a bicubic surface is one), with k by the error that is found inside.
ISO 32000-2, 8.7.4.5.5 to 8.7.4.5.8; parts of Bezier surfaces by blossoms (Farin, Curves and Surfaces for CAGD).
"""

from __future__ import annotations

from collections.abc import Callable
from functools import cache

import numpy as np

from plinto_core.arrays import Floats

Convert = Callable[[Floats], Floats]
TOLERANCE = 0.008
"""Of a value 0..1 of the destination between corners: about half a dE00."""
MOST_PARTS = 16
"""A side is divided into at most."""
ORDER = [(0, 0), (0, 1), (0, 2), (0, 3), (1, 3), (2, 3), (3, 3), (3, 2), (3, 1), (3, 0), (2, 0), (1, 0), (1, 1), (1, 2), (2, 2), (2, 1)]  # fmt: skip
"""Places of the 16 points of a patch in the order in which they are stored."""
_INSIDE = np.array([[1, 1, 0], [1, 0, 1], [0, 1, 1], [2, 2, 2], [4, 1, 1], [1, 4, 1], [1, 1, 4]])


def triangles_of_lattice(count: int, per_row: int) -> np.ndarray:
    """(triangles, 3) places of vertices in rows of `per_row` (type 5)."""
    rows = count // per_row
    grid = np.arange(rows * per_row).reshape(rows, per_row)
    a, b, c, d = grid[:-1, :-1], grid[:-1, 1:], grid[1:, :-1], grid[1:, 1:]
    parts = [np.stack([v.ravel() for v in t], axis=1) for t in ((a, b, c), (b, c, d))]
    return np.concatenate(parts) if rows > 1 else np.zeros((0, 3), int)


def triangles_of_flags(flags: np.ndarray) -> np.ndarray:
    """(triangles, 3) places of vertices by their flags (type 4): 0 begins a triangle of three, 1 goes on
    from the last two corners, 2 from the first and the last. What is left over at the end is no triangle."""
    found: list[tuple[int, int, int]] = []
    at = 0
    while at < len(flags):
        if flags[at] == 0 or not found:
            if at + 2 >= len(flags):
                break
            found.append((at, at + 1, at + 2))
            at += 3
            continue
        first, second, third = found[-1]
        found.append((second if flags[at] == 1 else first, third, at))
        at += 1
    return np.array(found, dtype=int).reshape(-1, 3)


def divided_triangles(
    points: Floats, colours: Floats, convert: Convert, most: int
) -> tuple[Floats, Floats]:
    """(m, 3, 2) points and (m, 3, channels) converted colours of triangles that are small enough.

    points : (n, 3, 2); colours : (n, 3, source channels); most : triangles at most.
    """
    weights = _INSIDE / _INSIDE.sum(axis=1, keepdims=True)
    parts = _parts(colours, weights, convert, most)
    made: list[tuple[Floats, Floats]] = []
    for k in np.unique(parts):
        these = parts == k
        split = _split_triangle(int(k))
        shape = (-1, 3, points.shape[2])
        made.append(
            (
                np.einsum("tcw,nwx->ntcx", split, points[these]).reshape(shape),
                np.einsum("tcw,nwx->ntcx", split, colours[these]).reshape(-1, colours.shape[2]),
            )
        )
    places = np.concatenate([p for p, _ in made])
    return places, convert(np.concatenate([c for _, c in made])).reshape(len(places), 3, -1)


def divided_patches(
    points: Floats, colours: Floats, convert: Convert, most: int
) -> tuple[Floats, Floats]:
    """The same of bicubic patches: (m, 4, 4, 2) and (m, 2, 2, channels).

    points : (n, 4, 4, 2) control points; colours : (n, 2, 2, source channels) at the corners.
    """
    t = np.linspace(0, 1, 5)
    u, v = (g.ravel() for g in np.meshgrid(t, t, indexing="ij"))
    weights = np.stack([(1 - u) * (1 - v), (1 - u) * v, u * (1 - v), u * v], axis=1)
    parts = _parts(colours.reshape(len(colours), 4, -1), weights, convert, most)
    made: list[tuple[Floats, Floats]] = []
    for k in np.unique(parts):
        these = parts == k
        curve, line = _split_curve(int(k))
        made.append(
            (
                np.einsum("iab,jcd,nbdx->nijacx", curve, curve, points[these]).reshape(-1, 4, 4, 2),
                np.einsum("iab,jcd,nbdx->nijacx", line, line, colours[these]).reshape(
                    -1, colours.shape[3]
                ),
            )
        )
    places = np.concatenate([p for p, _ in made])
    return places, convert(np.concatenate([c for _, c in made])).reshape(len(places), 2, 2, -1)


def _parts(colours: Floats, weights: Floats, convert: Convert, most: int) -> np.ndarray:
    """(n,) parts a side, by what corners alone miss at places inside.

    colours : (n, corners, channels); weights : (places, corners). Halved together until `most` holds.
    """
    count, corners, channels = colours.shape
    at_corners = convert(colours.reshape(-1, channels)).reshape(count, corners, -1)
    inside = np.einsum("pc,ncx->npx", weights, colours)
    right = convert(inside.reshape(-1, channels)).reshape(count, len(weights), -1)
    missed = np.abs(right - np.einsum("pc,ncx->npx", weights, at_corners)).max(axis=(1, 2))
    # Between corners half as far apart a quarter is missed; twos, so that few kinds are made.
    parts = 2 ** np.ceil(np.log2(np.sqrt(np.maximum(missed / TOLERANCE, 1.0)))).astype(int)
    parts = np.minimum(parts, MOST_PARTS)
    while (parts.astype(np.int64) ** 2).sum() > max(most, count):
        parts = np.maximum(parts // 2, 1)
    return np.asarray(parts)


@cache
def _split_triangle(k: int) -> Floats:
    """(k * k, 3 corners, 3) weights of a triangle's corners in those of its parts."""

    def corner(i: int, j: int) -> tuple[float, float, float]:
        return i / k, j / k, 1 - (i + j) / k

    found = []
    for i in range(k):
        for j in range(k - i):
            found.append([corner(i, j), corner(i + 1, j), corner(i, j + 1)])
            if i + j < k - 1:
                found.append([corner(i + 1, j), corner(i + 1, j + 1), corner(i, j + 1)])
    return np.array(found)


@cache
def _split_curve(k: int) -> tuple[Floats, Floats]:
    """(k, 4, 4) and (k, 2, 2) weights of a cubic's control points, and of a line's ends, in its k parts."""
    curve, line = np.empty((k, 4, 4)), np.empty((k, 2, 2))
    for part in range(k):
        a, b = part / k, (part + 1) / k
        line[part] = [[1 - a, a], [1 - b, b]]
        for row, at in enumerate(((a, a, a), (a, a, b), (a, b, b), (b, b, b))):
            weights = np.eye(4)
            for t in at:
                weights = (1 - t) * weights[:-1] + t * weights[1:]
            curve[part, row] = weights[0]
    return curve, line


def tensor_of_coons(points: Floats) -> Floats:
    """(n, 4, 4, 2) with the inner four filled from the twelve around them (type 6)."""
    p = points
    for i, j in ((1, 1), (1, 2), (2, 1), (2, 2)):
        # Near and far corner, and the points beside them.
        a, b = (0, 3) if i == 1 else (3, 0), (0, 3) if j == 1 else (3, 0)
        p[:, i, j] = (
            -4 * p[:, a[0], b[0]]
            + 6 * (p[:, a[0], j] + p[:, i, b[0]])
            - 2 * (p[:, a[0], b[1]] + p[:, a[1], b[0]])
            + 3 * (p[:, a[1], j] + p[:, i, b[1]])
            - p[:, a[1], b[1]]
        ) / 9
    return p
