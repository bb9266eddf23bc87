"""What preflight checks see while content is walked: lines, text, overprint, fonts, images."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import TYPE_CHECKING, Any

import pikepdf

from plinto_core.document.pdf.items import Box, Item
from plinto_core.document.pdf.spaces import ColourSpace
from plinto_core.document.pdf.state import Paint
from plinto_core.document.rules.checks import Check, CheckName

if TYPE_CHECKING:
    from plinto_core.document.walking.content import ContentWalk

_MOST_PLACES = 12
"""Boxes kept for a check on a page; all are counted."""
_TRACE = 0.005
"""Share of an ink below which it does not print."""


@dataclass
class Sighting:
    """What a check saw on a page. worst : the value farthest from the limit, None without one."""

    check: CheckName
    page: int
    count: int = 0
    worst: float | None = None
    boxes: list[Box] = field(default_factory=list)
    words: dict[str, None] = field(default_factory=dict)
    """what was seen, by name: fonts"""

    def add(self, count: int, value: float | None, box: Box | None, *, most: bool = False) -> None:
        self.count += count
        if value is not None:
            farther = self.worst is None or (value > self.worst if most else value < self.worst)
            self.worst = value if farther else self.worst
        if box is not None and len(self.boxes) < _MOST_PLACES:
            self.boxes.append(box)


class Watch:
    """Keeps what the checks of a policy that look at content have seen, page by page."""

    def __init__(self, checks: tuple[Check, ...]) -> None:
        self.limits: dict[CheckName, float] = {c.what: c.value for c in checks}
        self.mended: set[CheckName] = {c.what for c in checks if c.severity == "mend"}
        self.seen: dict[tuple[CheckName, int], Sighting] = {}
        lines = {"hairlines", "mixed lines"} & self.limits.keys()
        self.looks = bool(lines or {"mixed text", "white overprints"} & self.limits.keys())
        """whether any check looks at what is painted"""
        self._font: tuple[int, Any] = 0, None
        """the page and font that were looked at last"""
        self._mixed: dict[tuple[str, tuple[float, ...], str | None, int], bool] = {}

    def _at(self, check: CheckName, page: int) -> Sighting:
        return self.seen.setdefault((check, page), Sighting(check, page))

    def thinnest(self) -> float | None:
        """The width in points that hairlines are mended to, None where they are not."""
        return self.limits["hairlines"] if "hairlines" in self.mended else None

    def painted(
        self, content: ContentWalk, paint: Paint, kind: str, box: Box | None, side: str
    ) -> None:
        """Something is painted: a line, an area or a piece of text."""
        page = content.walk.page
        if side == "stroke" and kind == "vector":
            self._line(content, paint, box, page)
        elif kind == "text" and side == "fill":
            self._text(content, paint, box, page)
        if "white overprints" in self.limits:
            state = content.state
            over = state.stroke_overprints if side == "stroke" else state.overprint[0]
            if over and is_white(paint):
                self._at("white overprints", page).add(1, None, box)

    def _line(self, content: ContentWalk, paint: Paint, box: Box | None, page: int) -> None:
        width = content.line_width()
        limit = self.limits.get("hairlines")
        # Widths are written with a few decimals: a line as thick as the limit is no hairline.
        if limit is not None and width < limit * 0.999:
            self._at("hairlines", page).add(1, round(width, 3), box)
        limit = self.limits.get("mixed lines")
        if limit is not None and width < limit and self._is_mixed(content, paint, "vector"):
            self._at("mixed lines", page).add(1, round(width, 3), box)

    def _text(self, content: ContentWalk, paint: Paint, box: Box | None, page: int) -> None:
        limit = self.limits.get("mixed text")
        if limit is None:
            return
        size = content.text_points()
        if size < limit and self._is_mixed(content, paint, "text"):
            self._at("mixed text", page).add(1, round(size, 2), box)

    def _is_mixed(self, content: ContentWalk, paint: Paint, kind: str) -> bool:
        """Whether a colour comes out in more than one ink; RGB and Lab that are left count as mixed."""
        space = paint.space
        if space.family == "pattern":
            return False
        objects, size = content.subject(kind, "fill" if kind == "text" else "stroke")
        number, _ = content.painter.rule(objects, space, size)
        key = (space.key, paint.values, paint.intent, number)
        if key not in self._mixed:
            after = content.result(space, paint.values, objects, size)
            self._mixed[key] = _inks(space, paint.values, after) > 1
        return self._mixed[key]

    def font(self, page: int, font: Any) -> None:
        """Text is shown in a font."""
        if page == self._font[0] and font is self._font[1]:
            return
        self._font = page, font
        if "fonts" not in self.limits or not isinstance(font, pikepdf.Dictionary):
            return
        if not is_embedded(font):
            sighting = self._at("fonts", page)
            sighting.words.setdefault(str(font.get("/BaseFont", "a font")).removeprefix("/"))
            sighting.count = len(sighting.words)

    def item(self, item: Item) -> None:
        """An object is known with its resolution and its total ink."""
        if item.kind == "image" and item.ppi is not None:
            check: CheckName = "coarse line art" if item.bits == 1 else "coarse images"
            if check in self.limits and item.ppi < self.limits[check]:
                self._at(check, item.page).add(item.count, round(item.ppi), item.box)
        total: CheckName = "image total" if item.kind == "image" else "vector total"
        after = item.tac_after if item.tac_after is not None else None
        if total in self.limits and after is not None and after > self.limits[total] + 0.5:
            self._at(total, item.page).add(item.count, after, item.box, most=True)

    def of_page(self, page: int) -> list[Sighting]:
        """What was seen on a page, to be told to another process."""
        return [s for (_, number), s in self.seen.items() if number == page]

    def take(self, seen: list[Sighting]) -> None:
        """What another process has seen."""
        for sighting in seen:
            self.seen[(sighting.check, sighting.page)] = sighting


def is_embedded(font: Any) -> bool:
    """Whether a font's outlines are in the document; glyphs that are drawings always are."""
    if str(font.get("/Subtype", "")) == "/Type3":
        return True
    below = font.get("/DescendantFonts")
    if isinstance(below, pikepdf.Array) and len(below):
        font = below[0]
    described = font.get("/FontDescriptor")
    return isinstance(described, pikepdf.Dictionary) and any(
        isinstance(described.get(key), pikepdf.Stream)
        for key in ("/FontFile", "/FontFile2", "/FontFile3")
    )


def is_white(paint: Paint) -> bool:
    """Whether a colour, as it was set, leaves the paper white."""
    space = paint.space
    if not paint.values or space.label == "Indexed" or space.family == "pattern":
        return False
    if space.family in ("RGB", "grey"):
        return min(paint.values) >= 1.0 - _TRACE
    if space.family == "Lab":
        return paint.values[0] >= 99.5 and max(map(abs, paint.values[1:])) < 1
    return max(paint.values) <= _TRACE


def _inks(space: ColourSpace, values: tuple[float, ...], after: tuple[float, ...] | None) -> int:
    """How many inks a colour comes out in."""
    if after is not None:
        return sum(v > _TRACE for v in after)
    family = space.colour.family
    if space.label == "Indexed" and space.table is not None:
        values = tuple(space.table[min(max(int(values[0]), 0), space.table.shape[0] - 1)])
    if family in ("CMYK", "spot"):
        return sum(v > _TRACE for v in values)
    if family == "grey":
        return 1
    return 0 if is_white(Paint(space, values)) else 3
