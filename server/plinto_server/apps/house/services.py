"""Changes to house rules and named ink rules; each function is one change."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction

from plinto_core.errors import BadRecipe
from plinto_core.inks.rules import parse_ink_rules
from plinto_core.recipes.house_rules import HouseRules, parse_house_rules
from plinto_server.apps.house.models import HouseRuleSet, InkRuleSet
from plinto_server.apps.profiles.services import load_profile
from plinto_server.errors import Conflict


def rules_in_force(owner: AbstractBaseUser) -> HouseRules:
    """The owner's active set, or the defaults where there is none."""
    active = HouseRuleSet.objects.filter(owner=owner, active=True).first()
    return HouseRules() if active is None else HouseRules.model_validate(active.rules)


@transaction.atomic
def save_house_rules(owner: AbstractBaseUser, data: Any, *, pk: int | None = None) -> HouseRuleSet:
    """Keep a set, new or in place of set `pk`; the first one comes into force."""
    rules = parse_house_rules(data, load_profile)
    others = HouseRuleSet.objects.filter(owner=owner)
    if others.filter(name=rules.name).exclude(pk=pk).exists():
        raise Conflict(f"There is a set of house rules named {rules.name!r} already.")
    kept = others.get(pk=pk) if pk is not None else HouseRuleSet(owner=owner)
    kept.name, kept.rules = rules.name, rules.model_dump(mode="json")
    if not others.exclude(pk=pk).exists():
        kept.active = True
    kept.save()
    return kept


@transaction.atomic
def use_house_rules(chosen: HouseRuleSet) -> HouseRuleSet:
    """Put a set in force; it holds for artwork that comes in from now on."""
    HouseRuleSet.objects.filter(owner=chosen.owner, active=True).update(active=False)
    chosen.active = True
    chosen.save()
    return chosen


def delete_house_rules(chosen: HouseRuleSet) -> None:
    """Delete a set; the one in force must be replaced first."""
    if chosen.active and HouseRuleSet.objects.filter(owner=chosen.owner).count() > 1:
        raise Conflict("This set is in force. Put another one in force before deleting it.")
    chosen.delete()


def save_ink_rules(owner: AbstractBaseUser, data: Any) -> InkRuleSet:
    """Keep ink rules under their name; the same name is written over."""
    rules = parse_ink_rules(data)
    if not rules.name.strip():
        raise BadRecipe("Ink rules are kept under a name.", remedy="Give them one.")
    kept, _ = InkRuleSet.objects.update_or_create(
        owner=owner, name=rules.name, defaults={"rules": rules.model_dump(mode="json")}
    )
    return kept
