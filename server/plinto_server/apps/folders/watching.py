"""Looks into the watched folders again and again; a file is taken once it has stopped growing."""

from __future__ import annotations

import logging
import threading
import time
from pathlib import Path

from django.db import DatabaseError, close_old_connections

from plinto_core.errors import CoreError
from plinto_server.apps.folders.models import FolderFile, WatchedFolder
from plinto_server.apps.folders.services import file_away, make_places, take_in

log = logging.getLogger("plinto")
SETTLED = 2.0
"""Seconds that size and time of a file must stay the same."""
EVERY = 0.7
_UNFINISHED = (".part", ".tmp", ".crdownload", ".filepart")
Seen = dict[Path, tuple[int, int, float]]


class FolderWatch:
    """Remembers when each file was last seen to change."""

    def __init__(self, settled: float = SETTLED) -> None:
        self._settled = settled
        self._seen: Seen = {}
        self._stop = threading.Event()

    def look(self) -> list[FolderFile]:
        """One look into every active folder; returns what was taken in."""
        taken: list[FolderFile] = []
        present: set[Path] = set()
        for folder in WatchedFolder.objects.filter(active=True, removed=None).select_related(
            "policy", "medium"
        ):
            make_places(folder)
            for path in sorted(folder.part("in").iterdir()):
                present.add(path)
                if _is_candidate(path) and self._has_settled(path):
                    row = self._take(folder, path)
                    if row is not None:
                        taken.append(row)
        self._seen = {p: v for p, v in self._seen.items() if p in present}
        for row in FolderFile.objects.filter(
            filed=False, state__in=[FolderFile.DONE, FolderFile.FAILED, FolderFile.CANCELLED]
        ).select_related("folder__owner", "medium__printer", "medium__condition__profile"):
            try:
                file_away(row)
            except OSError as error:
                # One file that cannot be filed must not keep the others waiting.
                log.warning("%s cannot be filed: %s", row.name, error)
        return taken

    def _has_settled(self, path: Path) -> bool:
        try:
            stat = path.stat()
        except OSError:
            return False
        now = time.monotonic()
        known = self._seen.get(path)
        if known is None or known[:2] != (stat.st_size, stat.st_mtime_ns):
            self._seen[path] = (stat.st_size, stat.st_mtime_ns, now)
            return self._settled <= 0
        return now - known[2] >= self._settled

    def _take(self, folder: WatchedFolder, path: Path) -> FolderFile | None:
        try:
            return take_in(folder, path)
        except OSError as error:
            # Not readable yet, or gone again: the next look decides.
            log.warning("%s cannot be taken in: %s", path.name, error)
        except CoreError as error:
            log.warning("%s cannot be taken in: %s", path.name, error)
        return None

    def run(self) -> None:
        """Look until told to stop."""
        while not self._stop.wait(EVERY):
            try:
                self.look()
            except (OSError, DatabaseError):
                log.exception("looking into the watched folders failed; it is tried again")
            finally:
                close_old_connections()

    def start(self) -> threading.Thread:
        thread = threading.Thread(target=self.run, daemon=True, name="folders")
        thread.start()
        return thread

    def stop(self) -> None:
        self._stop.set()


def _is_candidate(path: Path) -> bool:
    """Plain files under finished names; links could lead out of the folder."""
    name = path.name.lower()
    return (
        not name.startswith((".", "~"))
        and not name.endswith(_UNFINISHED)
        and not path.is_symlink()
        and path.is_file()
    )
