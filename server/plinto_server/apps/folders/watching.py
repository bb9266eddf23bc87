"""Looks into the watched folders again and again; a file is taken once it has stopped growing."""

from __future__ import annotations

import logging
import threading
import time
from pathlib import Path

from django.db import close_old_connections

from plinto_core.errors import CoreError
from plinto_server.apps.folders.models import FolderFile, WatchedFolder
from plinto_server.apps.folders.services import file_away, make_places, plain_name, take_in
from plinto_server.errors import of_the_place
from plinto_server.health import beat

log = logging.getLogger("plinto")
SETTLED = 2.0
"""Seconds that size and time of a file must stay the same."""
EVERY = 0.7
_UNFILED = " cannot be filed: "
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
            trouble = ""
            try:
                make_places(folder)
                for path in sorted(folder.part("in").iterdir()):
                    present.add(path)
                    if _is_candidate(path) and self._has_settled(path):
                        row, why = self._take(folder, path)
                        taken += [] if row is None else [row]
                        trouble = trouble or why
            except Exception as error:  # noqa: BLE001  whatever it is, it is told
                # One folder's trouble is its own.
                trouble = f"The folder cannot be looked into: {_why(error)}"
            self._tell(folder, trouble)
        self._seen = {p: v for p, v in self._seen.items() if p in present}
        self._file_away()
        return taken

    def _tell(self, folder: WatchedFolder, trouble: str) -> None:
        """Show it on the folder's page; in the log it stands once and not at every look."""
        if trouble != folder.trouble:
            if trouble:
                log.warning("folder %s: %s", folder.name, trouble)
            WatchedFolder.objects.filter(pk=folder.pk).update(trouble=trouble)

    def _file_away(self) -> None:
        for row in FolderFile.objects.filter(
            filed=False, state__in=[FolderFile.DONE, FolderFile.FAILED, FolderFile.CANCELLED]
        ).select_related("folder__owner", "medium__printer", "medium__condition__profile"):
            trouble = ""
            try:
                file_away(row)
            except Exception as error:  # noqa: BLE001  whatever it is, it is told
                # One file that cannot be filed must not keep the others waiting.
                trouble = f"{row.name}{_UNFILED}{_why(error)}"
            if trouble and trouble != row.note:
                log.warning("folder %s: %s", row.folder.name, trouble)
            if trouble or _UNFILED in row.note:
                FolderFile.objects.filter(pk=row.pk, note=row.note).update(note=trouble)

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

    def _take(self, folder: WatchedFolder, path: Path) -> tuple[FolderFile | None, str]:
        """The file's row, or why it has none: not readable yet, gone again, or refused."""
        try:
            return take_in(folder, path), ""
        except FileNotFoundError:
            return None, ""
        except Exception as error:  # noqa: BLE001  whatever it is, it is told
            return None, f"{plain_name(path.name)} cannot be taken in: {_why(error)}"

    def run(self) -> None:
        """Look until told to stop."""
        while not self._stop.wait(EVERY):
            try:
                beat("folders")
                self.look()
            except Exception:
                log.exception("looking into the watched folders failed; it is tried again")
            finally:
                close_old_connections()

    def start(self) -> threading.Thread:
        thread = threading.Thread(target=self.run, daemon=True, name="folders")
        thread.start()
        return thread

    def stop(self) -> None:
        self._stop.set()


def _why(error: Exception) -> str:
    told = of_the_place(error)
    if told is not None or isinstance(error, CoreError):
        return str(told or error)
    return str(getattr(error, "strerror", None) or type(error).__name__) + "."


def _is_candidate(path: Path) -> bool:
    """Plain files under finished names; links could lead out of the folder."""
    name = path.name.lower()
    return (
        not name.startswith((".", "~"))
        and not name.endswith(_UNFINISHED)
        and not path.is_symlink()
        and path.is_file()
    )
