"""Tasks of the queue; each takes ids only."""

from __future__ import annotations

from django_tasks import task

from plinto_server.apps.queue.running import carry_out


@task()
def deliver(run_id: int) -> None:
    carry_out(run_id)
