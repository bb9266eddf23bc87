from __future__ import annotations

from django.conf import settings
from django.db import models


class Artwork(models.Model):
    """One imported picture, a page of a file. The file itself lies in the store and is never changed."""

    owner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE)
    name = models.CharField(max_length=200)
    file_name = models.CharField(max_length=255)
    sha256 = models.CharField(max_length=64)
    size = models.BigIntegerField()
    page = models.PositiveIntegerField(default=0)
    facts = models.JSONField()
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-created", "-id"]

    @property
    def picture_key(self) -> str:
        """Names the working copy: a file's first page by its hash, others with their number."""
        return self.sha256 if self.page == 0 else f"{self.sha256}-{self.page}"
