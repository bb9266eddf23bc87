"""Run an output policy on a PDF, dry or for real, and report what was found and done."""

from __future__ import annotations

import time
from pathlib import Path
from typing import Any

import pikepdf

from plinto_core.arrays import Progress
from plinto_core.document.pdf.bare import bare_inks
from plinto_core.document.pdf.layers import layers_of
from plinto_core.document.pdf.opening import UNREADABLE, open_document
from plinto_core.document.pdf.shelf import Shelf
from plinto_core.document.pdf.spaces import DEFAULTS
from plinto_core.document.pdf.transfer import count_transfer
from plinto_core.document.pdfx.breach import breach_data
from plinto_core.document.pdfx.check import check_document
from plinto_core.document.pdfx.claims import end_claims
from plinto_core.document.pdfx.marking import mark, title_of
from plinto_core.document.pdfx.output_intent import read_output_intent, write_output_intent
from plinto_core.document.preflight.findings import (
    findings,
    mend_document,
    of_standard,
    refuse_stopped,
)
from plinto_core.document.reports.report import PolicyReport, StandardCheck
from plinto_core.document.rules.colours import ColourMapper
from plinto_core.document.rules.painting import Painter
from plinto_core.document.rules.policy import OutputPolicy
from plinto_core.document.rules.standards import EDITIONS, Edition
from plinto_core.document.runs.collecting import seldom_collected
from plinto_core.document.runs.forecast import forecast
from plinto_core.document.runs.page_groups import part_pages
from plinto_core.document.walking.second_pair import second_pair
from plinto_core.document.walking.walk import DocumentWalk
from plinto_core.errors import BadDocument
from plinto_core.icc.profile import Profile
from plinto_core.imaging.writer import whole_or_none
from plinto_core.recipes.sources import Resolve
from plinto_core.transform.standard_spaces import standard_profile
from plinto_core.words import Said, say

_ENDS = {"remove": "removed", "apply": "applied"}


def inventory(path: Path, *, progress: Progress = lambda share: None) -> PolicyReport:
    """All objects of a PDF with spaces, profiles, pixels, resolution and inks; nothing is changed."""
    policy = OutputPolicy(name="Inventory", destination="srgb")
    return _run(policy, path, None, standard_profile, progress, weighs=False)


def dry_run(
    policy: OutputPolicy, path: Path, resolve: Resolve, *, progress: Progress = lambda share: None
) -> PolicyReport:
    """What the policy would do to a PDF; raises BadDocument or BadRecipe."""
    return _run(policy, path, None, resolve, progress)


def run_policy(
    policy: OutputPolicy, path: Path, target: Path, resolve: Resolve, *,
    progress: Progress = lambda share: None,
) -> PolicyReport:  # fmt: skip
    """Apply the policy; the result appears under `target` only when complete.

    Raises PolicyStop where a rule stops the document, BadDocument for what cannot be read.
    """
    if path.exists() and target.exists() and path.samefile(target):
        raise BadDocument(say("document.same-file"))
    return _run(policy, path, target, resolve, progress)


def _run(
    policy: OutputPolicy, path: Path, target: Path | None, resolve: Resolve, progress: Progress, *,
    weighs: bool = True,
) -> PolicyReport:  # fmt: skip
    """weighs : whether a dry run says how large the result will be."""
    try:
        with seldom_collected():
            return _worked(policy, path, target, resolve, progress, weighs and target is None)
    except UNREADABLE as error:
        raise BadDocument(say("document.root-damaged")) from error


def _worked(
    policy: OutputPolicy, path: Path, target: Path | None, resolve: Resolve, progress: Progress,
    weighs: bool,
) -> PolicyReport:  # fmt: skip
    began = time.monotonic()
    with open_document(path) as pdf, Shelf((target or path).parent) as shelf:
        own = read_output_intent(pdf)
        destination = _destination(policy, own, resolve)
        painter = Painter(policy, ColourMapper(policy, destination, resolve))
        walk = DocumentWalk(pdf, painter, apply=target is not None, weighs=weighs, shelf=shelf)
        total = len(pdf.pages)
        part_pages(pdf, policy)
        note_restrictions(pdf, walk)
        size = forecast(pdf, policy, destination) if weighs else None
        writes = target is not None
        with second_pair(
            path, policy, destination, resolve, total, apply=writes, weighs=weighs
        ) as pair:
            for number in walk.pages(pair):
                progress(0.8 * number / total)
        found = findings(pdf, policy, walk)
        after: dict[str, Any] = {}
        if target is not None:
            refuse_stopped(found)
        walk.found.remarks += _end_transfer(pdf, walk, remove=target is not None)
        if target is not None:
            mend_document(pdf, policy)
            _remove_defaults(pdf, painter)
            if policy.bare_cmyk and painter.mapper.family == "CMYK":
                bare_inks(pdf)
            write_output_intent(pdf, destination, policy)
            walk.found.remarks += [
                say("document.claim-ended", claim=claim) for claim in end_claims(pdf)
            ]
            with whole_or_none(target) as temporary:
                pdfx = _save(pdf, temporary, policy, path, walk, shelf)
                found += of_standard(policy, pdfx)
                refuse_stopped(found)
            after = {
                "size_after": target.stat().st_size,
                "output_intent_after": destination.description if policy.output_intent else None,
                "pdfx": pdfx,
            }
        if size is not None:
            after["size_forecast"] = max(0, size + walk.pictures.growth)
        report = walk.found.report(
            path,
            policy,
            pages=len(pdf.pages),
            destination=destination.description,
            inks=painter.mapper.inks,
            output_intent=own.description if own else None,
            layers=layers_of(pdf),
            transparency=bool(walk.transparent),
            fonts=tuple(sorted(walk.fonts)[:500]),
            findings=tuple(found),
            pdfx_before=_standard(path, policy),
            seconds=round(time.monotonic() - began, 3),
            **after,
        )
    progress(1.0)
    return report


