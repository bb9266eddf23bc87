from __future__ import annotations

from django.conf import settings
from django.db import models

from plinto_server.apps.profiles.models import StoredProfile
from plinto_server.apps.work.models import WatchedWork


class ProfileBuild(WatchedWork):
    """An output profile being built from a file of measurements, with the rules it was started with."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    file_name = models.CharField(max_length=255)
    sha256 = models.CharField(max_length=64)
    """Of the measurements in the store."""
    patches = models.PositiveIntegerField()
    rules = models.JSONField()
    build = models.JSONField()
    """plinto_core.characterise.BuildSettings"""
    profile = models.ForeignKey(StoredProfile, null=True, on_delete=models.SET_NULL)

    class Meta(WatchedWork.Meta):
        abstract = False
