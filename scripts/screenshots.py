"""Take the README's pictures from a fresh, running demo: python scripts/screenshots.py [ADDRESS]"""

from __future__ import annotations

import sys
from pathlib import Path

from playwright.sync_api import Page, expect, sync_playwright

FOLDER = Path(__file__).parents[1] / "docs" / "screenshots"


def settle(page: Page, *, readout: bool = True) -> None:
    expect(page.locator('[data-pane][data-loading="true"]')).to_have_count(0, timeout=30_000)
    page.wait_for_load_state("networkidle")
    # Figures that follow a change stand there in grey until they are known.
    expect(page.locator('[aria-busy="true"]')).to_have_count(0, timeout=60_000)
    if readout:
        box = page.locator("[data-pane]").last.bounding_box()
        assert box
        page.mouse.move(box["x"] + box["width"] * 0.42, box["y"] + box["height"] * 0.5)
        expect(page.get_by_label("Readout")).to_contain_text("ΔE00")
    page.wait_for_timeout(900)


def shoot(page: Page, name: str) -> None:
    page.wait_for_function("[...document.images].every((i) => i.complete && i.naturalWidth > 0)")
    page.screenshot(path=FOLDER / f"{name}.png")


def view(page: Page, name: str) -> None:
    page.get_by_role("button", name="View, ").click()
    page.get_by_role("menuitem", name=name).click()


GROUPS = {
    "Policies": "Print room", "Printers": "Print room", "Queue": "Print room", "Folders": "Print room",
    "Proof prints": "Print room",
    "Conditions": "Colour", "Profiles": "Colour", "Gamuts": "Colour", "Colour paths": "Colour",
    "Spot colours": "Colour", "Questions": "Colour", "House rules": "House",
}  # fmt: skip


def place(page: Page, name: str) -> None:
    """Go to a place by the links at the top."""
    group = GROUPS[name]
    page.get_by_role("navigation", name="Places").get_by_role("link", name=group).click()
    page.get_by_role("navigation", name=group).get_by_role("link", name=name, exact=True).click()


def open_job(page: Page, name: str) -> None:
    page.get_by_role("link", name="Jobs", exact=True).click()
    page.get_by_label(f"Open {name}").click()
    page.get_by_test_id("proof-caption").wait_for()


def first_stages(page: Page) -> None:
    open_job(page, "Aurora curtain")
    for number, name in enumerate(("", "", "press-view"), 1):
        page.keyboard.press(str(number))
        if not name:
            continue
        if name == "press-view":
            expect(page.get_by_label("Fit advice")).to_be_visible(timeout=30_000)
        settle(page)
        shoot(page, name)


def corrections(page: Page) -> None:
    open_job(page, "Observers’ card")
    view(page, "Side by side")
    page.get_by_role("button", name="Corrections").click()
    page.get_by_role("button", name="Add a correction").click()
    page.get_by_role("button", name="Polygon…").click()
    box = page.locator('[data-pane="original"] img').bounding_box()
    assert box
    for x, y in ((0.27, 0.2), (0.5, 0.2), (0.52, 0.86), (0.25, 0.86)):
        page.mouse.click(box["x"] + x * box["width"], box["y"] + y * box["height"])
    page.locator('[data-pane="original"]').focus()
    page.keyboard.press("Enter")
    expect(page.get_by_label("Stages")).to_contain_text("in a region")
    slider = page.get_by_role("slider", name="Lightness", exact=True)
    slider.focus()
    for _ in range(3):
        slider.press("PageUp")
    curve = page.get_by_role("group", name="Master curve")
    curve.scroll_into_view_if_needed()
    box = curve.bounding_box()
    assert box
    page.mouse.click(box["x"] + 0.55 * box["width"], box["y"] + 0.36 * box["height"])
    page.get_by_role("group", name="Correction 1").scroll_into_view_if_needed()
    settle(page)
    expect(page.get_by_text("…", exact=True)).to_have_count(0, timeout=60_000)
    shoot(page, "corrections")


def inks(page: Page) -> None:
    open_job(page, "Aurora curtain")
    page.keyboard.press("4")
    page.get_by_label("Own ink rules").check()
    expect(page.get_by_test_id("tac-highest")).to_be_visible()
    settle(page)
    shoot(page, "inks")
    page.get_by_role("button", name="Plate C").click()
    page.get_by_role("button", name="Plates after separation").click()
    page.get_by_role("button", name="Ink use and cost").click()
    page.get_by_label("Curve of plate K").last.scroll_into_view_if_needed()
    page.get_by_test_id("ink-use").scroll_into_view_if_needed()
    settle(page)
    shoot(page, "plates")
    page.get_by_role("button", name="Plate C").click()


