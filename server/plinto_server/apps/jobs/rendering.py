"""Pictures for the screen: original and press view, as one link from source to display."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

import imagecodecs
import numpy as np

from plinto_core.arrays import Floats, Pixels
from plinto_core.colorimetry import Lab_to_XYZ, delta_e_2000
from plinto_core.icc import Profile
from plinto_core.icc.spaces import channel_names
from plinto_core.recipes import ColourRoute, Recipe
from plinto_core.recipes.route import LINKS, proof_intent
from plinto_core.recipes.run import route_for
from plinto_core.transform.chain import convert
from plinto_core.transform.gamut_test import THRESHOLD
from plinto_core.transform.link import DeviceLink, build_link
from plinto_core.transform.sides import xyz_to_device
from plinto_core.transform.working_spaces import standard_profile
from plinto_server.apps.artwork import working_copy
from plinto_server.apps.artwork.models import Artwork
from plinto_server.apps.jobs.models import Destination
from plinto_server.apps.jobs.services import needed_source, source_of
from plinto_server.apps.profiles.services import load_profile

Box = tuple[float, float, float, float]
VEIL_SCALE = 20.0
"""dE00 that fills the range of the gamut link."""
MAP_SCALE = 20.0
"""dE00 at the end of the distance map's scale."""
LARGEST_VIEW = 4096


@dataclass(frozen=True)
class ProofLook:
    """What of the print's surface the press view shows, and the veil's sRGB colour if any."""

    paper: bool = False
    black: bool = True
    veil: tuple[int, int, int] | None = None
    map: str = ""
    """"" for the picture, "distance" or "tac" for a map in its place"""
    plates: tuple[str, ...] | None = None
    """the inks printed, None for all; an ink left out is simulated as not printed"""
    grey: bool = False
    """a single plate as greys instead of in its ink: white is 0, black is 100 %"""


def route_of(destination: Destination, recipe: Recipe) -> ColourRoute:
    """The colour route of a destination under a recipe."""
    source = source_of(destination.job.artwork, recipe).profile
    return route_for(recipe, source, load_profile(recipe.destination))


def preview_size(route: ColourRoute) -> int | None:
    """Grid of preview links: smaller where every node is separated anew, so that sliders move."""
    if route.source.channels == 4:
        return 9 if route.rules else 13
    return 17 if route.rules else 33


def _original_link(source: Profile) -> DeviceLink:
    screen = standard_profile("srgb")

    def to_screen(device: Floats) -> Floats:
        return convert(source, screen, device, intent="relative", bpc=True)

    return LINKS.get(f"original:{source.digest}", lambda: build_link(to_screen, source.channels))


def proof_link(route: ColourRoute, look: ProofLook) -> DeviceLink:
    """Source to screen through the print."""
    screen = standard_profile("srgb")
    intent, bpc = proof_intent(paper=look.paper, black=look.black)
    size = preview_size(route)
    kept = kept_inks(route, look)

    def to_screen(device: Floats) -> Floats:
        inks = preview_inks(route, device) * kept
        if look.grey and kept.sum() == 1:
            return np.repeat(1.0 - inks.sum(axis=1, keepdims=True), 3, axis=1)
        return convert(route.destination, screen, inks, intent=intent, bpc=bpc)

    plates = f"{kept.tolist()}:{look.grey}"
    return LINKS.get(
        f"proof:{look.paper}:{look.black}:{plates}:{route.key}",
        lambda: build_link(to_screen, route.source.channels, size=size),
    )


def kept_inks(route: ColourRoute, look: ProofLook) -> Floats:
    """(channels,) 1 for every ink that is shown printed, 0 for the others."""
    names = channel_names(route.destination.colour_space)
    if look.plates is None:
        return np.ones(len(names))
    return np.array([float(name in look.plates) for name in names])


def preview_inks(route: ColourRoute, device: Floats) -> Floats:
    """Inks through the cached preview link when its own grid is asked for, else exactly."""
    link = route.link(size=preview_size(route))
    if device.shape[0] == link.nodes.shape[0]:
        return np.asarray(link.nodes, dtype=np.float64)
    return link.evaluate(device)


