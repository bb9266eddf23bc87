"""Transfer functions applied to colours: what reaches the plates is what they would have made of it."""

from __future__ import annotations

import numpy as np
import pikepdf
import pytest
from pikepdf import Array, Dictionary, Name

from paperwork import operations
from plinto_core.document import OutputPolicy, dry_run
from plinto_core.document.pdf.transfer import Transfers
from plinto_core.errors import BadDocument
from plinto_core.transform.standard_spaces import standard_profile

RULES = [{"space": "grey", "action": "black"}, {"space": "CMYK", "action": "leave"}, {"action": "convert"}]  # fmt: skip
AREA = "0 0 9 9 re f "


def power(paper, n: float):
    """x to the n-th."""
    function = Dictionary(FunctionType=2, Domain=[0, 1], N=n, C0=[0], C1=[1])
    return paper.pdf.make_indirect(function)


def state(paper, name: str, given, key: str = "/TR") -> None:
    paper.put("/ExtGState", name, Dictionary({key: given}))


def colours(source) -> list[tuple[float, ...]]:
    """The colour of each area that is painted, as operands."""
    found, now, saved = [], (), []
    for operator, operands in operations(source):
        if operator in ("g", "rg", "k", "scn"):
            now = tuple(float(v) for v in operands if not isinstance(v, Name))
        elif operator == "q":
            saved.append(now)
        elif operator == "Q":
            now = saved.pop()
        elif operator in ("f", "Tj"):
            found.append(now)
    return found


def through(values, *exponents: float) -> np.ndarray:
    """Inks through functions of the lack of them."""
    return np.asarray(1 - (1 - np.asarray(values)) ** np.array(exponents))


def applied(converted, paper, content: str, **changes):
    return converted(paper, content, **{"rules": RULES, "transfer": "apply", **changes})


def test_colours_go_through_the_functions_that_are_in_force_where_they_are_painted(
    paper, converted
) -> None:
    state(paper, "/T", power(paper, 2.0))
    state(paper, "/Four", Array([power(paper, n) for n in (1, 2, 3, 0.5)]))
    state(paper, "/Off", Name.Identity)
    paper.put("/ExtGState", "/Wide", Dictionary(LW=3))
    content = (
        f"0.8 0.3 0.1 rg {AREA} q /T gs {AREA} 0.2 0.4 0.6 rg {AREA} /Wide gs {AREA} /Four gs {AREA} Q {AREA}"
        f" 0.2 0.3 0.4 0.5 k /T gs {AREA} /Off gs {AREA} 0.25 g /Four gs {AREA}"
    )
    _, plain = converted(paper, content, rules=RULES, transfer="remove")
    report, pdf = applied(converted, paper, content)
    bare, made = colours(plain.pages[0]), colours(pdf.pages[0])
    four = (1, 2, 3, 0.5)
    exponents = [1, 2, 2, 2, four, 1, 2, 1, four]
    assert len(made) == len(exponents)
    for before, after, exponent in zip(bare, made, exponents, strict=True):
        inks = before if len(before) == 4 else (0, 0, 0, 1 - before[0])
        wanted = through(inks, *np.broadcast_to(exponent, 4))
        assert after == pytest.approx(tuple(wanted), abs=2e-4)
    assert not report.not_handled
    assert {r.code: r.values for r in report.remarks}["document.transfer-applied"] == {"count": 2}
    left = pdf.pages[0].Resources.ExtGState
    assert not [k for s in left.values() for k in s if k.startswith("/TR")]
    assert left.Wide.LW == 3


def test_each_object_says_that_it_went_through_one(paper, converted, tmp_path, resolve) -> None:
    state(paper, "/T", power(paper, 2.0))
    content = f"0.5 0 0 0 k {AREA} /T gs {AREA}"
    policy = OutputPolicy.model_validate({"destination": "press", "rules": RULES, "transfer": "apply"})  # fmt: skip
    source = paper.save(tmp_path / "said.pdf", content)
    for report in (applied(converted, paper, content)[0], dry_run(policy, source, resolve)):
        first, second = report.objects
        assert (first.after, second.after) == ((50, 0, 0, 0), (75, 0, 0, 0))
        assert (first.tac_after, second.tac_after) == (50, 75)
        assert [n.code for n in second.notes] == ["document.transferred"]
        assert not first.notes
        assert "document.transfer-applied" in {r.code for r in report.remarks}


