"""Output policies on their page: dry run, rules, versions, the real run, a page with its mark."""

from __future__ import annotations

import re
from pathlib import Path

import pikepdf
from playwright.sync_api import Page, expect

from plinto_core.document import inventory
from steps import open_policy, place, removed


def test_a_strict_policy_stops_then_converts_by_a_changed_rule(
    screen: Page, tmp_path: Path
) -> None:
    open_policy(screen, "Strict press, Sheetfed coated")
    flow = screen.get_by_role("group", name="Flow")
    expect(flow).to_contain_text("Spot “Ternholm Red”")
    expect(flow).to_contain_text("Stopped")
    screen.get_by_role("button", name="Run; it stops at 2").click()
    run = screen.get_by_role("status", name="Real run")
    expect(run).to_have_attribute("data-state", "failed", timeout=60_000)
    expect(run).to_contain_text("Page 4")
    expect(run).to_contain_text("Ternholm Red")

    screen.get_by_role("button", name="Rules and settings").click()
    first = screen.get_by_role("listitem", name="Rule 1")
    first.get_by_label("Action").select_option("convert")
    expect(flow).not_to_contain_text("Stopped", timeout=60_000)
    screen.get_by_role("button", name="Keep as version 2").click()
    expect(screen.get_by_label("Policies", exact=True)).to_contain_text("version 2")
    screen.get_by_role("button", name="Run for real").click()
    expect(run).to_have_attribute("data-state", "done", timeout=60_000)
    with screen.expect_download() as waiting:
        run.get_by_role("link", name="Download").click()
    result = tmp_path / waiting.value.suggested_filename
    waiting.value.save_as(result)
    found = inventory(result)
    assert {o.family for o in found.objects} <= {"CMYK", "grey"}
    with pikepdf.open(result) as pdf:
        assert "/OutputIntents" in pdf.Root
    # What it made goes on to a printer or into a folder; another press's medium is refused in a sentence.
    run.get_by_role("button", name="Send it on…").click()
    sheet = screen.get_by_role("dialog", name=f"Send {result.name} on")
    sheet.get_by_label("Where to").select_option(label="Uncoated, 120 g/m²")
    sheet.get_by_role("button", name="Queue it held").click()
    expect(sheet.get_by_role("alert")).to_contain_text("other")
    sheet.get_by_label("Where to").select_option(label="From the office")
    sheet.get_by_role("button", name="Put it into the folder").click()
    expect(sheet.get_by_role("status")).to_contain_text("It lies in From the office.")
    sheet.get_by_label("Where to").select_option(label="Gloss coated, 135 g/m²")
    sheet.get_by_role("button", name="Queue it held").click()
    expect(sheet.get_by_role("status")).to_contain_text("Sheetfed press, Gloss coated")
    sheet.get_by_role("link", name="See the queue").click()
    row = screen.get_by_role("table", name="Under way").get_by_role("row", name=result.name)
    expect(row).to_contain_text("held")
    row.get_by_role("button", name="Cancel").click()
    expect(row).to_have_count(0)
    screen.goto("/folders")
    expect(screen.get_by_role("table").get_by_role("row", name=result.name)).to_be_visible(
        timeout=30_000
    )


def test_objects_are_filtered_sorted_and_marked_on_their_page(screen: Page) -> None:
    open_policy(screen, "Kind to office files, Sheetfed coated")
    screen.get_by_text("Preflight of the document").click()
    facts = screen.get_by_role("region", name="Preflight")
    expect(facts).to_contain_text("Ternholm Red")
    with screen.expect_download() as waiting:
        facts.get_by_role("link", name="PDF").click()
    assert Path(waiting.value.path()).read_bytes().startswith(b"%PDF")
    table = screen.get_by_role("table", name="Objects")
    screen.get_by_label("Kind of object").select_option("image")
    expect(table.get_by_role("row")).to_have_count(6)
    table.get_by_role("button", name="Pixels, resolution").click()
    table.get_by_role("button", name="Pixels, resolution").click()
    finest = table.get_by_role("row").nth(1)
    expect(finest).to_contain_text("600 ppi → 225")
    finest.click()
    expect(screen.get_by_role("region", name="On the page")).to_contain_text("Page 2")
    expect(screen.get_by_test_id("object-mark")).to_have_count(2)
    meant, printed = (
        screen.request.get(i.get_attribute("src") or "").body()
        for i in screen.locator("img[data-side]").all()
    )
    assert meant != printed
    screen.get_by_role("group", name="Flow").get_by_role("button", name="Grey images").click()
    expect(table.get_by_role("row")).to_have_count(2)


