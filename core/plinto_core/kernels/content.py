"""Content streams cut into operators, and where their paths and texts lie."""

from __future__ import annotations

import numpy as np
from numba import njit

from plinto_core.arrays import Floats

Bytes = np.ndarray
Integers = np.ndarray

# What a byte is (ISO 32000-2, 7.2.3).
REGULAR, WHITE, DELIMITER = 0, 1, 2
# What the last operand of an operator is.
NOTHING, NUMBER, NAME, STRING, ARRAY, OTHER = 0, 1, 2, 3, 4, 5
# What an operator does to places.
NO_PLACE, SAVES, RESTORES, MOVES, LINES, CURVES, RECTANGLES = 0, 1, 2, 3, 4, 5, 6
TEXT_BEGINS, TEXT_MOVES, TEXT_TURNS, SHOWS, PAINTS, ENDS = 7, 8, 9, 10, 11, 12
_TRUSTED = 10**17
"""Digits of a number beyond which no further ones are taken in: a double holds no more."""


@njit(cache=True)
def count_tokens(data: Bytes, kinds: Bytes) -> int:
    """At least how many tokens a stream has room for; kinds : of each of the 256 bytes."""
    count = 0
    before = WHITE
    for i in range(data.size):
        kind = kinds[data[i]]
        count += kind == DELIMITER or (kind == REGULAR and before != REGULAR)
        before = kind
    return count


@njit(cache=True)
def _after_string(data: Bytes, at: int) -> tuple[int, int]:
    """Behind a literal string that begins at `at`, and how many characters it has; (-1, 0) where it has no end."""
    n = data.size
    deep, length = 1, 0
    i = at + 1
    while i < n:
        c = data[i]
        if c == 92:
            i += 1
            if i >= n:
                return -1, 0
            c = data[i]
            if 48 <= c <= 55:
                digits = 1
                while digits < 3 and i + 1 < n and 48 <= data[i + 1] <= 55:
                    i += 1
                    digits += 1
                length += 1
            elif c == 13:
                # A line that is only broken in the file.
                if i + 1 < n and data[i + 1] == 10:
                    i += 1
            elif c != 10:
                length += 1
        elif c == 40:
            deep += 1
            length += 1
        elif c == 41:
            deep -= 1
            if deep == 0:
                return i + 1, length
            length += 1
        elif c == 13:
            if i + 1 < n and data[i + 1] == 10:
                i += 1
            length += 1
        else:
            length += 1
        i += 1
    return -1, 0


@njit(cache=True)
def _after_hex(data: Bytes, kinds: Bytes, at: int) -> tuple[int, int]:
    """As `_after_string`, of a string in hexadecimal digits."""
    digits = 0
    i = at + 1
    while i < data.size:
        c = data[i]
        if c == 62:
            return i + 1, (digits + 1) // 2
        if 48 <= c <= 57 or 65 <= c <= 70 or 97 <= c <= 102:
            digits += 1
        elif kinds[c] != WHITE:
            return -1, 0
        i += 1
    return -1, 0


@njit(cache=True)
def _after_nest(data: Bytes, kinds: Bytes, at: int) -> tuple[int, int]:
    """Behind an array or dictionary that begins at `at`, and how many things stand in it itself."""
    n = data.size
    open_ones = np.empty(64, np.uint8)
    deep, members = 0, 0
    i = at
    while i < n:
        c = data[i]
        if kinds[c] == WHITE:
            i += 1
            continue
        if c == 93 or c == 62:
            if deep == 0 or open_ones[deep - 1] != c:
                return -1, 0
            if c == 62:
                i += 1
                if i >= n or data[i] != 62:
                    return -1, 0
            i += 1
            deep -= 1
            if deep == 0:
                return i, members
            continue
        members += deep == 1
        if c == 91 or (c == 60 and i + 1 < n and data[i + 1] == 60):
            if deep == open_ones.size:
                return -1, 0
            open_ones[deep] = 93 if c == 91 else 62
            deep += 1
            i += 1 if c == 91 else 2
        elif c == 40:
            i, _ = _after_string(data, i)
        elif c == 60:
            i, _ = _after_hex(data, kinds, i)
        elif kinds[c] == DELIMITER and c != 47:
            return -1, 0
        else:
            i += 1
            while i < n and kinds[data[i]] == REGULAR:
                i += 1
        if i < 0:
            return -1, 0
    return -1, 0


