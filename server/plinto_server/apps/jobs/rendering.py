"""Views of a region: original, corrected artwork, press view, and maps in its place."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

import numpy as np

from plinto_core.arrays import Pixels
from plinto_core.colorimetry import Lab_to_XYZ, XYZ_to_Lab
from plinto_core.corrections import Place, region_weight
from plinto_core.corrections.adjust import colour_weight
from plinto_core.gamut.outside import THRESHOLD, WAYS, way_out
from plinto_core.icc import Profile
from plinto_core.icc.colorants import ink_names
from plinto_core.icc.spaces import is_subtractive
from plinto_core.inks.aids import break_up
from plinto_core.inks.plates import finish
from plinto_core.recipes import NO_LIMIT, Recipe, tac_in_force
from plinto_core.recipes.pixel_path import PixelPath
from plinto_core.swatches.ready import device_bar
from plinto_core.transform.link import DeviceLink
from plinto_core.transform.sides import device_to_xyz, xyz_to_device
from plinto_core.transform.standard_spaces import standard_profile
from plinto_server.apps.artwork import working_copy
from plinto_server.apps.artwork.models import Artwork
from plinto_server.apps.jobs import links
from plinto_server.apps.jobs.links import ProofLook
from plinto_server.apps.jobs.models import Destination
from plinto_server.apps.jobs.services import needed_source, source_of
from plinto_server.apps.profiles.services import load_profile
from plinto_server.png import encode

Box = tuple[float, float, float, float]
LARGEST_VIEW = 4096


def _apply(link: DeviceLink, pixels: Pixels) -> Pixels:
    rows, columns, channels = pixels.shape
    return link.apply(pixels.reshape(-1, channels), bits=8).reshape(rows, columns, -1)


@dataclass(frozen=True)
class Part:
    """What a view shows: a region of the picture, or the bar of its device's outermost colours."""

    box: Box
    columns: int
    rows: int
    bar: bool = False

    def pixels(self, artwork: Artwork, source: Profile, *, negative: bool = False) -> Pixels:
        """(rows, columns, channels) numbers of the artwork's own space."""
        if self.bar:
            return outermost(source, self.columns, self.rows, negative=negative)
        return working_copy.region(artwork.picture_key, self.box, self.columns, self.rows)

    def place(self, artwork: Artwork) -> Place:
        """Where the pixels lie in the full picture; a bar lies where no region of a correction is."""
        size = (artwork.facts["width"], artwork.facts["height"])
        left, top, width, height = self.box
        if self.bar:
            left, top = -1e9, -1e9
        return Place(size, left, top, width / self.columns, height / self.rows)


