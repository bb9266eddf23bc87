"""What a press of any inks prints, as a table that the solver looks into, and how it mixes them.

Mixtures are what black generation and the solver know: up to three colours and black, in the tones
their dark inks would have. docs/methods/separation.md says how they become inks.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np
from scipy.spatial import cKDTree

from plinto_core.arrays import Floats
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.gamut.body import GamutBody
from plinto_core.icc.profile import Profile
from plinto_core.inks.forward import TAC_MARGIN, WEIGHTS
from plinto_core.inks.ink_set import InkSet
from plinto_core.inks.rules import InkRules
from plinto_core.keeping import Kept
from plinto_core.kernels.interpolate import interpolate
from plinto_core.kernels.mix import mix, spread
from plinto_core.transform.chain import lab_of_device

SIZES = {1: 65, 2: 65, 3: 33, 4: 17, 5: 11, 6: 9, 7: 7, 8: 5}
"""Nodes of the table on every axis, by the number of inks."""
SAMPLES = 257
"""Of every curve of a plan."""
ONSET = 0.12
"""Second colour of a mixture, of 1, up to which an extra ink stays out: near-neutral colours, whose
inks carry the greys, never have one."""
_KEPT = 0.1
"""Share of an axis's own scale that stays where it is straightened."""
_COARSE = {1: 33, 2: 33, 3: 17, 4: 9}
"""Nodes of an axis that first guesses are sought among, by the number of axes."""
_PULL = 0.02
"""Weight of the first guess where more than three axes besides black would leave a colour open."""


@dataclass(frozen=True)
class Plan:
    """How mixtures spread over inks; see kernels/mix.py. black : the axis of black, None for none;
    exact : whether a mixture beside a given black is the only one for its colour."""

    dark: np.ndarray
    light: np.ndarray
    tones: Floats
    extra: np.ndarray
    hand: Floats
    black: int | None
    exact: bool

    @property
    def axes(self) -> int:
        return int(self.dark.size)

    @property
    def arrays(self) -> tuple[np.ndarray, np.ndarray, Floats, np.ndarray, Floats]:
        return self.dark, self.light, self.tones, self.extra, self.hand

    def inks(self, mixtures: Floats, count: int) -> Floats:
        """(m, axes) mixtures to (m, count) tone values."""
        return np.asarray(spread(np.ascontiguousarray(mixtures), count, *self.arrays))


