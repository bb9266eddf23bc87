"""What would be printed if nobody converted: the artwork's own numbers sent to the destination."""

from __future__ import annotations

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.difference import Differences, delta_e_2000, in_figures
from plinto_core.fields import Part
from plinto_core.recipes.route import ColourRoute


class Unconverted(Part):
    """The print of unconverted numbers beside the artwork's colours.

    de00 : of artwork and that print; lightness, chroma : mean shift of the print in L* and C*ab
    (above 0: lighter, more colourful than the artwork); tac_max : percent, the highest total of
    the measured colours.
    """

    de00: Differences
    lightness: float
    chroma: float
    tac_max: float


def unconverted_route(route: ColourRoute) -> ColourRoute | None:
    """The way of numbers that are sent as they are, or None where there is no such thing.

    Only numbers of the destination's own kind (CMYK to CMYK, RGB to RGB) can be sent unconverted,
    and in the destination's own space there is nothing to convert. Corrections, rules, plate curves
    and tables are of the conversion, and have no part in it.
    """
    kind = route.destination.colour_space
    if route.source.colour_space != kind:
        return None
    if route.source.colour_digest == route.destination.colour_digest:
        return None
    return ColourRoute(
        source=route.destination,
        destination=route.destination,
        intent=route.intent,
        bpc=route.bpc,
        method=route.method,
    )


def unconverted_figures(route: ColourRoute, device: Floats) -> Unconverted | None:
    """What sending (n, channels) numbers 0..1 unconverted would do, None where it cannot be."""
    sent = unconverted_route(route)
    if sent is None:
        return None
    inks = sent.inks(device)
    artwork, printed = route.source_lab(device), sent.print_lab(inks)
    shift = (printed - artwork)[:, 0].mean()
    colour = (np.hypot(*printed[:, 1:].T) - np.hypot(*artwork[:, 1:].T)).mean()
    return Unconverted(
        de00=in_figures(delta_e_2000(artwork, printed)),
        lightness=round(float(shift), 2),
        chroma=round(float(colour), 2),
        tac_max=round(float(inks.sum(axis=1).max()) * 100, 1),
    )
