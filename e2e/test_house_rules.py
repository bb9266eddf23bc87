"""House rules on their page, and what they do to artwork that comes in."""

from __future__ import annotations

import json
from pathlib import Path

from PIL import Image
from playwright.sync_api import Page, expect

from steps import choose, place, removed, stage


def test_sets_are_made_exchanged_switched_and_obeyed(screen: Page, tmp_path: Path) -> None:
    place(screen, "House rules")
    sets = screen.get_by_label("Sets of house rules")
    expect(sets).to_contain_text("in force")
    screen.get_by_role("button", name="New set").click()
    screen.get_by_role("button", name="Put in force").click()
    expect(screen.get_by_text("This set is in force.")).to_be_visible()
    choose(screen, "No profile is embedded", "Ask each time")
    expect(screen.get_by_text("waits for an answer in the stage Source")).to_be_visible()
    with screen.expect_download() as waiting:
        screen.get_by_role("button", name="Export as a file").click()
    rules = json.loads(Path(waiting.value.path()).read_text())
    assert rules["missing"] == "ask"
    rules["name"] = "From elsewhere"
    rules["missing"] = "refuse"
    (tmp_path / "rules.json").write_text(json.dumps(rules))
    screen.get_by_label("House rules file").set_input_files(tmp_path / "rules.json")
    expect(sets).to_contain_text("From elsewhere")
    screen.reload()
    expect(sets).to_contain_text("From elsewhere")

    Image.new("RGB", (60, 40), (180, 60, 90)).save(tmp_path / "plain.png", dpi=(300, 300))
    place(screen, "Jobs")
    screen.get_by_label("Artwork file").set_input_files(tmp_path / "plain.png")
    screen.get_by_role("checkbox", name="Newsprint").check()
    screen.get_by_role("button", name="Start the job").click()
    screen.get_by_role("heading", name="Plain", level=1).wait_for()
    stage(screen, "Deliver")
    expect(screen.get_by_role("region", name="Before it goes")).to_contain_text(
        "Answer in the stage Source"
    )
    expect(screen.get_by_role("button", name="Deliver", exact=True).last).to_be_disabled()
    stage(screen, "Source")
    screen.get_by_role("button", name="Assign the default").click()
    expect(screen.get_by_role("region", name="Question of the house rules")).to_have_count(0)

    place(screen, "House rules")
    sets.get_by_role("button", name="From elsewhere").click()
    screen.get_by_role("button", name="Put in force").click()
    expect(screen.get_by_text("This set is in force.")).to_be_visible()
    place(screen, "Jobs")
    screen.get_by_label("Artwork file").set_input_files(tmp_path / "plain.png")
    expect(screen.get_by_role("alert")).to_contain_text("refuse pictures without a usable profile")

    place(screen, "House rules")
    sets.get_by_role("button", name="House rules").first.click()
    screen.get_by_role("button", name="Put in force").click()
    expect(screen.get_by_text("This set is in force.")).to_be_visible()
    choose(screen, "No profile is embedded", "Assign the default")
    sets.get_by_role("button", name="Ternholm").click()
    screen.get_by_role("button", name="Put in force").click()
    sets.get_by_role("button", name="From elsewhere").click()
    removed(screen, "Remove")
    expect(sets).not_to_contain_text("From elsewhere")
    screen.get_by_label("House rules file").set_input_files(
        {"name": "x.json", "mimeType": "application/json", "buffer": b"{"}
    )
    expect(screen.get_by_role("alert")).to_contain_text("not a file of house rules")


def test_a_kind_of_work_ticks_where_it_goes(screen: Page, tmp_path: Path) -> None:
    place(screen, "House rules")
    screen.get_by_role("button", name="Add a kind of work").click()
    kind = screen.get_by_role("listitem", name="New kind")
    kind.get_by_label("Another condition for New kind").select_option(label="Newsprint")
    kind.get_by_label("Another condition for New kind").select_option(label="Cotton four-screen")
    expect(
        kind.get_by_role("button", name="Take Cotton four-screen out of New kind")
    ).to_be_visible()
    kind.get_by_role("button", name="Take Newsprint out of New kind").click()
    expect(kind.get_by_role("button", name="Take Newsprint out of New kind")).to_have_count(0)
    kind.get_by_label("Name of the kind of work").fill("Flour sack")
    kind.get_by_label("Name of the kind of work").press("Tab")
    sack = screen.get_by_role("listitem", name="Flour sack")
    expect(sack).to_be_visible()

    Image.new("RGB", (60, 40), (180, 60, 90)).save(tmp_path / "plain.png", dpi=(300, 300))
    place(screen, "Jobs")
    screen.get_by_label("Artwork file").set_input_files(tmp_path / "plain.png")
    ticked = screen.get_by_role("checkbox", checked=True)
    expect(ticked).to_have_count(0)
    screen.get_by_label("Kind of work").select_option("Bag")
    expect(ticked).to_have_count(2)
    screen.get_by_label("Kind of work").select_option("Flour sack")
    expect(ticked).to_have_count(1)
    expect(screen.get_by_role("checkbox", name="Cotton four-screen")).to_be_checked()
    screen.get_by_role("checkbox", name="Newsprint").check()
    expect(ticked).to_have_count(2)
    screen.get_by_role("button", name="Close").click()
    place(screen, "House rules")
    sack.get_by_role("button", name="Remove").click()
    expect(sack).to_have_count(0)
