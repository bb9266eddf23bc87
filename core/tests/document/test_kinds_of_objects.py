"""Text apart from vectors, small from large, thin from thick, line art from images: what each is painted in."""

from __future__ import annotations

from typing import Any

import numpy as np
import pikepdf
import pytest
from pikepdf import Array, Dictionary, Name

from corpus import stream
from paperwork import operations
from plinto_core.document import OutputPolicy, dry_run
from plinto_core.document.rules.policy import parse_policy
from plinto_core.document.views.render import render_page
from plinto_core.errors import BadRecipe, PolicyStop

RED = "0.8 0.1 0.1 rg 0.8 0.1 0.1 RG "
AREA = "10 10 20 20 re f "
TEXT_TO_BLACK = [{"objects": "text", "action": "black"}, {"action": "convert"}]
FILLING, STROKING = {"f", "F", "f*", "B", "b"}, {"S", "s", "B", "b"}
COLOURS = {"g": 1, "rg": 3, "k": 4, "scn": 0, "sc": 0}


def text(size: float = 12, words: str = "Plinto") -> str:
    return f"BT /F {size} Tf 10 50 Td ({words}) Tj ET "


def painted(pdf: pikepdf.Pdf) -> list[tuple[str, str, tuple[float, ...]]]:
    """Every painting operator of the page with the operator and values of the colour it paints in; fails
    where a colour is set inside a path."""
    state = {"fill": ("g", (0.0,)), "stroke": ("g", (0.0,))}
    saved: list[dict[str, Any]] = []
    selected: dict[str, str | None] = {"fill": None, "stroke": None}
    found = []
    inside = False
    for operator, operands in operations(pdf.pages[0]):
        low = operator.lower()
        if operator in ("m", "re"):
            inside = True
        if low in (*COLOURS, "cs"):
            assert not inside, f"{operator} inside a path"
        side = "stroke" if operator.isupper() else "fill"
        if low == "cs":
            selected[side] = str(operands[0])
        if low in COLOURS:
            if low in ("g", "rg", "k"):
                selected[side] = None
            else:
                assert selected[side] is not None, f"{operator} in a space that nothing selected"
            state[side] = (low, tuple(float(v) for v in operands))
        elif operator == "q":
            saved.append(dict(state))
        elif operator == "Q":
            state = saved.pop()
        elif operator in ("Tj", "TJ"):
            found.append(("text", *state["fill"]))
        if operator in FILLING:
            found.append(("area", *state["fill"]))
        if operator in STROKING:
            found.append(("line", *state["stroke"]))
        if operator in FILLING | STROKING | {"n"}:
            inside = False
    return found


@pytest.fixture
def done(paper, converted):
    """What a page's objects are painted in under rules."""
    paper.put(
        "/Font", "/F", Dictionary(Type=Name.Font, Subtype=Name.Type1, BaseFont=Name.Helvetica)
    )

    def run(content: str, rules: list[dict[str, Any]], **changes: Any):
        report, pdf = converted(paper, content, rules=rules, **changes)
        return report, painted(pdf)

    return run


def only_black(colour: tuple[str, tuple[float, ...]]) -> bool:
    operator, values = colour[-2:]
    return operator == "k" and values[:3] == (0, 0, 0) and values[3] > 0


def test_text_and_areas_of_one_colour_follow_their_own_rules(done) -> None:
    report, found = done(RED + AREA + text() + AREA + text(), TEXT_TO_BLACK)
    kinds = [kind for kind, *_ in found]
    assert kinds == ["area", "text", "area", "text"]
    assert [only_black(c) for _, *c in found] == [False, True, False, True]
    assert found[0] == found[2]
    assert found[0][1] == "k"
    assert found[0][2][1] > 0.5
    assert {(o.kind, o.rule) for o in report.objects} == {("text", 1), ("vector", 2)}
    assert {f.objects for f in report.flow} == {"text", "vectors"}


def test_without_such_rules_nothing_is_told_apart(done) -> None:
    report, found = done(RED + AREA + text(), [{"objects": "vectors", "action": "convert"}])
    assert found[0][1:] == found[1][1:]
    assert {f.objects for f in report.flow} == {"text and vectors"}


