"""A worker for tests: takes tasks in the order the real one does, in this process."""

from __future__ import annotations

from django_tasks import TaskResultStatus
from django_tasks_db.models import DBTaskResult

from plinto_server.apps.work.running import work


def work_off(limit: int = 50) -> list[tuple[str, int]]:
    """Do tasks until none is left; returns what was done, in order."""
    done: list[tuple[str, int]] = []
    while len(done) < limit:
        task = DBTaskResult.objects.ready().first()
        if task is None:
            return done
        DBTaskResult.objects.filter(pk=task.pk).update(status=TaskResultStatus.SUCCESSFUL)
        kind, pk = task.args_kwargs["args"]
        work(kind, pk)
        done.append((kind, pk))
    raise AssertionError("the queue never empties")
