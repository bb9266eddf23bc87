"""Proof prints: what is printed, read back and judged."""

from __future__ import annotations

from pathlib import Path

import numpy as np
import pypdfium2
import pytest
import tifffile
from PIL import Image

from plinto_core.characterise import BuildSettings, build_profile
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.colorimetry.spectra import reflectance_to_XYZ
from plinto_core.errors import BadInput, BadRecipe
from plinto_core.icc import Profile
from plinto_core.inks.rules import parse_ink_rules
from plinto_core.measurement import cmyk_chart
from plinto_core.measurement.characterisation import Characterisation
from plinto_core.proofs import STARTING_SETS, ProofSettings, judge, parse_tolerances
from plinto_core.proofs.judging import PatchAim
from plinto_core.proofs.making import proof_of_inks, proof_of_picture
from plinto_core.proofs.page import judgement_pdf
from plinto_core.proofs.reading import bench_reading, device_of_strip, reading_of_file
from plinto_core.proofs.strip import aims, beyond, strip_patches
from plinto_core.recipes import parse_recipe
from plinto_core.simulator import PROOFER, measure_chart
from plinto_core.simulator.materials import substrate
from plinto_core.simulator.press import PressModel
from plinto_core.swatches.files import write_swatches
from plinto_core.swatches.swatches import swatches
from plinto_core.transform.chain import convert, lab_of_device
from plinto_core.transform.standard_spaces import standard_profile

CONTRACT = STARTING_SETS[0]


@pytest.fixture(scope="module")
def proofer() -> Profile:
    chart = cmyk_chart()
    xyz = reflectance_to_XYZ(measure_chart(PROOFER.model, chart))
    settings = BuildSettings(description="Proofer")
    rules = parse_ink_rules(PROOFER.rules)
    return Profile(build_profile(Characterisation(chart, xyz), rules, settings).data)


@pytest.fixture(scope="module")
def picture(tmp_path_factory) -> Path:
    y, x = np.mgrid[0:120, 0:160]
    data = np.stack([x * 400, y * 540, 65535 - x * 400], axis=-1).astype(np.uint16)
    path = tmp_path_factory.mktemp("proofs") / "in.tif"
    tifffile.imwrite(
        path, data, photometric="rgb", resolution=(50, 50),
        iccprofile=standard_profile("srgb").data,
    )  # fmt: skip
    return path


def finding(press: Profile):
    return lambda reference: press if reference == "press" else standard_profile(reference)


def made(press, proofer, picture, target, recipe=None, **settings):
    parts = {"destination": "press", "intent": "relative", **(recipe or {})}
    return proof_of_picture(
        parse_recipe(parts), picture, target, proofer, finding(press),
        ProofSettings(**settings), ("a line", "proofed on B"),
    )  # fmt: skip


@pytest.fixture(scope="module")
def proof(coated, proofer, picture, tmp_path_factory):
    target = tmp_path_factory.mktemp("made") / "proof.tif"
    return made(coated, proofer, picture, target), target


def test_read_without_noise_it_passes_as_its_report_expects(proof) -> None:
    report, target = proof
    read = bench_reading(device_of_strip(target, report.strip), PROOFER.model)
    found = judge(report.patches, read, CONTRACT, bare=report.bare)
    assert found.passes
    assert found.signs == ()
    values = {c.key: c.value for c in found.criteria}
    assert values["mean"] < 0.3
    assert values["most"] < 1.0
    # The profile foretells what the simulated printer does.
    assert values["mean"] == pytest.approx(report.expected.mean, abs=0.15)
    assert not any(p.missed for p in report.patches)
    assert all(p.within for p in found.patches)


def test_noise_of_the_instrument_is_seen_and_does_not_fail_it(proof) -> None:
    report, target = proof
    device = device_of_strip(target, report.strip)
    plain, noisy = (bench_reading(device, PROOFER.model, noise=n) for n in (0, 0.004))
    assert 0.02 < delta_e_2000(plain, noisy).mean() < 0.5
    assert judge(report.patches, noisy, CONTRACT).passes


