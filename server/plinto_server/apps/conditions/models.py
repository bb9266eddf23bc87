from __future__ import annotations

from django.db import models

from plinto_server.apps.profiles.models import StoredProfile


class PrintingCondition(models.Model):
    """A printer or press with its medium, its output profile and its ink rules."""

    key = models.SlugField(unique=True)
    name = models.CharField(max_length=100)
    printer = models.CharField(max_length=100)
    medium = models.CharField(max_length=100)
    mirror = models.BooleanField(default=False)
    profile = models.ForeignKey(StoredProfile, on_delete=models.PROTECT)
    ink_rules = models.JSONField(default=dict)
    process = models.CharField(max_length=20, default="offset")
    """offset, flexo, screen, transfer or inkjet"""
    supplies = models.JSONField(default=dict)
    """What inks and medium take and cost, see plinto_core.inks.consumption."""
    ticket = models.JSONField(default=dict)
    """What a print ticket starts with: media, passes, drying_minutes."""

    class Meta:
        ordering = ["id"]
