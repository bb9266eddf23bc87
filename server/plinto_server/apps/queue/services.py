"""Start, cancel and carry out deliveries; put back what a killed worker held."""

from __future__ import annotations

import logging
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import timedelta

from django.db import DatabaseError, connection, transaction
from django.utils import timezone
from django_tasks import TaskResultStatus
from django_tasks_db.models import DBTaskResult

from plinto_core.errors import Cancelled, CoreError
from plinto_core.recipes import parse_recipe, run_recipe
from plinto_server import store
from plinto_server.apps.jobs.models import Destination
from plinto_server.apps.profiles.services import load_profile
from plinto_server.apps.queue.models import Run
from plinto_server.errors import Conflict

log = logging.getLogger("plinto")
BEAT = 2.0
STALE = timedelta(seconds=12)
ATTEMPTS = 3
SUFFIXES = {"TIFF": "tif", "JPEG": "jpg", "PNG": "png"}


@transaction.atomic
def start_delivery(destination: Destination, recipe: dict[str, object] | None = None) -> Run:
    """Queue a delivery of the present recipe, or of a former one again."""
    checked = parse_recipe(recipe or destination.recipe)
    stem = destination.job.artwork.file_name.rsplit(".", 1)[0]
    suffix = SUFFIXES[checked.delivery.format]
    run = Run.objects.create(
        destination=destination,
        recipe=checked.model_dump(mode="json"),
        file_name=f"{stem}_{destination.condition.key}.{suffix}",
    )
    transaction.on_commit(lambda: _enqueue(run.pk))
    return run


def _enqueue(run_id: int) -> None:
    from plinto_server.apps.queue.tasks import deliver

    result = deliver.enqueue(run_id)
    Run.objects.filter(pk=run_id).update(task_id=str(result.id).replace("-", ""))


def cancel(run: Run) -> Run:
    """Ask a delivery to stop; raises Conflict where it has ended."""
    if run.state in (Run.DONE, Run.FAILED, Run.CANCELLED):
        raise Conflict("The delivery has ended already.")
    Run.objects.filter(pk=run.pk, state=Run.WAITING).update(
        state=Run.CANCELLED, cancel_requested=True, finished=timezone.now()
    )
    Run.objects.filter(pk=run.pk, state=Run.RUNNING).update(cancel_requested=True)
    run.refresh_from_db()
    return run


def carry_out(run_id: int) -> None:
    """Run a delivery in a worker. May be called twice: only a waiting run is taken."""
    now = timezone.now()
    taken = Run.objects.filter(pk=run_id, state=Run.WAITING).update(
        state=Run.RUNNING, started=now, heartbeat=now, progress=0.0
    )
    if not taken:
        return
    run = Run.objects.select_related("destination__job__artwork").get(pk=run_id)
    Run.objects.filter(pk=run_id).update(attempts=run.attempts + 1)
    recipe = parse_recipe(run.recipe)
    try:
        with _heart(run_id), store.scratch(f".{SUFFIXES[recipe.delivery.format]}") as target:
            source = store.path_of(run.destination.job.artwork.sha256)
            report = run_recipe(recipe, source, target, load_profile, progress=_Ticker(run_id))
            size = target.stat().st_size
            digest = store.put_file(target)
        _finish(
            run_id,
            state=Run.DONE,
            progress=1.0,
            result_sha256=digest,
            result_size=size,
            report=report,
        )
    except Cancelled:
        _finish(run_id, state=Run.CANCELLED)
    except CoreError as error:
        _finish(run_id, state=Run.FAILED, error=str(error))
    except MemoryError:
        _finish(run_id, state=Run.FAILED, error="The delivery needs more memory than there is.")
    except Exception:
        _finish(
            run_id,
            state=Run.FAILED,
            error="Plinto failed unexpectedly; the server's log holds the details.",
        )
        raise


def _finish(run_id: int, **values: object) -> None:
    Run.objects.filter(pk=run_id).update(finished=timezone.now(), **values)


class _Ticker:
    """Writes progress a few times a second and notices a wish to cancel."""

    def __init__(self, run_id: int) -> None:
        self._run_id = run_id
        self._last = 0.0

    def __call__(self, share: float) -> None:
        now = time.monotonic()
        if now - self._last < 0.25:
            return
        self._last = now
        rows = Run.objects.filter(pk=self._run_id)
        rows.update(progress=share, heartbeat=timezone.now())
        if rows.filter(cancel_requested=True).exists():
            raise Cancelled


@contextmanager
def _heart(run_id: int) -> Iterator[None]:
    """Beat while the work goes on, also where a single step takes long."""
    stop = threading.Event()

    def beat() -> None:
        while not stop.wait(BEAT):
            try:
                Run.objects.filter(pk=run_id).update(heartbeat=timezone.now())
            except DatabaseError:
                # One missed beat is no death; the database may be busy with something long.
                log.warning("a heartbeat of delivery %s could not be written", run_id)
        connection.close()

    thread = threading.Thread(target=beat, daemon=True)
    thread.start()
    try:
        yield
    finally:
        stop.set()
        thread.join()


def sweep() -> int:
    """Put back what killed workers held; returns how many deliveries were touched.

    A delivery whose heart has stopped waits again, and its task with it; after three attempts
    it fails with a sentence instead.
    """
    store.clear_lost_scratch()
    limit = timezone.now() - STALE
    touched = 0
    for run in Run.objects.filter(state=Run.RUNNING, heartbeat__lt=limit):
        spent = run.attempts >= ATTEMPTS
        if spent:
            _finish(
                run.pk, state=Run.FAILED, error="The worker was lost three times at this delivery."
            )
        else:
            Run.objects.filter(pk=run.pk, state=Run.RUNNING).update(state=Run.WAITING, progress=0.0)
        touched += 1
    lost = DBTaskResult.objects.filter(status=TaskResultStatus.RUNNING, started_at__lt=limit)
    for task in lost:
        run_id = (task.args_kwargs.get("args") or [None])[0]
        run = Run.objects.filter(pk=run_id).first()
        if run is None or run.state in (Run.DONE, Run.FAILED, Run.CANCELLED):
            DBTaskResult.objects.filter(pk=task.pk).update(
                status=TaskResultStatus.FAILED, finished_at=timezone.now()
            )
        elif run.state == Run.WAITING:
            DBTaskResult.objects.filter(pk=task.pk, status=TaskResultStatus.RUNNING).update(
                status=TaskResultStatus.READY, started_at=None
            )
    return touched
