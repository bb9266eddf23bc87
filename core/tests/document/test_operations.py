"""Content streams cut into operators, where they paint, and what is put into them."""

from __future__ import annotations

import math
import random
import zlib
from decimal import Decimal

import numpy as np
import pikepdf
import pytest
from pikepdf import Array, Name, Stream

from paperwork import Paper
from plinto_core.document import parse_policy, run_policy
from plinto_core.document.pdf.edits import Edits
from plinto_core.document.pdf.operations import INLINE, WORDS, Laid, Operations, _last_of, kernel
from plinto_core.document.pdf.spaces import RGB
from plinto_core.document.pdf.state import IDENTITY
from plinto_core.document.rules import colours
from plinto_core.document.rules.colours import ColourMapper
from plinto_core.document.rules.policy import Rule
from plinto_core.document.walking import ahead
from plinto_core.transform.standard_spaces import standard_profile

ODDITIES = (
    b"(a\\)b) Tj", b"(a(b)c\\\\) Tj", b"(\\101\\7\\\n\\\r\nx\r\n) Tj", b"<48 65 6c6C6> Tj", b"<> Tj",
    b"[(a) -120.5 <41> /x [1 2] << /A (q]) >>] TJ", b"/Name#20x gs", b"/a/b scn", b"% a (note\n",
    b"/OC << /A [1 (x>>)] /B <41> >> BDC", b"1 0 0 rg% note\r", b"true sh", b"null false d0",
    b"unknown", b"f*", b"T*", b"1 2 3 zz", b"[] 0 d", b"[1 2] 0 d", b"1 2 (x) \"", b"(x) '", b"/F1 12 Tf",
)  # fmt: skip
NUMBERS = (
    b"0",
    b"1",
    b"-1",
    b"+3",
    b".5",
    b"-.25",
    b"4.",
    b"0.123456789",
    b"100000000",
    b"-0",
    b"007",
)


def shown(value: object) -> object:
    if isinstance(value, bool):
        return value
    if isinstance(value, Decimal | int | float):
        return float(value)
    return value.unparse() if isinstance(value, pikepdf.Object) else repr(value)


def parsed(data: bytes) -> list[tuple[str, list[object]]]:
    with pikepdf.new() as pdf:
        made = pikepdf.parse_content_stream(Stream(pdf, data))
        return [(str(i.operator), [shown(v) for v in i.operands]) for i in made]


def cut(data: bytes) -> list[tuple[str, list[object]]]:
    ops = Operations.of_bytes(data)
    assert ops is not None, data
    return [(ops.given(i), [shown(v) for v in ops.operands(i)]) for i in range(len(ops))]


def stream(seed: int) -> bytes:
    """Operators in a random order, with random white space."""
    r = random.Random(seed)
    known = [w for w in WORDS if w not in ("", INLINE, "BI", "ID", "EI")]
    parts: list[bytes] = []
    for _ in range(40):
        if r.random() < 0.4:
            parts.append(r.choice(ODDITIES))
        else:
            operands = [r.choice(NUMBERS) for _ in range(r.randrange(7))]
            parts.append(b" ".join([*operands, r.choice(known).encode()]))
        parts.append(r.choice((b"\n", b" ", b"\r\n", b"\t\0 ", b"  \f")))
    return b"".join(parts)


@pytest.mark.parametrize("seed", range(60))
def test_operators_and_operands_are_those_that_a_parser_of_the_whole_syntax_finds(seed) -> None:
    data = stream(seed)
    assert cut(data) == parsed(data)


def test_operators_without_blanks_between_them() -> None:
    assert cut(b"[(a)]TJ/F1 9 Tf(b)Tj<41>Tj[1]0 d") == [
        ("TJ", [b"[ (a) ]"]), ("Tf", [b"/F1", 9.0]), ("Tj", [b"(b)"]), ("Tj", [b"(A)"]),
        ("d", [b"[ 1 ]", 0.0]),
    ]  # fmt: skip


@pytest.mark.parametrize(
    "data",
    [b"(a Tj", b"<41 Tj", b"<4x> Tj", b"[1 2 TJ", b"<< /A 1 >", b"1 2", b") Tj", b"} f", b"1..2 w", b"--1 w",
     b"1e5 w", b"- w", b"1 0 0rg", b"BI /W 1 ID x EI", b"[<<]>> TJ", b"123456789012345678901234 w",
     b"0.00000000000000000000000001 w", b"(\\", b"[(] TJ"],
)  # fmt: skip
def test_what_is_not_in_its_plain_form_is_left_to_the_parser(data) -> None:
    assert Operations.of_bytes(data) is None


