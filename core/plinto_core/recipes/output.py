"""How a recipe's result becomes a file: its size, its turning, pictures or films."""

from __future__ import annotations

import re
import shutil
import tempfile
import zipfile
from collections.abc import Iterator
from contextlib import ExitStack
from dataclasses import replace
from pathlib import Path

import numpy as np

from plinto_core.arrays import Pixels, Progress
from plinto_core.errors import BadRecipe
from plinto_core.icc.colorants import ink_names, inks_of, long_name
from plinto_core.icc.profile import Profile
from plinto_core.imaging.facts import MAX_STREAMED, check_size
from plinto_core.imaging.films import FilmSet, write_films
from plinto_core.imaging.spool import spooled, turned_bands
from plinto_core.imaging.writer import OutputOptions, whole_or_none, write_picture
from plinto_core.inks.ink_set import InkSet
from plinto_core.recipes.recipe import Delivery, Recipe
from plinto_core.words import say


def print_resolution(
    width: int, resolution: tuple[float, float] | None, delivery: Delivery
) -> tuple[float, float] | None:
    """Pixels per inch of a picture at the print's width, else as the picture states it."""
    if delivery.width_mm is None:
        return resolution
    across = width / delivery.width_mm * 25.4
    return across, across * (resolution[1] / resolution[0] if resolution else 1.0)


def result_size(
    width: int, height: int, resolution: tuple[float, float] | None, delivery: Delivery
) -> tuple[tuple[int, int], tuple[float, float] | None]:
    """Height and width of the delivered pixels before turning, and their pixels per inch.

    `width`, `height` and `resolution` are the artwork's. Raises BadRecipe, or BadImage for more
    pixels than can be written.
    """
    stated = print_resolution(width, resolution, delivery)
    if delivery.resolution is None:
        return (height, width), stated
    if stated is None:
        raise BadRecipe(say("recipes.resampled-no-size"))
    wide = max(1, round(width * delivery.resolution / stated[0]))
    high = max(1, round(height * delivery.resolution / stated[1]))
    check_size(wide, high, MAX_STREAMED)
    return (high, wide), (delivery.resolution, delivery.resolution)


def write_output(
    target: Path, bands: Iterator[Pixels], shape: tuple[int, int, int],
    resolution: tuple[float, float] | None, recipe: Recipe, destination: Profile,
    progress: Progress,
) -> None:  # fmt: skip
    """The picture or its films, turned and reversed as the delivery wants."""
    delivery = recipe.delivery
    dtype = np.uint16 if delivery.bits == 16 else np.uint8
    options = OutputOptions(
        format=delivery.format,
        bits=delivery.bits,
        profile=destination.data if delivery.embed else None,
        resolution=resolution,
        compression=delivery.compression,
        quality=delivery.quality,
        tiles=delivery.tiles,
        inks=inks_of(destination),
    )
    if not delivery.turn and delivery.films is None and not delivery.apart:
        write_picture(target, _turned_over(bands, delivery), shape, options)
        return
    if delivery.turn in (90, 270):
        shape = (shape[1], shape[0], shape[2])
        options = replace(options, resolution=resolution and (resolution[1], resolution[0]))
    with ExitStack() as stack:
        whole = stack.enter_context(
            spooled(bands, _unturned(shape, delivery.turn), dtype, target.parent)
        )
        if delivery.films is None:
            turned = turned_bands(whole, delivery.turn)
            if delivery.apart:
                _write_apart(target, whole, shape, options, delivery, progress)
            else:
                write_picture(target, _turned_over(turned, delivery), shape, options)
            return
        _write_films(target, whole, options, recipe, destination, progress)


def _unturned(shape: tuple[int, int, int], turn: int) -> tuple[int, int, int]:
    return (shape[1], shape[0], shape[2]) if turn in (90, 270) else shape


def _write_apart(
    target: Path, whole: Pixels, shape: tuple[int, int, int], options: OutputOptions,
    delivery: Delivery, progress: Progress,
) -> None:  # fmt: skip
    """A grey TIFF for every ink in one ZIP, black where the ink is full."""
    grey = replace(options, profile=None, inks=())
    with (
        whole_or_none(target) as temporary,
        tempfile.TemporaryDirectory(prefix=".plinto-", dir=target.parent) as folder,
        zipfile.ZipFile(temporary, "w", zipfile.ZIP_STORED) as archive,
    ):
        for place, name in enumerate(options.inks):
            plate = Path(folder) / "plate.tif"
            turned = turned_bands(whole[..., place : place + 1], delivery.turn)
            bands = (np.iinfo(b.dtype).max - b for b in _turned_over(turned, delivery))
            write_picture(plate, bands, (*shape[:2], 1), grey)
            entry = zipfile.ZipInfo(
                f"{place + 1}_{_plain(long_name(name))}.tif", (1980, 1, 1, 0, 0, 0)
            )
            entry.external_attr = 0o644 << 16
            with plate.open("rb") as file, archive.open(entry, "w", force_zip64=True) as out:
                shutil.copyfileobj(file, out)
            progress(0.9 + 0.1 * (place + 1) / len(options.inks))


def _plain(name: str) -> str:
    """A name of an ink as part of a file's name, on any system."""
    return re.sub(r"[^\w.-]+", "_", name).strip("._") or "ink"


def _write_films(
    target: Path, whole: Pixels, options: OutputOptions, recipe: Recipe, destination: Profile,
    progress: Progress,
) -> None:  # fmt: skip
    delivery = recipe.delivery
    assert options.resolution is not None
    assert delivery.films is not None
    usual = {c.name: c.angle for c in InkSet.of_profile(destination).channels}
    rules = delivery.films.model_copy(update={"angles": {**usual, **delivery.films.angles}})
    films = FilmSet(
        np.rot90(whole, k=-(delivery.turn // 90)),
        ink_names(destination),
        options.resolution,
        rules,
        destination.description,
        mirror=delivery.mirror,
        negative=delivery.negative,
    )
    with whole_or_none(target) as temporary:
        write_films(
            temporary, films, rules, options.format,
            lambda share: progress(0.9 + 0.1 * share),
        )  # fmt: skip


def _turned_over(bands: Iterator[Pixels], delivery: Delivery) -> Iterator[Pixels]:
    for band in bands:
        if delivery.negative:
            band = np.iinfo(band.dtype).max - band
        yield band[:, ::-1] if delivery.mirror else band
