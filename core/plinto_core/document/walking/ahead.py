"""Plain colours of content streams, converted together before their operators are walked."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

import pikepdf

from plinto_core.document.pdf.bounds import check_colours
from plinto_core.document.pdf.opening import UNREADABLE
from plinto_core.document.pdf.operations import Operations
from plinto_core.document.pdf.spaces import CMYK, GREY, RGB, ColourSpace, read_space
from plinto_core.document.pdf.tree import inherited
from plinto_core.document.rules.painting import Decision, Painter
from plinto_core.document.rules.tones import Tone, Tones, Values
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

Wanted = dict[tuple[str, str], tuple[ColourSpace, Decision, str | None, set[Values]]]


class Colours:
    """Plain device colours of one stream or several, by their space and what becomes of them.

    tones : where those are kept of which all is known; None where rules tell objects apart.
    """

    def __init__(self, painter: Painter, tones: Tones | None = None) -> None:
        self._painter = painter
        self._kept = tones
        self._wanted: Wanted = {}
        self._tones: dict[tuple[str, str], dict[Values, Tone]] = {}

    def add(self, operations: Operations, resources: Any, intent: str | None) -> None:
        """Take in a stream's colours; intent : that is in force where it begins."""
        for operator, plain in SIMPLE.items():
            found = operations.colours(operator, plain.channels)
            if not found:
                continue
            check_colours(len(found))
            space = read_space(pikepdf.Name(f"/{plain.label}"), resources)
            decision = self._painter.decision("vectors", space)
            if not decision.rule.changes or decision.passes or space.label == "Indexed":
                continue
            key = self._key(space, intent)
            self._wanted.setdefault(key, (space, decision, intent, set()))[3].update(found)

    def __len__(self) -> int:
        return sum(len(values) for *_, values in self._wanted.values())

    def convert(self) -> None:
        """Convert them, which together is much faster than singly."""
        for key, (space, decision, intent, values) in self._wanted.items():
            if self._kept is not None:
                self._tones[key] = self._kept.convert(space, decision, intent, values)
            elif len(values) >= _MANY:
                chosen = self._painter.intent(decision.rule, intent)
                self._painter.mapper.prefetch(space.colour, list(values), decision.rule, chosen)

    def tones(self, space: ColourSpace, intent: str | None) -> dict[Values, Tone] | None:
        """What was converted of a space under an intent of the document."""
        return self._tones.get(self._key(space, intent)) if self._tones else None

    def _key(self, space: ColourSpace, intent: str | None) -> tuple[str, str]:
        decision = self._painter.decision("vectors", space)
        return space.key, decision.key(self._painter.intent(decision.rule, intent))


class ReadAhead:
    """Pages read some at a time, forwards or (step -1) backwards, with their colours converted."""

    def __init__(self, walk: DocumentWalk, step: int = 1) -> None:
        self._walk = walk
        self._step = step
        self._held: dict[int, tuple[Operations, Colours]] = {}

    def page(self, number: int) -> tuple[Operations, Colours] | None:
        """A page's operators and colours; None where they cannot be read, or where rules go by the page."""
        if self._walk.painter.goes_by_page:
            return None
        if number not in self._held:
            self._gather(number)
        return self._held.pop(number, None)

    def _gather(self, number: int) -> None:
        self._held.clear()
        pages = self._walk.pdf.pages
        colours = Colours(self._walk.painter, self._walk.tones)
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
            self._held[at] = found, colours
            size += len(found.data)
        try:
            colours.convert()
        except (CoreError, *UNREADABLE):
            return
