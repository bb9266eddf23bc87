"""Lists of colours through every format, ready lists, and lists out of pictures."""

from __future__ import annotations

import numpy as np
import pytest
from handmade import cmyk_profile, simple_print
from lxml import etree

from plinto_core.colorimetry.cielab import D50, Lab_to_LCh, XYZ_to_Lab
from plinto_core.colorimetry.spectra import reflectance_to_XYZ
from plinto_core.errors import BadInput
from plinto_core.gamut.views import body_of
from plinto_core.icc.values import pack_text
from plinto_core.icc.write import write_profile
from plinto_core.swatches import ready
from plinto_core.swatches.cxf import NAMESPACE
from plinto_core.swatches.files import read_swatches, swatches_of_text, write_swatches
from plinto_core.swatches.sampling import Grid, centres, dominant, sample_grid
from plinto_core.swatches.swatches import MOST, swatches
from plinto_core.transform.standard_spaces import standard_profile

RNG = np.random.default_rng(4)
SPACES = {
    "Lab ": RNG.uniform([0, -90, -90], [100, 90, 90], (40, 3)),
    "RGB ": RNG.random((40, 3)) * 255,
    "CMYK": RNG.random((40, 4)) * 100,
    "GRAY": RNG.random((40, 1)) * 255,
    "7CLR": RNG.random((40, 7)) * 100,
}


@pytest.mark.parametrize("form", ["csv", "cgats", "cxf"])
@pytest.mark.parametrize("space", list(SPACES))
def test_a_list_comes_back_as_it_left(space, form) -> None:
    names = [f"No. {i}, “quoted”; <é> & co" for i in range(40)]
    kept = swatches(space, SPACES[space], names, title="Leaves & skins")
    if form == "cxf" and space in ("GRAY", "7CLR"):
        with pytest.raises(BadInput, match="no place"):
            write_swatches(kept, form)
        return
    (again,) = read_swatches(write_swatches(kept, form), "list.dat")
    assert again.space == space
    assert again.names == kept.names
    # CxF is written with six digits, the others with five decimals.
    assert again.values == pytest.approx(kept.values, abs=6e-4 if form == "cxf" else 6e-6)
    assert again.title == ("list" if form == "csv" else "Leaves & skins")


def test_names_that_look_like_formulas_are_marked_for_spreadsheets_and_come_back() -> None:
    names = ["=1+1", "-5 K", "+x", "@home", "'quoted'", "plain"]
    data = write_swatches(swatches("GRAY", SPACES["GRAY"][:6], names), "csv")
    assert all(line.startswith(("'", "plain")) for line in data.decode().splitlines()[1:])
    assert read_swatches(data)[0].names == tuple(names)


def test_places_stay_with_csv() -> None:
    kept = swatches("RGB ", SPACES["RGB "], places=RNG.random((40, 2)) * 900)
    (again,) = read_swatches(write_swatches(kept, "csv"))
    assert again.places == pytest.approx(kept.places, abs=1e-5)
    assert again.names[:3] == ("1", "2", "3")


@pytest.mark.parametrize(
    ("text", "space", "first"),
    [
        ("Name,L,a,b\nbrick,50,60,30\n", "Lab ", [50, 60, 30]),
        ("L*\ta*\tb*\n50,5\t60\t-30\n", "Lab ", [50.5, 60, -30]),
        ("name;C;M;Y;K\nx;0;12,5;0;3\n", "CMYK", [0, 12.5, 0, 3]),
        ("R G B\n1 2 3\n", "RGB ", [1, 2, 3]),
        ("L,C,h\n50,10,90\n", "Lab ", [50, 0, 10]),
        ("X,Y,Z\n96.42,100,82.49\n", "Lab ", [100, 0, 0]),
        ("5,2,3\n1,2,3\n", None, None),
        ("1,2,3,4,5\n1,2,3,4,6\n", "5CLR", [1, 2, 3, 4, 6]),
        ("5CLR_2,5CLR_1,5CLR_3,5CLR_4,5CLR_5\n1,2,3,4,5\n", "5CLR", [2, 1, 3, 4, 5]),
        ("X,Y,Z\n0.9642,1,0.8249\n", "Lab ", [100, 0, 0]),
        ("Grey\n128\n", "GRAY", [128]),
        ("\ufeffk,y,m,c\n4,3,2,1\n", "CMYK", [1, 2, 3, 4]),
    ],
)
def test_tables_name_their_columns(text, space, first) -> None:
    if space is None:
        with pytest.raises(BadInput, match="first row"):
            read_swatches(text.encode())
        return
    (found,) = read_swatches(text.encode(), "a.csv")
    assert found.space == space
    assert found.values[0] == pytest.approx(first, abs=0.01)