def test_policies_from_templates_and_files_and_documents_from_outside(
    screen: Page, tmp_path: Path
) -> None:
    place(screen, "Policies")
    screen.get_by_role("button", name="New policy").click()
    screen.get_by_role("menuitem", name="Newsprint").nth(2).click()
    listed = screen.get_by_label("Policies", exact=True)
    expect(listed).to_contain_text("Receiver wants bare CMYK, Newsprint")
    with screen.expect_download() as waiting:
        screen.get_by_role("button", name="Export as a file").click()
    text = Path(waiting.value.path()).read_text().replace("Receiver wants", "Somebody wants")
    (tmp_path / "policy.json").write_text(text)
    screen.get_by_label("Policy file").set_input_files(tmp_path / "policy.json")
    expect(listed).to_contain_text("Somebody wants bare CMYK, Newsprint")
    expect(screen.get_by_label("Name of the policy")).to_have_value(
        "Somebody wants bare CMYK, Newsprint"
    )
    removed(screen, "Retire the policy")
    expect(listed).not_to_contain_text("Somebody wants")

    documents = screen.get_by_label("Document file")
    documents.set_input_files(
        {"name": "broken.pdf", "mimeType": "application/pdf", "buffer": b"%PDF-1.7 nothing"}
    )
    expect(screen.get_by_role("alert")).to_contain_text("damaged or no PDF")
    screen.get_by_role("alert").get_by_role("button", name="Close").click()
    with pikepdf.new() as pdf:
        pdf.add_blank_page(page_size=(200, 200))
        pdf.pages[0].Contents = pikepdf.Stream(pdf, b"0.2 0.7 0.4 rg 20 20 100 100 re f")
        pdf.save(tmp_path / "leaf.pdf")
    documents.set_input_files(tmp_path / "leaf.pdf")
    expect(screen.get_by_label("Document", exact=True)).to_contain_text("leaf.pdf")
    row = screen.get_by_role("table", name="Objects").get_by_role("row").nth(1)
    expect(row).to_contain_text("R 51 G 178.5 B 102", timeout=60_000)


def test_versions_are_compared_and_tried_on_recent_documents(screen: Page) -> None:
    open_policy(screen, "Kind to office files, Sheetfed uncoated")
    screen.get_by_role("button", name="Compare").click()
    compared = screen.get_by_role("region", name="Compared")
    expect(compared).to_contain_text("they treat every document alike")
    screen.get_by_role("button", name="Rules and settings").click()
    screen.get_by_label("Clean primaries").uncheck()
    screen.get_by_label("Stretch of the source").last.select_option("50")
    table = compared.get_by_role("table", name="Differences")
    expect(table.get_by_role("row", name="clean")).to_contain_text("yes")
    expect(table.get_by_role("row", name="rule 6")).to_contain_text("stretched 50 %")
    compared.get_by_role("button", name="Try on recent documents").click()
    recent = compared.get_by_role("list", name="Recent documents")
    expect(recent).to_contain_text("objects come out differently", timeout=60_000)
    expect(recent.get_by_role("row").first).to_contain_text("RGB vector R 255 G 0 B 0")
    compared.get_by_role("button", name="Take its rules over").click()
    expect(compared).to_contain_text("they treat every document alike")
    expect(screen.get_by_label("Clean primaries")).to_be_checked()
    compared.get_by_label("Compared with").select_option("Strict press, Sheetfed coated")
    expect(table.get_by_role("row", name="destination")).to_be_visible()


def test_pages_are_seen_before_and_after_plate_by_plate_and_by_total_ink(screen: Page) -> None:
    open_policy(screen, "Kind to office files, Sheetfed coated")
    screen.get_by_role("tab", name="Pages and plates").click()
    pages = screen.get_by_role("region", name="Pages")
    sides = [pages.get_by_role("img", name=n) for n in ("As its colours are meant", "As it prints")]
    bodies = [screen.request.get(i.get_attribute("src") or "").body() for i in sides]
    assert bodies[0] != bodies[1]
    pages.get_by_role("button", name="Next page").click()
    pages.get_by_role("radio", name="Plates").click()
    plates = pages.get_by_role("list", name="Plates")
    expect(plates.get_by_role("listitem")).to_have_count(5, timeout=60_000)
    expect(plates).to_contain_text(re.compile(r"Magenta12\.\d %"))
    pages.get_by_role("button", name="Magenta alone").click()
    expect(pages.get_by_role("img", name="Magenta plate")).to_be_visible()
    pages.get_by_role("button", name="Cyan", exact=True).click()
    expect(pages.get_by_role("img", name="Plates together")).to_be_visible()
    pages.get_by_role("radio", name="Total ink").click()
    expect(screen.get_by_test_id("page-tac")).to_contain_text("of 320 %")


