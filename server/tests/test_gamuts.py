"""Gamuts beside each other: bodies of conditions and profiles, clouds of pictures, whose they are."""

from __future__ import annotations

import base64
import io

import numpy as np
import pytest
from PIL import Image
from rest_framework.test import APIClient

from plinto_core.colorimetry.difference import delta_e_2000
from plinto_server.apps.jobs.models import Job


def asked(client, *of: str, **query):
    return client.get("/api/gamuts", {"of": list(of), **query})


@pytest.fixture
def press(conditions) -> str:
    return f"condition:{conditions[0].pk}"


def test_bodies_have_figures_and_pairs_both_ways(client, press) -> None:
    found = asked(client, press, "profile:srgb").json()
    names = [b["name"] for b in found["bodies"]]
    assert names[0] == "Sheetfed coated"
    assert found["bodies"][0]["tac"] == 320
    assert np.array(found["bodies"][1]["figures"]["chroma"]).shape == (101, 120)
    there, back = found["pairs"]
    assert (there["body"], there["on"], back["body"], back["on"]) == (0, 1, 1, 0)
    assert there["figures"]["coverage"] > back["figures"]["coverage"]


def test_sight_and_total_change_what_is_seen(client, press) -> None:
    def first(**query):
        return asked(client, press, **query).json()["bodies"][0]

    paper, absolute, low = first(), first(sight="absolute"), first(tac=200)
    assert absolute["figures"]["lightest"] < paper["figures"]["lightest"]
    assert low["figures"]["volume"] < paper["figures"]["volume"]
    assert (paper["tac"], low["tac"]) == (320, 200)


def test_a_recipe_is_what_its_own_ink_rules_leave(client, job, press) -> None:
    destination = next(
        d for d in job["destinations"] if d["condition"]["name"] == "Sheetfed coated"
    )
    ref = f"recipe:{destination['id']}"

    def body(*more, **query):
        return asked(client, ref, *more, **query).json()["bodies"][0]

    def rule(**rules):
        at = f"/api/destinations/{destination['id']}"
        assert client.patch(at, {"ink_rules": rules}, format="json").status_code == 200

    plain = body()
    assert plain["name"] == f"{job['name']} for Sheetfed coated"
    rule(tac=300)
    wide = body(press)
    rule(tac=300, limits={"C": 50})
    without = body(press)
    assert without["tac"] == 300
    assert without["figures"]["volume"] < 0.9 * wide["figures"]["volume"]
    # A total in place of its own holds here too.
    assert body(tac=180)["tac"] == 180
    assert body(tac=180)["figures"]["volume"] < without["figures"]["volume"]
    black = {"method": "none"}
    rule(tac=300, black=black)
    assert body()["figures"]["darkest"] > wide["figures"]["darkest"] + 5


def test_a_picture_is_a_cloud_against_every_body(client, job, press) -> None:
    found = asked(client, press, f"picture:{job['id']}", "profile:romm").json()
    (cloud,) = found["clouds"]
    assert cloud["name"] == job["name"]
    assert 10 < len(cloud["points"]) <= 1500
    assert [len(a) for a in cloud["away"]] == [len(cloud["points"])] * 2
    assert [[f > 0 for f in far] for far in cloud["far"]] == cloud["away"]
    assert cloud["names"] == []
    assert cloud["outside"][0] > cloud["outside"][1] == 0


def test_a_list_is_a_cloud_of_its_colours_as_they_stand(client, press, django_user_model) -> None:
    def kept(text: str, space: str) -> dict:
        given = {"name": "Signs", "text": text, "space": space}
        return client.post("/api/swatch-lists", given, format="json").json()

    listed = kept("Grey 50 0 0\nNeon 60 90 90\nRed 45 60 40\nPaper 95 0 1", "Lab")
    (cloud,) = asked(client, press, f"list:{listed['id']}").json()["clouds"]
    assert cloud["name"] == "Signs"
    assert sorted(cloud["points"]) == [[45, 60, 40], [50, 0, 0], [60, 90, 90], [95, 0, 1]]
    away = dict(zip(map(tuple, cloud["points"]), cloud["away"][0], strict=True))
    assert away[(60, 90, 90)]
    assert not away[(50, 0, 0)]
    assert cloud["outside"][0] == sum(cloud["away"][0]) / 4
    assert cloud["names"] == ["Grey", "Neon", "Red", "Paper"]
    far = dict(zip(cloud["names"], cloud["far"][0], strict=True))
    # As far as the nearest colour that prints is from it.
    (nearest,) = cloud["nearest"][0]
    assert far["Neon"] == pytest.approx(
        delta_e_2000(np.array([[60, 90, 90]]), np.array([nearest]))[0], abs=0.1
    )
    assert (far["Grey"], far["Paper"]) == (0, 0)
    numbers = kept("9 8 7", "RGB")
    refused = asked(client, press, f"list:{numbers['id']}")
    assert refused.status_code == 400
    assert "colour path" in refused.json()["remedy"]
    stranger = APIClient()
    stranger.force_authenticate(django_user_model.objects.create_user("bo"))
    assert asked(stranger, f"list:{listed['id']}").status_code == 404