def test_another_paper_fails_and_says_so(proof) -> None:
    report, target = proof
    cream = substrate(0.80, warm=0.18)
    model = PressModel(cream, PROOFER.model.inks, PROOFER.model.gain, 0.97, 0.002, 1.6)
    read = bench_reading(device_of_strip(target, report.strip), model)
    found = judge(report.patches, read, CONTRACT, bare=report.bare)
    assert found.passes is False
    assert "another paper" in found.signs[0]
    assert any("darker" in s for s in found.signs)
    assert any("to yellow" in s for s in found.signs)


def test_the_wrong_intent_fails_on_the_paper_and_says_so(proofer, picture, tmp_path) -> None:
    from plinto_core.simulator import CONDITIONS

    chart = cmyk_chart()
    xyz = reflectance_to_XYZ(measure_chart(CONDITIONS[2].model, chart))
    rules = parse_ink_rules(CONDITIONS[2].rules)
    news = Profile(
        build_profile(Characterisation(chart, xyz), rules, BuildSettings(size="small")).data
    )
    right = made(news, proofer, picture, tmp_path / "a.tif")
    wrong = made(news, proofer, picture, tmp_path / "b.tif", intent="relative")
    for report, name, passes in ((right, "a.tif", True), (wrong, "b.tif", False)):
        read = bench_reading(device_of_strip(tmp_path / name, report.strip), PROOFER.model)
        found = judge(report.patches, read, CONTRACT, bare=report.bare)
        assert found.passes is passes
        assert bool(found.signs) is not passes
    assert "bare paper" in found.signs[0]
    assert next(c for c in found.criteria if c.key == "paper").within is False


def test_the_picture_is_what_the_press_prints_seen_absolutely(proof, coated, proofer, picture):
    report, target = proof
    pixels = tifffile.imread(target)
    assert pixels.shape == (report.size.height, report.size.width, 4)
    margin = round(4 / 25.4 * 50)
    inside = pixels[margin : margin + 120, margin : margin + 160] / 65535
    rgb = tifffile.imread(picture)[::17, ::19].reshape(-1, 3) / 65535
    inks = convert(standard_profile("srgb"), coated, rgb, intent="relative", bpc=True)
    wanted = lab_of_device(coated, inks, intent="absolute")
    shown = lab_of_device(proofer, inside[::17, ::19].reshape(-1, 4), intent="absolute")
    errors = delta_e_2000(wanted, shown)
    assert errors.mean() < 0.4
    assert np.percentile(errors, 95) < 1.2
    # The sheet's edge is the proofer's bare paper, the picture has the press's.
    assert (pixels[0] == 0).all()
    with tifffile.TiffFile(target) as file:
        assert file.pages[0].tags[34675].value == proofer.data
        assert file.pages[0].resolution == (50, 50)


def test_what_is_of_the_delivered_file_has_no_part_in_it(coated, proofer, picture, tmp_path, proof):
    delivery = {"mirror": True, "negative": True, "turn": 90, "films": {}, "format": "PDF"}
    report = made(coated, proofer, picture, tmp_path / "p.tif", {"delivery": delivery})
    assert report.size == proof[0].size
    assert np.array_equal(tifffile.imread(tmp_path / "p.tif"), tifffile.imread(proof[1]))


def test_size_text_and_files_follow_the_settings(coated, proofer, picture, tmp_path) -> None:
    wide = {"delivery": {"width_mm": 40}}
    fine = made(coated, proofer, picture, tmp_path / "a.tif", wide, resolution=72, bits=8)
    assert fine.resolution == 72
    assert fine.size_mm[0] == pytest.approx(40 + 8, abs=8)
    assert tifffile.imread(tmp_path / "a.tif").dtype == np.uint8
    assert fine.text == ("a line", "proofed on B")
    own = made(coated, proofer, picture, tmp_path / "b.tif", text="checked by Ada", strip=False)
    assert own.text[-1] == "checked by Ada"
    assert own.patches == ()
    assert own.expected is None
    pdf = made(coated, proofer, picture, tmp_path / "c.pdf", format="PDF")
    assert (tmp_path / "c.pdf").read_bytes().startswith(b"%PDF")
    assert pdf.size == made(coated, proofer, picture, tmp_path / "d.tif").size
    drawn = tifffile.imread(tmp_path / "b.tif")[-28:]
    assert set(np.unique(drawn[..., 3])) == {0, 65535}
    assert not drawn[..., :3].any()


