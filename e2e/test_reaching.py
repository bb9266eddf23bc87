"""Room, keyboard, explanations: what must hold on every page and at every width."""

from __future__ import annotations

import gzip
import re
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from steps import place, settled, stage

AXE = Path(__file__).parents[1] / "web" / "node_modules" / "axe-core" / "axe.min.js"
PAGES = {
    "Jobs": "/", "Policies": "/policies", "Printers": "/printers", "Proof prints": "/proofs", "Queue": "/queue", "Folders": "/folders",
    "Conditions": "/conditions", "Profiles": "/profiles", "Gamuts": "/gamuts", "Colour paths": "/paths?list=1&step=lab::relative&step=condition:2:relative%2B", "Spot colours": "/spots", "Questions": "/questions", "House rules": "/house-rules", "Words": "/words", "Methods": "/methods", "Account": "/account",
}  # fmt: skip
STAGES = ("artwork", "source", "press-view", "inks", "deliver")


@pytest.fixture(scope="session")
def six(address: str, chromium) -> str:
    """Address of a demo job that goes to six conditions."""
    context = chromium.new_context(base_url=address)
    page = context.new_page()
    page.goto("/")
    page.get_by_role("button", name="Enter the demo").click()
    page.get_by_role("heading", name="Aurora curtain").wait_for()
    token = next(c["value"] for c in context.cookies() if c["name"] == "csrftoken")
    artwork = page.request.get("/api/artwork").json()[0]["id"]
    conditions = [c["id"] for c in page.request.get("/api/conditions").json() if not c["own"]][:6]
    made = page.request.post(
        "/api/jobs",
        data={"artwork": artwork, "conditions": conditions},
        headers={"X-CSRFToken": token},
    ).json()
    renamed = page.request.patch(
        f"/api/jobs/{made['id']}", data={"name": "Six ways"}, headers={"X-CSRFToken": token}
    )
    assert renamed.ok, renamed.text()
    context.close()
    return f"/jobs/{made['id']}/{made['destinations'][0]['id']}"


@pytest.mark.parametrize(("width", "height"), [(1024, 768), (1280, 800), (1680, 1050)])
def test_nothing_overlaps_or_scrolls_sideways(
    screen: Page, six: str, width: int, height: int
) -> None:
    screen.set_viewport_size({"width": width, "height": height})
    for at in [*PAGES.values(), *(f"{six}/{s}" for s in STAGES)]:
        screen.goto(at)
        expect(screen.locator("main")).to_be_visible()
        screen.wait_for_load_state("networkidle")
        assert screen.evaluate("document.documentElement.scrollWidth <= window.innerWidth"), at
    screen.goto(f"{six}/press-view")
    settled(screen)
    title = screen.get_by_role("heading", level=1)
    box = title.locator("..").bounding_box()
    assert box
    assert box["width"] >= 80
    parts = [
        screen.get_by_label("Stages"), screen.locator("[data-pane]").first,
        screen.get_by_role("radiogroup", name="Rendering intent"), screen.get_by_label("Readout"),
        screen.locator("header"),
    ]  # fmt: skip
    boxes = [p.bounding_box() for p in parts]
    for i, a in enumerate(boxes):
        for b in boxes[i + 1 :]:
            assert a
            assert b
            apart = (
                a["x"] + a["width"] <= b["x"] + 1 or b["x"] + b["width"] <= a["x"] + 1
                or a["y"] + a["height"] <= b["y"] + 1 or b["y"] + b["height"] <= a["y"] + 1
            )  # fmt: skip
            assert apart, (a, b)
    header = screen.evaluate(
        """() => {
        const all = [...document.querySelectorAll('header > *, header nav > *')]
            .filter(e => e.offsetWidth > 0).map(e => e.getBoundingClientRect());
        return all.every(r => r.left >= -1 && r.right <= innerWidth + 1);
    }"""
    )
    assert header
    if width < 1600:
        expect(screen.get_by_label("Conditions of this job")).to_contain_text("of 6")


