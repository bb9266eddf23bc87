"""Checks of a policy: each with a document on either side of its limit, what stops, what is mended."""

from __future__ import annotations

import numpy as np
import pikepdf
import pytest
from pikepdf import Array, Dictionary, Name
from PIL import Image

from paperwork import operations
from pdfx_papers import embedded, note, picture, state, text
from plinto_core.document import (
    PolicyStop,
    dry_run,
    parse_policy,
    run_policy_on_picture,
)
from plinto_core.document.preflight.notes import write_notes
from plinto_core.document.rules.checks import CHECKS, checks_as_data
from plinto_core.document.walking import second_pair
from plinto_core.document.walking.watch import Sighting, Watch
from plinto_core.errors import BadRecipe

MIXED, ALONE = "0.5 0.5 0 0 K", "0 0 0 1 K"
LINE = "0 0 m 90 0 l S"


@pytest.fixture
def found(tmp_path, paper, resolve):
    """What one check finds of a content, None for nothing."""

    def check(what: str, content: str, limit: float | None = None, **changes):
        policy = parse_policy({
            "destination": "press", "rules": [{"space": "CMYK", "action": "leave"}, {"action": "convert"}],
            "checks": [{"what": what, "severity": "warn", "limit": limit}], **changes,
        })  # fmt: skip
        report = dry_run(policy, paper.save(tmp_path / "in.pdf", content), resolve)
        assert len(report.findings) <= 1
        return report.findings[0] if report.findings else None

    return check


@pytest.fixture
def mended(converted):
    def run(paper, content: str, what: str, limit: float | None = None):
        checks = [{"what": what, "severity": "mend", "limit": limit}]
        return converted(paper, content, checks=checks)

    return run


# Lines and text


def test_hairlines_are_measured_as_they_come_out(found) -> None:
    assert found("hairlines", f"0.25 w {LINE}") is None
    thin = found("hairlines", f"0.2 w {LINE}")
    assert (thin.count, thin.pages, thin.text) == (1, (1,), "1 line, the thinnest 0.2 pt.")
    assert thin.places[0].box == (0, 0, 90, 0)
    scaled = found("hairlines", f"q 0.1 0 0 0.1 0 0 cm 2 w {LINE} Q {LINE}")
    assert (scaled.count, scaled.text) == (1, "1 line, the thinnest 0.2 pt.")
    assert found("hairlines", f"0 w {LINE}").text.endswith("thinnest 0 pt.")
    assert found("hairlines", "0.1 w 0 0 9 9 re f") is None


def test_hairlines_by_a_graphics_state_and_at_another_limit(found, paper) -> None:
    assert found("hairlines", f"{state(paper, LW=0.1)}{LINE}").count == 1
    assert found("hairlines", f"0.4 w {LINE}", limit=0.5).count == 1


def widths(source) -> list[float]:
    return [float(v[0]) for o, v in operations(source) if o == "w"]


def test_hairlines_are_mended_to_the_limit_and_all_else_stays(mended, paper) -> None:
    content = f"0.1 w {LINE} 3 w {LINE} q 0.05 0 0 0.05 0 0 cm {LINE} Q {LINE}"
    report, pdf = mended(paper, content, "hairlines")
    assert widths(pdf.pages[0]) == [0.1, 0.25, 3, 5]
    assert report.findings[0].severity == "mend"
    assert report.findings[0].count == 2
    assert not report.wants_a_look


def test_a_mended_line_is_not_too_thick_where_it_is_enlarged(mended, paper) -> None:
    content = f"0.1 w q 10 0 0 10 0 0 cm {LINE} Q {LINE}"
    _, pdf = mended(paper, content, "hairlines")
    # Thickened for the page, back to its own inside: a tenth times ten is thick enough.
    assert widths(pdf.pages[0]) == [0.1, 0.25, 0.1]
    with_state = f"{state(paper, LW=0.1)}{LINE}"
    _, pdf = mended(paper, with_state, "hairlines")
    assert widths(pdf.pages[0]) == [0.25]


