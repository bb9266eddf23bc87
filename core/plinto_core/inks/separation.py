"""From Lab aims to inks under ink rules: the one solver for profiles and for re-separation.

Method: damped least squares on the press's own forward table with box and TAC constraints
(kernels/separate.py); the black the rule asks for enters as a weak wish, so that it decides
among the ink mixtures that print the aim and never against the aim.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from scipy.spatial import cKDTree

from plinto_core.arrays import Floats
from plinto_core.icc.profile import Profile
from plinto_core.inks.rules import BlackRule, InkRules
from plinto_core.keeping import Kept
from plinto_core.kernels.interpolate import interpolate
from plinto_core.kernels.separate import separate_all
from plinto_core.transform.chain import lab_of_device
from plinto_core.transform.link import grid_nodes

TAC_MARGIN = 0.003
"""Share kept free below the TAC, so that rounding four inks to 8 bits stays within 0.5 %."""
BLACK = 3
NEUTRAL_REACH = 6.0
"""C*ab at which black for neutral colours only has faded to 1/e."""
_PULL = np.array([0.02, 0.02, 0.02, 1.5])
_WEIGHTS = np.array([1.0, 1.0, 1.0])


@dataclass(frozen=True)
class ForwardTable:
    """What a press prints: Lab (media-relative) on a regular grid of four inks.

    lab : (size, size, size, size, 3), C first.
    """

    lab: Floats

    @classmethod
    def of_profile(cls, profile: Profile, *, size: int = 17) -> ForwardTable:
        """Sample a CMYK profile's relative colorimetric A2B side."""
        nodes = lab_of_device(profile, grid_nodes(4, size))
        return cls(nodes.reshape(size, size, size, size, 3))

    @property
    def size(self) -> int:
        return int(self.lab.shape[0])

    @cached_property
    def flat(self) -> Floats:
        return np.ascontiguousarray(self.lab, dtype=np.float64).reshape(-1)

    def lab_of(self, inks: Floats) -> Floats:
        """(n, 4) tone values 0..1 to (n, 3) Lab, multilinear like the solver's own view."""
        grid = np.full(4, self.size, dtype=np.int64)
        return np.asarray(interpolate(self.flat, grid, 3, np.array(inks, dtype=np.float64), False))

    @cached_property
    def black_ramp(self) -> tuple[Floats, Floats]:
        """Tone values of black alone and the L* they print, falling."""
        lightness = np.minimum.accumulate(self.lab[0, 0, 0, :, 0])
        return np.linspace(0, 1, self.size), lightness

    @cached_property
    def _index(self) -> tuple[cKDTree, Floats]:
        step = max(1, (self.size - 1) // 8)
        coarse = self.lab[::step, ::step, ::step, ::step]
        return cKDTree(coarse.reshape(-1, 3)), grid_nodes(4, coarse.shape[0])

    def starts(self, aims: Floats, rules: InkRules) -> Floats:
        """(n, 4) first guesses: the nearest coarse node that the rules allow."""
        key = (rules.tac, tuple(rules.ink_limits()))
        tree, nodes = self._allowed.get(key, lambda: self._within(rules))
        return np.asarray(nodes[tree.query(aims, workers=-1)[1]])

    def _within(self, rules: InkRules) -> tuple[cKDTree, Floats]:
        """The coarse nodes that rules allow, and a tree of what they print."""
        _, nodes = self._index
        step = max(1, (self.size - 1) // 8)
        lab = self.lab[::step, ::step, ::step, ::step].reshape(-1, 3)
        ok = (nodes.sum(axis=1) <= rules.tac / 100 + 1e-9) & (
            nodes <= rules.ink_limits() + 0.07
        ).all(axis=1)
        return cKDTree(lab[ok]), nodes[ok]

    @cached_property
    def _allowed(self) -> Kept[tuple[float, tuple[float, ...]], tuple[cKDTree, Floats]]:
        return Kept(4)

    def reachable(self, rules: InkRules, *, size: int = 13) -> Floats:
        """(n, 3) Lab of a regular set of ink mixtures, each reduced into the rules' limits."""
        nodes = grid_nodes(4, size) * rules.ink_limits()
        room = rules.tac / 100 - nodes[:, BLACK]
        colours = nodes[:, :BLACK].sum(axis=1)
        share = np.clip(room / np.maximum(colours, 1e-9), 0.0, 1.0)
        nodes[:, :BLACK] *= share[:, None]
        return self.lab_of(nodes)

    def darkest(self, rules: InkRules) -> float:
        """L* of the darkest near-neutral colour the rules allow."""
        step = max(1, (self.size - 1) // 16)
        lab = self.lab[::step, ::step, ::step, ::step].reshape(-1, 3)
        nodes = grid_nodes(4, self.lab[::step, 0, 0, 0].shape[0])
        limits = rules.ink_limits()
        ok = (nodes.sum(axis=1) <= rules.tac / 100 + 1e-9) & (nodes <= limits + 1e-9).all(axis=1)
        grey = ok & (np.hypot(lab[:, 1], lab[:, 2]) < 8)
        return float(lab[grey if grey.any() else ok, 0].min())


@dataclass(frozen=True)
class BlackPoint:
    """The darkest neutral print that ink rules allow."""

    inks: Floats
    lab: Floats


def darkest_black(forward: ForwardTable, rules: InkRules) -> BlackPoint:
    """The inks and the Lab that come nearest to L* 0, a* 0, b* 0 under the rules."""
    inks = separate(forward, np.zeros((1, 3)), rules).inks
    return BlackPoint(inks[0], forward.lab_of(inks)[0])


@dataclass(frozen=True)
class Separation:
    """inks : (n, 4) tone values 0..1; missed : (n,) weighted distance left to the aim."""

    inks: Floats
    missed: Floats


def black_wish(forward: ForwardTable, lab: Floats, rules: InkRules) -> Floats:
    """(n,) tone value of black that the rule asks for at (n, 3) Lab."""
    rule = rules.black or BlackRule()
    if rule.method == "none":
        return np.zeros(lab.shape[0])
    tones, lightness = forward.black_ramp
    darkest = forward.darkest(rules)
    alone = np.interp(-lab[:, 0], -lightness, tones)
    chroma = np.hypot(lab[:, 1], lab[:, 2])
    if rule.method == "maximum":
        return np.asarray(np.minimum(alone, rule.limit / 100))
    darkness = np.clip((100 - lab[:, 0]) / max(100 - darkest, 1.0), 0, 1)
    start = min(rule.start / 100, 0.98)
    depth = np.clip((darkness - start) / (1 - start), 0, 1)
    onset = depth * depth * (3 - 2 * depth)
    if rule.method == "neutral":
        wish = alone * np.minimum(1.0, onset * 3) * np.exp(-((chroma / NEUTRAL_REACH) ** 2))
        return np.asarray(np.minimum(wish, rule.limit / 100))
    strength = rule.strength / 100 if rule.method == "gcr" else 0.0
    ease = np.minimum(1.0, onset * 3) if rule.method == "gcr" else onset
    wish = alone * ease * (strength + (1 - strength) * depth**3)
    reach = rule.reach if rule.method == "gcr" else rule.reach / 3
    return np.asarray(np.minimum(wish * np.exp(-((chroma / reach) ** 2)), rule.limit / 100))


KNEE = 4.0
"""How many times the gap between the darkest grey and solid black the knee of greys in black spans:
twice keeps the order of tones, four times keeps at least half of every step."""


def black_alone(forward: ForwardTable, lightness: Floats, darkest: float) -> Floats:
    """(n,) tone values of black alone for greys that would print at (n,) L*.

    `darkest` is the L* at which the source's own black would print: it becomes solid black. Lighter
    greys keep their lightness; between the two a quadratic knee with slope 1 at its upper end leads
    over, so that no tone is lost and none jumps.
    """
    tones, ramp = forward.black_ramp
    solid = float(ramp[-1])
    span = min(max(KNEE * abs(solid - darkest), 10.0), 100.0 - min(darkest, 99.0))
    into = np.clip((darkest + span - lightness) / span, 0.0, 1.0)
    wanted = lightness + (solid - darkest) * into**2
    return np.asarray(np.interp(-wanted, -ramp, tones))


def hold_total(forward: ForwardTable, inks: Floats, rules: InkRules) -> Floats:
    """(n, 4) tone values 0..1 with every mixture over the TAC or an ink's limit brought within.

    What keeps the rules is returned as it is, to the bit. What does not keeps its colour as far as
    the rules allow, by the mixture that lies nearest to it, so that a total just above the rule
    changes just a little. The rule of black has no part in it.
    """
    bare = rules.model_copy(update={"black": None})
    out = np.array(inks, dtype=np.float64)
    over = (out.sum(axis=1) > rules.tac / 100 + 1e-9) | (out > bare.ink_limits() + 1e-9).any(axis=1)
    if rules.protect.pure_black:
        alone = (out[:, :BLACK] <= 0).all(axis=1)
        out[over & alone, BLACK] = np.minimum(out[over & alone, BLACK], rules.solid_black)
        over &= ~alone
    if over.any():
        part = out[over]
        out[over] = separate(forward, forward.lab_of(part), bare, starts=part, keep_black=True).inks
    return out


def separate(
    forward: ForwardTable,
    aims: Floats,
    rules: InkRules,
    *,
    starts: Floats | None = None,
    keep_black: bool = False,
    iterations: int = 24,
) -> Separation:
    """Inks for (n, 3) Lab aims (media-relative), nearest in the CIE94 metric where out of gamut.

    Never above any limit or the TAC. `starts` may give (n, 4) first guesses, which speeds up;
    `keep_black` wishes for the black of those instead of the rule's.
    """
    aims = np.ascontiguousarray(aims, dtype=np.float64)
    first = forward.starts(aims, rules) if starts is None else np.array(starts, dtype=np.float64)
    wishes = np.zeros((aims.shape[0], 4))
    wishes[:, BLACK] = first[:, BLACK] if keep_black else black_wish(forward, aims, rules)
    if starts is None:
        first[:, BLACK] = 0.5 * (first[:, BLACK] + wishes[:, BLACK])
    wishes[:, :BLACK] = first[:, :BLACK]
    inks = np.empty((aims.shape[0], 4))
    missed = np.empty(aims.shape[0])
    separate_all(
        forward.flat, forward.size, aims, first, wishes, _PULL, rules.ink_limits(),
        rules.tac / 100 - TAC_MARGIN, _WEIGHTS, iterations, inks, missed,
    )  # fmt: skip
    return Separation(inks, missed)
