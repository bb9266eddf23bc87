"""Aids for the process at hand: screen mesh and ruling, highlight break-up, early black.

The advice for screen printing follows the trade's rules of thumb, named beside each figure; it
replaces no test print.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from plinto_core.arrays import Floats, Pixels
from plinto_core.inks.plates import PlateRule

MESH_TO_RULING = 4.5
"""Mesh threads per screen line; four to five is usual."""
THREAD_SHARE = 0.38
"""Thread diameter as a share of the mesh's pitch, a middle of what weavers offer."""
GRAIN_LIGHTNESS = {
    "offset": 78.0,
    "gravure": 78.0,
    "photographic": 78.0,
    "inkjet": 70.0,
    "transfer": 70.0,
}
"""L* above which single black dots show, by process: the finer the dots, the lighter; others 60."""
GRAIN_BLACK = (0.01, 0.15)
_MESHES = (34, 43, 49, 55, 61, 68, 77, 90, 100, 110, 120, 140, 150, 165, 180)
"""Usual mesh counts in threads per centimetre."""


@dataclass(frozen=True)
class ScreenAdvice:
    """mesh : threads per cm; opening : micrometres; least_dot : smallest tone value, percent,
    whose dot is wider than an opening and a thread; tones : grey levels the film resolves."""

    mesh: int
    wanted_mesh: float
    thread: float
    opening: float
    least_dot: float
    most_dot: float
    tones: int
    finest_ruling: float


def screen_advice(ruling: float, film_resolution: float) -> ScreenAdvice:
    """For an AM screen of `ruling` lines per inch on film of `film_resolution` pixels per inch.

    A dot holds on the mesh when its diameter covers an opening and a thread (one pitch); its
    tone value is the dot's area in the cell. Shadows are the same the other way round.
    """
    wanted = ruling / 2.54 * MESH_TO_RULING
    mesh = next((m for m in _MESHES if m >= wanted), _MESHES[-1])
    pitch = 10_000.0 / mesh
    cell = 25_400.0 / ruling
    least = float(np.pi / 4 * (pitch / cell) ** 2 * 100)
    return ScreenAdvice(
        mesh=mesh,
        wanted_mesh=wanted,
        thread=pitch * THREAD_SHARE,
        opening=pitch * (1 - THREAD_SHARE),
        least_dot=min(50.0, least),
        most_dot=max(50.0, 100.0 - least),
        tones=int((film_resolution / ruling) ** 2) + 1,
        finest_ruling=_MESHES[-1] * 2.54 / MESH_TO_RULING,
    )


def break_up(names: tuple[str, ...], dot: float) -> dict[str, PlateRule]:
    """Plates on which every tone value below `dot` percent has vanished, as on a worn flexo plate."""
    return {name: PlateRule(minimum=dot, cut=dot) for name in names}


def fine_share(inks: Pixels, dot: float) -> Floats:
    """(plates,) share of (n, plates) pixels with a tone value above 0 and below `dot` percent."""
    full = float(np.iinfo(inks.dtype).max)
    found = (inks > 0.004 * full) & (inks < dot / 100 * full)
    return np.asarray(found.mean(axis=0))


def grain_share(lightness: Floats, black: Floats, process: str) -> float:
    """Share 0..1 of light pixels (n,) that carry some black, 1 to 15 %: single black dots stand alone
    there and look grainy. What is light follows from how fine the process's dots are."""
    low, high = GRAIN_BLACK
    light = lightness > GRAIN_LIGHTNESS.get(process, 60.0)
    return float((light & (black > low) & (black < high)).mean())