def test_text_that_is_left_keeps_its_own_numbers_and_areas_after_it_are_converted(done) -> None:
    rules = [{"objects": "text", "action": "leave"}, {"action": "convert"}]
    _, found = done(RED + text() + AREA + text(), rules)
    assert [c[1] for c in found] == ["rg", "k", "rg"]
    assert found[0][2] == pytest.approx((0.8, 0.1, 0.1))


def test_a_colour_in_a_space_of_its_own_comes_back_under_its_name(done, paper, coated) -> None:
    profile = coated
    made = stream(paper, profile.data, N=4)
    paper.put("/ColorSpace", "/Press", Array([Name.ICCBased, made]))
    rules = [{"objects": "text", "action": "convert"}, {"action": "leave"}]
    _, found = done(
        "/Press cs 0.1 0.9 0.8 0 scn " + text() + AREA + "0.2 0.2 0.2 0 scn " + AREA, rules,
        sources={"CMYK": "press"},
    )  # fmt: skip
    assert [c[1] for c in found] == ["k", "scn", "scn"]
    assert found[1][2] == pytest.approx((0.1, 0.9, 0.8, 0))
    assert found[2][2] == pytest.approx((0.2, 0.2, 0.2, 0))
    _, found = done(
        "/Press cs 0.1 0.9 0.8 0 scn " + text() + "0.2 0.2 0.2 0 scn " + AREA, rules,
        sources={"CMYK": "press"},
    )  # fmt: skip
    assert [c[1] for c in found] == ["k", "scn"]


def test_lines_are_told_apart_by_the_width_they_come_out_in(done) -> None:
    thin = [{"objects": "vectors", "below": 0.5, "action": "black"}, {"action": "convert"}]
    line = "10 10 m 90 10 l S "
    content = (
        RED + "1 w " + line + "0.4 w " + line + "q 4 0 0 4 0 0 cm " + line + "Q " + line + AREA
    )
    _, found = done(content, thin)
    assert [only_black(c) for _, *c in found] == [False, True, False, True, False]


def test_a_width_of_exactly_the_limit_is_not_below_it(done) -> None:
    thin = [{"objects": "vectors", "below": 0.5, "action": "black"}, {"action": "convert"}]
    _, found = done(RED + "0.5 w 10 10 m 90 10 l S ", thin)
    assert not only_black(found[0])


def test_an_outlined_area_has_the_rule_of_an_area_inside_and_of_a_line_around(done) -> None:
    thin = [{"objects": "vectors", "below": 0.5, "action": "black"}, {"action": "convert"}]
    _, found = done(RED + "0.2 w 10 10 20 20 re B ", thin)
    assert [(kind, only_black(c)) for kind, *c in found] == [("area", False), ("line", True)]


def test_small_text_is_told_apart_by_the_size_it_comes_out_in(done) -> None:
    small = [{"objects": "text", "below": 7, "action": "black"}, {"action": "convert"}]
    enlarged = "BT /F 6 Tf 2 0 0 2 10 50 Tm (A) Tj ET "
    reduced = "q 0.5 0 0 0.5 0 0 cm BT /F 12 Tf (A) Tj ET Q "
    _, found = done(RED + text(12) + text(6) + enlarged + reduced + text(7), small)
    assert [only_black(c) for _, *c in found] == [False, True, False, True, False]


def test_small_and_large_text_of_one_colour_are_listed_under_their_rules(done) -> None:
    small = [{"objects": "text", "below": 7, "action": "black"}, {"action": "convert"}]
    report, _ = done(RED + text(12) + text(6) + text(12), small)
    assert sorted((o.rule, o.count) for o in report.objects) == [(1, 1), (2, 2)]


def test_black_that_nobody_set_follows_the_rules_too(done) -> None:
    rules = [{"objects": "text", "action": "leave"}, {"space": "grey", "action": "black"}]
    _, found = done(text() + AREA + text(), rules)
    assert [c[1] for c in found] == ["g", "k", "g"]
    _, found = done(AREA + text() + AREA, rules)
    assert [c[1] for c in found] == ["k", "g", "k"]


def test_saved_colours_come_back_as_they_were_written(done) -> None:
    _, found = done(
        RED + AREA + "q " + text() + "Q " + AREA + "q " + AREA + "Q " + text(), TEXT_TO_BLACK
    )
    assert [only_black(c) for _, *c in found] == [False, True, False, False, True]


