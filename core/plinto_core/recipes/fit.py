"""Fit advice: how each intent, with and without BPC, treats the picture at hand.

Every figure is measured on the pixels given, through the exact float path. The advice is the
least cost; absolute colorimetric is measured but never advised, because it prints the artwork's
own white and is for proofs. Black point compensation stays on unless a picture is printed better
without it and loses nothing by that: what lies below the press's black counts little in a mean.
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
VIVID = 20.0
"""C*ab of the artwork as it came from which a colour counts for vividness."""
WITHOUT_BPC = 1.0, 0.005, 0.01
"""What printing without BPC has to gain in mean dE00, and the most it may lose of gradients and of detail."""


@dataclass(frozen=True)
class Fit:
    """One intent for one picture. Shares are 0..1, differences dE00.

    miss : shares that are too vivid, too dark and too light; out_of_gamut is their sum.

    detail : local lightness contrast of the print as a share of the original's; banding : share
    of the picture's gradients that lose three quarters of their steps; drift : mean change of
    a*, b* of neutral colours; vividness : see vividness_kept; lost : tones lost by plate in percent, see
    tones_lost; cost : what the advice compares, less is better.
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
    vividness: float | None
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


def vividness_kept(original: Floats, printed: Floats) -> float | None:
    """C*ab printed as a share of C*ab in the artwork as it came, over its vivid colours; None without any.

    original, printed : (n, 3) Lab, each relative to its own white.
    """
    chroma = np.hypot(original[:, 1], original[:, 2])
    vivid = chroma >= VIVID
    if not vivid.any():
        return None
    return float(np.hypot(*printed[vivid, 1:].T).sum() / chroma[vivid].sum())


def fits(route: ColourRoute, device: Floats, shape: tuple[int, ...]) -> list[Fit]:
    """Every intent and BPC setting for a picture of (rows * columns, channels) values 0..1."""
    found = []
    asked: dict[bool, Asked] = {}
    for intent in INTENTS:
        absolute = intent == "absolute"
        for bpc in (True, False) if not absolute else (False,):
            way = replace(route, intent=intent, bpc=bpc)
            # The media-relative ones ask for the same, whatever they make of it.
            if absolute not in asked:
                asked[absolute] = asked_by(way, device)
            found.append(measure_fit(way, device, shape, asked[absolute]))
    best = min((f for f in found if _may_be_advised(f, found)), key=lambda f: f.cost)
    return [replace(f, advised=f is best) for f in found]


def _may_be_advised(fit: Fit, found: list[Fit]) -> bool:
    if fit.intent == "absolute" or fit.bpc:
        return fit.bpc
    compensated = next(f for f in found if f.intent == fit.intent and f.bpc)
    nearer, flatter, coarser = WITHOUT_BPC
    return (
        compensated.de00_mean - fit.de00_mean >= nearer
        and fit.banding - compensated.banding <= flatter
        and compensated.detail - fit.detail <= coarser
    )


@dataclass(frozen=True)
class Asked:
    """What a picture asks of a print. lab : (n, 3) what a print aims at; miss : shares of it out of gamut, by way; original : (n, 3) Lab of
    the artwork as it came."""

    lab: Floats
    miss: tuple[float, float, float]
    original: Floats


def asked_by(route: ColourRoute, device: Floats) -> Asked:
    """What (n, channels) values 0..1 ask of a route's condition, after corrections."""
    miss = shares_by_way(route.out_of_gamut(device))
    return Asked(route.aim_lab(device), miss, route.source_lab(device))


def measure_fit(route: ColourRoute, device: Floats, shape: tuple[int, ...], asked: Asked) -> Fit:
    """One way for a picture of (rows * columns, channels) values 0..1."""
    inks = route.inks(device)
    source, printed = asked.lab, route.print_lab(inks)
    names = ink_names(route.destination)
    errors = delta_e_2000(source, printed)
    detail = detail_kept(source, printed, shape)
    banding = banding_risk(source, printed, shape)
    drift = neutral_drift(source, printed)
    mean, p95 = float(errors.mean()), float(np.percentile(errors, 95))
    lost = max(0.0, 1.0 - detail)
    vividness = vividness_kept(asked.original, printed)
    duller = 0.0 if vividness is None else max(0.0, 1.0 - vividness)
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
        vividness=vividness,
        lost=tones_lost(source, printed, inks, names, shape),
        cost=mean + 0.25 * p95 + 12.0 * lost + 15.0 * banding + drift + 10.0 * duller,
    )
