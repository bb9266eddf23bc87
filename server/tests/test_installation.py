"""A real installation: the first account, looks that are kept, health, hosts and proxies."""

from __future__ import annotations

import os
import subprocess
import sys
import time

import pytest
from django.conf import settings
from django.contrib.auth import get_user_model
from rest_framework.test import APIClient

from plinto_server import health
from plinto_server.apps.jobs.models import JobLook

FIRST = {"house": "Ternholm Press", "username": "ada", "password": "correct horse battery"}


@pytest.mark.django_db
def test_the_first_account_is_made_once_and_signs_in() -> None:
    client = APIClient()
    session = client.get("/api/session").json()
    assert (session["first_run"], session["house"], session["demo"]) == (True, "", None)
    made = client.post("/api/first-run", FIRST, format="json")
    assert made.status_code == 201
    assert made.json() | {} == {
        "username": "ada",
        "demo": None,
        "house": "Ternholm Press",
        "first_run": False,
    }
    assert client.get("/api/jobs").json() == []
    names = {p["description"] for p in client.get("/api/profiles").json()}
    assert {"sRGB", "opRGB", "ROMM RGB", "P3 D65"} <= names
    again = APIClient().post("/api/first-run", {**FIRST, "username": "eve"}, format="json")
    assert again.status_code == 409
    assert get_user_model().objects.count() == 1


@pytest.mark.django_db
@pytest.mark.parametrize(
    ("change", "said"),
    [
        ({"password": "short"}, "too short"),
        ({"password": "1234567890"}, "numeric"),
        ({"username": "a b"}, "username"),
        ({"username": ""}, "username"),
    ],
)
def test_a_first_account_that_is_none_is_refused(change, said) -> None:
    answer = APIClient().post("/api/first-run", {**FIRST, **change}, format="json")
    assert answer.status_code == 400
    assert said in answer.json()["title"]
    assert not get_user_model().objects.exists()


def beat(workers: int) -> None:
    health.beat("workers", str(workers))
    health.beat("folders")


@pytest.mark.django_db
def test_health_is_what_was_tried(settings) -> None:
    client = APIClient()
    beat(2)
    answer = client.get("/api/health")
    assert (answer.status_code, answer.json()["ok"]) == (200, True)
    beat(0)
    assert client.get("/api/health").json()["workers"]["ok"] is False
    for name in ("workers", "folders"):
        beat(1)
        heart = settings.DATA / health.HEARTS / name
        heart.write_text(f"{time.monotonic() - 60}\n1")
        answer = client.get("/api/health")
        assert answer.status_code == 503
        assert "silent for 60 s" in answer.json()[name]["text"]
        heart.unlink()
        assert "not been started" in client.get("/api/health").json()[name]["text"]


@pytest.mark.django_db
def test_health_notices_a_store_that_cannot_be_written_and_a_full_disk(monkeypatch) -> None:
    beat(1)
    client = APIClient()
    monkeypatch.setattr(health, "LEAST_ROOM", 1 << 62)
    assert client.get("/api/health").json()["room"]["ok"] is False
    monkeypatch.setattr(health, "LEAST_ROOM", 0)

    def full(*args, **options):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(health.store, "scratch", full)
    answer = client.get("/api/health")
    assert (answer.status_code, answer.json()["store"]["ok"]) == (503, False)
    assert "No space left" in answer.json()["store"]["text"]


@pytest.mark.django_db
@pytest.mark.parametrize("address", ["/api", "/api/", "/api/nothing/here"])
def test_unknown_addresses_of_the_api_are_problems(address) -> None:
    answer = APIClient().get(address)
    assert (answer.status_code, answer["Content-Type"]) == (404, "application/problem+json")


LOOK = {
    "plays": "paper", "veil_on": True, "veil": "#ff00ff", "ways": ["dark"], "map": "", "plates": ["K"], "grey": True,
    "display": "p3", "screen_veil_on": False, "break_up": 3, "layout": "moments", "arrangement": "split",
    "surround": "dark", "bar": True, "sheet": True,
}  # fmt: skip


def test_how_one_looks_is_kept_for_person_and_job(client, user, job) -> None:
    assert job["look"] is None
    address = f"/api/jobs/{job['id']}"
    assert client.put(f"{address}/look", LOOK, format="json").json() == LOOK
    assert client.get(address).json()["look"] == LOOK
    assert client.get("/api/jobs").json()[0]["look"] == LOOK
    client.put(f"{address}/look", {**LOOK, "plays": "colours"}, format="json")
    assert client.get(address).json()["look"]["plays"] == "colours"
    assert JobLook.objects.count() == 1


@pytest.mark.parametrize("bad", [{"plays": "white"}, {"veil": "red"}, {"ways": []}, {"ways": ["dull"]}, {"break_up": 99}, {"display": "grey"}, {"plates": ["K"] * 99}])  # fmt: skip
def test_a_look_that_shows_nothing_is_refused(client, job, bad) -> None:
    answer = client.put(f"/api/jobs/{job['id']}/look", {**LOOK, **bad}, format="json")
    assert answer.status_code == 400


def settled(**variables: str) -> dict[str, str]:
    code = (
        "from plinto_server.config import settings as s; import json; print(json.dumps({"
        "n: getattr(s, n, None) for n in ('ALLOWED_HOSTS', 'CSRF_TRUSTED_ORIGINS', 'SECRET_KEY',"
        "'SESSION_COOKIE_SECURE', 'SECURE_PROXY_SSL_HEADER')}))"
    )
    found = subprocess.run(
        [sys.executable, "-c", code], capture_output=True, text=True, check=True,
        env={**os.environ, "PLINTO_DATA": str(settings.DATA), **variables},
    )  # fmt: skip
    import json

    return json.loads(found.stdout)


def test_hosts_proxy_and_secret_come_from_variables() -> None:
    plain = settled()
    assert plain["SESSION_COOKIE_SECURE"] is None
    assert plain["SECRET_KEY"] == settled()["SECRET_KEY"]
    given = settled(
        PLINTO_HOSTS="colour.example, proof.example", PLINTO_TLS="1", PLINTO_SECRET_KEY="s"
    )
    assert given["ALLOWED_HOSTS"] == ["colour.example", "proof.example"]
    assert given["CSRF_TRUSTED_ORIGINS"] == ["https://colour.example", "https://proof.example"]
    assert given["SECURE_PROXY_SSL_HEADER"] == ["HTTP_X_FORWARDED_PROTO", "https"]
    assert (given["SESSION_COOKIE_SECURE"], given["SECRET_KEY"]) == (True, "s")


def test_a_house_that_knows_its_documents_lets_them_go_farther() -> None:
    code = (
        "import django; django.setup()\n"
        "from plinto_core.document.pdf.bounds import check_image\n"
        "check_image(20_000, 20_000, 3, 8)"
    )

    def ends(**variables: str) -> int:
        return subprocess.run(
            [sys.executable, "-c", code], capture_output=True, env={
                **os.environ, "PLINTO_DATA": str(settings.DATA),
                "DJANGO_SETTINGS_MODULE": "plinto_server.config.settings", **variables,
            },
        ).returncode  # fmt: skip

    assert [ends(), ends(PLINTO_DOCUMENT_TIMES="2"), ends(PLINTO_DOCUMENT_TIMES="0.1")] == [1, 0, 1]