def test_nothing_is_thickened_without_being_asked(converted, paper) -> None:
    checks = [{"what": "hairlines", "severity": "warn"}]
    _, pdf = converted(paper, f"0.1 w 1 0 0 RG {LINE}", checks=checks)
    assert widths(pdf.pages[0]) == [0.1]


def test_thin_lines_of_several_inks_are_told_from_those_of_one(found) -> None:
    assert found("mixed lines", f"{MIXED} 0.3 w {LINE}").count == 1
    assert found("mixed lines", f"{ALONE} 0.3 w {LINE}") is None
    assert found("mixed lines", f"{MIXED} 0.6 w {LINE}") is None
    assert found("mixed lines", f"{MIXED} 0.5 w {LINE}") is None
    assert found("mixed lines", f"0.4 0.1 0.8 RG 0.3 w {LINE}").count == 1
    # The black that a page begins with is grey, which the policy converts to four inks or to one.
    assert found("mixed lines", f"0.3 w {LINE}").count == 1
    assert (
        found("mixed lines", f"0.3 w {LINE}", rules=[{"space": "grey", "action": "black"}]) is None
    )


def test_grey_that_is_left_prints_in_one_ink(found) -> None:
    leave = [{"action": "leave"}]
    assert found("mixed lines", f"0.5 G 0.3 w {LINE}", rules=leave) is None
    assert found("mixed lines", f"0.5 0.5 0.5 RG 0.3 w {LINE}", rules=leave).count == 1


def test_small_text_is_measured_through_all_matrices(found, paper) -> None:
    text(paper, embedded(paper))
    show = "BT /F1 {} Tf {} Tm (A) Tj ET"
    mixed = "0.5 0.5 0 0 k "
    assert found("mixed text", mixed + show.format(5, "1 0 0 1 9 9")).text.endswith(
        "smallest 5 pt."
    )
    assert found("mixed text", mixed + show.format(7, "1 0 0 1 9 9")) is None
    assert found("mixed text", mixed + show.format(1, "5 0 0 5 9 9")).text.endswith(
        "smallest 5 pt."
    )
    assert found("mixed text", mixed + show.format(1, "12 0 0 12 9 9")) is None
    small = "q 0.5 0 0 0.5 0 0 cm " + mixed + show.format(10, "1 0 0 1 9 9") + " Q"
    assert found("mixed text", small).text.endswith("smallest 5 pt.")
    assert found("mixed text", "0 0 0 1 k " + show.format(5, "1 0 0 1 9 9")) is None
    hidden = mixed + "BT /F1 5 Tf 3 Tr (A) Tj ET"
    assert found("mixed text", hidden) is None


def test_text_in_rgb_is_judged_by_the_inks_it_comes_out_in(found, paper) -> None:
    text(paper, embedded(paper))
    small = "0 0 0 rg BT /F1 5 Tf (A) Tj ET"
    assert found("mixed text", small).count == 1
    rules = [{"space": "RGB", "action": "black"}]
    assert found("mixed text", small, rules=rules) is None


def test_text_in_a_pattern_or_a_font_that_is_not_there(found, paper) -> None:
    """Neither is several inks by itself, and what is not there is not a font that is not embedded."""
    tile = pikepdf.Stream(
        paper.pdf, b"0.5 0.5 0 0 k 0 0 4 4 re f", PatternType=1, PaintType=1, TilingType=1,
        BBox=[0, 0, 4, 4], XStep=4, YStep=4, Resources=Dictionary(),
    )  # fmt: skip
    paper.put("/Pattern", "/P", tile)
    text(paper, embedded(paper))
    assert found("mixed text", "/Pattern cs /P scn BT /F1 5 Tf (A) Tj ET") is None
    for what in ("mixed text", "fonts"):
        assert found(what, "0 0 0 1 k BT /None 5 Tf (A) Tj ET") is None


