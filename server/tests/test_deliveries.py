"""Deliveries: through the worker's code, cancelled, repeated, and rescued after a kill."""

from __future__ import annotations

import errno
import io
import json
import os
import subprocess
import sys
import zipfile
from dataclasses import replace
from datetime import timedelta

import numpy as np
import pytest
import tifffile
from django.db import OperationalError
from django.db.models import F, QuerySet
from django.utils import timezone
from django_tasks import TaskResultStatus
from django_tasks_db.models import DBTaskResult

from plinto_core.colorimetry import delta_e_2000
from plinto_core.recipes import parse_recipe
from plinto_core.recipes.route import route_for
from plinto_core.transform import lab_of_device
from plinto_core.transform.standard_spaces import standard_profile
from plinto_server import store
from plinto_server.apps.deliveries.models import Run
from plinto_server.apps.jobs.models import Destination
from plinto_server.apps.profiles.services import load_profile
from plinto_server.apps.work import running as services
from plinto_server.apps.work.kinds import KINDS
from plinto_server.apps.work.running import work
from uploading import upload
from working import Later


@pytest.fixture
def destination(job) -> int:
    return job["destinations"][0]["id"]


@pytest.fixture
def start(client, destination, django_capture_on_commit_callbacks):
    def begin() -> dict:
        with django_capture_on_commit_callbacks(execute=True):
            return client.post(f"/api/destinations/{destination}/deliveries").json()

    return begin


def test_delivered_pixels_are_the_cores(client, start, job) -> None:
    run = start()
    assert run["state"] == "waiting"
    assert run["file_name"] == "night sky_sheetfed-coated.tif"
    work("delivery", run["id"])
    done = client.get(f"/api/deliveries/{run['id']}").json()
    assert (done["state"], done["progress"]) == ("done", 1.0)
    answer = client.get(f"/api/deliveries/{run['id']}/file")
    data = b"".join(answer.streaming_content)
    inks = tifffile.imread(io.BytesIO(data)).reshape(-1, 4) / 65535
    recipe = parse_recipe(job["destinations"][0]["recipe"])
    press = load_profile(recipe.destination)
    y, x = np.mgrid[0:90, 0:120]
    device = np.stack([x * 540, y * 720, 65535 - x * 500], axis=-1).reshape(-1, 3) / 65535
    exact = route_for(recipe, standard_profile("oprgb"), press).inks(device)
    assert delta_e_2000(lab_of_device(press, inks), lab_of_device(press, exact)).mean() < 0.15
    with tifffile.TiffFile(io.BytesIO(data)) as file:
        assert file.pages[0].tags[34675].value == press.data
    assert 'filename="night sky_sheetfed-coated.tif"' in answer["Content-Disposition"]


def test_a_former_delivery_runs_again_with_its_own_recipe(
    client, start, destination, django_capture_on_commit_callbacks
) -> None:
    first = start()
    work("delivery", first["id"])
    client.patch(f"/api/destinations/{destination}", {"intent": "absolute"}, format="json")
    with django_capture_on_commit_callbacks(execute=True):
        again = client.post(f"/api/deliveries/{first['id']}/again").json()
    work("delivery", again["id"])
    one, two = Run.objects.get(pk=first["id"]), Run.objects.get(pk=again["id"])
    assert two.recipe["intent"] == "perceptual"
    assert one.result_sha256 == two.result_sha256


def test_cancelling_before_and_during(client, start) -> None:
    waiting = start()
    assert client.post(f"/api/deliveries/{waiting['id']}/cancel").json()["state"] == "cancelled"
    work("delivery", waiting["id"])
    assert Run.objects.get(pk=waiting["id"]).state == "cancelled"
    running = start()
    Run.objects.filter(pk=running["id"]).update(cancel_requested=True)
    work("delivery", running["id"])
    state = client.get(f"/api/deliveries/{running['id']}").json()
    assert state["state"] == "cancelled"
    assert client.get(f"/api/deliveries/{running['id']}/file").status_code == 409
    assert client.post(f"/api/deliveries/{running['id']}/cancel").status_code == 409