def test_nothing_asked_shows_nothing(client) -> None:
    found = asked(client).json()
    assert (found["bodies"], found["pairs"], found["clouds"]) == ([], [], [])


@pytest.mark.parametrize(
    "of",
    ["", "srgb", "profile:", "condition:x", "condition:99999999999999", "picture:", "picture:-1", "list:", "list:x", "list:999999",
     "profile:" + "f" * 64, "profile:\x00", "condition:١"],
)  # fmt: skip
def test_what_is_not_known_is_refused_in_one_line(client, of) -> None:
    answer = asked(client, of)
    assert answer.status_code in (400, 404)
    assert answer.json()["title"]


def test_too_many_and_unknown_ways_are_refused(client) -> None:
    five = [f"profile:{n}" for n in ("srgb", "oprgb", "romm", "p3", "grey")]
    assert asked(client, *five).status_code == 400
    assert asked(client, "profile:srgb", sight="sideways").status_code == 400
    assert asked(client, "profile:srgb", tac="much").status_code == 400
    grey = asked(client, "profile:grey", "profile:srgb").json()
    assert grey["bodies"][0]["figures"] is None
    assert grey["pairs"] == []


def test_strangers_see_no_picture_and_no_condition_of_others(
    client, user, job, django_user_model, conditions
) -> None:
    stranger = APIClient()
    stranger.force_authenticate(django_user_model.objects.create_user("bo"))
    assert asked(stranger, f"picture:{job['id']}").status_code == 404
    assert asked(stranger, f"recipe:{job['destinations'][0]['id']}").status_code == 404
    own = conditions[0]
    own.pk, own.key, own.owner = None, "hers", user
    own.save()
    assert asked(client, f"condition:{own.pk}").status_code == 200
    assert asked(stranger, f"condition:{own.pk}").status_code == 404


def test_arrows_lead_from_what_lies_outside_to_what_prints(client, job, press) -> None:
    (cloud,) = asked(client, press, f"picture:{job['id']}", "profile:romm").json()["clouds"]
    out = [p for p, away in zip(cloud["points"], cloud["away"][0], strict=True) if away]
    assert len(cloud["nearest"][0]) == len(out) > 5
    assert cloud["nearest"][1] == []
    moved = np.array(cloud["nearest"][0]) - np.array(out)
    # To the nearest colour, chroma falls where the picture is too vivid.
    assert (
        np.hypot(*np.array(cloud["nearest"][0])[:, 1:].T).mean()
        < np.hypot(*np.array(out)[:, 1:].T).mean()
    )
    assert (np.abs(moved).max(axis=1) > 0).all()


def test_a_colour_is_found_where_it_is_in_the_picture(client, job) -> None:
    destination = job["destinations"][0]["id"]
    read = client.get(f"/api/destinations/{destination}/readout", {"x": 30, "y": 20}).json()
    l, a, b = read["aim_lab"]  # noqa: E741
    found = client.get("/api/gamuts/where", {"job": job["id"], "l": l, "a": a, "b": b}).json()
    assert (found["width"], found["height"]) == (120, 90)
    picture = np.asarray(Image.open(io.BytesIO(base64.b64decode(found["png"])))).astype(int)
    spread = np.ptp(picture, axis=2)
    assert spread[20, 30] > 20
    assert spread[80, 110] == 0
    assert 0 < found["share"] == pytest.approx((spread > 0).mean(), abs=0.02)
    wider = client.get(
        "/api/gamuts/where", {"job": job["id"], "l": l, "a": a, "b": b, "radius": 20}
    ).json()
    assert wider["share"] > found["share"]
    for wrong in ({"l": "x"}, {"l": 500}, {"radius": 0}, {"a": 201}, {"b": -201}):
        query = {"job": job["id"], "l": 50, "a": 0, "b": 0, **wrong}
        assert client.get("/api/gamuts/where", query).status_code == 400


def test_a_job_without_a_destination_has_no_colours_yet(client, job) -> None:
    Job.objects.get(pk=job["id"]).destinations.all().delete()
    query = {"job": job["id"], "l": 50, "a": 0, "b": 0}
    for refused in (
        client.get("/api/gamuts/where", query),
        asked(client, "profile:romm", f"picture:{job['id']}"),
    ):
        assert (refused.status_code, "no destination" in refused.json()["title"]) == (400, True)


def test_a_strangers_picture_is_not_looked_into(job, django_user_model) -> None:
    stranger = APIClient()
    stranger.force_authenticate(django_user_model.objects.create_user("eve", password="x"))
    query = {"job": job["id"], "l": 50, "a": 0, "b": 0}
    assert stranger.get("/api/gamuts/where", query).status_code == 404
