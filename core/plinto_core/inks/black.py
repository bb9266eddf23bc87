"""How much black a rule asks for: between the least and the most that still print a grey.

On the neutral axis of a press under its rules every lightness has a least black (the three colours
alone reach it no darker within TAC and limits) and a most (black nearly alone). The share of the
grey component that black takes lies between them: 0 is the least, 1 the most. A rule says that
share by lightness, the chroma of a colour lets it fade.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.inks.forward import ForwardTable
from plinto_core.inks.mixing import MixTable
from plinto_core.inks.rules import BlackRule, InkRules

NEUTRAL_REACH = 15.0
"""C*ab at which black for neutral colours only has faded to 1/e: two steps of a table of 33 nodes,
below which tables cannot follow it (round trip at 99 % 1.0 instead of 4.3 for 6)."""
LEVELS = 49
"""Lightnesses, and tones of black at each, that the axis is looked at."""
SHARES = 65
MET = 0.25
"""CIE 94 difference up to which a tone of black counts as printing the grey."""
EASE = 0.4
"""Part of the way from its start to the darkest grey over which black comes in."""
RUN_IN = 0.55
"""Darkness from which black runs up to all that it can at the darkest grey, whatever its strength."""


@dataclass(frozen=True)
class NeutralAxis:
    """lightness : (n,) rising; black : (n, SHARES) tone of black that takes each share 0..1 of the
    grey component at a lightness."""

    lightness: Floats
    black: Floats

    def at(self, lightness: Floats, share: Floats) -> Floats:
        """(n,) tone values of black at (n,) L* and shares 0..1, linear between the nodes."""
        row = np.interp(lightness, self.lightness, np.arange(self.lightness.size))
        column = np.clip(share, 0.0, 1.0) * (SHARES - 1)
        i = np.minimum(row.astype(int), self.lightness.size - 2)
        j = np.minimum(column.astype(int), SHARES - 2)
        f, g = row - i, column - j
        low = self.black[i, j] * (1 - g) + self.black[i, j + 1] * g
        high = self.black[i + 1, j] * (1 - g) + self.black[i + 1, j + 1] * g
        return np.asarray(low * (1 - f) + high * f)


def neutral_axis(forward: ForwardTable | MixTable, rules: InkRules) -> NeutralAxis:
    """The axis of a press under the TAC and limits of rules, looked at once for each."""
    limits = tuple(v for pair in sorted(rules.limits.items()) for v in pair)
    key: tuple[str | float, ...] = (rules.tac, forward.most_black(rules), *limits)
    axis: NeutralAxis = forward.greys.get(key, lambda: _look(forward, rules))
    return axis


def _look(forward: ForwardTable | MixTable, rules: InkRules) -> NeutralAxis:
    """Meet greys with black held at one tone after the other, each from the answer before."""
    lightness = np.linspace(forward.darkest(rules), 100.0, LEVELS)
    aims = np.stack([lightness, np.zeros(LEVELS), np.zeros(LEVELS)], axis=1)
    tones = np.linspace(0.0, forward.most_black(rules), LEVELS)
    inks = forward.starts(aims, rules)
    grey = np.empty((LEVELS, LEVELS))
    missed = np.empty((LEVELS, LEVELS))
    axis = forward.black if isinstance(forward, ForwardTable) else forward.plan(rules).black
    assert axis is not None
    for j, tone in enumerate(tones):
        inks, missed[:, j] = forward.meet(
            aims, inks, rules, wanted=np.full(LEVELS, tone), iterations=40
        )
        others = np.delete(inks, axis, axis=1)
        grey[:, j] = others.mean(axis=1) if others.size else 0.0
    black = np.stack([_by_share(tones, grey[i], missed[i]) for i in range(LEVELS)])
    # What rounding leaves of a reversal along the axis is taken out: darker never has less black.
    return NeutralAxis(lightness, np.maximum.accumulate(black[::-1], axis=0)[::-1])


def _by_share(tones: Floats, grey: Floats, missed: Floats) -> Floats:
    """(SHARES,) tone of black by share, from the mean of the colours beside each tone.

    Where tones begin and cease to print the grey is found between the levels, since a step of a
    level would otherwise be a step of every ramp.
    """
    met = max(MET, float(missed.min()) + 0.05)
    good = np.flatnonzero(missed <= met)
    first, last = int(good[0]), int(good[-1])
    part = np.minimum.accumulate(grey[first : last + 1])
    inside = tones[first : last + 1]
    if first > 0:
        before = (missed[first - 1] - met) / (missed[first - 1] - missed[first])
        inside = np.concatenate([[tones[first - 1] + before * (tones[1] - tones[0])], inside])
        part = np.concatenate([[part[0] + 1e-6], part])
    if last + 1 < tones.size:
        beyond = (met - missed[last]) / (missed[last + 1] - missed[last])
        inside = np.concatenate([inside, [tones[last] + beyond * (tones[1] - tones[0])]])
        part = np.concatenate([part, [part[-1] - 1e-6]])
    span = part[0] - part[-1]
    if span <= 1e-5:
        return np.linspace(inside[0], inside[-1], SHARES)
    share = (part[0] - part) / span
    keep = np.concatenate([[True], np.diff(share) > 0])
    return np.asarray(np.interp(np.linspace(0, 1, SHARES), share[keep], inside[keep]))


def _smooth(x: Floats) -> Floats:
    """0 to 1 without a corner at either end."""
    x = np.clip(x, 0.0, 1.0)
    return np.asarray(x * x * (3 - 2 * x))


def black_wish(forward: ForwardTable | MixTable, lab: Floats, rules: InkRules) -> Floats:
    """(n,) tone value of black that the rule asks for at (n, 3) media-relative Lab.

    gcr : from its start on black takes `strength` of the grey component, and runs up to all of it
    at the darkest grey; ucr : it takes little before the shadows; neutral : all of it, for greys
    only; maximum : all of it everywhere.
    """
    rule = rules.black or BlackRule()
    if rule.method == "none" or forward.black is None:
        return np.zeros(lab.shape[0])
    axis = neutral_axis(forward, rules)
    darkest = float(axis.lightness[0])
    chroma = np.hypot(lab[:, 1], lab[:, 2])
    darkness = np.clip((100 - lab[:, 0]) / max(100 - darkest, 1.0), 0, 1)
    start = min(rule.start / 100, 0.98)
    depth = np.clip((darkness - start) / (1 - start), 0, 1)
    ease = _smooth(depth / EASE)
    if rule.method == "maximum":
        share, fade = np.ones_like(depth), np.ones_like(depth)
    elif rule.method == "neutral":
        share, fade = ease, np.exp(-((chroma / NEUTRAL_REACH) ** 2))
    elif rule.method == "gcr":
        strength = rule.strength / 100
        from_here = max(RUN_IN, start)
        run_in = _smooth((darkness - from_here) / (1 - from_here))
        share = ease * (strength + (1 - strength) * run_in)
        fade = np.exp(-((chroma / rule.reach) ** 2))
    else:
        share = _smooth(depth) * depth
        fade = np.exp(-((chroma / (rule.reach / 3)) ** 2))
    wish = axis.at(lab[:, 0], share) * fade
    return np.asarray(np.minimum(wish, rule.limit / 100))


KNEE = 4.0
"""How many times the gap between the darkest grey and solid black the knee of greys in black spans:
twice keeps the order of tones, four times keeps at least half of every step."""


def black_alone(forward: ForwardTable | MixTable, lightness: Floats, darkest: float) -> Floats:
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