def test_a_failing_delivery_says_why(client, start) -> None:
    run = start()
    Run.objects.filter(pk=run["id"]).update(recipe={**run["recipe"], "source": "0" * 64})
    work("delivery", run["id"])
    failed = client.get(f"/api/deliveries/{run['id']}").json()
    assert failed["state"] == "failed"
    assert "not in the store" in failed["error"]


@pytest.fixture
def later(monkeypatch) -> Later:
    return Later(monkeypatch)


def lose(run_id: int, attempts: int = 1) -> None:
    Run.objects.filter(pk=run_id).update(state="running", attempts=attempts, progress=0.4)
    DBTaskResult.objects.update(status=TaskResultStatus.RUNNING, started_at=timezone.now())


def test_the_sweep_puts_back_what_a_killed_worker_held(start, later) -> None:
    run = start()
    lose(run["id"])
    assert later.sweep() == 1
    assert Run.objects.get(pk=run["id"]).state == "waiting"
    states = DBTaskResult.objects.order_by("enqueued_at").values_list("status", flat=True)
    assert list(states) == [TaskResultStatus.FAILED, TaskResultStatus.READY]
    work("delivery", run["id"])
    assert Run.objects.get(pk=run["id"]).state == "done"


def test_the_sweep_leaves_living_work_alone_and_gives_up_after_three(start, later) -> None:
    run = start()
    lose(run["id"], attempts=3)
    assert later.sweep(services.STALE - 0.5) == 0
    Run.objects.filter(pk=run["id"]).update(beats=F("beats") + 1)
    assert later.sweep(1.0) == 0, "it has beaten since"
    assert DBTaskResult.objects.get().status == TaskResultStatus.RUNNING
    assert later.sweep() == 1
    failed = Run.objects.get(pk=run["id"])
    assert failed.state == "failed"
    assert "three times" in failed.error
    assert DBTaskResult.objects.get().status == TaskResultStatus.FAILED


@pytest.mark.parametrize("days", [-400, 400])
def test_a_clock_that_jumps_neither_kills_living_work_nor_keeps_lost_work(
    start, later, monkeypatch, days
) -> None:
    run = start()
    lose(run["id"])
    services.sweep()
    jumped = timezone.now() + timedelta(days=days)
    monkeypatch.setattr(services.timezone, "now", lambda: jumped)
    assert services.sweep() == 0
    assert later.sweep() == 1


def held_once(monkeypatch, kind: str, times: int) -> list[int]:
    """The work of a kind finds the database held so many times."""
    tried: list[int] = []
    real = KINDS[kind].doing

    def doing(row, target, progress):
        tried.append(row.pk)
        if len(tried) <= times:
            raise OperationalError("database is locked")
        return real(row, target, progress)

    monkeypatch.setitem(KINDS, kind, replace(KINDS[kind], doing=doing))
    return tried


def test_work_that_finds_the_database_held_waits_again_and_does_not_fail(
    start, monkeypatch
) -> None:
    run = start()
    tried = held_once(monkeypatch, "delivery", 1)
    work("delivery", run["id"])
    assert Run.objects.get(pk=run["id"]).state == "waiting"
    work("delivery", run["id"])
    assert Run.objects.get(pk=run["id"]).state == "done"
    assert len(tried) == 2


def test_what_became_of_work_is_written_as_soon_as_the_database_is_free(monkeypatch) -> None:
    waits: list[float] = []
    monkeypatch.setattr(services.time, "sleep", waits.append)

    def write() -> None:
        if len(waits) < 3:
            raise OperationalError("database is locked")

    services.patiently(write)
    assert waits == [services.AGAIN] * 3

    def broken() -> None:
        raise OperationalError("no such table: runs")

    with pytest.raises(OperationalError):
        services.patiently(broken)


