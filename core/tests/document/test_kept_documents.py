"""What policies make of every construct, as it was judged good: streams, pictures, spaces, reports."""

from __future__ import annotations

from typing import Any

import numpy as np
import pikepdf
import pytest
from handmade import linear_press
from kept import as_kept, drawn

from corpus import CORPUS, RGB, form, icc, ramp, separation
from paperwork import Paper
from plinto_core.document import OutputPolicy, inventory, run_policy
from plinto_core.document.reports.report_page import report_pdf, summary_of
from plinto_core.document.rules.checks import CHECKS
from plinto_core.icc import Profile
from plinto_core.transform.standard_spaces import SPACES, standard_profile

STRICT: dict[str, Any] = {
    "destination": "press", "rules": [{"action": "convert"}], "tac": 150, "tac_action": "enforce", "greys_to_black": True,
    "overprint_black": True, "clean": True, "group_space": "destination", "bare_cmyk": True,
    "output_intent": True,
}  # fmt: skip
MIXED: dict[str, Any] = {
    "destination": "press", "embedded": False, "sources": {"RGB": "oprgb"}, "pure_black": False,
    "tac": 120, "tac_action": "report",
    "rules": [
        {"objects": "text", "below": 9, "action": "black"},
        {"objects": "vectors", "space": "RGB", "below": 2, "action": "convert", "intent": "absolute"},
        {"objects": "shadings", "action": "convert", "intent": "own", "fallback": "saturation"},
        {"objects": "images", "action": "convert", "intent": "perceptual", "bpc": False},
        {"space": "spot", "action": "convert"},
        {"space": "CMYK", "action": "leave"},
        {"action": "convert", "intent": "saturation", "bpc": False},
    ],
    "builds": {"Ternholm Red": {"M": 80, "Y": 60}},
    "resolution": {"low": 40, "high": 60, "above": "downsample", "to": 30},
}  # fmt: skip
TO_RGB: dict[str, Any] = {"destination": "srgb", "sources": {"CMYK": "press"}, "rules": [{"space": "spot", "action": "keep spot"}, {"action": "convert"}]}  # fmt: skip
_VARYING = {"size_before", "size_after", "size_forecast", "seconds"}
POLICIES = {"strict": STRICT, "mixed": MIXED, "to RGB": TO_RGB}


def everything(paper: Paper) -> str:
    """What a page of a catalogue has, with the odd cases beside the usual ones."""
    paper.put("/ColorSpace", "/S", separation())
    paper.put("/ColorSpace", "/O", icc(paper, "oprgb"))
    paper.put("/Font", "/F", pikepdf.Dictionary(Type=pikepdf.Name.Font, Subtype=pikepdf.Name.Type1, BaseFont=pikepdf.Name.Helvetica))  # fmt: skip
    paper.put("/ExtGState", "/Over", pikepdf.Dictionary(OP=True, op=True, OPM=1))
    paper.put("/ExtGState", "/Half", pikepdf.Dictionary(ca=0.5, CA=0.5, BM=pikepdf.Name.Multiply))
    paper.put("/ExtGState", "/Tone", pikepdf.Dictionary(TR=ramp([1], [0])))
    fm = form(
        paper, b"0.2 0.4 0.8 rg 0 0 30 30 re f /Half gs 0 0 0 1 k 5 5 9 9 re f",
        Group=pikepdf.Dictionary(S=pikepdf.Name.Transparency, CS=pikepdf.Name.DeviceRGB, I=True),
        Resources=pikepdf.Dictionary(ExtGState=pikepdf.Dictionary(Half=pikepdf.Dictionary(ca=0.5))),
    )  # fmt: skip
    paper.put("/XObject", "/Fm", fm)
    paper.put("/XObject", "/Im", paper.image(RGB, pikepdf.Name.DeviceRGB))
    return (
        "0 0 0 rg BT /F 7 Tf 5 90 Td (small black) Tj ET 1 0 0 rg BT /F 12 Tf 80 90 Td (red) Tj ET "
        "0 0 0 1 k BT /F 20 Tf 120 85 Td (K) Tj ET /Over gs 0.9 0.8 0.9 0.9 k 5 60 20 20 re f "
        "1 1 0 rg 30 60 10 10 re f 0 1 1 RG 0.5 w 30 75 m 60 75 l S 3 w 30 80 m 60 80 l S "
        "0.5 0.5 0.5 rg 45 60 10 10 re f 0.25 g 60 60 10 10 re f 1 g 75 60 10 10 re f "
        "/S cs 0.5 scn 90 60 10 10 re f 1 scn 105 60 10 10 re f /Perceptual ri /O cs 0.1 0.9 0.3 scn "
        "120 60 10 10 re f q /Half gs 0.3 0.3 0.9 rg 135 60 20 20 re f Q /Fm Do "
        "q /Tone gs 0.2 0.3 0.4 rg 160 60 20 20 re f Q q 40 0 0 20 40 10 cm /Im Do Q "
        "q 8 0 0 4 100 10 cm /Im Do Q"
    )


