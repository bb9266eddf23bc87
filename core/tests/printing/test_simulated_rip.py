"""The simulated RIP: plates as painted, ink and medium counted by hand, the press near its profile."""

from __future__ import annotations

import io
import zipfile
from dataclasses import replace

import numpy as np
import pikepdf
import pytest
import tifffile
from PIL import Image

from plinto_core.document import parse_policy, run_policy
from plinto_core.errors import BadDocument, Cancelled, NotSupported
from plinto_core.inks.consumption import Supplies
from plinto_core.printing import MediumSettings, Printer, print_file
from plinto_core.recipes.route import ColourRoute
from plinto_core.simulator import CONDITIONS, FURTHER
from plinto_core.transform import convert
from plinto_core.transform.standard_spaces import standard_profile

SUPPLIES = Supplies.model_validate(
    {"inks": {n: {"film": 2, "price": 10} for n in "CMYK"}, "medium_price": 0.5}
)
A = 72 / 25.4


@pytest.fixture
def printer(coated):
    return Printer(coated, SUPPLIES, MediumSettings(), CONDITIONS[0].model)


@pytest.fixture
def sheet(tmp_path):
    """A square of 500 mm, one half in C 100, pages times."""

    def make(pages: int = 1, content: str = "1 0 0 0 k 0 0 {h} {w} re f"):
        path = tmp_path / "sheet.pdf"
        with pikepdf.new() as pdf:
            for _ in range(pages):
                pdf.add_blank_page(page_size=(500 * A, 500 * A))
                drawn = content.format(h=250 * A, w=500 * A)
                pdf.pages[-1].Contents = pikepdf.Stream(pdf, drawn.encode())
            pdf.save(path)
        return path

    return make


def test_ink_and_cost_are_area_times_film_times_price(tmp_path, sheet, printer) -> None:
    done = print_file(sheet(), tmp_path / "p.zip", printer, standard_profile, copies=10)
    # Half of 0.25 m² at 2 ml/m², ten times; litres at 10; the medium at 0.5 a square metre.
    assert done.millilitres["C"] == pytest.approx(0.25 * 0.5 * 2 * 10, rel=0.01)
    assert done.millilitres["K"] == 0
    assert done.ink_cost == pytest.approx(0.025, rel=0.05)
    assert done.medium_cost == pytest.approx(0.25 * 10 * 0.5)
    assert done.sheets[0].coverage["Cyan"] == pytest.approx(0.5, abs=0.005)


def test_the_roll_decides_length_and_cost(tmp_path, sheet, printer, coated) -> None:
    roll = MediumSettings(roll_width=1000, roll_length=30, roll_price=60)
    assert roll.price_per_square_metre == 2
    made = print_file(
        sheet(3), tmp_path / "p.zip", Printer(coated, SUPPLIES, roll), standard_profile
    )
    assert made.roll_metres == pytest.approx(1.5)
    assert made.medium_cost == pytest.approx(1.5 * 1.0 * 2)
    narrow = MediumSettings(roll_width=300)
    made = print_file(
        sheet(), tmp_path / "p.zip", Printer(coated, SUPPLIES, narrow), standard_profile
    )
    assert made.sheets[0].notes == ("The sheet is wider than the roll of 300 mm.",)


def test_seven_inks_are_counted_and_predicted_by_their_names(tmp_path, sheet, seven) -> None:
    names = ("C", "M", "Y", "K", "Orange", "Green", "Violet")
    inks = {n: {"film": 2, "price": 10} for n in names}
    supplies = Supplies.model_validate({"inks": inks, "medium_price": 0.5})
    polyester = next(f for f in FURTHER if f.key == "polyester-seven")
    printer = Printer(seven, supplies, MediumSettings(), polyester.model)
    policy = parse_policy({"destination": "press", "rules": [{"action": "convert"}]})
    made = tmp_path / "made.pdf"
    own = {"press": seven}
    run_policy(
        policy,
        sheet(content="0.95 0.5 0.1 rg 0 0 {h} {w} re f"),
        made,
        lambda r: own.get(r) or standard_profile(r),
    )
    done = print_file(made, tmp_path / "p.zip", printer, standard_profile)
    tone = ColourRoute(standard_profile("srgb"), seven, "relative", True).inks(
        np.array([[0.95, 0.5, 0.1]])
    )[0]
    for name, share in zip(names, tone, strict=True):
        assert done.millilitres[name] == pytest.approx(0.25 * 0.5 * 2 * share, abs=0.002), name
    assert done.millilitres["Orange"] > 0.1
    assert done.press_against_profile is not None
    assert done.press_against_profile.mean < 1
    with zipfile.ZipFile(tmp_path / "p.zip") as bundle:
        assert sum(n.startswith("plates/1-") for n in bundle.namelist()) == 7
        assert "plates/1-5-Orange.png" in bundle.namelist()
    grey = Printer(standard_profile("grey"), supplies, MediumSettings())
    with pytest.raises(NotSupported):
        print_file(made, tmp_path / "no.zip", grey, standard_profile)


def test_a_sheet_is_turned_where_that_saves_roll() -> None:
    roll = MediumSettings(roll_width=1000)
    assert roll.length_on_roll(900, 400) == 400
    assert roll.length_on_roll(400, 900) == 400
    assert roll.length_on_roll(400, 1500) == 1500
    assert roll.length_on_roll(1200, 1500) is None


