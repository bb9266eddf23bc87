"""Gamut mapping seen from the medium's black (after CIE 156; Morovic 2008, ch. 9 and 10).

In the leaf of a hue what prints is nearly a triangle: black, white, and the cusp where the hue is most
chromatic. Seen from black, a colour is an angle from the lightness axis, which is how saturated it is, and
a distance. Too saturated a colour, below the way from black to the cusp, comes back by a smaller angle: it
gets lighter and duller at once. Too light a vivid colour comes back by a smaller distance: it gets darker
and duller at once and keeps its saturation. So chroma and lightness that rise together in the artwork never
part in the print, and the whole wedge beyond the cusp goes to the cusp, the most vivid print there is.

Colours far outside also turn by a little towards hues that print more vividly, and blues halfway to the hue
that CAM16 has for them. What no light is, is brought to light first. No source gamut has to be known.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from typing import Literal

import numpy as np
from scipy.ndimage import gaussian_filter1d

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cam16 import cam16_hue
from plinto_core.colorimetry.cielab import Lab_to_XYZ, XYZ_to_Lab
from plinto_core.colorimetry.even_hue import (
    XYZ_to_OKLab,
    even_hue,
    hue_of,
    in_hue,
    made_real,
    turn,
)
from plinto_core.gamut.boundary import GamutBoundary
from plinto_core.keeping import Kept
from plinto_core.transform.standard_spaces import SPACES, rgb_matrix

Kind = Literal["faithful", "balanced", "vivid"]


@dataclass(frozen=True)
class MappingLook:
    """knee : share of the way to the boundary that is kept as it is; reach : share of it where the most vivid
    colour of sRGB's in that hue ends; chroma : factor on all chroma; lean : L* that a dark vivid colour gains for each C* it loses;
    giving : how far the lightness of light vivid colours gives for chroma, 0 none, 1 down to the cusp;
    contrast : -0.5..0.5, how much steeper the middle of the tones is; greys : a* and b* of middle greys."""

    knee: float
    reach: float
    chroma: float
    lean: float
    giving: float
    contrast: float = 0.0
    greys: tuple[float, float] = (0.0, 0.0)


LOOKS: dict[str, MappingLook] = {
    "faithful": MappingLook(knee=0.8, reach=0.95, chroma=1.0, lean=0.2, giving=0.0),
    "balanced": MappingLook(knee=0.72, reach=0.99, chroma=1.0, lean=0.25, giving=0.12),
    "vivid": MappingLook(knee=0.8, reach=0.995, chroma=1.06, lean=0.4, giving=0.3),
    "saturation": MappingLook(knee=0.9, reach=1.0, chroma=1.15, lean=0.6, giving=0.8),
}
SHOWN = MappingLook(knee=1.0, reach=1.0, chroma=1.0, lean=0.3, giving=0.25)
"""Of what a screen cannot show: dark colours get lighter sooner than duller, so that their hue is seen."""
CLIPPED = MappingLook(knee=1.0, reach=1.0, chroma=1.0, lean=0.3, giving=0.25)
"""What prints stays, the rest goes to the boundary."""
_GREYISH = 20.0
"""C*ab at which no more than a third of what greys lean by is left."""
_BLACKISH = 4.7
"""L* below which chroma fades: the blues there have twenty times as much of it as lightness, and no table
has nodes enough to follow them."""
_DULL, _COLOURFUL = 0.5, 1.1
"""Chroma as a share of the cusp's from which a colour turns and is made more vivid, and at which in full."""
_LIGHT = 0.9
"""Share of the cusp's angle up to which the knee of distances comes in: white and greys have none."""
_GIVES_OVER = 0.3
"""Shares of the way to the light side over which lightness gives for chroma, from the knee on."""
_VIVID = 0.7
"""Share of the cusp's angle at which a colour is vivid and no longer muted."""
_MUTED, _MUTED_FROM, _MUTED_OVER = 0.4, 0.9, 0.1
"""Share of its angle that a muted light colour gives, so that it loses chroma before lightness; the share of
the way to the light side from which it does, and how fast. Skin prints as light as it is by it."""
_NEAR_TURN = 23.0, 10.7
"""Degrees of a turn that cost half of what a chroma 2.7 times as large is worth, and the most of them, for
colours that sRGB has."""
_WIDE_TURN = 60.0, 18.0
"""The same for colours that no screen shows: their hue is a matter of taste."""
_APART = 6.0
"""Degrees by which the two turns differ at most, so that a wider source or a widened one keeps its hue."""
_EASED = 0.9
"""Of a turn, so that neighbouring hues never become one."""
_WIDE = 0.15
"""Chroma beyond sRGB's, as a share of it, at which a colour counts as one of those."""
_YELLOW = 116.0, 50.0
"""OKLab hue of the middle of the yellows, and how far they reach."""
_YELLOW_TURN = 32.0, 0.6
"""What is added to both figures of a turn there: the eye forgives a warmer yellow, and none that is dull."""
_BLUE, _BLUE_TURN = (-96.0, 40.0), 5.0
"""The same of pure blue, and how many degrees less a turn may be there: black point compensation turns blues
as it is, and a purple sea is no sea."""
_TURQUOISE, _TURQUOISE_TURN = (165.0, 40.0), 0.6
"""The same of turquoise, and the share of a turn that goes there: made green it is another colour."""
_BEYOND = 12.0
"""Distance from the boundary, in L* and C*ab, from which a clipped colour is turned in full."""
_BLUES = -135.0, 42.0
"""OKLab hue of the middle of the blues, and how far from it CAM16 has its say."""
_CAM16_PART, _CAM16_MOST = 0.6, 14.0
"""Share of the difference in CAM16's hue that is taken back, and the most of it that counts, in degrees."""
_DARK, _SKY = 40.0, 70.0
"""L* up to which blues are turned by that in full, and from which not at all."""


