"""Small documents for the clauses of ISO 15930: each changes one thing of a document that keeps all.

`one` names the rule broken in PDF/X-1a, `three` in PDF/X-3, `four` in PDF/X-4; "" where it is kept.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np
import pikepdf
from pikepdf import Array, Dictionary, Name, Stream, String

from corpus import form, icc, ramp, stream
from paperwork import Paper
from plinto_core.document.rules.standards import Standard
from plinto_core.icc.profile import Profile
from plinto_core.transform.standard_spaces import standard_profile

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


# Colours


@case("")
def inks_and_grey(paper, pdf):
    return INK


@case(one=COLOURS, three=BARE, four=BARE)
def bare_rgb(paper, pdf):
    return f"1 0 0 rg {BOX}"


@case(one=COLOURS, three=BARE, four=BARE)
def bare_rgb_of_a_line(paper, pdf):
    return "1 0 0 RG 0 0 m 9 9 l S"


@case("")
def bare_rgb_that_paints_nothing(paper, pdf):
    return f"1 0 0 rg 0 g {BOX}"


@case(one=COLOURS, three=BARE, four=BARE)
def picture_in_bare_rgb(paper, pdf):
    return picture(paper, Name.DeviceRGB)


@case(one=COLOURS)
def rgb_with_a_profile(paper, pdf):
    return f"{tagged(paper, standard_profile('srgb'))} cs 1 0 0 scn {BOX}"


@case(one=COLOURS)
def rgb_through_a_default_space(paper, pdf):
    paper.put("/ColorSpace", "/DefaultRGB", icc(paper, "srgb"))
    return f"1 0 0 rg {BOX}"


@case(one=COLOURS)
def lab(paper, pdf):
    paper.put("/ColorSpace", "/Lab", Array([Name.Lab, Dictionary(WhitePoint=[0.9642, 1, 0.8249])]))
    return f"/Lab cs 50 20 20 scn {BOX}"


@case(one=COLOURS)
def calibrated_rgb(paper, pdf):
    paper.put(
        "/ColorSpace", "/Cal", Array([Name.CalRGB, Dictionary(WhitePoint=[0.9505, 1, 1.089])])
    )
    return f"/Cal cs 0.5 0.2 0.2 scn {BOX}"


@case(one=COLOURS)
def grey_with_a_profile(paper, pdf):
    return f"{tagged(paper, standard_profile('grey'))} cs 0.4 scn {BOX}"


@case(one=COLOURS, four="no profile of the output intent on objects")
def inks_that_carry_the_intents_profile(paper, pdf, coated):
    return f"{tagged(paper, coated)} cs 1 0 0 0 scn {BOX}"


@case(one=COLOURS)
def inks_with_another_profile(paper, pdf, other_inks):
    return f"{tagged(paper, other_inks)} cs 1 0 0 0 scn {BOX}"


@case(one=COLOURS, four="overprint of CMYK with a profile")
def inks_with_another_profile_that_overprint(paper, pdf, other_inks):
    return f"{state(paper, OP=True, OPM=1)}{tagged(paper, other_inks)} cs 1 0 0 0 scn {BOX}"


@case(one=COLOURS)
def inks_with_another_profile_whose_lines_overprint(paper, pdf, other_inks):
    return f"{state(paper, OP=True, op=False, OPM=1)}{tagged(paper, other_inks)} cs 1 0 0 0 scn {BOX}"  # fmt: skip


@case("")
def bare_inks_that_overprint(paper, pdf):
    return f"{state(paper, OP=True, OPM=1)}{INK}"


@case("")
def spot_with_inks_as_its_look(paper, pdf):
    paper.put("/ColorSpace", "/Warm", spot(Name.DeviceCMYK, [0] * 4, [0, 0.9, 0.7, 0]))
    return f"/Warm cs 1 scn {BOX}"


@case(one=COLOURS, three=BARE, four=BARE)
def spot_with_rgb_as_its_look(paper, pdf):
    paper.put("/ColorSpace", "/Warm", spot(Name.DeviceRGB, [1, 1, 1], [1, 0, 0]))
    return f"/Warm cs 1 scn {BOX}"


@case(four=SPOTS)
def one_spot_with_two_looks(paper, pdf):
    paper.put("/ColorSpace", "/Warm", spot(Name.DeviceCMYK, [0] * 4, [0, 0.9, 0.7, 0]))
    paper.put("/ColorSpace", "/Cold", spot(Name.DeviceCMYK, [0] * 4, [0.9, 0.2, 0, 0]))
    return f"/Warm cs 1 scn {BOX} /Cold cs 1 scn {BOX}"


@case("")
def one_spot_twice_with_the_same_look(paper, pdf):
    paper.put("/ColorSpace", "/Warm", spot(Name.DeviceCMYK, [0] * 4, [0, 0.9, 0.7, 0]))
    paper.put("/ColorSpace", "/Again", spot(Name.DeviceCMYK, [0] * 4, [0, 0.9, 0.7, 0]))
    return f"/Warm cs 1 scn {BOX} /Again cs 1 scn {BOX}"


@case("")
def palette_of_inks(paper, pdf):
    return picture(paper, Array([Name.Indexed, Name.DeviceCMYK, 1, String(bytes(8))]))


@case(one=COLOURS, three=BARE, four=BARE)
def palette_of_rgb(paper, pdf):
    return picture(paper, Array([Name.Indexed, Name.DeviceRGB, 1, String(bytes(6))]))


@case(one=COLOURS, three=BARE, four=BARE)
def rgb_in_a_form(paper, pdf):
    paper.put("/XObject", "/Fm", form(paper, b"1 0 0 rg 0 0 9 9 re f"))
    return "/Fm Do"


@case(one=COLOURS, three=BARE, four=BARE)
def rgb_in_a_pattern(paper, pdf):
    cell = stream(
        paper, b"1 0 0 rg 0 0 5 5 re f", Type=Name.Pattern, PatternType=1, PaintType=1, TilingType=1,
        BBox=[0, 0, 9, 9], XStep=9, YStep=9, Resources=Dictionary(),
    )  # fmt: skip
    paper.put("/Pattern", "/P1", cell)
    return f"/Pattern cs /P1 scn {BOX}"


@case(one=COLOURS, three=BARE, four=BARE)
def rgb_in_a_gradient(paper, pdf):
    shading = Dictionary(ShadingType=2, ColorSpace=Name.DeviceRGB, Coords=[0, 0, 9, 0], Function=ramp([1, 0, 0], [0, 0, 1]))  # fmt: skip
    paper.put("/Shading", "/S1", shading)
    return "/S1 sh"


@case(one=COLOURS, three=BARE, four=BARE)
def rgb_in_an_inline_image(paper, pdf):
    return "q 9 0 0 9 0 0 cm BI /W 1 /H 1 /CS /RGB /BPC 8 ID abc EI Q"


# Output intent


@case(INTENT)
def no_output_intent(paper, pdf):
    del pdf.Root["/OutputIntents"]
    return f"0.5 g {BOX}"


@case(INTENT)
def two_output_intents(paper, pdf):
    pdf.Root["/OutputIntents"].append(intent(pdf))


@case("")
def an_archives_intent_beside_it(paper, pdf):
    other = Dictionary(S=Name.GTS_PDFA1, OutputConditionIdentifier=String("Screen"))
    pdf.Root["/OutputIntents"].append(other)


@case(INTENT)
def intent_without_a_condition(paper, pdf):
    del intent(pdf)["/OutputConditionIdentifier"]


@case(INTENT)
def intent_without_profile_or_registry(paper, pdf):
    del intent(pdf)["/DestOutputProfile"]
    return f"0.5 g {BOX}"


@case(four=INTENT)
def intent_by_its_registered_name(paper, pdf):
    del intent(pdf)["/DestOutputProfile"]
    intent(pdf)["/RegistryName"] = String("http://www.color.org")
    return f"0.5 g {BOX}"


@case(INTENT)
def intent_that_says_nothing_of_an_unregistered_condition(paper, pdf):
    del intent(pdf)["/Info"]


@case(INTENT)
def intent_with_a_damaged_profile(paper, pdf):
    intent(pdf)["/DestOutputProfile"] = pdf.make_indirect(Stream(pdf, b"no profile", N=4))
    return f"0.5 g {BOX}"


@case(one=INTENT, three=INTENT, four=INTENT)
def intent_for_a_screen(paper, pdf):
    screen = standard_profile("srgb")
    intent(pdf)["/DestOutputProfile"] = pdf.make_indirect(Stream(pdf, screen.data, N=3))
    return f"0.5 g {BOX}"


@case(one="profile version", three="profile version")
def intent_with_a_profile_of_version_4(paper, pdf, coated_v4):
    intent(pdf)["/DestOutputProfile"] = pdf.make_indirect(Stream(pdf, coated_v4.data, N=4))


@case(one=COLOURS, three="profile version")
def objects_with_a_profile_of_version_4(paper, pdf, coated_v4):
    return f"{tagged(paper, coated_v4)} cs 1 0 0 0 scn {BOX}"


# Transparency


@case(one=SEEN_THROUGH, three=SEEN_THROUGH)
def half_opaque(paper, pdf):
    return f"{state(paper, ca=0.5)}{INK}"


@case(one=SEEN_THROUGH, three=SEEN_THROUGH)
def multiplied(paper, pdf):
    return f"{state(paper, BM=Name.Multiply)}{INK}"


@case("")
def opaque_and_normal(paper, pdf):
    return f"{state(paper, ca=1, CA=1, BM=Name.Normal, SMask=Name('/None'))}{INK}"


@case(one=SEEN_THROUGH, three=SEEN_THROUGH, four="blend modes")
def blended_in_a_mode_that_is_none(paper, pdf):
    return f"{state(paper, BM=Name.Glimmer)}{INK}"


@case(one=SEEN_THROUGH, three=SEEN_THROUGH)
def group_that_blends_in_inks(paper, pdf):
    paper.page.obj["/Group"] = Dictionary(S=Name.Transparency, CS=Name.DeviceCMYK)


@case(one=SEEN_THROUGH, three=SEEN_THROUGH, four=BARE)
def group_that_blends_in_rgb(paper, pdf):
    paper.page.obj["/Group"] = Dictionary(S=Name.Transparency, CS=Name.DeviceRGB)


@case(one=SEEN_THROUGH, three=SEEN_THROUGH, four=BARE)
def soft_mask_that_blends_in_rgb(paper, pdf):
    group = Dictionary(S=Name.Transparency, CS=Name.DeviceRGB)
    mask = form(paper, b"0.5 g 0 0 9 9 re f", Group=group)
    return f"{state(paper, SMask=Dictionary(S=Name.Luminosity, G=mask))}{INK}"


@case(one=SEEN_THROUGH, three=SEEN_THROUGH)
def picture_with_a_soft_mask(paper, pdf):
    mask = paper.image(np.full((4, 4, 1), 90, np.uint8), Name.DeviceGray)
    return picture(paper, SMask=mask)


# Graphics states


@case(TRANSFER)
def transfer_function(paper, pdf):
    return f"{state(paper, TR=ramp([1], [0]))}{INK}"


@case(TRANSFER)
def transfer_function_of_the_second_kind(paper, pdf):
    return f"{state(paper, TR2=ramp([1], [0]))}{INK}"


@case("")
def transfer_function_of_the_device(paper, pdf):
    return f"{state(paper, TR2=Name.Default)}{INK}"


@case("")
def transfer_function_that_is_not_used(paper, pdf):
    state(paper, TR=ramp([1], [0]))
    return INK


@case(HALFTONES)
def halftone_phase(paper, pdf):
    return f"{state(paper, HTP=[0, 0])}{INK}"


@case(HALFTONES)
def halftone_of_a_table(paper, pdf):
    screen = stream(paper, bytes(16), HalftoneType=6, Width=4, Height=4)
    return f"{state(paper, HT=screen)}{INK}"


@case("")
def halftone_by_angle(paper, pdf):
    screen = Dictionary(HalftoneType=1, Frequency=60, Angle=45, SpotFunction=Name.SimpleDot)
    return f"{state(paper, HT=screen)}{INK}"


@case(HALFTONES)
def halftone_asked_for_by_name(paper, pdf):
    screen = Dictionary(HalftoneType=1, Frequency=60, Angle=45, SpotFunction=Name.SimpleDot, HalftoneName=String("Fine"))  # fmt: skip
    return f"{state(paper, HT=screen)}{INK}"


@case("rendering intents")
def intent_that_is_none_of_the_four(paper, pdf):
    return f"/Vivid ri {INK}"


@case("")
def intent_of_the_four(paper, pdf):
    return f"/Saturation ri {INK}"


# Fonts


@case(FONTS)
def font_by_name_only(paper, pdf):
    return text(paper, Dictionary(Type=Name.Font, Subtype=Name.Type1, BaseFont=Name.Helvetica))


@case("")
def font_embedded(paper, pdf):
    return text(paper, embedded(paper))


@case("")
def font_by_name_of_text_that_is_not_shown(paper, pdf):
    return text(paper, Dictionary(Type=Name.Font, Subtype=Name.Type1, BaseFont=Name.Helvetica), 3)


@case(FONTS)
def composite_font_by_name_only(paper, pdf):
    inner = Dictionary(Type=Name.Font, Subtype=Name.CIDFontType2, BaseFont=Name.Ternholm)
    font = Dictionary(Type=Name.Font, Subtype=Name.Type0, BaseFont=Name.Ternholm, Encoding=Name("/Identity-H"), DescendantFonts=[inner])  # fmt: skip
    return text(paper, font)


@case("")
def font_of_drawings(paper, pdf):
    glyph = stream(paper, b"500 0 0 0 500 500 d1 0 0 500 500 re f")
    font = Dictionary(
        Type=Name.Font, Subtype=Name.Type3, FontBBox=[0, 0, 500, 500], FontMatrix=[0.001, 0, 0, 0.001, 0, 0],
        CharProcs=Dictionary(a=glyph), Encoding=Dictionary(Differences=[65, Name.a]), FirstChar=65,
        LastChar=65, Widths=[500], Resources=Dictionary(),
    )  # fmt: skip
    return text(paper, font)


# Pictures and forms


@case(one=PACKING, three=PACKING)
def picture_in_jbig2(paper, pdf):
    made = stream(paper, b"\0" * 20, Type=Name.XObject, Subtype=Name.Image, Width=4, Height=4, BitsPerComponent=1, ColorSpace=Name.DeviceGray, Filter=Name.JBIG2Decode)  # fmt: skip
    paper.put("/XObject", "/Im", made)
    return "q 9 0 0 9 0 0 cm /Im Do Q"


@case(one=PACKING, three=PACKING)
def picture_in_jpeg_2000(paper, pdf):
    import imagecodecs

    data = imagecodecs.jpeg2k_encode(np.full((8, 8), 90, np.uint8), codecformat="jp2")
    made = stream(paper, data, Type=Name.XObject, Subtype=Name.Image, Width=8, Height=8, BitsPerComponent=8, ColorSpace=Name.DeviceGray, Filter=Name.JPXDecode)  # fmt: skip
    paper.put("/XObject", "/Im", made)
    return "q 9 0 0 9 0 0 cm /Im Do Q"


@case("")
def picture_in_jpeg(paper, pdf):
    import imagecodecs

    data = imagecodecs.jpeg_encode(np.full((8, 8), 90, np.uint8))
    made = stream(paper, data, Type=Name.XObject, Subtype=Name.Image, Width=8, Height=8, BitsPerComponent=8, ColorSpace=Name.DeviceGray, Filter=Name.DCTDecode)  # fmt: skip
    paper.put("/XObject", "/Im", made)
    return "q 9 0 0 9 0 0 cm /Im Do Q"


@case(one="bits a channel", three="bits a channel")
def picture_of_16_bits(paper, pdf):
    made = paper.image(np.zeros((4, 4, 8), np.uint8), Name.DeviceCMYK, bits=16)
    paper.put("/XObject", "/Im", made)
    return "q 9 0 0 9 0 0 cm /Im Do Q"


@case("no alternate pictures")
def picture_with_another_for_viewing(paper, pdf):
    other = paper.image(np.zeros((4, 4, 4), np.uint8), Name.DeviceCMYK)
    return picture(paper, Alternates=[Dictionary(Image=other, DefaultForPrinting=False)])


@case("no stand-ins for pictures")
def picture_that_stands_in_for_another(paper, pdf):
    return picture(paper, OPI=Dictionary({"/1.3": Dictionary(Version=1.3)}))


@case("no PostScript")
def piece_of_postscript(paper, pdf):
    paper.put("/XObject", "/Ps", stream(paper, b"showpage", Type=Name.XObject, Subtype=Name.PS))
    return f"{INK} /Ps Do"


@case("no references to other files")
def page_of_another_file(paper, pdf):
    reference = Dictionary(F=String("other.pdf"), Page=0)
    paper.put("/XObject", "/Fm", form(paper, b"", Ref=reference))
    return f"{INK} /Fm Do"


# Pages


@case(FINISHED)
def no_finished_size(paper, pdf):
    del paper.page.obj["/TrimBox"]


@case("")
def art_box_alone(paper, pdf):
    del paper.page.obj["/TrimBox"]
    paper.page.obj["/ArtBox"] = [10, 10, 190, 90]


@case(FINISHED)
def trim_and_art_box(paper, pdf):
    paper.page.obj["/ArtBox"] = [10, 10, 190, 90]


@case(WITHIN)
def trim_beyond_the_bleed(paper, pdf):
    paper.page.obj["/TrimBox"] = [5, 5, 195, 95]
    paper.page.obj["/BleedBox"] = [10, 10, 190, 90]


@case(WITHIN)
def bleed_beyond_the_sheet(paper, pdf):
    paper.page.obj["/TrimBox"] = [0, 0, 200, 100]
    paper.page.obj["/BleedBox"] = [-9, -9, 209, 109]


@case(WITHIN)
def trim_beyond_the_sheet(paper, pdf):
    paper.page.obj["/TrimBox"] = [0, 0, 210, 100]


@case("")
def trim_within_bleed_within_sheet(paper, pdf):
    paper.page.obj["/TrimBox"] = [9, 9, 191, 91]
    paper.page.obj["/BleedBox"] = [0, 0, 200, 100]


@case(NOTES)
def remark_on_the_page(paper, pdf):
    note(paper, "Text", [50, 50, 60, 60])


@case("")
def remark_beside_the_finished_size(paper, pdf):
    paper.page.obj["/TrimBox"] = [50, 50, 150, 90]
    note(paper, "Text", [10, 10, 20, 20])


@case("")
def printers_mark_on_the_page(paper, pdf):
    note(paper, "PrinterMark", [50, 50, 60, 60])


@case(ACTIONS)
def something_happens_when_the_page_is_shown(paper, pdf):
    paper.page.obj["/AA"] = Dictionary(O=Dictionary(S=Name.Named, N=Name.NextPage))


# The file


@case(ACTIONS)
def scripts(paper, pdf):
    pdf.Root["/Names"] = Dictionary(JavaScript=Dictionary(Names=Array([])))


@case(ACTIONS)
def something_happens_when_it_is_opened(paper, pdf):
    pdf.Root["/OpenAction"] = Dictionary(S=Name.JavaScript, JS=String("1"))


@case("")
def opens_at_a_page(paper, pdf):
    pdf.Root["/OpenAction"] = Array([paper.page.obj, Name.Fit])


@case(one="no layers", three="no layers")
def layers(paper, pdf):
    layer = pdf.make_indirect(Dictionary(Type=Name.OCG, Name=String("Text")))
    pdf.Root["/OCProperties"] = Dictionary(OCGs=[layer], D=Dictionary(Name=String("All"), Order=[layer]))  # fmt: skip


@case("viewing and printing show the whole page")
def printed_area_is_the_trim(paper, pdf):
    pdf.Root["/ViewerPreferences"] = Dictionary(PrintArea=Name.TrimBox)


@case(KEY)
def no_version_key(paper, pdf):
    for key in ("/GTS_PDFXVersion", "/GTS_PDFXConformance"):
        if key in pdf.docinfo:
            del pdf.docinfo[key]
    with pdf.open_metadata(set_pikepdf_as_editor=False, update_docinfo=False) as metadata:
        if "pdfxid:GTS_PDFXVersion" in metadata:
            del metadata["pdfxid:GTS_PDFXVersion"]


@case(TRAPPED)
def trapping_unknown(paper, pdf):
    pdf.docinfo["/Trapped"] = Name.Unknown


@case("")
def trapped(paper, pdf):
    pdf.docinfo["/Trapped"] = Name("/True")
    with pdf.open_metadata(set_pikepdf_as_editor=False, update_docinfo=False) as metadata:
        metadata["pdf:Trapped"] = "True"


@case(one=TITLE, three=TITLE)
def title_in_the_metadata_only(paper, pdf):
    del pdf.docinfo["/Title"]


@case(TITLE)
def no_title_at_all(paper, pdf):
    del pdf.docinfo["/Title"]
    with pdf.open_metadata(set_pikepdf_as_editor=False, update_docinfo=False) as metadata:
        if "dc:title" in metadata:
            del metadata["dc:title"]


@case(four="metadata that tell versions apart")
def no_document_identifier_in_the_metadata(paper, pdf):
    with pdf.open_metadata(set_pikepdf_as_editor=False, update_docinfo=False) as metadata:
        if "xmpMM:DocumentID" in metadata:
            del metadata["xmpMM:DocumentID"]
