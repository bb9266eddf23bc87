"""Store profiles and find them again."""

from __future__ import annotations

from functools import lru_cache
from typing import Any

from plinto_core.errors import BadProfile, BadRecipe
from plinto_core.icc import Profile
from plinto_core.icc.spaces import CLASSES
from plinto_core.transform.cube import CubeTable, parse_cube, read_cube
from plinto_core.transform.working_spaces import SPACES, standard_profile
from plinto_server import store
from plinto_server.apps.profiles.models import ColourTable, StoredProfile

STANDARD = (*SPACES, "grey")


def store_profile(data: bytes, origin: str, report: dict[str, Any] | None = None) -> StoredProfile:
    """Keep a profile; the same bytes are kept once. Raises BadProfile for what is none."""
    profile = Profile(data)
    stored, _ = StoredProfile.objects.get_or_create(
        sha256=profile.digest,
        defaults={
            "description": profile.description[:300],
            "colour_space": profile.colour_space.strip(),
            "device_class": CLASSES[profile.header.device_class],
            "origin": origin,
            "report": report or {},
        },
    )
    if not store.path_of(profile.digest).exists():
        store.put_bytes(data)
    return stored


@lru_cache(maxsize=64)
def load_profile(reference: str) -> Profile:
    """A profile by SHA-256 or by the key of a standard space; raises BadProfile."""
    if reference in STANDARD:
        return standard_profile(reference)
    try:
        path = store.path_of(reference)
    except ValueError as error:
        raise BadProfile("The recipe names a profile that is not known here.") from error
    if not path.exists():
        raise BadProfile(
            "The recipe names a profile that is not in the store.",
            remedy="Upload it, or choose another.",
        )
    return Profile.read(path)


def add_standard_profiles() -> None:
    """Put the generated standard spaces in the list."""
    for key in STANDARD:
        store_profile(standard_profile(key).data, "standard")


def store_table(data: bytes, file_name: str) -> ColourTable:
    """Keep a .cube table; raises BadInput for what is none."""
    table = parse_cube(data)
    kept, _ = ColourTable.objects.get_or_create(
        sha256=table.digest,
        defaults={
            "name": (table.title or file_name)[:200],
            "dimensions": 1 if table.values.ndim == 2 else 3,
            "size": table.size,
        },
    )
    if not store.path_of(table.digest).exists():
        store.put_bytes(data)
    return kept


@lru_cache(maxsize=16)
def load_table(reference: str) -> CubeTable:
    """A .cube table by SHA-256; raises BadRecipe."""
    try:
        path = store.path_of(reference)
    except ValueError as error:
        raise BadRecipe("The recipe names a colour table that is not known here.") from error
    if not path.exists():
        raise BadRecipe(
            "The recipe names a colour table that is not in the store.", remedy="Upload it again."
        )
    return read_cube(path)
