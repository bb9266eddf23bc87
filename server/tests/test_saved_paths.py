"""Paths saved as tables and used: in jobs, in policies, by whom; ink rules as a step."""

from __future__ import annotations

import io
import zipfile

import numpy as np
import pytest
from rest_framework.test import APIClient

from pathing import followed, path
from plinto_server.apps.conditions.models import PrintingCondition


def kept_link(client, conditions, **options):
    steps = path("profile:oprgb", f"condition:{conditions[0].pk}")
    body = {"path": steps, "options": {"kind": "link", **options}}
    return client.post("/api/colour-paths/saved", body, format="json")


def test_a_saved_path_is_in_the_library_and_converts_a_job(client, job, conditions) -> None:
    made = kept_link(client, conditions, tac=200)
    assert made.status_code == 201, made.content
    saved = made.json()
    assert saved["name"] == "opRGB to Sheetfed coated"
    assert saved["report"]["unit"] == "dE00"
    assert saved["report"]["tac"] <= 200.1
    listed = client.get(f"/api/profiles/{saved['profile']}").json()
    assert (listed["device_class"], listed["origin"]) == ("device link", "saved")
    assert (listed["colour_space"], listed["facts"]["gives"]) == ("RGB", "CMYK")
    trip = client.get(f"/api/jobs/{job['id']}/round-trip", {"profile": saved["profile"]})
    assert trip.status_code == 400
    assert "Nothing can come back" in trip.json()["title"]
    destination = job["destinations"][0]["id"]
    address = f"/api/destinations/{destination}"
    before = client.get(f"{address}/view.png").content
    done = client.patch(address, {"link": listed["sha256"], "ink_rules": None}, format="json")
    assert done.status_code == 200, done.content
    assert done.json()["recipe"]["link"] == listed["sha256"]
    assert client.get(f"{address}/view.png").content != before
    figures = client.get(f"{address}/inks").json()
    assert figures["tac_max"] <= 200.5
    for wrong in (
        {"ink_rules": {"tac": 300}}, {"link": "f" * 64}, {"link": "srgb"}, {"link": conditions[0].profile.sha256},
    ):  # fmt: skip
        assert client.patch(address, wrong, format="json").status_code == 400, wrong
    package = client.get(f"{address}/package")
    names = zipfile.ZipFile(io.BytesIO(package.content)).namelist()
    assert f"{listed['sha256']}.icc" in names
    followed_by_link = path(f"profile:{listed['sha256']}")
    rows = followed(
        client,
        path("profile:oprgb", f"profile:{listed['sha256']}", f"condition:{conditions[0].pk}"),
        job=job["id"],
        first=0,
        second=1,
    )
    assert rows.status_code == 200, rows.content
    assert rows.json()["steps"][1]["columns"] == ["C", "M", "Y", "K"]
    assert followed(client, followed_by_link, job=job["id"]).status_code == 200


def test_other_kinds_are_saved_where_the_ends_allow(client, conditions) -> None:
    def save(steps, **options):
        body = {"path": steps, "options": options}
        return client.post("/api/colour-paths/saved", body, format="json")

    cube = save(path("profile:srgb", "profile:p3"), kind="cube", grid=17, title="Wide").json()
    assert cube["profile"] is None
    text = client.get(f"/api/tables/{cube['table']}/file")
    assert b"LUT_3D_SIZE 17" in b"".join(text.streaming_content)
    press = f"condition:{conditions[0].pk}"
    assert save(path("lab:", press, "lab:"), kind="abstract").status_code == 201
    assert save(path("profile:srgb", press), kind="baked").status_code == 201
    for steps, options in (
        (path("profile:srgb", press), {"kind": "abstract"}), (path("profile:srgb", press), {"kind": "cube"}),
        (path("profile:srgb", press), {"kind": "link", "grid": 18}), (path("profile:srgb", press), {"kind": "link", "tac": 20}),
        (path("profile:srgb", press), {"kind": "x"}), (path("profile:srgb", press), {"keep_black": True}), ({"steps": []}, {}),
    ):  # fmt: skip
        assert save(steps, **options).status_code == 400, options
    assert client.post("/api/colour-paths/saved", {"path": {}}, format="json").status_code == 400


def test_a_link_of_others_converts_nothing(client, conditions, job, django_user_model) -> None:
    stranger = APIClient()
    stranger.force_authenticate(django_user_model.objects.create_user("eve"))
    theirs = kept_link(stranger, conditions).json()["profile"]
    sha = stranger.get(f"/api/profiles/{theirs}").json()["sha256"]
    address = f"/api/destinations/{job['destinations'][0]['id']}"
    assert client.patch(address, {"link": sha}, format="json").status_code == 400


