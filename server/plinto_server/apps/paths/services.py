"""Paths as they are kept, their steps found, and colours followed along them."""

from __future__ import annotations

import hashlib
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
from django.contrib.auth.models import User
from django.db import transaction

from plinto_core.arrays import Floats
from plinto_core.errors import BadInput, BadRecipe
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import is_subtractive
from plinto_core.inks.rules import parse_ink_rules
from plinto_core.keeping import Kept
from plinto_core.paths.follow import Followed, View, follow
from plinto_core.paths.model import ColourPath, PathStepData, parse_path
from plinto_core.recipes import parse_recipe
from plinto_core.recipes.separating import separation_step
from plinto_core.swatches.ready import device_bar
from plinto_core.swatches.swatches import Swatches, swatches
from plinto_core.transform.path import LAB, NumbersStep, PathStep, Step, reversal
from plinto_server import access
from plinto_server.apps.artwork import working_copy
from plinto_server.apps.conditions.models import PrintingCondition
from plinto_server.apps.house.models import InkRuleSet
from plinto_server.apps.jobs.links import route_of
from plinto_server.apps.jobs.models import Destination, Job
from plinto_server.apps.paths.lists import load, space_of
from plinto_server.apps.paths.models import KeptPath, SwatchList
from plinto_server.apps.profiles.models import StoredProfile
from plinto_server.apps.profiles.services import load_profile, usable_profile, usable_table
from plinto_server.removal import Use
from plinto_server.revisions import merged, settle

_EDGE = 160
"""Longer edge of the picture whose colours stand for it in figures."""


def _bytes(kept: Followed) -> int:
    return sum(v.nbytes for v in (*kept.values, *(c for c in kept.lab if c is not None)))


_FOLLOWED: Kept[str, Followed] = Kept(256 << 20, _bytes)


@dataclass(frozen=True)
class FoundPath:
    """Steps with what they refer to, and a key that names all that decides their colours."""

    steps: tuple[Step, ...]
    names: tuple[str, ...]
    key: str

    def upto(self, step: int) -> FoundPath:
        """The path up to a step, counted from 0, and the one after it, which may say what its numbers mean."""
        return FoundPath(self.steps[: step + 2], self.names[: step + 2], f"{self.key}:{step}")


def find(user: User, path: ColourPath) -> FoundPath:
    """The steps of a path that a person may walk; raises BadInput with the number of the step."""
    steps, names, keys = [], [], []
    for number, data in enumerate(path.steps, 1):
        try:
            step, name, key = _step(user, data)
        except (BadInput, BadRecipe) as error:
            raise BadInput(f"Step {number}: {error.message}", remedy=error.remedy) from error
        steps.append(step)
        names.append(name)
        keys.append(f"{key}|{data.intent}|{data.bpc}")
    said = hashlib.sha256("\n".join(keys).encode()).hexdigest()
    return FoundPath(tuple(steps), tuple(names), said)


def _step(user: User, data: PathStepData) -> tuple[Step, str, str]:
    """A step, what it is called, and what decides it."""
    if data.kind == "lab":
        if data.ref:
            raise BadInput("Lab refers to nothing.")
        return PathStep(LAB, data.intent, data.bpc), "Lab", "lab"
    if data.kind == "profile":
        profile = usable_profile(user, data.ref)
        return PathStep(profile, data.intent, data.bpc), profile.description, profile.digest
    if data.kind == "table":
        table = usable_table(user, data.ref)
        name = table.title or "colour table"
        return NumbersStep(name, "RGB ", "RGB ", table.apply), name, table.digest
    if data.kind == "reversal":
        step = reversal(data.ref)
        return step, step.name, step.name
    if data.kind == "inks":
        return _separated(user, data)
    pk = _number(data.ref)
    if data.kind == "condition":
        found = _condition(user, pk)
        profile = load_profile(found.profile.sha256)
        return PathStep(profile, data.intent, data.bpc), found.name, profile.digest
    destination = access.mine(user, Destination).filter(pk=pk).first()
    if destination is None:
        raise BadInput("The job’s recipe is not known here.", remedy="Choose another.")
    route = route_of(destination, parse_recipe(destination.recipe))
    name = f"{destination.job.name} for {destination.condition.name}"
    step = NumbersStep(
        name,
        route.source.colour_space,
        route.destination.colour_space,
        route.exact_inks,
        takes=route.source,
        gives=route.destination,
        intent=data.intent,
        bpc=data.bpc,
    )
    return step, name, route.key


def _condition(user: User, pk: int) -> PrintingCondition:
    found = access.mine(user, PrintingCondition, retired=True).filter(pk=pk).first()
    if found is None:
        raise BadInput("The condition is not known here.", remedy="Choose another.")
    return found


def _separated(user: User, data: PathStepData) -> tuple[Step, str, str]:
    """A condition by named ink rules; both by their ids, with a stroke between them."""
    of, _, by = data.ref.partition("/")
    condition = _condition(user, _number(of))
    kept = access.mine(user, InkRuleSet, retired=True).filter(pk=_number(by)).first()
    if kept is None:
        raise BadInput("The ink rules are not known here.", remedy="Choose others.")
    profile = load_profile(condition.profile.sha256)
    rules = parse_ink_rules(kept.rules)
    name = f"{condition.name} by {kept.name}"
    step = separation_step(profile, rules, name, intent=data.intent, bpc=data.bpc)
    return step, name, f"{profile.digest}:{rules.model_dump_json(exclude={'name'})}"


