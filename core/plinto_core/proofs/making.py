"""Make a proof: the picture as a press prints it, in a proofer's inks, with strip and text."""

from __future__ import annotations

import time
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import Any, Literal

import numpy as np
from pydantic import BaseModel, ConfigDict, Field

from plinto_core.arrays import Floats, Pixels, Progress
from plinto_core.colorimetry.difference import Differences, delta_e_2000, in_figures
from plinto_core.errors import BadRecipe
from plinto_core.fields import Report, checked
from plinto_core.gamut.outside import THRESHOLD
from plinto_core.icc.colorants import ink_names
from plinto_core.icc.parts import judge_part
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import is_subtractive
from plinto_core.imaging.writer import OutputOptions, write_picture
from plinto_core.proofs.judging import PatchAim
from plinto_core.proofs.sheet import StripPlace, as_pixels, lay_out, sheet_bands
from plinto_core.proofs.strip import Patch, aims, beyond, strip_patches
from plinto_core.recipes.recipe import Recipe, parse_recipe
from plinto_core.recipes.report import PixelSize
from plinto_core.recipes.run import opened_run
from plinto_core.recipes.sources import FindTable, Resolve, no_tables
from plinto_core.transform.chain import convert, lab_of_device
from plinto_core.transform.link import DeviceLink, LinkError, build_measured_link
from plinto_core.words import say


class ProofSettings(BaseModel):
    """How a proof is made.

    intent : from press to proofer: absolute shows the press's paper too, relative lays it on the
    proofer's own; resolution : pixels per inch at most; strip : with patches; text : a line of one's
    own below them.
    """

    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False)

    intent: Literal["absolute", "relative"] = "absolute"
    format: Literal["TIFF", "PDF"] = "TIFF"
    bits: Literal[8, 16] = 16
    resolution: float = Field(300, ge=36, le=1200)
    strip: bool = True
    text: str = Field("", max_length=200)


def parse_proof_settings(data: Any) -> ProofSettings:
    """Settings from decoded JSON; raises BadRecipe with the field at fault."""
    return checked(ProofSettings, data, "proofs.not-usable")


class ProofPatch(PatchAim):
    """inks : percent, of the press; device : percent, of the proofer; expected : absolute Lab by the
    proofer's profile; missed : whether the proofer cannot print the aim."""

    inks: dict[str, float]
    device: dict[str, float]
    expected: tuple[float, float, float]
    missed: bool


class ProofReport(Report):
    """bare : Lab of the proofer's unprinted paper; expected : dE00 of aims and what the proofer's
    profile says it will print; link_error : of the table from press to proofer."""

    press: str
    proofer: str
    intent: str
    format: str
    size: PixelSize
    resolution: float
    size_mm: tuple[float, float]
    text: tuple[str, ...]
    bare: tuple[float, float, float]
    patches: tuple[ProofPatch, ...]
    strip: StripPlace
    expected: Differences | None
    link_error: LinkError
    seconds: float


@dataclass(frozen=True)
class _Way:
    """From a press's numbers to a proofer's."""

    press: Profile
    proofer: Profile
    intent: str

    def device(self, inks: Floats) -> Floats:
        return convert(self.press, self.proofer, inks, intent=self.intent, bpc=False)

    def difference(self, a: Floats, b: Floats) -> Floats:
        one, two = (lab_of_device(self.proofer, v, intent="absolute") for v in (a, b))
        return delta_e_2000(one, two)

    def link(self) -> tuple[DeviceLink, LinkError]:
        return build_measured_link(self.device, self.press.channels, self.difference)


def proof_of_picture(
    recipe: Recipe, source: Path, target: Path, proofer: Profile, resolve: Resolve,
    settings: ProofSettings, lines: tuple[str, ...] = (), *,
    find_table: FindTable = no_tables, progress: Progress = lambda share: None,
) -> ProofReport:  # fmt: skip
    """The proof of a recipe on a picture, right-reading and at the size of the print.

    What is of the delivered file alone (mirror, turning, films, reversal) has no part in it. The file
    appears under `target` only when complete. Raises BadInput or NotSupported; `progress` may raise
    Cancelled.
    """
    began = time.monotonic()
    judge_part(proofer, "destination")
    _is_printer(proofer)
    plain = _plain(recipe, source, resolve, find_table, settings)
    with opened_run(plain, source, resolve, find_table, progress) as opened:
        size, resolution = opened.ready.size, opened.ready.resolution
        assert resolution is not None
        way = _Way(opened.ready.route.destination, proofer, settings.intent)
        return _written(
            target, opened.inks(), size, resolution[0], way, settings, lines, progress, began
        )


def proof_of_inks(
    bands: Iterator[Pixels], size: tuple[int, int], ppi: float, press: Profile, target: Path,
    proofer: Profile, settings: ProofSettings, lines: tuple[str, ...] = (), *,
    progress: Progress = lambda share: None,
) -> ProofReport:  # fmt: skip
    """The proof of (rows, width, channels) bands of a press's numbers, as a page's plates are."""
    began = time.monotonic()
    judge_part(proofer, "destination")
    _is_printer(proofer)
    way = _Way(press, proofer, settings.intent)
    return _written(target, bands, size, ppi, way, settings, lines, progress, began)


