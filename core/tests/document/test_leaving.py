"""What a rule leaves is left, to the number; only what exceeds an enforced TAC comes within it."""

from __future__ import annotations

import numpy as np
import pikepdf
import pytest
import tifffile

from paperwork import operations
from plinto_core.colorimetry import delta_e_2000
from plinto_core.document import parse_policy, run_policy_on_picture
from plinto_core.document.rules.painting import HELD, SAME
from plinto_core.errors import BadRecipe
from plinto_core.transform import lab_of_device
from plinto_core.transform.standard_spaces import standard_profile

LEAVE = {"rules": [{"action": "leave"}], "tac": 280, "tac_action": "enforce"}
UNDER = np.random.default_rng(1).integers(0, 170, (20, 30, 4)).astype(np.uint8)
MIXED = np.random.default_rng(2).integers(0, 256, (20, 30, 4)).astype(np.uint8)
OVER = MIXED.sum(axis=2, dtype=int) > 714


@pytest.fixture
def foreign(paper, coated_v4):
    stream = pikepdf.Stream(paper.pdf, coated_v4.data, N=4)
    return pikepdf.Array([pikepdf.Name.ICCBased, paper.pdf.make_indirect(stream)])


def pixels(image) -> np.ndarray:
    return np.frombuffer(image.read_bytes(), np.uint8).reshape(20, 30, 4)


def placed(paper, converted, image):
    paper.put("/XObject", "/Im", image)
    report, pdf = converted(paper, "q 100 0 0 50 0 0 cm /Im Do Q", **LEAVE)
    assert report.not_handled == ()
    return report.objects[0], pdf.pages[0].Resources.XObject.Im


@pytest.mark.parametrize("bare", [True, False])
def test_an_image_below_the_tac_is_left_to_the_byte(paper, converted, foreign, bare) -> None:
    space = pikepdf.Name.DeviceCMYK if bare else foreign
    original = paper.image(UNDER, space)
    item, image = placed(paper, converted, original)
    assert np.array_equal(pixels(image), UNDER)
    assert image.read_raw_bytes() == original.read_raw_bytes()
    assert (image.ColorSpace == pikepdf.Name.DeviceCMYK) == bare
    assert HELD not in item.notes
    assert item.tac == item.tac_after


def test_pixels_over_the_tac_come_within_it_in_their_own_space(
    paper, converted, foreign, coated_v4
) -> None:
    item, image = placed(paper, converted, paper.image(MIXED, foreign))
    found = pixels(image)
    assert str(image.ColorSpace[0]) == "/ICCBased"
    assert np.array_equal(found[~OVER], MIXED[~OVER])
    assert found.sum(axis=2, dtype=int).max() <= 714
    assert item.outcome == "ICCBased"
    assert HELD in item.notes
    assert item.tac_after <= 280 < item.tac
    before, after = (lab_of_device(coated_v4, p[OVER] / 255) for p in (MIXED, found))
    assert np.median(delta_e_2000(before, after)) < 3


@pytest.mark.parametrize("size", [24, 200])
def test_inline_images_are_left_where_they_stand(paper, converted, size) -> None:
    width = size // 4
    inside = bytes([60] * size)
    content = (
        f"q 9 0 0 9 0 0 cm BI /W {width} /H 1 /BPC 8 /CS /CMYK ID ".encode() + inside + b" EI Q"
    )
    _, pdf = converted(paper, content.decode("latin-1"), **LEAVE)
    assert inside in pdf.pages[0].Contents.read_bytes()
    assert "/XObject" not in pdf.pages[0].Resources


def test_an_inline_image_over_the_tac_becomes_one_within_it(paper, converted) -> None:
    inks = bytes([250, 250, 250, 250] * 3)
    content = b"q 9 0 0 9 0 0 cm BI /W 3 /H 1 /BPC 8 /CS /CMYK ID " + inks + b" EI Q"
    _, pdf = converted(paper, content.decode("latin-1"), **LEAVE)
    (image,) = pdf.pages[0].Resources.XObject.values()
    found = np.frombuffer(image.read_bytes(), np.uint8).reshape(3, 4)
    assert found.sum(axis=1, dtype=int).max() <= 714


