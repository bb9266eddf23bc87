"""A picture's whole way through the real interface, checked against the core at the end."""

from __future__ import annotations

import json
from pathlib import Path

import numpy as np
import tifffile
from playwright.sync_api import Page, expect

from plinto_core.colorimetry import delta_e_2000
from plinto_core.icc import Profile
from plinto_core.recipes import parse_recipe
from plinto_core.recipes.route import route_for
from plinto_core.transform import lab_of_device
from plinto_core.transform.standard_spaces import standard_profile
from steps import (
    choose,
    fetched,
    layout,
    plays,
    region,
    regions_agree,
    settled,
    shown,
    stage,
    start_job,
)


def test_from_import_to_a_checked_file(screen: Page, picture: Path, tmp_path: Path) -> None:
    start_job(screen, picture, "Newsprint", "Sheetfed coated")
    rail = screen.get_by_label("Stages")
    for fact in ("160 × 120", "254 ppi", "16.0 × 12.0 mm", "RGB, 16 bit"):
        expect(rail).to_contain_text(fact)
    expect(rail).to_contain_text("opRGB, embedded and kept")

    screen.get_by_label("Conditions of this job").get_by_role("button", name="Newsprint").click()
    stage(screen, "Press view")
    settled(screen)
    caption = screen.get_by_test_id("proof-caption")
    expect(caption).to_have_text("Newsprint, perceptual")
    proof = shown(screen)
    screen.keyboard.press("j")
    expect(caption).to_contain_text("Original")
    settled(screen)
    assert "pane=original" in (screen.locator("[data-pane] img").last.get_attribute("src") or "")
    screen.keyboard.press("j")
    expect(caption).to_have_text("Newsprint, perceptual")

    screen.get_by_role("radio", name="Relative colorimetric").click()
    expect(caption).to_have_text("Newsprint, relative colorimetric")
    settled(screen)
    assert fetched(screen, shown(screen)) != fetched(screen, proof)

    stage(screen, "Inks")
    screen.get_by_label("Own ink rules").check()
    highest = screen.get_by_test_id("tac-highest")
    expect(highest).to_contain_text("of 240 %")
    slider = screen.get_by_role("slider", name="Total area coverage")
    slider.focus()
    for _ in range(4):
        slider.press("PageDown")
    slider.press("ArrowLeft")
    tac = float(slider.get_attribute("aria-valuenow") or 0)
    assert tac == 199
    expect(highest).to_contain_text("of 199 %")
    settled(screen)
    screen.get_by_role("button", name="Show where").click()
    expect(screen.get_by_test_id("tac-mark").first).to_be_visible()

    stage(screen, "Deliver")
    screen.get_by_role("button", name="Deliver", exact=True).last.click()
    row = screen.get_by_label("Deliveries").get_by_role("listitem").first
    expect(row).to_have_attribute("data-state", "done", timeout=90_000)
    with screen.expect_download() as waiting:
        row.get_by_role("link", name="Download").click()
    assert waiting.value.suggested_filename == "plume_test_newsprint.tif"
    result = tmp_path / "result.tif"
    waiting.value.save_as(result)
    with screen.expect_download() as waiting:
        screen.get_by_role("link", name="Recipe as a file").click()
    waiting.value.save_as(tmp_path / "recipe.json")
    check_against_the_core(result, tmp_path / "recipe.json", picture, tac)


def check_against_the_core(result: Path, recipe_file: Path, picture: Path, tac: float) -> None:
    recipe = parse_recipe(json.loads(recipe_file.read_text()))
    assert recipe.intent == "relative"
    with tifffile.TiffFile(result) as file:
        page = file.pages[0]
        pixels = page.asarray()
        press = Profile(page.tags[34675].value)
        assert page.photometric.name == "SEPARATED"
    assert press.digest == recipe.destination
    assert press.colour_space == "CMYK"
    assert pixels.shape == (120, 160, 4)
    assert pixels.dtype == np.uint16
    inks = pixels.reshape(-1, 4) / 65535
    assert inks.sum(axis=1).max() * 100 <= tac + 0.5
    device = tifffile.imread(picture).reshape(-1, 3) / 65535
    exact = route_for(recipe, standard_profile("oprgb"), press).inks(device)
    error = delta_e_2000(lab_of_device(press, inks), lab_of_device(press, exact))
    assert error.mean() < 0.15
    assert np.percentile(error, 99) < 0.6


