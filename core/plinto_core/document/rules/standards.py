"""The parts of ISO 15930 that documents are checked against, and in what they differ."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

Standard = Literal[
    "PDF/X-1a:2001", "PDF/X-1a:2003", "PDF/X-3:2002", "PDF/X-3:2003", "PDF/X-4"
]  # fmt: skip


@dataclass(frozen=True)
class Edition:
    """One part of ISO 15930.

    highest : the PDF version it rests on; info : the entries of the document information that claim it,
    none where the claim stands in the metadata; measured : colours with a profile, calibrated ones and
    Lab; icc : the highest major version of a profile; modern : what came after PDF 1.4 (object streams,
    layers, JPEG 2000, 16 bits a channel) and transparency.
    """

    name: Standard
    iso: str
    highest: tuple[int, int]
    info: tuple[tuple[str, str], ...]
    measured: bool
    icc: int
    modern: bool

    @property
    def version(self) -> str:
        """The PDF version as a file's header gives it."""
        return f"{self.highest[0]}.{self.highest[1]}"


_VERSION = "/GTS_PDFXVersion"
EDITIONS: dict[Standard, Edition] = {
    e.name: e
    for e in (
        Edition(
            "PDF/X-1a:2001", "ISO 15930-1", (1, 3),
            ((_VERSION, "PDF/X-1:2001"), ("/GTS_PDFXConformance", "PDF/X-1a:2001")),
            measured=False, icc=2, modern=False,
        ),
        Edition(
            "PDF/X-1a:2003", "ISO 15930-4", (1, 4), ((_VERSION, "PDF/X-1a:2003"),),
            measured=False, icc=2, modern=False,
        ),
        Edition(
            "PDF/X-3:2002", "ISO 15930-3", (1, 3), ((_VERSION, "PDF/X-3:2002"),),
            measured=True, icc=2, modern=False,
        ),
        Edition(
            "PDF/X-3:2003", "ISO 15930-6", (1, 4), ((_VERSION, "PDF/X-3:2003"),),
            measured=True, icc=2, modern=False,
        ),
        Edition("PDF/X-4", "ISO 15930-7", (1, 6), (), measured=True, icc=4, modern=True),
    )
}  # fmt: skip
STANDARDS: tuple[Standard, ...] = tuple(EDITIONS)
CLAIM_IN_METADATA = "pdfxid:GTS_PDFXVersion"
