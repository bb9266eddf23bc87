"""Whole processes on data folders of their own, killed with -9 in the middle of their work."""

from __future__ import annotations

import json
import os
import signal
import socket
import sqlite3
import subprocess
import sys
import time
from contextlib import closing
from pathlib import Path

import pikepdf
import pytest

HEAD = """
import os, django
os.environ["DJANGO_SETTINGS_MODULE"] = "plinto_server.config.settings"
django.setup()
"""
COMMAND = [sys.executable, "-m", "plinto_cli.main"]


@pytest.fixture
def environment(tmp_path) -> dict[str, str]:
    return {**os.environ, "PLINTO_DATA": str(tmp_path / "data")}


@pytest.fixture
def python(environment):
    """Run code with Django set up; returns what it prints."""

    def run(code: str) -> str:
        done = subprocess.run(
            [sys.executable, "-c", HEAD + code], env=environment, capture_output=True, text=True,
            check=False,
        )  # fmt: skip
        assert done.returncode == 0, done.stderr
        return done.stdout.strip()

    return run


DELIVERY = """
from django.core.management import call_command
call_command("migrate", verbosity=0)
import numpy as np, tifffile
from django.contrib.auth import get_user_model
from plinto_server import store
from plinto_server.apps.artwork.services import import_artwork
from plinto_server.apps.conditions.models import PrintingCondition
from plinto_server.apps.jobs.services import create_job
from plinto_server.apps.profiles.services import store_profile
from plinto_server.apps.deliveries.services import start_delivery
from plinto_core.transform.standard_spaces import standard_profile
user = get_user_model().objects.create_user("a")
profile = store_profile(standard_profile("p3").data, "standard")
condition = PrintingCondition.objects.create(key="p", name="P", printer="-", medium="-", profile=profile)
with store.scratch(".tif") as path:
    noise = np.random.default_rng(1).integers(0, 65536, (4000, 3000, 3)).astype(np.uint16)
    tifffile.imwrite(path, noise, photometric="rgb")
    artwork = import_artwork(user, path, "noise.tif")
job = create_job(user, artwork, [condition])
start_delivery(job.destinations.get())
"""


def state_of(environment: dict[str, str]) -> str:
    """The delivery's state, read beside the running processes without starting another."""
    with closing(sqlite3.connect(Path(environment["PLINTO_DATA"]) / "plinto.sqlite3")) as database:
        return str(database.execute("SELECT state FROM queue_run").fetchone()[0])


def test_a_killed_worker_loses_nothing(python, environment) -> None:
    python(DELIVERY)
    first = subprocess.Popen([*COMMAND, "worker"], env=environment)
    deadline = time.monotonic() + 120
    while state_of(environment) != "running" and time.monotonic() < deadline:
        time.sleep(0.02)
    first.send_signal(signal.SIGKILL)
    first.wait()
    assert state_of(environment) == "running"
    python(
        "from plinto_server.apps.work import running as services\n"
        "services.STALE = 0.0; assert services.sweep() == 1"
    )
    second = subprocess.Popen([*COMMAND, "worker"], env=environment)
    while state_of(environment) != "done" and time.monotonic() < deadline:
        time.sleep(0.1)
    second.terminate()
    second.wait()
    assert state_of(environment) == "done"


STUBBORN = """
import time, threading
import plinto_core.warm_up
plinto_core.warm_up.warm_up = lambda: None  # nothing is computed here
from dataclasses import replace
from plinto_server.apps.work.kinds import KINDS
from plinto_server.serving import run_worker
held = []
def doing(row, target, progress):
    while True:  # never says how far it is, never looks for a cancel
        {body}
KINDS["delivery"] = replace(KINDS["delivery"], doing=doing)
run_worker()
"""
CANCEL = """
from plinto_server.apps.deliveries.models import Run
from plinto_server.apps.work import acts
acts.cancel(Run.objects.get())
"""
ENDED = """
from plinto_server.apps.deliveries.models import Run
row = Run.objects.get()
print(row.state, row.error)
"""


def waited(environment: dict[str, str], state: str, seconds: float) -> float:
    """Seconds until the delivery is in a state."""
    began = time.monotonic()
    while state_of(environment) != state and time.monotonic() - began < seconds:
        time.sleep(0.02)
    return time.monotonic() - began