def test_a_size_of_nought_is_that_of_the_matrix_however_often_it_is_set(found, paper) -> None:
    text(paper, embedded(paper))
    for before in ("", "/F1 0 Tf (B) Tj /F1 9 Tf "):
        content = f"0.5 0.5 0 0 k BT 5 0 0 5 9 9 Tm {before}/F1 0 Tf (A) Tj ET"
        assert found("mixed text", content, limit=6).text.endswith("smallest 5 pt.")


# Overprint


def test_white_that_overprints_is_found_in_every_space(found, paper) -> None:
    over = state(paper, OP=True, op=True, OPM=1)
    for white in ("0 0 0 0 k", "1 g", "1 1 1 rg"):
        assert found("white overprints", f"{over}{white} 0 0 9 9 re f").count == 1
        assert found("white overprints", f"{white} 0 0 9 9 re f") is None
    assert found("white overprints", f"{over}0 0 0 0.1 k 0 0 9 9 re f") is None
    lines = state(paper, OP=True, op=False)
    assert found("white overprints", f"{lines}0 0 0 0 K {LINE}").count == 1
    assert found("white overprints", f"{lines}0 0 0 0 k 0 0 9 9 re f") is None


@pytest.mark.parametrize("order", ["{over}0 0 0 0 k {box}", "0 0 0 0 k {over}{box}"])
def test_white_is_mended_to_knock_out_whichever_was_set_first(mended, paper, order) -> None:
    over = state(paper, OP=True, op=True, OPM=1)
    content = order.format(over=over, box="0 0 9 9 re f") + " 1 0 0 0 k 9 9 9 9 re f"
    _, pdf = mended(paper, content, "white overprints")
    states, at = pdf.pages[0].Resources["/ExtGState"], None
    overprints = {}
    for operator, operands in operations(pdf.pages[0]):
        if operator == "gs" and "/op" in states[str(operands[0])]:
            at = bool(states[str(operands[0])]["/op"])
        elif operator == "k":
            colour = tuple(float(v) for v in operands)
        elif operator == "f":
            overprints[colour] = at
    assert overprints == {(0, 0, 0, 0): False, (1, 0, 0, 0): True}


def test_white_of_lines_does_not_change_how_areas_overprint(mended, paper) -> None:
    over = state(paper, OP=True, op=True, OPM=1)
    _, pdf = mended(paper, f"{over}1 0 0 0 k 0 0 0 0 K 0 0 9 9 re B", "white overprints")
    assert [o for o, _ in operations(pdf.pages[0])].count("gs") == 1


# Fonts, images, totals


def test_fonts_that_are_not_embedded_are_named(found, paper) -> None:
    content = text(paper, Dictionary(Type=Name.Font, Subtype=Name.Type1, BaseFont=Name.Helvetica))
    assert found("fonts", content).text == "Not embedded: Helvetica."
    assert found("fonts", text(paper, embedded(paper))) is None


def test_images_and_line_art_have_limits_of_their_own(found, paper) -> None:
    fine = picture(paper).replace("9 0 0 9", "1.9 0 0 1.9")  # 4 pixels on 1.9 points: 152 ppi
    assert found("coarse images", fine) is None
    coarse = found("coarse images", fine.replace("1.9", "2"))
    assert (coarse.count, coarse.text) == (1, "1 image, the coarsest 144 ppi.")
    assert found("coarse line art", fine) is None
    art = paper.image(np.zeros((4, 1), np.uint8), Name.DeviceGray, bits=1, width=8)
    paper.put("/XObject", "/Im", art)
    assert found("coarse line art", "q 9 0 0 9 0 0 cm /Im Do Q").text.endswith("coarsest 32 ppi.")
    assert found("coarse images", "q 9 0 0 9 0 0 cm /Im Do Q") is None


def test_totals_are_judged_by_kind_and_after_the_policy(found, paper) -> None:
    heavy = "0.9 0.9 0.9 0.9 k 0 0 9 9 re f"
    assert found("vector total", heavy).text.endswith("at most 360 %.")
    assert found("vector total", heavy, limit=360) is None
    assert found("vector total", heavy, tac=280, tac_action="enforce") is None
    assert found("image total", heavy) is None
    paper.put("/XObject", "/Im", paper.image(np.full((4, 4, 4), 230, np.uint8), Name.DeviceCMYK))
    assert found("image total", "q 9 0 0 9 0 0 cm /Im Do Q").count == 1


