"""Let a backward table meet the colours between its nodes, and print solid inks clean.

Inks have edges in Lab: a third ink begins, black begins, an ink is full. Nodes that hold the inks of
their own colours round such edges off, so that a solid comes back with some of a third ink and a
little short of its own. Two things mend that. Nodes may hold less than none and more than an ink's
limit (ROOM), which the table's output curves cut off: the edge stands where interpolation passes
through it, inside a cell. And the nodes are fitted to many colours between them, not only to their
own: simultaneous reconstruction, a few steps of it, each sample's miss spread over its nodes.

The TAC holds between nodes as it does on them: what is cut off at none is convex in the nodes, so no
total between them is larger than the largest of theirs, of which the values above none are counted.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, fields
from functools import cache

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.characterise.solids import solids
from plinto_core.characterise.tables import Grid
from plinto_core.colorimetry.even_hue import in_sight, made_real
from plinto_core.inks.forward import BLACK, TAC_MARGIN, ForwardTable
from plinto_core.inks.rules import InkRules
from plinto_core.inks.separation import separate
from plinto_core.kernels.fit import changes, scatter
from plinto_core.transform.chain import lab_of_device
from plinto_core.transform.link import grid_nodes
from plinto_core.transform.standard_spaces import standard_profile

Aims = Callable[[Floats], Floats]

ROOM = 0.5
"""Share of an ink's limit that nodes may hold below none and above the limit."""
STEPS = 8
"""More of them follow where the inks jump, at the cost of colour in the darks."""
_RELAXED = 1.2
_PULL = 0.05
"""Of the inks that a colour is separated into, beside the colour itself."""
_DAMPING = 20.0
"""In Lab squared: inks that hardly change the colour are left alone."""
_PRINTED = 1.0
"""Distance in Lab up to which a sample counts as printable."""
_ON_NODE = 0.3
"""The same for a node whose own colour is held."""
_BEYOND = 0.02
"""Weight of nodes out of gamut, that are there for the colours beside them."""
_SOLID = 400.0
"""Weight of solids, overprints of two and their tints: few, and looked at first on a press sheet."""
_CLEAN = 0.01
"""Black up to which inks that a colour is not made of have to be none: above it nobody sees them."""
_ENOUGH = 12_000
"""Samples with an ink at none or full, and of all mixtures; cells add four each."""
_IN_CELL = np.array(
    [[0.25, 0.25, 0.25], [0.75, 0.75, 0.25], [0.75, 0.25, 0.75], [0.25, 0.75, 0.75]]
)
_DARK = 3
"""Layers of cells next to black that tables of mapped colours are fitted in, L* 0 to 6 or 11."""
_ENDS, _DARKEST, _LIGHTEST, _OF_SIGHT = 41, 0.45, 0.7, 8.0
"""Steps of RGB from which the darks and the lights of mapped tables are taken, up to and from which
value of every channel, and their weight: the few colours there that pictures have, of which the
cells' own samples meet hardly any, since most of a cell next to black is nothing an eye sees."""
_VIVID, _SPREAD = 25, 0.5
"""Steps of RGB from which vivid colours are taken, and how far apart their channels are at least: they are
mapped along edges that run across cells."""
_FAR, _WEIGHTIEST, _EVEN_STEPS = 0.015, 25.0, 2
"""Share of an ink that a sample of mapped colours asks for still, with which it weighs twice as much, with
more of it more, up to how much; and the steps before. The mean of all is soon met, and a few dark
colours, at which tables of different sizes would differ, would stay as they are."""
_SCHEMES = (False, True)
"""Trilinear and tetrahedral: programs read tables either way."""


@dataclass(frozen=True)
class _Samples:
    """at : (m, 3) places 0..1 in the table; aims : (m, 3) Lab; inks : (m, 4) that print them;
    weight : (m,); clean : (m,) whether inks at none have to be none."""

    at: Floats
    aims: Floats
    inks: Floats
    weight: Floats

    def halves(self) -> tuple[_Samples, _Samples]:
        """Every other one and the others; solids and their tints in both, with half their weight."""
        few = self.weight >= _SOLID
        turn = np.arange(len(few)) % 2
        one, other = (
            _Samples(*(getattr(self, f.name)[few | (turn == i)] for f in fields(self)))
            for i in range(2)
        )
        for half in (one, other):
            half.weight[half.weight >= _SOLID] /= 2
        return one, other

    @property
    def clean(self) -> np.ndarray:
        return np.asarray(self.inks[:, BLACK] <= _CLEAN)