def fit_lightness(lightness: Floats, lowest: float, contrast: float = 0.0) -> Floats:
    """L* 0..100 to lowest..100: slope 1 in the lights, a parabola in the shadows, after an S of the contrast
    through the middle."""
    tone = np.clip(lightness, 0.0, 100.0) / 100.0
    lightness = 100.0 * (tone + contrast * tone * (1.0 - tone) * (2.0 * tone - 1.0))
    turn = min(100.0, max(50.0, 2.6 * lowest))
    below = np.clip(turn - lightness, 0.0, turn)
    return np.asarray(lightness + lowest * (below / turn) ** 2)


def map_colours(lab: Floats, boundary: GamutBoundary, look: MappingLook) -> Floats:
    """(n, 3) Lab of the source, black at L* 0, to Lab inside the boundary or near it.

    Just above black chroma fades. Greys keep to the axis, or lean from it where the look says so, most in
    the middle.
    """
    lab = made_real(lab)
    hue = even_hue(lab)
    chroma = np.hypot(lab[:, 1], lab[:, 2]) * look.chroma
    chroma *= 1.0 - (1.0 - np.clip(lab[:, 0] / _BLACKISH, 0.0, 1.0)) ** 3
    lightness = fit_lightness(lab[:, 0], boundary.lowest, look.contrast)
    share = chroma / boundary.cusp(hue)[:, 1]
    vivid = _smooth((share - _DULL) / (_COLOURFUL - _DULL))
    screen = _screen_cusp(hue)
    screen[:, 0] = fit_lightness(screen[:, 0], boundary.lowest, look.contrast)
    hue = hue + vivid * _turns(lab, hue, boundary)
    fitted = _into_leaf(lightness, chroma, hue, boundary, look, screen)
    mapped = _with_blues(lab, hue, vivid, fitted, boundary)
    if any(look.greys):
        tone = np.clip((mapped[:, 0] - boundary.lowest) / (100.0 - boundary.lowest), 0.0, 1.0)
        part = 4.0 * tone * (1.0 - tone) * np.exp(-((chroma / _GREYISH) ** 2))
        mapped[:, 1:] += part[:, None] * np.array(look.greys)
    return mapped


def show_colours(lab: Floats, boundary: GamutBoundary) -> Floats:
    """(n, 3) Lab outside a screen's boundary to Lab on it, each in the hue that is seen in it: OKLab's, of dark
    blues halfway to CAM16's.

    boundary : not rounded.
    """
    source = made_real(lab)
    hue = even_hue(source)
    chroma = np.hypot(source[:, 1], source[:, 2])
    fitted = _into_leaf(np.clip(source[:, 0], 0.0, 100.0), chroma, hue, boundary, SHOWN)
    return _with_blues(source, hue, np.ones(len(hue)), fitted, boundary)


def clip_colours(lab: Floats, boundary: GamutBoundary) -> Floats:
    """(n, 3) Lab aims for relative colorimetric: what the boundary holds as it is, the rest on it.

    Greys darker than the darkest that prints become that one.

    boundary : not rounded.
    """
    lab = np.asarray(lab, dtype=np.float64)
    source = made_real(lab)
    hue = even_hue(source)
    lightness = np.clip(source[:, 0], 0.0, 100.0)
    chroma = np.hypot(source[:, 1], source[:, 2])
    held = (chroma <= boundary.at(lightness, hue)) & (source == lab).all(axis=1)
    fitted = _into_leaf(lightness, chroma, hue, boundary, CLIPPED)
    far = np.hypot(fitted[0] - lightness, fitted[1] - chroma)
    outside = np.where(held, 0.0, _smooth(far / _BEYOND))
    hue = hue + outside * _turns(source, hue, boundary)
    fitted = _into_leaf(lightness, chroma, hue, boundary, CLIPPED)
    clipped = _with_blues(source, hue, outside, fitted, boundary)
    return np.where(held[:, None], lab, clipped)


