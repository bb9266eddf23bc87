"""Colours along paths: lists made, steps put together, differences read, pictures and lists taken."""

from __future__ import annotations

import csv
import io
import json
import re
from pathlib import Path
from urllib.parse import parse_qs, quote

import numpy as np
from PIL import Image
from playwright.sync_api import Page, expect

from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.icc import Profile
from plinto_core.swatches.files import read_swatches
from steps import choose, fetched, place


def harbour(page: Page) -> None:
    """The demo's list along the demo's path."""
    place(page, "Colour paths")
    page.get_by_label("List or picture").select_option("Harbour signs (14 × Lab)")
    page.get_by_label("Kept path", exact=True).select_option("Signs on the bulletin press")
    expect(page.get_by_test_id("followed-count")).to_have_text("14 colours, step 1 to 3")


def mean(page: Page) -> float:
    expect(page.locator('main [aria-busy="true"]')).to_have_count(0)
    row = page.get_by_role("table", name="Figures of the difference").get_by_role("row")
    return float(row.first.inner_text().split()[-1])


def test_a_typed_list_goes_along_a_path_and_its_figures_are_right(screen: Page) -> None:
    place(screen, "Colour paths")
    screen.get_by_role("button", name="New list…").click()
    screen.get_by_label("A row a colour").fill("brick 50 45 35\nleaf 45 -40")
    screen.get_by_role("button", name="Make the list").click()
    expect(screen.get_by_role("alert")).to_contain_text("Row 2 does not end in 3 numbers")
    # Nothing typed is lost.
    screen.get_by_label("A row a colour").fill("brick 50 45 35\nleaf 45 -40 35\nnight 8 5 -20")
    screen.get_by_label("Name", exact=True).fill("Three of mine")
    screen.get_by_role("button", name="Make the list").click()
    expect(screen.get_by_test_id("followed-count")).to_have_text("3 colours")
    screen.get_by_label("Add a step").select_option(label="Newsprint")
    expect(screen.get_by_test_id("followed-count")).to_have_text("3 colours, step 1 to 2")
    table = screen.get_by_role("link", name="All as CSV").get_attribute("href") or ""
    origin = screen.evaluate("location.origin")
    rows = list(csv.reader(io.StringIO(fetched(screen, origin + table).decode())))
    assert rows[0] == ["Name", "1.L", "1.a", "1.b", "2.C", "2.M", "2.Y", "2.K", "2.L", "2.a", "2.b"]
    values = np.array([[float(v) for v in row[1:]] for row in rows[1:]])
    errors = delta_e_2000(values[:, :3], values[:, 7:])
    assert abs(mean(screen) - errors.mean()) < 0.01
    grid = screen.get_by_role("grid", name="Colours along the path")
    for name, error in zip(("brick", "leaf", "night"), errors, strict=True):
        row = grid.get_by_role("row", name=name)
        expect(row).to_be_visible()
        assert abs(float(row.get_by_role("gridcell").last.inner_text()) - error) < 0.011
    screen.get_by_label("Intent into step 2").select_option("perceptual")
    expect(screen).to_have_url(re.compile("perceptual"))
    expect(screen.locator('main [aria-busy="true"]')).to_have_count(0)
    screen.get_by_label("Formula of the difference").select_option("ΔE*ab (1976)")
    expect(grid.get_by_role("columnheader").last).to_contain_text("ΔE*ab")
    screen.reload()
    expect(screen.get_by_label("Intent into step 2")).to_have_value("perceptual")
    expect(screen.get_by_label("Formula of the difference")).to_have_value("1976")