# Pages and the document


def test_what_a_document_holds_as_a_whole(found, paper) -> None:
    plain = "0 0 0 1 k 0 0 9 9 re f"
    for what in (
        "transparency",
        "blending",
        "spot colours",
        "layers",
        "annotations",
        "restrictions",
    ):
        assert found(what, plain) is None
    assert found("trim", plain).pages == (1,)
    paper.page.obj["/TrimBox"] = [9, 9, 191, 91]
    assert found("trim", plain) is None
    assert found("bleed", plain) is None
    assert found("bleed", plain, limit=4).text == "Bleed of 3.2 mm."
    # 3 mm are 8.504 points: boxes are written with few decimals, and 0.005 mm is no bleed missed.
    for short, caught in ((0.004, False), (0.007, True)):
        edge = 9 - (3 - short) * 72 / 25.4
        paper.page.obj["/BleedBox"] = [edge, 0, 200, 100]
        assert (found("bleed", plain) is not None) == caught
    paper.page.obj["/BleedBox"] = [6, 9, 194, 91]
    assert found("bleed", plain).text == "Bleed of 0.0 mm."
    # A box within the trim bleeds by nothing, not by less.
    paper.page.obj["/BleedBox"] = [12, 12, 188, 88]
    assert found("bleed", plain).text == "Bleed of 0.0 mm."
    assert found("transparency", f"{state(paper, ca=0.5)}{plain}").pages == (1,)
    paper.page.obj["/Group"] = Dictionary(S=Name.Transparency, CS=Name.DeviceRGB)
    assert found("blending", plain).pages == (1,)
    paper.pdf.Root["/OCProperties"] = Dictionary(OCGs=[], D=Dictionary())
    assert found("layers", plain).pages == ()


def test_spot_colours_are_counted(found, paper) -> None:
    tint = Dictionary(FunctionType=2, Domain=[0, 1], C0=[0] * 4, C1=[0, 0.9, 0.7, 0], N=1)
    for name in ("Red", "Blue"):
        paper.put("/ColorSpace", f"/{name}", Array([Name.Separation, Name(f"/{name}"), Name.DeviceCMYK, tint]))  # fmt: skip
    content = "/Red cs 1 scn 0 0 9 9 re f /Blue cs 1 scn 0 0 9 9 re f"
    keep = [{"space": "spot", "action": "keep spot"}]
    assert found("spot colours", content, limit=1, rules=keep).text == "2 of them: Blue, Red."
    assert found("spot colours", content, limit=2, rules=keep) is None


def test_trim_and_annotations_are_mended(mended, paper) -> None:
    note(paper, "Text", [50, 50, 60, 60])
    report, pdf = mended(paper, "0 g 0 0 9 9 re f", "annotations")
    assert report.findings[0].places[0].box == (50, 50, 60, 60)
    assert "/Annots" not in pdf.pages[0].obj
    note(paper, "PrinterMark", [50, 50, 60, 60])
    report, pdf = mended(paper, "0 g 0 0 9 9 re f", "annotations")
    assert report.findings == ()
    assert len(pdf.pages[0].obj["/Annots"]) == 1
    _, pdf = mended(paper, "0 g 0 0 9 9 re f", "trim")
    assert list(pdf.pages[0].obj["/TrimBox"]) == [0, 0, 200, 100]


def test_spot_colours_are_named_by_pattern_or_as_they_are_written() -> None:
    def number(spot: str, *names: str) -> int:
        rules = [{"space": "spot", "spot": spot, "action": "stop"}]
        return parse_policy({"destination": "press", "rules": rules}).rule_for("images", "spot", names)[0]  # fmt: skip

    assert number("Ternholm *", "Ternholm Red") == 1
    assert number("Ternholm *", "ternholm Red") == number("Ternholm *", "Other") == 0
    assert number("Ternholm ?", "Ternholm 7") == 1
    assert number("Ternholm ?", "Ternholm 77") == 0
    assert number("Red [mat]", "Red [mat]") == 1
    assert number("*", "Any", "Other") == number("", "Any") == 1