def test_typed_colours_need_no_header_where_their_space_is_known() -> None:
    found = swatches_of_text("brick red 50 60 30\n\n20 0 -5", "Lab ")
    assert found.names == ("brick red", "2")
    assert found.values.tolist() == [[50, 60, 30], [20, 0, -5]]
    with pytest.raises(BadInput, match="Row 2 does not end in 4 numbers"):
        swatches_of_text("1 2 3 5\n1 2 3", "CMYK")


@pytest.mark.parametrize(
    ("text", "word"),
    [
        ("", "empty"), ("L,a,b\n", "no colours"), ("L,a,b\n1,2\n", "Row 2"), ("u,v\n1,2\n", "first row|name no"),
        ("L,a,b\n1,2,x\n", "column 3"), ("R,G,B\n1,2,300\n", "Colour 1"), ("C,M,Y,K\n0,0,0,-3\n", "outside"),
        ("L,a,b\n1,2,nan\n", "outside"), ("L,a,b\n1e999,2,3\n", "outside"),
    ],
)  # fmt: skip
def test_what_is_no_list_is_refused_in_a_sentence(text, word) -> None:
    with pytest.raises(BadInput, match=word):
        read_swatches(text.encode(), "a.csv")


def test_of_several_columns_those_that_are_wanted_are_taken() -> None:
    text = b"name,L,a,b,R,G,B\nx,50,0,0,1,2,3\n"
    assert read_swatches(text)[0].space == "Lab "
    assert read_swatches(text, wanted="RGB ")[0].values.tolist() == [[1, 2, 3]]
    assert read_swatches(b"1,2,3\n4,5,6\n", wanted="RGB ")[0].values.tolist() == [[4, 5, 6]]


def test_columns_of_another_space_than_is_wanted_are_named() -> None:
    with pytest.raises(BadInput, match="C, M, Y, K are CMYK, and Lab is wanted"):
        swatches_of_text("C,M,Y,K\n1,2,3,4", "Lab ")
    with pytest.raises(BadInput, match="L, a, b are Lab, and RGB is wanted"):
        swatches_of_text("L,a,b\n1,2,3", "RGB ")
    polar = swatches_of_text("L,C,h\n50,10,90", "Lab ")
    assert polar.space == "Lab "
    assert polar.values[0] == pytest.approx([50, 0, 10], abs=1e-9)


def test_more_than_can_be_taken_is_refused() -> None:
    with pytest.raises(BadInput, match="Split"):
        swatches("GRAY", np.zeros((MOST + 1, 1)))


def test_measurements_give_their_numbers_and_their_colours() -> None:
    text = (
        'CGATS.17\nDESCRIPTOR "Trial"\nBEGIN_DATA_FORMAT\nSAMPLE_ID CMYK_K CMYK_C CMYK_M CMYK_Y LAB_L LAB_A LAB_B\n'
        "END_DATA_FORMAT\nBEGIN_DATA\nA1 0 100 0 0 55 -37 -50\nA2 100 0 0 0 16 0 0\nEND_DATA\n"
    )
    device, colour = read_swatches(text.encode(), "x.txt")
    assert (device.space, colour.space) == ("CMYK", "Lab ")
    assert device.values.tolist() == [[100, 0, 0, 0], [0, 0, 0, 100]]
    assert colour.values[0].tolist() == [55, -37, -50]
    assert device.names == colour.names == ("A1", "A2")
    inside = standard_profile("srgb")
    tags = {n: inside.raw(n) for n in ("desc", "rXYZ", "gXYZ", "bXYZ", "rTRC", "gTRC", "bTRC")}
    held = write_profile(inside.header, {**tags, "targ": pack_text(text)})
    assert [one.space for one in read_swatches(held, "x.icc")] == ["CMYK", "Lab "]
    with pytest.raises(BadInput, match="no measurements"):
        read_swatches(inside.data, "x.icc")


