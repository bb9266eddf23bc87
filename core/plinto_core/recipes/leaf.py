"""A leaf of one hue: what the artwork's space has there, what prints there, and where colours go."""

from __future__ import annotations

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import Lab_to_XYZ
from plinto_core.colorimetry.even_hue import even_hue, in_hue, turn
from plinto_core.errors import CoreError
from plinto_core.fields import Part
from plinto_core.gamut.body import GamutBody
from plinto_core.gamut.boundary import GamutBoundary
from plinto_core.gamut.of_profile import Gamut, gamut_of
from plinto_core.recipes.route import ColourRoute
from plinto_core.transform.black_point import RELATIVE
from plinto_core.transform.sides import xyz_to_device

_LEVELS = np.linspace(10.0, 90.0, 9)
_SHARES = 0.35, 0.7, 0.99
"""Of the artwork's largest chroma at a level; the last is short of the edge, which a table may clip."""
_VIVID = 20.0
"""C*ab from which a colour's turn of hue is counted."""
Point = tuple[float, float]


class Leaf(Part):
    """hue : OKLab degrees; source, press : the outlines, empty where there is no body of colours; before,
    after : colours of the artwork and their prints; each a C*ab and an L*, relative to its own white, or as
    they are under the absolute intent. turned : mean degrees of OKLab hue by which vivid ones turn."""

    hue: float
    source: list[Point]
    press: list[Point]
    before: list[Point]
    after: list[Point]
    turned: float | None


def leaf(route: ColourRoute, hue: float) -> Leaf:
    """What a route makes of the colours in one OKLab hue, in degrees."""
    # Ink rules bound the print of any intent; with its white it is seen from the profile alone.
    absolute = route.intent == "absolute"
    press = gamut_of(route.destination, intent="absolute") if absolute else route.reach
    source = _outline(gamut_of(route.source), hue)
    lab = _colours(source, hue)
    try:
        device = xyz_to_device(route.source, Lab_to_XYZ(lab), RELATIVE)
    except CoreError:
        device = np.zeros((0, route.source.channels))
    if route.negative:
        device = 1.0 - device
    before = route.source_lab(device)
    printed = route.print_lab(route.inks(device)) if len(device) else before
    vivid = (np.hypot(*before[:, 1:].T) > _VIVID) & (np.hypot(*printed[:, 1:].T) > _VIVID)
    turned = np.abs(turn(even_hue(printed[vivid]) - even_hue(before[vivid])))
    return Leaf(
        hue=hue,
        source=source,
        press=_outline(press, hue),
        before=_seen(before),
        after=_seen(printed),
        turned=round(float(turned.mean()), 1) if vivid.any() else None,
    )


def _colours(outline: list[Point], hue: float) -> Floats:
    """(n, 3) Lab over a leaf: greys, then chromatic colours where it has any."""
    levels, chroma = _LEVELS, [np.zeros(len(_LEVELS))]
    if outline:
        edge = np.interp(levels, *np.array(outline)[:, ::-1].T)
        chroma += [share * edge for share in _SHARES]
    count = len(chroma)
    return in_hue(np.full(count * len(levels), hue), np.tile(levels, count), np.concatenate(chroma))


def _outline(gamut: Gamut, hue: float) -> list[Point]:
    """C*ab and L* along the edge of a leaf, from dark to light."""
    if not isinstance(gamut, GamutBody):
        return []
    boundary = GamutBoundary.of_body(gamut, rounded=False)
    levels = np.linspace(0.0, 100.0, 101)
    chroma = boundary.at(levels, np.full(levels.size, hue))
    lowest, highest = gamut.lightness_range
    inside = (levels > lowest) & (levels < highest)
    edge = np.stack([chroma, levels], axis=1)[inside]
    return [(0.0, round(lowest, 1)), *_pairs(edge), (0.0, round(highest, 1))]


def _seen(lab: Floats) -> list[Point]:
    return _pairs(np.stack([np.hypot(lab[:, 1], lab[:, 2]), lab[:, 0]], axis=1))


def _pairs(values: Floats) -> list[Point]:
    return [(round(float(x), 1), round(float(y), 1)) for x, y in values]
