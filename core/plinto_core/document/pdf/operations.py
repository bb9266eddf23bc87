"""A content stream as its operators: where each stands, its operands, and where what it paints lies."""

from __future__ import annotations

from decimal import Decimal
from math import isfinite
from typing import Any

import numpy as np
import pikepdf

from plinto_core.document.pdf.bounds import check_size_of_stream
from plinto_core.document.pdf.items import Box
from plinto_core.document.pdf.opening import UNREADABLE
from plinto_core.document.pdf.state import Matrix
from plinto_core.kernels import content as kernel

INLINE = "INLINE IMAGE"
"""As no operator is called, since it has a blank."""
FILLING = ("f", "F", "f*", "B", "B*", "b", "b*")
STROKING = ("S", "s", "B", "B*", "b", "b*")
SHOWING = ("Tj", "TJ", "'", '"')
_PLACES = {
    "q": kernel.SAVES, "Q": kernel.RESTORES, "cm": kernel.MOVES, "re": kernel.RECTANGLES,
    **dict.fromkeys(("m", "l"), kernel.LINES), **dict.fromkeys(("c", "v", "y"), kernel.CURVES),
    "BT": kernel.TEXT_BEGINS, "Tm": kernel.TEXT_TURNS,
    **dict.fromkeys(("Td", "TD"), kernel.TEXT_MOVES), **dict.fromkeys(SHOWING, kernel.SHOWS),
    **dict.fromkeys((*FILLING, *STROKING), kernel.PAINTS), "n": kernel.ENDS,
}  # fmt: skip
WORDS = (
    "", INLINE, "BI", *_PLACES, "h", "W", "W*", "w", "J", "j", "M", "d", "ri", "i", "gs", "Do", "sh",
    "g", "G", "rg", "RG", "k", "K", "cs", "CS", "sc", "SC", "scn", "SCN", "ET", "Tc", "Tw", "Tz", "TL",
    "Tf", "Tr", "Ts", "T*", "d0", "d1", "ID", "EI", "MP", "DP", "BMC", "BDC", "EMC", "BX", "EX",
)  # fmt: skip
"""Of the codes: "" is any operator that is not known (ISO 32000-2, annex A)."""
CODES = {word: code for code, word in enumerate(WORDS)}
_ACTS = np.array([_PLACES.get(word, kernel.NO_PLACE) for word in WORDS], np.int32)
_MOST_KEPT = 4000
"""Operands that are kept for the next time they are met."""


def _kinds() -> np.ndarray:
    kinds = np.zeros(256, np.uint8)
    kinds[list(b"\0\t\n\f\r ")] = kernel.WHITE
    kinds[list(b"()<>[]{}/%")] = kernel.DELIMITER
    return kinds


def _table() -> tuple[np.ndarray, np.ndarray]:
    """Operators by the place that their hash gives them: sizes are tried until no two share one."""
    keys = {int.from_bytes(w.encode(), "little"): c for w, c in CODES.items() if 0 < len(w) <= 3}
    for size in range(128, 8192):
        places = [int(kernel.hash_of.py_func(key, size)) for key in keys]
        if len(set(places)) == len(places):
            break
    held, codes = np.full(size, -1, np.int64), np.zeros(size, np.int32)
    held[places] = list(keys)
    codes[places] = list(keys.values())
    return held, codes


_KINDS = _kinds()
_KEYS, _CODES_OF = _table()


