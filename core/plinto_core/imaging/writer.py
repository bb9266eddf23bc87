"""Write pictures from bands: to a temporary name first, moved into place when complete."""

from __future__ import annotations

import os
import struct
import tempfile
import zlib
from collections import deque
from collections.abc import Iterator
from concurrent.futures import Future, ThreadPoolExecutor
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import imagecodecs
import numpy as np
import tifffile
from PIL import Image

from plinto_core.arrays import Pixels
from plinto_core.errors import BadImage, BadRecipe
from plinto_core.imaging.ink_tiff import ink_tags, mark_separated
from plinto_core.imaging.pdf import write_picture_pdf
from plinto_core.words import say

FORMATS = {
    ".tif": "TIFF",
    ".tiff": "TIFF",
    ".jpg": "JPEG",
    ".jpeg": "JPEG",
    ".png": "PNG",
    ".pdf": "PDF",
}
PROCESS = ("C", "M", "Y", "K")
"""The inks that every format with inks means."""
_BIG = 4_000_000_000
_JPEG_EDGE = 65_500
_STRIP_BYTES = 1 << 18
_TILE = 256
ENCODERS = 2


@dataclass(frozen=True)
class OutputOptions:
    """format : TIFF, JPEG, PNG or PDF; bits 8 or 16; profile to embed or None; ppi or None;
    compression : "none", "lzw" or "deflate" for TIFF; tiles : tiles instead of strips in TIFF;
    quality 1..100 for JPEG; inks : names of the channels where they are inks, () for RGB and grey."""

    format: str
    bits: int
    profile: bytes | None = None
    resolution: tuple[float, float] | None = None
    compression: str = "deflate"
    quality: int = 95
    tiles: bool = False
    inks: tuple[str, ...] = ()


def format_of(path: Path) -> str:
    """TIFF, JPEG, PNG or PDF by the name's suffix; raises BadRecipe."""
    try:
        return FORMATS[path.suffix.lower()]
    except KeyError:
        raise BadRecipe(say("imaging.suffix-unknown", file=path.name)) from None


def check_format(
    output: str, bits: int, shape: tuple[int, int, int], inks: tuple[str, ...] = ()
) -> None:
    """Raise BadRecipe where a format cannot hold a picture of `shape` (height, width, channels)."""
    height, width, channels = shape
    own = bool(inks) and inks != PROCESS
    if own and output in ("PNG", "JPEG"):
        raise BadRecipe(say("imaging.format-inks", format=output, inks=list(inks)))
    if output == "PNG" and channels == 4:
        raise BadRecipe(say("imaging.png-cmyk"))
    if output == "JPEG" and bits == 16:
        raise BadRecipe(say("imaging.jpeg-depth"))
    if output == "JPEG" and max(height, width) > _JPEG_EDGE:
        raise BadRecipe(say("imaging.jpeg-long"))


def write_picture(
    path: Path, bands: Iterator[Pixels], shape: tuple[int, int, int], options: OutputOptions
) -> None:
    """Write (height, width, channels) given as bands of rows. Leaves nothing behind on failure."""
    check_format(options.format, options.bits, shape, options.inks)
    with whole_or_none(path) as temporary:
        if options.format == "TIFF":
            _write_tiff(temporary, bands, shape, options)
        elif options.format == "PDF":
            own = () if options.inks == PROCESS else options.inks
            if own and options.profile is None:
                raise BadRecipe(say("imaging.pdf-bare-inks"))
            write_picture_pdf(temporary, bands, shape, options.profile, options.resolution, own)
        else:
            _write_whole(temporary, np.concatenate(list(bands)), options)


@contextmanager
def whole_or_none(path: Path) -> Iterator[Path]:
    """A temporary name beside `path`, moved there when all went well and removed otherwise."""
    try:
        handle, name = tempfile.mkstemp(prefix=".plinto-", suffix=".part", dir=path.parent)
    except OSError as error:
        raise BadImage(say("imaging.not-written", folder=path.parent)) from error
    os.close(handle)
    temporary = Path(name)
    try:
        yield temporary
        os.chmod(temporary, 0o644)
        os.replace(temporary, path)
    except BaseException:
        temporary.unlink(missing_ok=True)
        raise


def _strips(bands: Iterator[Pixels], rows: int) -> Iterator[Pixels]:
    """Bands of any height to strips of `rows` (the last may be shorter)."""
    waiting: list[Pixels] = []
    held = 0
    for band in bands:
        waiting.append(band)
        held += band.shape[0]
        if held >= rows:
            joined = waiting[0] if len(waiting) == 1 else np.concatenate(waiting)
            full = held // rows * rows
            for start in range(0, full, rows):
                yield np.ascontiguousarray(joined[start : start + rows])
            waiting, held = ([joined[full:]] if full < held else []), held - full
    if held:
        yield np.ascontiguousarray(np.concatenate(waiting))


