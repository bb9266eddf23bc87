"""The report of an inventory, a dry or a real run as PDF pages."""

from __future__ import annotations

import io
from collections.abc import Sequence
from typing import Any

from reportlab.lib import colors
from reportlab.lib.pagesizes import A4, landscape
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.platypus import LongTable, Paragraph, SimpleDocTemplate, TableStyle

from plinto_core.document.pdf.items import Item
from plinto_core.document.reports.report import PolicyReport

_PLAIN = ParagraphStyle("plain", fontName="Helvetica", fontSize=8, leading=10)
_HEAD = ParagraphStyle("head", fontName="Helvetica-Bold", fontSize=11, leading=16, spaceBefore=6)
_TITLE = ParagraphStyle("title", fontName="Helvetica-Bold", fontSize=16, leading=22)
MOST_ROWS = 2000


def report_pdf(report: PolicyReport) -> bytes:
    """A4 pages: the summary, the flow, every object, and what was not handled."""
    buffer = io.BytesIO()
    document = SimpleDocTemplate(
        buffer, pagesize=landscape(A4), leftMargin=14 * mm, rightMargin=14 * mm,
        topMargin=14 * mm, bottomMargin=14 * mm, title=f"Preflight, {report.document}", invariant=1,
    )  # fmt: skip
    parts: list[Any] = [Paragraph(_safe(f"Preflight: {report.document}"), _TITLE)]
    parts.append(_table(summary_of(report), None, [60 * mm, 200 * mm]))
    if report.findings:
        parts.append(Paragraph("Checks", _HEAD))
        found = [
            [f.severity, f.title, ", ".join(str(p) for p in f.pages[:20]), f.text]
            for f in report.findings
        ]
        parts.append(_table(found, ["What follows", "Check", "Pages", "Found"], None))
    parts.append(Paragraph("Where objects go", _HEAD))
    flow = [
        [f.count, f"{f.space} {f.objects}", f.spot, f.rule or "none", f.action, f.outcome]
        for f in report.flow
    ]  # fmt: skip
    parts.append(_table(flow, ["Count", "Found", "Spot", "Rule", "Action", "Comes out as"], None))
    parts.append(Paragraph("Objects", _HEAD))
    rows = [_row(o) for o in report.objects[:MOST_ROWS]]
    names = [
        "Page",
        "Object",
        "Space, profile",
        "Pixels",
        "ppi",
        "Rule",
        "Before",
        "After",
        "TAC",
        "Notes",
    ]
    parts.append(_table(rows, names, None))
    if len(report.objects) > MOST_ROWS:
        parts.append(
            Paragraph(f"The first {MOST_ROWS} objects; all of them are in the JSON report.", _PLAIN)
        )
    for kept, whose in ((report.pdfx_before, "as it came"), (report.pdfx, "the result")):
        if kept is not None:
            parts.append(Paragraph(_safe(f"{kept.standard}, {whose}"), _HEAD))
            broken = [[b.where, b.rule, b.text] for b in kept.breaches]
            none = "marked as such" if kept.marked else "nothing found that breaks it"
            parts.append(_table(broken or [[none]], None, None))
    for remark in report.remarks:
        parts.append(Paragraph(_safe(remark), _PLAIN))
    if report.not_handled:
        parts.append(Paragraph("Not handled, left as it is", _HEAD))
        left = [[u.page, u.kind, u.reason] for u in report.not_handled]
        parts.append(_table(left, ["Page", "Object", "Reason"], [16 * mm, 34 * mm, 210 * mm]))
    document.build(parts)
    return buffer.getvalue()


def summary_of(report: PolicyReport) -> list[list[str]]:
    """Names and values of what holds for the whole document."""
    tac = report.tac
    rows = [
        ["Policy", report.policy],
        ["Destination", report.destination],
        ["Pages", str(report.pages)],
        ["Output intent found", report.output_intent or "none"],
        ["Transparency", "yes" if report.transparency else "no"],
        ["Colour spaces", ", ".join(_spaces(report.objects)) or "none"],
        ["Profiles", ", ".join(sorted({o.profile for o in report.objects if o.profile})) or "none"],
        ["Inks that come out", ", ".join(_inks(report.objects, report.inks)) or "none"],
        ["Images", _images(report.objects)],
        ["Spot colours", ", ".join(report.spots) or "none"],
        ["Fonts", ", ".join(report.fonts) or "none"],
        ["Highest TAC before, after, rule", f"{_percent(tac.before)}, {_percent(tac.after)}, {_percent(tac.rule)}"],
        ["Objects that stop", str(report.stops)],
        ["Not handled", str(len(report.not_handled))],
        ["Size", f"{report.size_before / 1e6:.2f} MB"],
    ]  # fmt: skip
    if report.pdfx is not None:
        broken = len(report.pdfx.breaches)
        kept = "marked as such" if report.pdfx.marked else "nothing found that breaks it"
        rows.append([report.pdfx.standard, f"{broken} rules not kept" if broken else kept])
    if report.size_after is not None:
        rows.append(["Size after", f"{report.size_after / 1e6:.2f} MB"])
    return rows