def seven_inks(page: Page) -> None:
    """All inks of a textile printer, along a violet; the plots are open."""
    open_job(page, "Aurora curtain")
    page.get_by_role("button", name="Sheetfed coated, 1 of").click()
    page.get_by_role("menuitem", name="Polyester, seven inks").click()
    page.keyboard.press("4")
    page.get_by_role("button", name="Separation", exact=True).click()
    page.get_by_role("radio", name="violet").click()
    expect(page.get_by_role("img", name="Inks along violet")).to_be_visible(timeout=60_000)
    expect(page.get_by_test_id("ink-limits")).to_be_visible(timeout=60_000)
    settle(page)
    shoot(page, "seven-inks")
    page.get_by_role("button", name="Separation", exact=True).click()


def retarget(page: Page) -> None:
    page.get_by_role("button", name="+ Condition").click()
    page.get_by_role("menuitem", name="Cotton four-screen").first.click()
    expect(page.get_by_role("region", name="Taken over")).to_be_visible()
    expect(page.get_by_label("Fit advice")).to_be_visible(timeout=30_000)
    settle(page)


def deliver(page: Page) -> None:
    open_job(page, "Moon phases")
    page.keyboard.press("5")
    page.get_by_role("button", name="Deliver", exact=True).last.click()
    row = page.get_by_label("Deliveries").get_by_role("listitem").first
    expect(row).to_have_attribute("data-state", "done", timeout=90_000)
    settle(page)
    shoot(page, "deliver")


def colour(page: Page) -> None:
    place(page, "Conditions")
    page.get_by_role("table", name="Conditions").get_by_role("button", name="Newsprint").click()
    page.get_by_role("button", name="Copy").click()
    own = page.get_by_role("region", name="Newsprint, copy")
    expect(own.get_by_role("table", name="What each intent reaches")).to_be_visible()
    page.wait_for_timeout(500)
    shoot(page, "conditions")
    own.get_by_role("link", name="Examine the profile").click()
    page.get_by_role("button", name="How it makes greys").click()
    page.get_by_label("Another profile beside it").select_option(
        label="Sheetfed coated (simulated)"
    )
    expect(page.get_by_test_id("greys-at")).to_have_count(2)
    page.wait_for_timeout(700)
    shoot(page, "examination")


def gamuts(page: Page) -> None:
    place(page, "Gamuts")
    page.get_by_label("Add a picture").select_option("Comet bag")
    expect(page.get_by_role("table", name="Figures of the gamuts")).to_contain_text(
        "Comet bag outside", timeout=60_000
    )
    page.get_by_role("img", name="Cut at L* 50").hover()
    page.wait_for_timeout(500)
    shoot(page, "gamuts")


def paths(page: Page) -> None:
    place(page, "Colour paths")
    page.get_by_label("List or picture").select_option("Harbour signs (14 × Lab)")
    page.get_by_label("Kept path", exact=True).select_option("Signs on the bulletin press")
    expect(page.get_by_test_id("followed-count")).to_contain_text("step 1 to 3", timeout=60_000)
    page.get_by_role("rowgroup", name="Rows").get_by_role("row", name="buoy orange").click()
    page.wait_for_timeout(900)
    shoot(page, "paths")


def spots(page: Page) -> None:
    place(page, "Spot colours")
    page.get_by_label("List of measured colours").select_option(label="Harbour signs (14)")
    table = page.get_by_role("table", name="Builds")
    expect(table.get_by_text(" of 14 within").first).to_be_visible(timeout=90_000)
    expect(table.get_by_text("Seeking…")).to_have_count(0, timeout=180_000)
    table.get_by_role("button", name="harbour red on Cotton four-screen").click()
    settle(page, readout=False)
    shoot(page, "spots")


