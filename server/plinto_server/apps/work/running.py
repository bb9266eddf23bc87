"""Long work in a worker: taken once, its heart beating; put back what a killed worker held."""

from __future__ import annotations

import logging
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from typing import Any, Generic, TypeVar
from uuid import UUID

from django.db import DatabaseError, OperationalError, connection
from django.db.models import F
from django.utils import timezone
from django_tasks import TaskResultStatus
from django_tasks_db.models import DBTaskResult

from plinto_core.errors import Cancelled, CoreError
from plinto_server import store
from plinto_server.apps.work.acts import enqueue, has_task
from plinto_server.apps.work.kinds import KINDS, KindOfWork
from plinto_server.apps.work.limits import Leash, end, may_end
from plinto_server.apps.work.models import WatchedWork
from plinto_server.errors import held, of_the_place

log = logging.getLogger("plinto")
Key = TypeVar("Key")
BEAT = 2.0
LOOK = 0.5
"""Seconds between two looks at the limits of the work at hand."""
STALE = 12.0
"""Seconds without a beat after which work counts as lost."""
ATTEMPTS = 3
PATIENCE, AGAIN = 600.0, 1.0
"""Seconds that what became of work is tried to be written for, and between two attempts."""


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
    taken = rows.filter(kind.free(row), pk=pk, state=model.WAITING).update(
        state=model.RUNNING, started=timezone.now(), beats=F("beats") + 1, progress=0.0
    )
    if not taken:
        return
    row = rows.get(pk=pk)
    rows.filter(pk=pk).update(attempts=row.attempts + 1)
    try:
        _do(kind, row)
    finally:
        patiently(lambda: _ended(kind, pk))


def _ended(kind: KindOfWork, pk: int) -> None:
    ended = kind.model._default_manager.filter(pk=pk).first()
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
    except Exception as error:
        if held(error):
            # Nothing is wrong with the work: the sweep gives it a task again.
            log.warning("%s %s found the database held; it waits again", model.__name__, pk)
            patiently(lambda: _waits_again(model, pk))
            return
        told = of_the_place(error)
        _finish(
            model,
            pk,
            state=model.FAILED,
            error=str(told or "Plinto failed unexpectedly; the server's log holds the details."),
        )
        if told is None:
            raise


def _waits_again(model: type[WatchedWork], pk: int) -> None:
    model._default_manager.filter(pk=pk, state=model.RUNNING).update(
        state=model.WAITING, progress=0.0
    )


def _finish(model: type[WatchedWork], pk: int, **values: object) -> None:
    rows = model._default_manager.filter(pk=pk)
    patiently(lambda: rows.update(finished=timezone.now(), **values))


def patiently(write: Callable[[], object]) -> None:
    """Write what must not be lost, again and again while the database is held by another."""
    until = time.monotonic() + PATIENCE
    while True:
        try:
            write()
            return
        except OperationalError as error:
            if not held(error) or time.monotonic() > until:
                raise
            log.warning("the database is held; what became of work is written in a moment")
            time.sleep(AGAIN)


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
        try:
            self._rows.update(progress=share, beats=F("beats") + 1)
            cancelled = self._rows.filter(cancel_requested=True).exists()
        except OperationalError as error:
            # A figure for the eye: the next one will do.
            if not held(error):
                raise
            return
        if cancelled:
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
                    rows.update(beats=F("beats") + 1)
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
    running = {
        (kind.key, row.pk): row
        for kind in KINDS.values()
        for row in kind.model._default_manager.filter(state=kind.model.RUNNING)
    }
    lost = _ROWS.silent({key: row.beats for key, row in running.items()})
    alive = {row.task_id for key, row in running.items() if key not in lost}
    tasks = DBTaskResult.objects.filter(status=TaskResultStatus.RUNNING)
    without = {str(pk) for pk in tasks.values_list("pk", flat=True)} - alive
    gone = _TASKS.silent(dict.fromkeys(without, 0))
    gone |= {row.task_id for key, row in running.items() if key in lost and row.task_id}
    tasks.filter(pk__in=[UUID(i) for i in gone]).update(
        status=TaskResultStatus.FAILED, finished_at=timezone.now()
    )
    for key in lost:
        _lost(KINDS[key[0]], running[key])
    for kind in KINDS.values():
        _give_tasks(kind)
    return len(lost)


class _Beats(Generic[Key]):
    """Counts that go up while something lives, and since when they stand, by this process's own clock."""

    def __init__(self) -> None:
        self._seen: dict[Key, tuple[int, float]] = {}

    def silent(self, counts: dict[Key, int]) -> set[Key]:
        """What has stood too long; what is seen for the first time has just beaten."""
        now, known = time.monotonic(), self._seen
        self._seen = {
            key: known[key] if key in known and known[key][0] == count else (count, now)
            for key, count in counts.items()
        }
        return {key for key, (_, since) in self._seen.items() if now - since >= STALE}


_ROWS: _Beats[tuple[str, int]] = _Beats()
_TASKS: _Beats[str] = _Beats()


def _lost(kind: KindOfWork, row: WatchedWork) -> None:
    model = kind.model
    if row.attempts >= ATTEMPTS:
        lost = "The worker was lost three times at this work."
        _finish(model, row.pk, state=model.FAILED, error=lost)
        kind.ended(model._default_manager.get(pk=row.pk))
    else:
        _waits_again(model, row.pk)


def _give_tasks(kind: KindOfWork) -> None:
    for row in kind.model._default_manager.filter(state=kind.model.WAITING):
        if not has_task(row):
            enqueue(row)
