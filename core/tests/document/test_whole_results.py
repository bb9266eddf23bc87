"""Results as whole files: what damaged, hostile and restricted documents come to."""

from __future__ import annotations

import functools
import time
import tracemalloc
import zlib
from typing import Any

import numpy as np
import pikepdf
import pytest
from pikepdf import Array, Dictionary, Name

from corpus import stream
from paperwork import Paper, operations
from plinto_core.document import OutputPolicy, dry_run, inventory, parse_policy, run_policy
from plinto_core.document.rules.policy import template
from plinto_core.document.runs import run as runs
from plinto_core.document.walking import walk
from plinto_core.errors import BadDocument, CoreError

LEAVE_ALL: dict[str, Any] = {"destination": "press", "rules": []}


def test_every_result_has_an_identifier_of_its_own(paper, tmp_path, resolve) -> None:
    identifiers = set()
    for i, content in enumerate(("1 0 0 rg 0 0 9 9 re f", "0 1 0 rg 0 0 9 9 re f")):
        source = paper.save(tmp_path / f"{i}.pdf", content)
        run_policy(OutputPolicy.model_validate(LEAVE_ALL), source, tmp_path / f"o{i}.pdf", resolve)
        run_policy(OutputPolicy.model_validate(LEAVE_ALL), source, tmp_path / f"p{i}.pdf", resolve)
        assert (tmp_path / f"o{i}.pdf").read_bytes() == (tmp_path / f"p{i}.pdf").read_bytes()
        with pikepdf.open(tmp_path / f"o{i}.pdf") as pdf:
            identifiers.add(bytes(pdf.trailer.ID[1]))
    assert len(identifiers) == 2


@pytest.mark.parametrize("standard", ["none", "PDF/X-1a:2003", "PDF/X-4"])
@pytest.mark.parametrize("linearised", [True, False])
def test_a_document_in_the_order_of_the_web_stays_in_it(
    paper, tmp_path, resolve, coated, standard, linearised
) -> None:
    big = paper.image(np.full((300, 300, 3), 90, np.uint8), Name.DeviceRGB)
    paper.put("/XObject", "/Im", big)
    paper.pdf.add_blank_page(page_size=(200, 100))
    source = paper.save(tmp_path / "plain.pdf", "q 99 0 0 99 0 0 cm /Im Do Q")
    with pikepdf.open(source) as pdf:
        pdf.save(tmp_path / "in.pdf", linearize=linearised)
    policy = template("strict-press", coated.digest)
    policy = policy.model_copy(update={"pdfx": standard, "pdfx_made": standard != "none"})
    report = run_policy(policy, tmp_path / "in.pdf", tmp_path / "out.pdf", resolve)
    assert report.pdfx is None or report.pdfx.breaches == ()
    with pikepdf.open(tmp_path / "out.pdf") as pdf:
        assert pdf.is_linearized is linearised
        assert len(pdf.pages) == 2
        assert str(pdf.pages[0].Resources.XObject.Im.ColorSpace) == "/DeviceCMYK"
        assert pdf.check_pdf_syntax() == []
    assert {p.name for p in tmp_path.iterdir()} == {"plain.pdf", "in.pdf", "out.pdf"}
    if standard == "none":
        run_policy(policy, tmp_path / "in.pdf", tmp_path / "again.pdf", resolve)
        assert (tmp_path / "again.pdf").read_bytes() == (tmp_path / "out.pdf").read_bytes()


