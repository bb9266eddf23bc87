"""Make a document say that it keeps a part of ISO 15930, with what that part asks it to say.

What can be set without changing how anything prints is mended and said; whether all else is kept is
checked afterwards, and the claim is taken back where it is not.
"""

from __future__ import annotations

import uuid
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import pikepdf
from pikepdf.models.metadata import decode_pdf_date, encode_pdf_date

from plinto_core.document.pdf.opening import UNREADABLE
from plinto_core.document.pdf.tree import inherited
from plinto_core.document.pdfx.masks import grey_masks
from plinto_core.document.rules.standards import CLAIM_IN_METADATA, Edition
from plinto_core.words import Said, say


def mark(pdf: pikepdf.Pdf, edition: Edition, name: str) -> list[Said]:
    """Mark a document as a PDF/X file; returns what was mended for it, in words.

    name : the document's title where it has none.
    """
    mended = [*_boxes(pdf), *_actions(pdf)]
    if edition.modern and (masks := grey_masks(pdf)):
        mended.append(say("pdfx.masks-grey", count=masks))
    info: Any = pdf.docinfo
    for key, value in edition.info:
        info[key] = value
    if str(info.get("/Trapped", "")) not in ("/True", "/False"):
        info["/Trapped"] = pikepdf.Name("/False")
        mended.append(say("pdfx.trapped-taken"))
    if not str(info.get("/Title", "")):
        info["/Title"] = name
        mended.append(say("pdfx.title-given", title=name))
    now = datetime.now(UTC)
    if not _date(info.get("/CreationDate")):
        info["/CreationDate"] = encode_pdf_date(now)
    info["/ModDate"] = encode_pdf_date(now)
    if "/Version" in pdf.Root:
        del pdf.Root["/Version"]
    _metadata(pdf, edition, info, now)
    return mended


def _date(given: Any) -> datetime | None:
    try:
        return decode_pdf_date(str(given)) if given is not None else None
    except ValueError:
        return None


def _boxes(pdf: pikepdf.Pdf) -> list[Said]:
    """Give every page one finished size."""
    both = [n for n, p in enumerate(pdf.pages, 1) if "/TrimBox" in p.obj and "/ArtBox" in p.obj]
    for number in both:
        del pdf.pages[number - 1].obj["/ArtBox"]
    without = set_trim_boxes(pdf)
    said = []
    if without:
        said.append(say("pdfx.trim-given", count=len(without), page=without[0]))
    if both:
        said.append(say("pdfx.trim-stays", count=len(both), page=both[0]))
    return said


def set_trim_boxes(pdf: pikepdf.Pdf) -> list[int]:
    """Make what is shown of a page its trim box where it has none; the numbers of those pages."""
    without = [
        n for n, p in enumerate(pdf.pages, 1) if "/TrimBox" not in p.obj and "/ArtBox" not in p.obj
    ]
    for number in without:
        page = pdf.pages[number - 1]
        shown = inherited(page, "/CropBox")
        page.obj["/TrimBox"] = shown if shown is not None else inherited(page, "/MediaBox")
    return without


def _actions(pdf: pikepdf.Pdf) -> list[Said]:
    """Nothing happens by itself in a document for the press."""
    root = pdf.Root
    said = []
    names = root.get("/Names")
    if isinstance(names, pikepdf.Dictionary) and "/JavaScript" in names:
        del names["/JavaScript"]
        said.append(say("pdfx.scripts-out"))
    holders = [root, *(page.obj for page in pdf.pages)]
    acts = [h for h in holders if "/AA" in h]
    for holder in acts:
        del holder["/AA"]
    if isinstance(root.get("/OpenAction"), pikepdf.Dictionary):
        del root["/OpenAction"]
        acts.append(root)
    if acts:
        said.append(say("pdfx.actions-out"))
    return said


def _metadata(pdf: pikepdf.Pdf, edition: Edition, info: Any, now: datetime) -> None:
    """The metadata that PDF/X-4 asks for, and those of the others that stand there, made to agree."""
    if not edition.modern and "/Metadata" not in pdf.Root:
        return
    try:
        _write_metadata(pdf, edition, info, now)
    except (*UNREADABLE, SyntaxError):
        # Metadata that nobody can read are replaced by ones that can be.
        del pdf.Root["/Metadata"]
        if edition.modern:
            _write_metadata(pdf, edition, info, now)


def _write_metadata(pdf: pikepdf.Pdf, edition: Edition, info: Any, now: datetime) -> None:
    with pdf.open_metadata(set_pikepdf_as_editor=False, update_docinfo=False) as metadata:
        metadata["dc:title"] = str(info["/Title"])
        metadata["pdf:Trapped"] = str(info["/Trapped"]).removeprefix("/")
        made = _date(info.get("/CreationDate")) or now
        metadata["xmp:CreateDate"] = made.isoformat(timespec="seconds")
        metadata["xmp:ModifyDate"] = metadata["xmp:MetadataDate"] = now.isoformat(
            timespec="seconds"
        )
        if edition.modern:
            metadata[CLAIM_IN_METADATA] = edition.name
            if "xmpMM:DocumentID" not in metadata:
                metadata["xmpMM:DocumentID"] = f"uuid:{uuid.uuid4()}"
            metadata["xmpMM:VersionID"] = str(metadata.get("xmpMM:VersionID") or "1")
            metadata["xmpMM:RenditionClass"] = str(
                metadata.get("xmpMM:RenditionClass") or "default"
            )


def title_of(path: Path) -> str:
    """What a document without a title is called: its file's name."""
    return path.stem[:200] or "Document"