def _is_printer(proofer: Profile) -> None:
    if proofer.colour_space not in ("CMYK", "RGB "):
        raise BadRecipe(
            say(
                "proofs.proofer-no-colours",
                profile=proofer.description,
                space=proofer.colour_space.strip(),
            )
        )


def _plain(
    recipe: Recipe, source: Path, resolve: Resolve, find_table: FindTable, settings: ProofSettings
) -> Recipe:
    """The recipe without what is of the delivered file, at a resolution the proof can use."""
    own = recipe.delivery
    delivery: dict[str, Any] = {"width_mm": own.width_mm, "resolution": own.resolution, "bits": 16}
    data = recipe.model_dump(mode="json")

    def with_delivery() -> Recipe:
        return parse_recipe({**data, "delivery": delivery})

    with opened_run(with_delivery(), source, resolve, find_table, lambda share: None) as opened:
        resolution = opened.ready.resolution
    if resolution is None:
        raise BadRecipe(say("proofs.picture-no-size"))
    # Unequal pixels are made square: the proofer's are.
    if max(resolution) > settings.resolution or resolution[0] != resolution[1]:
        delivery["resolution"] = min(settings.resolution, max(resolution))
    return with_delivery()


def _written(
    target: Path, bands: Iterator[Pixels], size: tuple[int, int], ppi: float, way: _Way,
    settings: ProofSettings, lines: tuple[str, ...], progress: Progress, began: float,
) -> ProofReport:  # fmt: skip
    link, error = way.link()
    patches = strip_patches(way.press) if settings.strip else ()
    text = tuple(line for line in (*lines, settings.text) if line)
    sheet = lay_out(size, ppi, len(patches), len(text))
    channels = way.proofer.channels
    blank = np.full(channels, 0.0 if is_subtractive(way.proofer.colour_space) else 1.0)
    dtype = np.uint16 if settings.bits == 16 else np.uint8
    # The strip goes the picture's way, table and all: it answers for the picture.
    device = np.zeros((0, channels))
    if patches:
        device = np.clip(link.evaluate(np.array([p.inks for p in patches])), 0, 1)
    dark = _text_ink(way.proofer)

    def converted() -> Iterator[Pixels]:
        for band in bands:
            rows, columns, count = band.shape
            flat = link.apply(np.ascontiguousarray(band).reshape(-1, count), bits=settings.bits)
            yield flat.reshape(rows, columns, -1)

    options = OutputOptions(
        format=settings.format, bits=settings.bits, profile=way.proofer.data, resolution=(ppi, ppi)
    )
    write_picture(
        target,
        sheet_bands(
            sheet, converted(), as_pixels(device, dtype), as_pixels(blank, dtype),
            as_pixels(dark, dtype), text,
        ),
        (*sheet.size, channels),
        options,
    )  # fmt: skip
    asked, expected = _patches(way, patches, device) if patches else ((), None)
    progress(1.0)
    bare = lab_of_device(way.proofer, blank[None], intent="absolute")[0]
    return ProofReport(
        press=way.press.description,
        proofer=way.proofer.description,
        intent=settings.intent,
        format=settings.format,
        size=PixelSize(width=sheet.size[1], height=sheet.size[0]),
        resolution=round(ppi, 2),
        size_mm=(round(sheet.size[1] / ppi * 25.4, 1), round(sheet.size[0] / ppi * 25.4, 1)),
        text=text,
        bare=_three(bare),
        patches=asked,
        strip=sheet.strip,
        expected=expected,
        link_error=error,
        seconds=round(time.monotonic() - began, 3),
    )


def _text_ink(proofer: Profile) -> Floats:
    """Black ink alone where there is one, else all channels dark."""
    if proofer.colour_space == "CMYK":
        return np.array([0.0, 0.0, 0.0, 1.0])
    return np.zeros(proofer.channels)


def _patches(
    way: _Way, patches: tuple[Patch, ...], device: Floats
) -> tuple[tuple[ProofPatch, ...], Differences]:
    wanted = aims(way.press, patches)
    expected = lab_of_device(way.proofer, device, intent="absolute")
    out = beyond(way.proofer, wanted) > THRESHOLD
    inks, names = (ink_names(p) for p in (way.press, way.proofer))
    rows = tuple(
        ProofPatch(
            name=p.name,
            kind=p.kind,
            aim=_three(aim),
            inks={n: round(v * 100, 2) for n, v in zip(inks, p.inks, strict=True)},
            device={n: round(float(v) * 100, 2) for n, v in zip(names, row, strict=True)},
            expected=_three(lab),
            missed=bool(away),
        )
        for p, aim, row, lab, away in zip(patches, wanted, device, expected, out, strict=True)
    )
    return rows, in_figures(delta_e_2000(wanted, expected))


def _three(lab: Floats) -> tuple[float, float, float]:
    return round(float(lab[0]), 3), round(float(lab[1]), 3), round(float(lab[2]), 3)
