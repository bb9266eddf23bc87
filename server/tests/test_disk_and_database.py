"""A full or closed disk and a held database: a sentence, a status that says what to do, nothing left behind."""

from __future__ import annotations

import errno
import os
import subprocess
import sys
import threading
from pathlib import Path

import numpy as np
import pytest
import tifffile
from django.db import OperationalError
from rest_framework.test import APIClient

from plinto_core import disk
from plinto_core.errors import NoRoom
from plinto_core.imaging import open_picture
from plinto_core.imaging.arrival import ArrivalCheck
from plinto_server import errors, store
from plinto_server.apps.artwork import services, working_copy
from plinto_server.apps.artwork.models import Artwork


@pytest.fixture
def picture(tmp_path) -> Path:
    path = tmp_path / "p.tif"
    noise = np.random.default_rng(list(str(tmp_path).encode())).integers(
        0, 255, (1601, 1503, 3), dtype=np.uint8
    )
    tifffile.imwrite(path, noise, photometric="rgb")
    return path


def sent(client: APIClient, path: Path):
    with path.open("rb") as file:
        return client.post("/api/artwork", {"file": file})


def leftovers(data: Path) -> list[Path]:
    places = ("store/scratch", "working/making", "incoming")
    return [p for place in places for p in (data / place).glob("*")]


FULL, CLOSED = OSError(errno.ENOSPC, "No space left"), OSError(errno.EROFS, "Read-only file system")


@pytest.mark.parametrize(
    ("error", "status", "code"),
    [
        (FULL, 507, "no-room"),
        (OSError(errno.EDQUOT, "Disk quota exceeded"), 507, "no-room"),
        (CLOSED, 503, "not-writable"),
        (OperationalError("database or disk is full"), 507, "no-room"),
        (OperationalError("attempt to write a readonly database"), 503, "not-writable"),
        (OperationalError("database is locked"), 503, "busy"),
        (OSError(errno.EIO, "Input/output error"), 500, "unexpected"),
        (OperationalError("no such table: x"), 500, "unexpected"),
    ],
)
def test_what_the_disk_and_the_database_say_is_answered(
    client, picture, monkeypatch, settings, error, status, code
) -> None:
    def fails(*given, **named):
        raise error

    monkeypatch.setattr(services.Artwork.objects, "create", fails)
    answer = sent(client, picture)
    assert (answer.status_code, answer.json()["code"]) == (status, code)
    assert bool(answer.json()["remedy"])
    assert answer.has_header("Retry-After") == (code == "busy")
    assert leftovers(settings.DATA) == []
    assert not Artwork.objects.exists()


@pytest.mark.parametrize(("error", "status"), [(FULL, 507), (RuntimeError("x"), 500)])
def test_what_fails_outside_of_a_view_is_answered_too(client, monkeypatch, error, status) -> None:
    def fails(self, request):
        raise error

    monkeypatch.setattr("django.middleware.common.CommonMiddleware.process_request", fails)
    client.raise_request_exception = False
    answer = client.get("/api/jobs")
    assert answer.status_code == status
    assert answer["Content-Type"] == errors.CONTENT_TYPE


def test_room_is_asked_for_before_a_picture_is_decoded(client, picture, monkeypatch) -> None:
    """Full size and halvings of 1601 x 1503 x 3 bytes take 9.6 MB beside what stays free."""
    monkeypatch.setattr(
        disk.shutil, "disk_usage", lambda path: type("Usage", (), {"free": 13_000_000})()
    )
    monkeypatch.setattr(working_copy, "write_npy", None)
    answer = sent(client, picture)
    assert answer.status_code == 507
    assert answer.json()["title"] == (
        "There is not enough room: 10 MB are needed and 9 MB can be used."
    )
    assert not Artwork.objects.exists()


def test_a_disk_that_fills_while_it_is_decoded_leaves_nothing(
    picture, monkeypatch, settings
) -> None:
    """Written through the file: a mapped one would end the process by a signal."""
    real, written = disk.write_bands, []

    def fills(file, bands, dtype):
        written.append(file.name)
        if len(written) > 1:
            raise FULL
        real(file, bands, dtype)

    monkeypatch.setattr(disk, "write_bands", fills)
    with open_picture(picture) as opened, pytest.raises(OSError, match="No space"):
        working_copy.make("a" * 64, opened, ArrivalCheck(opened.facts))
    assert not working_copy.folder_of("a" * 64).exists()
    assert leftovers(settings.DATA) == []


def test_levels_are_the_means_of_four(picture) -> None:
    with open_picture(picture) as opened:
        working_copy.make("b" * 64, opened, ArrivalCheck(opened.facts))
    full, half = working_copy.levels("b" * 64)
    assert (full.shape, half.shape) == ((1601, 1503, 3), (800, 751, 3))
    assert np.array_equal(full, tifffile.imread(picture))
    block = full[1598:1600, 1500:1502].astype(int).sum(axis=(0, 1))
    assert np.array_equal(half[799, 750], (block + 2) // 4)


def test_the_same_picture_is_taken_in_by_two_at_once(picture) -> None:
    digest, failed = "c" * 64, []
    gate = threading.Barrier(2)

    def take() -> None:
        try:
            with open_picture(picture) as opened:
                gate.wait()
                working_copy.make(digest, opened, ArrivalCheck(opened.facts))
        except Exception as error:  # noqa: BLE001  told by the thread that waits
            failed.append(error)

    threads = [threading.Thread(target=take) for _ in range(2)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert failed == []
    assert working_copy.levels(digest)[0].shape == (1601, 1503, 3)


def test_what_dead_processes_left_half_made_is_swept(settings) -> None:
    dead = subprocess.Popen([sys.executable, "-c", ""])
    dead.wait()
    making = settings.DATA / "working" / "making"
    making.mkdir(parents=True, exist_ok=True)
    theirs, mine = making / f"{dead.pid}-x", making / f"{os.getpid()}-x"
    theirs.mkdir()
    mine.mkdir()
    old, new = (Path(settings.FILE_UPLOAD_TEMP_DIR) / f"{n}.upload.tif" for n in "ab")
    for upload in (old, new):
        upload.write_bytes(b"x")
    os.utime(old, (0, 0))
    store.clear_lost_scratch()
    assert not theirs.exists()
    assert mine.exists()
    assert not old.exists()
    assert new.exists()
    store.clear_incoming()
    assert not new.exists()
    mine.rmdir()


def test_what_is_spooled_asks_for_room_first(tmp_path, monkeypatch) -> None:
    from plinto_core.imaging.spool import spooled

    bands = [np.full((2, 4, 3), i, np.uint8) for i in range(3)]
    with spooled(iter(bands), (6, 4, 3), np.uint8, tmp_path) as whole:
        assert np.array_equal(whole[:, 0, 0], [0, 0, 1, 1, 2, 2])
    monkeypatch.setattr(
        disk.shutil, "disk_usage", lambda path: type("Usage", (), {"free": disk.KEPT_FREE + 71})()
    )
    with pytest.raises(NoRoom), spooled(iter(bands), (6, 4, 3), np.uint8, tmp_path):
        pass
