"""As many as there may be, and not one more."""

from __future__ import annotations

import pytest
from kept import as_kept, public_figures
from rest_framework import serializers

import plinto_server
from plinto_core.transform.standard_spaces import standard_profile
from plinto_server.schema import CoreField
from test_kept_responses import FOLDER, made, press

__all__ = ["made", "press"]


@pytest.mark.parametrize(("count", "taken"), [(20, True), (21, False)])
def test_a_job_has_at_most_twenty_points(client, made, count, taken) -> None:
    points = [{"x": i, "y": 0, "name": ""} for i in range(count)]
    answer = client.put(f"/api/jobs/{made['id']}/points", points, format="json")
    assert answer.status_code == (200 if taken else 409)
    assert len(client.get(f"/api/jobs/{made['id']}").json()["points"]) == (count if taken else 0)


@pytest.mark.parametrize(
    ("given", "kept"),
    [((-5, -1), (0, 0)), ((79, 59), (79, 59)), ((80, 60), (79, 59)), ((900, 3), (79, 3))],
)
def test_points_lie_on_the_picture(client, made, given, kept) -> None:
    points = [{"x": given[0], "y": given[1], "name": "p"}]
    answer = client.put(f"/api/jobs/{made['id']}/points", points, format="json").json()
    assert [(p["x"], p["y"]) for p in answer["points"]] == [kept]


@pytest.mark.parametrize(("count", "taken"), [(4, True), (5, False)])
def test_four_gamuts_side_by_side(client, press, count, taken) -> None:
    spaces = [f"profile:{standard_profile(key).digest}" for key in ("srgb", "oprgb", "romm", "p3")]
    of = [f"condition:{press.pk}", *spaces][:count]
    answer = client.get("/api/gamuts", {"of": of})
    assert answer.status_code == (200 if taken else 400)


@pytest.mark.parametrize(("size", "taken"), [(200_000, True), (200_001, False)])
def test_rows_of_an_aim_are_so_many_letters_long(client, size, taken) -> None:
    row = "C 55 -37 -50\n"
    text = row + "#" * (size - len(row))
    answer = client.post("/api/aims", {"name": "A", "rows": text}, format="json")
    assert answer.status_code == (201 if taken else 400), answer.content[:300]


@pytest.mark.parametrize(("size", "taken"), [(4096, True), (4097, False)])
def test_a_view_is_no_wider_than_a_screen_can_be(client, made, size, taken) -> None:
    pk = made["destinations"][0]["id"]
    answer = client.get(f"/api/destinations/{pk}/view.png", {"columns": size, "rows": 2})
    assert answer.status_code == (200 if taken else 400)


@pytest.mark.parametrize(
    ("name", "low", "high"),
    [("l", 0, 100), ("a", -200, 200), ("b", -200, 200), ("radius", 0.5, 50)],
)
def test_a_colour_that_is_looked_for_lies_in_its_space(client, made, name, low, high) -> None:
    asked = {"job": made["id"], "l": 50, "a": 0, "b": 0}
    for value, taken in (
        (low, True),
        (high, True),
        (low - 0.1, False),
        (high + 0.1, False),
        ("x", False),
    ):
        answer = client.get("/api/gamuts/where", {**asked, name: value})
        assert answer.status_code == (200 if taken else 400), (name, value)


def test_limits_and_tables_by_name() -> None:
    as_kept("figures-by-name", public_figures(plinto_server), rel=1e-9, abs=0, folder=FOLDER)


def test_which_parts_of_answers_are_whole_however_old_they_are() -> None:
    """What was kept before a part of it existed goes out with that part, where nothing else is said."""

    def kinds(of: type) -> list[type]:
        return [one for sub in of.__subclasses__() for one in (sub, *kinds(sub))]

    found = {
        f"{one.__module__}.{one.__qualname__}.{name}": [field.model.__qualname__, field.complete]
        for one in kinds(serializers.Serializer)
        for name, field in getattr(one, "_declared_fields", {}).items()
        if isinstance(field, CoreField)
    }
    assert len(found) > 10
    as_kept("whole-parts", dict(sorted(found.items())), folder=FOLDER)


def test_a_copy_of_an_aim_is_called_so_and_no_longer_than_names_may_be(client) -> None:
    for name, copied in (("Gloss", "Gloss, copy"), ("N" * 100, "N" * 90 + ", copy")):
        made = client.post("/api/aims", {"name": name, "rows": "C 55 -37 -50\n"}, format="json")
        assert made.status_code == 201, made.content[:300]
        again = client.post(f"/api/aims/{made.json()['id']}/copy")
        assert (again.status_code, again.json()["name"]) == (201, copied)
