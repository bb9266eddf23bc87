"""Pixels of image XObjects and inline images, and new images made of pixels (ISO 32000-2, 8.9)."""

from __future__ import annotations

import io
import zlib
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

import imagecodecs
import numpy as np
import pikepdf
from PIL import Image

from plinto_core.arrays import Pixels
from plinto_core.document.pdf.bounds import check_image, check_unpacked, inflated_steps
from plinto_core.document.pdf.functions import numbers, unpack
from plinto_core.document.pdf.spaces import GREY, ColourSpace, read_space
from plinto_core.errors import BadDocument, CoreError, NotSupported
from plinto_core.icc.spaces import Intent
from plinto_core.imaging.facts import MAX_DECODED, check_size
from plinto_core.imaging.resample import resampled
from plinto_core.words import say

_LOSSLESS = {
    "/FlateDecode", "/LZWDecode", "/RunLengthDecode", "/ASCII85Decode", "/ASCIIHexDecode",
    "/Fl", "/LZW", "/RL", "/A85", "/AHx", "/Crypt",
}  # fmt: skip
_SPARE = 1 << 20
_LARGE = 16 << 20
"""Bytes of an image from which it is unpacked piece by piece."""
_SAMPLE_BITS = (1, 2, 4, 8, 16)


@dataclass(frozen=True)
class ImageFacts:
    """What is known without decoding. space is None for stencil masks."""

    width: int
    height: int
    bits: int
    space: ColourSpace | None
    filters: tuple[str, ...]
    intent: str | None
    masked: str
    """ "", "soft", "explicit" or "colour key" """

    @property
    def is_stencil(self) -> bool:
        return self.space is None


_INTENTS: dict[str, Intent] = {
    "/Perceptual": "perceptual", "/RelativeColorimetric": "relative",
    "/Saturation": "saturation", "/AbsoluteColorimetric": "absolute",
}  # fmt: skip


def intent_of(name: Any) -> Intent | None:
    """The intent a PDF name stands for."""
    return _INTENTS.get(str(name))


def image_facts(image: Any, resources: Any) -> ImageFacts:
    """Facts of an image dictionary; raises BadDocument for an impossible one."""
    width, height = int(image.get("/Width", 0)), int(image.get("/Height", 0))
    check_size(width, height, MAX_DECODED)
    filters = filters_of(image)
    stencil = bool(image.get("/ImageMask", False))
    space = None
    bits = 1 if stencil else int(image.get("/BitsPerComponent", 8))
    if not stencil:
        if "/ColorSpace" in image:
            space = read_space(image["/ColorSpace"], resources)
        elif "/JPXDecode" in filters:
            space = None
        else:
            space = GREY
        if space is None:
            raise NotSupported(say("document.jpx-no-space"))
        if "/DCTDecode" in filters or "/JPXDecode" in filters:
            bits = 8
        if bits not in _SAMPLE_BITS:
            raise BadDocument(say("document.image-depth-impossible"))
        check_image(width, height, space.channels, bits)
    mask = image.get("/Mask")
    masked = (
        "soft" if "/SMask" in image
        else "" if mask is None
        else "colour key" if isinstance(mask, pikepdf.Array) else "explicit"
    )  # fmt: skip
    return ImageFacts(width, height, bits, space, filters, intent_of(image.get("/Intent")), masked)


def filters_of(image: Any) -> tuple[str, ...]:
    """The filters' names in the order they are undone."""
    found = image.get("/Filter")
    if found is None:
        return ()
    names = list(found) if isinstance(found, pikepdf.Array) else [found]
    return tuple(str(n) for n in names)


def read_samples(image: Any, facts: ImageFacts) -> Pixels:
    """(height, width, channels) uint8 or uint16 as stored, before Decode; raises NotSupported.

    Samples of fewer than 8 bits stay small integers.
    """
    space = facts.space
    assert space is not None
    last = facts.filters[-1] if facts.filters else ""
    if last in ("/DCTDecode", "/DCT"):
        return _jpeg(image, facts, space)
    if last == "/JPXDecode":
        return _shaped(jpeg2000(image), facts, space)
    if last in ("/CCITTFaxDecode", "/CCF"):
        return _fax(image, facts)
    if not set(facts.filters) <= _LOSSLESS:
        raise NotSupported(say("document.image-packing", filter=last.removeprefix("/")))
    row = (facts.width * space.channels * facts.bits + 7) // 8
    # Predictors add a byte to every row; a little more than all rows is no bomb yet.
    check_unpacked(image, facts.height * (row + 1) + _SPARE, "An image")
    plain = _inflated(image, facts.height * row) if _is_plain(image, facts) else None
    if plain is not None:
        return _from_rows(plain, facts, space)
    try:
        data = image.read_bytes(pikepdf.StreamDecodeLevel.specialized)
    except pikepdf.PdfError as error:
        raise BadDocument(say("document.image-packed-damaged")) from error
    return _from_rows(np.frombuffer(data, np.uint8), facts, space)