def test_black_that_nobody_set_and_text_by_a_rule_of_its_own(paper, converted) -> None:
    state(paper, "/T", power(paper, 2.0))
    rules = [{"objects": "text", "space": "RGB", "action": "black"}, *RULES]
    content = f"{AREA} q /T gs {AREA} Q {AREA} /T gs 0.6 0.6 0.6 rg {AREA} BT (a) Tj ET {AREA}"
    _, plain = converted(paper, content, rules=rules, transfer="remove")
    _, pdf = applied(converted, paper, content, rules=rules)
    bare, made = colours(plain.pages[0]), colours(pdf.pages[0])
    assert made[:3] == [(0, 0, 0, 1)] * 3
    assert made[4][:3] == (0, 0, 0)
    for before, after in zip(bare[3:], made[3:], strict=True):
        assert after == pytest.approx(tuple(through(before, 2)), abs=2e-4)


def test_inverting_functions(paper, converted) -> None:
    turned = paper.pdf.make_indirect(Dictionary(FunctionType=2, Domain=[0, 1], N=1, C0=[1], C1=[0]))
    state(paper, "/T", turned)
    image = paper.image(np.array([[0, 255, 51]], np.uint8), Name.DeviceGray)
    paper.put("/XObject", "/Im", image)
    _, pdf = applied(converted, paper, f"/T gs {AREA} 1 0 0.2 0 k {AREA} q 9 0 0 9 0 0 cm /Im Do Q")
    assert colours(pdf.pages[0]) == [(1, 1, 1, 0), (0, 1, 0.8, 1)]
    made = pdf.pages[0].Resources.XObject.Im
    assert made.ColorSpace == Name.DeviceCMYK
    # None of an ink becomes all of it, so black alone is black alone no more.
    assert list(made.read_bytes()) == [255, 255, 255, 0, 255, 255, 255, 255, 255, 255, 255, 51]


def test_the_tac_is_held_behind_them(paper, converted) -> None:
    state(paper, "/More", power(paper, 3.0))
    state(paper, "/Less", power(paper, 0.5))
    held = {"tac": 260, "tac_action": "enforce"}
    content = f"0.6 0.6 0.6 0.3 k /More gs {AREA} 0.9 0.9 0.9 0.6 k /Less gs {AREA}"
    report, pdf = applied(converted, paper, content, **held)
    more, less = colours(pdf.pages[0])
    assert through((0.6, 0.6, 0.6, 0.3), 3).sum() > 3.2
    assert sum(more) <= 2.6 + 1e-6
    assert more[3] > 0.657 - 1e-6
    assert less == pytest.approx(tuple(through((0.9, 0.9, 0.9, 0.6), 0.5)), abs=2e-4)
    assert [o.tac_after for o in report.objects] == pytest.approx([259.8, 241.9], abs=0.3)


@pytest.mark.parametrize("dtype", [np.uint8, np.dtype(">u2")])
def test_pixels(paper, converted, dtype) -> None:
    top = np.iinfo(dtype).max
    rng = np.random.default_rng(5)
    rgb, cmyk, grey = (rng.integers(0, top + 1, (6, 7, n)).astype(dtype) for n in (3, 4, 1))
    bits = 8 * np.dtype(dtype).itemsize
    for name, pixels, space in (
        ("/A", rgb, Name.DeviceRGB), ("/B", cmyk, Name.DeviceCMYK), ("/C", grey, Name.DeviceGray),
    ):  # fmt: skip
        paper.put("/XObject", name, paper.image(pixels, space, bits))
    state(paper, "/T", power(paper, 2.0))
    content = "/T gs q 9 0 0 9 0 0 cm /A Do /B Do /C Do Q"
    _, plain = converted(paper, content, rules=RULES, transfer="remove")
    report, pdf = applied(converted, paper, content)
    for name, channels in (("/A", 4), ("/B", 4), ("/C", 1)):
        before, after = (
            np.frombuffer(p.pages[0].Resources.XObject[name].read_bytes(), dtype) / top
            for p in (plain, pdf)
        )
        assert len(after) == 42 * channels
        wanted = 1 - (1 - before) ** 2 if channels == 4 else before**2
        assert np.abs(after - wanted).max() <= 0.6 / top if channels == 4 else 1.1 / top
    assert not report.not_handled
    assert all("document.transferred" in [n.code for n in o.notes] for o in report.objects)


