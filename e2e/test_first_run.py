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

import pytest
from playwright.sync_api import Browser, Page, expect

from steps import settled, stage


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


def test_from_nothing_to_a_first_job(empty: Page, received: Path, picture: Path) -> None:
    empty.goto("/")
    form = empty.get_by_role("form", name="First account")
    form.get_by_label("Name of the house").fill("Three Towers")
    form.get_by_label("Your name for signing in").fill("mira")
    form.get_by_label("Password").fill("a long enough one")
    form.get_by_role("button", name="Make the account and begin").click()
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
