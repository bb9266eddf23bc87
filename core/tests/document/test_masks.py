"""Soft masks that blend in RGB come to blend in grey, and cover what they covered."""

from __future__ import annotations

import numpy as np
import pikepdf
import pypdfium2
import pytest
from pikepdf import Array, Dictionary, Name

from paperwork import operations
from plinto_core.document import run_policy, template
from plinto_core.document.pdf.functions import read_function
from plinto_core.document.pdfx.masks import grey_masks

END = Dictionary(
    FunctionType=2, N=1, Domain=Array([0, 1]), C0=Array([0, 0, 0]), C1=Array([1, 1, 1])
)
TURN = Dictionary(FunctionType=2, N=2, Domain=Array([0, 1]), C0=Array([0.2, 0.9, 0]), C1=Array([1, 0, 0.4]))  # fmt: skip


def pieces() -> Dictionary:
    return Dictionary(
        FunctionType=3, Domain=Array([0, 1]), Bounds=Array([0.4]), Encode=Array([0, 1, 1, 0]),
        Functions=Array([END, TURN]),
    )  # fmt: skip


def samples(paper) -> pikepdf.Stream:
    data = np.random.default_rng(1).integers(0, 256, (7, 3)).astype(np.uint8)
    return paper.pdf.make_indirect(
        pikepdf.Stream(
            paper.pdf, data.tobytes(), FunctionType=0, Size=Array([7]), BitsPerSample=8,
            Domain=Array([0, 1]), Range=Array([0, 1] * 3),
        )
    )  # fmt: skip


def axial(function, **extra) -> Dictionary:
    return Dictionary(
        ShadingType=2, ColorSpace=Name.DeviceRGB, Coords=Array([0, 0, 200, 0]), Function=function,
        Extend=Array([True, True]), **extra,
    )  # fmt: skip


@pytest.fixture
def masked(paper, tmp_path):
    """A page of full cyan through a mask of this content, as a file."""

    def make(content: str, resources=None, group=None, **mask) -> object:
        group = Dictionary(S=Name.Transparency, CS=Name.DeviceRGB, **(group or {}))
        form = pikepdf.Stream(
            paper.pdf, content.encode(), Type=Name.XObject, Subtype=Name.Form,
            BBox=Array([0, 0, 200, 100]), Group=group, Resources=resources or Dictionary(),
        )  # fmt: skip
        mask = Dictionary(S=Name.Luminosity, G=paper.pdf.make_indirect(form), **mask)
        paper.put("/ExtGState", "/Soft", Dictionary(SMask=mask))
        return paper.save(tmp_path / "masked.pdf", "/Soft gs 1 0 0 0 k 0 0 200 100 re f")

    return make


def seen(path) -> np.ndarray:
    return pypdfium2.PdfDocument(path)[0].render(scale=1).to_numpy().astype(int)


def mask_of(pdf):
    return pdf.pages[0].Resources.ExtGState.Soft.SMask


def turned(path, tmp_path, name="grey.pdf") -> int:
    with pikepdf.open(path) as pdf:
        changed = grey_masks(pdf)
        pdf.save(tmp_path / name)
    return changed


def image(paper, **extra):
    pixels = np.random.default_rng(2).integers(0, 256, (10, 20, 3)).astype(np.uint8)
    return paper.image(pixels, Name.DeviceRGB, **extra)


def within(paper, kind: str, thing) -> Dictionary:
    return Dictionary({kind: Dictionary(It=thing)})


