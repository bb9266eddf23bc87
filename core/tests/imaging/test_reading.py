"""Pictures of every kind come in as they are meant; broken ones leave a sentence."""

from __future__ import annotations

import io
import struct
import zlib

import imagecodecs
import numpy as np
import pytest
import tifffile
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from PIL import Image

from plinto_core.errors import BadImage, CoreError
from plinto_core.imaging import open_picture
from plinto_core.imaging.tiff import orient
from plinto_core.transform.standard_spaces import standard_profile


def pixels_of(path) -> np.ndarray:
    with open_picture(path) as picture:
        return picture.read()


@pytest.mark.parametrize("order", ["<", ">"])
@pytest.mark.parametrize(
    "options",
    [
        {}, {"rowsperstrip": 7}, {"tile": (16, 32)}, {"compression": "zlib", "predictor": True},
        {"compression": "lzw", "rowsperstrip": 5}, {"tile": (32, 16), "compression": "zlib"},
        {"planarconfig": "separate"}, {"bigtiff": True, "compression": "packbits"},
    ],
    ids=str,
)  # fmt: skip
@pytest.mark.parametrize("bits", [8, 16])
def test_tiff_layouts(tmp_path, gradient, options, order, bits) -> None:
    data = gradient if bits == 16 else (gradient >> 8).astype(np.uint8)
    options = dict(options)
    big = options.pop("bigtiff", False)
    stored = np.moveaxis(data, -1, 0) if options.get("planarconfig") == "separate" else data
    with tifffile.TiffWriter(tmp_path / "a.tif", bigtiff=big, byteorder=order) as writer:
        writer.write(stored, photometric="rgb", metadata=None, **options)
    assert np.array_equal(pixels_of(tmp_path / "a.tif"), data)


@pytest.mark.parametrize(
    ("photometric", "channels"), [("minisblack", 1), ("miniswhite", 1), ("separated", 4)]
)
def test_grey_and_cmyk_tiff(tmp_path, photometric, channels) -> None:
    rng = np.random.default_rng(1)
    data = rng.integers(0, 256, (20, 30) if channels == 1 else (20, 30, 4)).astype(np.uint8)
    tifffile.imwrite(tmp_path / "a.tif", data, photometric=photometric)
    expected = data[..., None] if channels == 1 else data
    if photometric == "miniswhite":
        expected = 255 - expected
    assert np.array_equal(pixels_of(tmp_path / "a.tif"), expected)


def test_profile_resolution_and_size_are_reported(tmp_path, gradient) -> None:
    profile = standard_profile("romm").data
    tifffile.imwrite(
        tmp_path / "a.tif", gradient, photometric="rgb", iccprofile=profile,
        resolution=(118.11, 118.11), resolutionunit="CENTIMETER",
    )  # fmt: skip
    with open_picture(tmp_path / "a.tif") as picture:
        facts = picture.facts
    assert facts.profile == profile
    assert facts.resolution == pytest.approx((300, 300), abs=0.1)
    assert facts.print_size_mm == pytest.approx((60 / 300 * 25.4, 40 / 300 * 25.4), abs=0.01)
    assert (facts.width, facts.height, facts.bits, facts.space) == (60, 40, 16, "RGB ")


@pytest.mark.parametrize(("kind", "value"), [("unassalpha", 140), ("assocalpha", 204)])
def test_transparency_is_laid_on_white(tmp_path, kind, value) -> None:
    """Half-transparent 25: straight gives 25/2 + 255/2; premultiplied gives 25 + 255/2."""
    data = np.zeros((4, 4, 4), np.uint8)
    data[..., :3], data[..., 3] = (25, 128) if kind == "unassalpha" else (77, 128)
    tifffile.imwrite(tmp_path / "a.tif", data, photometric="rgb", extrasamples=[kind])
    assert np.allclose(pixels_of(tmp_path / "a.tif"), value, atol=1)


def test_png_kinds(tmp_path, gradient) -> None:
    small = (gradient >> 8).astype(np.uint8)
    Image.fromarray(small).save(tmp_path / "rgb.png")
    assert np.array_equal(pixels_of(tmp_path / "rgb.png"), small)
    (tmp_path / "deep.png").write_bytes(imagecodecs.png_encode(gradient))
    assert np.array_equal(pixels_of(tmp_path / "deep.png"), gradient)
    Image.fromarray(small).convert("P").save(tmp_path / "palette.png")
    assert pixels_of(tmp_path / "palette.png").shape == (40, 60, 3)
    Image.fromarray(small[..., 0]).convert("1").save(tmp_path / "bilevel.png")
    assert set(np.unique(pixels_of(tmp_path / "bilevel.png"))) <= {0, 255}
    clear = Image.new("RGBA", (3, 3), (10, 20, 30, 0))
    clear.save(tmp_path / "clear.png")
    assert (pixels_of(tmp_path / "clear.png") == 255).all()


@pytest.mark.parametrize("mode", ["L", "RGB", "CMYK"])
def test_jpeg_kinds(tmp_path, mode) -> None:
    colour = {"L": 90, "RGB": (200, 40, 60), "CMYK": (10, 200, 120, 30)}[mode]
    Image.new(mode, (32, 24), colour).save(tmp_path / "a.jpg", quality=100, dpi=(240, 240))
    with open_picture(tmp_path / "a.jpg") as picture:
        assert np.abs(picture.read().astype(int) - np.array(colour)).max() <= 2
        assert picture.facts.resolution == pytest.approx((240, 240))


