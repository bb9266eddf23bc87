"""Questions on the screen: chosen, answered, carried on in other views, asked where the doubt arises."""

from __future__ import annotations

import re
from pathlib import Path

import pypdfium2
from playwright.sync_api import Page, expect

from steps import choose, place


def parts_are(screen: Page, **parts: str) -> None:
    """What plays the parts, by name; own conditions with the same profile are named before it."""
    for part, name in parts.items():
        choose(screen, part, re.compile(f"{name}$"))


def test_each_question_is_answered_and_its_views_open(screen: Page) -> None:
    place(screen, "Questions")
    said = screen.get_by_test_id("said")
    parts_are(screen, Press="Sheetfed coated", Proofer="Proofing inkjet")
    expect(said).to_contain_text("Yes. Proofing inkjet")
    with screen.expect_download() as waiting:
        screen.get_by_role("link", name="As PDF").click()
    text = pypdfium2.PdfDocument(Path(waiting.value.path()))[0].get_textpage().get_text_range()
    assert "Can this proofer show that press?" in text
    listed = screen.get_by_role("list", name="Questions")
    answers = {
        "Which of two profiles suits this picture?": "in the mean",
        "Are two devices still alike?": "No: ",
        "What does this step do to these tones?": "of the range is left",
        "Does this profile reach the total asked?": "of 300 %",
        "Are its greys grey?": "Yes: C\\*",
    }
    for asked, answer in answers.items():
        listed.get_by_role("button", name=asked).click()
        if "alike" in asked:
            parts_are(screen, First="Sheetfed coated", Second="Newsprint")
        if "total" in asked:
            field = screen.get_by_label("Total asked", exact=True)
            field.fill("100")
            field.press("Enter")
            expect(said).to_contain_text("No: it goes over.")
            continue
        expect(said).to_contain_text(re.compile(answer))
        expect(screen.get_by_role("region", name="Answer").get_by_role("img")).to_be_visible()
    screen.get_by_role("link", name="Its greys, inks and path").click()
    expect(screen).to_have_url(re.compile(r"/profiles/\d+/greys"))
    screen.go_back()
    expect(said).to_contain_text("Yes: C*")

    # The proofer and the press exchanged: the answer turns, and says why.
    listed.get_by_role("button", name="Can this proofer show that press?").click()
    parts_are(screen, Proofer="Newsprint")
    expect(said).to_contain_text("No. ")
    answer = screen.get_by_role("region", name="Answer")
    expect(answer).to_contain_text("Out of its reach: ")
    screen.get_by_role("link", name="Both bodies").click()
    expect(screen).to_have_url(re.compile("sight=absolute"))
    expect(screen.get_by_role("img").first).to_be_visible()


def test_a_question_is_asked_where_the_doubt_arises(screen: Page) -> None:
    place(screen, "Conditions")
    screen.get_by_role("table", name="Conditions").get_by_text("Newsprint", exact=True).click()
    screen.get_by_role("link", name="Ask about it").click()
    expect(
        screen.get_by_role("combobox", name="Profile").locator("option:checked")
    ).to_contain_text("Newsprint")
    expect(screen.get_by_test_id("said")).to_contain_text("C*")
    place(screen, "Jobs")
    screen.get_by_label("Open Aurora curtain").click()
    screen.keyboard.press("3")
    screen.get_by_role("link", name="Which of two profiles suits this picture?").click()
    expect(screen.get_by_role("combobox", name="Picture").locator("option:checked")).to_have_text(
        "Aurora curtain"
    )
    expect(screen.get_by_test_id("said")).to_contain_text("ΔE00 in the mean")
