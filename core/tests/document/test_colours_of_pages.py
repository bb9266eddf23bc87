"""Vectors, text, forms, patterns, glyphs and annotations come out in the destination's colours."""

from __future__ import annotations

import numpy as np
import pikepdf
import pytest
from handmade import with_tags
from pikepdf import Array, Dictionary, Name

from paperwork import operations
from plinto_core.colorimetry import delta_e_2000
from plinto_core.document.pdf.spaces import read_space
from plinto_core.document.pdfx.check import check_document
from plinto_core.errors import BadDocument, PolicyStop
from plinto_core.recipes import parse_recipe
from plinto_core.recipes.route import route_for
from plinto_core.transform import lab_of_device
from plinto_core.transform.standard_spaces import standard_profile

OURS = {"g", "G", "k", "K"}
COLOUR = {"rg", "RG", "g", "G", "k", "K", "cs", "CS", "sc", "SC", "scn", "SCN"}


def colours(source) -> list[tuple[str, list[float]]]:
    return [
        (o, [float(v) for v in args if not isinstance(v, pikepdf.Name)])
        for o, args in operations(source)
        if o in COLOUR
    ]


def exact(coated, rgb, intent="relative") -> np.ndarray:
    recipe = parse_recipe({"destination": "x", "intent": intent})
    return route_for(recipe, standard_profile("srgb"), coated).inks(np.array([rgb]))[0]


def test_rgb_becomes_the_inks_of_the_float_path(paper, converted, coated) -> None:
    report, pdf = converted(paper, "0.2 0.4 0.8 rg 1 0.5 0 RG 10 10 20 20 re B")
    found = colours(pdf.pages[0])
    assert [o for o, _ in found] == ["k", "K"]
    assert found[0][1] == pytest.approx(exact(coated, (0.2, 0.4, 0.8)), abs=1e-4)
    assert found[1][1] == pytest.approx(exact(coated, (1, 0.5, 0)), abs=1e-4)
    (item,) = [i for i in report.objects if i.values == (51.0, 102.0, 204.0)]
    assert (item.kind, item.origin, item.rule) == ("vector", "standard", 3)
    assert item.box == (10.0, 10.0, 30.0, 30.0)


def test_embedded_profiles_are_honoured_or_overruled(paper, converted, coated) -> None:
    stream = pikepdf.Stream(paper.pdf, standard_profile("romm").data, N=3)
    paper.put(
        "/ColorSpace",
        "/CS0",
        pikepdf.Array([pikepdf.Name.ICCBased, paper.pdf.make_indirect(stream)]),
    )
    content = "/CS0 cs 0.2 0.6 0.3 scn 0 0 9 9 re f"
    _, one = converted(paper, content)
    _, other = converted(paper, content, embedded=False)
    a, b = (colours(p.pages[0])[-1][1] for p in (one, other))
    assert b == pytest.approx(exact(coated, (0.2, 0.6, 0.3)), abs=1e-4)
    assert np.abs(np.array(a) - b).max() > 0.02


@pytest.mark.parametrize(("space", "channels", "key"), [("romm", 4, "CMYK"), ("grey", 3, "RGB")])
def test_a_profile_of_other_channels_than_it_is_said_to_have_is_not_used(
    space, channels, key
) -> None:
    pdf = pikepdf.new()
    stream = pikepdf.Stream(pdf, standard_profile(space).data, N=channels)
    found = read_space(pikepdf.Array([pikepdf.Name.ICCBased, pdf.make_indirect(stream)]))
    assert (found.profile, found.channels) == (None, channels)
    assert found.problem is not None
    assert found.key == f"Device{key}:broken"


def test_own_intents_and_their_fallback(paper, converted, coated) -> None:
    rules = [{"action": "convert", "intent": "own", "fallback": "saturation"}]
    _, pdf = converted(
        paper, "0 1 0 rg 0 0 9 9 re f /Perceptual ri 0 1 0 rg 0 0 9 9 re f", rules=rules
    )
    first, second = (v for _, v in colours(pdf.pages[0]))
    assert first == pytest.approx(exact(coated, (0, 1, 0), "saturation"), abs=1e-4)
    assert second == pytest.approx(exact(coated, (0, 1, 0), "perceptual"), abs=1e-4)