@pytest.mark.parametrize("orientation", range(1, 9))
def test_orientation_is_honoured(tmp_path, gradient, orientation) -> None:
    small = (gradient >> 8).astype(np.uint8)
    exif = Image.Exif()
    exif[274] = orientation
    Image.fromarray(small).save(tmp_path / "a.png", exif=exif)
    tifffile.imwrite(
        tmp_path / "a.tif", small, photometric="rgb", extratags=[(274, 3, 1, orientation, True)]
    )
    from PIL import ImageOps

    expected = np.asarray(ImageOps.exif_transpose(Image.open(tmp_path / "a.png")))
    assert np.array_equal(pixels_of(tmp_path / "a.png"), expected)
    assert np.array_equal(pixels_of(tmp_path / "a.tif"), expected)
    assert np.array_equal(orient(small, orientation), expected)


def bomb_png(width: int, height: int) -> bytes:
    def chunk(kind: bytes, body: bytes) -> bytes:
        return (
            struct.pack(">I", len(body)) + kind + body + struct.pack(">I", zlib.crc32(kind + body))
        )

    head = chunk(b"IHDR", struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0))
    return b"\x89PNG\r\n\x1a\n" + head + chunk(b"IDAT", zlib.compress(b"")) + chunk(b"IEND", b"")


def test_bombs_are_refused_before_decoding(tmp_path) -> None:
    (tmp_path / "b.png").write_bytes(bomb_png(60_000, 60_000))
    with pytest.raises(BadImage, match="million"):
        open_picture(tmp_path / "b.png")
    tifffile.imwrite(
        tmp_path / "b.tif", np.zeros((4, 4, 3), np.uint8), photometric="rgb", metadata=None
    )
    with tifffile.TiffFile(tmp_path / "b.tif", mode="r+b") as file:
        file.pages[0].tags[256].overwrite(65_000)
        file.pages[0].tags[257].overwrite(65_000)
        file.pages[0].tags[278].overwrite(65_000)
    with pytest.raises(CoreError):
        pixels_of(tmp_path / "b.tif")


@pytest.mark.parametrize("suffix", ["tif", "png", "jpg"])
@pytest.mark.parametrize("share", [0.02, 0.4, 0.9])
def test_truncated_pictures_are_refused(tmp_path, gradient, suffix, share) -> None:
    path = tmp_path / f"a.{suffix}"
    small = (gradient >> 8).astype(np.uint8)
    if suffix == "tif":
        tifffile.imwrite(path, small, photometric="rgb", compression="zlib", rowsperstrip=4)
    else:
        Image.fromarray(np.tile(small, (4, 4, 1))).save(path)
    data = path.read_bytes()
    path.write_bytes(data[: int(len(data) * share)])
    with pytest.raises(CoreError, match=r"\."):
        pixels_of(path)


@pytest.mark.parametrize(
    "data", [b"", b"hello", b"%PDF-1.7", b"GIF89a" + bytes(50), b"\xff\xd8\xff" + bytes(9)]
)
def test_other_files_are_refused(tmp_path, data) -> None:
    (tmp_path / "a.tif").write_bytes(data)
    with pytest.raises(BadImage):
        open_picture(tmp_path / "a.tif")


def base_files() -> dict[str, bytes]:
    rng = np.random.default_rng(0)
    small = rng.integers(0, 256, (9, 11, 3)).astype(np.uint8)
    files = {}
    for name, kind in (("png", "PNG"), ("jpg", "JPEG")):
        buffer = io.BytesIO()
        Image.fromarray(small).save(buffer, kind)
        files[name] = buffer.getvalue()
    buffer = io.BytesIO()
    tifffile.imwrite(
        buffer, small, photometric="rgb", compression="zlib", rowsperstrip=3, metadata=None
    )
    files["tif"] = buffer.getvalue()
    return files


FILES = base_files()


@settings(
    max_examples=200, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture]
)
@given(
    kind=st.sampled_from(sorted(FILES)),
    changes=st.lists(st.tuples(st.integers(0, 500), st.integers(0, 255)), min_size=1, max_size=8),
)
def test_damaged_pictures_raise_only_the_cores_own_errors(tmp_path, kind, changes) -> None:
    data = bytearray(FILES[kind])
    for position, value in changes:
        data[position % len(data)] = value
    path = tmp_path / f"x.{kind}"
    path.write_bytes(data)
    try:
        pixels = pixels_of(path)
    except CoreError as error:
        assert str(error)
    else:
        assert pixels.ndim == 3


def test_a_strip_that_ends_early_is_told_from_a_damaged_one(tmp_path) -> None:
    noise = np.random.default_rng(1).integers(0, 255, (64, 64, 3), np.uint8)
    tifffile.imwrite(tmp_path / "a.tif", noise, photometric="rgb", compression="zlib")
    data = (tmp_path / "a.tif").read_bytes()
    (tmp_path / "a.tif").write_bytes(data[:-200])
    with pytest.raises(CoreError, match="ends inside its pixels"):
        pixels_of(tmp_path / "a.tif")