# What follows


def test_a_check_that_stops_leaves_no_result(converted, paper, tmp_path, resolve) -> None:
    checks = [{"what": "hairlines", "severity": "stop"}]
    with pytest.raises(PolicyStop, match="Hairlines: 1 line"):
        converted(paper, f"0.1 w {LINE}", checks=checks)
    assert not (tmp_path / "out.pdf").exists()
    policy = parse_policy({"destination": "press", "checks": checks})
    report = dry_run(policy, tmp_path / "in.pdf", resolve)
    assert report.wants_a_look
    assert report.findings[0].severity == "stop"


def test_a_result_that_does_not_keep_its_standard_can_stop(converted, paper, tmp_path) -> None:
    given = {"pdfx": "PDF/X-1a:2003", "pdfx_made": True}
    content = f"{state(paper, ca=0.5)}0 g 0 0 9 9 re f"
    report, _ = converted(paper, content, checks=[{"what": "standard"}], **given)
    assert report.findings[0].text == "PDF/X-1a:2003 is not kept: no transparency."
    (tmp_path / "out.pdf").unlink()
    with pytest.raises(PolicyStop, match="no transparency"):
        converted(paper, content, checks=[{"what": "standard", "severity": "stop"}], **given)
    assert not (tmp_path / "out.pdf").exists()


def test_pictures_are_checked_and_stopped_before_anything_is_written(tmp_path, resolve) -> None:
    pixels = np.full((40, 40, 4), 240, np.uint8)
    Image.fromarray(pixels, "CMYK").save(tmp_path / "in.tif", dpi=(100, 100))
    data = {"destination": "press", "rules": [{"action": "leave"}]}
    checks = [{"what": "coarse images"}, {"what": "image total"}]
    policy = parse_policy({**data, "checks": checks})
    report = run_policy_on_picture(policy, tmp_path / "in.tif", tmp_path / "out.tif", resolve)
    assert [f.text for f in report.findings] == [
        "1 image, the coarsest 100 ppi.", "1 image, at most 376.5 %.",
    ]  # fmt: skip
    (tmp_path / "kept.tif").write_bytes(b"what was there")
    policy = parse_policy({**data, "checks": [{"what": "image total", "severity": "stop"}]})
    with pytest.raises(PolicyStop):
        run_policy_on_picture(policy, tmp_path / "in.tif", tmp_path / "kept.tif", resolve)
    assert (tmp_path / "kept.tif").read_bytes() == b"what was there"


def test_long_documents_are_checked_by_two_processes_alike(
    paper, tmp_path, resolve, monkeypatch
) -> None:
    monkeypatch.setattr(second_pair, "WORTH_IT", 40)
    paper.page.Contents = pikepdf.Stream(paper.pdf, f"0.1 w {LINE}".encode())
    for _ in range(60):
        paper.pdf.pages.append(paper.page)
    paper.pdf.save(tmp_path / "in.pdf")
    policy = parse_policy({"destination": "press", "checks": [{"what": "hairlines"}]})
    report = dry_run(policy, tmp_path / "in.pdf", resolve)
    assert report.findings[0].count == 61
    assert report.findings[0].pages == tuple(range(1, 62))