def test_a_form_begins_with_the_colour_of_its_place(done, paper) -> None:
    font = Dictionary(F=paper.resources["/Font"]["/F"])
    drawn = stream(
        paper, (text() + AREA).encode(), Type=Name.XObject, Subtype=Name.Form, BBox=[0, 0, 200, 100],
        Resources=Dictionary(Font=font),
    )  # fmt: skip
    paper.put("/XObject", "/X", drawn)
    _, found = done(RED + AREA + "/X Do " + AREA, TEXT_TO_BLACK)
    assert [only_black(c) for _, *c in found] == [False, False]
    assert found[0] == found[1]


def test_a_pattern_in_a_colour_of_its_own_stays_a_pattern(paper, converted) -> None:
    cell = stream(
        paper, b"0 0 5 5 re f", Type=Name.Pattern, PatternType=1, PaintType=2, TilingType=1,
        BBox=[0, 0, 9, 9], XStep=9, YStep=9, Resources=Dictionary(),
    )  # fmt: skip
    paper.put("/Pattern", "/T", cell)
    paper.put("/ColorSpace", "/PT", Array([Name.Pattern, Name.DeviceRGB]))
    content = "/PT cs 0.8 0.1 0.1 /T scn 10 10 50 50 re f"
    _, pdf = converted(paper, content, rules=TEXT_TO_BLACK)
    words = [o for o, _ in operations(pdf.pages[0])]
    assert "k" not in words
    last = [v for o, v in operations(pdf.pages[0]) if o == "scn"][-1]
    assert str(last[-1]) == "/T"
    assert len(last) == 5


@pytest.mark.parametrize("given", ["0.8 0.1 /T", "0.8 0.1 0.1 0.2 /T", "/T"])
@pytest.mark.parametrize("base", [Name.DeviceRGB, None])
def test_a_pattern_whose_colour_means_nothing_is_left_as_it_is(
    paper, converted, given, base
) -> None:
    cell = stream(
        paper, b"0 0 5 5 re f", Type=Name.Pattern, PatternType=1, PaintType=2, TilingType=1,
        BBox=[0, 0, 9, 9], XStep=9, YStep=9, Resources=Dictionary(),
    )  # fmt: skip
    paper.put("/Pattern", "/T", cell)
    paper.put("/ColorSpace", "/PT", Array([Name.Pattern, base] if base else [Name.Pattern]))
    report, pdf = converted(paper, f"/PT cs {given} scn 10 10 50 50 re f", rules=TEXT_TO_BLACK)
    found = [
        " ".join(str(v) for v in values) for o, values in operations(pdf.pages[0]) if o == "scn"
    ]
    assert found == [given]
    assert (report.objects, report.not_handled, report.flow) == ((), (), ())


@pytest.mark.parametrize(("words", "wide"), [("Plinto", 36), ("P", 6), ("", 6)])
def test_text_lies_in_a_box_of_about_its_size(done, words, wide) -> None:
    """Half its size for every letter, and for one at least: glyphs are not measured."""
    report, _ = done(RED + text(12, words), [{"action": "convert"}])
    assert report.objects[0].box == pytest.approx((10, 50 - 2.4, 10 + wide, 50 + 9.6))


def test_only_text_stops(done) -> None:
    rules = [{"objects": "text", "space": "RGB", "action": "stop"}, {"action": "convert"}]
    _, found = done(RED + AREA, rules)
    assert found[0][1] == "k"
    with pytest.raises(PolicyStop, match="text in RGB"):
        done(RED + AREA + text(), rules)


def test_the_total_is_held_for_what_is_left_of_one_kind(done) -> None:
    rules = [{"objects": "text", "action": "leave"}, {"space": "CMYK", "action": "convert"}]
    heavy = "0.9 0.9 0.9 0.9 k "
    report, found = done(heavy + text() + AREA, rules, tac=280, tac_action="enforce")
    assert [c[1] for c in found] == ["k", "k"]
    assert all(sum(values) <= 2.8 + 1e-6 for _, _, values in found)
    assert all((o.tac_after or 0) <= 280.1 for o in report.objects)


def test_mixed_text_is_judged_as_it_comes_out(done) -> None:
    checks = [{"what": "mixed text", "severity": "report", "limit": 9}]
    report, _ = done(RED + text(8), TEXT_TO_BLACK, checks=checks)
    assert [f.check for f in report.findings] == []
    report, _ = done(RED + text(8), [{"action": "convert"}], checks=checks)
    assert [f.check for f in report.findings] == ["mixed text"]


