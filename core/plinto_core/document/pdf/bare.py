"""Profiles taken off CMYK: every ICC based space of four inks becomes DeviceCMYK, its numbers stay."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

import pikepdf

from plinto_core.document.pdf.opening import UNREADABLE

_DEEPEST = 12


def bare_inks(pdf: pikepdf.Pdf) -> int:
    """Replace them wherever they stand: resources, images, shadings, groups, palettes, alternates of
    spot colours. Returns how many places there were; profiles nothing names are not written."""
    count = 0
    for thing in pdf.objects:
        try:
            count += _within(thing, 0)
        except UNREADABLE:
            continue
    return count


def _within(holder: Any, depth: int) -> int:
    """Replace in a dictionary or array and what it holds directly; indirect objects have their turn."""
    if depth > _DEEPEST:
        return 0
    count = 0
    for key, value in _entries(holder):
        if _is_inks(value):
            holder[key] = pikepdf.Name.DeviceCMYK
            count += 1
        elif isinstance(value, pikepdf.Array | pikepdf.Dictionary) and not value.is_indirect:
            count += _within(value, depth + 1)
    return count


def _entries(holder: Any) -> Iterator[tuple[Any, Any]]:
    if isinstance(holder, pikepdf.Array):
        yield from list(enumerate(holder))
    elif isinstance(holder, pikepdf.Dictionary | pikepdf.Stream):
        yield from list(holder.items())


def _is_inks(value: Any) -> bool:
    if not isinstance(value, pikepdf.Array) or len(value) != 2 or str(value[0]) != "/ICCBased":
        return False
    stream = value[1]
    return isinstance(stream, pikepdf.Stream) and int(stream.get("/N", 0)) == 4
