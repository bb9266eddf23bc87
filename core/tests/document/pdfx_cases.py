"""Documents for what ISO 15930 says of the rest: graphics states, pages, fonts, pictures, the file."""

from __future__ import annotations

import numpy as np
from pikepdf import Array, Dictionary, Name, String

from corpus import form, ramp, stream
from pdfx_papers import (
    ACTIONS,
    FINISHED,
    FONTS,
    HALFTONES,
    INK,
    KEY,
    NOTES,
    PACKING,
    TITLE,
    TRANSFER,
    TRAPPED,
    WITHIN,
    case,
    embedded,
    note,
    picture,
    state,
    text,
)

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


@case("")
def marked_content_called_as_a_pattern_is(paper, pdf):
    tile = stream(
        paper, b"1 0 0 rg 0 0 4 4 re f", PatternType=1, PaintType=1, TilingType=1,
        BBox=[0, 0, 4, 4], XStep=4, YStep=4, Resources=Dictionary(),
    )  # fmt: skip
    paper.put("/Pattern", "/Art", tile)
    return f"/Art BMC {INK} EMC"


@case("")
def form_that_draws_itself(paper, pdf):
    made = form(paper, b"/Fm Do 0.5 g 0 0 9 9 re f")
    made["/Resources"] = Dictionary(XObject=Dictionary(Fm=made))
    paper.put("/XObject", "/Fm", made)
    return "/Fm Do"


def _nested(paper, depth: int) -> str:
    """Forms one in another, the innermost in ink; as deep as a document's own conversion reads them."""
    inner = form(paper, b"0 0 0 1 k 0 0 9 9 re f")
    for _ in range(depth):
        inner = form(paper, b"/In Do", Resources=Dictionary(XObject=Dictionary(In=inner)))
    paper.put("/XObject", "/Fm", inner)
    return "/Fm Do"


@case("")
def forms_fourteen_deep(paper, pdf):
    return _nested(paper, 14)


@case("everything can be read")
def forms_too_deep_to_be_read(paper, pdf):
    return _nested(paper, 15)
