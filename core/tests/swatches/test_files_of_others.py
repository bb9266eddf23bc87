"""Lists as other programs write them: columns by many names, CGATS and CxF3 with and without what is optional."""

from __future__ import annotations

import numpy as np
import pytest

from plinto_core.colorimetry.cielab import LCh_to_Lab, XYZ_to_Lab
from plinto_core.errors import BadInput, BadMeasurement, CoreError
from plinto_core.measurement import cgats
from plinto_core.measurement.cgats import decode, format_cgats, parse_cgats
from plinto_core.swatches.cxf import NAMESPACE, is_cxf, read_cxf, write_cxf
from plinto_core.swatches.files import read_swatches, safe_cell, swatches_of_text, write_swatches
from plinto_core.swatches.swatches import swatches


def refused(code: str, act, *given) -> None:
    with pytest.raises(CoreError) as error:
        act(*given)
    assert error.value.said.code == code


@pytest.mark.parametrize(
    ("text", "space", "values", "names"),
    [
        ("Name,L,a,b\nx,50,1,-2", "Lab ", [50, 1, -2], "x"),
        ("LAB_L;LAB_A;LAB_B;Patch\n50,5;1;-2,25;p", "Lab ", [50.5, 1, -2.25], "p"),
        ("ID\tL*\ta*\tb*\n7\t50,5\t1\t-2", "Lab ", [50.5, 1, -2], "7"),
        ("R,G,B\n1,2,3", "RGB ", [1, 2, 3], "1"),
        ("red green blue sample_name\n1 2 3 n", "RGB ", [1, 2, 3], "n"),
        ("Cyan,Magenta,Yellow,Black\n1,2,3,4", "CMYK", [1, 2, 3, 4], "1"),
        ("CMYK_C,CMYK_M,CMYK_Y,CMYK_K\n1,2,3,4", "CMYK", [1, 2, 3, 4], "1"),
        ("Gray\n12", "GRAY", [12], "1"),
        ("1,2,3,4,5\n10,20,30,40,50", "5CLR", [10, 20, 30, 40, 50], "1"),
        ("6CLR_2,6CLR_1,6CLR_3,6CLR_4,6CLR_5,6CLR_6\n20,10,30,40,50,60", "6CLR", [10, 20, 30, 40, 50, 60], "1"),
        ("\ufeffName;L;a;b\n\n;;;\nx;1;2;3", "Lab ", [1, 2, 3], "x"),
    ],
)  # fmt: skip
def test_columns_by_all_their_names(text, space, values, names) -> None:
    found = swatches_of_text(text)
    assert (found.space, found.names) == (space, (names,))
    assert found.values[0] == pytest.approx(values)


def test_lch_and_xyz_are_brought_into_lab() -> None:
    lch = swatches_of_text("L,C,h\n50,40,90")
    assert lch.values == pytest.approx(LCh_to_Lab(np.array([[50.0, 40, 90]])), abs=1e-6)
    for scale in (1, 100):
        xyz = swatches_of_text(
            f"X,Y,Z\n{0.3 * scale},{0.4 * scale},{0.2 * scale}\n{0.9 * scale},{0.95 * scale},{0.8 * scale}"
        )
        assert xyz.values == pytest.approx(
            XYZ_to_Lab(np.array([[0.3, 0.4, 0.2], [0.9, 0.95, 0.8]])), abs=1e-6
        )
    wanted = swatches_of_text("L,C,h,R,G,B\n50,40,90,1,2,3", "Lab ")
    assert wanted.space == "Lab "
    assert swatches_of_text("L,C,h,R,G,B\n50,40,90,1,2,3", "RGB ").values.tolist() == [[1, 2, 3]]


def test_numbers_alone_where_their_space_is_known() -> None:
    found = swatches_of_text("Deep red 50 60 40\n1 2 3", "Lab ")
    assert found.names == ("Deep red", "2")
    assert found.values.tolist() == [[50, 60, 40], [1, 2, 3]]
    assert swatches_of_text("1 2 3\n4 5 6", "RGB ").values.tolist() == [[1, 2, 3], [4, 5, 6]]
    assert swatches_of_text("1,2,3", "Lab ").values.tolist() == [[1, 2, 3]]
    assert swatches_of_text("1,2,3\n4,5,6", "RGB ").values.tolist() == [[4, 5, 6]]
    assert swatches_of_text("1 2 3 4 5\n9 8 7 6 5", "5CLR").values.tolist() == [[9, 8, 7, 6, 5]]
    assert swatches_of_text("a;1,5;2,5;3,5", "Lab ").values.tolist() == [[1.5, 2.5, 3.5]]
    assert swatches_of_text("10 20 30 40 50", "5CLR").values.tolist() == [[10, 20, 30, 40, 50]]


