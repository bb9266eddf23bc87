"""From Lab aims to inks under ink rules: the one solver for profiles and for re-separation.

Black is decided first (black.py), the other inks follow: three inks meet three coordinates in one
way, so that neighbouring colours have neighbouring mixtures. Where they cannot meet the aim beside
that black, within limits and TAC, black gives way just as far as it must (kernels/separate.py).
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.inks.black import black_wish
from plinto_core.inks.former import separate_together
from plinto_core.inks.forward import BLACK, ForwardTable
from plinto_core.inks.mixing import MixTable
from plinto_core.inks.rules import INKS, InkRules

Method = Literal[1, 2, 3, 4]
"""Of recipes. 1 : all inks at once, as former recipes were separated; from 2 on black first; from 3 on
corrections keep hue and saturation (corrections/shift.py); from 4 on float tables of profiles are read
(transform/elements.py)."""
PRESENT: Method = 4
CORRECTED: Method = 3
ALIKE_UNCORRECTED: Method = 2
"""Gives the same bytes as CORRECTED where a recipe has no corrections."""
_ITERATIONS = 24
_HOLD = 1.5
"""Weight of black's wish against a CIE 94 difference of 1 where it must give way, for all of black."""
_YIELD = 0.05
"""The same on a press whose colours cannot meet most aims beside any black."""
_STAY = 0.02
"""Weight of the inks that stood there, where a total over the rule is brought within."""
_REACHED = 0.1
"""CIE 94 difference up to which mixtures are left alone."""
_ON_FROM_THERE = 4
"""Iterations of it, half of what it may take: it starts near its end."""
_COLOURED = (8.0, 20.0)
"""C*ab over which that comes in: greys stay greys of three colours and black."""
_ENOUGH = 0.005
"""CIE 94 difference at which an aim counts as met beside the black that was asked for."""


@dataclass(frozen=True)
class Separation:
    """inks : (n, inks) tone values 0..1; missed : (n,) weighted distance left to the aim."""

    inks: Floats
    missed: Floats


NEUTRAL = 1.5
"""C*ab up to which a print counts as grey."""


@dataclass(frozen=True)
class BlackPoint:
    """inks : (inks,) tone values 0..1; lab : (3,) what they print, media-relative."""

    inks: Floats
    lab: Floats


def darkest_black(forward: ForwardTable | MixTable, rules: InkRules) -> BlackPoint:
    """The inks and the Lab that come nearest to L* 0, a* 0, b* 0 under the rules."""
    inks = separate(forward, np.zeros((1, 3)), rules).inks
    return BlackPoint(inks[0], forward.lab_of(inks)[0])


def darkest_neutral(forward: ForwardTable | MixTable, rules: InkRules) -> BlackPoint:
    """The darkest print that is still grey (C*ab <= 1.5); the darkest colour of all may have a cast."""
    deepest = darkest_black(forward, rules)
    lightness = np.linspace(deepest.lab[0], min(deepest.lab[0] + 30, 100.0), 121)
    aims = np.stack([lightness, np.zeros(121), np.zeros(121)], axis=1)
    inks = separate(forward, aims, rules).inks
    lab = forward.lab_of(inks)
    grey = np.hypot(lab[:, 1], lab[:, 2]) <= NEUTRAL
    best = int(np.argmax(grey)) if grey.any() else int(np.hypot(lab[:, 1], lab[:, 2]).argmin())
    return BlackPoint(inks[best], lab[best])


def hold_total(
    forward: ForwardTable | MixTable, inks: Floats, rules: InkRules, *, method: Method = PRESENT
) -> Floats:
    """(n, inks) tone values 0..1 with every mixture over the TAC or an ink's limit brought within.

    What keeps the rules is returned as it is, to the bit. What does not keeps its colour as far as
    the rules allow, by the mixture that lies nearest to it, so that a total just above the rule
    changes just a little. The rule of black has no part in it.
    """
    bare = rules.model_copy(update={"black": None})
    out = np.array(inks, dtype=np.float64)
    names = INKS if isinstance(forward, ForwardTable) else forward.ink_set.names
    limits = bare.ink_limits(names)
    over = (out.sum(axis=1) > rules.tac / 100 + 1e-9) | (out > limits + 1e-9).any(axis=1)
    black = forward.black
    if rules.protect.pure_black and black is not None:
        alone = (np.delete(out, black, axis=1) <= 0).all(axis=1)
        out[over & alone, black] = np.minimum(out[over & alone, black], rules.solid_black)
        over &= ~alone
    if over.any() and isinstance(forward, MixTable):
        out[over], _ = _nearest(forward, out[over], forward.lab_of(out[over]), bare)
    elif over.any():
        part = out[over]
        out[over] = separate(
            forward, forward.lab_of(part), bare, starts=part, keep_black=True, method=method
        ).inks
    return out


