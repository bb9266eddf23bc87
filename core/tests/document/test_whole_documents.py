"""The atlas under every template, hostile files, and the same bytes every time."""

from __future__ import annotations

import io
import zlib

import numpy as np
import pikepdf
import pypdfium2
import pytest

from plinto_core.demo.atlas import star_atlas
from plinto_core.document import dry_run, inventory, parse_policy, run_policy, template
from plinto_core.document.pdf.items import Item
from plinto_core.document.reports.report_page import _row, report_pdf, summary_of
from plinto_core.document.rules.policy import TEMPLATES
from plinto_core.errors import BadDocument, BadRecipe, CoreError, PolicyStop


@pytest.fixture(scope="module")
def atlas(tmp_path_factory):
    path = tmp_path_factory.mktemp("atlas") / "atlas.pdf"
    star_atlas(path)
    return path


def test_the_inventory_finds_every_kind(atlas) -> None:
    found = inventory(atlas)
    assert found.pages == 6
    assert {i.family for i in found.objects} == {"RGB", "CMYK", "grey", "Lab", "spot"}
    assert {i.kind for i in found.objects} == {"image", "vector", "text", "shading", "group"}
    assert found.spots == ("Ternholm Red",)
    fine = max(found.objects, key=lambda i: i.ppi or 0)
    assert fine.ppi == pytest.approx(600)
    assert found.not_handled == ()


@pytest.mark.parametrize("kind", ["office-files", "bare-cmyk", "textile-transfer"])
def test_after_a_policy_nothing_is_left_that_it_does_not_allow(
    atlas, tmp_path, resolve, kind
) -> None:
    policy = template(kind, "press", tac=300)
    report = run_policy(policy, atlas, tmp_path / "out.pdf", resolve)
    assert report.not_handled == ()
    after = inventory(tmp_path / "out.pdf")
    assert {i.family for i in after.objects} <= {"CMYK", "grey"}
    assert all(i.space in ("DeviceCMYK", "DeviceGray") for i in after.objects)
    if policy.tac_action == "enforce":
        assert max(i.tac or 0 for i in after.objects) <= 300.5
    dry = dry_run(policy, atlas, resolve)
    assert dry.flow == report.flow


def test_a_strict_policy_stops_and_leaves_no_file(atlas, tmp_path, resolve) -> None:
    policy = template("strict-press", "press")
    assert dry_run(policy, atlas, resolve).stops == 2
    with pytest.raises(PolicyStop, match="Page 4"):
        run_policy(policy, atlas, tmp_path / "out.pdf", resolve)
    assert not list(tmp_path.iterdir())


def test_the_same_policy_gives_the_same_bytes(atlas, tmp_path, resolve) -> None:
    policy = template("bare-cmyk", "press", tac=300)
    for name in ("a.pdf", "b.pdf"):
        run_policy(policy, atlas, tmp_path / name, resolve)
    assert (tmp_path / "a.pdf").read_bytes() == (tmp_path / "b.pdf").read_bytes()


def test_pages_are_drawn_as_before_where_numbers_are_left(atlas, tmp_path, resolve) -> None:
    policy = parse_policy({"destination": "srgb", "rules": [{"action": "leave"}]})
    run_policy(policy, atlas, tmp_path / "out.pdf", resolve)
    for number in range(6):
        a, b = (drawn(p, number) for p in (atlas, tmp_path / "out.pdf"))
        assert np.array_equal(a, b)


def test_rgb_pages_look_the_same_in_another_rgb(atlas, tmp_path, resolve) -> None:
    """sRGB numbers to sRGB: what is drawn must not change by more than rounding."""
    policy = parse_policy(
        {"destination": "srgb", "rules": [{"space": "RGB", "action": "convert", "bpc": False}]}
    )
    run_policy(policy, atlas, tmp_path / "out.pdf", resolve)
    for number in (2, 4, 5):
        a, b = (drawn(p, number).astype(int) for p in (atlas, tmp_path / "out.pdf"))
        assert np.abs(a - b).max() <= 3


def drawn(path, number: int) -> np.ndarray:
    with pypdfium2.PdfDocument(path) as document:
        return document[number].render(scale=0.6).to_numpy().copy()


