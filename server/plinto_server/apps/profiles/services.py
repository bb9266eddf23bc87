"""Store profiles and find them again."""

from __future__ import annotations

from functools import lru_cache
from typing import Any

from plinto_core.errors import BadProfile
from plinto_core.icc import Profile
from plinto_core.icc.spaces import CLASSES
from plinto_core.transform.working_spaces import SPACES, standard_profile
from plinto_server import store
from plinto_server.apps.profiles.models import StoredProfile

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
