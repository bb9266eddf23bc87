"""What every row of long work keeps, of whatever kind."""

from __future__ import annotations

from django.db import models


class WatchedWork(models.Model):
    """Long work in a worker: how far it is, and the heart that tells it from a killed one."""

    WAITING, HELD, RUNNING = "waiting", "held", "running"
    DONE, FAILED, CANCELLED = "done", "failed", "cancelled"
    LOW, NORMAL, URGENT = -1, 0, 1

    state = models.CharField(max_length=10, default=WAITING, db_index=True)
    priority = models.SmallIntegerField(default=NORMAL)
    progress = models.FloatField(default=0.0)
    cancel_requested = models.BooleanField(default=False)
    attempts = models.PositiveIntegerField(default=0)
    task_id = models.CharField(max_length=64, default="", blank=True)
    beats = models.PositiveBigIntegerField(default=0)
    """counted up while it is worked on: clocks may jump, counts do not"""
    started = models.DateTimeField(null=True)
    finished = models.DateTimeField(null=True)
    result_sha256 = models.CharField(max_length=64, default="", blank=True)
    result_size = models.BigIntegerField(default=0)
    report = models.JSONField(default=dict)
    error = models.TextField(default="", blank=True)
    created = models.DateTimeField(auto_now_add=True)

    class Meta:
        abstract = True
        ordering = ["-created", "-id"]

    @property
    def has_ended(self) -> bool:
        return self.state in (self.DONE, self.FAILED, self.CANCELLED)
