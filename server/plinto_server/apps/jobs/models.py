from __future__ import annotations

from typing import Any

from django.conf import settings
from django.db import models

from plinto_server.apps.artwork.models import Artwork
from plinto_server.apps.conditions.models import PrintingCondition


class Job(models.Model):
    """One piece of artwork with one or more destinations."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    artwork = models.ForeignKey(Artwork, on_delete=models.PROTECT)
    name = models.CharField(max_length=200)
    question = models.CharField(max_length=20, default="", blank=True)
    """What the house rules ask about the source: "differs", "missing", or nothing."""
    points = models.JSONField(default=list)
    """Sample points: name, x and y in pixels of the artwork."""
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-created", "-id"]


class Destination(models.Model):
    """A job's way to one condition: the recipe now, and every recipe before it for undo."""

    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="destinations")
    condition = models.ForeignKey(PrintingCondition, on_delete=models.PROTECT)
    history = models.JSONField(default=list)
    position = models.PositiveIntegerField(default=0)
    facts = models.JSONField(default=dict)
    """The deciding figures of the present recipe, for lists and the stage rail."""
    notes = models.JSONField(default=list)
    """What re-targeting kept, adapted or lists for attention."""
    updated = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["id"]
        constraints = [
            models.UniqueConstraint(
                fields=["job", "condition"], name="one_destination_per_condition"
            )
        ]

    @property
    def recipe(self) -> dict[str, Any]:
        return dict(self.history[self.position])
