"""TIFF read by every layout it may have, against what was written, and by tag (TIFF 6.0)."""

from __future__ import annotations

import numpy as np
import pytest
import tifffile

from plinto_core.errors import BadImage, NotSupported
from plinto_core.imaging import open_picture
from plinto_core.imaging import tiff as tiffs
from plinto_core.imaging.tiff import orient

RNG = np.random.default_rng(17)
INK_NAMES, INK_SET, ORIENTATION = 333, 332, 274


def written(path, data, **options):
    options.setdefault("metadata", None)
    if np.ndim(data) == 3 and options.get("photometric") == "separated":
        options.setdefault("planarconfig", "contig")
    tifffile.imwrite(path, data, **options)
    return path


def read(path, page: int = 0):
    with open_picture(path, page=page) as picture:
        return picture.read(), picture.facts


def refused(path, code: str, kind: type[Exception] = NotSupported) -> None:
    with pytest.raises(kind) as error:
        read(path)
    assert error.value.said.code == f"imaging.{code}"  # type: ignore[attr-defined]


@pytest.mark.parametrize("dtype", [np.uint8, np.uint16])
@pytest.mark.parametrize("byteorder", ["<", ">"])
@pytest.mark.parametrize(
    "options",
    [
        {}, {"rowsperstrip": 7}, {"rowsperstrip": 1, "compression": "zlib"}, {"compression": "lzw", "predictor": True},
        {"tile": (32, 48)}, {"tile": (16, 16), "compression": "zlib"}, {"planarconfig": "separate"},
        {"planarconfig": "separate", "compression": "zlib"}, {"bigtiff": True},
    ],
)  # fmt: skip
def test_every_layout_gives_the_same_pixels(
    tmp_path, options, byteorder, dtype, monkeypatch
) -> None:
    """Bands are cut small, so that each layout has several."""
    monkeypatch.setattr(tiffs, "_BAND_BYTES", 2000)
    data = RNG.integers(0, np.iinfo(dtype).max + 1, (53, 71, 3)).astype(dtype)
    stored = np.moveaxis(data, -1, 0) if "planarconfig" in options else data
    path = written(
        tmp_path / "a.tif",
        np.ascontiguousarray(stored),
        photometric="rgb",
        byteorder=byteorder,
        **options,
    )
    found, facts = read(path)
    assert np.array_equal(found, data)
    assert (facts.width, facts.height, facts.channels, facts.bits) == (
        71,
        53,
        3,
        np.dtype(dtype).itemsize * 8,
    )


