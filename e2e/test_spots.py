"""Spot colours on every press: sought, looked at, put into a policy, printed by it."""

from __future__ import annotations

import csv
import io
import re
from pathlib import Path

import pikepdf
from playwright.sync_api import Page, expect

from plinto_core.document import run_policy
from plinto_core.document.rules.policy import parse_policy
from plinto_core.icc import Profile
from plinto_core.transform.standard_spaces import SPACES, standard_profile
from steps import place


def test_builds_are_sought_and_a_policy_converts_by_them(screen: Page, tmp_path: Path) -> None:
    place(screen, "Spot colours")
    screen.get_by_role("button", name="New list…").click()
    sheet = screen.get_by_role("dialog")
    sheet.get_by_label("Name", exact=True).fill("Atlas inks")
    sheet.get_by_label("A row a colour; a name may stand before the numbers").fill(
        "Ternholm Red 45 60 40\nFar Blue 30 30 -80"
    )
    sheet.get_by_role("button", name="Make the list").click()
    table = screen.get_by_role("table", name="Builds")
    cell = table.get_by_role("button", name="Ternholm Red on Sheetfed coated")
    expect(cell).to_be_visible()
    expect(table.get_by_text("Seeking…")).to_have_count(0)
    with screen.expect_download() as waiting:
        screen.get_by_role("link", name="All as CSV").click()
    rows = list(csv.DictReader(io.StringIO(Path(waiting.value.path()).read_text())))
    red = next(
        r
        for r in rows
        if r["Colour"] == "Ternholm Red" and r["Press"].startswith("Sheetfed coated")
    )
    inks = {n: int(red[n]) for n in "CMYK" if red.get(n, "0") != "0"}
    for ink, percent in inks.items():
        expect(cell).to_contain_text(f"{ink}\u00a0{percent}")
    expect(cell).to_contain_text(f"ΔE00 {float(red['dE00']):.1f}")
    blue = table.get_by_role("button", name="Far Blue on Newsprint")
    blue.focus()
    screen.keyboard.press("Enter")
    large = screen.get_by_role("group", name=re.compile("^Far Blue on Newsprint"))
    expect(large).to_contain_text("beyond what is fine")
    expect(large).to_contain_text("less vivid")
    expect(large.get_by_role("row")).to_have_count(3)
    screen.get_by_role("switch", name="Newsprint").click()
    expect(blue).to_have_count(0)
    expect(screen).to_have_url(re.compile("without="))

    head = table.get_by_role("columnheader").filter(has_text="Sheetfed coated")
    head.get_by_role("button", name="Into a policy…").click()
    expect(sheet.get_by_label("Policy").locator("option:checked")).to_have_text(
        "Kind to office files, Sheetfed coated"
    )
    sheet.get_by_role("button", name="Put them in").click()
    expect(sheet.get_by_role("status")).to_contain_text("converts 2 spot colours")
    sheet.get_by_role("link", name="To the policies").click()
    screen.get_by_label("Policies", exact=True).get_by_role(
        "button", name="Kind to office files, Sheetfed coated"
    ).click()
    screen.get_by_label("Document", exact=True).select_option("star-atlas.pdf")
    flow = screen.get_by_role("group", name="Flow")
    expect(flow).to_contain_text("by its build", timeout=60_000)
    screen.get_by_role("button", name="Rules and settings").click()
    builds = screen.get_by_role("group", name="Builds of spot colours")
    field = builds.get_by_label("Build of Ternholm Red", exact=True)
    expect(field).to_have_value("  ".join(f"{n} {v}" for n, v in inks.items()))
    field.fill("M 95 Y 70")
    field.press("Enter")
    builds.get_by_role("button", name="Without a build of Far Blue").click()
    screen.get_by_role("button", name=re.compile("^Keep as version")).click()
    expect(screen.get_by_role("button", name=re.compile("^Keep as version"))).to_be_disabled()
    origin = screen.evaluate("location.origin")
    kept = next(
        p for p in screen.request.get(f"{origin}/api/policies").json()
        if p["name"] == "Kind to office files, Sheetfed coated"
    )["policy"]  # fmt: skip
    assert kept["builds"] == {"Ternholm Red": {"M": 95, "Y": 70}}

    # A page in that spot colour, run as the kept policy says, prints the build's numbers.
    profiles = screen.request.get(f"{origin}/api/profiles").json()
    number = next(p["id"] for p in profiles if p["sha256"] == kept["destination"])
    press = Profile(screen.request.get(f"{origin}/api/profiles/{number}/file").body())
    with pikepdf.new() as pdf:
        pdf.add_blank_page(page_size=(100, 100))
        look = pikepdf.Dictionary(FunctionType=2, Domain=[0, 1], C0=[0] * 4, C1=[0, 1, 1, 0], N=1)
        space = [
            pikepdf.Name.Separation,
            pikepdf.Name("/Ternholm Red"),
            pikepdf.Name.DeviceCMYK,
            look,
        ]
        pdf.pages[0].Resources = pikepdf.Dictionary(ColorSpace={"/S": pikepdf.Array(space)})
        pdf.pages[0].Contents = pikepdf.Stream(pdf, b"/S cs 0.5 scn 0 0 50 50 re f")
        pdf.save(tmp_path / "in.pdf")
    named = {"destination": press}
    run_policy(
        parse_policy({**kept, "destination": "destination", "checks": []}),
        tmp_path / "in.pdf", tmp_path / "out.pdf",
        lambda n: named.get(n) or standard_profile(n if n in (*SPACES, "grey") else "srgb"),
    )  # fmt: skip
    with pikepdf.open(tmp_path / "out.pdf") as pdf:
        operations = pikepdf.parse_content_stream(pdf.pages[0])
        fills = [[float(v) for v in o.operands] for o in operations if str(o.operator) == "k"]
    assert fills[-1] == [0, 0.475, 0.35, 0]


def test_one_colour_is_tried_before_there_is_a_list(screen: Page) -> None:
    place(screen, "Spot colours")
    expect(screen.get_by_text("or type one colour to try it")).to_be_visible()
    typed = screen.get_by_label("Or try one colour")
    expect(screen.get_by_role("button", name="Try", exact=True)).to_be_disabled()
    typed.fill("55 70")
    typed.press("Enter")
    expect(screen.get_by_role("alert")).to_contain_text("no colour that can be read")
    typed.fill("55 −70 30")
    typed.press("Enter")
    table = screen.get_by_role("table", name="Builds")
    expect(table.get_by_role("button", name=re.compile("^55 -70 30 on")).first).to_be_visible()
    expect(table.get_by_role("button", name="Into a policy…")).to_have_count(0)
    expect(screen).to_have_url(re.compile("colour=55"))
    typed.fill("#0080c8")
    screen.get_by_role("button", name="Try", exact=True).click()
    expect(table.get_by_role("button", name=re.compile("^#0080c8 on")).first).to_be_visible()
    expect(screen.get_by_label("Colours are taken")).to_have_value("relative")
