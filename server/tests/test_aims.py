"""Aims kept under a name, and examinations that judge by them."""

from __future__ import annotations

import json

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from rest_framework.test import APIClient

from plinto_core.examination.aims import against, parse_aim
from plinto_core.icc import Profile

ROWS = "paper 84 0 3\ncyan 60;-22;-27\nM+Y 50 40 25\nK 50 20"


@pytest.fixture
def press(client, profile_bytes, db) -> dict:
    file = SimpleUploadedFile("p.icc", profile_bytes["newsprint"])
    return client.post("/api/profiles/receive", {"file": file}, format="multipart").json()[0]


@pytest.fixture
def aim(client, db) -> dict:
    given = {"name": "Daily paper", "source": "typed", "rows": ROWS.replace("cyan 60;-22;-27", "cyan\t60;-22;-27"),
             "tolerances": {"paper": 50, "solids": 0.01, "tones": 0.5}}  # fmt: skip
    answer = client.post("/api/aims", given, format="json")
    assert answer.status_code == 201, answer.json()
    return answer.json()


def test_a_profile_is_judged_by_typed_aims(client, press, aim, profile_bytes) -> None:
    address = f"/api/profiles/{press['id']}/examination"
    found = client.get(address, {"kept_aim": aim["id"]}).json()["aim"]
    numbers = aim["aim"]
    expected = against(Profile(profile_bytes["newsprint"]), parse_aim(numbers))
    assert found == expected.model_dump(mode="json")
    assert {c["name"]: c["holds"] for c in found["colours"]} == {
        "paper": True, "C": False, "MY": None,
    }  # fmt: skip
    assert found["holds"] is False
    assert client.get(address, {"kept_aim": aim["id"], "aim": press["id"]}).status_code == 400
    assert client.get(address + ".pdf", {"kept_aim": aim["id"]}).content.startswith(b"%PDF")
    # Changed numbers are judged anew, and a report made meanwhile is not handed out again.
    changed = client.patch(
        f"/api/aims/{aim['id']}", {"tolerances": {"paper": 50}}, format="json"
    ).json()
    assert changed["revision"] == 2
    assert changed["rows"] == aim["rows"]
    assert client.get(address, {"kept_aim": aim["id"]}).json()["aim"]["holds"] is True


def test_an_aim_leaves_and_comes_back_as_a_file(client, aim) -> None:
    data = client.get(f"/api/aims/{aim['id']}/file").content
    assert json.loads(data)["kind"] == "aim"
    file = SimpleUploadedFile("a.json", data)
    again = client.post("/api/aims/file", {"file": file}, format="multipart").json()
    assert again["aim"] == aim["aim"]
    copied = client.post(f"/api/aims/{aim['id']}/copy").json()
    assert copied["name"] == "Daily paper, copy"
    assert copied["rows"] == aim["rows"]
    assert client.delete(f"/api/aims/{aim['id']}").status_code == 204
    assert {a["id"] for a in client.get("/api/aims").json()} == {again["id"], copied["id"]}
    assert client.post(f"/api/aims/{aim['id']}/restore").json()["aim"] == aim["aim"]
    assert len(client.get("/api/aims").json()) == 3


@pytest.mark.parametrize(
    "change",
    [{"rows": "paper"}, {"rows": ""}, {"name": ""}, {"colour": 1}, {"tolerances": {"paper": -1}},
     {"tolerances": {"inks": 1}}, {"tolerances": []}, {"rows": 5}, {"name": "x" * 101}],
)  # fmt: skip
def test_numbers_that_are_no_aims_change_nothing(client, aim, change) -> None:
    answer = client.patch(f"/api/aims/{aim['id']}", change, format="json")
    if change.get("rows") == 5:
        # A number is a text of one figure, and that is no row.
        assert answer.json()["title"].startswith("Row 1")
    assert answer.status_code == 400, answer.json()
    assert client.get(f"/api/aims/{aim['id']}").json() == aim


def test_two_people_change_one_aim(client, aim) -> None:
    address = f"/api/aims/{aim['id']}"
    one = client.patch(address, {"source": "A"}, format="json", headers={"If-Match": '"1"'})
    assert one.status_code == 200
    other = client.patch(address, {"name": "B"}, format="json", headers={"If-Match": '"1"'})
    assert other.json()["aim"]["source"] == "A"
    assert other.json()["name"] == other.json()["aim"]["name"] == "B"
    late = client.patch(address, {"source": "C"}, format="json", headers={"If-Match": '"1"'})
    assert late.status_code == 409
    assert client.get(address).json()["aim"]["source"] == "A"


def test_nobody_elses_aim_is_seen_or_judged_by(client, press, aim, django_user_model) -> None:
    stranger = APIClient()
    stranger.force_authenticate(django_user_model.objects.create_user("eve"))
    assert stranger.get("/api/aims").json() == []
    for act in (stranger.get, stranger.delete, stranger.patch):
        assert act(f"/api/aims/{aim['id']}").status_code == 404
    for way in ("copy", "restore"):
        assert stranger.post(f"/api/aims/{aim['id']}/{way}").status_code == 404
    assert stranger.get(f"/api/aims/{aim['id']}/file").status_code == 404
    rows = stranger.get("/api/profiles").json()
    shipped = next((p for p in rows if p["parts"]), None)
    if shipped is not None:
        address = f"/api/profiles/{shipped['id']}/examination"
        assert stranger.get(address, {"kept_aim": aim["id"]}).status_code == 400
    client.delete(f"/api/aims/{aim['id']}")
    address = f"/api/profiles/{press['id']}/examination"
    assert client.get(address, {"kept_aim": aim["id"]}).status_code == 400
