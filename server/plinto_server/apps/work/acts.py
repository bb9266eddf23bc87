"""What is done to work in the queue; each function is one change."""

from __future__ import annotations

from django.db import transaction
from django.utils import timezone
from django_tasks import TaskResultStatus
from django_tasks_db.models import DBTaskResult

from plinto_server.apps.work.kinds import kind_of
from plinto_server.apps.work.models import WatchedWork
from plinto_server.errors import Conflict

_STEP = 50
"""Between two priorities of the task queue, which knows -100 to 100."""


def enqueue(row: WatchedWork) -> None:
    """Hand waiting work to the workers, with its row in one transaction: both or neither."""
    kind = kind_of(row)
    if kind.arrange is not None:
        kind.arrange(row)
    else:
        put_task(row)


def put_task(row: WatchedWork) -> None:
    """A task for a row in the durable queue."""
    from plinto_server.apps.work.tasks import do_work

    task = do_work.using(priority=row.priority * _STEP)
    result = task.enqueue(kind_of(row).key, row.pk)
    type(row)._default_manager.filter(pk=row.pk).update(task_id=str(result.id))


def has_task(row: WatchedWork) -> bool:
    """Whether a task of the row still waits or runs."""
    open_states = [TaskResultStatus.READY, TaskResultStatus.RUNNING]
    return (
        bool(row.task_id)
        and DBTaskResult.objects.filter(pk=row.task_id, status__in=open_states).exists()
    )


@transaction.atomic
def cancel(row: WatchedWork) -> WatchedWork:
    """Ask work to stop; raises Conflict where it has ended."""
    if row.has_ended:
        raise Conflict("It has ended already.")
    rows = type(row)._default_manager
    rows.filter(pk=row.pk, state__in=[row.WAITING, row.HELD]).update(
        state=row.CANCELLED, cancel_requested=True, finished=timezone.now()
    )
    rows.filter(pk=row.pk, state=row.RUNNING).update(cancel_requested=True)
    row.refresh_from_db()
    _after_end(row)
    return row


def _after_end(row: WatchedWork) -> None:
    if row.has_ended:
        kind_of(row).ended(row)


@transaction.atomic
def hold(row: WatchedWork) -> WatchedWork:
    """Keep waiting work from being started; raises Conflict where it does not wait."""
    held = type(row)._default_manager.filter(pk=row.pk, state=row.WAITING).update(state=row.HELD)
    if not held:
        raise Conflict("Only work that waits can be held.")
    row.refresh_from_db()
    return row


@transaction.atomic
def release(row: WatchedWork) -> WatchedWork:
    """Let held work wait for a worker again."""
    freed = type(row)._default_manager.filter(pk=row.pk, state=row.HELD).update(state=row.WAITING)
    if not freed:
        raise Conflict("It is not held.")
    row.refresh_from_db()
    enqueue(row)
    return row


@transaction.atomic
def retry(row: WatchedWork) -> WatchedWork:
    """Start failed or cancelled work from the beginning."""
    if row.state not in (row.FAILED, row.CANCELLED):
        raise Conflict("Only work that failed or was cancelled can be tried again.")
    again = type(row)._default_manager.filter(pk=row.pk, state=row.state).update(
        state=row.WAITING, progress=0.0, error="", attempts=0, cancel_requested=False,
        started=None, finished=None,
    )  # fmt: skip
    if again:
        row.refresh_from_db()
        enqueue(row)
    return row


@transaction.atomic
def set_priority(row: WatchedWork, priority: int) -> WatchedWork:
    """Put work before or after other work; what runs already is not disturbed."""
    if row.has_ended:
        raise Conflict("It has ended already.")
    type(row)._default_manager.filter(pk=row.pk).update(priority=priority)
    if row.task_id:
        DBTaskResult.objects.filter(pk=row.task_id, status=TaskResultStatus.READY).update(
            priority=priority * _STEP
        )
    row.refresh_from_db()
    return row
