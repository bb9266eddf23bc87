"""What no work may do, whatever document it was given: run on after a cancel, stand still, fill the memory.

Work looks for a cancel at every step of its progress. A hostile or damaged document may hold a step for
hours, so a worker watches itself from a second thread and ends its whole process where a limit is
passed: the operating system takes everything back, and the watch over the workers starts another.
"""

from __future__ import annotations

import os
import time

from django.conf import settings

from plinto_server.processes import resident_memory

GRACE = 2.0
"""Seconds that work has to end by itself after a cancel."""


class Leash:
    """Limits of one piece of work. `step` is called at every step of its progress."""

    def __init__(self) -> None:
        self._moved = time.monotonic()
        self._asked: float | None = None

    def step(self) -> None:
        self._moved = time.monotonic()

    def cancelled(self) -> None:
        """Note that the work was asked to stop."""
        if self._asked is None:
            self._asked = time.monotonic()

    def passed(self) -> str | None:
        """The sentence of the limit that is passed, "" where a cancel is not followed; None for none."""
        now = time.monotonic()
        if self._asked is not None and now - self._asked > GRACE:
            return ""
        if now - self._moved > settings.WORK_MINUTES * 60:
            return (
                f"It stood still for {settings.WORK_MINUTES:g} minutes and was stopped; what it was "
                "given cannot be worked on."
            )
        used = resident_memory()
        if used > settings.WORK_MEMORY:
            return (
                f"It took {used / 2**30:.1f} GB of memory and was stopped; the limit is "
                f"{settings.WORK_MEMORY / 2**30:.1f} GB."
            )
        return None


_own_process = False


def in_own_process() -> None:
    """Say that this process does nothing but work, so that a limit may end it."""
    global _own_process
    _own_process = True


def may_end() -> bool:
    return _own_process


def end() -> None:
    """End the process at once; what it held of the system goes with it."""
    os._exit(71)
