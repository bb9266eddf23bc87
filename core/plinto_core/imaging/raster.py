"""PNG and JPEG, decoded whole by their libraries (Pillow; imagecodecs for 16-bit PNG)."""

from __future__ import annotations

import warnings
from collections.abc import Iterator
from pathlib import Path

import imagecodecs
import numpy as np
from PIL import Image, PngImagePlugin

from plinto_core.arrays import Pixels
from plinto_core.errors import NotSupported
from plinto_core.imaging.facts import MAX_DECODED, PictureFacts, check_size, plausible_resolution
from plinto_core.imaging.tiff import orient
from plinto_core.words import say

_ORIENTATION = 274
Image.MAX_IMAGE_PIXELS = None  # check_size decides, before anything is decoded
PngImagePlugin.MAX_TEXT_CHUNK = 64 << 20  # embedded profiles of a megabyte and more are common
_ROWS = 256


class RasterPicture:
    """A PNG or JPEG file; nothing is decoded before the first band is asked for."""

    def __init__(self, path: Path, facts: PictureFacts, deep: bool, target: str) -> None:
        self._path = path
        self._deep = deep
        self._target = target
        self.facts = facts

    @classmethod
    def open(cls, path: Path) -> RasterPicture:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            with Image.open(path, formats=["PNG", "JPEG"]) as image:
                check_size(image.width, image.height, MAX_DECODED)
                deep = image.format == "PNG" and _byte(path, 24) == 16
                target, channels, alpha = _mode(image, deep=deep, path=path)
                orientation = int(image.getexif().get(_ORIENTATION, 1))
                orientation = orientation if orientation in range(1, 9) else 1
                size = (image.width, image.height)
                dpi = image.info.get("dpi")
                profile = image.info.get("icc_profile")
                facts = PictureFacts(
                    format=str(image.format),
                    width=size[orientation >= 5],
                    height=size[orientation < 5],
                    channels=channels,
                    bits=16 if deep else 8,
                    alpha="straight" if alpha else "none",
                    profile=bytes(profile) if profile else None,
                    resolution=plausible_resolution(float(dpi[0]), float(dpi[1])) if dpi else None,
                    orientation=orientation,
                    declared_srgb="srgb" in image.info,
                )
        return cls(path, facts, deep, target)

    def close(self) -> None:
        """Nothing stays open between calls."""

    def raw_bands(self) -> Iterator[Pixels]:
        if self._deep:
            pixels = np.asarray(imagecodecs.png_decode(self._path.read_bytes()))
        else:
            with warnings.catch_warnings():
                warnings.simplefilter("ignore")
                with Image.open(self._path, formats=["PNG", "JPEG"]) as image:
                    pixels = np.asarray(
                        image if image.mode == self._target else image.convert(self._target)
                    )
        if pixels.ndim == 2:
            pixels = pixels[..., None]
        pixels = orient(pixels, self.facts.orientation)
        for start in range(0, pixels.shape[0], _ROWS):
            yield np.ascontiguousarray(pixels[start : start + _ROWS])


def _mode(image: Image.Image, *, deep: bool, path: Path) -> tuple[str, int, bool]:
    """The Pillow mode to decode to, the colour channels and whether alpha follows."""
    if deep:
        colour_type = _byte(path, 25)
        channels, alpha = {0: (1, False), 2: (3, False), 4: (1, True), 6: (3, True)}[colour_type]
        return "", channels, alpha
    transparent = "transparency" in image.info
    mode = image.mode
    if mode in ("1", "L") and not transparent:
        return "L", 1, False
    if mode in ("LA", "La") or (mode in ("1", "L") and transparent):
        return "LA", 1, True
    if mode == "CMYK":
        return "CMYK", 4, False
    if mode in ("RGBA", "RGBa") or transparent:
        return "RGBA", 3, True
    if mode in ("RGB", "P", "YCbCr"):
        return "RGB", 3, False
    raise NotSupported(say("imaging.kind-unread", kind=mode))


def _byte(path: Path, position: int) -> int:
    with path.open("rb") as file:
        file.seek(position)
        return file.read(1)[0]
