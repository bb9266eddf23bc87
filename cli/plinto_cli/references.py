"""What a recipe refers to, found for the command line: in folders, in a package, in the store."""

from __future__ import annotations

import lzma
import os
import struct
import tempfile
import zipfile
import zlib
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from pathlib import Path

from plinto_cli.files import resolve_profile
from plinto_core.errors import BadInput
from plinto_core.icc import Profile
from plinto_core.transform.cube import CubeTable, read_cube

_MOST_FILES = 64
_MOST_BYTES = 512 << 20
_DAMAGED = (
    zipfile.BadZipFile, zlib.error, lzma.LZMAError, struct.error, NotImplementedError, RuntimeError,
    OSError, EOFError, ValueError,
)  # fmt: skip
"""What unpacking a damaged or hostile archive raises."""


def _places(reference: str, folders: Sequence[str | None], suffix: str) -> Iterator[Path]:
    for folder in folders:
        if folder:
            yield Path(folder) / f"{reference}{suffix}"
    data = Path(os.environ.get("PLINTO_DATA", "var"))
    if len(reference) == 64 and reference.isalnum():
        yield data / "store" / reference[:2] / reference


def referenced_profile(reference: str, *, folders: Sequence[str | None] = ()) -> Profile:
    """By SHA-256 in the folders or Plinto's own store, else by path or standard name."""
    for path in _places(reference, folders, ".icc"):
        if path.is_file():
            return Profile.read(path)
    return resolve_profile(reference)


def referenced_table(reference: str, *, folders: Sequence[str | None] = ()) -> CubeTable:
    """A .cube table by SHA-256 in the folders or the store, else by path."""
    for path in _places(reference, folders, ".cube"):
        if path.is_file():
            return read_cube(path)
    return read_cube(reference)


@contextmanager
def unpacked(path: str) -> Iterator[tuple[str, str | None]]:
    """The recipe's path and the folder of what it refers to; a ZIP is unpacked for the while."""
    if not zipfile.is_zipfile(path):
        yield path, None
        return
    with tempfile.TemporaryDirectory(prefix="plinto-") as folder:
        try:
            with zipfile.ZipFile(path) as archive:
                entries = archive.infolist()
                if len(entries) > _MOST_FILES or sum(e.file_size for e in entries) > _MOST_BYTES:
                    raise BadInput(f"The recipe package {path} is too large.")
                for entry in entries:
                    name = Path(entry.filename).name
                    if name:
                        (Path(folder) / name).write_bytes(archive.read(entry))
        except _DAMAGED as error:
            raise BadInput(
                f"The recipe package {path} is damaged.", remedy="Export it again."
            ) from error
        yield str(Path(folder) / "recipe.json"), folder
