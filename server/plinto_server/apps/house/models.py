from __future__ import annotations

from django.conf import settings
from django.db import models


class HouseRuleSet(models.Model):
    """A named set of house rules; at most one of an owner's sets is in force."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    name = models.CharField(max_length=100)
    rules = models.JSONField()
    active = models.BooleanField(default=False)
    updated = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["name", "id"]
        constraints = [
            models.UniqueConstraint(fields=["owner", "name"], name="house_rules_by_name"),
            models.UniqueConstraint(
                fields=["owner"], condition=models.Q(active=True), name="one_set_in_force"
            ),
        ]


class InkRuleSet(models.Model):
    """Ink rules under a name, to be used again."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    name = models.CharField(max_length=200)
    rules = models.JSONField()
    updated = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["name", "id"]
        constraints = [models.UniqueConstraint(fields=["owner", "name"], name="ink_rules_by_name")]