@pytest.mark.parametrize("pages", ["", "1"])
def test_a_tagged_document_keeps_its_tags_and_is_told_of_its_claim(
    paper, tmp_path, resolve, pages
) -> None:
    pdf = paper.pdf
    pdf.add_blank_page(page_size=(200, 100))
    element = pdf.make_indirect(
        Dictionary(Type=Name.StructElem, S=Name.P, Pg=paper.page.obj, K=0, Alt="A red field")
    )
    tree = Dictionary(Type=Name.StructTreeRoot, K=element, ParentTree=Dictionary(Nums=Array([0, Array([element])])))  # fmt: skip
    pdf.Root.StructTreeRoot, pdf.Root.MarkInfo = tree, Dictionary(Marked=True)
    pdf.Root.Lang, paper.page.obj.StructParents = pikepdf.String("en"), 0
    with pdf.open_metadata() as metadata:
        metadata["{http://www.aiim.org/pdfua/ns/id/}part"] = "1"
    inline = "q 9 0 0 9 0 0 cm BI /W 1 /H 1 /CS /RGB /BPC 8 ID abc EI Q "
    content = f"/P << /MCID 0 >> BDC 1 0 0 rg 0 0 9 9 re f {inline}EMC"
    rule = {"space": "RGB", "action": "convert", "pages": pages}
    policy = parse_policy({"name": "One", "destination": "press", "rules": [rule]})
    report = run_policy(policy, paper.save(tmp_path / "in.pdf", content), tmp_path / "out.pdf", resolve)  # fmt: skip
    assert any("PDF/UA-1" in remark for remark in report.remarks)
    with pikepdf.open(tmp_path / "out.pdf") as out:
        assert bool(out.Root.MarkInfo.Marked)
        assert str(out.Root.Lang) == "en"
        kept = out.Root.StructTreeRoot.K
        assert (str(kept.Alt), kept.K, kept.Pg.objgen) == ("A red field", 0, out.pages[0].objgen)
        assert int(out.pages[0].obj.StructParents) == 0
        found = operations(out.pages[0])
        assert found[0][0] == "BDC"
        assert int(found[0][1][1].MCID) == 0
        assert [name for name, _ in found].count("EMC") == 1
        assert found[-1][0] == "EMC"
        assert not {"rg", "BI"} & {name for name, _ in found}


def test_a_result_that_reads_otherwise_than_it_was_written_is_none(
    paper, tmp_path, resolve, monkeypatch
) -> None:
    source = paper.save(tmp_path / "in.pdf", "1 0 0 rg 0 0 9 9 re f")
    policy, boxes = OutputPolicy.model_validate(LEAVE_ALL), iter(range(9))
    monkeypatch.setattr(runs, "_boxes", lambda page: next(boxes))
    with pytest.raises(BadDocument) as error:
        run_policy(policy, source, tmp_path / "out.pdf", resolve)
    assert error.value.said.code == "document.result-pages"
    assert [p.name for p in tmp_path.iterdir()] == ["in.pdf"]


