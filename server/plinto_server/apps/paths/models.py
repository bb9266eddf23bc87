from __future__ import annotations

from django.conf import settings
from django.db import models

from plinto_server.apps.jobs.models import Job
from plinto_server.removal import Removable
from plinto_server.revisions import Revised


class SwatchList(Removable):
    """A named list of colours; the colours themselves lie in the store."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    name = models.CharField(max_length=200)
    space = models.CharField(max_length=4)
    count = models.PositiveIntegerField()
    digest = models.CharField(max_length=64)
    """The store's name of the colours as JSON: see plinto_server.apps.paths.lists."""
    made = models.CharField(max_length=200)
    """Where they come from, in words."""
    job = models.ForeignKey(Job, null=True, on_delete=models.SET_NULL)
    """Whose picture they were taken from."""
    updated = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["name", "id"]


class KeptPath(Revised, Removable):
    """A colour path under a name."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    name = models.CharField(max_length=100)
    steps = models.JSONField()
    updated = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["name", "id"]
