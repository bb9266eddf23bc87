"""Proofs of a press made by hand on another: sheets, reports, judgements and their page."""

from __future__ import annotations

import numpy as np
import pytest
import tifffile
from handmade import linear_press
from kept import as_kept, drawn

from plinto_core.errors import BadInput
from plinto_core.imaging import tiff as tiffs
from plinto_core.proofs.judging import PatchAim, judge
from plinto_core.proofs.making import ProofSettings, proof_of_picture
from plinto_core.proofs.page import judgement_pdf
from plinto_core.proofs.reading import device_of_strip
from plinto_core.proofs.sheet import StripPlace, _text, as_pixels, lay_out, sheet_bands
from plinto_core.proofs.strip import strip_patches
from plinto_core.proofs.tolerances import STARTING_SETS, ProofTolerances
from plinto_core.recipes import parse_recipe
from plinto_core.transform.standard_spaces import standard_profile


@pytest.mark.parametrize(
    ("picture", "ppi", "patches", "lines"),
    [
        ((300, 400), 100, 24, 2),
        ((40, 30), 72, 9, 1),
        ((500, 90), 254, 50, 3),
        ((100, 100), 50, 0, 0),
    ],
)
def test_where_things_lie_on_a_sheet(picture, ppi, patches, lines) -> None:
    sheet = lay_out(picture, ppi, patches, lines)
    as_kept(
        f"proofs/sheet-{picture[0]}-{picture[1]}-{ppi}",
        [sheet.size, sheet.picture, sheet.picture_size, sheet.strip.side, sheet.text_top, sheet.line, sheet.strip.centres],
        abs=0,
    )  # fmt: skip


@pytest.mark.parametrize("rows", [16, 37, 700])
@pytest.mark.parametrize("bits", [8, 16])
def test_patches_are_read_in_their_middle_whatever_bands_the_file_has(
    tmp_path, rows, bits, monkeypatch
) -> None:
    """Patches of 20 pixels, read 10 wide, some of them across two bands."""
    centres = ((30, 25), (60, 128), (30, 250), (61, 333), (40, 690))
    pixels = np.zeros((700, 90, 3), np.uint8)
    values = np.arange(10, 25, dtype=np.uint8).reshape(5, 3) * 9
    for (x, y), value in zip(centres, values, strict=True):
        pixels[y - 10 : y + 10, x - 10 : x + 10] = 7
        pixels[y - 5 : y + 5, x - 5 : x + 5] = value
    stored = pixels if bits == 8 else pixels.astype(np.uint16) * 257
    tifffile.imwrite(
        tmp_path / "a.tif", stored, photometric="rgb", rowsperstrip=rows, compression="zlib"
    )
    monkeypatch.setattr(tiffs, "_BAND_BYTES", 2)
    found = device_of_strip(tmp_path / "a.tif", StripPlace(centres=centres, side=20))
    assert found == pytest.approx(values / 255)
    for outside in ((4, 30), (30, 697), (86, 30)):
        with pytest.raises(BadInput):
            device_of_strip(tmp_path / "a.tif", StripPlace(centres=(outside,), side=20))


def test_a_whole_sheet_has_its_picture_patches_and_text() -> None:
    sheet = lay_out((40, 60), 50, 8, 2)
    bands = iter([np.full((25, 60, 3), 90, np.uint8), np.full((15, 60, 3), 120, np.uint8)])
    colours = np.arange(24, dtype=np.uint8).reshape(8, 3) + 10
    blank, ink = np.array([255, 254, 253], np.uint8), np.array([1, 2, 3], np.uint8)
    whole = np.concatenate(
        list(sheet_bands(sheet, bands, colours, blank, ink, ("First line", "2")))
    )
    assert whole.shape == (*sheet.size, 3)
    top, left = sheet.picture
    assert (whole[top : top + 25, left : left + 60] == 90).all()
    assert (whole[top + 25 : top + 40, left : left + 60] == 120).all()
    half, side = sheet.strip.side // 2, sheet.strip.side
    for (x, y), colour in zip(sheet.strip.centres, colours, strict=True):
        assert (whole[y - half : y - half + side, x - half : x - half + side] == colour).all()
    text = (whole == ink).all(axis=2)
    assert text[: sheet.text_top].sum() == 0
    first, second = (
        text[sheet.text_top + n * sheet.line : sheet.text_top + (n + 1) * sheet.line]
        for n in range(2)
    )
    assert first.sum() > second.sum() > 0
    assert text[:, :left].sum() == text[:, -left:].sum() == 0
    margin = np.ones(whole.shape[:2], bool)
    margin[top:-top, left:-left] = False
    assert (whole[margin] == blank).all()


