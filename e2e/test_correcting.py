"""Correct while looking: regions, colours, curves, hues; all live and undoable."""

from __future__ import annotations

import io
from pathlib import Path

import numpy as np
from PIL import Image
from playwright.sync_api import Page, expect

from steps import fetched, settled, shown, stage, start_job


def pixels(page: Page) -> np.ndarray:
    settled(page)
    return np.asarray(Image.open(io.BytesIO(fetched(page, shown(page)))).convert("RGB")).astype(int)


def begin(page: Page, picture: Path) -> None:
    start_job(page, picture, "Sheetfed coated")
    stage(page, "Press view")
    settled(page)
    page.get_by_role("button", name="Corrections").click()
    page.get_by_role("button", name="Add a correction").click()
    expect(page.get_by_role("group", name="Correction 1")).to_be_visible()


def drag(page: Page, pane: str, start: tuple[float, float], end: tuple[float, float]) -> None:
    """Press, move and release at shares of a pane's picture."""
    box = page.locator(f'[data-pane="{pane}"] img').last.bounding_box()
    assert box
    (x0, y0), (x1, y1) = (
        (box["x"] + x * box["width"], box["y"] + y * box["height"]) for x, y in (start, end)
    )
    page.mouse.move(x0, y0)
    page.mouse.down()
    page.mouse.move(x1, y1, steps=4)
    page.mouse.up()


def press_slider(page: Page, name: str, key: str, times: int) -> None:
    slider = page.get_by_role("slider", name=name, exact=True)
    slider.focus()
    for _ in range(times):
        slider.press(key)


def test_a_rectangle_is_corrected_and_undone(screen: Page, picture: Path) -> None:
    begin(screen, picture)
    before = pixels(screen)
    screen.get_by_role("button", name="Rectangle…").click()
    expect(screen.get_by_role("status")).to_contain_text("Drag a rectangle")
    drag(screen, "original", (0.05, 0.1), (0.4, 0.9))
    expect(screen.get_by_label("Stages")).to_contain_text("in a region")
    press_slider(screen, "Lightness", "PageUp", 5)
    expect(screen.get_by_label("Stages")).to_contain_text("lightness +50")
    after = pixels(screen)
    wide = before.shape[1]
    changed = np.abs(after - before).sum(axis=2)
    assert changed[:, int(0.1 * wide) : int(0.35 * wide)].mean() > 15
    # Two ways of interpolation meet outside the region: four levels in each of three channels at most.
    assert changed[:, int(0.45 * wide) :].max() <= 12
    box = screen.locator('[data-pane="proof"] img').last.bounding_box()
    assert box
    screen.mouse.move(box["x"] + 0.2 * box["width"], box["y"] + 0.5 * box["height"])
    expect(screen.get_by_label("Readout")).to_contain_text("corrected")
    for _ in range(6):
        screen.keyboard.press("b")
    expect(screen.get_by_label("Stages")).not_to_contain_text("lightness +")
    settled(screen)


def test_polygons_colours_and_where_they_act(screen: Page, picture: Path) -> None:
    begin(screen, picture)
    screen.get_by_role("button", name="Polygon…").click()
    box = screen.locator('[data-pane="original"] img').bounding_box()
    assert box
    for x, y in ((0.2, 0.2), (0.8, 0.2), (0.5, 0.8)):
        screen.mouse.click(box["x"] + x * box["width"], box["y"] + y * box["height"])
    screen.locator('[data-pane="original"]').focus()
    screen.keyboard.press("Enter")
    rail = screen.get_by_label("Stages")
    expect(rail).to_contain_text("in a region")
    screen.get_by_role("button", name="Choose…").click()
    screen.mouse.click(box["x"] + 0.75 * box["width"], box["y"] + 0.25 * box["height"])
    expect(rail).to_contain_text("in a region, chosen colours")
    screen.get_by_label("Show where it acts").check()
    weight = pixels(screen)
    high, wide = weight.shape[:2]
    assert np.ptp(weight, axis=2).max() == 0
    assert weight[int(0.1 * high), int(0.5 * wide)].max() == 0
    assert weight[int(0.25 * high), int(0.74 * wide)].min() > 200
    screen.get_by_label("Show where it acts").uncheck()
    screen.get_by_role("button", name="Everywhere").click()
    expect(rail).to_contain_text("everywhere, chosen colours")


def test_curves_and_hues(screen: Page, picture: Path) -> None:
    begin(screen, picture)
    plain = pixels(screen)
    curve = screen.get_by_role("group", name="Master curve")
    curve.scroll_into_view_if_needed()
    box = curve.bounding_box()
    assert box
    screen.mouse.click(box["x"] + 0.5 * box["width"], box["y"] + 0.25 * box["height"])
    point = screen.get_by_role("slider", name="Point 2 of Master curve")
    expect(point).to_be_visible()
    expect(screen.get_by_label("Stages")).to_contain_text("curve")
    lifted = pixels(screen)
    assert lifted.mean() > plain.mean() + 5
    point.press("Shift+ArrowDown")
    settled(screen)
    assert pixels(screen).mean() < lifted.mean()
    screen.get_by_role("slider", name="Point 2 of Master curve").press("Delete")
    expect(screen.get_by_role("slider", name="Point 3 of Master curve")).to_have_count(0)
    screen.get_by_role("group", name="Single hues").get_by_role("button", name="blue").click()
    press_slider(screen, "Turn", "PageUp", 4)
    expect(screen.get_by_label("Stages")).to_contain_text("1 hue")
    assert np.abs(pixels(screen) - plain).mean() > 1


def test_a_widened_source(screen: Page, picture: Path) -> None:
    start_job(screen, picture, "Sheetfed coated")
    stage(screen, "Source")
    settled(screen)
    before = pixels(screen)
    screen.get_by_role("button", name="Widen the source").click()
    screen.get_by_label("Widened").check()
    press_slider(screen, "Strength", "End", 1)
    expect(screen.get_by_label("Stages")).to_contain_text("is out of the gamut of Sheetfed coated")
    after = pixels(screen)
    assert np.ptp(after, axis=2).mean() > np.ptp(before, axis=2).mean() + 2
