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
from plinto_core.inks.forward import BLACK, TAC_MARGIN, WEIGHTS, ForwardTable
from plinto_core.inks.rules import InkRules
from plinto_core.kernels.separate import separate_held

Method = Literal[1, 2, 3]
"""Of recipes. 1 : all inks at once, as former recipes were separated; from 2 on black first; from 3 on
corrections keep hue and saturation (corrections/shift.py)."""
PRESENT: Method = 3
ALIKE_UNCORRECTED: Method = 2
"""Gives the same bytes as the present method where a recipe has no corrections."""
_ITERATIONS = 24
_HOLD = 1.5
"""Weight of black's wish against a CIE 94 difference of 1 where it must give way, for all of black."""
_ENOUGH = 0.005
"""CIE 94 difference at which an aim counts as met beside the black that was asked for."""


@dataclass(frozen=True)
class Separation:
    """inks : (n, 4) tone values 0..1; missed : (n,) weighted distance left to the aim."""

    inks: Floats
    missed: Floats


NEUTRAL = 1.5
"""C*ab up to which a print counts as grey."""


@dataclass(frozen=True)
class BlackPoint:
    """inks : (4,) tone values 0..1; lab : (3,) what they print, media-relative."""

    inks: Floats
    lab: Floats


def darkest_black(forward: ForwardTable, rules: InkRules) -> BlackPoint:
    """The inks and the Lab that come nearest to L* 0, a* 0, b* 0 under the rules."""
    inks = separate(forward, np.zeros((1, 3)), rules).inks
    return BlackPoint(inks[0], forward.lab_of(inks)[0])


def darkest_neutral(forward: ForwardTable, rules: InkRules) -> BlackPoint:
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
    forward: ForwardTable, inks: Floats, rules: InkRules, *, method: Method = PRESENT
) -> Floats:
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
        out[over] = separate(
            forward, forward.lab_of(part), bare, starts=part, keep_black=True, method=method
        ).inks
    return out


def separate(
    forward: ForwardTable,
    aims: Floats,
    rules: InkRules,
    *,
    starts: Floats | None = None,
    keep_black: bool = False,
    method: Method = PRESENT,
) -> Separation:
    """Inks for (n, 3) Lab aims (media-relative), nearest in the CIE 94 metric where out of gamut.

    Never above any limit or the TAC. `starts` may give (n, 4) first guesses, which speeds up;
    `keep_black` takes the black of those instead of the rule's.

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
    if method == 1:
        return Separation(*separate_together(forward, aims, rules, starts, keep_black))
    first = forward.starts(aims, rules) if starts is None else np.array(starts, dtype=np.float64)
    wanted = first[:, BLACK].copy() if keep_black else black_wish(forward, aims, rules)
    inks = np.empty((aims.shape[0], 4))
    missed = np.empty(aims.shape[0])
    separate_held(
        forward.flat, forward.size, aims, first, wanted, BLACK, _HOLD, rules.ink_limits(),
        rules.tac / 100 - TAC_MARGIN, WEIGHTS, _ITERATIONS, _ENOUGH, inks, missed,
    )  # fmt: skip
    return Separation(inks, missed)
