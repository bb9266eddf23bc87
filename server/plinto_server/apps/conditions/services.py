"""Changes to printing conditions; making the demo's: print a chart, measure it, build the profile."""

from __future__ import annotations

import secrets
from collections.abc import Callable
from typing import Any

import numpy as np
from django.contrib.auth import get_user_model
from django.contrib.auth.models import User
from django.db import transaction
from django.utils.text import slugify

from plinto_core.characterise import BuildResult
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.conditions import pack_condition, parse_condition, unpack_condition
from plinto_core.errors import BadInput
from plinto_core.examination.neutrals import neutrals
from plinto_core.examination.reach import reaches, solid_lab
from plinto_core.icc import Profile
from plinto_core.icc.colorants import ink_names
from plinto_core.icc.parts import judge_part
from plinto_core.inks.editing import with_inks
from plinto_core.inks.ink_set import InkRole
from plinto_core.recipes import NO_LIMIT
from plinto_core.recipes.renaming import inks_renamed, renamed_keys, renamed_rules
from plinto_core.recipes.retarget import ConditionFacts
from plinto_core.simulator import SimulatedCondition
from plinto_core.transform.standard_spaces import standard_profile
from plinto_server import access
from plinto_server.apps.conditions.models import PrintingCondition
from plinto_server.apps.profiles.models import StoredProfile
from plinto_server.apps.profiles.services import load_profile, store_profile
from plinto_server.errors import Conflict
from plinto_server.removal import Use
from plinto_server.revisions import merged, settle

_FREE = frozenset({"ink_rules.limits", "supplies.inks"})
"""Objects of a condition whose keys are inks."""
MOST = 2000
"""Conditions that one person may have; a list longer than that is nobody's."""
Carrying = Callable[[PrintingCondition, str, Any], int]
_CARRYING: list[Carrying] = []


def on_replacement(carrying: Carrying) -> None:
    """Make known what follows a condition to its new profile; called when an app is ready.

    carrying : condition, SHA-256 of its former profile and person to how many it moved.
    """
    _CARRYING.append(carrying)


def create_condition(owner: User, profile: StoredProfile, data: Any) -> PrintingCondition:
    """Keep a new condition of a person's; raises BadRecipe, BadProfile, or Conflict for a double."""
    facts = parse_condition(data)
    judge_part(load_profile(profile.sha256), "destination")
    rows = PrintingCondition.objects.filter(owner=owner)
    if rows.count() >= MOST:
        raise Conflict(f"There are {MOST} conditions already. Retire some first.")
    made = PrintingCondition(owner=owner, profile=profile, key=_free_key(facts.name))
    made.take(facts)
    _refuse_doubles(made)
    made.save()
    return made


@transaction.atomic
def change_condition(
    owner: User, pk: int, patch: dict[str, Any], match: int | None
) -> PrintingCondition:
    """Lay a patch over a condition; raises Stale where it collides, Conflict for a double.

    Recipes, policies and media go on with it at once, kept recipes and past work stay as they were.
    """
    condition = access.owned(owner, PrintingCondition, pk)
    before = condition.facts()
    settle(condition, before, patch, match)
    condition.take(parse_condition(merged(before, patch, _FREE)))
    _refuse_doubles(condition)
    if condition.stamp(before, condition.facts(), patch):
        condition.save()
    return condition


def copy_condition(owner: User, condition: PrintingCondition) -> PrintingCondition:
    """A copy of one's own, also of one that everybody uses, with a name that is free."""
    names = set(
        PrintingCondition.objects.filter(owner=owner, removed=None).values_list("name", flat=True)
    )
    base = condition.name[:85]
    name, number = f"{base}, copy", 2
    while name in names:
        name, number = f"{base}, copy {number}", number + 1
    made = PrintingCondition(owner=owner, profile=condition.profile, key=_free_key(name))
    made.take(parse_condition({**condition.facts(), "name": name}))
    made.save()
    return made


