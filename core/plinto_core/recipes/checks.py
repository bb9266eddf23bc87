"""The check before delivery: what would surprise the receiver, as sentences."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from plinto_core.errors import CoreError
from plinto_core.imaging.writer import PROCESS
from plinto_core.recipes.output import print_resolution, result_size
from plinto_core.recipes.recipe import Recipe
from plinto_core.recipes.sources import extra_channels_sentence

Level = Literal["stop", "attention", "note"]
LOW_PPI, HIGH_PPI = 150.0, 450.0
_LARGE = 2_000_000_000


@dataclass(frozen=True)
class Finding:
    """level : "stop" (cannot be delivered), "attention" (likely a mistake), "note"."""

    level: Level
    code: str
    text: str


@dataclass(frozen=True)
class Circumstances:
    """What the check knows besides the recipe.

    size : pixels of the artwork; source_origin as in sources.py; tac_max, out_of_gamut : percent,
    None where not measured; mirrored_medium, tac_rule : of the condition; question : open; inks : of the
    condition, () where it takes none.
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
                "The house rules ask what the artwork's colours mean. Answer in the stage Source.",
            )
        )
    elif now.source_origin in ("house default", "none"):
        found.append(
            Finding(
                "attention",
                "no-profile",
                "The artwork has no profile; its colours are a house default's and may look different at the sender.",
            )
        )
    if now.transparency:
        found.append(
            Finding(
                "note",
                "flattened",
                "Transparency is laid on the medium's white; the receiver gets a flat picture.",
            )
        )
    if now.extra_channels:
        names = ", ".join(now.extra_channels)
        found.append(
            Finding("attention", "extra-channels", f"Left out, as agreed: {names}.")
            if recipe.extra_channels == "leave out"
            else Finding("stop", "extra-channels", extra_channels_sentence(now.extra_channels))
        )
    if now.numbers_kept:
        found.append(
            Finding(
                "note",
                "numbers",
                "The artwork is in this condition's own space; its numbers go out as they are.",
            )
        )
    if recipe.negative:
        found.append(
            Finding("note", "from-negative", "The artwork is turned from a negative to a positive.")
        )
    if now.pages > 1:
        found.append(
            Finding("note", "pages", f"Only page {recipe.page + 1} of {now.pages} is delivered.")
        )
    return found


def _size(recipe: Recipe, now: Circumstances) -> list[Finding]:
    delivery = recipe.delivery
    try:
        (high, wide), result = result_size(*now.size, now.resolution, delivery)
    except CoreError as error:
        return [Finding("stop", "size", str(error))]
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
                "The file states no print size; the receiver's system will guess one. Set the width of the print.",
            )
        )
    elif stated is not None:
        ppi = min(stated)
        if ppi < LOW_PPI:
            found.append(
                Finding(
                    "attention",
                    "low-resolution",
                    f"The artwork has {ppi:.0f} ppi at this size; single pixels may show below {LOW_PPI:.0f}.",
                )
            )
        elif max(result) > HIGH_PPI and delivery.films is None:
            found.append(
                Finding(
                    "note",
                    "high-resolution",
                    f"The result has {max(result):.0f} ppi, more than print shows; a resolution of 300 would make the file smaller.",
                )
            )
        if delivery.resolution is not None and delivery.resolution > 1.5 * ppi:
            found.append(
                Finding(
                    "note",
                    "enlarged",
                    "More pixels are made than the artwork has; they add no detail.",
                )
            )
    if high * wide * now.channels * delivery.bits / 8 > _LARGE and delivery.films is None:
        found.append(
            Finding(
                "note",
                "large",
                f"Uncompressed the result has {high * wide * now.channels * delivery.bits / 8e9:.1f} GB.",
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
                "The condition is a transfer print, but the file is not mirrored: the print will come out reversed.",
            )
        )
    if delivery.mirror and not now.mirrored_medium and delivery.films is None:
        found.append(
            Finding(
                "attention",
                "mirrored",
                "The file is mirrored, but the condition prints right-reading.",
            )
        )
    if delivery.negative and delivery.films is None:
        found.append(
            Finding("attention", "negative", "The file is a negative; it cannot be judged by eye.")
        )
        if delivery.embed:
            found.append(
                Finding(
                    "attention",
                    "negative-profile",
                    "A negative with the profile in it shows false colours in every viewer; leave the profile out.",
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
                f"The highest total ink is {now.tac_max:.0f} %, the condition bears {now.tac_rule:.0f} %. Set ink rules.",
            )
        )
    if recipe.ink_rules and now.tac_rule is not None and recipe.ink_rules.tac > now.tac_rule + 0.5:
        found.append(
            Finding(
                "attention",
                "tac-rule",
                f"The ink rules allow {recipe.ink_rules.tac:.0f} %, more than the condition's {now.tac_rule:.0f} %.",
            )
        )
    if now.out_of_gamut is not None and now.out_of_gamut > 25 and now.process != "display":
        found.append(
            Finding(
                "note",
                "gamut",
                f"{now.out_of_gamut:.0f} % of the picture is too vivid, too dark or too light for the condition; agree a proof with the customer.",
            )
        )
    if recipe.intent == "absolute":
        found.append(
            Finding(
                "attention",
                "absolute",
                "Absolute colorimetric prints the artwork's own white on the medium; it is meant for proofs.",
            )
        )
    if recipe.plates:
        found.append(
            Finding(
                "note",
                "plates",
                f"Plates changed after the separation: {', '.join(sorted(recipe.plates))}.",
            )
        )
    if now.process == "screen" and recipe.delivery.films is None and now.inks:
        found.append(
            Finding("note", "films", "Screens are made from films; the delivery is a picture.")
        )
    return found


def _format(recipe: Recipe, now: Circumstances) -> list[Finding]:
    delivery = recipe.delivery
    found = []
    if now.inks and now.inks != PROCESS and delivery.films is None:
        if delivery.format in ("PNG", "JPEG"):
            said = (
                f"{delivery.format} cannot hold the inks {', '.join(now.inks)}. Choose TIFF or PDF."
            )
            found.append(Finding("stop", "format-inks", said))
        elif delivery.format == "PDF" and not delivery.embed:
            said = "A PDF of such inks says by their profile what they look like. Embed it, or choose TIFF."
            found.append(Finding("stop", "format-inks", said))
    if not delivery.embed and delivery.films is None:
        found.append(
            Finding(
                "note",
                "bare",
                "No profile goes with the file; say which condition its numbers are for.",
            )
        )
    if delivery.format == "JPEG" and now.inks == PROCESS:
        found.append(
            Finding(
                "note",
                "jpeg-cmyk",
                "JPEG with inks is compressed with losses, and some programs show it reversed.",
            )
        )
    if delivery.format == "PDF" and delivery.bits == 16 and delivery.films is None:
        found.append(
            Finding(
                "note", "pdf-16", "A PDF with 16 bits needs version 1.5 or later at the receiver."
            )
        )
    printed = now.process != "display" and delivery.films is None
    if delivery.format == "TIFF" and delivery.bits == 16 and printed:
        found.append(Finding("note", "tiff-16", "Some RIPs read 8-bit TIFF only."))
    return found