@pytest.mark.parametrize("reflectance", [0.04, 0.5])
def test_spectra_are_read_in_percent_and_in_shares(reflectance) -> None:
    waves = range(380, 740, 10)
    head = " ".join(f"SPECTRAL_{w}" for w in waves)
    found = []
    for level in (reflectance, 100 * reflectance):
        row = " ".join(f"{level:g}" for _ in waves)
        text = (
            f"CGATS.17\nBEGIN_DATA_FORMAT\nSAMPLE_ID {head}\nEND_DATA_FORMAT\nBEGIN_DATA\n"
            f"A1 {row}\nEND_DATA\n"
        )
        (colours,) = read_swatches(text.encode(), "x.txt")
        found.append(colours.values[0])
    assert found[0] == pytest.approx(XYZ_to_Lab(D50 * reflectance), abs=0.02)
    assert found[1] == pytest.approx(found[0], abs=1e-9)


def cxf(objects: str, more: str = "") -> bytes:
    return (
        f'<?xml version="1.0"?><cc:CxF xmlns:cc="{NAMESPACE}"><cc:Resources><cc:ObjectCollection>{objects}'
        f"</cc:ObjectCollection>{more}</cc:Resources></cc:CxF>"
    ).encode()


def test_cxf_with_a_prefix_spectra_and_device_values() -> None:
    flat = " ".join(["0.5"] * 36)
    found = read_swatches(
        cxf(
            f'<cc:Object Name="half" Id="a"><cc:ColorValues><cc:ReflectanceSpectrum ColorSpecification="s">{flat}'
            '</cc:ReflectanceSpectrum></cc:ColorValues><cc:DeviceColorValues><cc:ColorCMYK><cc:Cyan>10</cc:Cyan>'
            "<cc:Magenta>20</cc:Magenta><cc:Yellow>30</cc:Yellow><cc:Black>40</cc:Black></cc:ColorCMYK>"
            '</cc:DeviceColorValues></cc:Object><cc:Object Id="b"><cc:ColorValues><cc:ColorCIEXYZ><cc:X>96.42</cc:X>'
            "<cc:Y>100</cc:Y><cc:Z>82.49</cc:Z></cc:ColorCIEXYZ></cc:ColorValues></cc:Object>",
            '<cc:ColorSpecificationCollection><cc:ColorSpecification Id="s"><cc:TristimulusSpec><cc:Illuminant>D65'
            '</cc:Illuminant></cc:TristimulusSpec><cc:MeasurementSpec><cc:WavelengthRange StartWL="380" Increment="10"/>'
            "</cc:MeasurementSpec></cc:ColorSpecification></cc:ColorSpecificationCollection>",
        )
    )  # fmt: skip
    colours, device = found
    assert colours.names == ("half", "b")
    # A flat half reflects Y = 50, which is L* 76.07.
    assert colours.values[0] == pytest.approx([76.07, 0, 0], abs=0.05)
    assert colours.values[1] == pytest.approx([100, 0, 0], abs=0.05)
    assert "D65" in colours.notes[0]
    assert device.values.tolist() == [[10, 20, 30, 40]]


@pytest.mark.parametrize(
    "data",
    [
        cxf("")[:-30],
        cxf(""),
        cxf("<cc:Object><cc:ColorCIELab><cc:L>x</cc:L></cc:ColorCIELab></cc:Object>"),
        cxf('<cc:Object><cc:ReflectanceSpectrum>1 2</cc:ReflectanceSpectrum></cc:Object>'),
        cxf('<cc:Object><cc:ColorRGB MaxRange="0"><cc:R>1</cc:R></cc:ColorRGB></cc:Object>'),
        b"<html>CxF</html>",
    ],
)  # fmt: skip
def test_broken_cxf_is_refused(data) -> None:
    with pytest.raises(BadInput):
        read_swatches(data, "x.cxf")


def test_no_entity_of_a_hostile_cxf_is_read(tmp_path) -> None:
    secret = tmp_path / "secret"
    secret.write_text("50")
    attack = (
        f'<!DOCTYPE x [<!ENTITY e SYSTEM "file://{secret}">]><CxF xmlns="{NAMESPACE}"><Object Name="&e;">'
        "<ColorCIELab><L>&e;</L><A>0</A><B>0</B></ColorCIELab></Object></CxF>"
    ).encode()
    with pytest.raises(BadInput):
        read_swatches(attack, "x.cxf")


