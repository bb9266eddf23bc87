"""From the profile of one's own press to a delivered file, and what happens to conditions later."""

from __future__ import annotations

import subprocess
import sys
from pathlib import Path

from playwright.sync_api import Page, expect

from plinto_core.measurement import cmyk_chart, format_cgats
from plinto_core.simulator import CONDITIONS
from plinto_core.simulator.press import predicted_lab
from steps import place, removed, settled, stage


def make(page: Page, profile: Path, name: str) -> None:
    page.get_by_role("button", name="New condition…").click()
    page.get_by_label("Profile of a condition").set_input_files(profile)
    form = page.get_by_role("form", name="Printing condition")
    form.get_by_label("Name").fill(name)
    # The same profile under the same facts would be the same condition twice.
    form.get_by_label("Medium", exact=True).fill(f"Stock of {name}")
    form.get_by_role("button", name="Keep the condition").click()


def test_a_received_profile_becomes_a_delivered_file(
    screen: Page, received: Path, picture: Path, tmp_path: Path
) -> None:
    """Eight clicks beside the two file dialogs; the delivery equals the command line's."""
    screen.get_by_label("Artwork file").set_input_files(picture)
    screen.get_by_role("button", name="New condition…").click()
    dialog = screen.get_by_role("dialog", name="New condition")
    dialog.get_by_label("Profile of a condition").set_input_files(received)
    reached = dialog.get_by_role("table", name="What each intent reaches")
    expect(reached.get_by_role("row", name="Perceptual")).to_contain_text("%")
    expect(dialog.get_by_label("Process")).to_have_value("offset")
    tac = dialog.get_by_label("Total area coverage")
    assert 220 <= float(tac.input_value()) <= 226
    dialog.get_by_label("Name").fill("Tower three")
    dialog.get_by_role("button", name="Keep the condition").click()
    expect(screen.get_by_role("checkbox", name="Tower three")).to_be_checked()
    screen.get_by_role("button", name="Start the job").click()
    screen.get_by_role("heading", name="Plume test", level=1).wait_for()
    settled(screen)
    stage(screen, "Press view")
    expect(screen.get_by_test_id("proof-caption").first).to_contain_text("Tower three")
    stage(screen, "Deliver")
    screen.get_by_role("button", name="Deliver", exact=True).last.click()
    row = screen.get_by_label("Deliveries").get_by_role("listitem").first
    expect(row).to_have_attribute("data-state", "done", timeout=60_000)
    with screen.expect_download() as waiting:
        row.get_by_role("link", name="Download").click()
    command = [sys.executable, "-m", "plinto_cli.main", "convert", str(picture)]
    out = tmp_path / "by_hand.tif"
    subprocess.run([*command, str(out), "--to", str(received)], check=True)
    assert Path(waiting.value.path()).read_bytes() == out.read_bytes()


def test_wrong_files_are_named_and_change_nothing(screen: Page, tmp_path: Path) -> None:
    place(screen, "Conditions")
    screen.get_by_role("button", name="New condition…").click()
    file = screen.get_by_label("Profile of a condition")
    file.set_input_files({"name": "p.icc", "mimeType": "", "buffer": b"nothing of a profile" * 30})
    expect(screen.get_by_role("alert")).to_contain_text("not an ICC profile")
    file.set_input_files({"name": "c.json", "mimeType": "", "buffer": b"{}"})
    expect(screen.get_by_role("alert")).to_contain_text("not a file of a printing condition")


