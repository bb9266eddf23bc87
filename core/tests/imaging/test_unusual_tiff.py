"""TIFF of kinds that are not read say what they are; channels beside the colours are named."""

from __future__ import annotations

import struct
import zlib
from pathlib import Path
from types import SimpleNamespace

import numpy as np
import pytest
import tifffile

from plinto_core.errors import BadImage, BadRecipe, NotSupported
from plinto_core.imaging import open_picture
from plinto_core.imaging.tiff import _one_depth
from plinto_core.recipes import parse_recipe, run_recipe
from plinto_core.transform.standard_spaces import standard_profile

INK_NAMES, INK_SET, RESOURCES = 333, 332, 34377


def write(path, channels, photometric, *, dtype=np.uint8, extras=None, tags=()):
    data = np.full((10, 12, channels), 7, dtype)
    tifffile.imwrite(
        path, data, photometric=photometric, extrasamples=extras, extratags=tags, metadata=None
    )
    return path


@pytest.mark.parametrize(
    ("photometric", "channels", "extras", "names", "alpha"),
    [
        ("separated", 6, [0, 0], ("channel 5", "channel 6"), "none"),
        ("separated", 5, [2], (), "straight"),
        ("separated", 6, [2, 0], ("channel 6",), "straight"),
        ("rgb", 4, [0], ("channel 4",), "none"),
        ("rgb", 4, [2], (), "straight"),
        ("minisblack", 2, [0], ("channel 2",), "none"),
    ],
)
def test_channels_beside_the_colours_are_found(
    tmp_path, photometric, channels, extras, names, alpha
) -> None:
    with open_picture(write(tmp_path / "a.tif", channels, photometric, extras=extras)) as picture:
        assert picture.facts.extra_channels == names
        assert picture.facts.alpha == alpha


def test_their_names_are_read_where_the_file_has_them(tmp_path) -> None:
    inks = b"Cyan\0Magenta\0Yellow\0Black\0White\0Varnish\0"
    tags = [(INK_NAMES, "s", 0, inks, True)]
    path = write(tmp_path / "a.tif", 6, "separated", extras=[0, 0], tags=tags)
    with open_picture(path) as picture:
        assert picture.facts.extra_channels == ("White", "Varnish")
    body = b"\x05White\x07Varnish"
    resource = b"8BIM" + (1006).to_bytes(2, "big") + b"\0\0" + len(body).to_bytes(4, "big") + body
    path = write(
        tmp_path / "b.tif",
        6,
        "separated",
        extras=[0, 0],
        tags=[(RESOURCES, "B", len(resource), resource, True)],
    )
    with open_picture(path) as picture:
        assert picture.facts.extra_channels == ("White", "Varnish")


def test_a_run_stops_until_they_may_be_left_out(tmp_path) -> None:
    path = write(tmp_path / "a.tif", 4, "rgb", extras=[0])
    recipe = {"destination": "p3"}
    with pytest.raises(BadRecipe, match=r"channel 4.*left out"):
        run_recipe(parse_recipe(recipe), path, tmp_path / "out.tif", standard_profile)
    assert not (tmp_path / "out.tif").exists()
    done = run_recipe(
        parse_recipe({**recipe, "extra_channels": "leave out"}),
        path,
        tmp_path / "out.tif",
        standard_profile,
    )
    assert done.extra_channels == ("channel 4",)
    assert tifffile.imread(tmp_path / "out.tif").shape == (10, 12, 3)


@pytest.mark.parametrize(
    ("photometric", "channels", "dtype", "tags", "sentence"),
    [
        ("cielab", 3, np.uint8, (), "CIELAB"),
        ("icclab", 3, np.uint16, (), "CIELAB"),
        ("rgb", 3, np.float32, (), "floating point numbers of 32 bits"),
        ("rgb", 3, np.float16, (), "floating point numbers of 16 bits"),
        ("minisblack", 1, np.int16, (), "signed"),
        ("rgb", 3, np.uint32, (), "32 bits per channel"),
    ],
)
def test_kinds_that_are_not_read_are_named(
    tmp_path, photometric, channels, dtype, tags, sentence
) -> None:
    path = write(tmp_path / "a.tif", channels, photometric, dtype=dtype, tags=tags)
    with pytest.raises(NotSupported, match=sentence):
        open_picture(path)


