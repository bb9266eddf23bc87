"""Forms and images that a content stream places, inline images among them."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

import pikepdf

from plinto_core.document.pdf.images import inline_as_stream
from plinto_core.document.pdf.layers import names_of
from plinto_core.document.pdf.opening import UNREADABLE
from plinto_core.document.pdf.state import box_of
from plinto_core.document.walking.resources import add_image
from plinto_core.errors import BadDocument, CoreError
from plinto_core.words import say

if TYPE_CHECKING:
    from plinto_core.document.walking.content import ContentWalk

_UNIT: list[tuple[float, float]] = [(0, 0), (1, 1), (0, 1), (1, 0)]
"""Corners of the square that an image fills."""


def place_object(content: ContentWalk, name: str) -> None:
    """Walk a form or note an image; a stencil is painted in the present colour."""
    found = content.resource("/XObject", name)
    if found is None:
        raise BadDocument(say("document.object-undefined", name=name))
    painter = content.painter
    outside = painter.layers
    painter.layers = (*outside, *names_of(found.get("/OC")))
    try:
        _placed(content, found)
    finally:
        painter.layers = outside


def _placed(content: ContentWalk, found: Any) -> None:
    kind = str(found.get("/Subtype", ""))
    if kind == "/Form":
        content.walk.form(found, content.resources, content.state, content.depth)
    elif kind == "/Image":
        content.walk.pictures.seen(found, content.resources, content.state)
        if bool(found.get("/ImageMask", False)):
            content.use(content.state.fill, "vector", box_of(content.state.ctm, _UNIT))


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
        content.use(content.state.fill, "vector", box_of(content.state.ctm, _UNIT))
        return False
    changes = content.walk.pictures.seen(image, content.resources, content.state, inline=True)
    if changes:
        name = add_image(content.resources, image)
        content.emit([pikepdf.Name(name)], "Do")
    return changes
