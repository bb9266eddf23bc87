"""Whose is what: the one place that decides which rows a person may see and use."""

from __future__ import annotations

from typing import Any, TypeVar

from django.contrib.auth.models import User
from django.db.models import Model, Q, QuerySet
from django.shortcuts import get_object_or_404
from rest_framework import exceptions
from rest_framework.request import Request

Row = TypeVar("Row", bound=Model)

OWNERS: dict[str, str | None] = {
    "artwork.Artwork": "owner",
    "builds.ProfileBuild": "owner",
    "conditions.PrintingCondition": "owner",
    "folders.FolderFile": "folder__owner",
    "folders.WatchedFolder": "owner",
    "house.HouseRuleSet": "owner",
    "house.InkRuleSet": "owner",
    "jobs.Destination": "job__owner",
    "jobs.Job": "owner",
    "paths.KeptPath": "owner",
    "paths.SwatchList": "owner",
    "policies.Document": "owner",
    "policies.Policy": "owner",
    "policies.PolicyComparison": "owner",
    "policies.PolicyRun": "document__owner",
    "printers.Medium": "printer__owner",
    "printers.Printer": "owner",
    "printers.PrintJob": "owner",
    "profiles.ColourTable": "holders",
    "profiles.KeptAim": "owner",
    "profiles.StoredProfile": "holders",
    "proofs.ProofPrint": "owner",
    "proofs.ProofReading": "proof__owner",
    "proofs.ToleranceSet": "owner",
    "queue.Run": "destination__job__owner",
}
"""By model: the way from a row to its owner; None where everybody of the house uses it."""
COMMON = {
    "profiles.StoredProfile": Q(origin__in=("standard", "shipped")),
    "conditions.PrintingCondition": Q(owner=None),
}
"""What everybody uses beside what is one's own."""


def person(request: Request) -> User:
    """The person who asks; raises NotAuthenticated where nobody has signed in."""
    if not isinstance(request.user, User):
        raise exceptions.NotAuthenticated
    return request.user


def mine(
    user: Any, model: type[Row], rows: QuerySet[Row] | None = None, *, retired: bool = False
) -> QuerySet[Row]:
    """The rows of a model that a person may use; what was removed is not among them, unless retired
    ones are asked for, which what leans on them goes on using."""
    found: QuerySet[Row] = model._default_manager.all() if rows is None else rows
    way = OWNERS[model._meta.label]
    if way is not None:
        allowed = Q(**{way: user}) | COMMON.get(model._meta.label, Q(pk__in=[]))
        found = found.filter(allowed)
        if way == "holders":
            found = found.distinct()
    if not retired and any(f.name == "removed" for f in model._meta.get_fields()):
        found = found.filter(removed__isnull=True)
    return found


def own(user: Any, model: type[Row], pk: int, rows: QuerySet[Row] | None = None) -> Row:
    """One row that a person may use; anything else is not found, so that nothing is told of it."""
    return get_object_or_404(mine(user, model, rows), pk=pk)


def owned(user: Any, model: type[Row], pk: int, rows: QuerySet[Row] | None = None) -> Row:
    """One row that a person may change: what everybody uses is refused with a remedy."""
    row = own(user, model, pk, rows)
    way = OWNERS[model._meta.label]
    if way == "owner" and getattr(row, "owner_id", None) != user.pk:
        raise exceptions.PermissionDenied(
            "It comes with Plinto and is everybody’s. Make a copy and change that."
        )
    return row
