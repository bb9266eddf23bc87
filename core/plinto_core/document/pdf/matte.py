"""Images whose colours were multiplied with their soft mask before (ISO 32000-2, 11.6.5.2)."""

from __future__ import annotations

from typing import Any

import numpy as np
import pikepdf

from plinto_core.arrays import Pixels
from plinto_core.document.pdf.copies import Original
from plinto_core.document.pdf.functions import numbers
from plinto_core.document.pdf.images import decoded, image_facts, read_samples
from plinto_core.document.pdf.spaces import ColourSpace
from plinto_core.errors import BadDocument
from plinto_core.words import say


def has_matte(image: Any) -> bool:
    """Whether an image's soft mask says that the image was blended with a colour already."""
    mask = image.get("/SMask")
    return isinstance(mask, pikepdf.Stream) and "/Matte" in mask


def without_matte(image: Any, pixels: Pixels, space: ColourSpace) -> Pixels:
    """An image's own colours: c = m + (c' - m) / a, m the matte and a the mask's opacity.

    pixels : (height, width, channels) uint8 or uint16. Where nothing is seen of the image the matte
    stands. Raises BadDocument where mask and image do not fit, which the standard asks for.
    """
    mask = image["/SMask"]
    facts = image_facts(mask, None)
    shown = decoded(mask, read_samples(mask, facts), facts)
    matte = np.array(numbers(mask["/Matte"]))
    if shown.shape[:2] != pixels.shape[:2] or matte.size != space.channels:
        raise BadDocument(say("document.matte-misfit"))
    low, high = np.array(space.default_decode(8)).reshape(-1, 2).T
    unit = (matte - low) / (high - low)
    alpha = shown[..., :1] / float(np.iinfo(shown.dtype).max)
    top = float(np.iinfo(pixels.dtype).max)
    out = np.empty_like(pixels)
    # In bands: floats of a whole picture would take eight times its room.
    for first in range(0, pixels.shape[0], 256):
        part = slice(first, first + 256)
        a = alpha[part]
        own = unit + (pixels[part] / top - unit) / np.where(a > 0, a, 1.0)
        out[part] = np.round(np.clip(np.where(a > 0, own, unit), 0, 1) * top).astype(pixels.dtype)
    return out


def take_matte_off(pdf: pikepdf.Pdf, image: Any) -> None:
    """Give an image whose colours are its own a copy of its soft mask that says so; other images may
    share the mask."""
    made = Original.of(image["/SMask"]).copy(pdf)
    del made["/Matte"]
    image["/SMask"] = made
