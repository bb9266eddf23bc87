"""TIFF pictures of other inks than four, written here and read by others."""

from __future__ import annotations

import numpy as np
import pytest
import pyvips
import tifffile

from plinto_core.errors import BadRecipe
from plinto_core.imaging.ink_tiff import names_of
from plinto_core.imaging.writer import OutputOptions, write_picture

NAMES = ("C", "M", "Y", "K", "Orange", "Green", "Violet", "Light cyan")


@pytest.mark.parametrize("count", [2, 3, 5, 6, 7, 8])
@pytest.mark.parametrize(("bits", "tiles"), [(8, False), (16, True)])
def test_two_libraries_read_every_ink(tmp_path, count, bits, tiles) -> None:
    top = (1 << bits) - 1
    pixels = np.random.default_rng(count).integers(0, top, (130, 70, count))
    pixels = pixels.astype(np.uint8 if bits == 8 else np.uint16)
    path = tmp_path / "inks.tif"
    options = OutputOptions("TIFF", bits, resolution=(300, 300), tiles=tiles, inks=NAMES[:count])
    write_picture(path, iter([pixels[:100], pixels[100:]]), pixels.shape, options)
    with tifffile.TiffFile(path) as tiff:
        page = tiff.pages[0]
        assert (tiff.asarray() == pixels).all()
        assert page.photometric == 5
        assert page.extrasamples == ()
        assert page.tags.valueof(332) == 2
        assert page.tags.valueof(334) == count
        assert page.tags.valueof(336) == (0, top)
        assert page.tags.valueof(333).startswith("Cyan\0Magenta")
        assert names_of(page) == NAMES[:count]
    assert (pyvips.Image.new_from_file(str(path)).numpy() == pixels).all()


def test_cmyk_is_written_as_before(tmp_path) -> None:
    pixels = np.random.default_rng(1).integers(0, 255, (20, 20, 4)).astype(np.uint8)
    files = []
    for inks in ((), NAMES[:4]):
        path = tmp_path / f"{len(inks)}.tif"
        write_picture(path, iter([pixels]), pixels.shape, OutputOptions("TIFF", 8, inks=inks))
        files.append(path.read_bytes())
    assert files[0] == files[1]


@pytest.mark.parametrize("output", ["PNG", "JPEG", "PDF"])
def test_other_formats_refuse_them_with_a_way_out(tmp_path, output) -> None:
    pixels = np.zeros((4, 4, 3), np.uint8)
    with pytest.raises(BadRecipe, match="Choose TIFF"):
        write_picture(
            tmp_path / "x",
            iter([pixels]),
            pixels.shape,
            OutputOptions(output, 8, inks=("C", "M", "Brick")),
        )
    assert list(tmp_path.iterdir()) == []
