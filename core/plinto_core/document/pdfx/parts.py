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
        yield Breach("PDF version", f"It is PDF {_written(_version(pdf))}; {edition.name} rests on PDF {edition.version}.")  # fmt: skip
    if pdf.is_encrypted:
        yield Breach("no encryption", "It is encrypted, or carries an owner's restrictions.")
    if "/ID" not in pdf.trailer:
        yield Breach("a file identifier", "There is none.")
    if not edition.modern:
        ends = _head_and_tail(path)
        if b"/ObjStm" in ends or b"/XRef" in ends:
            yield Breach(
                "no compressed objects", "Objects or their places are packed in streams, as PDF 1.5 allows."
            )  # fmt: skip
    yield from _said(pdf, edition)
    yield from _actions(pdf)
    if not edition.modern and "/OCProperties" in pdf.Root:
        yield Breach("no layers", "There are layers, which PDF 1.5 brought.")
    viewer: Any = pdf.Root.get("/ViewerPreferences")
    for key in _AREAS if isinstance(viewer, pikepdf.Dictionary) else ():
        if key in viewer and str(viewer[key]) not in ("/MediaBox", "/BleedBox"):
            yield Breach("viewing and printing show the whole page", f"{key[1:]} is {str(viewer[key])[1:]}.")  # fmt: skip


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
            yield Breach("the version key", f"{key[1:]} is {given or 'missing'}, not {wanted}.")
    if not edition.info and (given := metadata.get(CLAIM_IN_METADATA, "")) != edition.name:
        yield Breach("the version key", f"Its metadata name {given or 'no version'}, not {edition.name}.")  # fmt: skip
    if edition.name != "PDF/X-1a:2001" and "/GTS_PDFXConformance" in info:
        yield Breach("the version key", "A conformance key stands beside it, which only PDF/X-1a:2001 knows.")  # fmt: skip
    trapped = {str(info[k]).removeprefix("/") for k in ("/Trapped",) if k in info}
    if edition.modern and "pdf:Trapped" in metadata:
        trapped.add(metadata["pdf:Trapped"])
    if len(trapped) != 1 or not trapped <= {"True", "False"}:
        said = " and ".join(sorted(trapped)) or "nothing"
        yield Breach("whether it is trapped", f"It must be true or false; it says {said}.")
    wanted_of = (("/Title", "dc:title"), ("/CreationDate", "xmp:CreateDate"), ("/ModDate", "xmp:ModifyDate"))  # fmt: skip
    missing = [
        key[1:] for key, meta in wanted_of
        if not str(info.get(key, "")) and not (edition.modern and metadata.get(meta))
    ]  # fmt: skip
    if missing:
        yield Breach("title and dates", f"Missing: {', '.join(missing)}.")
    if edition.modern:
        lacks = [
            m for m in ("xmpMM:DocumentID", "xmpMM:VersionID", "xmpMM:RenditionClass", "xmp:MetadataDate")
            if not metadata.get(m)
        ]  # fmt: skip
        if lacks:
            yield Breach("metadata that tell versions apart", f"Missing: {', '.join(lacks)}.")


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
    rule = "no actions and scripts"
    root: Any = pdf.Root
    names = root.get("/Names")
    if isinstance(names, pikepdf.Dictionary) and "/JavaScript" in names:
        yield Breach(rule, "The document holds scripts.")
    if isinstance(root.get("/OpenAction"), pikepdf.Dictionary):
        yield Breach(rule, "Something happens when it is opened.")
    if "/AA" in root:
        yield Breach(rule, "Something happens when it is closed, saved or printed.")
    for number, page in enumerate(pdf.pages, 1):
        if "/AA" in page.obj:
            yield Breach(rule, "Something happens when the page is shown.", (number,))
    form = root.get("/AcroForm")
    if isinstance(form, pikepdf.Dictionary) and "/XFA" in form:
        yield Breach(rule, "It holds an XFA form.")