def test_black_stays_black(paper, converted) -> None:
    _, pdf = converted(
        paper,
        "0 g 0 0 9 9 re f 0.25 g 0 0 9 9 re f 0 0 0 0.4 k 0 0 9 9 re f",
        rules=[{"space": "grey", "action": "black"}, {"action": "convert"}],
    )
    assert [v for _, v in colours(pdf.pages[0])] == [[0, 0, 0, 1], [0, 0, 0, 0.75], [0, 0, 0, 0.4]]


def test_office_greys_and_primaries_come_out_clean(paper, converted, coated) -> None:
    content = "0 0 0 rg 0 0 9 9 re f 0.5 0.5 0.5 rg 0 0 9 9 re f 1 0 0 rg 0 0 9 9 re f 0 0 1 rg 0 0 9 9 re f"
    _, pdf = converted(paper, content, greys_to_black=True, clean=True, overprint_black=True)
    black, grey, red, blue = (v for _, v in colours(pdf.pages[0]))
    assert black == [0, 0, 0, 1]
    assert grey[:3] == [0, 0, 0]
    assert 0.3 < grey[3] < 0.8
    labs = lab_of_device(coated, np.array([grey, exact(coated, (0.5, 0.5, 0.5))]))
    assert labs[0, 0] == pytest.approx(labs[1, 0], abs=0.5)
    assert red == [0, 1, 1, 0]
    assert blue == [1, 1, 0, 0]
    states = [str(a[0]) for o, a in operations(pdf.pages[0]) if o == "gs"]
    assert states == ["/PlintoOver11", "/PlintoOver00"]
    over = pdf.pages[0].Resources.ExtGState["/PlintoOver11"]
    assert (bool(over.op), int(over.OPM)) == (True, 1)
    assert "/OP" not in over  # strokes keep what the document says of them


def test_the_tac_is_enforced_by_separating_again(paper, converted, coated) -> None:
    _, pdf = converted(
        paper,
        "0.95 0.9 0.9 0.9 k 0 0 9 9 re f 0.1 0.2 0 0 k 0 0 9 9 re f",
        tac=300,
        tac_action="enforce",
    )
    over, under = (v for _, v in colours(pdf.pages[0]))
    assert sum(over) <= 3.0
    assert under == [0.1, 0.2, 0, 0]
    a, b = lab_of_device(coated, np.array([over, [0.95, 0.9, 0.9, 0.9]]))
    assert delta_e_2000(a, b) < 3


def spot(paper, name: str = "/Ternholm Red"):
    tint = pikepdf.Dictionary(
        FunctionType=2, Domain=[0, 1], C0=[0, 0, 0, 0], C1=[0, 0.9, 0.8, 0.1], N=1
    )
    paper.put(
        "/ColorSpace",
        "/S",
        pikepdf.Array([pikepdf.Name.Separation, pikepdf.Name(name), pikepdf.Name.DeviceCMYK, tint]),
    )


def test_spots_are_kept_converted_or_stopped(paper, converted) -> None:
    spot(paper)
    content = "/S cs 0.5 scn 0 0 9 9 re f"
    kept, pdf = converted(paper, content, rules=[{"space": "spot", "action": "keep spot"}])
    assert colours(pdf.pages[0])[-1] == ("scn", [0.5])
    assert kept.spots == ("Ternholm Red",)
    _, pdf = converted(
        paper, content, rules=[{"space": "spot", "spot": "Ternholm Red", "action": "convert"}]
    )
    assert colours(pdf.pages[0])[-1][1] == pytest.approx([0, 0.45, 0.4, 0.05], abs=1e-4)
    with pytest.raises(PolicyStop, match="Page 1: rule 1 .* Ternholm Red"):
        converted(paper, content, rules=[{"space": "spot", "action": "stop"}])
    _, pdf = converted(paper, content, rules=[{"space": "spot", "spot": "Other", "action": "stop"}])
    assert colours(pdf.pages[0])[-1] == ("scn", [0.5])


