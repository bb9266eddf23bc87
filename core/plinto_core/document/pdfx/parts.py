"""What ISO 15930 says of a file, its pages, fonts, images and graphics states."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pikepdf

from plinto_core.document.pdf.items import Box
from plinto_core.document.pdf.opening import UNREADABLE
from plinto_core.document.pdf.tree import inherited
from plinto_core.document.pdfx.breach import Breach
from plinto_core.document.pdfx.uses import Uses
from plinto_core.document.rules.standards import CLAIM_IN_METADATA, Edition
from plinto_core.document.walking.watch import is_embedded
from plinto_core.words import say

_INTENTS = ("/RelativeColorimetric", "/AbsoluteColorimetric", "/Perceptual", "/Saturation")
_BLENDS = {
    "/Normal", "/Compatible", "/Multiply", "/Screen", "/Overlay", "/Darken", "/Lighten", "/ColorDodge",
    "/ColorBurn", "/HardLight", "/SoftLight", "/Difference", "/Exclusion", "/Hue", "/Saturation",
    "/Color", "/Luminosity",
}  # fmt: skip
_PRINTERS = ("/PrinterMark", "/TrapNet")
_EDGE = 0.01
"""Points that boxes may miss each other by: what rounding to two decimals leaves."""
_AREAS = ("/ViewArea", "/ViewClip", "/PrintArea", "/PrintClip")
Found = Iterator[Breach]


def file_breaches(path: Path, pdf: pikepdf.Pdf, edition: Edition) -> Found:
    """Version, encryption, identifier, what the file says of itself, actions and layers."""
    if _version(pdf) > edition.highest:
        yield Breach(say("pdfx.rule-version"), say("pdfx.version", version=_written(_version(pdf)), standard=edition.name, highest=edition.version))  # fmt: skip
    if pdf.is_encrypted:
        yield Breach(say("pdfx.rule-no-encryption"), say("pdfx.encrypted"))
    if "/ID" not in pdf.trailer:
        yield Breach(say("pdfx.rule-identifier"), say("pdfx.none"))
    if not edition.modern:
        ends = _head_and_tail(path)
        if b"/ObjStm" in ends or b"/XRef" in ends:
            yield Breach(
                say("pdfx.rule-no-packed-objects"), say("pdfx.packed-objects")
            )  # fmt: skip
    yield from _said(pdf, edition)
    yield from _actions(pdf)
    if not edition.modern and "/OCProperties" in pdf.Root:
        yield Breach(say("pdfx.rule-no-layers"), say("pdfx.layers"))
    viewer: Any = pdf.Root.get("/ViewerPreferences")
    for key in _AREAS if isinstance(viewer, pikepdf.Dictionary) else ():
        if key in viewer and str(viewer[key]) not in ("/MediaBox", "/BleedBox"):
            yield Breach(say("pdfx.rule-whole-page"), say("pdfx.area", area=key[1:], box=str(viewer[key])[1:]))  # fmt: skip


def _version(pdf: pikepdf.Pdf) -> tuple[int, int]:
    def numbers(text: str) -> tuple[int, int]:
        major, _, minor = text.partition(".")
        return (int(major), int(minor)) if major.isdigit() and minor.isdigit() else (9, 9)

    said = str(pdf.Root.get("/Version", "")).removeprefix("/")
    return max(numbers(pdf.pdf_version), numbers(said) if said else (0, 0))


def _written(version: tuple[int, int]) -> str:
    return f"{version[0]}.{version[1]}"


def _head_and_tail(path: Path, step: int = 1 << 20) -> bytes:
    """The parts of a file that can name object streams: all of a small one, both ends of a large one.

    Streams of objects are written near the end, or at the front of a linearized file.
    """
    with path.open("rb") as file:
        head = file.read(step)
        file.seek(0, 2)
        file.seek(max(step, file.tell() - step) if file.tell() > step else file.tell())
        return head + file.read()


def _said(pdf: pikepdf.Pdf, edition: Edition) -> Found:
    info: Any = pdf.trailer.get("/Info")
    info = info if isinstance(info, pikepdf.Dictionary) else pikepdf.Dictionary()
    metadata = _metadata(pdf)
    for key, wanted in edition.info:
        if (given := str(info.get(key, ""))) != wanted:
            yield Breach(
                say("pdfx.rule-version-key"),
                say("pdfx.version-key", key=key[1:], given=given or "missing", wanted=wanted),
            )
    if not edition.info and (given := metadata.get(CLAIM_IN_METADATA, "")) != edition.name:
        yield Breach(say("pdfx.rule-version-key"), say("pdfx.metadata-version", given=given or 'no version', standard=edition.name))  # fmt: skip
    if edition.name != "PDF/X-1a:2001" and "/GTS_PDFXConformance" in info:
        yield Breach(say("pdfx.rule-version-key"), say("pdfx.conformance-key"))  # fmt: skip
    trapped = {str(info[k]).removeprefix("/") for k in ("/Trapped",) if k in info}
    if edition.modern and "pdf:Trapped" in metadata:
        trapped.add(metadata["pdf:Trapped"])
    if len(trapped) != 1 or not trapped <= {"True", "False"}:
        said = " and ".join(sorted(trapped)) or "nothing"
        yield Breach(say("pdfx.rule-trapped"), say("pdfx.trapped", given=said))
    wanted_of = (("/Title", "dc:title"), ("/CreationDate", "xmp:CreateDate"), ("/ModDate", "xmp:ModifyDate"))  # fmt: skip
    missing = [
        key[1:] for key, meta in wanted_of
        if not str(info.get(key, "")) and not (edition.modern and metadata.get(meta))
    ]  # fmt: skip
    if missing:
        yield Breach(say("pdfx.rule-title-dates"), say("pdfx.missing", missing=list(missing)))
    if edition.modern:
        lacks = [
            m for m in ("xmpMM:DocumentID", "xmpMM:VersionID", "xmpMM:RenditionClass", "xmp:MetadataDate")
            if not metadata.get(m)
        ]  # fmt: skip
        if lacks:
            yield Breach(say("pdfx.rule-metadata"), say("pdfx.metadata-missing", lacks=list(lacks)))


def _metadata(pdf: pikepdf.Pdf) -> dict[str, str]:
    """What the document's metadata say, of the entries that are asked for."""
    wanted = (
        CLAIM_IN_METADATA, "pdf:Trapped", "dc:title", "xmp:CreateDate", "xmp:ModifyDate", "xmp:MetadataDate",
        "xmpMM:DocumentID", "xmpMM:VersionID", "xmpMM:RenditionClass",
    )  # fmt: skip
    try:
        if "/Metadata" not in pdf.Root:
            return {}
        read = pdf.open_metadata()
        return {key: str(read[key]) for key in wanted if key in read}
    except (*UNREADABLE, SyntaxError):
        return {}


