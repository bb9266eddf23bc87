"""How far a dry run says that colours move, against the conversion worked out beside it."""

from __future__ import annotations

import numpy as np
import pikepdf
import pytest

from plinto_core.colorimetry import delta_e_2000
from plinto_core.document import OutputPolicy, dry_run, run_policy
from plinto_core.document.runs.run import inventory
from plinto_core.icc import Profile, values
from plinto_core.icc.write import write_profile
from plinto_core.transform import convert, lab_of_device
from plinto_core.transform.standard_spaces import standard_profile

RULES = [{"space": "CMYK", "action": "leave"}, {"space": "grey", "action": "black"}, {"action": "convert"}]  # fmt: skip


@pytest.fixture
def tried(tmp_path, resolve):
    def run(paper, content: str, **changes):
        policy = OutputPolicy.model_validate({"destination": "press", "rules": RULES, **changes})
        return dry_run(policy, paper.save(tmp_path / "in.pdf", content), resolve)

    return run


def moved(coated, rgb, intent="relative") -> np.ndarray:
    device = np.array(rgb, dtype=float)
    srgb = standard_profile("srgb")
    inks = np.round(convert(srgb, coated, device, intent=intent, bpc=True), 4)
    return delta_e_2000(lab_of_device(srgb, device), lab_of_device(coated, inks))


def test_colours_of_vectors_and_text(paper, tried, coated) -> None:
    colours = [(1, 0, 0), (0, 0, 1), (0.5, 0.4, 0.3), (0, 1, 0)]
    content = " ".join(f"{r} {g} {b} rg {10 * i} 0 9 9 re f" for i, (r, g, b) in enumerate(colours))
    report = tried(paper, content + " 0.5 0.4 0.3 rg 0 50 9 9 re f")
    expected = moved(coated, colours)
    assert [o.de00 for o in report.objects] == pytest.approx(expected, abs=0.01)
    # One of the four is there twice and counts twice.
    assert [o.count for o in report.objects] == [1, 1, 2, 1]
    weights = np.array([1, 1, 2, 1])
    assert report.colour.mean == pytest.approx(float(expected @ weights / 5), abs=0.01)
    assert report.colour.greatest == report.colour.p95 == pytest.approx(expected.max(), abs=0.01)
    assert (report.colour.objects, report.colour.unknown) == (5, 0)
    assert expected.max() > 10


def test_the_95th_of_a_hundred(paper, tried) -> None:
    greys = " ".join(f"0.99 0.99 {0.99 - i / 1e6:.6f} rg 0 0 9 9 re f" for i in range(95))
    vivid = " ".join(f"0 0 {1 - i / 100:.2f} rg 0 0 9 9 re f" for i in range(5))
    colour = tried(paper, f"{greys} {vivid}").colour
    assert colour.objects == 100
    assert colour.p95 < 1
    assert colour.greatest > 10


def test_numbers_that_stay(paper, tried, coated, tmp_path, resolve) -> None:
    # CMYK without a profile is the press's own: nothing moves.
    report = tried(paper, "0.2 0.9 0.1 0.3 k 0 0 9 9 re f")
    assert report.objects[0].de00 == 0
    # By another profile the same numbers meant other colours.
    other = {name: coated.raw(name) for name in coated.directory} | {"desc": values.pack_desc("x")}
    other["A2B1"] = other["A2B0"] = coated.raw("A2B2")
    own = Profile(write_profile(coated.header, other))
    space = pikepdf.Array([pikepdf.Name.ICCBased, pikepdf.Stream(paper.pdf, own.data, N=4)])
    paper.put("/ColorSpace", "/CS", space)
    report = tried(paper, "/CS cs 0.9 0.2 0.1 0.1 scn 0 0 9 9 re f")
    inks = np.array([[0.9, 0.2, 0.1, 0.1]])
    expected = delta_e_2000(lab_of_device(own, inks), lab_of_device(coated, inks))[0]
    assert report.objects[0].action == "leave"
    assert report.objects[0].de00 == pytest.approx(expected, abs=0.01)


def test_grey_goes_by_black_and_what_is_kept_is_not_known(paper, tried, coated) -> None:
    report = tried(paper, "0.5 g 0 0 9 9 re f")
    black = np.array([[0, 0, 0, 0.5]])
    grey = lab_of_device(standard_profile("grey"), np.array([[0.5]]))
    assert report.objects[0].de00 == pytest.approx(
        delta_e_2000(grey, lab_of_device(coated, black))[0], abs=0.01
    )
    left = tried(paper, "0.5 g 0 0 9 9 re f 1 0 0 rg 0 0 9 9 re f", rules=[{"action": "leave"}])
    assert left.objects[0].de00 == report.objects[0].de00
    assert left.objects[1].de00 is None
    assert (left.colour.objects, left.colour.unknown) == (1, 1)
    none = tried(paper, "1 0 0 rg 0 0 9 9 re f", rules=[{"action": "leave"}])
    assert none.colour is None