@transaction.atomic
def replace_profile(
    owner: User,
    pk: int,
    profile: StoredProfile,
    *,
    carry: bool,
    match: int | None = None,
) -> int:
    """Give a condition another profile; returns how many recipes and policies followed.

    carry : recipes and policies that were made for the former profile take the new one, each as a change
    that can be undone; else they keep the former, which stays in the store. Raises BadProfile, Conflict.
    """
    condition = access.owned(owner, PrintingCondition, pk)
    former = condition.profile
    new = load_profile(profile.sha256)
    judge_part(new, "destination")
    if former.colour_space != profile.colour_space:
        raise Conflict(
            f"The condition prints {former.colour_space}, the profile is for {profile.colour_space}."
            " Make a condition of its own of it."
        )
    if former.pk == profile.pk:
        raise Conflict("The condition has this profile already.")
    before = {"profile": former.sha256}
    settle(condition, before, {"profile": profile.sha256}, match)
    renamed = inks_renamed(load_profile(former.sha256), new)
    condition.ink_rules = renamed_rules(condition.ink_rules, renamed)
    supplied = renamed_keys(condition.supplies.get("inks", {}), renamed)
    condition.supplies = {**condition.supplies, "inks": supplied}
    condition.profile = profile
    condition.stamp(before, {"profile": profile.sha256})
    condition.save()
    if not carry:
        return 0
    return sum(move(condition, former.sha256, owner) for move in _CARRYING)


@transaction.atomic
def change_inks(
    owner: User,
    pk: int,
    names: list[str],
    roles: list[InkRole],
    *,
    carry: bool,
    match: int | None = None,
) -> int:
    """Call a condition's inks otherwise, or say what they are for, in a copy of its profile that takes the
    former's place; as `replace_profile`. Raises BadInput for what makes no set of inks."""
    condition = access.owned(owner, PrintingCondition, pk)
    former = condition.profile
    data = with_inks(load_profile(former.sha256), names, roles)
    stored = store_profile(data, former.origin, former.report, holder=owner)
    return replace_profile(owner, pk, stored, carry=carry, match=match)


def difference(former: StoredProfile, new: StoredProfile) -> dict[str, Any]:
    """What another profile would change: paper, solids and greys in dE 2000, totals before and after."""
    a, b = load_profile(former.sha256), load_profile(new.sha256)
    judge_part(b, "destination")
    if a.colour_space != b.colour_space:
        return {"comparable": False}
    one, two = solid_lab(a), solid_lab(b)
    solids = {
        name: round(float(delta_e_2000(np.array([one[name]]), np.array([two[name]]))[0]), 1)
        for name in one
    }
    grey = [neutrals(p, "relative") for p in (a, b)]
    errors = delta_e_2000(grey[0].printed, grey[1].printed)
    return {
        "comparable": True,
        "solids": solids,
        "greys_mean": round(float(errors.mean()), 1),
        "greys_max": round(float(errors.max()), 1),
        "tac": [max(r.tac for r in reaches(p)) for p in (a, b)],
    }


def read_condition(owner: User, data: bytes) -> PrintingCondition:
    """Keep the condition of a file with the profile in it; raises BadInput."""
    facts, profile = unpack_condition(data)
    judge_part(Profile(profile), "destination")
    stored = store_profile(profile, "uploaded", holder=owner)
    return create_condition(owner, stored, facts.model_dump(mode="json"))


def uses_of_profile(profile: StoredProfile, user: Any) -> list[Use]:
    """A person's conditions with a profile, and those that come with Plinto."""
    rows = access.mine(user, PrintingCondition).filter(profile=profile)
    return [Use("condition", c.name, f"/conditions/{c.pk}") for c in rows]


