from __future__ import annotations

from django.db import models


class StoredProfile(models.Model):
    """A profile file and the facts that lists show."""

    sha256 = models.CharField(max_length=64, unique=True)
    description = models.CharField(max_length=300)
    colour_space = models.CharField(max_length=4)
    device_class = models.CharField(max_length=20)
    origin = models.CharField(max_length=20)
    """standard, built, uploaded or embedded"""
    report = models.JSONField(default=dict)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["description", "id"]


class ColourTable(models.Model):
    """A .cube table in the store."""

    sha256 = models.CharField(max_length=64, unique=True)
    name = models.CharField(max_length=200)
    dimensions = models.PositiveSmallIntegerField()
    size = models.PositiveIntegerField()
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["name", "id"]
