"""What a press prints, as a table that the solver looks into."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Any

import numpy as np
from scipy.spatial import cKDTree

from plinto_core.arrays import Floats
from plinto_core.gamut.body import GamutBody
from plinto_core.icc.profile import Profile
from plinto_core.inks.rules import InkRules
from plinto_core.keeping import Kept
from plinto_core.kernels.interpolate import interpolate
from plinto_core.kernels.separate import separate_held
from plinto_core.transform.chain import lab_of_device
from plinto_core.transform.link import grid_nodes

TAC_MARGIN = 0.003
"""Share kept free below the TAC, so that rounding four inks to 8 bits stays within 0.5 %."""
BLACK = 3
WEIGHTS = np.array([1.0, 1.0, 1.0])
"""Of differences in lightness, chroma and hue (CIE 94) where an aim cannot be met."""


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

    black = BLACK
    """Place of the black ink."""

    def most_black(self, rules: InkRules) -> float:
        """The most tone value of black."""
        return float(rules.ink_limits()[BLACK])

    def meet(
        self,
        aims: Floats,
        starts: Floats,
        rules: InkRules,
        *,
        wanted: Floats,
        hold: float = 0.0,
        iterations: int = 24,
        enough: float = np.inf,
    ) -> tuple[Floats, Floats]:
        """(n, 4) inks for (n, 3) aims and the (n,) weighted distance that remains.

        wanted : (n,) black that is held, with the weight `hold` where it must give way.
        """
        inks, missed = np.empty((aims.shape[0], 4)), np.empty(aims.shape[0])
        separate_held(
            self.flat, self.size, aims, starts, wanted, BLACK, hold, rules.ink_limits(),
            rules.tac / 100 - TAC_MARGIN, WEIGHTS, iterations, enough, inks, missed,
        )  # fmt: skip
        return inks, missed

    @cached_property
    def greys(self) -> Kept[tuple[str | float, ...], Any]:
        """What was found of its neutral axis, by TAC and limits (black.py)."""
        return Kept(8)

    def body(self, rules: InkRules) -> GamutBody:
        """All colours that the rules' limits and TAC leave."""
        limits = rules.ink_limits()
        key = (rules.tac, tuple(limits))
        return self._bodies.get(
            key, lambda: GamutBody.of_device(self.lab_of, limits, rules.tac / 100)
        )

    @cached_property
    def _bodies(self) -> Kept[tuple[float, tuple[float, ...]], GamutBody]:
        return Kept(8)

    def darkest(self, rules: InkRules) -> float:
        """L* of the darkest near-neutral colour the rules allow."""
        step = max(1, (self.size - 1) // 16)
        lab = self.lab[::step, ::step, ::step, ::step].reshape(-1, 3)
        nodes = grid_nodes(4, self.lab[::step, 0, 0, 0].shape[0])
        limits = rules.ink_limits()
        ok = (nodes.sum(axis=1) <= rules.tac / 100 + 1e-9) & (nodes <= limits + 1e-9).all(axis=1)
        grey = ok & (np.hypot(lab[:, 1], lab[:, 2]) < 8)
        return float(lab[grey if grey.any() else ok, 0].min())
