"""House rules: what happens to artwork whose colours are undefined or unusual, decided once."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, field_validator

from plinto_core.errors import BadProfile, BadRecipe, CoreError
from plinto_core.fields import checked
from plinto_core.icc.spaces import FAMILY_OF, Intent
from plinto_core.imaging.facts import PictureFacts
from plinto_core.recipes.sources import Resolve, embedded_profile
from plinto_core.words import say

_KINDS = {s: FAMILY_OF[s].lower() for s in ("RGB ", "GRAY", "CMYK")}
"""Field of a set by the signature it is for."""


class KindOfWork(BaseModel):
    """Work that comes again and again, such as posters; conditions : where it goes unless somebody says
    otherwise, by the keys of printing conditions."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    name: str = Field(min_length=1, max_length=60)
    conditions: tuple[Annotated[str, Field(max_length=50)], ...] = Field((), max_length=20)


class HouseRules(BaseModel):
    """One named set.

    rgb, grey, cmyk : default source profiles by reference; cmyk may be None; differs : what
    happens to an embedded profile other than the default; missing : where none is embedded;
    work : kinds of work with where they go.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)

    version: Literal[1] = 1
    name: str = Field("House rules", min_length=1, max_length=100)
    rgb: str = "srgb"
    grey: str = "grey"
    cmyk: str | None = None
    differs: Literal["keep", "convert", "ask"] = "keep"
    missing: Literal["assign", "ask", "refuse"] = "assign"
    intent: Intent = "perceptual"
    bpc: bool = True
    work: tuple[KindOfWork, ...] = Field((), max_length=50)

    @field_validator("work")
    @classmethod
    def _each_once(cls, work: tuple[KindOfWork, ...]) -> tuple[KindOfWork, ...]:
        names = [kind.name.strip().casefold() for kind in work]
        if len(set(names)) < len(names):
            raise ValueError(say("recipes.house-work-twice"))
        return work

    def default_for(self, space: str) -> str | None:
        """The reference of the default profile for a picture's colour space signature."""
        kind = _KINDS.get(space)
        # Of other sets of inks no profile stands for all.
        return None if kind is None else getattr(self, kind)


@dataclass(frozen=True)
class SourceDecision:
    """What a recipe starts with; question : "", "differs" or "missing" where a person decides."""

    source: str | None
    arrival: str | None
    question: str = ""


def decide_source(facts: PictureFacts, rules: HouseRules, resolve: Resolve) -> SourceDecision:
    """Apply house rules to a picture; raises BadRecipe where they refuse it."""
    default = rules.default_for(facts.space)
    try:
        profile = embedded_profile(facts)
    except CoreError:
        # An embedded profile that cannot be used defines no colours.
        return _missing(facts, rules, default)
    if profile is None:
        if facts.declared_srgb and facts.space == "RGB ":
            same = default is not None and resolve(default).digest == resolve("srgb").digest
            return SourceDecision(None, None, "") if same else _differs(rules, default)
        return _missing(facts, rules, default)
    if default is None or resolve(default).description == profile.description:
        return SourceDecision(None, None)
    return _differs(rules, default)


def _differs(rules: HouseRules, default: str | None) -> SourceDecision:
    if rules.differs == "convert" and default is not None:
        return SourceDecision(None, default)
    return SourceDecision(None, None, "differs" if rules.differs == "ask" else "")


def _missing(facts: PictureFacts, rules: HouseRules, default: str | None) -> SourceDecision:
    if rules.missing == "refuse":
        raise BadRecipe(say("recipes.house-refuses", rules=rules.name))
    if rules.missing == "ask" or default is None:
        return SourceDecision(default, None, "missing")
    return SourceDecision(default, None)


def parse_house_rules(data: Any, resolve: Resolve) -> HouseRules:
    """A set from decoded JSON, its profiles looked up; raises BadRecipe with the field at fault."""
    rules = checked(HouseRules, data, "recipes.house-not-usable")
    for space, kind in _KINDS.items():
        reference = rules.default_for(space)
        if reference is None:
            continue
        try:
            profile = resolve(reference)
        except BadProfile as error:
            raise BadRecipe(say("recipes.house-default-unknown", kind=kind.upper())) from error
        if profile.colour_space != space:
            raise BadRecipe(say("recipes.house-default-space", kind=kind.upper()))
    return rules
