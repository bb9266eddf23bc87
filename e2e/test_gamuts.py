"""Gamuts beside each other: chosen, cut, read, taken away, by link and by keyboard."""

from __future__ import annotations

import io
import json
import re

import numpy as np
from PIL import Image
from playwright.sync_api import Page, expect

from steps import place


def look_at(page: Page, *names: str) -> None:
    """Gamuts of conditions by their names; one's own would stand first, and others have made some."""
    origin = page.evaluate("location.origin")
    known = {c["name"]: c["id"] for c in page.request.get(f"{origin}/api/conditions").json()}
    page.goto(f"{origin}/gamuts?" + "&".join(f"of=condition:{known[n]}" for n in names))
    figures = page.get_by_role("table", name="Figures of the gamuts")
    expect(figures).to_contain_text(names[0], timeout=60_000)


def test_two_conditions_stand_there_first(screen: Page) -> None:
    place(screen, "Gamuts")
    pairs = screen.get_by_role("table", name="One gamut on another")
    expect(pairs.get_by_role("row")).to_have_count(3, timeout=60_000)


def test_a_picture_is_laid_over_and_a_link_brings_all_back(screen: Page) -> None:
    look_at(screen, "Sheetfed coated", "Sheetfed uncoated")
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


def test_a_list_of_colours_is_laid_over(screen: Page) -> None:
    look_at(screen, "Sheetfed coated", "Newsprint")
    figures = screen.get_by_role("table", name="Figures of the gamuts")
    expect(figures).to_contain_text("Sheetfed coated, TAC 320 %", timeout=60_000)
    screen.get_by_label("Add a list of colours").select_option("Harbour signs (14)")
    expect(figures).to_contain_text("Harbour signs outside", timeout=60_000)
    expect(screen.locator("svg circle").first).to_be_visible()
    expect(screen).to_have_url(re.compile(r"of=list"))
    # What is chosen in the table is seen in the plots, and the other way.
    table = screen.get_by_role("rowgroup", name="Colours")
    table.focus()
    screen.keyboard.press("ArrowDown")
    first = table.get_by_role("row", selected=True)
    expect(first).to_contain_text("outside")
    expect(screen.locator("svg [data-chosen]")).to_have_count(2)
    expect(screen.get_by_role("img", name="Cut at L* 63")).to_be_visible()
    cut = screen.get_by_role("img", name=re.compile("^Cut at L"))
    other = cut.locator("circle[stroke-width='1']").first
    spot = other.bounding_box()
    assert spot is not None
    named = first.inner_text()
    screen.mouse.click(spot["x"] + spot["width"] / 2, spot["y"] + spot["height"] / 2)
    expect(table.get_by_role("row", selected=True)).not_to_have_text(named)
    screen.get_by_role("button", name=re.compile("^Take Harbour signs")).click()
    expect(figures).not_to_contain_text("Harbour signs")


def test_cuts_move_by_keyboard_and_by_a_click_and_are_read(screen: Page) -> None:
    look_at(screen, "Sheetfed coated", "Sheetfed uncoated")
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


def test_bodies_stand_in_space_turn_by_keyboard_and_go_out_as_files(screen: Page) -> None:
    look_at(screen, "Sheetfed coated", "Newsprint")
    screen.get_by_role("tab", name="Bodies in space").click()
    space = screen.get_by_role("application", name=re.compile("^Gamuts in space"))
    expect(space.locator("canvas")).to_be_visible(timeout=60_000)
    screen.wait_for_function(
        "() => document.querySelector('canvas[data-engine]') !== null", timeout=60_000
    )
    screen.wait_for_timeout(500)  # drawn on demand, in the frame after it was asked for
    before = np.asarray(Image.open(io.BytesIO(space.screenshot())).convert("RGB")).astype(int)
    assert np.ptp(before, axis=2).max() > 60, "nothing coloured was drawn"
    space.focus()
    for _ in range(4):
        screen.keyboard.press("ArrowRight")
    expect(space).to_have_attribute("data-azimuth", "48")
    screen.wait_for_timeout(500)
    after = np.asarray(Image.open(io.BytesIO(space.screenshot())).convert("RGB")).astype(int)
    assert (np.abs(after - before).max(axis=2) > 30).mean() > 0.01
    with screen.expect_download() as waiting:
        screen.get_by_role("button", name="glTF").click()
    model = json.loads(waiting.value.path().read_text())
    assert len(model["meshes"]) >= 2
    screen.get_by_label("How Sheetfed coated is drawn").select_option("hidden")
    with screen.expect_download() as waiting:
        screen.get_by_role("button", name="PNG").click()
    assert waiting.value.path().read_bytes().startswith(b"\x89PNG")


def test_what_does_not_print_is_marked_in_space_and_found_in_the_picture(screen: Page) -> None:
    look_at(screen, "Newsprint")
    screen.get_by_label("Add a picture").select_option("Aurora curtain")
    figures = screen.get_by_role("table", name="Figures of the gamuts")
    expect(figures).to_contain_text("Aurora curtain outside", timeout=60_000)
    plane = screen.get_by_role("img", name="Cut at L* 50")
    box = plane.bounding_box()
    assert box
    # A green blue, of which the picture has much.
    plane.click(position={"x": box["width"] * 0.3, "y": box["height"] * 0.55})
    found = screen.get_by_role("group", name="Where it is in the picture")
    expect(found).to_contain_text(re.compile(r"[1-9][0-9.]* % of it lies within 6"))
    expect(found.get_by_role("img")).to_be_visible()
    plane.click(position={"x": box["width"] * 0.85, "y": box["height"] * 0.4})
    expect(found).to_contain_text("None of it lies within")
    found.get_by_role("button", name="Close").click()
    expect(found).to_have_count(0)

    screen.get_by_role("tab", name="Bodies in space").click()
    space = screen.get_by_role("application")
    expect(space.locator("canvas")).to_be_visible()
    before = space.screenshot()
    screen.get_by_label("Unprintable marked for").select_option("Newsprint")
    expect(screen.get_by_role("status").filter(has_text="%")).to_be_visible()
    screen.wait_for_timeout(500)
    assert space.screenshot() != before
