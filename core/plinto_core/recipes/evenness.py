"""How evenly the inks of a recipe run along the artwork's greys."""

from __future__ import annotations

import numpy as np

from plinto_core.icc.spaces import is_subtractive
from plinto_core.inks.evenness import RAMP, Evenness, evenness
from plinto_core.recipes.route import ColourRoute, forward_table, separates


def evenness_of_greys(route: ColourRoute) -> Evenness | None:
    """From the artwork's white to its black, exact; None for artwork in inks and for other destinations."""
    if not separates(route.destination) or is_subtractive(route.source.colour_space):
        return None
    ramp = np.linspace(1.0, 0.0, RAMP)[:, None]
    if route.negative:
        ramp = 1.0 - ramp
    inks = route.inks(np.repeat(ramp, route.source.channels, axis=1))
    return evenness(inks, forward_table(route.destination).black)
