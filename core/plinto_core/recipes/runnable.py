"""Whether a recipe can run on a picture: everything that a run would stumble on, before it begins."""

from __future__ import annotations

from dataclasses import dataclass

from plinto_core.errors import BadRecipe, NotSupported
from plinto_core.icc.colorants import inks_of
from plinto_core.icc.parts import MOST_INKS
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import is_subtractive
from plinto_core.imaging.facts import PictureFacts
from plinto_core.imaging.writer import check_format
from plinto_core.recipes.output import result_size
from plinto_core.recipes.recipe import Recipe
from plinto_core.recipes.route import ColourRoute, route_for
from plinto_core.recipes.sources import FindTable, Resolve, SourceChoice, choose_source
from plinto_core.words import say


@dataclass(frozen=True)
class Prepared:
    """What a run needs: source, route, size (height, width) and pixels per inch of the result."""

    source: SourceChoice
    route: ColourRoute
    size: tuple[int, int]
    resolution: tuple[float, float] | None


def prepare(
    recipe: Recipe, facts: PictureFacts, resolve: Resolve, find_table: FindTable
) -> Prepared:
    """Look up and check all that a recipe refers to; raises BadRecipe, BadProfile, BadImage or
    NotSupported with what to do. What a person still has to answer (channels beside the colours) is
    not judged here."""
    source = choose_source(facts, recipe.source, resolve)
    destination = resolve(recipe.destination)
    _writable(destination)
    if not 0 <= recipe.page < max(1, facts.pages):
        raise BadRecipe(say("recipes.page-unknown", page=recipe.page + 1))
    arrival = resolve(recipe.arrival) if recipe.arrival else None
    link = resolve(recipe.link) if recipe.link else None
    route = route_for(recipe, source.profile, destination, find_table, arrival, link)
    size, resolution = result_size(facts.width, facts.height, facts.resolution, recipe.delivery)
    if recipe.delivery.films is None:
        delivery, shape = recipe.delivery, (*size, destination.channels)
        check_format(delivery.format, delivery.bits, shape, inks_of(destination))
    _films(recipe, destination, resolution)
    return Prepared(source, route, size, resolution)


def _writable(destination: Profile) -> None:
    if destination.channels > MOST_INKS or destination.colour_space in ("Lab ", "XYZ "):
        raise NotSupported(say("recipes.channels-unwritten", channels=destination.channels))


def _films(recipe: Recipe, destination: Profile, resolution: tuple[float, float] | None) -> None:
    delivery = recipe.delivery
    if delivery.apart and not is_subtractive(destination.colour_space):
        raise BadRecipe(say("recipes.separate-files-inks"))
    if delivery.apart and delivery.format != "TIFF":
        raise BadRecipe(say("recipes.separate-files-tiff"))
    if delivery.films is None:
        return
    if not is_subtractive(destination.colour_space):
        raise BadRecipe(say("recipes.films-inks"))
    if delivery.format not in ("TIFF", "PDF"):
        raise BadRecipe(say("recipes.films-format"))
    if resolution is None:
        raise BadRecipe(say("recipes.films-no-size"))