def test_any_two_steps_are_compared_and_the_chosen_colour_is_one_everywhere(screen: Page) -> None:
    harbour(screen)
    whole = mean(screen)
    screen.get_by_role("radio", name="From step 2").click()
    expect(screen.get_by_test_id("followed-count")).to_have_text("14 colours, step 2 to 3")
    expect(screen.get_by_role("grid").get_by_role("columnheader").nth(3)).to_contain_text("2: C")
    assert mean(screen) != whole
    rows = screen.get_by_role("rowgroup", name="Rows")
    screen.get_by_role("columnheader", name="ΔE00").get_by_role("button").click()
    expect(screen.locator('main [aria-busy="true"]')).to_have_count(0)
    rows.focus()
    screen.keyboard.press("ArrowDown")
    worst = rows.locator('[aria-selected="true"]')
    expect(worst).to_have_count(1)
    name = worst.get_by_role("gridcell").nth(1).inner_text()
    sizes = [
        float(r.get_by_role("gridcell").last.inner_text())
        for r in rows.locator('[role="row"][aria-selected]').all()
    ]
    assert sizes == sorted(sizes, reverse=True)
    first = screen.get_by_role("listitem", name="Step 1")
    values = worst.get_by_role("gridcell").nth(2).inner_text()
    expect(screen.get_by_role("listitem", name="Step 2")).to_contain_text(values)
    screen.get_by_role("tab", name="Arrows").click()
    arrows = screen.get_by_role("img", name=re.compile("From step 2 to step 3, 14 colours"))
    expect(arrows).to_be_visible()
    before = first.inner_text()
    arrows.locator("g").nth(5).click(force=True)
    expect(first).not_to_have_text(before)
    screen.get_by_role("tab", name="Colours").click()
    screen.get_by_label("Name holds").fill("sea")
    expect(screen.get_by_text("1 shown")).to_be_visible()
    screen.get_by_label("Name holds").fill("no such colour")
    expect(screen.get_by_role("status").filter(has_text="No colour answers")).to_be_visible()
    assert name


def test_a_path_is_kept_changed_and_removed_and_comes_back(screen: Page) -> None:
    harbour(screen)
    screen.get_by_label("Add a step").select_option(label="Lab")
    expect(screen.get_by_text("Changed since it was kept")).to_be_visible()
    kept = screen.get_by_role("group", name="Kept paths")
    kept.get_by_role("button", name="Rename…").click()
    screen.get_by_label("Name of the path").fill("Signs, read back")
    kept.get_by_role("button", name="As new").click()
    expect(screen.get_by_label("Kept path", exact=True).locator("option:checked")).to_have_text(
        "Signs, read back"
    )
    expect(screen.get_by_text("Changed since it was kept")).to_have_count(0)
    kept.get_by_role("button", name="Remove Signs, read back").click()
    screen.get_by_role("button", name="Remove", exact=True).click()
    expect(
        screen.get_by_label("Kept path", exact=True).locator("option", has_text="read back")
    ).to_have_count(0)
    screen.get_by_role("button", name="Undo", exact=True).click()
    expect(
        screen.get_by_label("Kept path", exact=True).locator("option", has_text="read back")
    ).to_have_count(1)
    again = screen.get_by_label("Kept path", exact=True)
    again.select_option("Signs on the bulletin press")
    expect(screen.get_by_role("listitem", name="Step 4")).to_have_count(0)


