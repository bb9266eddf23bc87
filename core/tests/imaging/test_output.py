"""Resampling, PDF of one picture, tiles."""

from __future__ import annotations

import numpy as np
import pikepdf
import pypdfium2
import pytest
import tifffile

from plinto_core.imaging import OutputOptions, write_picture
from plinto_core.imaging.resample import lanczos_weights, resampled
from plinto_core.transform.standard_spaces import standard_profile


def bands(data: np.ndarray, rows: int = 13):
    return (data[i : i + rows] for i in range(0, data.shape[0], rows))


def scaled(data: np.ndarray, wanted: tuple[int, int]) -> np.ndarray:
    return np.concatenate(list(resampled(bands(data), data.shape[:2], wanted)))


@pytest.mark.parametrize("wanted", [(37, 19), (200, 300), (97, 41), (1, 1), (500, 7)])
def test_resampling_keeps_flat_areas_and_sizes(wanted) -> None:
    data = np.full((97, 41, 4), 31000, np.uint16)
    found = scaled(data, wanted)
    assert found.shape == (*wanted, 4)
    assert np.abs(found.astype(int) - 31000).max() <= 1


def test_resampling_does_not_depend_on_the_bands() -> None:
    data = np.random.default_rng(5).integers(0, 65536, (120, 80, 3)).astype(np.uint16)
    a = np.concatenate(list(resampled(bands(data, 7), (120, 80), (50, 33))))
    b = np.concatenate(list(resampled(bands(data, 120), (120, 80), (50, 33))))
    assert np.array_equal(a, b)


def test_a_wave_keeps_its_place_and_what_is_too_fine_vanishes() -> None:
    x = np.arange(400)
    slow = 128 + 100 * np.sin(2 * np.pi * (x + 0.5) / 100)
    fine = 128 + 100 * np.sin(2 * np.pi * (x + 0.5) / 2.5)
    data = np.stack([slow, fine], axis=-1)[None].repeat(40, 0)
    found = scaled(np.round(data * 257).astype(np.uint16), (10, 100)) / 257
    at = (np.arange(100) + 0.5) * 4
    assert found[5, 5:-5, 0] == pytest.approx(128 + 100 * np.sin(2 * np.pi * at / 100)[5:-5], abs=1)
    assert np.abs(found[5, 5:-5, 1] - 128).max() < 4


def test_weights_sum_to_one_at_the_edges_too() -> None:
    for old, new in ((10, 3), (3, 10), (1000, 999)):
        first, weights = lanczos_weights(old, new)
        assert weights.sum(axis=1) == pytest.approx(np.ones(new), abs=1e-5)
        assert (first >= 0).all()
        assert (first + weights.shape[1] <= old).all()


@pytest.mark.parametrize(("bits", "channels"), [(8, 3), (16, 3), (8, 4), (16, 4), (8, 1)])
def test_a_pdf_holds_the_picture_without_loss(tmp_path, coated, bits, channels) -> None:
    data = (
        np.random.default_rng(6).integers(0, 1 << bits, (30, 44, channels)).astype(f"u{bits // 8}")
    )
    profile = coated if channels == 4 else standard_profile("grey" if channels == 1 else "srgb")
    options = OutputOptions("PDF", bits, profile.data, (144, 144))
    write_picture(tmp_path / "a.pdf", bands(data), data.shape, options)
    with pikepdf.open(tmp_path / "a.pdf") as pdf:
        page = pdf.pages[0]
        image = page.Resources.XObject.Picture
        raw = np.frombuffer(image.read_bytes(), f">u{bits // 8}").reshape(data.shape)
        assert np.array_equal(raw, data)
        assert [float(v) for v in page.mediabox] == pytest.approx([0, 0, 22, 15])
        assert image.ColorSpace[1].read_bytes() == profile.data
        # Only an output profile may be an output intent.
        assert ("/OutputIntents" in pdf.Root) == (channels == 4)
    with pypdfium2.PdfDocument(tmp_path / "a.pdf") as document:
        assert len(document) == 1


def test_tiles(tmp_path) -> None:
    data = np.random.default_rng(7).integers(0, 255, (300, 521, 4)).astype(np.uint8)
    write_picture(
        tmp_path / "a.tif", bands(data, 100), data.shape, OutputOptions("TIFF", 8, tiles=True)
    )
    with tifffile.TiffFile(tmp_path / "a.tif") as file:
        assert file.pages[0].is_tiled
        assert np.array_equal(file.asarray(), data)


def test_a_pdf_of_no_known_resolution_has_a_pixel_to_the_point(tmp_path) -> None:
    data = np.zeros((30, 44, 3), np.uint8)
    write_picture(tmp_path / "a.pdf", bands(data), data.shape, OutputOptions("PDF", 8))
    with pikepdf.open(tmp_path / "a.pdf") as pdf:
        assert [float(v) for v in pdf.pages[0].mediabox] == pytest.approx([0, 0, 44, 30])
