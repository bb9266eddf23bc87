"""The stage Inks: rules, named sets, plates, black in a region, use and cost, aids."""

from __future__ import annotations

import json
from pathlib import Path

from playwright.sync_api import Page, expect

from steps import choose, fetched, pick, removed, separation, settled, shown, stage, start_job


def open_inks(page: Page, picture: Path, condition: str = "Sheetfed coated") -> None:
    start_job(page, picture, condition)
    stage(page, "Inks")
    separation(page)
    page.get_by_label("Own ink rules").check()
    expect(page.get_by_test_id("tac-highest")).to_be_visible()
    settled(page)


def test_rules_move_the_limits_and_the_curves(screen: Page, picture: Path) -> None:
    open_inks(screen, picture)
    limits = screen.get_by_test_id("ink-limits")
    before = limits.inner_text()
    slider = screen.get_by_role("slider", name="Total area coverage")
    slider.focus()
    slider.press("Home")
    expect(limits).not_to_have_text(before)
    expect(screen.get_by_test_id("tac-highest")).to_contain_text("of 120 %")
    choose(screen, "What black does", "Makes the greys only")
    expect(screen.get_by_text("Greys get black, colours do not")).to_be_visible()
    expect(screen.get_by_label("Stages")).to_contain_text("black in greys only")
    screen.get_by_role("radio", name="red").click()
    expect(screen.get_by_role("img", name="Inks along red")).to_be_visible()
    with screen.expect_download() as waiting:
        screen.get_by_role("button", name="Inks along red as CSV").click()
    lines = Path(waiting.value.path()).read_text().splitlines()
    assert lines[0] == "L*,C,M,Y,K,print L*"
    assert len(lines) == 34


def test_limits_protection_and_named_sets(screen: Page, picture: Path) -> None:
    open_inks(screen, picture)
    screen.get_by_role("button", name="Limits of single inks").click()
    slider = screen.get_by_role("slider", name="C", exact=True)
    slider.focus()
    slider.press("PageDown")
    slider.press("PageDown")
    expect(screen.get_by_label("Stages")).to_contain_text("C 80")
    screen.get_by_role("button", name="Protection of black").click()
    screen.get_by_label("Black text in black ink").check()
    expect(screen.get_by_label("Stages")).to_contain_text("2 on")
    screen.get_by_role("button", name="Named ink rules").click()
    screen.get_by_label("Name of the ink rules").fill("Soft cyan")
    screen.get_by_role("button", name="Keep", exact=True).click()
    expect(screen.get_by_role("button", name="Named ink rules")).to_contain_text("Soft cyan")
    screen.get_by_label("Own ink rules").uncheck()
    screen.get_by_label("Own ink rules").check()
    named = screen.get_by_role("region", name="Named ink rules")
    named.get_by_role("button").first.click()
    pick(named.get_by_role("combobox"), "Soft cyan")
    expect(screen.get_by_label("Stages")).to_contain_text("C 80")
    named.get_by_role("button", name="Remove").click()
    screen.get_by_role("group", name="Remove: Soft cyan").get_by_role(
        "button", name="Remove"
    ).click()
    expect(named.get_by_role("button").first).to_contain_text("none")


def test_plates_after_the_separation(screen: Page, picture: Path) -> None:
    open_inks(screen, picture)
    before = fetched(screen, shown(screen))
    screen.get_by_role("button", name="Plates after separation").click()
    slider = screen.get_by_role("slider", name="Least dot")
    slider.focus()
    for _ in range(4):
        slider.press("PageUp")
    screen.get_by_role("slider", name="Cut below").focus()
    screen.get_by_role("slider", name="Cut below").press("End")
    expect(screen.get_by_role("button", name="Plates after separation")).to_contain_text("K")
    settled(screen)
    assert fetched(screen, shown(screen)) != before
    curve = screen.get_by_role("group", name="Curve of plate K").last
    curve.scroll_into_view_if_needed()
    box = curve.bounding_box()
    assert box
    screen.mouse.click(box["x"] + box["width"] / 2, box["y"] + box["height"] * 0.7)
    expect(screen.get_by_role("slider", name="Point 2 of Curve of plate K")).to_be_visible()
    screen.get_by_role("button", name="Untouched", exact=True).click()
    expect(screen.get_by_role("button", name="Plates after separation")).to_contain_text(
        "untouched"
    )


def test_black_is_remade_in_a_region(screen: Page, picture: Path) -> None:
    open_inks(screen, picture)
    screen.get_by_role("button", name="Black in a region").click()
    region = screen.get_by_role("region", name="Black in a region")
    region.get_by_role("button", name="Rectangle…").click()
    box = screen.locator('[data-pane="proof"] img').last.bounding_box()
    assert box
    screen.mouse.move(box["x"] + 0.3 * box["width"], box["y"] + 0.3 * box["height"])
    screen.mouse.down()
    screen.mouse.move(box["x"] + 0.7 * box["width"], box["y"] + 0.7 * box["height"], steps=4)
    screen.mouse.up()
    figure = screen.get_by_test_id("region-black")
    expect(figure).to_contain_text("→ 0 %")
    expect(figure).to_contain_text("ΔE00 mean")


def test_ink_use_and_cost_follow_size_and_copies(screen: Page, picture: Path) -> None:
    open_inks(screen, picture)
    screen.get_by_role("button", name="Ink use and cost").click()
    use = screen.get_by_test_id("ink-use")
    expect(use).to_contain_text("EUR")
    copies = screen.get_by_label("Copies")
    copies.fill("10000")
    copies.press("Enter")
    expect(use).not_to_contain_text("0.00\u00a0EUR")
    expect(screen.get_by_role("img", name="Tone values of every plate")).to_be_visible()


def test_aids_for_screens_and_flexo(screen: Page, picture: Path) -> None:
    open_inks(screen, picture, "Cotton four-screen")
    aids = screen.get_by_role("region", name="Aids for the process")
    expect(aids).to_contain_text("120 threads/cm")
    expect(aids.get_by_test_id("grain")).to_contain_text("black dots")
    before = fetched(screen, shown(screen))
    aids.get_by_label("Show dots under 3.6 % as gone").check()
    settled(screen)
    assert "break_up=3.6" in shown(screen)
    assert fetched(screen, shown(screen)) != before


def test_ink_rules_leave_as_a_file_and_come_back(screen: Page, picture: Path) -> None:
    open_inks(screen, picture)
    before = screen.get_by_test_id("tac-highest").inner_text().splitlines()[0]
    screen.get_by_role("button", name="Named ink rules").click()
    part = screen.get_by_role("region", name="Named ink rules")
    with screen.expect_download() as waiting:
        part.get_by_role("button", name="As a file").click()
    rules = json.loads(Path(waiting.value.path()).read_text())
    screen.get_by_role("slider", name="Total area coverage").focus()
    screen.keyboard.press("Home")
    expect(screen.get_by_test_id("tac-highest")).to_contain_text("of 120 %")
    file = part.get_by_label("File of ink rules")
    file.set_input_files({"name": "x.json", "mimeType": "", "buffer": b'{"tac": 20}'})
    expect(part.get_by_role("alert")).to_contain_text("tac")
    data = json.dumps({**rules, "name": "From outside"}).encode()
    file.set_input_files({"name": "rules.json", "mimeType": "", "buffer": data})
    expect(screen.get_by_test_id("tac-highest")).to_contain_text(before)
    expect(part.get_by_role("alert")).to_have_count(0)
    removed(screen, "Remove")
