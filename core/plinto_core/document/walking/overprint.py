"""Overprint of rewritten colours: they knock out, or let what is below show, as their own did
(ISO 32000-2, 11.7.4)."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

import pikepdf

from plinto_core.document.pdf.state import Paint, State
from plinto_core.document.rules.painting import SOLID
from plinto_core.document.walking.resources import add_state
from plinto_core.document.walking.watch import is_white

if TYPE_CHECKING:
    from plinto_core.document.walking.setting import Setting


def with_overprint(present: State, given: Any) -> State:
    """The state after a graphics state of the document that says something of overprint."""
    fills, mode = present.overprint
    strokes = present.stroke_overprints
    if "/OP" in given:
        strokes = bool(given["/OP"])
        fills = strokes
    if "/op" in given:
        fills = bool(given["/op"])
    if "/OPM" in given:
        mode = 1 if int(given["/OPM"]) == 1 else 0
    return present.changed(
        overprint=(fills, mode), stroke_overprints=strokes, written=(fills, mode)
    )


def mends_white(content: Setting, paint: Paint) -> bool:
    """Whether a colour is white and the policy has white knock out."""
    watch = content.walk.watch
    return watch is not None and "white overprints" in watch.mended and is_white(paint)


def overprints_black(content: Setting, after: tuple[float, ...], stroke: bool) -> bool:
    """Whether destination values are solid black that the policy has overprint."""
    mapper = content.painter.mapper
    solid = mapper.only_black(after) and after[mapper.black_ink or 0] >= SOLID
    return solid and content.painter.policy.overprint_black and not stroke


def settle_overprint(
    content: Setting, paint: Paint, after: tuple[float, ...] | None, stroke: bool
) -> None:
    """Write a graphics state where a colour, rewritten or left (None), needs another than what stands.

    Under overprint mode 1 an ink of zero leaves what lies below it, but only in DeviceCMYK: white in
    RGB is white. Once it is DeviceCMYK it would vanish, so its mode is 0. 100 K overprints where the
    policy says so.
    """
    state = content.state
    own = wanted = state.overprint
    if not stroke and mends_white(content, paint):
        wanted = own = (False, own[1])
    mapper = content.painter.mapper
    if after is not None and mapper.inks:
        # In DeviceN every ink that is named prints, none too: its mode has nothing to say.
        foreign = paint.space.label != "DeviceCMYK" and mapper.family == "CMYK"
        if overprints_black(content, after, stroke):
            wanted = (True, 1)
        elif foreign and own[1] == 1 and (state.stroke_overprints if stroke else own[0]):
            wanted = (own[0], 0)
    if wanted == state.written:
        return
    content.emit([pikepdf.Name(add_state(content.resources, wanted))], "gs")
    content.state = state.changed(written=wanted)