def fit_inks(forward: ForwardTable, rules: InkRules, grid: Grid, inks: Floats) -> Floats:
    """(size**3, 4) values for the nodes of a relative colorimetric table, 0 none, 1 solid, some below
    and above (ROOM), to be cut to 0..limit after interpolation.

    inks : (size**3, 4) that the nodes' own colours, or those nearest to them, are separated into.
    """
    return _fitted(forward, rules, grid, inks, grid.nodes, _printable(forward, rules, grid, inks))


def fit_mapped_inks(
    forward: ForwardTable, rules: InkRules, grid: Grid, inks: Floats, aims: Floats, aims_of: Aims
) -> Floats:
    """The same for a table of mapped colours, from (size**3, 3) aims of its nodes and the function
    that maps (n, 3) Lab between them.

    Only colours that an eye sees are asked for, and blues that count as such: next to black few nodes are of
    those, and what the others hold is bent to them. Between the darks and the lights nodes hold their own colours' inks.
    """
    cells = np.zeros((grid.size - 1,) * 3, bool)
    cells[:_DARK] = True
    dark = grid.lab(_in_cells(grid, cells))
    dark = dark[_asked_for(dark)]
    lab = np.concatenate([dark, _vivid(), _ends()])
    weight = np.ones(len(lab))
    weight[-len(_ends()) :] = _OF_SIGHT
    between = aims_of(lab)
    found = separate(forward, between, rules).inks
    samples = _Samples(grid.places(lab), between, found, weight)
    return _fitted(forward, rules, grid, inks, aims, samples, evens=True)


def _asked_for(lab: Floats) -> np.ndarray:
    """(n,) whether Lab is a colour that is seen, or a blue of a wide RGB that is mapped as the nearest one."""
    return np.asarray(in_sight(lab) | (made_real(lab) != lab).any(axis=1))


@cache
def _vivid() -> Floats:
    """(n, 3) Lab of the vivid colours of a wide RGB: one channel near none, one near full."""
    rgb = grid_nodes(3, _VIVID)
    return lab_of_device(standard_profile("p3"), rgb[np.ptp(rgb, axis=1) >= _SPREAD])


@cache
def _ends() -> Floats:
    """(n, 3) Lab of dark and light colours of a wide RGB: what pictures have near black and white."""
    rgb = grid_nodes(3, _ENDS)
    rgb = rgb[(rgb.max(axis=1) <= _DARKEST) | (rgb.min(axis=1) >= _LIGHTEST)]
    return lab_of_device(standard_profile("p3"), rgb)


def _fitted(
    forward: ForwardTable, rules: InkRules, grid: Grid, inks: Floats, aims: Floats, samples: _Samples, *,
    evens: bool = False,
) -> Floats:  # fmt: skip
    """inks, aims : of the nodes; evens : samples weigh by what they still ask for."""
    limits = rules.ink_limits()
    own = _on_node(forward, inks, aims) & _asked_for(grid.nodes) & _touched(grid, samples)
    held = np.where(own, 1.0, _BEYOND)
    place = np.flatnonzero(own)
    at_nodes = _Samples(grid.places(grid.nodes[own]), aims[own], inks[own], np.ones(len(place)))
    most = rules.tac / 100 - TAC_MARGIN
    values = np.array(inks)
    own_move = np.empty_like(at_nodes.inks)
    halves = samples.halves()
    moves = [np.empty_like(half.inks) for half in halves]
    for step in range(STEPS):
        total, shares = np.zeros_like(values), np.array(held)
        # Every other sample is read the one way, the others the other way, and in turn.
        for half, move, scheme in zip(halves, moves, _SCHEMES[:: 1 - 2 * (step % 2)], strict=True):
            _moves(forward, grid, values, half, limits, scheme, move)
            weight = half.weight
            if evens and step >= _EVEN_STEPS:
                weight = weight * (1 + np.abs(move).max(axis=1) / _FAR).clip(1.0, _WEIGHTIEST)
            scatter(grid.size, scheme, half.at, move, weight, total, shares)
        _moves(forward, grid, values, at_nodes, limits, False, own_move)
        home = _BEYOND * (inks - np.clip(values, 0, limits))
        home[place] = own_move
        total += home
        # Greys are met on the nodes of their axis, and stay as even as they are.
        total[grid.greys] = 0.0
        values += _RELAXED * total / shares[:, None]
        np.clip(values, -ROOM * limits, (1 + ROOM) * limits, out=values)
        _within(values, most)
    return values


