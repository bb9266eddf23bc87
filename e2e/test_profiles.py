"""The profile library and the examination of profiles, on the screen."""

from __future__ import annotations

import json
import zipfile
from pathlib import Path

from playwright.sync_api import Page, expect

from plinto_core.examination.neutrals import neutrals
from plinto_core.examination.report import examine
from plinto_core.icc import Profile
from steps import place, removed


def dated(path: Path, year: int, folder: Path) -> Path:
    data = bytearray(path.read_bytes())
    data[24:26] = year.to_bytes(2, "big")
    out = folder / f"{year}.icc"
    out.write_bytes(data)
    return out


def test_a_profile_is_received_examined_and_taken_out(
    screen: Page, received: Path, tmp_path: Path
) -> None:
    one = dated(received, 2016, tmp_path)
    with zipfile.ZipFile(tmp_path / "from the press.zip", "w") as bundle:
        bundle.write(one, "one.icc")
        bundle.writestr("notes.txt", "nothing")
    (tmp_path / "no.icc").write_bytes(b"nothing at all" * 20)
    place(screen, "Profiles")
    screen.get_by_label("Files with profiles").set_input_files(
        [
            tmp_path / "from the press.zip",
            tmp_path / "no.icc",
        ]
    )
    added = screen.get_by_role("status", name="What was added")
    expect(added).to_contain_text("One profile is in the library: Coldset, three towers")
    expect(added).to_contain_text("no.icc: ")
    search = screen.get_by_label("Search profiles")
    search.fill("2016 cmyk")
    table = screen.get_by_role("table", name="Profiles")
    expect(table.get_by_role("row")).to_have_count(2)
    table.get_by_role("button", name="Coldset, three towers").click()
    found = examine(Profile(one.read_bytes()))
    reach = screen.get_by_role("table", name="What each intent reaches")
    row = reach.get_by_role("row", name="Relative colorimetric")
    relative = next(r for r in found.reach if r.intent == "relative")
    expect(row).to_contain_text(f"{relative.tac:.1f} %")
    tones = screen.get_by_role("table", name="Tone value increase")
    expect(tones.get_by_role("row").nth(1)).to_contain_text(f"{found.tones[0].increase_50:.1f} %")
    screen.get_by_label("Total that was asked for").fill("200")
    screen.keyboard.press("Enter")
    parts = screen.get_by_role("navigation", name="Parts of the examination")
    parts.get_by_role("button", name="What is wrong with it").click()
    expect(screen.get_by_role("group", name="Cannot be trusted")).to_contain_text(
        "asked were 200 %"
    )
    parts.get_by_role("button", name="What it gives back").click()
    expect(screen.locator("main")).to_contain_text(f"{found.round_trip.mean:.2f} ΔE00 in the mean")
    with screen.expect_download() as waiting:
        screen.get_by_role("link", name="Report as JSON").click()
    report = json.loads(Path(waiting.value.path()).read_text())
    assert report["round_trip"]["mean"] == found.round_trip.mean
    parts.get_by_role("button", name="What it holds").click()
    screen.get_by_role("table", name="Tags").get_by_role("button", name="desc").click()
    expect(screen.get_by_role("table", name="Tags")).to_contain_text("Coldset, three towers")
    removed(screen, "Take out")
    screen.get_by_label("Search profiles").fill("2016 cmyk")
    expect(screen.get_by_text("No profile answers to that")).to_be_visible()


def test_greys_of_two_profiles_under_one_hairline(screen: Page, received: Path) -> None:
    place(screen, "Profiles")
    screen.get_by_label("Files with profiles").set_input_files(received)
    expect(screen.get_by_role("status", name="What was added")).to_contain_text("in the library")
    table = screen.get_by_role("table", name="Profiles")
    table.get_by_role("button", name="Coldset, three towers").first.click()
    parts = screen.get_by_role("navigation", name="Parts of the examination")
    parts.get_by_role("button", name="How it makes greys").click()
    screen.get_by_label("Another profile beside it").select_option(
        label="Cotton four-screen (simulated)"
    )
    parts.get_by_role("button", name="What it prints").click()
    beside = screen.get_by_role("table", name="Side by side")
    expect(beside.get_by_role("row", name="Highest total")).to_contain_text("%")
    expect(beside.get_by_role("row", name="Round trip")).not_to_contain_text("…")
    parts.get_by_role("button", name="How it makes greys").click()
    screen.get_by_role("switch", name="In space too").check()
    expect(screen.get_by_role("img", name="Greys in space")).to_have_count(2)
    read = screen.get_by_test_id("greys-at")
    expect(read).to_have_count(2)
    hairline = screen.get_by_role("slider", name="Hairline at L*")
    hairline.focus()
    for _ in range(4):
        screen.keyboard.press("PageDown")
    asked = float(hairline.get_attribute("aria-valuenow") or hairline.input_value())
    for i in range(2):
        expect(read.nth(i)).to_contain_text(f"L* {asked:.1f} prints")
    path = neutrals(Profile(received.read_bytes()), "relative", bpc=True)
    at = int(abs(path.asked - asked).argmin())
    expect(read.first).to_contain_text(f"K {round(path.inks[at, 3] * 100, 2):.1f}")
    screen.get_by_label("Intent of the greys").select_option("absolute")
    absolute = neutrals(Profile(received.read_bytes()), "absolute")
    expect(read.first).to_contain_text(f"L* {round(absolute.printed[at, 0], 2):.1f}")
    expect(screen.get_by_role("switch", name="Black point compensation")).to_be_disabled()


def test_a_changed_copy_leaves_the_profile_as_it_is(screen: Page) -> None:
    place(screen, "Profiles")
    screen.get_by_role("table", name="Profiles").get_by_role(
        "button", name="Newsprint (simulated)"
    ).click()
    screen.get_by_role("button", name="A changed copy…").click()
    box = screen.get_by_role("group", name="A changed copy")
    box.get_by_role("button", name="Make the copy").click()
    expect(box.get_by_role("alert")).to_contain_text("Nothing was to be changed")
    box.get_by_label("Description").fill("Newsprint, our tower")
    box.get_by_role("button", name="Make the copy").click()
    expect(box).to_contain_text("The description was changed")
    expect(box).to_contain_text("give back")
    box.get_by_role("link", name="Newsprint, our tower").click()
    expect(screen.get_by_role("heading", level=1)).to_contain_text("Newsprint, our tower")
    removed(screen, "Take out")
    expect(screen.get_by_role("table", name="Profiles")).to_contain_text("Newsprint (simulated)")