def gamut_link(route: ColourRoute) -> DeviceLink:
    """Source to distance outside the gamut, dE00 / VEIL_SCALE."""
    key = f"gamut:{route.source.digest}:{route.destination.digest}:{route.bpc}"
    key += ":absolute" if route.intent == "absolute" else ""
    return LINKS.get(
        key,
        lambda: build_link(
            lambda device: route.out_of_gamut(device)[:, None] / VEIL_SCALE, route.source.channels
        ),
    )


def _map(route: ColourRoute, look: ProofLook, pixels: Pixels, rule: float) -> Pixels:
    """Distance of artwork and print on its scale, or total ink as greys up to the rule.

    Ink above the rule (by more than rounding) has the colour at the end of the distance scale.
    """
    if look.map == "distance":
        return distance_scale()[_apply(_distance_link(route), pixels)[..., 0]]
    total = _apply(route.link(size=preview_size(route)), pixels).astype(np.int32).sum(axis=2)
    percent = total / 2.55
    shade = np.clip(255 - percent / rule * 215, 40, 255).astype(np.uint8)
    shown = np.repeat(shade[..., None], 3, axis=2)
    shown[percent > rule + 0.5] = distance_scale()[-1]
    return shown


def _distance_link(route: ColourRoute) -> DeviceLink:
    def distance(device: Floats) -> Floats:
        inks = preview_inks(route, device)
        errors = delta_e_2000(route.source_lab(device), route.print_lab(inks))
        return errors[:, None] / MAP_SCALE

    size = preview_size(route)
    return LINKS.get(
        f"distance:{route.key}", lambda: build_link(distance, route.source.channels, size=size)
    )


@cache
def distance_scale() -> Pixels:
    """(256, 3) sRGB of the scale from 0 to MAP_SCALE dE00: steady in lightness, blue to yellow."""
    share = np.linspace(0, 1, 256)
    stops = np.array([[14.0, 4, -26], [38, 2, -22], [62, -2, 8], [93, -6, 62]])
    lab = np.stack([np.interp(share, np.linspace(0, 1, 4), stops[:, i]) for i in range(3)], axis=1)
    rgb = xyz_to_device(standard_profile("srgb"), Lab_to_XYZ(lab), 1)
    return np.asarray(np.round(rgb * 255), dtype=np.uint8)


def tac_rule(destination: Destination, recipe: Recipe) -> float:
    """The TAC in force: the recipe's, else the condition's."""
    if recipe.ink_rules is not None:
        return recipe.ink_rules.tac
    return float(destination.condition.ink_rules.get("tac", 400))


def _apply(link: DeviceLink, pixels: Pixels) -> Pixels:
    rows, columns, channels = pixels.shape
    return link.apply(pixels.reshape(-1, channels), bits=8).reshape(rows, columns, -1)


def encode(pixels: Pixels) -> bytes:
    """PNG, fast rather than small."""
    return bytes(imagecodecs.png_encode(np.ascontiguousarray(pixels), level=1))


def render_original(artwork: Artwork, source: Profile, box: Box, columns: int, rows: int) -> bytes:
    """The artwork as an sRGB screen can show it."""
    return encode(
        _apply(_original_link(source), working_copy.region(artwork.sha256, box, columns, rows))
    )


def render_proof(
    destination: Destination, recipe: Recipe, look: ProofLook, box: Box, columns: int, rows: int
) -> bytes:
    """The press view of a region, with the veil where asked."""
    route = route_of(destination, recipe)
    pixels = working_copy.region(destination.job.artwork.sha256, box, columns, rows)
    if look.map:
        return encode(_map(route, look, pixels, tac_rule(destination, recipe)))
    shown = _apply(proof_link(route, look), pixels)
    if look.veil is not None:
        distance = _apply(gamut_link(route), pixels)[..., 0]
        shown[distance > THRESHOLD / VEIL_SCALE * 255] = look.veil
    return encode(shown)


def thumbnail(artwork: Artwork, edge: int = 360) -> bytes:
    """The whole picture, small, in sRGB; a picture without usable source is shown by default."""
    source = source_of(artwork, Recipe(destination="srgb", source=needed_source(artwork))).profile
    pixels = working_copy.reduced(artwork.sha256, edge)
    return encode(_apply(_original_link(source), pixels))
