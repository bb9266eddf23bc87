from __future__ import annotations

from typing import Any

from django.conf import settings
from django.db import models

from plinto_server.apps.work.models import WatchedWork
from plinto_server.removal import Removable
from plinto_server.revisions import Revised


class Policy(Revised, Removable):
    """A named output policy with every version it had."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    name = models.CharField(max_length=100)
    versions = models.JSONField(default=list)
    updated = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ["name", "id"]

    @property
    def present(self) -> dict[str, Any]:
        return dict(self.versions[-1])


class Document(models.Model):
    """A PDF or a picture that policies are tried and run on; it lies in the store, never changed."""

    PDF, PICTURE = "pdf", "picture"

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    file_name = models.CharField(max_length=255)
    sha256 = models.CharField(max_length=64)
    size = models.BigIntegerField()
    pages = models.PositiveIntegerField()
    kind = models.CharField(max_length=8, default=PDF)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-created", "-id"]


class PolicyRun(WatchedWork):
    """A policy on a document, dry or for real, with the policy as it was then."""

    document = models.ForeignKey(Document, on_delete=models.CASCADE, related_name="runs")
    policy = models.JSONField()
    dry = models.BooleanField(default=True)
    file_name = models.CharField(max_length=255)

    class Meta(WatchedWork.Meta):
        abstract = False


class PolicyComparison(WatchedWork):
    """Two policies tried dry on the same documents, to see what would come out differently."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    before = models.JSONField()
    after = models.JSONField()
    documents = models.ManyToManyField(Document)

    class Meta(WatchedWork.Meta):
        abstract = False
