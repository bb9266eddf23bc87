"""Pages of documents as PNG, for the interface."""

from __future__ import annotations

from pathlib import Path

from plinto_core.document.render import render_page
from plinto_server.apps.jobs.png import encode


def page_picture(source: Path | bytes, number: int, edge: int) -> tuple[bytes, tuple[float, float]]:
    """A page (from 1) as PNG with its longer edge at `edge`, and its size in points."""
    pixels, size = render_page(source, number, edge)
    return encode(pixels), size
