"""The real application on a port and data folder of its own, with the demo in it."""

from __future__ import annotations

import os
import socket
import sqlite3
import subprocess
import sys
import time
import urllib.request
from collections.abc import Iterator
from contextlib import closing
from dataclasses import dataclass
from pathlib import Path

import numpy as np
import pytest
import tifffile
from playwright.sync_api import (
    Browser,
    BrowserContext,
    Page,
    StorageState,
    expect,
    sync_playwright,
)

from plinto_core.characterise import BuildSettings, build_profile
from plinto_core.colorimetry.spectra import reflectance_to_XYZ
from plinto_core.inks.rules import parse_ink_rules
from plinto_core.measurement import cmyk_chart
from plinto_core.measurement.characterisation import Characterisation
from plinto_core.simulator import CONDITIONS, measure_chart
from plinto_core.transform.standard_spaces import standard_profile

expect.set_options(timeout=60_000)
CHROMIUM = "/usr/bin/chromium"
FLAGS = [
    "--no-sandbox",
    # Bodies in space are drawn by the processor, as there is no graphics card.
    "--enable-unsafe-swiftshader",
    "--use-angle=swiftshader",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--no-first-run",
    "--disable-gpu",
    # A process of its own for every page took two fifths of the browser's processor time.
    "--process-per-site",
]


@pytest.fixture(scope="session")
def data(tmp_path_factory: pytest.TempPathFactory) -> Path:
    return tmp_path_factory.mktemp("data")


@pytest.fixture(scope="session")
def address(data: Path) -> Iterator[str]:
    environment = {**os.environ, "PLINTO_DATA": str(data)}
    command = [sys.executable, "-m", "plinto_cli.main"]
    subprocess.run([*command, "demo"], env=environment, check=True, stdout=subprocess.DEVNULL)
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    log = (data / "log").open("w")
    server = subprocess.Popen(
        [*command, "serve", "--port", str(port)], env=environment, stdout=log, stderr=log
    )
    url = f"http://127.0.0.1:{port}"
    for _ in range(240):
        if server.poll() is not None:
            break
        try:
            urllib.request.urlopen(f"{url}/api/session", timeout=5)
            break
        except OSError:
            time.sleep(0.5)
    yield url
    server.terminate()
    server.wait(15)
    log.close()
    assert "Traceback" not in (data / "log").read_text()


@pytest.fixture(scope="session")
def chromium() -> Iterator[Browser]:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        yield browser
        browser.close()


@pytest.fixture
def fresh_looks(address: str, data: Path) -> None:
    """Every test looks at the demo's jobs as a newcomer does, whatever a test before it arranged."""
    with closing(sqlite3.connect(data / "plinto.sqlite3", timeout=30)) as facts, facts:
        facts.execute("DELETE FROM jobs_joblook")


@dataclass
class Visitor:
    """What the tests' windows have in common: cookies of the demo's account, once it was entered, and a
    page that stays open, so that the process which draws stays with it."""

    context: BrowserContext
    open: Page
    entered: StorageState | None = None

    def forget(self) -> None:
        """As a browser that knows nothing but who it is; passwords are slow to check, as they should be."""
        for page in self.context.pages:
            if page is not self.open:
                page.close()
        self.open.evaluate("localStorage.clear(); sessionStorage.clear()")
        self.context.clear_cookies()
        if self.entered is not None:
            self.context.add_cookies(self.entered["cookies"])  # type: ignore[arg-type]


@pytest.fixture(scope="session")
def visitor(chromium: Browser, address: str) -> Iterator[Visitor]:
    context = chromium.new_context(viewport={"width": 1280, "height": 800}, base_url=address)
    context.set_default_timeout(60_000)
    page = context.new_page()
    page.goto("/mark.svg")
    yield Visitor(context, page)
    context.close()


@pytest.fixture
def screen(visitor: Visitor, fresh_looks: None) -> Iterator[Page]:
    """A page signed in to the demo; any error on its console fails the test."""
    visitor.forget()
    page = visitor.context.new_page()
    errors: list[str] = []
    page.on("pageerror", lambda error: errors.append(str(error)))
    page.goto("/")
    enter = page.get_by_role("button", name="Enter the demo")
    jobs = page.get_by_role("heading", name="Aurora curtain")
    enter.or_(jobs).wait_for()
    if enter.is_visible():
        enter.click()
        jobs.wait_for()
        visitor.entered = visitor.context.storage_state()
    yield page
    visitor.forget()
    assert errors == []


@pytest.fixture
def picture(tmp_path: Path) -> Path:
    """160 × 120, 16 bit, opRGB, with vivid corners and a dark middle."""
    y, x = np.mgrid[0:120, 0:160]
    shade = np.clip(np.hypot(x - 80, y - 60) / 60, 0.0, 1)[..., None]
    rgb = np.stack([x / 159, y / 119, 1 - x / 159], axis=-1) * shade
    path = tmp_path / "plume_test.tif"
    tifffile.imwrite(
        path, np.round(rgb * 65535).astype(np.uint16), photometric="rgb",
        iccprofile=standard_profile("oprgb").data, resolution=(254, 254),
    )  # fmt: skip
    return path


@pytest.fixture(scope="session")
def received(tmp_path_factory: pytest.TempPathFactory) -> Path:
    """The profile of a press that the demo does not have: newsprint with a lower total."""
    simulated = next(c for c in CONDITIONS if c.key == "newsprint")
    chart = cmyk_chart()
    xyz = reflectance_to_XYZ(measure_chart(simulated.model, chart))
    rules = parse_ink_rules({"tac": 225, "black": {"method": "gcr", "start": 40, "limit": 90}})
    settings = BuildSettings(size="small", description="Coldset, three towers")
    path = tmp_path_factory.mktemp("received") / "coldset.icc"
    path.write_bytes(build_profile(Characterisation(chart, xyz), rules, settings).data)
    return path
