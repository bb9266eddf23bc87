"""TIFF and BigTIFF by strips and tiles (TIFF 6.0), through tifffile."""

from __future__ import annotations

import io
import logging
import warnings
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import numpy as np
import tifffile
from PIL import Image

from plinto_core.arrays import Pixels
from plinto_core.errors import BadImage, NotSupported
from plinto_core.icc.colorants import SHORT
from plinto_core.icc.parts import MOST_INKS
from plinto_core.icc.spaces import CHANNELS
from plinto_core.imaging.facts import (
    MAX_DECODED,
    MAX_STREAMED,
    PictureFacts,
    check_size,
    plausible_resolution,
)
from plinto_core.imaging.ink_tiff import INK_SET
from plinto_core.words import say

logging.getLogger("tifffile").setLevel(logging.CRITICAL)
_MIN_WHITE, _MIN_BLACK, _RGB, _PALETTE, _SEPARATED, _YCBCR = 0, 1, 2, 3, 5, 6
_LAB = (8, 9, 10)
_CHANNELS = {_MIN_WHITE: 1, _MIN_BLACK: 1, _RGB: 3, _SEPARATED: 4, _YCBCR: 3}
_MAX_SEGMENT = 2 << 30
_BAND_BYTES = 16 << 20
_PLAIN = (1, 2, 3, 4, 5, 8, 32773, 32946, 34925, 50000)
"""Compressions that unpack to as much as is asked for: none, fax, LZW, deflate, PackBits, LZMA, Zstandard."""
_WHOLE = {
    7: "JPEG",
    33003: "JPEG2000",
    33005: "JPEG2000",
    34712: "JPEG2000",
    34933: "PNG",
    50001: "WEBP",
}
"""Compressions whose segments are pictures of their own that state a size: by Pillow's name of the format."""
_PADDED = 16
"""Pixels by which such a picture may be larger than its strip or tile: blocks are filled up."""
MOST_PAGES = 2000


