from __future__ import annotations

from pathlib import Path

from django.conf import settings
from django.db import models

from plinto_server.apps.policies.models import Policy
from plinto_server.apps.printers.models import Medium
from plinto_server.apps.work.models import WatchedWork
from plinto_server.removal import Removable
from plinto_server.revisions import Revised


class WatchedFolder(Revised, Removable):
    """A folder whose files run through a policy, and on to a printer where one is named."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    name = models.CharField(max_length=100)
    slug = models.SlugField(max_length=120, unique=True)
    policy = models.ForeignKey(Policy, null=True, blank=True, on_delete=models.SET_NULL)
    medium = models.ForeignKey(Medium, null=True, blank=True, on_delete=models.SET_NULL)
    active = models.BooleanField(default=True)
    repeats = models.CharField(max_length=4, default="skip")
    """skip or run: what happens to a file that came before, byte for byte"""
    trouble = models.TextField(default="", blank=True)
    """why the folder, or a file of it, cannot be worked on just now"""

    class Meta:
        ordering = ["name", "id"]

    @property
    def root(self) -> Path:
        return Path(settings.FOLDERS) / self.slug

    def part(self, name: str) -> Path:
        """in, out, failed or originals."""
        return self.root / name


class FolderFile(WatchedWork):
    """A file that came into a folder, with the policy as it was then.

    stamp : the file's time in nanoseconds, so that it is known again after a restart; filed : what
    became of it lies in its folder; note : what else is to be said.
    """

    folder = models.ForeignKey(WatchedFolder, on_delete=models.CASCADE, related_name="files")
    name = models.CharField(max_length=255)
    sha256 = models.CharField(max_length=64)
    size = models.BigIntegerField()
    stamp = models.BigIntegerField()
    policy = models.JSONField()
    out_name = models.CharField(max_length=255)
    medium = models.ForeignKey(Medium, null=True, on_delete=models.SET_NULL)
    filed = models.BooleanField(default=False)
    note = models.TextField(default="", blank=True)

    class Meta(WatchedWork.Meta):
        abstract = False
        constraints = [
            models.UniqueConstraint(
                fields=["folder", "name", "sha256", "stamp"], name="one_row_for_one_file"
            )
        ]
