"""Kinds of images with resolution and packing of their own; transfer functions; the space groups blend in."""

from __future__ import annotations

import numpy as np
import pikepdf
import pytest
from pikepdf import Array, Dictionary, Name

from plinto_core.document import OutputPolicy, dry_run
from plinto_core.document.runs.compare import compare_policies

PLACE = "q {w} 0 0 {h} 0 0 cm /Im Do Q"
RULES = [{"space": "CMYK", "action": "leave"}, {"action": "convert"}]
FINE = {"high": 450, "above": "downsample", "to": 300}


def placed(paper, image, ppi: float) -> str:
    paper.put("/XObject", "/Im", image)
    return PLACE.format(w=int(image.Width) * 72 / ppi, h=int(image.Height) * 72 / ppi)


def ring(size: int) -> np.ndarray:
    """A ring of ones, (size, size)."""
    y, x = np.mgrid[0:size, 0:size] - size / 2 + 0.5
    away = np.hypot(x, y) / size
    return ((away > 0.2) & (away < 0.4)).astype(np.uint8)


def line_art(paper, bits: np.ndarray, space=Name.DeviceGray, **extra):
    packed = np.packbits(bits, axis=1)
    return paper.image(packed, space, 1, width=bits.shape[1], **extra)


def unpacked(image) -> np.ndarray:
    rows = np.unpackbits(np.frombuffer(image.read_bytes(), np.uint8)).reshape(int(image.Height), -1)
    return rows[:, : int(image.Width)]


def test_each_kind_is_reduced_as_the_policy_says(paper, converted) -> None:
    photograph = np.zeros((600, 600, 3), np.uint8)
    grey = np.zeros((600, 600), np.uint8)
    images = {
        "grey": {"resolution": {"high": 700, "above": "downsample", "to": 300}},
        "line art": {"resolution": {"high": 500, "above": "downsample", "to": 400}},
    }
    for image, size in (
        (paper.image(photograph, Name.DeviceRGB), 300),
        (paper.image(grey, Name.DeviceGray), 600),
        (line_art(paper, ring(600)), 400),
    ):
        report, pdf = converted(
            paper, placed(paper, image, 600), rules=RULES, resolution=FINE, images=images
        )
        made = pdf.pages[0].Resources.XObject.Im
        assert (int(made.Width), int(made.Height)) == (size, size)
        assert report.objects[0].new_ppi == (None if size == 600 else size)


def test_line_art_is_reduced_only_where_the_policy_says_so_of_line_art(paper, converted) -> None:
    bits = ring(600)
    _, pdf = converted(
        paper, placed(paper, line_art(paper, bits), 1200), rules=RULES, resolution=FINE
    )
    assert np.array_equal(unpacked(pdf.pages[0].Resources.XObject.Im), bits)


@pytest.mark.parametrize("palette", [None, b"\xff\0\0\0\0\xff"])
@pytest.mark.parametrize("decode", [None, [1, 0]])
@pytest.mark.parametrize("action", ["convert", "leave", "black"])
def test_line_art_stays_line_art(paper, converted, palette, decode, action) -> None:
    bits = ring(603)
    space = Name.DeviceGray
    if palette:
        space = Array([Name.Indexed, Name.DeviceRGB, 1, pikepdf.String(palette)])
    extra = {"Decode": decode} if decode else {}
    images = {"line art": {"resolution": {"high": 600, "above": "downsample", "to": 400}, "compression": {"kind": "jpeg"}}}  # fmt: skip
    content = placed(paper, line_art(paper, bits, space, **extra), 1200)
    report, pdf = converted(paper, content, rules=[{"action": action}], images=images)
    made = pdf.pages[0].Resources.XObject.Im
    assert int(made.BitsPerComponent) == 1
    assert made.Filter == Name.FlateDecode
    assert int(made.Width) == 201
    assert report.objects[0].new_ppi == pytest.approx(400)
    assert not report.not_handled
    # Every pixel is what covers more of it: a third of the size, by the middle of each three.
    assert (unpacked(made) != bits[1::3, 1::3]).mean() < 0.01
    colours = made.ColorSpace
    assert (colours == space) is (action == "leave" or (action == "black" and not palette))


def test_packing_by_kind(paper, converted) -> None:
    rng = np.random.default_rng(1)
    for pixels, space, images, expected in (
        (rng.integers(0, 255, (40, 40), np.uint8), Name.DeviceGray, {}, Name.DCTDecode),
        (rng.integers(0, 255, (40, 40), np.uint8), Name.DeviceGray, {"grey": {}}, Name.FlateDecode),
        (rng.integers(0, 255, (40, 40, 3), np.uint8), Name.DeviceRGB, {"grey": {}}, Name.DCTDecode),
    ):
        _, pdf = converted(
            paper, placed(paper, paper.image(pixels, space), 200), rules=RULES,
            compression={"kind": "jpeg"}, images=images,
        )  # fmt: skip
        assert pdf.pages[0].Resources.XObject.Im.Filter == expected


