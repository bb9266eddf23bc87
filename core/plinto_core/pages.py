"""What pages of reports share: their styles, tables and paragraphs, in fonts every reader has."""

from __future__ import annotations

import io
from html import escape
from typing import Any

from reportlab.lib import colors
from reportlab.lib.pagesizes import A4
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.platypus import Paragraph, SimpleDocTemplate, Table, TableStyle

PLAIN = ParagraphStyle("plain", fontName="Helvetica", fontSize=9, leading=12)
STRONG = ParagraphStyle("strong", fontName="Helvetica-Bold", fontSize=9, leading=12)
HEAD = ParagraphStyle(
    "head", fontName="Helvetica-Bold", fontSize=12, leading=18, spaceBefore=8, keepWithNext=1
)
TITLE = ParagraphStyle("title", fontName="Helvetica-Bold", fontSize=17, leading=24)


def pages(title: str, parts: list[Any]) -> bytes:
    """A4 pages of flowing parts as PDF; the same parts give the same bytes."""
    buffer = io.BytesIO()
    document = SimpleDocTemplate(
        buffer, pagesize=A4, leftMargin=18 * mm, rightMargin=18 * mm, topMargin=16 * mm,
        bottomMargin=16 * mm, title=latin(title), invariant=1,
    )  # fmt: skip
    document.build(parts)
    return buffer.getvalue()


def table(rows: list[list[str]]) -> Table:
    """Cells of text under a head in bold."""
    cells = [
        [Paragraph(safe(c), STRONG if i == 0 else PLAIN) for c in r] for i, r in enumerate(rows)
    ]
    made = Table(cells, hAlign="LEFT")
    made.setStyle(
        TableStyle(
            [("LINEBELOW", (0, 0), (-1, -1), 0.4, colors.lightgrey), ("LEFTPADDING", (0, 0), (-1, -1), 0),
             ("TOPPADDING", (0, 0), (-1, -1), 1), ("BOTTOMPADDING", (0, 0), (-1, -1), 1)]
        )
    )  # fmt: skip
    return made


def paragraph(text: str, style: ParagraphStyle = PLAIN) -> Paragraph:
    return Paragraph(safe(text), style)


def lab_said(lab: tuple[float, float, float]) -> str:
    return "  ".join(f"{v:.1f}" for v in lab)


def latin(text: str) -> str:
    """What the pages' built-in fonts can show."""
    return text.replace("Δ", "d").encode("latin-1", "replace").decode("latin-1")


def safe(text: str) -> str:
    return escape(latin(text))
