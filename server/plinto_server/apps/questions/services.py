"""Who answers which question, with parts found for a person."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from django.contrib.auth.models import User

from plinto_core.errors import BadInput, BadProfile
from plinto_core.icc import Profile
from plinto_core.icc.parts import why_not_examined
from plinto_core.questions.answer import Answer
from plinto_core.questions.asked import AskedPart, Question
from plinto_core.questions.picture import which_suits
from plinto_core.questions.profiles import greys_grey, reaches_total, step_tones
from plinto_core.questions.proofing import can_show, still_alike
from plinto_core.recipes import parse_recipe
from plinto_server import access
from plinto_server.apps.jobs.figures import small_picture
from plinto_server.apps.jobs.models import Job
from plinto_server.apps.jobs.services import source_of
from plinto_server.apps.profiles.models import StoredProfile
from plinto_server.apps.profiles.services import load_profile
from plinto_server.errors import Conflict

EDGE = 120
"""Pixels of the longer side of a picture that is asked about: both destinations with every intent."""


def answer(user: User, asked: Question, given: Mapping[str, str]) -> Answer:
    """The answer to a question; raises BadInput where a part is missing or is none of the person's."""
    parts = {p.key: _part(user, p, given.get(p.key, "")) for p in asked.parts}
    found = _ask(asked.key, parts)
    names = {p.name: _said(p, given, parts) for p in asked.parts}
    return found.model_copy(update={"parts": names})


def _ask(key: str, parts: dict[str, Any]) -> Answer:
    if key == "show":
        return can_show(parts["press"], parts["proofer"])
    if key == "suit":
        device, shape, source = _picture(parts["picture"])
        return which_suits(device, shape, source, parts["first"], parts["second"])
    if key == "alike":
        return still_alike(parts["first"], parts["second"], parts["mean"])
    if key == "tones":
        return step_tones(
            parts["source"], parts["destination"], parts["intent"], bpc=parts["bpc"] == "on"
        )
    if key == "total":
        return reaches_total(parts["profile"], parts["asked"])
    return greys_grey(parts["profile"], parts["intent"], bpc=parts["bpc"] == "on")


def _part(user: User, part: AskedPart, given: str) -> Any:
    text = given or part.start
    if not text:
        raise BadInput(f"{part.name}: nothing was chosen.", remedy="Choose what plays this part.")
    if part.kind == "choice":
        if text not in part.choices:
            raise BadInput(f"{part.name}: there is no {text[:40]!r}.")
        return text
    try:
        value = float(text)
    except ValueError:
        raise BadInput(f"{part.name}: {text[:40]!r} is not a number.") from None
    if part.kind == "number":
        if not part.low <= value <= part.high:
            raise BadInput(f"{part.name} lies between {part.low:g} and {part.high:g} {part.unit}.")
        return value
    if not 0 < value < 2**31 or value != int(value):
        raise BadInput(f"{part.name}: {text[:40]!r} is not known here.")
    return (
        _profile(user, part, int(value)) if part.kind == "profile" else _job(user, part, int(value))
    )


def _profile(user: User, part: AskedPart, pk: int) -> Profile:
    stored = access.mine(user, StoredProfile).filter(pk=pk).first()
    if stored is None:
        raise BadInput(f"{part.name}: the profile is not in your library.")
    profile = load_profile(stored.sha256)
    reason = why_not_examined(profile)
    if reason:
        raise BadProfile(f"{part.name}: {profile.description!r} cannot be asked: {reason}.")
    return profile


def _job(user: User, part: AskedPart, pk: int) -> Job:
    job = access.mine(user, Job).filter(pk=pk).first()
    if job is None:
        raise BadInput(f"{part.name}: the job is not yours, or is gone.")
    return job


def _picture(job: Job) -> tuple[Any, tuple[int, int], Profile]:
    destination = job.destinations.select_related("job__artwork").order_by("pk").first()
    if destination is None:
        raise Conflict("The job goes to no condition yet, so nothing says what its colours mean.")
    device, _, shape = small_picture(destination, EDGE)
    recipe = parse_recipe(destination.recipe)
    if recipe.negative:
        device = 1.0 - device
    return device, shape, source_of(job.artwork, recipe).profile


def _said(part: AskedPart, given: Mapping[str, str], parts: dict[str, Any]) -> str:
    value = parts[part.key]
    if isinstance(value, Profile):
        return value.description
    if isinstance(value, Job):
        return value.name
    return f"{given.get(part.key) or part.start} {part.unit}".strip()
