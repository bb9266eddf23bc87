"""Changes to house rules and named ink rules; each function is one change."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.models import User
from django.db import transaction
from django.http import Http404

from plinto_core.errors import BadRecipe
from plinto_core.inks.rules import parse_ink_rules
from plinto_core.recipes.house_rules import HouseRules, parse_house_rules
from plinto_server import access
from plinto_server.apps.house.models import HouseRuleSet, InkRuleSet
from plinto_server.apps.profiles.services import usable_profile
from plinto_server.errors import Conflict
from plinto_server.removal import remove
from plinto_server.revisions import merged, settle


def rules_in_force(owner: User) -> HouseRules:
    """The owner's active set, or the defaults where there is none."""
    active = access.mine(owner, HouseRuleSet).filter(active=True).first()
    return HouseRules() if active is None else HouseRules.model_validate(active.rules)


@transaction.atomic
def create_house_rules(owner: User, data: Any) -> HouseRuleSet:
    """Keep a new set; the first one comes into force."""
    rules = _checked(owner, data)
    first = not access.mine(owner, HouseRuleSet).exists()
    _free_name(owner, rules, None)
    return HouseRuleSet.objects.create(
        owner=owner, name=rules.name, rules=rules.model_dump(mode="json"), active=first
    )


@transaction.atomic
def change_house_rules(
    owner: User, pk: int, patch: dict[str, Any], match: int | None
) -> HouseRuleSet:
    """Lay a patch over a set; raises Stale where it collides with a later change."""
    kept = access.own(owner, HouseRuleSet, pk)
    before = {**HouseRules().model_dump(mode="json"), **kept.rules}
    settle(kept, before, patch, match)
    rules = _checked(owner, merged(before, patch))
    _free_name(owner, rules, pk)
    after = rules.model_dump(mode="json")
    if kept.stamp(before, after, patch):
        kept.name, kept.rules = rules.name, after
        kept.save()
    return kept


def _checked(owner: User, data: Any) -> HouseRules:
    return parse_house_rules(data, lambda reference: usable_profile(owner, reference, "source"))


def _free_name(owner: User, rules: HouseRules, pk: int | None) -> None:
    others = access.mine(owner, HouseRuleSet).filter(name=rules.name)
    if pk is not None:
        others = others.exclude(pk=pk)
    if others.exists():
        raise Conflict(f"There is a set of house rules named {rules.name!r} already.")


@transaction.atomic
def use_house_rules(chosen: HouseRuleSet) -> HouseRuleSet:
    """Put a set in force; it holds for artwork that comes in from now on."""
    HouseRuleSet.objects.filter(owner=chosen.owner, active=True).update(active=False)
    chosen.active = True
    chosen.save()
    return chosen


def remove_house_rules(chosen: HouseRuleSet) -> None:
    """Take a set out of the list; the one in force must be replaced first."""
    if chosen.active and access.mine(chosen.owner, HouseRuleSet).count() > 1:
        raise Conflict("This set is in force. Put another one in force before removing it.")
    remove(chosen)


@transaction.atomic
def restore_house_rules(owner: User, pk: int) -> HouseRuleSet:
    """Undo a removal; a name or place that was taken meanwhile is not taken back."""
    chosen = HouseRuleSet.objects.filter(owner=owner, pk=pk).first()
    if chosen is None:
        raise Http404
    others = access.mine(owner, HouseRuleSet).exclude(pk=pk)
    chosen.active = chosen.active and not others.filter(active=True).exists()
    name, number = chosen.name, 2
    while others.filter(name=chosen.name).exists():
        chosen.name, number = f"{name[:90]}, {number}", number + 1
    chosen.rules, chosen.removed = {**chosen.rules, "name": chosen.name}, None
    chosen.save()
    return chosen


def save_ink_rules(owner: User, data: Any) -> InkRuleSet:
    """Keep ink rules under their name; the same name is written over."""
    rules = parse_ink_rules(data)
    if not rules.name.strip():
        raise BadRecipe("Ink rules are kept under a name.", remedy="Give them one.")
    kept, _ = InkRuleSet.objects.update_or_create(
        owner=owner,
        name=rules.name,
        removed=None,
        defaults={"rules": rules.model_dump(mode="json")},
    )
    return kept
