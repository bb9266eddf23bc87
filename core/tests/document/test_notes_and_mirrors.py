"""Notes on pages, pages in a mirror, and shadings with their colours taken through a function."""

from __future__ import annotations

from dataclasses import asdict, replace

import numpy as np
import pikepdf
import pytest
from handmade import linear_press
from kept import as_kept
from pikepdf import Array, Dictionary, Name

from corpus import CORPUS
from paperwork import Paper
from plinto_core.document import OutputPolicy, dry_run, run_policy
from plinto_core.document.pdf.shadings import (
    _range_of_input,
    converted_shading,
    shading_samples,
    shading_space,
)
from plinto_core.document.preflight import notes
from plinto_core.document.preflight.notes import notes_of, write_notes
from plinto_core.document.reports.report_page import _inks
from plinto_core.document.rules.checks import CHECKS
from plinto_core.errors import CoreError
from plinto_core.transform.standard_spaces import SPACES, standard_profile
from test_kept_documents import everything, told


def resolve(name: str):
    return standard_profile(name) if name in (*SPACES, "grey") else linear_press()


def checked(tmp_path, **more):
    paper = Paper()
    paper.pdf.add_blank_page(page_size=(300, 200))
    source = paper.save(tmp_path / "in.pdf", everything(paper))
    rules = [{"space": "spot", "action": "stop"}, {"action": "convert"}]
    policy = OutputPolicy.model_validate(
        {
            "destination": "press",
            "rules": rules,
            "checks": [{"what": w} for w in CHECKS],
            "pdfx": "PDF/X-4",
            **more,
        }
    )
    return source, dry_run(policy, source, resolve)


def test_notes_lie_where_they_are_about_and_below_each_other_else(tmp_path) -> None:
    source, report = checked(tmp_path)
    as_kept("document-notes", [asdict(n) for n in notes_of(report)], rel=1e-3)
    count = write_notes(source, report, tmp_path / "noted.pdf")
    with pikepdf.open(tmp_path / "noted.pdf") as pdf:
        found = [a for page in pdf.pages for a in page.obj.get("/Annots", [])]
        assert len(found) == count > 4
        kept = [
            [
                str(a.Subtype),
                [float(v) for v in a.Rect],
                [float(v) for v in a.C],
                int(a.F),
                str(a.T),
                str(a.Contents)[:80],
            ]
            for a in found
        ]
    as_kept("document-notes-drawn", kept)


def test_no_more_than_the_most_notes_and_none_on_pages_that_are_not_there(
    tmp_path, monkeypatch
) -> None:
    source, report = checked(tmp_path)
    monkeypatch.setattr(notes, "_MOST_NOTES", 3)
    assert write_notes(source, report, tmp_path / "noted.pdf") == 3
    monkeypatch.setattr(notes, "_MOST_NOTES", 2000)
    far = [u.__class__(**{**u.__dict__, "page": 99}) for u in report.not_handled]
    gone = report.model_copy(
        update={
            "findings": (),
            "objects": (),
            "pdfx": None,
            "pdfx_before": None,
            "not_handled": tuple(far),
        }
    )
    assert write_notes(source, gone, tmp_path / "none.pdf") == 0


@pytest.mark.parametrize("rotate", [0, 90, 180, 270])
def test_pages_in_a_mirror_with_their_boxes_and_annotations(rotate, tmp_path) -> None:
    paper = Paper()
    paper.page.obj["/Rotate"] = rotate
    paper.page.obj["/MediaBox"] = Array([10, 20, 210, 120])
    paper.page.obj["/TrimBox"] = Array([20, 30, 180, 100])
    look = pikepdf.Stream(
        paper.pdf,
        b"1 0 0 rg 0 0 9 9 re f",
        Type=Name.XObject,
        Subtype=Name.Form,
        BBox=[0, 0, 9, 9],
        Matrix=[2, 0, 0, 1, 5, 6],
    )
    shared = paper.pdf.make_indirect(look)
    paper.page.obj["/Annots"] = Array(
        [Dictionary(Type=Name.Annot, Subtype=Name.Stamp, Rect=[30, 40, 60, 50], F=4, AP=Dictionary(N=shared)),
         Dictionary(Type=Name.Annot, Subtype=Name.Stamp, Rect=[90, 40, 120, 50], F=4, AP=Dictionary(N=shared))]
    )  # fmt: skip
    source = paper.save(tmp_path / "in.pdf", "0 0 1 rg 30 40 20 10 re f")
    policy = OutputPolicy.model_validate(
        {"destination": "srgb", "mirror": True, "rules": [{"action": "convert"}]}
    )
    run_policy(policy, source, tmp_path / "out.pdf", resolve)
    with pikepdf.open(tmp_path / "out.pdf") as pdf:
        as_kept(f"documents/mirror-{rotate}", told(pdf), abs=0.01)


