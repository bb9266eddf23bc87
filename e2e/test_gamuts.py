"""Gamuts beside each other: chosen, cut, read, taken away, by link and by keyboard."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from steps import place


def test_two_conditions_stand_there_first_and_a_picture_is_laid_over(screen: Page) -> None:
    place(screen, "Gamuts")
    figures = screen.get_by_role("table", name="Figures of the gamuts")
    expect(figures).to_contain_text("Sheetfed coated, TAC 320 %", timeout=60_000)
    pairs = screen.get_by_role("table", name="One gamut on another")
    expect(pairs.get_by_role("row")).to_have_count(3)
    screen.get_by_label("Add a picture").select_option("Aurora curtain")
    expect(figures).to_contain_text("Aurora curtain outside", timeout=60_000)
    expect(screen.locator("svg circle").first).to_be_visible()
    expect(screen).to_have_url(re.compile(r"of=picture"))
    screen.reload()
    expect(figures).to_contain_text("Aurora curtain outside", timeout=60_000)


def test_cuts_move_by_keyboard_and_by_a_click_and_are_read(screen: Page) -> None:
    place(screen, "Gamuts")
    screen.get_by_role("slider", name="Cut at L*").focus()
    screen.keyboard.press("ArrowRight")
    cut = screen.get_by_role("img", name="Cut at L* 51")
    expect(cut).to_be_visible(timeout=60_000)
    cut.hover()
    said = screen.get_by_role("status", name="Under the pointer")
    expect(said).to_contain_text("L* 51.0")
    expect(said).to_contain_text("Sheetfed coated: inside")
    box = cut.bounding_box()
    assert box is not None
    cut.click(position={"x": box["width"] / 2, "y": box["height"] * 0.2})
    expect(
        screen.get_by_role("img", name=re.compile(r"Leaf at hue (8[89]|9[01])°"))
    ).to_be_visible()


def test_a_way_of_looking_and_a_total_hold_for_all_and_nothing_is_empty(screen: Page) -> None:
    place(screen, "Conditions")
    screen.get_by_role("button", name=re.compile("^Sheetfed coated")).first.click()
    screen.get_by_role("link", name="Gamut", exact=True).click()
    figures = screen.get_by_role("table", name="Figures of the gamuts")
    expect(figures).to_contain_text("sRGB", timeout=60_000)
    held = screen.get_by_label("Inks held to")
    held.fill("200")
    held.press("Enter")
    expect(figures).to_contain_text("Sheetfed coated, TAC 200 %", timeout=60_000)
    for name in ("Take Sheetfed coated out", "Take sRGB out"):
        screen.get_by_role("button", name=name).click()
    expect(screen.get_by_text("Add a condition or a profile on the left")).to_be_visible()
