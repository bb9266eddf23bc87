"""Decisions of a policy for colours and objects, and how their results stand in a document."""

from __future__ import annotations

from dataclasses import dataclass, field
from decimal import Decimal
from functools import cached_property, lru_cache

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.document.pdf.spaces import ColourSpace
from plinto_core.document.pdf.transfer import Transfer
from plinto_core.document.rules.colours import ColourMapper
from plinto_core.document.rules.policy import OutputPolicy, Rule
from plinto_core.errors import BadRecipe
from plinto_core.words import Said, say

SAME = say("document.same")
SAME_WITHIN = say("document.same-within")
HELD = say("document.held")
TRANSFERRED = say("document.transferred")
NOT_TRANSFERRED = say("document.transfer-not-applied")
_TARGETS = {"CMYK": "DeviceCMYK", "RGB": "DeviceRGB", "grey": "DeviceGray"}
_MOST = 5000
"""Answers that are kept for the next time they are asked for."""
INKS_OF = ("CMYK", "inks")
"""Families whose values are shares of inks."""
FILL = {"CMYK": "k", "RGB": "rg", "grey": "g"}
"""Operators that set an area's colour, of the families that have one of their own."""
SOLID = 0.9995
"""Share of black from which it is solid."""


@dataclass
class Decision:
    """What the policy decides for objects of a space; kept, since it is asked for at every colour.

    number, rule : the rule and its number; passes : whether colours stay whatever they are; origin :
    where the space's meaning comes from, spots : of a spot colour, transfer : the functions in force that
    the policy applies; the rest as of the space.
    """

    painter: Painter
    objects: str
    space: ColourSpace
    size: float | None
    number: int
    rule: Rule
    transfer: Transfer | None
    _keys: dict[str, str] = field(default_factory=dict)

    def key(self, intent: str) -> str:
        """As of the rule."""
        found = self._keys.get(intent)
        if found is None:
            found = self._keys[intent] = self.rule.key(intent)
        return found

    @cached_property
    def stops(self) -> bool:
        return self.rule.stops

    @cached_property
    def passes(self) -> bool:
        rule, painter = self.rule, self.painter
        if rule.stops or rule.action == "keep spot":
            return True
        if rule.leaves:
            limited = self.space.label == "Indexed" and painter.holds_tac(self.space)
            return not (painter.bares(self.space) or limited)
        return rule.converts and painter.mapper.keeps(self.space.colour)

    @cached_property
    def holds(self) -> bool:
        """Whether colours stay, but must keep the TAC."""
        return self.rule.leaves and self.painter.holds_tac(self.space)

    @cached_property
    def untransferred(self) -> bool:
        """Whether transfer functions are to be applied but colours stay in values they cannot be applied to."""
        return self.transfer is not None and self.rule.transfer is None and not self.rule.stops

    @cached_property
    def origin(self) -> str:
        return self.painter.origin(self.space)

    @cached_property
    def ruled_as(self) -> str:
        return self.painter.ruled_as(self.space)

    @cached_property
    def spots(self) -> tuple[str, ...]:
        return self.space.colour.names if self.ruled_as == "spot" else ()

    @cached_property
    def profile(self) -> str:
        return self.painter.profile_name(self.space)

    @cached_property
    def notes(self) -> list[Said]:
        return self.painter.notes(self.space, self.objects, self.size)


