"""An empty installation: the first account, an own condition, a first job; no demo."""

from __future__ import annotations

import os
import socket
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator
from pathlib import Path

import pikepdf
import pytest
from playwright.sync_api import Browser, Page, expect

from steps import place, settled, stage


@pytest.fixture
def empty(chromium: Browser, tmp_path_factory: pytest.TempPathFactory) -> Iterator[Page]:
    """A page of a new installation with nothing in it."""
    data = tmp_path_factory.mktemp("empty")
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    log = (data / "log").open("w")
    server = subprocess.Popen(
        [sys.executable, "-m", "plinto_cli.main", "serve", "--port", str(port)],
        env={**os.environ, "PLINTO_DATA": str(data)}, stdout=log, stderr=log,
    )  # fmt: skip
    url = f"http://127.0.0.1:{port}"
    for _ in range(240):
        try:
            urllib.request.urlopen(f"{url}/api/session", timeout=5)
            break
        except OSError:
            time.sleep(0.5)
    context = chromium.new_context(viewport={"width": 1280, "height": 800}, base_url=url)
    context.set_default_timeout(30_000)
    page = context.new_page()
    errors: list[str] = []
    page.on("pageerror", lambda error: errors.append(str(error)))
    yield page
    context.close()
    server.terminate()
    server.wait(15)
    log.close()
    assert errors == []
    assert "Traceback" not in (data / "log").read_text()


def first_account(page: Page) -> None:
    page.goto("/")
    form = page.get_by_role("form", name="First account")
    form.get_by_label("Name of the house").fill("Three Towers")
    form.get_by_label("Your name for signing in").fill("mira")
    form.get_by_label("Password").fill("a long enough one")
    form.get_by_role("button", name="Make the account and begin").click()
    expect(page.get_by_role("list", name="First steps")).to_be_visible()


def test_from_nothing_to_a_first_job(empty: Page, received: Path, picture: Path) -> None:
    first_account(empty)
    steps = empty.get_by_role("list", name="First steps")
    expect(steps).to_contain_text("made of the profile of your press")
    steps.get_by_role("button", name="New condition…").click()
    empty.get_by_label("Profile of a condition").set_input_files(received)
    dialog = empty.get_by_role("dialog", name="New condition")
    dialog.get_by_role("button", name="Keep the condition").click()
    expect(steps).to_contain_text("Coldset, three towers can be printed for")
    empty.get_by_label("Artwork file").set_input_files(picture)
    empty.get_by_role("checkbox", name="Coldset, three towers").check()
    empty.get_by_role("button", name="Start the job").click()
    empty.get_by_role("heading", name="Plume test", level=1).wait_for()
    stage(empty, "Press view")
    settled(empty)
    expect(empty.get_by_test_id("proof-caption").first).to_contain_text("Coldset, three towers")
    expect(empty.get_by_test_id("too_dark")).to_contain_text("%")


def test_from_nothing_to_a_first_document_on_paper(
    empty: Page, received: Path, tmp_path: Path
) -> None:
    first_account(empty)
    with pikepdf.new() as pdf:
        pdf.add_blank_page(page_size=(300, 200))
        pdf.pages[0].Contents = pikepdf.Stream(pdf, b"0.2 0.7 0.4 rg 20 20 100 100 re f")
        pdf.save(tmp_path / "leaf.pdf")
    place(empty, "Policies")
    empty.get_by_role("button", name="New policy").click()
    empty.get_by_role("menuitem", name="A new condition…").click()
    empty.get_by_label("Profile of a condition").set_input_files(received)
    dialog = empty.get_by_role("dialog", name="New condition")
    dialog.get_by_role("button", name="Keep the condition").click()
    expect(empty.get_by_label("Name of the policy")).to_have_value(
        "Strict press, Coldset, three towers"
    )
    empty.get_by_label("Document file").set_input_files(tmp_path / "leaf.pdf")
    empty.get_by_role("button", name="Run for real").click()
    run = empty.get_by_role("status", name="Real run")
    expect(run).to_have_attribute("data-state", "done", timeout=60_000)
    run.get_by_role("button", name="Send it on…").click()
    sheet = empty.get_by_role("dialog")
    expect(sheet.get_by_label("Where to")).to_contain_text("no printer has a medium yet")
    sheet.get_by_role("link", name="Set up a printer").click()
    empty.get_by_role("button", name="New printer").click()
    empty.get_by_role("button", name="Add a medium").click()
    empty.get_by_label("Name of the medium").fill("Roll stock")
    empty.get_by_label("Policy", exact=True).select_option("Strict press, Coldset, three towers")
    empty.get_by_role("button", name="Keep the medium").click()
    medium = empty.get_by_role("region", name="Roll stock")
    medium.get_by_role("button", name="Print on it…").click()
    panel = empty.get_by_role("region", name="Send to the printer")
    expect(panel.get_by_role("note")).to_contain_text("Version 1 of Strict press")
    panel.get_by_role("button", name="Print", exact=True).click()
    expect(panel.get_by_role("status")).to_contain_text("is in the queue")
    place(empty, "Queue")
    record = empty.get_by_role("row", name="leaf.pdf").filter(has_text="New printer")
    expect(record).to_contain_text("done", timeout=60_000)


def test_from_nothing_to_a_printer_that_takes_rgb(empty: Page, picture: Path) -> None:
    first_account(empty)
    place(empty, "Printers")
    empty.get_by_role("button", name="New printer").click()
    empty.get_by_role("button", name="Add a medium").click()
    empty.get_by_label("Name of the medium").fill("Pearl paper")
    empty.get_by_label("Condition", exact=True).select_option("new")
    dialog = empty.get_by_role("dialog", name="New condition")
    dialog.get_by_label("Profile of the library").select_option(label="sRGB, RGB")
    dialog.get_by_label("Process").select_option("photographic")
    dialog.get_by_role("button", name="Keep the condition").click()
    # Its driver converts: nothing else would, and the guard says so until it is set.
    guard = empty.get_by_role("status", name="The guard")
    expect(guard).to_contain_text("Colour would never be managed")
    empty.get_by_label("Colour is managed by").select_option("driver")
    empty.get_by_label("Colour in the driver").select_option("on")
    expect(guard).not_to_contain_text("Refused")
    # What is not kept yet is asked about before another place is shown.
    empty.get_by_role("link", name="Jobs").first.click()
    asked = empty.get_by_role("dialog", name="Leave without keeping it?")
    asked.get_by_role("button", name="Stay here").click()
    empty.get_by_role("button", name="Keep the medium").click()
    medium = empty.get_by_role("region", name="Pearl paper")
    medium.get_by_role("button", name="Print on it…").click()
    panel = empty.get_by_role("region", name="Send to the printer")
    panel.get_by_label("File to print").set_input_files(picture)
    panel.get_by_role("button", name="Print", exact=True).click()
    expect(panel.get_by_role("status")).to_contain_text("is in the queue")
    place(empty, "Queue")
    expect(empty.get_by_role("row", name=picture.name)).to_contain_text("done", timeout=60_000)
