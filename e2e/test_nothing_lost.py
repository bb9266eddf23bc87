"""What two people, two windows, a lost session and a careless click must not lose."""

from __future__ import annotations

import json
from pathlib import Path

import numpy as np
import tifffile
from playwright.sync_api import Browser, Page, expect

from plinto_core.demo.atlas import star_atlas
from plinto_core.transform.standard_spaces import standard_profile
from steps import choose, layout, place, settled, shown, stage, start_job


def recipe(page: Page) -> dict:
    """The saved recipe of the job that is open."""
    destination = page.url.split("/")[-2]
    return page.request.get(f"/api/destinations/{destination}").json()["recipe"]


def set_rules(page: Page, picture: Path) -> None:
    start_job(page, picture, "Sheetfed coated")
    stage(page, "Inks")
    page.get_by_label("Own ink rules").check()
    expect(page.get_by_test_id("tac-highest")).to_be_visible()


def test_quick_changes_are_all_kept(screen: Page, picture: Path) -> None:
    set_rules(screen, picture)
    tac = screen.get_by_role("slider", name="Total area coverage")
    tac.focus()
    tac.press("PageDown")
    wanted = float(tac.get_attribute("aria-valuenow") or 0)
    strength = screen.get_by_role("slider", name="Strength")
    strength.focus()
    strength.press("PageUp")
    screen.keyboard.press("r")
    for _ in range(3):
        strength.press("ArrowRight")
    expect(screen.get_by_test_id("proof-caption")).to_contain_text("relative colorimetric")
    shown_strength = float(strength.get_attribute("aria-valuenow") or 0)
    for _ in range(40):
        kept = recipe(screen)
        if kept["ink_rules"]["black"]["strength"] == shown_strength:
            break
        screen.wait_for_timeout(250)
    assert kept["intent"] == "relative"
    assert kept["ink_rules"]["tac"] == wanted
    assert kept["ink_rules"]["black"]["strength"] == shown_strength


def test_a_second_window_follows_within_two_seconds(
    screen: Page, picture: Path, chromium: Browser, address: str
) -> None:
    start_job(screen, picture, "Newsprint")
    stage(screen, "Press view")
    second = screen.context.new_page()
    second.goto(screen.url)
    expect(second.get_by_test_id("proof-caption")).to_contain_text("perceptual")
    screen.get_by_role("radio", name="Saturation").click()
    expect(screen.get_by_test_id("proof-caption")).to_contain_text("saturation")
    # Not a deadline by the clock: what the next question of the other window is answered shows it.
    for _ in range(2):
        second.wait_for_event("response", lambda r: "/api/jobs/" in r.url)
    expect(second.get_by_test_id("proof-caption")).to_contain_text("saturation")
    second.close()


def test_two_who_change_the_same_see_both(screen: Page, picture: Path) -> None:
    set_rules(screen, picture)
    destination = screen.url.split("/")[-2]
    tac = screen.get_by_role("slider", name="Total area coverage")
    # Somebody else changes the TAC while this window does not hear of it.
    for what in ("jobs/*", "destinations/*/facts"):
        screen.route(f"**/api/{what}", lambda route: route.abort())
    screen.wait_for_timeout(2000)
    token = next(c["value"] for c in screen.context.cookies() if c["name"] == "csrftoken")
    other = screen.request.patch(
        f"/api/destinations/{destination}",
        data=json.dumps({"ink_rules": {"tac": 250}}),
        headers={"X-CSRFToken": token, "Content-Type": "application/json"},
    )
    assert other.ok
    tac.focus()
    tac.press("Home")
    clash = screen.get_by_role("alert", name="Changed by two")
    expect(clash).to_contain_text("ink rules TAC")
    expect(clash.get_by_role("cell", name="250")).to_be_visible()
    expect(clash.get_by_role("cell", name="120")).to_be_visible()
    assert recipe(screen)["ink_rules"]["tac"] == 250
    clash.get_by_role("button", name="Put mine in").click()
    expect(clash).to_have_count(0)
    expect(screen.get_by_test_id("tac-highest")).to_contain_text("of 120 %")
    assert recipe(screen)["ink_rules"]["tac"] == 120


