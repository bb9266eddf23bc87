"""Plain colours of a content stream, converted together before its operators are walked."""

from __future__ import annotations

from contextlib import suppress
from typing import TYPE_CHECKING, Any

import pikepdf

from plinto_core.document.pdf.functions import numbers
from plinto_core.document.pdf.spaces import CMYK, GREY, RGB, read_space
from plinto_core.errors import BadDocument

if TYPE_CHECKING:
    from plinto_core.document.walking.content import ContentWalk


SIMPLE = {"g": GREY, "G": GREY, "rg": RGB, "RG": RGB, "k": CMYK, "K": CMYK}
"""Operators that set a colour of a device space, and the space."""
_MANY = 4


def convert_ahead(content: ContentWalk, instructions: Any, words: list[str]) -> None:
    """Convert the stream's plain device colours together, which is much faster than singly."""
    wanted: dict[str, set[tuple[float, ...]]] = {}
    for instruction, operator in zip(instructions, words, strict=True):
        if operator in SIMPLE and len(instruction.operands) == SIMPLE[operator].channels:
            # Operands that are no numbers are spoken of when their operator's turn comes.
            with suppress(BadDocument):
                values = tuple(numbers(instruction.operands))
                wanted.setdefault(operator.lower(), set()).add(values)
    for operator, found in wanted.items():
        space = read_space(pikepdf.Name(f"/{SIMPLE[operator].label}"), content.resources)
        _, rule = content.painter.rule("vectors", space)
        if len(found) < _MANY or not rule.changes:
            continue
        intent = content.painter.intent(rule, content.state.intent)
        content.painter.mapper.prefetch(space.colour, list(found), rule, intent)
