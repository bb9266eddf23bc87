"""Two people, two windows: no answered change is lost, what collides shows both."""

from __future__ import annotations

import threading

import pytest
from django.db import connection
from django.db.models.signals import post_init
from django.test.utils import CaptureQueriesContext
from rest_framework.test import APIClient

from plinto_server.apps.jobs.models import Destination, Moment
from plinto_server.revisions import differences, leaves, merged

CORRECTIONS = [{"lightness": 20, "name": "sky"}]


@pytest.fixture
def destination(job) -> int:
    return job["destinations"][0]["id"]


def change(client, pk: int, body: dict, match: int | str | None = None):
    extra = {} if match is None else {"headers": {"If-Match": f'"{match}"'}}
    return client.patch(f"/api/destinations/{pk}", body, format="json", **extra)


@pytest.mark.parametrize(
    ("base", "patch", "result"),
    [
        ({"a": 1}, {"b": 2}, {"a": 1, "b": 2}),
        ({"a": {"x": 1, "y": 2}}, {"a": {"x": 3}}, {"a": {"x": 3, "y": 2}}),
        ({"a": None}, {"a": {"x": 3}}, {"a": {"x": 3}}),
        ({"a": {"x": 1}}, {"a": None}, {"a": None}),
        ({"a": [1, 2]}, {"a": [3]}, {"a": [3]}),
        ({"inks": {"C": 1, "K": 2}}, {"inks": {"C": None}}, {"inks": {"K": 2}}),
        ({"a": {"inks": {"C": 1}}}, {"a": {"inks": {"C": None}}}, {"a": {"inks": {"C": None}}}),
    ],
)
def test_patches_are_laid_over_object_by_object(base, patch, result) -> None:
    assert merged(base, patch, frozenset({"inks"})) == result


def test_differences_name_every_value() -> None:
    before = {"a": 1, "b": {"x": 1, "y": [1]}, "c": None}
    after = {"a": 1, "b": {"x": 2, "y": [1, 2]}, "c": {"z": 1}}
    assert differences(before, after) == ["b.x", "b.y", "c", "c.z"]
    assert leaves({"a": {}, "b": {"c": {"d": 0}}}) == {"a": {}, "b.c.d": 0}


def test_changes_of_different_parts_are_merged(client, destination) -> None:
    first = client.get(f"/api/destinations/{destination}")
    old = first.json()["revision"]
    assert first["ETag"] == f'"{old}"'
    assert change(client, destination, {"ink_rules": {"tac": 260}}, old).status_code == 200
    assert (
        change(client, destination, {"ink_rules": {"black": {"strength": 70}}}, old).status_code
        == 200
    )
    last = change(client, destination, {"intent": "relative", "delivery": {"bits": 8}}, old)
    recipe = last.json()["recipe"]
    assert (recipe["ink_rules"]["tac"], recipe["ink_rules"]["black"]["strength"]) == (260, 70)
    assert (recipe["intent"], recipe["delivery"]["bits"]) == ("relative", 8)
    assert last["ETag"] == f'"{old + 3}"'


@pytest.mark.parametrize(
    ("theirs", "yours", "field", "values"),
    [
        ({"intent": "relative"}, {"intent": "saturation"}, "intent", ("relative", "saturation")),
        ({"ink_rules": {"tac": 260}}, {"ink_rules": {"tac": 280}}, "ink_rules.tac", (260, 280)),
        ({"ink_rules": {"tac": 260}}, {"ink_rules": None}, "ink_rules", None),
        ({"corrections": CORRECTIONS}, {"corrections": []}, "corrections", None),
    ],
    ids=str,
)
def test_a_change_of_the_same_field_shows_both(
    client, destination, theirs, yours, field, values
) -> None:
    old = client.get(f"/api/destinations/{destination}").json()["revision"]
    newer = change(client, destination, theirs, old).json()
    refused = change(client, destination, yours, old)
    assert refused.status_code == 409
    problem = refused.json()
    assert problem["code"] == "stale"
    assert [f["field"] for f in problem["fields"]] == [field]
    if values:
        assert (problem["fields"][0]["theirs"], problem["fields"][0]["yours"]) == values
    assert problem["revision"] == newer["revision"]
    assert client.get(f"/api/destinations/{destination}").json()["recipe"] == newer["recipe"]
    assert change(client, destination, yours, problem["revision"]).status_code == 200


def test_the_same_value_twice_is_no_collision(client, destination) -> None:
    old = client.get(f"/api/destinations/{destination}").json()["revision"]
    change(client, destination, {"intent": "relative"}, old)
    assert change(client, destination, {"intent": "relative"}, old).status_code == 200


def test_an_undo_counts_as_a_change(client, destination) -> None:
    changed = change(client, destination, {"intent": "relative"}).json()
    client.post(f"/api/destinations/{destination}/undo")
    assert (
        change(client, destination, {"intent": "saturation"}, changed["revision"]).status_code
        == 409
    )
    assert change(client, destination, {"bpc": False}, changed["revision"]).status_code == 200


@pytest.mark.parametrize("tag", ["x", '"x"', "-1", '"1', '"99999999999999999999"'])
def test_a_tag_that_is_none_is_refused(client, destination, tag) -> None:
    answer = client.patch(
        f"/api/destinations/{destination}", {"bpc": False}, format="json", headers={"If-Match": tag}
    )
    assert answer.status_code == 400


