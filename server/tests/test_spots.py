"""Builds of spot colours over the API, and policies that name them."""

from __future__ import annotations

import csv
import io
import json

import pytest
from rest_framework.test import APIClient

from plinto_core.icc import Profile
from plinto_core.inks.rules import parse_ink_rules
from plinto_core.spots.builds import SpotOptions, spot_builds


@pytest.fixture
def colours(client, db) -> dict:
    text = "Name,L,a,b\nSea,50,-20,-35\nFlag,45,65,45"
    given = {"name": "Signs", "text": text, "space": "Lab"}
    return client.post("/api/swatch-lists", given, format="json").json()


def asked(client, **query):
    return client.get("/api/spot-builds", query)


def test_builds_are_the_cores_under_the_conditions_rules(client, conditions, colours) -> None:
    condition = conditions[0]
    condition.least_dot = 4
    condition.save()
    found = asked(client, condition=condition.pk, list=colours["id"], inks=2).json()
    profile = Profile(condition.profile and _bytes(condition))
    rules = parse_ink_rules(condition.ink_rules)
    expected = spot_builds(
        profile, rules, ("Sea", "Flag"), [[50, -20, -35], [45, 65, 45]], SpotOptions(inks=2, least=4)
    )  # fmt: skip
    assert found["builds"] == json.loads(json.dumps([b.model_dump() for b in expected]))
    assert (found["least"], found["tac"]) == (4, condition.tac)
    # Each of the answers' conditions is a part of what they are kept under.
    free = asked(client, condition=condition.pk, list=colours["id"], inks=2, least=0).json()
    assert free["least"] == 0
    relative = asked(client, condition=condition.pk, list=colours["id"], inks=2, white="relative")
    assert relative.json()["builds"] != found["builds"]
    condition.ink_rules = {**condition.ink_rules, "tac": 60}
    condition.save()
    tight = asked(client, condition=condition.pk, list=colours["id"], inks=2).json()
    assert all(sum(b["best"]["inks"].values()) <= 60 for b in tight["builds"])
    # Another profile under the very same rules.
    other = conditions[1]
    other.ink_rules, other.least_dot = condition.ink_rules, condition.least_dot
    other.save()
    there = asked(client, condition=other.pk, list=colours["id"], inks=2).json()
    assert there["builds"] != tight["builds"]


def _bytes(condition) -> bytes:
    from plinto_server import store

    return store.path_of(condition.profile.sha256).read_bytes()


def test_one_colour_is_tried_without_a_list(client, conditions, colours) -> None:
    one = asked(client, condition=conditions[0].pk, colour="50,-20,-35").json()["builds"]
    many = asked(client, condition=conditions[0].pk, list=colours["id"]).json()["builds"]
    assert one[0]["best"] == many[0]["best"]


@pytest.mark.parametrize(
    "query",
    [{}, {"colour": "50,0"}, {"colour": "a,b,c"}, {"colour": "nan,0,0"}, {"colour": "50,0,9e9"}, {"colour": "5,5,5", "inks": 5},
     {"colour": "5,5,5", "inks": 0}, {"colour": "5,5,5", "gain": -1}, {"colour": "5,5,5", "white": "paper"},
     {"colour": "5,5,5", "least": 80}, {"list": 999}, {"colour": "5,5,5", "tac": 200}],
)  # fmt: skip
def test_other_questions_are_refused(client, conditions, query) -> None:
    answer = asked(client, condition=conditions[0].pk, **query)
    assert answer.status_code == 400, answer.json()


def test_lists_that_are_not_measured_or_too_long_are_refused(client, conditions) -> None:
    for text, space in (("9 8 7", "RGB"), ("\n".join(["50 0 0"] * 501), "Lab")):
        made = client.post(
            "/api/swatch-lists", {"text": text, "space": space}, format="json"
        ).json()
        answer = asked(client, condition=conditions[0].pk, list=made["id"])
        assert answer.status_code == 400
        assert answer.json()["remedy"]


def test_all_conditions_come_out_as_one_table(client, conditions, colours) -> None:
    ids = ",".join(str(c.pk) for c in conditions)
    answer = client.get("/api/spot-builds/table", {"conditions": ids, "list": colours["id"]})
    rows = list(csv.DictReader(io.StringIO(answer.content.decode())))
    assert [(r["Colour"], r["Press"]) for r in rows] == [
        (n, c.name) for c in conditions for n in ("Sea", "Flag")
    ]
    wrong = client.get("/api/spot-builds/table", {"conditions": "1,x", "list": colours["id"]})
    assert wrong.status_code == 400


def test_nothing_of_others_is_built(client, conditions, colours, django_user_model) -> None:
    stranger = APIClient()
    stranger.force_authenticate(django_user_model.objects.create_user("eve"))
    assert asked(stranger, condition=conditions[0].pk, list=colours["id"]).status_code == 400
    own = client.post(f"/api/conditions/{conditions[0].pk}/copy").json()
    assert asked(stranger, condition=own["id"], colour="50,0,0").status_code == 400
    table = {"conditions": str(own["id"]), "colour": "50,0,0"}
    assert stranger.get("/api/spot-builds/table", table).status_code == 404


def test_a_policy_takes_builds_one_by_one(client, conditions) -> None:
    template = client.get(
        "/api/policies/templates/strict-press", {"condition": conditions[0].pk}
    ).json()
    kept = client.post("/api/policies", template, format="json").json()
    address = f"/api/policies/{kept['id']}"

    def put(builds):
        return client.patch(address, {"builds": builds}, format="json")

    assert put({"Sea": {"C": 80, "Y": 20}}).status_code == 200
    assert put({"Flag": {"M": 90}}).json()["policy"]["builds"].keys() == {"Sea", "Flag"}
    # A new build takes the former one's place; its inks are not mixed.
    assert put({"Sea": {"K": 50}}).json()["policy"]["builds"]["Sea"] == {"K": 50}
    assert put({"Flag": None}).json()["policy"]["builds"].keys() == {"Sea"}
    for wrong in ({"Sea": {"Orange": 5}}, {"Sea": {"C": 101}}, {"Sea": 5}, [1]):
        answer = put(wrong)
        assert answer.status_code == 400, wrong
    (only,) = client.get("/api/policies").json()
    assert only["policy"]["builds"] == {"Sea": {"K": 50}}