def _touched(grid: Grid, samples: _Samples) -> np.ndarray:
    """(nodes,) whether any sample lies beside a node; all others stay as they are."""
    ones, shares = np.ones((len(samples.at), 0)), np.zeros(grid.size**3)
    scatter(grid.size, False, samples.at, ones, samples.weight, np.zeros((grid.size**3, 0)), shares)
    return np.asarray(shares > 0)


def _on_node(forward: ForwardTable, inks: Floats, aims: Floats) -> np.ndarray:
    """(n,) whether the inks of a node print its aim."""
    return np.asarray(np.linalg.norm(forward.lab_of(inks) - aims, axis=1) <= _ON_NODE)


def _moves(
    forward: ForwardTable, grid: Grid, values: Floats, samples: _Samples, limits: Floats,
    tetrahedral: bool, out: Floats,
) -> None:  # fmt: skip
    changes(
        values, grid.size, tetrahedral, samples.at, forward.flat, forward.size, samples.aims,
        samples.inks, samples.clean, limits, _PULL, _DAMPING, out,
    )  # fmt: skip


def _within(values: Floats, most: float) -> None:
    """What nodes hold above none drawn in evenly to a total of `most`, in place."""
    total = np.maximum(values, 0.0).sum(axis=1)
    over = total > most
    part = values[over]
    values[over] = np.where(part > 0, part * (most / total[over])[:, None], part)


def _printable(forward: ForwardTable, rules: InkRules, grid: Grid, inks: Floats) -> _Samples:
    """Colours that print: within cells that have a printable node, of mixtures with inks at none and
    full, of all mixtures, and the solids."""
    limits, most = rules.ink_limits(), rules.tac / 100 - 0.01
    rng = np.random.default_rng(5)
    few = rng.random((3 * _ENOUGH, 4)) * limits
    none, full = rng.integers(0, 3, (2, len(few)))
    rows = np.arange(len(few))
    few[rows % 3 > 0, BLACK] = 0.0
    crowded = rng.random(len(few)) < 0.4
    few[rows[crowded], full[crowded]] = limits[full[crowded]]
    few[rows, none] = 0.0
    every = rng.random((3 * _ENOUGH, 4)) * limits
    mixed = np.concatenate([m[m.sum(axis=1) <= most][:_ENOUGH] for m in (few, every)])
    inside = grid.lab(_in_cells(grid, _in_gamut(forward, grid, inks)))
    aims = np.concatenate([inside, forward.lab_of(mixed)])
    found = separate(forward, aims, rules).inks
    printed = np.linalg.norm(forward.lab_of(found) - aims, axis=1) <= _PRINTED
    plain = solids(rules)
    aims = np.concatenate([aims[printed], forward.lab_of(plain)])
    weight = np.ones(len(aims))
    weight[len(aims) - len(plain) :] = _SOLID
    return _Samples(grid.places(aims), aims, np.concatenate([found[printed], plain]), weight)


def _in_gamut(forward: ForwardTable, grid: Grid, inks: Floats) -> np.ndarray:
    """(size - 1, size - 1, size - 1) cells that have a printable node."""
    size = grid.size
    own = _on_node(forward, inks, grid.nodes).reshape(size, size, size)
    cells = np.zeros((size - 1,) * 3, bool)
    for a, b, c in np.ndindex(2, 2, 2):
        cells |= own[a : size - 1 + a, b : size - 1 + b, c : size - 1 + c]
    return cells


def _in_cells(grid: Grid, cells: np.ndarray) -> Floats:
    """(m, 3) places 0..1, some within each of the cells that are set."""
    places = (np.argwhere(cells)[:, None] + _IN_CELL) / (grid.size - 1)
    return np.asarray(places.reshape(-1, 3))