def test_a_picture_without_a_size_and_a_grey_printer_are_refused(
    coated, proofer, picture, tmp_path
) -> None:
    Image.new("RGB", (20, 20)).save(tmp_path / "plain.png")
    with pytest.raises(BadRecipe, match="no resolution"):
        made(coated, proofer, tmp_path / "plain.png", tmp_path / "x.tif")
    with pytest.raises(BadRecipe, match="no colours"):
        made(coated, standard_profile("grey"), picture, tmp_path / "x.tif")
    assert not (tmp_path / "x.tif").exists()


def test_an_rgb_printer_can_proof_too(coated, picture, tmp_path) -> None:
    report = made(coated, standard_profile("romm"), picture, tmp_path / "rgb.tif")
    device = device_of_strip(tmp_path / "rgb.tif", report.strip)
    shown = lab_of_device(standard_profile("romm"), device, intent="absolute")
    assert delta_e_2000(shown, np.array([p.aim for p in report.patches])).max() < 0.5
    with pytest.raises(BadInput, match="3 channels"):
        bench_reading(device, PROOFER.model)

    # What is not printed on is the bare paper of a device that takes RGB.
    assert (tifffile.imread(tmp_path / "rgb.tif")[0] == 65535).all()


def test_every_patch_fills_its_place_and_goes_the_pictures_way(coated, proofer, tmp_path) -> None:
    skin = next(p for p in strip_patches(coated) if p.name == "Skin")
    inks = np.broadcast_to(np.round(np.array(skin.inks) * 255).astype(np.uint8), (20, 120, 4))
    report = proof_of_inks(
        iter([inks.copy()]), (20, 120), 60.0, coated, tmp_path / "p.tif", proofer, ProofSettings()
    )
    pixels = tifffile.imread(tmp_path / "p.tif").astype(int)
    side, half = report.strip.side, report.strip.side // 2
    for patch, (x, y) in zip(report.patches, report.strip.centres, strict=True):
        part = pixels[y - half : y - half + side, x - half : x - half + side].reshape(-1, 4)
        assert np.ptp(part, axis=0).max() == 0
        assert part[0] / 655.35 == pytest.approx(list(patch.device.values()), abs=0.01)
    x, y = report.strip.centres[[p.name for p in report.patches].index("Skin")]
    exact = convert(coated, proofer, inks[0, :1] / 255, intent="absolute", bpc=False)[0] * 65535
    # The table is some 200 steps of 65,535 off here, and the strip is off with it.
    assert np.abs(pixels[y, x] - exact).max() > 100
    assert np.abs(pixels[y, x] - pixels[15, 30]).max() <= 60


def test_a_relative_proof_leaves_paper_and_black_to_the_proofer(coated, proofer, picture, tmp_path):
    report = made(proofer, coated, picture, tmp_path / "r.tif", intent="relative")
    darkest = next(p for p in report.patches if p.name == "Darkest")
    inks = np.array([list(darkest.inks.values())]) / 100
    expected = convert(proofer, coated, inks, intent="relative", bpc=False)[0] * 100
    assert list(darkest.device.values()) == pytest.approx(list(expected), abs=1.5)
    paper = next(p for p in report.patches if p.kind == "paper")
    assert max(paper.device.values()) < 0.1


def test_unequal_pixels_become_square_and_no_more_than_they_were(coated, proofer, tmp_path) -> None:
    data = np.full((60, 50, 3), 128, np.uint8)
    tifffile.imwrite(tmp_path / "in.tif", data, photometric="rgb", resolution=(50, 60))
    report = made(coated, proofer, tmp_path / "in.tif", tmp_path / "p.tif")
    assert report.resolution == 60
    assert report.size.width >= 60


def test_reach_is_judged_as_measured(coated) -> None:
    own = lab_of_device(coated, np.zeros((1, 4)), intent="absolute")
    assert beyond(coated, own)[0] < 0.3
    away = beyond(coated, np.array([[99.0, 0, 0], [50.0, 0, 0]]))
    assert away[0] > 1.5
    assert away[1] == 0