@pytest.mark.parametrize(
    ("body", "limit", "sentence"),
    [
        ("time.sleep(1)", {}, "cancelled"),
        ("sum(range(10**6))", {}, "cancelled"),
        (
            "time.sleep(1)",
            {"PLINTO_WORK_MINUTES": "0.05"},
            "failed It stood still for 0.05 minutes",
        ),
        (
            "held.append(b'x' * (30 << 20)); time.sleep(0.01)",
            {"PLINTO_WORK_MEMORY": "1.5"},
            "failed It took",
        ),
    ],
)
def test_work_that_does_not_stop_ends_with_its_worker(
    python, environment, body, limit, sentence
) -> None:
    python(DELIVERY.replace("(4000, 3000, 3)", "(40, 30, 3)"))
    worker = subprocess.Popen(
        [sys.executable, "-c", HEAD + STUBBORN.format(body=body)], env={**environment, **limit}
    )
    try:
        assert waited(environment, "running", 120) < 120
        if sentence == "cancelled":
            python(CANCEL)
        assert worker.wait(60) == 71
    finally:
        worker.kill()
    assert python(ENDED).startswith(sentence)


def test_workers_go_with_their_server(environment) -> None:
    alone = {**environment, "PLINTO_SERVED_BY": "1"}  # no process of ours has that parent
    worker = subprocess.Popen([*COMMAND, "worker"], env=alone)
    try:
        assert worker.wait(60) == 0
    finally:
        worker.kill()


FOLDER = """
from django.core.management import call_command
call_command("migrate", verbosity=0)
from django.contrib.auth import get_user_model
from plinto_server.apps.folders.models import WatchedFolder
from plinto_server.apps.folders.services import create_folder
from plinto_server.apps.policies.services import create_policy
user = get_user_model().objects.create_user("a")
policy = create_policy(user, {"name": "Screen", "destination": "p3", "rules": [{"action": "convert"}], "sources": {"CMYK": "p3"}, "output_intent": False})
folder = create_folder(user, name="In", policy=policy)
print(folder.root)
"""
FILES = """
import json
from plinto_server.apps.folders.models import FolderFile
print(json.dumps([[f.name, f.state, f.out_name] for f in FolderFile.objects.order_by("name")]))
"""


def serve(environment: dict[str, str]) -> subprocess.Popen[bytes]:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        port = probe.getsockname()[1]
    words = [*COMMAND, "serve", "--port", str(port)]
    return subprocess.Popen(
        words, env=environment, start_new_session=True, stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL,
    )  # fmt: skip


def leaf(path: Path, number: int) -> None:
    with pikepdf.new() as pdf:
        for page in range(40):
            pdf.add_blank_page(page_size=(300, 300))
            drawn = f"0.{number} 0.{page % 10} 0.3 rg 10 10 100 100 re f"
            pdf.pages[-1].Contents = pikepdf.Stream(pdf, drawn.encode())
        pdf.save(path)


def test_watched_folders_survive_kills_without_loss_or_doubling(
    python, environment, tmp_path
) -> None:
    """Server and workers die twice while files come in; every file comes out exactly once."""
    root = Path(python(FOLDER))
    names = [f"leaf-{n}.pdf" for n in range(9)]
    for number, name in enumerate(names):
        leaf(tmp_path / name, number)
    for round_number, wait in enumerate((6.0, 5.0, 0.0)):
        for name in names[3 * round_number : 3 * round_number + 3]:
            os.replace(tmp_path / name, root / "in" / name)
        server = serve(environment)
        if wait:
            deadline = time.monotonic() + 60
            while not list((root / "originals").iterdir()) and time.monotonic() < deadline:
                time.sleep(0.05)
            time.sleep(wait / 10)
            os.killpg(server.pid, signal.SIGKILL)
            server.wait()
    try:
        deadline = time.monotonic() + 120
        while time.monotonic() < deadline:
            found = json.loads(python(FILES))
            if len(found) == 9 and all(state == "done" for _, state, _ in found):
                break
            time.sleep(1)
    finally:
        os.killpg(server.pid, signal.SIGTERM)
        server.wait()
    assert [(name, state) for name, state, _ in found] == [(name, "done") for name in names]
    assert sorted(p.name for p in (root / "originals").iterdir()) == names
    assert list((root / "in").iterdir()) == []
    out = sorted(p.name for p in (root / "out").iterdir() if p.suffix == ".pdf")
    assert out == [f"leaf-{n}_screen.pdf" for n in range(9)]
    for name in out:
        with pikepdf.open(root / "out" / name) as pdf:
            assert len(pdf.pages) == 40