@pytest.mark.parametrize(
    ("text", "space", "code"),
    [
        ("", None, "list-empty"), (" \n ;;\n", None, "list-empty"), ("50 1 2", None, "no-column-names"),
        ("L,a,b", None, "list-head-only"), ("L,a,b\n1,2", None, "row-lacks-number"), ("L,a,b\n1,2,x", None, "row-lacks-number"),
        ("L,a,b\n1,2,3", "RGB ", "columns-other"), ("foo,bar\n1,2", None, "columns-unknown"), ("1 2", "Lab ", "row-ends"),
        ("1 2 x", "Lab ", "row-ends"),
    ],
)  # fmt: skip
def test_what_is_wrong_with_a_list_is_said(text, space, code) -> None:
    refused(f"swatches.{code}", swatches_of_text, text, space)


def test_places_may_be_empty_but_not_half() -> None:
    found = swatches_of_text("L,a,b,at_x,at_y\n1,2,3,10,20\n4,5,6,,")
    assert found.places is not None
    assert found.places[0].tolist() == [10, 20]
    assert np.isnan(found.places[1]).all()
    again = swatches_of_text(write_swatches(found, "csv").decode())
    assert again.places is not None
    assert np.isnan(again.places[1]).all()
    refused("swatches.row-lacks-number", swatches_of_text, "L,a,b,at_x,at_y\n1,2,3,10,")


@pytest.mark.parametrize(
    ("name", "cell"),
    [("=1", "'=1"), ("+a", "'+a"), ("-a", "'-a"), ("@a", "'@a"), ("a=1", "a=1"), ("'a", "'a")],
)
def test_cells_that_a_spreadsheet_would_work_out(name, cell) -> None:
    assert safe_cell(name) == cell
    assert swatches_of_text(f"Name,L,a,b\n{cell},1,2,3").names == (name,)


def test_numbers_are_written_with_five_decimals_and_no_more_than_needed() -> None:
    listed = swatches("Lab ", np.array([[50.123456, -0.000001, 100.0]]), ["n"])
    assert write_swatches(listed, "csv").decode().splitlines()[1] == "n,50.12346,0,100"
    many = write_swatches(swatches("5CLR", np.array([[1.0, 2, 3, 4, 5]])), "csv").decode()
    assert many.splitlines()[0] == "Name,5CLR_1,5CLR_2,5CLR_3,5CLR_4,5CLR_5"
    assert write_swatches(swatches("GRAY", np.array([[7.0]])), "cgats").decode().splitlines()[
        -2:
    ] == ['1\t"1"\t7', "END_DATA"]


TABLE = (
    "CGATS.17\n{head}BEGIN_DATA_FORMAT\n{fields}\nEND_DATA_FORMAT\nBEGIN_DATA\n{rows}\nEND_DATA\n"
)


@pytest.mark.parametrize(
    ("fields", "rows", "lists"),
    [
        ("SAMPLE_ID LAB_L LAB_A LAB_B", "a 50 1 2", {"Lab ": [50, 1, 2]}),
        (
            "SAMPLE_NAME CMYK_C CMYK_M CMYK_Y CMYK_K LAB_L LAB_A LAB_B",
            "a 1 2 3 4 50 1 2",
            {"CMYK": [1, 2, 3, 4], "Lab ": [50, 1, 2]},
        ),
        ("RGB_R RGB_G RGB_B", "1 2 3", {"RGB ": [1, 2, 3]}),
        (
            "7CLR_1 7CLR_2 7CLR_3 7CLR_4 7CLR_5 7CLR_6 7CLR_7",
            "1 2 3 4 5 6 7",
            {"7CLR": [1, 2, 3, 4, 5, 6, 7]},
        ),
    ],
)
def test_tables_hold_device_values_colours_or_both(fields, rows, lists) -> None:
    found = read_swatches(
        TABLE.format(head='DESCRIPTOR "Given"\n', fields=fields, rows=rows).encode(),
        "folder/list.v2.txt",
    )
    assert {one.space: one.values[0].tolist() for one in found} == {
        k: pytest.approx(v) for k, v in lists.items()
    }
    assert {one.title for one in found} == {"Given"}
    unnamed = read_swatches(
        TABLE.format(head="", fields=fields, rows=rows).encode(), "folder/list.v2.txt"
    )
    assert unnamed[0].title == "list.v2"