def test_a_policy_may_convert_by_ones_own_links_only(client, conditions, django_user_model) -> None:
    template = client.get(
        "/api/policies/templates/bare-cmyk", {"condition": conditions[0].pk}
    ).json()

    def answer(sha: str):
        rules = [{"space": "RGB", "action": "convert", "link": sha}]
        return client.post("/api/policies", {**template, "rules": rules}, format="json")

    own = client.get(f"/api/profiles/{kept_link(client, conditions).json()['profile']}").json()
    assert answer(own["sha256"]).status_code == 201
    stranger = APIClient()
    stranger.force_authenticate(django_user_model.objects.create_user("eve"))
    theirs = kept_link(stranger, conditions, grid=17).json()["profile"]
    sha = stranger.get(f"/api/profiles/{theirs}").json()["sha256"]
    assert answer(sha).status_code == 400


def test_named_ink_rules_are_a_step_and_their_saving_is_said(
    client, conditions, profile_bytes
) -> None:
    rules = {
        "name": "Much black",
        "tac": 260,
        "black": {"method": "gcr", "strength": 90, "start": 5},
    }
    kept = client.post("/api/ink-rules", rules, format="json").json()
    press = conditions[0]
    chart = {"kind": "chart", "profile": press.profile.sha256, "count": 4}
    made = client.post("/api/swatch-lists/ready", chart, format="json").json()
    steps = path(f"condition:{press.pk}", f"inks:{press.pk}/{kept['id']}")
    named = {"name": "Anew", **path(f"inks:{press.pk}/{kept['id']}")}
    assert client.post("/api/colour-paths", named, format="json").status_code == 201
    for condition in PrintingCondition.objects.all()[:3]:
        leans = [u["name"] for u in client.get(f"/api/conditions/{condition.pk}/uses").json()]
        assert ("Anew" in leans) == (condition.pk == press.pk)
    found = followed(client, steps, list=made["id"], first=0, second=1).json()
    assert found["steps"][1]["name"] == "Sheetfed coated by Much black"
    ink = found["ink"]
    assert ink["first_most"] == 400
    assert ink["second_most"] <= 260.1
    totals = [
        sum(r["values"][0])
        for r in followed(client, steps, list=made["id"], count=256).json()["rows"]
    ]
    assert ink["first_mean"] == pytest.approx(np.mean(totals), abs=0.1)
    assert ink["saved"] == pytest.approx(1 - ink["second_mean"] / ink["first_mean"], abs=1e-3)
    assert ink["saved"] > 0.05
    # RGB has no ink to save.
    rgb = followed(
        client, path("lab:", f"condition:{press.pk}"), list=made["id"], first=0, second=1
    )
    assert rgb.status_code == 400
    options = {"kind": "link", "keep_black": True}
    saved = client.post(
        "/api/colour-paths/saved", {"path": steps, "options": options}, format="json"
    )
    assert saved.json()["report"]["tac"] <= 260.5
    kept_path = client.post("/api/colour-paths", {"name": "Saving", **steps}, format="json")
    assert kept_path.status_code == 201
    # Changed rules are other inks.
    client.post("/api/ink-rules", {**rules, "tac": 220}, format="json")
    again = followed(client, steps, list=made["id"], first=0, second=1).json()
    assert again["ink"]["second_most"] <= 220.1
    # Retired rules go on in paths that lean on them.
    client.delete(f"/api/ink-rules/{kept['id']}")
    assert followed(client, steps, list=made["id"]).status_code == 200
    for wrong in (
        f"inks:{press.pk}",
        f"inks:{press.pk}/9999",
        f"inks:9999/{kept['id']}",
        "inks:x/y",
    ):
        assert followed(client, path(wrong), list=made["id"]).status_code == 400


def test_ink_rules_of_others_are_no_step(client, conditions, django_user_model) -> None:
    stranger = APIClient()
    stranger.force_authenticate(django_user_model.objects.create_user("eve"))
    theirs = stranger.post("/api/ink-rules", {"name": "Hers", "tac": 200}, format="json").json()
    steps = {"name": "x", **path(f"inks:{conditions[0].pk}/{theirs['id']}")}
    assert client.post("/api/colour-paths", steps, format="json").status_code == 400
    assert stranger.post("/api/colour-paths", steps, format="json").status_code == 201
