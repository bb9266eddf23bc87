"""An answer as PDF pages: what was asked, the answer, its figure, what was done."""

from __future__ import annotations

from typing import Any

import numpy as np
from reportlab.graphics.shapes import Circle, Drawing, Line, PolyLine, Rect, String
from reportlab.lib import colors
from reportlab.lib.units import mm
from reportlab.platypus import Spacer

from plinto_core.colorimetry.cielab import Lab_to_XYZ
from plinto_core.gamut.on_screen import screen_values
from plinto_core.pages import HEAD, STRONG, TITLE, lab_said, latin, pages, paragraph, table
from plinto_core.questions.answer import Answer, Plot
from plinto_core.transform.standard_spaces import standard_profile

_WIDTH, _HEIGHT = 165 * mm, 78 * mm
_DASHES: dict[str, list[float] | None] = {
    "line": None, "dashed": [5, 3], "dotted": [1, 2], "points": None,
}  # fmt: skip
_GREYS = ("#000000", "#555555", "#8a8a8a", "#b0b0b0")


def answer_pdf(found: Answer) -> bytes:
    """A4 pages of an answer."""
    parts: list[Any] = [
        paragraph(found.asked, TITLE),
        *(paragraph(f"{name}: {said}") for name, said in found.parts.items()),
        paragraph(found.said, HEAD),
        *(paragraph(line, STRONG) for line in found.more),
    ]
    if found.plot is not None:
        parts += [Spacer(1, 4 * mm), paragraph(found.plot.title, STRONG), _drawn(found.plot)]
    if found.figures is not None:
        rows = [
            [
                f"{row.label}, {row.unit}" if row.unit else row.label,
                *("" if v is None else f"{v:.{row.digits}f}" for v in row.values),
            ]
            for row in found.figures.rows
        ]
        parts += [Spacer(1, 3 * mm), table([["", *found.figures.columns], *rows])]
    if found.colours is not None:
        head = ["Colour", found.colours.first, found.colours.second, "dE00"]
        rows = [
            [p.name, lab_said(p.first), lab_said(p.second), f"{p.de00:.1f}"]
            for p in found.colours.pairs
        ]
        parts += [paragraph("Colours that differ most, L* a* b*", HEAD), _swatches(found)]
        parts.append(table([head, *rows]))
    parts.append(paragraph("What was done", HEAD))
    parts += [paragraph(f"{i}. {step}") for i, step in enumerate(found.done, 1)]
    return pages(found.asked, parts)


def _swatches(found: Answer) -> Drawing:
    """The pairs of colours as sRGB, one above the other."""
    assert found.colours is not None
    drawing = Drawing(_WIDTH, 14 * mm)
    side = _WIDTH / 12
    for i, pair in enumerate(found.colours.pairs):
        for row, lab in enumerate((pair.first, pair.second)):
            rgb = screen_values(standard_profile("srgb"), Lab_to_XYZ(np.array([lab])))[0]
            fill = colors.Color(*(float(min(1.0, max(0.0, v))) for v in rgb))
            drawing.add(
                Rect(
                    i * side, (1 - row) * 6 * mm, side * 0.92, 6 * mm, fillColor=fill, strokeWidth=0
                )
            )
    return drawing


def _drawn(plot: Plot) -> Drawing:
    drawing = Drawing(_WIDTH, _HEIGHT)
    left, bottom, right = 14 * mm, 11 * mm, 36 * mm
    wide, high = _WIDTH - left - right, _HEIGHT - bottom - 4 * mm
    xs = [v for s in plot.series for v in s.x] or [0.0, 1.0]
    ys = [v for s in plot.series for v in s.y] or [0.0, 1.0]
    if plot.level is not None:
        ys.append(plot.level[1])
    low_x, high_x, low_y, high_y = min(xs), max(xs), min(0.0, *ys), max(*ys, 0.0)
    span_x, span_y = max(high_x - low_x, 1e-9), max(high_y - low_y, 1e-9) * 1.05
    if plot.square:
        scale = min(wide / span_x, high / span_y)
        wide, high = span_x * scale, span_y * scale

    def at(x: float, y: float) -> tuple[float, float]:
        share = (x - low_x) / span_x
        share = 1 - share if plot.reversed else share
        return left + share * wide, bottom + (y - low_y) / span_y * high

    drawing.add(
        Rect(left, bottom, wide, high, fillColor=None, strokeColor=colors.grey, strokeWidth=0.5)
    )
    for value in (low_y, high_y):
        drawing.add(
            String(
                left - 2 * mm, at(low_x, value)[1] - 3, f"{value:.0f}", fontSize=7, textAnchor="end"
            )
        )
    for value in (low_x, high_x):
        drawing.add(
            String(
                at(value, 0)[0], bottom - 4 * mm, f"{value:.0f}", fontSize=7, textAnchor="middle"
            )
        )
    drawing.add(
        String(left + wide / 2, bottom - 8 * mm, latin(plot.x), fontSize=7, textAnchor="middle")
    )
    drawing.add(String(2, bottom + high / 2, latin(plot.y), fontSize=7))
    rows = [bottom + high - 3 * mm - k * 4.2 * mm for k in range(len(plot.series) + 2)]
    if plot.level is not None:
        name, value = plot.level
        (x1, y1), (x2, _) = at(low_x, value), at(high_x, value)
        drawing.add(Line(x1, y1, x2, y1, strokeWidth=0.6, strokeColor=colors.grey))
        drawing.add(String(left + wide + 2 * mm, y1 + 2, latin(f"{name} {value:g}"), fontSize=7))
        # Its name has a place of its own beside the names of the lines.
        rows = [y for y in rows if abs(y - (y1 + 2)) > 3 * mm]
    named = 0
    for one in plot.series:
        colour = colors.HexColor(_GREYS[named % len(_GREYS)] if one.name else "#777777")
        points = [at(x, y) for x, y in zip(one.x, one.y, strict=True)]
        if one.style == "points":
            for x, y in points:
                drawing.add(Circle(x, y, 1.2, fillColor=colour, strokeWidth=0))
        else:
            flat = [v for p in points for v in p]
            drawing.add(
                PolyLine(
                    flat, strokeColor=colour, strokeWidth=0.9, strokeDashArray=_DASHES[one.style]
                )
            )
        if one.name:
            y = rows[named]
            x = left + wide + 2 * mm
            if one.style == "points":
                mark = Circle(x + 4 * mm, y + 2, 1.2, fillColor=colour, strokeWidth=0)
            else:
                dashes = _DASHES[one.style]
                mark = Line(x, y + 2, x + 8 * mm, y + 2, strokeColor=colour, strokeDashArray=dashes)
            drawing.add(mark)
            drawing.add(String(x + 10 * mm, y, latin(one.name), fontSize=7))
            named += 1
    return drawing