def test_cgats_is_read_with_quotes_comments_and_wrapped_rows() -> None:
    text = (
        'CGATS.17\nORIGINATOR "A # B"   # a note\nBEGIN_DATA_FORMAT\nsample_id  LAB_L\n LAB_A LAB_B END_DATA_FORMAT\n'
        'BEGIN_DATA 1 10\n 20 30\n\n"two words" 1 2 3 END_DATA\nBEGIN_DATA\n4 5 6 7\nEND_DATA'
    )
    first, second = parse_cgats(text)
    assert first.keywords["ORIGINATOR"] == "A # B"
    assert first.fields == ["SAMPLE_ID", "LAB_L", "LAB_A", "LAB_B"]
    assert first.column("SAMPLE_ID") == ["1", "two words"]
    assert second.rows == [["4", "5", "6", "7"]]
    again = parse_cgats(format_cgats({"A": "b c"}, ["X", "Y"], [["1", "2"], ["3", "4"]]))[0]
    assert (again.keywords["A"], again.rows) == ("b c", [["1", "2"], ["3", "4"]])


TABBED = (
    "NUMBER_OF_SETS {sets}\nBEGIN_DATA_FORMAT\nSample Name\tLAB_L\tLAB_A\tLAB_B\nEND_DATA_FORMAT\n"
    'BEGIN_DATA\nDark Red\t30\t50\t20\n"Night Sky"\t20\t5\t-40\nEND_DATA\n'
)


@pytest.mark.parametrize("ends", ["\n", "\r\n", "\r"])
def test_lists_of_old_machines_and_names_of_two_words(ends) -> None:
    (found,) = read_swatches(TABBED.format(sets=2).replace("\n", ends).encode())
    assert found.names == ("Dark Red", "Night Sky")
    assert found.values.tolist() == [[30, 50, 20], [20, 5, -40]]
    assert found.notes == ()
    (rows,) = read_swatches(ends.join(["Sample Name;L;a;b", "Dark Red;30;50;20", ""]).encode())
    assert (rows.names, rows.values.tolist()) == (("Dark Red",), [[30, 50, 20]])


def test_a_table_that_is_shorter_than_it_says_is_told() -> None:
    (found,) = read_swatches(TABBED.format(sets=12).encode())
    assert [(n.code, n.values) for n in found.notes] == [
        ("measurement.announced", {"declared": "12", "count": 2})
    ]
    # A count that is no number says nothing.
    assert read_swatches(TABBED.format(sets="²").encode())[0].notes == ()


def test_tabs_that_only_align_part_nothing() -> None:
    # Four rows of three cells each, which is as many as three rows of four.
    rows = [["Red", "30", "50", "20"], ["Blue", "20", "5", "-40"], ["Grey", "50", "0", "0"]] * 2
    text = "BEGIN_DATA_FORMAT\nNAME\tLAB_L\tLAB_A\tLAB_B\nEND_DATA_FORMAT\nBEGIN_DATA\n"
    text += "".join(f"{a}\t{b} {c}\t{d}\n" for a, b, c, d in rows[:4]) + "END_DATA\n"
    assert parse_cgats(text)[0].rows == rows[:4]


@pytest.mark.parametrize(
    ("text", "code"),
    [
        ("BEGIN_DATA\n1 2\nEND_DATA\n", "file-no-format"), ("BEGIN_DATA_FORMAT\nA B\nEND_DATA_FORMAT\nBEGIN_DATA\n1 2\n", "file-short"),
        ("BEGIN_DATA_FORMAT\nA B\nEND_DATA_FORMAT\nBEGIN_DATA\n1 2 3\nEND_DATA", "file-rows"), ("words alone\n", "file-no-table"),
    ],
)  # fmt: skip
def test_tables_that_are_not_whole(text, code) -> None:
    refused(f"measurement.{code}", parse_cgats, text)


def test_texts_of_every_encoding_and_no_larger_than_they_may_be(monkeypatch) -> None:
    assert decode("Grün".encode("utf-16")) == "Grün"
    assert decode("\ufeffGrün".encode()) == "Grün"
    assert decode("Grün".encode("latin-1")) == "Grün"
    refused("measurement.file-no-text", decode, b"abc\0def")
    monkeypatch.setattr(cgats, "MAX_BYTES", 10)
    assert decode(b"x" * 10) == "x" * 10
    refused("measurement.file-large", decode, b"x" * 11)
    monkeypatch.setattr(cgats, "MAX_FIELDS", 3)
    assert parse_cgats("BEGIN_DATA_FORMAT\nA B C\nEND_DATA_FORMAT\nBEGIN_DATA\n1 2 3\nEND_DATA")
    refused("measurement.file-fields", parse_cgats, "BEGIN_DATA_FORMAT\nA B C D\nEND_DATA_FORMAT\n")


def cxf(objects: str, more: str = "") -> bytes:
    return f'<CxF xmlns="{NAMESPACE}"><FileInformation><Description>About</Description></FileInformation><Resources><ObjectCollection>{objects}</ObjectCollection>{more}</Resources></CxF>'.encode()


