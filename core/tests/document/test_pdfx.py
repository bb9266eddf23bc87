"""Documents checked against the parts of ISO 15930, and results made to keep them."""

from __future__ import annotations

import inspect
from types import SimpleNamespace

import numpy as np
import pikepdf
import pytest

import pdfx_cases  # noqa: F401 - keeps its documents in CASES
import pdfx_colour_cases  # noqa: F401 - and these theirs
from pdfx_papers import CASES, INK, Case
from plinto_core.document import parse_policy, run_policy, template
from plinto_core.document.pdfx.check import check_document
from plinto_core.document.pdfx.claims import end_claims
from plinto_core.document.pdfx.colours import _tint
from plinto_core.document.pdfx.marking import mark
from plinto_core.document.pdfx.parts import _head_and_tail, box_of_page
from plinto_core.document.pdfx.uses import _looks
from plinto_core.document.rules.standards import EDITIONS, STANDARDS
from plinto_core.document.runs.run import save_checked
from plinto_core.errors import BadDocument
from plinto_core.icc.profile import Profile


@pytest.mark.parametrize("at", [0, 0.25, 0.5, 1])
def test_looks_of_a_spot_colour_are_told_apart_by_solid_half_and_quarter(at) -> None:
    one, other = (SimpleNamespace(tint=lambda v, more=m: np.where(v == at, more, v)) for m in (0.7, 0.702))  # fmt: skip
    assert _tint(one) != _tint(other)
    assert _tint(one) == _tint(SimpleNamespace(tint=lambda v: np.where(v == at, 0.7001, v)))
    assert _tint(SimpleNamespace(tint=None)) == ""


ONE_OF_EACH = ("PDF/X-1a:2003", "PDF/X-3:2002", "PDF/X-4")


@pytest.fixture(scope="session")
def other_inks(coated) -> Profile:
    """The same tables under another description: another profile."""
    data = bytearray(coated.data)
    at = data.index(b"Coated")
    data[at : at + 6] = b"Elsewh"
    return Profile(bytes(data))


@pytest.fixture
def keeping(tmp_path, paper, coated):
    """A page that keeps a standard in all that is looked at, changed by whoever asks for it."""

    def make(standard, draw=None, **given):
        pdf = paper.pdf
        stream = pikepdf.Stream(pdf, coated.data, N=4)
        made = pikepdf.Dictionary(
            S=pikepdf.Name.GTS_PDFX, OutputConditionIdentifier="Coated", Info="A coated paper",
            DestOutputProfile=pdf.make_indirect(stream),
        )  # fmt: skip
        pdf.Root["/OutputIntents"] = pikepdf.Array([made])
        mark(pdf, EDITIONS[standard], "Page")
        content = (draw(paper, pdf, **given) if draw else None) or INK
        paper.page.Contents = pikepdf.Stream(pdf, content.encode("latin-1"))
        save_checked(pdf, tmp_path / "made.pdf", EDITIONS[standard])
        return tmp_path / "made.pdf"

    return make


@pytest.mark.parametrize("standard", ONE_OF_EACH)
@pytest.mark.parametrize("case", CASES, ids=lambda c: c.name)
def test_each_clause_is_told_from_what_keeps_it(
    case: Case, standard, keeping, coated, coated_v4, other_inks
) -> None:
    profiles = {"coated": coated, "coated_v4": coated_v4, "other_inks": other_inks}
    wanted = inspect.signature(case.draw).parameters
    given = {name: profile for name, profile in profiles.items() if name in wanted}
    found = check_document(keeping(standard, case.draw, **given), standard)
    assert {b.rule for b in found} == case.broken(standard), [b.text for b in found]


def test_the_table_is_long_enough_to_mean_something() -> None:
    broken = [c for c in CASES if c.one or c.three or c.four]
    assert len(CASES) >= 80
    assert len(CASES) - len(broken) >= 20


