"""Build profiles from measurements: taken in and checked at once, built by a worker."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.contrib.auth.models import User
from django.db import transaction

from plinto_core.arrays import Progress
from plinto_core.characterise.build import build_profile
from plinto_core.characterise.report import BuildReport
from plinto_core.characterise.settings import parse_settings
from plinto_core.inks.rules import parse_ink_rules
from plinto_core.measurement.cgats import decode
from plinto_core.measurement.characterisation import Characterisation, characterisation_from_text
from plinto_server import store
from plinto_server.apps.builds.models import ProfileBuild
from plinto_server.apps.profiles.services import store_profile
from plinto_server.apps.work.acts import enqueue
from plinto_server.apps.work.kinds import Described

LARGEST = 32 << 20
"""Bytes of a file of measurements: 100,000 patches with spectra fit."""


@transaction.atomic
def start_build(
    owner: User, data: bytes, file_name: str, *, rules: Any, description: str, settings: Any
) -> ProfileBuild:
    """Check measurements and queue the build of a profile; raises BadMeasurement or BadRecipe.

    settings : of BuildSettings, but for the description.
    """
    measured = characterisation_from_text(decode(data))
    name = " ".join(description.split()) or Path(file_name).stem
    title = name[:200].encode("ascii", "replace").decode()
    build = parse_settings({**settings, "description": title})
    work = ProfileBuild.objects.create(
        owner=owner,
        file_name=Path(file_name).name[:255],
        sha256=store.put_bytes(data),
        patches=len(measured.device),
        rules=parse_ink_rules(rules).model_dump(mode="json"),
        build=build.model_dump(mode="json"),
    )
    enqueue(work)
    return work


def build(work: ProfileBuild, target: Path, progress: Progress) -> BuildReport:
    """What a worker does: the profile goes into its owner's library."""
    data = store.path_of(work.sha256).read_bytes()
    measured: Characterisation = characterisation_from_text(decode(data))
    result = build_profile(
        measured, parse_ink_rules(work.rules), parse_settings(work.build), progress=progress
    )
    stored = store_profile(
        result.data, "built", result.report.model_dump(mode="json"), holder=work.owner
    )
    ProfileBuild.objects.filter(pk=work.pk).update(profile=stored)
    target.write_bytes(result.data)
    return result.report


def described(work: ProfileBuild) -> Described:
    """A build as the queue shows it."""
    name = work.build.get("description", "")
    place = f"/profiles/{work.profile_id}" if work.profile_id else "/conditions"
    detail = f"Profile built from {work.patches} patches of {work.file_name}"
    settings = {"ink_rules": work.rules, "build": work.build}
    return Described(name, detail, place, f"{name or 'profile'}.icc", settings)
