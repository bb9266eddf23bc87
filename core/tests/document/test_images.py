"""How images, their masks and their spaces stand in a document."""

from __future__ import annotations

import io

import numpy as np
import pikepdf
import pytest
from pikepdf import Array, Dictionary, Name
from PIL import Image

from plinto_core.document.pdf.images import mask_image, packed
from plinto_core.document.pdf.spaces import read_space


@pytest.mark.parametrize(("quality", "halved"), [(80, True), (89, True), (90, False), (97, False)])
def test_fine_jpeg_keeps_every_pixel_of_its_colours(quality, halved) -> None:
    data, _ = packed(np.random.default_rng(1).integers(0, 256, (64, 64, 3), np.uint8), quality)
    with Image.open(io.BytesIO(data)) as opened:
        assert (opened.layer[0][1] == 2) is halved


def test_a_mask_says_what_its_bytes_are(paper) -> None:
    shown = np.array([[0, 64, 255]], np.uint8)
    image = pikepdf.PdfImage(mask_image(paper.pdf, shown))
    assert image.bits_per_component == 8
    assert np.array_equal(np.asarray(image.as_pil_image()), shown)


def test_lab_without_a_range_goes_from_minus_100_to_100() -> None:
    space = read_space(Array([Name.Lab, Dictionary(WhitePoint=[0.9642, 1, 0.8249])]))
    assert space.default_decode(8) == [0, 100, -100, 100, -100, 100]
    narrow = Array([Name.Lab, Dictionary(WhitePoint=[0.9642, 1, 0.8249], Range=[-60, 50, -40, 30])])
    assert read_space(narrow).default_decode(8) == [0, 100, -60, 50, -40, 30]


@pytest.mark.parametrize(("inks", "said"), [(4, []), (5, ["document.image-spots"])])
def test_images_of_up_to_four_spot_colours_are_converted(paper, converted, inks, said) -> None:
    names = [Name(f"/Spot{i}") for i in range(inks)]
    tint = pikepdf.Stream(
        paper.pdf, b"{ " + b"pop " * (inks - 1) + b"dup dup 0 }", FunctionType=4,
        Domain=[0, 1] * inks, Range=[0, 1] * 4,
    )  # fmt: skip
    space = Array([Name.DeviceN, Array(names), Name.DeviceCMYK, paper.pdf.make_indirect(tint)])
    pixels = np.random.default_rng(1).integers(0, 256, (6, 5, inks), np.uint8)
    paper.put("/XObject", "/Im", paper.image(pixels, space))
    report, pdf = converted(paper, "q 9 0 0 9 0 0 cm /Im Do Q", rules=[{"action": "convert"}])
    assert [n.reason.code for n in report.not_handled] == said
    made = pdf.pages[0].Resources.XObject.Im
    assert (str(made.ColorSpace) == "/DeviceCMYK") is (not said)
    if said:
        assert made.read_bytes() == pixels.tobytes()
