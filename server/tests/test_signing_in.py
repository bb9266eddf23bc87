"""Signing in: from here only, not by guessing; passwords, tokens and what browsers are told."""

from __future__ import annotations

import os
import subprocess
import sys
import threading
from datetime import timedelta

import pytest
from django.utils import timezone
from rest_framework.test import APIClient

from plinto_core.errors import BadInput
from plinto_server.apps.accounts import api, services
from plinto_server.apps.accounts.models import ScriptToken

RIGHT = {"username": "ada", "password": "correct horse"}
WRONG = {**RIGHT, "password": "x"}


@pytest.fixture
def browser(user) -> APIClient:
    """As a browser that has opened the page: it has the cookie and sends it back."""
    client = APIClient(enforce_csrf_checks=True)
    client.get("/api/session")
    client.credentials(HTTP_X_CSRFTOKEN=client.cookies["csrftoken"].value)
    return client


def sign_in(client: APIClient, given: dict = RIGHT, **extra):
    return client.post("/api/session", given, format="json", **extra)


def test_in_and_out(browser) -> None:
    assert browser.get("/api/session").json()["username"] is None
    wrong = sign_in(browser, WRONG)
    assert wrong.status_code == 403
    assert wrong.json()["title"] == "The name and the password do not match."
    assert sign_in(browser).json()["username"] == "ada"
    browser.credentials()
    assert browser.delete("/api/session").status_code == 403
    token = browser.cookies["csrftoken"].value
    assert browser.delete("/api/session", HTTP_X_CSRFTOKEN=token).status_code == 204
    assert browser.get("/api/jobs").status_code == 403


def test_another_site_signs_nobody_in(user, browser) -> None:
    assert sign_in(browser, HTTP_ORIGIN="https://elsewhere.example").status_code == 403
    assert sign_in(APIClient(enforce_csrf_checks=True)).status_code == 403
    first = {"username": "eve", "password": "quite long enough", "house": ""}
    assert APIClient(enforce_csrf_checks=True).post("/api/first-run", first).status_code == 403
    assert sign_in(browser, HTTP_ORIGIN="http://testserver").status_code == 200


def test_guessing_ends_after_six_tries_for_that_name_from_that_place(browser) -> None:
    codes = [sign_in(browser, WRONG).status_code for _ in range(7)]
    assert codes[:5] == [403] * 5
    assert codes[-1] == 429
    locked = sign_in(browser)
    assert (locked.status_code, locked.json()["code"]) == (429, "too-many-tries")
    assert locked.json()["remedy"]
    assert sign_in(browser, REMOTE_ADDR="10.0.0.7").status_code == 200, "not the person everywhere"


def test_a_new_password_unlocks(browser, user) -> None:
    for _ in range(7):
        sign_in(browser, WRONG)
    services.set_password(user, "a new one to remember")
    assert sign_in(browser, {**RIGHT, "password": "a new one to remember"}).status_code == 200


def test_hashing_takes_two_threads_at_most(browser, monkeypatch) -> None:
    monkeypatch.setattr(api, "_PATIENCE", 0.05)
    with api.hashing(), api.hashing():
        answer = sign_in(browser)
        assert (answer.status_code, answer.json()["title"]) == (
            503,
            "Too many are signing in just now.",
        )
    assert sign_in(browser).status_code == 200
    assert isinstance(api._HASHING, threading.BoundedSemaphore)


def test_a_password_is_changed_by_who_knows_the_present_one(browser, user) -> None:
    sign_in(browser)
    browser.credentials(HTTP_X_CSRFTOKEN=browser.cookies["csrftoken"].value)
    elsewhere = APIClient()
    elsewhere.force_login(user)

    def change(present: str, password: str):
        given = {"present": present, "password": password}
        return browser.post("/api/password", given, format="json")

    assert change("not that", "a new one to remember").status_code == 403
    assert change("correct horse", "12345678901").status_code == 400
    assert change("correct horse", "a new one to remember").status_code == 204
    assert browser.get("/api/jobs").status_code == 200, "who changed it stays"
    assert elsewhere.get("/api/jobs").status_code == 403, "other browsers do not"
    assert sign_in(browser).status_code == 403


