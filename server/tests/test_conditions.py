"""Own printing conditions: made of a received profile, changed, copied, retired, replaced, exchanged."""

from __future__ import annotations

import json

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile

from plinto_core.conditions import unpack_condition
from plinto_core.icc import Profile
from plinto_core.transform.standard_spaces import standard_profile
from plinto_server.apps.conditions.models import PrintingCondition
from plinto_server.apps.jobs.models import Destination


def sent(client, address: str, data: bytes, name: str = "press.icc"):
    return client.post(address, {"file": SimpleUploadedFile(name, data)}, format="multipart")


@pytest.fixture
def received(client, profile_bytes, db) -> dict:
    """A press's profile that nobody here knew, uploaded."""
    data = bytearray(profile_bytes["newsprint"])
    data[24:26] = (2019).to_bytes(2, "big")
    answer = sent(client, "/api/profiles?part=destination", bytes(data))
    assert answer.status_code == 201
    return answer.json()


def make(client, profile: int, **facts):
    body = {"profile": profile, "condition": {"name": "House press", **facts}}
    return client.post("/api/conditions", body, format="json")


def test_a_received_profile_proposes_and_becomes_a_condition(client, received) -> None:
    found = client.get(f"/api/profiles/{received['id']}/proposal").json()
    assert found["condition"]["process"] == "offset"
    assert 235 <= found["condition"]["ink_rules"]["tac"] <= 241
    made = client.post(
        "/api/conditions",
        {"profile": received["id"], "condition": found["condition"]},
        format="json",
    )
    assert made.status_code == 201
    row = client.get("/api/conditions").json()[0]
    assert row == made.json()
    assert row["own"] is True
    assert row["ink_rules"] == found["condition"]["ink_rules"]
    assert row["profile"]["sha256"] == received["sha256"]


def test_ones_own_come_first_and_nobody_else_sees_them(
    client, received, conditions, django_user_model
) -> None:
    made = make(client, received["id"]).json()
    assert [c["own"] for c in client.get("/api/conditions").json()] == [True, False, False]
    other = django_user_model.objects.create_user("ben", password="correct horse")
    client.force_authenticate(other)
    assert all(c["id"] != made["id"] for c in client.get("/api/conditions").json())
    for address in ("", "/file", "/uses"):
        assert client.get(f"/api/conditions/{made['id']}{address}").status_code == 404
    assert client.get(f"/api/profiles/{received['id']}/proposal").status_code == 404
    assert make(client, received["id"]).status_code == 400


@pytest.mark.parametrize(
    ("facts", "said"),
    [
        ({"name": "  "}, "name is needed"),
        ({"name": "x", "proces": "offset"}, "proces"),
        ({"name": "x", "process": "woodcut"}, "process"),
        ({"name": "x", "ink_rules": {"tac": 20}}, "tac"),
        ({"name": "x", "ink_rules": {"black": {"begin": 3}}}, "begin"),
        ({"name": "x", "supplies": {"inks": {"C": {"film": -1, "price": 1}}}}, "film"),
        ({"name": "x", "least_dot": 60}, "least_dot"),
        ([], "usable"),
    ],
)
def test_what_it_does_not_know_is_refused(client, received, facts, said) -> None:
    body = {"profile": received["id"], "condition": facts}
    answer = client.post("/api/conditions", body, format="json")
    assert answer.status_code == 400
    assert said in answer.json()["title"]
    assert not PrintingCondition.objects.exclude(owner=None).exists()


def test_other_fields_than_these_are_refused(client, received) -> None:
    body = {"profile": received["id"], "condition": {"name": "x"}, "owner": 1}
    answer = client.post("/api/conditions", body, format="json")
    assert answer.status_code == 400
    assert "owner" in answer.json()["title"]


def test_profiles_that_cannot_be_printed_for_are_refused_with_a_reason(client, db) -> None:
    broken = sent(client, "/api/profiles?part=destination", b"no profile at all" * 20)
    assert (broken.status_code, broken.json()["code"]) == (400, "bad-profile")
    data = bytearray(standard_profile("srgb").data)
    data[12:16] = b"abst"
    abstract = sent(client, "/api/profiles?part=destination", bytes(data))
    assert "class abstract" in abstract.json()["title"]
    assert "output profile" in abstract.json()["remedy"]
    kept = sent(client, "/api/profiles", bytes(data)).json()
    assert client.get(f"/api/profiles/{kept['id']}/proposal").status_code == 400
    assert make(client, kept["id"]).status_code == 400


