"""The colour rules of ISO 15930, each broken by a document made for it."""

from __future__ import annotations

import pikepdf
import pytest

from plinto_core.document import run_policy, template
from plinto_core.document.runs.pdfx import check_colours
from plinto_core.errors import BadDocument
from plinto_core.transform.standard_spaces import standard_profile

INK = "0.2 0.1 0 0.3 k 0 0 50 50 re f 0.5 g 60 0 50 50 re f"


@pytest.fixture
def checked(tmp_path, paper, coated):
    """Breaches of a page, with an output intent unless told otherwise."""

    def check(content: str, standard: str, *, intent="coated", change=None):
        path = paper.save(tmp_path / "plain.pdf", content)
        with pikepdf.open(path) as pdf:
            if intent is not None:
                profile = coated if intent == "coated" else standard_profile(intent)
                stream = pikepdf.Stream(pdf, profile.data, N=profile.channels)
                made = pikepdf.Dictionary(
                    S=pikepdf.Name.GTS_PDFX, OutputConditionIdentifier="Coated",
                    DestOutputProfile=pdf.make_indirect(stream),
                )  # fmt: skip
                pdf.Root["/OutputIntents"] = pikepdf.Array([made])
            if change:
                change(pdf)
            pdf.save(tmp_path / "checked.pdf")
        return {b.rule: b for b in check_colours(tmp_path / "checked.pdf", standard)}

    return check


@pytest.mark.parametrize("standard", ["PDF/X-1a", "PDF/X-4"])
def test_inks_under_an_output_intent_keep_every_rule(checked, standard) -> None:
    assert checked(INK, standard) == {}


@pytest.mark.parametrize("standard", ["PDF/X-1a", "PDF/X-4"])
def test_an_output_intent_is_needed(checked, standard) -> None:
    assert "there is none" in checked(INK, standard, intent=None)["an output intent of PDF/X"].text


def test_an_intent_for_rgb_is_for_x4_only_and_never_from_a_screen(checked) -> None:
    found = checked("1 0 0 rg 0 0 9 9 re f", "PDF/X-4", intent="srgb")
    assert list(found) == ["an output intent of PDF/X"]
    assert "output device" in found["an output intent of PDF/X"].text


def test_bare_rgb_breaks_both(checked) -> None:
    content = f"{INK} 1 0 0 rg 0 0 9 9 re f"
    assert checked(content, "PDF/X-1a")["only CMYK, grey and spot colours"].pages == (1,)
    text = checked(content, "PDF/X-4")["bare colours are those of the output intent"].text
    assert text == "DeviceRGB is used, and the output intent is for CMYK."


def test_rgb_with_a_profile_is_for_x4_only(checked, paper) -> None:
    def tag(pdf: pikepdf.Pdf) -> None:
        stream = pikepdf.Stream(pdf, standard_profile("srgb").data, N=3)
        space = pikepdf.Array([pikepdf.Name.ICCBased, pdf.make_indirect(stream)])
        pdf.pages[0].Resources["/ColorSpace"] = pikepdf.Dictionary(Tagged=space)

    content = "/Tagged cs 1 0 0 scn 0 0 9 9 re f"
    assert checked(content, "PDF/X-4", change=tag) == {}
    found = checked(content, "PDF/X-1a", change=tag)
    assert "ICCBased is used" in found["only CMYK, grey and spot colours"].text


def test_objects_must_not_carry_the_output_intents_profile(checked, coated) -> None:
    def tag(pdf: pikepdf.Pdf) -> None:
        stream = pikepdf.Stream(pdf, coated.data, N=4)
        space = pikepdf.Array([pikepdf.Name.ICCBased, pdf.make_indirect(stream)])
        pdf.pages[0].Resources["/ColorSpace"] = pikepdf.Dictionary(Own=space)

    found = checked("/Own cs 1 0 0 0 scn 0 0 9 9 re f", "PDF/X-4", change=tag)
    assert list(found) == ["no profile of the output intent on objects"]


def test_a_spot_is_judged_by_its_alternate(checked, paper) -> None:
    tint = pikepdf.Dictionary(FunctionType=2, Domain=[0, 1], C0=[1, 1, 1], C1=[1, 0, 0], N=1)
    space = [pikepdf.Name.Separation, pikepdf.Name("/Ternholm Red"), pikepdf.Name.DeviceRGB, tint]
    paper.put("/ColorSpace", "/Warm", pikepdf.Array(space))
    found = checked("/Warm cs 1 scn 0 0 9 9 re f", "PDF/X-1a")
    assert found["only CMYK, grey and spot colours"].text.startswith("Spot colour Ternholm Red")


def test_transparency_breaks_x1a_only(checked, paper) -> None:
    paper.put("/ExtGState", "/Half", pikepdf.Dictionary(ca=0.5))
    content = f"/Half gs {INK}"
    assert checked(content, "PDF/X-1a")["no transparency"].pages == (1,)
    assert checked(content, "PDF/X-4") == {}


def test_transfer_functions_break_both(checked, paper) -> None:
    bend = pikepdf.Dictionary(FunctionType=2, Domain=[0, 1], C0=[1], C1=[0], N=1)
    paper.put("/ExtGState", "/Bent", pikepdf.Dictionary(TR=bend))
    assert "no transfer functions" in checked(f"/Bent gs {INK}", "PDF/X-4")


def test_a_strict_result_keeps_the_rules_and_says_so(tmp_path, paper, resolve) -> None:
    source = paper.save(tmp_path / "in.pdf", f"{INK} 1 0 0 rg 0 0 9 9 re f")
    policy = template("strict-press", "press").model_copy(update={"pdfx": "PDF/X-1a"})
    report = run_policy(policy, source, tmp_path / "out.pdf", resolve)
    assert (report.pdfx.standard, report.pdfx.breaches) == ("PDF/X-1a", ())
    bare = policy.model_copy(update={"output_intent": False})
    report = run_policy(bare, source, tmp_path / "out.pdf", resolve)
    assert [b.where for b in report.pdfx.breaches] == ["the document"]


def test_what_is_no_document_is_said(tmp_path) -> None:
    (tmp_path / "x.pdf").write_bytes(b"%PDF-1.4 nothing")
    with pytest.raises(BadDocument):
        check_colours(tmp_path / "x.pdf", "PDF/X-4")
