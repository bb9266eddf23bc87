"""Colours set anew for objects that meet another rule than what their colour was written by."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING

from plinto_core.document.pdf.state import Paint
from plinto_core.document.rules.painting import number as decimal
from plinto_core.document.walking.overprint import settle_overprint

if TYPE_CHECKING:
    from plinto_core.document.walking.content import ContentWalk

_OF_DEVICE = {"DeviceGray": "g", "DeviceRGB": "rg", "DeviceCMYK": "k"}


def fit(
    content: ContentWalk, paint: Paint, objects: str, size: float | None, side: str, at: int | None
) -> Paint:
    """The paint of an object, set anew where it meets another rule than what it was written by.

    at : the operator before which the colour may still be set, None for the one at hand.
    """
    if paint is not (content.state.stroke if side == "stroke" else content.state.fill):
        return paint
    if paint.space.family == "pattern":
        return paint
    number, _ = content.painter.rule(objects, paint.space, size)
    # Black that nobody has set is written where the stream begins, as areas are.
    written = content.rule_at_start(paint.space) if paint.unset else paint.ruled
    if number == written:
        return paint
    here = content.place
    content.place = here if at is None else content.ops.start[at]
    paint = set_anew(content, paint, objects, size, number, side == "stroke")
    content.place = here
    return paint


def set_anew(
    content: ContentWalk, paint: Paint, objects: str, size: float | None, number: int, stroke: bool
) -> Paint:
    """Write the present paint as the rule (with its number) for an object has it; returns it as it is then."""
    paint = replace(paint, ruled=number, unset=False, replaced=False, became=None, tone=None)
    content.remember(stroke, paint)
    held = content.held(paint.space, paint.values, objects, size)
    after = content.result(paint.space, paint.values, objects, size)
    if held is not None:
        content.emit_held(paint.space, held, stroke, paint.name)
    elif after is not None:
        content.write(replace(paint, replaced=True, became=after), after, stroke)
    else:
        _emit_own(content, paint, stroke)
        settle_overprint(content, paint, None, stroke)
    return content.state.stroke if stroke else content.state.fill


def _emit_own(content: ContentWalk, paint: Paint, stroke: bool) -> None:
    """A paint's own colour, in its own space."""
    values = [decimal(v) for v in paint.values]
    operator = _OF_DEVICE.get(paint.space.label)
    if paint.name is None and operator is not None:
        content.emit(values, operator.upper() if stroke else operator)
        return
    if paint.name is not None:
        content.emit([paint.name], "CS" if stroke else "cs")
    content.emit(values, "SCN" if stroke else "scn")