class MixTable:
    """What a press prints: Lab (media-relative) of its inks on a grid over straightened axes.

    lab : (size, …, size, 3), the first ink first; axes : (inks, SAMPLES) place 0..1 on the grid's axis
    of even tones 0..1 of an ink.
    """

    def __init__(self, ink_set: InkSet, lab: Floats, axes: Floats) -> None:
        self.ink_set = ink_set
        self.lab = lab
        self.axes = np.ascontiguousarray(axes)
        self.inks = len(ink_set.channels)
        self.size = int(lab.shape[0])

    @classmethod
    def of_profile(cls, profile: Profile) -> MixTable:
        """Sample a profile's relative colorimetric A2B side."""
        ink_set = InkSet.of_profile(profile)
        return cls.of_function(ink_set, lambda device: lab_of_device(profile, device))

    @classmethod
    def of_function(cls, ink_set: InkSet, lab_of: Any, *, size: int | None = None) -> MixTable:
        """Sample any press: (n, inks) tone values 0..1 to (n, 3) Lab."""
        count = len(ink_set.channels)
        tones = np.linspace(0.0, 1.0, SAMPLES)
        axes = np.stack([straightened(lab_of(tones[:, None] * unit)) for unit in np.eye(count)])
        nodes = table_nodes(axes, size or SIZES[count])
        return cls(ink_set, lab_of(nodes).reshape(*[size or SIZES[count]] * count, 3), axes)

    @cached_property
    def flat(self) -> Floats:
        return np.ascontiguousarray(self.lab, dtype=np.float64).reshape(-1)

    def placed(self, inks: Floats) -> Floats:
        """(n, inks) tone values to places 0..1 on the grid's axes."""
        tones = np.linspace(0.0, 1.0, SAMPLES)
        return np.stack(
            [np.interp(inks[:, k], tones, self.axes[k]) for k in range(self.inks)], axis=1
        )

    def lab_of(self, inks: Floats) -> Floats:
        """(n, inks) tone values 0..1 to (n, 3) Lab, multilinear like the solver's own view."""
        grid = np.full(self.inks, self.size, dtype=np.int64)
        placed = np.ascontiguousarray(self.placed(np.asarray(inks, dtype=np.float64)))
        return np.asarray(interpolate(self.flat, grid, 3, placed, False))

    @property
    def black(self) -> int | None:
        """Place of the black ink, None where there is none."""
        return self.ink_set.black

    @cached_property
    def black_ramp(self) -> tuple[Floats, Floats]:
        """Tone values of the mixture's black alone and the L* they print, falling."""
        tones = np.linspace(0.0, 1.0, 65)
        plan = self.plan(InkRules())
        assert plan.black is not None
        mixtures = tones[:, None] * np.eye(plan.axes)[plan.black]
        lightness = self.lab_of(plan.inks(mixtures, self.inks))[:, 0]
        return tones, np.minimum.accumulate(lightness)

    def limits(self, rules: InkRules) -> Floats:
        """(inks,) most tone value of each ink; black's is a limit of its axis (most_black) instead."""
        limits = rules.model_copy(update={"black": None}).ink_limits(self.ink_set.names)
        limits[self.ink_set.of_role("none")] = 0.0
        if self.black is not None:
            limits[self.black] = 1.0
        return limits

    def most_black(self, rules: InkRules) -> float:
        """The most that the axis of black may reach, 0 where there is none."""
        if self.black is None:
            return 0.0
        most = rules.limits.get(self.ink_set.names[self.black], 100.0) / 100
        return min(most, float(rules.model_copy(update={"limits": {}}).ink_limits(("K",))[0]))

    def plan(self, rules: InkRules) -> Plan:
        """How mixtures spread over the inks within the limits of rules."""
        limits = self.limits(rules)
        return self._plans.get(tuple(limits), lambda: self._plan(limits))

    def apart(self, rules: InkRules) -> Plan:
        """Every ink as an axis of its own, within the limits of rules."""
        limits = self.limits(rules)
        even = np.linspace(0.0, 1.0, SAMPLES)
        tones = np.stack([np.stack([even * most, 0 * even], axis=1) for most in limits])
        none = np.full(self.inks, -1)
        order = np.arange(self.inks)
        black = self.ink_set.black
        return Plan(order, none, tones, np.full(3, -1), np.zeros((3, 2, 2)), black, self.inks <= 3)

    def _plan(self, limits: Floats) -> Plan:
        names = self.ink_set.names
        colours = self.ink_set.of_role("colour")
        extras = self.ink_set.of_role("extra")
        if extras and len(colours) < 3:
            return self.apart(InkRules(limits=dict(zip(names, limits * 100, strict=True))))
        black = self.ink_set.black
        dark = [*colours, *([] if black is None else [black])]
        light = [-1] * len(dark)
        for i in self.ink_set.of_role("light"):
            at = names.index(self.ink_set.channels[i].of)
            if at in dark and light[dark.index(at)] < 0:
                light[dark.index(at)] = i
        tones = np.stack([self._handed(d, s, limits) for d, s in zip(dark, light, strict=True)])
        extra, hand = np.full(3, -1), np.zeros((3, SAMPLES, 2))
        for i in extras:
            between = self.ink_set.channels[i].between or ()
            opposite = [k for k, c in enumerate(colours) if names[c] not in between]
            if len(opposite) == 1 and extra[opposite[0]] < 0 and limits[i] > 0:
                extra[opposite[0]] = i
                hand[opposite[0]] = _hand_over(float(limits[i]))
        axis = None if black is None else len(colours)
        return Plan(np.array(dark), np.array(light), tones, extra, hand, axis, len(colours) == 3)

    def _handed(self, dark: int, light: int, limits: Floats) -> Floats:
        """(SAMPLES, 2) tones of the dark and the light ink that print like every tone of the dark one.

        The light ink goes alone as far as it reaches, then gives way while the dark one comes in.
        """
        even = np.linspace(0.0, 1.0, SAMPLES)
        if light < 0 or limits[light] <= 0:
            return np.stack([even * limits[dark], 0 * even], axis=1)
        aims = self._alone({dark: even * limits[dark]})
        thin = self._alone({light: even * limits[light]})
        ends = int(delta_e_2000(aims, np.broadcast_to(thin[-1], aims.shape)).argmin())
        alone = np.array([np.abs(thin[:, 0] - a[0]).argmin() for a in aims]) / (SAMPLES - 1)
        alone = np.maximum.accumulate(alone)
        # The light ink has gone where the dark one prints three times the tone it ended at.
        start, gone = 0.6 * ends, min(3.2 * ends, SAMPLES - 1.0)
        place = np.clip((np.arange(SAMPLES) - start) / max(gone - start, 1.0), 0.0, 1.0)
        thins = np.minimum(alone, 1.0) * limits[light]
        fall = 1.0 - place * place * (3 - 2 * place)
        thins = np.where(np.arange(SAMPLES) <= start, thins, thins[int(start)] * fall)
        thicks = np.zeros(SAMPLES)
        fine = np.linspace(0.0, limits[dark], 513)
        for j in range(SAMPLES):
            if j > start:
                both = self._alone({dark: fine, light: np.full(513, thins[j])})
                thicks[j] = fine[int(np.abs(both[:, 0] - aims[j, 0]).argmin())]
        thicks = np.maximum.accumulate(thicks)
        thicks[-1], thins[-1] = limits[dark], 0.0
        return np.stack([thicks, thins], axis=1)

    def _alone(self, tones: dict[int, Floats]) -> Floats:
        """Lab of some inks at given tones, all others out."""
        inks = np.zeros((len(next(iter(tones.values()))), self.inks))
        for k, values in tones.items():
            inks[:, k] = values
        return self.lab_of(inks)

    @cached_property
    def _plans(self) -> Kept[tuple[float, ...], Plan]:
        return Kept(8)

    @cached_property
    def greys(self) -> Kept[tuple[str | float, ...], Any]:
        """What was found of its neutral axis, by TAC and limits (black.py)."""
        return Kept(8)

    def coarse(self, rules: InkRules) -> tuple[cKDTree, Floats, Floats]:
        """Mixtures on a coarse grid that the rules allow: a tree of their Lab, them, and that Lab."""
        key = (rules.tac, (*self.limits(rules), self.most_black(rules)))

        def made() -> tuple[cKDTree, Floats, Floats]:
            plan = self.plan(rules)
            steps = np.linspace(0, 1, _COARSE.get(plan.axes, 4))
            nodes = np.stack(np.meshgrid(*[steps] * plan.axes, indexing="ij"), axis=-1)
            nodes = nodes.reshape(-1, plan.axes)
            inks = plan.inks(nodes, self.inks)
            allowed = inks.sum(axis=1) <= rules.tac / 100 + 1e-9
            if plan.black is not None:
                # The nearest node above the most stays, or a low limit would leave no black at all.
                allowed &= nodes[:, plan.black] <= self.most_black(rules) + 0.07
            nodes = nodes[allowed]
            lab = self.lab_of(plan.inks(nodes, self.inks))
            return cKDTree(lab), nodes, lab

        return self._coarse.get(key, made)

    @cached_property
    def _coarse(self) -> Kept[tuple[float, tuple[float, ...]], tuple[cKDTree, Floats, Floats]]:
        return Kept(4)

    def black_of(self, inks: Floats, rules: InkRules) -> Floats:
        """(n,) black of the mixtures that (n, inks) tone values stand for: where there is a light black,
        the tone that prints as light and dark black together do."""
        assert self.black is not None
        plan = self.plan(rules)
        axis = int(np.flatnonzero(plan.dark == self.black)[0])
        light = int(plan.light[axis])
        if light < 0:
            return np.array(inks[:, self.black])
        both = self._alone({self.black: inks[:, self.black], light: inks[:, light]})[:, 0]
        tones, ramp = self.black_ramp
        return np.asarray(np.interp(-both, -ramp, tones))

    def starts(self, aims: Floats, rules: InkRules) -> Floats:
        """(n, axes) first guesses: the nearest coarse mixture that the rules allow."""
        tree, nodes, _ = self.coarse(rules)
        return np.asarray(nodes[tree.query(self._within_reach(aims), workers=-1)[1]])

    def _within_reach(self, aims: Floats) -> Floats:
        """(n, 3) aims as they are; of a single ink what it prints at their lightness.

        One ink prints a line of colours. The nearest of it to a dark grey may be a pale tint, where the
        ink is colourful, and black would print lighter than mid tones do.
        """
        if self.inks > 1:
            return aims
        ramp = self.lab_of(np.linspace(0.0, 1.0, SAMPLES)[:, None])
        falling = -np.minimum.accumulate(ramp[:, 0])
        lightness = np.clip(aims[:, 0], ramp[:, 0].min(), ramp[0, 0])
        return np.stack([np.interp(-lightness, falling, ramp[:, k]) for k in range(3)], axis=1)

    def meet(
        self,
        aims: Floats,
        starts: Floats,
        rules: InkRules,
        *,
        plan: Plan | None = None,
        wanted: Floats | None = None,
        hold: float = 0.0,
        pull: float | None = None,
        iterations: int = 24,
        enough: float = np.inf,
    ) -> tuple[Floats, Floats]:
        """(n, axes) mixtures for (n, 3) aims and the (n,) weighted distance that remains.

        wanted : (n,) black of the mixture that is held, with the weight `hold` where it must give way.
        """
        plan = plan or self.plan(rules)
        if pull is None:
            pull = 0.0 if plan.exact else _PULL
        limits = np.ones(plan.axes)
        if plan.black is not None:
            limits[plan.black] = self.most_black(rules)
        found, missed = np.empty((len(aims), plan.axes)), np.empty(len(aims))
        held = -1 if wanted is None or plan.black is None else plan.black
        aims = self._within_reach(aims)
        mix(
            self.flat, self.size, self.axes, *plan.arrays, np.ascontiguousarray(aims),
            np.ascontiguousarray(starts), np.zeros(len(aims)) if wanted is None else wanted, held,
            np.full(plan.axes, pull), hold, limits, rules.tac / 100 - margin(self.inks), WEIGHTS,
            iterations, enough, found, missed,
        )  # fmt: skip
        return found, missed

    def body(self, rules: InkRules) -> GamutBody:
        """All colours that the rules' limits and TAC leave."""
        limits = self.limits(rules)
        if self.black is not None:
            limits[self.black] = self.most_black(rules)
        key = (rules.tac, tuple(limits))
        return self._bodies.get(
            key, lambda: GamutBody.of_device(self.lab_of, limits, rules.tac / 100)
        )

    @cached_property
    def _bodies(self) -> Kept[tuple[float, tuple[float, ...]], GamutBody]:
        return Kept(8)

    def darkest(self, rules: InkRules) -> float:
        """L* of the darkest near-neutral colour the rules allow; of a single ink its darkest tone."""
        lab = self.coarse(rules)[2]
        grey = np.hypot(lab[:, 1], lab[:, 2]) < 8
        return float(lab[grey if self.inks > 1 and grey.any() else slice(None), 0].min())


