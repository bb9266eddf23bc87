"""Removing names what leans on it, breaks nothing, and can be undone."""

from __future__ import annotations

import pytest

from plinto_core.demo.atlas import star_atlas
from plinto_server.apps.folders.watching import FolderWatch
from plinto_server.apps.printers.models import PrintJob
from uploading import upload_document
from working import work_off


@pytest.fixture
def room(client, conditions, tmp_path) -> dict[str, dict]:
    """A policy on a medium of a printer, and a folder that prints on it; one document printed."""
    made = client.get("/api/policies/templates/bare-cmyk", {"condition": conditions[0].pk}).json()
    policy = client.post("/api/policies", made, format="json").json()
    printer = client.post("/api/printers", {"name": "North press"}, format="json").json()
    medium = client.post(
        f"/api/printers/{printer['id']}/media",
        {"name": "Gloss", "condition": conditions[0].pk, "policy": policy["id"], "settings": {},
         "duty": {"manager": "plinto", "driver": "off", "rip": "absent"}},
        format="json",
    ).json()  # fmt: skip
    folder = client.post(
        "/api/folders",
        {"name": "From the office", "policy": policy["id"], "medium": medium["id"]},
        format="json",
    ).json()
    star_atlas(tmp_path / "a.pdf", pages=1)
    document = upload_document(client, (tmp_path / "a.pdf").read_bytes()).json()
    return {
        "policies": policy,
        "printers": printer,
        "media": medium,
        "folders": folder,
        "document": document,
    }


def uses(client, room, kind) -> set[tuple[str, str]]:
    rows = client.get(f"/api/{kind}/{room[kind]['id']}/uses").json()
    return {(r["kind"], r["name"]) for r in rows}


def listed(client, kind) -> list[int]:
    if kind == "media":
        return [m["id"] for p in client.get("/api/printers").json() for m in p["media"]]
    return [r["id"] for r in client.get(f"/api/{kind}").json()]


def test_what_leans_on_a_thing_is_named(client, room) -> None:
    medium, folder = ("medium", "North press, Gloss"), ("folder", "From the office")
    assert uses(client, room, "policies") == {medium, folder}
    assert uses(client, room, "printers") == {medium, folder}
    assert uses(client, room, "media") == {folder}
    assert uses(client, room, "folders") == set()


@pytest.mark.parametrize("kind", ["policies", "printers", "media", "folders"])
def test_every_removal_can_be_undone(client, room, kind) -> None:
    pk = room[kind]["id"]
    before = client.get("/api/printers" if kind == "media" else f"/api/{kind}").json()
    assert client.delete(f"/api/{kind}/{pk}").status_code == 204
    assert listed(client, kind) == []
    assert client.delete(f"/api/{kind}/{pk}").status_code == 404
    assert client.patch(f"/api/{kind}/{pk}", {"name": "x"}, format="json").status_code == 404
    assert client.post(f"/api/{kind}/{pk}/restore").status_code == 200
    assert client.get("/api/printers" if kind == "media" else f"/api/{kind}").json() == before


def test_a_retired_policy_goes_on_where_it_is_used(client, room) -> None:
    client.delete(f"/api/policies/{room['policies']['id']}")
    (medium,) = client.get("/api/printers").json()[0]["media"]
    assert (medium["policy_name"], medium["policy_retired"]) == (room["policies"]["name"], True)
    assert medium["judgements"] == room["media"]["judgements"]
    body = {"medium": medium["id"], "document": room["document"]["id"]}
    assert client.post("/api/prints", body, format="json").status_code == 201
    work_off()
    assert PrintJob.objects.get().state == "done"
    renamed = client.patch(f"/api/media/{medium['id']}", {"name": "Silk"}, format="json").json()
    assert renamed["policy"] == room["policies"]["id"]
    again = {"name": "x", "policy": room["policies"]["id"]}
    assert client.post("/api/folders", again, format="json").status_code == 400


def test_the_record_outlives_its_printer(client, room) -> None:
    body = {"medium": room["media"]["id"], "document": room["document"]["id"]}
    printed = client.post("/api/prints", body, format="json").json()
    busy = client.delete(f"/api/printers/{room['printers']['id']}")
    assert busy.status_code == 409
    work_off()
    assert client.delete(f"/api/printers/{room['printers']['id']}").status_code == 204
    (row,) = [e for e in client.get("/api/queue", {"ended": "true"}).json() if e["kind"] == "print"]
    assert row["detail"].startswith("North press, Gloss")
    file = client.get(f"/api/queue/print/{printed['id']}/file")
    assert b"".join(file.streaming_content)[:2] == b"PK"
    assert client.get(f"/api/prints/{printed['id']}/sheet-1.png").status_code == 200
    assert client.post("/api/prints", body, format="json").status_code == 400


def test_a_removed_folder_takes_nothing_in(client, room, tmp_path) -> None:
    from plinto_server.apps.folders.models import WatchedFolder

    folder = WatchedFolder.objects.get(pk=room["folders"]["id"])
    client.delete(f"/api/folders/{folder.pk}")
    star_atlas(folder.part("in") / "late.pdf", pages=1)
    assert FolderWatch(settled=0).look() == []
    client.post(f"/api/folders/{folder.pk}/restore")
    assert len(FolderWatch(settled=0).look()) == 1


def test_a_job_and_its_deliveries_come_back(client, job) -> None:
    destination = job["destinations"][0]["id"]
    client.post(f"/api/destinations/{destination}/deliveries")
    work_off()
    assert client.delete(f"/api/jobs/{job['id']}").status_code == 204
    assert client.get("/api/jobs").json() == []
    assert client.get(f"/api/destinations/{destination}").status_code == 404
    assert len(client.get("/api/queue", {"ended": "true"}).json()) == 1
    assert client.post(f"/api/jobs/{job['id']}/restore").json()["id"] == job["id"]
    assert len(client.get(f"/api/destinations/{destination}/deliveries").json()) == 1


def test_a_name_taken_meanwhile_is_not_taken_back(client) -> None:
    made = [client.post("/api/house-rules", {"name": n}, format="json").json() for n in ("A", "B")]
    client.delete(f"/api/house-rules/{made[1]['id']}")
    third = client.post("/api/house-rules", {"name": "B"}, format="json").json()
    back = client.post(f"/api/house-rules/{made[1]['id']}/restore").json()
    assert (back["name"], back["rules"]["name"]) == ("B, 2", "B, 2")
    active = [s["id"] for s in client.get("/api/house-rules").json() if s["active"]]
    assert active == [made[0]["id"]]
    assert client.delete(f"/api/house-rules/{made[0]['id']}").status_code == 409
    assert third["active"] is False


def test_named_ink_rules_come_back(client) -> None:
    kept = client.post("/api/ink-rules", {"name": "Soft", "tac": 260}, format="json").json()
    client.delete(f"/api/ink-rules/{kept['id']}")
    assert client.get("/api/ink-rules").json() == []
    assert client.post(f"/api/ink-rules/{kept['id']}/restore").json()["rules"]["tac"] == 260
