"""House rules: kept, exchanged, switched, applied to what comes in."""

from __future__ import annotations

import io

import pytest
from django.contrib.auth.models import User
from PIL import Image

from plinto_core.transform.standard_spaces import standard_profile
from plinto_server.apps.conditions.models import PrintingCondition
from plinto_server.apps.house.models import HouseRuleSet
from uploading import upload

RULES = {"name": "Night desk", "rgb": "p3", "differs": "convert", "missing": "ask", "intent": "relative", "bpc": False}  # fmt: skip


def png(profile: str | None = None) -> bytes:
    buffer = io.BytesIO()
    data = standard_profile(profile).data if profile else None
    Image.new("RGB", (30, 20), (200, 40, 90)).save(buffer, "PNG", icc_profile=data)
    return buffer.getvalue()


def job_of(client, conditions, data: bytes):
    artwork = upload(client, data, "a.png").json()
    body = {"artwork": artwork["id"], "conditions": [c.pk for c in conditions]}
    return client.post("/api/jobs", body, format="json").json()


def keep(client, **changes):
    return client.post("/api/house-rules", {**RULES, **changes}, format="json")


def test_the_first_set_is_in_force_and_others_are_switched_to(client) -> None:
    first = keep(client).json()
    second = keep(client, name="Day desk").json()
    assert (first["active"], second["active"]) == (True, False)
    client.post(f"/api/house-rules/{second['id']}/use")
    shown = {s["name"]: s["active"] for s in client.get("/api/house-rules").json()}
    assert shown == {"Day desk": True, "Night desk": False}
    assert client.delete(f"/api/house-rules/{second['id']}").status_code == 409
    assert client.delete(f"/api/house-rules/{first['id']}").status_code == 204


def test_sets_are_exchanged_as_files_unchanged(client) -> None:
    exported = keep(client).json()["rules"]
    client.delete(f"/api/house-rules/{client.get('/api/house-rules').json()[0]['id']}")
    again = client.post("/api/house-rules", exported, format="json")
    assert again.json()["rules"] == exported
    assert keep(client).status_code == 409  # the name is taken
    changed = client.patch(
        f"/api/house-rules/{again.json()['id']}", {**exported, "rgb": "oprgb"}, format="json"
    )
    assert changed.json()["rules"]["rgb"] == "oprgb"


def test_long_names_have_room_for_a_number_when_they_come_back(client) -> None:
    name = "D" * 99
    removed = [keep(client, name="In force").json()]
    for _ in range(2):
        removed.append(keep(client, name=name).json())
        client.delete(f"/api/house-rules/{removed[-1]['id']}")
    keep(client, name=name)
    names = [
        client.post(f"/api/house-rules/{r['id']}/restore").json()["rules"]["name"]
        for r in removed[1:]
    ]
    assert names == ["D" * 90 + ", 2", "D" * 90 + ", 3"]


@pytest.mark.parametrize("bad", [{"rgb": "a" * 64}, {"differs": "x"}, {"cmyk": "srgb"}])
def test_useless_sets_are_refused_and_nothing_is_kept(client, bad) -> None:
    assert keep(client, **bad).status_code == 400
    assert not HouseRuleSet.objects.exists()


def test_a_differing_profile_is_converted_by_the_rule(client, conditions) -> None:
    keep(client)
    job = job_of(client, conditions, png("romm"))
    for destination in job["destinations"]:
        recipe = destination["recipe"]
        assert (recipe["source"], recipe["arrival"]) == (None, "p3")
        assert (recipe["intent"], recipe["bpc"]) == ("relative", False)
    assert job["question"] == ""