def test_names_stand_behind_other_blocks(tmp_path) -> None:
    def block(number: int, name: bytes, body: bytes) -> bytes:
        padded = bytes([len(name)]) + name + (b"" if len(name) % 2 else b"\0")
        data = len(body).to_bytes(4, "big") + body + bytes(len(body) % 2)
        return b"8BIM" + number.to_bytes(2, "big") + padded + data

    resource = block(1005, b"abc", b"12345") + block(1036, b"", b"1234")
    resource += block(1006, b"de", b"\x01A\x02 B\x01 \x03Gum")
    tags = [(RESOURCES, "B", len(resource), resource, True)]
    path = write(tmp_path / "b.tif", 7, "separated", extras=[0, 0, 0], tags=tags)
    with open_picture(path) as picture:
        assert picture.facts.extra_channels == ("A", " B", "Gum")


@pytest.mark.parametrize(("given", "depth"), [(16, 16), ((8, 8, 8), 8), ((8, 16, 8), None)])
def test_channels_of_different_depths_are_refused(given, depth) -> None:
    page = SimpleNamespace(bitspersample=given)
    if depth is None:
        with pytest.raises(NotSupported):
            _one_depth(page)
    else:
        assert _one_depth(page) == depth


CLAIMED = (65_535, 65_280)


def claiming(path: Path, compression: str, **how) -> Path:
    """A TIFF of 96 x 96 pixels whose first segment says it holds 65,535 x 65,280."""
    noise = np.random.default_rng(7).integers(0, 255, (96, 96, 3), dtype=np.uint8)
    tifffile.imwrite(path, noise, photometric="rgb", compression=compression, **how)
    data = bytearray(path.read_bytes())
    if compression == "jpeg":
        at = data.index(b"\xff\xc0") + 5
        data[at : at + 4] = struct.pack(">HH", *reversed(CLAIMED))
    elif compression == "jpeg2000":
        at = data.index(b"\xff\x51") + 6
        data[at : at + 8] = struct.pack(">II", *CLAIMED)
    else:
        at = data.index(b"IHDR") + 4
        data[at : at + 8] = struct.pack(">II", *CLAIMED)
        crc = zlib.crc32(data[at - 4 : at + 13])
        data[at + 13 : at + 17] = struct.pack(">I", crc)
    path.write_bytes(data)
    return path


@pytest.mark.parametrize("compression", ["jpeg", "jpeg2000", "png"])
@pytest.mark.parametrize(
    "how", [{}, {"tile": (32, 32)}, {"extratags": [(274, 3, 1, 6, False)]}], ids=str
)
def test_a_segment_that_claims_more_than_its_place_is_not_decoded(
    tmp_path, compression, how, monkeypatch
) -> None:
    path = claiming(tmp_path / "claims.tif", compression, **how)
    monkeypatch.setattr(tifffile.TiffPage, "asarray", None)
    with pytest.raises(BadImage, match="65535 × 65280"), open_picture(path) as picture:
        list(picture.bands())


@pytest.mark.parametrize("compression", ["jpeg", "jpeg2000", "png", "webp"])
@pytest.mark.parametrize("how", [{}, {"tile": (64, 64)}, {"rowsperstrip": 40}], ids=str)
def test_segments_that_are_pictures_of_their_own_are_read(tmp_path, compression, how) -> None:
    y, x = np.mgrid[0:96, 0:100]
    pixels = np.stack([2 * x, 2 * y, x + y], axis=-1).astype(np.uint8)
    path = tmp_path / "own.tif"
    tifffile.imwrite(path, pixels, photometric="rgb", compression=compression, **how)
    with open_picture(path) as picture:
        read = np.concatenate(list(picture.bands()))
    assert np.abs(read.astype(int) - pixels).mean() < 3


def test_a_compression_that_states_no_size_is_not_read(tmp_path) -> None:
    path = tmp_path / "lerc.tif"
    pixels = np.zeros((16, 16, 3), np.uint8)
    tifffile.imwrite(path, pixels, photometric="rgb", compression="lerc")
    with pytest.raises(NotSupported, match="LERC"):
        open_picture(path)
