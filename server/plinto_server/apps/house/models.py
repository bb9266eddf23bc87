from __future__ import annotations

from django.conf import settings
from django.db import models

from plinto_server.removal import Removable
from plinto_server.revisions import Revised


class House(models.Model):
    """The house that runs this installation; one row at most."""

    name = models.CharField(max_length=100)


class HouseRuleSet(Revised, Removable):
    """A named set of house rules; at most one of an owner's sets is in force."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    name = models.CharField(max_length=100)
    rules = models.JSONField()
    active = models.BooleanField(default=False)
    updated = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["name", "id"]
        constraints = [
            models.UniqueConstraint(
                fields=["owner", "name"],
                condition=models.Q(removed__isnull=True),
                name="house_rules_by_name",
            ),
            models.UniqueConstraint(
                fields=["owner"],
                condition=models.Q(active=True, removed__isnull=True),
                name="one_set_in_force",
            ),
        ]


class InkRuleSet(Removable):
    """Ink rules under a name, to be used again."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    name = models.CharField(max_length=200)
    rules = models.JSONField()
    updated = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["name", "id"]
        constraints = [
            models.UniqueConstraint(
                fields=["owner", "name"],
                condition=models.Q(removed__isnull=True),
                name="ink_rules_by_name",
            )
        ]
