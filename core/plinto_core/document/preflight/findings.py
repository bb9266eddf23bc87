"""What the checks of a policy find in a document, each check once with its pages and places."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

import pikepdf

from plinto_core.document.pdf.tree import inherited
from plinto_core.document.pdfx.marking import set_trim_boxes
from plinto_core.document.pdfx.parts import annotations_on_print, box_of_page
from plinto_core.document.reports.report import CheckFinding, Place, StandardCheck
from plinto_core.document.rules.checks import Check, CheckName
from plinto_core.document.rules.policy import OutputPolicy
from plinto_core.document.walking.walk import DocumentWalk
from plinto_core.document.walking.watch import Sighting, Watch
from plinto_core.errors import PolicyStop
from plinto_core.words import say

_MOST_PLACES = 400
_MM = 72 / 25.4
_OF_CONTENT: frozenset[CheckName] = frozenset({
    "hairlines", "mixed lines", "mixed text", "white overprints", "fonts", "coarse images",
    "coarse line art", "image total", "vector total",
})  # fmt: skip
"""Checks of what content shows; the others look at the document."""


def findings(pdf: pikepdf.Pdf, policy: OutputPolicy, walk: DocumentWalk) -> list[CheckFinding]:
    """The findings of all checks but that of the result's standard, in the order of the policy.

    Call after the walk and before anything of the document is mended.
    """
    of_content = {f.check: f for f in content_findings(policy, walk.watch)}
    found = [
        of_content.get(c.what) if c.what in _OF_CONTENT else _of_document(c, pdf, policy, walk)
        for c in policy.checks
    ]
    return [f for f in found if f is not None]


def content_findings(policy: OutputPolicy, watch: Watch | None) -> list[CheckFinding]:
    """The findings of the checks that look at what is painted."""
    seen = list(watch.seen.values()) if watch is not None else []
    found = [
        _of_content(check, [s for s in seen if s.check == check.what])
        for check in policy.checks
        if check.what in _OF_CONTENT
    ]
    return [f for f in found if f is not None]


def made(
    check: Check, pages: Iterable[int], values: dict[str, Any] | None = None, **known: Any
) -> CheckFinding:
    """A finding of a check; values : that its sentence is made of."""
    values = values or {}
    return CheckFinding(
        check=check.what,
        title=check.kind.title,
        severity=check.severity,
        text=say(f"preflight.{check.what.replace(' ', '-')}", **values),
        pages=tuple(sorted(set(pages))),
        **known,
    )


def _of_content(check: Check, seen: list[Sighting]) -> CheckFinding | None:
    seen = [s for s in seen if s.count]
    if not seen:
        return None
    worst = [s.worst for s in seen if s.worst is not None]
    most = check.what in ("image total", "vector total")
    count = sum(s.count for s in seen)
    words = sorted({w for s in seen for w in s.words})
    values = {
        "count": count,
        "worst": (max(worst) if most else min(worst)) if worst else 0,
        "words": words,
    }
    places = [
        Place(page=s.page, box=b) for s in sorted(seen, key=lambda s: s.page) for b in s.boxes
    ]
    return made(
        check, (s.page for s in seen), values, count=count, places=tuple(places[:_MOST_PLACES])
    )


def _of_document(
    check: Check, pdf: pikepdf.Pdf, policy: OutputPolicy, walk: DocumentWalk
) -> CheckFinding | None:
    what = check.what
    if what == "transparency" and walk.transparent:
        reasons = sorted(set(walk.transparent.values()))
        return made(check, walk.transparent, {"reasons": reasons})
    if what == "blending":
        pages = walk.found.blended_in_rgb
        return made(check, pages) if pages else None
    if what == "spot colours" and len(walk.found.spots) > check.value:
        names = sorted(walk.found.spots)
        return made(check, (), {"count": len(names), "names": names}, count=len(names))
    if what == "layers" and "/OCProperties" in pdf.Root:
        return made(check, ())
    if what == "restrictions" and pdf.is_encrypted:
        return made(check, ())
    if what in ("trim", "bleed"):
        return _boxes(check, pdf)
    if what == "annotations":
        return _annotations(check, pdf)
    return None


def _boxes(check: Check, pdf: pikepdf.Pdf) -> CheckFinding | None:
    pages = []
    least: float | None = None
    for number, page in enumerate(pdf.pages, 1):
        trim = box_of_page(page.obj.get("/TrimBox")) or box_of_page(page.obj.get("/ArtBox"))
        if check.what == "trim":
            if trim is None:
                pages.append(number)
            continue
        sheet = box_of_page(inherited(page, "/MediaBox"))
        bleed = (
            box_of_page(page.obj.get("/BleedBox"))
            or box_of_page(inherited(page, "/CropBox"))
            or sheet
        )
        if sheet is None or bleed is None:
            continue
        cut = trim or bleed
        beyond = (
            min(cut[0] - bleed[0], cut[1] - bleed[1], bleed[2] - cut[2], bleed[3] - cut[3]) / _MM
        )
        if beyond < check.value - 0.005:
            pages.append(number)
            least = beyond if least is None else min(least, beyond)
    if not pages:
        return None
    return made(check, pages, {"least": max(0.0, least or 0.0)}, count=len(pages))


def _annotations(check: Check, pdf: pikepdf.Pdf) -> CheckFinding | None:
    places = [
        Place(page=number, box=box)
        for number, page in enumerate(pdf.pages, 1)
        for _, box in annotations_on_print(page)
    ]
    if not places:
        return None
    return made(
        check, (p.page for p in places), {"count": len(places)},
        count=len(places), places=tuple(places[:_MOST_PLACES]),
    )  # fmt: skip


def of_standard(policy: OutputPolicy, kept: StandardCheck | None) -> list[CheckFinding]:
    """The finding of a result that does not keep the standard that the policy names."""
    check = policy.check("standard")
    if check is None or kept is None or not kept.breaches:
        return []
    rules = list(dict.fromkeys(b.rule for b in kept.breaches))
    pages = {p for b in kept.breaches for p in b.pages}
    values = {"standard": kept.standard, "rules": rules}
    return [made(check, pages, values, count=len(kept.breaches))]


def refuse_stopped(found: Iterable[CheckFinding]) -> None:
    """Raise PolicyStop where a check stops the document."""
    stops = [f for f in found if f.severity == "stop"]
    if stops:
        said = " ".join(f"{f.title}: {f.text}" for f in stops)
        raise PolicyStop(say("document.checks-stop", found=said))


def mend_document(pdf: pikepdf.Pdf, policy: OutputPolicy) -> None:
    """What checks mend outside content: trim boxes and annotations. Lines and overprint are mended as
    content is walked."""
    trim, notes = policy.check("trim"), policy.check("annotations")
    if trim is not None and trim.severity == "mend":
        set_trim_boxes(pdf)
    if notes is not None and notes.severity == "mend":
        for page in pdf.pages:
            _without_annotations(page)


def _without_annotations(page: pikepdf.Page) -> None:
    found = list(annotations_on_print(page))
    if not found:
        return
    gone = {a.objgen for a, _ in found if a.is_indirect}
    kept = [
        a for a in page.obj["/Annots"]
        if not (a.is_indirect and a.objgen in gone)
        and not (not a.is_indirect and any(a == b for b, _ in found))
    ]  # fmt: skip
    if kept:
        page.obj["/Annots"] = pikepdf.Array(kept)
    else:
        del page.obj["/Annots"]
