from __future__ import annotations

from django.conf import settings
from django.db import models

from plinto_server.removal import Removable
from plinto_server.revisions import Revised


class StoredProfile(models.Model):
    """A profile file and the facts that lists show."""

    sha256 = models.CharField(max_length=64, unique=True)
    description = models.CharField(max_length=300)
    colour_space = models.CharField(max_length=4)
    device_class = models.CharField(max_length=20)
    origin = models.CharField(max_length=20)
    """standard, shipped (with Plinto), built, uploaded, edited, saved (from a colour path) or embedded"""
    report = models.JSONField(default=dict)
    parts = models.JSONField(default=list)
    """Which parts it can play, see plinto_core.icc.parts."""
    facts = models.JSONField(default=dict)
    """What lists show: see plinto_core.examination.brief."""
    holders = models.ManyToManyField(settings.AUTH_USER_MODEL, blank=True)
    """Whose it is, where it is neither standard nor shipped: each who built or uploaded it, or artwork with it."""
    former = models.ManyToManyField(settings.AUTH_USER_MODEL, blank=True, related_name="+")
    """Who took it out of the own library, and may get it back."""
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["description", "id"]


class ColourTable(models.Model):
    """A .cube table in the store."""

    sha256 = models.CharField(max_length=64, unique=True)
    name = models.CharField(max_length=200)
    dimensions = models.PositiveSmallIntegerField()
    size = models.PositiveIntegerField()
    holders = models.ManyToManyField(settings.AUTH_USER_MODEL, blank=True)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["name", "id"]


class KeptAim(Revised, Removable):
    """Aims of a print that an examination judges by: see plinto_core.examination.aims."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    name = models.CharField(max_length=100)
    aim = models.JSONField()
    updated = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["name", "id"]
