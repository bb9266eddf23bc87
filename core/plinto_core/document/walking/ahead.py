"""Plain colours of content streams, converted together before their operators are walked."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

import pikepdf

from plinto_core.document.pdf.opening import UNREADABLE
from plinto_core.document.pdf.operations import Operations
from plinto_core.document.pdf.spaces import CMYK, GREY, RGB, ColourSpace, read_space
from plinto_core.document.pdf.tree import inherited
from plinto_core.document.rules.painting import Painter
from plinto_core.document.rules.policy import Rule
from plinto_core.errors import CoreError

if TYPE_CHECKING:
    from plinto_core.document.walking.walk import DocumentWalk


SIMPLE = {"g": GREY, "G": GREY, "rg": RGB, "RG": RGB, "k": CMYK, "K": CMYK}
"""Operators that set a colour of a device space, and the space."""
_MANY = 4
_PAGES = 24
"""Pages that are read together: more gain nothing, since each conversion then costs more than the call."""
_MOST = 4 << 20
"""Bytes of content from which no further page is read."""
_MOST_COLOURS = 8_000
"""Colours from which none is, so that what was converted is kept until it is asked for."""

Wanted = dict[tuple[str, str], tuple[ColourSpace, Rule, str, set[tuple[float, ...]]]]


class Colours:
    """Plain device colours of one stream or several, by their space and what becomes of them."""

    def __init__(self, painter: Painter) -> None:
        self._painter = painter
        self._wanted: Wanted = {}

    def add(self, operations: Operations, resources: Any, intent: str | None) -> None:
        """Take in a stream's colours; intent : that is in force where it begins."""
        for operator, plain in SIMPLE.items():
            found = operations.colours(operator, plain.channels)
            if not found:
                continue
            space = read_space(pikepdf.Name(f"/{plain.label}"), resources)
            decision = self._painter.decision("vectors", space)
            if not decision.rule.changes:
                continue
            chosen = self._painter.intent(decision.rule, intent)
            key = space.key, decision.key(chosen)
            self._wanted.setdefault(key, (space, decision.rule, chosen, set()))[3].update(found)

    def __len__(self) -> int:
        return sum(len(values) for *_, values in self._wanted.values())

    def convert(self) -> None:
        """Convert them, which together is much faster than singly."""
        for space, rule, intent, values in self._wanted.values():
            if len(values) >= _MANY:
                self._painter.mapper.prefetch(space.colour, list(values), rule, intent)


class ReadAhead:
    """Pages read some at a time, forwards or (step -1) backwards, with their colours converted."""

    def __init__(self, walk: DocumentWalk, step: int = 1) -> None:
        self._walk = walk
        self._step = step
        self._held: dict[int, Operations] = {}

    def page(self, number: int) -> Operations | None:
        """A page's operators; None where they cannot be read, or where rules go by the page."""
        if self._walk.painter.goes_by_page:
            return None
        if number not in self._held:
            self._gather(number)
        return self._held.pop(number, None)

    def _gather(self, number: int) -> None:
        self._held.clear()
        pages = self._walk.pdf.pages
        colours = Colours(self._walk.painter)
        size = 0
        for at in range(number, number + self._step * _PAGES, self._step):
            if not 1 <= at <= len(pages) or size > _MOST or len(colours) > _MOST_COLOURS:
                break
            page = pages[at - 1]
            try:
                found = Operations.read(page)
                colours.add(found, inherited(page, "/Resources"), None)
            except (CoreError, *UNREADABLE):
                # Spoken of when the page's own turn comes.
                continue
            self._held[at] = found
            size += len(found.data)
        try:
            colours.convert()
        except (CoreError, *UNREADABLE):
            return