def test_conditions_are_searched_changed_copied_retired_and_exchanged(
    screen: Page, received: Path
) -> None:
    place(screen, "Conditions")
    make(screen, received, "Coldset for the weekly")
    own = screen.get_by_role("region", name="Coldset for the weekly")
    expect(own.get_by_role("heading", level=2)).to_be_visible()
    search = screen.get_by_label("Search conditions")
    search.fill("weekly")
    table = screen.get_by_role("table", name="Conditions")
    expect(table.get_by_role("button")).to_have_text(["Coldset for the weekly"])
    search.fill("")
    own.get_by_role("button", name="Change").click()
    form = own.get_by_role("form")
    form.get_by_label("Medium", exact=True).fill("Bulky, 49 g/m²")
    form.get_by_label("Total area coverage").fill("215")
    form.get_by_role("button", name="Keep the changes").click()
    expect(own).to_contain_text("Bulky, 49 g/m²")
    expect(table.get_by_role("row", name="Coldset for the weekly")).to_contain_text("215 %")
    with screen.expect_download() as waiting:
        own.get_by_role("link", name="As a file").click()
    file = Path(waiting.value.path())
    removed(screen, "Retire")
    expect(table).not_to_contain_text("Coldset for the weekly")
    screen.get_by_role("button", name="New condition…").click()
    screen.get_by_label("Profile of a condition").set_input_files(
        {"name": "c.json", "mimeType": "application/json", "buffer": file.read_bytes()}
    )
    expect(table.get_by_role("row", name="Coldset for the weekly")).to_contain_text("215 %")
    table.get_by_role("button", name="Sheetfed coated").click()
    shipped = screen.get_by_role("region", name="Sheetfed coated")
    expect(shipped.get_by_role("button", name="Retire")).to_have_count(0)
    shipped.get_by_role("button", name="Copy", exact=True).click()
    expect(screen.get_by_role("region", name="Sheetfed coated, copy")).to_be_visible()
    removed(screen, "Retire")


def test_a_replaced_profile_says_what_changes_and_for_what(
    screen: Page, received: Path, tmp_path: Path
) -> None:
    place(screen, "Conditions")
    screen.get_by_role("table", name="Conditions").get_by_role("button", name="Newsprint").click()
    screen.get_by_role("button", name="Copy", exact=True).click()
    own = screen.get_by_role("region", name="Newsprint, copy")
    own.get_by_role("button", name="Replace the profile…").click()
    box = own.get_by_role("group", name="Replace the profile")
    box.get_by_label("File of the new profile").set_input_files(received)
    expect(box).to_contain_text("ΔE00")
    expect(box).to_contain_text("total ink 239")
    expect(box).to_contain_text("Nothing uses the condition yet")
    box.get_by_role("button", name="Replace it").click()
    expect(own).to_contain_text("The profile is replaced")
    expect(own).to_contain_text("Coldset, three towers")
    removed(screen, "Retire")


def test_measurements_dropped_on_the_page_become_a_condition(screen: Page, tmp_path: Path) -> None:
    chart = cmyk_chart()
    lab = predicted_lab(CONDITIONS[2].model, chart)
    fields = ["CMYK_C", "CMYK_M", "CMYK_Y", "CMYK_K", "LAB_L", "LAB_A", "LAB_B"]
    rows = [[f"{v:.3f}" for v in (*d * 100, *m)] for d, m in zip(chart, lab, strict=True)]
    for row in range(600, 606):
        rows[row][4:] = rows[row - 300][4:]
    (tmp_path / "tower four.txt").write_text(format_cgats({"DESCRIPTOR": "Tower"}, fields, rows))
    place(screen, "Conditions")
    screen.get_by_role("button", name="New condition…").click()
    screen.get_by_label("Profile of a condition").set_input_files(tmp_path / "tower four.txt")
    build = screen.get_by_role("form", name="Build a profile")
    expect(build.get_by_label("Name of the profile")).to_have_value("tower four")
    build.get_by_label("Total area coverage").fill("230")
    build.get_by_role("button", name="Build the profile").click()
    expect(screen.get_by_role("progressbar", name="Building the profile")).to_be_visible()
    form = screen.get_by_role("form", name="Printing condition")
    expect(form).to_be_visible(timeout=120_000)
    expect(screen.get_by_role("region", name="New condition")).to_contain_text(
        "Fit to the measurements"
    )
    wrong = screen.get_by_role("table", name="Contradicted readings")
    expect(wrong.get_by_role("row")).to_have_count(7)
    expect(wrong.get_by_role("row").nth(1)).to_contain_text("601")
    screen.get_by_role("button", name="Build again with them").click()
    expect(build.get_by_label("Total area coverage")).to_have_value("230")
    expect(build.get_by_label("Readings that all others contradict")).to_have_value("all")
    build.get_by_role("button", name="Build the profile").click()
    expect(screen.get_by_role("group", name="Contradicted readings")).to_contain_text(
        "used all the same", timeout=120_000
    )
    assert 226 <= float(form.get_by_label("Total area coverage").input_value()) <= 230
    form.get_by_role("button", name="Keep the condition").click()
    own = screen.get_by_role("region", name="tower four")
    expect(own.get_by_role("heading", level=2)).to_be_visible()
    removed(screen, "Retire")
    place(screen, "Queue")
    expect(screen.get_by_role("table", name="Ended")).to_contain_text("tower four")