def test_lab_and_calibrated_colours(paper, converted, coated) -> None:
    paper.put(
        "/ColorSpace",
        "/L",
        pikepdf.Array(
            [
                pikepdf.Name.Lab,
                pikepdf.Dictionary(WhitePoint=[0.9642, 1, 0.8249], Range=[-100, 100, -100, 100]),
            ]
        ),
    )
    paper.put("/ColorSpace", "/C", pikepdf.Array([pikepdf.Name.CalRGB, pikepdf.Dictionary(
        WhitePoint=[0.9505, 1, 1.089], Gamma=[2.2, 2.2, 2.2], Matrix=[0.4124, 0.2126, 0.0193, 0.3576, 0.7152, 0.1192, 0.1805, 0.0722, 0.9505])]))  # fmt: skip
    _, pdf = converted(
        paper,
        "/L cs 60 30 20 scn 0 0 9 9 re f /C cs 0.6 0.4 0.3 scn 0 0 9 9 re f",
        rules=[{"action": "convert", "bpc": False}],
    )
    values = [v for o, v in colours(pdf.pages[0]) if o == "k"]
    lab = lab_of_device(coated, np.array([values[1], values[3]]))
    assert delta_e_2000(lab[0], np.array([60.0, 30, 20])) < 1
    near = lab_of_device(standard_profile("srgb"), np.array([[0.6, 0.4, 0.3]]))[0]
    assert delta_e_2000(lab[1], near) < 3


def test_forms_patterns_glyphs_and_annotations(paper, converted) -> None:
    pdf = paper.pdf

    def stream(data: bytes, **extra):
        return pdf.make_indirect(pikepdf.Stream(pdf, data, **extra))

    deep = stream(
        b"0 1 0 rg 0 0 5 5 re f",
        Type=pikepdf.Name.XObject,
        Subtype=pikepdf.Name.Form,
        BBox=[0, 0, 9, 9],
    )
    form = stream(b"1 0 0 rg 0 0 5 5 re f /Deep Do", Type=pikepdf.Name.XObject, Subtype=pikepdf.Name.Form, BBox=[0, 0, 9, 9],
                  Resources=pikepdf.Dictionary(XObject=pikepdf.Dictionary(Deep=deep)))  # fmt: skip
    cell = stream(
        b"0 0 1 rg 0 0 5 5 re f",
        PatternType=1,
        PaintType=1,
        TilingType=1,
        BBox=[0, 0, 9, 9],
        XStep=9,
        YStep=9,
        Resources=pikepdf.Dictionary(),
    )
    plain = stream(
        b"0 0 5 5 re f",
        PatternType=1,
        PaintType=2,
        TilingType=1,
        BBox=[0, 0, 9, 9],
        XStep=9,
        YStep=9,
        Resources=pikepdf.Dictionary(),
    )
    glyph = stream(b"10 0 d0 0.3 0.6 0.9 rg 0 0 5 5 re f")
    font = pikepdf.Dictionary(Type=pikepdf.Name.Font, Subtype=pikepdf.Name.Type3, FontBBox=[0, 0, 9, 9], FontMatrix=[0.1, 0, 0, 0.1, 0, 0],
                              CharProcs=pikepdf.Dictionary(a=glyph), Encoding=pikepdf.Dictionary(Differences=[97, pikepdf.Name("/a")]),
                              FirstChar=97, LastChar=97, Widths=[10])  # fmt: skip
    look = stream(
        b"0.9 0.2 0.4 rg 0 0 5 5 re f",
        Type=pikepdf.Name.XObject,
        Subtype=pikepdf.Name.Form,
        BBox=[0, 0, 9, 9],
    )
    paper.put("/XObject", "/Fm", form)
    paper.put("/Pattern", "/P", cell)
    paper.put("/Pattern", "/U", plain)
    paper.put("/ColorSpace", "/PU", pikepdf.Array([pikepdf.Name.Pattern, pikepdf.Name.DeviceRGB]))
    paper.put("/Font", "/T3", pdf.make_indirect(font))
    paper.page.obj["/Annots"] = pikepdf.Array(
        [
            pikepdf.Dictionary(
                Type=pikepdf.Name.Annot,
                Subtype=pikepdf.Name.Stamp,
                Rect=[0, 0, 9, 9],
                AP=pikepdf.Dictionary(N=look),
            )
        ]
    )
    content = "/Fm Do /Pattern cs /P scn 0 0 9 9 re f /PU cs 0.2 0.9 0.1 /U scn 0 0 9 9 re f BT /T3 9 Tf (a) Tj ET"
    report, out = converted(paper, content)
    assert report.not_handled == ()
    resources = out.pages[0].Resources
    made = resources.XObject.Fm
    for source in (
        made,
        made.Resources.XObject.Deep,
        resources.Pattern.P,
        resources.Font.T3.CharProcs.a,
        out.pages[0].Annots[0].AP.N,
    ):
        assert {o for o, _ in colours(source)} == {"k"}
    selected = [a for o, a in operations(out.pages[0]) if o == "scn"]
    assert len(selected[-1]) == 5
    assert str(resources.ColorSpace["/PlintoPatternDeviceCMYK"][1]) == "/DeviceCMYK"


