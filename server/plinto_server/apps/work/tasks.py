"""The one task of the queue: do a piece of work, by kind and id."""

from __future__ import annotations

from django_tasks import task

from plinto_server.apps.work.running import work


@task()
def do_work(kind: str, pk: int) -> None:
    work(kind, pk)