def test_a_picture_is_seen_after_every_step_and_gives_a_list(screen: Page) -> None:
    place(screen, "Colour paths")
    screen.get_by_label("List or picture").select_option("Aurora curtain")
    screen.get_by_label("Add a step").select_option(label="Newsprint")
    expect(screen.get_by_test_id("followed-count")).to_contain_text("step 1 to 2")
    expect(screen.get_by_alt_text("The picture after step 2")).to_be_visible()
    screen.get_by_role("tab", name="Picture").click()
    origin = screen.evaluate("location.origin")

    def pixels(name: str) -> np.ndarray:
        shown = screen.get_by_role("img", name=re.compile(name)).locator("img")
        expect(shown).to_have_count(1)
        address = shown.get_attribute("src") or ""
        return np.asarray(
            Image.open(io.BytesIO(fetched(screen, origin + address))).convert("RGB"), float
        )

    before, after = pixels("^1: "), pixels("^2: Newsprint")
    assert before.shape == after.shape
    # Newsprint dulls an aurora: the spread between the channels shrinks.
    assert np.ptp(after, axis=2).mean() < 0.8 * np.ptp(before, axis=2).mean()
    # Both are looked at in one place, as near as one likes.
    second = screen.get_by_role("img", name=re.compile("^2: Newsprint"))
    whole = second.get_attribute("data-scale")
    screen.get_by_role("button", name="100 %").click()
    expect(screen.get_by_role("status", name="Size of the picture")).to_have_text("100 %")
    expect(second).to_have_attribute("data-loading", "false")
    box = json.loads(f"[{parse_qs(second.locator('img').get_attribute('src') or '')['box'][0]}]")
    part = pixels("^2: Newsprint")
    assert part.shape[:2] == (box[3], box[2])
    place_before = box[0]
    second.focus()
    screen.keyboard.press("ArrowRight")
    expect(second).to_have_attribute("data-loading", "false")
    moved = parse_qs(second.locator("img").get_attribute("src") or "")["box"][0]
    assert float(moved.split(",")[0]) > place_before
    screen.get_by_role("button", name="Whole").click()
    expect(second).to_have_attribute("data-scale", whole or "")
    # A bar of the device's outermost colours, and what both steps make of one of them.
    screen.get_by_role("button", name="Outermost colours beside it").click()
    bars = screen.get_by_role("listbox")
    expect(bars).to_have_count(2)
    bars.first.focus()
    screen.keyboard.press("ArrowDown")
    said = screen.get_by_role("group", name="Chosen colour of the bar")
    expect(said).to_contain_text("RGB: 255 64 0")
    first_lab, second_lab = (
        [float(v.replace("−", "-")) for v in text.split(": ")[1].split()]
        for text in said.locator("p").all_inner_texts()[1:3]
    )
    apart = float(said.get_by_test_id("bar-difference").inner_text().split()[0])
    assert abs(delta_e_2000(np.array([first_lab]), np.array([second_lab]))[0] - apart) < 0.1
    expect(said.get_by_role("link", name="On every condition…")).to_have_attribute(
        "href", re.compile(r"^/spots\?colour=[0-9.]+,")
    )
    screen.get_by_role("button", name="Outermost colours beside it").click()
    expect(bars).to_have_count(0)
    choose(screen, "Shown", "their difference as a map")
    picture = screen.get_by_role("img", name="1 to 2, ΔE00")
    expect(picture.locator("img")).to_be_visible()
    screen.get_by_role("button", name="Take colours from a region").click()
    region = screen.get_by_role("group", name="Region and its marks")
    box = picture.bounding_box()
    assert box is not None
    # The picture stands in the middle of its pane; the region begins at its upper left.
    scale = float(picture.get_attribute("data-scale") or 0)
    facts = screen.request.get(origin + "/api/jobs").json()
    (size,) = (j["artwork"]["facts"] for j in facts if j["name"] == "Aurora curtain")
    left_edge = box["x"] + (box["width"] - size["width"] * scale) / 2
    top_edge = box["y"] + (box["height"] - size["height"] * scale) / 2
    screen.mouse.move(left_edge + 5, top_edge + 5)
    screen.mouse.down()
    screen.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2, steps=4)
    screen.mouse.up()
    left = region.get_by_label("Left")
    assert int(left.input_value()) < 60
    region.get_by_label("Columns").fill("4")
    screen.keyboard.press("Tab")
    region.get_by_label("Rows").fill("3")
    screen.keyboard.press("Tab")
    region.get_by_role("button", name="Take 12").click()
    expect(screen.get_by_test_id("followed-count")).to_have_text("12 colours, step 1 to 2")
    expect(picture).to_have_attribute("data-marks", re.compile("^A1 .* C4$"))
    address = f"{origin}/api/colour-paths/followed"
    (listed,) = (
        one
        for one in screen.request.get(origin + "/api/swatch-lists").json()
        if one["made"].startswith("4 × 3 marks on Aurora curtain")
    )
    path = json.dumps({"steps": [{"kind": "profile", "ref": "romm"}]})
    rows = screen.request.get(address, params={"path": path, "list": listed["id"]}).json()["rows"]
    x, y = next(row["place"] for row in rows if row["name"] == "C4")
    screen.mouse.click(left_edge + x * scale, top_edge + y * scale)
    screen.get_by_role("tab", name="Colours").click()
    table = screen.get_by_role("rowgroup", name="Rows")
    expect(table.locator('[aria-selected="true"]')).to_contain_text("C4")
    # A row is changed where it stands; Escape leaves it as it was.
    screen.get_by_role("button", name="Change row").click()
    name, numbers = (
        screen.get_by_label(re.compile(f"^{part} of the row")) for part in ("Name", "Numbers")
    )
    numbers.fill("10 20")
    expect(screen.get_by_role("button", name="Put")).to_be_disabled()
    numbers.press("Escape")
    expect(name).to_have_count(0)
    table.press("Enter")
    name.fill("corner")
    numbers.fill("10 20 30")
    numbers.press("Enter")
    mine = table.locator('[aria-selected="true"]')
    expect(mine).to_contain_text("corner")
    expect(mine).to_contain_text("10.0\u200220.0\u200230.0")
    screen.get_by_label("Keep what stands after a step").select_option(label="2: Lab of Newsprint")
    expect(screen.get_by_text("is among the lists now")).to_be_visible()


