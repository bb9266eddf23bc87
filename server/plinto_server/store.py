"""Content-addressed file store: files by SHA-256, written once, never changed."""

from __future__ import annotations

import hashlib
import os
import shutil
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import psutil
from django.conf import settings
from django.core.files.uploadedfile import UploadedFile

_CHUNK = 1 << 20


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
        with path.open("wb") as target:
            for chunk in file.chunks():
                target.write(chunk)
        yield path


def clear_lost_scratch() -> None:
    """Remove what processes of this host left behind that are no longer alive."""
    for own in (_root() / "scratch").glob("*-*"):
        process = own.name.split("-", 1)[0]
        if process.isdigit() and not psutil.pid_exists(int(process)):
            shutil.rmtree(own, ignore_errors=True)


def clear_scratch() -> None:
    """Remove what killed processes left half-written; called when the service starts."""
    shutil.rmtree(_root() / "scratch", ignore_errors=True)
