"""A report as notes on the pages of the document it is of, for whoever has to mend it."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import pikepdf

from plinto_core.document.pdf.items import Box
from plinto_core.document.pdf.opening import open_document
from plinto_core.document.pdf.tree import inherited
from plinto_core.document.pdfx.parts import box_of_page
from plinto_core.document.reports.report import PolicyReport
from plinto_core.imaging.writer import whole_or_none
from plinto_core.words import say

_MOST_NOTES = 2_000
_FIRST, _STEP = 24.0, 22.0
"""Points: where the first note without a place lies below a page's top, and the next ones."""
_LEAST = 6.0
"""Points a frame is wide at least, so that it can be seen around a hairline."""
_COLOURS = {"stop": (0.75, 0.1, 0.1), "warn": (0.8, 0.45, 0.0)}
_PLAIN = (0.25, 0.25, 0.25)


@dataclass(frozen=True)
class Note:
    """box : None for a note about the page."""

    page: int
    title: str
    text: str
    severity: str
    box: Box | None = None


def notes_of(report: PolicyReport) -> Iterator[Note]:
    """Everything of a report that a page can carry: findings, objects that stop, what was left."""
    for finding in report.findings:
        placed = {p.page for p in finding.places}
        for place in finding.places:
            yield Note(place.page, finding.title, finding.text, finding.severity, place.box)
        for page in finding.pages or (1,):
            if page not in placed:
                yield Note(page, finding.title, finding.text, finding.severity)
    for item in report.objects:
        if item.stopped:
            colours = item.spot or (item.family,)
            text = say("preflight.rule-stops", rule=item.rule, kind=item.kind, colours=colours)
            yield Note(item.page, say("preflight.rule-stops-title"), text, "stop", item.box)
    for left in report.not_handled:
        yield Note(left.page, say("preflight.left-title", kind=left.kind), left.reason, "warn")
    check = report.pdfx or report.pdfx_before
    for breach in check.breaches if check is not None else ():
        standard = check.standard if check is not None else ""
        title = say("preflight.standard-title", standard=standard, rule=breach.rule)
        for page in breach.pages or (1,):
            yield Note(page, title, breach.text, "warn")


def write_notes(source: Path, report: PolicyReport, target: Path) -> int:
    """Write a copy of a document with the report as notes on its pages; returns how many there are.

    Raises BadDocument where the document cannot be read. The notes do not print.
    """
    count = 0
    with open_document(source) as pdf, whole_or_none(target) as temporary:
        loose: dict[int, int] = {}
        for note in notes_of(report):
            if count >= _MOST_NOTES or not 1 <= note.page <= len(pdf.pages):
                continue
            page = pdf.pages[note.page - 1]
            box = note.box
            if box is None:
                loose[note.page] = loose.get(note.page, -1) + 1
                box = _corner(page, loose[note.page])
            made = pdf.make_indirect(_annotation(note, box))
            known: Any = page.obj.get("/Annots")
            # A new list: pages may share one.
            page.obj["/Annots"] = pikepdf.Array([*(known if isinstance(known, pikepdf.Array) else []), made])  # fmt: skip
            count += 1
        pdf.save(temporary, deterministic_id=True)
    return count


def _corner(page: pikepdf.Page, number: int) -> Box:
    sheet = box_of_page(inherited(page, "/CropBox") or inherited(page, "/MediaBox"))
    left, _, _, top = sheet or (0.0, 0.0, 595.0, 842.0)
    y = top - _FIRST - number * _STEP
    return left + 4, y, left + 4 + 18, y + 18


def _annotation(note: Note, box: Box) -> pikepdf.Dictionary:
    framed = note.box is not None
    wide, high = max(_LEAST, box[2] - box[0]), max(_LEAST, box[3] - box[1])
    x, y = (box[0] + box[2]) / 2, (box[1] + box[3]) / 2
    made = pikepdf.Dictionary(
        Type=pikepdf.Name.Annot,
        Subtype=pikepdf.Name.Square if framed else pikepdf.Name.Text,
        Rect=[round(v, 2) for v in (x - wide / 2, y - high / 2, x + wide / 2, y + high / 2)],
        T=pikepdf.String(note.title),
        Contents=pikepdf.String(f"{note.title}: {note.text}"),
        C=list(_COLOURS.get(note.severity, _PLAIN)),
        F=24,  # no zoom, no rotation, and without the bit for printing
    )
    if framed:
        made["/F"] = 0
        made["/BS"] = pikepdf.Dictionary(W=1)
    return made