def _number(reference: str) -> int:
    if not (reference.isascii() and reference.isdecimal() and len(reference) < 10):
        raise BadInput(f"{reference[:40]!r} refers to nothing.")
    return int(reference)


def bar_of(path: FoundPath) -> Swatches:
    """The outermost numbers of the device that a path begins with; raises BadInput where it is none."""
    first = path.steps[0]
    profile = first.takes if isinstance(first, NumbersStep) else first.profile
    if not isinstance(profile, Profile) or first.space_in in ("Lab ", "XYZ "):
        raise BadInput(
            "The path begins with no device, so there are no outermost numbers.",
            remedy="Begin it with a profile.",
        )
    return device_bar(profile)


def colours_of(user: User, list_pk: int | None, job_pk: int | None) -> Swatches:
    """The colours that a path begins with: a list, or a job's artwork reduced to 160 pixels."""
    if (list_pk is None) == (job_pk is None):
        raise BadInput("Name a list of swatches or a job, one of the two.")
    if list_pk is not None:
        return load(access.own(user, SwatchList, list_pk))
    job = access.own(user, Job, int(job_pk or 0))
    small = working_copy.reduced(job.artwork.picture_key, _EDGE)
    rows, columns, channels = small.shape
    space = space_of(job)
    top = 100.0 if is_subtractive(space) else 255.0
    values = small.reshape(-1, channels) / float(np.iinfo(small.dtype).max) * top
    down, across = np.divmod(np.arange(rows * columns), columns)
    x = (across + 0.5) * job.artwork.facts["width"] / columns
    y = (down + 0.5) * job.artwork.facts["height"] / rows
    names = [f"x {int(a)}, y {int(b)}" for a, b in zip(x, y, strict=True)]
    return swatches(space, values, names, places=np.stack([x, y], axis=1), title=job.name)


def walked(path: FoundPath, colours: Swatches, view: View) -> Followed:
    """Colours along a path, exactly; raises BadInput where the first step does not take them."""
    first = path.steps[0]
    if first.space_in != colours.space:
        raise BadInput(
            f"The colours are {colours.space.strip()}, and the path begins with "
            f"{first.space_in.strip()}.",
            remedy=f"Begin it with the {colours.space.strip()} profile they are meant for.",
        )
    key = f"{path.key}:{colours.digest}:{view}"
    return _FOLLOWED.get(key, lambda: follow(path.steps, colours.values, view))


def device_function(path: FoundPath, step: int, view: View) -> Any:
    """(n, channels) 0..1 of the first step's numbers to (n, 3) Lab after a step."""
    first = path.steps[0]
    top = 100.0 if is_subtractive(first.space_in) else 255.0

    def lab(device: Floats) -> Floats:
        return follow(path.upto(step).steps, device * top, view).colours(step)

    return lab


def create(owner: User, data: Any) -> KeptPath:
    """Keep a path under its name; raises BadRecipe, or BadInput for steps one may not walk."""
    path = _checked(owner, data)
    return KeptPath.objects.create(
        owner=owner, name=path.name, steps=[s.model_dump() for s in path.steps]
    )


@transaction.atomic
def change(owner: User, pk: int, patch: dict[str, Any], match: int | None) -> KeptPath:
    """Lay a patch over a kept path; raises Stale where it collides with a later change."""
    kept = access.own(owner, KeptPath, pk)
    before = {"name": kept.name, "steps": kept.steps}
    settle(kept, before, patch, match)
    path = _checked(owner, merged(before, patch))
    steps = [s.model_dump() for s in path.steps]
    if kept.stamp(before, {"name": path.name, "steps": steps}, patch):
        kept.name, kept.steps = path.name, steps
        kept.save()
    return kept


def _checked(owner: User, data: Any) -> ColourPath:
    path = parse_path(data)
    if not path.name:
        raise BadRecipe("A path is kept under a name.", remedy="Give it one.")
    find(owner, path)
    return path


def uses_of_profile(profile: StoredProfile, user: Any) -> list[Use]:
    """A person's paths that go through a profile."""
    return _uses(user, lambda s: s["kind"] == "profile" and s["ref"] == profile.sha256)


def uses_of_condition(condition: PrintingCondition, user: Any) -> list[Use]:
    """A person's paths that go through a condition."""
    pk = str(condition.pk)
    return _uses(
        user,
        lambda s: (
            (s["kind"] == "condition" and s["ref"] == pk)
            or (s["kind"] == "inks" and s["ref"].split("/")[0] == pk)
        ),
    )


def _uses(user: Any, goes: Any) -> list[Use]:
    kept: Sequence[KeptPath] = list(access.mine(user, KeptPath))
    return [
        Use("colour path", p.name, f"/paths?kept={p.pk}")
        for p in kept
        if any(goes(step) for step in p.steps)
    ]