def _is_plain(image: Any, facts: ImageFacts) -> bool:
    """Whether an image's bytes stand in its stream deflated and nothing else."""
    parameters = image.get("/DecodeParms")
    return facts.filters in (("/FlateDecode",), ("/Fl",)) and (
        parameters is None
        or (
            isinstance(parameters, pikepdf.Dictionary) and int(parameters.get("/Predictor", 1)) == 1
        )
    )


def _inflated(image: Any, size: int) -> np.ndarray | None:
    """(size,) bytes of a deflated stream, None where it is damaged or short: what can be saved of that the
    library knows. Large images are unpacked into their place, since the library holds them twice."""
    if size < _LARGE:
        return None
    out = np.empty(size, np.uint8)
    filled = 0
    try:
        for part in inflated_steps(image.read_raw_bytes()):
            part = part[: size - filled]
            out[filled : filled + len(part)] = np.frombuffer(part, np.uint8)
            filled += len(part)
    except zlib.error:
        return None
    return out if filled == size else None


def _from_rows(data: np.ndarray, facts: ImageFacts, space: ColourSpace) -> Pixels:
    per_row = facts.width * space.channels
    row_bytes = (per_row * facts.bits + 7) // 8
    if data.size < row_bytes * facts.height:
        raise BadDocument(say("document.image-short"))
    rows = data[: row_bytes * facts.height].reshape(facts.height, row_bytes)
    shape = (facts.height, facts.width, space.channels)
    if facts.bits == 8:
        return rows.reshape(shape)
    if facts.bits == 16:
        deep = np.ascontiguousarray(rows).view(">u2").astype(np.uint16)
        return np.asarray(deep.reshape(shape))
    padded = row_bytes * 8 // facts.bits
    values = unpack(rows.reshape(-1), facts.bits, facts.height * padded)
    small = values.reshape(facts.height, padded)[:, :per_row].astype(np.uint8)
    return np.asarray(small.reshape(shape))


def _shaped(pixels: np.ndarray, facts: ImageFacts, space: ColourSpace) -> Pixels:
    if pixels.ndim == 2:
        pixels = pixels[..., None]
    if pixels.shape[:2] != (facts.height, facts.width) or pixels.shape[2] < space.channels:
        raise BadDocument(say("document.image-pixels"))
    if pixels.dtype not in (np.uint8, np.uint16):
        raise NotSupported(say("document.image-depth"))
    return np.ascontiguousarray(pixels[..., : space.channels])


def _jpeg(image: Any, facts: ImageFacts, space: ColourSpace) -> Pixels:
    data = image.read_raw_bytes()
    if len(facts.filters) > 1:
        raise NotSupported(say("document.jpeg-repacked"))
    try:
        with Image.open(io.BytesIO(data), formats=["JPEG"]) as opened:
            wanted, stored = {1: "L", 3: "RGB", 4: "CMYK"}.get(space.channels), opened.mode
            if wanted is None or opened.mode not in (wanted, "L", "RGB", "CMYK"):
                raise NotSupported(say("document.jpeg-channels"))
            pixels = np.asarray(opened if opened.mode == wanted else opened.convert(wanted))
    except CoreError:
        raise
    except Exception as error:
        raise BadDocument(say("document.jpeg-damaged")) from error
    if wanted == "CMYK" and stored == "CMYK":
        # Pillow reverses every CMYK file, as if all were stored so; what is stored counts here, and
        # the PDF's own Decode array says whether it is reversed.
        pixels = 255 - pixels
    return _shaped(pixels, facts, space)


