"""Pages, previews, layered documents, and what is noticed when a picture comes in."""

from __future__ import annotations

from types import SimpleNamespace

import numpy as np
import pytest
import tifffile
from PIL import Image
from psd_tools import PSDImage
from psd_tools.constants import Resource
from psd_tools.psd.image_resources import ImageResource, ResoulutionInfo, VersionInfo

from plinto_core.errors import BadImage, CoreError, NotSupported
from plinto_core.icc import Profile
from plinto_core.imaging import open_picture
from plinto_core.imaging.arrival import Arrival, ArrivalCheck
from plinto_core.imaging.composite import _extra_channels
from plinto_core.imaging.facts import PictureFacts
from plinto_core.recipes.arrivals import arrival_findings
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


@pytest.mark.parametrize("flattened", [True, False])
def test_layers_without_a_composite_are_refused(tmp_path, flattened) -> None:
    document = PSDImage.frompil(Image.fromarray(RGB, "RGB"))
    document._record.image_resources[Resource.VERSION_INFO] = ImageResource(
        key=Resource.VERSION_INFO, data=VersionInfo(has_composite=flattened)
    )
    document.save(tmp_path / "a.psd")
    if flattened:
        with open_picture(tmp_path / "a.psd") as picture:
            assert np.array_equal(picture.read(), RGB)
    else:
        with pytest.raises(NotSupported):
            open_picture(tmp_path / "a.psd")


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


@pytest.mark.parametrize(
    ("names", "extra"),
    [
        (None, ("channel 4", "channel 5")),
        (["Varnish"], ("Varnish", "channel 5")),
        (["Alpha", "White", "Varnish"], ("White", "Varnish")),
        (["  ", "White"], ("White", "channel 5")),
    ],
)
def test_channels_beside_the_colours_of_a_layered_document(names, extra) -> None:
    header = SimpleNamespace(channels=5)
    layers = SimpleNamespace(layer_info=SimpleNamespace(layer_count=1))
    document = SimpleNamespace(header=header, layer_and_mask_information=layers)
    resources = {} if names is None else {1006: SimpleNamespace(data=names)}
    assert _extra_channels(document, 3, resources) == extra
    # A negative count of layers says that the first one is the composite's transparency.
    layers.layer_info.layer_count = -1
    assert len(_extra_channels(document, 3, resources)) == 1
    header.channels = 4
    assert _extra_channels(document, 3, resources) == ()


def test_the_share_that_clips_is_the_worse_end_s() -> None:
    facts = PictureFacts(format="TIFF", width=10, height=10, channels=3, bits=8)
    for top, bottom in (((0.1, 0, 0), (0, 0.25, 0)), ((0.25, 0, 0), (0, 0.1, 0))):
        arrival = Arrival(at_top=top, at_bottom=bottom, transparent=0, eight_bit=False)
        (found,) = [f for f in arrival_findings(facts, arrival, None) if f.code == "clipped"]
        assert found.text.values["share"] == pytest.approx(25)


@pytest.mark.parametrize(("kind", "found"), [("prtr", True), ("mntr", False), ("spac", False)])
def test_artwork_in_the_space_of_a_printer_is_spoken_of(tmp_path, kind, found) -> None:
    data = bytearray(standard_profile("srgb").data)
    data[12:16] = kind.encode()
    tifffile.imwrite(tmp_path / "a.tif", RGB, photometric="rgb")
    check = checked(tmp_path / "a.tif")
    findings = arrival_findings(check.facts, check.result, Profile(bytes(data)))
    assert ("output-profile" in {f.code for f in findings}) is found
