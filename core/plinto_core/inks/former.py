"""How recipes of method 1 were separated: kept as it was, so that they give the bytes they gave.

All four inks move at once, drawn weakly to the black that was asked for. In flat valleys of the
press this ends at mixtures that jump from one colour to the next; method 2 does not.
"""

from __future__ import annotations

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.inks.forward import BLACK, TAC_MARGIN, WEIGHTS, ForwardTable
from plinto_core.inks.rules import BlackRule, InkRules
from plinto_core.kernels.separate import separate_all

NEUTRAL_REACH = 6.0
_PULL = np.array([0.02, 0.02, 0.02, 1.5])


def black_wish(forward: ForwardTable, lab: Floats, rules: InkRules) -> Floats:
    """(n,) tone value of black that the rule asked for at (n, 3) Lab."""
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


def separate_together(
    forward: ForwardTable, aims: Floats, rules: InkRules, starts: Floats | None, keep_black: bool,
    iterations: int = 24,
) -> tuple[Floats, Floats]:  # fmt: skip
    """(n, 4) inks for (n, 3) Lab aims, and the (n,) weighted distances that remain."""
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
        rules.tac / 100 - TAC_MARGIN, WEIGHTS, iterations, inks, missed,
    )  # fmt: skip
    return inks, missed
