from __future__ import annotations

from django.db import models

from plinto_server.apps.jobs.models import Destination
from plinto_server.apps.work.models import WatchedWork


class Run(WatchedWork):
    """One delivery: the recipe it was started with, how far it is, what came out."""

    destination = models.ForeignKey(Destination, on_delete=models.CASCADE, related_name="runs")
    recipe = models.JSONField()
    file_name = models.CharField(max_length=255)

    class Meta(WatchedWork.Meta):
        abstract = False