@pytest.mark.parametrize("bits", [1, 8])
def test_line_art_is_told_from_images(paper, converted, bits) -> None:
    pixels = np.array([[0b10101010], [0b01010101]], np.uint8)
    image = paper.image(pixels, Name.DeviceGray, bits, **({"width": 8} if bits == 1 else {}))
    paper.put("/XObject", "/P", image)
    rules = [{"objects": "line art", "action": "leave"}, {"objects": "images", "action": "convert"}]
    report, pdf = converted(paper, "100 0 0 50 0 0 cm /P Do", rules=rules)
    (item,) = report.objects
    assert (item.rule, item.action) == ((1, "leave") if bits == 1 else (2, "convert"))
    assert report.flow[0].objects == ("line art" if bits == 1 else "images")
    placed = pdf.pages[0].obj["/Resources"]["/XObject"]["/P"]
    assert str(placed["/ColorSpace"]) == ("/DeviceGray" if bits == 1 else "/DeviceCMYK")


def test_images_include_line_art_and_vectors_text() -> None:
    policy = OutputPolicy.model_validate(
        {"destination": "x", "rules": [{"objects": "images", "action": "stop"}, {"objects": "vectors", "action": "black"}]}
    )  # fmt: skip
    assert policy.rule_for("line art", "grey")[0] == 1
    assert policy.rule_for("text", "RGB", size=4)[0] == 2
    assert policy.rule_for("shadings", "RGB")[0] == 0


@pytest.mark.parametrize("objects", ["all", "images", "line art", "shadings"])
def test_a_size_is_asked_of_text_and_vectors_only(objects) -> None:
    with pytest.raises(BadRecipe, match="a size tells text and vectors apart"):
        parse_policy(
            {"destination": "x", "rules": [{"objects": objects, "below": 6, "action": "leave"}]}
        )


@pytest.mark.parametrize("below", [0, -1, 1001, float("nan")])
def test_a_size_is_a_size(below) -> None:
    with pytest.raises(BadRecipe, match="below"):
        parse_policy(
            {"destination": "x", "rules": [{"objects": "text", "below": below, "action": "leave"}]}
        )


def test_the_page_looks_as_its_rules_say(paper, tmp_path, resolve) -> None:
    """The whole way to pixels: a thin line in black, a thick one and an area in colour."""
    rules = [{"objects": "vectors", "below": 3, "action": "black"}, {"action": "convert"}]
    policy = OutputPolicy.model_validate({"destination": "press", "rules": rules})
    content = "1 0 0 RG 1 0 0 rg 2 w 0 20 m 200 20 l S 8 w 0 50 m 200 50 l S 0 70 200 20 re f"
    source = paper.save(tmp_path / "in.pdf", content)
    from plinto_core.document import run_policy

    run_policy(policy, source, tmp_path / "out.pdf", resolve)
    pixels = render_page(tmp_path / "out.pdf", 1, 200)[0].astype(int)
    chroma = np.ptp(pixels[:, 100], axis=-1)
    assert chroma[80] < 25
    assert chroma[50] > 80
    assert chroma[20] > 80
    listed = dry_run(policy, source, resolve)
    assert sorted(o.rule for o in listed.objects) == [1, 2]


def test_the_report_says_of_text_what_the_rule_for_text_makes_of_it(converted, paper) -> None:
    """One colour, set once, painted as an area and as text: two rules, two results in the report."""
    rules = [{"objects": "text", "action": "black"}, {"action": "convert"}]
    content = "0.2 0.3 0.4 rg 0 0 9 9 re f BT /F1 9 Tf (a) Tj ET 1 1 9 9 re f"
    report, _ = converted(paper, content, rules=rules)
    area = next(o for o in report.objects if o.kind == "vector")
    text = next(o for o in report.objects if o.kind == "text")
    assert (area.rule, text.rule) == (2, 1)
    assert area.count == 2
    assert text.after[:3] == (0, 0, 0)
    assert text.outcome == "black only"
    assert min(area.after[:3]) > 0
    assert area.tac_after == pytest.approx(sum(area.after), abs=0.3)