def test_pixels_over_the_tac_behind_them(paper, converted) -> None:
    pixels = np.array([[[150, 150, 150, 80], [10, 20, 30, 40]]], np.uint8)
    paper.put("/XObject", "/Im", paper.image(pixels, Name.DeviceCMYK))
    state(paper, "/T", power(paper, 3.0))
    content = "/T gs q 9 0 0 9 0 0 cm /Im Do Q"
    _, pdf = applied(converted, paper, content, tac=260, tac_action="enforce")
    made = np.frombuffer(pdf.pages[0].Resources.XObject.Im.read_bytes(), np.uint8).reshape(2, 4)
    assert made[0].sum() / 255 <= 2.6 + 0.01
    assert np.abs(made[1] / 255 - through(pixels[0, 1] / 255, 3)).max() <= 0.5 / 255


def test_palettes_few_tones_and_shadings(paper, converted) -> None:
    state(paper, "/T", power(paper, 2.0))
    space = Array([Name.Indexed, Name.DeviceCMYK, 1, pikepdf.String(bytes([51, 0, 0, 0, 0, 102, 0, 0]))])  # fmt: skip
    paper.put("/XObject", "/Im", paper.image(np.array([[0, 1]], np.uint8), space))
    bits = paper.image(np.array([[0b10100000]], np.uint8), Name.DeviceGray, 1, width=4, Decode=[0.4, 1])  # fmt: skip
    paper.put("/XObject", "/Few", bits)
    ramp = Dictionary(FunctionType=2, Domain=[0, 1], N=1, C0=[0.2, 0, 0, 0], C1=[0.6, 0, 0, 0])
    shading = Dictionary(ShadingType=2, ColorSpace=Name.DeviceCMYK, Coords=[0, 0, 9, 9], Function=ramp)  # fmt: skip
    paper.put("/Shading", "/Sh", shading)
    report, pdf = applied(converted, paper, "/T gs q 9 0 0 9 0 0 cm /Im Do /Few Do /Sh sh Q")
    resources = pdf.pages[0].Resources
    table = bytes(resources.XObject.Im.ColorSpace[3])
    assert list(table) == [92, 0, 0, 0, 0, 163, 0, 0]
    assert list(bytes(resources.XObject.Few.ColorSpace[3])) == [0, 0, 0, 214, 0, 0, 0, 0]
    (item,) = [o for o in report.objects if o.kind == "shading"]
    # The mean of 1 - (1 - c)² for c from 0.2 to 0.6, where that of c is 0.4.
    assert item.values == (40, 0, 0, 0)
    assert item.after[0] == pytest.approx(62.7, abs=0.6)
    assert item.tac_after == 84


def test_what_stays_in_other_values_is_said(paper, converted) -> None:
    state(paper, "/T", power(paper, 2.0))
    tint = Dictionary(FunctionType=2, Domain=[0, 1], N=1, C0=[0, 0, 0, 0], C1=[0, 1, 1, 0])
    spot = Array([Name.Separation, Name("/Invented Red"), Name.DeviceCMYK, tint])
    paper.put("/ColorSpace", "/Spot", spot)
    paper.put(
        "/ColorSpace", "/Plate", Array([Name.Separation, Name.Magenta, Name.DeviceCMYK, tint])
    )
    rules = [{"space": "spot", "action": "keep spot"}, {"action": "leave"}]
    cases = {
        "0.5 0.2 0.1 rg": (1, "rg"), "/Spot cs 0.5 scn": (1, "scn"), "/Plate cs 0.5 scn": (0, "k"),
        "0 0.5 0 0 k": (0, "k"), "0.5 g": (0, "k"),
    }  # fmt: skip
    for content, (count, operator) in cases.items():
        report, pdf = applied(converted, paper, f"/T gs {content} {AREA}", rules=rules)
        assert [n.reason.code for n in report.not_handled] == [
            "document.transfer-not-applied"
        ] * count
        last = [o for o, _ in operations(pdf.pages[0]) if o in ("rg", "g", "k", "scn")][-1]
        assert last == operator, content
        if not count:
            assert sum(colours(pdf.pages[0])[0]) == pytest.approx(0.75)