def test_text_is_made_smaller_until_it_fits() -> None:
    room = _text("a line of text", 40, 10_000)
    small = _text("a line of text", 40, 90)
    assert small.shape[1] <= 90 < room.shape[1]
    assert small.shape[0] < room.shape[0]
    assert _text("a line of text" * 9, 40, 30).shape[1] <= 30
    assert _text("", 12, 50).sum() == 0
    assert as_pixels(np.array([-0.1, 0.5, 2.0])).tolist() == [0, 32768, 65535]
    assert as_pixels(np.array([0.5]), np.uint8).tolist() == [128]


@pytest.fixture(scope="module")
def press():
    return linear_press("Press")


def test_strips(press) -> None:
    for name, profile in (
        ("press", press),
        ("rgb", standard_profile("srgb")),
        ("grey", standard_profile("grey")),
    ):
        kept = [[p.name, p.kind, np.round(p.inks, 4).tolist()] for p in strip_patches(profile)]
        as_kept(f"proofs/strip-{name}", kept, abs=0.005)


@pytest.mark.parametrize("intent", ["absolute", "relative"])
@pytest.mark.parametrize("proofer", ["opRGB", "press"])
def test_a_proof(intent, proofer, press, tmp_path) -> None:
    y, x = np.mgrid[0:48, 0:64]
    data = np.stack([x * 1000, y * 1300, 65535 - x * 1000], axis=-1).astype(np.uint16)
    tifffile.imwrite(tmp_path / "in.tif", data, photometric="rgb", resolution=(60, 60), iccprofile=standard_profile("srgb").data)  # fmt: skip
    to = linear_press("Proofer") if proofer == "press" else standard_profile("oprgb")
    report = proof_of_picture(
        parse_recipe({"destination": "press", "intent": "relative", "delivery": {"mirror": True}}),
        tmp_path / "in.tif", tmp_path / "out.tif", to,
        lambda reference: press if reference == "press" else standard_profile(reference),
        ProofSettings(intent=intent, resolution=50, bits=8, text="own line"), ("a line",),
    )  # fmt: skip
    pixels = np.round(tifffile.imread(tmp_path / "out.tif") / 255, 4)
    height, width = pixels.shape[:2]
    seen = [
        pixels[height * a // 10, width * b // 10].tolist() for a in (1, 3, 5, 8) for b in (1, 4, 7)
    ]
    kept = {
        "report": report.model_dump(mode="json", exclude={"seconds"}),
        "shape": list(pixels.shape),
        "pixels": seen,
    }
    as_kept(f"proofs/proof-{proofer}-{intent}", kept, rel=3e-3, abs=0.012)


AIMS = [
    PatchAim(name=n, kind=k, aim=lab)
    for n, k, lab in (
        ("Paper", "paper", (94, 0, -3)), ("C", "solid", (55, -36, -50)), ("M", "solid", (48, 74, -4)),
        ("K", "solid", (16, 0, 1)), ("C 50", "tone", (75, -18, -25)), ("Grey 50", "grey", (50, 0, 0)),
        ("Grey 70", "grey", (70, 0, -1)), ("Skin", "mix", (68, 18, 20)),
    )
]  # fmt: skip


@pytest.mark.parametrize(
    ("name", "moved", "bare"),
    [
        ("same", (0, 0, 0), None), ("lighter", (2.2, 0, 0), None), ("darker", (-3.5, 0.2, 0.4), (90, 2, 8)),
        ("reddish", (0.3, 2.4, 0.4), None), ("bluish", (0, 0.3, -2.6), (94, 0.3, -5.6)), ("greener", (1, -1.8, 1.6), None),
    ],
)  # fmt: skip
def test_judgements(name, moved, bare) -> None:
    read = np.array([p.aim for p in AIMS], float) + np.array(moved)
    read[5] += [0.4, 0.7, -0.5]
    for tolerances in STARTING_SETS:
        found = judge(AIMS, read, tolerances, bare=bare)
        as_kept(
            f"proofs/judged-{name}-{tolerances.name.split()[0].lower()}",
            found.model_dump(mode="json"),
            abs=0.002,
        )
    asked = ProofTolerances(name="None")
    assert judge(AIMS, read, asked).passes is None


def test_the_page_of_a_judged_proof(press, tmp_path) -> None:
    tifffile.imwrite(
        tmp_path / "in.tif",
        np.full((8, 8, 3), 90, np.uint8),
        photometric="rgb",
        resolution=(60, 60),
    )
    proof = proof_of_picture(
        parse_recipe({"destination": "press", "intent": "relative"}), tmp_path / "in.tif", tmp_path / "out.tif",
        linear_press("Proofer"), lambda reference: press if reference == "press" else standard_profile(reference),
        ProofSettings(resolution=50), ("a line",),
    )  # fmt: skip
    read = np.array([p.aim for p in AIMS], float) + np.array([1, 2, 3])
    found = judge(AIMS, read, STARTING_SETS[1])
    as_kept("proofs/page", drawn(judgement_pdf(proof, found, "read by hand")))
    none = judge(AIMS, read, ProofTolerances(name="None", mean=9))
    as_kept("proofs/page-passed", drawn(judgement_pdf(proof, none, "read by hand")))
