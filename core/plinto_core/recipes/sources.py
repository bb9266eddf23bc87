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

Resolve = Callable[[str], Profile]
FindTable = Callable[[str], CubeTable]
HOUSE_DEFAULTS = {"RGB ": "srgb", "GRAY": "grey"}


def no_tables(reference: str) -> CubeTable:
    """Where no .cube tables are kept: raises BadRecipe."""
    raise BadRecipe(
        "The recipe names a .cube table that is not known here.", remedy="Give its file."
    )


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
        raise BadProfile(
            f"The embedded profile cannot be used: {error.message}",
            remedy="Assign a source profile instead.",
        ) from error
    if profile.colour_space != facts.space:
        raise BadProfile(
            f"The picture is {said(facts.space)}, but its embedded profile "
            f"{profile.description!r} is for {profile.colour_space.strip()}.",
            remedy="Assign a source profile instead.",
        )
    return profile


def settle_extra_channels(facts: PictureFacts, decision: str = "stop") -> None:
    """Raise BadRecipe where a picture has channels beside its colours and nobody said that they
    may be left out: white, varnish and spot inks are never dropped in silence."""
    if facts.extra_channels and decision != "leave out":
        raise BadRecipe(extra_channels_sentence(facts.extra_channels), remedy=EXTRA_REMEDY)


EXTRA_REMEDY = "Say that they are left out, or save the artwork without them."


def extra_channels_sentence(names: Sequence[str]) -> str:
    """What is said of channels beside the colours."""
    count = "a channel" if len(names) == 1 else f"{len(names)} channels"
    return (
        f"The picture has {count} beside its colours ({', '.join(names)}), which Plinto does not "
        "print: white, varnish or spot inks would be missing."
    )


def choose_source(facts: PictureFacts, assigned: str | None, resolve: Resolve) -> SourceChoice:
    """The source profile of a picture; raises BadProfile or BadRecipe where none can serve."""
    if assigned is not None:
        profile = resolve(assigned)
        if profile.colour_space != facts.space:
            raise BadRecipe(
                f"The picture is {said(facts.space)}, but the source profile "
                f"{profile.description!r} is for {profile.colour_space.strip()}.",
                remedy=f"Choose a profile of {said(facts.space)}.",
            )
        return SourceChoice(profile, "assigned")
    profile_in = embedded_profile(facts)
    if profile_in is not None:
        return SourceChoice(profile_in, "embedded")
    if facts.space not in HOUSE_DEFAULTS:
        raise BadRecipe(
            f"The picture is {said(facts.space)} without a profile, so its inks have no defined colours.",
            remedy="Name the condition it was made for as source profile.",
        )
    origin = "declared" if facts.declared_srgb and facts.space == "RGB " else "house default"
    return SourceChoice(standard_profile(HOUSE_DEFAULTS[facts.space]), origin)
