"""Rules for layers: by what is painted, wherever the colour was set."""

from __future__ import annotations

import numpy as np
import pikepdf
import pytest
from pikepdf import Array, Dictionary, Name, String

from paperwork import operations
from plinto_core.document import OutputPolicy, dry_run, parse_policy
from plinto_core.document.pdf.copies import MOST_VARIANTS
from plinto_core.document.pdf.layers import layers_of, names_of
from plinto_core.errors import BadRecipe

DIE = {"layer": "Die*", "action": "leave"}
RULES = [DIE, {"space": "CMYK", "action": "leave"}, {"action": "convert"}]


def layer(paper, name: str, *, key: str | None = None):
    group = paper.pdf.make_indirect(Dictionary(Type=Name.OCG, Name=String(name)))
    if "/OCProperties" not in paper.pdf.Root:
        paper.pdf.Root["/OCProperties"] = Dictionary(OCGs=Array(), D=Dictionary())
    paper.pdf.Root["/OCProperties"]["/OCGs"].append(group)
    paper.put("/Properties", key or f"/{name.replace(' ', '')}", group)
    return group


def colours(pdf) -> list[tuple[str, str]]:
    return colours_of(pdf.pages[0])


def colours_of(source) -> list[tuple[str, str]]:
    """What each thing is painted in: the operator that set the colour, and what painted."""
    found, now, saved = [], "g", []
    for operator, _ in operations(source):
        if operator in ("g", "rg", "k"):
            now = operator
        elif operator == "q":
            saved.append(now)
        elif operator == "Q":
            now = saved.pop()
        elif operator in ("f", "Tj", "Do"):
            found.append((now, operator))
    return found


def test_what_lies_on_a_layer_meets_its_rule(paper, converted) -> None:
    layer(paper, "Die line")
    layer(paper, "Art")
    content = (
        "1 0 0 rg /OC /Dieline BDC 0 0 9 9 re f EMC /OC /Art BDC 0 0 9 9 re f EMC 0 0 9 9 re f "
        "/OC /Dieline BDC 0 0 1 rg 0 0 9 9 re f EMC 0 0 9 9 re f"
    )
    report, pdf = converted(paper, content, rules=RULES)
    assert [c for c, _ in colours(pdf)] == ["rg", "k", "k", "rg", "k"]
    assert report.layers == ("Die line", "Art")
    assert {(o.rule, o.action, o.count) for o in report.objects} == {
        (1, "leave", 1), (3, "convert", 2), (1, "leave", 1), (3, "convert", 1),
    }  # fmt: skip
    left = [o for o in report.objects if o.rule == 1]
    assert [o.values for o in left] == [(255, 0, 0), (0, 0, 255)]


def test_colours_that_come_back_with_the_state(paper, converted) -> None:
    layer(paper, "Die line")
    content = (
        "1 0 0 rg q /OC /Dieline BDC 0 0 9 9 re f 0 0 9 9 re f EMC Q 0 0 9 9 re f "
        "/OC /Dieline BDC q 0 1 0 rg 0 0 9 9 re f Q 0 0 9 9 re f EMC"
    )
    _, pdf = converted(paper, content, rules=RULES)
    assert [c for c, _ in colours(pdf)] == ["rg", "rg", "k", "rg", "rg"]


def test_layers_inside_layers_and_marks_that_are_none(paper, converted) -> None:
    layer(paper, "Die cut")
    layer(paper, "Art")
    content = (
        "1 0 0 rg /OC /Art BDC /Span BMC /OC /Diecut BDC /Other << /MCID 3 >> BDC 0 0 9 9 re f EMC "
        "EMC 0 0 9 9 re f EMC EMC EMC EMC 0 0 9 9 re f /OC /Missing BDC 0 0 9 9 re f EMC "
        "/Span /Diecut BDC 0 0 9 9 re f EMC"
    )
    _, pdf = converted(paper, content, rules=RULES)
    assert [c for c, _ in colours(pdf)] == ["rg", "k", "k", "k", "k"]


def test_black_that_nobody_set(paper, converted) -> None:
    layer(paper, "Die line")
    rules = [DIE, {"space": "grey", "action": "black"}]
    content = "/OC /Dieline BDC 0 0 9 9 re f EMC 0 0 9 9 re f /OC /Dieline BDC 0 0 9 9 re f EMC"
    _, pdf = converted(paper, content, rules=rules)
    assert [c for c, _ in colours(pdf)] == ["g", "k", "g"]


