"""Content-addressed file store: files by SHA-256, written once, never changed."""

from __future__ import annotations

import hashlib
import os
import shutil
import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from pathlib import Path

import psutil
from django.conf import settings
from django.core.files.uploadedfile import UploadedFile

from plinto_core.disk import ask_room

_CHUNK = 1 << 20
_UPLOAD_TAKES = 86_400.0
"""Seconds after which a file that still comes in is given up."""


def _root() -> Path:
    return Path(settings.DATA) / "store"


def path_of(digest: str) -> Path:
    """Where a file with this SHA-256 lies or would lie."""
    if len(digest) != 64 or any(c not in "0123456789abcdef" for c in digest):
        raise ValueError("not a SHA-256")
    return _root() / digest[:2] / digest


def digest_of(path: Path) -> str:
    """SHA-256 of a file."""
    sha = hashlib.sha256()
    with path.open("rb") as file:
        while chunk := file.read(_CHUNK):
            sha.update(chunk)
    return sha.hexdigest()


def put_bytes(data: bytes) -> str:
    """Store bytes; returns their SHA-256."""
    with scratch() as path:
        path.write_bytes(data)
        return put_file(path)


def put_file(path: Path) -> str:
    """Move a finished file of the scratch folder into the store; returns its SHA-256."""
    digest = digest_of(path)
    target = path_of(digest)
    target.parent.mkdir(parents=True, exist_ok=True)
    if target.exists():
        path.unlink()
    else:
        os.replace(path, target)
        target.chmod(0o444)
    return digest


@contextmanager
def scratch(suffix: str = "") -> Iterator[Path]:
    """A path beside the store to write to; whatever still lies there is removed afterwards."""
    folder = _root() / "scratch"
    folder.mkdir(parents=True, exist_ok=True)
    own = Path(tempfile.mkdtemp(prefix=f"{os.getpid()}-", dir=folder))
    try:
        yield own / f"file{suffix}"
    finally:
        shutil.rmtree(own, ignore_errors=True)


@contextmanager
def received(file: UploadedFile) -> Iterator[Path]:
    """An uploaded file in the scratch folder, under the ending of its name."""
    with scratch(Path(file.name or "").suffix.lower()[:8]) as path:
        ask_room(path.parent, file.size or 0)
        with path.open("wb") as target:
            for chunk in file.chunks():
                target.write(chunk)
        yield path


@contextmanager
def making(target: Path) -> Iterator[Path]:
    """A folder that takes its place at `target` when it is complete; another's that came first stays."""
    folder = _making()
    folder.mkdir(parents=True, exist_ok=True)
    own = Path(tempfile.mkdtemp(prefix=f"{os.getpid()}-", dir=folder))
    try:
        yield own
        target.parent.mkdir(parents=True, exist_ok=True)
        try:
            own.rename(target)
        except OSError:
            if not target.exists():
                raise
    finally:
        shutil.rmtree(own, ignore_errors=True)


def _making() -> Path:
    return Path(settings.DATA) / "working" / "making"


def clear_lost_scratch() -> None:
    """Remove what processes of this host left behind that are no longer alive, and uploads of yesterday."""
    for own in [*(_root() / "scratch").glob("*-*"), *_making().glob("*-*")]:
        process = own.name.split("-", 1)[0]
        if process.isdigit() and not psutil.pid_exists(int(process)):
            shutil.rmtree(own, ignore_errors=True)
    for upload in _incoming():
        with suppress(OSError):
            if time.time() - upload.stat().st_mtime > _UPLOAD_TAKES:
                upload.unlink()


def clear_scratch() -> None:
    """Remove what killed processes left half-written; called when the service starts."""
    shutil.rmtree(_root() / "scratch", ignore_errors=True)
    shutil.rmtree(_making(), ignore_errors=True)


def make_private() -> None:
    """Let nobody but who runs the server read the database and the files; the watched folders, which lie
    beside them, stay as they are. Called before the database is made."""
    data = Path(settings.DATA)
    (data / "plinto.sqlite3").touch()
    for name in ("store", "working", "incoming"):
        (data / name).mkdir(exist_ok=True)
        (data / name).chmod(0o700)
    for path in data.glob("plinto.sqlite3*"):
        path.chmod(0o600)


def clear_incoming() -> None:
    """Remove uploads that a former web server did not get to its end."""
    for upload in _incoming():
        with suppress(OSError):
            upload.unlink()


def _incoming() -> Iterator[Path]:
    return Path(settings.FILE_UPLOAD_TEMP_DIR).glob("*.upload*")
