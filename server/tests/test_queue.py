"""The queue: order by priority, hold and release, retry, cancel, and what stays on record."""

from __future__ import annotations

import pytest

from plinto_core.demo.atlas import star_atlas
from plinto_server.apps.deliveries.models import Run
from plinto_server.apps.work.running import sweep
from uploading import upload_document
from working import work_off


@pytest.fixture
def deliveries(client, job) -> list[int]:
    path = f"/api/destinations/{job['destinations'][0]['id']}/deliveries"
    return [client.post(path).json()["id"] for _ in range(3)]


def act(client, pk: int, name: str):
    return client.post(f"/api/queue/delivery/{pk}/{name}")


def listed(client, *, ended: bool = False) -> list[dict]:
    return client.get("/api/queue", {"ended": "true" if ended else "false"}).json()


def test_it_is_worked_off_in_order(client, deliveries) -> None:
    assert [e["id"] for e in listed(client)] == deliveries
    assert work_off() == [("delivery", pk) for pk in deliveries]
    assert listed(client) == []
    assert [e["id"] for e in listed(client, ended=True)] == deliveries[::-1]


def test_urgent_work_comes_first_and_less_urgent_last(client, deliveries) -> None:
    first, second, third = deliveries
    for beyond in (-2, 2):
        answer = client.put(
            f"/api/queue/delivery/{third}/priority", {"priority": beyond}, format="json"
        )
        assert answer.status_code == 400
    client.put(f"/api/queue/delivery/{third}/priority", {"priority": 1}, format="json")
    client.put(f"/api/queue/delivery/{first}/priority", {"priority": -1}, format="json")
    assert [e["id"] for e in listed(client)] == [third, second, first]
    assert [pk for _, pk in work_off()] == [third, second, first]
    answer = client.put(f"/api/queue/delivery/{first}/priority", {"priority": 1}, format="json")
    assert answer.status_code == 409
    answer = client.put(f"/api/queue/delivery/{first}/priority", {"priority": 7}, format="json")
    assert answer.status_code == 400


def test_held_work_waits_until_it_is_released(client, deliveries) -> None:
    assert act(client, deliveries[0], "hold").json()["state"] == "held"
    work_off()
    assert [e["state"] for e in listed(client)] == ["held"]
    assert act(client, deliveries[0], "release").json()["state"] == "waiting"
    work_off()
    assert Run.objects.get(pk=deliveries[0]).state == "done"
    assert act(client, deliveries[0], "hold").status_code == 409
    assert act(client, deliveries[0], "release").status_code == 409


def test_cancelled_and_failed_work_can_be_tried_again(client, deliveries) -> None:
    act(client, deliveries[0], "cancel")
    work_off()
    assert Run.objects.get(pk=deliveries[0]).state == "cancelled"
    assert act(client, deliveries[0], "retry").json()["state"] == "waiting"
    work_off()
    row = Run.objects.get(pk=deliveries[0])
    assert (row.state, row.attempts, row.error) == ("done", 1, "")
    assert act(client, deliveries[0], "retry").status_code == 409


def test_every_run_leaves_its_recipe_report_and_file(client, deliveries) -> None:
    assert client.get(f"/api/queue/delivery/{deliveries[0]}/report.json").status_code == 409
    work_off()
    report = client.get(f"/api/queue/delivery/{deliveries[0]}/report.json").json()
    recipe = client.get(f"/api/queue/delivery/{deliveries[0]}/settings.json").json()
    assert report["tac"]["max"] > 0
    assert recipe["intent"] == "perceptual"
    shown = listed(client, ended=True)[0]
    assert (shown["has_file"], shown["title"]) == (True, "Night sky")
    assert shown["seconds"] > 0
    file = client.get(f"/api/queue/delivery/{deliveries[0]}/file")
    assert b"".join(file.streaming_content)[:2] == b"II"


def test_waiting_work_that_lost_its_task_gets_another(deliveries) -> None:
    Run.objects.update(task_id="")
    sweep()
    sweep()
    done = work_off()
    assert {pk for _, pk in done} == set(deliveries)


def test_one_sees_only_ones_own(client, deliveries, django_user_model) -> None:
    client.force_authenticate(django_user_model.objects.create_user("eve"))
    assert listed(client) == []
    assert act(client, deliveries[0], "cancel").status_code == 404
    assert client.get(f"/api/queue/nonsense/{deliveries[0]}/file").status_code == 404


def test_dry_runs_are_under_way_but_not_on_record(client, conditions, tmp_path) -> None:
    star_atlas(tmp_path / "atlas.pdf", pages=1)
    document = upload_document(client, (tmp_path / "atlas.pdf").read_bytes()).json()
    policy = client.get("/api/policies/templates/bare-cmyk", {"condition": conditions[0].pk}).json()
    for dry in (True, False):
        body = {"document": document["id"], "policy": policy, "dry": dry}
        client.post("/api/policy-runs", body, format="json")
    assert len(listed(client)) == 2
    work_off()
    assert [e["detail"] for e in listed(client, ended=True)] == [
        "Policy Receiver wants bare CMYK, Sheetfed coated"
    ]
