"""What a conversion says of itself."""

from __future__ import annotations

from typing import Literal

from plinto_core.colorimetry.difference import Differences
from plinto_core.fields import Part, Report
from plinto_core.gamut.look import Perceptual
from plinto_core.icc.spaces import Intent
from plinto_core.inks.evenness import Evenness
from plinto_core.inks.rules import InkRules
from plinto_core.recipes.families import FamilyLoss
from plinto_core.recipes.unconverted import Unconverted
from plinto_core.transform.link import LinkError


class SourceUsed(Part):
    """origin : "embedded", "assigned", "declared" or "house default"."""

    profile: str
    origin: str


class DestinationUsed(Part):
    """channels : short names of the inks, or of R, G, B."""

    profile: str
    channels: tuple[str, ...]


class PixelSize(Part):
    width: int
    height: int


class PixelPlace(Part):
    """From the left and from the top of the result."""

    x: int
    y: int


class TotalInk(Part):
    """max : percent, the highest of any pixel, at : its place; rule : the limit, None for none."""

    max: float
    at: PixelPlace
    rule: float | None


class OutOfGamut(Part):
    """Shares 0..1 of the sampled pixels; the ways are None where they were not told apart."""

    share: float
    too_vivid: float | None = None
    too_dark: float | None = None
    too_light: float | None = None
    threshold_de00: float


class ConversionReport(Report):
    """perceptual : how that intent was made, None by the destination's own
    table; numbers : whether the artwork's own numbers were kept; link : the device link that made them; size : of the result in pixels;
    resolution : pixels an inch, across and down; dithered : from 16 to 8 bits; de00 : of artwork and print, sampled; link_error : dE00
    of the grid that was applied against the exact function; greys : how the inks of RGB and grey
    artwork run along a neutral ramp, None for others; unconverted : what the artwork's own numbers would
    print, sampled, where they could be sent as they are."""

    source: SourceUsed
    destination: DestinationUsed
    intent: Intent
    bpc: bool
    perceptual: Perceptual | None = None
    numbers: Literal["kept", "made anew"] = "made anew"
    link: str | None = None
    extra_channels: tuple[str, ...] = ()
    ink_rules: InkRules | None
    size: PixelSize
    resolution: tuple[float, float] | None
    corrections: int
    bits: int
    dithered: bool = False
    format: str
    profile_embedded: bool
    flattened_on_white: bool
    tac: TotalInk
    out_of_gamut: OutOfGamut
    families: tuple[FamilyLoss, ...] = ()
    de00: Differences
    link_error: LinkError
    greys: Evenness | None = None
    unconverted: Unconverted | None = None
    seconds: float
