"""One content stream: colour operators rewritten by the policy, painted objects listed."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import TYPE_CHECKING, Any

import pikepdf
from pikepdf import ContentStreamInstruction, Operator

from plinto_core.document.pdf.bounds import check_size_of_stream
from plinto_core.document.pdf.functions import numbers
from plinto_core.document.pdf.images import intent_of
from plinto_core.document.pdf.items import Box, Item
from plinto_core.document.pdf.layers import names_of
from plinto_core.document.pdf.opening import UNREADABLE
from plinto_core.document.pdf.places import Places
from plinto_core.document.pdf.spaces import ColourSpace, default_of, read_space
from plinto_core.document.pdf.state import Paint, State
from plinto_core.document.rules.painting import HELD, number, shown_values
from plinto_core.document.rules.policy import Rule
from plinto_core.document.walking.ahead import SIMPLE, convert_ahead
from plinto_core.document.walking.fitting import fit
from plinto_core.document.walking.graphics_state import apply_graphics_state
from plinto_core.document.walking.lines import thicken
from plinto_core.document.walking.objects import place_inline, place_object
from plinto_core.document.walking.overprint import (
    mends_white,
    overprints_black,
    settle_overprint,
)
from plinto_core.document.walking.patterns import choose_pattern
from plinto_core.document.walking.resources import (
    add_default_space,
    add_ink_space,
)
from plinto_core.document.walking.shaded import place_shading
from plinto_core.document.walking.texts import show_text
from plinto_core.errors import BadDocument, BadRecipe, CoreError, PolicyStop
from plinto_core.words import say

if TYPE_CHECKING:
    from plinto_core.document.walking.walk import DocumentWalk

_FILLING = {"f", "F", "f*", "B", "B*", "b", "b*"}
_STROKING = {"S", "s", "B", "B*", "b", "b*"}
_BEGINNING = {"m", "re"}
_SHOWING = {"Tj", "TJ", "'", '"'}
_INLINE = "INLINE IMAGE"
"""As no operator is called, since it has a blank."""
GREY_BLACK = Paint()
"""What every page begins with (ISO 32000-2, 8.4.1)."""


def _word(instruction: ContentStreamInstruction | pikepdf.ContentStreamInlineImage) -> str:
    """An operator's name, INLINE IMAGE of an inline image; damaged ones have none."""
    if isinstance(instruction, pikepdf.ContentStreamInlineImage):
        return _INLINE
    try:
        return str(instruction.operator)
    except UnicodeDecodeError:
        return ""


