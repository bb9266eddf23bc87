from __future__ import annotations

import io
from pathlib import Path

import numpy as np
import pytest
import tifffile
from django.conf import settings
from PIL import Image

from plinto_server import store
from plinto_server.apps.artwork import working_copy
from uploading import upload


def files_in_store() -> set[str]:
    return {p.name for p in (Path(settings.DATA) / "store").rglob("*") if p.is_file()}


def test_import_tells_the_facts_and_keeps_the_original(client, picture_bytes) -> None:
    made = upload(client, picture_bytes)
    assert made.status_code == 201
    data = made.json()
    assert data["name"] == "Night sky"
    facts = data["facts"]
    assert (facts["width"], facts["height"], facts["bits"], facts["space"]) == (120, 90, 16, "RGB")
    assert facts["profile"] == "opRGB"
    assert facts["print_size_mm"] == pytest.approx([10.2, 7.6], abs=0.1)
    assert store.path_of(data["sha256"]).read_bytes() == picture_bytes


@pytest.mark.parametrize(
    "name", ["x.tif", "x.png", "x.jpg", "../../etc/passwd", "ä ö.tiff", "." * 30]
)
def test_damaged_files_are_refused_and_leave_nothing(client, picture_bytes, name) -> None:
    before = files_in_store()
    answer = upload(client, picture_bytes[: len(picture_bytes) // 2], name)
    assert answer.status_code == 400
    assert answer["Content-Type"] == "application/problem+json"
    assert answer.json()["title"].endswith(".")
    assert answer.json()["remedy"]
    assert files_in_store() == before


def test_wrong_requests_are_problems_not_failures(client) -> None:
    assert client.post("/api/artwork", {}, format="multipart").status_code == 400
    assert client.post("/api/artwork", {"file": "text"}, format="multipart").status_code == 400
    assert client.post("/api/artwork", b"{", content_type="application/json").status_code == 415


def test_broken_embedded_profile_is_told_not_fatal(client) -> None:
    buffer = io.BytesIO()
    tifffile.imwrite(
        buffer, np.zeros((9, 9, 3), np.uint8), photometric="rgb", iccprofile=b"junk" * 50
    )
    facts = upload(client, buffer.getvalue()).json()["facts"]
    assert facts["profile"] is None
    assert "cannot be used" in facts["profile_problem"]


@pytest.mark.parametrize("mode", ["L", "RGBA", "CMYK"])
def test_other_spaces_have_thumbnails(client, conditions, mode) -> None:
    buffer = io.BytesIO()
    Image.new(mode, (50, 40)).save(buffer, "JPEG" if mode == "CMYK" else "PNG")
    made = upload(client, buffer.getvalue(), "a.png").json()
    answer = client.get(f"/api/artwork/{made['id']}/thumbnail.png")
    assert answer.status_code == 200
    assert Image.open(io.BytesIO(answer.content)).size == (50, 40)


def test_artwork_is_private(client, picture_bytes, django_user_model) -> None:
    made = upload(client, picture_bytes).json()
    client.force_authenticate(django_user_model.objects.create_user("eve"))
    assert client.get("/api/artwork").json() == []
    assert client.get(f"/api/artwork/{made['id']}/thumbnail.png").status_code == 404


def test_working_copy_levels_are_means_and_regions_match(client) -> None:
    rng = np.random.default_rng(1)
    data = rng.integers(0, 256, (1600, 2000, 3)).astype(np.uint8)
    buffer = io.BytesIO()
    tifffile.imwrite(buffer, data, photometric="rgb")
    digest = upload(client, buffer.getvalue()).json()["sha256"]
    full, half = working_copy.levels(digest)[:2]
    assert np.array_equal(full, data)
    mean = data.reshape(800, 2, 1000, 2, 3).mean(axis=(1, 3))
    assert np.abs(half - mean).max() <= 0.51
    exact = working_copy.region(digest, (100.0, 200.0, 64.0, 48.0), 64, 48)
    assert np.array_equal(exact, data[200:248, 100:164])


@pytest.mark.parametrize(
    ("wide", "high", "edge", "found"),
    [
        (200, 40, 50, (10, 50)),
        (40, 200, 50, (50, 10)),
        (40, 30, 500, (30, 40)),
        (300, 2, 30, (1, 30)),
    ],
)
def test_the_longer_edge_is_reduced(monkeypatch, wide, high, edge, found) -> None:
    monkeypatch.setattr(
        working_copy, "levels", lambda digest: [np.zeros((high, wide, 3), np.uint8)]
    )
    assert working_copy.reduced("any", edge).shape == (*found, 3)


@pytest.mark.parametrize(("times", "level"), [(0.5, 0), (1.6, 0), (1.75, 1), (3.3, 1), (3.5, 2)])
def test_regions_are_read_from_the_level_that_is_nearest_above(monkeypatch, times, level) -> None:
    """The next smaller level is taken from 2 ** -0.25 of its own scale on."""
    chain = [np.full((1024 >> i, 1024 >> i, 3), i, np.uint8) for i in range(4)]
    monkeypatch.setattr(working_copy, "levels", lambda digest: chain)
    edge = 100 * times
    assert (working_copy.region("any", (0.0, 0.0, edge, edge), 100, 100) == level).all()
