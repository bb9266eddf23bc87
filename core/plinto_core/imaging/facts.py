"""What is known of a picture before a pixel is decoded, and the limits it must keep."""

from __future__ import annotations

from dataclasses import dataclass

from plinto_core.errors import BadImage
from plinto_core.words import say

MAX_STREAMED = 3_000_000_000
"""Most pixels of a TIFF, read in strips or tiles."""
MAX_DECODED = 260_000_000
"""Most pixels of a picture that its library decodes as a whole (PNG, JPEG, odd TIFF)."""

SPACES = {1: "GRAY", 3: "RGB ", 4: "CMYK"}


@dataclass(frozen=True)
class Layer:
    """A layer of a layered document; hidden : it, or a group it is in, is not in the flattened picture."""

    name: str
    hidden: bool


@dataclass(frozen=True)
class PictureFacts:
    """width, height in pixels; channels without alpha; bits 8 or 16; ppi or None;
    alpha : "none", "straight" or "premultiplied"; declared_srgb : a PNG that says so without
    a profile; extra_channels : names of channels beside colours and transparency, which are not read;
    inks : what the channels of a picture in other inks than CMYK are called, () for all others; layers :
    that hold pixels, the uppermost first, each a page after the flattened picture."""

    format: str
    width: int
    height: int
    channels: int
    bits: int
    alpha: str = "none"
    profile: bytes | None = None
    resolution: tuple[float, float] | None = None
    pages: int = 1
    orientation: int = 1
    declared_srgb: bool = False
    extra_channels: tuple[str, ...] = ()
    inks: tuple[str, ...] = ()
    layers: tuple[Layer, ...] = ()

    @property
    def space(self) -> str:
        return f"{self.channels:X}CLR" if self.inks else SPACES[self.channels]

    @property
    def print_size_mm(self) -> tuple[float, float] | None:
        """Width and height in millimetres at the stated resolution."""
        if self.resolution is None:
            return None
        x, y = self.resolution
        return self.width / x * 25.4, self.height / y * 25.4


def check_size(width: int, height: int, limit: int) -> None:
    """Raise BadImage for an empty or too large picture, before anything is decoded."""
    if width < 1 or height < 1:
        raise BadImage(say("imaging.no-pixels"))
    if width * height > limit:
        raise BadImage(
            say("imaging.pixels-many", width=width, height=height, most=limit // 1000000)
        )


def plausible_resolution(x: float, y: float) -> tuple[float, float] | None:
    """Pixels per inch, or None where the file's figures cannot be meant."""
    if 1.0 < x < 100_000 and 1.0 < y < 100_000:
        return float(x), float(y)
    return None