@pytest.mark.parametrize("data", [b"", b"  \n", b"% nothing"])
def test_a_stream_of_nothing_has_no_operators(data) -> None:
    ops = Operations.of_bytes(data)
    assert ops is not None
    assert len(ops) == 0
    assert len(Laid(ops, IDENTITY).odd) == 0


def test_what_the_parser_mends_is_walked_as_well() -> None:
    with pikepdf.new() as pdf:
        data = b"1 0 0 rg 0 0 9 9 re f BI /W 1 /H 1 /CS /G /BPC 8 ID x EI"
        ops = Operations.read(Stream(pdf, data))
        words = [ops.word(i) for i in range(len(ops))]
        assert words[:4] == ["rg", "re", "f", INLINE]
        assert ops.operands(0) == [1.0, 0.0, 0.0]
        assert Laid(ops, IDENTITY).box(2) == (0, 0, 9, 9)
        assert isinstance(ops.object(3), pikepdf.ContentStreamInlineImage)


def test_lengths_of_text() -> None:
    ops = Operations.of_bytes(b"(a\\)\\101\\\nb) Tj <414> Tj [(abc) 1 (d)] TJ Tj /x Tj 1 Tj")
    assert [ops.length(i) for i in range(6)] == [4, 2, 12, 0, 4, 4]
    nested = Operations.of_bytes(b"[(a) [1 2 3] << /A [4] >>] TJ")
    assert nested.length(0) == 12, "what stands in the array itself"


def test_pages_of_several_streams_are_cut_as_one(tmp_path) -> None:
    with pikepdf.new() as pdf:
        pdf.add_blank_page()
        page = pdf.pages[0]
        page.obj["/Contents"] = pikepdf.Array([Stream(pdf, b"1 0"), Stream(pdf, b"0 rg")])
        ops = Operations.read(page)
        assert [(ops.word(i), ops.operands(i)) for i in range(len(ops))] == [
            ("rg", [1.0, 0.0, 0.0])
        ]


def laid(data: bytes, ctm=IDENTITY) -> tuple[Operations, Laid]:
    ops = Operations.of_bytes(data)
    assert ops is not None
    return ops, Laid(ops, ctm)


def box_at(data: bytes, ctm=IDENTITY):
    """Of the last operator."""
    ops, places = laid(data, ctm)
    return places.box(len(ops) - 1)


def test_boxes_of_paths() -> None:
    assert box_at(b"10 20 30 -5 re f") == (10, 15, 40, 20)
    assert box_at(b"1 2 m 3 -4 l S") == (1, -4, 3, 2)
    assert box_at(b"0 0 m 1 2 3 9 5 4 c b*") == (0, 0, 5, 9)
    assert box_at(b"0 0 m 1 8 2 3 v S") == (0, 0, 2, 8)
    assert box_at(b"1 1 m 5 5 l n 2 2 m 3 3 l S") == (2, 2, 3, 3), "n ends a path"
    assert box_at(b"1 1 m 5 5 l S f") is None, "painted already"
    assert box_at(b"f") is None


def test_boxes_follow_the_matrix() -> None:
    assert box_at(b"2 0 0 3 10 20 cm 1 1 4 4 re f") == (12, 23, 20, 35)
    assert box_at(b"q 2 0 0 2 0 0 cm Q 1 1 4 4 re f") == (1, 1, 5, 5)
    assert box_at(b"Q Q 1 1 4 4 re f") == (1, 1, 5, 5), "a Q too many changes nothing"
    assert box_at(b"1 0 0 1 5 0 cm 2 0 0 2 0 0 cm 1 1 1 1 re f") == (7, 2, 9, 4), (
        "the later one first"
    )
    s = math.sqrt(0.5)
    found = box_at(f"{s} {s} {-s} {s} 0 0 cm 0 0 m 10 10 l S".encode())
    assert found == pytest.approx((0, 0, 0, 14.1421), abs=1e-3), "a turned line is no square"
    assert box_at(b"1 1 2 2 re f", (2.0, 0.0, 0.0, 2.0, 1.0, 1.0)) == (3, 3, 7, 7)
    assert box_at(b"1 0 0 1 5 cm 1 1 2 2 re f") == (1, 1, 3, 3), "five numbers are no matrix"
    # (0 1 -1 0 0 0) makes (-2, 1) of (1, 2), (2 1 4 3 5 7) then -4 + 4 + 5 and -2 + 3 + 7.
    assert box_at(b"2 1 4 3 5 7 cm 0 1 -1 0 0 0 cm 1 2 m 1 2 l S") == (5, 8, 5, 8)


