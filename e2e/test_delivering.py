"""Delivering: sizes, films, tickets, checks, re-targeting, all at once, and the same bytes elsewhere."""

from __future__ import annotations

import io
import os
import subprocess
import sys
import zipfile
from pathlib import Path

import numpy as np
import pikepdf
import tifffile
from PIL import Image
from playwright.sync_api import Locator, Page, expect
from psd_tools import PSDImage

from steps import choose, place, settled, stage, start_job


def open_deliver(page: Page, picture: Path, *conditions: str) -> None:
    start_job(page, picture, *(conditions or ("Sheetfed coated",)))
    stage(page, "Deliver")
    expect(page.get_by_test_id("next-file")).not_to_be_empty()


def deliver(page: Page) -> Locator:
    rows = page.get_by_label("Deliveries").get_by_role("listitem")
    before = rows.count()
    # The check is done first, on figures that are measured anew where the recipe changed.
    page.get_by_role("button", name="Deliver", exact=True).last.click(timeout=120_000)
    expect(rows).to_have_count(before + 1)
    row = rows.first
    expect(row).to_have_attribute("data-state", "done", timeout=90_000)
    return row


def saved(page: Page, link: Locator, folder: Path) -> Path:
    with page.expect_download() as waiting:
        link.click()
    path = folder / waiting.value.suggested_filename
    waiting.value.save_as(path)
    return path


def type_in(page: Page, label: str, text: str) -> None:
    field = page.get_by_label(label, exact=True)
    field.fill(text)
    field.press("Enter")


def test_size_resolution_turning_and_name(screen: Page, picture: Path, tmp_path: Path) -> None:
    open_deliver(screen, picture)
    screen.get_by_role("button", name="Size and turning").click()
    type_in(screen, "Width of the print", "32")
    type_in(screen, "Resample to", "127")
    choose(screen, "Turn", "90° clockwise")
    screen.get_by_role("button", name="File name").click()
    type_in(screen, "File name pattern", "{job}-{ppi}-{number}")
    expect(screen.get_by_test_id("next-file")).to_have_text("Plume test-127-1.tif")
    result = saved(screen, deliver(screen).get_by_role("link", name="Download"), tmp_path)
    with tifffile.TiffFile(result) as file:
        assert file.pages[0].shape == (160, 120, 4)
        assert file.pages[0].tags["XResolution"].value == (127, 1)
    type_in(screen, "File name pattern", "{colour}")
    expect(screen.get_by_role("region", name="Before it goes")).to_contain_text("no field")


def test_films_and_their_check(screen: Page, picture: Path, tmp_path: Path) -> None:
    open_deliver(screen, picture, "Cotton four-screen")
    check = screen.get_by_role("region", name="Before it goes")
    expect(check).to_contain_text("Screens are made from films")
    screen.get_by_label("One-bit films").check()
    expect(check).not_to_contain_text("Screens are made from films")
    type_in(screen, "Film resolution", "600")
    type_in(screen, "Ruling", "40")
    type_in(screen, "Angle of C", "22.5")
    screen.get_by_label("Mirror", exact=True).check()
    expect(screen.get_by_test_id("next-file")).to_contain_text(".zip")
    result = saved(screen, deliver(screen).get_by_role("link", name="Download"), tmp_path)
    with zipfile.ZipFile(result) as archive:
        film = tifffile.imread(io.BytesIO(archive.read("film_C.tif")))
    assert film.dtype == bool
    assert film.shape[1] == round(160 / 254 * 600) + 2 * round(12 / 25.4 * 600)
    choose(screen, "Format", "PDF films")
    expect(screen.get_by_test_id("next-file")).to_contain_text(".pdf")
    with pikepdf.open(
        saved(screen, deliver(screen).get_by_role("link", name="Download"), tmp_path)
    ) as pdf:
        assert len(pdf.pages) == 4


def test_pdf_jpeg_and_the_consequences_in_words(
    screen: Page, picture: Path, tmp_path: Path
) -> None:
    open_deliver(screen, picture)
    check = screen.get_by_role("region", name="Before it goes")
    choose(screen, "Format", "PDF, 8 bit")
    expect(screen.get_by_test_id("next-file")).to_contain_text(".pdf")
    with pikepdf.open(
        saved(screen, deliver(screen).get_by_role("link", name="Download"), tmp_path)
    ) as pdf:
        assert "/OutputIntents" in pdf.Root
    choose(screen, "Format", "JPEG, 8 bit")
    expect(check).to_contain_text("compressed with losses")
    screen.get_by_label("Profile embedded").uncheck()
    expect(check).to_contain_text("No profile goes with the file")
    expect(screen.get_by_text("Bare numbers: the receiver must know")).to_be_visible()
    result = saved(screen, deliver(screen).get_by_role("link", name="Download"), tmp_path)
    with Image.open(result) as image:
        assert image.mode == "CMYK"
        assert "icc_profile" not in image.info


def test_the_ticket_for_the_operator(screen: Page, picture: Path, tmp_path: Path) -> None:
    open_deliver(screen, picture, "Polyester satin")
    expect(screen.get_by_label("Mirror", exact=True)).to_be_checked()
    screen.get_by_role("button", name="Print ticket").click()
    type_in(screen, "Passes", "6")
    expect(screen.get_by_role("button", name="Print ticket")).to_contain_text("6 passes")
    ticket = saved(screen, deliver(screen).get_by_role("link", name="Ticket"), tmp_path)
    assert ticket.read_bytes().startswith(b"%PDF")