def _actions(pdf: pikepdf.Pdf) -> Found:
    rule = say("pdfx.rule-no-actions")
    root: Any = pdf.Root
    names = root.get("/Names")
    if isinstance(names, pikepdf.Dictionary) and "/JavaScript" in names:
        yield Breach(rule, say("pdfx.scripts"))
    if isinstance(root.get("/OpenAction"), pikepdf.Dictionary):
        yield Breach(rule, say("pdfx.on-opening"))
    if "/AA" in root:
        yield Breach(rule, say("pdfx.on-closing"))
    for number, page in enumerate(pdf.pages, 1):
        if "/AA" in page.obj:
            yield Breach(rule, say("pdfx.on-showing"), (number,))
    form = root.get("/AcroForm")
    if isinstance(form, pikepdf.Dictionary) and "/XFA" in form:
        yield Breach(rule, say("pdfx.xfa"))


def page_breaches(pdf: pikepdf.Pdf) -> Found:
    """Trim, art and bleed boxes, and annotations where they would print."""
    for number, page in enumerate(pdf.pages, 1):
        where = (number,)
        boxes = {
            key: box for key in ("/MediaBox", "/CropBox", "/BleedBox", "/TrimBox", "/ArtBox")
            if (box := box_of_page(inherited(page, key) if key in ("/MediaBox", "/CropBox") else page.obj.get(key)))
        }  # fmt: skip
        if ("/TrimBox" in boxes) == ("/ArtBox" in boxes):
            both = say("pdfx.both-boxes" if "/TrimBox" in boxes else "pdfx.no-box")
            yield Breach(say("pdfx.rule-trim-or-art"), both, where)
        final = boxes.get("/TrimBox") or boxes.get("/ArtBox")
        bleed = boxes.get("/BleedBox") or final
        for inner, outer, text in (
            (final, boxes.get("/BleedBox"), say("pdfx.beyond-bleed")),
            (bleed, boxes.get("/MediaBox"), say("pdfx.beyond-sheet")),
        ):
            if inner and outer and not _within(inner, outer):
                yield Breach(say("pdfx.rule-boxes"), text, where)
        for annotation, _ in annotations_on_print(page):
            kind = str(annotation.get("/Subtype", ""))[1:] or "An annotation"
            yield Breach(say("pdfx.rule-no-annotations"), say("pdfx.annotation", kind=kind), where)


def box_of_page(given: Any) -> tuple[float, float, float, float] | None:
    """A page's box as left, bottom, right, top in points; None where there is none."""
    if not isinstance(given, pikepdf.Array) or len(given) != 4:
        return None
    a, b, c, d = (float(v) for v in given)
    return min(a, c), min(b, d), max(a, c), max(b, d)


def _within(a: tuple[float, ...], b: tuple[float, ...]) -> bool:
    lower = a[0] >= b[0] - _EDGE and a[1] >= b[1] - _EDGE
    return lower and a[2] <= b[2] + _EDGE and a[3] <= b[3] + _EDGE


