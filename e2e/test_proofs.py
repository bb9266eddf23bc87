"""Proof prints on the screen: made from a job and from a page, printed, read, judged, kept."""

from __future__ import annotations

import re
from pathlib import Path

import numpy as np
import tifffile
from playwright.sync_api import Page, expect

from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.icc import Profile
from plinto_core.simulator import PROOFER
from plinto_core.simulator.press import predicted_lab
from plinto_core.transform.chain import lab_of_device
from steps import open_policy, removed, stage, start_job


def test_a_proof_of_a_job_is_printed_read_and_judged(
    screen: Page, picture: Path, tmp_path: Path
) -> None:
    start_job(screen, picture, "Newsprint")
    stage(screen, "Deliver")
    screen.get_by_role("button", name="Proof print").click()
    expect(
        screen.get_by_role("combobox", name="On", exact=True).locator("option:checked")
    ).to_have_text("Proofing inkjet")
    screen.get_by_role("button", name="Make a proof print").click()
    screen.get_by_role("link", name="Read and judge the last proof").click()
    one = screen.get_by_role("region", name="Proof of Plume test")
    expect(one).to_contain_text("the press's paper is printed too")
    with screen.expect_download() as waiting:
        one.get_by_role("link", name="Download").click()
    pixels = tifffile.imread(waiting.value.path())

    # The file on the simulated proofer shows the press: its middle patch of pure yellow.
    made = screen.evaluate("async () => await (await fetch('/api/proofs')).json()")[0]
    whole = screen.evaluate(
        "async (id) => await (await fetch(`/api/proofs/${id}`)).json()", made["id"]
    )["made"]
    names = [p["name"] for p in whole["patches"]]
    x, y = whole["strip"]["centres"][names.index("Y 100")]
    shown = predicted_lab(PROOFER.model, pixels[y, x][None] / 65535)
    data = screen.request.get(f"/api/profiles/{_press(screen)}/file").body()
    wanted = lab_of_device(Profile(data), np.array([[0, 0, 1.0, 0]]), intent="absolute")
    assert delta_e_2000(wanted, shown)[0] < 0.6

    one.get_by_role("switch", name="with noise").click()
    one.get_by_role("button", name="Print and read").click()
    expect(one.get_by_test_id("verdict")).to_have_text("It passes.")
    expect(one.get_by_role("listbox", name="Strip").get_by_role("option")).to_have_count(len(names))
    expect(one).to_contain_text("The drift is drawn from the second reading on.")
    with screen.expect_download() as waiting:
        one.get_by_role("link", name="CGATS").click()
    waiting.value.save_as(tmp_path / "strip.txt")
    one.get_by_label("Measured strip").set_input_files(tmp_path / "strip.txt")
    expect(one.get_by_role("img", name="Drift over 2 readings")).to_be_visible()
    expect(one.get_by_role("group", name="Verdict")).to_contain_text("from strip.txt")

    one.get_by_label("Printed on").select_option(label="Sheetfed coated")
    one.get_by_role("button", name="Print and read").click()
    expect(one.get_by_test_id("verdict")).to_have_text("It fails.")
    expect(one.get_by_role("option", name=re.compile("^Paper.*missed$"))).to_be_visible()
    skin = one.get_by_role("option", name=re.compile("^Skin"))
    skin.focus()
    screen.keyboard.press("Enter")
    expect(one.get_by_role("group", name="Patch Skin")).to_contain_text("the press prints")
    expect(screen.get_by_role("list", name="Proof prints")).to_contain_text("fails")

    # A set of one's own that asks for little lets the same reading pass.
    one.get_by_role("button", name="New set…").click()
    sheet = screen.get_by_role("dialog")
    sheet.get_by_label("Name").fill("Anything goes")
    for label in ("Paper", "All patches, mean", "All patches, greatest", "Solids, greatest",
                  "Solids, greatest hue", "Greys, mean chroma"):  # fmt: skip
        field = sheet.get_by_label(label, exact=True)
        field.fill("90")
        field.press("Enter")
    sheet.get_by_role("button", name="Keep").click()
    expect(one.get_by_test_id("verdict")).to_have_text("It passes.")
    expect(one.get_by_role("group", name="Verdict")).to_contain_text("By Anything goes")
    screen.reload()
    expect(one.get_by_test_id("verdict")).to_have_text("It passes.")
    bad = tmp_path / "bad.txt"
    bad.write_text("no numbers at all")
    one.get_by_label("Measured strip").set_input_files(bad)
    expect(one.get_by_role("alert")).to_be_visible()
    removed(screen, "Remove")
    expect(screen.get_by_role("list", name="Proof prints")).not_to_contain_text("Plume test")
    screen.get_by_role("button", name="Undo", exact=True).click()
    expect(screen.get_by_role("list", name="Proof prints")).to_contain_text("Plume test")


def _press(screen: Page) -> int:
    conditions = screen.evaluate("async () => await (await fetch('/api/conditions')).json()")
    return next(c["profile"]["id"] for c in conditions if c["key"] == "newsprint")


def test_a_page_is_proofed_under_its_policy(screen: Page) -> None:
    open_policy(screen, "Kind to office files, Sheetfed coated")
    screen.get_by_role("tab", name="Pages and plates").click()
    pages = screen.get_by_role("region", name="Pages")
    pages.get_by_role("button", name="Proof this page").click()
    pages.get_by_role("link", name="See it").click()
    one = screen.get_by_role("region", name=re.compile("^Proof of star-atlas.pdf, page 1"))
    one.get_by_role("button", name="Print and read").click()
    expect(one.get_by_test_id("verdict")).to_have_text("It passes.")