LAB = "<ColorValues><ColorCIELab><L>50</L><A>1</A><B> -2 </B></ColorCIELab></ColorValues>"
XYZ = "<ColorValues><ColorCIEXYZ><X>30</X><Y>40</Y><Z>20</Z></ColorCIEXYZ></ColorValues>"


def test_objects_of_a_cxf_by_what_they_hold() -> None:
    cmyk = "<DeviceColorValues><ColorCMYK><Cyan>10</Cyan><Magenta>20</Magenta><Yellow>30</Yellow><Black>40</Black></ColorCMYK></DeviceColorValues>"
    rgb = '<DeviceColorValues><ColorRGB MaxRange="1"><R>1</R><G>0.5</G><B>0</B></ColorRGB></DeviceColorValues>'
    lab, device = read_cxf(
        cxf(
            f'<Object Name="one">{LAB}{cmyk}</Object><Object Id="two">{XYZ}{cmyk}</Object><Object>{rgb}</Object>'
        )
    )
    assert lab.names == ("one", "two")
    assert lab.values[0].tolist() == [50, 1, -2]
    assert lab.values[1] == pytest.approx(XYZ_to_Lab(np.array([0.3, 0.4, 0.2])))
    assert (device.space, device.names, device.values.tolist()) == (
        "CMYK",
        ("one", "two"),
        [[10, 20, 30, 40]] * 2,
    )
    assert (lab.title, lab.notes) == ("About", ())
    (only,) = read_cxf(cxf(f'<Object Name="n">{rgb}</Object>'))
    assert only.values.tolist() == [[255, 127.5, 0]]


def test_spectra_of_a_cxf_begin_where_it_says() -> None:
    flat = " ".join(["0.5"] * 31)
    spec = '<ColorSpecificationCollection><ColorSpecification Id="s"><MeasurementSpec><WavelengthRange StartWL="400" Increment="10"/></MeasurementSpec></ColorSpecification></ColorSpecificationCollection>'
    for attributes in ('ColorSpecification="s"', 'StartWL="400"'):
        (found,) = read_cxf(
            cxf(
                f'<Object Name="n"><ColorValues><ReflectanceSpectrum {attributes}>{flat}</ReflectanceSpectrum></ColorValues></Object>',
                spec,
            )
        )
        assert found.values[0] == pytest.approx([76.07, 0, 0], abs=0.05)
    few = " ".join(["0.5"] * 15)
    refused(
        "swatches.cxf-spectrum-short",
        read_cxf,
        cxf(f"<Object><ReflectanceSpectrum>{few}</ReflectanceSpectrum></Object>"),
    )


@pytest.mark.parametrize(
    ("illuminants", "note"),
    [(("D50",), ""), ((" d50 ", ""), ""), (("D65",), "D65"), (("D65", "A", "D50"), "A, D65")],
)
def test_other_lights_are_named(illuminants, note) -> None:
    spec = "".join(f"<Illuminant>{i}</Illuminant>" if i else "<Illuminant/>" for i in illuminants)
    (found,) = read_cxf(cxf(f"<Object>{LAB}</Object>", spec))
    assert [n.values["whites"] for n in found.notes] == ([note] if note else [])


@pytest.mark.parametrize(
    ("data", "code"),
    [
        (b"<CxF", "cxf-malformed"), (b"<other/>", "cxf-other"), (cxf(""), "cxf-no-colours"), (cxf("<Object Name='x'/>"), "cxf-no-colours"),
        (cxf(f"<Object>{LAB.replace('50', 'x')}</Object>"), "cxf-number"),
        (cxf('<Object><ColorRGB MaxRange="0"><R>1</R><G>1</G><B>1</B></ColorRGB></Object>'), "cxf-greatest"),
    ],
)  # fmt: skip
def test_broken_cxf_says_what_is_wrong(data, code) -> None:
    refused(f"swatches.{code}", read_cxf, data)


def test_what_is_cxf_and_what_can_be_written_so() -> None:
    made = write_cxf(swatches("CMYK", np.array([[10.0, 20, 30, 40.5]]), ["a\x0bb"], title="t"))
    assert is_cxf(made)
    assert is_cxf(b"\xef\xbb\xbf \n<x:CxF/>")
    assert not is_cxf(b"CxF <a/>")
    assert not is_cxf(b"<a/>" + b" " * 4096 + b"CxF")
    (again,) = read_cxf(made)
    assert (again.space, again.values.tolist(), again.title) == ("CMYK", [[10, 20, 30, 40.5]], "t")
    with pytest.raises(BadInput):
        write_cxf(swatches("GRAY", np.array([[1.0]])))
    with pytest.raises((BadInput, BadMeasurement)):
        read_swatches(b"<CxF", "x.cxf")
