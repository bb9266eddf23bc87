from __future__ import annotations

from django.db import models

from plinto_server.apps.jobs.models import Destination


class Run(models.Model):
    """One delivery: the recipe it was started with, how far it is, what came out."""

    WAITING, RUNNING, DONE, FAILED, CANCELLED = "waiting", "running", "done", "failed", "cancelled"

    destination = models.ForeignKey(Destination, on_delete=models.CASCADE, related_name="runs")
    recipe = models.JSONField()
    file_name = models.CharField(max_length=255)
    state = models.CharField(max_length=10, default=WAITING, db_index=True)
    progress = models.FloatField(default=0.0)
    cancel_requested = models.BooleanField(default=False)
    attempts = models.PositiveIntegerField(default=0)
    task_id = models.CharField(max_length=64, default="", blank=True)
    heartbeat = models.DateTimeField(null=True)
    started = models.DateTimeField(null=True)
    finished = models.DateTimeField(null=True)
    result_sha256 = models.CharField(max_length=64, default="", blank=True)
    result_size = models.BigIntegerField(default=0)
    report = models.JSONField(default=dict)
    error = models.TextField(default="", blank=True)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["-created", "-id"]