@pytest.mark.parametrize("made_for", STANDARDS)
@pytest.mark.parametrize("standard", STANDARDS)
def test_the_parts_are_told_apart_by_key_and_version(keeping, made_for, standard) -> None:
    rules = {b.rule for b in check_document(keeping(made_for), standard)}
    if made_for == standard:
        assert rules == set()
        return
    assert "the version key" in rules
    higher = EDITIONS[made_for].highest > EDITIONS[standard].highest
    assert ("PDF version" in rules) == higher
    assert ("no compressed objects" in rules) == (made_for == "PDF/X-4")


def test_restrictions_and_a_missing_identifier_are_seen(keeping, tmp_path) -> None:
    with pikepdf.open(keeping("PDF/X-4")) as pdf:
        pdf.save(tmp_path / "shut.pdf", encryption=pikepdf.Encryption(owner="owner", user=""))
    assert "no encryption" in {b.rule for b in check_document(tmp_path / "shut.pdf", "PDF/X-4")}
    data = keeping("PDF/X-1a:2001").read_bytes()
    (tmp_path / "bare.pdf").write_bytes(data.replace(b"/ID [", b"/Ix ["))
    rules = {b.rule for b in check_document(tmp_path / "bare.pdf", "PDF/X-1a:2001")}
    assert rules == {"a file identifier"}


@pytest.mark.parametrize("key", [b"/Type /XRef", b"/XRefStm 9", b"/Type /ObjStm"])
def test_packed_places_of_objects_are_of_pdf_1_5(keeping, tmp_path, key) -> None:
    data = keeping("PDF/X-1a:2003").read_bytes()
    # A comment between objects moves nothing that the trailer counts from the end.
    (tmp_path / "xref.pdf").write_bytes(data.replace(b"trailer", b"% " + key + b"\ntrailer", 1))
    rules = {b.rule for b in check_document(tmp_path / "xref.pdf", "PDF/X-1a:2003")}
    assert rules == {"no compressed objects"}


def test_pages_are_named_once(keeping, tmp_path) -> None:
    with pikepdf.open(keeping("PDF/X-4")) as pdf:
        for _ in range(2):
            pdf.pages.append(pdf.pages[0])
        del pdf.pages[0].obj["/TrimBox"]
        pdf.pages[2].Contents = pikepdf.Stream(pdf, b"1 0 0 rg 0 0 9 9 re f")
        pdf.save(tmp_path / "three.pdf")
    found = {b.rule: b.pages for b in check_document(tmp_path / "three.pdf", "PDF/X-4")}
    assert found["bare colours are those of the output intent"] == (3,)


def test_what_is_no_document_is_said(tmp_path) -> None:
    (tmp_path / "x.pdf").write_bytes(b"%PDF-1.4 nothing")
    with pytest.raises(BadDocument):
        check_document(tmp_path / "x.pdf", "PDF/X-4")


# Results made for a standard


@pytest.fixture
def made(tmp_path, paper, resolve):
    """Run a strict policy that makes its results for a standard; the report and the result's path."""

    def run(standard, content=f"{INK} 1 0 0 rg 0 0 9 9 re f", **changes):
        policy = template("strict-press", "press").model_dump() | {
            "pdfx": standard, "pdfx_made": True, **changes,
        }  # fmt: skip
        source = paper.save(tmp_path / "Spring sheet.pdf", content)
        target = tmp_path / "out.pdf"
        return run_policy(parse_policy(policy), source, target, resolve), target

    return run


@pytest.mark.parametrize("standard", STANDARDS)
def test_a_result_is_made_and_marked(made, standard) -> None:
    report, target = made(standard)
    assert (report.pdfx.standard, report.pdfx.marked, report.pdfx.breaches) == (standard, True, ())
    assert check_document(target, standard) == []
    assert any("trim box" in r for r in report.remarks)
    head = target.read_bytes()[:8].decode()
    assert head == f"%PDF-{EDITIONS[standard].version}"
    with pikepdf.open(target) as pdf:
        assert str(pdf.docinfo["/Title"]) == "Spring sheet"
        if EDITIONS[standard].modern:
            told = {n: pdf.open_metadata()[f"xmpMM:{n}"] for n in ("VersionID", "RenditionClass")}
            assert told == {"VersionID": "1", "RenditionClass": "default"}
        assert list(pdf.pages[0].obj["/TrimBox"]) == [0, 0, 200, 100]


