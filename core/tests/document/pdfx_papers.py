"""Small documents for the clauses of ISO 15930: each changes one thing of a document that keeps all.

`one` names the rule broken in PDF/X-1a, `three` in PDF/X-3, `four` in PDF/X-4; "" where it is kept.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np
import pikepdf
from pikepdf import Array, Dictionary, Name

from corpus import ramp, stream
from paperwork import Paper
from plinto_core.document.rules.standards import Standard
from plinto_core.icc.profile import Profile

INK = "0.2 0.1 0 0.3 k 0 0 50 50 re f 0.5 g 60 0 50 50 re f"
BOX = "0 0 9 9 re f"


@dataclass(frozen=True)
class Case:
    name: str
    draw: Callable[..., str | None]
    one: str
    three: str
    four: str

    def broken(self, standard: Standard) -> set[str]:
        part = {"1": self.one, "3": self.three, "4": self.four}[standard[6]]
        return {part} if part else set()


CASES: list[Case] = []


def case(every: str | None = None, *, one: str = "", three: str = "", four: str = "") -> Any:
    """A document; `every` is the rule broken in all parts."""

    def keep(draw: Callable[..., str | None]) -> Any:
        broken = (every, every, every) if every is not None else (one, three, four)
        CASES.append(Case(draw.__name__, draw, *broken))
        return draw

    return keep


def tagged(paper: Paper, profile: Profile) -> str:
    made = stream(paper, profile.data, N=profile.channels)
    paper.put("/ColorSpace", "/Tagged", Array([Name.ICCBased, made]))
    return "/Tagged"


def state(paper: Paper, **entries: Any) -> str:
    paper.put("/ExtGState", "/State", Dictionary(**entries))
    return "/State gs "


def picture(paper: Paper, space: Any = Name.DeviceCMYK, **extra: Any) -> str:
    channels = {"/DeviceCMYK": 4, "/DeviceRGB": 3, "/DeviceGray": 1}.get(str(space), 1)
    pixels = np.full((4, 4, channels), 100, np.uint8)
    paper.put("/XObject", "/Im", paper.image(pixels, space, **extra))
    return "q 9 0 0 9 0 0 cm /Im Do Q"


def spot(alternate: Any, low: list[float], high: list[float]) -> Any:
    return Array([Name.Separation, Name("/Ternholm Red"), alternate, ramp(low, high)])


def text(paper: Paper, font: Any, mode: int = 0) -> str:
    paper.put("/Font", "/F1", paper.pdf.make_indirect(font))
    return f"BT /F1 12 Tf {mode} Tr 10 10 Td (A) Tj ET"


def embedded(paper: Paper, **extra: Any) -> Any:
    held = Dictionary(
        Type=Name.FontDescriptor, FontName=Name.Ternholm, FontFile2=stream(paper, b"outlines")
    )
    return Dictionary(
        Type=Name.Font, Subtype=Name.TrueType, BaseFont=Name.Ternholm, FontDescriptor=held, **extra
    )


def note(paper: Paper, kind: str, box: list[float]) -> None:
    mark = Dictionary(Type=Name.Annot, Subtype=Name(f"/{kind}"), Rect=box)
    paper.page.obj["/Annots"] = Array([paper.pdf.make_indirect(mark)])


def intent(pdf: pikepdf.Pdf) -> Any:
    entries: Any = pdf.Root["/OutputIntents"]
    return entries[0]


COLOURS = "only CMYK, grey and spot colours"
BARE = "bare colours are those of the output intent"
INTENT = "an output intent of PDF/X"
KEY = "the version key"
TRAPPED = "whether it is trapped"
TITLE = "title and dates"
ACTIONS = "no actions and scripts"
FINISHED = "a trim box or an art box"
WITHIN = "boxes lie within each other"
NOTES = "no annotations on what is printed"
FONTS = "fonts are embedded"
PACKING = "compression"
TRANSFER = "no transfer functions"
SEEN_THROUGH = "no transparency"
HALFTONES = "halftones"
SPOTS = "a spot colour looks the same everywhere"
