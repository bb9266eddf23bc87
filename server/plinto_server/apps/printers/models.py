from __future__ import annotations

from django.conf import settings
from django.db import models

from plinto_server.apps.conditions.models import PrintingCondition
from plinto_server.apps.policies.models import Policy
from plinto_server.apps.work.models import WatchedWork
from plinto_server.removal import Removable
from plinto_server.revisions import Revised


class Printer(Revised, Removable):
    """A printer or press with its RIP; one print at a time."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    name = models.CharField(max_length=100)
    place = models.CharField(max_length=100, default="", blank=True)
    paused = models.BooleanField(default=False)

    class Meta:
        ordering = ["id"]


class Medium(Revised, Removable):
    """A medium in a printer: the condition it prints, the policy for what comes, who manages colour."""

    printer = models.ForeignKey(Printer, on_delete=models.CASCADE, related_name="media")
    name = models.CharField(max_length=100)
    condition = models.ForeignKey(PrintingCondition, on_delete=models.PROTECT, related_name="media")
    policy = models.ForeignKey(Policy, null=True, blank=True, on_delete=models.SET_NULL)
    duty = models.JSONField(default=dict)
    """plinto_core.printing.ColourDuty"""
    settings = models.JSONField(default=dict)
    """plinto_core.printing.MediumSettings"""

    class Meta:
        ordering = ["id"]


class PrintJob(WatchedWork):
    """A file on its way through a printer, with the medium and policy as they were when it came.

    policy : None where the file is a delivery, made by `recipe` already.
    """

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    printer = models.ForeignKey(Printer, on_delete=models.CASCADE, related_name="jobs")
    medium = models.ForeignKey(Medium, null=True, on_delete=models.SET_NULL)
    medium_name = models.CharField(max_length=100)
    condition = models.ForeignKey(PrintingCondition, on_delete=models.PROTECT)
    duty = models.JSONField(default=dict)
    settings = models.JSONField(default=dict)
    file_name = models.CharField(max_length=255)
    sha256 = models.CharField(max_length=64)
    kind = models.CharField(max_length=8)
    policy = models.JSONField(null=True)
    recipe = models.JSONField(null=True)
    copies = models.PositiveIntegerField(default=1)

    class Meta(WatchedWork.Meta):
        abstract = False