def test_a_truncated_document_gives_a_whole_result_or_a_sentence(paper, tmp_path, resolve) -> None:
    for _ in range(3):
        paper.pdf.add_blank_page(page_size=(200, 100))
    whole = paper.save(tmp_path / "in.pdf", "1 0 0 rg 0 0 9 9 re f").read_bytes()
    policy = template("textile-transfer", "press")
    results = 0
    for cut in [*range(60, len(whole), max(1, len(whole) // 24)), len(whole) - 30, len(whole) - 7]:
        (tmp_path / "cut.pdf").write_bytes(whole[:cut])
        target = tmp_path / f"out{cut}.pdf"
        try:
            run_policy(policy, tmp_path / "cut.pdf", target, resolve)
        except CoreError as error:
            assert not target.exists()
            assert "Traceback" not in str(error)
            continue
        results += 1
        with pikepdf.open(target, attempt_recovery=False) as pdf:
            assert len(pdf.pages) >= 1
    assert results >= 1


def test_an_owners_restrictions_are_named_when_they_end(paper, tmp_path, resolve) -> None:
    source = paper.save(tmp_path / "plain.pdf", "1 0 0 rg 0 0 9 9 re f")
    with pikepdf.open(source) as pdf:
        allow = pikepdf.Permissions(modify_other=False, extract=False)
        pdf.save(
            tmp_path / "held.pdf",
            encryption=pikepdf.Encryption(owner="secret", user="", allow=allow),
        )
    report = run_policy(
        OutputPolicy.model_validate(LEAVE_ALL), tmp_path / "held.pdf", tmp_path / "out.pdf", resolve
    )
    (remark,) = report.remarks
    assert "changes, copying" in remark
    assert inventory(tmp_path / "held.pdf").remarks == (remark,)


def test_claims_of_conformance_end_with_a_change(paper, tmp_path, resolve) -> None:
    source = paper.save(tmp_path / "in.pdf", "1 0 0 rg 0 0 9 9 re f")
    with pikepdf.open(source, allow_overwriting_input=True) as pdf:
        pdf.docinfo["/GTS_PDFXVersion"] = pikepdf.String("PDF/X-3:2002")
        pdf.docinfo["/Title"] = pikepdf.String("A title")
        with pdf.open_metadata() as metadata:
            metadata["pdfaid:part"] = "2"
            metadata["pdfaid:conformance"] = "B"
            metadata["dc:title"] = "A title"
        pdf.save(source)
    report = run_policy(
        OutputPolicy.model_validate(LEAVE_ALL), source, tmp_path / "out.pdf", resolve
    )
    assert [r.split(";")[0] for r in report.remarks] == [
        "It claimed to be PDF/X-3:2002",
        "It claimed to be PDF/A-2",
    ]
    with pikepdf.open(tmp_path / "out.pdf") as pdf, pdf.open_metadata() as metadata:
        assert "/GTS_PDFXVersion" not in pdf.docinfo
        assert str(pdf.docinfo["/Title"]) == "A title"
        assert "pdfaid:part" not in metadata
        assert metadata["dc:title"] == "A title"
    assert dry_run(OutputPolicy.model_validate(LEAVE_ALL), source, resolve).remarks == ()


@functools.cache
def deflated_zeros(layers: int) -> bytes:
    """420 MB of zeros in a few kilobytes."""
    packer = zlib.compressobj(9)
    data = b"".join(packer.compress(bytes(1 << 20)) for _ in range(420)) + packer.flush()
    return zlib.compress(data, 9) if layers == 2 else data


def bomb(paper: Paper, layers: int) -> Any:
    return stream(paper, deflated_zeros(layers), Filter=Array([Name.FlateDecode] * layers))


@pytest.mark.parametrize(
    ("place", "layers"),
    [("profile", 2), ("image", 1), ("image", 2), ("function", 2), ("palette", 2), ("content", 2)],
)
def test_bombs_are_not_unpacked(layers, place, paper, tmp_path, resolve) -> None:
    made = bomb(paper, layers)
    content = "0 0 9 9 re f"
    if place == "profile":
        made["/N"] = 3
        paper.put("/ColorSpace", "/S", Array([Name.ICCBased, made]))
        content = "/S cs 1 0 0 scn 0 0 9 9 re f"
    elif place == "image":
        for key, value in (("/Subtype", Name.Image), ("/Width", 10), ("/Height", 10), ("/BitsPerComponent", 8), ("/ColorSpace", Name.DeviceRGB)):  # fmt: skip
            made[key] = value
        paper.put("/XObject", "/Im", made)
        content = "/Im Do"
    elif place == "function":
        for key, value in (("/FunctionType", 0), ("/Domain", Array([0, 1])), ("/Range", Array([0, 1] * 4)), ("/Size", Array([2])), ("/BitsPerSample", 8)):  # fmt: skip
            made[key] = value
        paper.put("/ColorSpace", "/S", Array([Name.Separation, Name.Ink, Name.DeviceCMYK, made]))
        content = "/S cs 1 scn 0 0 9 9 re f"
    elif place == "palette":
        paper.put("/ColorSpace", "/S", Array([Name.Indexed, Name.DeviceRGB, 1, made]))
        content = "/S cs 1 scn 0 0 9 9 re f"
    else:
        for key, value in (("/Subtype", Name.Form), ("/BBox", Array([0, 0, 9, 9]))):
            made[key] = value
        paper.put("/XObject", "/Fm", made)
        content = "/Fm Do"
    source = paper.save(tmp_path / "in.pdf", content)
    assert source.stat().st_size < 2 << 20
    tracemalloc.start()
    report = dry_run(template("textile-transfer", "press", tac=300), source, resolve)
    peak = tracemalloc.get_traced_memory()[1]
    tracemalloc.stop()
    # An unusable profile stands for plain RGB, and says so.
    assert report.not_handled or "cannot be used" in str(report.objects)
    assert peak < 200 << 20


@pytest.mark.parametrize("samples", [1, 2])
def test_a_function_of_thirty_two_inputs_does_not_hold_the_worker(
    samples, paper, tmp_path, resolve
) -> None:
    inks = [Name(f"/Ink{i}") for i in range(32)]
    size = [1] * 32 if samples == 1 else [2] * 14 + [1] * 18
    function = stream(
        paper, bytes(2**14 * 4), FunctionType=0, Domain=[0, 1] * 32, Range=[0, 1] * 4, Size=size,
        BitsPerSample=8,
    )  # fmt: skip
    paper.put("/ColorSpace", "/N", Array([Name.DeviceN, Array(inks), Name.DeviceCMYK, function]))
    source = paper.save(tmp_path / "in.pdf", f"/N cs {'1 ' * 32}scn 0 0 9 9 re f")
    began = time.monotonic()
    report = run_policy(
        template("textile-transfer", "press"), source, tmp_path / "out.pdf", resolve
    )
    assert time.monotonic() - began < 30  # it would take hours
    assert (report.not_handled != ()) == (samples == 2)


@pytest.mark.parametrize(
    "content",
    [
        "(word) rg", "1 0 rg", "/x /y k", "re f", "1 2 re f", "cm", "1 cm", "(x) cm", "Td", "Tm", "/F Tf", "Tr", "(a) Tr",
        "gs", "/Nothing gs", "1 gs", "Do", "3 Do", "sh", "cs", "1 cs", "[1] cs", "/Pattern cs scn", "/Pattern cs /No scn",
        "1e300 1e300 re f", "ri", "<< >> gs", "[ 1 2 ] 0 d 1 0 0 RG S", "1 0 0 0 0 99999999999999999999 cm 0 0 1 1 re f",
    ],
)  # fmt: skip
def test_operators_with_wrong_operands_are_passed_over(content, paper, tmp_path, resolve) -> None:
    source = paper.save(tmp_path / "in.pdf", f"{content} 1 0 0 rg 0 0 9 9 re f")
    run_policy(
        template("textile-transfer", "press", tac=300), source, tmp_path / "out.pdf", resolve
    )
    with pikepdf.open(tmp_path / "out.pdf") as pdf:
        page = pdf.pages[0].Resources.XObject["/PlintoPage"]
        # What comes after is treated all the same.
        assert "k" in [o for o, _ in operations(page)]


def test_no_pdf_at_all_is_refused(tmp_path, resolve) -> None:
    (tmp_path / "no.pdf").write_bytes(b"%PDF-1.7\n" + bytes(400))
    with pytest.raises(BadDocument):
        run_policy(
            template("textile-transfer", "press"), tmp_path / "no.pdf", tmp_path / "o.pdf", resolve
        )


def test_forms_in_forms_have_an_end(tmp_path, resolve) -> None:
    """What lies deeper stays as it is, and is said."""
    paper = Paper()
    inner = None
    for level in range(20):
        content = f"1 0 {level / 100} rg 0 0 9 9 re f" + (" /Fm Do" if inner is not None else "")
        made = pikepdf.Stream(paper.pdf, content.encode(), Subtype=Name.Form, BBox=[0, 0, 9, 9])
        if inner is not None:
            made.Resources = pikepdf.Dictionary(XObject=pikepdf.Dictionary(Fm=inner))
        inner = paper.pdf.make_indirect(made)
    paper.put("/XObject", "/Fm", inner)
    path = paper.save(tmp_path / "in.pdf", "/Fm Do")
    policy = parse_policy({"destination": "press", "rules": [{"action": "convert"}]})
    report = run_policy(policy, path, tmp_path / "out.pdf", resolve)
    assert [n.reason.code for n in report.not_handled] == ["document.forms-deep"]
    assert len(report.objects) == walk.DEEPEST + 1