def test_where_paths_begin() -> None:
    ops, places = laid(b"1 w 0 0 m 1 1 l S q 0 0 1 1 re 2 2 1 1 re f f")
    painting = [i for i in range(len(ops)) if ops.word(i) in ("S", "f")]
    assert [places.began(i) for i in painting] == [1, 5, painting[2]]


def test_where_text_stands() -> None:
    ops, places = laid(
        b"BT 10 20 Td (a) Tj 5 -1 TD (b) Tj 2 0 0 8 3 4 Tm (c) Tj ET BT (d) Tj 1 2 Td ET BT (e) ' ET"
    )
    found = [places.text(i) for i in range(len(ops)) if ops.word(i) in ("Tj", "'")]
    assert found == [(10, 20, 1), (15, 19, 1), (3, 4, 4), (0, 0, 1), (0, 0, 1)]


def test_operators_without_sense_are_pointed_out() -> None:
    ops, places = laid(b"1 m 1 2 3 re c 1 2 l 1 Td 1 2 3 4 5 Tm 0 0 1 1 re f")
    assert places.odd.tolist() == [1, 1, 1, 0, 1, 1, 0, 0]
    assert places.box(len(ops) - 1) == (0, 0, 1, 2)
    assert box_at(b"1 m f") is None
    assert box_at(b"1 m 3 4 5 6 re f") == (3, 4, 8, 10)


def test_pieces_are_put_where_they_belong() -> None:
    data = b"0 g/F1 9 Tf(x)Tj"
    edits = Edits()
    assert not edits
    edits.insert(3, b"1 w")
    edits.insert(3, b"2 w")
    edits.insert(0, b"1 g")
    edits.insert(len(data), b"h")
    edits.remove(0, 3)
    edits.first(b"0 0 0 1 k")
    assert edits
    assert edits.made(data) == b"0 0 0 1 k\n1 g\n1 w\n2 w\n/F1 9 Tf(x)Tj\nh\n"


def test_a_piece_put_into_what_was_taken_out_does_not_bring_it_back() -> None:
    edits = Edits()
    edits.remove(0, 8)
    edits.insert(4, b"1 w")
    assert edits.made(b"1 0 0 rg f") == b"1 w\n f"


def test_colours_are_gathered_where_their_number_fits() -> None:
    ops = Operations.of_bytes(
        b"1 0 rg 0.5 0.25 1 rg (x) 1 1 1 rg 0 0 0 RG 1 2 3 4 rg 0.5 0.25 1 rg"
    )
    assert ops.colours("rg", 3) == {(0.5, 0.25, 1.0)}
    assert ops.colours("k", 4) == set()


def test_what_is_not_rewritten_stays_to_the_byte(tmp_path, resolve) -> None:
    paper = Paper()
    kept = b"%  a note (with brackets\n  0.50   0\t0 0.1 k   0 0 9 9 re\r\nf "
    path = paper.save(tmp_path / "in.pdf", kept.decode() + "1 0 0 rg 0 0 5.00 5 re f")
    policy = parse_policy(
        {"destination": "press", "rules": [{"action": "convert", "space": "RGB"}]}
    )
    run_policy(policy, path, tmp_path / "out.pdf", resolve)
    with pikepdf.open(tmp_path / "out.pdf") as pdf:
        data = pdf.pages[0].Contents.read_bytes()
    assert kept in data
    assert b"rg" not in data.replace(kept, b"")
    assert data.endswith(b"0 0 5.00 5 re f")