def test_dropping_a_file_and_a_damaged_one(screen: Page, picture: Path) -> None:
    drop = """([name, bytes]) => {
        const data = new DataTransfer();
        data.items.add(new File([new Uint8Array(bytes)], name));
        const target = document.querySelector('main > div');
        target.dispatchEvent(new DragEvent('dragover', {dataTransfer: data, bubbles: true}));
        target.dispatchEvent(new DragEvent('drop', {dataTransfer: data, bubbles: true}));
    }"""
    data = picture.read_bytes()
    screen.evaluate(drop, ["broken.tif", list(data[: len(data) // 3])])
    panel = screen.get_by_role("region", name="New job")
    expect(panel.get_by_role("alert")).to_contain_text("ends inside its pixels")
    panel.get_by_role("button", name="Close").click()
    screen.evaluate(drop, ["whole.tif", list(data)])
    expect(screen.get_by_role("region", name="New job")).to_contain_text("opRGB, embedded")


def test_numbers_follow_the_pointer_and_the_recipe(screen: Page) -> None:
    screen.get_by_label("Open Aurora curtain").click()
    settled(screen)
    box = screen.locator('[data-pane="proof"]').bounding_box()
    assert box
    screen.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    readout = screen.get_by_label("Readout")
    expect(readout).to_contain_text("ΔE00")
    before = readout.get_by_test_id("print-lab").inner_text()
    screen.get_by_role("radio", name="Saturation").click()
    expect(readout.get_by_test_id("print-lab")).not_to_have_text(before)
    layout(screen, "Side by side")
    expect(screen.locator('[data-pane="original"]')).to_have_count(1)


def test_undo_survives_a_reload(screen: Page) -> None:
    screen.get_by_label("Open Moon phases").click()
    expect(screen.get_by_test_id("proof-caption")).to_contain_text("Sheetfed coated, perceptual")
    screen.keyboard.press("r")
    expect(screen.get_by_test_id("proof-caption")).to_contain_text(
        "Sheetfed coated, relative colorimetric"
    )
    expect(screen.get_by_role("button", name="Undo (B)")).to_be_enabled()
    screen.reload()
    expect(screen.get_by_test_id("proof-caption")).to_contain_text(
        "Sheetfed coated, relative colorimetric"
    )
    screen.keyboard.press("b")
    expect(screen.get_by_test_id("proof-caption")).to_contain_text("Sheetfed coated, perceptual")
    screen.keyboard.press("n")
    expect(screen.get_by_test_id("proof-caption")).to_contain_text(
        "Sheetfed coated, relative colorimetric"
    )


def test_veil_paper_and_source(screen: Page, received: Path, tmp_path: Path) -> None:
    screen.get_by_label("Open Comet bag").click()
    settled(screen)
    plain = fetched(screen, shown(screen))
    screen.keyboard.press("g")
    expect(screen.get_by_label("Out-of-gamut veil")).to_be_checked()
    plays(screen, "Its paper as well")
    settled(screen)
    assert "veil=" in shown(screen)
    assert "plays=paper" in shown(screen)
    assert fetched(screen, shown(screen)) != plain
    stage(screen, "Source")
    expect(screen.get_by_label("Stages")).to_contain_text("No profile is embedded")
    screen.get_by_label("Assign another profile").check()
    # Nothing is assigned before one is chosen.
    assigned = screen.get_by_label("Assigned profile")
    expect(assigned).to_have_value("")
    expect(screen.get_by_label("Stages")).not_to_contain_text(", assigned")
    expect(assigned.locator("optgroup").first).to_have_attribute("label", "Likely")
    screen.get_by_label("Profile to assign").set_input_files(received)
    expect(screen.get_by_label("Stages")).to_contain_text("is for CMYK, and the artwork is RGB")
    own = bytearray(standard_profile("romm").data)
    own[24:26] = (2019).to_bytes(2, "big")
    (tmp_path / "camera.icc").write_bytes(own)
    screen.get_by_label("Profile to assign").set_input_files(tmp_path / "camera.icc")
    expect(screen.get_by_label("Stages")).to_contain_text(", assigned")
    expect(assigned).not_to_have_value("")
    choose(screen, "Assigned profile", "P3 D65")
    expect(screen.get_by_label("Stages")).to_contain_text("P3 D65, assigned")


def test_panes_move_together(screen: Page) -> None:
    screen.get_by_label("Open Observers’ card").click()
    layout(screen, "Side by side")
    box = screen.locator('[data-pane="original"]').bounding_box()
    assert box
    whole = region(shown(screen))
    screen.mouse.move(box["x"] + 200, box["y"] + 200)
    screen.mouse.wheel(0, -900)
    regions_agree(screen, whole)
    near = region(shown(screen))
    screen.keyboard.press("w")
    regions_agree(screen, near)
    assert region(shown(screen)) == whole


def test_four_intents_and_all_conditions_at_once(screen: Page) -> None:
    screen.get_by_label("Open Aurora curtain").click()
    settled(screen)
    layout(screen, "Four intents")
    panes = screen.locator('[data-pane="proof"]')
    expect(panes).to_have_count(4)
    sources = {img.get_attribute("src") for img in screen.locator("[data-pane] img").all()}
    assert len({fetched(screen, url or "") for url in sources}) == 4
    layout(screen, "Conditions of this job")
    expect(panes).to_have_count(4)
    expect(screen.get_by_test_id("proof-caption")).to_contain_text("Sheetfed coated")
    box = panes.first.bounding_box()
    assert box
    screen.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    before = region(shown(screen))
    screen.mouse.wheel(0, -600)
    regions_agree(screen, before)


def test_fit_advice_is_taken_on_wish_only(screen: Page) -> None:
    screen.get_by_label("Open Aurora curtain").click()
    advice = screen.get_by_label("Fit advice")
    expect(advice).to_contain_text("ΔE00")
    caption = screen.get_by_test_id("proof-caption")
    screen.get_by_role("radio", name="Saturation").click()
    expect(advice).to_contain_text("Advised:")
    expect(caption).to_contain_text("saturation")
    advice.get_by_text("All intents in figures").click()
    expect(advice.get_by_role("cell", name="Perceptual, no BPC")).to_be_visible()
    advice.get_by_role("button", name="Use it").click()
    expect(advice).to_contain_text("The present choice fits best")
    expect(caption).not_to_contain_text("saturation")


def test_plates_alone_and_mixed(screen: Page) -> None:
    screen.get_by_label("Open Comet bag").click()
    settled(screen)
    stage(screen, "Inks")
    seen = {fetched(screen, shown(screen))}
    plates = screen.get_by_role("group", name="Plates")
    for press in ("Plate C", "Plate K", "Plate C", "grey"):
        plates.get_by_role("button", name=press).click()
        settled(screen)
        seen.add(fetched(screen, shown(screen)))
    assert len(seen) == 5
    expect(screen.get_by_test_id("proof-caption")).to_contain_text("plate K")


def test_maps_have_a_scale(screen: Page) -> None:
    screen.get_by_label("Open Aurora curtain").click()
    settled(screen)
    picture = fetched(screen, shown(screen))
    for name, end in (("Map of differences", "20 ΔE00"), ("Map of total ink", "320 %")):
        choose(screen, "What the panes show", name)
        expect(screen.get_by_test_id("map-scale")).to_contain_text(end)
        settled(screen)
        assert fetched(screen, shown(screen)) != picture


def test_a_delivery_is_cancelled(screen: Page, tmp_path: Path) -> None:
    noise = np.random.default_rng(1).integers(0, 65536, (3600, 4200, 3)).astype(np.uint16)
    path = tmp_path / "large_noise.tif"
    tifffile.imwrite(path, noise, photometric="rgb")
    screen.get_by_label("Artwork file").set_input_files(path)
    screen.get_by_role("checkbox", name="Newsprint").check(timeout=60_000)
    screen.get_by_role("button", name="Start the job").click()
    stage(screen, "Deliver")
    screen.get_by_role("button", name="Deliver", exact=True).last.click()
    row = screen.get_by_label("Deliveries").get_by_role("listitem").first
    expect(row).to_have_attribute("data-state", "running")
    expect(row.get_by_role("progressbar")).to_be_visible()
    row.get_by_role("button", name="Cancel").click()
    expect(row).to_have_attribute("data-state", "cancelled", timeout=30_000)
    expect(row.get_by_role("button", name="Run again")).to_be_visible()


def test_keys_are_listed_and_deep_links_open(screen: Page) -> None:
    screen.keyboard.press("?")
    expect(screen.get_by_role("dialog")).to_contain_text("Next rendering intent")
    screen.keyboard.press("Escape")
    screen.goto("/jobs/999999")
    expect(screen.get_by_role("alert")).to_be_visible()


def test_nothing_scrolls_sideways_at_1280(screen: Page) -> None:
    screen.get_by_label("Open Aurora curtain").click()
    for key in "12345":
        screen.keyboard.press(key)
        settled(screen)
        assert screen.evaluate("document.documentElement.scrollWidth <= window.innerWidth")