def test_what_is_painted_with_twice_is_converted_once(paper, converted) -> None:
    """Cells and glyphs are streams of their own: from RGB to another RGB twice would be seen."""

    def made(content: str) -> list[list[float]]:
        cell = pikepdf.Stream(
            paper.pdf, b"0.2 0.9 0.1 rg 0 0 5 5 re f", PatternType=1, PaintType=1, TilingType=1,
            BBox=[0, 0, 9, 9], XStep=9, YStep=9, Resources=pikepdf.Dictionary(),
        )  # fmt: skip
        paper.put("/Pattern", "/P", paper.pdf.make_indirect(cell))
        rules = [{"action": "convert"}]
        report, pdf = converted(paper, content, destination="oprgb", rules=rules)
        assert report.not_handled == ()
        return [v for _, v in colours(pdf.pages[0].Resources.Pattern.P)]

    once = made("/Pattern cs /P scn 0 0 9 9 re f")
    assert once[0] != pytest.approx([0.2, 0.9, 0.1], abs=0.05)
    assert made("/Pattern cs /P scn 0 0 9 9 re f q /P scn 9 9 9 9 re f Q /P scn f") == once


@pytest.mark.parametrize(
    ("content", "said"),
    [
        ("/Nope sh", ["document.shading-undefined"]), ("/Nope cs 0.5 sc", ["document.space-undefined"]),
        ("/Pattern cs /Nope scn 0 0 9 9 re f", ["document.pattern-undefined"]), ("/Nope Do", ["document.object-undefined"]),
        ("/Nope gs", []),
    ],
)  # fmt: skip
def test_what_a_name_does_not_name_is_said_and_the_rest_goes_on(
    paper, converted, tmp_path, content, said
) -> None:
    report, pdf = converted(paper, f"q {content} Q 1 0 0 rg 0 0 9 9 re f")
    assert [u.reason.code for u in report.not_handled] == said
    assert [o for o, _ in colours(pdf.pages[0])][-1] == "k"
    breaches = check_document(tmp_path / "in.pdf", "PDF/X-4")
    assert "rgb" in str(breaches).lower()


def test_transparency_groups_blend_in_the_destination(paper, converted) -> None:
    paper.page.obj["/Group"] = pikepdf.Dictionary(
        S=pikepdf.Name.Transparency, CS=pikepdf.Name.DeviceRGB
    )
    report, pdf = converted(paper, "1 0 0 rg 0 0 9 9 re f")
    assert str(pdf.pages[0].obj["/Group"]["/CS"]) == "/DeviceCMYK"
    assert report.transparency is True


def test_defaults_and_output_intents(paper, converted, coated) -> None:
    stream = pikepdf.Stream(paper.pdf, coated.data, N=4)
    paper.put(
        "/ColorSpace",
        "/DefaultCMYK",
        pikepdf.Array([pikepdf.Name.ICCBased, paper.pdf.make_indirect(stream)]),
    )
    _, pdf = converted(paper, "1 0 0 rg 0 0 9 9 re f")
    assert "/DefaultCMYK" not in pdf.pages[0].Resources.get("/ColorSpace", {})
    assert pdf.Root.OutputIntents[0].DestOutputProfile.read_bytes() == coated.data
    _, pdf = converted(paper, "1 0 0 rg 0 0 9 9 re f", profile_in=False)
    assert "/DestOutputProfile" not in pdf.Root.OutputIntents[0]
    _, pdf = converted(paper, "1 0 0 rg 0 0 9 9 re f", output_intent=False)
    assert "/OutputIntents" not in pdf.Root


def test_mirrored_pages(paper, converted) -> None:
    _, pdf = converted(paper, "1 0 0 rg 0 0 9 9 re f", mirror=True)
    matrix = next(a for o, a in operations(pdf.pages[0]) if o == "cm")
    assert [float(v) for v in matrix] == [-1, 0, 0, 1, 200, 0]


