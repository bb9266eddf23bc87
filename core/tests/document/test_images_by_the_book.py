"""Images of a PDF: samples, Decode, palettes and masks (ISO 32000-2, 8.9)."""

from __future__ import annotations

import io
import zlib

import imagecodecs
import numpy as np
import pikepdf
import pytest
from pikepdf import Array, Dictionary, Name
from PIL import Image

from plinto_core.document.pdf import images
from plinto_core.document.pdf.images import (
    decoded,
    filters_of,
    image_facts,
    intent_of,
    key_mask,
    own_alpha,
    palette_indices,
    read_samples,
)
from plinto_core.errors import CoreError

RNG = np.random.default_rng(3)


def image(
    pdf, data: bytes, wide: int, high: int, space=Name.DeviceRGB, bits: int = 8, **more
) -> pikepdf.Stream:
    entries = {"Width": wide, "Height": high, "BitsPerComponent": bits, **more}
    if space is not None:
        entries["ColorSpace"] = space
    return pikepdf.Stream(pdf, data, **entries)


def read(stream):
    facts = image_facts(stream, None)
    return read_samples(stream, facts), facts


def refused(code: str, act, *given) -> None:
    with pytest.raises(CoreError) as error:
        act(*given)
    assert error.value.said.code == f"document.{code}"


def rows_of(samples: np.ndarray, bits: int) -> bytes:
    """Every row packed, most significant bit first, and filled up to a byte."""
    flat = samples.reshape(samples.shape[0], -1)
    spread = (flat[..., None] >> np.arange(bits - 1, -1, -1)) & 1
    return np.packbits(spread.reshape(samples.shape[0], -1).astype(np.uint8), axis=1).tobytes()


@pytest.mark.parametrize("bits", [1, 2, 4, 8, 16])
@pytest.mark.parametrize(
    ("space", "channels"), [(Name.DeviceGray, 1), (Name.DeviceRGB, 3), (Name.DeviceCMYK, 4)]
)
@pytest.mark.parametrize("packed", [False, True])
def test_samples_of_every_depth(pdf, bits, space, channels, packed) -> None:
    wanted = RNG.integers(0, 2**bits, (5, 7, channels))
    data = rows_of(wanted, bits)
    stream = image(
        pdf,
        zlib.compress(data) if packed else data,
        7,
        5,
        space,
        bits,
        **({"Filter": Name.FlateDecode} if packed else {}),
    )
    samples, facts = read(stream)
    assert np.array_equal(samples, wanted)
    assert samples.dtype == (np.uint16 if bits == 16 else np.uint8)
    assert (facts.bits, facts.masked, facts.intent) == (bits, "", None)
    full = 65535 if bits == 16 else 255
    assert np.array_equal(decoded(stream, samples, facts), np.round(wanted / (2**bits - 1) * full))
    stream["/Decode"] = Array([1, 0] * channels)
    assert np.array_equal(
        decoded(stream, samples, facts), np.round((1 - wanted / (2**bits - 1)) * full)
    )
    stream["/Decode"] = Array([0.25, 0.5] * channels)
    found = decoded(stream, samples, facts).astype(float)
    assert np.abs(found - (0.25 + wanted / (2**bits - 1) * 0.25) * full).max() <= 0.5001
    stream["/Decode"] = Array([0, 1])
    if channels > 1:
        refused("decode-length", decoded, stream, samples, facts)


def test_lab_is_decoded_from_its_own_ranges(pdf) -> None:
    lab = Array([Name.Lab, Dictionary(WhitePoint=[0.9642, 1, 0.8249], Range=[-50, 50, -100, 100])])
    wanted = RNG.integers(0, 256, (3, 4, 3))
    stream = image(pdf, rows_of(wanted, 8), 4, 3, lab)
    samples, facts = read(stream)
    assert np.array_equal(decoded(stream, samples, facts), wanted)
    stream["/Decode"] = Array([0, 50, -50, 50, -100, 100])
    assert np.abs(decoded(stream, samples, facts)[..., 0] - wanted[..., 0] / 2).max() <= 0.5


@pytest.mark.parametrize("bits", [1, 2, 4, 8])
def test_palette_indices_are_the_samples_unless_decoded_otherwise(pdf, bits) -> None:
    count = 2**bits
    space = Array([Name.Indexed, Name.DeviceGray, count - 1, pikepdf.String(bytes(count))])
    wanted = RNG.integers(0, count, (4, 9, 1))
    stream = image(pdf, rows_of(wanted, bits), 9, 4, space, bits)
    samples, facts = read(stream)
    assert np.array_equal(palette_indices(stream, samples, facts), wanted[..., 0])
    stream["/Decode"] = Array([count - 1, 0])
    assert np.array_equal(palette_indices(stream, samples, facts), count - 1 - wanted[..., 0])
    short = Array([Name.Indexed, Name.DeviceGray, 0, pikepdf.String(b"a")])
    few = image(pdf, rows_of(wanted, bits), 9, 4, short, bits)
    assert palette_indices(few, *read(few)).max() == 0