class TiffPicture:
    """One page of a TIFF; reduced previews of a page (subfile type, bit 0) are no pages."""

    def __init__(self, file: tifffile.TiffFile, page: Any, facts: PictureFacts) -> None:
        self._file = file
        self._page = page
        self.facts = facts

    @classmethod
    def open(cls, path: Path, number: int = 0) -> TiffPicture:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            file = tifffile.TiffFile(path)
            try:
                pages = _full_pages(file)
                if number >= len(pages):
                    raise BadImage(say("imaging.tiff-page", count=len(pages), page=number + 1))
                page = pages[number]
                return cls(file, page, _facts(page, len(pages)))
            except BaseException:
                file.close()
                raise

    def close(self) -> None:
        self._file.close()

    def raw_bands(self) -> Iterator[Pixels]:
        page, facts = self._page, self.facts
        if facts.orientation != 1 or int(page.photometric) == _PALETTE or page.bitspersample < 8:
            yield from self._whole()
        elif int(page.planarconfig) == 2 and page.samplesperpixel > 1:
            yield from self._planar()
        elif page.is_tiled:
            yield from self._tiles()
        else:
            yield from self._strips()

    def _finish(self, band: Pixels) -> Pixels:
        if int(self._page.photometric) == _MIN_WHITE:
            band = np.iinfo(band.dtype).max - band
        keep = self.facts.channels + (self.facts.alpha != "none")
        return np.ascontiguousarray(band[..., :keep])

    def _segment(self, index: int) -> tuple[Pixels | None, tuple[int, ...]]:
        page = self._page
        size = page.databytecounts[index]
        if size > _MAX_SEGMENT:
            raise BadImage(say("imaging.tiff-strip-large"))
        data = None
        if size:
            handle = self._file.filehandle
            handle.seek(page.dataoffsets[index])
            data = handle.read(size)
            if len(data) < size:
                raise BadImage(say("imaging.tiff-short"))
        if data is not None:
            self._check_own_size(data)
        tables = page.jpegtables
        pixels, position, shape = page.decode(data, index, jpegtables=tables, _fullsize=False)
        return (None if pixels is None else pixels[0]), (*position, *shape)

    def _check_own_size(self, data: bytes) -> None:
        """Raise BadImage where a segment states another size than the strip or tile it stands in: decoding
        would take as much memory as it claims."""
        page = self._page
        kind = _WHOLE.get(int(page.compression))
        if kind is None:
            return
        wide = page.tilewidth if page.is_tiled else page.imagewidth
        high = page.tilelength if page.is_tiled else min(page.rowsperstrip, page.imagelength)
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            with Image.open(io.BytesIO(data), formats=[kind]) as inside:
                width, height = inside.size
        if width > wide + _PADDED or height > high + _PADDED:
            raise BadImage(say("imaging.tiff-segment-size", width=width, height=height))

    def _all_segments_checked(self) -> None:
        if int(self._page.compression) in _WHOLE:
            handle = self._file.filehandle
            pairs = zip(self._page.dataoffsets, self._page.databytecounts, strict=True)
            for offset, count in pairs:
                handle.seek(offset)
                self._check_own_size(handle.read(min(count, _MAX_SEGMENT)))

    def _strips(self) -> Iterator[Pixels]:
        page, facts = self._page, self.facts
        if page.is_memmappable and page.is_contiguous:
            # One huge uncompressed strip is common: map it instead of reading it whole.
            shape = (facts.height, facts.width, page.samplesperpixel)
            handle = self._file.filehandle
            needed = page.dataoffsets[0] + int(np.prod(shape)) * facts.bits // 8
            if handle.size < needed:
                raise BadImage(say("imaging.tiff-short"))
            dtype = np.dtype(f"{self._file.byteorder}u{facts.bits // 8}")
            view = np.memmap(handle.path, dtype, "r", page.dataoffsets[0], shape)
            step = max(1, _BAND_BYTES // max(1, view.strides[0]))
            for start in range(0, facts.height, step):
                band = np.asarray(view[start : start + step])
                yield self._finish(band.astype(dtype.newbyteorder("="), copy=False))
            return
        rows = 0
        waiting: list[Pixels] = []
        for index in range(len(page.dataoffsets)):
            pixels, _ = self._segment(index)
            height = min(page.rowsperstrip, facts.height - rows)
            if height <= 0:
                break
            if pixels is None:
                pixels = np.zeros(
                    (height, facts.width, page.samplesperpixel), f"u{facts.bits // 8}"
                )
            if pixels.shape[0] < height or pixels.shape[1] != facts.width:
                raise BadImage(say("imaging.tiff-strip-short"))
            rows += height
            waiting.append(self._finish(pixels[:height]))
            if sum(w.nbytes for w in waiting) >= _BAND_BYTES // 2:
                yield np.concatenate(waiting)
                waiting = []
        if waiting:
            yield np.concatenate(waiting)

    def _tiles(self) -> Iterator[Pixels]:
        page, facts = self._page, self.facts
        high, wide = page.tilelength, page.tilewidth
        across = -(-facts.width // wide)
        dtype = np.dtype(f"u{facts.bits // 8}")
        for top in range(0, facts.height, high):
            rows = min(high, facts.height - top)
            band = np.zeros((rows, facts.width, page.samplesperpixel), dtype)
            for column in range(across):
                pixels, _ = self._segment(top // high * across + column)
                if pixels is None:
                    continue
                left = column * wide
                part = pixels[:rows, : facts.width - left]
                band[: part.shape[0], left : left + part.shape[1]] = part
            yield self._finish(band)

    def _planar(self) -> Iterator[Pixels]:
        check_size(self.facts.width, self.facts.height, MAX_DECODED)
        self._all_segments_checked()
        planes = self._page.asarray()
        for start in range(0, self.facts.height, 256):
            yield self._finish(np.moveaxis(planes[:, start : start + 256], 0, -1))

    def _whole(self) -> Iterator[Pixels]:
        page, facts = self._page, self.facts
        check_size(facts.width, facts.height, MAX_DECODED)
        self._all_segments_checked()
        pixels = page.asarray()
        if int(page.photometric) == _PALETTE:
            colours = np.asarray(page.colormap)
            pixels = (np.moveaxis(colours[:, pixels], 0, -1) >> 8).astype(np.uint8)
        elif page.bitspersample < 8:
            scale = 255 // ((1 << page.bitspersample) - 1)
            pixels = pixels.astype(np.uint8) * np.uint8(scale)
        if pixels.ndim == 2:
            pixels = pixels[..., None]
        elif int(page.planarconfig) == 2 and page.samplesperpixel > 1:
            pixels = np.moveaxis(pixels, 0, -1)
        pixels = orient(pixels, facts.orientation)
        for start in range(0, pixels.shape[0], 256):
            yield self._finish(pixels[start : start + 256])


def orient(pixels: Pixels, orientation: int) -> Pixels:
    """(height, width, channels) as stored to as meant, by the orientation tag 1..8 (TIFF 6.0)."""
    if orientation in (2, 4):
        pixels = pixels[:, ::-1] if orientation == 2 else pixels[::-1]
    elif orientation == 3:
        pixels = pixels[::-1, ::-1]
    elif orientation >= 5:
        pixels = pixels.transpose(1, 0, 2)
        if orientation == 6:
            pixels = pixels[:, ::-1]
        elif orientation == 7:
            pixels = pixels[::-1, ::-1]
        elif orientation == 8:
            pixels = pixels[::-1]
    return np.ascontiguousarray(pixels)


def _full_pages(file: tifffile.TiffFile) -> list[Any]:
    """The pages that are pictures of their own; a file of previews only keeps its first."""
    pages = []
    for index in range(min(len(file.pages), MOST_PAGES)):
        page = file.pages[index]
        if not int(getattr(page, "subfiletype", 0) or 0) & 1:
            pages.append(page)
    return pages or [file.pages[0]]


def _facts(page: Any, pages: int) -> PictureFacts:
    photometric = int(page.photometric)
    bits = _one_depth(page)
    width, height = int(page.imagewidth), int(page.imagelength)
    check_size(width, height, MAX_STREAMED)
    _refuse_kinds(page, photometric)
    inks: tuple[str, ...] = ()
    if bits not in (1, 2, 4, 8, 16):
        raise NotSupported(say("imaging.tiff-depth", bits=bits))
    if photometric == _PALETTE:
        channels, extras = 3, 0
        if page.colormap is None or bits > 8:
            raise BadImage(say("imaging.tiff-no-palette"))
    elif inks := _own_inks(page, photometric):
        channels, extras = len(inks), int(page.samplesperpixel) - len(inks)
    elif photometric in _CHANNELS:
        channels = _CHANNELS[photometric]
        extras = int(page.samplesperpixel) - channels
    else:
        name = getattr(page.photometric, "name", photometric)
        raise NotSupported(say("imaging.tiff-kind", kind=name))
    if extras < 0 or (bits < 8 and channels != 1 and photometric != _PALETTE):
        raise NotSupported(say("imaging.tiff-channels"))
    _plausible_strips(page, width)
    tag = page.tags.get(274)
    orientation = int(tag.value) if tag is not None and tag.value in range(1, 9) else 1
    if orientation >= 5:
        width, height = height, width
    return PictureFacts(
        format="TIFF",
        width=width,
        height=height,
        channels=channels,
        bits=16 if bits == 16 else 8,
        alpha=_alpha(page, extras),
        extra_channels=_extra_channels(page, channels, extras),
        profile=_profile(page),
        resolution=_resolution(page),
        pages=pages,
        orientation=orientation,
        inks=inks,
    )


def _one_depth(page: Any) -> int:
    depth = page.bitspersample
    if isinstance(depth, tuple):
        if len(set(depth)) != 1:
            raise NotSupported(say("imaging.tiff-depths"))
        depth = depth[0]
    return int(depth)


def _refuse_kinds(page: Any, photometric: int) -> None:
    """Say of what kind a TIFF is that is not read: floats, Lab, inks other than CMYK."""
    formats = page.sampleformat if isinstance(page.sampleformat, tuple) else (page.sampleformat,)
    depth = page.bitspersample[0] if isinstance(page.bitspersample, tuple) else page.bitspersample
    if any(int(f) in (3, 6) for f in formats):
        raise NotSupported(say("imaging.tiff-floats", depth=depth))
    if any(int(f) != 1 for f in formats):
        raise NotSupported(say("imaging.tiff-signed", depth=depth))
    if photometric in _LAB:
        raise NotSupported(say("imaging.tiff-lab"))
    if int(page.compression) not in (*_PLAIN, *_WHOLE):
        name = getattr(page.compression, "name", page.compression)
        raise NotSupported(say("imaging.tiff-compression", kind=name))


def _own_inks(page: Any, photometric: int) -> tuple[str, ...]:
    """What the inks of a separated picture are called where they are not CMYK; () for CMYK, which may
    have further channels beside it.

    The embedded profile says how many of the channels it is for; without one, the first four count as
    CMYK where they have these names or none. Raises NotSupported for more inks than are printed for.
    """
    inkset = page.tags.get(INK_SET)
    count = int(page.samplesperpixel)
    if photometric != _SEPARATED:
        return ()
    named = _ink_names(page)
    profile = _profile(page)
    space = profile[16:20].decode("latin-1") if profile is not None and len(profile) > 20 else ""
    if space.endswith("CLR"):
        inks = min(count, CHANNELS.get(space, count))
    elif count < 4:
        inks = count
    elif inkset is None or int(inkset.value) != 2 or space == "CMYK":
        return ()
    elif [SHORT.get(n.casefold(), n) for n in named[:4]] == ["C", "M", "Y", "K"]:
        # CMYK with white, varnish or a spot colour beside it, and no profile that says otherwise.
        return ()
    else:
        inks = count - len(page.extrasamples)
    if not 1 <= inks <= MOST_INKS:
        raise NotSupported(say("imaging.tiff-inks", inks=inks, most=MOST_INKS))
    given = [SHORT.get(n.casefold(), n) for n in named[:inks]]
    usable = len(given) == inks and len(set(given)) == inks
    return tuple(given) if usable else tuple(str(i + 1) for i in range(inks))


def _ink_names(page: Any) -> list[str]:
    """The names of all inks (tag 333, null-separated), where the file gives them."""
    tag = page.tags.get(333)
    text = tag.value if tag is not None else ""
    if isinstance(text, bytes):
        text = text.decode("utf-8", "replace")
    if not isinstance(text, str):
        return []
    return [n.strip()[:60] for n in text.split("\0") if n.strip()]


def _resource_names(page: Any) -> list[str]:
    """Names of the channels beside the colours: image resource 1006, strings with their length."""
    tag = page.tags.get(34377)
    data = bytes(tag.value) if tag is not None and isinstance(tag.value, bytes) else b""
    at = 0
    while at + 12 <= len(data) and data[at : at + 4] == b"8BIM":
        number = int.from_bytes(data[at + 4 : at + 6], "big")
        name = (data[at + 6] + 2) // 2 * 2
        start = at + 6 + name
        size = int.from_bytes(data[start : start + 4], "big")
        body = data[start + 4 : start + 4 + size]
        if number == 1006:
            found, place = [], 0
            while place < len(body):
                length = body[place]
                found.append(body[place + 1 : place + 1 + length].decode("latin-1")[:60])
                place += 1 + length
            return [n for n in found if n.strip()]
        at = start + 4 + (size + 1) // 2 * 2
    return []


def _extra_channels(page: Any, channels: int, extras: int) -> tuple[str, ...]:
    """Names of the channels that are neither colours nor transparency."""
    first = 1 if _alpha(page, extras) != "none" else 0
    count = extras - first
    if count <= 0:
        return ()
    names = _ink_names(page)[channels:] or _resource_names(page)[-count:]
    names = names[:count]
    return (*names, *(f"channel {channels + first + i + 1}" for i in range(len(names), count)))


def _plausible_strips(page: Any, width: int) -> None:
    """Refuse a tile or strip whose decoding alone would fill the memory."""
    rows = page.tilelength if page.is_tiled else min(page.rowsperstrip, page.imagelength)
    columns = page.tilewidth if page.is_tiled else width
    size = rows * columns * page.samplesperpixel * max(1, page.bitspersample // 8)
    if size > _MAX_SEGMENT and not page.is_memmappable:
        raise BadImage(say("imaging.tiff-one-strip"))
    if not page.dataoffsets or len(page.dataoffsets) != len(page.databytecounts):
        raise BadImage(say("imaging.tiff-nowhere"))


def _alpha(page: Any, extras: int) -> str:
    if extras < 1:
        return "none"
    kinds = [int(k) for k in page.extrasamples] or [0]
    return {1: "premultiplied", 2: "straight"}.get(kinds[0], "none")


def _profile(page: Any) -> bytes | None:
    tag = page.tags.get(34675)
    return bytes(tag.value) if tag is not None and tag.value else None


def _resolution(page: Any) -> tuple[float, float] | None:
    unit = page.tags.get(296)
    factor = {2: 1.0, 3: 2.54}.get(int(unit.value) if unit is not None else 2)
    values = [page.tags.get(282), page.tags.get(283)]
    if factor is None or None in values:
        return None
    pairs = [v.value for v in values if v is not None]
    try:
        x, y = (p[0] / p[1] * factor for p in pairs)
    except (ZeroDivisionError, TypeError):
        return None
    return plausible_resolution(x, y)