def test_a_file_comes_in_and_leaves_in_another_format(screen: Page, tmp_path: Path) -> None:
    place(screen, "Colour paths")
    chart = tmp_path / "chart.txt"
    chart.write_text(
        "CGATS.17\nBEGIN_DATA_FORMAT\nSAMPLE_ID CMYK_C CMYK_M CMYK_Y CMYK_K LAB_L LAB_A LAB_B\n"
        "END_DATA_FORMAT\nBEGIN_DATA\nA1 100 0 0 0 55 -37 -50\nA2 0 100 0 0 48 74 -3\nEND_DATA\n"
    )
    screen.get_by_role("button", name="New list…").click()
    choose(screen, "Where the colours come from", "A file")
    wrong = tmp_path / "wrong.txt"
    wrong.write_bytes(b"\x00\x01\x02")
    screen.get_by_label("File of swatches").set_input_files(wrong)
    expect(screen.get_by_role("alert")).to_contain_text("not text")
    screen.get_by_label("File of swatches").set_input_files(chart)
    expect(screen.get_by_label("List or picture").locator("option:checked")).to_have_text(
        "chart, device values (2 × CMYK)"
    )
    expect(
        screen.get_by_label("List or picture").locator("option", has_text="chart, measured")
    ).to_have_count(1)
    with screen.expect_download() as waiting:
        screen.get_by_role("link", name="CxF3").click()
    (found,) = read_swatches(Path(waiting.value.path()).read_bytes())
    assert found.space == "CMYK"
    assert found.values[1].tolist() == [0, 100, 0, 0]
    screen.get_by_role("button", name="Change…").click()
    screen.get_by_label("More colours in CMYK").fill("both 100 100 0 0")
    screen.get_by_role("button", name="Change it").click()
    expect(screen.get_by_test_id("followed-count")).to_have_text("3 colours")
    rows = screen.get_by_role("rowgroup", name="Rows")
    rows.get_by_role("row", name="A2").click()
    screen.get_by_role("button", name="Take row out").click()
    expect(screen.get_by_test_id("followed-count")).to_have_text("2 colours")