def outermost(source: Profile, columns: int, rows: int, *, negative: bool = False) -> Pixels:
    """(rows, columns, channels) of 16 bits: the outermost numbers of a device side by side, above them half
    of the way to white, below them, of RGB, half of the way to black."""
    inks = is_subtractive(source.colour_space)
    full = device_bar(source).values / (100 if inks else 255)
    across = full[np.arange(columns) * len(full) // columns]
    lighter = across / 2 if inks else (across + 1) / 2
    bands = [lighter, across, across if inks else across / 2]
    found = np.stack([bands[row * 3 // rows] for row in range(rows)])
    return np.round((1 - found if negative else found) * 65535).astype(np.uint16)


def render_original(
    artwork: Artwork,
    source: Profile,
    part: Part,
    display: str = "srgb",
    *,
    negative: bool = False,
) -> bytes:
    """The artwork as it came, as the screen can show it; a negative as the positive it stands for."""
    screen = load_profile(display)
    pixels = part.pixels(artwork, source, negative=negative)
    return encode(_apply(links.original_link(source, screen, negative=negative), pixels), screen)


def _seen(destination: Destination, recipe: Recipe, part: Part) -> Pixels:
    artwork = destination.job.artwork
    return part.pixels(artwork, source_of(artwork, recipe).profile, negative=recipe.negative)


def render_corrected(destination: Destination, recipe: Recipe, part: Part, display: str) -> bytes:
    """The artwork after all corrections, as the screen can show it."""
    artwork = destination.job.artwork
    screen = load_profile(display)
    pixels = _seen(destination, recipe, part)
    path = links.path_of(destination, recipe)
    place = part.place(artwork)
    shown = path.apply(lambda r: links.corrected_link(r, screen), pixels, place, bits=8)
    return encode(shown, screen)


def render_unconverted(
    destination: Destination, recipe: Recipe, look: ProofLook, part: Part
) -> bytes:
    """The print of the artwork's own numbers, on the same screen as the press view; raises Conflict."""
    artwork = destination.job.artwork
    pixels = _seen(destination, recipe, part)
    path = links.sent_path(destination, recipe)
    if look.map == "tac":
        rule = tac_rule(destination, recipe)
        place = part.place(artwork)
        return encode(_map(path, look, recipe, pixels, place, rule))
    shown = _apply(links.screen_link(path.route, look), pixels)
    return encode(shown, load_profile(look.display))


def render_proof(destination: Destination, recipe: Recipe, look: ProofLook, part: Part) -> bytes:
    """The press view of a region, with the veils where asked, or a map in its place."""
    artwork = destination.job.artwork
    pixels = _seen(destination, recipe, part)
    place = part.place(artwork)
    path = links.path_of(destination, recipe)
    if look.map:
        return encode(_map(path, look, recipe, pixels, place, tac_rule(destination, recipe)))
    shown = _printed(path, look, pixels, place)
    if look.veil is not None:
        away = path.apply(links.gamut_link, pixels, place, bits=8)
        miss = away.reshape(-1, 3).astype(np.float64) / 255 * links.VEIL_SCALE
        marked = np.isin(way_out(miss), [WAYS.index(w) for w in look.ways])
        _cover(shown, marked.reshape(away.shape[:2]), look.veil)
    if look.screen_veil is not None:
        away = path.apply(
            lambda r: links.screen_gamut_link(r, look.display), pixels, place, bits=8
        )[..., 0]
        _cover(shown, away > THRESHOLD / links.VEIL_SCALE * 255, look.screen_veil)
    return encode(shown, load_profile(look.display))


def render_sheet(destination: Destination, recipe: Recipe, look: ProofLook) -> bytes:
    """The bare medium as the press view shows it, one pixel."""
    route = links.path_of(destination, recipe).route
    bare = 0 if is_subtractive(route.destination.colour_space) else 65535
    pixel = np.full((1, 1, route.destination.channels), bare, np.uint16)
    return encode(_apply(links.screen_link(route, look), pixel), load_profile(look.display))


HATCH = 8
"""Pixels from one line of the hatching to the next."""


def _cover(shown: Pixels, marked: np.ndarray, veil: links.Veil) -> None:
    """Mark pixels in place: in one colour, or by fine lines of black beside white, which stand out
    on every colour and leave two thirds of the picture to be seen."""
    if veil != "hatch":
        shown[marked] = veil
        return
    rows, columns = np.ogrid[: marked.shape[0], : marked.shape[1]]
    place = (rows + columns) % HATCH
    shown[marked & (place == 0)] = 0
    shown[marked & (place == 1)] = 255


def _printed(path: PixelPath, look: ProofLook, pixels: Pixels, place: Place) -> Pixels:
    """By one link where that is the whole way, else by inks and from them to the screen."""
    if not path.has_pixel_steps and not look.break_up:
        return path.apply(lambda r: links.proof_link(r, look), pixels, place, bits=8)
    inks = path.inks(links.ink_link, pixels, place, bits=16)
    if look.break_up:
        names = ink_names(path.route.destination)
        flat = inks.reshape(-1, inks.shape[2])
        finish(flat, names, break_up(names, look.break_up), None)
    return _apply(links.screen_link(path.route, look), inks)


def _map(
    path: PixelPath, look: ProofLook, recipe: Recipe, pixels: Pixels, place: Place, rule: float
) -> Pixels:
    """Distance of artwork and print on its scale, total ink as greys, or a correction's weight.

    Ink above the rule (by more than rounding) has the colour at the end of the distance scale.
    """
    if look.map == "distance":
        return distance_scale()[path.apply(links.distance_link, pixels, place, bits=8)[..., 0]]
    if look.map == "correction":
        weight = correction_weight(path, recipe, look.correction, pixels, place)
        return np.repeat(np.round(weight * 255).astype(np.uint8)[..., None], 3, axis=2)
    total = path.inks(links.ink_link, pixels, place, bits=8).astype(np.int32).sum(axis=2)
    percent = total / 2.55
    shade = np.clip(255 - percent / rule * 215, 40, 255).astype(np.uint8)
    shown = np.repeat(shade[..., None], 3, axis=2)
    shown[percent > rule + 0.5] = distance_scale()[-1]
    return shown


def correction_weight(
    path: PixelPath, recipe: Recipe, number: int, pixels: Pixels, place: Place
) -> np.ndarray:
    """(rows, columns) 0..1: how strongly a correction acts; all ones where it holds everywhere."""
    rows, columns, channels = pixels.shape
    weight = np.ones((rows, columns))
    if number >= len(recipe.corrections):
        return weight
    correction = recipe.corrections[number]
    if correction.region is not None:
        weight = weight * region_weight(correction.region, place, rows, columns)
    if correction.colours is not None:
        device = pixels.reshape(-1, channels) / float(np.iinfo(pixels.dtype).max)
        space = path.route.space
        lab = XYZ_to_Lab(device_to_xyz(space, device, 1))
        weight = weight * colour_weight(correction.colours, lab).reshape(rows, columns)
    return weight


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
    return tac_in_force(recipe, destination.condition.tac) or NO_LIMIT


def thumbnail(artwork: Artwork, edge: int = 360) -> bytes:
    """The whole picture, small, in sRGB; a picture without usable source is shown by default."""
    source = source_of(artwork, Recipe(destination="srgb", source=needed_source(artwork))).profile
    pixels = working_copy.reduced(artwork.picture_key, edge)
    return encode(_apply(links.original_link(source, standard_profile("srgb")), pixels))