def margin(inks: int) -> float:
    """Share kept free below the TAC for the rounding of `inks` inks to 8 bits."""
    return TAC_MARGIN * max(inks, 4) / 4


def straightened(lab: Floats) -> Floats:
    """(n,) places 0..1 of even tones of one ink, by the way in Lab from paper to its solid."""
    even = np.linspace(0.0, 1.0, len(lab))
    way = np.concatenate([[0.0], np.cumsum(np.linalg.norm(np.diff(lab, axis=0), axis=1))])
    return even if way[-1] <= 0 else (1 - _KEPT) * way / way[-1] + _KEPT * even


def table_nodes(axes: Floats, size: int) -> Floats:
    """(size**inks, inks) tone values of a table's nodes, the last ink fastest."""
    tones = np.linspace(0.0, 1.0, axes.shape[1])
    places = np.linspace(0.0, 1.0, size)
    steps = [np.interp(places, axis, tones) for axis in axes]
    return np.stack(np.meshgrid(*steps, indexing="ij"), axis=-1).reshape(-1, axes.shape[0])


def _hand_over(limit: float) -> Floats:
    """(SAMPLES, 2) extra ink and second colour along the second colour of a mixture.

    Up to ONSET the second colour alone; to the middle the extra ink takes its place; beyond it the
    second colour comes on top of the full extra ink.
    """
    lo = np.linspace(0.0, 1.0, SAMPLES)
    x = np.clip((lo - ONSET) / (0.5 - ONSET), 0.0, 1.0)
    run = x * x * (3 - 2 * x)
    second = np.where(lo < ONSET, lo, np.where(lo < 0.5, ONSET * (1 - run), 2 * lo - 1))
    return np.stack([run * limit, second], axis=1)