class ContentWalk(Places):
    """Runs over a stream's operators. The result is None where nothing was changed."""

    def __init__(self, walk: DocumentWalk, resources: Any, state: State, depth: int = 0) -> None:
        self.walk = walk
        self.painter = walk.painter
        self.resources = resources
        self._begins = state.unset_used is None
        """whether this stream begins with black of its own, as pages and patterns do and forms do not"""
        if self._begins:
            state = state.changed(unset_used=set())
        super().__init__(state)
        self.depth = depth
        self.changed = False
        self.out: list[Any] = []
        self._path_at = 0
        """where the present path begins in what is written: no colour may be set inside it"""
        self._layers = self.painter.layers
        """that the stream as a whole lies on"""
        self._marked: list[tuple[str, ...]] = []
        """the layers outside each marked content that is open"""
        self._device: dict[str, ColourSpace] = {}
        self._fonts: set[str] = set()

    def run(self, source: Any) -> bytes | None:
        """Walk a page, form or glyph; new bytes where its colours were rewritten."""
        try:
            return self._run(source)
        finally:
            self.painter.layers = self._layers

    def _run(self, source: Any) -> bytes | None:
        check_size_of_stream(source)
        instructions = pikepdf.parse_content_stream(source)
        self.walk.count(len(instructions))
        words = [_word(instruction) for instruction in instructions]
        convert_ahead(self, instructions, words)
        self._thicken()
        for instruction, operator in zip(instructions, words, strict=True):
            if operator == _INLINE:
                self._inline(instruction)
                continue
            if operator in _BEGINNING and self._path is None:
                self._path_at = len(self.out)
            act = _ACTS.get(operator)
            if act is None:
                self.out.append(instruction)
                continue
            try:
                done = act(self, operator, instruction.operands)
            except (PolicyStop, BadRecipe):
                raise
            except CoreError as error:
                self.walk.note("vector", error.said)
                done = False
            except UNREADABLE:
                # As viewers do: what makes no sense is passed over, and said.
                self.walk.note("vector", say("document.operands", operator=operator[:20]))
                done = False
            if not done:
                self.out.append(instruction)
        self.painter.layers = self._layers
        if self._begins:
            self._begin_in_black()
        return pikepdf.unparse_content_stream(self.out) if self.changed else None

    def _begin_in_black(self) -> None:
        """Set the black that something was painted in before any was set, where it becomes another."""
        used = self.state.unset_used or set()
        first: list[Any] = []
        for side in sorted(used):
            after = self.result(GREY_BLACK.space, GREY_BLACK.values)
            if after is not None:
                first += self._written(after, stroke=side == "stroke")
        if first:
            self.out[:0] = first
            self.changed = True

    def rule_at_start(self, space: ColourSpace) -> int:
        """The number of the rule for areas where the stream begins, on no layer of its own."""
        now, self.painter.layers = self.painter.layers, self._layers
        try:
            return self.painter.rule("vectors", space)[0]
        finally:
            self.painter.layers = now

    # Operators; each returns True where it was replaced

    def _marked_begun(self, operator: str, operands: Any) -> bool:
        self._marked.append(self.painter.layers)
        if self.painter.tells_apart and operator == "BDC" and str(operands[0]) == "/OC":
            given = self.resource("/Properties", str(operands[1]))
            self.painter.layers = (*self.painter.layers, *names_of(given))
        return False

    def _marked_ended(self, operator: str, operands: Any) -> bool:
        if self._marked:
            self.painter.layers = self._marked.pop()
        return False

    def _done(self, operator: str, operands: Any) -> bool:
        self._object(str(operands[0]))
        return False

    def _general_state(self, operator: str, operands: Any) -> bool:
        before = self.state.overprint, self.state.stroke_overprints, self.state.width
        given = self.resource("/ExtGState", str(operands[0]))
        if given is not None:
            apply_graphics_state(self, given)
        if before == (self.state.overprint, self.state.stroke_overprints, self.state.width):
            return False
        self.out.append(ContentStreamInstruction(operands, Operator(operator)))
        # The colours at hand were set before: what they were rewritten to has to fit the new state.
        for stroke, paint in ((True, self.state.stroke), (False, self.state.fill)):
            if paint.replaced:
                after = self.result(paint.space, paint.values)
                settle_overprint(self, paint, after, stroke)
            elif mends_white(self, paint):
                settle_overprint(self, paint, None, stroke)
        self._thicken()
        return True

    def _shaded(self, operator: str, operands: Any) -> bool:
        self._shading(str(operands[0]))
        return False

    def _own_intent(self, operator: str, operands: Any) -> bool:
        self.state = self.state.changed(intent=intent_of(operands[0]))
        return False

    def _painted(self, operator: str, operands: Any) -> bool:
        if operator in _FILLING:
            self.use(self.state.fill, "vector", self._path, at=self._path_at)
        if operator in _STROKING:
            self.use(self.state.stroke, "vector", self._path, "stroke", at=self._path_at)
        self._path = None
        return False

    def _width(self, operator: str, operands: Any) -> bool:
        self._line_width(operator, operands)
        self.state = self.state.changed(written_width=self.state.width)
        return self._thicken(operator, operands)

    def _moved(self, operator: str, operands: Any) -> bool:
        self._concatenated(operator, operands)
        return self._thicken(operator, operands)

    def _thicken(self, operator: str = "", operands: Any = ()) -> bool:
        return thicken(self, operator, operands)

    def _text_font(self, operator: str, operands: Any) -> bool:
        self._font(str(operands[0]), float(operands[1]))
        return False

    def _shown_text(self, operator: str, operands: Any) -> bool:
        self._show(operands[-1] if len(operands) else "")
        return False

    def _show(self, text: Any) -> None:
        show_text(self, text)

    def _font(self, name: str, size: float) -> None:
        font = self.resource("/Font", name)
        self.state = self.state.changed(text_size=abs(size) or 1.0, font=font)
        if name in self._fonts:
            return
        self._fonts.add(name)
        if font is None:
            return
        self.walk.fonts.add(str(font.get("/BaseFont", font.get("/Name", name))).removeprefix("/"))
        if str(font.get("/Subtype", "")) != "/Type3":
            return
        own = font.get("/Resources", self.resources)
        for _, glyph in font.get("/CharProcs", {}).items():
            self.walk.form(glyph, own, State(ctm=self.state.ctm), self.depth)

    def resource(self, kind: str, name: str) -> Any:
        """A resource of a kind ("/XObject", …) by its name, None where there is none."""
        group = self.resources.get(kind) if self.resources is not None else None
        return group.get(name) if group is not None else None

    # Colours

    def _simple(self, operator: str, operands: Any) -> bool:
        stroke = operator.isupper()
        space = self._device.get(operator)
        if space is None:
            space = read_space(pikepdf.Name(f"/{SIMPLE[operator].label}"), self.resources)
            self._device[operator] = space
        values = tuple(numbers(operands))
        given = self._lost_default(operator)
        if given is None:
            return self._set(stroke, space, values)
        name = pikepdf.Name(add_default_space(self.resources, SIMPLE[operator].family, given))
        if not self._set(stroke, space, values, name, selects=True):
            # Its numbers stay, and with them what they mean: the default space goes.
            self.emit([name], "CS" if stroke else "cs")
            self.emit(list(operands), "SCN" if stroke else "scn")
        return True

    def _lost_default(self, operator: str) -> Any:
        """The default space that an operator's colours are in and that the result will not have."""
        plain = SIMPLE[operator]
        if plain.family not in self.painter.lost_defaults:
            return None
        return default_of(pikepdf.Name(f"/{plain.label}"), self.resources)

    def _select(self, operator: str, operands: Any) -> bool:
        stroke = operator == "CS"
        space = read_space(operands[0], self.resources)
        if space.family == "pattern":
            self.remember(stroke, Paint(space, (), name=operands[0]))
            return False
        initial = tuple(space.colour.initial() if space.label != "Indexed" else [0.0])
        return self._set(stroke, space, initial, operands[0], selects=True)

    def _components(self, operator: str, operands: Any) -> bool:
        stroke = operator.isupper()
        paint = self.state.stroke if stroke else self.state.fill
        if len(operands) and isinstance(operands[-1], pikepdf.Name):
            return self._pattern(stroke, paint.space, operands)
        if paint.space.family == "pattern":
            raise BadDocument(say("document.pattern-unnamed"))
        values = tuple(numbers(operands))
        if len(values) != paint.space.channels:
            raise BadDocument(say("document.colour-values"))
        if self._set(stroke, paint.space, values, paint.name, selects=paint.replaced):
            return True
        if paint.replaced and paint.name is not None:
            # What was written before selected another space: these values mean their own again.
            self.emit([paint.name], "CS" if stroke else "cs")
        return False

    def remember(self, stroke: bool, paint: Paint) -> None:
        self.state = self.state.changed(**{"stroke" if stroke else "fill": paint})

    def _set(
        self, stroke: bool, space: ColourSpace, values: tuple[float, ...], name: Any = None, *,
        selects: bool = False,
    ) -> bool:  # fmt: skip
        """Make a colour the present one; True where another one was written in its place.

        name : what selected the space; selects : whether a colour written in it has to select it anew.
        """
        ruled = self.painter.rule("vectors", space)[0] if self.painter.tells_apart else 0
        paint = Paint(space, values, intent=self.state.intent, name=name, ruled=ruled)
        self.remember(stroke, paint)
        held = self.held(space, values)
        if held is not None:
            self.emit_held(space, held, stroke, name if selects else None)
            return True
        after = self.result(space, values)
        if after is None:
            settle_overprint(self, paint, None, stroke)
            return False
        self.write(paint, after, stroke)
        return True

    def write(self, paint: Paint, after: tuple[float, ...], stroke: bool) -> None:
        """Set a colour of the destination in place of a paint's own."""
        settle_overprint(self, paint, after, stroke)
        over = overprints_black(self, after, stroke)
        self.out += self._written(after, stroke=stroke, over=over)
        self.changed = True
        self.remember(stroke, replace(paint, replaced=True))

    def _written(
        self, after: tuple[float, ...], *, stroke: bool, over: bool = False
    ) -> list[ContentStreamInstruction]:
        """What sets a colour of the destination, its space selected where the operator names none."""
        operands, operator = self.painter.setting(after, stroke=stroke, over=over)
        made = [ContentStreamInstruction(operands, Operator(operator))]
        if operator in ("scn", "SCN"):
            name = pikepdf.Name(add_ink_space(self.resources, self.walk.target))
            made.insert(0, ContentStreamInstruction([name], Operator("CS" if stroke else "cs")))
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
        self.out.append(ContentStreamInstruction(operands, Operator(operator)))
        self.changed = True

    def result(
        self, space: ColourSpace, values: tuple[float, ...], objects: str = "vectors",
        size: float | None = None,
    ) -> tuple[float, ...] | None:  # fmt: skip
        """Destination values 0..1 of a colour, None where it is left as it is."""
        _, rule = self.painter.rule(objects, space, size)
        if rule.stops or rule.action == "keep spot":
            return None
        colour, plain = space.colour, space.plain(values)
        if rule.leaves:
            if self.painter.bares(space) and not self._over(space, plain):
                return plain
            if space.label != "Indexed" or not self._over(space, plain):
                return None
            # An entry of a palette cannot be reset in its own space.
            rule = Rule(action="convert")
        if rule.converts and self.painter.mapper.keeps(colour):
            return None
        return self.painter.mapper.colour(
            colour, plain, rule, self.painter.intent(rule, self.state.intent)
        )

    def _over(self, space: ColourSpace, values: tuple[float, ...]) -> bool:
        tac = self.painter.policy.tac
        return self.painter.holds_tac(space) and tac is not None and sum(values) * 100 > tac + 1e-6

    def held(
        self, space: ColourSpace, values: tuple[float, ...], objects: str = "vectors",
        size: float | None = None,
    ) -> tuple[float, ...] | None:  # fmt: skip
        """A colour that is left and over the TAC, brought within it in its own space; else None."""
        if space.label == "Indexed" or not self.painter.holds(space, objects, size):
            return None
        if not self._over(space, values):
            return None
        return self.painter.mapper.held_colour(space.colour, values)

    def use(
        self, paint: Paint, kind: str, box: Box | None, side: str = "fill", at: int | None = None
    ) -> None:
        """List a painted colour, and stop where the policy says so.

        at : where in what is written a colour may still be set for it, None for its end.
        """
        space = paint.space
        objects, size = "vectors", None
        if self.painter.tells_apart:
            objects, size = self.subject(kind, side)
            end = len(self.out)
            paint = fit(self, paint, objects, size, side, end if at is None else at)
        if paint.unset and self.state.unset_used is not None:
            self.state.unset_used.add(side)
        if self.walk.watch is not None:
            self.walk.watch.painted(self, paint, kind, box, side)
        if space.family == "pattern":
            return
        place, rule = self.painter.rule(objects, space, size)
        if rule.stops:
            self.stop(kind, space, place)
        key = (kind, space.key, paint.values, place)
        if self.walk.again(key, box):
            return
        after = self.result(space, paint.values, objects, size)
        held = self.held(space, paint.values, objects, size)
        origin = self.painter.origin(space)
        shown = held or (after if after is not None else paint.values)
        notes = [HELD] if held else self.painter.notes(space, objects, size)
        family = self.painter.mapper.family if after is not None else space.colour.family
        item = Item(
            page=self.walk.page, kind=kind, family=self.painter.ruled_as(space), space=space.label,
            profile=self.painter.profile_name(space), origin=origin, rule=place, action=rule.action,
            values=shown_values(space.colour.family, paint.values), after=shown_values(family, shown),
            outcome=self.painter.outcome(after, space),
            spot=space.colour.names if self.painter.ruled_as(space) == "spot" else (),
            tac=self.painter.total(space.colour.family, paint.values),
            tac_after=self.painter.total(family, shown),
            intent=self.painter.intent(rule, paint.intent), box=box, notes=notes,
        )  # fmt: skip
        self.walk.add(item, key)
        if self.walk.weighs:
            self.walk.differences.note(item, space, paint.values, after)

    def subject(self, kind: str, side: str) -> tuple[str, float | None]:
        """What rules know a painted thing as, and its size in points where it has one."""
        if kind == "text":
            return "text", self.text_points()
        return "vectors", self.line_width() if side == "stroke" else None

    def stop(self, kind: str, space: ColourSpace, number: int) -> None:
        """In a real run the document is refused; a dry run lists it."""
        if not self.walk.apply:
            return
        what = (
            f"spot colour {', '.join(space.colour.names)}"
            if self.painter.ruled_as(space) == "spot"
            else space.ruled_as
        )
        raise PolicyStop(
            say(
                "document.rule-stops-object",
                page=self.walk.page,
                number=number,
                kind=kind,
                what=what,
            )
        )

    # Patterns, shadings, objects

    def _pattern(self, stroke: bool, space: ColourSpace, operands: Any) -> bool:
        return choose_pattern(self, stroke, space, operands)

    def _shading(self, name: str) -> None:
        shadings = self.resources.get("/Shading") if self.resources is not None else None
        if shadings is None or name not in shadings:
            raise BadDocument(say("document.shading-undefined", name=name))
        self._shade(shadings, name)

    def _shade(self, holder: Any, key: str) -> None:
        place_shading(self, holder, key)

    def _object(self, name: str) -> None:
        place_object(self, name)

    def _inline(self, instruction: Any) -> None:
        place_inline(self, instruction)