def test_memberships_name_all_their_layers(paper, converted) -> None:
    die, art = layer(paper, "Die line"), layer(paper, "Art")
    paper.put("/Properties", "/Both", Dictionary(Type=Name.OCMD, OCGs=Array([art, die])))
    paper.put("/Properties", "/One", Dictionary(Type=Name.OCMD, OCGs=art))
    content = "1 0 0 rg /OC /Both BDC 0 0 9 9 re f EMC /OC /One BDC 0 0 9 9 re f EMC"
    _, pdf = converted(paper, content, rules=RULES)
    assert [c for c, _ in colours(pdf)] == ["rg", "k"]


@pytest.mark.parametrize("on", ["Die line", "Art"])
def test_forms_and_images_on_a_layer(paper, converted, on: str) -> None:
    group = layer(paper, on)
    form = pikepdf.Stream(paper.pdf, b"1 0 0 rg 0 0 9 9 re f", Subtype=Name.Form, BBox=[0, 0, 9, 9], OC=group)  # fmt: skip
    paper.put("/XObject", "/Fm", paper.pdf.make_indirect(form))
    image = paper.image(np.full((4, 4, 3), 90, np.uint8), Name.DeviceRGB, OC=group)
    paper.put("/XObject", "/Im", image)
    plain = paper.image(np.full((4, 4, 3), 90, np.uint8), Name.DeviceRGB)
    paper.put("/XObject", "/Plain", plain)
    content = "/Fm Do q 9 0 0 9 0 0 cm /Im Do Q q 9 0 0 9 0 0 cm /Plain Do Q 0 0 1 rg 0 0 9 9 re f"
    report, pdf = converted(paper, content, rules=RULES)
    objects = pdf.pages[0].Resources.XObject
    left = on == "Die line"
    assert (b"rg" in objects.Fm.read_bytes()) is left
    assert (objects.Im.ColorSpace == Name.DeviceRGB) is left
    assert objects.Plain.ColorSpace == Name.DeviceCMYK
    assert colours(pdf)[-1] == ("k", "f")
    assert not report.not_handled
    images = [o for o in report.objects if o.kind == "image"]
    assert [o.outcome for o in images] == ["DeviceRGB" if left else "DeviceCMYK", "DeviceCMYK"]


def in_forms(paper, count: int):
    """A page with a form and an image inside it, placed once on no layer and once on each of many."""
    image = paper.image(np.full((4, 4, 3), 90, np.uint8), Name.DeviceRGB)
    form = pikepdf.Stream(
        paper.pdf, b"1 0 0 rg 0 0 9 9 re f /Im Do", Subtype=Name.Form, BBox=[0, 0, 9, 9],
        Resources=Dictionary(XObject=Dictionary(Im=image)),
    )  # fmt: skip
    paper.put("/XObject", "/Fm", paper.pdf.make_indirect(form))
    for i in range(count):
        layer(paper, f"Die {i:02d}")
    marked = [f"/OC /Die{i:02d} BDC /Fm Do EMC" for i in range(count)]
    return " ".join(["/Fm Do", *marked, "/Fm Do"])


def test_what_lies_on_two_layers_is_copied_for_the_second(
    paper, converted, tmp_path, resolve
) -> None:
    content = in_forms(paper, 1)
    report, pdf = converted(paper, content, rules=RULES)
    assert not report.not_handled
    objects = pdf.pages[0].Resources.XObject
    placed = [str(v[0]) for o, v in operations(pdf.pages[0]) if o == "Do"]
    assert placed[0] == placed[2] == "/Fm" != placed[1]
    for name, left in ((placed[0], False), (placed[1], True)):
        form = objects[name]
        assert colours_of(form)[0] == ("rg" if left else "k", "f")
        (inside,) = [str(v[0]) for o, v in operations(form) if o == "Do"]
        image = form.Resources.XObject[inside]
        assert image.ColorSpace == (Name.DeviceRGB if left else Name.DeviceCMYK)
        assert len(image.read_bytes()) == 16 * (3 if left else 4)
    assert len(objects) == 2
    policy = OutputPolicy.model_validate({"destination": "press", "rules": RULES})
    source = paper.save(tmp_path / "dry.pdf", content)
    for made in (report, dry_run(policy, source, resolve)):
        assert sorted((o.kind, o.rule, o.count) for o in made.objects) == [
            ("image", 1, 1), ("image", 3, 1), ("vector", 1, 1), ("vector", 3, 1),
        ]  # fmt: skip
        assert not made.not_handled
    again, pdf = converted(paper, content, rules=RULES[1:])
    assert not again.not_handled
    assert list(pdf.pages[0].Resources.XObject) == ["/Fm"]


