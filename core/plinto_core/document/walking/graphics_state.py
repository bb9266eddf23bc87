"""What a graphics state of the document (ExtGState) changes, and what is noted of it."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

import pikepdf

from plinto_core.document.pdf.images import intent_of
from plinto_core.document.pdf.opening import UNREADABLE
from plinto_core.document.pdf.transfer import has_transfer
from plinto_core.document.walking.overprint import with_overprint
from plinto_core.errors import CoreError
from plinto_core.words import say

if TYPE_CHECKING:
    from plinto_core.document.walking.content import ContentWalk


def apply_graphics_state(content: ContentWalk, given: Any) -> None:
    """Make a graphics state of the document the one at hand."""
    walk = content.walk
    if "/RI" in given:
        content.state = content.state.changed(intent=intent_of(given["/RI"]))
    if "/LW" in given:
        width = abs(float(given["/LW"]))
        content.state = content.state.changed(width=width, written_width=width)
    chosen = given.get("/Font")
    if isinstance(chosen, pikepdf.Array) and len(chosen) == 2:
        content.state = content.state.changed(font=chosen[0], text_size=abs(float(chosen[1])))
    apply_transfer(content, given)
    if {"/OP", "/op", "/OPM"} & set(given.keys()):
        content.state = with_overprint(content.state, given)
    if "/SMask" in given and isinstance(given["/SMask"], pikepdf.Dictionary):
        walk.see_through(say("document.soft-mask"))
    if (
        float(given.get("/ca", 1)) < 1
        or float(given.get("/CA", 1)) < 1
        or str(given.get("/BM", "/Normal")) not in ("/Normal", "/Compatible")
    ):
        walk.see_through(say("document.see-through"))


def apply_transfer(content: ContentWalk, given: Any) -> None:
    """Have colours go through a graphics state's transfer functions from here on, or say that they are left."""
    policy = content.painter.policy
    if policy.transfer == "keep" and has_transfer(given):
        content.walk.note("transfer function", say("document.transfer-left"))
    if policy.transfer != "apply":
        return
    try:
        transfer = content.walk.transfers.after(given, content.state.transfer)
    except (CoreError, *UNREADABLE) as error:
        reason = error.said if isinstance(error, CoreError) else say("document.damaged")
        content.walk.note("transfer function", reason)
        return
    content.state = content.state.changed(transfer=transfer)