def test_nothing_is_marked_that_does_not_keep_it(made, paper) -> None:
    paper.put("/ExtGState", "/Half", pikepdf.Dictionary(ca=0.5))
    report, target = made("PDF/X-1a:2003", f"/Half gs {INK}")
    assert not report.pdfx.marked
    assert [b.rule for b in report.pdfx.breaches] == ["no transparency"]
    with pikepdf.open(target) as pdf:
        assert "/GTS_PDFXVersion" not in pdf.docinfo
    assert {b.rule for b in check_document(target, "PDF/X-1a:2003")} >= {"the version key"}
    report, target = made("PDF/X-4", f"/Half gs {INK}")
    assert report.pdfx.marked


def test_a_standard_that_is_only_checked_marks_nothing(made) -> None:
    report, target = made("PDF/X-4", pdfx_made=False)
    assert not report.pdfx.marked
    assert "the version key" in {b.rule for b in report.pdfx.breaches}
    with pikepdf.open(target) as pdf:
        assert "/TrimBox" not in pdf.pages[0].obj


def test_trapping_that_is_unknown_is_said_to_be_none(made, paper) -> None:
    paper.pdf.docinfo["/Trapped"] = pikepdf.Name.Unknown
    report, target = made("PDF/X-3:2003")
    assert report.pdfx.marked
    with pikepdf.open(target) as pdf:
        assert str(pdf.docinfo["/Trapped"]) == "/False"


def test_scripts_and_a_second_box_are_mended_and_said(made, paper) -> None:
    paper.pdf.Root["/Names"] = pikepdf.Dictionary(JavaScript=pikepdf.Dictionary())
    paper.page.obj["/TrimBox"] = [9, 9, 100, 90]
    paper.page.obj["/ArtBox"] = [0, 0, 10, 10]
    report, target = made("PDF/X-4")
    assert report.pdfx.marked
    said = " ".join(report.remarks)
    assert "scripts are taken out" in said
    assert "the trim box stays" in said
    with pikepdf.open(target) as pdf:
        assert list(pdf.pages[0].obj["/TrimBox"]) == [9, 9, 100, 90]
        assert "/ArtBox" not in pdf.pages[0].obj


def condition(target) -> tuple[str, str]:
    with pikepdf.open(target) as pdf:
        entry = pdf.Root["/OutputIntents"][0]
        return str(entry["/OutputConditionIdentifier"]), str(entry.get("/RegistryName", ""))


def test_the_condition_is_named_as_it_is_known(made, paper, coated) -> None:
    assert condition(made("PDF/X-4")[1]) == (coated.description, "")
    known = made("PDF/X-4", condition="TERNHOLM 12", registry="http://registry.test")
    assert condition(known[1]) == ("TERNHOLM 12", "http://registry.test")
    stream = pikepdf.Stream(paper.pdf, coated.data, N=4)
    paper.pdf.Root["/OutputIntents"] = pikepdf.Array([
        pikepdf.Dictionary(S=pikepdf.Name.GTS_PDFX, OutputConditionIdentifier="TERNHOLM 7",
                           RegistryName="http://www.color.org", DestOutputProfile=stream),
    ])  # fmt: skip
    assert condition(made("PDF/X-4")[1]) == ("TERNHOLM 7", "http://www.color.org")
    other = pikepdf.Stream(paper.pdf, coated.data[:-4] + b"abcd", N=4)
    paper.pdf.Root["/OutputIntents"][0]["/DestOutputProfile"] = other
    assert condition(made("PDF/X-4")[1]) == (coated.description, "")


def test_kept_policies_that_did_not_tell_the_years_apart_mean_the_later() -> None:
    policy = parse_policy({"destination": "press", "pdfx": "PDF/X-1a"})
    assert policy.pdfx == "PDF/X-1a:2003"


