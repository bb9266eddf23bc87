from __future__ import annotations

from django.db import models

from plinto_server.apps.artwork.models import Artwork
from plinto_server.apps.jobs.models import Destination
from plinto_server.apps.work.models import WatchedWork


class Run(WatchedWork):
    """One delivery: the recipe it was started with, how far it is, what came out.

    artwork : the picture it was started with, None in rows that are older than bringing back;
    corrected : the artwork with its corrections, for no press.
    """

    destination = models.ForeignKey(Destination, on_delete=models.CASCADE, related_name="runs")
    artwork = models.ForeignKey(Artwork, null=True, on_delete=models.PROTECT)
    recipe = models.JSONField()
    corrected = models.BooleanField(default=False)
    file_name = models.CharField(max_length=255)

    class Meta(WatchedWork.Meta):
        abstract = False