def _encode(strip: Pixels, compression: str) -> bytes:
    if compression == "none":
        return strip.tobytes()
    delta = imagecodecs.delta_encode(strip, axis=1)
    if compression == "lzw":
        return bytes(imagecodecs.lzw_encode(np.ascontiguousarray(delta).tobytes()))
    return bytes(imagecodecs.zlib_encode(np.ascontiguousarray(delta).tobytes(), level=3))


def _encoded(strips: Iterator[Pixels], compression: str) -> Iterator[bytes]:
    """Compress strips on a few threads, in order, a bounded number at a time."""
    with ThreadPoolExecutor(ENCODERS) as pool:
        waiting: deque[Future[bytes]] = deque()
        for strip in strips:
            waiting.append(pool.submit(_encode, strip, compression))
            if len(waiting) > 4 * ENCODERS:
                yield waiting.popleft().result()
        while waiting:
            yield waiting.popleft().result()


def _write_tiff(
    path: Path, bands: Iterator[Pixels], shape: tuple[int, int, int], options: OutputOptions
) -> None:
    height, width, channels = shape
    row_bytes = width * channels * options.bits // 8
    rows = max(1, min(height, _STRIP_BYTES // row_bytes))
    compression = {"none": None, "lzw": "lzw", "deflate": "zlib"}[options.compression]
    layout: dict[str, Any]
    if options.tiles:
        encoded = _encoded(_tiles(_strips(bands, _TILE)), options.compression)
        layout = {"tile": (_TILE, _TILE)}
    else:
        encoded = _encoded(_strips(bands, rows), options.compression)
        layout = {"rowsperstrip": rows}
    flat = channels == 1
    own = bool(options.inks) and options.inks != PROCESS
    with tifffile.TiffWriter(path, bigtiff=height * row_bytes > _BIG) as tiff:
        tiff.write(
            encoded,
            shape=(height, width) if flat else shape,
            dtype=np.uint16 if options.bits == 16 else np.uint8,
            photometric=_photometric(channels, own),
            planarconfig=None if flat else "contig",
            compression=compression,
            predictor=compression is not None,
            iccprofile=options.profile,
            resolution=options.resolution or (72, 72),
            resolutionunit="INCH" if options.resolution else "NONE",
            metadata=None,
            software=False,
            extratags=ink_tags(options.inks, options.bits) if own else (),
            **layout,
        )
    if own:
        mark_separated(path)


def _photometric(channels: int, own_inks: bool) -> str:
    if own_inks:
        return "minisblack"
    return {1: "minisblack", 3: "rgb", 4: "separated"}[channels]


def _tiles(strips: Iterator[Pixels]) -> Iterator[Pixels]:
    """Strips of a tile's height to tiles from left to right, edges filled by repetition."""
    for strip in strips:
        missing = (-strip.shape[0] % _TILE, -strip.shape[1] % _TILE)
        full = np.pad(strip, ((0, missing[0]), (0, missing[1]), (0, 0)), mode="edge")
        for left in range(0, full.shape[1], _TILE):
            yield np.ascontiguousarray(full[:, left : left + _TILE])


def _write_whole(path: Path, pixels: Pixels, options: OutputOptions) -> None:
    if options.format == "PNG":
        data = imagecodecs.png_encode(pixels[..., 0] if pixels.shape[2] == 1 else pixels, level=4)
        path.write_bytes(_with_chunks(bytes(data), options))
        return
    extra: dict[str, object] = {}
    if options.profile:
        extra["icc_profile"] = options.profile
    if options.resolution:
        extra["dpi"] = options.resolution
    image = Image.fromarray(pixels[..., 0]) if pixels.shape[2] == 1 else None
    if image is None:
        mode = "CMYK" if pixels.shape[2] == 4 else "RGB"
        image = Image.frombytes(mode, (pixels.shape[1], pixels.shape[0]), pixels.tobytes())
    image.save(path, "JPEG", quality=options.quality, subsampling=0, **extra)


def _with_chunks(png: bytes, options: OutputOptions) -> bytes:
    """Add iCCP and pHYs after IHDR (ISO/IEC 15948)."""

    def chunk(kind: bytes, body: bytes) -> bytes:
        return (
            struct.pack(">I", len(body)) + kind + body + struct.pack(">I", zlib.crc32(kind + body))
        )

    extra = b""
    if options.profile:
        extra += chunk(b"iCCP", b"ICC profile\0\0" + zlib.compress(options.profile))
    if options.resolution:
        x, y = (round(v / 0.0254) for v in options.resolution)
        extra += chunk(b"pHYs", struct.pack(">IIB", x, y, 1))
    return png[:33] + extra + png[33:]