def test_progress_that_cannot_be_written_fails_no_work(start, monkeypatch) -> None:
    run = start()
    real = QuerySet.update

    def update(self, **values):
        if "progress" in values and "state" not in values:
            raise OperationalError("database is locked")
        return real(self, **values)

    monkeypatch.setattr(QuerySet, "update", update)
    work("delivery", run["id"])
    assert Run.objects.get(pk=run["id"]).state == "done"


def test_a_full_disk_fails_work_with_a_sentence_and_it_can_be_tried_again(
    client, start, monkeypatch
) -> None:
    run = start()
    real, full = store.put_file, [True]

    def put_file(path):
        if full:
            raise OSError(errno.ENOSPC, "No space left on device")
        return real(path)

    monkeypatch.setattr(store, "put_file", put_file)
    work("delivery", run["id"])
    failed = client.get(f"/api/deliveries/{run['id']}").json()
    assert (failed["state"], failed["error"]) == (
        "failed",
        "The disk is full. Make room and try again.",
    )
    full.clear()
    assert client.post(f"/api/queue/delivery/{run['id']}/retry").status_code == 200
    work("delivery", run["id"])
    assert Run.objects.get(pk=run["id"]).state == "done"


def test_the_sweep_removes_what_dead_processes_left_and_nothing_else() -> None:
    dead = subprocess.Popen([sys.executable, "-c", ""])
    dead.wait()
    with store.scratch() as mine:
        mine.write_bytes(b"at work")
        left = mine.parent.with_name(f"{dead.pid}-abc")
        left.mkdir()
        (left / ".plinto-x.part").write_bytes(b"half")
        store.clear_lost_scratch()
        assert mine.exists()
        assert not left.exists()


def test_scratch_of_killed_processes_is_cleared() -> None:
    with store.scratch() as path:
        path.write_bytes(b"half")
        store.clear_scratch()
        assert not path.exists()


def test_the_check_names_surprises_and_the_next_file(client, destination) -> None:
    found = client.get(f"/api/destinations/{destination}/check").json()
    assert found["file_name"] == "night sky_sheetfed-coated.tif"
    changes = json.dumps({"delivery": {"negative": True, "file_name": "{job}_{number}_{ppi}"}})
    found = client.get(f"/api/destinations/{destination}/check", {"changes": changes}).json()
    assert found["file_name"] == "Night sky_1_300.tif"
    assert {"negative", "negative-profile"} <= {f["code"] for f in found["findings"]}
    said = {f["text"]["code"]: f["text"]["text"] for f in found["findings"]}
    assert said["recipes.negative"] == "The file is a negative; it cannot be judged by eye."


def test_figures_that_were_measured_are_checked_for_the_recipe_they_were_measured_with(
    client, destination
) -> None:
    at = f"/api/destinations/{destination}/check"
    Destination.objects.filter(pk=destination).update(
        facts={"tac_max": 999.0, "intent": {"out_of_gamut": 60}}
    )

    def codes(**changes) -> set[str]:
        query = {"changes": json.dumps(changes)} if changes else {}
        return {f["code"] for f in client.get(at, query).json()["findings"]}

    assert {"tac", "gamut"} <= codes()
    assert client.get(at).json()["measured"] is True
    changed = {"corrections": [{"lightness": 5}]}
    assert not {"tac", "gamut"} & codes(**changed)
    assert client.get(at, {"changes": json.dumps(changed)}).json()["measured"] is False


@pytest.mark.parametrize(
    ("profile", "source", "found"),
    [(None, None, True), (None, "srgb", True), (None, "oprgb", False), ("oprgb", "srgb", False)],
)
def test_a_source_that_nobody_stated_is_said(client, conditions, profile, source, found) -> None:
    data = io.BytesIO()
    embedded = {"iccprofile": standard_profile(profile).data} if profile else {}
    tifffile.imwrite(data, np.zeros((8, 8, 3), np.uint8), photometric="rgb", **embedded)
    body = {
        "artwork": upload(client, data.getvalue()).json()["id"],
        "conditions": [conditions[0].pk],
    }
    pk = client.post("/api/jobs", body, format="json").json()["destinations"][0]["id"]
    changes = json.dumps({"source": source})
    check = client.get(f"/api/destinations/{pk}/check", {"changes": changes}).json()
    assert ("no-profile" in {f["code"] for f in check["findings"]}) is found


