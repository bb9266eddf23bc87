"""Layered documents (PSD, PSB): the flattened picture their program stored with the layers.

This composite is page 0; the pages after it are the layers that hold pixels, each by itself, see layers.py.
"""

from __future__ import annotations

import struct
import warnings
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import numpy as np

from plinto_core.arrays import Pixels
from plinto_core.errors import BadImage, NotSupported
from plinto_core.imaging.facts import MAX_DECODED, PictureFacts, check_size, plausible_resolution
from plinto_core.imaging.layers import StoredLayer, layer_pixels, stored_layers
from plinto_core.words import say

_MODES = {1: 1, 3: 3, 4: 4}
_RESOLUTION, _NAMES, _PROFILE, _VERSION = 1005, 1006, 1039, 1057
_ROWS = 256
_MAX_FILE = 4 << 30


class CompositePicture:
    """The composite of a layered document, decoded whole when the first band is asked for."""

    def __init__(self, document: Any, facts: PictureFacts, layer: StoredLayer | None) -> None:
        self._document = document
        self._layer = layer
        self.facts = facts

    @classmethod
    def open(cls, path: Path, page: int = 0) -> CompositePicture:
        size = path.stat().st_size
        if size > _MAX_FILE:
            raise BadImage(say("imaging.layered-large"))
        _check_header(path)
        # A third of a second to load, and few who start the program open layered documents.
        from psd_tools.psd import PSD

        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            document = PSD.frombytes(path.read_bytes())
        header = document.header
        channels = _MODES[int(header.color_mode)]
        resources = {int(k): v for k, v in document.image_resources.items()}
        layers = stored_layers(document, channels)
        if page > len(layers):
            raise BadImage(say("imaging.layered-layer", count=len(layers), layer=page))
        if not page and _VERSION in resources and not _has_composite(resources[_VERSION]):
            raise NotSupported(say("imaging.layered-not-flattened"))
        profile = resources.get(_PROFILE)
        facts = PictureFacts(
            format="PSB" if header.version == 2 else "PSD",
            width=header.width,
            height=header.height,
            channels=channels,
            bits=header.depth,
            alpha="straight" if page or _transparent(document, channels) else "none",
            extra_channels=() if page else _extra_channels(document, channels, resources),
            profile=_plain(profile.data) if profile is not None else None,
            resolution=_resolution(resources.get(_RESOLUTION)),
            pages=1 + len(layers),
            layers=tuple(layer.shown for layer in layers),
        )
        return cls(document, facts, layers[page - 1] if page else None)

    def close(self) -> None:
        """Nothing stays open between calls."""

    def raw_bands(self) -> Iterator[Pixels]:
        if self._layer is not None:
            whole = layer_pixels(self._layer, self._document.header, self.facts.channels)
            for start in range(0, self.facts.height, _ROWS):
                yield self._inks_turned(whole[start : start + _ROWS])
            return
        _check_complete(self._document)
        planes = self._document.image_data.get_data(self._document.header)
        facts = self.facts
        keep = facts.channels + (facts.alpha != "none")
        dtype = np.dtype(f">u{facts.bits // 8}")
        shape = (facts.height, facts.width)
        needed = facts.height * facts.width * dtype.itemsize
        if len(planes) < keep or any(len(p) < needed for p in planes[:keep]):
            raise BadImage(say("imaging.layered-incomplete"))
        planar = [
            np.frombuffer(p, dtype, count=shape[0] * shape[1]).reshape(shape) for p in planes[:keep]
        ]
        for start in range(0, facts.height, _ROWS):
            band = np.stack([p[start : start + _ROWS] for p in planar], axis=-1)
            yield self._inks_turned(band.astype(dtype.newbyteorder("=")))

    def _inks_turned(self, band: Pixels) -> Pixels:
        """Inks are stored reversed in these documents: full value is no ink."""
        if self.facts.space == "CMYK":
            band[..., :4] = np.iinfo(band.dtype).max - band[..., :4]
        return np.ascontiguousarray(band)


def _check_header(path: Path) -> None:
    """Refuse what cannot be read by the 26 bytes at the front, before anything is parsed."""
    with path.open("rb") as file:
        head = file.read(26)
    if len(head) < 26:
        raise BadImage(say("imaging.layered-header"))
    _, version, _, channels, height, width, depth, mode = struct.unpack(">4sH6sHIIHH", head)
    check_size(width, height, MAX_DECODED)
    if mode not in _MODES or depth not in (8, 16) or version not in (1, 2):
        raise NotSupported(say("imaging.layered-mode"))
    if not _MODES[mode] <= channels <= 56:
        raise BadImage(say("imaging.layered-channels"))


def _check_complete(document: Any) -> None:
    """Packed rows (PackBits) announce their lengths; the library fills missing ones silently."""
    stored, header = document.image_data, document.header
    if int(stored.compression) != 1:
        return
    rows = int(header.height) * int(header.channels)
    size = 4 if header.version == 2 else 2
    counts = np.frombuffer(stored.data[: rows * size], f">u{size}")
    if counts.size < rows or len(stored.data) < rows * size + int(counts.sum(dtype=np.int64)):
        raise BadImage(say("imaging.layered-pixels"))


def _transparent(document: Any, channels: int) -> bool:
    """Whether the composite's first extra channel is its transparency (negative layer count)."""
    if document.header.channels <= channels:
        return False
    info = document.layer_and_mask_information.layer_info
    return info is not None and int(info.layer_count) < 0


def _extra_channels(document: Any, channels: int, resources: dict[int, Any]) -> tuple[str, ...]:
    """Names of the channels beside colours and transparency (image resource 1006)."""
    first = channels + _transparent(document, channels)
    count = int(document.header.channels) - first
    if count <= 0:
        return ()
    named = resources.get(_NAMES)
    found = [str(n)[:60] for n in (getattr(named, "data", None) or [])] if named else []
    found = [n for n in found if n.strip()][-count:]
    return (*found, *(f"channel {first + i + 1}" for i in range(len(found), count)))


def _plain(data: Any) -> bytes:
    return bytes(data if isinstance(data, bytes) else data.value)


def _has_composite(resource: Any) -> bool:
    return bool(getattr(resource.data, "has_composite", True))


def _resolution(resource: Any) -> tuple[float, float] | None:
    """Pixels per inch; both are stored as 16.16 fixed point per inch."""
    if resource is None:
        return None
    data = resource.data
    across, down = getattr(data, "horizontal", None), getattr(data, "vertical", None)
    if across is None and isinstance(data, bytes) and len(data) >= 16:
        across, down = struct.unpack(">I4xI", data[:12])
    if across is None or down is None:
        return None
    return plausible_resolution(across / 65536, down / 65536)
