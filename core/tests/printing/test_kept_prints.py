"""Printed sheets of a document on a press made by hand: what they took and what is said of them."""

from __future__ import annotations

import io
import zipfile

import numpy as np
import pikepdf
import pytest
from handmade import linear_press
from kept import as_kept
from PIL import Image

from plinto_core.inks.consumption import Supplies
from plinto_core.printing import rip
from plinto_core.printing.medium import MediumSettings
from plinto_core.printing.rip import Printer, print_file
from plinto_core.transform.standard_spaces import standard_profile

SUPPLIES = Supplies.model_validate(
    {"inks": {"C": {"film": 2, "price": 10}, "M": {"film": 3, "price": 20}, "Y": {"film": 2, "price": 15}}, "medium_price": 0.5, "currency": "CHF"}
)  # fmt: skip


def document(path, pages: int):
    with pikepdf.new() as pdf:
        for i in range(pages):
            pdf.add_blank_page(page_size=(283.5, 141.7))
            drawn = f"{0.2 + 0.1 * i} 0.5 0 0 k 0 0 141.7 141.7 re f 0.9 0.8 0.7 0.9 k 141.7 0 70 70 re f"
            pdf.pages[-1].Contents = pikepdf.Stream(pdf, drawn.encode())
        pdf.save(path)
    return path


def printed(tmp_path, pages: int, medium: MediumSettings, **more):
    printer = Printer(linear_press("Press"), SUPPLIES, medium)
    target = tmp_path / "out.zip"
    return print_file(
        document(tmp_path / "in.pdf", pages), target, printer, standard_profile, **more
    ), target


@pytest.mark.parametrize(
    ("name", "medium", "more"),
    [
        ("plain", {}, {}),
        (
            "roll",
            {"roll_width": 120, "roll_length": 30, "roll_price": 90, "passes": 4},
            {"copies": 12, "tac": 240},
        ),
        ("narrow", {"roll_width": 40, "roll_length": 30, "roll_price": 90}, {"copies": 2}),
        ("mirrored", {"mirror": True, "mirror_driver": True}, {}),
        ("within", {}, {"tac": 400}),
    ],
)
def test_what_sheets_took(tmp_path, name, medium, more) -> None:
    report, target = printed(tmp_path, 2, MediumSettings(**medium), **more)
    sheets: dict[str, list[float]] = {}
    with zipfile.ZipFile(target) as bundle:
        for entry in bundle.namelist():
            if entry.endswith(".png"):
                pixels = np.asarray(
                    Image.open(io.BytesIO(bundle.read(entry))).convert("RGB"), float
                )
                halves = pixels[:, : pixels.shape[1] // 2], pixels[:, pixels.shape[1] // 2 :]
                sheets[entry] = [*pixels.shape, *(round(float(h.mean()), 1) for h in halves)]
    data = {k: v for k, v in report.model_dump(mode="json").items() if k != "seconds"}
    as_kept(f"prints/{name}", {"report": data, "sheets": sheets}, rel=2e-3, abs=0.3)


def test_a_long_document_is_printed_as_far_as_a_printer_goes(tmp_path, monkeypatch) -> None:
    assert (rip.MOST_SHEETS, rip.KEPT_SHEETS) == (200, 4)
    monkeypatch.setattr(rip, "MOST_SHEETS", 3)
    monkeypatch.setattr(rip, "KEPT_SHEETS", 1)
    shares: list[float] = []
    report, target = printed(tmp_path, 5, MediumSettings(), progress=shares.append)
    assert [s.page for s in report.sheets] == [1, 2, 3]
    assert shares == pytest.approx([1 / 3, 2 / 3, 1])
    with zipfile.ZipFile(target) as bundle:
        assert {
            name.split(".")[0].split("-")[1]
            for name in bundle.namelist()
            if name.startswith("sheet")
        } == {"1"}
    data = {k: v for k, v in report.model_dump(mode="json").items() if k != "seconds"}
    as_kept("prints/long", data, rel=2e-3, abs=0.3)


def test_many_small_labels_take_what_one_takes_so_many_times(tmp_path) -> None:
    """A hundred thousand of 10 x 5 mm with a tenth of a twentieth in cyan: 5 m² of 2 ml, a hundredth of it."""
    with pikepdf.new() as pdf:
        pdf.add_blank_page(page_size=(28.35, 14.17))
        pdf.pages[0].Contents = pikepdf.Stream(pdf, b"0.1 0 0 0 k 0 0 2.835 14.17 re f")
        pdf.save(tmp_path / "label.pdf")
    printer = Printer(linear_press("Press"), SUPPLIES, MediumSettings())
    report = print_file(
        tmp_path / "label.pdf", tmp_path / "out.zip", printer, standard_profile, copies=100_000
    )
    assert report.area_m2 == pytest.approx(5, rel=0.01)
    assert report.millilitres["C"] == pytest.approx(5 * 2 * 0.1 * 0.1, rel=0.03)
    assert report.ink_cost == pytest.approx(0.001, abs=1e-4)
