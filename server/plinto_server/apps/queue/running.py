"""Long work in a worker: taken once, its heart beating; put back what a killed worker held."""

from __future__ import annotations

import logging
import threading
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import timedelta
from pathlib import Path
from typing import Any

from django.apps import apps
from django.db import DatabaseError, connection
from django.utils import timezone
from django_tasks import TaskResultStatus
from django_tasks_db.models import DBTaskResult

from plinto_core.arrays import Progress
from plinto_core.errors import Cancelled, CoreError
from plinto_core.recipes import parse_recipe, run_recipe
from plinto_server import store
from plinto_server.apps.profiles.services import load_profile, load_table
from plinto_server.apps.queue.models import Run, WatchedWork
from plinto_server.apps.queue.services import suffix_of

log = logging.getLogger("plinto")
BEAT = 2.0
STALE = timedelta(seconds=12)
ATTEMPTS = 3
Doing = Callable[[Any, Path, Progress], dict[str, Any]]
"""Given the work's row, a path to write to and progress; returns the report."""


def carry_out(run_id: int) -> None:
    """Run a delivery in a worker. May be called twice: only a waiting run is taken."""

    def deliver(run: Run, target: Path, progress: Progress) -> dict[str, Any]:
        source = store.path_of(run.destination.job.artwork.sha256)
        return run_recipe(
            parse_recipe(run.recipe), source, target, load_profile,
            find_table=load_table, progress=progress,
        )  # fmt: skip

    run = Run.objects.filter(pk=run_id).first()
    if run is not None:
        work(Run, run_id, deliver, suffix=suffix_of(parse_recipe(run.recipe)))


def work(model: type[WatchedWork], pk: int, doing: Doing, *, suffix: str) -> None:
    """Take a waiting row, do its work, keep what came out; nothing where it is not waiting."""
    rows = model._default_manager
    now = timezone.now()
    taken = rows.filter(pk=pk, state=model.WAITING).update(
        state=model.RUNNING, started=now, heartbeat=now, progress=0.0
    )
    if not taken:
        return
    row = rows.get(pk=pk)
    rows.filter(pk=pk).update(attempts=row.attempts + 1)
    try:
        with _heart(model, pk), store.scratch(f".{suffix}") as target:
            report = doing(row, target, _Ticker(model, pk))
            result: dict[str, Any] = {"report": report}
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

    def __init__(self, model: type[WatchedWork], pk: int) -> None:
        self._rows = model._default_manager.filter(pk=pk)
        self._last = 0.0

    def __call__(self, share: float) -> None:
        now = time.monotonic()
        if now - self._last < 0.25:
            return
        self._last = now
        self._rows.update(progress=share, heartbeat=timezone.now())
        if self._rows.filter(cancel_requested=True).exists():
            raise Cancelled


@contextmanager
def _heart(model: type[WatchedWork], pk: int) -> Iterator[None]:
    """Beat while the work goes on, also where a single step takes long."""
    stop = threading.Event()

    def beat() -> None:
        while not stop.wait(BEAT):
            try:
                model._default_manager.filter(pk=pk).update(heartbeat=timezone.now())
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


def kinds_of_work() -> list[type[WatchedWork]]:
    """Every model of long work."""
    return [m for m in apps.get_models() if issubclass(m, WatchedWork)]


def sweep() -> int:
    """Put back what killed workers held; returns how many rows were touched.

    Work whose heart has stopped waits again, and its task with it; after three attempts it fails
    with a sentence instead.
    """
    store.clear_lost_scratch()
    limit = timezone.now() - STALE
    touched = 0
    for model in kinds_of_work():
        for row in model._default_manager.filter(state=model.RUNNING, heartbeat__lt=limit):
            if row.attempts >= ATTEMPTS:
                lost = "The worker was lost three times at this work."
                _finish(model, row.pk, state=model.FAILED, error=lost)
            else:
                model._default_manager.filter(pk=row.pk, state=model.RUNNING).update(
                    state=model.WAITING, progress=0.0
                )
            touched += 1
    lost_tasks = DBTaskResult.objects.filter(status=TaskResultStatus.RUNNING, started_at__lt=limit)
    for task in lost_tasks:
        _put_back(task)
    return touched


def _put_back(task: DBTaskResult) -> None:
    """A lost task waits again where its work does, and ends where that has ended."""
    pk = (task.args_kwargs.get("args") or [None])[0]
    app = task.task_path.split(".apps.")[-1].split(".")[0]
    model = next((m for m in kinds_of_work() if m._meta.app_label == app), None)
    row = None if model is None else model._default_manager.filter(pk=pk).first()
    if row is None or row.has_ended:
        DBTaskResult.objects.filter(pk=task.pk).update(
            status=TaskResultStatus.FAILED, finished_at=timezone.now()
        )
    elif row.state == row.WAITING:
        DBTaskResult.objects.filter(pk=task.pk, status=TaskResultStatus.RUNNING).update(
            status=TaskResultStatus.READY, started_at=None
        )