def test_a_palette_changes_only_the_entries_over_the_tac(paper, converted, foreign) -> None:
    table = np.array([[10, 20, 30, 40], [250, 250, 250, 250], [90, 0, 0, 255]], np.uint8)
    space = pikepdf.Array([pikepdf.Name.Indexed, foreign, 2, pikepdf.String(table.tobytes())])
    indices = np.arange(600, dtype=np.uint8).reshape(20, 30, 1) % 3
    _, image = placed(paper, converted, paper.image(indices, space))
    kept = np.frombuffer(bytes(image.ColorSpace[3]), np.uint8).reshape(3, 4)
    assert str(image.ColorSpace[1][0]) == "/ICCBased"
    assert np.array_equal(kept[[0, 2]], table[[0, 2]])
    assert int(kept[1].sum()) <= 714


@pytest.mark.parametrize("over", [False, True])
def test_a_shading_is_left_or_held_in_its_own_space(paper, converted, foreign, over) -> None:
    end = [1, 1, 1, 0.9] if over else [0.9, 0.9, 0.9, 0]
    function = pikepdf.Dictionary(FunctionType=2, Domain=[0, 1], C0=[0, 0, 0, 0], C1=end, N=1)
    shading = pikepdf.Dictionary(
        ShadingType=2, ColorSpace=foreign, Coords=[0, 0, 99, 0], Function=function
    )
    paper.put("/Shading", "/Sh", shading)
    report, pdf = converted(paper, "/Sh sh", **LEAVE)
    made = pdf.pages[0].Resources.Shading.Sh
    assert str(made.ColorSpace[0]) == "/ICCBased"
    if not over:
        assert int(made.Function.FunctionType) == 2
        assert report.objects[0].notes == []
        return
    steps = np.frombuffer(made.Function.read_bytes(), ">u2").reshape(-1, 4) / 65535
    assert steps.sum(axis=1).max() <= 2.805
    assert steps[40] == pytest.approx(np.array(end) * 40 / 255, abs=2e-5)
    assert report.objects[0].notes == [HELD]
    assert report.objects[0].tac_after <= 280.5


def test_vectors_over_the_tac_stay_in_their_space(paper, converted, foreign) -> None:
    paper.put("/ColorSpace", "/Fo", foreign)
    content = "/Fo cs 0.9 0.9 0.9 0.9 sc 0 0 9 9 re f 0.1 0.2 0.3 0.4 sc 9 9 9 9 re f 1 1 1 0.5 k 0 0 5 5 re f"
    _, pdf = converted(paper, content, **LEAVE)
    found = [(o, a) for o, a in operations(pdf.pages[0]) if o in ("cs", "sc", "scn", "k")]
    assert [o for o, _ in found] == ["cs", "scn", "sc", "k"]
    assert sum(float(v) for v in found[1][1]) <= 2.8
    assert [float(v) for v in found[2][1]] == [0.1, 0.2, 0.3, 0.4]
    assert sum(float(v) for v in found[3][1]) <= 2.8


@pytest.mark.parametrize("bits", [8, 16])
@pytest.mark.parametrize("own", [True, False])
def test_pictures_are_left_and_held_alike(tmp_path, resolve, coated_v4, bits, own) -> None:
    data = MIXED if bits == 8 else MIXED.astype(np.uint16) * 257
    tifffile.imwrite(
        tmp_path / "in.tif",
        data,
        photometric="separated",
        iccprofile=coated_v4.data if own else None,
    )
    policy = parse_policy({"destination": "press", **LEAVE})
    report = run_policy_on_picture(policy, tmp_path / "in.tif", tmp_path / "out.tif", resolve)
    with tifffile.TiffFile(tmp_path / "out.tif") as made:
        found = made.asarray()
        tag = made.pages[0].tags.get(34675)
        assert (tag.value if tag else None) == (coated_v4.data if own else None)
    assert np.array_equal(found[~OVER], data[~OVER])
    assert found.sum(axis=2, dtype=int).max() / (2**bits - 1) <= 2.8
    assert report.objects[0].notes == [HELD]