class Operations:
    """The operators of a stream, in their order, with the bytes that they stand in.

    What is in its plain form is cut by our own kernel; all else, and inline images, by the PDF
    library's parser, which mends what can be mended: `data` is then what it makes of the stream.
    """

    def __init__(
        self, data: bytes, tokens: tuple[Any, ...], objects: list[Any] | None = None
    ) -> None:
        self.data = data
        self._objects = objects
        self.whole = True
        """whether all of the stream could be written again; damaged inline images cannot"""
        codes, starts, ends, first, counts, last, shown, numbers = tokens
        self.codes: np.ndarray = codes
        self.first, self.counts, self.numbers = first, counts, numbers
        self.code, self.start, self.end = _singly(codes), _singly(starts), _singly(ends)
        self._first, self._count = _singly(first), _singly(counts)
        self._last, self._shown = _singly(last), _singly(shown)
        self._numbers = _singly(numbers)
        self._known: dict[bytes, list[Any]] = {}

    def __len__(self) -> int:
        return int(self.codes.size)

    @classmethod
    def read(cls, source: Any) -> Operations:
        """Of a page, form, pattern or glyph; raises what is UNREADABLE, or BadDocument for too much."""
        check_size_of_stream(source)
        try:
            data = _bytes_of(source)
        except UNREADABLE:
            data = None
        found = cls.of_bytes(data) if data is not None else None
        if found is not None:
            return found
        return cls.of_instructions(pikepdf.parse_content_stream(source))

    @classmethod
    def of_bytes(cls, data: bytes) -> Operations | None:
        """None where something is not in its plain form."""
        if len(data) >= 1 << 31:
            return None
        array = np.frombuffer(data, np.uint8)
        room = int(kernel.count_tokens(array, _KINDS)) + 1
        tokens = (
            np.empty(room, np.int32), np.empty(room, np.int32), np.empty(room, np.int32),
            np.empty(room, np.int32), np.empty(room, np.int32), np.empty(room, np.uint8),
            np.empty(room, np.int32), np.empty(room),
        )  # fmt: skip
        made = kernel.cut(array, _KINDS, _KEYS, _CODES_OF, CODES["BI"], *tokens)
        if made < 0:
            return None
        return cls(data, (*(t[:made] for t in tokens[:-1]), tokens[-1]))

    @classmethod
    def of_instructions(cls, instructions: Any) -> Operations:
        """Of what the PDF library's parser has read."""
        parts: list[bytes] = []
        rows: list[tuple[int, ...]] = []
        numbers: list[float] = []
        at, whole = 0, True
        objects: list[Any] = list(instructions)
        for thing in objects:
            try:
                part = pikepdf.unparse_content_stream([thing]) + b"\n"
            except UNREADABLE:
                part, whole = b"\n", False
            word = _word(thing)
            operands = [] if word == INLINE else list(thing.operands)
            plain = all(_is_number(v) and isfinite(v) for v in operands)
            end = at + len(part) - 1
            rows.append((CODES.get(word, 0), at, end, len(numbers), len(operands) if plain else -1,
                         *_last_of(operands)))  # fmt: skip
            numbers += [float(v) for v in operands] if plain else []
            parts.append(part)
            at += len(part)
        columns = np.array(rows, np.int64).reshape(-1, 7).T
        tokens = [np.ascontiguousarray(c, np.int32) for c in columns]
        tokens[5] = tokens[5].astype(np.uint8)
        made = cls(b"".join(parts), (*tokens, np.array(numbers, np.float64)), objects)
        made.whole = whole
        return made

    def word(self, i: int) -> str:
        """The operator's name, "" of one that is not known."""
        return WORDS[self.code[i]]

    def given(self, i: int) -> str:
        """The operator's name as it stands in the stream."""
        known = self.word(i)
        return known or self.data[self.start[i] : self.end[i]].split()[-1].decode("latin-1")

    def operands(self, i: int) -> list[Any]:
        """Floats where all are numbers, else the PDF library's objects."""
        count = self._count[i]
        if count >= 0:
            first = self._first[i]
            return self._numbers[first : first + count].tolist()
        if self._objects is not None:
            return list(self._objects[i].operands)
        raw = self.raw(i)
        found = self._known.get(raw)
        if found is None:
            if len(self._known) > _MOST_KEPT:
                self._known.clear()
            found = self._known[raw] = list(pikepdf.Object.parse(b"[" + raw + b"]"))
        return found

    def plain(self, i: int) -> tuple[float, ...] | None:
        """An operator's operands where they are numbers and nothing else."""
        count = self._count[i]
        if count < 0:
            return None
        first = self._first[i]
        return tuple(self._numbers[first : first + count])

    def object(self, i: int) -> Any:
        """What the PDF library's parser has made of an operator; of an inline image only."""
        assert self._objects is not None
        return self._objects[i]

    def raw(self, i: int) -> bytes:
        """An operator's operands as they stand in the stream."""
        return self.data[self.start[i] : self.end[i] - len(self.given(i))]

    def length(self, i: int) -> int:
        """About how many characters an operator shows."""
        kind = self._last[i]
        if kind == kernel.STRING:
            return self._shown[i]
        return 4 * self._shown[i] if kind == kernel.ARRAY else 4 if kind != kernel.NOTHING else 0

    def colours(self, word: str, channels: int) -> set[tuple[float, ...]]:
        """The operands of all operators of a name that have as many numbers."""
        at = self.first[(self.codes == CODES[word]) & (self.counts == channels)]
        if not at.size:
            return set()
        return set(map(tuple, self.numbers[at[:, None] + np.arange(channels)].tolist()))