def test_streams_without_colours_stay_byte_for_byte(paper, converted) -> None:
    content = "q 1 0 0 1 5 5 cm 0 0 9 9 re W n Q"
    _, pdf = converted(paper, content)
    assert pdf.pages[0].Contents.read_bytes() == content.encode()


def test_clean_primaries_give_way_to_a_low_tac(paper, converted) -> None:
    content = "0 0 1 rg 0 0 9 9 re f 1 1 0 rg 0 0 9 9 re f"
    _, pdf = converted(paper, content, clean=True, tac=180, tac_action="enforce")
    blue, yellow = (v for _, v in colours(pdf.pages[0]))
    assert sum(blue) <= 1.8
    assert yellow == [0, 0, 1, 0]


def test_what_is_drawn_twice_is_counted_and_its_box_grows(paper, converted) -> None:
    content = "1 0 0 rg 0 0 9 9 re f 50 50 9 9 re f 0 1 0 rg 1 1 2 2 re f"
    report, _ = converted(paper, content)
    red, green = report.objects
    assert (red.count, green.count) == (2, 1)
    assert red.box == (0, 0, 59, 59)
    assert sum(f.count for f in report.flow) == 3


def test_places_follow_matrices_and_saved_states(paper, converted) -> None:
    content = "q 2 0 0 2 10 20 cm 1 0 0 rg 0 0 5 5 re f Q 0 0 1 rg 1 1 2 2 re f"
    report, _ = converted(paper, content)
    assert [o.box for o in report.objects] == [(10, 20, 20, 30), (1, 1, 3, 3)]


def test_invisible_text_is_not_listed_and_visible_text_is(paper, converted) -> None:
    paper.put(
        "/Font",
        "/F",
        pikepdf.Dictionary(
            Type=pikepdf.Name.Font, Subtype=pikepdf.Name.Type1, BaseFont=pikepdf.Name.Helvetica
        ),
    )
    content = "BT /F 10 Tf 1 0 0 rg 10 10 Td 3 Tr (unseen) Tj 0 Tr (seen) Tj ET"
    report, _ = converted(paper, content)
    assert [(o.kind, o.count) for o in report.objects] == [("text", 1)]
    assert report.fonts == ("Helvetica",)


@pytest.mark.parametrize(
    ("space", "said"),
    [
        (
            Array([Name.Separation, Name.Red, Name.DeviceCMYK]),
            "spot colour of the document is incomplete",
        ),
        (Array([Name.DeviceN, Array([]), Name.DeviceCMYK, Dictionary()]), "too many names"),
        (
            Array([Name.Indexed, Name.DeviceRGB, 3]),
            "indexed colour space of the document is incomplete",
        ),
    ],
)
def test_a_space_that_lacks_a_part_is_refused_in_words(space, said) -> None:
    with pytest.raises(BadDocument, match=said):
        read_space(space, Dictionary())


def defaults(paper, tmp_name: str, profile) -> None:
    stream = paper.pdf.make_indirect(pikepdf.Stream(paper.pdf, profile.data, N=profile.channels))
    paper.put("/ColorSpace", tmp_name, pikepdf.Array([pikepdf.Name.ICCBased, stream]))


def gamma(value: float):
    """A grey profile of another tone than the stand-in's."""
    from plinto_core.icc.curves import ParametricCurve

    grey = standard_profile("grey")
    return with_tags(grey, {"kTRC": ParametricCurve(0, (value,)).pack()})


def test_greys_that_a_default_space_gives_their_tone_become_black_that_it_does_not_change(
    paper, converted, coated
) -> None:
    defaults(paper, "/DefaultGray", gamma(1.0))
    pixels = np.full((20, 20), 128, np.uint8)
    paper.put("/XObject", "/Im", paper.image(pixels, pikepdf.Name.DeviceGray))
    content = "0.5 g 0 0 9 9 re f q 9 0 0 9 0 0 cm /Im Do Q"
    _, pdf = converted(paper, content, rules=[{"action": "black"}])
    page = pdf.pages[0]
    assert "/DefaultGray" not in page.Resources.ColorSpace
    (black,) = [values for op, values in operations(page) if op == "k"]
    image = page.Resources.XObject.Im
    assert image.ColorSpace == pikepdf.Name.DeviceGray
    # A tone of 50 % light is L* 76: far less black than half.
    wanted = lab_of_device(gamma(1.0), np.array([[0.5]]))[0, 0]
    printed = lab_of_device(coated, np.array([[0, 0, 0, float(black[3])]]))[0, 0]
    assert wanted == pytest.approx(76, abs=0.5)
    assert printed == pytest.approx(wanted, abs=3)
    grey = np.frombuffer(image.read_bytes(), np.uint8)[0] / 255
    assert 1 - grey == pytest.approx(float(black[3]), abs=0.01)


