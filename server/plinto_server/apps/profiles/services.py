"""Store profiles and find them again."""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache
from pathlib import Path
from typing import Any

from django.contrib.auth.models import User
from django.db import transaction
from django.db.models import Q
from django.shortcuts import get_object_or_404

from plinto_core.document.profiles_inside import profiles_inside
from plinto_core.errors import BadProfile, BadRecipe, CoreError
from plinto_core.examination.brief import brief_facts
from plinto_core.examination.editing import renamed, repaired, with_tags
from plinto_core.icc import Profile
from plinto_core.icc.parts import MOST_INKS, Part, judge_part, parts_of
from plinto_core.icc.spaces import CHANNELS, CLASSES, is_subtractive
from plinto_core.inks.ink_set import InkSet
from plinto_core.transform.cube import CubeTable, parse_cube, read_cube
from plinto_core.transform.standard_spaces import SPACES, standard_profile
from plinto_server import access, store
from plinto_server.apps.profiles.models import ColourTable, StoredProfile
from plinto_server.errors import Conflict
from plinto_server.removal import uses

STANDARD = (*SPACES, "grey")


def store_profile(
    data: bytes,
    origin: str,
    report: dict[str, Any] | None = None,
    *,
    holder: User | None = None,
) -> StoredProfile:
    """Keep a profile; the same bytes are kept once. Raises BadProfile for what is none.

    holder : whose it is; without one everybody of the house may use it.
    """
    profile = Profile(data)
    stored, _ = StoredProfile.objects.get_or_create(
        sha256=profile.digest,
        defaults={
            "description": profile.description[:300],
            "colour_space": profile.colour_space.strip(),
            "device_class": CLASSES[profile.header.device_class],
            "origin": origin,
            "report": report or {},
            "parts": list(parts_of(profile)),
            "facts": brief_facts(profile),
        },
    )
    if holder is not None:
        stored.holders.add(holder)
        stored.former.remove(holder)
    elif stored.origin not in ("standard", "shipped") and origin in ("standard", "shipped"):
        stored.origin = origin
        stored.save(update_fields=["origin"])
    if not store.path_of(profile.digest).exists():
        store.put_bytes(data)
    return stored


def take_file(path: Path, name: str, holder: User) -> list[StoredProfile]:
    """Keep every profile of a file (ICC, archive, picture, PDF); raises BadProfile where none is."""
    return [
        store_profile(profile.data, "uploaded", holder=holder)
        for _, profile in profiles_inside(path, name)
    ]


@transaction.atomic
def forget_profile(user: Any, stored: StoredProfile) -> None:
    """Take a profile out of a person's library; raises Conflict where it is leaned on.

    The bytes stay in the store: kept recipes run on.
    """
    if not stored.holders.filter(pk=user.pk).exists():
        raise Conflict("It comes with Plinto and stays in everybody’s library.")
    leaning = uses(stored, user)
    if leaning:
        names = ", ".join(f"{u.kind} {u.name!r}" for u in leaning[:5])
        raise Conflict(f"It is the profile of {names}. Replace it there, or retire them first.")
    stored.holders.remove(user)
    stored.former.add(user)


def restore_profile(user: Any, pk: int) -> StoredProfile:
    """Undo that; raises Http404 for one that was never in the person's library."""
    stored = get_object_or_404(StoredProfile, pk=pk, former=user)
    stored.former.remove(user)
    stored.holders.add(user)
    return stored


def edit_profile(
    user: User, stored: StoredProfile, *, description: str | None,
    tags: Mapping[str, StoredProfile], repair: bool,
) -> tuple[StoredProfile, list[str]]:  # fmt: skip
    """A changed copy of a profile, and what was done in words; raises BadProfile, or Conflict where
    nothing would change."""
    profile = load_profile(stored.sha256)
    done: list[str] = []
    if repair:
        profile, done = repaired(profile)
    if tags:
        profile = with_tags(profile, {n: load_profile(p.sha256) for n, p in tags.items()})
        done += [f"{n} was taken from {p.description!r}." for n, p in tags.items()]
    if description is not None and description != profile.description:
        profile = renamed(profile, description)
        done.append("The description was changed.")
    if not done:
        raise Conflict("Nothing was to be changed, so no copy was made.")
    return store_profile(profile.data, "edited", holder=user), done


def judge_stored_profiles() -> None:
    """Find out what was not asked of profiles when they were kept: their parts, their facts."""
    for stored in StoredProfile.objects.filter(
        Q(parts=[]) | Q(facts={}) | Q(device_class="device link", facts__gives=None)
    ):
        try:
            profile = load_profile(stored.sha256)
        except BadProfile:
            continue
        stored.parts, stored.facts = list(parts_of(profile)), brief_facts(profile)
        stored.save(update_fields=["parts", "facts"])


def usable_profile(user: Any, reference: str, part: Part | None = None) -> Profile:
    """A profile that a person may refer to, for a part; raises BadProfile.

    What belongs to others is as unknown as what does not exist.
    """
    if reference not in STANDARD:
        known = access.mine(user, StoredProfile).filter(sha256=reference).exists()
        if not known:
            raise BadProfile(
                "The profile is not known here.", remedy="Upload it, or choose another."
            )
    profile = load_profile(reference)
    if part is not None:
        judge_part(profile, part)
    return profile


def usable_table(user: Any, reference: str) -> CubeTable:
    """A .cube table that a person may refer to; raises BadRecipe."""
    if not access.mine(user, ColourTable).filter(sha256=reference).exists():
        raise BadRecipe("The colour table is not known here.", remedy="Upload it again.")
    return load_table(reference)


@lru_cache(maxsize=4096)
def ink_set(sha256: str, colour_space: str, device_class: str) -> InkSet | None:
    """The inks of a stored profile and what each is for; None where its channels are no inks, or where
    nothing says what they print."""
    space = colour_space.ljust(4)
    inks = is_subtractive(space) and CHANNELS[space] <= MOST_INKS
    if not inks or device_class not in ("output", "input"):
        return None
    try:
        return InkSet.of_profile(load_profile(sha256))
    except CoreError:
        return None


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


def store_table(data: bytes, file_name: str, holder: User) -> ColourTable:
    """Keep a person's .cube table; raises BadInput for what is none."""
    table = parse_cube(data)
    kept, _ = ColourTable.objects.get_or_create(
        sha256=table.digest,
        defaults={
            "name": (table.title or file_name)[:200],
            "dimensions": 1 if table.values.ndim == 2 else 3,
            "size": table.size,
        },
    )
    kept.holders.add(holder)
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