def test_patterns_are_painted_as_where_the_stream_begins(paper, converted) -> None:
    state(paper, "/T", power(paper, 2.0))
    cell = pikepdf.Stream(
        paper.pdf, f"0.5 0 0 0 k {AREA}".encode(), PatternType=1, PaintType=1, TilingType=1,
        BBox=[0, 0, 9, 9], XStep=9, YStep=9, Resources=Dictionary(),
    )  # fmt: skip
    paper.put("/Pattern", "/P", paper.pdf.make_indirect(cell))
    content = f"/T gs 0.5 0 0 0 k {AREA} /Pattern cs /P scn {AREA} 0.5 0 0 0 k {AREA}"
    _, pdf = applied(converted, paper, content)
    assert b"0.5 0 0 0 k" in pdf.pages[0].Resources.Pattern.P.read_bytes()
    assert colours(pdf.pages[0])[0] == colours(pdf.pages[0])[2] == (0.75, 0, 0, 0)


def test_a_form_in_two_places(paper, converted) -> None:
    state(paper, "/T", power(paper, 2.0))
    inner = pikepdf.Stream(paper.pdf, f"0.5 0 0 0 k {AREA}".encode(), Subtype=Name.Form, BBox=[0, 0, 9, 9])  # fmt: skip
    image = paper.image(np.full((2, 2, 4), 51, np.uint8), Name.DeviceCMYK)
    outer = pikepdf.Stream(
        paper.pdf, b"/In Do q 9 0 0 9 0 0 cm /Im Do Q", Subtype=Name.Form, BBox=[0, 0, 9, 9],
        Resources=Dictionary(XObject=Dictionary(In=paper.pdf.make_indirect(inner), Im=image)),
    )  # fmt: skip
    paper.put("/XObject", "/Fm", paper.pdf.make_indirect(outer))
    report, pdf = applied(converted, paper, "/Fm Do q /T gs /Fm Do Q /Fm Do")
    assert not report.not_handled
    objects = pdf.pages[0].Resources.XObject
    placed = [str(v[0]) for o, v in operations(pdf.pages[0]) if o == "Do"]
    assert placed[0] == placed[2] == "/Fm" != placed[1]
    for name, cyan, pixel in (("/Fm", 0.5, 51), (placed[1], 0.75, 92)):
        form = objects[name]
        inside, pictures = [str(v[0]) for o, v in operations(form) if o == "Do"]
        assert colours(form.Resources.XObject[inside]) == [(cyan, 0, 0, 0)]
        assert set(form.Resources.XObject[pictures].read_bytes()) == {pixel}


@pytest.mark.parametrize(
    ("given", "code"),
    [
        (lambda p: Array([power(p, 2.0)] * 3), "document.transfer-four"),
        (lambda p: Name.Sometimes, "document.transfer-no-function"),
        (lambda p: 7, "document.transfer-no-function"),
        (lambda p: Dictionary(FunctionType=2, Domain=[0, 1], N=1, C0=[0, 0], C1=[1, 1]), "document.transfer-no-function"),
        (lambda p: Dictionary(FunctionType=9, Domain=[0, 1]), "document.function-type"),
    ],
)  # fmt: skip
def test_what_is_no_function(paper, converted, given, code) -> None:
    state(paper, "/T", given(paper))
    report, pdf = applied(converted, paper, f"/T gs 0.5 0 0 0 k {AREA}")
    assert [n.reason.code for n in report.not_handled] == [code]
    assert colours(pdf.pages[0]) == [(0.5, 0, 0, 0)]


def test_which_of_two_keys_holds_and_what_is_plain(paper) -> None:
    known = Transfers()
    two = known.after(Dictionary(TR=power(paper, 3.0), TR2=power(paper, 2.0)), None)
    assert two is not None
    assert two.applied(np.array([[0.5, 0.2]]), "inks", ("Cyan", "Orange")) == pytest.approx(
        np.array([[0.75, 0.36]])
    )
    assert known.after(Dictionary(LW=2), two) is two
    assert known.after(Dictionary(TR=power(paper, 3.0), TR2=Name.Default), two) is None
    assert known.after(Dictionary(TR=Array([Name.Identity] * 4)), two) is None
    assert known.after(Dictionary(TR=power(paper, 2.0)), None) == two
    with pytest.raises(BadDocument):
        known.after(Dictionary(TR=Array([])), None)


