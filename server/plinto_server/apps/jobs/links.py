"""Device links for the screen: source to inks, inks to screen, and the maps between them."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry import delta_e_2000
from plinto_core.colorimetry.cielab import Lab_to_XYZ
from plinto_core.gamut.on_screen import convert_to_screen, screen_values
from plinto_core.gamut.outside import WAYS, gamut_distance
from plinto_core.icc import Profile
from plinto_core.icc.colorants import ink_names
from plinto_core.recipes import ColourRoute, Recipe
from plinto_core.recipes.pixel_path import PixelPath
from plinto_core.recipes.route import LINKS, proof_intent, route_for
from plinto_core.recipes.unconverted import unconverted_route
from plinto_core.transform.link import DeviceLink, build_link
from plinto_server.apps.jobs.models import Destination
from plinto_server.apps.jobs.services import source_of
from plinto_server.apps.profiles.services import load_profile, load_table
from plinto_server.errors import Conflict

VEIL_SCALE = 20.0
"""dE00 that fills the range of the gamut links."""
MAP_SCALE = 20.0
"""dE00 at the end of the distance map's scale."""


PLAYS = ("colours", "black", "paper")
Veil = tuple[int, int, int] | Literal["hatch"]
"""A colour, or "hatch" for fine lines through which the picture stays visible."""


@dataclass(frozen=True)
class ProofLook:
    """What of the print the press view shows, on which screen, and what is marked in it."""

    plays: str = "black"
    """what the screen plays: the print's "colours" only, its weakest "black" too, its "paper" as well"""
    veil: Veil | None = None
    ways: tuple[str, ...] = WAYS
    """which ways of being out of gamut the veil marks"""
    map: str = ""
    """"" for the picture, or a map in its place: "distance", "tac", "correction" """
    plates: tuple[str, ...] | None = None
    """the inks printed, None for all; an ink left out is simulated as not printed"""
    grey: bool = False
    """a single plate as greys instead of in its ink: white is 0, black is 100 %"""
    display: str = "srgb"
    """the screen's profile by reference"""
    screen_veil: Veil | None = None
    """marks colours of the print that the screen itself cannot show"""
    break_up: float = 0.0
    """percent below which dots are shown as vanished"""
    correction: int = 0
    """which correction's weight the map "correction" shows"""


def route_of(destination: Destination, recipe: Recipe) -> ColourRoute:
    """The colour route of a destination under a recipe, without what holds in regions only."""
    source = source_of(destination.job.artwork, recipe).profile
    arrival = load_profile(recipe.arrival) if recipe.arrival else None
    link = load_profile(recipe.link) if recipe.link else None
    return route_for(recipe, source, load_profile(recipe.destination), load_table, arrival, link)


def path_of(destination: Destination, recipe: Recipe) -> PixelPath:
    """The route with the corrections of regions."""
    return PixelPath(route_of(destination, recipe), recipe.corrections)


def sent_path(destination: Destination, recipe: Recipe) -> PixelPath:
    """The way of the artwork's own numbers sent as they are; raises Conflict where none can be."""
    sent = unconverted_route(route_of(destination, recipe))
    if sent is None:
        raise Conflict(
            "The artwork's numbers are of another kind than the condition's, or in its own space."
        )
    return PixelPath(sent)


_SEPARATED = {4: 9, 5: 7, 6: 5, 7: 4, 8: 3}
_CONVERTED = {4: 13, 5: 9, 6: 7, 7: 5, 8: 4}
"""Nodes a side of preview links from pictures of inks, with ink rules and without."""


def preview_size(route: ColourRoute) -> int | None:
    """Grid of preview links: smaller where every node is separated anew, so that sliders move."""
    if route.source.channels >= 4:
        sizes = _SEPARATED if route.rules else _CONVERTED
        return sizes[route.source.channels]
    return 17 if route.rules else 33


def ink_link(route: ColourRoute) -> DeviceLink:
    """Source to inks, at the preview's grid."""
    return route.link(size=preview_size(route))


