"""Process builds of spot colours: in whole percent, of as few inks as are asked for, through any profile.

Every subset of the inks is searched by itself: the nodes of a coarse lattice that lie nearest to the
colour, from there downhill on lattices of 8, 4, 2 and 1 percent through the exact forward side. A build
is judged by the greater of CIEDE2000 and CIE 1994: the former is made for small differences, and far out
of gamut, in blues above all, it would take a turn of 20 in hue for a smaller step in chroma. Two colours never share a decision, so that a list can be cut anywhere.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from itertools import combinations, permutations
from typing import Literal

import numpy as np
from pydantic import BaseModel, ConfigDict, Field
from scipy.spatial import cKDTree

from plinto_core.arrays import Floats
from plinto_core.colorimetry.difference import delta_e_94, delta_e_2000, lch_parts
from plinto_core.errors import BadProfile
from plinto_core.icc.colorants import ink_names
from plinto_core.icc.parts import why_not_examined
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import is_subtractive
from plinto_core.inks.rules import InkRules
from plinto_core.transform.chain import lab_of_device
from plinto_core.words import say

MOST_COLOURS = 2000
MOST_INKS = 4
"""Inks in one build: of eight there are 162 subsets of up to four."""
_STEPS = (8, 4, 2, 1)
_NODES = {1: 5, 2: 10, 3: 14, 4: 20}
"""Percent between the nodes of the coarse lattice, by the number of inks."""
_STARTS = 4
_ROUNDS = 40
"""Moves on one lattice; from its nearest nodes a search takes fewer than ten."""
_TIE = 0.005
"""Distance within which two builds are equal, and the one with less ink is taken."""
_HUES = (("red", 30.0), ("yellow", 95.0), ("green", 160.0), ("blue", 275.0))
"""CIELAB hues that a turn is named by, degrees."""

White = Literal["absolute", "relative"]


class SpotOptions(BaseModel):
    """How builds are sought.

    inks : the most in one build; gain : how much nearer one ink more must come; least : percent below which
    a tint is not used; white : colours as measured (absolute), or with the paper as white.
    """

    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False)

    inks: int = Field(3, ge=1, le=MOST_INKS)
    gain: float = Field(0.5, ge=0, le=20)
    least: float = Field(0, ge=0, le=50)
    white: White = "absolute"


class Build(BaseModel):
    """inks : whole percent by name, those used; lab : what it prints, in the white asked for; de00 : the
    miss, CIEDE2000."""

    model_config = ConfigDict(frozen=True)

    inks: dict[str, int]
    lab: tuple[float, float, float]
    de00: float


class SpotBuild(BaseModel):
    """One colour on one press. aim : Lab; best : the build taken; counts : the best of one ink, of two,
    and so on; lightness, chroma, hue : dL*, dC*ab, dH*ab of the print less the aim; way : the same in
    words."""

    model_config = ConfigDict(frozen=True)

    name: str
    aim: tuple[float, float, float]
    best: Build
    counts: list[Build]
    lightness: float
    chroma: float
    hue: float
    way: str


@dataclass(frozen=True)
class _Press:
    """names : of all inks; most : whole percent each may reach; least; tac : percent."""

    names: tuple[str, ...]
    most: Floats
    least: int
    tac: float
    print_lab: Callable[[Floats], Floats]


def spot_builds(
    profile: Profile,
    rules: InkRules,
    names: tuple[str, ...],
    aims: Floats,
    options: SpotOptions | None = None,
) -> list[SpotBuild]:
    """The best builds of (n, 3) Lab aims under the rules' limits and TAC, in their order.

    Raises BadProfile for a profile without inks, or where the rules leave no ink.
    """
    aims = np.asarray(aims, dtype=np.float64).reshape(-1, 3)
    options = options or SpotOptions()
    press = _press(profile, rules, options)
    usable = [i for i in range(len(press.names)) if press.most[i] >= press.least]
    if not usable:
        raise BadProfile(say("spots.no-ink-left"))
    counts: list[list[tuple[Floats, Floats]]] = []
    for count in range(1, min(options.inks, len(usable)) + 1):
        found = [_of_subset(press, subset, aims) for subset in combinations(usable, count)]
        counts.append([f for f in found if f is not None])
    counts = [c for c in counts if c]
    if not counts:
        raise BadProfile(say("spots.total-no-ink-left"))
    best = [_best_of(found) for found in counts]
    return [_told(press, names[i], aims[i], [(d[i], float(e[i])) for d, e in best], options.gain)
            for i in range(len(aims))]  # fmt: skip


def direction(aim: Floats, printed: Floats) -> str:
    """What a print differs in from its aim, in words; parts below half a unit are passed over."""
    light, chroma, hue = (float(v) for v in lch_parts(aim, printed))
    said = []
    if abs(light) >= 0.5:
        said.append(f"{abs(light):.1f} {'lighter' if light > 0 else 'darker'}")
    if abs(chroma) >= 0.5:
        said.append(f"{abs(chroma):.1f} {'more' if chroma > 0 else 'less'} vivid")
    if abs(hue) >= 0.5:
        said.append(f"{abs(hue):.1f} towards {_towards(aim, hue > 0)}")
    return ", ".join(said) or "as asked"


def _press(profile: Profile, rules: InkRules, options: SpotOptions) -> _Press:
    if not is_subtractive(profile.colour_space):
        raise BadProfile(say("spots.no-inks"))
    reason = why_not_examined(profile)
    if reason:
        raise BadProfile(say("spots.no-way-back", why=reason))
    names = ink_names(profile)
    return _Press(
        names,
        np.floor(rules.ink_limits(names) * 100 + 1e-9),
        max(1, int(np.ceil(options.least))),
        rules.tac,
        lambda inks: lab_of_device(profile, inks / 100, intent=options.white),
    )


def _of_subset(
    press: _Press, subset: tuple[int, ...], aims: Floats
) -> tuple[Floats, Floats] | None:
    """(n, inks) whole percent and (n,) misses with exactly these inks; None where the rules forbid them."""
    step = _NODES[len(subset)]
    axes = [np.unique(np.append(np.arange(press.least, press.most[i], step), press.most[i]))
            for i in subset]  # fmt: skip
    nodes = np.stack(np.meshgrid(*axes, indexing="ij"), axis=-1).reshape(-1, len(subset))
    nodes = nodes[nodes.sum(axis=1) <= press.tac + 1e-9]
    if not len(nodes):
        return None
    tree = cKDTree(press.print_lab(_laid(press, subset, nodes)))
    starts = min(_STARTS, len(nodes))
    nearest = np.asarray(tree.query(aims, k=starts)[1]).reshape(len(aims), starts)
    tones = nodes[nearest.reshape(-1)]
    wanted = np.repeat(aims, starts, axis=0)
    misses = _distance(wanted, press.print_lab(_laid(press, subset, tones)))
    for size in _STEPS:
        tones, misses = _downhill(press, subset, tones, misses, wanted, size)
    misses = misses.reshape(len(aims), starts)
    taken = misses.argmin(axis=1)
    rows = np.arange(len(aims))
    best = tones.reshape(len(aims), starts, -1)[rows, taken]
    return _laid(press, subset, best), misses[rows, taken]


def _downhill(
    press: _Press, subset: tuple[int, ...], tones: Floats, misses: Floats, wanted: Floats, size: int
) -> tuple[Floats, Floats]:
    """Move every start to its best neighbour until none is better: one ink more or less, or two against
    each other, which a tight total needs."""
    count = len(subset)
    moves = [s * row for row in np.eye(count) for s in (1.0, -1.0)]
    moves += [np.eye(count)[a] - np.eye(count)[b] for a, b in permutations(range(count), 2)]
    ways = np.array(moves) * size
    tones, misses = tones.copy(), misses.copy()
    alive = np.arange(len(tones))
    limits = press.most[list(subset)]
    for _ in range(_ROUNDS):
        near = np.clip(tones[alive, None] + ways, press.least, limits)
        flat = near.reshape(-1, count)
        lab = press.print_lab(_laid(press, subset, flat))
        error = _distance(np.repeat(wanted[alive], len(ways), axis=0), lab)
        error[flat.sum(axis=1) > press.tac + 1e-9] = np.inf
        error = error.reshape(len(alive), len(ways))
        best = error.argmin(axis=1)
        rows = np.arange(len(alive))
        better = error[rows, best] < misses[alive] - 1e-9
        alive, best = alive[better], best[better]
        if not alive.size:
            break
        tones[alive] = near[rows[better], best]
        misses[alive] = error[rows[better], best]
    return tones, misses


def _distance(aims: Floats, lab: Floats) -> Floats:
    return np.maximum(delta_e_2000(aims, lab), delta_e_94(aims, lab))


def _laid(press: _Press, subset: tuple[int, ...], tones: Floats) -> Floats:
    device = np.zeros((len(tones), len(press.names)))
    device[:, list(subset)] = tones
    return device


def _best_of(found: list[tuple[Floats, Floats]]) -> tuple[Floats, Floats]:
    """The best of several subsets by colour; of equals, the one with less ink."""
    device = np.stack([d for d, _ in found])
    misses = np.stack([e for _, e in found])
    close = misses <= misses.min(axis=0) + _TIE
    total = np.where(close, device.sum(axis=2), np.inf)
    taken = total.argmin(axis=0)
    rows = np.arange(device.shape[1])
    return device[taken, rows], misses[taken, rows]


def _told(
    press: _Press, name: str, aim: Floats, counts: list[tuple[Floats, float]], gain: float
) -> SpotBuild:
    builds = [_build(press, aim, device) for device, _ in counts]
    taken = 0
    for more in range(1, len(builds)):
        asked = gain * (len(builds[more].inks) - len(builds[taken].inks))
        nearer = counts[taken][1] - counts[more][1]
        if nearer > _TIE and nearer >= asked:
            taken = more
    best = builds[taken]
    printed = np.array(best.lab)
    light, chroma, hue = (round(float(v), 2) for v in lch_parts(aim, printed))
    return SpotBuild(
        name=name, aim=_three(aim), best=best, counts=builds, lightness=light, chroma=chroma,
        hue=hue, way=direction(aim, printed),
    )  # fmt: skip


def _build(press: _Press, aim: Floats, device: Floats) -> Build:
    lab = press.print_lab(device[None])[0]
    miss = float(delta_e_2000(aim, lab))
    used = {n: int(v) for n, v in zip(press.names, device, strict=True) if v > 0}
    return Build(inks=used, lab=_three(lab), de00=round(miss, 2))


def _towards(aim: Floats, forwards: bool) -> str:
    """The next named hue in the direction of the turn."""
    hue = float(np.degrees(np.arctan2(aim[2], aim[1]))) % 360
    ahead = [((angle - hue) % 360, name) for name, angle in _HUES]
    return min(ahead)[1] if forwards else max(ahead)[1]


def _three(lab: Floats) -> tuple[float, float, float]:
    lightness, a, b = (round(float(v), 2) + 0.0 for v in lab)
    return lightness, a, b
