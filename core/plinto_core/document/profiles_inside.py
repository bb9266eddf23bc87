"""Profiles in files of every kind: ICC profiles, archives of them, pictures, PDFs."""

from __future__ import annotations

import lzma
import struct
import zipfile
import zlib
from collections.abc import Iterator
from pathlib import Path

import pikepdf

from plinto_core.document.pdf.bounds import MOST_OF_A_PROFILE, read_bounded
from plinto_core.document.pdf.opening import is_pdf, open_document
from plinto_core.errors import BadProfile, CoreError
from plinto_core.icc.profile import Profile
from plinto_core.imaging.reader import open_picture
from plinto_core.words import say

MOST_ENTRIES = 2000
MOST_BYTES = 512 << 20
"""Entries and unpacked bytes of an archive that are looked at; a profile has rarely more than 10 MB."""
LARGEST = 64 << 20


def profiles_inside(path: Path, name: str) -> list[tuple[str, Profile]]:
    """(place, profile) for every profile in a file, each content once.

    path : where the bytes lie; name : what the file is called. Raises BadProfile where there is none,
    or where the file is an archive too large to be looked through.
    """
    head = _head(path)
    if head[36:40] == b"acsp":
        return [(name, Profile.read(path))]
    if zipfile.is_zipfile(path):
        found = list(_in_archive(path))
    elif is_pdf(path):
        found = list(_in_document(path))
    else:
        found = list(_in_picture(path, name))
    once: dict[str, tuple[str, Profile]] = {}
    for place, profile in found:
        once.setdefault(profile.digest, (place, profile))
    if not once:
        raise BadProfile(say("document.no-profile-inside", file=name))
    return list(once.values())


def _head(path: Path) -> bytes:
    try:
        with path.open("rb") as file:
            return file.read(132)
    except OSError as error:
        raise BadProfile(say("document.profile-file-unreadable", file=path.name)) from error


def _in_archive(path: Path) -> Iterator[tuple[str, Profile]]:
    try:
        with zipfile.ZipFile(path) as archive:
            entries = [e for e in archive.infolist() if not e.is_dir()]
            if len(entries) > MOST_ENTRIES or sum(e.file_size for e in entries) > MOST_BYTES:
                raise BadProfile(say("document.archive-large", most=MOST_ENTRIES))
            for entry in entries:
                if entry.file_size > LARGEST or entry.flag_bits & 1:
                    continue
                with archive.open(entry) as file:
                    if file.read(132)[36:40] != b"acsp":
                        continue
                # What an archive says of a size need not be true: no more than that is unpacked.
                with archive.open(entry) as file:
                    data = file.read(LARGEST + 1)
                found = _parsed(data)
                if found is not None:
                    yield entry.filename, found
    except (
        zipfile.BadZipFile, EOFError, OSError, ValueError, NotImplementedError, RuntimeError,
        zlib.error, lzma.LZMAError, struct.error,
    ) as error:  # fmt: skip
        raise BadProfile(say("document.archive-damaged")) from error


def _in_document(path: Path) -> Iterator[tuple[str, Profile]]:
    with open_document(path) as pdf:
        for thing in pdf.objects:
            # Profiles state how many channels they have; nothing else of a PDF does so with N alone.
            if not isinstance(thing, pikepdf.Stream) or "/N" not in thing:
                continue
            try:
                data = read_bounded(thing, MOST_OF_A_PROFILE, "A profile")
            except (CoreError, pikepdf.PdfError, RuntimeError, MemoryError):
                continue
            found = _parsed(data) if data[36:40] == b"acsp" and len(data) <= LARGEST else None
            if found is not None:
                yield f"object {thing.objgen[0]}", found


def _in_picture(path: Path, name: str) -> Iterator[tuple[str, Profile]]:
    try:
        with open_picture(path, name=name) as picture:
            data = picture.facts.profile
    except CoreError:
        return
    found = _parsed(data) if data else None
    if found is not None:
        yield name, found


def _parsed(data: bytes) -> Profile | None:
    try:
        return Profile(data)
    except BadProfile:
        return None
