"""Pages, previews, layered documents, and what is noticed when a picture comes in."""

from __future__ import annotations

import numpy as np
import pytest
import tifffile
from PIL import Image
from psd_tools import PSDImage
from psd_tools.constants import Resource
from psd_tools.psd.image_resources import ImageResource, ResoulutionInfo

from plinto_core.errors import BadImage, CoreError
from plinto_core.imaging import open_picture
from plinto_core.imaging.arrival import ArrivalCheck
from plinto_core.transform.standard_spaces import standard_profile

RGB = (np.random.default_rng(3).random((40, 50, 3)) * 255).astype(np.uint8)


def layered(path, pixels: np.ndarray, mode: str) -> None:
    document = PSDImage.frompil(Image.fromarray(pixels, mode))
    resources = document._record.image_resources
    resources[Resource.ICC_PROFILE] = ImageResource(
        key=Resource.ICC_PROFILE, data=standard_profile("oprgb").data
    )
    resources[Resource.RESOLUTION_INFO] = ImageResource(
        key=Resource.RESOLUTION_INFO, data=ResoulutionInfo(150 << 16, 1, 1, 150 << 16, 1, 1)
    )
    document.save(path)


def test_the_composite_of_a_layered_document(tmp_path) -> None:
    layered(tmp_path / "a.psd", RGB, "RGB")
    with open_picture(tmp_path / "a.psd") as picture:
        assert np.array_equal(picture.read(), RGB)
        assert picture.facts.format == "PSD"
        assert picture.facts.resolution == (150, 150)
        assert picture.facts.profile == standard_profile("oprgb").data


def test_inks_of_a_layered_document_agree_with_pillow(tmp_path) -> None:
    cmyk = np.dstack([RGB, RGB[..., :1]])
    PSDImage.frompil(Image.fromarray(cmyk, "CMYK")).save(tmp_path / "a.psd")
    with open_picture(tmp_path / "a.psd") as picture, Image.open(tmp_path / "a.psd") as other:
        assert np.array_equal(picture.read(), np.asarray(other))


@pytest.mark.parametrize("keep", [3, 20, 30, 200, 3000])
def test_cut_layered_documents_are_refused(tmp_path, keep) -> None:
    layered(tmp_path / "a.psd", RGB, "RGB")
    data = (tmp_path / "a.psd").read_bytes()
    (tmp_path / "b.psd").write_bytes(data[:keep])
    with pytest.raises(CoreError), open_picture(tmp_path / "b.psd") as picture:
        picture.read()


def test_a_huge_layered_document_is_refused_before_it_is_parsed(tmp_path) -> None:
    layered(tmp_path / "a.psd", RGB, "RGB")
    data = bytearray((tmp_path / "a.psd").read_bytes())
    data[14:22] = (200_000).to_bytes(4, "big") * 2
    (tmp_path / "b.psd").write_bytes(data)
    with pytest.raises(BadImage, match="200000 × 200000"):
        open_picture(tmp_path / "b.psd")


def test_pages_are_chosen_and_previews_are_no_pages(tmp_path) -> None:
    path = tmp_path / "pages.tif"
    with tifffile.TiffWriter(path) as tiff:
        tiff.write(RGB, photometric="rgb")
        tiff.write(RGB[::4, ::4], photometric="rgb", subfiletype=1)
        tiff.write(RGB[::-1], photometric="rgb")
    with open_picture(path, page=1) as picture:
        assert picture.facts.pages == 2
        assert np.array_equal(picture.read(), RGB[::-1])
    with pytest.raises(BadImage, match="2 pages"):
        open_picture(path, page=2)


def checked(path) -> ArrivalCheck:
    with open_picture(path) as picture:
        check = ArrivalCheck(picture.facts)
        for _ in picture.checked_bands(check):
            pass
    return check


def test_clipped_channels_are_named_but_not_plain_white(tmp_path) -> None:
    pixels = np.full((50, 50, 3), 120, np.uint8)
    pixels[:5] = 255  # plain white: meant
    pixels[5:8, :, 0] = 255  # red alone at its end: clipped
    Image.fromarray(pixels).save(tmp_path / "a.png")
    found = checked(tmp_path / "a.png").result
    assert found.at_top == pytest.approx((0.06, 0, 0))
    assert found.clipped(("R", "G", "B")) == ["R"]


def test_transparency_is_measured_before_it_is_flattened(tmp_path) -> None:
    pixels = np.full((10, 10, 4), 200, np.uint8)
    pixels[:3, :, 3] = 0
    pixels[3:, :, 3] = 255
    Image.fromarray(pixels).save(tmp_path / "a.png")
    assert checked(tmp_path / "a.png").result.transparent == pytest.approx(0.3)


@pytest.mark.parametrize(("step", "eight"), [(257, True), (1, False)])
def test_sixteen_bits_that_are_eight_are_noticed(tmp_path, step, eight) -> None:
    data = (np.arange(100 * 3).reshape(10, 10, 3) % 256 * step).astype(np.uint16)
    tifffile.imwrite(tmp_path / "a.tif", data, photometric="rgb")
    assert checked(tmp_path / "a.tif").result.eight_bit is eight
