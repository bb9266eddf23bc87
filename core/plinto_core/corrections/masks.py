"""Where a correction acts: the weight of a region at every pixel of a band or a view."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from plinto_core.arrays import Floats32
from plinto_core.corrections.model import Region
from plinto_core.kernels.mask import polygon_weight


@dataclass(frozen=True)
class Place:
    """Where pixels lie in their picture, in pixels of its full size: the first one's corner
    and the step from one to the next."""

    picture: tuple[int, int]
    """width, height"""
    left: float = 0.0
    top: float = 0.0
    step_x: float = 1.0
    step_y: float = 1.0


def region_weight(region: Region, place: Place, rows: int, columns: int) -> Floats32:
    """(rows, columns) weight 0..1, by the distance of pixel centres to the region's edge."""
    width, height = place.picture
    corners = np.array(region.corners, dtype=np.float64) / 100.0 * np.array([width, height])
    soft = max(1.0, region.softness / 100.0 * min(width, height))
    weight = polygon_weight(
        corners, soft, place.left, place.top, place.step_x, place.step_y, columns, rows
    )
    return np.asarray(1 - weight if region.outside else weight, dtype=np.float32)