class Painter:
    """The policy, its mapper, and the destination's own way of naming colours."""

    def __init__(self, policy: OutputPolicy, mapper: ColourMapper) -> None:
        self.policy = policy
        self.mapper = mapper
        self.target_name = _TARGETS.get(mapper.family, "DeviceN")
        self.channels = mapper.destination.channels
        self.tells_apart = policy.tells_apart
        """whether objects of one colour may meet different rules"""
        self.page: int | None = None
        """that is painted, from 1; None for no certain one"""
        self.layers: tuple[str, ...] = ()
        """the names of those that what is painted lies on"""
        self.transfer: Transfer | None = None
        """the functions in force where something is painted, which the policy applies"""
        self.goes_by_page = any(r.pages for r in policy.rules)
        self._decisions: dict[tuple[object, ...], Decision] = {}
        self._families: dict[str, str] = {}
        self._origins: dict[str, str] = {}

    @property
    def variant(self) -> tuple[object, ...]:
        """What decides, besides an object itself and its page, what becomes of it here: which of the rules
        that ask for a layer hold, and the transfer functions in force."""
        policy = self.policy
        held = tuple(r.on_layer(self.layers) for r in policy.rules if r.layer)
        return (*held, self.transfer.key) if self.transfer is not None else held

    def rule(self, objects: str, space: ColourSpace, size: float | None = None) -> tuple[int, Rule]:
        """The rule for an object, keep spot understood as leaving it; size : as a policy asks for it.

        Marks for all plates or for none are left, whatever the rules say.
        """
        decision = self.decision(objects, space, size)
        return decision.number, decision.rule

    def decision(self, objects: str, space: ColourSpace, size: float | None = None) -> Decision:
        """As `rule`, with all that follows from it."""
        transfer = self.transfer
        key = (
            objects, space.key, size, self.page if self.goes_by_page else None, self.layers,
            transfer.key if transfer is not None else None,
        )  # fmt: skip
        found = self._decisions.get(key)
        if found is None:
            if len(self._decisions) > _MOST:
                self._decisions.clear()
            number, rule = self._rule(objects, space, size)
            found = self._decisions[key] = Decision(
                self, objects, space, size, number, rule, transfer
            )
        return found

    def _rule(self, objects: str, space: ColourSpace, size: float | None) -> tuple[int, Rule]:
        colour = space.colour
        if self.mapper.keeps(colour):
            return 0, Rule(action="leave")
        known = self.ruled_as(space)
        names = colour.names if known == "spot" else ()
        number, rule = self.policy.rule_for(objects, known, names, size, self.page, self.layers)
        return number, self._through(rule, colour)

    def _through(self, rule: Rule, colour: ColourSpace) -> Rule:
        """A rule with the transfer functions in force. What it leaves in the destination's own values is
        written with them in it; what it leaves in others cannot be."""
        if self.transfer is None:
            return rule
        if rule.changes:
            return rule.under(self.transfer, rule.action)
        if not rule.leaves:
            return rule
        mapper = self.mapper
        if colour.bare_grey and mapper.black_ink is not None:
            return rule.under(self.transfer, "black")
        own = mapper.same_space(colour) or mapper.own_plates(colour) or mapper.prints(colour)
        return rule.under(self.transfer, "convert") if own else rule

    def ruled_as(self, space: ColourSpace) -> str:
        """The family that rules know a space by: inks of the destination by name are its process inks."""
        found = self._families.get(space.key)
        if found is None:
            if len(self._families) > _MOST:
                self._families.clear()
            found = "CMYK" if self.mapper.prints(space.colour) else space.ruled_as
            self._families[space.key] = found
        return found

    def intent(self, rule: Rule, own: str | None) -> str:
        """A fixed intent, or the object's own with the rule's fallback."""
        return (own or rule.fallback) if rule.intent == "own" else rule.intent

    def profile_name(self, space: ColourSpace) -> str:
        colour = space.colour
        return colour.profile.description if colour.profile is not None else ""

    def origin(self, space: ColourSpace) -> str:
        """Where a space's meaning comes from; "none" where nothing gives it one."""
        if space.colour.family == "spot":
            return ""
        found = self._origins.get(space.key)
        if found is None:
            if len(self._origins) > _MOST:
                self._origins.clear()
            try:
                found = self.mapper.source_of(space)[1]
            except BadRecipe:
                found = "none"
            self._origins[space.key] = found
        return found

    @property
    def lost_defaults(self) -> tuple[str, ...]:
        """Families whose default spaces are taken out of the result, since they would give another meaning
        to the numbers that are written; black alone is written as grey."""
        family = self.mapper.family
        return ("CMYK", "grey") if family in ("CMYK", "inks") else (family,)

    def changes(self, space: ColourSpace, objects: str) -> bool:
        """Whether the rule for this space gives it other values or another space."""
        _, rule = self.rule(objects, space)
        return rule.changes

    def bares(self, space: ColourSpace) -> bool:
        """Whether a space's profile is taken off while its numbers stay."""
        colour = space.colour
        return (
            self.policy.bare_cmyk
            and self.mapper.family == "CMYK"
            and colour.family == "CMYK"
            and colour.label == "ICCBased"
        )

    def holds(self, space: ColourSpace, objects: str, size: float | None = None) -> bool:
        """Whether colours of a space are left, but must keep the TAC all the same."""
        return self.decision(objects, space, size).holds

    def holds_tac(self, space: ColourSpace) -> bool:
        """Whether even colours that are left must keep the TAC."""
        enforced = self.policy.enforced_tac is not None
        return enforced and space.colour.family == "CMYK" == self.mapper.family

    def over(self, values: Floats) -> bool:
        """Whether any of (n, 4) inks 0..1 is over the policy's TAC."""
        tac = self.policy.tac
        return (
            tac is not None
            and len(values) > 0
            and float(values.sum(axis=1).max()) * 100 > tac + 1e-6
        )

    def notes(self, space: ColourSpace, objects: str, size: float | None = None) -> list[Said]:
        """What is to be said of a space under its rule."""
        decision = self.decision(objects, space, size)
        rule = decision.rule
        if space.colour.problem:
            return [space.colour.problem]
        if decision.transfer is not None and not rule.stops:
            return [TRANSFERRED if rule.transfer is not None else NOT_TRANSFERRED]
        same = rule.converts and rule.link is None and self.origin(space) != "none"
        if same and self.mapper.same_space(space.colour):
            return [SAME_WITHIN if self.holds_tac(space) else SAME]
        return []

    def setting(
        self, after: tuple[float, ...], *, stroke: bool, over: bool = False
    ) -> tuple[list[Decimal], str]:
        """Operands and operator that set a destination colour; scn where a space is to be selected first.

        over : as in `written`.
        """
        values, operator = self._setting(after, stroke, over)
        return [number(v) for v in values], operator

    def written(
        self, after: tuple[float, ...], *, stroke: bool, over: bool = False
    ) -> tuple[bytes, str]:
        """As `setting`, as it stands in a content stream, and the operator once more.

        over : black alone that overprints. As a colour of many inks it would print all of them as none.
        """
        values, operator = self._setting(after, stroke, over)
        # Colours are asked for by the hundred thousand: their digits are looked up.
        digits = [_DIGITS[round((v if 0.0 <= v <= 1.0 else v > 0.5) * 10_000)] for v in values]
        return b" ".join([*digits, operator.encode()]), operator

    def digits(self, after: Floats) -> list[bytes]:
        """Operands for (n, channels) destination values, each row's as they stand in a content stream."""
        whole = np.rint(np.clip(after, 0.0, 1.0) * 10_000).astype(np.int64).tolist()
        return [b" ".join(map(_DIGITS.__getitem__, row)) for row in whole]

    def _setting(
        self, after: tuple[float, ...], stroke: bool, over: bool
    ) -> tuple[tuple[float, ...], str]:
        if over and self.mapper.family == "inks" and self.mapper.only_black(after):
            after = (0.0, 0.0, 0.0, after[self.mapper.black_ink or 0])
            operator = "k"
        else:
            operator = FILL.get(self.mapper.family, "scn")
        return after, operator.upper() if stroke else operator

    def total(self, family: str, values: tuple[float, ...]) -> float | None:
        """Total ink in percent, where the values are inks."""
        return round(sum(values) * 100, 1) if family in INKS_OF else None

    def in_black(self, percent: float) -> tuple[float, ...]:
        """A percentage of the black ink with none of the others."""
        return tuple(percent if i == self.mapper.black_ink else 0.0 for i in range(self.channels))

    def outcome(self, after: tuple[float, ...] | None, space: ColourSpace) -> str:
        """What a colour came out as: the destination's space, black alone, or what it was."""
        if after is None:
            spot = space.colour.family == "spot"
            return f"spot {', '.join(space.colour.names)}" if spot else space.label
        return "black only" if self.mapper.only_black(after) else self.target_name


