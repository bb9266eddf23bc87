"""Whether this installation works: what a monitor asks for, answered by trying."""

from __future__ import annotations

import os
import shutil
import time
from contextlib import suppress
from pathlib import Path
from typing import Any

from django.conf import settings
from django.db import DatabaseError, connection
from django.http import HttpRequest, JsonResponse

from plinto_server import store

HEARTS = "hearts"
"""A folder of the data folder with a file for each thing that must go on for as long as it is served: when it
last beat, by the clock of the machine that never jumps, and what it says."""
WATCHED = {"workers": "the watch over the workers", "folders": "the watch over the folders"}
SILENT = 20.0
"""Seconds after which a watch counts as gone."""
LEAST_ROOM = 1 << 30
"""Bytes that must be free: a delivery writes its result before the copy in scratch is removed."""


def health(request: HttpRequest) -> JsonResponse:
    """GET /api/health: 200 where everything works, 503 where anything does not, with what it is."""
    parts = {"database": _database(), "store": _store(), "room": _room()}
    parts |= {name: _heart(name) for name in WATCHED}
    well = all(part["ok"] for part in parts.values())
    response = JsonResponse({"ok": well, **parts}, status=200 if well else 503)
    response["Cache-Control"] = "no-store"
    return response


def beat(name: str, says: str = "") -> None:
    """Note that what must go on does; a disk that cannot be written is told by other parts."""
    folder = Path(settings.DATA) / HEARTS
    with suppress(OSError):
        folder.mkdir(exist_ok=True)
        whole = folder / f"{name}.{os.getpid()}"
        whole.write_text(f"{time.monotonic()}\n{says}")
        whole.replace(folder / name)


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


def _heart(name: str) -> dict[str, Any]:
    try:
        then, says = (Path(settings.DATA) / HEARTS / name).read_text().split("\n", 1)
        silent = time.monotonic() - float(then)
    except (OSError, ValueError):
        return _said(False, f"{WATCHED[name].capitalize()} has not been started here.")
    if not 0 <= silent <= SILENT:
        return _said(False, f"{WATCHED[name].capitalize()} has been silent for {silent:.0f} s.")
    if name == "workers":
        return _said(says != "0", f"{says} {'worker lives' if says == '1' else 'workers live'}.")
    return _said(True, f"{WATCHED[name].capitalize()} looked {silent:.0f} s ago.")