def test_copies_have_an_end(paper, converted) -> None:
    content = in_forms(paper, MOST_VARIANTS + 2)
    rules = [{"layer": f"Die {i:02d}", "action": "leave"} for i in range(MOST_VARIANTS + 2)]
    report, pdf = converted(paper, content, rules=[*rules, {"action": "convert"}])
    assert len(pdf.pages[0].Resources.XObject) == MOST_VARIANTS
    assert {(n.kind, n.reason.code) for n in report.not_handled} == {("form", "document.two-layers")}  # fmt: skip


def test_a_soft_mask_with_a_matte_serves_an_image_and_its_copy(paper, converted) -> None:
    layer(paper, "Die line")
    mask = paper.image(np.full((2, 2), 128, np.uint8), Name.DeviceGray, Matte=Array([1, 1, 1]))
    image = paper.image(np.full((2, 2, 3), 200, np.uint8), Name.DeviceRGB, SMask=mask)
    paper.put("/XObject", "/Im", image)
    content = "/Im Do /OC /Dieline BDC /Im Do EMC"
    rules = [{"layer": "Die*", "action": "convert", "intent": "absolute"}, {"action": "convert"}]
    report, pdf = converted(paper, content, rules=rules)
    assert not report.not_handled
    objects = pdf.pages[0].Resources.XObject
    first, second = (objects[str(v[0])] for o, v in operations(pdf.pages[0]) if o == "Do")
    alone, _ = converted(paper, "/OC /Dieline BDC /Im Do EMC", rules=rules)
    assert first.objgen != second.objgen
    assert "/Matte" not in first.SMask
    assert "/Matte" not in second.SMask
    assert first.read_bytes() != second.read_bytes()
    (item,) = alone.objects
    assert np.frombuffer(second.read_bytes(), np.uint8)[:4] / 2.55 == pytest.approx(item.after, abs=0.3)  # fmt: skip


def test_a_stop_on_a_layer_alone(paper, converted, tmp_path) -> None:
    from plinto_core.errors import PolicyStop

    layer(paper, "Die line")
    rules = [{"layer": "Die line", "action": "stop"}, {"action": "convert"}]
    converted(paper, "1 0 0 rg 0 0 9 9 re f", rules=rules)
    with pytest.raises(PolicyStop):
        converted(paper, "1 0 0 rg /OC /Dieline BDC 0 0 9 9 re f EMC", rules=rules)


def test_an_annotation_on_a_layer(paper, converted) -> None:
    group = layer(paper, "Die line")
    marks = [Dictionary(Type=Name.Annot, Subtype=Name.Square, Rect=[0, 0, 9, 9], C=[1, 0, 0]) for _ in range(2)]  # fmt: skip
    marks[0]["/OC"] = group
    paper.page.obj["/Annots"] = Array([paper.pdf.make_indirect(m) for m in marks])
    _, pdf = converted(paper, "", rules=RULES)
    first, second = pdf.pages[0].Annots
    assert len(first.C) == 3
    assert len(second.C) == 4


def test_damaged_layers(paper, converted) -> None:
    paper.pdf.Root["/OCProperties"] = Dictionary(OCGs=Array([3, Dictionary(Type=Name.OCG)]))
    paper.put("/Properties", "/A", Array([1]))
    paper.put("/Properties", "/B", Dictionary(Type=Name.OCMD, OCGs=5))
    content = "1 0 0 rg /OC /A BDC /OC /B BDC /OC BDC 0 0 9 9 re f EMC EMC EMC /OC 7 BDC EMC"
    report, pdf = converted(paper, content, rules=RULES)
    assert colours(pdf) == [("k", "f")]
    assert report.layers == ("",)


