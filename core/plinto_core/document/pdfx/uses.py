"""What the pages of a document use: fonts, images, graphics states, groups, each once with its pages.

The walk that policies are run by sees colours; this one sees everything else that ISO 15930 speaks of.
What stands among the resources and is never used is not looked at.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import Any

import pikepdf

from plinto_core.document.pdf.bounds import check_size_of_stream
from plinto_core.document.pdf.opening import UNREADABLE
from plinto_core.document.pdf.tree import inherited
from plinto_core.errors import CoreError

_DEEPEST = 14
_FILLS = {"f", "F", "f*", "B", "B*", "b", "b*"}
_STROKES = {"S", "s", "B", "B*", "b", "b*"}
_SHOWS = {"Tj", "TJ", "'", '"'}
_INVISIBLE = (3, 7)
"""Text render modes that leave no mark."""
_DEVICE = {"g": "/DeviceGray", "rg": "/DeviceRGB", "k": "/DeviceCMYK"}


@dataclass
class Used:
    """A thing and the pages that use it. resources : what its names are looked up in."""

    thing: Any
    resources: Any
    pages: dict[int, None] = field(default_factory=dict)


@dataclass(frozen=True)
class _State:
    font: Any = None
    mode: int = 0
    fill: Any = None
    stroke: Any = None
    fills_overprint: bool = False
    strokes_overprint: bool = False
    overprint_mode: int = 0

    def changed(self, **parts: Any) -> _State:
        return _State(**{**self.__dict__, **parts})


class Uses:
    """Everything used, by kind; `damaged` : pages on which something could not be read."""

    def __init__(self, pdf: pikepdf.Pdf) -> None:
        self.fonts: list[Used] = []
        self.images: list[Used] = []
        self.forms: list[Used] = []
        self.states: list[Used] = []
        self.groups: list[Used] = []
        self.overprinting: list[Used] = []
        """spaces that paint with overprint on and overprint mode 1"""
        self.intents: dict[str, dict[int, None]] = {}
        self.damaged: dict[int, None] = {}
        self._known: dict[tuple[str, tuple[int, int]], Used] = {}
        for number, page in enumerate(pdf.pages, 1):
            self._page = number
            self._walked: set[tuple[int, int]] = set()
            resources = inherited(page, "/Resources")
            if "/Group" in page.obj:
                self._use(self.groups, "group", page.obj["/Group"], resources)
            self._content(page, resources, _State(), 0)
            for look in _looks(page.obj):
                self._form(look, resources, _State(), 0)

    def _use(self, kept: list[Used], kind: str, thing: Any, resources: Any) -> bool:
        """Keep a thing for the page at hand; whether it is new."""
        where = (kind, thing.objgen)
        known = self._known.get(where) if thing.is_indirect else None
        if known is not None:
            known.pages.setdefault(self._page)
            return False
        used = Used(thing, resources, {self._page: None})
        kept.append(used)
        if thing.is_indirect:
            self._known[where] = used
        return True

    def _content(self, source: Any, resources: Any, state: _State, depth: int) -> None:
        try:
            check_size_of_stream(source)
            self._run(source, resources, state, depth)
        except (CoreError, *UNREADABLE):
            self.damaged.setdefault(self._page)

    def _run(self, source: Any, resources: Any, state: _State, depth: int) -> None:
        stack: list[_State] = []
        for instruction in pikepdf.parse_content_stream(source):
            if isinstance(instruction, pikepdf.ContentStreamInlineImage):
                self._use(self.images, "image", instruction.iimage.obj, resources)
                continue
            operator, operands = str(instruction.operator), instruction.operands
            if operator == "q":
                stack.append(state)
            elif operator == "Q":
                state = stack.pop() if stack else state
            else:
                try:
                    state = self._act(operator, operands, resources, state, depth)
                except (CoreError, *UNREADABLE):
                    self.damaged.setdefault(self._page)

    def _act(
        self, operator: str, operands: Any, resources: Any, state: _State, depth: int
    ) -> _State:
        if operator == "Tf":
            return state.changed(font=_named(resources, "/Font", operands[0]))
        if operator == "Tr":
            return state.changed(mode=int(operands[0]))
        if operator in _SHOWS:
            self._text(state, resources, depth)
        elif operator == "gs":
            return self._graphics_state(_named(resources, "/ExtGState", operands[0]), resources, state, depth)  # fmt: skip
        elif operator == "ri":
            self.intents.setdefault(str(operands[0]), {}).setdefault(self._page)
        elif operator == "Do":
            self._object(_named(resources, "/XObject", operands[0]), resources, state, depth)
        elif operator.lower() in _DEVICE:
            space = pikepdf.Name(_DEVICE[operator.lower()])
            return state.changed(**{"stroke" if operator.isupper() else "fill": (space, resources)})
        elif operator in ("cs", "CS"):
            return state.changed(
                **{"stroke" if operator == "CS" else "fill": (operands[0], resources)}
            )
        elif operator in ("scn", "SCN") and len(operands) and isinstance(operands[-1], pikepdf.Name):  # fmt: skip
            pattern = _named(resources, "/Pattern", operands[-1])
            if isinstance(pattern, pikepdf.Stream):
                self._form(pattern, resources, _State(), depth)
        elif operator in _FILLS | _STROKES:
            self._paint(operator in _FILLS, operator in _STROKES, state)
        return state

    def _paint(self, fills: bool, strokes: bool, state: _State) -> None:
        if state.overprint_mode != 1:
            return
        for painted, on, paint in (
            (fills, state.fills_overprint, state.fill),
            (strokes, state.strokes_overprint, state.stroke),
        ):
            if painted and on and paint is not None:
                self.overprinting.append(Used(paint[0], paint[1], {self._page: None}))

    def _text(self, state: _State, resources: Any, depth: int) -> None:
        if state.mode in _INVISIBLE:
            return
        self._paint(state.mode % 4 != 1, state.mode % 4 in (1, 2), state)
        font = state.font
        if isinstance(font, pikepdf.Dictionary) and self._use(self.fonts, "font", font, resources):
            for glyph in dict(font.get("/CharProcs", {})).values():
                self._form(glyph, font.get("/Resources", resources), state, depth)

    def _graphics_state(self, given: Any, resources: Any, state: _State, depth: int) -> _State:
        if not isinstance(given, pikepdf.Dictionary):
            return state
        self._use(self.states, "state", given, resources)
        if "/RI" in given:
            self.intents.setdefault(str(given["/RI"]), {}).setdefault(self._page)
        changes: dict[str, Any] = {}
        if "/Font" in given:
            changes["font"] = given["/Font"][0]
        if "/OP" in given:
            changes["strokes_overprint"] = changes["fills_overprint"] = bool(given["/OP"])
        if "/op" in given:
            changes["fills_overprint"] = bool(given["/op"])
        if "/OPM" in given:
            changes["overprint_mode"] = int(given["/OPM"])
        mask = given.get("/SMask")
        if isinstance(mask, pikepdf.Dictionary) and isinstance(mask.get("/G"), pikepdf.Stream):
            self._form(mask["/G"], resources, _State(), depth)
        return state.changed(**changes)

    def _object(self, found: Any, resources: Any, state: _State, depth: int) -> None:
        if not isinstance(found, pikepdf.Stream):
            return
        kind = str(found.get("/Subtype", ""))
        if kind == "/Image":
            self._use(self.images, "image", found, resources)
            mask = found.get("/SMask")
            if isinstance(mask, pikepdf.Stream):
                self._use(self.images, "image", mask, resources)
        elif kind == "/Form":
            self._form(found, resources, state, depth)
        else:
            self._use(self.forms, "form", found, resources)

    def _form(self, form: Any, resources: Any, state: _State, depth: int) -> None:
        # What lies deeper is said by the walk of the colours, which ends at the same depth.
        if not isinstance(form, pikepdf.Stream) or depth > _DEEPEST or form.objgen in self._walked:
            return
        self._walked.add(form.objgen)
        own = form.get("/Resources", resources)
        self._use(self.forms, "form", form, own)
        if "/Group" in form:
            self._use(self.groups, "group", form["/Group"], own)
        self._content(form, own, state, depth + 1)


def _named(resources: Any, kind: str, name: Any) -> Any:
    group = resources.get(kind) if resources is not None else None
    return group.get(str(name)) if group is not None else None


def _looks(page: Any) -> Iterator[Any]:
    """The appearances of a page's annotations."""
    annotations = page.get("/Annots")
    for annotation in annotations if isinstance(annotations, pikepdf.Array) else []:
        shown = annotation.get("/AP") if isinstance(annotation, pikepdf.Dictionary) else None
        look = shown.get("/N") if isinstance(shown, pikepdf.Dictionary) else None
        if isinstance(look, pikepdf.Stream):
            yield look
        elif isinstance(look, pikepdf.Dictionary):
            yield from look.values()