def original_link(source: Profile, screen: Profile, *, negative: bool = False) -> DeviceLink:
    """The untouched artwork to the screen, a negative's numbers reversed."""

    def to_screen(device: Floats) -> Floats:
        turned = 1.0 - device if negative else device
        return convert_to_screen(source, screen, turned)

    return LINKS.get(
        f"original:{source.digest}:{negative}:{screen.digest}",
        lambda: build_link(to_screen, source.channels),
    )


def corrected_link(route: ColourRoute, screen: Profile) -> DeviceLink:
    """The corrected artwork to the screen, before any press is involved."""

    def to_screen(device: Floats) -> Floats:
        return screen_values(screen, Lab_to_XYZ(route.aim_lab(device)))

    return LINKS.get(
        f"corrected:{route.aim_key}:{screen.digest}",
        lambda: build_link(to_screen, route.source.channels),
    )


def _to_screen(route: ColourRoute, look: ProofLook, inks: Floats) -> Floats:
    kept = kept_inks(route, look)
    inks = inks * kept
    if look.grey and kept.sum() == 1:
        return np.repeat(1.0 - inks.sum(axis=1, keepdims=True), 3, axis=1)
    intent, bpc = proof_intent(look.plays)
    screen = load_profile(look.display)
    return convert_to_screen(route.destination, screen, inks, intent=intent, bpc=bpc)


def _look_key(route: ColourRoute, look: ProofLook) -> str:
    plates = f"{kept_inks(route, look).tolist()}:{look.grey}"
    return f"{look.plays}:{plates}:{load_profile(look.display).digest}"


def proof_link(route: ColourRoute, look: ProofLook) -> DeviceLink:
    """Source to screen through the print."""
    return LINKS.get(
        f"proof:{_look_key(route, look)}:{route.key}",
        lambda: build_link(
            lambda device: _to_screen(route, look, preview_inks(route, device)),
            route.source.channels,
            size=preview_size(route),
        ),
    )


def screen_link(route: ColourRoute, look: ProofLook) -> DeviceLink:
    """Inks to screen, for pixels whose inks were changed after the link."""
    channels = route.destination.channels
    return LINKS.get(
        f"screen:{_look_key(route, look)}:{route.destination.digest}",
        lambda: build_link(lambda inks: _to_screen(route, look, inks), channels),
    )


def kept_inks(route: ColourRoute, look: ProofLook) -> Floats:
    """(channels,) 1 for every ink that is shown printed, 0 for the others."""
    names = ink_names(route.destination)
    if look.plates is None:
        return np.ones(len(names))
    return np.array([float(name in look.plates) for name in names])


def preview_inks(route: ColourRoute, device: Floats) -> Floats:
    """Inks through the cached preview link when its own grid is asked for, else exactly."""
    link = ink_link(route)
    if device.shape[0] == link.nodes.shape[0]:
        return np.asarray(link.nodes, dtype=np.float64)
    return link.evaluate(device)


def gamut_link(route: ColourRoute) -> DeviceLink:
    """Source to the distances outside the gamut by way, dE00 / VEIL_SCALE."""
    key = f"gamut:{route.aim_key}:{route.destination.digest}"
    key += ":absolute" if route.intent == "absolute" else ""
    return LINKS.get(
        key,
        lambda: build_link(
            lambda device: route.out_of_gamut(device) / VEIL_SCALE, route.source.channels
        ),
    )


def screen_gamut_link(route: ColourRoute, display: str) -> DeviceLink:
    """Source to dE00 / VEIL_SCALE by which the print misses what the screen can show."""
    screen = load_profile(display)

    def distance(device: Floats) -> Floats:
        printed = route.print_lab(preview_inks(route, device))
        return gamut_distance(screen, printed)[:, None] / VEIL_SCALE

    return LINKS.get(
        f"screen-gamut:{screen.digest}:{route.key}",
        lambda: build_link(distance, route.source.channels, size=preview_size(route)),
    )


def distance_link(route: ColourRoute) -> DeviceLink:
    """Source to dE00 / MAP_SCALE between the untouched artwork and the print."""

    def distance(device: Floats) -> Floats:
        inks = preview_inks(route, device)
        errors = delta_e_2000(route.source_lab(device), route.print_lab(inks))
        return errors[:, None] / MAP_SCALE

    return LINKS.get(
        f"distance:{route.key}",
        lambda: build_link(distance, route.source.channels, size=preview_size(route)),
    )