def share_of_pictures(page: Page) -> float:
    return page.evaluate(
        """() => [...document.querySelectorAll('[data-pane]')].reduce((sum, pane) => {
        const p = pane.getBoundingClientRect(), i = pane.querySelector('img').getBoundingClientRect();
        const w = Math.min(p.right, i.right) - Math.max(p.left, i.left);
        const h = Math.min(p.bottom, i.bottom) - Math.max(p.top, i.top);
        return sum + w * h;
    }, 0) / (innerWidth * innerHeight)"""
    )


@pytest.mark.parametrize("job", ["Aurora curtain", "Moon phases", "Comet bag", "Observers’ card"])
def test_the_pictures_take_two_fifths_of_the_window(screen: Page, job: str) -> None:
    screen.get_by_label(f"Open {job}").first.click()
    for name in STAGES:
        stage(screen, name.replace("-", " ").capitalize())
        settled(screen)
        assert share_of_pictures(screen) >= 0.4, name


FOCUS = """() => {
    const e = document.activeElement;
    if (!e || e === document.body) return 'none';
    const outlined = (x, pseudo) => { const s = getComputedStyle(x); return s.outlineStyle !== 'none' && parseFloat(s.outlineWidth) >= 2; };
    let at = e;
    for (let i = 0; i < 3 && at; i++, at = at.parentElement) if (outlined(at)) return 'seen';
    return 'UNSEEN ' + e.outerHTML.slice(0, 160);
}"""


def test_every_stop_of_the_keyboard_is_seen(screen: Page, six: str) -> None:
    for at in [*PAGES.values(), *(f"{six}/{s}" for s in STAGES)]:
        screen.goto(at)
        expect(screen.get_by_role("heading", level=1).first).to_be_visible()
        screen.wait_for_load_state("networkidle")
        stops = 0
        for _ in range(45):
            screen.keyboard.press("Tab")
            found = screen.evaluate(FOCUS)
            assert not found.startswith("UNSEEN"), (at, found)
            stops += found == "seen"
            if found == "none":
                break
        assert stops > 5, at


FIGURES = """() => {
    const shown = e => { const r = e.getBoundingClientRect(); return r.width > 0 && r.height > 0; };
    const skipped = 'input, select, textarea, option, button, a, svg, pre, code, [role=menuitem], [role=combobox], h1, h2, h3, nav ol > li > button, [aria-label="Pages"], [data-name], b, [role=alert], .MuiSelect-select';
    const walker = document.createTreeWalker(document.querySelector('main'), NodeFilter.SHOW_TEXT);
    let all = 0, explained = 0; const missing = [];
    while (walker.nextNode()) {
        const text = walker.currentNode.textContent.trim(), e = walker.currentNode.parentElement;
        if (!/\\d/.test(text) || !shown(e)) continue;
        const marked = e.closest('[data-explained]');
        if (!marked && e.closest(skipped)) continue;
        all += 1;
        const cell = e.closest('td');
        const head = cell && cell.closest('table').querySelector(`th:nth-child(${cell.cellIndex + 1}) [data-explained]`);
        if (marked || head) explained += 1; else missing.push(text.slice(0, 60));
    }
    return { all, explained, missing };
}"""


def test_nine_figures_of_ten_explain_themselves(screen: Page, six: str) -> None:
    total = explained = 0
    missing: list[str] = []
    places = ["/", "/policies", "/printers", "/queue", "/folders", *(f"{six}/{s}" for s in STAGES)]
    for at in places:
        screen.goto(at)
        screen.wait_for_load_state("networkidle")
        screen.wait_for_timeout(1200)
        pane = screen.locator("[data-pane]").last
        if at.startswith("/jobs"):
            box = pane.bounding_box()
            assert box
            screen.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
            expect(screen.get_by_label("Readout")).to_contain_text("ΔE00")
        found = screen.evaluate(FIGURES)
        total += found["all"]
        explained += found["explained"]
        missing += [f"{at}: {m}" for m in found["missing"]]
    print(f"{explained} of {total} figures explain themselves")
    assert total > 60
    assert explained >= 0.9 * total, missing