@njit(cache=True)
def _number(data: Bytes, kinds: Bytes, at: int) -> tuple[int, float]:
    """Behind a number that begins at `at`, and its value; (-1, 0) where it is none in its plain form."""
    n = data.size
    i = at
    negative = data[i] == 45
    if data[i] == 43 or data[i] == 45:
        i += 1
    whole, digits, behind, point = 0, 0, 0, False
    while i < n and kinds[data[i]] == REGULAR:
        c = data[i]
        if 48 <= c <= 57:
            digits += 1
            if whole < _TRUSTED:
                whole = whole * 10 + (c - 48)
                behind += point
            elif not point:
                return -1, 0.0
        elif c == 46 and not point:
            point = True
        else:
            return -1, 0.0
        i += 1
    # Powers beyond the 22nd are no exact doubles, and the quotient would not be the nearest.
    if digits == 0 or behind > 22:
        return -1, 0.0
    value = float(whole)
    if behind:
        value /= 10.0**behind
    return i, -value if negative else value


@njit(cache=True)
def cut(
    data: Bytes, kinds: Bytes, keys: Integers, codes_of: Integers, image: int,
    codes: Integers, starts: Integers, ends: Integers, first: Integers, counts: Integers,
    last: Bytes, shown: Integers, numbers: Floats,
) -> int:  # fmt: skip
    """Cut a content stream into operators with their operands; returns how many there are.

    -1 where anything is not in its plain form: what is damaged, or holds an image of its own, is to
    be read by a parser that knows what to make of it. keys, codes_of : a table of operators by
    `hash_of`; image : the code of BI. For each operator: codes, 0 for an unknown one; starts and
    ends, in bytes, from its first operand; first and counts, its place in `numbers` and how many
    numbers it has; last, of what kind its last operand is; shown, of a string how many characters it
    has and of an array how many members. counts is -1 where there are operands that are no numbers.
    """
    n = data.size
    made, held = 0, 0
    start, begun, plain, kind, aside = -1, 0, True, NOTHING, 0
    i = 0
    while i < n:
        c = data[i]
        if kinds[c] == WHITE:
            i += 1
            continue
        if c == 37:
            while i < n and data[i] != 10 and data[i] != 13:
                i += 1
            continue
        if start < 0:
            start = i
        if 48 <= c <= 57 or c == 43 or c == 45 or c == 46:
            i, value = _number(data, kinds, i)
            numbers[held] = value
            held += 1
            kind = NUMBER
        elif c == 47:
            i += 1
            while i < n and kinds[data[i]] == REGULAR:
                i += 1
            plain, kind = False, NAME
        elif c == 40:
            i, aside = _after_string(data, i)
            plain, kind = False, STRING
        elif c == 91:
            i, aside = _after_nest(data, kinds, i)
            plain, kind = False, ARRAY
        elif c == 60:
            if i + 1 < n and data[i + 1] == 60:
                i, _ = _after_nest(data, kinds, i)
                plain, kind = False, OTHER
            else:
                i, aside = _after_hex(data, kinds, i)
                plain, kind = False, STRING
        elif kinds[c] == DELIMITER:
            return -1
        else:
            at = i
            while i < n and kinds[data[i]] == REGULAR:
                i += 1
            length = i - at
            code = 0
            if length <= 3:
                key = np.int64(0)
                for k in range(length):
                    key |= np.int64(data[at + k]) << np.int64(8 * k)
                place = hash_of(key, keys.size)
                if keys[place] == key:
                    code = codes_of[place]
            elif length == 4 or length == 5:
                word = data[at:i]
                if (
                    length == 4
                    and word[0] in (110, 116)
                    and (
                        (word[1] == 117 and word[2] == 108 and word[3] == 108)
                        or (word[1] == 114 and word[2] == 117 and word[3] == 101)
                    )
                ) or (length == 5 and word[0] == 102 and word[1] == 97):
                    # true, false, null
                    plain, kind = False, OTHER
                    continue
            if code == image and code > 0:
                return -1
            codes[made] = code
            starts[made], ends[made] = start, i
            first[made], counts[made] = begun, held - begun if plain else -1
            last[made], shown[made] = kind, aside
            made += 1
            start, begun, plain, kind, aside = -1, held, True, NOTHING, 0
            continue
        if i < 0:
            return -1
    return made if start < 0 else -1