def proofs(page: Page) -> None:
    open_job(page, "Comet bag")
    page.keyboard.press("5")
    page.get_by_role("button", name="Proof print").click()
    page.get_by_role("button", name="Make a proof print").click()
    page.get_by_role("link", name="Read and judge the last proof").click()
    one = page.get_by_role("region", name="Proof of Comet bag")
    for on in ("Proofing inkjet", "Sheetfed uncoated", "Proofing inkjet"):
        one.get_by_label("Printed on").select_option(label=on)
        one.get_by_role("button", name="Print and read").click()
        page.wait_for_timeout(1500)
    one.get_by_label("Reading", exact=True).select_option(index=1)
    expect(one.get_by_test_id("verdict")).to_have_text("It fails.")
    page.mouse.move(640, 2)
    page.wait_for_timeout(500)
    shoot(page, "proofs")


def questions(page: Page) -> None:
    place(page, "Questions")
    for part, name in (("Press", "Sheetfed coated"), ("Proofer", "Sheetfed uncoated")):
        box = page.get_by_role("combobox", name=part)
        box.select_option(box.locator("option", has_text=name).first.get_attribute("value"))
    expect(page.get_by_test_id("said")).to_contain_text("beyond", timeout=30_000)
    page.mouse.move(640, 2)
    page.wait_for_timeout(500)
    shoot(page, "questions")


def policies(page: Page) -> None:
    place(page, "Policies")
    page.get_by_label("Policies", exact=True).get_by_role(
        "button", name="Strict press, Sheetfed coated"
    ).click()
    expect(page.get_by_role("group", name="Flow")).to_contain_text("Stopped", timeout=60_000)
    page.mouse.move(640, 2)  # off what explains itself under the pointer
    page.wait_for_timeout(500)
    shoot(page, "policies")
    page.get_by_role("button", name="Rules and settings").click()
    page.wait_for_timeout(300)
    shoot(page, "policy-rules")
    page.get_by_role("button", name="Hide the rules").click()
    page.get_by_label("Policies", exact=True).get_by_role(
        "button", name="Kind to office files, Sheetfed coated"
    ).click()
    page.get_by_role("tab", name="Pages and plates").click()
    page.get_by_role("button", name="Next page").click()
    page.get_by_role("radio", name="Plates").click()
    page.get_by_role("button", name="Magenta alone").click()
    expect(page.get_by_role("img", name="Magenta plate")).to_be_visible()
    page.wait_for_timeout(1500)
    shoot(page, "page-plates")


def printing(page: Page) -> None:
    place(page, "Folders")
    page.get_by_label("File for the folder").set_input_files(
        [{"name": "visitors.pdf", "mimeType": "application/pdf", "buffer": b"%PDF-1.7 cut short"}]
    )
    place(page, "Printers")
    page.get_by_role("list", name="Printers").get_by_role("button", name="Cloth printer").click()
    page.get_by_role("button", name="Print on it…").click()
    panel = page.get_by_role("region", name="Send to the printer")
    panel.get_by_label("Copies").fill("12")
    panel.get_by_role("button", name="Print", exact=True).click()
    expect(panel.get_by_role("status")).to_be_visible()
    panel.get_by_role("button", name="Queue it held").click()
    page.wait_for_timeout(800)
    page.get_by_role("list", name="Printers").get_by_role("button", name="Bulletin press").click()
    page.wait_for_timeout(500)
    shoot(page, "printers")
    place(page, "Queue")
    done = page.get_by_role("table", name="Ended").get_by_role("row", name="12 copies").first
    expect(done).to_contain_text("done in", timeout=60_000)
    ended = page.get_by_role("table", name="Ended")
    expect(ended.get_by_role("row", name="visitors.pdf").first).to_be_visible(timeout=60_000)
    done.get_by_text("12 copies").click()
    page.get_by_label("Sheet", exact=True).select_option("sheet 2")
    page.wait_for_timeout(1200)
    shoot(page, "queue")
    place(page, "Folders")
    page.wait_for_timeout(500)


def main(address: str) -> None:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(
            executable_path="/usr/bin/chromium", args=["--no-sandbox", "--disable-gpu"]
        )
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(address)
        page.get_by_role("button", name="Enter the demo").wait_for()
        page.get_by_role("button", name="Enter the demo").click()
        page.get_by_role("heading", name="Aurora curtain").wait_for()
        page.wait_for_load_state("networkidle")
        shoot(page, "jobs")
        for part in (
            first_stages,
            corrections,
            inks,
            retarget,
            seven_inks,
            deliver,
            colour,
            gamuts,
            paths,
            spots,
            questions,
            policies,
            printing,
            proofs,
        ):
            part(page)
        browser.close()


if __name__ == "__main__":
    main(sys.argv[1] if len(sys.argv) > 1 else "http://127.0.0.1:8765")
