"""The check before delivery: what would surprise the receiver, as sentences."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from plinto_core.errors import CoreError
from plinto_core.imaging.writer import PROCESS
from plinto_core.recipes.output import print_resolution, result_size
from plinto_core.recipes.recipe import Recipe
from plinto_core.recipes.sources import extra_channels_sentence
from plinto_core.words import Said, say

Level = Literal["stop", "attention", "note"]
LOW_PPI, HIGH_PPI = 150.0, 450.0
_LARGE = 2_000_000_000


@dataclass(frozen=True)
class Finding:
    """level : "stop" (cannot be delivered), "attention" (likely a mistake), "note"."""

    level: Level
    code: str
    text: Said


@dataclass(frozen=True)
class Circumstances:
    """What the check knows besides the recipe.

    size : pixels of the artwork; source_origin as in sources.py; tac_max, out_of_gamut : percent,
    None where not measured; mirrored_medium, tac_rule : of the condition; question : open; inks : of the
    condition, () where it takes none; far : families of hues without a near print.
    """

    size: tuple[int, int]
    resolution: tuple[float, float] | None
    source_origin: str
    channels: int
    tac_max: float | None = None
    tac_rule: float | None = None
    out_of_gamut: float | None = None
    mirrored_medium: bool = False
    transparency: bool = False
    pages: int = 1
    question: str = ""
    process: str = ""
    extra_channels: tuple[str, ...] = ()
    numbers_kept: bool = False
    inks: tuple[str, ...] = ()
    far: tuple[str, ...] = ()


def check_delivery(recipe: Recipe, now: Circumstances) -> list[Finding]:
    """Findings, the gravest first."""
    found = [*_source(recipe, now), *_size(recipe, now), *_turning(recipe, now)]
    found += [*_inks(recipe, now), *_format(recipe, now)]
    order = {"stop": 0, "attention": 1, "note": 2}
    return sorted(found, key=lambda f: order[f.level])


def _source(recipe: Recipe, now: Circumstances) -> list[Finding]:
    found = []
    if now.question:
        found.append(
            Finding(
                "stop",
                "question",
                say("recipes.question"),
            )
        )
    elif now.source_origin in ("house default", "none"):
        found.append(
            Finding(
                "attention",
                "no-profile",
                say("recipes.no-profile"),
            )
        )
    if now.transparency:
        found.append(
            Finding(
                "note",
                "flattened",
                say("recipes.flattened"),
            )
        )
    if now.extra_channels:
        names = ", ".join(now.extra_channels)
        found.append(
            Finding("attention", "extra-channels", say("recipes.channels-left-out", names=names))
            if recipe.extra_channels == "leave out"
            else Finding("stop", "extra-channels", extra_channels_sentence(now.extra_channels))
        )
    if now.numbers_kept:
        found.append(
            Finding(
                "note",
                "numbers",
                say("recipes.numbers"),
            )
        )
    if recipe.negative:
        found.append(Finding("note", "from-negative", say("recipes.from-negative")))
    if now.pages > 1:
        found.append(
            Finding("note", "pages", say("recipes.pages", page=recipe.page + 1, pages=now.pages))
        )
    return found


def _size(recipe: Recipe, now: Circumstances) -> list[Finding]:
    delivery = recipe.delivery
    try:
        (high, wide), result = result_size(*now.size, now.resolution, delivery)
    except CoreError as error:
        return [Finding("stop", "size", error.said)]
    found: list[Finding] = []
    if now.process == "display":
        # Pixels are shown one to one; how large is the screen's affair.
        return found
    stated = print_resolution(now.size[0], now.resolution, delivery)
    if result is None:
        level: Level = "stop" if delivery.films else "attention"
        found.append(
            Finding(
                level,
                "no-size",
                say("recipes.no-size"),
            )
        )
    elif stated is not None:
        ppi = min(stated)
        if ppi < LOW_PPI:
            found.append(
                Finding(
                    "attention",
                    "low-resolution",
                    say("recipes.low-resolution", ppi=ppi, least=LOW_PPI),
                )
            )
        elif max(result) > HIGH_PPI and delivery.films is None:
            found.append(
                Finding(
                    "note",
                    "high-resolution",
                    say("recipes.high-resolution", ppi=max(result)),
                )
            )
        if delivery.resolution is not None and delivery.resolution > 1.5 * ppi:
            found.append(
                Finding(
                    "note",
                    "enlarged",
                    say("recipes.enlarged"),
                )
            )
    if high * wide * now.channels * delivery.bits / 8 > _LARGE and delivery.films is None:
        found.append(
            Finding(
                "note",
                "large",
                say(
                    "recipes.large",
                    gigabytes=high * wide * now.channels * delivery.bits / 8000000000.0,
                ),
            )
        )
    return found


def _turning(recipe: Recipe, now: Circumstances) -> list[Finding]:
    found = []
    delivery = recipe.delivery
    if now.mirrored_medium and not delivery.mirror:
        found.append(
            Finding(
                "attention",
                "not-mirrored",
                say("recipes.not-mirrored"),
            )
        )
    if delivery.mirror and not now.mirrored_medium and delivery.films is None:
        found.append(
            Finding(
                "attention",
                "mirrored",
                say("recipes.mirrored"),
            )
        )
    if delivery.negative and delivery.films is None:
        found.append(Finding("attention", "negative", say("recipes.negative")))
        if delivery.embed:
            found.append(
                Finding(
                    "attention",
                    "negative-profile",
                    say("recipes.negative-profile"),
                )
            )
    return found


def _inks(recipe: Recipe, now: Circumstances) -> list[Finding]:
    found = []
    if now.tac_max is not None and now.tac_rule is not None and now.tac_max > now.tac_rule + 0.5:
        found.append(
            Finding(
                "attention",
                "tac",
                say("recipes.tac", highest=now.tac_max, borne=now.tac_rule),
            )
        )
    if recipe.ink_rules and now.tac_rule is not None and recipe.ink_rules.tac > now.tac_rule + 0.5:
        found.append(
            Finding(
                "attention",
                "tac-rule",
                say("recipes.tac-rule", tac=recipe.ink_rules.tac, borne=now.tac_rule),
            )
        )
    if now.out_of_gamut is not None and now.out_of_gamut > 25 and now.process != "display":
        found.append(
            Finding(
                "note",
                "gamut",
                say("recipes.gamut", share=now.out_of_gamut),
            )
        )
    if now.far and now.process != "display":
        found.append(Finding("attention", "far", say("recipes.far", families=now.far)))
    if recipe.intent == "absolute":
        found.append(
            Finding(
                "attention",
                "absolute",
                say("recipes.absolute"),
            )
        )
    if recipe.plates:
        found.append(
            Finding(
                "note",
                "plates",
                say("recipes.plates", plates=sorted(recipe.plates)),
            )
        )
    if now.process == "screen" and recipe.delivery.films is None and now.inks:
        found.append(Finding("note", "films", say("recipes.films")))
    return found


def _format(recipe: Recipe, now: Circumstances) -> list[Finding]:
    delivery = recipe.delivery
    found = []
    if now.inks and now.inks != PROCESS and delivery.films is None:
        if delivery.format in ("PNG", "JPEG"):
            said = say("recipes.format-inks", format=delivery.format, inks=now.inks)
            found.append(Finding("stop", "format-inks", said))
        elif delivery.format == "PDF" and not delivery.embed:
            said = say("recipes.pdf-bare-inks")
            found.append(Finding("stop", "format-inks", said))
    if not delivery.embed and delivery.films is None:
        found.append(
            Finding(
                "note",
                "bare",
                say("recipes.bare"),
            )
        )
    if delivery.format == "JPEG" and now.inks == PROCESS:
        found.append(
            Finding(
                "note",
                "jpeg-cmyk",
                say("recipes.jpeg-cmyk"),
            )
        )
    if delivery.format == "PDF" and delivery.bits == 16 and delivery.films is None:
        found.append(Finding("note", "pdf-16", say("recipes.pdf-16")))
    printed = now.process != "display" and delivery.films is None
    if delivery.format == "TIFF" and delivery.bits == 16 and printed:
        found.append(Finding("note", "tiff-16", say("recipes.tiff-16")))
    return found