def page_breaches(pdf: pikepdf.Pdf) -> Found:
    """Trim, art and bleed boxes, and annotations where they would print."""
    for number, page in enumerate(pdf.pages, 1):
        where = (number,)
        boxes = {
            key: box for key in ("/MediaBox", "/CropBox", "/BleedBox", "/TrimBox", "/ArtBox")
            if (box := box_of_page(inherited(page, key) if key in ("/MediaBox", "/CropBox") else page.obj.get(key)))
        }  # fmt: skip
        if ("/TrimBox" in boxes) == ("/ArtBox" in boxes):
            both = "Both stand there." if "/TrimBox" in boxes else "Neither stands there."
            yield Breach("a trim box or an art box", both, where)
        final = boxes.get("/TrimBox") or boxes.get("/ArtBox")
        bleed = boxes.get("/BleedBox") or final
        for inner, outer, text in (
            (final, boxes.get("/BleedBox"), "The finished size reaches beyond the bleed box."),
            (bleed, boxes.get("/MediaBox"), "Trim or bleed reach beyond the sheet (MediaBox)."),
        ):
            if inner and outer and not _within(inner, outer):
                yield Breach("boxes lie within each other", text, where)
        for annotation, _ in annotations_on_print(page):
            kind = str(annotation.get("/Subtype", ""))[1:] or "An annotation"
            yield Breach(
                "no annotations on what is printed", f"{kind} lies within the bleed.", where
            )


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
            yield Breach("fonts are embedded", f"{name} is not.", tuple(used.pages))


def picture_breaches(uses: Uses, edition: Edition) -> Found:
    """Filters, bits, alternates and references of images and forms."""
    for used in (*uses.images, *uses.forms):
        thing, pages = used.thing, tuple(used.pages)
        for name in _filters(thing):
            if name in _refused(edition):
                yield Breach("compression", f"{name} is not allowed.", pages)
        kind = str(thing.get("/Subtype", ""))
        if kind == "/PS" or str(thing.get("/Subtype2", "")) == "/PS" or "/PS" in thing:
            yield Breach("no PostScript", "A piece of PostScript is to be run.", pages)
        if "/OPI" in thing:
            yield Breach("no stand-ins for pictures", "Another picture is to be put in place (OPI).", pages)  # fmt: skip
        if "/Ref" in thing:
            yield Breach("no references to other files", "A form stands for a page of another file.", pages)  # fmt: skip
        if "/Alternates" in thing:
            yield Breach("no alternate pictures", "A picture has another for printing or viewing.", pages)  # fmt: skip
        if not edition.modern and kind == "/Image" and _whole(thing, "/BitsPerComponent") == 16:
            yield Breach("bits a channel", "A picture has 16 bits, which PDF 1.5 brought.", pages)


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
            yield Breach("no transfer functions", "A transfer function changes tones after all colours.", pages)  # fmt: skip
        if "/HTP" in state:
            yield Breach("halftones", "A halftone's phase is set (HTP).", pages)
        yield from _halftone(state.get("/HT"), pages)
        if edition.modern and not _blends(state) <= _BLENDS:
            others = ", ".join(sorted(b[1:] for b in _blends(state) - _BLENDS))
            yield Breach("blend modes", f"{others} is none that is known.", pages)
    for name, where in uses.intents.items():
        if name not in _INTENTS:
            yield Breach("rendering intents", f"{name[1:]} is none of the four.", tuple(where))


def _blends(state: Any) -> set[str]:
    given = state.get("/BM", "/Normal")
    return {str(b) for b in (given if isinstance(given, pikepdf.Array) else [given])}


def _halftone(given: Any, pages: tuple[int, ...]) -> Found:
    if not isinstance(given, pikepdf.Dictionary | pikepdf.Stream):
        return
    if int(given.get("/HalftoneType", 1)) not in (1, 5):
        yield Breach("halftones", "Only types 1 and 5 may be given.", pages)
    if "/HalftoneName" in given:
        yield Breach("halftones", "A halftone is asked for by name.", pages)