def test_colours_between_all_limits_of_a_mask_paint_nothing(pdf) -> None:
    samples = np.array(
        [[[10, 20, 30], [11, 20, 30], [10, 19, 30], [9, 21, 30], [10, 22, 31]]], np.uint8
    )
    stream = image(pdf, b"", 5, 1, Mask=Array([10, 11, 20, 21, 30, 30]))
    assert key_mask(stream, samples).tolist() == [[True, True, False, False, False]]
    stream["/Mask"] = Array([1, 2])
    refused("colour-key-length", key_mask, stream, samples)


def test_masks_filters_and_intents_by_their_entries(pdf) -> None:
    other = image(pdf, b"x", 1, 1, Name.DeviceGray)
    for entries, wanted in (
        ({}, ""), ({"SMask": other}, "soft"), ({"Mask": other}, "explicit"), ({"Mask": Array([0, 1] * 3)}, "colour key"),
        ({"SMask": other, "Mask": other}, "soft"),
    ):  # fmt: skip
        assert image_facts(image(pdf, b"", 1, 1, **entries), None).masked == wanted
    assert filters_of(image(pdf, b"", 1, 1)) == ()
    assert filters_of(image(pdf, b"", 1, 1, Filter=Name.FlateDecode)) == ("/FlateDecode",)
    both = Array([Name.ASCII85Decode, Name.FlateDecode])
    assert filters_of(image(pdf, b"", 1, 1, Filter=both)) == ("/ASCII85Decode", "/FlateDecode")
    names = (
        "/Perceptual",
        "/RelativeColorimetric",
        "/Saturation",
        "/AbsoluteColorimetric",
        "/Other",
    )
    assert [intent_of(n) for n in names] == [
        "perceptual",
        "relative",
        "saturation",
        "absolute",
        None,
    ]
    stated = image_facts(image(pdf, b"", 1, 1, Intent=Name.Saturation), None)
    assert stated.intent == "saturation"


def test_facts_that_cannot_be(pdf) -> None:
    refused("image-depth-impossible", image_facts, image(pdf, b"", 1, 1, bits=3), None)
    for size in ((0, 1), (1, 0)):
        with pytest.raises(CoreError):
            image_facts(image(pdf, b"", *size), None)
    refused("jpx-no-space", image_facts, image(pdf, b"", 1, 1, None, Filter=Name.JPXDecode), None)
    assert image_facts(image(pdf, b"", 1, 1, None), None).space is not None
    stencil = image_facts(image(pdf, b"", 1, 1, None, bits=8, ImageMask=True), None)
    assert (stencil.space, stencil.bits) == (None, 1)
    refused("image-short", read, image(pdf, bytes(11), 2, 2))
    assert read(image(pdf, bytes(13), 2, 2))[0].shape == (2, 2, 3)
    refused("image-packing", read, image(pdf, bytes(12), 2, 2, Filter=Name.JBIG2Decode))


