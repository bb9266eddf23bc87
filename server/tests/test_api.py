"""The API as a whole: session, description, problems, the web application's addresses."""

from __future__ import annotations

import json
from pathlib import Path

import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from drf_spectacular.generators import SchemaGenerator
from rest_framework.test import APIClient

SNAPSHOT = Path(__file__).parents[1] / "openapi.json"


def test_openapi_snapshot_is_current() -> None:
    """After a wanted change: django-admin spectacular --format openapi-json --file server/openapi.json"""
    schema = SchemaGenerator().get_schema(request=None, public=True)
    assert json.loads(json.dumps(schema)) == json.loads(SNAPSHOT.read_text())


def test_demo_account_is_shown_only_where_it_exists(client, db, django_user_model) -> None:
    anonymous = APIClient()
    assert anonymous.get("/api/session").json()["demo"] is None
    django_user_model.objects.create_user("demo")
    assert anonymous.get("/api/session").json()["demo"]["username"] == "demo"


def test_unknown_addresses_and_methods_are_problems(client) -> None:
    answer = client.get("/api/nothing")
    assert answer.status_code == 404
    assert answer["Content-Type"] == "application/problem+json"
    assert client.delete("/api/conditions").status_code == 405
    assert client.get("/api/jobs/99999999999999999999").status_code == 404


def test_profiles_are_listed_uploaded_and_downloaded(client, conditions, profile_bytes) -> None:
    names = [p["description"] for p in client.get("/api/profiles").json()]
    assert {"sRGB", "ROMM RGB", "Sheetfed coated"} <= set(names)
    file = SimpleUploadedFile("a.icc", profile_bytes["newsprint"])
    made = client.post("/api/profiles", {"file": file}, format="multipart").json()
    answer = client.get(f"/api/profiles/{made['id']}/file")
    assert b"".join(answer.streaming_content) == profile_bytes["newsprint"]
    junk = SimpleUploadedFile("a.icc", b"junk" * 99)
    refused = client.post("/api/profiles", {"file": junk}, format="multipart")
    assert refused.status_code == 400
    assert "not an ICC profile" in refused.json()["title"]


def test_conditions_tell_their_rules(client, conditions) -> None:
    first = client.get("/api/conditions").json()[0]
    assert first["ink_rules"]["tac"] == 320
    assert first["profile"]["colour_space"] == "CMYK"


@pytest.mark.django_db
def test_deep_links_answer_with_the_application(settings, tmp_path) -> None:
    (tmp_path / "index.html").write_text("<title>Plinto</title>")
    settings.WEB_DIST = tmp_path
    answer = APIClient().get("/jobs/3/4/inks")
    assert b"Plinto" in b"".join(answer.streaming_content)


def test_methods_are_listed_by_title_with_the_overview_first(client) -> None:
    found = client.get("/api/methods").json()
    assert found[0]["name"] == "README"
    assert [m["title"] for m in found[1:]] == sorted(m["title"] for m in found[1:])
    assert len(found) > 10
    assert all(set(m) == {"name", "title", "text"} and m["text"].startswith("#") for m in found)
