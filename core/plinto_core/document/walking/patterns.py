"""Patterns that a content stream paints with."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

import pikepdf

from plinto_core.document.pdf.functions import numbers
from plinto_core.document.pdf.spaces import ColourSpace
from plinto_core.document.pdf.state import Paint, State
from plinto_core.document.rules.painting import number
from plinto_core.document.walking.graphics_state import apply_transfer
from plinto_core.document.walking.resources import add_pattern_space
from plinto_core.document.walking.using import use
from plinto_core.errors import BadDocument
from plinto_core.words import say

if TYPE_CHECKING:
    from plinto_core.document.walking.content import ContentWalk


def _go_through_own(content: ContentWalk, given: Any) -> None:
    """Have rules go by the transfer functions of a pattern's own graphics state, None without one; whoever
    chooses patterns sets them back."""
    if given is None:
        return
    before = content.state
    content.state = before.changed(transfer=content.painter.transfer)
    apply_transfer(content, given)
    content.painter.transfer = content.state.transfer
    content.state = before


def choose_pattern(content: ContentWalk, stroke: bool, space: ColourSpace, operands: Any) -> bool:
    """Make a pattern the present paint; True where its colour was written anew."""
    name = str(operands[-1])
    content.remember(stroke, Paint(space, (), name))
    pattern = content.resource("/Pattern", name)
    if pattern is None:
        raise BadDocument(say("document.pattern-undefined", name=name))
    if int(pattern.get("/PatternType", 0)) == 2:
        _go_through_own(content, pattern.get("/ExtGState"))
        content._shade(pattern, "/Shading")
        return False
    if int(pattern.get("/PaintType", 1)) == 1:
        content.walk.form(pattern, content.resources, State(), content.depth)
        return False
    base = space.base
    values = tuple(numbers(list(operands)[:-1]))
    if base is None or len(values) != base.channels:
        return False
    use(content, Paint(base, values, intent=content.state.intent), "vector", None)
    held = content.held(base, values)
    if held is not None:
        content.emit([*(number(v) for v in held), operands[-1]], "SCN" if stroke else "scn")
        return True
    after = content.result(base, values)
    if after is None:
        return False
    own = add_pattern_space(content.resources, content.walk.target, content.painter.target_name)
    content.emit([pikepdf.Name(own)], "CS" if stroke else "cs")
    decimals, _ = content.painter.setting(after, stroke=stroke)
    content.emit([*decimals, operands[-1]], "SCN" if stroke else "scn")
    return True