def test_all_destinations_at_once(client, job, django_capture_on_commit_callbacks) -> None:
    with django_capture_on_commit_callbacks(execute=True):
        runs = client.post(f"/api/jobs/{job['id']}/deliveries").json()
    assert len(runs) == len(job["destinations"])
    assert len({r["file_name"] for r in runs}) == len(runs)


def test_ticket_and_report_of_a_delivery(client, start) -> None:
    run = start()
    work("delivery", run["id"])
    ticket = client.get(f"/api/deliveries/{run['id']}/ticket.json").json()
    assert ticket["settings"][0][:2] == ["Colour management in the driver", "off"]
    assert ticket["figures"]["Pixels"] == "120 × 90"
    page = client.get(f"/api/deliveries/{run['id']}/ticket.pdf")
    assert page.content.startswith(b"%PDF")
    report = client.get(f"/api/deliveries/{run['id']}/report").json()
    assert report["size"] == {"width": 120, "height": 90}


def test_films_come_as_one_file(client, start, destination) -> None:
    body = {"delivery": {"films": {"resolution": 400, "ruling": 40}, "bits": 8}}
    client.patch(f"/api/destinations/{destination}", body, format="json")
    run = start()
    assert run["file_name"].endswith(".zip")
    work("delivery", run["id"])
    data = b"".join(client.get(f"/api/deliveries/{run['id']}/file").streaming_content)
    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        assert archive.namelist() == [f"film_{n}.tif" for n in "CMYK"]


def test_a_delivery_equals_the_command_lines_bytes(
    client, start, destination, tmp_path, picture_bytes
) -> None:
    """Everything in the recipe at once: the package run outside the server gives the same file."""
    changes = {
        "vivid": {"space": "stretch", "strength": 25},
        "corrections": [
            {"curves": {"master": [[0, 0], [50, 60], [100, 100]]}},
            {"chroma": 20, "region": {"corners": [[10, 10], [70, 20], [40, 80]], "softness": 10}},
            {"black": {"method": "none"}, "region": {"corners": [[60, 60], [95, 60], [95, 95]]}},
            {"lightness": -10, "colours": {"lab": [50, 20, 20]}},
        ],
        "ink_rules": {"tac": 250, "limits": {"C": 95}, "black": {"method": "gcr", "reach": 30}, "protect": {"black_text": True}},
        "plates": {"K": {"minimum": 3, "cut": 1}, "M": {"curve": [[0, 0], [50, 45], [100, 100]]}},
        "delivery": {"turn": 90, "mirror": True, "bits": 8, "resolution": 150, "tiles": True},
    }  # fmt: skip
    assert (
        client.patch(f"/api/destinations/{destination}", changes, format="json").status_code == 200
    )
    run = start()
    work("delivery", run["id"])
    delivered = b"".join(client.get(f"/api/deliveries/{run['id']}/file").streaming_content)
    (tmp_path / "recipe.zip").write_bytes(
        client.get(f"/api/destinations/{destination}/package").content
    )
    (tmp_path / "in.tif").write_bytes(picture_bytes)
    command = [
        sys.executable,
        "-m",
        "plinto_cli.main",
        "recipe",
        "run",
        "recipe.zip",
        "in.tif",
        "out.tif",
        "--ticket",
        "ticket.pdf",
    ]
    environment = {**os.environ, "PLINTO_DATA": str(tmp_path / "elsewhere")}
    subprocess.run(command, cwd=tmp_path, check=True, env=environment)
    assert (tmp_path / "out.tif").read_bytes() == delivered
    assert (tmp_path / "ticket.pdf").read_bytes().startswith(b"%PDF")