def test_a_session_that_ended_is_taken_up_where_it_was(screen: Page, picture: Path) -> None:
    start_job(screen, picture, "Newsprint")
    stage(screen, "Press view")
    settled(screen)
    # The change itself meets the ended session, not a poll before it.
    screen.route(
        "**/api/**",
        lambda route: route.abort() if route.request.method == "GET" else route.continue_(),
    )
    screen.context.clear_cookies()
    screen.get_by_role("radio", name="Saturation").click()
    screen.unroute("**/api/**")
    dialog = screen.get_by_role("dialog", name="Sign in again")
    expect(dialog).to_contain_text("Nothing is lost")
    expect(dialog.get_by_label("Name")).to_have_value("demo")
    dialog.get_by_label("Password").fill("wrong")
    dialog.get_by_role("button", name="Sign in and go on").click()
    expect(dialog.get_by_role("alert")).to_contain_text("do not match")
    dialog.get_by_label("Password").fill("ternholm-demo")
    dialog.get_by_role("button", name="Sign in and go on").click()
    expect(dialog).to_have_count(0)
    expect(screen.get_by_test_id("proof-caption")).to_contain_text("saturation")
    # The change is sent again by the page in its own time.
    for _ in range(100):
        if recipe(screen)["intent"] == "saturation":
            break
        screen.wait_for_timeout(200)
    assert recipe(screen)["intent"] == "saturation"


def test_the_usual_combinations_undo_and_redo(screen: Page, picture: Path) -> None:
    start_job(screen, picture, "Newsprint")
    stage(screen, "Press view")
    caption = screen.get_by_test_id("proof-caption")
    screen.keyboard.press("r")
    expect(caption).to_contain_text("relative")
    screen.keyboard.press("Control+z")
    expect(caption).to_contain_text("perceptual")
    screen.keyboard.press("Control+Shift+z")
    expect(caption).to_contain_text("relative")
    screen.get_by_role("button", name="demo").click()
    screen.get_by_role("menuitem", name="Keys…").click()
    expect(screen.get_by_role("dialog", name="Keys")).to_contain_text("Ctrl+Shift+Z")


def test_arrow_keys_choose_an_intent(screen: Page, picture: Path) -> None:
    start_job(screen, picture, "Newsprint")
    stage(screen, "Press view")
    screen.get_by_role("radio", name="Perceptual").focus()
    for name in ("Relative colorimetric", "Saturation"):
        screen.keyboard.press("ArrowRight")
        radio = screen.get_by_role("radio", name=name)
        expect(radio).to_be_focused()
        expect(radio).to_be_checked()
    screen.keyboard.press("ArrowLeft")
    expect(screen.get_by_test_id("proof-caption")).to_contain_text("relative")


def test_how_one_looks_stays_at_another_condition_and_after_a_reload(
    screen: Page, picture: Path
) -> None:
    start_job(screen, picture, "Newsprint", "Sheetfed coated")
    stage(screen, "Press view")
    screen.keyboard.press("g")
    layout(screen, "Surround: dark")
    layout(screen, "Split, with a line to move")
    conditions = screen.get_by_label("Conditions of this job")
    conditions.get_by_role("button", name="Sheetfed coated").click()
    for _ in range(2):
        expect(screen.get_by_test_id("proof-caption")).to_contain_text("out of gamut hatched")
        expect(screen.get_by_role("slider", name="Place of the dividing line")).to_be_visible()
        settled(screen)
        assert "veil=hatch" in shown(screen)
        screen.wait_for_timeout(700)
        screen.reload()


