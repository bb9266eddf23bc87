"""Plates of pages: each holds exactly the ink that was painted, spot colours on plates of their own."""

from __future__ import annotations

import numpy as np
import pikepdf
import pytest

from plinto_core.document import parse_policy, template
from plinto_core.document.views.separations import page_plates, tac_figures
from plinto_core.errors import NotSupported, PolicyStop

LEAVE = parse_policy({"destination": "press", "rules": [{"action": "leave"}]})
KEEP = parse_policy(
    {
        "destination": "press",
        "rules": [{"space": "spot", "action": "keep spot"}, {"action": "convert"}],
    }
)


@pytest.fixture
def plates(tmp_path, paper, resolve):
    def make(content: str, policy=LEAVE, **options):
        return page_plates(
            paper.save(tmp_path / "page.pdf", content), 1, policy, resolve, **options
        )

    return make


def at_middle(plates) -> dict[str, float]:
    height, width = plates.ink.shape[:2]
    values = plates.ink[height // 2, width // 2] / 255
    return {n: round(float(v), 2) for n, v in zip(plates.names, values, strict=True)}


def test_every_ink_lies_on_its_own_plate(plates) -> None:
    found = plates("0.8 0.1 0.6 0.05 k 0 0 200 100 re f")
    assert at_middle(found) == {"Cyan": 0.8, "Magenta": 0.1, "Yellow": 0.6, "Black": 0.05}
    assert found.coverage["Cyan"] == pytest.approx(0.8, abs=0.003)
    assert tac_figures(found, 150).highest == pytest.approx(155, abs=0.8)


def test_bare_grey_lies_on_black_alone(plates) -> None:
    assert at_middle(plates("0.25 g 0 0 200 100 re f")) == {
        "Cyan": 0, "Magenta": 0, "Yellow": 0, "Black": 0.75,
    }  # fmt: skip


def test_what_lies_above_knocks_out_what_lies_below(plates) -> None:
    found = plates("1 0 0 0 k 0 0 200 100 re f 0 1 0 0 k 50 0 100 100 re f")
    assert at_middle(found)["Cyan"] == 0
    assert found.coverage["Cyan"] == pytest.approx(0.5, abs=0.01)
    assert found.coverage["Magenta"] == pytest.approx(0.5, abs=0.01)


def test_half_transparent_ink_mixes_plate_by_plate(plates, paper) -> None:
    paper.put("/ExtGState", "/Half", pikepdf.Dictionary(ca=0.5))
    found = plates("1 0 0 0 k 0 0 200 100 re f /Half gs 0 0 1 0 k 0 0 200 100 re f")
    assert at_middle(found)["Cyan"] == pytest.approx(0.5, abs=0.01)
    assert at_middle(found)["Yellow"] == pytest.approx(0.5, abs=0.01)


def spot(name: str):
    tint = pikepdf.Dictionary(FunctionType=2, Domain=[0, 1], C0=[0] * 4, C1=[0, 1, 1, 0], N=1)
    return pikepdf.Array(
        [pikepdf.Name.Separation, pikepdf.Name(f"/{name}"), pikepdf.Name.DeviceCMYK, tint]
    )


def test_a_kept_spot_has_a_plate_and_a_converted_one_has_none(plates, paper) -> None:
    paper.put("/ColorSpace", "/Warm", spot("Ternholm Red"))
    content = "/Warm cs 0.6 scn 0 0 200 100 re f"
    kept = plates(content, KEEP)
    assert at_middle(kept) == {
        "Cyan": 0, "Magenta": 0, "Yellow": 0, "Black": 0, "Ternholm Red": 0.6,
    }  # fmt: skip
    assert plates(content, template("bare-cmyk", "press")).names == (
        "Cyan", "Magenta", "Yellow", "Black",
    )  # fmt: skip


def test_registration_marks_lie_on_every_plate(plates, paper) -> None:
    paper.put("/ColorSpace", "/Marks", spot("All"))
    paper.put("/ColorSpace", "/Warm", spot("Ternholm Red"))
    found = plates("/Warm cs 0.2 scn 0 0 20 20 re f /Marks cs 1 scn 60 20 80 60 re f", KEEP)
    assert set(at_middle(found).values()) == {1.0}


def test_images_keep_their_inks(plates, paper) -> None:
    pixels = np.tile(np.array([51, 102, 153, 0], np.uint8), (8, 16, 1))
    paper.put("/XObject", "/Im", paper.image(pixels, pikepdf.Name.DeviceCMYK))
    found = plates("200 0 0 100 0 0 cm /Im Do")
    assert list(at_middle(found).values()) == pytest.approx([0.2, 0.4, 0.6, 0], abs=0.01)


def test_a_converted_shading_lies_on_the_plates(plates, paper) -> None:
    ramp = pikepdf.Dictionary(FunctionType=2, Domain=[0, 1], C0=[1, 1, 1], C1=[0, 0.6, 0.9], N=1)
    made = pikepdf.Dictionary(
        ShadingType=2, ColorSpace=pikepdf.Name.DeviceRGB, Coords=[0, 0, 200, 0], Function=ramp
    )
    paper.put("/Shading", "/Sh", paper.pdf.make_indirect(made))
    cyan = plates("/Sh sh", KEEP).ink[..., 0].astype(int).mean(axis=0)
    assert cyan[5] < 25
    assert cyan[-5] > 150
    assert np.diff(cyan).min() >= -2


def test_enforced_tac_holds_on_the_plates(plates) -> None:
    policy = template("bare-cmyk", "press", tac=240)
    found = plates("0.9 0.9 0.8 0.9 k 0 0 200 100 re f", policy)
    figures = tac_figures(found, 240)
    assert 200 < figures.highest <= 240.8
    assert figures.over == 0


def test_what_stays_rgb_is_said(plates) -> None:
    found = plates("1 0 0 rg 0 0 200 100 re f")
    assert "RGB was left" in found.notes[0]
    assert at_middle(found)["Magenta"] > 0.6


def test_plates_need_inks_and_a_policy_that_passes(plates) -> None:
    with pytest.raises(NotSupported):
        plates("0 g 0 0 1 1 re f", parse_policy({"destination": "srgb"}))
    stop = parse_policy({"destination": "press", "rules": [{"action": "stop"}]})
    with pytest.raises(PolicyStop):
        plates("1 0 0 rg 0 0 200 100 re f", stop)
