"""Measurements become a profile of one's own, built by a worker."""

from __future__ import annotations

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from plinto_core.measurement import cmyk_chart, format_cgats
from plinto_core.simulator import CONDITIONS
from plinto_core.simulator.press import predicted_lab
from plinto_server.apps.builds.models import ProfileBuild
from working import work_off


def measurements(patches: int | None = None) -> bytes:
    chart = cmyk_chart()[:patches]
    lab = predicted_lab(CONDITIONS[2].model, chart)
    fields = ["CMYK_C", "CMYK_M", "CMYK_Y", "CMYK_K", "LAB_L", "LAB_A", "LAB_B"]
    rows = [[f"{v:.3f}" for v in (*d * 100, *m)] for d, m in zip(chart, lab, strict=True)]
    return format_cgats({"DESCRIPTOR": "Own press"}, fields, rows).encode()


def start(client, data: bytes, **asked):
    query = "&".join(f"{k}={v}" for k, v in asked.items())
    file = SimpleUploadedFile("my press.txt", data)
    return client.post(f"/api/builds?{query}", {"file": file}, format="multipart")


def test_measurements_become_a_profile_with_its_report(client, db) -> None:
    made = start(client, measurements(), tac=230, black_start=30, name="Tower 4")
    assert made.status_code == 201
    assert made.json()["state"] == "waiting"
    (entry,) = client.get("/api/queue").json()
    assert (entry["kind"], entry["title"]) == ("build", "Tower 4")
    work_off()
    done = client.get(f"/api/builds/{made.json()['id']}").json()
    assert done["state"] == "done"
    assert done["profile"]["description"] == "Tower 4"
    assert done["profile"]["origin"] == "built"
    assert done["report"]["round_trip"]["mean"] < 1
    assert max(done["report"]["tac_reached"].values()) <= 230
    (condition,) = [
        client.post(
            "/api/conditions",
            {"profile": done["profile"]["id"], "condition": {"name": "Tower 4"}},
            format="json",
        )
    ]
    assert condition.status_code == 201
    found = client.get(f"/api/profiles/{done['profile']['id']}/proposal").json()
    assert 225 <= found["condition"]["ink_rules"]["tac"] <= 230


@pytest.mark.parametrize(
    "data", [b"", b"nothing", b"\xff\xfe\x00", b"BEGIN_DATA\n1 2 3\nEND_DATA\n", b"x" * 5000]
)
def test_what_is_no_measurement_is_refused_at_once(client, db, data) -> None:
    answer = start(client, data)
    assert answer.status_code == 400
    assert answer.json()["title"]
    assert ProfileBuild.objects.count() == 0


@pytest.mark.parametrize("asked", [{"tac": 20}, {"tac": "x"}, {"strength": 101}, {"ink": 3}])
def test_what_is_asked_of_a_build_is_checked(client, db, asked) -> None:
    assert start(client, measurements(20), **asked).status_code == 400


def test_too_few_patches_fail_with_a_sentence_and_leave_no_profile(client, db) -> None:
    made = start(client, measurements(12))
    if made.status_code == 201:
        work_off()
        done = client.get(f"/api/builds/{made.json()['id']}").json()
        assert done["state"] == "failed"
        assert done["error"]
        assert done["profile"] is None
    assert client.get("/api/profiles").json() == []


def test_a_build_is_told_its_black_its_tables_and_its_version(client, db) -> None:
    asked = {
        "black_method": "ucr",
        "black_limit": 80,
        "black_reach": 30,
        "size": "small",
        "version": 4,
    }
    made = start(client, measurements(), tac=240, **asked)
    assert made.status_code == 201
    work_off()
    report = client.get(f"/api/builds/{made.json()['id']}").json()["report"]
    black = report["ink_rules"]["black"]
    assert (black["method"], black["limit"], black["reach"]) == ("ucr", 80, 30)
    assert (report["settings"]["size"], report["settings"]["version"]) == ("small", 4)
    assert 0 <= report["stray_ink"] <= 1
    assert report["size"] < 600_000


@pytest.mark.parametrize("use_all", ["false", "true"])
def test_contradicted_readings_are_reported_and_used_only_when_asked(client, db, use_all) -> None:
    lines = measurements().decode().splitlines()
    first = lines.index("BEGIN_DATA") + 1
    for row in range(600, 606):
        inks, other = lines[first + row].split("\t")[:4], lines[first + row - 300].split("\t")[4:]
        lines[first + row] = "\t".join(inks + other)
    made = start(client, "\n".join(lines).encode(), size="small", use_all=use_all)
    work_off()
    report = client.get(f"/api/builds/{made.json()['id']}").json()["report"]
    assert {m["row"] for m in report["misread"]} == set(range(601, 607))
    assert report["settings"]["use_all"] is (use_all == "true")
    assert report["forward_fit"]["patches"] == (946 if use_all == "true" else 940)


@pytest.mark.parametrize(
    "asked",
    [
        {"size": "huge"},
        {"version": 3},
        {"use_all": "some"},
        {"black_method": "more"},
        {"black_reach": 0},
    ],
)
def test_settings_that_are_none_are_refused(client, db, asked) -> None:
    assert start(client, measurements(20), **asked).status_code == 400
    assert ProfileBuild.objects.count() == 0