def test_a_picture_is_treated_by_the_rule_for_images(screen: Page, picture: Path) -> None:
    open_policy(screen, "Strict press, Sheetfed coated")
    screen.get_by_label("Document file").set_input_files(picture)
    expect(screen.get_by_label("Document", exact=True)).to_contain_text("plume_test.tif")
    row = screen.get_by_role("table", name="Objects").get_by_role("row").nth(1)
    expect(row).to_contain_text("160 × 120 px, 254 ppi", timeout=60_000)
    expect(row).to_contain_text("opRGB")
    screen.get_by_role("button", name="Run for real").click()
    run = screen.get_by_role("status", name="Real run")
    expect(run).to_contain_text("plume_test_strict-press-sheetfed-coated.tif", timeout=60_000)


def test_a_result_is_made_for_a_standard_and_says_what_it_does_not_keep(screen: Page) -> None:
    open_policy(screen, "Kind to office files, Sheetfed coated")
    screen.get_by_role("button", name="Rules and settings").click()
    screen.get_by_label("PDF/X", exact=True).select_option("PDF/X-1a:2003")
    screen.get_by_label("Results made for it").click()
    before = screen.get_by_role("region", name="PDF/X as it came")
    expect(before).to_contain_text("does not keep", timeout=60_000)
    screen.get_by_role("button", name="Run for real").click()
    found = screen.get_by_role("region", name="PDF/X of the result")
    expect(found).to_contain_text("no transparency, page", timeout=60_000)
    expect(found).to_contain_text("is not marked as such")
    expect(found).not_to_contain_text("only CMYK, grey and spot colours")


def test_checks_find_lead_to_the_page_and_stop(screen: Page, tmp_path: Path) -> None:
    open_policy(screen, "Kind to office files, Sheetfed coated")
    screen.get_by_role("button", name="Rules and settings").click()
    screen.get_by_label("What follows from thin lines of several inks").select_option("report")
    limit = screen.get_by_label("Limit of thin lines of several inks")
    limit.fill("20")
    limit.press("Enter")
    findings = screen.get_by_role("list", name="Findings of the checks")
    expect(findings).to_contain_text("in several inks, the thinnest", timeout=60_000)
    expect(findings.get_by_role("listitem").first).to_contain_text("Not embedded: Helvetica")
    screen.get_by_role("button", name="Show thin lines of several inks on the page").click()
    page = screen.get_by_role("region", name="On the page")
    expect(page.get_by_test_id("object-mark").first).to_be_visible(timeout=60_000)
    screen.get_by_text("Preflight of the document").click()
    with screen.expect_download() as waiting:
        screen.get_by_role("link", name="notes on the pages").click()
    waiting.value.save_as(tmp_path / "notes.pdf")
    with pikepdf.open(tmp_path / "notes.pdf") as pdf:
        titles = {str(a.get("/T", "")) for p in pdf.pages for a in p.obj.get("/Annots", [])}
    assert titles >= {"Thin lines of several inks", "Fonts not embedded"}

    screen.get_by_label("What follows from fonts not embedded").select_option("stop")
    screen.get_by_role("button", name="Run; a check stops it").click(timeout=60_000)
    run = screen.get_by_role("status", name="Real run")
    expect(run).to_have_attribute("data-state", "failed", timeout=60_000)
    expect(run).to_contain_text("Fonts not embedded: Not embedded: Helvetica")


def test_several_policies_are_tried_side_by_side(screen: Page) -> None:
    open_policy(screen, "Kind to office files, Sheetfed coated")
    expected = screen.get_by_role("note", name="What to expect")
    expect(expected).to_contain_text(re.compile(r"will be about \d+\.\d+ [kM]B"))
    expect(expected).to_contain_text("ΔE00 in the mean")
    screen.get_by_role("button", name="Compare").click()
    several = screen.get_by_role("region", name="Several policies")
    button = several.get_by_role("button", name="Try side by side")
    expect(button).to_be_disabled()
    several.get_by_label("Strict press, Newsprint").check()
    button.click()
    table = several.get_by_role("table", name="Policies side by side")
    row = table.get_by_role("row", name="Strict press, Newsprint")
    expect(row).to_contain_text("240 %", timeout=60_000)
    here = table.get_by_role("row", name="as it stands here")
    expect(here).to_contain_text("MB", timeout=60_000)
    size = re.search(r"about ([\d.]+) MB", expected.inner_text())
    assert size
    expect(here).to_contain_text(f"{size[1]} MB")


