"""Documents for what ISO 15930 says of colour: spaces, spot colours, output intents, transparency."""

from __future__ import annotations

import numpy as np
from pikepdf import Array, Dictionary, Name, Stream, String

from corpus import form, icc, ramp, stream
from pdfx_papers import (
    BARE,
    BOX,
    COLOURS,
    INK,
    INTENT,
    SEEN_THROUGH,
    SPOTS,
    case,
    intent,
    picture,
    spot,
    state,
    tagged,
)
from plinto_core.transform.standard_spaces import standard_profile

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