def test_doubles_are_refused_and_differences_are_not(client, received) -> None:
    make(client, received["id"])
    assert make(client, received["id"], medium="Other").status_code == 409
    same = make(client, received["id"], name="Another name")
    assert same.status_code == 409
    assert "House press" in same.json()["title"]
    assert make(client, received["id"], name="Other", medium="Thicker").status_code == 201


def test_changes_name_their_revision_and_two_writers_see_both(client, received) -> None:
    made = make(client, received["id"]).json()
    address = f"/api/conditions/{made['id']}"
    first = client.patch(
        address, {"ink_rules": {"tac": 230}}, format="json", headers={"If-Match": '"1"'}
    )
    assert first.json()["ink_rules"]["tac"] == 230
    assert first.headers["ETag"] == '"2"'
    late = client.patch(
        address, {"ink_rules": {"tac": 210}}, format="json", headers={"If-Match": '"1"'}
    )
    assert (late.status_code, late.json()["fields"][0]["theirs"]) == (409, 230)
    other = client.patch(
        address, {"notes": "Runs damp"}, format="json", headers={"If-Match": '"1"'}
    )
    assert other.json()["notes"] == "Runs damp"
    assert other.json()["ink_rules"]["tac"] == 230
    assert client.patch(address, {"profile": 1}, format="json").status_code == 400


def test_those_that_come_with_plinto_are_copied_and_not_changed(client, conditions) -> None:
    address = f"/api/conditions/{conditions[0].pk}"
    for answer in (client.patch(address, {"name": "x"}, format="json"), client.delete(address)):
        assert answer.status_code == 403
        assert "copy" in answer.json()["title"]
    copies = [client.post(f"{address}/copy").json() for _ in range(2)]
    name = conditions[0].name
    assert [c["name"] for c in copies] == [f"{name}, copy", f"{name}, copy 2"]
    assert all(c["own"] and c["ink_rules"] == copies[0]["ink_rules"] for c in copies)


def test_retiring_breaks_nothing_and_can_be_undone(client, job, received) -> None:
    made = make(client, received["id"]).json()
    body = {"condition": made["id"]}
    added = client.post(f"/api/jobs/{job['id']}/destinations", body, format="json").json()
    uses = client.get(f"/api/conditions/{made['id']}/uses").json()
    assert [(u["kind"], u["name"]) for u in uses] == [("job", job["name"])]
    assert client.delete(f"/api/conditions/{made['id']}").status_code == 204
    assert made["id"] not in [c["id"] for c in client.get("/api/conditions").json()]
    kept = client.get(f"/api/destinations/{added['id']}").json()
    assert kept["condition"]["name"] == "House press"
    assert kept["source"]["problem"] is None
    assert client.post(f"/api/conditions/{made['id']}/restore").status_code == 200
    assert made["id"] in [c["id"] for c in client.get("/api/conditions").json()]


@pytest.mark.parametrize("carry", [False, True])
def test_replacing_the_profile_moves_what_is_asked_and_nothing_else(
    client, job, received, profile_bytes, carry
) -> None:
    made = make(client, received["id"]).json()
    added = client.post(
        f"/api/jobs/{job['id']}/destinations", {"condition": made["id"]}, format="json"
    ).json()
    template = client.get("/api/policies/templates/bare-cmyk", {"condition": made["id"]}).json()
    policy = client.post("/api/policies", template, format="json").json()
    new = sent(client, "/api/profiles", profile_bytes["sheetfed-coated"]).json()
    before = Destination.objects.exclude(pk=added["id"]).values_list("recipe", flat=True)
    others = list(before)
    found = client.get(f"/api/conditions/{made['id']}/difference/{new['id']}").json()
    assert found["comparable"]
    assert found["solids"]["paper"] > 3
    assert found["tac"][0] < 245 < found["tac"][1]
    done = client.post(
        f"/api/conditions/{made['id']}/profile",
        {"profile": new["id"], "carry": carry},
        format="json",
    )
    assert done.status_code == 200
    assert done.json()["moved"] == (2 if carry else 0)
    expected = new["sha256"] if carry else received["sha256"]
    assert Destination.objects.get(pk=added["id"]).recipe["destination"] == expected
    present = client.get("/api/policies").json()[0]["policy"]
    assert present["destination"] == expected
    assert list(before.all()) == others
    assert policy["id"]
    if carry:
        undone = client.post(f"/api/destinations/{added['id']}/undo").json()
        assert undone["recipe"]["destination"] == received["sha256"]