def test_inks_that_come_out_are_counted_over_all_objects(tmp_path) -> None:
    _, report = checked(
        tmp_path, rules=[{"space": "spot", "action": "keep spot"}, {"action": "convert"}]
    )
    assert _inks(report.objects, report.inks) == [
        "Cyan",
        "Magenta",
        "Yellow",
        "Black",
        "Ternholm Red",
    ]
    black = [o for o in report.objects if o.outcome == "black only"]
    assert black
    # An ink of the first object is not forgotten over one that has none of it.
    four = next(o for o in report.objects if o.outcome == "DeviceCMYK" and len(o.after) == 4)
    pair = [replace(four, after=after) for after in ((40, 0, 0, 0), (0, 0, 9, 0))]
    assert _inks(pair, report.inks) == ["Cyan", "Yellow"]
    assert _inks(black, report.inks) == ["Black"]
    spot = [o for o in report.objects if o.outcome.startswith("spot")]
    assert _inks(spot, report.inks) == ["Ternholm Red"]
    assert _inks([], report.inks) == []


@pytest.mark.parametrize("kind", [name for name in CORPUS if name.startswith("shading ")])
def test_shadings_are_the_same_with_their_colours_turned(kind, tmp_path) -> None:
    """What a shading runs through, before and after 1 − x in an order of its own."""
    paper = Paper()
    CORPUS[kind](paper)
    found = next(iter(paper.resources.get("/Shading", {}).values()), None)
    if found is None:
        found = next(iter(paper.resources["/Pattern"].values())).Shading
    space = shading_space(found, None)
    before = shading_samples(found, space)
    made = converted_shading(
        paper.pdf, found, space, lambda v: 1 - v[:, [2, 0, 1, 1]], Name.DeviceCMYK, 4
    )
    after = shading_samples(made, shading_space(made, None))
    assert made.ColorSpace == Name.DeviceCMYK
    wanted = 1 - before[:, [2, 0, 1, 1]]
    if "/Function" not in found:
        # Records of a mesh share nothing any more, so that its colours come oftener.
        assert made.ShadingType == (4 if found.ShadingType in (4, 5) else 7)
        away = np.abs(after[:, None] - wanted[None]).max(axis=2)
        assert away.min(axis=0).max() < 0.004
        assert away.min(axis=1).max() < 0.004
        return
    assert after.shape == (len(before), 4)
    assert after == pytest.approx(wanted, abs=0.004)
    for entry in (
        "/ShadingType",
        "/Coords",
        "/Extend",
        "/Matrix",
        "/Domain",
        "/BitsPerCoordinate",
        "/BitsPerFlag",
        "/VerticesPerRow",
    ):
        assert (entry in made) == (entry in found)
        if entry in found:
            assert made[entry] == found[entry]


@pytest.mark.parametrize(
    ("shading", "code"),
    [
        (Dictionary(ShadingType=2), "shading-no-space"),
        (Dictionary(ShadingType=2, ColorSpace=Name.DeviceGray), "shading-no-function"),
        (
            Dictionary(
                ShadingType=2,
                ColorSpace=Name.DeviceGray,
                Domain=[0, 1, 2],
                Function=Dictionary(FunctionType=2, Domain=[0, 1], N=1),
            ),
            "shading-domain",
        ),
    ],
)
def test_shadings_that_lack_what_they_need(shading, code) -> None:
    with pytest.raises(CoreError) as error:
        shading_samples(shading, shading_space(shading, None))
    assert error.value.said.code == f"document.{code}"


@pytest.mark.parametrize(
    ("decode", "found"), [(None, (0, 1)), ([0, 9, 0, 9], (0, 1)), ([0, 9, 0, 9, 2, 5], (2, 5)), ([0, 9, 0, 9, 2, 5, 0, 1], (2, 5))]
)  # fmt: skip
def test_meshes_with_a_function_say_what_it_is_given(decode, found) -> None:
    given = pikepdf.Dictionary(Decode=decode) if decode else pikepdf.Dictionary()
    assert _range_of_input(given, 4) == found


def test_backgrounds_are_converted_and_other_types_are_not() -> None:
    with pikepdf.new() as pdf:
        function = Dictionary(FunctionType=2, Domain=[0, 1], C0=[0, 0, 0], C1=[1, 1, 1], N=1)
        shading = Dictionary(
            ShadingType=2,
            ColorSpace=Name.DeviceRGB,
            Background=[0.25, 0.5, 1],
            Function=function,
            Coords=[0, 0, 1, 1],
        )
        space = shading_space(shading, None)
        made = converted_shading(pdf, shading, space, lambda v: v[:, ::-1] / 2, Name.DeviceRGB, 3)
        assert [float(v) for v in made.Background] == [0.5, 0.25, 0.125]
        ends = np.array([0, 1])
        samples = shading_samples(made, space)[ends * -1]
        assert samples == pytest.approx(np.array([[0, 0, 0], [0.5, 0.5, 0.5]]), abs=1e-4)
        other = Dictionary(ShadingType=9, ColorSpace=Name.DeviceRGB)
        with pytest.raises(CoreError):
            converted_shading(pdf, other, space, lambda v: v, Name.DeviceRGB, 3)
