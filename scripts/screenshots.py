"""Take the README's pictures from a running demo: python scripts/screenshots.py [ADDRESS]"""

from __future__ import annotations

import sys
from pathlib import Path

from playwright.sync_api import Page, expect, sync_playwright

FOLDER = Path(__file__).parents[1] / "docs" / "screenshots"
STAGES = ("artwork", "source", "press-view", "inks", "deliver")


def settle(page: Page) -> None:
    expect(page.locator('[data-pane][data-loading="true"]')).to_have_count(0)
    page.wait_for_load_state("networkidle")
    box = page.locator('[data-pane="proof"]').bounding_box()
    assert box
    page.mouse.move(box["x"] + box["width"] * 0.42, box["y"] + box["height"] * 0.5)
    expect(page.get_by_label("Readout")).to_contain_text("ΔE00")
    page.wait_for_timeout(700)


def main(address: str) -> None:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(
            executable_path="/usr/bin/chromium", args=["--no-sandbox"]
        )
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(address)
        page.get_by_role("button", name="Enter the demo").wait_for()
        page.screenshot(path=FOLDER / "sign-in.png")
        page.get_by_role("button", name="Enter the demo").click()
        page.get_by_role("heading", name="Aurora curtain").wait_for()
        page.wait_for_load_state("networkidle")
        page.screenshot(path=FOLDER / "jobs.png")
        page.get_by_label("Open Aurora curtain").click()
        page.get_by_test_id("proof-caption").wait_for()
        for number, name in enumerate(STAGES, 1):
            page.keyboard.press(str(number))
            if name == "inks":
                rules = page.get_by_label("Own ink rules")
                rules.check()
                expect(page.get_by_test_id("tac-highest")).to_be_visible()
            if name == "press-view":
                expect(page.get_by_label("Fit advice")).to_be_visible(timeout=30_000)
            if (
                name == "deliver"
                and page.get_by_label("Deliveries").get_by_role("listitem").count() == 0
            ):
                page.get_by_role("button", name="Deliver", exact=True).last.click()
                row = page.get_by_label("Deliveries").get_by_role("listitem").first
                expect(row).to_have_attribute("data-state", "done", timeout=60_000)
            settle(page)
            page.screenshot(path=FOLDER / f"{name}.png")
        page.keyboard.press("4")
        page.get_by_label("Own ink rules").uncheck()
        page.wait_for_load_state("networkidle")
        browser.close()


if __name__ == "__main__":
    main(sys.argv[1] if len(sys.argv) > 1 else "http://127.0.0.1:8765")
