"""Tasks of the policies; each takes ids only."""

from __future__ import annotations

from django_tasks import task

from plinto_server.apps.policies.models import PolicyRun
from plinto_server.apps.policies.services import do_run
from plinto_server.apps.queue.running import work


@task()
def apply_policy(run_id: int) -> None:
    work(PolicyRun, run_id, do_run, suffix="pdf")