def test_components_of_each_family(paper) -> None:
    four = Transfers().after(Dictionary(TR=Array([power(paper, n) for n in (1, 2, 3, 4)])), None)
    assert four is not None
    half = np.full((1, 4), 0.5)
    assert four.applied(half[:, :3], "RGB", ()) == pytest.approx(np.array([[0.5, 0.25, 0.125]]))
    assert four.applied(half[:, :1], "grey", ()) == pytest.approx(np.array([[0.0625]]))
    inks = ("Cyan", "Magenta", "Yellow", "Black", "Orange")
    made = four.applied(np.full((1, 5), 0.5), "inks", inks)
    assert made == pytest.approx(np.array([[0.5, 0.75, 0.875, 0.9375, 0.5]]))
    turned = four.applied(half, "inks", ("Black", "Yellow", "Magenta", "Green"))
    assert turned == pytest.approx(np.array([[0.9375, 0.875, 0.75, 0.5]]))


def test_a_result_in_rgb(paper, converted, tmp_path) -> None:
    from plinto_core.document import run_policy

    state(paper, "/T", power(paper, 2.0))
    policy = OutputPolicy.model_validate({"destination": "srgb", "rules": [{"action": "leave"}], "transfer": "apply"})  # fmt: skip
    source = paper.save(tmp_path / "rgb.pdf", f"/T gs 0.5 0.2 1 rg {AREA}")
    run_policy(policy, source, tmp_path / "made.pdf", standard_profile)
    with pikepdf.open(tmp_path / "made.pdf") as pdf:
        assert colours(pdf.pages[0]) == [pytest.approx((0.25, 0.04, 1), abs=1e-4)]


def test_transparency_is_spoken_of(paper, converted) -> None:
    state(paper, "/T", power(paper, 2.0))
    paper.put("/ExtGState", "/Half", Dictionary(ca=0.5))
    report, _ = applied(converted, paper, f"/T gs /Half gs 0.5 0 0 0 k {AREA}")
    assert "document.transfer-mixed" in {r.code for r in report.remarks}
    report, _ = applied(converted, paper, f"/T gs 0.5 0 0 0 k {AREA}")
    assert "document.transfer-mixed" not in {r.code for r in report.remarks}


def test_patterns_that_take_the_present_colour_or_have_a_state_of_their_own(
    paper, converted
) -> None:
    state(paper, "/T", power(paper, 2.0))
    cell = pikepdf.Stream(
        paper.pdf, AREA.encode(), PatternType=1, PaintType=2, TilingType=1, BBox=[0, 0, 9, 9],
        XStep=9, YStep=9, Resources=Dictionary(),
    )  # fmt: skip
    paper.put("/Pattern", "/U", paper.pdf.make_indirect(cell))
    ramp = Dictionary(FunctionType=2, Domain=[0, 1], N=1, C0=[0.5, 0, 0, 0], C1=[0.5, 0, 0, 0])
    for name, own in (("/S", {}), ("/Own", {"ExtGState": Dictionary(TR=power(paper, 2.0))})):
        shading = Dictionary(ShadingType=2, ColorSpace=Name.DeviceCMYK, Coords=[0, 0, 9, 9], Function=ramp)  # fmt: skip
        paper.put("/Pattern", name, Dictionary(PatternType=2, Shading=shading, **own))
    paper.put("/ColorSpace", "/CS", Array([Name.Pattern, Name.DeviceCMYK]))
    content = f"/T gs /CS cs 0.5 0 0 0 /U scn {AREA} /Pattern cs /S scn {AREA} /Own scn {AREA}"
    report, pdf = applied(converted, paper, content)
    assert not report.not_handled
    items = {o.kind: [] for o in report.objects}
    for o in report.objects:
        items[o.kind].append(o.after[0])
    assert items == {"vector": [50], "shading": [50, 75]}
    assert "/TR" not in pdf.pages[0].Resources.Pattern.Own.ExtGState
    assert {r.values["count"] for r in report.remarks if r.code == "document.transfer-applied"} == {2}  # fmt: skip
    report, pdf = converted(paper, content, rules=RULES)
    assert {n.reason.code for n in report.not_handled} == {"document.transfer-left"}
    assert "/TR" in pdf.pages[0].Resources.Pattern.Own.ExtGState