EXACT = {
    "greys": lambda p: ("0.3 0.3 0.3 rg 0 0 90 100 re f 1 1 1 RG 10 w 100 50 m 200 50 l S", None),
    "colours": lambda p: ("1 0 0 rg 0 0 60 100 re f 0 0.5 1 rg 70 0 60 100 re f 0.4 g 140 0 60 100 re f", None),
    "a named space": lambda p: (
        "/It cs 0.9 0.2 0.1 sc 0 0 90 100 re f q /DeviceGray cs 0.5 sc 0 0 20 20 re f Q 0 1 0 scn 100 0 80 80 re f",
        within(p, "/ColorSpace", Name.DeviceRGB),
    ),
    "a picture": lambda p: ("200 0 0 100 0 0 cm /It Do", within(p, "/XObject", image(p))),
    "a reversed picture": lambda p: (
        "200 0 0 100 0 0 cm /It Do", within(p, "/XObject", image(p, Decode=Array([1, 0] * 3))),
    ),
    "a ramp": lambda p: ("/It sh", within(p, "/Shading", axial(END))),
    "a curved ramp": lambda p: ("/It sh", within(p, "/Shading", axial(TURN, Background=Array([1, 0, 0])))),
    "a stitched ramp": lambda p: ("/It sh", within(p, "/Shading", axial(pieces()))),
    "a sampled ramp": lambda p: ("/It sh", within(p, "/Shading", axial(samples(p)))),
    "a form": lambda p: (
        "0.2 0.4 0.6 rg /It Do",
        within(p, "/XObject", p.pdf.make_indirect(pikepdf.Stream(
            p.pdf, b"1 0.5 0 rg 20 20 100 60 re f", Type=Name.XObject, Subtype=Name.Form,
            BBox=Array([0, 0, 200, 100]), Group=Dictionary(S=Name.Transparency, CS=Name.DeviceRGB),
        ))),
    ),
}  # fmt: skip


@pytest.mark.parametrize("what", EXACT)
def test_what_a_mask_covers_stays_the_same_in_grey(paper, masked, tmp_path, what) -> None:
    path = masked(*EXACT[what](paper), BC=Array([0.1, 0.8, 0.3]))
    assert turned(path, tmp_path) == 1
    before, after = seen(path), seen(tmp_path / "grey.pdf")
    assert np.ptp(before) > 20
    assert np.abs(before - after).max() <= 2
    with pikepdf.open(tmp_path / "grey.pdf") as pdf:
        mask = mask_of(pdf)
        assert Name.DeviceGray == mask.G.Group.CS
        assert [float(v) for v in mask.BC] == pytest.approx([0.03 + 0.472 + 0.033])
        assert not {"rg", "RG"} & {name for name, _ in operations(mask.G)}
    assert turned(tmp_path / "grey.pdf", tmp_path, "again.pdf") == 0


def test_colours_become_their_luminosity_to_the_last_figure(masked, tmp_path) -> None:
    assert turned(masked("1 0 0 rg 0 1 0 RG 0 0 9 9 re B"), tmp_path) == 1
    with pikepdf.open(tmp_path / "grey.pdf") as pdf:
        found = operations(mask_of(pdf).G)
    assert [(n, float(v[0])) for n, v in found[:2]] == [("g", 0.3), ("G", 0.59)]


def test_sampled_functions_keep_their_samples(paper, masked, tmp_path) -> None:
    function = samples(paper)
    at = np.linspace(0, 1, 31)[:, None]
    wanted = read_function(function)(at) @ [0.3, 0.59, 0.11]
    turned(masked("/It sh", within(paper, "/Shading", axial(function))), tmp_path)
    with pikepdf.open(tmp_path / "grey.pdf") as pdf:
        found = read_function(mask_of(pdf).G.Resources.Shading.ItInGrey.Function)(at)
    assert found[:, 0] == pytest.approx(wanted, abs=2e-5)


def backward(paper):
    made = samples(paper)
    made.Encode = Array([6, 0])
    return made


def calculator(paper):
    return paper.pdf.make_indirect(
        pikepdf.Stream(paper.pdf, b"{ dup dup }", FunctionType=4, Domain=Array([0, 1]), Range=Array([0, 1] * 3))
    )  # fmt: skip