def test_an_explanation_opens_on_hover_and_on_focus(screen: Page) -> None:
    screen.get_by_label("Open Moon phases").click()
    figure = screen.locator('main [data-explained="de00_mean"][tabindex]').first
    says = "Mean CIEDE2000 between the corrected artwork"
    figure.hover()
    expect(screen.get_by_role("tooltip")).to_contain_text(says)
    screen.mouse.move(0, 0)
    expect(screen.get_by_role("tooltip")).to_have_count(0)
    screen.keyboard.press("Tab")
    figure.focus()
    expect(screen.get_by_role("tooltip")).to_contain_text(says)
    screen.keyboard.press("Escape")
    screen.get_by_role("button", name="demo").click()
    screen.get_by_role("menuitem", name="Words and figures").click()
    screen.get_by_label("Find a word").fill("soft proof")
    expect(screen.get_by_text("Seeing artwork on the screen as a press")).to_be_visible()
    screen.get_by_label("Find a word").fill("mean ΔE00")
    screen.get_by_role("link", name="How it is computed").first.click()
    expect(screen.get_by_role("heading", name="Figures on the screen")).to_be_visible()


@pytest.mark.parametrize("place", [*PAGES, *STAGES])
def test_axe_finds_nothing_serious(screen: Page, six: str, place: str) -> None:
    screen.goto(PAGES.get(place) or f"{six}/{place}")
    screen.wait_for_load_state("networkidle")
    screen.wait_for_timeout(400)
    screen.evaluate(AXE.read_text())
    found = screen.evaluate("axe.run(document, { resultTypes: ['violations'] })")
    grave = [
        (v["id"], [n["html"][:140] for n in v["nodes"][:3]])
        for v in found["violations"]
        if v["impact"] in ("serious", "critical")
    ]
    assert not grave, grave


def test_the_focus_comes_along_and_the_places_can_be_skipped(screen: Page) -> None:
    screen.keyboard.press("Tab")
    skip = screen.get_by_role("link", name="Skip to the page")
    expect(skip).to_be_focused()
    screen.keyboard.press("Enter")
    expect(screen.get_by_role("main")).to_be_focused()
    place(screen, "Queue")
    expect(screen.get_by_role("heading", level=1)).to_have_text("Queue")
    expect(screen.get_by_role("main")).to_be_focused()
    assert screen.title() == "Queue, Plinto"


def test_single_keys_can_be_switched_off(screen: Page, six: str) -> None:
    screen.goto(f"{six}/press-view")
    veil = screen.get_by_role("switch", name="Out-of-gamut veil")
    before = veil.is_checked()
    screen.get_by_role("button", name="demo").click()
    screen.get_by_role("menuitem", name="Keys").click()
    screen.get_by_role("switch", name="Single keys are commands").uncheck()
    screen.keyboard.press("Escape")
    screen.keyboard.press("g")
    screen.keyboard.press("?")
    expect(screen.get_by_role("heading", name="Keys")).to_have_count(0)
    assert veil.is_checked() == before
    screen.get_by_role("button", name="demo").click()
    screen.get_by_role("menuitem", name="Keys").click()
    screen.get_by_role("switch", name="Single keys are commands").check()
    screen.keyboard.press("Escape")
    screen.keyboard.press("g")
    expect(veil).to_be_checked(checked=not before)
    screen.keyboard.press("g")


def test_the_first_page_loads_no_more_than_it_needs() -> None:
    dist = Path(__file__).parents[1] / "web" / "dist"
    files = re.findall(r'"/(assets/[^"]+\.(?:js|css))"', (dist / "index.html").read_text())
    assert files
    assert sum(len(gzip.compress((dist / f).read_bytes())) for f in files) <= 185_000
    assert not any("Page" in f for f in files)