def test_a_colour_that_was_set_before_is_reported_as_it_prints(paper, converted) -> None:
    state(paper, "/T", power(paper, 2.0))
    content = f"0.8 0.3 0.1 rg {AREA} /T gs {AREA}"
    report, _ = applied(converted, paper, content)
    first, second = report.objects
    assert second.after == pytest.approx(tuple(100 * through(np.array(first.after) / 100, 2)), abs=0.15)  # fmt: skip


def test_faint_functions_count(paper) -> None:
    faint = Transfers().after(Dictionary(TR=power(paper, 1.02)), None)
    assert faint is not None
    assert faint.applied(np.array([[0.5]]), "RGB", ())[0, 0] == pytest.approx(0.5**1.02)


def test_a_state_that_pages_share_is_counted_once(paper, converted, tmp_path, resolve) -> None:
    shared = paper.pdf.make_indirect(Dictionary(Type=Name.ExtGState, TR=power(paper, 2.0)))
    for name in ("/T", "/Same"):
        paper.put("/ExtGState", name, shared)
    content = f"/T gs {AREA} /Same gs {AREA}"
    policy = OutputPolicy.model_validate({"destination": "press", "rules": RULES, "transfer": "apply"})  # fmt: skip
    dry = dry_run(policy, paper.save(tmp_path / "two.pdf", content), resolve)
    for report in (dry, applied(converted, paper, content)[0]):
        assert {r.code: r.values for r in report.remarks}["document.transfer-applied"] == {"count": 1}  # fmt: skip


def test_what_a_group_blends_in_goes_through_nothing(paper, converted) -> None:
    state(paper, "/T", power(paper, 2.0))
    form = pikepdf.Stream(
        paper.pdf, f"0.5 0 0 0 k {AREA}".encode(), Subtype=Name.Form, BBox=[0, 0, 9, 9],
        Group=Dictionary(S=Name.Transparency, CS=Name.DeviceGray),
    )  # fmt: skip
    paper.put("/XObject", "/Fm", paper.pdf.make_indirect(form))
    _, pdf = applied(converted, paper, "/T gs /Fm Do", rules=[{"action": "leave"}])
    form = pdf.pages[0].Resources.XObject.Fm
    assert Name.DeviceGray == form.Group.CS
    assert colours(form) == [(0.75, 0, 0, 0)]


def test_a_copy_that_is_placed_twice_is_named_once(paper, converted) -> None:
    state(paper, "/T", power(paper, 2.0))
    form = pikepdf.Stream(paper.pdf, f"0.5 0 0 0 k {AREA}".encode(), Subtype=Name.Form, BBox=[0, 0, 9, 9])  # fmt: skip
    paper.put("/XObject", "/Fm", paper.pdf.make_indirect(form))
    _, pdf = applied(converted, paper, "/Fm Do q /T gs /Fm Do /Fm Do Q")
    assert len(pdf.pages[0].Resources.XObject) == 2


def test_a_shading_used_in_two_ways_goes_by_the_first_and_it_is_said(paper, converted) -> None:
    state(paper, "/T", power(paper, 2.0))
    ramp = Dictionary(FunctionType=2, Domain=[0, 1], N=1, C0=[0, 0, 1], C1=[1, 0, 0])
    shading = Dictionary(ShadingType=2, ColorSpace=Name.DeviceRGB, Coords=[0, 0, 9, 9], Function=ramp)  # fmt: skip
    paper.put("/Shading", "/Sh", shading)
    report, _ = applied(converted, paper, "/Sh sh /Sh sh")
    assert not report.not_handled
    report, _ = applied(converted, paper, "/Sh sh /T gs /Sh sh")
    assert [(n.kind, n.reason.code) for n in report.not_handled] == [("shading", "document.two-layers")]  # fmt: skip