@pytest.mark.parametrize("photometric", ["minisblack", "miniswhite"])
@pytest.mark.parametrize("bits", [1, 2, 4])
def test_few_bits_are_spread_over_eight(tmp_path, photometric, bits) -> None:
    data = RNG.integers(0, 2**bits, (9, 16)).astype(np.uint8)
    # Packed by hand, most significant bit first: two libraries disagree about fewer than eight.
    rows = np.packbits(
        ((data[..., None] >> np.arange(bits - 1, -1, -1)) & 1).astype(np.uint8).reshape(9, -1),
        axis=1,
    )
    path = written(tmp_path / "a.tif", rows, photometric=photometric)
    with tifffile.TiffFile(path, mode="r+b") as file:
        file.pages[0].tags["BitsPerSample"].overwrite(bits)
        file.pages[0].tags["ImageWidth"].overwrite(16)
    found, facts = read(path)
    wanted = data * (255 // (2**bits - 1))
    assert np.array_equal(found[..., 0], wanted if photometric == "minisblack" else 255 - wanted)
    assert (facts.bits, facts.channels, facts.width) == (8, 1, 16)


def test_palettes_are_looked_up_in_their_upper_eight_bits(tmp_path) -> None:
    # More rows than are handed on at once.
    index = RNG.integers(0, 256, (600, 8)).astype(np.uint8)
    colours = RNG.integers(0, 65536, (3, 256)).astype(np.uint16)
    found, facts = read(written(tmp_path / "a.tif", index, photometric="palette", colormap=colours))
    assert np.array_equal(found, np.moveaxis(colours[:, index] >> 8, 0, -1))
    assert (facts.channels, facts.bits, facts.alpha) == (3, 8, "none")


@pytest.mark.parametrize(
    ("orientation", "wanted"),
    [
        (1, [[1, 2, 3], [4, 5, 6]]), (2, [[3, 2, 1], [6, 5, 4]]), (3, [[6, 5, 4], [3, 2, 1]]), (4, [[4, 5, 6], [1, 2, 3]]),
        (5, [[1, 4], [2, 5], [3, 6]]), (6, [[4, 1], [5, 2], [6, 3]]), (7, [[6, 3], [5, 2], [4, 1]]), (8, [[3, 6], [2, 5], [1, 4]]),
        (9, [[1, 2, 3], [4, 5, 6]]), (0, [[1, 2, 3], [4, 5, 6]]),
    ],
)  # fmt: skip
def test_which_way_a_picture_is_meant(tmp_path, orientation, wanted) -> None:
    data = np.array([[1, 2, 3], [4, 5, 6]], np.uint8)
    if orientation in range(1, 9):
        assert orient(data[..., None], orientation)[..., 0].tolist() == wanted
    path = written(
        tmp_path / "a.tif",
        data,
        photometric="minisblack",
        extratags=[(ORIENTATION, "H", 1, orientation, True)],
    )
    found, facts = read(path)
    assert found[..., 0].tolist() == wanted
    assert (facts.height, facts.width) == np.shape(wanted)


@pytest.mark.parametrize(
    ("unit", "values", "wanted"),
    [
        ("inch", (300, 150), (300, 150)),
        ("centimeter", (100, 50), (254, 127)),
        ("none", (300, 300), None),
        ("inch", (0.5, 300), None),
    ],
)
def test_resolutions_in_every_unit(tmp_path, unit, values, wanted) -> None:
    path = written(
        tmp_path / "a.tif",
        np.zeros((4, 4), np.uint8),
        photometric="minisblack",
        resolution=values,
        resolutionunit=unit,
    )
    _, facts = read(path)
    assert facts.resolution == (None if wanted is None else pytest.approx(wanted))


@pytest.mark.parametrize(
    ("channels", "names", "inkset", "wanted", "extra"),
    [
        (4, "", None, (), ()),
        (4, "", 2, ("1", "2", "3", "4"), ()),
        (4, "Cyan\0Magenta\0Yellow\0Black\0", 2, (), ()),
        (4, "Cyan\0Magenta\0Yellow\0Gold\0", 2, ("C", "M", "Y", "Gold"), ()),
        (4, "Cyan\0Cyan\0Yellow\0Gold\0", 2, ("1", "2", "3", "4"), ()),
        (4, "Cyan\0Magenta\0Yellow\0Gold\0", 1, (), ()),
        (5, "Red\0Gold\0Sea\0Sand\0Sky\0", 2, ("Red", "Gold", "Sea", "Sand"), ("Sky",)),
        (6, "Cyan\0Magenta\0Yellow\0Black\0Orange\0Green\0", 2, (), ("Orange", "Green")),
    ],
)
def test_inks_by_number_name_and_set(tmp_path, channels, names, inkset, wanted, extra) -> None:
    tags = [(INK_NAMES, "s", 0, names.encode(), True)] if names else []
    tags += [(INK_SET, "H", 1, inkset, True)] if inkset else []
    data = np.zeros((4, 5, channels), np.uint8)
    extras = [0] * (channels - 4) if extra else None
    path = written(
        tmp_path / "a.tif", data, photometric="separated", extratags=tags, extrasamples=extras
    )
    _, facts = read(path)
    assert facts.inks == wanted
    assert facts.extra_channels == extra


def test_kinds_and_depths_that_are_not_read(tmp_path) -> None:
    refused(
        written(tmp_path / "f.tif", np.zeros((4, 4, 3), np.float32), photometric="rgb"),
        "tiff-floats",
    )
    refused(
        written(tmp_path / "i.tif", np.zeros((4, 4, 3), np.int16), photometric="rgb"), "tiff-signed"
    )
    refused(
        written(tmp_path / "d.tif", np.zeros((4, 4, 3), np.uint32), photometric="rgb"), "tiff-depth"
    )
    pages = [np.full((5, 5), i, np.uint8) for i in range(3)]
    written(tmp_path / "p.tif", np.stack(pages), photometric="minisblack")
    assert [int(read(tmp_path / "p.tif", i)[0].mean()) for i in range(3)] == [0, 1, 2]
    with pytest.raises(BadImage) as error:
        read(tmp_path / "p.tif", 3)
    assert error.value.said.code == "imaging.tiff-page"


def test_a_palette_has_no_more_than_256_colours(tmp_path) -> None:
    index, colours = np.zeros((4, 4), np.uint16), np.zeros((3, 65536), np.uint16)
    path = written(tmp_path / "a.tif", index, photometric="palette", colormap=colours)
    refused(path, "tiff-no-palette", BadImage)


def test_strips_that_would_fill_the_memory_or_lie_nowhere(tmp_path, monkeypatch) -> None:
    data = RNG.integers(0, 4, (40, 50, 3)).astype(np.uint8)
    packed = written(
        tmp_path / "z.tif", data, photometric="rgb", compression="zlib", rowsperstrip=40
    )
    monkeypatch.setattr(tiffs, "_MAX_SEGMENT", 40 * 50 * 3)
    assert np.array_equal(read(packed)[0], data)
    monkeypatch.setattr(tiffs, "_MAX_SEGMENT", 40 * 50 * 3 - 1)
    refused(packed, "tiff-one-strip", BadImage)
    monkeypatch.setattr(tiffs, "_MAX_SEGMENT", 40 * 50 * 3 * 2 - 1)
    assert np.array_equal(read(packed)[0], data)
    deep = written(
        tmp_path / "d.tif",
        data.astype(np.uint16),
        photometric="rgb",
        compression="zlib",
        rowsperstrip=40,
    )
    refused(deep, "tiff-one-strip", BadImage)
    # One that lies on disk as it is need not be held, however large it is.
    monkeypatch.setattr(tiffs, "_MAX_SEGMENT", 1)
    plain = written(tmp_path / "p.tif", data, photometric="rgb", rowsperstrip=40)
    assert np.array_equal(read(plain)[0], data)


@pytest.mark.parametrize("compression", [None, "zlib"])
def test_files_that_end_too_soon(tmp_path, compression) -> None:
    data = RNG.integers(0, 256, (64, 50, 3)).astype(np.uint8)
    # The tags stand in front of the pixels, so that a file can lose its end.
    path = written(
        tmp_path / "a.tif", data, photometric="rgb", compression=compression, rowsperstrip=16
    )
    whole = path.read_bytes()
    path.write_bytes(whole[:-10])
    with pytest.raises(BadImage):
        read(path)


def test_transparency_by_its_kind(tmp_path) -> None:
    data = np.full((3, 3, 4), 128, np.uint8)
    for kind, name in (
        ("assocalpha", "premultiplied"),
        ("unassalpha", "straight"),
        ("unspecified", "none"),
    ):
        path = written(tmp_path / f"{kind}.tif", data, photometric="rgb", extrasamples=[kind])
        _, facts = read(path)
        assert facts.alpha == name
        assert facts.extra_channels == (() if name != "none" else ("channel 4",))


@pytest.mark.parametrize(("most", "packed", "read"), [(60, True, True), (59, True, False), (59, False, True)])  # fmt: skip
def test_one_large_strip_is_read_where_it_can_be_mapped(tmp_path, monkeypatch, most, packed, read) -> None:  # fmt: skip
    data = np.full((5, 4, 3), 7, np.uint8)
    tifffile.imwrite(tmp_path / "a.tif", data, photometric="rgb", compression="zlib" if packed else None, rowsperstrip=5)  # fmt: skip
    monkeypatch.setattr(tiffs, "_MAX_SEGMENT", most)
    # A row is larger than a band may be, and is a band all the same.
    monkeypatch.setattr(tiffs, "_BAND_BYTES", 5)
    if not read:
        with pytest.raises(BadImage) as error:
            open_picture(tmp_path / "a.tif")
        assert error.value.said.code == "imaging.tiff-one-strip"
        return
    with open_picture(tmp_path / "a.tif") as opened:
        assert np.array_equal(opened.read(), data)


@pytest.mark.parametrize("tiled", [True, False])
def test_parts_that_were_never_written_are_nought(tmp_path, tiled) -> None:
    data = np.full((64, 32, 3), 200, np.uint8)
    shape = {"tile": (16, 16)} if tiled else {"rowsperstrip": 8}
    tifffile.imwrite(tmp_path / "a.tif", data, photometric="rgb", compression="zlib", metadata=None, **shape)  # fmt: skip
    with tifffile.TiffFile(tmp_path / "a.tif", mode="r+b") as file:
        page = file.pages[0]
        for tag in (324, 325) if tiled else (273, 279):
            values = list(page.tags[tag].value)
            values[1] = 0
            page.tags[tag].overwrite(values)
    with open_picture(tmp_path / "a.tif") as opened:
        found = opened.read()
    wanted = data.copy()
    wanted[slice(0, 16) if tiled else slice(8, 16), slice(16, 32) if tiled else slice(None)] = 0
    assert np.array_equal(found, wanted)


def test_strips_that_lie_in_another_order_than_they_are_read(tmp_path) -> None:
    """Uncompressed, so that the file could be mapped, had its strips followed each other."""
    data = np.arange(8 * 4 * 3, dtype=np.uint8).reshape(8, 4, 3)
    tifffile.imwrite(tmp_path / "a.tif", data, photometric="rgb", rowsperstrip=2, metadata=None)
    with tifffile.TiffFile(tmp_path / "a.tif", mode="r+b") as file:
        tag = file.pages[0].tags[273]
        tag.overwrite(list(tag.value)[::-1])
    with open_picture(tmp_path / "a.tif") as opened:
        assert np.array_equal(opened.read(), data.reshape(4, 2, 4, 3)[::-1].reshape(8, 4, 3))


@pytest.mark.parametrize("length", range(14))
def test_resources_that_end_early_name_nothing(tmp_path, length) -> None:
    whole = b"8BIM" + (1005).to_bytes(2, "big") + bytes(2) + (2).to_bytes(4, "big") + b"ab"
    data = (
        whole
        + b"8BIM"
        + (1006).to_bytes(2, "big")
        + bytes(2)
        + (5).to_bytes(4, "big")
        + b"\x04Gold"
    )
    cut = data[: len(whole) + length]
    tifffile.imwrite(
        tmp_path / "a.tif", np.zeros((2, 2, 4), np.uint8), photometric="rgb", extrasamples=[0],
        extratags=[(34377, "B", len(cut), cut, True)], metadata=None,
    )  # fmt: skip
    with open_picture(tmp_path / "a.tif") as opened:
        # What is left of the name is taken, where any of it is.
        wanted = "Gold"[: max(0, length - 13)] or "channel 4"
        assert opened.facts.extra_channels == (wanted,)


def test_one_strip_of_as_many_rows_as_a_number_holds(tmp_path) -> None:
    """2**32 - 1 rows a strip, which is what a file without the entry means: the whole picture."""
    data = RNG.integers(0, 256, (9, 7, 3)).astype(np.uint8)
    tifffile.imwrite(tmp_path / "a.tif", data, photometric="rgb", compression="zlib", rowsperstrip=9, metadata=None)  # fmt: skip
    with tifffile.TiffFile(tmp_path / "a.tif", mode="r+b") as file:
        file.pages[0].tags[278].overwrite(2**32 - 1, dtype="I")
    found, _ = read(tmp_path / "a.tif")
    assert np.array_equal(found, data)