@njit(cache=True)
def hash_of(key: int, size: int) -> int:
    """A place for an operator's bytes in a table of `size` places."""
    return (key * 40503 + (key >> 7)) % size


@njit(cache=True)
def place(
    acts: Integers, first: Integers, counts: Integers, numbers: Floats, ctm: Floats,
    slots: Integers, boxes: Floats, began: Integers, odd: Bytes,
) -> None:  # fmt: skip
    """Where what is painted and shown lies.

    acts : what each operator does to places, as below; ctm (6,) : at the stream's begin; slots : the row
    that an operator fills of boxes and began, -1 for none. boxes (m, 4) : of what paints a path its
    left, bottom, right and top, of what shows text its x, y and scale in user space; began (m,) :
    the operator that a path begins at, -1 where there is none. odd is set where the operands of an
    operator that moves or gathers make no sense: it is passed over.
    """
    deepest = 0
    for i in range(acts.size):
        deepest += acts[i] == SAVES
    stack = np.empty((deepest, 6))
    deep = 0
    m = ctm.copy()
    left, bottom, right, top = 0.0, 0.0, 0.0, 0.0
    path = -1
    some = False
    x, y, scale = 0.0, 0.0, 1.0
    for i in range(acts.size):
        act = acts[i]
        if act == NO_PLACE:
            continue
        at, count = first[i], counts[i]
        if act == SAVES:
            stack[deep] = m
            deep += 1
        elif act == RESTORES:
            if deep:
                deep -= 1
                m[:] = stack[deep]
        elif act == MOVES:
            # What is no matrix is spoken of by whoever keeps the state.
            if count == 6:
                a, b, c = numbers[at], numbers[at + 1], numbers[at + 2]
                d, e, f = numbers[at + 3], numbers[at + 4], numbers[at + 5]
                p, q, r, s, t, u = m[0], m[1], m[2], m[3], m[4], m[5]
                m[0], m[1] = a * p + b * r, a * q + b * s
                m[2], m[3] = c * p + d * r, c * q + d * s
                m[4], m[5] = e * p + f * r + t, e * q + f * s + u
        elif act in (LINES, CURVES, RECTANGLES):
            if path < 0:
                path = i
            corners = np.empty((4, 2))
            pairs = 0
            if act == RECTANGLES:
                if count == 4:
                    pairs = 4
                    for k in range(4):
                        corners[k, 0] = numbers[at] + (numbers[at + 2] if k & 1 else 0.0)
                        corners[k, 1] = numbers[at + 1] + (numbers[at + 3] if k & 2 else 0.0)
            elif count >= 2:
                pairs = 1 if act == LINES else min(count // 2, 4)
                for k in range(pairs):
                    corners[k, 0], corners[k, 1] = numbers[at + 2 * k], numbers[at + 2 * k + 1]
            odd[i] = pairs == 0
            for k in range(pairs):
                px = m[0] * corners[k, 0] + m[2] * corners[k, 1] + m[4]
                py = m[1] * corners[k, 0] + m[3] * corners[k, 1] + m[5]
                if not some:
                    left, bottom, right, top = px, py, px, py
                    some = True
                else:
                    left, right = min(left, px), max(right, px)
                    bottom, top = min(bottom, py), max(top, py)
        elif act == TEXT_BEGINS:
            x, y, scale = 0.0, 0.0, 1.0
        elif act == TEXT_MOVES:
            if count >= 2:
                x += numbers[at]
                y += numbers[at + 1]
            else:
                odd[i] = 1
        elif act == TEXT_TURNS:
            if count >= 6:
                x, y = numbers[at + 4], numbers[at + 5]
                scale = np.sqrt(
                    abs(numbers[at] * numbers[at + 3] - numbers[at + 1] * numbers[at + 2])
                )
            else:
                odd[i] = 1
        elif act == SHOWS:
            slot = slots[i]
            boxes[slot, 0], boxes[slot, 1], boxes[slot, 2] = x, y, scale
        elif act in (PAINTS, ENDS):
            if act == PAINTS:
                slot = slots[i]
                began[slot] = path if some else -1
                boxes[slot, 0], boxes[slot, 1] = left, bottom
                boxes[slot, 2], boxes[slot, 3] = right, top
            path = -1
            some = False
