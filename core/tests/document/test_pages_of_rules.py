"""Rules for some pages only: which pages, and what pages share, changed for each as its rules say."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np
import pikepdf
import pytest
from pikepdf import Array, Dictionary, Name
from PIL import Image

from corpus import stream
from paperwork import Paper, operations
from plinto_core.document import OutputPolicy, dry_run, dry_run_on_picture, run_policy
from plinto_core.document.rules.page_ranges import names_page, tidy
from plinto_core.document.rules.policy import parse_policy
from plinto_core.document.views.press_view import page_as_printed
from plinto_core.document.views.separations import page_plates
from plinto_core.errors import BadRecipe

SECOND_IN_BLACK = [{"pages": "2", "action": "black"}, {"action": "convert"}]


@pytest.mark.parametrize(
    ("text", "inside", "outside"),
    [
        ("", [1, 7, 999], []),
        ("3", [3], [2, 4]),
        ("1-4, 7, 10-", [1, 4, 7, 10, 5000], [5, 6, 8, 9]),
        ("odd", [1, 3, 99], [2, 100]),
        (" Even ,1", [1, 2, 4], [3]),
    ],
)
def test_pages_are_named_as_people_do(text, inside, outside) -> None:
    assert all(names_page(text, p) for p in inside)
    assert not any(names_page(text, p) for p in outside)


@pytest.mark.parametrize("text", ["0", "4-2", "x", "1-2-3", "-3", "1;2", "1.5"])
def test_what_names_no_pages_is_refused_in_words(text) -> None:
    with pytest.raises(BadRecipe, match="names no pages"):
        parse_policy({"destination": "x", "rules": [{"pages": text, "action": "leave"}]})


def test_pages_are_kept_in_one_way() -> None:
    assert tidy(" 1 - 4,7 ,ODD,") == "1-4, 7, odd"


def several(tmp_path: Path, paper: Paper, contents: list[str]) -> Path:
    """A document whose pages share the resources of one."""
    for _ in contents[1:]:
        page = paper.pdf.add_blank_page(page_size=(200, 100))
        page.obj["/Resources"] = paper.resources
    for page, content in zip(paper.pdf.pages, contents, strict=True):
        page.Contents = pikepdf.Stream(paper.pdf, content.encode("latin-1"))
    path = tmp_path / "several.pdf"
    paper.resources = paper.pdf.make_indirect(paper.resources)
    paper.pdf.save(path, static_id=True)
    return path


def set_colours(source: Any) -> list[tuple[str, list[float]]]:
    return [(o, [float(v) for v in v]) for o, v in operations(source) if o in ("k", "rg", "g")]


@pytest.fixture
def run(tmp_path, resolve):
    def done(path: Path, rules: list[dict[str, Any]], **more: Any):
        policy = OutputPolicy.model_validate({"destination": "press", "rules": rules, **more})
        report = run_policy(policy, path, tmp_path / "out.pdf", resolve)
        return report, pikepdf.open(tmp_path / "out.pdf")

    return done


def test_a_colour_is_changed_by_the_rules_of_its_page(tmp_path, paper, run) -> None:
    source = several(tmp_path, paper, ["0.8 0.1 0.1 rg 0 0 9 9 re f"] * 3)
    report, pdf = run(source, SECOND_IN_BLACK)
    found = [set_colours(p)[0][1] for p in pdf.pages]
    assert found[0] == found[2]
    assert found[0][1] > 0.5
    assert found[1][:3] == [0, 0, 0]
    assert [(o.page, o.rule) for o in report.objects] == [(1, 2), (2, 1), (3, 2)]


def test_a_form_that_pages_share_is_changed_for_each_as_its_rules_say(tmp_path, paper, run) -> None:
    inner = stream(
        paper, b"0.8 0.1 0.1 rg 0 0 9 9 re f", Type=Name.XObject, Subtype=Name.Form, BBox=[0, 0, 99, 99],
        Resources=Dictionary(),
    )  # fmt: skip
    outer = stream(
        paper, b"/In Do", Type=Name.XObject, Subtype=Name.Form, BBox=[0, 0, 99, 99],
        Resources=Dictionary(XObject=Dictionary(In=inner)),
    )  # fmt: skip
    paper.put("/XObject", "/Out", outer)
    _, pdf = run(several(tmp_path, paper, ["/Out Do"] * 3), SECOND_IN_BLACK)

    def innermost(page: int) -> Any:
        out = pdf.pages[page].obj["/Resources"]["/XObject"]["/Out"]
        return out["/Resources"]["/XObject"]["/In"]

    found = [set_colours(innermost(i))[0][1] for i in range(3)]
    assert found[1][:3] == [0, 0, 0]
    assert found[0] == found[2]
    assert found[0][1] > 0.5
    assert innermost(0).objgen == innermost(2).objgen


def test_pages_with_the_same_rules_go_on_sharing(tmp_path, paper, run) -> None:
    image = paper.image(np.full((4, 4, 3), (200, 30, 30), np.uint8), Name.DeviceRGB)
    paper.put("/XObject", "/P", image)
    source = several(tmp_path, paper, ["50 0 0 50 0 0 cm /P Do"] * 5)
    _, pdf = run(source, [{"pages": "even", "action": "leave"}, {"action": "convert"}])
    placed = [p.obj["/Resources"]["/XObject"]["/P"].objgen for p in pdf.pages]
    assert placed[1] == placed[3] != placed[0] == placed[2] == placed[4]


def test_a_rule_for_some_pages_fits_nothing_where_the_page_is_not_known() -> None:
    policy = OutputPolicy.model_validate({"destination": "x", "rules": SECOND_IN_BLACK})
    assert policy.rule_for("vectors", "RGB")[0] == 2
    assert policy.rule_for("vectors", "RGB", page=2)[0] == 1


def test_a_picture_is_a_first_page(tmp_path, resolve) -> None:
    path = tmp_path / "p.png"
    Image.new("RGB", (8, 8), (200, 30, 30)).save(path)
    for pages, number in (("1", 1), ("2", 2)):
        rules = [{"pages": pages, "action": "leave"}, {"action": "convert"}]
        policy = OutputPolicy.model_validate({"destination": "press", "rules": rules})
        assert dry_run_on_picture(policy, path, resolve).objects[0].rule == number


def test_plates_of_a_page_are_made_by_the_rules_of_its_number(tmp_path, paper, resolve) -> None:
    source = several(tmp_path, paper, ["0.9 0.1 0.1 rg 0 0 200 100 re f"] * 2)
    policy = OutputPolicy.model_validate({"destination": "press", "rules": SECOND_IN_BLACK})
    first, second = (page_plates(source, n, policy, resolve, edge=60).coverage for n in (1, 2))
    assert first["Magenta"] > 0.5
    assert second["Magenta"] == 0
    assert second["Black"] > 0


def test_an_image_that_pages_share_is_left_on_one_and_converted_on_the_others(
    tmp_path, paper, run
) -> None:
    image = paper.image(np.full((4, 4, 3), (200, 30, 30), np.uint8), Name.DeviceRGB)
    paper.put("/XObject", "/P", image)
    rules = [{"objects": "images", "pages": "3-", "action": "leave"}, {"action": "convert"}]
    source = several(tmp_path, paper, ["50 0 0 50 0 0 cm /P Do"] * 3)
    report, pdf = run(source, rules)
    spaces = [str(p.obj["/Resources"]["/XObject"]["/P"]["/ColorSpace"]) for p in pdf.pages]
    assert spaces == ["/DeviceCMYK", "/DeviceCMYK", "/DeviceRGB"]
    assert [o.action for o in report.objects] == ["convert", "convert", "leave"]


def test_patterns_shadings_and_glyphs_are_parted_too(tmp_path, paper, run) -> None:
    cell = stream(
        paper, b"0.8 0.1 0.1 rg 0 0 5 5 re f", Type=Name.Pattern, PatternType=1, PaintType=1, TilingType=1,
        BBox=[0, 0, 9, 9], XStep=9, YStep=9, Resources=Dictionary(),
    )  # fmt: skip
    paper.put("/Pattern", "/T", cell)
    shade = paper.pdf.make_indirect(Dictionary(
        ShadingType=2, ColorSpace=Name.DeviceRGB, Coords=[0, 0, 100, 0],
        Function=Dictionary(FunctionType=2, Domain=[0, 1], C0=[1, 0, 0], C1=[0, 0, 1], N=1),
    ))  # fmt: skip
    paper.put("/Shading", "/S", shade)
    glyph = stream(paper, b"500 0 d0 0.8 0.1 0.1 rg 0 0 400 400 re f")
    font = Dictionary(
        Type=Name.Font, Subtype=Name.Type3, FontBBox=[0, 0, 500, 500], FontMatrix=[0.001, 0, 0, 0.001, 0, 0],
        CharProcs=Dictionary(a=glyph), Encoding=Dictionary(Differences=Array([97, Name.a])),
        FirstChar=97, LastChar=97, Widths=[500], Resources=Dictionary(),
    )  # fmt: skip
    paper.put("/Font", "/G", paper.pdf.make_indirect(font))
    content = "/Pattern cs /T scn 0 0 50 50 re f /S sh BT /G 20 Tf (a) Tj ET"
    rules = [{"pages": "2", "action": "leave"}, {"action": "convert"}]
    _, pdf = run(several(tmp_path, paper, [content] * 2), rules)
    first, second = (p.obj["/Resources"] for p in pdf.pages)
    for holder, wanted in ((first, "k"), (second, "rg")):
        assert set_colours(holder["/Pattern"]["/T"])[0][0] == wanted
        assert set_colours(holder["/Font"]["/G"]["/CharProcs"]["/a"])[0][0] == wanted
    assert str(first["/Shading"]["/S"]["/ColorSpace"]) == "/DeviceCMYK"
    assert str(second["/Shading"]["/S"]["/ColorSpace"]) == "/DeviceRGB"


def test_the_look_of_a_note_goes_by_its_page(tmp_path, paper, run) -> None:
    look = stream(
        paper, b"0.8 0.1 0.1 rg 0 0 9 9 re f", Type=Name.XObject, Subtype=Name.Form, BBox=[0, 0, 9, 9],
        Resources=Dictionary(),
    )  # fmt: skip
    source = several(tmp_path, paper, ["0 0 1 1 re f"] * 2)
    with pikepdf.open(source, allow_overwriting_input=True) as pdf:
        shared = pdf.copy_foreign(look)
        for page in pdf.pages:
            note = Dictionary(
                Type=Name.Annot, Subtype=Name.Stamp, Rect=[0, 0, 9, 9], AP=Dictionary(N=shared)
            )
            page.obj["/Annots"] = Array([pdf.make_indirect(note)])
        pdf.save(source)
    rules = [{"pages": "2", "action": "leave"}, {"action": "convert"}]
    _, pdf = run(source, rules)
    found = [set_colours(p.obj["/Annots"][0]["/AP"]["/N"])[0][0] for p in pdf.pages]
    assert found == ["k", "rg"]


def test_layers_stay_the_same_layers(tmp_path, paper, run) -> None:
    layer = paper.pdf.make_indirect(Dictionary(Type=Name.OCG, Name="Extra"))
    paper.put("/Properties", "/L", layer)
    paper.pdf.Root["/OCProperties"] = Dictionary(OCGs=Array([layer]), D=Dictionary())
    _, pdf = run(
        several(tmp_path, paper, ["/OC /L BDC 1 0 0 rg 0 0 9 9 re f EMC"] * 2), SECOND_IN_BLACK
    )
    known = {o.objgen for o in pdf.Root["/OCProperties"]["/OCGs"]}
    assert {p.obj["/Resources"]["/Properties"]["/L"].objgen for p in pdf.pages} == known


def test_without_rules_for_pages_nothing_is_copied(tmp_path, paper, run) -> None:
    image = paper.image(np.full((4, 4, 3), 90, np.uint8), Name.DeviceRGB)
    paper.put("/XObject", "/P", image)
    _, pdf = run(several(tmp_path, paper, ["9 0 0 9 0 0 cm /P Do"] * 2), [{"action": "convert"}])
    first, second = (p.obj["/Resources"]["/XObject"]["/P"].objgen for p in pdf.pages)
    assert first == second


def test_a_page_shown_alone_has_the_rules_of_its_number(tmp_path, paper, resolve) -> None:
    source = several(tmp_path, paper, ["0.9 0.1 0.1 rg 0 0 200 100 re f"] * 3)
    policy = OutputPolicy.model_validate({"destination": "press", "rules": SECOND_IN_BLACK})
    from plinto_core.document.views.render import render_page

    chroma = []
    for number in (1, 2, 3):
        (tmp_path / "p.pdf").write_bytes(page_as_printed(source, number, policy, resolve))
        pixels = render_page(tmp_path / "p.pdf", 1, 100)[0].astype(int)
        chroma.append(int(np.ptp(pixels[25, 50])))
    assert chroma[1] < 25
    assert min(chroma[0], chroma[2]) > 80


def test_a_long_document_worked_from_both_ends_keeps_its_pages_apart(
    tmp_path, paper, resolve
) -> None:
    count = 90
    source = several(tmp_path, paper, ["0.8 0.1 0.1 rg 0 0 9 9 re f"] * count)
    policy = OutputPolicy.model_validate(
        {
            "destination": "press",
            "rules": [{"pages": "even", "action": "black"}, {"action": "convert"}],
        }
    )
    report = run_policy(policy, source, tmp_path / "out.pdf", resolve)
    assert [o.rule for o in sorted(report.objects, key=lambda o: o.page)] == [2, 1] * (count // 2)
    with pikepdf.open(tmp_path / "out.pdf") as pdf:
        black = [set_colours(p)[0][1][:3] == [0, 0, 0] for p in pdf.pages]
    assert black == [False, True] * (count // 2)
    listed = dry_run(policy, source, resolve)
    assert [(o.page, o.rule) for o in listed.objects] == [(o.page, o.rule) for o in report.objects]
