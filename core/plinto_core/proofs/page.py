"""A judged proof as PDF pages: whether it passes, what was asked, every patch."""

from __future__ import annotations

from plinto_core.pages import HEAD, STRONG, TITLE, lab_said, pages, paragraph, table
from plinto_core.proofs.judging import Judgement
from plinto_core.proofs.making import ProofReport

CRITERIA = {
    "paper": "Paper, dE00",
    "mean": "All patches, mean dE00",
    "p95": "All patches, 95 % below, dE00",
    "most": "All patches, greatest dE00",
    "solids": "Solids, greatest dE00",
    "solid_hue": "Chromatic solids, greatest dH*ab",
    "greys": "Greys, mean dCh",
}
VERDICTS = {
    True: "It passes.",
    False: "It fails.",
    None: "Nothing was asked, so nothing is judged.",
}


def judgement_pdf(proof: ProofReport, found: Judgement, read_by: str) -> bytes:
    """A4 pages; read_by : how and when the strip was read."""
    parts = [
        paragraph("Proof print", TITLE),
        paragraph(f"{proof.press}, shown by {proof.proofer}, {proof.intent} colorimetric."),
        *(paragraph(line) for line in proof.text),
        paragraph(read_by),
        paragraph(VERDICTS[found.passes], HEAD),
        paragraph(f"By the tolerances {found.tolerances.name!r}."),
        *(paragraph(sign, STRONG) for sign in found.signs),
    ]
    rows = [
        [
            CRITERIA[c.key],
            f"{c.value:.2f}",
            "not judged" if c.limit is None else f"{c.limit:g}",
            {True: "kept", False: "missed", None: ""}[c.within],
        ]
        for c in found.criteria
    ]
    parts.append(table([["Asked", "Found", "At most", ""], *rows]))
    parts.append(paragraph("Patches, absolute Lab", HEAD))
    rows = [
        [
            p.name, lab_said(p.aim), lab_said(p.read), f"{p.de00:.2f}",
            {True: "kept", False: "missed", None: ""}[p.within],
        ]
        for p in found.patches
    ]  # fmt: skip
    parts.append(table([["Patch", "Press", "Read", "dE00", ""], *rows]))
    return pages("Proof print", parts)
