from __future__ import annotations

from django.conf import settings
from django.db import models

from plinto_server.apps.artwork.models import Artwork
from plinto_server.apps.conditions.models import PrintingCondition
from plinto_server.apps.jobs.models import Destination
from plinto_server.apps.policies.models import PolicyRun
from plinto_server.apps.work.models import WatchedWork
from plinto_server.removal import Removable
from plinto_server.revisions import Revised


class ProofPrint(WatchedWork, Removable):
    """A press shown by another printer, with all that it was made from.

    Of a job's destination under a recipe, or of a page of a document under a policy's run. press,
    proofer_profile : profiles by SHA-256, as they were then; lines : of text on the sheet.
    """

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    title = models.CharField(max_length=255)
    press_name = models.CharField(max_length=100)
    press = models.CharField(max_length=64)
    proofer = models.ForeignKey(PrintingCondition, on_delete=models.PROTECT)
    proofer_profile = models.CharField(max_length=64)
    destination = models.ForeignKey(
        Destination, null=True, on_delete=models.CASCADE, related_name="proofs"
    )
    artwork = models.ForeignKey(Artwork, null=True, on_delete=models.PROTECT)
    recipe = models.JSONField(default=dict)
    run = models.ForeignKey(PolicyRun, null=True, on_delete=models.CASCADE, related_name="proofs")
    page = models.PositiveIntegerField(default=1)
    settings = models.JSONField(default=dict)
    lines = models.JSONField(default=list)
    file_name = models.CharField(max_length=255)

    class Meta(WatchedWork.Meta):
        abstract = False


class ProofReading(Removable):
    """A strip read once: the colours, and how they were judged last.

    way : "bench", printed and read by the simulators, or "file"; by : what it was printed on, or the
    file's name; noise : of the bench instrument.
    """

    proof = models.ForeignKey(ProofPrint, on_delete=models.CASCADE, related_name="readings")
    way = models.CharField(max_length=8)
    by = models.CharField(max_length=255)
    noise = models.FloatField(default=0)
    labs = models.JSONField()
    judgement = models.JSONField()
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-created", "-id"]


class ToleranceSet(Revised, Removable):
    """Tolerances under a name: see plinto_core.proofs.tolerances."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    name = models.CharField(max_length=100)
    tolerances = models.JSONField()
    updated = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["name", "id"]
