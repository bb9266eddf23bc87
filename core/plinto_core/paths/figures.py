"""How far the colours of two steps are apart, in figures."""

from __future__ import annotations

from collections.abc import Callable
from typing import Literal, get_args

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.difference import (
    delta_e_76,
    delta_e_94,
    delta_e_2000,
    delta_e_cmc,
    lch_parts,
)
from plinto_core.errors import BadInput
from plinto_core.fields import Part
from plinto_core.words import say

Formula = Literal["2000", "1976", "1994", "CMC", "lightness", "chroma", "hue"]
FORMULAS: tuple[Formula, ...] = get_args(Formula)
_FORMULA: dict[Formula, Callable[[Floats, Floats], Floats]] = {
    "2000": delta_e_2000,
    "1976": delta_e_76,
    "1994": delta_e_94,
    "CMC": delta_e_cmc,
    "lightness": lambda a, b: lch_parts(a, b)[0],
    "chroma": lambda a, b: lch_parts(a, b)[1],
    "hue": lambda a, b: lch_parts(a, b)[2],
}
THRESHOLDS = (1.0, 2.0, 4.0)
MOST_THRESHOLDS = 6
_CLASSES = 40
_WORST = 20


class WorstColour(Part):
    """row : its place in the list, from 0; difference : signed where the formula is."""

    row: int
    name: str
    first: tuple[float, float, float]
    second: tuple[float, float, float]
    difference: float


class Bars(Part):
    """A histogram: counts between edges, of which there is one more."""

    edges: tuple[float, ...]
    counts: tuple[int, ...]


class DifferenceFigures(Part):
    """Differences of n colours. All but least and greatest are of their size where a formula is signed.

    deviation : standard deviation of the whole, n in the divisor; best90 : mean of the smallest nine tenths, rounded
    up; shares : of the colours at or below each threshold, 0..1.
    """

    count: int
    mean: float
    median: float
    p95: float
    greatest: float
    least: float
    deviation: float
    best90: float
    thresholds: tuple[float, ...]
    shares: tuple[float, ...]
    histogram: Bars
    worst: tuple[WorstColour, ...]


def difference(formula: Formula, first: Floats, second: Floats) -> Floats:
    """(n,) differences of (n, 3) Lab pairs; lightness, chroma and hue are signed, second less first. The
    first is the reference where a formula has one (1994, CMC 2:1)."""
    return _FORMULA[formula](first, second)


def difference_figures(
    formula: Formula,
    first: Floats,
    second: Floats,
    names: tuple[str, ...],
    thresholds: tuple[float, ...] = THRESHOLDS,
) -> DifferenceFigures:
    """Everything that is said of two steps' (n, 3) Lab. Raises BadInput for thresholds that do not rise."""
    if len(thresholds) > MOST_THRESHOLDS or any(
        b <= a for a, b in zip((0.0, *thresholds), thresholds, strict=False)
    ):
        raise BadInput(say("paths.thresholds", most=MOST_THRESHOLDS))
    signed = difference(formula, first, second)
    size = np.abs(signed)
    count = size.size
    ordered = np.sort(size)
    best = ordered[: -(-count * 9 // 10)]
    worst = np.argsort(-size, kind="stable")[:_WORST]
    low, high = float(min(signed.min(), 0.0)), float(signed.max())
    edges = np.linspace(low, max(high, low + 1e-6), _CLASSES + 1)
    counted, _ = np.histogram(signed, edges)
    return DifferenceFigures(
        count=count,
        mean=_round(size.mean()),
        median=_round(np.median(size)),
        p95=_round(np.percentile(size, 95)),
        greatest=_round(signed.max()),
        least=_round(signed.min()),
        deviation=_round(signed.std()),
        best90=_round(best.mean()),
        thresholds=thresholds,
        shares=tuple(round(float((size <= t).mean()), 6) for t in thresholds),
        histogram=Bars(
            edges=tuple(_round(e) for e in edges), counts=tuple(int(c) for c in counted)
        ),
        worst=tuple(
            WorstColour(
                row=int(i),
                name=names[i],
                first=_three(first[i]),
                second=_three(second[i]),
                difference=_round(signed[i]),
            )
            for i in worst
        ),
    )


def _round(value: float | np.floating) -> float:
    return round(float(value), 4) + 0.0


def _three(lab: Floats) -> tuple[float, float, float]:
    lightness, a, b = (round(float(v), 2) + 0.0 for v in lab)
    return lightness, a, b
