"""Opening documents that may be damaged, encrypted or hostile."""

from __future__ import annotations

import logging
import warnings
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import pikepdf

from plinto_core.document.pdf.bounds import begin_document
from plinto_core.errors import BadDocument
from plinto_core.words import say

# What is damaged is said in reports; the library's own remarks would reach terminals and logs.
logging.getLogger("pikepdf").setLevel(logging.CRITICAL)
warnings.filterwarnings("ignore", category=UserWarning, module=r"pikepdf\.")
MOST_PAGES = 20_000
UNREADABLE = (
    pikepdf.PdfError, TypeError, ValueError, LookupError, AttributeError, ArithmeticError, RuntimeError,
    NotImplementedError,
)  # fmt: skip
"""What reading a damaged object raises: it is of another type, is missing, or holds what it must not."""
_MAX_FILE = 8 << 30


def is_pdf(path: Path) -> bool:
    """Whether a file begins as a PDF does (within its first kilobyte)."""
    try:
        with path.open("rb") as file:
            return b"%PDF-" in file.read(1024)
    except OSError:
        return path.suffix.lower() == ".pdf"


@contextmanager
def open_document(path: Path) -> Iterator[pikepdf.Pdf]:
    """A PDF that can be read; raises BadDocument for a damaged, encrypted or huge one."""
    try:
        size = path.stat().st_size
        if size > _MAX_FILE:
            raise BadDocument(say("document.file-large"))
        pdf = pikepdf.open(path)
    except OSError as error:
        raise BadDocument(say("document.file-unreadable", file=path.name)) from error
    except pikepdf.PasswordError as error:
        raise BadDocument(say("document.password")) from error
    except (pikepdf.PdfError, RuntimeError, ValueError) as error:
        raise BadDocument(say("document.no-pdf")) from error
    begin_document()
    with pdf:
        try:
            count = len(pdf.pages)
        except (pikepdf.PdfError, RuntimeError, RecursionError) as error:
            raise BadDocument(say("document.pages-lost")) from error
        if not 1 <= count <= MOST_PAGES:
            raise BadDocument(say("document.page-count", count=count, most=MOST_PAGES))
        yield pdf