def of_pages(tmp_path, count: int):
    """Pages with colours of their own and shared ones; the third can be read by the parser only."""
    rng = np.random.default_rng(3)
    with pikepdf.new() as pdf:
        for number in range(count):
            pdf.add_blank_page(page_size=(100, 100))
            colours = [*rng.random((5, 3)).round(3), (0.5, 0.25, 0.125)]
            text = "\n".join(f"{r} {g} {b} rg 0 0 9 9 re f" for r, g, b in colours)
            if number == 2:
                text += " BI /W 1 /H 1 /CS /G /BPC 8 ID x EI"
            pdf.pages[-1].obj["/Contents"] = Stream(pdf, text.encode())
        pdf.save(tmp_path / "in.pdf")
    return tmp_path / "in.pdf"


@pytest.mark.parametrize("pages", ["", "2-"])
def test_colours_converted_together_are_those_converted_singly(
    tmp_path, resolve, monkeypatch, pages
) -> None:
    """Pages are read ahead, some at a time, unless rules go by the page."""
    path = of_pages(tmp_path, 7)
    rules = [{"action": "convert", "pages": pages}] if pages else [{"action": "convert"}]
    policy = parse_policy({"destination": "press", "rules": rules})
    results = []
    for most, many in ((24, 4), (3, 4), (24, 10**9)):
        monkeypatch.setattr(ahead, "_PAGES", most)
        monkeypatch.setattr(ahead, "_MANY", many)
        report = run_policy(policy, path, tmp_path / "out.pdf", resolve)
        with pikepdf.open(tmp_path / "out.pdf") as pdf:
            contents = [p.Contents.read_bytes() for p in pdf.pages]
        results.append((contents, report.objects, report.not_handled))
    assert results[0] == results[1] == results[2]
    assert all(b" rg" not in content for content in results[0][0][1:])
    assert (b" rg" in results[0][0][0]) == bool(pages)


def conversions(monkeypatch) -> list[int]:
    """How many colours each conversion that follows is of."""
    calls: list[int] = []
    single = ColourMapper.single

    def counted(self, space, values, rule, intent):
        calls.append(len(values))
        return single(self, space, values, rule, intent)

    monkeypatch.setattr(ColourMapper, "single", counted)
    return calls


def test_many_pages_are_converted_in_few_calls(tmp_path, resolve, monkeypatch) -> None:
    calls = conversions(monkeypatch)
    policy = parse_policy({"destination": "press", "rules": [{"action": "convert"}]})
    run_policy(policy, of_pages(tmp_path, 20), tmp_path / "out.pdf", resolve)
    assert max(calls) >= 100, "all pages' colours at once"
    assert len(calls) <= 4


def test_names_of_resources_with_marks_in_them() -> None:
    with pikepdf.new():
        ops = Operations.of_bytes(b"/A#20B gs /A#20B gs")
        assert ops.operands(0) == ops.operands(1) == [Name("/A B")]


def test_a_colour_that_cannot_be_converted_is_the_present_one_all_the_same(
    tmp_path, resolve
) -> None:
    """It stays in the stream: what is painted in it is no black that nobody has set."""
    paper = Paper()
    path = paper.save(tmp_path / "in.pdf", "1 0 rg 0 0 9 9 re f")
    policy = parse_policy({"destination": "press", "rules": [{"action": "convert"}]})
    report = run_policy(policy, path, tmp_path / "out.pdf", resolve)
    assert report.objects == ()
    assert {note.reason.values["operator"] for note in report.not_handled} == {"rg", "f"}
    with pikepdf.open(tmp_path / "out.pdf") as pdf:
        assert b" k" not in pdf.pages[0].Contents.read_bytes()


def test_a_damaged_inline_image_is_lost_to_nobody_who_changes_nothing(tmp_path, resolve) -> None:
    paper = Paper()
    broken = "BI /W 1 /H 1 /BPC 8 /CS /R /Q ID x EI "
    leave = parse_policy({"destination": "press", "rules": [{"action": "leave"}]})
    path = paper.save(tmp_path / "in.pdf", broken + "1 0 0 rg 0 0 9 9 re f")
    assert [n.kind for n in run_policy(leave, path, tmp_path / "a.pdf", resolve).not_handled] == [
        "inline image"
    ]
    convert = parse_policy({"destination": "press", "rules": [{"action": "convert"}]})
    found = run_policy(convert, path, tmp_path / "b.pdf", resolve).not_handled
    assert [n.kind for n in found] == ["inline image", "page"]
    with pikepdf.open(tmp_path / "b.pdf") as pdf:
        assert broken.encode() in pdf.pages[0].Contents.read_bytes(), "as it was, to the byte"


