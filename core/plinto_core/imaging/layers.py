"""Layers of a layered document (PSD, PSB): which there are, and the pixels of one by itself.

A layer is read as it is stored: its colours, its transparency, its pixel mask and its opacity, laid on
the document's canvas. Blending, effects, adjustments and text that was never drawn are not evaluated.
"""

from __future__ import annotations

import zlib
from dataclasses import dataclass
from typing import Any

import numpy as np

from plinto_core.arrays import Pixels
from plinto_core.errors import BadImage
from plinto_core.imaging.facts import MAX_DECODED, Layer, check_size
from plinto_core.words import say

MOST = 199
"""Layers that are told, with the flattened picture two hundred pages."""
_ALPHA, _MASK = -1, -2


@dataclass(frozen=True)
class StoredLayer:
    """A layer that holds pixels; record, channels : as its file stores them."""

    shown: Layer
    record: Any
    channels: Any


def stored_layers(document: Any, colours: int) -> list[StoredLayer]:
    """Those with pixels of their own, the uppermost first; hidden ones, and those of hidden groups, too."""
    from psd_tools.constants import Tag

    section = document.layer_and_mask_information
    info = section.layer_info
    blocks = section.tagged_blocks or {}
    if info is None or not info.layer_records:
        info = blocks.get_data(Tag.LAYER_16) if hasattr(blocks, "get_data") else None
    if info is None or not info.layer_records:
        return []
    found: list[StoredLayer] = []
    groups: list[bool] = []
    pairs = zip(info.layer_records, info.channel_image_data, strict=False)
    for record, channels in reversed(list(pairs)):
        hidden = not record.flags.visible
        divider = record.tagged_blocks.get_data(Tag.SECTION_DIVIDER_SETTING)
        kind = int(divider.kind) if divider is not None else 0
        if kind in (1, 2):
            groups.append(hidden)
            continue
        if kind == 3:
            if groups:
                groups.pop()
            continue
        present = {int(c.id) for c in record.channel_info}
        if record.right <= record.left or record.bottom <= record.top:
            continue
        if set(range(colours)) <= present:
            name = str(record.tagged_blocks.get_data(Tag.UNICODE_LAYER_NAME) or record.name)
            plain = " ".join(name.replace("\0", "").split())[:60] or f"layer {len(found) + 1}"
            found.append(StoredLayer(Layer(plain, hidden or any(groups)), record, channels))
        if len(found) == MOST:
            break
    return found


def layer_pixels(layer: StoredLayer, header: Any, colours: int) -> Pixels:
    """(height, width, colours + 1) of the whole canvas, straight transparency last, big-endian numbers made
    the machine's; inks as they are stored. Raises BadImage for pixels that are not there."""
    record = layer.record
    width, height = record.right - record.left, record.bottom - record.top
    check_size(width, height, MAX_DECODED)
    dtype = np.dtype(f"u{header.depth // 8}")
    top = int(np.iinfo(dtype).max)
    whole = np.zeros((header.height, header.width, colours + 1), dtype)
    inside = _inside(record.left, record.top, width, height, header)
    if inside is None:
        return whole
    there, here = inside
    cover = np.full((height, width), top, dtype)
    mask = None
    for info, stored in zip(record.channel_info, layer.channels, strict=False):
        number = int(info.id)
        if 0 <= number < colours:
            whole[(*there, number)] = _plane(stored, width, height, header)[here]
        elif number == _ALPHA:
            cover = _plane(stored, width, height, header)
        elif number == _MASK and record.mask_data is not None:
            mask = None if record.mask_data.flags.mask_disabled else (record.mask_data, stored)
    alpha = whole[..., colours]
    alpha[there] = cover[here]
    if mask is not None:
        alpha[:] = _times(alpha, _masked(*mask, header, dtype))
    if record.opacity < 255:
        alpha[:] = _times(alpha, np.array(record.opacity * (top // 255), dtype))
    return whole


def _times(a: Pixels, b: Pixels) -> Pixels:
    top = int(np.iinfo(a.dtype).max)
    # 65535 squared and a half fit into 32 bits.
    product = a.astype(np.uint32) * b.astype(np.uint32)
    return ((product + top // 2) // top).astype(a.dtype)


def _masked(mask: Any, stored: Any, header: Any, dtype: np.dtype[Any]) -> Pixels:
    """A pixel mask over the canvas, outside of its frame as it says."""
    top = int(np.iinfo(dtype).max)
    found = np.full((header.height, header.width), top if mask.background_color else 0, dtype)
    width, height = mask.right - mask.left, mask.bottom - mask.top
    if width <= 0 or height <= 0:
        return found
    check_size(width, height, MAX_DECODED)
    inside = _inside(mask.left, mask.top, width, height, header)
    if inside is not None:
        found[inside[0]] = _plane(stored, width, height, header)[inside[1]]
    return found


Part = tuple[slice, slice]


def _inside(left: int, top: int, width: int, height: int, header: Any) -> tuple[Part, Part] | None:
    """Where a frame lies on the canvas, and which part of the frame that is."""
    first_row, first_column = max(0, top), max(0, left)
    last_row, last_column = min(header.height, top + height), min(header.width, left + width)
    if first_row >= last_row or first_column >= last_column:
        return None
    there = (slice(first_row, last_row), slice(first_column, last_column))
    here = (
        slice(first_row - top, last_row - top),
        slice(first_column - left, last_column - left),
    )
    return there, here


def _plane(stored: Any, width: int, height: int, header: Any) -> Pixels:
    """(height, width) of a channel; the library gives black for what it cannot unpack, this raises."""
    from psd_tools.compression import decode_prediction, decode_rle
    from psd_tools.constants import Compression

    needed = width * height * header.depth // 8
    data, kind = stored.data, stored.compression
    try:
        if kind == Compression.RLE:
            size = 4 if header.version == 2 else 2
            counts = np.frombuffer(data[: height * size], f">u{size}")
            if counts.size < height or len(data) < height * size + int(counts.sum(dtype=np.int64)):
                raise BadImage(say("imaging.layered-pixels"))
            data = decode_rle(data, width, height, header.depth, header.version)
        elif kind != Compression.RAW:
            data = zlib.decompressobj().decompress(data, needed)
        if kind == Compression.ZIP_WITH_PREDICTION:
            data = decode_prediction(data, width, height, header.depth)
    except (ValueError, IndexError, OSError, zlib.error) as error:
        raise BadImage(say("imaging.layered-pixels")) from error
    if len(data) < needed:
        raise BadImage(say("imaging.layered-pixels"))
    plane = np.frombuffer(data, f">u{header.depth // 8}", count=width * height)
    return plane.reshape(height, width).astype(f"u{header.depth // 8}")