def test_a_layer_has_a_rule_of_its_own_and_line_art_a_resolution(
    screen: Page, tmp_path: Path
) -> None:
    with pikepdf.new() as pdf:
        pdf.add_blank_page(page_size=(200, 200))
        group = pdf.make_indirect(
            pikepdf.Dictionary(Type=pikepdf.Name.OCG, Name=pikepdf.String("Die line"))
        )
        pdf.Root.OCProperties = pikepdf.Dictionary(
            OCGs=pikepdf.Array([group]), D=pikepdf.Dictionary()
        )
        pdf.pages[0].Resources = pikepdf.Dictionary(Properties=pikepdf.Dictionary(Die=group))
        pdf.pages[0].Contents = pikepdf.Stream(
            pdf, b"0.2 0.7 0.4 rg 20 20 100 100 re f /OC /Die BDC 20 20 9 9 re f EMC"
        )
        pdf.save(tmp_path / "box.pdf")
    place(screen, "Policies")
    screen.get_by_label("Policies", exact=True).get_by_role(
        "button", name="Kind to office files, Sheetfed uncoated"
    ).click()
    screen.get_by_label("Document file").set_input_files(tmp_path / "box.pdf")
    flow = screen.get_by_role("group", name="Flow")
    expect(flow).to_contain_text("RGB text and vectors2", timeout=60_000)
    screen.get_by_role("button", name="Rules and settings").click()
    screen.get_by_role("button", name="Add a rule").click()
    rules = screen.get_by_role("list", name="Rules")
    new = rules.get_by_role("listitem", name="Rule 1")
    new.get_by_label("Objects").select_option("all")
    new.get_by_label("Action").select_option("leave")
    new.get_by_label("Layer").fill("Die*")
    new.get_by_label("Layer").press("Enter")
    expect(screen.locator("datalist option").first).to_have_attribute("value", "Die line")
    expect(flow).to_contain_text("Leave", timeout=60_000)
    screen.get_by_label("Kind of images").select_option("line art")
    screen.get_by_label("Apart from the others").check()
    finest = screen.get_by_role("group", name="Images").get_by_label("Fine above")
    expect(finest).to_have_value("2400")
    screen.get_by_role("button", name="Keep as version").click()
    expect(screen.get_by_role("button", name="Keep as version")).to_be_disabled()
    screen.reload()
    screen.get_by_label("Policies", exact=True).get_by_role(
        "button", name="Kind to office files, Sheetfed uncoated"
    ).click()
    screen.get_by_role("button", name="Rules and settings").click()
    expect(screen.get_by_role("listitem", name="Rule 1").get_by_label("Layer")).to_have_value(
        "Die*"
    )
    screen.get_by_label("Kind of images").select_option("line art")
    expect(screen.get_by_label("Apart from the others")).to_be_checked()


def test_a_transfer_function_goes_into_the_colours(screen: Page, tmp_path: Path) -> None:
    with pikepdf.new() as pdf:
        pdf.add_blank_page(page_size=(200, 200))
        curve = pikepdf.Dictionary(FunctionType=2, Domain=[0, 1], N=2, C0=[0], C1=[1])
        pdf.pages[0].Resources = pikepdf.Dictionary(
            ExtGState=pikepdf.Dictionary(T=pikepdf.Dictionary(TR=curve))
        )
        pdf.pages[0].Contents = pikepdf.Stream(pdf, b"/T gs 0.5 0 0 0 k 20 20 100 100 re f")
        pdf.save(tmp_path / "curve.pdf")
    place(screen, "Policies")
    screen.get_by_label("Policies", exact=True).get_by_role(
        "button", name="Strict press, Sheetfed coated"
    ).click()
    screen.get_by_label("Document file").set_input_files(tmp_path / "curve.pdf")
    expect(screen.get_by_text("A transfer function changes tones")).to_be_visible(timeout=60_000)
    screen.get_by_role("button", name="Rules and settings").click()
    screen.get_by_label("Transfer functions").select_option("into the colours")
    expect(screen.get_by_text("A transfer function is in the colours now")).to_be_visible(
        timeout=60_000
    )
    expect(screen.get_by_text("A transfer function changes tones")).to_have_count(0)
    screen.get_by_role("button", name="Run for real").click()
    run = screen.get_by_role("status", name="Real run")
    expect(run).to_have_attribute("data-state", "done", timeout=60_000)
    with screen.expect_download() as waiting:
        run.get_by_role("link", name="Download").click()
    waiting.value.save_as(tmp_path / "made.pdf")
    with pikepdf.open(tmp_path / "made.pdf") as pdf:
        assert "/TR" not in pdf.pages[0].Resources.ExtGState.T
        assert b"0.75 0 0 0 k" in pdf.pages[0].Contents.read_bytes()