@pytest.mark.parametrize("place", [20, 4000])
def test_notes_name_no_file_of_the_store(tmp_path, resolve, place) -> None:
    """The PDF library's own sentences begin with the path of the file."""
    paper = Paper()
    packed = bytearray(zlib.compress(standard_profile("srgb").data))
    packed[place : place + 4] = b"\xff" * 4
    profile = paper.pdf.make_indirect(Stream(paper.pdf, b"", N=3))
    profile.write(bytes(packed), filter=Name.FlateDecode)
    paper.put("/ColorSpace", "/I", pikepdf.Array([Name.ICCBased, profile]))
    path = paper.save(tmp_path / "in.pdf", "/I cs 1 0 0 scn 0 0 9 9 re f")
    policy = parse_policy({"destination": "press", "rules": [{"action": "convert"}]})
    (shown,) = run_policy(policy, path, tmp_path / "out.pdf", resolve).objects
    said = str(shown.notes[0])
    assert "cannot be used" in said
    assert "in.pdf" not in said
    assert str(tmp_path) not in said


def mapper_of(resolve) -> ColourMapper:
    policy = parse_policy({"destination": "press", "rules": [{"action": "convert"}]})
    return ColourMapper(policy, resolve("press"), resolve)


def test_colours_converted_together_are_kept_until_they_are_asked_for(resolve, monkeypatch) -> None:
    """However many there are, and whatever else is asked for in between."""
    monkeypatch.setattr(colours, "MOST_COLOURS", 30)
    mapper, rule = mapper_of(resolve), Rule(action="convert")
    singly = conversions(monkeypatch)
    many = [(v / 100, 0.5, 0.25) for v in range(50)]
    mapper.prefetch(RGB, many[:20], rule, "relative")
    mapper.prefetch(RGB, many, rule, "relative")
    assert singly == [20, 30], "what is known is not converted again"
    for value in many:
        mapper.colour(RGB, (*value[:2], 0.75), rule, "relative")
        mapper.colour(RGB, value, rule, "relative")
    assert singly == [20, 30] + [1] * 50


def test_colours_kept_are_bounded(resolve, monkeypatch) -> None:
    monkeypatch.setattr(colours, "MOST_COLOURS", 10)
    mapper, rule = mapper_of(resolve), Rule(action="convert")
    mapper._most = 10
    for v in range(40):
        mapper.colour(RGB, (v / 40, 0.0, 0.0), rule, "relative")
        assert len(mapper._colours) <= 11
        assert len(mapper._colours) >= min(v, 5), "the newer half stays"
    before = mapper.colour(RGB, (0.5, 0.0, 0.0), rule, "relative")
    assert before == mapper_of(resolve).colour(RGB, (0.5, 0.0, 0.0), rule, "relative")


def test_pages_of_many_colours_are_read_ahead_fewer_at_a_time(
    tmp_path, resolve, monkeypatch
) -> None:
    monkeypatch.setattr(ahead, "_MOST_COLOURS", 10)
    sizes: list[int] = []
    convert = ahead.Colours.convert

    def counted(self):
        sizes.append(len(self))
        convert(self)

    monkeypatch.setattr(ahead.Colours, "convert", counted)
    policy = parse_policy({"destination": "press", "rules": [{"action": "convert"}]})
    run_policy(policy, of_pages(tmp_path, 7), tmp_path / "out.pdf", resolve)
    assert sizes == [11, 11, 11, 6]


@pytest.mark.parametrize(
    ("operands", "said"),
    [
        ([], (kernel.NOTHING, 0)), ([1, 2, pikepdf.String("abc")], (kernel.STRING, 3)), ([pikepdf.String("abc"), 2], (kernel.NUMBER, 0)),
        ([0.5, 1, 2, Array([1, 2])], (kernel.ARRAY, 2)), ([0.2, 0.3, pikepdf.Name("/P")], (kernel.OTHER, 0)), ([True], (kernel.OTHER, 0)),
    ],
)  # fmt: skip
def test_what_an_operator_ends_with(operands, said) -> None:
    assert _last_of(operands) == said
