"""Comparing: split, moments, corrected artwork; the screen; sample points."""

from __future__ import annotations

import csv
import re
from pathlib import Path

from playwright.sync_api import Page, expect

from steps import fetched, layout, pick, plays, settled, shown, stage, start_job


def open_press_view(page: Page, picture: Path) -> None:
    start_job(page, picture, "Sheetfed coated")
    stage(page, "Press view")
    settled(page)


def test_a_split_picture_with_a_line_to_move(screen: Page, picture: Path) -> None:
    open_press_view(screen, picture)
    layout(screen, "Split, with a line to move")
    top = screen.locator('[data-pane="proof"]')
    expect(screen.locator("[data-pane]")).to_have_count(2)
    before = top.evaluate("e => getComputedStyle(e).clipPath")
    line = screen.get_by_role("slider", name="Place of the dividing line")
    line.focus()
    line.press("PageUp")
    assert top.evaluate("e => getComputedStyle(e).clipPath") != before
    layout(screen, "One pane, flip with J")
    expect(screen.locator("[data-pane]")).to_have_count(1)
    screen.keyboard.press("j")
    expect(screen.get_by_test_id("proof-caption")).to_contain_text("Original")


def test_any_two_moments_of_the_recipe(screen: Page, picture: Path) -> None:
    open_press_view(screen, picture)
    start = fetched(screen, shown(screen))
    screen.get_by_role("radio", name="Absolute colorimetric").click()
    settled(screen)
    plays(screen, "Its paper as well")
    layout(screen, "Two moments of the recipe")
    left = screen.get_by_label("First moment")
    expect(left).to_contain_text("Moment 2: absolute colorimetric")
    plays(screen, "Its weakest black too")
    settled(screen)
    panes = screen.locator("[data-pane] img")
    assert fetched(screen, panes.first.get_attribute("src") or "") == start
    left.select_option("1")
    settled(screen)
    first, last = (fetched(screen, p.get_attribute("src") or "") for p in panes.all())
    assert first == last


def test_perceptual_is_made_here_and_seen_in_a_leaf(screen: Page, picture: Path) -> None:
    open_press_view(screen, picture)
    table = fetched(screen, shown(screen))
    screen.get_by_role("button", name="Gamut mapping").click()
    section = screen.get_by_role("region", name="Gamut mapping")
    pick(section.get_by_role("combobox", name="Perceptual is made"), "Vivid: keeps most colour")
    settled(screen)
    made = shown(screen)
    assert fetched(screen, made) != table
    plot = section.get_by_role("img", name="Lightness and chroma, greens")
    dots = plot.locator("circle").count()
    assert dots > 20
    slider = section.get_by_role("slider", name="Colourfulness")
    slider.focus()
    slider.press("PageDown")
    settled(screen)
    assert shown(screen) != made
    pick(section.get_by_role("combobox", name="Lightness against chroma of"), "Violets")
    expect(section.get_by_role("img", name="Lightness and chroma, violets")).to_be_visible()
    screen.get_by_role("radio", name="Saturation").click()
    expect(section.get_by_role("combobox", name="Perceptual is made")).to_have_count(0)
    expect(section.get_by_role("img", name="Lightness and chroma, violets")).to_be_visible()


def test_the_most_vivid_print_is_tried_and_taken(screen: Page, picture: Path) -> None:
    open_press_view(screen, picture)
    screen.get_by_role("button", name="Most vivid print…").click()
    sheet = screen.get_by_role("dialog", name="The most vivid print on Sheetfed coated")
    utmost = sheet.get_by_role("region").last
    expect(sheet.get_by_role("region", name="As it stands")).to_be_visible(timeout=60_000)
    told = utmost.get_by_role("img").get_attribute("alt") or ""
    utmost.get_by_role("button", name="Take it").click()
    expect(sheet).to_have_count(0)
    settled(screen)
    name = told.removeprefix("The print: ").split(",")[0]
    expect(screen.get_by_role("radio", name=name)).to_be_checked()
    screen.get_by_role("button", name="Undo").click()
    expect(screen.get_by_role("radio", name="Perceptual")).to_be_checked()


def test_what_an_intents_figure_means_covers_neither_picture_nor_view(
    screen: Page, picture: Path
) -> None:
    open_press_view(screen, picture)
    figure = screen.locator('[data-explained="de00_mean"]').last
    figure.hover()
    meaning = screen.get_by_role("tooltip")
    expect(meaning).to_contain_text("CIEDE2000")
    screen.wait_for_function("document.querySelector('[role=tooltip]').offsetWidth > 200")
    box, own = meaning.bounding_box(), figure.bounding_box()
    assert box
    assert own
    assert screen.viewport_size
    assert box["y"] > own["y"]
    assert box["x"] + box["width"] <= screen.viewport_size["width"]
    layout(screen, "Two moments of the recipe")


def test_the_corrected_artwork_beside_its_print(screen: Page, picture: Path) -> None:
    open_press_view(screen, picture)
    layout(screen, "Corrected artwork and press view")
    expect(screen.locator('[data-pane="corrected"]')).to_have_count(1)
    expect(screen.locator('[data-pane="proof"]')).to_have_count(1)