def test_line_art_s_size_is_forecast(paper, tmp_path, resolve) -> None:
    rng = np.random.default_rng(0)
    noise = rng.integers(0, 2, (1600, 1600)).astype(np.uint8)
    source = paper.save(tmp_path / "in.pdf", placed(paper, line_art(paper, noise), 1200))
    images = {"line art": {"resolution": {"high": 600, "above": "downsample", "to": 400}}}
    policy = {"destination": "press", "rules": RULES, "output_intent": False}
    plain = dry_run(OutputPolicy.model_validate(policy), source, resolve)
    thin = dry_run(OutputPolicy.model_validate({**policy, "images": images}), source, resolve)
    assert plain.size_forecast > 300_000
    # A ninth of the pixels of noise takes a ninth of the room.
    assert thin.size_forecast == pytest.approx(plain.size_forecast / 9, rel=0.05)


def curve(paper):
    function = Dictionary(FunctionType=2, Domain=[0, 1], N=2, C0=[0], C1=[1])
    return paper.pdf.make_indirect(function)


def test_transfer_functions_are_kept_and_said_or_taken_out_and_said(paper, converted) -> None:
    paper.put("/ExtGState", "/T", Dictionary(TR=curve(paper)))
    paper.put("/ExtGState", "/U", Dictionary(TR2=Array([curve(paper)] * 4), LW=2))
    paper.put("/ExtGState", "/Plain", Dictionary(TR=Name.Identity, TR2=Name.Default))
    mask = Dictionary(S=Name.Luminosity, TR=curve(paper), G=pikepdf.Stream(paper.pdf, b""))
    paper.put("/ExtGState", "/Mask", Dictionary(SMask=mask))
    content = "/T gs /U gs /Plain gs /Mask gs 1 0 0 rg 0 0 9 9 re f"
    report, pdf = converted(paper, content, rules=RULES)
    assert {n.reason.code for n in report.not_handled} == {"document.transfer-left"}
    assert "/TR" in pdf.pages[0].Resources.ExtGState.T
    report, pdf = converted(paper, content, rules=RULES, transfer="remove")
    states = pdf.pages[0].Resources.ExtGState
    assert not report.not_handled
    (said,) = [r for r in report.remarks if r.code == "document.transfer-removed"]
    assert said.values == {"count": 2}
    assert not [k for s in (states.T, states.U, states.Plain) for k in s if k.startswith("/TR")]
    assert states.U.LW == 2
    assert "/TR" in states.Mask.SMask


def blending(paper, *, group=None, form_group=None) -> str:
    if group is not None:
        paper.page.obj["/Group"] = group
    form = pikepdf.Stream(paper.pdf, b"1 0 0 rg 0 0 9 9 re f", Subtype=Name.Form, BBox=[0, 0, 9, 9])
    if form_group is not None:
        form["/Group"] = form_group
    paper.put("/XObject", "/Fm", paper.pdf.make_indirect(form))
    paper.put("/ExtGState", "/Half", Dictionary(ca=0.5))
    return "/Half gs /Fm Do"


def transparency(space=None) -> Dictionary:
    made = Dictionary(Type=Name.Group, S=Name.Transparency)
    if space is not None:
        made["/CS"] = space
    return made


@pytest.mark.parametrize(
    ("choice", "rules", "given", "expected"),
    [
        ("rules", RULES, Name.DeviceRGB, Name.DeviceCMYK),
        ("rules", [{"action": "leave"}], Name.DeviceRGB, Name.DeviceRGB),
        ("keep", RULES, Name.DeviceRGB, Name.DeviceRGB),
        ("destination", [{"action": "leave"}], Name.DeviceRGB, Name.DeviceCMYK),
        ("destination", RULES, None, Name.DeviceCMYK),
        ("rules", RULES, None, None),
        ("keep", RULES, None, None),
    ],
)
def test_what_groups_blend_in(paper, converted, choice, rules, given, expected) -> None:
    content = blending(paper, group=transparency(given), form_group=transparency(given))
    report, pdf = converted(paper, content, rules=rules, group_space=choice)
    assert pdf.pages[0].Group.get("/CS") == expected
    assert pdf.pages[0].Resources.XObject.Fm.Group.get("/CS") == expected
    changed = [o for o in report.objects if o.kind == "group" and o.action == "convert"]
    assert bool(changed) is (given != expected)


@pytest.mark.parametrize(("choice", "made"), [("destination", True), ("rules", False), ("keep", False)])  # fmt: skip
def test_a_page_that_names_no_group(paper, converted, choice, made) -> None:
    content = blending(paper)
    _, pdf = converted(paper, content, rules=RULES, group_space=choice)
    assert ("/Group" in pdf.pages[0]) is made
    if made:
        assert Name.DeviceCMYK == pdf.pages[0].Group.CS
        assert Name.Transparency == pdf.pages[0].Group.S
    _, plain = converted(paper, "1 0 0 rg 0 0 9 9 re f", rules=RULES, group_space=choice)
    assert "/Group" not in plain.pages[0]


def test_what_sets_such_policies_apart_is_named() -> None:
    one = OutputPolicy.model_validate({"destination": "x"})
    other = OutputPolicy.model_validate(
        {
            "destination": "x", "transfer": "remove", "group_space": "destination",
            "images": {"line art": {"compression": {"quality": 50}}},
            "rules": [{"action": "leave", "layer": "Die*"}],
        }
    )  # fmt: skip
    found = {d.where: (d.before, d.after) for d in compare_policies(one, other)}
    assert found["transfer"] == ("keep", "remove")
    assert found["group space"] == ("rules", "destination")
    assert found["line art compression quality"] == ("", "50")
    assert "on layer “Die*”" in found["rule 1"][1]
