"""Forms and images that a content stream places, inline images among them."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

import pikepdf

from plinto_core.document.pdf.images import inline_as_stream
from plinto_core.document.pdf.layers import names_of
from plinto_core.document.pdf.opening import UNREADABLE
from plinto_core.document.pdf.state import box_of
from plinto_core.document.walking.resources import add_object
from plinto_core.document.walking.using import use
from plinto_core.errors import BadDocument, CoreError
from plinto_core.words import say

if TYPE_CHECKING:
    from plinto_core.document.walking.content import ContentWalk

_UNIT: list[tuple[float, float]] = [(0, 0), (1, 1), (0, 1), (1, 0)]
"""Corners of the square that an image fills."""


def place_object(content: ContentWalk, name: str) -> bool:
    """Walk a form or note an image; a stencil is painted in the present colour. True where a copy was placed
    that is printed as this place asks for."""
    found = content.resource("/XObject", name)
    if found is None:
        raise BadDocument(say("document.object-undefined", name=name))
    painter = content.painter
    outside = painter.layers
    painter.layers = (*outside, *names_of(found.get("/OC")))
    try:
        placed = _placed(content, found)
    finally:
        painter.layers = outside
    if placed.objgen == found.objgen:
        return False
    content.emit([pikepdf.Name(add_object(content.resources, placed, "Copy"))], "Do")
    return True


def _placed(content: ContentWalk, found: Any) -> Any:
    kind = str(found.get("/Subtype", ""))
    if kind == "/Form":
        return content.walk.placed_form(found, content.resources, content.state, content.depth)
    if kind == "/Image":
        placed, _ = content.walk.pictures.seen(found, content.resources, content.state)
        if bool(found.get("/ImageMask", False)):
            use(content, content.state.fill, "vector", box_of(content.state.ctm, _UNIT))
        return placed
    return found


def place_inline(content: ContentWalk, instruction: Any) -> bool:
    """An inline image becomes an image of its own where it must change; True where it did."""
    try:
        image = inline_as_stream(content.walk.pdf, instruction.iimage)
    except (CoreError, *UNREADABLE) as error:
        content.walk.note(
            "inline image", error.said if isinstance(error, CoreError) else say("document.damaged")
        )
        return False
    if bool(image.get("/ImageMask", False)):
        use(content, content.state.fill, "vector", box_of(content.state.ctm, _UNIT))
        return False
    _, changes = content.walk.pictures.seen(image, content.resources, content.state)
    if changes:
        name = add_object(content.resources, image, "Inline")
        content.emit([pikepdf.Name(name)], "Do")
    return changes
