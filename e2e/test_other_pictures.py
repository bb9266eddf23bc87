"""RGB results, and artwork in inks: screens as conditions, corrected artwork there and back, numbers as
they are."""

from __future__ import annotations

import re
from pathlib import Path

import numpy as np
import tifffile
from playwright.sync_api import Page, expect

from plinto_core.icc import Profile
from plinto_core.transform.chain import convert
from plinto_core.transform.standard_spaces import standard_profile
from steps import choose, fetched, place, settled, shown, stage, start_job


def test_a_space_of_screens_is_a_condition_with_press_view_and_delivery(
    screen: Page, picture: Path, tmp_path: Path
) -> None:
    place(screen, "Conditions")
    screen.get_by_role("button", name="New condition…").click()
    screen.get_by_label("Profile of the library").select_option(label="opRGB, RGB")
    form = screen.get_by_role("region", name="New condition")
    expect(form).to_contain_text("the profile of a screen or of a colour space")
    form.get_by_role("textbox", name="Name").fill("Large screen")
    form.get_by_role("button", name="Keep the condition").click()
    expect(screen.get_by_role("region", name="Large screen")).to_be_visible()
    place(screen, "Jobs")
    start_job(screen, picture, "Large screen")
    stage(screen, "Deliver")
    expect(screen.get_by_label("Stages")).not_to_contain_text("Some RIPs")
    choose(screen, "Format", "PNG, 8 bit per channel")
    expect(screen.get_by_test_id("next-file")).to_contain_text(".png")
    screen.get_by_role("button", name="Deliver", exact=True).last.click()
    row = screen.get_by_label("Deliveries").get_by_role("listitem").first
    expect(row).to_have_attribute("data-state", "done")


def test_the_corrected_artwork_goes_out_and_comes_back_under_its_job(
    screen: Page, picture: Path, tmp_path: Path
) -> None:
    start_job(screen, picture, "Sheetfed coated")
    stage(screen, "Deliver")
    screen.get_by_role("button", name="Corrected artwork").click()
    screen.get_by_role("button", name="Deliver the corrected artwork").click()
    row = screen.get_by_label("Deliveries").get_by_role("listitem").first
    expect(row).to_have_attribute("data-state", "done")
    expect(row).to_contain_text("the corrected artwork, for no press")
    with screen.expect_download() as waiting:
        row.get_by_role("link", name="Download").click()
    waiting.value.save_as(tmp_path / "out.tif")
    found, given = tifffile.imread(tmp_path / "out.tif"), tifffile.imread(picture)
    if given.dtype == np.uint8:
        given = given.astype(np.uint16) * 257
    assert np.array_equal(found, given)

    before = fetched(screen, shown(screen))
    back = tmp_path / "worked-on.tif"
    with tifffile.TiffFile(tmp_path / "out.tif") as file:
        profile = file.pages[0].tags[34675].value
    tifffile.imwrite(
        back, found[:, ::-1].copy(), photometric="rgb", iccprofile=profile, resolution=(300, 300)
    )
    stage(screen, "Artwork")
    screen.get_by_role("button", name="Another picture").click()
    screen.get_by_label("Picture brought back").set_input_files(back)
    expect(screen.get_by_label("Stages")).to_contain_text("worked-on.tif")
    settled(screen)
    assert fetched(screen, shown(screen)) != before
    section = screen.get_by_role("region", name="Another picture")
    if section.get_by_role("button", name="Bring a picture back…").count() == 0:
        screen.get_by_role("button", name="Another picture").click()
    cut = tmp_path / "cut.tif"
    tifffile.imwrite(cut, found[:20].copy(), photometric="rgb")
    screen.get_by_label("Picture brought back").set_input_files(cut)
    expect(section.get_by_role("alert")).to_contain_text("another shape")
    section.get_by_role("button", name=re.compile("^Take .* again$")).click()
    expect(screen.get_by_label("Stages")).not_to_contain_text("worked-on.tif")
    settled(screen)
    assert fetched(screen, shown(screen)) == before


def test_artwork_in_inks_shows_what_nobody_converting_would_print(
    screen: Page, tmp_path: Path
) -> None:
    conditions = screen.evaluate("async () => await (await fetch('/api/conditions')).json()")
    coated = next(c for c in conditions if c["key"] == "sheetfed-coated")
    news = next(c for c in conditions if c["key"] == "newsprint")
    profile = screen.request.get(f"/api/profiles/{coated['profile']['id']}/file").body()
    press = screen.request.get(f"/api/profiles/{news['profile']['id']}/file").body()
    inks = np.zeros((90, 120, 4), np.uint8)
    inks[:, :] = (200, 60, 20, 30)
    path = tmp_path / "inks.tif"
    tifffile.imwrite(path, inks, photometric="separated", iccprofile=profile, resolution=(300, 300))
    screen.get_by_label("Artwork file").set_input_files(path)
    screen.get_by_role("checkbox", name="Newsprint").check()
    screen.get_by_role("button", name="Start the job").click()
    screen.get_by_role("heading", name="Inks", level=1).wait_for()
    stage(screen, "Press view")
    part = screen.get_by_role("region", name="If nobody converted")
    expect(part).to_contain_text("ΔE00 from the artwork on average")
    expect(part).to_contain_text("within the 240 % of this condition")
    part.get_by_role("switch", name="Show it beside the press view").click()
    pane = screen.locator('[data-pane="unconverted"]')
    expect(pane).to_be_visible()
    settled(screen)
    png = tmp_path / "view.png"
    png.write_bytes(fetched(screen, shown(screen, "unconverted")))
    from PIL import Image

    middle = np.asarray(Image.open(png).convert("RGB"))[20, 20].astype(int)
    expected = convert(
        Profile(press), standard_profile("srgb"), inks[:1, 0] / 255, intent="relative", bpc=False
    )
    assert np.abs(middle - expected[0] * 255).max() <= 3