def test_plates_of_a_page_are_proofed_the_same_way(coated, proofer, tmp_path) -> None:
    inks = np.zeros((30, 80, 4), np.uint8)
    inks[:, :40, 0] = 255
    report = proof_of_inks(
        iter([inks[:11], inks[11:]]), (30, 80), 60.0, coated, tmp_path / "p.tif", proofer,
        ProofSettings(),
    )  # fmt: skip
    pixels = tifffile.imread(tmp_path / "p.tif") / 65535
    solid = next(p for p in report.patches if p.name == "C 100")
    found = pixels[24, 20] * 100
    assert found == pytest.approx(list(solid.device.values()), abs=0.4)
    assert report.size.width >= 80


def test_out_of_reach_is_named_before_anything_is_printed(coated, proofer, picture, tmp_path):
    # The press shows the proofer: its paper and its solids are beyond.
    report = made(proofer, coated, picture, tmp_path / "x.tif")
    missed = {p.name for p in report.patches if p.missed}
    assert {"C 100", "M 100"} <= missed
    assert "Grey 60" not in missed
    assert report.expected.max > 4


def test_patches_and_aims_are_the_presses_own(coated) -> None:
    patches = strip_patches(coated)
    names = [p.name for p in patches]
    assert names[:5] == ["Paper", "C 100", "M 100", "Y 100", "K 100"]
    assert {"C+M", "C+Y", "M+Y", "C+M+Y", "K 25", "Grey 60", "Skin", "Darkest"} <= set(names)
    wanted = aims(coated, patches)
    paper = lab_of_device(coated, np.zeros((1, 4)), intent="absolute")
    assert np.allclose(wanted[0], paper[0])
    greys = np.array([p.kind == "grey" for p in patches])
    relative = lab_of_device(coated, np.array([p.inks for p in patches])[greys])
    assert np.abs(relative[:, 1:]).max() < 1.0
    assert relative[:, 0] == pytest.approx([80, 60, 40, 20], abs=1.0)


STRIP = [
    PatchAim(name="Paper", kind="paper", aim=(95.0, 0.0, -2.0)),
    PatchAim(name="C 100", kind="solid", aim=(55.0, -36.0, -50.0)),
    PatchAim(name="K 100", kind="solid", aim=(16.0, 1.0, 0.0)),
    PatchAim(name="Grey 50", kind="grey", aim=(50.0, 0.0, -1.0)),
    PatchAim(name="Grey 30", kind="grey", aim=(30.0, 0.0, -1.0)),
]
AIMS = np.array([p.aim for p in STRIP])
ONLY = {"name": "one"}


def shifted(row: int, by: tuple[float, float, float]) -> np.ndarray:
    read = AIMS.copy()
    read[row] += by
    return read


@pytest.mark.parametrize(
    ("key", "row", "by", "value"),
    [
        ("paper", 0, (2.0, 0, 0), 1.27),
        ("most", 4, (3.0, 0, 0), 2.33),
        ("solids", 2, (3.0, 0, 0), 2.0),
        ("greys", 3, (0, 3.0, 4.0), 2.5),
        ("mean", 3, (5.0, 0, 0), 1.0),
        ("p95", 3, (5.0, 0, 0), 4.0),
    ],
)
def test_each_limit_is_judged_by_its_own_patches(key, row, by, value) -> None:
    read = shifted(row, by)
    found = judge(STRIP, read, parse_tolerances({**ONLY, key: 100}))
    measured = next(c.value for c in found.criteria if c.key == key)
    errors = delta_e_2000(AIMS, read)
    expected = {
        "paper": errors[0], "most": errors.max(), "solids": errors[1:3].max(),
        "greys": np.hypot(*(read - AIMS)[3:, 1:].T).mean(), "mean": errors.mean(),
        "p95": np.percentile(errors, 95),
    }[key]  # fmt: skip
    assert measured == pytest.approx(expected, abs=1e-3)
    assert measured == pytest.approx(value, rel=0.35)
    assert found.passes
    assert not judge(STRIP, read, parse_tolerances({**ONLY, key: measured - 0.01})).passes
    assert judge(STRIP, AIMS, parse_tolerances({**ONLY, key: 0})).passes