def test_a_hundred_thousand_colours_scroll(screen: Page) -> None:
    place(screen, "Colour paths")
    origin = screen.evaluate("location.origin")
    token = next(c["value"] for c in screen.context.cookies() if c["name"] == "csrftoken")
    made = screen.request.post(
        f"{origin}/api/swatch-lists/ready",
        data={"kind": "chart", "profile": "srgb", "count": 21},
        headers={"X-CSRFToken": token, "Referer": origin},
    ).json()
    assert made["count"] == 9261
    text = "\n".join(f"{i % 256} {i // 256 % 256} {i // 65536 * 30}" for i in range(100_000))
    big = screen.request.post(
        f"{origin}/api/swatch-lists",
        data=json.dumps({"text": text, "space": "RGB", "name": "Very many"}),
        headers={"X-CSRFToken": token, "Referer": origin, "Content-Type": "application/json"},
    )
    assert big.status == 201, big.text()
    steps = "&".join(f"step={quote(s)}" for s in ("profile:srgb:relative", "condition:1:relative+"))
    screen.goto(f"/paths?list={big.json()['id']}&{steps}")
    expect(screen.get_by_test_id("followed-count")).to_contain_text("100\u2009000 colours")
    rows = screen.get_by_role("rowgroup", name="Rows")
    rows.evaluate("e => { e.scrollTop = e.scrollHeight }")
    expect(rows.get_by_role("row", name="100000")).to_be_visible()
    # Only what is in sight is drawn.
    assert rows.get_by_role("row").count() < 60


def test_a_path_becomes_a_link_that_a_job_is_converted_by(screen: Page) -> None:
    place(screen, "Colour paths")
    screen.get_by_label("List or picture").select_option("Aurora curtain")
    screen.get_by_label("Add a step").select_option(label="Newsprint")
    expect(screen.get_by_test_id("followed-count")).to_contain_text("step 1 to 2")
    screen.get_by_role("button", name="Save as one table…").click()
    dialog = screen.get_by_role("dialog")
    dialog.get_by_label("Total ink at most").fill("150")
    dialog.get_by_label("Description").fill("Aurora to newsprint, 150")
    dialog.get_by_role("button", name="Save", exact=True).click()
    saved = dialog.get_by_role("status", name="What was saved")
    expect(saved).to_contain_text("Aurora to newsprint, 150 is among the profiles now")
    expect(saved).to_contain_text("At most 149.9 % of ink")
    with screen.expect_download() as waiting:
        saved.get_by_role("link", name="As a file").click()
    link = Profile(Path(waiting.value.path()).read_bytes())
    assert (link.header.device_class, link.colour_space, link.header.pcs) == (
        "link",
        "RGB ",
        "CMYK",
    )
    dialog.get_by_role("button", name="Close").click()
    origin = screen.evaluate("location.origin")
    job = next(
        j for j in screen.request.get(f"{origin}/api/jobs").json() if j["name"] == "Aurora curtain"
    )
    news = next(d for d in job["destinations"] if d["condition"]["name"] == "Newsprint")
    screen.goto(f"/jobs/{job['id']}/{news['id']}/inks")
    screen.get_by_role("button", name="By a device link").click()
    with screen.expect_response(lambda r: r.request.method == "PATCH" and r.ok):
        choose(screen, "Device link", "Aurora to newsprint, 150")
    figures = screen.request.get(f"{origin}/api/destinations/{news['id']}/inks").json()
    assert figures["tac_max"] <= 150.5
    expect(screen.get_by_text(f"Highest TAC {figures['tac_max']:.0f} %")).to_be_visible()
    expect(screen.get_by_label("Own ink rules")).to_have_count(0)
    screen.get_by_label("Stages").get_by_role("button", name="Press view").click()
    expect(screen.get_by_text("A device link converts:")).to_be_visible()
    screen.get_by_role("button", name=re.compile("^Undo")).click()
    expect(screen.get_by_role("radiogroup", name="Rendering intent")).to_be_visible()
