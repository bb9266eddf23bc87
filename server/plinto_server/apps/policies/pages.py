"""Pages of documents as pictures. What is given must hold screen RGB to be judged by eye."""

from __future__ import annotations

import threading
from pathlib import Path

import numpy as np
import pypdfium2

from plinto_core.errors import BadDocument
from plinto_server.apps.jobs.png import encode

_LOCK = threading.Lock()
"""The renderer must not be used by two threads at once."""
LARGEST = 2000


def page_picture(source: Path | bytes, number: int, edge: int) -> tuple[bytes, tuple[float, float]]:
    """A page (from 1) as PNG with its longer edge at `edge`, and its size in points."""
    with _LOCK:
        try:
            with pypdfium2.PdfDocument(source) as document:
                if not 1 <= number <= len(document):
                    raise BadDocument(f"The document has no page {number}.")
                page = document[number - 1]
                width, height = page.get_size()
                scale = min(edge, LARGEST) / max(width, height, 1.0)
                pixels = page.render(scale=scale).to_numpy()
        except pypdfium2.PdfiumError as error:
            raise BadDocument("The page cannot be drawn.") from error
    rgb = np.ascontiguousarray(pixels[..., 2::-1] if pixels.shape[2] >= 3 else pixels.repeat(3, 2))
    return encode(rgb), (width, height)