def _nearest(
    forward: MixTable, inks: Floats, aims: Floats, rules: InkRules
) -> tuple[Floats, Floats]:
    """(n, inks) tone values within the rules, nearest to (n, 3) aims and near to the (n, inks) given;
    and the (n,) distance that remains."""
    plan = forward.apart(rules)
    limits = np.maximum(forward.limits(rules), 1e-9)
    wanted = None if forward.black is None else inks[:, forward.black]
    found, missed = forward.meet(
        aims, np.clip(inks / limits, 0.0, 1.0), rules, plan=plan, wanted=wanted,
        hold=_HOLD, pull=_STAY, enough=-1.0, iterations=_ON_FROM_THERE,
    )  # fmt: skip
    return plan.inks(found, forward.inks), missed


def separate(
    forward: ForwardTable | MixTable,
    aims: Floats,
    rules: InkRules,
    *,
    starts: Floats | None = None,
    keep_black: bool = False,
    method: Method = PRESENT,
) -> Separation:
    """Inks for (n, 3) Lab aims (media-relative), nearest in the CIE 94 metric where out of gamut.

    Never above any limit or the TAC. `starts` may give (n, inks) first guesses, which speeds up;
    `keep_black` takes the black of those instead of the rule's. On presses of other inks than four the
    method is the present one whatever it is asked for: former ones never separated for them.

    >>> import numpy as np
    >>> from plinto_core.inks import ForwardTable, InkRules, separate
    >>> steps = np.linspace(0, 1, 5)
    >>> c, m, y, k = np.meshgrid(steps, steps, steps, steps, indexing="ij")
    >>> light = 100 * (1 - 0.3 * c) * (1 - 0.4 * m) * (1 - 0.1 * y) * (1 - 0.9 * k)
    >>> press = ForwardTable(np.stack([light, 60 * (m - c), 60 * (y - (c + m) / 2)], axis=-1))
    >>> found = separate(press, np.array([[60.0, 0, 0]]), InkRules(tac=240))
    >>> bool(found.missed[0] < 0.01 and found.inks.sum() <= 2.4)
    True
    """
    aims = np.ascontiguousarray(aims, dtype=np.float64)
    if isinstance(forward, MixTable):
        return _mixed(forward, aims, rules, starts if keep_black else None)
    if method == 1:
        return Separation(*separate_together(forward, aims, rules, starts, keep_black))
    first = forward.starts(aims, rules) if starts is None else np.array(starts, dtype=np.float64)
    wanted = first[:, BLACK].copy() if keep_black else black_wish(forward, aims, rules)
    return Separation(
        *forward.meet(
            aims, first, rules, wanted=wanted, hold=_HOLD, iterations=_ITERATIONS, enough=_ENOUGH
        )
    )


def _mixed(forward: MixTable, aims: Floats, rules: InkRules, kept: Floats | None) -> Separation:
    """Inks of any press for (n, 3) aims; kept : (n, inks) whose black stays, None for the rule's."""
    plan = forward.plan(rules)
    wanted = None
    if forward.black is not None:
        wanted = (
            forward.black_of(kept, rules) if kept is not None else black_wish(forward, aims, rules)
        )
    found, missed = forward.meet(
        aims, forward.starts(aims, rules), rules, wanted=wanted,
        hold=_HOLD if plan.exact else _YIELD, iterations=_ITERATIONS, enough=_ENOUGH,
    )  # fmt: skip
    inks = plan.inks(found, forward.inks)
    # Beyond what mixtures reach all inks go on from there, each as little as the aim needs.
    chroma = np.hypot(aims[:, 1], aims[:, 2])
    far = (missed > _REACHED) & (chroma > _COLOURED[0])
    if far.any() and plan.axes < forward.inks:
        nearest, left = _nearest(forward, inks[far], aims[far], rules)
        part = np.clip((chroma[far] - _COLOURED[0]) / (_COLOURED[1] - _COLOURED[0]), 0.0, 1.0)
        inks[far] += part[:, None] * (nearest - inks[far])
        missed[far] += part * (left - missed[far])
    return Separation(inks, missed)
