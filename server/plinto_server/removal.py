"""Removing things so that nothing breaks and nothing is gone: what leans on them is named first.

A removed row stays in the database. What uses it goes on using it, the record of past work keeps its
names, and the removal can be undone.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

from django.db import models
from django.shortcuts import get_object_or_404
from django.utils import timezone
from rest_framework import serializers

from plinto_server import access


class Removable(models.Model):
    """removed : when it was taken out of the lists, None while it is in them."""

    removed = models.DateTimeField(null=True, blank=True)

    class Meta:
        abstract = True

    @property
    def retired(self) -> bool:
        return self.removed is not None


@dataclass(frozen=True)
class Use:
    """kind : what uses it ("medium", …); name : as people know it; place : where to see it."""

    kind: str
    name: str
    place: str


class UseData(serializers.Serializer):
    kind = serializers.CharField()
    name = serializers.CharField()
    place = serializers.CharField()


Asking = Callable[[Any, Any], list[Use]]
"""Row and person to what of that person's leans on the row."""
_ASKED: dict[type[models.Model], list[Asking]] = {}


def leans(model: type[models.Model], asking: Asking) -> None:
    """Make known who may lean on rows of a model; called when an app is ready."""
    _ASKED.setdefault(model, []).append(asking)


def uses(row: models.Model, user: Any) -> list[Use]:
    """Everything of a person's that leans on a row."""
    return [use for asking in _ASKED.get(type(row), []) for use in asking(row, user)]


def remove(row: Removable) -> None:
    """Take a row out of the lists; whoever leans on it keeps it."""
    row.removed = timezone.now()
    row.save(update_fields=["removed"])


def restore(user: Any, model: type[Removable], pk: int) -> Any:
    """Undo a removal; raises Http404 for a row that is not one's own."""
    way = access.OWNERS[model._meta.label]
    row = get_object_or_404(model._default_manager.filter(**{str(way): user}), pk=pk)
    row.removed = None
    row.save(update_fields=["removed"])
    return row
