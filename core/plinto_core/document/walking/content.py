"""One content stream: colour operators rewritten by the policy, painted objects listed."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from typing import TYPE_CHECKING, Any

import numpy as np
import pikepdf

from plinto_core.document.pdf.functions import numbers
from plinto_core.document.pdf.images import intent_of
from plinto_core.document.pdf.layers import names_of
from plinto_core.document.pdf.opening import UNREADABLE
from plinto_core.document.pdf.operations import (
    FILLING,
    INLINE,
    SHOWING,
    STROKING,
    WORDS,
    Laid,
    Operations,
)
from plinto_core.document.pdf.spaces import ColourSpace, default_of, read_space
from plinto_core.document.pdf.state import KNOCKS_OUT, Paint, State, paint_of
from plinto_core.document.rules.tones import Tone, Values
from plinto_core.document.walking.ahead import SIMPLE, Colours
from plinto_core.document.walking.fitting import set_anew
from plinto_core.document.walking.graphics_state import apply_graphics_state
from plinto_core.document.walking.lines import thicken
from plinto_core.document.walking.objects import place_inline, place_object
from plinto_core.document.walking.overprint import mends_white, settle_overprint
from plinto_core.document.walking.patterns import choose_pattern
from plinto_core.document.walking.resources import add_default_space
from plinto_core.document.walking.setting import Setting
from plinto_core.document.walking.shaded import place_shading
from plinto_core.document.walking.texts import show_text
from plinto_core.document.walking.using import TOO_FEW, use
from plinto_core.errors import BadDocument, BadRecipe, CoreError, PolicyStop
from plinto_core.words import say

if TYPE_CHECKING:
    from plinto_core.document.walking.walk import DocumentWalk

GREY_BLACK = Paint()
"""What every page begins with (ISO 32000-2, 8.4.1)."""


_MOST_CHOSEN = 1000
"""Choices of a font that are kept for the next time they are met."""
_Device = tuple[bool, ColourSpace, Any, dict[Values, Tone] | None]
"""Of an operator that sets a device's colours: whether of lines, their space, what gives it its meaning
in vain, and what is known of its colours."""


class ContentWalk(Setting):
    """Runs over a stream's operators. The result is None where nothing was changed."""

    def __init__(self, walk: DocumentWalk, resources: Any, state: State, depth: int = 0) -> None:
        self._begins = state.unset_used is None
        """whether this stream begins with black of its own, as pages and patterns do and forms do not"""
        if self._begins:
            state = state.changed(unset_used=set())
        super().__init__(walk, resources, state)
        self.depth = depth
        self._layers = self.painter.layers
        """that the stream as a whole lies on"""
        self._transfer = state.transfer
        """that the stream begins under"""
        self._marked: list[tuple[str, ...]] = []
        """the layers outside each marked content that is open"""
        self._device: dict[tuple[int, str | None], _Device] = {}
        """of operators that set a device's colours, by the intent that is in force"""
        self._fonts: dict[str, Any] = {}
        self._chosen: dict[bytes, tuple[str, float]] = {}
        """fonts and sizes by the operators that choose them, as they stand in the stream"""

    def run(self, source: Any, ahead: tuple[Operations, Colours] | None = None) -> bytes | None:
        """Walk a page, form or glyph; new bytes where its colours were rewritten.

        ahead : of a page that was read ahead its operators and colours.
        """
        outside, self.painter.transfer = self.painter.transfer, self.state.transfer
        try:
            return self._run(*(ahead if ahead is not None else self._read(source)))
        finally:
            self.painter.layers = self._layers
            self.painter.transfer = outside

    def _read(self, source: Any) -> tuple[Operations, Colours]:
        operations = Operations.read(source)
        colours = Colours(self.painter, self.walk.tones)
        colours.add(operations, self.resources, self.state.intent)
        with suppress(CoreError, *UNREADABLE):
            # What goes wrong is spoken of where the colour stands.
            colours.convert()
        return operations, colours

    def _run(self, ops: Operations, colours: Colours) -> bytes | None:
        self.ops, self._colours = ops, colours
        self.walk.count(len(ops))
        self.laid = Laid(ops, self.state.ctm)
        self._thicken()
        codes, starts = ops.code, ops.start
        for i in _some_at_a_time(np.flatnonzero(_ACTING[ops.codes] | self.laid.odd)):
            self.place = starts[i]
            if self._acts(i, _BY_CODE[codes[i]]):
                self.edits.remove(starts[i], ops.end[i])
        self.painter.layers, self.painter.transfer = self._layers, self._transfer
        if self._begins:
            self._begin_in_black()
        if self.edits and not ops.whole:
            raise BadDocument(say("document.damaged"))
        return self.edits.made(ops.data) if self.edits else None

    def _acts(self, i: int, act: Callable[[ContentWalk, int], bool] | None) -> bool:
        """Follow an operator; True where others were written in its place."""
        try:
            if act is not None:
                return act(self, i)
        except (PolicyStop, BadRecipe):
            raise
        except (CoreError, *UNREADABLE) as error:
            if act is ContentWalk._inlined:
                raise
            if isinstance(error, CoreError):
                self.walk.note("vector", error.said)
                return False
        # As viewers do: what makes no sense is passed over, and said.
        self.walk.note("vector", say("document.operands", operator=self.ops.word(i)))
        return False

    def _begin_in_black(self) -> None:
        """Set the black that something was painted in before any was set, where it becomes another."""
        used = self.state.unset_used or set()
        first: list[bytes] = []
        for side in sorted(used):
            after = self.result(GREY_BLACK.space, GREY_BLACK.values)
            if after is not None:
                first.append(self._written(after, stroke=side == "stroke"))
        if first:
            self.edits.first(b"\n".join(first))

    @contextmanager
    def as_begun(self) -> Iterator[None]:
        """Have rules go by the transfer functions that the stream begins under."""
        now, self.painter.transfer = self.painter.transfer, self._transfer
        try:
            yield
        finally:
            self.painter.transfer = now

    def rule_at_start(self, space: ColourSpace) -> int:
        """The number of the rule for areas where the stream begins, on no layer of its own."""
        painter = self.painter
        now = painter.layers, painter.transfer
        painter.layers, painter.transfer = self._layers, self._transfer
        try:
            return painter.rule("vectors", space)[0]
        finally:
            painter.layers, painter.transfer = now

    # Operators; each returns True where it was replaced

    def _marked_begun(self, i: int) -> bool:
        self._marked.append(self.painter.layers)
        if self.painter.tells_apart and self.ops.word(i) == "BDC":
            operands = self.ops.operands(i)
            if str(operands[0]) == "/OC":
                given = self.resource("/Properties", str(operands[1]))
                self.painter.layers = (*self.painter.layers, *names_of(given))
        return False

    def _marked_ended(self, i: int) -> bool:
        if self._marked:
            self.painter.layers = self._marked.pop()
        return False

    def _done(self, i: int) -> bool:
        return self._object(str(self.ops.operands(i)[0]))

    def _general_state(self, i: int) -> bool:
        before = self.state.overprint, self.state.stroke_overprints, self.state.width
        given = self.resource("/ExtGState", str(self.ops.operands(i)[0]))
        if given is not None:
            apply_graphics_state(self, given)
            self._through_transfer(i)
        if before == (self.state.overprint, self.state.stroke_overprints, self.state.width):
            return False
        self.place = self.ops.end[i]
        # The colours at hand were set before: what they were rewritten to has to fit the new state.
        for stroke, paint in ((True, self.state.stroke), (False, self.state.fill)):
            if paint.replaced:
                after = self.result(paint.space, paint.values)
                settle_overprint(self, paint, after, stroke)
            elif mends_white(self, paint):
                settle_overprint(self, paint, None, stroke)
        self._thicken()
        return False

    def _through_transfer(self, i: int) -> None:
        """Have what is painted after a graphics state go through its transfer functions: they hold for what
        is painted, so the colours at hand, which were set before, are set anew."""
        if not self._follow_transfer():
            return
        self.place = self.ops.end[i]
        for stroke, paint in ((True, self.state.stroke), (False, self.state.fill)):
            # A pattern's cell is painted as it would be where the stream begins (8.7.3.1).
            if paint.space.family != "pattern" and len(paint.values) == paint.space.channels:
                number = self.painter.rule("vectors", paint.space)[0]
                set_anew(self, paint, "vectors", None, number, stroke)

    def _follow_transfer(self) -> bool:
        """Make the transfer functions of the state at hand those that rules go by; whether they are others."""
        if self.painter.transfer == self.state.transfer:
            return False
        self.painter.transfer = self.state.transfer
        self._device.clear()
        return True

    def _restored(self, i: int) -> bool:
        if self._stack:
            self.state = self._stack.pop()
            if self.state.transfer is not self.painter.transfer:
                self._follow_transfer()
        return False

    def _shaded(self, i: int) -> bool:
        self._shading(str(self.ops.operands(i)[0]))
        return False

    def _own_intent(self, i: int) -> bool:
        self.state = self.state.changed(intent=intent_of(self.ops.operands(i)[0]))
        return False

    def _filled(self, i: int) -> bool:
        use(self, self.state.fill, "vector", self.laid.box(i), at=i)
        return False

    def _stroked(self, i: int) -> bool:
        use(self, self.state.stroke, "vector", self.laid.box(i), "stroke", at=i)
        return False

    def _filled_and_stroked(self, i: int) -> bool:
        self._filled(i)
        return self._stroked(i)

    def _width(self, i: int) -> bool:
        width = abs(float(self.ops.operands(i)[0]))
        self.state = self.state.changed(width=width, written_width=width)
        self.place = self.ops.end[i]
        self._thicken()
        return False

    def _moved(self, i: int) -> bool:
        self._concatenated(i)
        self.place = self.ops.end[i]
        self._thicken()
        return False

    def _thicken(self) -> None:
        thicken(self)

    def _text_font(self, i: int) -> bool:
        given = self.ops.data[self.ops.start[i] : self.ops.end[i]]
        known = self._chosen.get(given)
        if known is None:
            if len(self._chosen) > _MOST_CHOSEN:
                self._chosen.clear()
            name, size = self.ops.operands(i)[:2]
            known = self._chosen[given] = str(name), float(size)
        self._font(*known)
        return False

    def _shown_text(self, i: int) -> bool:
        show_text(self, i)
        return False

    def _font(self, name: str, size: float) -> None:
        if name in self._fonts:
            font, size = self._fonts[name], abs(size) or 1.0
            if font is not self.state.font or size != self.state.text_size:
                self.state = self.state.changed(text_size=size, font=font)
            return
        font = self._fonts[name] = self.resource("/Font", name)
        self.state = self.state.changed(text_size=abs(size) or 1.0, font=font)
        if font is None:
            return
        self.walk.fonts.add(str(font.get("/BaseFont", font.get("/Name", name))).removeprefix("/"))
        if str(font.get("/Subtype", "")) != "/Type3":
            return
        own = font.get("/Resources", self.resources)
        for _, glyph in font.get("/CharProcs", {}).items():
            begun = State(ctm=self.state.ctm, transfer=self.state.transfer)
            self.walk.form(glyph, own, begun, self.depth)

    def resource(self, kind: str, name: str) -> Any:
        """A resource of a kind ("/XObject", …) by its name, None where there is none."""
        group = self.resources.get(kind) if self.resources is not None else None
        return group.get(name) if group is not None else None

    # Colours

    def _simple(self, i: int) -> bool:
        ops, state = self.ops, self.state
        key = ops.code[i], state.intent
        known = self._device.get(key)
        if known is None:
            known = self._device[key] = self._space_of(ops.word(i))
        stroke, space, given, tones = known
        values = self._values(i)
        tone = tones.get(values) if tones is not None else None
        if tone is not None:
            knocks_out = state.overprint == state.written == KNOCKS_OUT
            if knocks_out and (stroke or not tone.overprints):
                # Nothing but the colour is to be written.
                if stroke:
                    self.edits.replace(ops.start[i], ops.end[i], tone.stroke)
                    self.state = state.changed(stroke=tone.paint(values))
                else:
                    self.edits.replace(ops.start[i], ops.end[i], tone.fill)
                    self.state = state.changed(fill=tone.paint(values))
                return False
            self.write(tone.paint(values), tone.became, stroke)
            return True
        if len(values) != space.channels:
            # It stays, and is the present colour all the same.
            self.remember(stroke, paint_of(space, values, state.intent, None, 0, None))
            raise ValueError(TOO_FEW)
        if given is None:
            return self.set_colour(stroke, space, values)
        family = SIMPLE[ops.word(i)].family
        name = pikepdf.Name(add_default_space(self.resources, family, given))
        if not self.set_colour(stroke, space, values, name, selects=True):
            # Its numbers stay, and with them what they mean: the default space goes.
            self.emit([name], "CS" if stroke else "cs")
            self.put(ops.raw(i) + (b"SCN" if stroke else b"scn"))
        return True

    def _space_of(self, operator: str) -> _Device:
        space = read_space(pikepdf.Name(f"/{SIMPLE[operator].label}"), self.resources)
        given = self._lost_default(operator)
        tones = self._colours.tones(space, self.state.intent) if given is None else None
        return operator.isupper(), space, given, tones

    def _values(self, i: int) -> tuple[float, ...]:
        """An operator's operands as numbers; raises BadDocument where they are none."""
        plain = self.ops.plain(i)
        return plain if plain is not None else tuple(numbers(self.ops.operands(i)))

    def _lost_default(self, operator: str) -> Any:
        """The default space that an operator's colours are in and that the result will not have."""
        plain = SIMPLE[operator]
        if plain.family not in self.painter.lost_defaults:
            return None
        return default_of(pikepdf.Name(f"/{plain.label}"), self.resources)

    def _select(self, i: int) -> bool:
        stroke = self.ops.word(i) == "CS"
        operands = self.ops.operands(i)
        space = read_space(operands[0], self.resources)
        if space.family == "pattern":
            self.remember(stroke, Paint(space, (), name=operands[0]))
            return False
        initial = tuple(space.colour.initial() if space.label != "Indexed" else [0.0])
        return self.set_colour(stroke, space, initial, operands[0], selects=True)

    def _components(self, i: int) -> bool:
        stroke = self.ops.word(i).isupper()
        operands = self.ops.operands(i)
        paint = self.state.stroke if stroke else self.state.fill
        if len(operands) and isinstance(operands[-1], pikepdf.Name):
            return self._pattern(stroke, paint.space, operands)
        if paint.space.family == "pattern":
            raise BadDocument(say("document.pattern-unnamed"))
        values = tuple(numbers(operands))
        if len(values) != paint.space.channels:
            raise BadDocument(say("document.colour-values"))
        if self.set_colour(stroke, paint.space, values, paint.name, selects=paint.replaced):
            return True
        if paint.replaced and paint.name is not None:
            # What was written before selected another space: these values mean their own again.
            self.emit([paint.name], "CS" if stroke else "cs")
        return False

    # Patterns, shadings, objects

    def _pattern(self, stroke: bool, space: ColourSpace, operands: Any) -> bool:
        with self.as_begun():
            return choose_pattern(self, stroke, space, operands)

    def _shading(self, name: str) -> None:
        shadings = self.resources.get("/Shading") if self.resources is not None else None
        if shadings is None or name not in shadings:
            raise BadDocument(say("document.shading-undefined", name=name))
        self._shade(shadings, name)

    def _shade(self, holder: Any, key: str) -> None:
        place_shading(self, holder, key)

    def _object(self, name: str) -> bool:
        return place_object(self, name)

    def _inlined(self, i: int) -> bool:
        return self._inline(self.ops.object(i))

    def _inline(self, instruction: Any) -> bool:
        return place_inline(self, instruction)