def test_hue_is_of_chromatic_solids_and_neither_lightness_nor_chroma() -> None:
    hue = {**ONLY, "solid_hue": 2.5}
    longer = shifted(1, (10.0, -36 * 0.1, -50 * 0.1))
    assert judge(STRIP, longer, parse_tolerances(hue)).passes
    # A quarter turn of a chroma of 61.6 by 5 degrees: 2 C sin(2.5 degrees) = 5.37 (CIE 15).
    angle = np.radians(5)
    turned = AIMS.copy()
    a, b = AIMS[1, 1:]
    turned[1, 1:] = (
        a * np.cos(angle) - b * np.sin(angle),
        a * np.sin(angle) + b * np.cos(angle),
    )
    found = judge(STRIP, turned, parse_tolerances(hue))
    assert not found.passes
    assert found.criteria[-2].key == "solid_hue"
    assert found.criteria[-2].value == pytest.approx(5.37, abs=0.02)
    assert found.patches[1].dh == pytest.approx(5.37, abs=0.02)
    black = judge(STRIP, shifted(2, (-6.0, -6.0, 0)), parse_tolerances(hue))
    assert black.patches[2].dh > 3
    assert black.passes


def test_nothing_asked_is_nothing_judged() -> None:
    found = judge(STRIP, shifted(1, (9, 9, 9)), parse_tolerances(ONLY))
    assert found.passes is None
    assert all(p.within is None for p in found.patches)
    assert {c.within for c in found.criteria} == {None}


def test_a_strip_read_backwards_is_told() -> None:
    found = judge(STRIP, AIMS[::-1], CONTRACT)
    assert not found.passes
    assert "backwards" in found.signs[0]


def test_readings_that_do_not_fit_are_refused() -> None:
    with pytest.raises(BadInput, match="5 patches, and 4"):
        judge(STRIP, AIMS[:4], CONTRACT)
    broken = AIMS.copy()
    broken[2, 1] = np.nan
    with pytest.raises(BadInput, match="no number"):
        judge(STRIP, broken, CONTRACT)
    with pytest.raises(BadRecipe):
        parse_tolerances({"name": "x", "paper": -1})
    with pytest.raises(BadRecipe):
        parse_tolerances({"name": " "})


def test_a_measured_file_is_matched_by_names_else_by_order() -> None:
    names = [p.name for p in STRIP]
    mixed = [3, 0, 4, 2, 1]
    listed = swatches("Lab ", AIMS[mixed], [names[i] for i in mixed])
    for form in ("cgats", "csv", "cxf"):
        data = write_swatches(listed, form)
        assert np.allclose(reading_of_file(data, names), AIMS, atol=0.01), form
    plain = write_swatches(swatches("Lab ", AIMS, [f"{i}" for i in range(5)]), "csv")
    assert np.allclose(reading_of_file(plain, names), AIMS, atol=0.01)
    with pytest.raises(BadInput, match="4 colours"):
        reading_of_file(write_swatches(swatches("Lab ", AIMS[:4], None), "csv"), names)
    device = write_swatches(swatches("CMYK", np.zeros((5, 4)), names), "csv")
    with pytest.raises(BadInput, match="no measured colours"):
        reading_of_file(device, names)


def test_the_page_says_whether_it_passes_and_what_was_missed(proof) -> None:
    report, target = proof
    read = bench_reading(device_of_strip(target, report.strip), PROOFER.model)
    for shift, said in ((0.0, "It passes."), (9.0, "It fails.")):
        found = judge(report.patches, read + np.array([shift, 0, 0]), CONTRACT)
        document = pypdfium2.PdfDocument(judgement_pdf(report, found, "Read by hand"))
        text = "".join(page.get_textpage().get_text_range() for page in document)
        assert said in text
        assert "proofed on B" in text
        assert "C+M+Y" in text
        assert ("missed" in text) is (shift > 0)


@pytest.mark.parametrize(("chroma", "judged"), [(15, False), (25, True)])
def test_the_hue_of_solids_that_have_one_is_judged(chroma, judged) -> None:
    asked = [PatchAim(name="solid", kind="solid", aim=(50, chroma, 0))]
    found = judge(asked, np.array([[50, chroma, 3.0]]), STARTING_SETS[0])
    assert ("solid_hue" in {c.key for c in found.criteria}) is judged
