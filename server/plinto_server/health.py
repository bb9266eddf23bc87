"""Whether this installation works: what a monitor asks for, answered by trying."""

from __future__ import annotations

import shutil
import time
from pathlib import Path
from typing import Any

from django.conf import settings
from django.db import DatabaseError, connection
from django.http import HttpRequest, JsonResponse

from plinto_server import store

HEART = "workers.heart"
"""A file of the data folder that the watch over the workers writes: how many live."""
SILENT = 20.0
"""Seconds after which that watch counts as gone."""
LEAST_ROOM = 1 << 30
"""Bytes that must be free: a delivery writes its result before the copy in scratch is removed."""


def health(request: HttpRequest) -> JsonResponse:
    """GET /api/health: 200 where everything works, 503 where anything does not, with what it is."""
    parts = {"database": _database(), "store": _store(), "room": _room(), "workers": _workers()}
    well = all(part["ok"] for part in parts.values())
    response = JsonResponse({"ok": well, **parts}, status=200 if well else 503)
    response["Cache-Control"] = "no-store"
    return response


def beat(alive: int) -> None:
    """Note that `alive` workers were seen to live."""
    (Path(settings.DATA) / HEART).write_text(str(alive))


def _said(ok: bool, text: str) -> dict[str, Any]:
    return {"ok": ok, "text": text}


def _database() -> dict[str, Any]:
    try:
        with connection.cursor() as cursor:
            cursor.execute("SELECT COUNT(*) FROM django_migrations")
    except DatabaseError as error:
        return _said(False, f"The database does not answer: {type(error).__name__}.")
    return _said(True, "The database answers.")


def _store() -> dict[str, Any]:
    try:
        with store.scratch() as path:
            path.write_bytes(b"health")
    except OSError as error:
        return _said(False, f"The store of files cannot be written: {error.strerror}.")
    return _said(True, "The store of files can be written.")


def _room() -> dict[str, Any]:
    free = shutil.disk_usage(settings.DATA).free
    return _said(free >= LEAST_ROOM, f"{free / 1e9:.1f} GB are free.")


def _workers() -> dict[str, Any]:
    path = Path(settings.DATA) / HEART
    try:
        silent = time.time() - path.stat().st_mtime
        alive = int(path.read_text() or 0)
    except (OSError, ValueError):
        return _said(False, "No worker has been started here.")
    if silent > SILENT:
        return _said(False, f"The watch over the workers has been silent for {silent:.0f} s.")
    return _said(alive > 0, f"{alive} {'worker lives' if alive == 1 else 'workers live'}.")