def _into_leaf(
    lightness: Floats,
    chroma: Floats,
    hue: Floats,
    boundary: GamutBoundary,
    look: MappingLook,
    screen: Floats | None = None,
) -> tuple[Floats, Floats]:
    """(n,) L* and C*ab within the leaf of each OKLab hue.

    screen : (n, 2) L* and C*ab of the colours that are to end at the reach of the look, None where the knee
    is the boundary.
    """
    cusp = boundary.cusp(hue)
    widest = np.arctan2(cusp[:, 1], np.maximum(cusp[:, 0] - boundary.lowest, 1.0))
    above = np.maximum(lightness - boundary.lowest, 0.0)
    level = above + look.lean * chroma
    most = boundary.widest(level, hue, look.lean)
    ends = np.ones_like(most)
    if screen is not None:
        screen_above = np.maximum(screen[:, 0] - boundary.lowest, 1.0)
        ends = np.arctan2(screen[:, 1], screen_above) / widest
    # Along a line of one level, so that the angle alone decides how much chroma goes for how much light.
    angle = most * _soft(np.arctan2(chroma, above) / most, look.knee, look.reach, ends)
    distance = level / (np.cos(angle) + look.lean * np.sin(angle))
    knee = 1.0 - (1.0 - look.knee) * _smooth(angle / widest / _LIGHT) ** 2
    if look.giving:
        over = np.clip(distance / boundary.farthest(angle, hue) - knee, 0.0, None)
        gives = look.giving * (1.0 - np.exp(-over / _GIVES_OVER)) * _smooth(angle / widest / _VIVID)
        angle = angle + gives * np.maximum(0.99 * widest - angle, 0.0)
    if screen is not None:
        over = np.clip(distance / boundary.farthest(angle, hue) - _MUTED_FROM, 0.0, None)
        muted = (
            _MUTED * (1.0 - np.exp(-over / _MUTED_OVER)) * (1.0 - _smooth(angle / widest / _VIVID))
        )
        angle = angle * (1.0 - muted)
    farthest = boundary.farthest(angle, hue)
    if screen is not None:
        end = widest * np.minimum(ends, look.reach)
        screen_level = screen_above + look.lean * screen[:, 1]
        ends = screen_level / (np.cos(end) + look.lean * np.sin(end))
        ends = ends / boundary.farthest(end, hue)
    reach = np.maximum(look.reach, knee)
    distance = farthest * _soft(distance / farthest, knee, reach, ends)
    return boundary.lowest + distance * np.cos(angle), distance * np.sin(angle)


def _with_blues(
    lab: Floats, hue: Floats, vivid: Floats, fitted: tuple[Floats, Floats], boundary: GamutBoundary
) -> Floats:
    """(n, 3) Lab of what was fitted into a leaf, blues turned towards the hue CAM16 has for the source."""
    mapped = in_hue(hue, *fitted)
    middle, reach = _BLUES
    near = _smooth(2.0 - 2.0 * np.abs(turn(hue - middle)) / reach)
    part = _CAM16_PART * vivid * near * _smooth((_SKY - lab[:, 0]) / (_SKY - _DARK))
    blue = part > 1e-6
    if not blue.any():
        return mapped
    away = turn(cam16_hue(Lab_to_XYZ(lab[blue])) - cam16_hue(Lab_to_XYZ(mapped[blue])))
    turned = hue[blue] + part[blue] * np.clip(away, -_CAM16_MOST, _CAM16_MOST)
    lightness, chroma = fitted[0][blue], fitted[1][blue]
    mapped[blue] = in_hue(turned, lightness, np.minimum(chroma, boundary.at(lightness, turned)))
    return mapped


def _soft(share: Floats, knee: Floats | float, reach: Floats | float, ends: Floats) -> Floats:
    """0.. to 0..1: as it is up to the knee, from there as a logarithm that takes `ends` to `reach`."""
    room = np.maximum(np.asarray(reach) - knee, 1e-9)
    bend = room * np.interp((ends - knee) / room, *_bends())
    over = np.clip(share - knee, 0.0, None)
    return np.asarray(np.minimum(np.minimum(share, knee) + bend * np.log1p(over / bend), 1.0))


@cache
def _bends() -> tuple[Floats, Floats]:
    """Lengths, and for which x of the logarithm x ln(1 + length / x) is 1: slope 1 at its begin."""
    bend = np.geomspace(1e-2, 1e3, 400)
    return (np.expm1(1.0 / bend) * bend)[::-1], bend[::-1]