def test_entities_of_a_cxf_are_not_expanded() -> None:
    attack = (
        f'<!DOCTYPE x [<!ENTITY e "50">]><CxF xmlns="{NAMESPACE}"><Object Name="a">'
        "<ColorCIELab><L>&e;</L><A>0</A><B>0</B></ColorCIELab></Object></CxF>"
    ).encode()
    with pytest.raises(BadInput, match="where a number belongs"):
        read_swatches(attack, "x.cxf")


def test_what_is_written_is_well_formed_and_in_its_namespace() -> None:
    start = write_swatches(swatches("Lab ", np.zeros((1, 3)), ["a"]), "cxf").split(b"\n")[0]
    assert start.replace(b"'", b'"') == b'<?xml version="1.0" encoding="UTF-8"?>'
    data = write_swatches(swatches("Lab ", SPACES["Lab "], title="bad \x01 sign"), "cxf")
    root = etree.fromstring(data)
    assert root.tag == f"{{{NAMESPACE}}}CxF"
    assert root.findtext(".//{*}Illuminant") == "D50"


def test_colours_under_d50_carry_no_note_and_others_name_their_light() -> None:
    data = write_swatches(swatches("Lab ", SPACES["Lab "], title="chart"), "cxf")
    assert read_swatches(data)[0].notes == ()
    (found,) = read_swatches(data.replace(b">D50<", b">F11<"))[0].notes
    assert found.code == "swatches.cxf-white"
    assert "F11" in found


def test_neutrals_go_from_white_to_black() -> None:
    found = ready.neutrals(5)
    assert found.values.tolist() == [[100, 0, 0], [75, 0, 0], [50, 0, 0], [25, 0, 0], [0, 0, 0]]
    with pytest.raises(BadInput):
        ready.neutrals(1)


def test_solids_are_paper_inks_and_overprints() -> None:
    press = cmyk_profile(simple_print, lambda lab: np.zeros((len(lab), 4)))
    found = ready.solids(press)
    assert found.names[:6] == ("paper", "C", "M", "Y", "K", "C M")
    # One, four, six of two, four of three, one of all.
    assert len(found) == 16
    assert found.values[found.names.index("M Y")].tolist() == [0, 100, 100, 0]
    assert found.values[-1].tolist() == [100] * 4
    with pytest.raises(BadInput, match="Only ink sets"):
        ready.solids(standard_profile("srgb"))


def test_a_chart_holds_every_combination() -> None:
    found = ready.chart(standard_profile("srgb"), 3)
    assert sorted(map(tuple, found.values)) == sorted(
        {(r, g, b) for r in (0, 127.5, 255) for g in (0, 127.5, 255) for b in (0, 127.5, 255)}
    )
    press = cmyk_profile(simple_print, lambda lab: np.zeros((len(lab), 4)))
    assert ready.chart(press, 2).values.max() == 100
    with pytest.raises(BadInput, match="cannot be made"):
        ready.chart(press, 22)


def test_extreme_colours_are_the_bodys_own() -> None:
    srgb = standard_profile("srgb")
    found = ready.extremes(srgb, 24)
    assert len(found) == 26
    lch = Lab_to_LCh(found.values)
    assert lch[:24, 2] == pytest.approx(np.arange(24) * 15.0, abs=0.01)
    body = body_of(srgb, "paper")
    assert body.misses(found.values).sum() == 0
    farther = found.values.copy()
    farther[:24, 1:] *= 1.3
    assert body.misses(farther[:24]).all()
    assert found.values[-2:, 0] == pytest.approx([100, 0], abs=0.5)


def ramp(bits=8) -> np.ndarray:
    top = 255 if bits == 8 else 65535
    picture = np.zeros((60, 100, 4), np.uint8 if bits == 8 else np.uint16)
    picture[:, :50, 0] = top
    picture[:, 50:, 1] = top
    picture[..., 3] = 77
    return picture


@pytest.mark.parametrize("bits", [8, 16])
def test_a_grid_reads_the_middles_of_its_cells(bits) -> None:
    found = sample_grid(ramp(bits), "RGB ", Grid(0, 0, 100, 60, 4, 3, mark=3))
    assert found.names == tuple(f"{r}{c}" for r in "ABC" for c in (1, 2, 3, 4))
    assert found.places[0].tolist() == [12.5, 10]
    assert found.places[-1].tolist() == [87.5, 50]
    assert found.values[0].tolist() == [255, 0, 0]
    assert found.values[3].tolist() == [0, 255, 0]
    assert found.notes == ()