def test_who_is_retired_comes_in_no_more_and_comes_back_by_a_new_password(browser, user) -> None:
    _, key = ScriptToken.make(user, 30)
    user.is_active = False
    user.save()
    assert script(key).get("/api/jobs").status_code == 403
    user.is_active = True
    user.save()
    signed_in = APIClient()
    signed_in.force_login(user)
    services.retire(user)
    assert signed_in.get("/api/jobs").status_code == 403
    assert sign_in(browser).status_code == 403
    assert script(key).get("/api/jobs").status_code == 403
    services.set_password(user, "a new one to remember")
    assert sign_in(browser, {**RIGHT, "password": "a new one to remember"}).status_code == 200
    assert script(key).get("/api/jobs").status_code == 403, "a former token stays void"
    with pytest.raises(BadInput, match="There is no account 'eve'"):
        services.account("eve")


def script(key: str) -> APIClient:
    client = APIClient()
    client.credentials(HTTP_AUTHORIZATION=f"Token {key}")
    return client


def test_a_token_is_shown_once_and_a_new_one_voids_it(client, user) -> None:
    nothing = {"exists": False, "created": None, "ends": None, "used": None, "key": None}
    assert client.get("/api/token").json() == nothing
    first = client.post("/api/token").json()["key"]
    assert client.get("/api/token").json()["key"] is None
    second = client.post("/api/token").json()["key"]
    assert script(first).get("/api/queue").status_code == 403
    assert script(second).get("/api/queue").status_code == 200
    assert client.get("/api/token").json()["used"] is not None
    assert client.delete("/api/token").status_code == 204
    assert script(second).get("/api/queue").status_code == 403


def test_of_a_token_nothing_is_kept_that_signs_in(client, user) -> None:
    key = client.post("/api/token").json()["key"]
    kept = ScriptToken.objects.get()
    assert key not in str(vars(kept))
    assert script(kept.digest).get("/api/queue").status_code == 403


def test_a_token_ends(client, user) -> None:
    made = client.post("/api/token", {"days": 30}, format="json").json()
    ends = timezone.datetime.fromisoformat(made["ends"])
    assert abs(ends - timezone.now() - timedelta(days=30)) < timedelta(minutes=1)
    ScriptToken.objects.update(ends=timezone.now())
    answer = script(made["key"]).get("/api/queue")
    assert (answer.status_code, answer.json()["title"]) == (
        403,
        "The token has ended; make a new one.",
    )
    assert client.post("/api/token", {"days": 0}, format="json").status_code == 400


def test_browsers_run_scripts_of_the_installation_only(client) -> None:
    answer = client.get("/api/session")
    rules = dict(r.split(" ", 1) for r in answer["Content-Security-Policy"].split("; "))
    assert rules["script-src"] == "'self'"
    assert rules["frame-ancestors"] == "'none'"
    assert rules["default-src"] == "'self'"
    assert answer["Referrer-Policy"] == "same-origin"
    assert answer["X-Content-Type-Options"] == "nosniff"


def test_the_database_and_the_store_are_nobody_else_s(tmp_path) -> None:
    data = tmp_path / "data"
    (data / "store").mkdir(parents=True, mode=0o755)
    subprocess.run(
        [sys.executable, "-m", "plinto_cli.main", "user", "list"],
        env={**os.environ, "PLINTO_DATA": str(data)},
        check=True,
    )
    for name in ("store", "working", "incoming", "plinto.sqlite3", "secret-key"):
        assert (data / name).stat().st_mode & 0o077 == 0, name
    assert data.stat().st_mode & 0o055, "watched folders lie beside them"