def test_notes_stand_at_their_places_and_do_not_print(paper, tmp_path, resolve) -> None:
    note(paper, "Text", [150, 50, 160, 60])
    policy = parse_policy({
        "destination": "press", "checks": [{"what": "hairlines"}, {"what": "trim"}],
        "rules": [{"space": "RGB", "action": "stop"}],
    })  # fmt: skip
    source = paper.save(tmp_path / "in.pdf", f"0.1 w {LINE} 1 0 0 rg 20 20 30 30 re f")
    before = source.read_bytes()
    report = dry_run(policy, source, resolve)
    assert write_notes(source, report, tmp_path / "notes.pdf") == 3
    assert source.read_bytes() == before
    with pikepdf.open(tmp_path / "notes.pdf") as pdf:
        kept, line, trim, stop = pdf.pages[0].obj["/Annots"]
    assert str(kept.get("/T", "")) == ""
    assert [float(v) for v in line.Rect] == [0, -3, 90, 3]
    assert (str(line.T), str(line.Subtype)) == ("Hairlines", "/Square")
    assert (str(trim.T), str(trim.Subtype)) == ("No trim box", "/Text")
    assert [float(v) for v in stop.Rect] == [20, 20, 50, 50]
    assert "stops this vector in RGB" in str(stop.Contents)
    assert not any(int(a.F) & 4 for a in (line, trim, stop))


@pytest.mark.parametrize(
    ("check", "said"),
    [
        ({"what": "fonts", "severity": "mend"}, "cannot be mended"),
        ({"what": "fonts", "limit": 3}, "has no limit"),
        ({"what": "hairlines", "limit": 0}, "0.01 to 10"),
        ({"what": "hairlines", "limit": float("nan")}, "checks"),
        ({"what": "wrinkles"}, "checks"),
    ],
)
def test_checks_that_cannot_be_are_refused(check, said) -> None:
    with pytest.raises(BadRecipe, match=said):
        parse_policy({"destination": "press", "checks": [check]})


def test_a_check_stands_once_and_all_are_offered() -> None:
    twice = [{"what": "fonts"}, {"what": "fonts"}]
    with pytest.raises(BadRecipe, match="twice"):
        parse_policy({"destination": "press", "checks": twice})
    offered = checks_as_data()
    assert [o["what"] for o in offered] == list(CHECKS)
    assert all(o["low"] <= o["start"] <= o["high"] for o in offered if o["start"] is not None)


def test_what_was_seen_on_a_page_is_told_and_taken_in_by_page() -> None:
    policy = parse_policy({"destination": "press", "rules": [{"action": "convert"}], "checks": [{"what": "hairlines"}, {"what": "fonts"}]})  # fmt: skip
    one, other = Watch(policy.checks), Watch(policy.checks)
    for page in (1, 2, 3):
        one._at("hairlines", page).add(page, 0.1 * page, None)
    one._at("fonts", 2).words["Helvetica"] = None
    told = one.of_page(2)
    assert [(s.check, s.page, s.count) for s in told] == [("hairlines", 2, 2), ("fonts", 2, 0)]
    other.take(told)
    assert list(other.seen) == [("hairlines", 2), ("fonts", 2)]
    assert one.of_page(4) == []


@pytest.mark.parametrize(("most", "worst"), [(False, 2), (True, 9)])
def test_the_worst_of_all_is_said_in_whatever_order_it_is_met(most, worst) -> None:
    for values in ((2, 5, 9), (9, 5, 2), (5, 9, 2), (5, 2, 9)):
        seen = Sighting("hairlines", 1)
        for value in values:
            seen.add(2, value, None, most=most)
        seen.add(1, None, (0, 0, 1, 1), most=most)
        assert (seen.worst, seen.count, seen.boxes) == (worst, 7, [(0, 0, 1, 1)])


@pytest.mark.parametrize("side", range(4))
def test_bleed_is_that_of_the_side_with_the_least(found, paper, side) -> None:
    """Eleven points on three sides and three on one: 1.1 mm."""
    trim, bleed = [40.0, 30.0, 180.0, 90.0], [29.0, 19.0, 191.0, 101.0]
    bleed[side] = trim[side] + (-3, -3, 3, 3)[side]
    paper.page.obj["/MediaBox"] = [0, 0, 300, 200]
    paper.page.obj["/TrimBox"], paper.page.obj["/BleedBox"] = trim, bleed
    assert found("bleed", "0 g 0 0 9 9 re f").text == "Bleed of 1.1 mm."