def _some_at_a_time(rows: np.ndarray) -> Iterator[int]:
    """Plain numbers of an array, which as a whole list would take many times its room."""
    for at in range(0, len(rows), 1 << 16):
        yield from rows[at : at + (1 << 16)].tolist()


_ACTS: dict[str, Callable[[ContentWalk, int], bool]] = {
    **dict.fromkeys(SIMPLE, ContentWalk._simple),
    **dict.fromkeys(("cs", "CS"), ContentWalk._select),
    **dict.fromkeys(("sc", "scn", "SC", "SCN"), ContentWalk._components),
    **dict.fromkeys(FILLING, ContentWalk._filled),
    **dict.fromkeys(STROKING, ContentWalk._stroked),
    **dict.fromkeys(set(FILLING) & set(STROKING), ContentWalk._filled_and_stroked),
    **dict.fromkeys(SHOWING, ContentWalk._shown_text),
    **dict.fromkeys(("BDC", "BMC"), ContentWalk._marked_begun),
    "EMC": ContentWalk._marked_ended,
    "q": ContentWalk._saved,
    "Q": ContentWalk._restored,
    "cm": ContentWalk._moved,
    "Do": ContentWalk._done,
    "gs": ContentWalk._general_state,
    "sh": ContentWalk._shaded,
    "ri": ContentWalk._own_intent,
    "Tf": ContentWalk._text_font,
    "w": ContentWalk._width,
    "Tr": ContentWalk._text_mode,
    INLINE: ContentWalk._inlined,
}
_BY_CODE = [_ACTS.get(word) for word in WORDS]
_ACTING = np.array([word in _ACTS for word in WORDS], np.uint8)
