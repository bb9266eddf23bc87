from __future__ import annotations

from django.conf import settings
from django.db import models

from plinto_server.apps.artwork.models import Artwork
from plinto_server.apps.conditions.models import PrintingCondition
from plinto_server.removal import Removable
from plinto_server.revisions import Revised


class Job(Removable):
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


class FormerArtwork(models.Model):
    """A picture that a job had, and what its recipes said of it when another took its place.

    settled : by the number of a destination, the parts of its recipe that belong to the picture.
    """

    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="former")
    artwork = models.ForeignKey(Artwork, on_delete=models.PROTECT)
    settled = models.JSONField(default=dict)
    created = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["-created", "-id"]
        constraints = [
            models.UniqueConstraint(fields=["job", "artwork"], name="one_former_row_for_picture")
        ]


class JobLook(models.Model):
    """How one person looks at a job: screen, paper, veil, comparison, surround."""

    user = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="looks")
    look = models.JSONField(default=dict)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["user", "job"], name="one_look_for_person_and_job")
        ]


class Destination(Revised):
    """A job's way to one condition: the recipe now, and where it stands among its moments."""

    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="destinations")
    condition = models.ForeignKey(PrintingCondition, on_delete=models.PROTECT)
    recipe = models.JSONField(default=dict)
    """The present recipe, as in the moment at `position`."""
    position = models.PositiveIntegerField(default=0)
    oldest = models.PositiveIntegerField(default=0)
    newest = models.PositiveIntegerField(default=0)
    """Numbers of the first and last moment that is kept."""
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


class Moment(models.Model):
    """A recipe as it was at one point of its history; undo and redo go from one to the next."""

    destination = models.ForeignKey(Destination, on_delete=models.CASCADE, related_name="moments")
    number = models.PositiveIntegerField()
    recipe = models.JSONField()
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["number"]
        constraints = [
            models.UniqueConstraint(fields=["destination", "number"], name="one_moment_a_number")
        ]
