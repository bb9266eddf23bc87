"""What a person does on the screens, for the browser tests."""

from __future__ import annotations

import re
from pathlib import Path

from playwright.sync_api import Locator, Page, expect


def settled(page: Page) -> None:
    """Wait until every pane shows the picture it last asked for."""
    expect(page.locator('[data-pane][data-loading="true"]')).to_have_count(0)
    page.wait_for_load_state("networkidle")


def region(url: str) -> str:
    return url.split("&x=")[1].split("&columns")[0]


def regions_agree(page: Page, before: str) -> None:
    """Wait until every pane shows one and the same region, another than before."""
    for _ in range(100):
        found = {
            region(i.get_attribute("src") or "") for i in page.locator("[data-pane] img").all()
        }
        if len(found) == 1 and before not in found:
            return
        page.wait_for_timeout(200)
    raise AssertionError(f"the panes show different regions: {found}")


def start_job(page: Page, picture: Path, *conditions: str) -> None:
    page.get_by_label("Artwork file").set_input_files(picture)
    for name in conditions:
        page.get_by_role("checkbox", name=name).check()
    page.get_by_role("button", name="Start the job").click()
    page.get_by_role("heading", name="Plume test", level=1).wait_for()
    layout(page, "Side by side")


def shown(page: Page, pane: str = "proof") -> str:
    return page.locator(f'[data-pane="{pane}"] img').last.get_attribute("src") or ""


def fetched(page: Page, url: str) -> bytes:
    return page.request.get(url).body()


GROUPS = {
    "Jobs": "Jobs", "Policies": "Print room", "Printers": "Print room", "Queue": "Print room", "Proof prints": "Print room",
    "Folders": "Print room", "Conditions": "Colour", "Profiles": "Colour", "Gamuts": "Colour", "Colour paths": "Colour", "Spot colours": "Colour", "Questions": "Colour",
    "House rules": "House",
}  # fmt: skip


def place(page: Page, name: str) -> None:
    """Go to a place by the links at the top."""
    group = GROUPS[name]
    page.get_by_role("navigation", name="Places").get_by_role("link", name=group).click()
    if group != name:
        row = page.get_by_role("navigation", name=group)
        row.get_by_role("link", name=name, exact=True).click()


def separation(page: Page) -> None:
    """Open the plots of the separation, which are folded in low windows."""
    button = page.get_by_role("button", name="Separation", exact=True)
    if button.get_attribute("aria-expanded") == "false":
        button.click()


def stage(page: Page, name: str) -> None:
    page.get_by_label("Stages").get_by_role("button", name=name).first.click()


def layout(page: Page, name: str) -> None:
    page.get_by_role("button", name="View, ").click()
    page.get_by_role("menuitem", name=name).click()
    settled(page)


def choose(page: Page | Locator, label: str, option: str | re.Pattern[str]) -> None:
    """Choose from a list by what an option says, or begins with saying."""
    pick(page.get_by_role("combobox", name=label, exact=True), option)


def pick(box: Locator, option: str | re.Pattern[str]) -> None:
    found = box.locator("option", has_text=option).first
    expect(found).to_be_attached()
    box.select_option(found.get_attribute("value"))


def plays(page: Page, what: str) -> None:
    """Choose what the screen plays of the print."""
    choose(page, "What the screen plays", what)


def removed(page: Page, label: str) -> None:
    """Remove what is open, having read what leans on it."""
    page.get_by_role("button", name=label, exact=True).first.click()
    page.get_by_role("group", name=f"{label}: ").get_by_role("button", name=label).click()
    expect(page.get_by_role("status", name="Removed")).to_be_visible()


def open_policy(page: Page, name: str) -> None:
    """A policy on the demo's document, its dry run done."""
    place(page, "Policies")
    page.get_by_label("Policies", exact=True).get_by_role("button", name=name).click()
    page.get_by_label("Document", exact=True).select_option("star-atlas.pdf")
    expect(page.get_by_role("group", name="Flow")).to_be_visible(timeout=60_000)