def _smooth(x: Floats) -> Floats:
    """0 to 1 without a corner at either end."""
    x = np.clip(x, 0.0, 1.0)
    return np.asarray(x * x * (3 - 2 * x))


def _turns(lab: Floats, hue: Floats, boundary: GamutBoundary) -> Floats:
    """(n,) degrees by which vivid colours turn towards hues that print more vividly; more for those that
    no screen shows."""
    near, wide = _turning(boundary)
    ring = np.linspace(0.0, 360.0, len(near))
    hues, most, _ = _srgb_ring()
    ok = XYZ_to_OKLab(Lab_to_XYZ(lab))
    known = np.interp(hue % 360, hues, most)
    part = _smooth((np.hypot(ok[:, 1], ok[:, 2]) / known - 1.0) / _WIDE)
    return np.asarray(
        (1 - part) * np.interp(hue % 360, ring, near) + part * np.interp(hue % 360, ring, wide)
    )


@cache
def _srgb_ring() -> tuple[Floats, Floats, Floats]:
    """OKLab hues in degrees, a turn and a little on both sides; sRGB's largest OKLab chroma there, and the
    (n, 2) L* and C*ab of that colour."""
    t = np.linspace(0.0, 1.0, 64, endpoint=False)
    zero, one = np.zeros_like(t), np.ones_like(t)
    parts = [(one, t, zero), (1 - t, one, zero), (zero, one, t), (zero, 1 - t, one), (t, zero, one)]
    rgb = np.concatenate([np.stack(p, axis=1) for p in [*parts, (one, zero, 1 - t)]])
    xyz = rgb @ rgb_matrix(SPACES["srgb"]).T
    ok, lab = XYZ_to_OKLab(xyz), XYZ_to_Lab(xyz)
    hue = hue_of(ok) % 360
    order = np.argsort(hue)
    around = np.concatenate([order[-1:], order, order[:1]])
    hue = hue[around]
    hue[0], hue[-1] = hue[0] - 360, hue[-1] + 360
    cusp = np.stack([lab[:, 0], np.hypot(lab[:, 1], lab[:, 2])], axis=1)
    return hue, np.hypot(ok[:, 1], ok[:, 2])[around], cusp[around]


def _screen_cusp(hue: Floats) -> Floats:
    """(n, 2) L* and C*ab of the most vivid colour that sRGB has at (n,) OKLab hues."""
    hues, _, cusp = _srgb_ring()
    return np.stack([np.interp(hue % 360, hues, cusp[:, i]) for i in (0, 1)], axis=1)


_TURNS: Kept[bytes, tuple[Floats, Floats]] = Kept(8)


def _turning(boundary: GamutBoundary) -> tuple[Floats, Floats]:
    """Degrees to turn by over a ring of hues, near and wide; looked at once for each boundary."""
    return _TURNS.get(boundary.chroma.tobytes(), lambda: _both_turns(boundary))


def _both_turns(boundary: GamutBoundary) -> tuple[Floats, Floats]:
    near, wide = (_turn_of(boundary, *way) for way in (_NEAR_TURN, _WIDE_TURN))
    return near, near + np.clip(wide - near, -_APART, _APART)


def _turn_of(boundary: GamutBoundary, width: float, most: float) -> Floats:
    """The turn that weighs what the cusp gains in chroma, as a ratio, against its own square.

    A proximal step: whatever the cusps are, hues keep their order; a part of it, so that they stay apart.
    """
    hues = boundary.chroma.shape[1]
    ring = np.arange(hues) * 360.0 / hues
    gain = gaussian_filter1d(np.log(np.maximum(boundary.cusp(ring)[:, 1], 1.0)), 1.5, mode="wrap")
    yellow, blue, turquoise = (
        _smooth(1.0 - np.abs(turn(ring - middle)) / reach)
        for middle, reach in (_YELLOW, _BLUE, _TURQUOISE)
    )
    wider, more = _YELLOW_TURN
    steps = np.arange(-most - more, most + more + 0.01, 0.25)
    value = np.stack(
        [
            np.interp(ring + d, ring, gain, period=360.0)
            - 0.5 * (d / (width + wider * yellow)) ** 2
            for d in steps
        ]
    )
    cap = most + more * yellow - _BLUE_TURN * most / _NEAR_TURN[1] * blue
    cap = cap * (1.0 - _TURQUOISE_TURN * turquoise)
    found = np.clip(steps[value.argmax(axis=0)], -cap, cap)
    found = gaussian_filter1d(_EASED * found, 3.0, mode="wrap")
    return np.append(found, found[0])
