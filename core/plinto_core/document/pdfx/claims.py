"""What a document says of itself and what does not hold any more once its colours were changed."""

from __future__ import annotations

import pikepdf

from plinto_core.document.pdf.opening import UNREADABLE

_IN_METADATA = (
    "pdfaid:part", "pdfaid:conformance", "pdfaid:amd", "pdfaid:rev", "pdfxid:GTS_PDFXVersion",
    "pdfx:GTS_PDFXVersion", "pdfx:GTS_PDFXConformance", "pdfvtid:GTS_PDFVTVersion", "pdfuaid:part",
)  # fmt: skip
_IN_INFO = ("/GTS_PDFXVersion", "/GTS_PDFXConformance")


def end_claims(pdf: pikepdf.Pdf) -> list[str]:
    """Take claims of conformance out of a document; returns them in words, each once."""
    found: list[str] = []
    info = pdf.trailer.get("/Info")
    if isinstance(info, pikepdf.Dictionary):
        for key in _IN_INFO:
            if key in info:
                found.append(_words(key[1:], str(info[key])))
                del info[key]
    if "/Metadata" in pdf.Root:
        try:
            with pdf.open_metadata(set_pikepdf_as_editor=False, update_docinfo=False) as metadata:
                for key in _IN_METADATA:
                    if key in metadata:
                        found.append(_words(key, str(metadata[key])))
                        del metadata[key]
        except (*UNREADABLE, SyntaxError):
            # Metadata that cannot be read claim nothing that a receiver could read.
            pass
    return list(dict.fromkeys(f for f in found if f))


def _words(key: str, value: str) -> str:
    """A claim for people; "" for what only qualifies another."""
    if key == "pdfaid:part":
        return f"PDF/A-{value}"
    if key == "pdfuaid:part":
        return f"PDF/UA-{value}"
    return value if key.endswith("Version") else ""
