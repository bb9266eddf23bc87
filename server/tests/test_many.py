"""Lists cost the same number of queries for three rows as for thirty."""

from __future__ import annotations

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext

from plinto_server.apps.artwork.models import Artwork
from plinto_server.apps.deliveries.models import Run
from plinto_server.apps.folders.models import FolderFile, WatchedFolder
from plinto_server.apps.house.models import HouseRuleSet, InkRuleSet
from plinto_server.apps.jobs.models import Job
from plinto_server.apps.jobs.services import create_job
from plinto_server.apps.policies.models import Document, Policy, PolicyComparison, PolicyRun
from plinto_server.apps.policies.services import policy_of_template
from plinto_server.apps.printers.models import Medium, Printer, PrintJob

DUTY = {"manager": "plinto", "driver": "off", "rip": "absent"}


def add(user, artwork, conditions, number: int) -> None:
    """One of everything that a list shows."""
    job = create_job(user, artwork, conditions)
    Job.objects.filter(pk=job.pk).update(question="missing")
    policy = policy_of_template("bare-cmyk", conditions[0]).model_dump(mode="json")
    kept = Policy.objects.create(owner=user, name="P", versions=[policy])
    printer = Printer.objects.create(owner=user, name="Press")
    medium = Medium.objects.create(
        printer=printer, name="M", condition=conditions[0], policy=kept, duty=DUTY
    )
    folder = WatchedFolder.objects.create(
        owner=user, name="F", slug=f"f{number}", policy=kept, medium=medium
    )
    document = Document.objects.create(
        owner=user, file_name="d.pdf", sha256="0" * 64, size=1, pages=1
    )
    for state in ("waiting", "done"):
        Run.objects.create(
            destination=job.destinations.first(), recipe={}, file_name="r.tif", state=state
        )
        PolicyRun.objects.create(
            document=document, policy=policy, dry=False, file_name="d", state=state
        )
        PolicyComparison.objects.create(owner=user, before=policy, after=policy, state=state)
        PrintJob.objects.create(
            owner=user, printer=printer, medium=medium, medium_name="M", condition=conditions[0],
            file_name="d.pdf", sha256="0" * 64, kind="pdf", state=state,
        )  # fmt: skip
        FolderFile.objects.create(
            folder=folder, name=f"{state}.pdf", sha256="0" * 64, size=1, stamp=number, policy=policy,
            out_name="o.pdf", state=state,
        )  # fmt: skip
    HouseRuleSet.objects.create(owner=user, name=f"H{number}", rules={})
    InkRuleSet.objects.create(owner=user, name=f"I{number}", rules={})


@pytest.mark.parametrize(
    "address",
    ["jobs", "policies", "documents", "printers", "folders", "queue", "queue?ended=true", "house-rules",
     "ink-rules", "profiles", "conditions", "artwork", "tables"],
)  # fmt: skip
def test_a_list_costs_a_constant_number_of_queries(client, user, job, conditions, address) -> None:
    artwork = Artwork.objects.get()

    def queries() -> int:
        with CaptureQueriesContext(
            connection,
        ) as caught:
            assert client.get(f"/api/{address}").status_code == 200
        return len(caught)

    for number in range(2):
        add(user, artwork, conditions, number)
    queries()
    few = queries()
    for number in range(2, 12):
        add(user, artwork, conditions, number)
    assert queries() == few <= 10