@pytest.mark.django_db(transaction=True)
def test_of_forty_changes_by_two_clients_none_is_lost(client, user, job, destination) -> None:
    """Each client changes fields of its own; every answered change is there at the end."""
    answers: list[tuple[str, float, int]] = []

    def work(field: str) -> None:
        mine = APIClient()
        mine.force_authenticate(user)
        for i in range(20):
            body = {"ink_rules": {"limits": {field: 50 + i}}, "delivery": {}}
            answer = change(mine, destination, body)
            answers.append((field, 50 + i, answer.status_code))
        connection.close()

    threads = [threading.Thread(target=work, args=(f,)) for f in ("C", "M")]
    for t in threads:
        t.start()
    for t in threads:
        t.join()
    assert {s for _, _, s in answers} == {200}
    row = Destination.objects.get(pk=destination)
    assert row.recipe["ink_rules"]["limits"] == {"C": 69, "M": 69}
    seen = [
        m.recipe["ink_rules"]["limits"]
        for m in Moment.objects.filter(destination=row, number__gt=0)
    ]
    assert len(seen) == 40
    for field in ("C", "M"):
        values = [s[field] for s in seen if field in s]
        assert values == sorted(values)
        assert set(values) == {50 + i for i in range(20)}


def test_a_change_late_in_a_history_costs_what_an_early_one_costs(client, destination) -> None:
    def cost(tac: int) -> tuple[int, int, int]:
        """Queries, characters of SQL and moments read for one change."""
        read: list[Moment] = []

        def count(instance: Moment, **_: object) -> None:
            read.append(instance)

        post_init.connect(count, sender=Moment)
        try:
            with CaptureQueriesContext(connection) as queries:
                answer = change(client, destination, {"ink_rules": {"tac": tac}})
        finally:
            post_init.disconnect(count, sender=Moment)
        assert answer.status_code == 200
        return len(queries), sum(len(q["sql"]) for q in queries), len(read)

    for i in range(6):
        early = cost(200 + i)
    for i in range(260):
        late = cost(200 + i % 100)
    # one statement more: the oldest moment gives way
    assert late[0] <= early[0] + 1 <= 15
    assert late[1] <= early[1] + 400
    assert late[2] <= early[2] <= 4
    row = Destination.objects.get(pk=destination)
    assert Moment.objects.filter(destination=row).count() == 250
    assert row.newest - row.oldest == 249


def test_moments_that_were_undone_give_way(client, destination) -> None:
    for intent in ("relative", "saturation", "absolute"):
        change(client, destination, {"intent": intent})
    for _ in range(2):
        client.post(f"/api/destinations/{destination}/undo")
    state = change(client, destination, {"bpc": False}).json()
    assert (state["recipe"]["intent"], state["can_redo"]) == ("relative", False)
    labels = [m["label"] for m in client.get(f"/api/destinations/{destination}/moments").json()]
    assert labels == ["start", "relative colorimetric", "BPC off"]


def test_figures_are_cleared_by_change_undo_and_redo(client, destination) -> None:
    def known() -> bool:
        return bool(client.get(f"/api/destinations/{destination}").json()["facts"])

    for act in (
        lambda: change(client, destination, {"intent": "relative"}),
        lambda: client.post(f"/api/destinations/{destination}/undo"),
        lambda: client.post(f"/api/destinations/{destination}/redo"),
    ):
        client.post(f"/api/destinations/{destination}/facts")
        assert known()
        act()
        assert not known()


@pytest.fixture
def others(client, conditions) -> dict[str, tuple[str, dict]]:
    """One of each further thing that two people may change, with a change of another field."""
    made = client.get("/api/policies/templates/bare-cmyk", {"condition": conditions[0].pk}).json()
    policy = client.post("/api/policies", made, format="json").json()
    printer = client.post("/api/printers", {"name": "P"}, format="json").json()
    medium = client.post(
        f"/api/printers/{printer['id']}/media",
        {"name": "G", "condition": conditions[0].pk, "policy": None, "settings": {},
         "duty": {"manager": "none", "driver": "off", "rip": "absent"}},
        format="json",
    ).json()  # fmt: skip
    folder = client.post(
        "/api/folders", {"name": "F", "policy": policy["id"]}, format="json"
    ).json()
    rules = client.post("/api/house-rules", {"name": "H"}, format="json").json()
    return {
        "policies": (policy, {"tac": 222}), "printers": (printer, {"place": "Cellar"}),
        "media": (medium, {"settings": {"passes": 3}}), "folders": (folder, {"repeats": "run"}),
        "house-rules": (rules, {"missing": "ask"}),
    }  # fmt: skip


@pytest.mark.parametrize("kind", ["policies", "printers", "media", "folders", "house-rules"])
def test_the_same_holds_for_everything_else(client, others, kind) -> None:
    row, other = others[kind]
    address = f"/api/{kind}/{row['id']}"
    tag = {"If-Match": f'"{row["revision"]}"'}
    theirs = client.patch(address, {"name": "Theirs"}, format="json", headers=tag)
    assert theirs.status_code == 200
    assert theirs["ETag"] == f'"{row["revision"] + 1}"'
    both = client.patch(address, other, format="json", headers=tag)
    assert both.status_code == 200, both.content
    refused = client.patch(address, {"name": "Mine"}, format="json", headers=tag)
    assert refused.status_code == 409
    assert refused.json()["fields"] == [{"field": "name", "theirs": "Theirs", "yours": "Mine"}]
    rows = client.get("/api/printers" if kind == "media" else f"/api/{kind}").json()
    found = rows[0]["media"][0] if kind == "media" else rows[0]
    assert found["name"] == "Theirs"
    content = (
        found.get("policy")
        if kind == "policies"
        else found.get("rules")
        if kind == "house-rules"
        else found
    )
    for field, value in leaves(other).items():
        inner = content
        for key in field.split("."):
            inner = inner[key]
        assert inner == value
