"""Which profile gives a picture its colours, and why (embedded, assigned or the house default)."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

from plinto_core.errors import BadProfile, BadRecipe, CoreError
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import said
from plinto_core.imaging.facts import PictureFacts
from plinto_core.transform.cube import CubeTable
from plinto_core.transform.standard_spaces import standard_profile
from plinto_core.words import Said, say

Resolve = Callable[[str], Profile]
FindTable = Callable[[str], CubeTable]
HOUSE_DEFAULTS = {"RGB ": "srgb", "GRAY": "grey"}


def no_tables(reference: str) -> CubeTable:
    """Where no .cube tables are kept: raises BadRecipe."""
    raise BadRecipe(say("recipes.cube-missing"))


@dataclass(frozen=True)
class SourceChoice:
    """origin : "embedded", "assigned", "declared" (a PNG's sRGB chunk) or "house default"."""

    profile: Profile
    origin: str


def embedded_profile(facts: PictureFacts) -> Profile | None:
    """The embedded profile where there is one that fits; raises BadProfile for a useless one."""
    if facts.profile is None:
        return None
    try:
        profile = Profile(facts.profile)
    except CoreError as error:
        raise BadProfile(say("recipes.embedded-unusable", why=error.said)) from error
    if profile.colour_space != facts.space:
        raise BadProfile(
            say(
                "recipes.embedded-space",
                space=said(facts.space),
                profile=profile.description,
                other=profile.colour_space.strip(),
            )
        )
    return profile


def settle_extra_channels(facts: PictureFacts, decision: str = "stop") -> None:
    """Raise BadRecipe where a picture has channels beside its colours and nobody said that they
    may be left out: white, varnish and spot inks are never dropped in silence."""
    if facts.extra_channels and decision != "leave out":
        raise BadRecipe(extra_channels_sentence(facts.extra_channels))


def extra_channels_sentence(names: Sequence[str]) -> Said:
    """What is said of channels beside the colours."""
    return say("recipes.extra-channels", count=len(names), names=list(names))


def choose_source(facts: PictureFacts, assigned: str | None, resolve: Resolve) -> SourceChoice:
    """The source profile of a picture; raises BadProfile or BadRecipe where none can serve."""
    if assigned is not None:
        profile = resolve(assigned)
        if profile.colour_space != facts.space:
            raise BadRecipe(
                say(
                    "recipes.source-space",
                    space=said(facts.space),
                    profile=profile.description,
                    other=profile.colour_space.strip(),
                )
            )
        return SourceChoice(profile, "assigned")
    profile_in = embedded_profile(facts)
    if profile_in is not None:
        return SourceChoice(profile_in, "embedded")
    if facts.space not in HOUSE_DEFAULTS:
        raise BadRecipe(say("recipes.inks-no-profile", space=said(facts.space)))
    origin = "declared" if facts.declared_srgb and facts.space == "RGB " else "house default"
    return SourceChoice(standard_profile(HOUSE_DEFAULTS[facts.space]), origin)