def _spaces(objects: Sequence[Item]) -> list[str]:
    """Families with the PDF's own names for them, "RGB (DeviceRGB, ICCBased)"."""
    found: dict[str, set[str]] = {}
    for item in objects:
        if item.kind != "group":
            found.setdefault(item.family, set()).add(item.space)
    return [f"{family} ({', '.join(sorted(names))})" for family, names in sorted(found.items())]


_PROCESS = ("Cyan", "Magenta", "Yellow", "Black")


def _inks(objects: Sequence[Item], inks: Sequence[str]) -> list[str]:
    """Inks with any tone after the policy; bare grey is black ink."""
    used = dict.fromkeys(inks or _PROCESS, False)
    spots: set[str] = set()
    for item in objects:
        if item.kind == "group" or item.stopped:
            continue
        own = tuple(inks) if item.outcome == "DeviceN" else _PROCESS
        if item.outcome == "black only" and len(item.after) == len(inks):
            own = tuple(inks)
        if item.outcome in ("DeviceCMYK", "DeviceN", "black only") and len(item.after) == len(own):
            for name, value in zip(own, item.after, strict=True):
                used[name] = used.get(name, False) or value > 0
        elif item.outcome == "DeviceGray":
            used["Black"] = True
        elif item.outcome.startswith("spot "):
            spots.update(item.spot)
    return [name for name, there in used.items() if there] + sorted(spots)


def _images(objects: Sequence[Item]) -> str:
    """How many, and their range of resolution."""
    images = [o for o in objects if o.kind == "image"]
    sharp = sorted(o.ppi for o in images if o.ppi)
    if not sharp:
        return str(len(images))
    return f"{len(images)}, {sharp[0]:.0f} to {sharp[-1]:.0f} ppi"


def _percent(value: float | None) -> str:
    return "none" if value is None else f"{value:.0f} %"


def _row(item: Item) -> list[Any]:
    space = ", ".join(v for v in (item.family, item.profile or item.origin) if v)
    ppi = "" if item.ppi is None else f"{item.ppi:.0f}"
    if item.new_ppi is not None:
        ppi += f" to {item.new_ppi:.0f}"
    return [
        item.page,
        item.kind + (f" x {item.count}" if item.count > 1 else ""),
        ", ".join(item.spot) or space,
        " x ".join(str(v) for v in item.pixels) if item.pixels else "",
        ppi,
        f"{item.rule or 'none'}, {item.action}",
        " ".join(f"{v:g}" for v in item.values),
        "" if item.stopped else " ".join(f"{v:g}" for v in item.after),
        "" if item.tac_after is None else f"{item.tac_after:.0f}",
        " ".join(item.notes),
    ]


def _table(rows: list[list[Any]], head: list[str] | None, widths: list[float] | None) -> LongTable:
    data = ([head] if head else []) + rows or [["none"]]
    cells = [[Paragraph(_safe(str(v)), _PLAIN) for v in row] for row in data]
    table = LongTable(cells, colWidths=widths, repeatRows=1 if head else 0, hAlign="LEFT")
    style = [("LINEBELOW", (0, 0), (-1, -1), 0.3, colors.grey), ("VALIGN", (0, 0), (-1, -1), "TOP")]
    if head:
        style.append(("BACKGROUND", (0, 0), (-1, 0), colors.whitesmoke))
    table.setStyle(TableStyle(style))
    return table


def _safe(text: str) -> str:
    """Plain text for a paragraph: markup characters escaped, what the font lacks replaced."""
    plain = text.encode("latin-1", "replace").decode("latin-1")
    return plain.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;") or " "


__all__ = ["report_pdf", "summary_of"]