def test_two_looks_of_one_spot_colour_are_converted_each_by_its_own(paper, converted) -> None:
    for name, inks in (("/Warm", [0, 0.9, 0.7, 0]), ("/Cold", [0.9, 0.2, 0, 0])):
        tint = pikepdf.Dictionary(FunctionType=2, Domain=[0, 1], C0=[0] * 4, C1=inks, N=1)
        space = [pikepdf.Name.Separation, pikepdf.Name.Ternholm, pikepdf.Name.DeviceCMYK, tint]
        paper.put("/ColorSpace", name, pikepdf.Array(space))
    content = "/Warm cs 1 scn 0 0 9 9 re f /Cold cs 1 scn 0 0 9 9 re f"
    _, pdf = converted(paper, content, rules=[{"space": "spot", "action": "convert"}])
    colours = [
        [float(v) for v in o.operands]
        for o in pikepdf.parse_content_stream(pdf.pages[0])
        if str(o.operator) == "k"
    ]
    assert colours[0] == [0, 0.9, 0.7, 0]
    assert colours[-1] == [0.9, 0.2, 0, 0]


@pytest.mark.parametrize("box", [[190, 90, 10, 5], [10, 5, 190, 90], [190, 5, 10, 90], [10, 90, 190, 5]])  # fmt: skip
def test_a_box_is_said_from_any_two_corners(box) -> None:
    assert box_of_page(pikepdf.Array(box)) == (10, 5, 190, 90)
    assert box_of_page(pikepdf.Array(box[:3])) is None
    assert box_of_page(None) is None


@pytest.mark.parametrize(("size", "read"), [(5, [(0, 5)]), (10, [(0, 10)]), (14, [(0, 14)]), (20, [(0, 20)]), (37, [(0, 10), (27, 37)])])  # fmt: skip
def test_both_ends_of_a_file_are_read_and_no_byte_twice(tmp_path, size, read) -> None:
    data = bytes(range(size))
    (tmp_path / "a").write_bytes(data)
    assert _head_and_tail(tmp_path / "a", 10) == b"".join(data[a:b] for a, b in read)


def test_claims_that_are_taken_back_leave_all_else_as_it_was(tmp_path) -> None:
    with pikepdf.new() as pdf:
        pdf.add_blank_page()
        with pdf.open_metadata(set_pikepdf_as_editor=False, update_docinfo=False) as metadata:
            metadata["pdfaid:part"] = "2"
            metadata["pdfxid:GTS_PDFXVersion"] = "PDF/X-4"
            metadata["pdf:Producer"] = "A program"
            metadata["dc:title"] = "Its title"
        pdf.docinfo["/GTS_PDFXVersion"] = "PDF/X-1:2001"
        pdf.docinfo["/Title"] = "Another title"
        assert end_claims(pdf) == ["PDF/X-1:2001", "PDF/A-2", "PDF/X-4"]
        with pdf.open_metadata(set_pikepdf_as_editor=False, update_docinfo=False) as metadata:
            assert dict(metadata.items()) == {
                "{http://ns.adobe.com/pdf/1.3/}Producer": "A program", "{http://purl.org/dc/elements/1.1/}title": "Its title",
            }  # fmt: skip
        assert {k: str(v) for k, v in pdf.docinfo.items()} == {"/Title": "Another title"}
        assert end_claims(pdf) == []


def test_appearances_of_annotations_are_looked_at(pdf) -> None:
    one, on, off = (pdf.make_indirect(pikepdf.Stream(pdf, b"")) for _ in range(3))
    many = pikepdf.Dictionary(AP=pikepdf.Dictionary(N=pikepdf.Dictionary(On=on, Off=off)))
    bare = [pikepdf.Dictionary(), pikepdf.Dictionary(AP=pikepdf.Dictionary()), 7]
    single = pikepdf.Dictionary(AP=pikepdf.Dictionary(N=one, D=off))
    found = _looks(pikepdf.Dictionary(Annots=pikepdf.Array([single, *bare, many])))
    assert sorted(look.objgen for look in found) == sorted(s.objgen for s in (one, on, off))
    assert list(_looks(pikepdf.Dictionary())) == []
    assert list(_looks(pikepdf.Dictionary(Annots=7))) == []