def test_the_screen_is_chosen_and_its_limits_shown(screen: Page, picture: Path) -> None:
    open_press_view(screen, picture)
    section = screen.get_by_role("region", name="Screen")
    section.get_by_role("button").first.click()
    plain = fetched(screen, shown(screen))
    section.get_by_label("Mark what it cannot show").check()
    settled(screen)
    assert fetched(screen, shown(screen)) != plain
    pick(section.get_by_role("combobox"), "P3 D65")
    settled(screen)
    assert b"iCCP" in fetched(screen, shown(screen))[:60]
    assert "display=p3" in shown(screen)
    expect(screen.get_by_text("Original, as a P3 screen shows it")).to_be_visible()
    section.get_by_label("Display profile file").set_input_files(
        {"name": "bad.icc", "mimeType": "application/octet-stream", "buffer": b"no profile"}
    )
    expect(section.get_by_role("alert")).to_be_visible()


def test_sample_points_stay_and_leave_as_a_swatch_list(
    screen: Page, picture: Path, tmp_path: Path
) -> None:
    open_press_view(screen, picture)
    screen.get_by_role("button", name="Sample points").click()
    box = screen.locator('[data-pane="proof"] img').last.bounding_box()
    assert box
    for number, share in enumerate((0.2, 0.7), 1):
        screen.get_by_role("button", name="Place a point…").click()
        screen.mouse.click(box["x"] + share * box["width"], box["y"] + 0.3 * box["height"])
        expect(screen.get_by_test_id("sample-point")).to_have_count(2 * number)
    table = screen.get_by_role("table", name="Sample points")
    expect(table.get_by_role("row")).to_have_count(3)
    row = table.get_by_role("row").nth(1)
    expect(row).not_to_contain_text("…")
    before = row.inner_text()
    screen.get_by_role("radio", name="Absolute colorimetric").click()
    expect(row).not_to_have_text(before)
    name = screen.get_by_label("Name of point 1")
    name.fill("horizon")
    name.press("Enter")
    expect(screen.get_by_test_id("sample-point").first).to_contain_text("horizon")
    screen.reload()
    expect(screen.get_by_test_id("sample-point").first).to_contain_text("horizon")
    with screen.expect_download() as waiting:
        screen.get_by_role("link", name="CSV", exact=True).click()
    waiting.value.save_as(tmp_path / "swatches.csv")
    rows = list(csv.DictReader((tmp_path / "swatches.csv").read_text().splitlines()))
    assert [r["name"] for r in rows] == ["horizon", "Point 2"]
    screen.get_by_role("button", name="Remove point 2").click()
    expect(table.get_by_role("row")).to_have_count(2)
    screen.get_by_role("button", name="Colours wanted…").click()
    wanted = screen.get_by_label("Colour wanted at point 1")
    wanted.fill("50 20")
    wanted.press("Enter")
    expect(screen.get_by_role("alert")).to_contain_text("no colour that can be read")
    expect(wanted).to_have_value("50 20")
    wanted.fill("50 20 -10")
    wanted.press("Enter")
    expect(screen.get_by_test_id("miss-1")).to_contain_text("ΔE")
    expect(screen.get_by_role("alert")).to_have_count(0)
    (tmp_path / "wanted.csv").write_text("Name,L,a,b\nHorizon,61,2,-3\n")
    screen.get_by_label("List of wanted colours").set_input_files(tmp_path / "wanted.csv")
    expect(wanted).to_have_value("61.00 2.00 -3.00")
    screen.get_by_role("link", name="on every condition").click()
    expect(screen.get_by_role("table", name="Builds")).to_contain_text("61.0 2.0 −3.0")


def test_saturated_bars_lie_beside_every_picture(screen: Page, picture: Path) -> None:
    open_press_view(screen, picture)
    bars = screen.get_by_role("img", name=re.compile("^Saturated colours"))
    expect(bars).to_have_count(0)
    screen.get_by_role("button", name="View, ").click()
    with screen.expect_response(re.compile("/look$")):
        screen.get_by_role("menuitem", name="Saturated bars beside the pictures").click()
    panes = screen.locator("[data-pane]")
    expect(bars).to_have_count(panes.count())
    for bar in bars.all():
        expect(bar).to_have_js_property("complete", True)
        assert bar.evaluate("image => image.naturalWidth") > 100
    before = panes.count()
    screen.reload()
    expect(bars).to_have_count(before)


def test_a_look_leaves_as_a_file_and_comes_back(screen: Page, tmp_path: Path) -> None:
    screen.get_by_label("Open Comet bag").click()
    stage(screen, "Press view")
    settled(screen)
    dark = screen.get_by_role("button", name="too dark")
    dark.click()
    expect(dark).to_have_attribute("aria-pressed", "true")
    expect(screen.get_by_test_id("proof-caption").first).to_contain_text("too dark hatched")
    screen.get_by_role("button", name="View, ").click()
    with screen.expect_download() as waiting:
        screen.get_by_role("menuitem", name="This look as a file").click()
    dark.click()
    expect(screen.get_by_role("switch", name="Out-of-gamut veil")).not_to_be_checked()
    file = screen.get_by_label("File of a look")
    file.set_input_files({"name": "x.json", "mimeType": "", "buffer": b'{"veil": "red"}'})
    expect(screen.get_by_role("alert")).to_contain_text("veil")
    file.set_input_files(
        {"name": "look.json", "mimeType": "", "buffer": Path(waiting.value.path()).read_bytes()}
    )
    expect(dark).to_have_attribute("aria-pressed", "true")
    expect(screen.get_by_role("alert")).to_have_count(0)
