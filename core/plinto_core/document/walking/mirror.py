"""A page seen in a mirror: content, patterns, boxes and annotations together.

The content becomes a form that is drawn mirrored, so that patterns and shadings, whose place is that of
the stream they are used in, turn with it, and an unbalanced stream stays inside.
"""

from __future__ import annotations

from typing import Any

import pikepdf

from plinto_core.document.pdf.bounds import check_size_of_stream
from plinto_core.document.pdf.opening import UNREADABLE
from plinto_core.document.pdf.state import IDENTITY, Matrix, apply, multiply
from plinto_core.document.pdf.tree import inherited, matrix_of
from plinto_core.errors import BadDocument
from plinto_core.words import say

_BOXES = ("/CropBox", "/BleedBox", "/TrimBox", "/ArtBox")
_NAME = "/PlintoPage"


def mirror_page(
    pdf: pikepdf.Pdf, page: pikepdf.Page, resources: Any, mirrored: set[tuple[int, int]]
) -> None:
    """Mirror a page left to right as it is seen, about the middle of its media box.

    mirrored : appearances of annotations that were mirrored already, since several may share one.
    """
    media = [float(v) for v in page.mediabox]
    turn = _turn(page, media)
    for name in _BOXES:
        box = inherited(page, name)
        if box is not None and len(box) == 4:
            page.obj[name] = pikepdf.Array(_moved_box(turn, [float(v) for v in box]))
    content = page.obj.get("/Contents")
    if content is not None:
        try:
            drawing = _joined(content)
        except UNREADABLE as error:
            raise BadDocument(say("document.page-not-mirrored")) from error
        form = pikepdf.Stream(
            pdf, drawing, Type=pikepdf.Name.XObject, Subtype=pikepdf.Name.Form,
            BBox=_moved_box(IDENTITY, media), Resources=resources,
        )  # fmt: skip
        drawn = f"q {' '.join(f'{v:.4f}'.rstrip('0').rstrip('.') for v in turn)} cm {_NAME} Do Q"
        page.Contents = pikepdf.Stream(pdf, drawn.encode())
        page.obj["/Resources"] = pikepdf.Dictionary(
            XObject=pikepdf.Dictionary({_NAME: pdf.make_indirect(form)})
        )
    annotations: Any = page.obj.get("/Annots", [])
    for annotation in annotations:
        if isinstance(annotation, pikepdf.Dictionary):
            _annotation(annotation, turn, mirrored)


def _turn(page: pikepdf.Page, media: list[float]) -> Matrix:
    """The mirror in the page's own coordinates: a page shown on its side is mirrored upright."""
    left, bottom, right, top = media
    try:
        sideways = int(inherited(page, "/Rotate") or 0) % 180 == 90
    except (TypeError, ValueError):
        sideways = False
    if sideways:
        return (1.0, 0.0, 0.0, -1.0, 0.0, bottom + top)
    return (-1.0, 0.0, 0.0, 1.0, left + right, 0.0)


def _joined(content: Any) -> bytes:
    streams = content if isinstance(content, pikepdf.Array) else [content]
    for stream in streams:
        if isinstance(stream, pikepdf.Stream):
            check_size_of_stream(stream)
    return b"\n".join(s.read_bytes() for s in streams if isinstance(s, pikepdf.Stream))


def _moved_box(turn: Matrix, box: list[float]) -> list[float]:
    x, y = zip(apply(turn, box[0], box[1]), apply(turn, box[2], box[3]), strict=True)
    return [round(v, 4) for v in (min(x), min(y), max(x), max(y))]


def _annotation(annotation: Any, turn: Matrix, mirrored: set[tuple[int, int]]) -> None:
    try:
        rectangle = [float(v) for v in annotation.get("/Rect", [])]
    except (TypeError, ValueError):
        return
    if len(rectangle) == 4:
        annotation["/Rect"] = pikepdf.Array(_moved_box(turn, rectangle))
    shown = annotation.get("/AP")
    if not isinstance(shown, pikepdf.Dictionary):
        return
    for looks in shown.values():
        for look in looks.values() if isinstance(looks, pikepdf.Dictionary) else [looks]:
            if isinstance(look, pikepdf.Stream) and look.objgen not in mirrored:
                mirrored.add(look.objgen)
                own = matrix_of(look.get("/Matrix"))
                # Its place follows from the rectangle, so that only the direction counts here.
                flat = (turn[0], 0.0, 0.0, turn[3], 0.0, 0.0)
                look["/Matrix"] = pikepdf.Array([round(v, 6) for v in multiply(own, flat)])