@lru_cache(maxsize=10_001)
def _decimal(ten_thousandths: int) -> Decimal:
    return (Decimal(ten_thousandths) / 10_000).normalize() + Decimal(0)


class _Digits(dict[int, bytes]):
    """Ten-thousandths as they are written."""

    def __missing__(self, ten_thousandths: int) -> bytes:
        self[ten_thousandths] = made = format(_decimal(ten_thousandths), "f").encode()
        return made


_DIGITS = _Digits()


def number(value: float) -> Decimal:
    """A short decimal 0..1 for a content stream."""
    return _decimal(round(min(1.0, max(0.0, value)) * 10_000))


def shown_rows(family: str, values: Floats) -> list[tuple[float, ...]]:
    """As `shown_values`, of (n, channels)."""
    scale = {"RGB": 255.0, "Lab": 1.0}.get(family, 100.0)
    return list(map(tuple, _tenths(values * scale).tolist()))


def shown_totals(family: str, values: Floats) -> list[float | None]:
    """Total ink in percent of (n, channels), None where they are no inks."""
    if family not in INKS_OF:
        return [None] * len(values)
    total = np.zeros(len(values))
    for channel in values.T:
        total += channel
    return list(_tenths(total * 100).tolist())


def _tenths(values: Floats) -> Floats:
    """Rounded to tenths, halves as Python does, which goes by what a number is and not by its tenfold."""
    out = np.asarray(np.rint(values * 10) / 10)
    with np.errstate(invalid="ignore"):
        close = np.abs(np.abs(values * 10 % 1) - 0.5) < 1e-3
    out[close] = [round(v, 1) for v in values[close].tolist()]
    return out


def shown_values(family: str, values: tuple[float, ...]) -> tuple[float, ...]:
    """Values for people: RGB 0..255, inks and grey in percent, Lab as it is."""
    if family == "RGB":
        return tuple([round(v * 255, 1) for v in values])
    if family == "Lab":
        return tuple([round(float(v), 1) for v in values])
    return tuple([round(float(v) * 100, 1) for v in values])
