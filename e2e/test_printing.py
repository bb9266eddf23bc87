"""Printers, the guard, the queue, watched folders and access for scripts, on their screens."""

from __future__ import annotations

import json
import urllib.request
from pathlib import Path

import pikepdf
import pytest
from playwright.sync_api import Page, expect

from steps import place


@pytest.fixture
def leaf(tmp_path: Path) -> Path:
    """A PDF of one page with RGB and CMYK, new in every test."""
    path = tmp_path / f"leaf-{tmp_path.name[-6:]}.pdf"
    with pikepdf.new() as pdf:
        pdf.add_blank_page(page_size=(300, 200))
        drawn = f"0.2 0.7 0.{abs(hash(path)) % 9} rg 20 20 100 100 re f 0.5 0.1 0 0 k 150 20 100 100 re f"
        pdf.pages[0].Contents = pikepdf.Stream(pdf, drawn.encode())
        pdf.docinfo["/Title"] = path.name
        pdf.save(path)
    return path


def printer(page: Page, name: str) -> None:
    place(page, "Printers")
    page.get_by_role("list", name="Printers").get_by_role("button", name=name).click()
    expect(page.get_by_label("Name of the printer")).to_have_value(name)


def test_the_guard_refuses_twice_and_never_and_says_what_to_do(screen: Page) -> None:
    printer(screen, "Bulletin press")
    way = screen.get_by_role("group", name="Who manages colour")
    expect(way.get_by_role("alert")).to_contain_text("managed twice: by Plinto and by the RIP")
    expect(screen.get_by_role("button", name="Print on it…")).to_be_disabled()
    screen.get_by_role("button", name="Edit").click()
    guard = screen.get_by_role("status", name="The guard")
    expect(guard).to_contain_text("Switch colour management off in the RIP")
    screen.get_by_label("Policy", exact=True).select_option("none, pass files on")
    expect(guard).to_contain_text("says that Plinto manages colour, but the RIP does")
    screen.get_by_label("Colour in the RIP").select_option("off")
    expect(guard).to_contain_text("Colour would never be managed")
    screen.get_by_label("Policy", exact=True).select_option("Strict press, Newsprint")
    expect(guard).not_to_contain_text("Refused")
    screen.get_by_label("Drying").fill("15")
    screen.get_by_role("button", name="Keep the medium").click()
    expect(screen.get_by_role("button", name="Print on it…")).to_be_enabled()
    expect(screen.get_by_role("region", name="Newsprint, 45 g/m²")).to_contain_text("15 min")


def test_a_document_goes_through_the_queue_to_the_printed_sheet(screen: Page, leaf: Path) -> None:
    printer(screen, "Sheetfed press")
    screen.get_by_role("button", name="Print on it…").first.click()
    panel = screen.get_by_role("region", name="Send to the printer")
    panel.get_by_label("File to print").set_input_files(leaf)
    expect(panel.get_by_label("What to print")).to_contain_text(leaf.name)
    panel.get_by_label("Copies").fill("50")
    panel.get_by_role("button", name="Queue it held").click()
    expect(panel.get_by_role("status")).to_contain_text("is in the queue of Sheetfed press")
    panel.get_by_role("link", name="See the queue").click()
    under = screen.get_by_role("table", name="Under way")
    row = under.get_by_role("row", name=leaf.name)
    expect(row).to_contain_text("held")
    row.get_by_label("Priority of").select_option("urgent")
    row.get_by_role("button", name="Release").click()
    ended = screen.get_by_role("table", name="Ended").get_by_role("row", name=leaf.name).first
    expect(ended).to_contain_text("done in", timeout=60_000)
    ended.get_by_text("50 copies").click()
    record = screen.get_by_role("region", name="On record")
    expect(record).to_contain_text("1 × 50")
    expect(record).to_contain_text("ΔE00")
    sheet = record.get_by_role("img", name="The printed sheet")
    expect(sheet).to_be_visible()
    record.get_by_label("What of it").select_option("Cyan plate")
    expect(record.get_by_role("img", name="Cyan plate")).to_be_visible()
    with screen.expect_download() as waiting:
        record.get_by_role("link", name="Report").click()
    report = json.loads(Path(waiting.value.path()).read_text())
    assert report["copies"] == 50
    assert report["policy"]["flow"]


