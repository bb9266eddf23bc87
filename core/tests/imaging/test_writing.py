from __future__ import annotations

import numpy as np
import pytest
import tifffile
from PIL import Image

from plinto_core.errors import BadImage, BadRecipe
from plinto_core.imaging import OutputOptions, open_picture, write_picture
from plinto_core.imaging.writer import ENCODERS, _encoded, format_of
from plinto_core.transform.standard_spaces import standard_profile

PROFILE = standard_profile("srgb").data


def bands(data: np.ndarray, rows: int):
    return (data[i : i + rows] for i in range(0, data.shape[0], rows))


@pytest.mark.parametrize("compression", ["none", "lzw", "deflate"])
@pytest.mark.parametrize(("channels", "bits"), [(1, 8), (1, 16), (3, 8), (3, 16), (4, 8), (4, 16)])
def test_tiff_is_read_as_written_by_us_and_by_others(tmp_path, channels, bits, compression) -> None:
    rng = np.random.default_rng(1)
    data = rng.integers(0, 1 << bits, (301, 97, channels)).astype(f"u{bits // 8}")
    path = tmp_path / "a.tif"
    options = OutputOptions("TIFF", bits, PROFILE, (300, 300), compression)
    write_picture(path, bands(data, 40), data.shape, options)
    other = tifffile.imread(path)
    assert np.array_equal(other.reshape(data.shape), data)
    with open_picture(path) as picture:
        assert np.array_equal(picture.read(), data)
        assert picture.facts.profile == PROFILE
        assert picture.facts.resolution == pytest.approx((300, 300))
    if bits == 8:
        assert np.array_equal(np.asarray(Image.open(path)).reshape(data.shape), data)


@pytest.mark.parametrize(("channels", "bits"), [(1, 8), (3, 8), (3, 16)])
def test_png_carries_profile_and_resolution(tmp_path, channels, bits) -> None:
    data = (
        np.random.default_rng(2).integers(0, 1 << bits, (20, 30, channels)).astype(f"u{bits // 8}")
    )
    write_picture(
        tmp_path / "a.png",
        bands(data, 7),
        data.shape,
        OutputOptions("PNG", bits, PROFILE, (200, 200)),
    )
    with open_picture(tmp_path / "a.png") as picture:
        assert np.array_equal(picture.read(), data)
        assert picture.facts.profile == PROFILE
        assert picture.facts.resolution == pytest.approx((200, 200), abs=0.1)


@pytest.mark.parametrize("channels", [1, 3, 4])
def test_jpeg_keeps_colours_and_profile(tmp_path, channels) -> None:
    data = np.broadcast_to(np.array([40, 90, 160, 220][:channels], np.uint8), (32, 48, channels))
    write_picture(tmp_path / "a.jpg", iter([data]), data.shape, OutputOptions("JPEG", 8, PROFILE))
    with open_picture(tmp_path / "a.jpg") as picture:
        assert np.abs(picture.read().astype(int) - data).max() <= 2
        assert picture.facts.profile == PROFILE


def test_a_failure_half_way_leaves_the_old_file_and_nothing_else(tmp_path) -> None:
    path = tmp_path / "a.tif"
    path.write_bytes(b"old")

    def failing():
        yield np.zeros((10, 5, 4), np.uint8)
        raise BadImage("The picture is damaged.")

    with pytest.raises(BadImage):
        write_picture(path, failing(), (20, 5, 4), OutputOptions("TIFF", 8))
    assert path.read_bytes() == b"old"
    assert [p.name for p in tmp_path.iterdir()] == ["a.tif"]


def test_impossible_outputs_are_refused(tmp_path) -> None:
    with pytest.raises(BadRecipe, match="PNG cannot hold CMYK"):
        write_picture(tmp_path / "a.png", iter([]), (2, 2, 4), OutputOptions("PNG", 8))
    with pytest.raises(BadRecipe, match="8 bits"):
        write_picture(tmp_path / "a.jpg", iter([]), (2, 2, 4), OutputOptions("JPEG", 16))
    with pytest.raises(BadRecipe, match="suffix"):
        format_of(tmp_path / "a.gif")
    with pytest.raises(BadImage, match="Nothing can be written"):
        write_picture(tmp_path / "no" / "a.tif", iter([]), (2, 2, 4), OutputOptions("TIFF", 8))


def test_a_tiff_without_a_resolution_says_so(tmp_path) -> None:
    """The tags are required, so they say 72, and that it is of no unit (TIFF 6, ResolutionUnit 1)."""
    data = np.zeros((4, 6, 3), np.uint8)
    write_picture(tmp_path / "a.tif", iter([data]), data.shape, OutputOptions("TIFF", 8, PROFILE))
    with tifffile.TiffFile(tmp_path / "a.tif") as made:
        tags = made.pages[0].tags
        assert [tags[n].value for n in ("XResolution", "YResolution")] == [(72, 1), (72, 1)]
        assert int(tags["ResolutionUnit"].value) == 1
    with open_picture(tmp_path / "a.tif") as picture:
        assert picture.facts.resolution is None


def test_no_more_strips_wait_than_are_at_work() -> None:
    taken = []

    def strips():
        for i in range(40 * ENCODERS):
            taken.append(i)
            yield np.full((2, 3, 3), i % 256, np.uint8)

    made = _encoded(strips(), "zip")
    next(made)
    assert len(taken) <= 4 * ENCODERS + 1
    assert 1 + sum(1 for _ in made) == 40 * ENCODERS
