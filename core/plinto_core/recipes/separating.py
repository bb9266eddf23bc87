"""Separation by ink rules as a step of a colour path: the same colour, other inks."""

from __future__ import annotations

from plinto_core.errors import BadInput
from plinto_core.icc.profile import Profile
from plinto_core.inks.rules import InkRules
from plinto_core.recipes.route import ColourRoute, separates
from plinto_core.transform.path import NumbersStep
from plinto_core.words import say


def separation_step(profile: Profile, rules: InkRules, name: str, **into: object) -> NumbersStep:
    """Colours brought to a profile of inks and separated anew by rules, through its own forward table.

    Saved as a link with black kept, it saves ink where the rules ask for much black. into : intent and bpc
    by which colours of other profiles come to it. Raises BadInput for a profile without inks.
    """
    if not separates(profile):
        raise BadInput(say("recipes.separating-no-inks"))
    route = ColourRoute(profile, profile, "relative", False, rules, numbers="separate")
    return NumbersStep(
        name,
        profile.colour_space,
        profile.colour_space,
        route.exact_inks,
        takes=profile,
        gives=profile,
        **into,  # type: ignore[arg-type]
    )