OTHER = {
    "inks": lambda p: ("1 0 0 0 k 0 0 9 9 re f", None),
    "another named space": lambda p: (
        "/It cs 1 0 0 sc 0 0 9 9 re f",
        within(p, "/ColorSpace", Array([Name.CalRGB, Dictionary(WhitePoint=Array([0.95, 1, 1.09]))])),
    ),
    "what RGB means otherwise": lambda p: (
        "1 0 0 rg 0 0 9 9 re f", Dictionary(ColorSpace=Dictionary(DefaultRGB=Name.DeviceRGB)),
    ),
    "a blend mode": lambda p: ("1 0 0 rg 0 0 9 9 re f", within(p, "/ExtGState", Dictionary(BM=Name.Multiply))),
    "a transfer function": lambda p: ("1 0 0 rg 0 0 9 9 re f", within(p, "/ExtGState", Dictionary(TR=END))),
    "a space from outside": lambda p: ("1 0 0 sc 0 0 9 9 re f", None),
    "samples read backward": lambda p: ("/It sh", within(p, "/Shading", axial(backward(p)))),
    "a pattern": lambda p: ("/Pattern cs /It scn 0 0 9 9 re f", None),
    "a calculated ramp": lambda p: ("/It sh", within(p, "/Shading", axial(calculator(p)))),
    "a mesh": lambda p: (
        "/It sh", within(p, "/Shading", Dictionary(ShadingType=4, ColorSpace=Name.DeviceRGB)),
    ),
    "a picture of inks": lambda p: (
        "/It Do", within(p, "/XObject", p.image(np.zeros((2, 2, 4), np.uint8), Name.DeviceCMYK)),
    ),
    "a colour key": lambda p: ("/It Do", within(p, "/XObject", image(p, Mask=Array([0, 1] * 3)))),
    "drawn glyphs": lambda p: (
        "BT /It 9 Tf (a) Tj ET", within(p, "/Font", Dictionary(Type=Name.Font, Subtype=Name.Type3)),
    ),
    "an inline picture": lambda p: ("BI /W 1 /H 1 /CS /RGB /BPC 8 ID abc EI", None),
    "what is missing": lambda p: ("/It sh", None),
}  # fmt: skip


@pytest.mark.parametrize("what", OTHER)
def test_what_has_no_grey_of_its_own_leaves_the_mask_as_it_is(paper, masked, tmp_path, what) -> None:  # fmt: skip
    path = masked(*OTHER[what](paper))
    assert turned(path, tmp_path) == 0
    with pikepdf.open(path) as old, pikepdf.open(tmp_path / "grey.pdf") as new:
        assert Name.DeviceRGB == mask_of(new).G.Group.CS
        assert mask_of(new).G.read_bytes() == mask_of(old).G.read_bytes()


def test_opacity_masks_and_groups_in_other_spaces_are_left(paper, masked, tmp_path) -> None:
    path = masked("1 0 0 rg 0 0 9 9 re f")
    with pikepdf.open(path, allow_overwriting_input=True) as pdf:
        mask_of(pdf).S = Name.Alpha
        pdf.save(path)
    assert turned(path, tmp_path) == 0


def test_forms_that_draw_each_other_many_times_are_made_once_and_circles_end(
    paper, masked, tmp_path
) -> None:
    def form(content: bytes, inner=None):
        return paper.pdf.make_indirect(pikepdf.Stream(
            paper.pdf, content, Type=Name.XObject, Subtype=Name.Form, BBox=Array([0, 0, 200, 100]),
            Resources=Dictionary(XObject=Dictionary({f"/F{i}": inner for i in range(8)} if inner is not None else {})),
        ))  # fmt: skip

    last = form(b"1 0 0 rg 0 0 90 100 re f")
    for _ in range(8):
        last = form(" ".join(f"/F{i} Do" for i in range(8)).encode(), last)
    path = masked("/It Do", within(paper, "/XObject", last))
    assert turned(path, tmp_path) == 1
    assert (tmp_path / "grey.pdf").stat().st_size < 40_000
    last.Resources.XObject.F3 = last
    assert turned(masked("/It Do", within(paper, "/XObject", last)), tmp_path) == 0


def test_a_form_that_is_drawn_elsewhere_too_keeps_its_colours_there(paper, masked, tmp_path) -> None:  # fmt: skip
    path = masked("1 0 0 rg 0 0 9 9 re f")
    with pikepdf.open(path, allow_overwriting_input=True) as pdf:
        pdf.pages[0].Resources.XObject = Dictionary(Same=mask_of(pdf).G)
        pdf.save(path)
    assert turned(path, tmp_path) == 1
    with pikepdf.open(tmp_path / "grey.pdf") as pdf:
        assert operations(pdf.pages[0].Resources.XObject.Same)[0][0] == "rg"


def test_a_document_made_for_the_standard_is_made_right(masked, tmp_path, resolve, coated) -> None:
    path = masked("0.3 0.3 0.3 rg 0 0 90 100 re f")
    policy = template("strict-press", coated.digest).model_copy(
        update={"pdfx": "PDF/X-4", "pdfx_made": True}
    )
    report = run_policy(policy, path, tmp_path / "out.pdf", resolve)
    assert report.pdfx is not None
    assert report.pdfx.breaches == ()
    assert any("blends in grey" in r for r in report.remarks)
