"""What a process of the server knows of itself: its memory, and whether the one that began it lives."""

from __future__ import annotations

import os
import threading
import time


def resident_memory() -> int:
    """Bytes of memory this process holds, 0 where the system does not say."""
    try:
        with open("/proc/self/statm", "rb") as file:
            return int(file.read().split()[1]) * os.sysconf("SC_PAGE_SIZE")
    except (OSError, ValueError, IndexError):
        return 0


def die_with(parent: int) -> None:
    """End this process when its parent is gone, so that workers of a killed server do not pile up."""

    def look() -> None:
        while os.getppid() == parent:
            time.sleep(0.5)
        os._exit(0)

    threading.Thread(target=look, daemon=True).start()
