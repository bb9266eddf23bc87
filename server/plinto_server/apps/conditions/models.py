from __future__ import annotations

from typing import Any

from django.conf import settings
from django.db import models

from plinto_core.conditions import PrintingCondition as ConditionFacts
from plinto_core.conditions import parse_condition
from plinto_server.apps.profiles.models import StoredProfile
from plinto_server.removal import Removable
from plinto_server.revisions import Revised


class PrintingCondition(Revised, Removable):
    """A printer or press with its medium, its output profile and its ink rules.

    owner : whose it is; None for those that come with Plinto, which everybody uses and nobody changes.
    """

    owner = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, blank=True, on_delete=models.CASCADE
    )
    key = models.SlugField(unique=True)
    name = models.CharField(max_length=100)
    printer = models.CharField(max_length=100)
    medium = models.CharField(max_length=100)
    mirror = models.BooleanField(default=False)
    profile = models.ForeignKey(StoredProfile, on_delete=models.PROTECT)
    ink_rules = models.JSONField(default=dict)
    process = models.CharField(max_length=20, default="offset")
    """See plinto_core.conditions.PROCESSES."""
    least_dot = models.FloatField(default=0)
    """Percent below which tints vanish on the press."""
    supplies = models.JSONField(default=dict)
    """What inks and medium take and cost, see plinto_core.inks.consumption."""
    ticket = models.JSONField(default=dict)
    """What a print ticket starts with: media, passes, drying_minutes."""
    notes = models.CharField(max_length=2000, default="", blank=True)
    created = models.DateTimeField(auto_now_add=True, null=True)

    class Meta:
        ordering = ["id"]

    @property
    def tac(self) -> float | None:
        """Percent that the inks may reach together, None where its rules do not say."""
        value = self.ink_rules.get("tac")
        return None if value is None else float(value)

    def as_core(self) -> ConditionFacts:
        """The condition as the core knows it; raises BadRecipe."""
        return parse_condition({name: getattr(self, name) for name in ConditionFacts.model_fields})

    def facts(self) -> dict[str, Any]:
        """All that can be changed of it, as data with every part."""
        return self.as_core().model_dump(mode="json")

    def take(self, facts: ConditionFacts) -> None:
        """Lay checked facts over the row; it is not saved."""
        for name, value in facts.model_dump(mode="json").items():
            setattr(self, name, value)