def told(pdf: pikepdf.Pdf) -> list[Any]:
    """All objects of a document in their order; numbers as numbers, pictures by what they hold."""
    return [
        _said(o, 0)
        for o in pdf.objects
        if isinstance(o, pikepdf.Dictionary | pikepdf.Stream) and o.get("/Type") not in _NOT_DRAWN
    ]


def _said(found: Any, depth: int) -> Any:
    if depth and isinstance(found, pikepdf.Object) and found.is_indirect:
        return f"object {found.objgen[0]}"
    if isinstance(found, pikepdf.Stream):
        entries = {k: _said(v, depth + 1) for k, v in sorted(found.items()) if k != "/Length"}
        return [entries, _held(found)]
    if isinstance(found, pikepdf.Dictionary):
        return {k: _said(v, depth + 1) for k, v in sorted(found.items()) if k != "/Parent"}
    if isinstance(found, pikepdf.Array):
        return [_said(v, depth + 1) for v in found] if depth < 9 else "deep"
    if isinstance(found, pikepdf.String):
        return "text" if len(bytes(found)) > 40 else bytes(found).decode("latin-1")
    if isinstance(found, bool) or found is None:
        return found
    return float(found) if not isinstance(found, pikepdf.Name) else str(found)


_NOT_DRAWN = ("/XRef", "/ObjStm", "/Metadata")


def _held(found: pikepdf.Stream) -> Any:
    kind = str(found.get("/Subtype", ""))
    if kind == "/Image":
        try:
            pixels = np.frombuffer(found.read_bytes(), np.uint8).astype(float)
        except pikepdf.PdfError:
            return "packed"
        channels = {"/DeviceRGB": 3, "/DeviceCMYK": 4}.get(str(found.get("/ColorSpace")), 1)
        pixels = pixels[: pixels.size // channels * channels].reshape(-1, channels)
        middle = pixels[len(pixels) // 2]
        return [pixels.size, *(np.round(v, 2).tolist() for v in (pixels.mean(0), middle))]
    if "/ShadingType" in found or "/FunctionType" in found:
        data = np.frombuffer(found.read_bytes(), np.uint8).astype(float)
        return [
            data.size,
            round(float(data.mean()), 2),
            data[: data.size // 3 + 8 : 5][:24].tolist(),
        ]
    if "/N" in found or found.get("/Type") in _NOT_DRAWN:
        return "not drawn"
    return [
        " ".join([*(_number(v) for v in o.operands), str(o.operator)])
        for o in pikepdf.parse_content_stream(found)
        if not isinstance(o, pikepdf.ContentStreamInlineImage)
    ]


def _number(value: Any) -> str:
    try:
        return f"{round(float(value), 2):g}"
    except (TypeError, ValueError):
        return str(value)


@pytest.fixture(scope="module")
def press() -> Profile:
    return linear_press()


@pytest.mark.parametrize("policy", POLICIES)
@pytest.mark.parametrize("construct", [*CORPUS, "everything"])
def test_results_and_reports(construct, policy, press, tmp_path) -> None:
    paper = Paper()
    draw = CORPUS.get(construct, everything)
    source = paper.save(tmp_path / "in.pdf", draw(paper))
    found = run_policy(
        OutputPolicy.model_validate(POLICIES[policy]), source, tmp_path / "out.pdf",
        lambda name: standard_profile(name) if name in (*SPACES, "grey") else press,
    )  # fmt: skip
    with pikepdf.open(tmp_path / "out.pdf") as pdf:
        result = told(pdf)
    report = found.model_dump(mode="json", exclude=_VARYING)
    name = f"{policy}, {construct}".replace(" ", "-").replace(",", "")
    kept = {"result": result, "report": {k: v for k, v in report.items() if v not in (None, [], 0)}}
    as_kept(f"documents/{name}", kept, rel=2e-3, abs=0.02)


def test_the_report_as_pages(press, tmp_path) -> None:
    """With checks, breaches of PDF/X, objects that nobody handles, and more of them than are printed."""
    paper = Paper()
    source = paper.save(tmp_path / "in.pdf", everything(paper))
    checks = [{"what": what} for what in CHECKS]
    found = run_policy(
        OutputPolicy.model_validate({**STRICT, "pdfx": "PDF/X-4", "checks": checks}),
        source, tmp_path / "out.pdf", lambda name: standard_profile(name) if name in (*SPACES, "grey") else press,
    )  # fmt: skip
    steady = found.model_copy(update={"size_before": 1_230_000, "size_after": 4_560_000})
    as_kept("document-report", drawn(report_pdf(steady)))
    as_kept("document-summary", summary_of(steady))
    none = steady.model_copy(update={"objects": (), "findings": (), "flow": (), "size_after": None})
    as_kept("document-report-of-nothing", drawn(report_pdf(none)))


@pytest.mark.parametrize("construct", [*CORPUS, "everything"])
def test_inventories(construct, tmp_path) -> None:
    paper = Paper()
    draw = CORPUS.get(construct, everything)
    found = inventory(paper.save(tmp_path / "in.pdf", draw(paper)))
    report = found.model_dump(mode="json", exclude=_VARYING)
    kept = {k: v for k, v in report.items() if v not in (None, [], 0)}
    as_kept(f"documents/inventory-{construct}".replace(" ", "-"), kept, rel=2e-3, abs=0.02)