def note_restrictions(pdf: pikepdf.Pdf, walk: DocumentWalk) -> None:
    """Say that an owner's restrictions end here: a document whose colours are changed is a new one."""
    if not pdf.is_encrypted:
        return
    allowed = pdf.allow
    kept = [
        word
        for word, free in (
            ("printing in high quality", allowed.print_highres),
            ("changes", allowed.modify_other),
            ("copying", allowed.extract),
        )
        if not free
    ]
    wording = "document.restricted-in" if kept else "document.restricted"
    walk.found.remarks.append(say(wording, rights=kept))


def _end_transfer(pdf: pikepdf.Pdf, walk: DocumentWalk, *, remove: bool) -> list[Said]:
    """Take transfer functions out where the policy has them applied or removed, and say so."""
    policy = walk.painter.policy
    if policy.transfer == "keep":
        return []
    count = count_transfer(pdf, remove=remove)
    if not count:
        return []
    said = [say(f"document.transfer-{_ENDS[policy.transfer]}", count=count)]
    if policy.transfer == "apply" and walk.transparent:
        said.append(say("document.transfer-mixed"))
    return said


def save_checked(
    pdf: pikepdf.Pdf, target: Path, edition: Edition | None = None, shelf: Shelf | None = None
) -> None:
    """Write a result and open it again as a receiver would: as many pages, with the same boxes.

    edition : of the standard it is made for, which decides the PDF version and whether objects may be
    packed; shelf : where streams of it lie. Raises BadDocument where a repaired source does not come out
    whole.
    """
    packs = edition is None or edition.modern
    modes = pikepdf.ObjectStreamMode
    how: dict[str, Any] = {
        "deterministic_id": True,
        "object_stream_mode": modes.generate if packs else modes.disable,
        "force_version": edition.version if edition else "",
    }
    try:
        pdf.save(target, compress_streams=True, **how)
        if shelf is not None:
            shelf.restore(target, edition.version if edition else "", packs=packs)
        if pdf.is_linearized:
            _linearise(target, how)
        with pikepdf.open(target, attempt_recovery=False) as again:
            same = len(again.pages) == len(pdf.pages) and all(
                _boxes(a) == _boxes(b) for a, b in zip(again.pages, pdf.pages, strict=True)
            )
    except (pikepdf.PdfError, RuntimeError, ValueError, TypeError) as error:
        raise BadDocument(say("document.not-whole")) from error
    if not same:
        raise BadDocument(say("document.result-pages"))


def _linearise(target: Path, how: dict[str, Any]) -> None:
    """Put a result in the order in which its first page is shown before the rest has come (ISO 32000-2, F)."""
    plain = target.with_name(f"{target.name}.plain")
    target.replace(plain)
    try:
        with pikepdf.open(plain) as pdf:
            pdf.save(target, linearize=True, **how)
    finally:
        plain.unlink()


def _boxes(page: pikepdf.Page) -> list[list[float]]:
    return [
        [round(float(v), 2) for v in box] for box in (page.mediabox, page.cropbox, page.trimbox)
    ]


def _standard(path: Path, policy: OutputPolicy) -> StandardCheck | None:
    """How a document keeps the standard that the policy names."""
    if policy.pdfx == "none":
        return None
    breaches = breach_data(check_document(path, policy.pdfx))
    return StandardCheck(standard=policy.pdfx, breaches=breaches)


def _save(
    pdf: pikepdf.Pdf,
    target: Path,
    policy: OutputPolicy,
    source: Path,
    walk: DocumentWalk,
    shelf: Shelf,
) -> StandardCheck | None:
    """Write a result and check it by the standard that the policy names, marked where it keeps it."""
    if policy.pdfx == "none":
        save_checked(pdf, target, shelf=shelf)
        return None
    edition = EDITIONS[policy.pdfx]
    if not policy.pdfx_made:
        save_checked(pdf, target, shelf=shelf)
        return _standard(target, policy)
    walk.found.remarks += mark(pdf, edition, title_of(source))
    save_checked(pdf, target, edition, shelf)
    breaches = breach_data(check_document(target, policy.pdfx))
    if breaches:
        # Nothing may claim what is not so.
        end_claims(pdf)
        save_checked(pdf, target, edition, shelf)
    return StandardCheck(standard=policy.pdfx, breaches=breaches, marked=not breaches)


def _destination(policy: OutputPolicy, own: Profile | None, resolve: Resolve) -> Profile:
    if policy.own_intent and own is not None:
        return own
    return resolve(policy.destination)


def _remove_defaults(pdf: pikepdf.Pdf, painter: Painter) -> None:
    """A default space for the numbers that are written would give them another meaning; what was left
    names its space by now."""
    keys = [DEFAULTS[family] for family in painter.lost_defaults]
    for thing in pdf.objects:
        if isinstance(thing, pikepdf.Dictionary | pikepdf.Stream):
            resources = thing.get("/Resources")
            if isinstance(resources, pikepdf.Dictionary) and "/ColorSpace" in resources:
                spaces = resources["/ColorSpace"]
                for key in keys:
                    if isinstance(spaces, pikepdf.Dictionary) and key in spaces:
                        del spaces[key]
