"""Pages of documents as pixels. The renderer knows RGB of the screen only: what is given must be that."""

from __future__ import annotations

import threading
from pathlib import Path

import numpy as np
import pypdfium2

from plinto_core.arrays import Pixels
from plinto_core.errors import BadDocument
from plinto_core.words import say

LARGEST = 2000
_LOCK = threading.Lock()
"""The renderer must not be used by two threads at once."""


def render_page(
    source: Path | bytes, number: int, edge: int, *, most: int = LARGEST
) -> tuple[Pixels, tuple[float, float]]:
    """A page (from 1) as (height, width, 3) uint8, its longer edge at `edge` pixels (`most` at most),
    and its size in points; raises BadDocument."""
    with _LOCK:
        try:
            with pypdfium2.PdfDocument(source) as document:
                if not 1 <= number <= len(document):
                    raise BadDocument(say("document.no-page", number=number))
                page = document[number - 1]
                width, height = page.get_size()
                scale = min(edge, most) / max(width, height, 1.0)
                pixels = page.render(scale=scale, prefer_bgrx=False).to_numpy()
        except pypdfium2.PdfiumError as error:
            raise BadDocument(say("document.page-not-drawn")) from error
    rgb = pixels[..., 2::-1] if pixels.shape[2] >= 3 else pixels.repeat(3, 2)
    return np.ascontiguousarray(rgb), (width, height)


def page_size(source: Path, number: int) -> tuple[float, float]:
    """Width and height of a page (from 1) in points; raises BadDocument."""
    with _LOCK:
        try:
            with pypdfium2.PdfDocument(source) as document:
                if not 1 <= number <= len(document):
                    raise BadDocument(say("document.no-page", number=number))
                width, height = document[number - 1].get_size()
        except pypdfium2.PdfiumError as error:
            raise BadDocument(say("document.page-not-drawn")) from error
    return float(width), float(height)
