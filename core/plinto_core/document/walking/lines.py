"""Lines as thick as a policy mends them to."""

from __future__ import annotations

from decimal import Decimal
from typing import TYPE_CHECKING, Any

from pikepdf import ContentStreamInstruction, Operator

from plinto_core.document.pdf.state import scale_of

if TYPE_CHECKING:
    from plinto_core.document.walking.content import ContentWalk


def thicken(content: ContentWalk, operator: str = "", operands: Any = ()) -> bool:
    """Write a line width where the one in force would come out too thin; True where one was written.

    operator : what may have changed it and is written first, "" for what was written already.
    """
    least = content.walk.watch.thinnest() if content.walk.watch is not None else None
    state = content.state
    scale = scale_of(state.ctm)
    if least is None or scale <= 0:
        return False
    wide = max(state.width, least / scale)
    if abs(wide - state.written_width) <= 1e-6 * wide:
        return False
    if operator:
        content.out.append(ContentStreamInstruction(operands, Operator(operator)))
    content.emit([Decimal(f"{wide:.5f}")], "w")
    content.state = state.changed(written_width=wide)
    return True