def test_a_removal_names_what_leans_on_it_and_is_undone(screen: Page) -> None:
    place(screen, "Policies")
    listed = screen.get_by_label("Policies", exact=True)
    listed.get_by_role("button", name="Kind to office files, Sheetfed coated").click()
    screen.get_by_role("button", name="Retire the policy").click()
    asking = screen.get_by_role("group", name="Retire the policy: ")
    expect(asking).to_contain_text("From the office")
    expect(asking).to_contain_text("go on using it")
    asking.get_by_role("button", name="Keep it").click()
    expect(listed).to_contain_text("Kind to office files, Sheetfed coated")
    screen.get_by_role("button", name="Retire the policy").click()
    asking.get_by_role("button", name="Retire the policy").click()
    expect(listed).not_to_contain_text("Kind to office files, Sheetfed coated")
    place(screen, "Folders")
    expect(screen.get_by_label("Watched folders")).to_contain_text("Kind to office files")
    bar = screen.get_by_role("status", name="Removed")
    expect(bar).to_contain_text("Kind to office files, Sheetfed coated was removed")
    bar.get_by_role("button", name="Undo", exact=True).click()
    expect(bar).to_have_count(0)
    place(screen, "Policies")
    expect(listed).to_contain_text("Kind to office files, Sheetfed coated")


def test_several_files_become_several_jobs_and_a_pdf_goes_to_policies(
    screen: Page, picture: Path, tmp_path: Path
) -> None:
    files = []
    for name in ("north_wind", "south_wind"):
        path = tmp_path / f"{name}.tif"
        path.write_bytes(picture.read_bytes())
        files.append(path)
    star_atlas(tmp_path / "chart_book.pdf", pages=1)
    (tmp_path / "poem.png").write_text("roses are red")
    screen.get_by_label("Artwork file").set_input_files(
        [*files, tmp_path / "chart_book.pdf", tmp_path / "poem.png"]
    )
    panel = screen.get_by_role("region", name="New jobs")
    expect(panel.get_by_role("listitem", name="north_wind.tif")).to_contain_text("opRGB, embedded")
    expect(panel.get_by_role("listitem", name="poem.png")).to_contain_text("poem.png is neither")
    book = panel.get_by_role("listitem", name="chart_book.pdf")
    book.get_by_role("button", name="Take it to Policies").click()
    expect(book).to_contain_text("It is taken in")
    panel.get_by_role("checkbox", name="Newsprint").check()
    panel.get_by_role("button", name="Start 2 jobs").click()
    for name in ("North wind", "South wind"):
        expect(screen.get_by_role("heading", name=name)).to_be_visible()
    place(screen, "Policies")
    expect(screen.get_by_label("Document", exact=True)).to_contain_text("chart_book.pdf")


def test_channels_beside_the_colours_are_asked_about(screen: Page, tmp_path: Path) -> None:
    inks = np.random.default_rng(3).integers(0, 255, (40, 60, 5)).astype(np.uint8)
    names = b"Cyan\0Magenta\0Yellow\0Black\0White\0"
    tifffile.imwrite(
        tmp_path / "plume_test.tif", inks, photometric="separated", extrasamples=[0],
        extratags=[(333, "s", 0, names, True)], resolution=(300, 300), metadata=None,
    )  # fmt: skip
    screen.get_by_label("Artwork file").set_input_files(tmp_path / "plume_test.tif")
    panel = screen.get_by_role("region", name="New job")
    expect(panel.get_by_role("group", name="Channels beside the colours")).to_contain_text("White")
    panel.get_by_role("checkbox", name="Newsprint").check()
    start = panel.get_by_role("button", name="Start the job")
    expect(start).to_be_disabled()
    panel.get_by_role("checkbox", name="Leave it out").check()
    start.click()
    expect(screen.get_by_label("Stages")).to_contain_text("Left out")


