"""Whether a policy can be carried out on a destination at all, before anything is read."""

from __future__ import annotations

from plinto_core.document.rules.policy import OutputPolicy
from plinto_core.errors import BadRecipe, NotSupported
from plinto_core.icc.colorants import ink_names
from plinto_core.icc.parts import MOST_INKS
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import is_subtractive
from plinto_core.words import say


def judge_destination(destination: Profile) -> None:
    """Raise NotSupported for a destination that documents cannot be converted to."""
    inks = is_subtractive(destination.colour_space)
    if destination.colour_space not in ("RGB ", "GRAY") and not inks:
        raise NotSupported(say("document.destination-kind", profile=destination.description))
    if inks and destination.channels > MOST_INKS:
        raise NotSupported(
            say(
                "document.destination-inks",
                profile=destination.description,
                channels=destination.channels,
                most=MOST_INKS,
            )
        )


def judge_builds(policy: OutputPolicy, destination: Profile) -> None:
    """Raise BadRecipe where a build names an ink that the destination does not print."""
    inks = ink_names(destination) if is_subtractive(destination.colour_space) else ()
    for name, build in policy.builds.items():
        for ink in build:
            if ink not in inks:
                wording = "document.build-ink" if inks else "document.build-no-inks"
                raise BadRecipe(say(wording, colour=name[:60], ink=ink, inks=inks))
