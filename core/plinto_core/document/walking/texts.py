"""Text that a content stream shows."""

from __future__ import annotations

from typing import TYPE_CHECKING

from plinto_core.document.pdf.state import box_between
from plinto_core.document.walking.using import use

if TYPE_CHECKING:
    from plinto_core.document.walking.content import ContentWalk


def show_text(content: ContentWalk, operator: int) -> None:
    """Note text that is painted by an operator, in a box of about its size."""
    mode = content.state.render_mode
    if mode in (3, 7):
        return
    state, walk = content.state, content.walk
    if walk.watch is not None:
        walk.watch.font(walk.page, state.font)
    x, y, content.text_scale = content.laid.text(operator)
    size = state.text_size * content.text_scale
    length = content.ops.length(operator)
    box = box_between(state.ctm, x, y - 0.2 * size, x + 0.5 * size * max(1, length), y + 0.8 * size)
    if mode in (0, 2, 4, 6):
        use(content, state.fill, "text", box)
    if mode in (1, 2, 5, 6):
        use(content, content.state.stroke, "text", box, "stroke")