@pytest.mark.parametrize(
    ("mode", "space"), [("L", Name.DeviceGray), ("RGB", Name.DeviceRGB), ("CMYK", Name.DeviceCMYK)]
)
def test_jpeg_is_what_is_stored(pdf, mode, space) -> None:
    y, x = np.mgrid[0:16, 0:24]
    channels = len(Image.new(mode, (1, 1)).getbands())
    pixels = np.stack(
        [(x * 9 + y * 3 + i * 40) % 256 // 2 + 60 for i in range(channels)], axis=-1
    ).astype(np.uint8)
    buffer = io.BytesIO()
    Image.fromarray(pixels[..., 0] if channels == 1 else pixels, mode).save(
        buffer, "JPEG", quality=100, subsampling=0
    )
    samples, facts = read(image(pdf, buffer.getvalue(), 24, 16, space, Filter=Name.DCTDecode))
    # Pillow writes and reads CMYK reversed, as the files of one maker are; what is stored counts.
    wanted = 255 - pixels if mode == "CMYK" else pixels
    assert np.abs(samples.astype(int) - wanted).max() <= 12
    assert np.abs(samples.astype(int) - wanted).mean() <= 2
    assert facts.bits == 8
    refused(
        "image-pixels", read, image(pdf, buffer.getvalue(), 23, 16, space, Filter=Name.DCTDecode)
    )
    refused("jpeg-damaged", read, image(pdf, b"\xff\xd8 no", 24, 16, space, Filter=Name.DCTDecode))


def test_a_grey_jpeg_in_a_space_of_three_and_a_coloured_one_in_grey(pdf) -> None:
    buffer = io.BytesIO()
    Image.fromarray(np.full((8, 8), 90, np.uint8)).save(buffer, "JPEG", quality=100)
    samples, _ = read(image(pdf, buffer.getvalue(), 8, 8, Name.DeviceRGB, Filter=Name.DCTDecode))
    assert samples.shape == (8, 8, 3)
    assert np.abs(samples.astype(int) - 90).max() <= 1
    buffer = io.BytesIO()
    Image.fromarray(np.full((8, 8, 3), (200, 100, 50), np.uint8)).save(buffer, "JPEG", quality=100)
    samples, _ = read(image(pdf, buffer.getvalue(), 8, 8, Name.DeviceGray, Filter=Name.DCTDecode))
    # Luma of BT.601.
    assert samples.mean() == pytest.approx(0.299 * 200 + 0.587 * 100 + 0.114 * 50, abs=2)


@pytest.mark.parametrize(
    ("depth", "dtype"), [(8, np.uint8), (16, np.uint16), (12, np.uint16), (4, np.uint8)]
)
def test_jpeg_2000_is_spread_over_its_full_range(pdf, depth, dtype) -> None:
    pixels = RNG.integers(0, 2**depth, (12, 10, 3)).astype(dtype)
    data = bytes(imagecodecs.jpeg2k_encode(pixels, level=0, bitspersample=depth))
    samples, _ = read(image(pdf, data, 10, 12, Filter=Name.JPXDecode))
    full = 65535 if depth > 8 else 255
    assert np.abs(samples - np.round(pixels / (2**depth - 1) * full)).max() <= 1
    refused("jpx-depth", read, image(pdf, b"nothing", 10, 12, Filter=Name.JPXDecode))


@pytest.mark.parametrize(("channels", "own"), [(2, True), (3, False), (4, True), (5, True)])
def test_opacity_that_a_jpeg_2000_brings_with_it(pdf, channels, own) -> None:
    pixels = RNG.integers(0, 256, (6, 5, channels)).astype(np.uint8)
    data = bytes(imagecodecs.jpeg2k_encode(pixels, level=0))
    stream = image(pdf, data, 5, 6, Filter=Name.JPXDecode, SMaskInData=1)
    alpha = own_alpha(stream)
    assert (alpha is not None) == own
    if alpha is not None:
        assert np.array_equal(alpha, pixels[..., -1])
    stream["/SMaskInData"] = 2
    assert own_alpha(stream) is None


def test_what_is_large_is_unpacked_into_its_place_and_damage_is_told(pdf, monkeypatch) -> None:
    from plinto_core.document.pdf import images

    monkeypatch.setattr(images, "_LARGE", 100)
    data = RNG.integers(0, 256, (20, 10, 3)).astype(np.uint8)
    packed = zlib.compress(data.tobytes())
    for more in ({}, {"DecodeParms": Dictionary(Predictor=1)}):
        samples, _ = read(image(pdf, packed, 10, 20, Filter=Name.FlateDecode, **more))
        assert np.array_equal(samples, data)
    spare = zlib.compress(data.tobytes() + bytes(40))
    assert np.array_equal(read(image(pdf, spare, 10, 20, Filter=Name.FlateDecode))[0], data)
    refused(
        "image-short",
        read,
        image(pdf, zlib.compress(data.tobytes()[:-1]), 10, 20, Filter=Name.FlateDecode),
    )
    up = b"".join(
        b"\2" + (row.astype(int) - (data[i - 1] if i else 0 * row)).astype(np.uint8).tobytes()
        for i, row in enumerate(data)
    )
    predicted = image(
        pdf,
        zlib.compress(up),
        10,
        20,
        Filter=Name.FlateDecode,
        DecodeParms=Dictionary(Predictor=12, Colors=3, Columns=10),
    )
    assert np.array_equal(read(predicted)[0], data)
    refused(
        "unpacks-large",
        read,
        image(pdf, zlib.compress(bytes(20_000_000)), 10, 20, Filter=Name.FlateDecode),
    )


def test_predictors_in_a_list_of_one_are_undone(pdf, monkeypatch) -> None:
    """PNG's second filter: every row is what it differs by from the row above."""
    monkeypatch.setattr(images, "_LARGE", 1)
    wanted = RNG.integers(0, 256, (6, 5, 3)).astype(np.uint8)
    rows = wanted.reshape(6, 15)
    packed = np.concatenate([np.full((6, 1), 2, np.uint8), np.diff(rows, axis=0, prepend=np.zeros((1, 15), np.uint8))], axis=1)  # fmt: skip
    how = Dictionary(Predictor=15, Colors=3, Columns=5)
    for filters, parameters in ((Name.FlateDecode, how), (Array([Name.FlateDecode]), Array([how]))):
        stream = image(pdf, zlib.compress(packed.tobytes()), 5, 6, Filter=filters, DecodeParms=parameters)  # fmt: skip
        assert np.array_equal(read(stream)[0], wanted)
