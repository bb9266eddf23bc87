"""Changes to a content stream: what is put in and taken out; all else stays to the byte."""

from __future__ import annotations

from typing import Any

import pikepdf
from pikepdf import ContentStreamInstruction, Operator

_WHITE = b"\0\t\n\f\r "


def operation(operands: list[Any], operator: str) -> bytes:
    """An operator with its operands, as a content stream has them."""
    return pikepdf.unparse_content_stream([ContentStreamInstruction(operands, Operator(operator))])


class Edits:
    """Pieces put in at places of a stream, and stretches taken out of it, in any order."""

    def __init__(self) -> None:
        self._pieces: list[tuple[int, int, bytes]] = []

    def __bool__(self) -> bool:
        return bool(self._pieces)

    def insert(self, at: int, piece: bytes) -> None:
        """Put in operators before the byte at `at`, behind what was put in there before."""
        self._pieces.append((at, at, piece))

    def first(self, piece: bytes) -> None:
        """Put in operators before all others."""
        self._pieces.insert(0, (0, 0, piece))

    def replace(self, start: int, end: int, piece: bytes) -> None:
        """Take out the bytes from start to end, and put in operators in their place."""
        self._pieces.append((start, end, piece))

    def remove(self, start: int, end: int) -> None:
        """Take out the bytes from start to end."""
        self._pieces.append((start, end, b""))

    def made(self, data: bytes) -> bytes:
        """The stream with all of it done."""
        # Python sorts stably: what was put in at one place stays in its order.
        out: list[bytes] = []
        at = 0
        for start, end, piece in sorted(self._pieces, key=lambda p: p[0]):
            kept = data[at:start]
            out.append(kept)
            if piece:
                if kept and kept[-1] not in _WHITE:
                    out.append(b"\n")
                out += [piece, b"\n"]
            at = max(at, end)
        out.append(data[at:])
        return b"".join(out)