class Laid:
    """Where what a stream paints and shows lies, by the operators' rows."""

    def __init__(self, operations: Operations, ctm: Matrix) -> None:
        acts = _ACTS[operations.codes]
        spots = (acts == kernel.PAINTS) | (acts == kernel.SHOWS)
        slots = np.where(spots, np.cumsum(spots, dtype=np.int32) - 1, -1).astype(np.int32)
        boxes, began = np.zeros((int(spots.sum()), 4)), np.zeros(int(spots.sum()), np.int32)
        self.odd = np.zeros(len(operations), np.uint8)
        """operators that move or gather, and whose operands make no sense"""
        kernel.place(
            acts, operations.first, operations.counts, operations.numbers,
            np.array(ctm, np.float64), slots, boxes, began, self.odd,
        )  # fmt: skip
        self._slots, self._began = _singly(slots), _singly(began)
        self._boxes = _singly(boxes.reshape(-1))

    def box(self, i: int) -> Box | None:
        """Around the path that an operator paints, in points of the page; None where there is none."""
        slot = self._slots[i]
        if self._began[slot] < 0:
            return None
        at = 4 * slot
        values = self._boxes
        return values[at], values[at + 1], values[at + 2], values[at + 3]

    def began(self, i: int) -> int:
        """The operator that the path begins at, or what paints nothing itself."""
        begun = self._began[self._slots[i]]
        return begun if begun >= 0 else i

    def text(self, i: int) -> tuple[float, float, float]:
        """Where an operator shows text, in user space, and how much the text's own matrix enlarges."""
        at = 4 * self._slots[i]
        return self._boxes[at], self._boxes[at + 1], self._boxes[at + 2]


def _singly(array: Any) -> memoryview:
    """An array to be asked for single elements, which is several times as fast."""
    return memoryview(array)


def _bytes_of(source: Any) -> bytes | None:
    """A page's streams one after the other, or a stream's own bytes."""
    if isinstance(source, pikepdf.Page):
        source = source.obj
    if isinstance(source, pikepdf.Stream):
        return bytes(source.read_bytes())
    contents = source.get("/Contents")
    if isinstance(contents, pikepdf.Stream):
        return bytes(contents.read_bytes())
    if isinstance(contents, pikepdf.Array) and all(isinstance(p, pikepdf.Stream) for p in contents):
        return b"\n".join(bytes(part.read_bytes()) for part in contents)
    return None


def _word(instruction: Any) -> str:
    """An operator's name, INLINE of an inline image; damaged ones have none."""
    if isinstance(instruction, pikepdf.ContentStreamInlineImage):
        return INLINE
    try:
        return str(instruction.operator)
    except UnicodeDecodeError:
        return ""


def _is_number(value: Any) -> bool:
    # Of what the library cannot take, as whole numbers of twenty digits, it makes None.
    return isinstance(value, int | float | Decimal) and not isinstance(value, bool)


def _last_of(operands: list[Any]) -> tuple[int, int]:
    if not operands:
        return kernel.NOTHING, 0
    last = operands[-1]
    if isinstance(last, pikepdf.String):
        return kernel.STRING, len(bytes(last))
    if isinstance(last, pikepdf.Array):
        return kernel.ARRAY, len(last)
    return (kernel.NUMBER if _is_number(last) else kernel.OTHER), 0