def every_condition(username: str | None = None) -> list[PrintingCondition]:
    """All conditions in use, or those of an account and those that come with Plinto."""
    rows = PrintingCondition.objects.filter(removed=None).select_related("owner", "profile")
    if username is not None:
        rows = access.mine(_account(username), PrintingCondition, rows)
    return list(rows)


def condition_file(key: str) -> bytes:
    """The file of a condition by its key; raises BadInput."""
    found = (
        PrintingCondition.objects.filter(key=key, removed=None).select_related("profile").first()
    )
    if found is None:
        raise BadInput(f"There is no condition {key!r}.", remedy="See plinto condition list.")
    return pack_condition(found.as_core(), load_profile(found.profile.sha256).data)


def take_file(username: str, data: bytes) -> str:
    """Keep the condition of a file for an account; its key. Raises BadInput, also for a double."""
    try:
        return read_condition(_account(username), data).key
    except Conflict as error:
        raise BadInput(str(error.detail)) from error


def _account(username: str) -> User:
    found = get_user_model().objects.filter(username=username).first()
    if found is None:
        raise BadInput(f"There is no account {username!r}.", remedy="See plinto user add.")
    return found


def _refuse_doubles(condition: PrintingCondition) -> None:
    others = PrintingCondition.objects.filter(owner=condition.owner, removed=None)
    others = others.exclude(pk=condition.pk)
    if others.filter(name=condition.name).exists():
        raise Conflict(
            f"There is a condition named {condition.name!r} already. Choose another name."
        )
    facts = {**condition.facts(), "name": ""}
    for other in others.filter(profile=condition.profile):
        if {**other.facts(), "name": ""} == facts:
            raise Conflict(
                f"{other.name!r} is the same condition under another name. Use it, or say here what differs."
            )


def _free_key(name: str) -> str:
    base = slugify(name)[:36] or "condition"
    return f"{base}-{secrets.token_hex(4)}"


def known_simulated(simulated: SimulatedCondition) -> PrintingCondition | None:
    """The condition of a simulated press, if there is one; what older demos lack is filled in."""
    existing = PrintingCondition.objects.filter(key=simulated.key).first()
    if existing is not None and not existing.supplies:
        for name, value in _details(simulated).items():
            setattr(existing, name, value)
        existing.save()
    return existing


def keep_simulated(simulated: SimulatedCondition, result: BuildResult) -> PrintingCondition:
    """The condition of a simulated press with the profile built for it."""
    return PrintingCondition.objects.create(
        key=simulated.key,
        name=simulated.name,
        printer=simulated.printer,
        medium=simulated.medium,
        mirror=simulated.mirror,
        profile=store_profile(result.data, "shipped", result.report.model_dump(mode="json")),
        ink_rules=simulated.rules,
        **_details(simulated),
    )


def _details(simulated: SimulatedCondition) -> dict[str, Any]:
    return {
        "process": simulated.process,
        "least_dot": simulated.least_dot,
        "supplies": simulated.supplies,
        "ticket": simulated.ticket,
    }


def facts_of(condition: PrintingCondition) -> ConditionFacts:
    """What re-targeting and checks know of a condition."""
    profile = load_profile(condition.profile.sha256)
    return ConditionFacts(
        name=condition.name,
        profile=condition.profile.sha256,
        inks=ink_names(profile),
        tac=condition.tac or NO_LIMIT,
        process=condition.process,
        mirror=condition.mirror,
        ticket=condition.ticket,
    )


def expose_paper() -> PrintingCondition:
    """The demo's photographic process: an exposure unit that takes RGB of a standard space."""
    made, _ = PrintingCondition.objects.get_or_create(
        key="photo-paper",
        defaults={
            "name": "Photographic paper",
            "printer": "Laser exposure unit",
            "medium": "Silver halide paper, glossy",
            "process": "photographic",
            "profile": store_profile(standard_profile("p3").data, "standard"),
            "ink_rules": {"tac": 300},
            "ticket": {"media": "Silver halide paper, glossy", "passes": 1},
        },
    )
    return made