def damaged(kind: str) -> bytes:
    with pikepdf.new() as pdf:
        pdf.add_blank_page(page_size=(100, 100))
        page = pdf.pages[0]
        page.obj["/Resources"] = pikepdf.Dictionary()
        page.Contents = pikepdf.Stream(pdf, b"1 0 0 rg 0 0 9 9 re f")
        buffer = io.BytesIO()
        if kind == "locked":
            pdf.save(buffer, encryption=pikepdf.Encryption(owner="a", user="b"))
            return buffer.getvalue()
        if kind == "loop":
            form = pdf.make_indirect(
                pikepdf.Stream(
                    pdf,
                    b"/Fm Do",
                    Type=pikepdf.Name.XObject,
                    Subtype=pikepdf.Name.Form,
                    BBox=[0, 0, 9, 9],
                )
            )
            form["/Resources"] = pikepdf.Dictionary(XObject=pikepdf.Dictionary(Fm=form))
            page.obj["/Resources"] = pikepdf.Dictionary(XObject=pikepdf.Dictionary(Fm=form))
            page.Contents = pikepdf.Stream(pdf, b"/Fm Do")
        if kind == "bomb":
            page.Contents = pikepdf.Stream(
                pdf, zlib.compress(b" " * 600_000_000, 9), Filter=pikepdf.Name.FlateDecode
            )
        if kind == "deep":
            space = pikepdf.Name.DeviceRGB
            for _ in range(40):
                space = pikepdf.Array([pikepdf.Name.Indexed, space, 1, pikepdf.String(b"\0" * 6)])
            page.obj["/Resources"] = pikepdf.Dictionary(ColorSpace=pikepdf.Dictionary(X=space))
            page.Contents = pikepdf.Stream(pdf, b"/X cs 0 sc 0 0 9 9 re f")
        if kind == "words":
            page.Contents = pikepdf.Stream(pdf, b"/A /B /C rg 1 2 k 0 0 9 9 re f Q Q Q (open")
        if kind == "huge image":
            image = pdf.make_indirect(
                pikepdf.Stream(
                    pdf,
                    b"x",
                    Type=pikepdf.Name.XObject,
                    Subtype=pikepdf.Name.Image,
                    Width=200_000,
                    Height=200_000,
                    BitsPerComponent=8,
                    ColorSpace=pikepdf.Name.DeviceRGB,
                )
            )
            page.obj["/Resources"] = pikepdf.Dictionary(XObject=pikepdf.Dictionary(Im=image))
            page.Contents = pikepdf.Stream(pdf, b"/Im Do")
        pdf.save(buffer, stream_decode_level=pikepdf.StreamDecodeLevel.none, compress_streams=False)
        return buffer.getvalue()


@pytest.mark.parametrize("kind", ["loop", "bomb", "deep", "words", "huge image"])
def test_hostile_documents_are_bounded_and_their_trouble_is_listed(tmp_path, resolve, kind) -> None:
    (tmp_path / "in.pdf").write_bytes(damaged(kind))
    report = run_policy(
        template("office-files", "press"), tmp_path / "in.pdf", tmp_path / "out.pdf", resolve
    )
    assert report.not_handled or kind == "loop"


@pytest.mark.parametrize(
    "data", [b"", b"%PDF-1.7", b"no pdf at all", damaged("locked"), damaged("plain")[:200]]
)
def test_unreadable_documents_are_refused(tmp_path, resolve, data) -> None:
    (tmp_path / "in.pdf").write_bytes(data)
    with pytest.raises(BadDocument):
        run_policy(
            template("bare-cmyk", "press"), tmp_path / "in.pdf", tmp_path / "out.pdf", resolve
        )
    assert not (tmp_path / "out.pdf").exists()


@pytest.mark.parametrize(
    "bad",
    [
        {},
        {"destination": "x", "rules": [{"action": "dance"}]},
        {"destination": "x", "tac": -1},
        [],
        {"destination": "x", "surprise": 1},
    ],
)
def test_impossible_policies_are_refused(bad) -> None:
    with pytest.raises(BadRecipe):
        parse_policy(bad)


def test_templates_are_policies_that_survive_a_file() -> None:
    for kind in TEMPLATES:
        made = template(kind, "press", tac=280)
        assert parse_policy(made.model_dump(mode="json")) == made


def test_a_policy_without_a_source_for_cmyk_says_so(atlas, tmp_path, resolve) -> None:
    policy = parse_policy({"destination": "srgb", "rules": [{"action": "convert"}]})
    with pytest.raises(CoreError, match="source"):
        run_policy(policy, atlas, tmp_path / "out.pdf", resolve)


def test_the_report_as_pages_says_what_the_data_say(atlas, tmp_path, resolve) -> None:
    report = dry_run(template("office-files", "press"), atlas, resolve)
    data = report_pdf(report)
    assert data == report_pdf(report)
    with pypdfium2.PdfDocument(data) as document:
        text = "".join(document[i].get_textpage().get_text_range() for i in range(len(document)))
    for words in ("Preflight: atlas.pdf", "Ternholm Red", "Helvetica", "600 to 225", "black only"):
        assert words in text


def test_the_summary_names_spaces_profiles_inks_and_images(atlas, resolve) -> None:
    facts = dict(summary_of(dry_run(template("office-files", "press", tac=300), atlas, resolve)))
    assert facts["Colour spaces"].startswith(
        "CMYK (DeviceCMYK), Lab (Lab), RGB (DeviceRGB, ICCBased)"
    )
    assert facts["Profiles"] == "opRGB, sRGB"
    assert facts["Inks that come out"] == "Cyan, Magenta, Yellow, Black"
    assert facts["Images"] == "5, 90 to 600 ppi"
    kept = parse_policy(
        {"destination": "press", "rules": [{"space": "spot", "action": "keep spot"}]}
    )
    assert "Ternholm Red" in dict(summary_of(dry_run(kept, atlas, resolve)))["Inks that come out"]


def test_a_report_survives_markup_in_names(atlas, resolve) -> None:
    report = dry_run(template("office-files", "press"), atlas, resolve)
    assert report_pdf(report.model_copy(update={"document": "<b>&\x00 Žena.pdf"})).startswith(
        b"%PDF"
    )


def test_a_row_of_the_report_counts_what_stands_there_several_times() -> None:
    def row(count: int) -> list[object]:
        return _row(
            Item(1, "vector", "RGB", "DeviceRGB", "", "standard", 2, "convert", count=count)
        )

    assert row(1)[1] == "vector"
    assert row(3)[1] == "vector x 3"