def annotations_on_print(page: pikepdf.Page) -> Iterator[tuple[Any, Box]]:
    """The annotations within a page's bleed, else its trim, else its sheet, with their boxes.

    Marks of printers and trapping networks are meant to be there.
    """
    printed = next(
        (b for k in ("/BleedBox", "/TrimBox", "/ArtBox") if (b := box_of_page(page.obj.get(k)))), None
    ) or box_of_page(inherited(page, "/MediaBox"))  # fmt: skip
    annotations = page.obj.get("/Annots")
    for annotation in annotations if isinstance(annotations, pikepdf.Array) else []:
        if not isinstance(annotation, pikepdf.Dictionary) or printed is None:
            continue
        box = box_of_page(annotation.get("/Rect"))
        if box is None or str(annotation.get("/Subtype", "")) in _PRINTERS:
            continue
        beside = box[2] <= printed[0] or box[0] >= printed[2]
        if not beside and box[3] > printed[1] and box[1] < printed[3]:
            yield annotation, box


def font_breaches(uses: Uses) -> Found:
    """Every font that leaves a mark is embedded."""
    for used in uses.fonts:
        font = used.thing
        if not is_embedded(font):
            name = str(font.get("/BaseFont", "a font")).removeprefix("/")
            yield Breach(say("pdfx.rule-fonts"), say("pdfx.font", font=name), tuple(used.pages))


def picture_breaches(uses: Uses, edition: Edition) -> Found:
    """Filters, bits, alternates and references of images and forms."""
    for used in (*uses.images, *uses.forms):
        thing, pages = used.thing, tuple(used.pages)
        for name in _filters(thing):
            if name in _refused(edition):
                yield Breach(
                    say("pdfx.rule-compression"), say("pdfx.compression", filter=name), pages
                )
        kind = str(thing.get("/Subtype", ""))
        if kind == "/PS" or str(thing.get("/Subtype2", "")) == "/PS" or "/PS" in thing:
            yield Breach(say("pdfx.rule-no-postscript"), say("pdfx.postscript"), pages)
        if "/OPI" in thing:
            yield Breach(say("pdfx.rule-no-stand-ins"), say("pdfx.stand-in"), pages)  # fmt: skip
        if "/Ref" in thing:
            yield Breach(say("pdfx.rule-no-references"), say("pdfx.reference"), pages)  # fmt: skip
        if "/Alternates" in thing:
            yield Breach(say("pdfx.rule-no-alternates"), say("pdfx.alternate"), pages)  # fmt: skip
        if not edition.modern and kind == "/Image" and _whole(thing, "/BitsPerComponent") == 16:
            yield Breach(say("pdfx.rule-bits"), say("pdfx.bits"), pages)


def _whole(thing: Any, key: str) -> int:
    try:
        return int(thing.get(key, 0))
    except (TypeError, ValueError):
        return 0


def _filters(thing: Any) -> list[str]:
    given = thing.get("/Filter", thing.get("/F"))
    if given is None:
        return []
    return [
        str(n).removeprefix("/") for n in (given if isinstance(given, pikepdf.Array) else [given])
    ]


def _refused(edition: Edition) -> tuple[str, ...]:
    return ("Crypt",) if edition.modern else ("LZWDecode", "LZW", "JBIG2Decode", "JPXDecode", "Crypt")  # fmt: skip


def state_breaches(uses: Uses, edition: Edition) -> Found:
    """Transfer functions, halftones, blend modes, intents."""
    for used in uses.states:
        state, pages = used.thing, tuple(used.pages)
        if "/TR" in state or str(state.get("/TR2", "/Default")) != "/Default":
            yield Breach(say("pdfx.rule-no-transfer"), say("pdfx.transfer"), pages)  # fmt: skip
        if "/HTP" in state:
            yield Breach(say("pdfx.rule-halftones"), say("pdfx.halftone-phase"), pages)
        yield from _halftone(state.get("/HT"), pages)
        if edition.modern and not _blends(state) <= _BLENDS:
            others = ", ".join(sorted(b[1:] for b in _blends(state) - _BLENDS))
            yield Breach(say("pdfx.rule-blend-modes"), say("pdfx.blend-modes", modes=others), pages)
    for name, where in uses.intents.items():
        if name not in _INTENTS:
            yield Breach(
                say("pdfx.rule-intents"), say("pdfx.intent-unknown", intent=name[1:]), tuple(where)
            )


def _blends(state: Any) -> set[str]:
    given = state.get("/BM", "/Normal")
    return {str(b) for b in (given if isinstance(given, pikepdf.Array) else [given])}


def _halftone(given: Any, pages: tuple[int, ...]) -> Found:
    if not isinstance(given, pikepdf.Dictionary | pikepdf.Stream):
        return
    if int(given.get("/HalftoneType", 1)) not in (1, 5):
        yield Breach(say("pdfx.rule-halftones"), say("pdfx.halftone-types"), pages)
    if "/HalftoneName" in given:
        yield Breach(say("pdfx.rule-halftones"), say("pdfx.halftone-name"), pages)
