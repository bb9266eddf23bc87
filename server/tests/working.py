"""A worker for tests: takes tasks in the order the real one does, in this process."""

from __future__ import annotations

from django_tasks import TaskResultStatus
from django_tasks_db.models import DBTaskResult

from plinto_server.apps.work import running
from plinto_server.apps.work.running import work


class Later:
    """The sweep's own clock, put forward at will."""

    def __init__(self, monkeypatch) -> None:
        self.now = 0.0
        for seen in ("_ROWS", "_TASKS"):
            monkeypatch.setattr(running, seen, running._Beats())
        real = running.time.monotonic
        monkeypatch.setattr(running.time, "monotonic", lambda: real() + self.now)

    def sweep(self, seconds: float = running.STALE) -> int:
        """Sweep now and again after some seconds; what the second one found lost."""
        running.sweep()
        self.now += seconds
        return running.sweep()


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
