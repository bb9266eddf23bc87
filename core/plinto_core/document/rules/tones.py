"""Plain colours converted together, each with all that is written and said of it."""

from __future__ import annotations

from dataclasses import MISSING, dataclass, fields
from itertools import repeat
from typing import Any

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.document.pdf.items import Box, Item
from plinto_core.document.pdf.spaces import ColourSpace
from plinto_core.document.pdf.state import Paint, paint_of
from plinto_core.document.rules.colours import MOST_COLOURS
from plinto_core.document.rules.painting import (
    FILL,
    SOLID,
    Decision,
    Painter,
    shown_rows,
    shown_totals,
)
from plinto_core.words import Said

BLACK_ONLY = "black only"
Values = tuple[float, ...]
_PLAIN = {f.name: f.default for f in fields(Item) if f.default is not MISSING}


@dataclass(slots=True)
class Tone:
    """A colour as it is set, and as it is shown. became : in the destination, 0..1; fill, stroke : what is
    written for it; overprints : whether, as a fill, it is black that the policy has overprint, so that more
    is to be written than the colour."""

    shared: _Shared
    became: Values
    values: Values
    after: Values
    tac: float | None
    tac_after: float | None
    alone: bool
    """whether it comes out in black alone, or in nothing"""
    overprints: bool
    fill: bytes
    stroke: bytes

    def paint(self, values: Values) -> Paint:
        """It, as the colour at hand; values : as they are set."""
        made = object.__new__(Paint)
        made.__dict__.update(self.shared.paint, values=values, became=self.became, tone=self)
        return made

    def item(self, page: int, kind: str, box: Box | None) -> Item:
        """An object in it."""
        made = object.__new__(Item)
        made.__dict__.update(
            self.shared.facts, page=page, kind=kind, box=box, values=self.values, after=self.after,
            tac=self.tac, tac_after=self.tac_after, notes=[*self.shared.notes],
        )  # fmt: skip
        if self.alone:
            made.outcome = BLACK_ONLY
        return made


@dataclass(slots=True)
class Met:
    """Objects of one kind in one tone on a page, of which only the figures are wanted."""

    tone: Tone
    kind: str
    box: Box | None
    count: int = 1

    @property
    def outcome(self) -> str:
        return BLACK_ONLY if self.tone.alone else str(self.tone.shared.facts["outcome"])


@dataclass(slots=True)
class _Shared:
    """What tones of one space under one rule have in common. paint : all of a Paint but the colour itself,
    facts : of an Item; made by hand, since streams hold hundreds of thousands of them."""

    paint: dict[str, Any]
    rule: int
    facts: dict[str, Any]
    notes: list[Said]


class Tones:
    """Colours of device spaces under a policy that does not tell objects apart.

    They are kept over streams and pages, up to a bound. Whoever was given some keeps them.
    """

    def __init__(self, painter: Painter) -> None:
        self._painter = painter
        self._known: dict[tuple[str, str], dict[Values, Tone]] = {}
        self._count = 0

    def convert(
        self, space: ColourSpace, decision: Decision, own: str | None, values: set[Values]
    ) -> dict[Values, Tone]:
        """Tones of these colours at least; own : the intent that the document sets, None without one."""
        if self._count > MOST_COLOURS:
            self._known, self._count = {}, 0
        chosen = self._painter.intent(decision.rule, own)
        known = self._known.setdefault((space.key, decision.key(chosen)), {})
        wanted = list(values.difference(known))
        if wanted:
            made = self._made(space, decision, own, chosen, wanted)
            known.update(zip(wanted, made, strict=True))
            self._count += len(wanted)
        return known

    def _made(
        self, space: ColourSpace, decision: Decision, own: str | None, chosen: str,
        values: list[Values],
    ) -> list[Tone]:  # fmt: skip
        painter = self._painter
        mapper = painter.mapper
        before = np.array(values, dtype=np.float64)
        after = mapper.together(space, before, decision.rule, chosen)
        family = mapper.family
        fill = b" " + FILL[family].encode()
        stroke = fill.upper()
        facts = {
            **_PLAIN, "family": decision.ruled_as, "space": space.label, "profile": decision.profile,
            "origin": decision.origin, "rule": decision.number, "action": decision.rule.action,
            "spot": decision.spots, "intent": chosen, "outcome": painter.target_name,
        }  # fmt: skip
        shared = _Shared(
            vars(paint_of(space, (), own, None, 0, ())), decision.number, facts, decision.notes
        )
        black, solid = self._blacks(after)
        written = painter.digits(after)
        return list(
            map(
                Tone, repeat(shared), map(tuple, after.tolist()),
                shown_rows(space.family, before), shown_rows(family, after),
                shown_totals(space.family, before), shown_totals(family, after),
                black.tolist(), solid.tolist(),
                [digits + fill for digits in written], [digits + stroke for digits in written],
            )
        )  # fmt: skip

    def _blacks(self, after: Floats) -> tuple[np.ndarray, np.ndarray]:
        """Which are black alone, or nothing at all; and which of them the policy has overprint."""
        mapper = self._painter.mapper
        if mapper.black_ink is None:
            none = np.zeros(len(after), bool)
            return none, none
        alone = np.asarray(~np.delete(after, mapper.black_ink, axis=1).any(axis=1))
        overprints = self._painter.policy.overprint_black
        return alone, alone & (after[:, mapper.black_ink] >= SOLID) & overprints