def test_marks_on_an_edge_are_named() -> None:
    found = sample_grid(ramp(), "RGB ", Grid(40, 10, 20, 20, 3, 1, mark=5))
    # The middle mark covers x 48 to 52: two columns red, three green.
    assert found.values[1] == pytest.approx([102, 153, 0])
    assert found.notes == ("1 mark lies on an edge or in texture: A2.",)


@pytest.mark.parametrize(
    "grid",
    [
        Grid(-1, 0, 10, 10, 2, 2), Grid(0, 0, 101, 10, 2, 2), Grid(0, 0, 10, 0, 2, 2), Grid(0, 0, 10, 10, 0, 2),
        Grid(0, 0, 10, 10, 101, 2), Grid(0, 0, 100, 60, 100, 100, mark=101), Grid(0, 0, 10, 10, 2, 2, mark=0), Grid(0, 55, 10, 10, 2, 2),
    ],
)  # fmt: skip
def test_grids_outside_the_picture_are_refused(grid) -> None:
    with pytest.raises(BadInput):
        sample_grid(ramp(), "RGB ", grid)


def test_centres_go_row_by_row() -> None:
    assert centres(Grid(10, 20, 40, 20, 2, 2)).tolist() == [[20, 25], [40, 25], [20, 35], [40, 35]]


def test_dominant_colours_come_by_their_share() -> None:
    picture = ramp()
    picture[:20, :, :3] = 0
    picture[:20, :, 2] = 200
    found = dominant(picture, "RGB ", 3)
    assert sorted(map(tuple, np.round(found.values, 6))) == [(0, 0, 200), (0, 255, 0), (255, 0, 0)]
    assert all(name.endswith(" % of it") for name in found.names)
    noisy = np.clip(RNG.normal([[200, 40, 40]], 6, (4000, 3)), 0, 255)
    noisy[:1000] = RNG.normal([[30, 30, 160]], 6, (1000, 3)).clip(0, 255)
    two = dominant(noisy.reshape(40, 100, 3).astype(np.uint8), "RGB ", 2)
    assert two.values == pytest.approx(np.array([[200, 40, 40], [30, 30, 160]]), abs=1.5)
    assert two.names == ("75.0 % of it", "25.0 % of it")
    again = dominant(noisy.reshape(40, 100, 3).astype(np.uint8), "RGB ", 2)
    assert again.values.tolist() == two.values.tolist()


def test_a_spectrum_that_says_nothing_else_begins_at_380_by_ten() -> None:
    values = np.linspace(0.1, 0.9, 36)
    written = " ".join(f"{v:.6f}" for v in values)

    def read(start: str):
        spectrum = f"<cc:ReflectanceSpectrum{start}>{written}</cc:ReflectanceSpectrum>"
        return read_swatches(cxf(f'<cc:Object Name="A"><cc:ColorValues>{spectrum}</cc:ColorValues></cc:Object>'))  # fmt: skip

    (plain,), (named,) = read(""), read(' StartWL="380"')
    wavelengths = np.arange(380.0, 731.0, 10.0)
    wanted = XYZ_to_Lab(reflectance_to_XYZ(values[None], wavelengths))
    assert plain.values == pytest.approx(wanted, abs=1e-3)
    assert named.values == pytest.approx(wanted, abs=1e-3)


@pytest.mark.parametrize(
    ("space", "count", "fields"),
    [
        ("CMYK", 4, "CMYK_C CMYK_M CMYK_Y CMYK_K"), ("RGB ", 3, "RGB_R RGB_G RGB_B"), ("GRAY", 1, "GRAY"), ("Lab ", 3, "LAB_L LAB_A LAB_B"),
        ("CMY ", 3, "3CLR_1 3CLR_2 3CLR_3"), ("2CLR", 2, "2CLR_1 2CLR_2"), ("6CLR", 6, "6CLR_1 6CLR_2 6CLR_3 6CLR_4 6CLR_5 6CLR_6"),
    ],
)  # fmt: skip
def test_cgats_names_its_columns_as_others_read_them(space, count, fields) -> None:
    listed = swatches(space, np.full((2, count), 20.0), ["a", "b"])
    text = write_swatches(listed, "cgats").decode()
    head = text[text.index("BEGIN_DATA_FORMAT") : text.index("END_DATA_FORMAT")].split()
    assert head[-count:] == fields.split()
