"""The profile library and the examination of profiles, on the screen."""

from __future__ import annotations

import json
import zipfile
from pathlib import Path

from playwright.sync_api import Page, expect

from plinto_core.examination.aims import against, parse_aim
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


def test_a_profile_is_judged_by_typed_aims(screen: Page, tmp_path: Path) -> None:
    origin = screen.evaluate("location.origin")
    shipped = next(
        p for p in screen.request.get(f"{origin}/api/profiles").json()
        if p["colour_space"] == "CMYK" and p["origin"] == "shipped"
    )  # fmt: skip
    screen.goto(f"/profiles/{shipped['id']}/prints")
    profile = Profile(screen.request.get(f"{origin}/api/profiles/{shipped['id']}/file").body())
    mine = examine(profile).solids
    paper = " ".join(map(str, mine["paper"]))
    screen.get_by_role("button", name="New aim…").click()
    sheet = screen.get_by_role("dialog")
    sheet.get_by_label("Name", exact=True).fill("Contract of June")
    sheet.get_by_label("Colours and tones").fill(f"paper {paper}\ncyan 20")
    sheet.get_by_role("button", name="Keep", exact=True).click()
    # A wrong row is named, and nothing typed is lost.
    expect(sheet.get_by_role("alert")).to_contain_text("Row 2 is not an aim")
    rows = f"paper {paper}\ncyan 20 0 0\nK 50 0\nViolet 30 40 -60"
    sheet.get_by_label("Colours and tones").fill(rows)
    for kind, most in (("Paper", "1"), ("Solids", "5")):
        sheet.get_by_label(kind, exact=True).fill(most)
        screen.keyboard.press("Enter")
    sheet.get_by_role("button", name="Keep", exact=True).click()
    found = screen.get_by_role("group", name="Against the aim")
    expect(found).to_contain_text("The aim is missed. 1 of 3 lie beyond the tolerance.")
    expect(found).to_contain_text("Not in this profile: Violet.")
    colours = found.get_by_role("table", name="Colours against the aim")
    expect(colours.get_by_role("row", name="paper")).to_contain_text("holds")
    expect(colours.get_by_role("row", name="C 20.0")).to_contain_text("missed")
    expect(found.get_by_role("row", name="K 50 %")).to_contain_text("not judged")
    with screen.expect_download() as waiting:
        screen.get_by_role("link", name="Aim as a file").click()
    kept = json.loads(Path(waiting.value.path()).read_text())
    aim = parse_aim(kept)
    assert aim.tolerances.solids == 5
    shown = against(profile, aim)
    expect(colours.get_by_role("row", name="C 20.0")).to_contain_text(f"{shown.solids['C']:.1f}")
    screen.get_by_role("button", name="Change…").click()
    sheet.get_by_label("Solids", exact=True).fill("50")
    screen.keyboard.press("Enter")
    sheet.get_by_role("button", name="Keep", exact=True).click()
    expect(found).to_contain_text("Everything that is judged holds.")
    removed(screen, "Remove aim")
    expect(found).to_have_count(0)
    taken = tmp_path / "again.json"
    taken.write_text(json.dumps({**kept, "name": "From a file"}))
    screen.get_by_role("button", name="New aim…").click()
    screen.get_by_label("File of an aim").set_input_files(taken)
    expect(found).to_contain_text("Against From a file")


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


def test_a_profile_of_the_library_becomes_a_condition(
    screen: Page, received: Path, tmp_path: Path
) -> None:
    place(screen, "Profiles")
    screen.get_by_label("Files with profiles").set_input_files(dated(received, 2017, tmp_path))
    screen.get_by_label("Search profiles").fill("2017 cmyk")
    table = screen.get_by_role("table", name="Profiles")
    expect(table.get_by_role("row")).to_have_count(2)
    table.get_by_role("button", name="Coldset, three towers").click()
    screen.get_by_role("button", name="Make a condition…").click()
    form = screen.get_by_role("form", name="Printing condition")
    form.get_by_role("textbox", name="Name").fill("From the shelf")
    form.get_by_role("button", name="Keep the condition").click()
    expect(screen.get_by_role("region", name="From the shelf")).to_be_visible()
    removed(screen, "Retire")
    screen.get_by_role("button", name="New condition…").click()
    shelf = screen.get_by_label("Profile of the library")
    expect(shelf.locator("optgroup").first).to_have_attribute("label", "Your own")
    shelf.select_option(label="Coldset, three towers, CMYK")
    expect(form.get_by_role("textbox", name="Name")).to_have_value("Coldset, three towers")


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
    box = screen.get_by_role("form", name="A changed copy")
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
