"""Fit advice: how each intent, with and without BPC, treats the picture at hand.

Every figure is measured on the pixels given, through the exact float path. The advice is the
least cost; absolute colorimetric is measured but never advised, because it prints the artwork's
own white and is for proofs.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.examination.tones_lost import CLEAR, FAINT, FLATTENED, tones_lost
from plinto_core.gamut.outside import shares_by_way
from plinto_core.icc.colorants import ink_names
from plinto_core.icc.spaces import INTENTS
from plinto_core.recipes.route import ColourRoute

NEUTRAL = 5.0
"""C*ab up to which a colour counts as neutral."""


@dataclass(frozen=True)
class Fit:
    """One intent for one picture. Shares are 0..1, differences dE00.

    miss : shares that are too vivid, too dark and too light; out_of_gamut is their sum.

    detail : local lightness contrast of the print as a share of the original's; banding : share
    of the picture's gradients that lose three quarters of their steps; drift : mean change of
    a*, b* of neutral colours; lost : tones lost by plate in percent, see tones_lost; cost : what the advice compares, less is better.
    """

    intent: str
    bpc: bool
    miss: tuple[float, float, float]
    de00_mean: float
    de00_p95: float
    de00_max: float
    detail: float
    banding: float
    drift: float
    lost: dict[str, float]
    cost: float
    advised: bool = False

    @property
    def out_of_gamut(self) -> float:
        return sum(self.miss)


def local_contrast(lab: Floats, shape: tuple[int, ...]) -> float:
    """Mean absolute lightness difference of neighbours of a (rows * columns, 3) picture."""
    lightness = lab[:, 0].reshape(shape)
    across = np.abs(np.diff(lightness, axis=1)).mean() if shape[1] > 1 else 0.0
    down = np.abs(np.diff(lightness, axis=0)).mean() if shape[0] > 1 else 0.0
    return float(across + down)


def detail_kept(source: Floats, printed: Floats, shape: tuple[int, ...]) -> float:
    """Local contrast of the print as a share of the original's; 1 for a flat picture."""
    before = local_contrast(source, shape)
    return local_contrast(printed, shape) / before if before > 1e-6 else 1.0


def banding_risk(source: Floats, printed: Floats, shape: tuple[int, ...]) -> float:
    """Share of the gradients (faint steps between neighbours in a row) that print flat."""
    if shape[1] < 2:
        return 0.0
    before, after = (
        delta_e_2000(grid[:, 1:].reshape(-1, 3), grid[:, :-1].reshape(-1, 3))
        for grid in (source.reshape(*shape, 3), printed.reshape(*shape, 3))
    )
    gradient = (before > FAINT) & (before < CLEAR)
    if not gradient.any():
        return 0.0
    return float((after[gradient] < FLATTENED * before[gradient]).mean())


def neutral_drift(source: Floats, printed: Floats) -> float:
    """Mean distance in a*, b* by which the picture's neutral colours move; 0 without any."""
    neutral = np.hypot(source[:, 1], source[:, 2]) <= NEUTRAL
    if not neutral.any():
        return 0.0
    moved = printed[neutral, 1:] - source[neutral, 1:]
    return float(np.hypot(moved[:, 0], moved[:, 1]).mean())


def fits(route: ColourRoute, device: Floats, shape: tuple[int, ...]) -> list[Fit]:
    """Every intent and BPC setting for a picture of (rows * columns, channels) values 0..1."""
    found = []
    asked: dict[bool, _Asked] = {}
    for intent in INTENTS:
        absolute = intent == "absolute"
        for bpc in (True, False) if not absolute else (False,):
            way = replace(route, intent=intent, bpc=bpc)
            # The media-relative ones ask for the same, whatever they make of it.
            if absolute not in asked:
                asked[absolute] = _Asked.by(way, device)
            found.append(_measure(way, device, shape, asked[absolute]))
    best = min((f for f in found if f.intent != "absolute"), key=lambda f: f.cost)
    return [replace(f, advised=f is best) for f in found]


@dataclass(frozen=True)
class _Asked:
    """lab : (n, 3) what a print aims at; miss : shares of it out of gamut, by way."""

    lab: Floats
    miss: tuple[float, float, float]

    @classmethod
    def by(cls, route: ColourRoute, device: Floats) -> _Asked:
        return cls(route.aim_lab(device), shares_by_way(route.out_of_gamut(device)))


def _measure(route: ColourRoute, device: Floats, shape: tuple[int, ...], asked: _Asked) -> Fit:
    inks = route.inks(device)
    source, printed = asked.lab, route.print_lab(inks)
    names = ink_names(route.destination)
    errors = delta_e_2000(source, printed)
    detail = detail_kept(source, printed, shape)
    banding = banding_risk(source, printed, shape)
    drift = neutral_drift(source, printed)
    mean, p95 = float(errors.mean()), float(np.percentile(errors, 95))
    lost = max(0.0, 1.0 - detail)
    return Fit(
        intent=route.intent,
        bpc=route.bpc,
        miss=asked.miss,
        de00_mean=mean,
        de00_p95=p95,
        de00_max=float(errors.max()),
        detail=detail,
        banding=banding,
        drift=drift,
        lost=tones_lost(source, printed, inks, names, shape),
        cost=mean + 0.25 * p95 + 12.0 * lost + 15.0 * banding + drift,
    )