def test_what_is_missing_is_asked_and_stops_the_delivery(client, conditions) -> None:
    keep(client)
    job = job_of(client, conditions, png())
    assert job["question"] == "missing"
    one = job["destinations"][0]["id"]
    answer = client.post(f"/api/destinations/{one}/deliveries")
    assert answer.status_code == 409
    assert "Answer" in answer.json()["title"]
    corrected = client.post(f"/api/destinations/{one}/corrected", {}, format="json")
    assert (corrected.status_code, corrected.json()["title"]) == (409, (
        "The house rules ask what the artwork's colours mean. Answer that first."
    ))  # fmt: skip
    body = {"answer": "assign", "profile": "oprgb"}
    job = client.post(f"/api/jobs/{job['id']}/question", body, format="json").json()
    assert job["question"] == ""
    assert {d["recipe"]["source"] for d in job["destinations"]} == {"oprgb"}
    assert client.post(f"/api/jobs/{job['id']}/question", body, format="json").status_code == 409


@pytest.mark.parametrize(("answer", "expected"), [("keep", None), ("convert", "srgb")])
def test_a_question_about_another_profile(client, conditions, answer, expected) -> None:
    keep(client, rgb="srgb", differs="ask")
    job = job_of(client, conditions, png("oprgb"))
    assert job["question"] == "differs"
    job = client.post(f"/api/jobs/{job['id']}/question", {"answer": answer}, format="json").json()
    assert {d["recipe"]["arrival"] for d in job["destinations"]} == {expected}


def test_pictures_without_a_profile_can_be_refused(client) -> None:
    keep(client, missing="refuse")
    answer = upload(client, png(), "a.png")
    assert answer.status_code == 400
    assert "refuse" in answer.json()["title"]
    assert client.get("/api/artwork").json() == []
    assert upload(client, png("srgb"), "a.png").status_code == 201


def test_ink_rules_are_kept_by_name(client) -> None:
    rules = {"name": "Cotton, soft", "tac": 200, "black": {"method": "neutral"}}
    kept = client.post("/api/ink-rules", rules, format="json").json()
    client.post("/api/ink-rules", {**rules, "tac": 210}, format="json")
    found = client.get("/api/ink-rules").json()
    assert [(s["name"], s["rules"]["tac"]) for s in found] == [("Cotton, soft", 210)]
    assert client.post("/api/ink-rules", {"tac": 200}, format="json").status_code == 400
    assert client.delete(f"/api/ink-rules/{kept['id']}").status_code == 204


def test_nobody_sees_or_changes_anothers(client, django_user_model) -> None:
    from rest_framework.test import APIClient

    mine = keep(client).json()
    other = APIClient()
    other.force_authenticate(django_user_model.objects.create_user("bo"))
    assert other.get("/api/house-rules").json() == []
    address = f"/api/house-rules/{mine['id']}"
    assert other.delete(address).status_code == 404
    assert other.patch(address, RULES, format="json").status_code == 404


def test_a_kind_of_work_says_where_it_goes(client, conditions) -> None:
    coated, news = conditions[:2]
    stranger = User.objects.create_user("stranger")
    theirs = PrintingCondition.objects.get(pk=news.pk)
    theirs.pk, theirs.key, theirs.owner = None, "of-a-stranger", stranger
    theirs.save()
    kinds = [
        {"name": "Bulletin", "conditions": [news.key, "from-elsewhere", theirs.key, coated.key]},
        {"name": "Undecided", "conditions": []},
    ]
    kept = keep(client, missing="assign", work=kinds).json()
    assert kept["rules"]["work"] == kinds
    artwork = upload(client, png("p3"), "a.png").json()["id"]

    def job(**how):
        return client.post("/api/jobs", {"artwork": artwork, **how}, format="json")

    def keys(answer):
        return [d["condition"]["key"] for d in answer.json()["destinations"]]

    assert keys(job(work="Bulletin")) == [news.key, coated.key]
    assert keys(job(work="Bulletin", conditions=[coated.pk])) == [coated.key]
    assert keys(job(work="", conditions=[coated.pk])) == [coated.key]
    for nowhere in ({"work": "Undecided"}, {"work": "Poster"}, {}):
        assert job(**nowhere).status_code == 409
    used = client.get(f"/api/conditions/{news.pk}/uses").json()
    assert ("house rules", "Night desk") in [(u["kind"], u["name"]) for u in used]
