"""Long work in a worker: taken once, its heart beating; put back what a killed worker held."""

from __future__ import annotations

import logging
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import datetime, timedelta
from typing import Any
from uuid import UUID

from django.db import DatabaseError, connection
from django.utils import timezone
from django_tasks import TaskResultStatus
from django_tasks_db.models import DBTaskResult

from plinto_core.errors import Cancelled, CoreError
from plinto_server import store
from plinto_server.apps.work.acts import enqueue, has_task
from plinto_server.apps.work.kinds import KINDS, KindOfWork
from plinto_server.apps.work.limits import Leash, end, may_end
from plinto_server.apps.work.models import WatchedWork

log = logging.getLogger("plinto")
BEAT = 2.0
LOOK = 0.5
"""Seconds between two looks at the limits of the work at hand."""
STALE = timedelta(seconds=12)
ATTEMPTS = 3


def work(key: str, pk: int) -> None:
    """Take a waiting row, do its work, keep what came out.

    May be called twice: only a row that waits, and that its kind leaves free, is taken.
    """
    kind = KINDS[key]
    model = kind.model
    rows = model._default_manager
    row = rows.filter(pk=pk).first()
    if row is None:
        return
    now = timezone.now()
    taken = rows.filter(kind.free(row), pk=pk, state=model.WAITING).update(
        state=model.RUNNING, started=now, heartbeat=now, progress=0.0
    )
    if not taken:
        return
    row = rows.get(pk=pk)
    rows.filter(pk=pk).update(attempts=row.attempts + 1)
    try:
        _do(kind, row)
    finally:
        ended = rows.filter(pk=pk).first()
        if ended is not None:
            kind.ended(ended)


def _do(kind: KindOfWork, row: WatchedWork) -> None:
    model, pk = kind.model, row.pk
    try:
        leash = Leash()
        with _heart(kind, pk, leash), store.scratch(f".{kind.suffix(row)}") as target:
            report = kind.doing(row, target, _Ticker(model, pk, leash))
            result: dict[str, Any] = {"report": report.model_dump(mode="json")}
            if target.exists():
                result["result_size"] = target.stat().st_size
                result["result_sha256"] = store.put_file(target)
        _finish(model, pk, state=model.DONE, progress=1.0, **result)
    except Cancelled:
        _finish(model, pk, state=model.CANCELLED)
    except CoreError as error:
        _finish(model, pk, state=model.FAILED, error=str(error))
    except MemoryError:
        _finish(model, pk, state=model.FAILED, error="The work needs more memory than there is.")
    except Exception:
        _finish(
            model,
            pk,
            state=model.FAILED,
            error="Plinto failed unexpectedly; the server's log holds the details.",
        )
        raise


def _finish(model: type[WatchedWork], pk: int, **values: object) -> None:
    model._default_manager.filter(pk=pk).update(finished=timezone.now(), **values)


class _Ticker:
    """Writes progress a few times a second and notices a wish to cancel."""

    def __init__(self, model: type[WatchedWork], pk: int, leash: Leash) -> None:
        self._rows = model._default_manager.filter(pk=pk)
        self._last = 0.0
        self._leash = leash

    def __call__(self, share: float) -> None:
        self._leash.step()
        now = time.monotonic()
        if now - self._last < 0.25:
            return
        self._last = now
        self._rows.update(progress=share, heartbeat=timezone.now())
        if self._rows.filter(cancel_requested=True).exists():
            raise Cancelled


@contextmanager
def _heart(kind: KindOfWork, pk: int, leash: Leash) -> Iterator[None]:
    """Beat while the work goes on, also where a single step takes long, and hold it to its limits."""
    model = kind.model
    rows = model._default_manager.filter(pk=pk)
    stop = threading.Event()

    def beat() -> None:
        last = time.monotonic()
        while not stop.wait(LOOK):
            try:
                if time.monotonic() - last >= BEAT:
                    last = time.monotonic()
                    rows.update(heartbeat=timezone.now())
                if may_end():
                    _hold(kind, pk, leash)
            except DatabaseError:
                # One missed beat is no death; the database may be busy with something long.
                log.warning("a heartbeat of %s %s could not be written", model.__name__, pk)
        connection.close()

    thread = threading.Thread(target=beat, daemon=True)
    thread.start()
    try:
        yield
    finally:
        stop.set()
        thread.join()


def _hold(kind: KindOfWork, pk: int, leash: Leash) -> None:
    """End the process where the work has passed a limit; what it was is written first."""
    model = kind.model
    if model._default_manager.filter(pk=pk, cancel_requested=True).exists():
        leash.cancelled()
    sentence = leash.passed()
    if sentence is None:
        return
    state = model.FAILED if sentence else model.CANCELLED
    log.warning("%s %s is ended: %s", model.__name__, pk, sentence or "it was cancelled")
    _finish(model, pk, state=state, error=sentence)
    row = model._default_manager.filter(pk=pk).first()
    if row is not None:
        kind.ended(row)
    end()


def sweep() -> int:
    """Put back what killed workers held; returns how many rows were touched.

    Work whose heart has stopped waits again; after three attempts it fails with a sentence instead.
    Waiting work without a task gets one.
    """
    store.clear_lost_scratch()
    limit = timezone.now() - STALE
    DBTaskResult.objects.filter(status=TaskResultStatus.RUNNING, started_at__lt=limit).exclude(
        pk__in=[UUID(i) for i in _alive() if i]
    ).update(status=TaskResultStatus.FAILED, finished_at=timezone.now())
    return sum(_sweep(kind, limit) for kind in KINDS.values())


def _alive() -> list[str]:
    """Tasks of rows whose heart beats."""
    found: list[str] = []
    for kind in KINDS.values():
        rows = kind.model._default_manager.filter(state=kind.model.RUNNING)
        beating = rows.filter(heartbeat__gte=timezone.now() - STALE)
        found += beating.values_list("task_id", flat=True)
    return found


def _sweep(kind: KindOfWork, limit: datetime) -> int:
    model = kind.model
    touched = 0
    for row in model._default_manager.filter(state=model.RUNNING, heartbeat__lt=limit):
        if row.attempts >= ATTEMPTS:
            lost = "The worker was lost three times at this work."
            _finish(model, row.pk, state=model.FAILED, error=lost)
            kind.ended(model._default_manager.get(pk=row.pk))
        else:
            model._default_manager.filter(pk=row.pk, state=model.RUNNING).update(
                state=model.WAITING, progress=0.0
            )
        touched += 1
    for row in model._default_manager.filter(state=model.WAITING):
        if not has_task(row):
            enqueue(row)
    return touched