def test_the_rule_itself() -> None:
    policy = OutputPolicy.model_validate({"destination": "x", "rules": RULES})
    assert policy.tells_apart
    assert not policy.tells_text
    assert policy.rule_for("vectors", "RGB")[0] == 3
    assert policy.rule_for("vectors", "RGB", layers=("Art", "Die cut"))[0] == 1
    assert policy.rule_for("vectors", "RGB", layers=("die cut",))[0] == 3
    with pytest.raises(BadRecipe):
        parse_policy({"destination": "x", "rules": [{"action": "leave", "layer": "x" * 201}]})


def test_what_is_no_group_has_no_name() -> None:
    group = Dictionary(Type=Name.OCG, Name=String("Die"))
    nameless = Dictionary(Type=Name.OCG)
    assert names_of(group) == ("Die",)
    assert names_of(Dictionary(Type=Name.OCMD, OCGs=Array([group, 3, nameless, group]))) == (
        "Die",
        "",
    )
    assert names_of(Dictionary(Type=Name.OCMD, OCGs=group)) == ("Die",)
    for odd in (None, 5, Array([group]), Dictionary(Name=String("x")), Dictionary(OCGs=5), Dictionary(OCGs=String("x"))):  # fmt: skip
        assert names_of(odd) == ()


def test_a_colour_is_not_set_again_where_the_rule_is_the_same(paper, converted) -> None:
    layer(paper, "Die line")
    content = "1 0 0 rg 0 0 9 9 re f 0 0 9 9 re f /OC /Dieline BDC 0 0 9 9 re f 0 0 9 9 re f EMC"
    _, pdf = converted(paper, content, rules=RULES)
    assert [op for op, _ in operations(pdf.pages[0]) if op in ("k", "rg")] == ["k", "rg"]


def test_a_pattern_on_a_layer_is_left_where_it_is(paper, converted) -> None:
    layer(paper, "Die line")
    cell = pikepdf.Stream(
        paper.pdf, b"1 0 0 rg 0 0 4 4 re f", PatternType=1, PaintType=1, TilingType=1,
        BBox=[0, 0, 5, 5], XStep=5, YStep=5, Resources=Dictionary(),
    )  # fmt: skip
    paper.put("/Pattern", "/P", paper.pdf.make_indirect(cell))
    content = "/Pattern cs /P scn 0 0 9 9 re f /OC /Dieline BDC 0 0 9 9 re f EMC"
    report, pdf = converted(paper, content, rules=RULES)
    assert [op for op, _ in operations(pdf.pages[0])] == ["cs", "scn", "re", "f", "BDC", "re", "f", "EMC"]  # fmt: skip
    assert not report.not_handled


def test_white_of_a_layer_that_is_left_still_knocks_out(paper, converted) -> None:
    # White RGB under overprint becomes no ink at all, which would leave what lies below; left, it is
    # opaque, and the overprint that the document asked for is back.
    layer(paper, "Die line")
    paper.put("/ExtGState", "/Over", Dictionary(op=True, OP=True, OPM=1))
    content = "/Over gs 1 1 1 rg 0 0 9 9 re f /OC /Dieline BDC 0 0 9 9 re f EMC"
    _, pdf = converted(paper, content, rules=RULES)
    done = [(op, str(v[0]) if op == "gs" else "") for op, v in operations(pdf.pages[0])]
    states = pdf.pages[0].Resources.ExtGState
    mode, seen = 0, []
    for op, name in done:
        if op == "gs":
            mode = int(states[name].get("/OPM", mode))
        if op == "f":
            seen.append(mode)
    # In mode 0 an ink of zero paints white; in mode 1 it leaves what lies below.
    assert seen == [0, 1]


def test_layers_of_a_document_are_bounded_and_may_be_nonsense(paper) -> None:
    assert layers_of(paper.pdf) == ()
    paper.pdf.Root["/OCProperties"] = Dictionary(OCGs=7)
    assert layers_of(paper.pdf) == ()
    groups = [Dictionary(Type=Name.OCG, Name=String(f"{n}")) for n in range(600)]
    paper.pdf.Root["/OCProperties"] = Dictionary(OCGs=Array([*groups[:1], *groups]))
    assert layers_of(paper.pdf) == tuple(str(n) for n in range(499))