def test_a_paused_printer_keeps_its_queue_and_cancelled_work_is_tried_again(
    screen: Page, leaf: Path
) -> None:
    printer(screen, "Cloth printer")
    screen.get_by_role("button", name="Pause").click()
    expect(screen.get_by_role("list", name="Printers")).to_contain_text("paused")
    screen.get_by_role("button", name="Print on it…").click()
    panel = screen.get_by_role("region", name="Send to the printer")
    panel.get_by_label("File to print").set_input_files(leaf)
    expect(panel.get_by_label("What to print")).to_contain_text(leaf.name)
    panel.get_by_role("button", name="Print", exact=True).click()
    place(screen, "Queue")
    row = screen.get_by_role("table", name="Under way").get_by_role("row", name=leaf.name)
    expect(row).to_contain_text("waiting")
    row.get_by_role("button", name="Cancel").click()
    ended = screen.get_by_role("table", name="Ended").get_by_role("row", name=leaf.name)
    expect(ended).to_contain_text("cancelled")
    ended.get_by_role("button", name="Try again").click()
    expect(row).to_contain_text("waiting")
    printer(screen, "Cloth printer")
    screen.get_by_role("button", name="Let it go on").click()
    place(screen, "Queue")
    expect(ended).to_contain_text("done in", timeout=60_000)


def test_a_file_dropped_into_a_watched_folder_comes_out_with_its_report(
    screen: Page, leaf: Path
) -> None:
    place(screen, "Folders")
    into = Path(screen.get_by_text("/in", exact=False).first.text_content() or "")
    (into / leaf.name).write_bytes(leaf.read_bytes())
    files = screen.get_by_role("table", name="Files")
    row = files.get_by_role("row", name=leaf.name)
    expect(row).to_contain_text("out/", timeout=60_000)
    made = f"{leaf.stem}_kind-to-office-files-sheetfed-coated.pdf"
    with pikepdf.open(into.parent / "out" / made) as pdf:
        assert len(pdf.pages) == 1
    report = json.loads((into.parent / "out" / f"{made}.report.json").read_text())
    assert report["document"] == leaf.name
    assert (into.parent / "originals" / leaf.name).exists()

    screen.get_by_label("File for the folder").set_input_files(
        {"name": f"again-{leaf.name}", "mimeType": "application/pdf", "buffer": leaf.read_bytes()}
    )
    again = files.get_by_role("row", name=f"again-{leaf.name}")
    expect(again).to_contain_text("It was not run again", timeout=60_000)
    broken = f"broken-{leaf.name}"
    (into / broken).write_bytes(b"%PDF-1.7 nothing in here")
    failed = files.get_by_role("row", name=broken)
    expect(failed).to_contain_text("damaged or no PDF", timeout=60_000)
    for _ in range(50):
        if (into.parent / "failed" / f"{broken}.reason.txt").exists():
            break
        screen.wait_for_timeout(200)
    assert (into.parent / "failed" / broken).exists()


def test_a_new_folder_sends_on_to_a_printer(screen: Page, leaf: Path) -> None:
    place(screen, "Folders")
    screen.get_by_role("button", name="New folder").click()
    form = screen.get_by_role("form", name="Folder being edited")
    form.get_by_label("Name of the folder").fill("To the press")
    form.get_by_role("button", name="Keep the folder").click()
    expect(form.get_by_role("alert")).to_contain_text("Choose a policy for the folder")
    form.get_by_label("Medium of the folder").select_option(
        "Sheetfed press, Gloss coated, 135 g/m²"
    )
    form.get_by_role("button", name="Keep the folder").click()
    expect(screen.get_by_role("heading", name="To the press")).to_be_visible()
    screen.get_by_label("File for the folder").set_input_files(leaf)
    expect(screen.get_by_role("table", name="Files")).to_contain_text("out/", timeout=60_000)
    place(screen, "Queue")
    ended = screen.get_by_role("table", name="Ended")
    print_row = ended.get_by_role("row", name=leaf.name).filter(has_text="Gloss coated")
    expect(print_row).to_contain_text("done in", timeout=60_000)


def test_a_script_signs_in_with_a_token_made_on_the_account_page(
    screen: Page, address: str
) -> None:
    screen.get_by_role("button", name="demo").click()
    screen.get_by_role("menuitem", name="Access for scripts…").click()
    screen.get_by_role("button", name="Make a").click()
    key = screen.get_by_test_id("token").text_content() or ""
    request = urllib.request.Request(
        f"{address}/api/printers", headers={"Authorization": f"Token {key}"}
    )
    names = {p["name"] for p in json.loads(urllib.request.urlopen(request, timeout=20).read())}
    assert "Sheetfed press" in names
    screen.get_by_role("button", name="Make it void").click()
    expect(screen.get_by_text("scripts cannot sign in")).to_be_visible()