def jpeg2000(image: Any) -> Pixels:
    """(height, width[, channels]) uint8 or uint16 over their full range, alpha among the channels.

    Raises NotSupported for what cannot be decoded.
    """
    data = image.read_raw_bytes()
    at = data.find(_SIZ)
    depth = (data[at + 42] & 0x7F) + 1 if 0 <= at < len(data) - 42 else 0
    if not 1 <= depth <= 16:
        raise NotSupported(say("document.jpx-depth"))
    try:
        pixels = np.asarray(imagecodecs.jpeg2k_decode(data))
    except Exception as error:
        raise NotSupported(say("document.jpx-undecoded")) from error
    if pixels.dtype.kind != "u":
        raise NotSupported(say("document.jpx-signed"))
    if depth in (8, 16):
        return pixels
    full = 255 if depth < 8 else 65535
    scaled = pixels.astype(np.uint32) * full + (1 << depth - 1)
    return np.asarray(scaled // ((1 << depth) - 1), dtype=np.uint8 if depth < 8 else np.uint16)


def own_alpha(image: Any) -> np.ndarray | None:
    """(height, width) uint8, the opacity that a JPEG 2000 image brings with it, where the document
    says that it is meant (SMaskInData 1); None otherwise."""
    if int(image.get("/SMaskInData", 0)) != 1 or filters_of(image)[-1:] != ("/JPXDecode",):
        return None
    pixels = jpeg2000(image)
    if pixels.ndim != 3 or pixels.shape[2] not in (2, 4, 5):
        return None
    alpha = pixels[..., -1]
    return alpha if alpha.dtype == np.uint8 else (alpha >> 8).astype(np.uint8)


_SIZ = b"\xff\x4f\xff\x51"
"""Start of a codestream and of its size segment; the first component's depth lies 42 bytes on."""


def _fax(image: Any, facts: ImageFacts) -> Pixels:
    try:
        with pikepdf.PdfImage(image).as_pil_image() as opened:
            pixels = np.asarray(opened.convert("L")) >> 7
    except Exception as error:
        raise NotSupported(say("document.fax-undecoded")) from error
    if pixels.shape != (facts.height, facts.width):
        raise BadDocument(say("document.fax-pixels"))
    return pixels[..., None].astype(np.uint8)


def decoded(image: Any, samples: Pixels, facts: ImageFacts) -> Pixels:
    """Samples after Decode, scaled to the full range of uint8 or uint16 in the default decode."""
    space = facts.space
    assert space is not None
    if "/JPXDecode" in facts.filters:
        # It says its own depth and range; a Decode array has no part in it (8.9.5.2).
        return np.asarray(samples)
    plain = space.default_decode(facts.bits)
    given = numbers(image.get("/Decode", plain))
    if len(given) != len(plain):
        raise BadDocument(say("document.decode-length"))
    top = 2**facts.bits - 1
    full = 65535 if facts.bits == 16 else 255
    if given == plain and facts.bits in (8, 16):
        return np.asarray(samples)
    low, high = np.array(given).reshape(-1, 2).T
    first, last = np.array(plain).reshape(-1, 2).T
    value = low + samples.astype(np.float64) / top * (high - low)
    share = np.clip((value - first) / (last - first), 0, 1)
    return np.asarray(np.round(share * full), dtype=np.uint16 if full > 255 else np.uint8)


def palette_indices(image: Any, samples: Pixels, facts: ImageFacts) -> Pixels:
    """(height, width) palette indices after Decode."""
    assert facts.space is not None
    assert facts.space.table is not None
    plain = facts.space.default_decode(facts.bits)
    low, high = numbers(image.get("/Decode", plain))[:2]
    top = 2**facts.bits - 1
    index = np.round(low + samples[..., 0].astype(np.float64) / top * (high - low)).astype(int)
    return np.asarray(np.clip(index, 0, facts.space.table.shape[0] - 1))


def key_mask(image: Any, samples: Pixels) -> np.ndarray:
    """(height, width) True where a colour-key mask paints nothing."""
    limits = np.array(numbers(image["/Mask"]), dtype=float).reshape(-1, 2)
    if limits.shape[0] != samples.shape[2]:
        raise BadDocument(say("document.colour-key-length"))
    inside = (samples >= limits[:, 0]) & (samples <= limits[:, 1])
    return np.asarray(inside.all(axis=2))


def reduce(pixels: Pixels, share: float) -> Pixels:
    """(height, width, channels) reduced by a Lanczos filter, at least one pixel each way."""
    height, width = pixels.shape[:2]
    wanted = (max(1, round(height * share)), max(1, round(width * share)))
    bands = (pixels[i : i + 256] for i in range(0, height, 256))
    return np.concatenate(list(resampled(bands, (height, width), wanted)))


def thinned(samples: Pixels, share: float) -> Pixels:
    """(height, width[, 1]) samples of one bit reduced to fewer, each by what covers more of it."""
    flat = samples.reshape(samples.shape[0], samples.shape[1], 1)
    grey = reduce(np.where(flat > 0, 255, 0).astype(np.uint8), share)
    return np.asarray(grey[..., 0] >= 128, dtype=np.uint8)


def inline_as_stream(pdf: pikepdf.Pdf, image: Any) -> pikepdf.Stream:
    """An inline image as an image XObject with the long names of its keys."""
    long = {
        "/BPC": "/BitsPerComponent", "/CS": "/ColorSpace", "/D": "/Decode", "/DP": "/DecodeParms",
        "/F": "/Filter", "/H": "/Height", "/IM": "/ImageMask", "/I": "/Interpolate", "/W": "/Width",
    }  # fmt: skip
    raw = image._data._inline_image_raw_bytes()
    made = pikepdf.Stream(pdf, raw)
    for key, value in image.obj.items():
        made[long.get(key, key)] = value
    if "/ColorSpace" in made and str(made["/ColorSpace"]) in ("/G", "/RGB", "/CMYK"):
        names = {"/G": "/DeviceGray", "/RGB": "/DeviceRGB", "/CMYK": "/DeviceCMYK"}
        made["/ColorSpace"] = pikepdf.Name(names[str(made["/ColorSpace"])])
    made["/Type"], made["/Subtype"] = pikepdf.Name.XObject, pikepdf.Name.Image
    return pdf.make_indirect(made)


KEPT_KEYS = ("/SMask", "/Mask", "/Interpolate", "/OC", "/Metadata", "/StructParent", "/ID")
"""What belongs to an image besides its colours."""


def as_jpeg(height: int, width: int, channels: int, bits: int, quality: int | None) -> bool:
    """Whether an image of these is packed as JPEG: small ones and deep ones are not."""
    return quality is not None and bits == 8 and channels in (1, 3, 4) and min(height, width) >= 16


def packed(pixels: Pixels, jpeg_quality: int | None) -> tuple[bytes, dict[str, Any]]:
    """(height, width, channels) as an image's stream holds them, and the keys that say how."""
    height, width, channels = pixels.shape
    if not as_jpeg(height, width, channels, pixels.dtype.itemsize * 8, jpeg_quality):
        return packed_bands([pixels])
    assert jpeg_quality is not None
    how: dict[str, Any] = {"Filter": pikepdf.Name.DCTDecode}
    if channels == 4:
        how["Decode"] = [1, 0] * 4
    return _jpeg_bytes(pixels, jpeg_quality), how


def packed_bands(bands: Iterable[Pixels]) -> tuple[bytes, dict[str, Any]]:
    """The same without loss, from one (rows, width, channels) after the other."""
    # For differences of neighbours this packs closer than level 6, in a third to all of its time.
    deflate = zlib.compressobj(4, strategy=zlib.Z_FILTERED)
    out = io.BytesIO()
    for band in bands:
        bits = band.dtype.itemsize * 8
        predicted = imagecodecs.delta_encode(np.ascontiguousarray(band), axis=1)
        stored = np.asarray(predicted).astype(f">u{bits // 8}", copy=False)
        out.write(deflate.compress(stored.tobytes()))
        _, width, channels = band.shape
    out.write(deflate.flush())
    parameters = pikepdf.Dictionary(
        Predictor=2, Colors=channels, BitsPerComponent=bits, Columns=width
    )
    return out.getvalue(), {"Filter": pikepdf.Name.FlateDecode, "DecodeParms": parameters}


def _jpeg_bytes(pixels: Pixels, quality: int) -> bytes:
    buffer = io.BytesIO()
    mode = {1: "L", 3: "RGB", 4: "CMYK"}[pixels.shape[2]]
    plain = pixels[..., 0] if mode == "L" else pixels
    # Pillow stores CMYK reversed with Adobe's marker, hence the Decode array beside it.
    Image.fromarray(np.ascontiguousarray(plain), mode).save(
        buffer, "JPEG", quality=quality, subsampling=0 if quality >= 90 else 2
    )
    return buffer.getvalue()


def mask_image(pdf: pikepdf.Pdf, shown: np.ndarray) -> pikepdf.Stream:
    """A soft mask of (height, width) opacities, uint8."""
    return pikepdf.Stream(
        pdf, zlib.compress(shown.tobytes(), 6), Type=pikepdf.Name.XObject,
        Subtype=pikepdf.Name.Image, Width=shown.shape[1], Height=shown.shape[0],
        BitsPerComponent=8, ColorSpace=pikepdf.Name.DeviceGray, Filter=pikepdf.Name.FlateDecode,
    )  # fmt: skip


def stencil_image(pdf: pikepdf.Pdf, hidden: np.ndarray) -> pikepdf.Stream:
    """An explicit mask (ISO 32000-2, 8.9.6.3) of (height, width) booleans: what does not print."""
    bits = np.packbits(hidden, axis=1)
    return pikepdf.Stream(
        pdf, zlib.compress(bits.tobytes(), 6), Type=pikepdf.Name.XObject,
        Subtype=pikepdf.Name.Image, Width=hidden.shape[1], Height=hidden.shape[0], ImageMask=True,
        BitsPerComponent=1, Filter=pikepdf.Name.FlateDecode,
    )  # fmt: skip
