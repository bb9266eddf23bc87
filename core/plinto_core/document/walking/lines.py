"""Lines as thick as a policy mends them to."""

from __future__ import annotations

from decimal import Decimal
from typing import TYPE_CHECKING

from plinto_core.document.pdf.state import scale_of

if TYPE_CHECKING:
    from plinto_core.document.walking.content import ContentWalk


def thicken(content: ContentWalk) -> None:
    """Write a line width where the one in force would come out too thin."""
    least = content.walk.watch.thinnest() if content.walk.watch is not None else None
    state = content.state
    scale = scale_of(state.ctm)
    if least is None or scale <= 0:
        return
    wide = max(state.width, least / scale)
    if abs(wide - state.written_width) <= 1e-6 * wide:
        return
    content.emit([Decimal(f"{wide:.5f}")], "w")
    content.state = state.changed(written_width=wide)
