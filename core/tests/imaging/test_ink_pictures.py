"""Pictures of other inks than four, written here and read by others."""

from __future__ import annotations

import zlib

import numpy as np
import pikepdf
import pypdfium2
import pytest
import pyvips
import tifffile

from plinto_core.errors import BadRecipe
from plinto_core.icc.colorants import ink_names, long_name
from plinto_core.imaging.ink_tiff import names_of
from plinto_core.imaging.writer import OutputOptions, write_picture
from plinto_core.transform.chain import convert
from plinto_core.transform.standard_spaces import standard_profile

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


@pytest.mark.parametrize("output", ["PNG", "JPEG"])
def test_other_formats_refuse_them_with_a_way_out(tmp_path, output) -> None:
    pixels = np.zeros((4, 4, 3), np.uint8)
    with pytest.raises(BadRecipe, match="Choose TIFF or PDF"):
        write_picture(
            tmp_path / "x",
            iter([pixels]),
            pixels.shape,
            OutputOptions(output, 8, inks=("C", "M", "Brick")),
        )
    assert list(tmp_path.iterdir()) == []


def test_a_pdf_names_every_ink_and_looks_as_the_profile_says(tmp_path, seven) -> None:
    names = ink_names(seven)
    solids = np.eye(7, dtype=np.uint8) * 255
    pixels = np.repeat(np.repeat(solids[None], 20, axis=0), 20, axis=1)
    path = tmp_path / "inks.pdf"
    options = OutputOptions("PDF", 8, seven.data, (72, 72), inks=names)
    write_picture(path, iter([pixels]), pixels.shape, options)
    with pikepdf.open(path) as pdf:
        image = pdf.pages[0].Resources.XObject.Picture
        space = image.ColorSpace
        assert space[0] == "/DeviceN"
        assert [str(n) for n in space[1]] == [f"/{long_name(n)}" for n in names]
        assert space[4].Subtype == "/NChannel"
        assert sorted(space[4].Colorants.keys()) == ["/Green", "/Orange", "/Violet"]
        assert "/OutputIntents" not in pdf.Root
        raw = zlib.decompress(image.read_raw_bytes())
        rows = np.frombuffer(raw, np.uint8).reshape(pixels.shape)
        assert (np.cumsum(rows, axis=1, dtype=np.uint8) == pixels).all()
    shown = np.asarray(pypdfium2.PdfDocument(path)[0].render(scale=1).to_pil().convert("RGB"))
    found = shown[10, 10::20].astype(float) / 255
    screen = standard_profile("srgb")
    wanted = convert(seven, screen, np.eye(7), intent="relative", bpc=False)
    # Violet lies outside sRGB, and the viewer clips in a way of its own.
    assert np.abs(found - wanted).max() < 0.2
    assert np.abs(found - wanted)[:6].max() < 0.07


def test_a_pdf_without_its_profile_is_refused(tmp_path) -> None:
    pixels = np.zeros((4, 4, 3), np.uint8)
    options = OutputOptions("PDF", 8, inks=("C", "M", "Brick"))
    with pytest.raises(BadRecipe, match="Embed the profile"):
        write_picture(tmp_path / "x.pdf", iter([pixels]), pixels.shape, options)
    assert list(tmp_path.iterdir()) == []
