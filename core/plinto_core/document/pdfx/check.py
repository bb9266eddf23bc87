"""A document checked against a part of ISO 15930: all that is looked at, in one list of breaches.

docs/methods/documents.md names what is looked at and what is not; the texts of the standards were not
at hand, so the rules are those that are known of them.
"""

from __future__ import annotations

from pathlib import Path

from plinto_core.document.pdf.opening import UNREADABLE, open_document
from plinto_core.document.pdfx.breach import Breach, together
from plinto_core.document.pdfx.colours import colour_breaches
from plinto_core.document.pdfx.parts import (
    file_breaches,
    font_breaches,
    page_breaches,
    picture_breaches,
    state_breaches,
)
from plinto_core.document.pdfx.uses import Uses
from plinto_core.document.rules.standards import EDITIONS, Standard
from plinto_core.errors import BadDocument
from plinto_core.words import say


def check_document(path: Path, standard: Standard) -> list[Breach]:
    """Every breach found of a standard, [] for none; raises BadDocument where a PDF is unreadable."""
    edition = EDITIONS[standard]
    with open_document(path) as pdf:
        try:
            uses = Uses(pdf)
            found = [
                *file_breaches(path, pdf, edition),
                *page_breaches(pdf),
                *font_breaches(uses),
                *picture_breaches(uses, edition),
                *state_breaches(uses, edition),
                *colour_breaches(pdf, uses, edition),
            ]
        except UNREADABLE as error:
            raise BadDocument(say("document.root-damaged")) from error
        found += [
            Breach(say("pdfx.rule-readable"), say("pdfx.content-unreadable"), (page,))
            for page in uses.damaged
        ]
    return together(found)
