"""A server with its own data folder, one small condition and a signed-in client."""

from __future__ import annotations

import io
from collections.abc import Iterator
from datetime import date
from pathlib import Path

import numpy as np
import pytest
import tifffile
from django.contrib.auth import get_user_model
from django.db import connection
from django.test import override_settings
from rest_framework.test import APIClient

from plinto_core.characterise import BuildSettings, build_profile
from plinto_core.colorimetry.spectra import reflectance_to_XYZ
from plinto_core.inks.rules import parse_ink_rules
from plinto_core.measurement import cmyk_chart
from plinto_core.measurement.characterisation import Characterisation
from plinto_core.simulator import CONDITIONS, measure_chart
from plinto_core.transform.standard_spaces import standard_profile
from uploading import upload


@pytest.fixture(scope="session", autouse=True)
def _data_of_their_own(tmp_path_factory: pytest.TempPathFactory) -> Iterator[None]:
    """Tests never touch the data folder of the application."""
    data: Path = tmp_path_factory.mktemp("data")
    (data / "incoming").mkdir()
    with override_settings(
        DATA=data, FILE_UPLOAD_TEMP_DIR=str(data / "incoming"), FOLDERS=data / "folders"
    ):
        yield


@pytest.fixture(scope="session")
def profile_bytes() -> dict[str, bytes]:
    found = {}
    for condition in (CONDITIONS[0], CONDITIONS[2]):
        chart = cmyk_chart()
        xyz = reflectance_to_XYZ(measure_chart(condition.model, chart))
        rules = parse_ink_rules(condition.rules)
        settings = BuildSettings(size="small", description=condition.name, built=date(2026, 1, 1))
        found[condition.key] = build_profile(Characterisation(chart, xyz), rules, settings).data
    return found


@pytest.fixture(scope="session")
def django_db_setup(django_db_setup, django_db_blocker) -> None:
    """Rows of every table begin at numbers of their own, so that nothing passes by taking one table's row
    for another's, or by counting on the first row's being 1."""
    with django_db_blocker.unblock(), connection.cursor() as cursor:
        cursor.execute("SELECT name FROM sqlite_master WHERE sql LIKE '%AUTOINCREMENT%' ORDER BY 1")
        for i, (table,) in enumerate(cursor.fetchall()):
            # 137: more rows than any test makes; tables filled by migrations keep theirs
            cursor.execute("DELETE FROM sqlite_sequence WHERE name = %s", [table])
            first = 1000 + 137 * i
            cursor.execute(
                "INSERT INTO sqlite_sequence (name, seq) VALUES (%s, %s)", [table, first]
            )


@pytest.fixture(autouse=True)
def _no_heartbeats(monkeypatch) -> None:
    """Work that runs inside a test's transaction holds the database: a heart that beats from another
    thread would wait for it as long as the database lets it, and the test with it."""
    monkeypatch.setattr("plinto_server.apps.work.running.BEAT", float("inf"))


@pytest.fixture(autouse=True)
def _quick_passwords(settings) -> None:
    """Hashing made to be slow is not what these tests are about."""
    settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]


@pytest.fixture
def conditions(db, profile_bytes):
    from plinto_server.apps.conditions.models import PrintingCondition
    from plinto_server.apps.profiles.services import add_standard_profiles, store_profile

    add_standard_profiles()
    by_key = {c.key: c for c in CONDITIONS}
    return [
        PrintingCondition.objects.create(
            key=key, name=by_key[key].name, printer="-", medium="-",
            profile=store_profile(data, "shipped"), ink_rules=by_key[key].rules,
        )
        for key, data in profile_bytes.items()
    ]  # fmt: skip


@pytest.fixture
def user(db):
    return get_user_model().objects.create_user("ada", password="correct horse")


@pytest.fixture
def client(user) -> APIClient:
    client = APIClient()
    client.force_authenticate(user)
    return client


@pytest.fixture
def picture_bytes() -> bytes:
    y, x = np.mgrid[0:90, 0:120]
    data = np.stack([x * 540, y * 720, 65535 - x * 500], axis=-1).astype(np.uint16)
    buffer = io.BytesIO()
    tifffile.imwrite(
        buffer,
        data,
        photometric="rgb",
        iccprofile=standard_profile("oprgb").data,
        resolution=(300, 300),
    )
    return buffer.getvalue()


@pytest.fixture
def job(client, conditions, picture_bytes):
    artwork = upload(client, picture_bytes).json()
    body = {"artwork": artwork["id"], "conditions": [c.pk for c in conditions]}
    return client.post("/api/jobs", body, format="json").json()


TYPED = "Name,L,a,b\nbrick,50,45,35\nleaf,45,-40,35\nnight,8,5,-20\npaper,95,0,0\n"


@pytest.fixture
def typed(client) -> dict:
    answer = client.post("/api/swatch-lists", {"text": TYPED, "name": "Mine"}, format="json")
    assert answer.status_code == 201, answer.content
    return answer.json()
