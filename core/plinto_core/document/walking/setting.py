"""Colours set in a content stream: what the policy makes of each, and what is written in its place."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

import pikepdf

from plinto_core.document.pdf.edits import Edits, operation
from plinto_core.document.pdf.opening import UNREADABLE
from plinto_core.document.pdf.places import Places
from plinto_core.document.pdf.spaces import ColourSpace
from plinto_core.document.pdf.state import Paint, State, paint_of
from plinto_core.document.rules.painting import number
from plinto_core.document.rules.policy import Rule
from plinto_core.document.walking.overprint import overprints_black, settle_overprint
from plinto_core.document.walking.resources import add_ink_space
from plinto_core.errors import CoreError

if TYPE_CHECKING:
    from plinto_core.document.walking.walk import DocumentWalk


class Setting(Places):
    """The state of a stream with the edits that are made to it, at the place where it is at."""

    def __init__(self, walk: DocumentWalk, resources: Any, state: State) -> None:
        super().__init__(state)
        self.walk = walk
        self.painter = walk.painter
        self.resources = resources
        self.edits = Edits()
        self.place = 0
        """the byte of the stream before which what is written anew is put"""

    def subject(self, kind: str, side: str) -> tuple[str, float | None]:
        """What rules know a painted thing as, and its size in points where it has one."""
        if kind == "text":
            return "text", self.text_points()
        return "vectors", self.line_width() if side == "stroke" else None

    def remember(self, stroke: bool, paint: Paint) -> None:
        changed = self.state.changed
        self.state = changed(stroke=paint) if stroke else changed(fill=paint)

    def set_colour(
        self, stroke: bool, space: ColourSpace, values: tuple[float, ...], name: Any = None, *,
        selects: bool = False,
    ) -> bool:  # fmt: skip
        """Make a colour the present one; True where another one was written in its place.

        name : what selected the space; selects : whether a colour written in it has to select it anew.
        """
        ruled = self.painter.rule("vectors", space)[0] if self.painter.tells_apart else 0
        intent = self.state.intent
        try:
            after = self.result(space, values)
        except (CoreError, *UNREADABLE):
            # It stays, and is the present colour all the same.
            self.remember(stroke, paint_of(space, values, intent, name, ruled, None))
            raise
        paint = paint_of(space, values, intent, name, ruled, after)
        if after is not None:
            self.write(paint, after, stroke)
            return True
        self.remember(stroke, paint)
        held = self.held(space, values)
        if held is not None:
            self.emit_held(space, held, stroke, name if selects else None)
            return True
        settle_overprint(self, paint, None, stroke)
        return False

    def write(self, paint: Paint, after: tuple[float, ...], stroke: bool) -> None:
        """Set a colour of the destination in place of a paint's own; paint : as it is then, replaced."""
        settle_overprint(self, paint, after, stroke)
        over = overprints_black(self, after, stroke)
        self.put(self._written(after, stroke=stroke, over=over))
        self.remember(stroke, paint)

    def _written(self, after: tuple[float, ...], *, stroke: bool, over: bool = False) -> bytes:
        """What sets a colour of the destination, its space selected where the operator names none."""
        made, operator = self.painter.written(after, stroke=stroke, over=over)
        if operator in ("scn", "SCN"):
            name = pikepdf.Name(add_ink_space(self.resources, self.walk.target))
            return operation([name], "CS" if stroke else "cs") + b"\n" + made
        return made

    def emit_held(
        self, space: ColourSpace, held: tuple[float, ...], stroke: bool, name: Any
    ) -> None:
        """A colour that was over the TAC, in the space it was in."""
        operands: list[Any] = [number(v) for v in held]
        if space.label == "DeviceCMYK":
            # The operator selects the space as well.
            self.emit(operands, "K" if stroke else "k")
            return
        if name is not None:
            self.emit([name], "CS" if stroke else "cs")
        self.emit(operands, "SCN" if stroke else "scn")

    def emit(self, operands: list[Any], operator: str) -> None:
        """Write an operator where the stream is at."""
        self.put(operation(operands, operator))

    def put(self, piece: bytes) -> None:
        """Write operators where the stream is at."""
        self.edits.insert(self.place, piece)

    def result(
        self, space: ColourSpace, values: tuple[float, ...], objects: str = "vectors",
        size: float | None = None,
    ) -> tuple[float, ...] | None:  # fmt: skip
        """Destination values 0..1 of a colour, None where it is left as it is."""
        decision = self.painter.decision(objects, space, size)
        if decision.passes:
            return None
        rule, plain = decision.rule, space.plain(values)
        intent = self.painter.intent(rule, self.state.intent)
        if rule.leaves:
            if self.painter.bares(space) and not self._over(space, plain):
                return plain
            if space.label != "Indexed" or not self._over(space, plain):
                return None
            # An entry of a palette cannot be reset in its own space.
            rule = Rule(action="convert")
            return self.painter.mapper.colour(space.colour, plain, rule, rule.intent)
        return self.painter.mapper.colour(space.colour, plain, rule, intent, decision.key(intent))

    def _over(self, space: ColourSpace, values: tuple[float, ...]) -> bool:
        tac = self.painter.policy.tac
        return self.painter.holds_tac(space) and tac is not None and sum(values) * 100 > tac + 1e-6

    def held(
        self, space: ColourSpace, values: tuple[float, ...], objects: str = "vectors",
        size: float | None = None,
    ) -> tuple[float, ...] | None:  # fmt: skip
        """A colour that is left and over the TAC, brought within it in its own space; else None."""
        if not self.painter.decision(objects, space, size).holds or space.label == "Indexed":
            return None
        if not self._over(space, values):
            return None
        return self.painter.mapper.held_colour(space.colour, values)