def test_retargeting_compares_and_delivers_all(screen: Page, picture: Path) -> None:
    open_deliver(screen, picture)
    stage(screen, "Inks")
    screen.get_by_label("Own ink rules").check()
    expect(screen.get_by_test_id("tac-highest")).to_be_visible()
    screen.get_by_role("button", name="+ Condition").click()
    screen.get_by_role("menuitem", name="Polyester satin").first.click()
    notes = screen.get_by_role("region", name="Taken over")
    expect(notes).to_contain_text("TAC 320 % became 300 %")
    expect(notes).to_contain_text("mirrored")
    notes.get_by_role("button", name="I have read it").click()
    expect(notes).to_have_count(0)
    expect(screen.get_by_test_id("proof-caption")).to_contain_text("Polyester satin")
    settled(screen)
    stage(screen, "Deliver")
    screen.get_by_role("button", name="Compared with").click()
    expect(screen.get_by_role("region", name="Compared with")).to_contain_text("Mean difference")
    screen.get_by_role("button", name="Deliver all 2 conditions").click()
    expect(screen.get_by_text("2 deliveries started")).to_be_visible()
    row = screen.get_by_label("Deliveries").get_by_role("listitem").first
    expect(row).to_have_attribute("data-state", "done", timeout=90_000)


def test_a_colour_table_before_the_conversion(screen: Page, picture: Path) -> None:
    start_job(screen, picture, "Sheetfed coated")
    stage(screen, "Source")
    screen.get_by_role("button", name="Colour table before").click()
    files = screen.get_by_label("Colour table before file")
    files.set_input_files({"name": "x.cube", "mimeType": "text/plain", "buffer": b"nothing"})
    expect(screen.get_by_role("alert")).to_contain_text("no .cube table")
    table = b'TITLE "Negative film"\nLUT_1D_SIZE 2\n1 1 1\n0 0 0\n'
    files.set_input_files({"name": "n.cube", "mimeType": "text/plain", "buffer": table})
    expect(screen.get_by_role("button", name="Colour table before")).to_contain_text(
        "Negative film"
    )


def test_the_recipe_runs_elsewhere_to_the_same_bytes(
    screen: Page, picture: Path, tmp_path: Path
) -> None:
    open_deliver(screen, picture)
    stage(screen, "Inks")
    screen.get_by_label("Own ink rules").check()
    expect(screen.get_by_test_id("tac-highest")).to_be_visible()
    stage(screen, "Deliver")
    screen.get_by_label("In tiles").check()
    expect(screen.get_by_label("In tiles")).to_be_checked()
    screen.wait_for_load_state("networkidle")
    result = saved(screen, deliver(screen).get_by_role("link", name="Download"), tmp_path)
    package = saved(screen, screen.get_by_role("link", name="With its profiles"), tmp_path)
    command = [
        sys.executable,
        "-m",
        "plinto_cli.main",
        "recipe",
        "run",
        str(package),
        str(picture),
        str(tmp_path / "again.tif"),
    ]
    subprocess.run(
        command, check=True, cwd=tmp_path, env={**os.environ, "PLINTO_DATA": str(tmp_path / "none")}
    )
    assert (tmp_path / "again.tif").read_bytes() == result.read_bytes()
    assert np.asarray(tifffile.imread(result)).shape == (120, 160, 4)


def test_a_photographic_process_takes_rgb_and_a_table_after(
    screen: Page, picture: Path, tmp_path: Path
) -> None:
    open_deliver(screen, picture, "Photographic paper")
    expect(screen.get_by_label("Stages")).to_contain_text("none, the process takes RGB")
    plain = saved(screen, deliver(screen).get_by_role("link", name="Download"), tmp_path)
    before = tifffile.imread(plain).astype(int)
    screen.get_by_role("button", name="Colour table after").click()
    table = (
        b'TITLE "Density"\nLUT_3D_SIZE 2\n1 1 1\n0 1 1\n1 0 1\n0 0 1\n1 1 0\n0 1 0\n1 0 0\n0 0 0\n'
    )
    screen.get_by_label("Colour table after file").set_input_files(
        {"name": "d.cube", "mimeType": "text/plain", "buffer": table}
    )
    expect(screen.get_by_role("button", name="Colour table after")).to_contain_text("Density")
    after = tifffile.imread(
        saved(screen, deliver(screen).get_by_role("link", name="Download"), tmp_path)
    )
    assert np.abs(65535 - before - after).mean() < 400


def test_a_page_of_many_and_a_layered_document(screen: Page, tmp_path: Path) -> None:
    with tifffile.TiffWriter(tmp_path / "sheets.tif") as tiff:
        for shade in (30, 220):
            tiff.write(
                np.full((60, 80, 3), shade, np.uint8), photometric="rgb", resolution=(300, 300)
            )
            tiff.write(np.full((15, 20, 3), shade, np.uint8), photometric="rgb", subfiletype=1)
    screen.get_by_label("Artwork file").set_input_files(tmp_path / "sheets.tif")
    screen.get_by_role("checkbox", name="Newsprint").check()
    screen.get_by_role("button", name="Start the job").click()
    expect(screen.get_by_label("Stages")).to_contain_text("1 of 2")
    choose(screen, "Start a job with another page", "Page 2")
    screen.get_by_role("heading", name="Sheets, page 2", level=1).wait_for()
    expect(screen.get_by_label("Stages")).to_contain_text("2 of 2")
    settled(screen)

    PSDImage.frompil(Image.new("RGB", (60, 40), (200, 90, 40))).save(tmp_path / "layers.psd")
    place(screen, "Jobs")
    screen.get_by_label("Artwork file").set_input_files(tmp_path / "layers.psd")
    expect(screen.get_by_role("region", name="New job")).to_contain_text("PSD, RGB, 8 bit")
