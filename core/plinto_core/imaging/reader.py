"""Open a picture of any known format; one exception kind whatever is wrong with it."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Protocol

import numpy as np

from plinto_core.arrays import Pixels
from plinto_core.errors import BadImage, CoreError
from plinto_core.icc.spaces import is_subtractive
from plinto_core.imaging.arrival import ArrivalCheck
from plinto_core.imaging.composite import CompositePicture
from plinto_core.imaging.facts import PictureFacts
from plinto_core.imaging.raster import RasterPicture
from plinto_core.imaging.tiff import TiffPicture
from plinto_core.words import say

BAND_ROWS = 256


class Picture(Protocol):
    """An opened picture. Bands come in order, (rows, width, channels + alpha), native depth."""

    facts: PictureFacts

    def raw_bands(self) -> Iterator[Pixels]: ...
    def close(self) -> None: ...


class OpenedPicture:
    """A picture whose bands are flattened on paper white and whose failures are BadImage."""

    def __init__(self, picture: Picture, name: str) -> None:
        self._picture = picture
        self._name = name
        self.facts = picture.facts

    def checked_bands(self, check: ArrivalCheck) -> Iterator[Pixels]:
        """As `bands`, looked at by an arrival check."""
        return check.watch(self.bands(check.see_alpha))

    def bands(self, on_alpha: Callable[[Pixels], None] | None = None) -> Iterator[Pixels]:
        """Colour channels only, (rows, width, channels), uint8 or uint16, top to bottom."""
        rows = 0
        try:
            for band in self._picture.raw_bands():
                rows += band.shape[0]
                if on_alpha is not None and self.facts.alpha != "none":
                    on_alpha(band[..., -1])
                yield flatten(band, self.facts)
        except (CoreError, MemoryError):
            raise
        except Exception as error:
            raise _damaged(self._name, error) from error
        if rows != self.facts.height:
            raise _damaged(self._name, None)

    def read(self) -> Pixels:
        """The whole picture at once, (height, width, channels)."""
        return np.concatenate(list(self.bands()), axis=0)

    def close(self) -> None:
        self._picture.close()

    def __enter__(self) -> OpenedPicture:
        return self

    def __exit__(self, *args: object) -> None:
        self.close()


def _damaged(name: str, error: Exception | None) -> BadImage:
    if error is None or not str(error):
        return BadImage(say("imaging.damaged", file=name))
    detail = str(error).splitlines()[0][:120]
    return BadImage(say("imaging.damaged-in", file=name, detail=detail))


def open_picture(path: Path | str, *, page: int = 0, name: str = "") -> OpenedPicture:
    """Open a TIFF, PNG, JPEG or layered document by its content; raises BadImage or NotSupported.

    page : which picture of a TIFF with several, reduced previews not counted, or which layer of a layered
    document, 0 for its flattened picture; name : what its owner
    calls the file, for sentences, where it lies under another name.
    """
    path = Path(path)
    name = name or path.name
    try:
        with path.open("rb") as file:
            head = file.read(16)
    except OSError as error:
        raise BadImage(say("imaging.unreadable", file=name)) from error
    try:
        if page and head[:2] not in (b"II", b"MM", b"8B"):
            raise BadImage(say("imaging.one-page", file=name))
        if head[:4] == b"8BPS":
            return OpenedPicture(CompositePicture.open(path, page), name)
        if head[:4] in (b"II*\0", b"MM\0*", b"II+\0", b"MM\0+"):
            return OpenedPicture(TiffPicture.open(path, page), name)
        if head[:8] == b"\x89PNG\r\n\x1a\n" or head[:3] == b"\xff\xd8\xff":
            return OpenedPicture(RasterPicture.open(path), name)
    except (CoreError, MemoryError):
        raise
    except Exception as error:
        raise _damaged(name, error) from error
    if head[:5] == b"%PDF-":
        raise BadImage(say("imaging.is-pdf", file=name))
    raise BadImage(say("imaging.format-unknown" if head else "imaging.file-empty", file=name))


def flatten(band: Pixels, facts: PictureFacts) -> Pixels:
    """Lay (rows, width, channels + 1) on paper white; bands without alpha pass unchanged."""
    if facts.alpha == "none":
        return band
    top = np.iinfo(band.dtype).max
    alpha = band[..., -1:].astype(np.float32) / np.float32(top)
    colour = band[..., : facts.channels].astype(np.float32)
    if facts.alpha == "straight":
        colour = colour * alpha
    white = 0.0 if is_subtractive(facts.space) else float(top)
    return np.clip(colour + (1 - alpha) * white + 0.5, 0, top).astype(band.dtype)