def test_artwork_made_for_the_press_says_that_its_numbers_stay(
    screen: Page, tmp_path: Path
) -> None:
    conditions = screen.request.get("/api/conditions").json()
    coated = next(c for c in conditions if c["name"] == "Sheetfed coated")
    profile = screen.request.get(f"/api/profiles/{coated['profile']['id']}/file").body()
    inks = np.random.default_rng(3).integers(0, 130, (40, 60, 4)).astype(np.uint8)
    tifffile.imwrite(
        tmp_path / "plume_test.tif",
        inks,
        photometric="separated",
        iccprofile=profile,
        resolution=(300, 300),
    )
    start_job(screen, tmp_path / "plume_test.tif", "Sheetfed coated")
    stage(screen, "Inks")
    rail = screen.get_by_label("Stages")
    expect(rail).to_contain_text("the artwork's own numbers")
    expect(rail).to_contain_text("Nothing is separated anew")
    choose(screen, "The artwork's own numbers", "Are made anew")
    expect(rail).to_contain_text("as profiled")
    screen.keyboard.press("b")
    expect(rail).to_contain_text("Nothing is separated anew")
    stage(screen, "Deliver")
    choose(screen, "Format", "TIFF, 8 bit per ink")
    expect(rail).to_contain_text("its numbers go out as they are")
    screen.get_by_role("button", name="Deliver", exact=True).last.click()
    row = screen.get_by_label("Deliveries").get_by_role("listitem").first
    expect(row).to_have_attribute("data-state", "done", timeout=90_000)
    with screen.expect_download() as waiting:
        row.get_by_role("link", name="Download").click()
    waiting.value.save_as(tmp_path / "out.tif")
    assert np.array_equal(tifffile.imread(tmp_path / "out.tif"), inks)


def test_a_negative_and_grey_artwork_are_turned_and_brought_into_a_space(
    screen: Page, tmp_path: Path
) -> None:
    grey = np.tile(np.linspace(0, 255, 60).astype(np.uint8), (40, 1))
    tifffile.imwrite(
        tmp_path / "plume_test.tif", grey, photometric="minisblack", resolution=(300, 300)
    )
    start_job(screen, tmp_path / "plume_test.tif", "Newsprint")
    stage(screen, "Source")
    choose(screen, "Arrival space", "ROMM RGB")
    settled(screen)
    before = screen.request.get(shown(screen)).body()
    screen.get_by_label("Photographic negative").check()
    expect(screen.get_by_role("button", name="Undo (B)")).to_be_enabled()
    settled(screen)
    assert screen.request.get(shown(screen)).body() != before
    screen.wait_for_load_state("networkidle")
    kept = recipe(screen)
    assert kept["negative"] is True
    assert kept["arrival"]


def test_a_press_profile_is_no_screen(screen: Page, picture: Path) -> None:
    start_job(screen, picture, "Newsprint")
    stage(screen, "Press view")
    data = bytearray(standard_profile("srgb").data)
    data[12:16] = b"prtr"
    section = screen.get_by_role("region", name="Screen")
    section.get_by_role("button").first.click()
    section.get_by_label("Display profile file").set_input_files(
        {"name": "press.icc", "mimeType": "application/octet-stream", "buffer": bytes(data)}
    )
    expect(section.get_by_role("alert")).to_contain_text("no screen")
    settled(screen)
    assert "display=" not in shown(screen)


def test_rules_are_added_where_they_act_and_a_changed_policy_is_not_left_in_silence(
    screen: Page,
) -> None:
    place(screen, "Policies")
    screen.get_by_role("button", name="New policy").click()
    screen.get_by_role("menuitem", name="Newsprint").nth(1).click()
    name = screen.get_by_label("Name of the policy")
    expect(name).to_have_value("Kind to office files, Newsprint")
    screen.get_by_role("button", name="Rules and settings").click()
    rules = screen.get_by_role("list", name="Rules")
    count = rules.get_by_role("listitem").count()
    screen.get_by_role("button", name="Add a rule").click()
    added = rules.get_by_role("listitem", name="Rule 1", exact=True)
    expect(added.get_by_label("Colour space")).to_have_value("RGB")
    expect(added.get_by_text("Never acts")).to_have_count(0)
    expect(rules.get_by_role("listitem")).to_have_count(count + 1)
    place(screen, "Printers")
    asking = screen.get_by_role("dialog", name="Leave without keeping it?")
    asking.get_by_role("button", name="Stay here").click()
    expect(name).to_be_visible()
    screen.get_by_label("Policies", exact=True).get_by_role(
        "button", name="Strict press, Sheetfed coated"
    ).click()
    asking.get_by_role("button", name="Keep as version 2").click()
    expect(name).to_have_value("Strict press, Sheetfed coated")
    expect(screen.get_by_label("Policies", exact=True)).to_contain_text("version 2; 7 rules")
    place(screen, "Printers")
    expect(screen.get_by_label("Printers", exact=True)).to_be_visible()
