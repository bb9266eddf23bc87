"""The body of colours that a device shows or prints, seen from its middle: one boundary for every use.

A ray into each of 29,000 directions tells how far the gamut reaches. That holds for bodies all of whose
boundary is seen from a grey in the middle, as printing presses and RGB spaces are; docs/methods/gamut.md
says how closely.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from scipy.ndimage import map_coordinates
from scipy.spatial import cKDTree

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import Lab_to_LCh, LCh_to_Lab
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.colorimetry.even_hue import even_hue
from plinto_core.gamut.sheets import device_sheets, sheet_triangles
from plinto_core.kernels.gamut import cast, nearest_place

ROWS, COLUMNS = 120, 240
"""Directions every 1.5 degrees, from white to black and around the hues."""
CENTRE = 50.0
"""L* of the grey that rays start from, the same for all bodies where it lies in them, so that two can be
laid over each other ray by ray."""
THRESHOLD = 2.0
"""dE00 above which a colour counts as out of gamut: a difference that is seen, and well above the error
of the boundary."""
_LEAST = 0.5
"""Shortest ray, in CIELAB units, of a body that its centre lies in."""


@dataclass(frozen=True)
class GamutBody:
    """radius : (ROWS + 1, COLUMNS) how far each ray reaches from (centre, 0, 0), in CIELAB units; row 0
    looks to white, the last to black, column 0 to +a*, the quarter to +b*."""

    radius: Floats
    centre: float = CENTRE

    @classmethod
    def of_device(
        cls,
        lab_of: Callable[[Floats], Floats],
        limits: Floats,
        tac: float | None = None,
        *,
        centre: float = CENTRE,
    ) -> GamutBody:
        """From a device of three channels or more.

        lab_of : (n, channels) values 0..1 to (n, 3) Lab; limits : (channels,) greatest values; tac : a
        sum of shares. Where the centre is not in the body, a grey that is takes its place.
        """
        limits = np.asarray(limits, dtype=np.float64)
        device = device_sheets(limits, float(limits.sum()) if tac is None else tac)
        lab = lab_of(device.reshape(-1, limits.size))
        return cls.of_sheets(lab.reshape(*device.shape[:2], 3), sheet_triangles(), centre=centre)

    @classmethod
    def of_sheets(cls, lab: Floats, triangles: np.ndarray, *, centre: float = CENTRE) -> GamutBody:
        """From (sheets, m, 3) Lab and the (t, 3) triangles of a sheet."""
        radius = _seen_from(lab, triangles, centre)
        if (radius < _LEAST).any():
            grey = np.median(lab.reshape(-1, 3)[:, 0])
            centre = float(grey)
            radius = _seen_from(lab, triangles, centre)
        return cls(radius, centre)

    @property
    def holds_centre(self) -> bool:
        """Whether rays have anywhere to go: not where the colours make a surface or a line."""
        return bool((self.radius >= _LEAST).all())

    @cached_property
    def vertices(self) -> Floats:
        """(ROWS + 1, COLUMNS, 3) Lab of the mesh."""
        lab = _directions()[..., [2, 0, 1]] * self.radius[..., None]
        lab[..., 0] += self.centre
        return np.asarray(lab)

    @property
    def volume(self) -> float:
        """Volume of the mesh in cubic CIELAB units."""
        p = self.vertices - np.array([self.centre, 0.0, 0.0])
        q = np.roll(p, -1, axis=1)
        a, b, c, d = p[:-1], p[1:], q[:-1], q[1:]
        parts = np.abs((np.cross(a, b) * c).sum(-1)) + np.abs((np.cross(b, d) * c).sum(-1))
        return float(parts.sum() / 6.0)

    def reach(self, lab: Floats) -> Floats:
        """(n, 3) Lab to (n,) the share of the way from the centre to the boundary: 1 on it, more outside."""
        away = np.asarray(lab, dtype=np.float64) - np.array([self.centre, 0.0, 0.0])
        chroma = np.hypot(away[:, 1], away[:, 2])
        row = np.arctan2(chroma, away[:, 0]) / np.pi * ROWS
        column = np.arctan2(away[:, 2], away[:, 1]) / (2 * np.pi) % 1.0 * COLUMNS
        there = np.hypot(chroma, away[:, 0])
        return np.asarray(there / np.maximum(_between(self.radius, row, column), 1e-9))

    def contains(self, lab: Floats) -> np.ndarray:
        """(n, 3) Lab to (n,) whether each lies in the body."""
        return self.reach(lab) <= 1.0

    def nearest(self, lab: Floats) -> Floats:
        """(n, 3) Lab to the boundary's point that looks most alike, wherever the colours lie.

        Near in lightness, in chroma as the eye weighs it (compressed as in DIN 6176) and in a hue that
        keeps blues blue (OKLab's).
        """
        lab = np.asarray(lab, dtype=np.float64).reshape(-1, 3)
        surface, tree = self._seen
        places = np.empty((len(lab), 2))
        aims = as_seen(lab)
        _, found = tree.query(aims, workers=-1)
        starts = found // (COLUMNS // 2) * 2 * COLUMNS + found % (COLUMNS // 2) * 2
        nearest_place(surface, aims, starts, places)
        return np.stack(
            [_between(self.vertices[..., o], places[:, 0], places[:, 1]) for o in range(3)], axis=1
        )

    def distance(self, lab: Floats) -> Floats:
        """(n, 3) Lab to (n,) dE00 to the nearest point of the boundary, negative inside."""
        lab = np.asarray(lab, dtype=np.float64).reshape(-1, 3)
        away = delta_e_2000(lab, self.nearest(lab))
        return np.asarray(np.where(self.contains(lab), -away, away))

    def misses(self, lab: Floats) -> np.ndarray:
        """(n, 3) Lab to (n,) whether each lies so far outside that it is seen (THRESHOLD)."""
        out = ~self.contains(lab)
        if out.any():
            out[out] = self.distance(lab[out]) > THRESHOLD
        return out

    def printable(self, lab: Floats) -> Floats:
        """(n, 3) Lab, those outside the body moved to the nearest point of its boundary."""
        out = np.array(lab, dtype=np.float64)
        outside = ~self.contains(out)
        if outside.any():
            out[outside] = self.nearest(out[outside])
        return out

    def chroma_at(self, lightness: Floats, hue: Floats) -> Floats:
        """(n,) largest C*ab at (n,) L* and CIELAB hue in degrees; 0 above white and below black."""
        low, high = np.zeros_like(lightness, dtype=np.float64), np.full(lightness.shape, 250.0)
        for _ in range(24):
            middle = 0.5 * (low + high)
            inside = self.contains(LCh_to_Lab(np.stack([lightness, middle, hue], axis=1)))
            low, high = np.where(inside, middle, low), np.where(inside, high, middle)
        return np.asarray(low)

    @property
    def lightness_range(self) -> tuple[float, float]:
        """L* of the darkest and lightest grey."""
        return self.centre - float(self.radius[-1, 0]), self.centre + float(self.radius[0, 0])

    def intersection(self, other: GamutBody) -> GamutBody:
        """What both bodies hold, seen from a grey in both; without one, a body of no volume."""
        if other.centre == self.centre:
            return GamutBody(np.minimum(self.radius, other.radius), self.centre)
        ranges = (self.lightness_range, other.lightness_range)
        low, high = max(r[0] for r in ranges), min(r[1] for r in ranges)
        if low >= high:
            return GamutBody(np.zeros_like(self.radius), self.centre)
        mine, others = (b.seen_from(0.5 * (low + high)) for b in (self, other))
        return GamutBody(np.minimum(mine.radius, others.radius), mine.centre)

    def coverage(self, other: GamutBody) -> float:
        """Share 0..1 of the other body that lies in this one."""
        return other.intersection(self).volume / max(other.volume, 1e-9)

    def seen_from(self, centre: float) -> GamutBody:
        """The same body from another grey; rays to what lies behind its surface stop there."""
        directions = _directions()[..., [2, 0, 1]].reshape(-1, 3)
        low, high = np.zeros(len(directions)), np.full(len(directions), 300.0)
        for _ in range(26):
            middle = 0.5 * (low + high)
            inside = self.contains(directions * middle[:, None] + np.array([centre, 0.0, 0.0]))
            low, high = np.where(inside, middle, low), np.where(inside, high, middle)
        return GamutBody(low.reshape(self.radius.shape), centre)

    @cached_property
    def _seen(self) -> tuple[Floats, cKDTree]:
        surface = as_seen(self.vertices.reshape(-1, 3)).reshape(self.vertices.shape)
        # Every other node is near enough to begin from.
        return surface, cKDTree(surface[::2, ::2].reshape(-1, 3))


def _directions() -> Floats:
    """(ROWS + 1, COLUMNS, 3) unit rays as a*, b*, L*."""
    polar = np.arange(ROWS + 1)[:, None] * np.pi / ROWS
    hue = np.arange(COLUMNS)[None, :] * 2 * np.pi / COLUMNS
    sine = np.sin(polar)
    return np.stack([sine * np.cos(hue), sine * np.sin(hue), np.cos(polar) + 0 * hue], axis=-1)


def _seen_from(lab: Floats, triangles: np.ndarray, centre: float) -> Floats:
    radius = np.zeros((ROWS + 1, COLUMNS))
    away = np.ascontiguousarray((lab - np.array([centre, 0.0, 0.0]))[..., [1, 2, 0]])
    cast(away, triangles, radius)
    # All columns of a pole are one ray.
    radius[0], radius[-1] = radius[0].max(), radius[-1].max()
    return radius


def _between(grid: Floats, row: Floats, column: Floats) -> Floats:
    """Bilinear in (ROWS + 1, COLUMNS), around the hues."""
    closed = np.concatenate([grid, grid[:, :1]], axis=1)
    return np.asarray(map_coordinates(closed, [row, column], order=1, mode="nearest"))


_COMPRESSION = 0.045
"""Of chroma, as CIE 94 and DIN 6176 weigh it."""


def as_seen(lab: Floats) -> Floats:
    """(n, 3) Lab to (n, 3) coordinates in which straight distances are nearly what the eye sees."""
    chroma = np.log1p(_COMPRESSION * Lab_to_LCh(lab)[:, 1]) / _COMPRESSION
    hue = np.radians(even_hue(lab))
    return np.stack([lab[:, 0], chroma * np.cos(hue), chroma * np.sin(hue)], axis=1)
