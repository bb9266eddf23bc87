"""How a proof lies on its sheet: the picture, the strip below it, the lines of text."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
from PIL import Image, ImageDraw, ImageFont

from plinto_core.arrays import Floats, Pixels
from plinto_core.fields import Part

MARGIN_MM = 4.0
GAP_MM = 3.0
PATCH_MM = 7.0
"""Side of a patch: an instrument's aperture of 4.5 mm with room around it."""
LINE_MM = 3.6
_LEAST_ACROSS = 6
"""Patches in a row that a sheet has room for, however narrow the picture is."""


class StripPlace(Part):
    """centres : x and y of every patch in pixels of the sheet; side : of a patch in pixels."""

    centres: tuple[tuple[int, int], ...]
    side: int


@dataclass(frozen=True)
class Sheet:
    """Places of everything in pixels; size : (height, width) of the whole, picture : top and left."""

    size: tuple[int, int]
    picture: tuple[int, int]
    picture_size: tuple[int, int]
    strip: StripPlace
    text_top: int
    line: int


def lay_out(
    picture: tuple[int, int], ppi: float, patches: int, lines: int, patch_mm: float = PATCH_MM
) -> Sheet:
    """The sheet for a picture of (height, width) pixels at `ppi`, with patches and lines of text."""

    def pixels(mm: float) -> int:
        return max(1, round(mm / 25.4 * ppi))

    margin, gap, side, line = (pixels(v) for v in (MARGIN_MM, GAP_MM, patch_mm, LINE_MM))
    height, width = picture
    across = max(_LEAST_ACROSS, min(patches, width // side)) if patches else _LEAST_ACROSS
    wide = max(width, across * side)
    rows = -(-patches // across) if patches else 0
    strip_top = margin + height + gap
    centres = tuple(
        (margin + (i % across) * side + side // 2, strip_top + (i // across) * side + side // 2)
        for i in range(patches)
    )
    text_top = strip_top + rows * side + (gap if rows else 0)
    return Sheet(
        size=(text_top + lines * line + margin, wide + 2 * margin),
        picture=(margin, margin),
        picture_size=picture,
        strip=StripPlace(centres=centres, side=side),
        text_top=text_top,
        line=line,
    )


def sheet_bands(
    sheet: Sheet, bands: Iterator[Pixels], colours: Pixels, blank: Pixels, ink: Pixels,
    lines: tuple[str, ...],
) -> Iterator[Pixels]:  # fmt: skip
    """The whole sheet as bands of rows.

    bands : of the picture, (rows, width, channels); colours : (patches, channels) of the strip;
    blank : (channels,) nothing printed; ink : (channels,) the text's colour; all of one dtype.
    """
    top, left = sheet.picture
    height, width = sheet.picture_size
    wide = sheet.size[1]
    yield _empty(top, wide, blank)
    for band in bands:
        row = _empty(band.shape[0], wide, blank)
        row[:, left : left + width] = band
        yield row
    rest = _empty(sheet.size[0] - top - height, wide, blank)
    half = sheet.strip.side // 2
    for (x, y), colour in zip(sheet.strip.centres, colours, strict=True):
        y -= top + height
        rest[y - half : y - half + sheet.strip.side, x - half : x - half + sheet.strip.side] = (
            colour
        )
    for number, line in enumerate(lines):
        drawn = _text(line, max(6, round(sheet.line * 0.75)), wide - 2 * left)
        at = sheet.text_top - top - height + number * sheet.line
        part = rest[at : at + drawn.shape[0], left : left + drawn.shape[1]]
        part[drawn[: part.shape[0], : part.shape[1]]] = ink
    yield rest


def _empty(rows: int, columns: int, blank: Pixels) -> Pixels:
    return np.broadcast_to(blank, (rows, columns, blank.size)).copy()


def _text(words: str, size: int, room: int) -> np.ndarray:
    """One line of text as a mask, made smaller where it would not fit into `room` pixels."""
    while True:
        font = ImageFont.load_default(size)
        left, top, right, bottom = (round(v) for v in font.getbbox(words))
        if right - left <= room or size <= 6:
            break
        size = max(6, min(size - 1, int(size * room / (right - left))))
    image = Image.new("L", (max(1, min(room, right - left)), max(1, bottom - top)), 0)
    ImageDraw.Draw(image).text((-left, -top), words, fill=255, font=font)
    return np.asarray(image) > 127


def as_pixels(values: Floats, dtype: type = np.uint16) -> Pixels:
    """Values 0..1 as whole steps of a picture."""
    return np.asarray(np.round(np.clip(values, 0, 1) * np.iinfo(dtype).max), dtype=dtype)