@pytest.mark.parametrize("indexed", [False, True])
def test_an_image_in_the_mean(indexed: bool, paper, tried, coated) -> None:
    pixels = np.zeros((16, 20, 3), np.uint8)
    pixels[:, :15] = (128, 100, 80)
    pixels[:, 15:] = (0, 0, 255)
    if indexed:
        table = pikepdf.String(bytes((128, 100, 80, 0, 0, 255, 7, 7, 7)))
        space = pikepdf.Array([pikepdf.Name.Indexed, pikepdf.Name.DeviceRGB, 2, table])
        image = paper.image((pixels[..., 2] == 255).astype(np.uint8), space)
    else:
        image = paper.image(pixels, pikepdf.Name.DeviceRGB)
    paper.put("/XObject", "/Im", image)
    report = tried(paper, "q 20 0 0 20 0 0 cm /Im Do Q q 9 0 0 9 0 0 cm /Im Do Q")
    each = moved(coated, np.array([(128, 100, 80), (0, 0, 255)]) / 255)
    # A palette counts by its entries that are used, an image by its pixels.
    mean = each.mean() if indexed else each @ [0.75, 0.25]
    assert [o.de00 for o in report.objects] == pytest.approx([mean, mean], abs=0.3)
    assert report.colour.objects == 2


def test_a_lab_image_is_compared_in_its_units(paper, tried) -> None:
    pixels = np.zeros((16, 16, 3), np.uint8)
    pixels[...] = (128, 128 + 10, 128 - 10)
    space = pikepdf.Array(
        [pikepdf.Name.Lab, pikepdf.Dictionary(WhitePoint=[0.9642, 1, 0.8249], Range=[-128, 127, -128, 127])]
    )  # fmt: skip
    paper.put("/XObject", "/Im", paper.image(pixels, space))
    assert tried(paper, "q 20 0 0 20 0 0 cm /Im Do Q").objects[0].de00 < 1.5


def test_a_shading_and_a_spot_colour(paper, tried, coated) -> None:
    function = pikepdf.Dictionary(
        FunctionType=2, Domain=[0, 1], N=1, C0=[0, 0, 0, 0], C1=[0, 0.8, 0.9, 0]
    )
    spot = pikepdf.Array([pikepdf.Name.Separation, pikepdf.Name("/Madder"), pikepdf.Name.DeviceCMYK, function])  # fmt: skip
    paper.put("/ColorSpace", "/Sp", spot)
    content = "/Sp cs 1 scn 0 0 9 9 re f"
    kept = tried(paper, content, rules=[{"space": "spot", "action": "keep spot"}])
    assert kept.objects[0].de00 is None
    built = tried(paper, content, builds={"Madder": {"M": 60, "Y": 90}})
    inks = lab_of_device(coated, np.array([[0, 0.8, 0.9, 0], [0, 0.6, 0.9, 0]]))
    assert built.objects[0].de00 == pytest.approx(delta_e_2000(inks[:1], inks[1:])[0], abs=0.01)
    axial = pikepdf.Dictionary(
        ShadingType=2, ColorSpace=pikepdf.Name.DeviceRGB, Coords=[0, 0, 10, 0],
        Function=pikepdf.Dictionary(FunctionType=2, Domain=[0, 1], N=1, C0=[0, 0, 1], C1=[0, 0, 1]),
    )  # fmt: skip
    paper.put("/Shading", "/Sh", paper.pdf.make_indirect(axial))
    shaded = tried(paper, "/Sh sh")
    assert shaded.objects[0].de00 == pytest.approx(moved(coated, [(0, 0, 1)])[0], abs=0.05)


def test_only_dry_runs_compare(paper, tmp_path, resolve) -> None:
    source = paper.save(tmp_path / "in.pdf", "1 0 0 rg 0 0 9 9 re f")
    policy = OutputPolicy.model_validate({"destination": "press", "rules": RULES})
    assert run_policy(policy, source, tmp_path / "out.pdf", resolve).colour is None
    assert inventory(source).colour is None


def test_calibrated_greys_keep_their_lightness(paper, tried, coated) -> None:
    space = pikepdf.Array([pikepdf.Name.CalGray, pikepdf.Dictionary(WhitePoint=[0.9505, 1, 1.089], Gamma=1.8)])  # fmt: skip
    paper.put("/ColorSpace", "/Cal", space)
    report = tried(paper, "/Cal cs 0.7 scn 0 0 9 9 re f", rules=[{"action": "convert"}])
    lightness = 116 * (0.7**1.8) ** (1 / 3) - 16
    (found,) = report.objects
    printed = lab_of_device(coated, np.array([found.after]) / 100)
    meant = np.array([[lightness, 0, 0]])
    # With black point compensation all greys but white come out a little lighter.
    assert found.de00 == pytest.approx(delta_e_2000(meant, printed)[0], abs=0.05)
    assert found.de00 < 4
