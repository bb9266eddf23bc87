"""What a policy's run, dry or real, says of a document."""

from __future__ import annotations

from collections import Counter
from typing import Literal

from plinto_core.document.pdf.items import Box, Item, Unhandled
from plinto_core.fields import Part, Report
from plinto_core.words import Said


class FlowRow(Part):
    """Objects of one kind and space that meet one rule (0 for none) and come out as one thing."""

    space: str
    objects: str
    spot: str
    rule: int
    action: str
    outcome: str
    count: int


class HighestTotals(Part):
    """Percent, None where no object has inks; rule : the policy's limit."""

    before: float | None
    after: float | None
    rule: float | None


class BrokenRule(Part):
    """pages : empty for the whole document; where : the same in words."""

    rule: Said
    text: Said
    pages: tuple[int, ...]
    where: Said


class Place(Part):
    """Where something lies on a page; box : left, bottom, right, top in points."""

    page: int
    box: Box


class CheckFinding(Part):
    """What a check of the policy found. severity : report, warn, stop or mend; pages : empty for the
    whole document; count : objects, or pages; places : some of them, up to a bound."""

    check: str
    title: str
    severity: str
    text: Said
    pages: tuple[int, ...] = ()
    count: int = 1
    places: tuple[Place, ...] = ()


class StandardCheck(Part):
    """A part of ISO 15930 that a document was checked against; marked : whether it says that it keeps it."""

    standard: str
    breaches: tuple[BrokenRule, ...]
    marked: bool = False


class ColourKept(Part):
    """How far colours move, CIEDE2000 over all objects (an image as one): mean, 95th percentile and
    greatest; objects : whose difference is known; unknown : objects with colours whose difference is not, as
    spot colours that are kept. of : what was compared; of a picture it is the pixels of a sample."""

    mean: float
    p95: float
    greatest: float
    objects: int
    unknown: int = 0
    of: Literal["objects", "pixels"] = "objects"


class PolicyReport(Report):
    """inks : of the destination, as colorants are named, in the order of what comes out; size_before, size_after : bytes; size_after, output_intent_after and pdfx are of a real run, size_forecast and colour of a dry one;
    findings : of the policy's checks; pdfx_before : of the document as it came;
    remarks : of the document as a whole, in words; objects_left_out : how many are counted in `flow` but not listed; stops : objects that stop it."""

    document: str
    pages: int
    policy: str
    destination: str
    inks: tuple[str, ...] = ()
    output_intent: str | None
    flow: tuple[FlowRow, ...]
    objects: tuple[Item, ...]
    objects_left_out: int = 0
    stops: int
    not_handled: tuple[Unhandled, ...]
    tac: HighestTotals
    over_tac: int
    transparency: bool = False
    layers: tuple[str, ...] = ()
    fonts: tuple[str, ...] = ()
    spots: tuple[str, ...] = ()
    remarks: tuple[Said, ...] = ()
    size_before: int
    size_after: int | None = None
    size_forecast: int | None = None
    colour: ColourKept | None = None
    output_intent_after: str | None = None
    findings: tuple[CheckFinding, ...] = ()
    pdfx_before: StandardCheck | None = None
    pdfx: StandardCheck | None = None
    seconds: float

    @property
    def wants_a_look(self) -> bool:
        """Whether a check found what is to be looked at before printing."""
        return any(f.severity in ("warn", "stop") for f in self.findings)

    def left_in_other_colours(self, family: str) -> dict[str, int]:
        """How many objects stay in RGB, CMYK or Lab where the destination is of another family.

        Grey is black ink or screen grey anywhere; spot colours are inks of their own. CMYK prints with the
        inks of that name where a destination of other inks has them too.
        """
        if {"Cyan", "Magenta", "Yellow", "Black"} <= set(self.inks):
            family = "CMYK"
        left: Counter[str] = Counter()
        for row in self.flow:
            other = row.space in ("RGB", "CMYK", "Lab") and row.space != family
            if other and row.action not in ("convert", "black", "stop"):
                left[row.space] += row.count
        return dict(left)
