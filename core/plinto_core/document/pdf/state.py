"""The part of the graphics state that colours and places depend on (ISO 32000-2, 8.4)."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

from plinto_core.document.pdf.items import Box
from plinto_core.document.pdf.spaces import GREY, ColourSpace
from plinto_core.document.pdf.transfer import Transfer

Matrix = tuple[float, float, float, float, float, float]
IDENTITY: Matrix = (1.0, 0.0, 0.0, 1.0, 0.0, 0.0)


def multiply(m: Matrix, n: Matrix) -> Matrix:
    """m applied first, then n."""
    a, b, c, d, e, f = m
    p, q, r, s, t, u = n
    return (
        a * p + b * r, a * q + b * s, c * p + d * r, c * q + d * s,
        e * p + f * r + t, e * q + f * s + u,
    )  # fmt: skip


def apply(m: Matrix, x: float, y: float) -> tuple[float, float]:
    return m[0] * x + m[2] * y + m[4], m[1] * x + m[3] * y + m[5]


def scale_of(m: Matrix) -> float:
    """How much a matrix enlarges lengths, in the mean of all directions."""
    return math.sqrt(abs(m[0] * m[3] - m[1] * m[2]))


def box_of(m: Matrix, corners: list[tuple[float, float]]) -> Box:
    """The upright box around points of user space."""
    a, b, c, d, e, f = m
    xs = [a * x + c * y + e for x, y in corners]
    ys = [b * x + d * y + f for x, y in corners]
    return min(xs), min(ys), max(xs), max(ys)


def box_between(m: Matrix, left: float, bottom: float, right: float, top: float) -> Box:
    """The upright box around two points of user space."""
    a, b, c, d, e, f = m
    x, y = a * left + c * bottom + e, b * left + d * bottom + f
    other_x, other_y = a * right + c * top + e, b * right + d * top + f
    return (
        x if x < other_x else other_x, y if y < other_y else other_y,
        other_x if x < other_x else x, other_y if y < other_y else y,
    )  # fmt: skip


@dataclass(frozen=True)
class Paint:
    """A colour as it was set: its space, its values (or a pattern's name), the rule and result."""

    space: ColourSpace = GREY
    values: tuple[float, ...] = (0.0,)
    pattern: str = ""
    intent: str | None = None
    unset: bool = False
    """whether it is the black that a page begins with, which no operator has set"""
    name: Any = None
    """what cs or CS selected the space by; None where g, rg or k did"""
    replaced: bool = False
    """whether what was written selects another space than this paint's own"""
    ruled: int = 0
    """the number of the rule that what was written follows"""
    became: tuple[float, ...] | None = None
    """the destination's values that were written for it, None where it was left"""
    tone: Any = None
    """the Tone it was set by, None of colours that were not converted together"""


UNSET = Paint(unset=True)
KNOCKS_OUT = (False, 0)
"""Overprint of fills, and its mode, as every page begins."""


def paint_of(
    space: ColourSpace, values: tuple[float, ...], intent: str | None, name: Any, ruled: int,
    became: tuple[float, ...] | None,
) -> Paint:  # fmt: skip
    """A paint that an operator sets; made by hand, as states are."""
    made = object.__new__(Paint)
    made.__dict__.update(UNSET.__dict__)
    made.__dict__.update(
        space=space, values=values, intent=intent, unset=False, name=name,
        replaced=became is not None, ruled=ruled, became=became,
    )  # fmt: skip
    return made


@dataclass(frozen=True)
class State:
    """ctm, colours, intent and text size; copied by q and restored by Q.

    unset_used : "fill" and "stroke" are noted here when something is painted in the black that a
    stream begins with; shared by all states of a page and the forms on it, None before a stream begins.
    """

    ctm: Matrix = IDENTITY
    fill: Paint = UNSET
    stroke: Paint = UNSET
    unset_used: set[str] | None = None
    intent: str | None = None
    text_size: float = 1.0
    """as the font was chosen with, before the text's own matrix"""
    font: Any = None
    width: float = 1.0
    """of lines, in user space, as the document sets it"""
    written_width: float = 1.0
    """what stands in the stream that is written, of the same"""
    render_mode: int = 0
    overprint: tuple[bool, int] = KNOCKS_OUT
    """what the document says: whether fills overprint, and the overprint mode"""
    stroke_overprints: bool = False
    transfer: Transfer | None = None
    """functions that colours go through, where the policy applies them"""
    written: tuple[bool, int] = KNOCKS_OUT
    """what stands in the stream that is written, of the same two"""

    def changed(self, **parts: object) -> State:
        """A copy with other parts; made by hand, since streams hold hundreds of thousands of them."""
        made = object.__new__(State)
        made.__dict__.update(self.__dict__)
        made.__dict__.update(parts)
        return made