def test_sheets_and_plates_come_off(tmp_path, sheet, printer) -> None:
    print_file(sheet(6), tmp_path / "p.zip", printer, standard_profile)
    with zipfile.ZipFile(tmp_path / "p.zip") as bundle:
        names = bundle.namelist()
        assert [n for n in names if n.startswith("sheet")] == [
            f"sheet-{i}.png" for i in (1, 2, 3, 4)
        ]
        cyan = np.asarray(Image.open(io.BytesIO(bundle.read("plates/1-1-Cyan.png"))))
        printed = np.asarray(Image.open(io.BytesIO(bundle.read("sheet-1.png"))))
    assert cyan[100, 10] == 0
    assert cyan[100, -10] == 255
    assert printed[100, 10, 2] > printed[100, 10, 0] + 60
    assert printed[100, -10].min() > 200


def test_the_press_prints_about_what_its_profile_says(tmp_path, sheet, printer) -> None:
    content = " ".join(
        f"{c} {m} {y} {k} k {i * 100} {j * 100} 100 100 re f"
        for i, (c, m, y, k) in enumerate(np.random.default_rng(3).uniform(0, 0.7, (14, 4)).round(2))
        for j in range(14)
    )
    done = print_file(sheet(1, content), tmp_path / "p.zip", printer, standard_profile)
    assert done.press_against_profile.colours >= 14
    assert done.press_against_profile.mean < 1.5


def test_a_delivered_picture_is_printed_as_its_numbers_stand(tmp_path, printer) -> None:
    inks = np.tile(np.array([[[51, 0, 102, 0]]], np.uint8), (50, 80, 1))
    path = tmp_path / "picture.tif"
    tifffile.imwrite(
        path, inks, photometric="separated", resolution=(100, 100), resolutionunit="INCH"
    )
    done = print_file(path, tmp_path / "p.zip", printer, standard_profile)
    (only,) = done.sheets
    assert only.coverage == pytest.approx({"Cyan": 0.2, "Magenta": 0, "Yellow": 0.4, "Black": 0}, abs=1e-3)  # fmt: skip
    assert only.size_mm == pytest.approx((20.3, 12.7), abs=0.1)


def test_a_cancelled_or_impossible_print_leaves_nothing(tmp_path, sheet, printer) -> None:
    def stop(share: float) -> None:
        raise Cancelled

    with pytest.raises(Cancelled):
        print_file(sheet(), tmp_path / "p.zip", printer, standard_profile, progress=stop)
    (tmp_path / "bad.pdf").write_bytes(b"%PDF-1.7 nothing")
    with pytest.raises(BadDocument):
        print_file(tmp_path / "bad.pdf", tmp_path / "p.zip", printer, standard_profile)
    assert not (tmp_path / "p.zip").exists()


def _sheet_of(path) -> np.ndarray:
    with zipfile.ZipFile(path) as bundle:
        assert bundle.namelist() == ["sheet-1.png"]
        return np.asarray(Image.open(io.BytesIO(bundle.read("sheet-1.png")))).astype(int)


def test_a_printer_that_takes_rgb_prints_the_numbers_that_arrive(tmp_path, sheet) -> None:
    """Bare numbers are its own, others go to it through their profile; its inks are not known, and are
    not told as nothing."""
    own = standard_profile("romm")
    rgb = Printer(own, SUPPLIES, MediumSettings(roll_width=400))
    half = sheet(1, "0.4 0.5 0.3 rg 0 0 {h} {w} re f")
    done = print_file(half, tmp_path / "p.zip", rgb, standard_profile, copies=4)
    assert (done.ink_cost, done.millilitres) == (None, {})
    assert done.sheets[0].coverage == {}
    assert [n.code for n in done.sheets[0].notes] == ["printing.own-inks", "printing.roll-narrow"]
    expected = convert(
        own, standard_profile("srgb"), np.array([[0.4, 0.5, 0.3]]), intent="absolute"
    )
    found = _sheet_of(tmp_path / "p.zip")
    assert found[150, 30] == pytest.approx(expected[0] * 255, abs=9)
    assert found[150, 330].min() > 250
    pixels = np.tile(np.array([[[102, 128, 77]]], np.uint8), (50, 80, 1))
    for name, profile in (("bare", None), ("own", own), ("other", standard_profile("srgb"))):
        extra = {"iccprofile": profile.data} if profile else {}
        tifffile.imwrite(tmp_path / f"{name}.tif", pixels, photometric="rgb", **extra)
        print_file(tmp_path / f"{name}.tif", tmp_path / "t.zip", rgb, standard_profile)
        wanted = [102, 128, 77] if name == "other" else expected[0] * 255
        assert _sheet_of(tmp_path / "t.zip")[20, 20] == pytest.approx(wanted, abs=9), name


def test_what_a_printer_of_rgb_costs_is_its_operators_figure(tmp_path, sheet) -> None:
    medium = MediumSettings(ink_price=3.2)
    rgb = Printer(standard_profile("srgb"), SUPPLIES, medium)
    done = print_file(sheet(2, ""), tmp_path / "p.zip", rgb, standard_profile, copies=3)
    assert done.ink_cost == pytest.approx(0.25 * 2 * 3 * 3.2)
    assert done.medium_cost == pytest.approx(0.25 * 2 * 3 * 0.5)
    mirrored = replace(rgb, medium=MediumSettings(mirror=True, mirror_driver=True))
    print_file(
        sheet(1, "1 0 0 rg 0 0 {h} {w} re f"), tmp_path / "m.zip", mirrored, standard_profile
    )
    found = _sheet_of(tmp_path / "m.zip")
    assert found[150, 30].min() > 250
    assert found[150, 330, 1] < 60