_ACTS: dict[str, Callable[[ContentWalk, str, Any], bool]] = {
    **dict.fromkeys(SIMPLE, ContentWalk._simple),
    **dict.fromkeys(("cs", "CS"), ContentWalk._select),
    **dict.fromkeys(("sc", "scn", "SC", "SCN"), ContentWalk._components),
    **dict.fromkeys(_FILLING | _STROKING, ContentWalk._painted),
    **dict.fromkeys(_SHOWING, ContentWalk._shown_text),
    **dict.fromkeys(("m", "l"), ContentWalk._line),
    **dict.fromkeys(("c", "v", "y"), ContentWalk._curve),
    **dict.fromkeys(("Td", "TD"), ContentWalk._text_moved),
    **dict.fromkeys(("BDC", "BMC"), ContentWalk._marked_begun),
    "EMC": ContentWalk._marked_ended,
    "q": ContentWalk._saved,
    "Q": ContentWalk._restored,
    "cm": ContentWalk._moved,
    "Do": ContentWalk._done,
    "gs": ContentWalk._general_state,
    "sh": ContentWalk._shaded,
    "ri": ContentWalk._own_intent,
    "re": ContentWalk._rectangle,
    "n": ContentWalk._path_ended,
    "BT": ContentWalk._text_begun,
    "Tm": ContentWalk._text_matrix,
    "Tf": ContentWalk._text_font,
    "w": ContentWalk._width,
    "Tr": ContentWalk._text_mode,
}