def test_a_policy_belongs_to_the_oldest_condition_with_its_profile(client, conditions) -> None:
    first = conditions[0]
    template = client.get("/api/policies/templates/bare-cmyk", {"condition": first.pk}).json()
    client.post("/api/policies", template, format="json")
    copy = client.post(f"/api/conditions/{first.pk}/copy").json()
    kinds = [
        [u["kind"] for u in client.get(f"/api/conditions/{pk}/uses").json()]
        for pk in (first.pk, copy["id"])
    ]
    assert kinds == [["policy"], []]
    body = {"profile": conditions[1].profile_id, "carry": True}
    done = client.post(f"/api/conditions/{copy['id']}/profile", body, format="json")
    assert done.json()["moved"] == 0
    assert client.get("/api/policies").json()[0]["policy"] == template


def test_a_profile_for_other_inks_does_not_replace(client, received, conditions) -> None:
    made = make(client, received["id"]).json()
    srgb = next(p for p in client.get("/api/profiles").json() if p["colour_space"] == "RGB")
    body = {"profile": srgb["id"], "carry": True}
    answer = client.post(f"/api/conditions/{made['id']}/profile", body, format="json")
    assert answer.status_code == 409
    found = client.get(f"/api/conditions/{made['id']}/difference/{srgb['id']}").json()
    assert found == {"comparable": False}


def test_a_condition_leaves_as_a_file_and_comes_back_elsewhere(
    client, received, django_user_model
) -> None:
    facts = {
        "medium": "Newsprint",
        "supplies": {"medium_price": 0.1},
        "notes": "Two lines\nof notes",
    }
    made = make(client, received["id"], **facts).json()
    data = client.get(f"/api/conditions/{made['id']}/file").getvalue()
    condition, profile = unpack_condition(data)
    assert Profile(profile).digest == received["sha256"]
    assert condition.notes == "Two lines\nof notes"
    client.force_authenticate(
        django_user_model.objects.create_user("ben", password="correct horse")
    )
    back = sent(client, "/api/conditions/import", data, "condition.json")
    assert back.status_code == 201
    same = ("name", "medium", "process", "ink_rules", "supplies", "ticket", "notes")
    assert {k: back.json()[k] for k in same} == {k: made[k] for k in same}


@pytest.mark.parametrize("cut", [0, 1, 100, -40])
def test_damaged_condition_files_leave_nothing(client, received, cut) -> None:
    made = make(client, received["id"]).json()
    data = client.get(f"/api/conditions/{made['id']}/file").getvalue()
    answer = sent(client, "/api/conditions/import", data[:cut] if cut else b"[]", "c.json")
    assert answer.status_code == 400
    assert PrintingCondition.objects.exclude(owner=None).count() == 1


def test_hostile_condition_files_are_refused(client, received) -> None:
    made = make(client, received["id"]).json()
    whole = json.loads(client.get(f"/api/conditions/{made['id']}/file").getvalue())
    for change in (
        {"version": 9}, {"kind": "x"}, {"more": 1}, {"profile": "!!"}, {"profile": 3}, {"condition": None},
        {"condition": {"name": "\u0000"}}, {"profile": ""},
    ):  # fmt: skip
        data = json.dumps({**whole, **change}).encode()
        assert sent(client, "/api/conditions/import", data, "c.json").status_code == 400, change


def test_two_thousand_conditions_are_listed_in_a_few_queries(
    client, received, user, django_assert_max_num_queries
) -> None:
    from plinto_server.apps.profiles.models import StoredProfile

    profile = StoredProfile.objects.get(pk=received["id"])
    PrintingCondition.objects.bulk_create(
        PrintingCondition(owner=user, key=f"k{i}", name=f"N{i}", profile=profile)
        for i in range(2000)
    )
    with django_assert_max_num_queries(6):
        assert len(client.get("/api/conditions").json()) == 2000
    assert make(client, received["id"]).status_code == 409