@pytest.mark.parametrize("stroke", [False, True])
def test_numbers_that_are_left_keep_the_meaning_a_default_space_gave_them(
    paper, converted, coated, stroke
) -> None:
    defaults(paper, "/DefaultGray", gamma(1.0))
    defaults(paper, "/DefaultRGB", standard_profile("oprgb"))
    pixels = np.full((20, 20), 128, np.uint8)
    paper.put("/XObject", "/Im", paper.image(pixels, pikepdf.Name.DeviceGray))
    table = pikepdf.Array([pikepdf.Name.Indexed, pikepdf.Name.DeviceGray, 1, pikepdf.String(b"\0\x80")])  # fmt: skip
    paper.put("/XObject", "/In", paper.image(pixels % 2, table))
    three = paper.image(np.stack([pixels] * 3, -1), pikepdf.Name.DeviceRGB)
    paper.put("/XObject", "/Rgb", three)
    axial = pikepdf.Dictionary(
        ShadingType=2, ColorSpace=pikepdf.Name.DeviceGray, Coords=[0, 0, 9, 0],
        Function=pikepdf.Dictionary(FunctionType=2, Domain=[0, 1], N=1, C0=[0], C1=[1]),
    )  # fmt: skip
    paper.put("/Shading", "/Sh", paper.pdf.make_indirect(axial))
    g, rg, paint = ("G", "RG", "S") if stroke else ("g", "rg", "f")
    content = (
        f"0.5 {g} 0 0 9 9 re {paint} 1 0 0 {rg} 0 0 9 9 re {paint} "
        "q 9 0 0 9 0 0 cm /Im Do /In Do /Rgb Do Q /Sh sh"
    )
    report, pdf = converted(paper, content, rules=[{"action": "leave"}])
    assert not report.not_handled
    page = pdf.pages[0]
    spaces = page.Resources.ColorSpace
    assert "/DefaultGray" not in spaces
    # The press writes no RGB: that default stays, and so do its numbers.
    assert "/DefaultRGB" in spaces
    done = operations(page)
    assert (rg, [1, 0, 0]) in [(op, [int(v) for v in values]) for op, values in done if op == rg]
    at = [op for op, _ in done].index("CS" if stroke else "cs")
    name, values = done[at][1][0], done[at + 1][1]
    assert float(values[0]) == 0.5
    objects = page.Resources.XObject
    assert objects.Rgb.ColorSpace == pikepdf.Name.DeviceRGB
    for what, space in {
        "vectors": spaces[str(name)],
        "image": objects.Im.ColorSpace,
        "palette": objects.In.ColorSpace[1],
        "shading": page.Resources.Shading.Sh.ColorSpace,
    }.items():
        assert isinstance(space, pikepdf.Array), what
        assert space[0] == pikepdf.Name.ICCBased
        assert space[1].read_bytes() == gamma(1.0).data


def test_cmyk_of_a_default_space_that_is_left_or_goes_out_bare(paper, converted, coated_v4) -> None:
    defaults(paper, "/DefaultCMYK", coated_v4)
    content = "0.1 0.2 0.3 0.4 k 0 0 9 9 re f"
    _, pdf = converted(paper, content, rules=[{"action": "leave"}])
    done = operations(pdf.pages[0])
    assert [op for op, _ in done] == ["cs", "scn", "re", "f"]
    assert [float(v) for v in done[1][1]] == [0.1, 0.2, 0.3, 0.4]
    _, pdf = converted(paper, content, rules=[{"action": "leave"}], bare_cmyk=True)
    done = operations(pdf.pages[0])
    assert [op for op, _ in done] == ["k", "re", "f"]
    assert [float(v) for v in done[0][1]] == [0.1, 0.2, 0.3, 0.4]
    _, pdf = converted(paper, content, rules=[{"action": "convert"}])
    assert [op for op, _ in operations(pdf.pages[0])] == ["k", "re", "f"]