def test_a_reported_tac_changes_nothing(paper, converted, foreign) -> None:
    paper.put("/XObject", "/Im", paper.image(MIXED, foreign))
    report, pdf = converted(paper, "q 9 0 0 9 0 0 cm /Im Do Q", **{**LEAVE, "tac_action": "report"})
    assert np.array_equal(pixels(pdf.pages[0].Resources.XObject.Im), MIXED)
    assert report.over_tac == 1


def test_what_is_made_for_the_destination_keeps_its_numbers_and_says_so(
    paper, converted, coated
) -> None:
    stream = paper.pdf.make_indirect(pikepdf.Stream(paper.pdf, coated.data, N=4))
    space = pikepdf.Array([pikepdf.Name.ICCBased, stream])
    paper.put("/XObject", "/Im", paper.image(UNDER, space))
    paper.put("/ColorSpace", "/Own", space)
    content = "q 9 0 0 9 0 0 cm /Im Do Q /Own cs 0.2 0.3 0.4 0.1 sc 0 0 9 9 re f"
    report, pdf = converted(paper, content, rules=[{"action": "convert", "intent": "perceptual"}])
    assert np.array_equal(pixels(pdf.pages[0].Resources.XObject.Im), UNDER)
    assert ("k", [0.2, 0.3, 0.4, 0.1]) in [
        (o, [float(v) for v in a]) for o, a in operations(pdf.pages[0]) if o == "k"
    ]
    assert all(SAME in o.notes for o in report.objects)


def test_a_picture_with_more_channels_than_colours_is_not_cut(tmp_path, resolve) -> None:
    tifffile.imwrite(
        tmp_path / "in.tif",
        np.zeros((9, 9, 5), np.uint8),
        photometric="separated",
        extrasamples=[0],
    )
    policy = parse_policy({"destination": "press", **LEAVE})
    with pytest.raises(BadRecipe, match="channel 5"):
        run_policy_on_picture(policy, tmp_path / "in.tif", tmp_path / "out.tif", resolve)
    assert not (tmp_path / "out.tif").exists()


def test_greys_go_to_black_without_a_jump_at_the_end(paper, converted) -> None:
    content = " ".join(f"{v:g} {v:g} {v:g} rg 0 0 1 1 re f" for v in np.linspace(0, 1, 51))
    _, pdf = converted(paper, content, rules=[{"action": "convert"}], greys_to_black=True)
    black = [[float(v) for v in a] for o, a in operations(pdf.pages[0]) if o == "k"]
    assert black[0] == [0, 0, 0, 1]
    assert black[-1] == [0, 0, 0, 0]
    steps = np.diff([b[3] for b in black])
    assert steps.max() <= 0
    assert steps.min() > -0.09
    assert standard_profile("srgb").colour_space == "RGB "


def test_a_shading_of_a_kind_that_is_none_is_listed_and_left(paper, converted) -> None:
    paper.put(
        "/Shading",
        "/S",
        paper.pdf.make_indirect(
            pikepdf.Dictionary(ShadingType=9, ColorSpace=pikepdf.Name.DeviceRGB)
        ),
    )
    report, _ = converted(paper, "/S sh 1 0 0 rg 0 0 9 9 re f")
    assert ["has no function" in u.reason for u in report.not_handled] == [True], report.not_handled
    assert [o.kind for o in report.objects if o.kind == "vector"] == ["vector"]


def test_black_alone_keeps_a_total_below_a_hundred(paper, converted) -> None:
    ramp = np.linspace(0, 255, 256).astype(np.uint8).reshape(16, 16)
    paper.put("/XObject", "/Im", paper.image(ramp, pikepdf.Name.DeviceGray))
    content = (
        "0 0 0 1 k 0 0 9 9 re f 0 g 0 0 9 9 re f 0 0 0 rg 0 0 9 9 re f q 9 0 0 9 0 0 cm /Im Do Q"
    )
    report, pdf = converted(
        paper, content, rules=[{"action": "black"}], tac=80, tac_action="enforce"
    )
    image = pdf.pages[0].Resources.XObject.Im
    assert image.ColorSpace == pikepdf.Name.DeviceGray
    assert np.frombuffer(image.read_bytes(), np.uint8).min() in (51, 52)
    assert report.tac.after == pytest.approx(80, abs=0.1)
