"""Links, abstract profiles and lists of named colours as steps of a path."""

from __future__ import annotations

import struct

import imagecodecs
import numpy as np
import pytest
from handmade import STRAIGHT

from plinto_core.colorimetry.cielab import XYZ_to_Lab
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.errors import BadInput, BadProfile
from plinto_core.icc import Profile, values
from plinto_core.icc.header import IccHeader
from plinto_core.icc.tables import Table, pack_mft2
from plinto_core.icc.write import write_profile
from plinto_core.transform import convert
from plinto_core.transform.direct import colour_names, named_lab, run_abstract, run_link
from plinto_core.transform.encoding import lab_to_unit, unit_to_lab
from plinto_core.transform.path import LAB, PathStep, follow_path
from plinto_core.transform.standard_spaces import standard_profile


def direct_profile(kind: str, space: str, pcs: str, clut: np.ndarray, name: str) -> Profile:
    inputs, outputs = clut.ndim - 1, clut.shape[-1]
    table = Table(
        "mft2", inputs, outputs, (STRAIGHT,) * inputs, clut, (), None, (STRAIGHT,) * outputs
    )
    header = IccHeader(
        size=0,
        version=(2, 4, 0),
        device_class=kind,
        colour_space=space,
        pcs=pcs,
        rendering_intent=0,
    )
    tags = {
        "desc": values.pack_desc(name), "cprt": values.pack_text("none"),
        "wtpt": values.pack_xyz(np.array([0.9642, 1.0, 0.8249])), "A2B0": pack_mft2(table),
    }  # fmt: skip
    return Profile(write_profile(header, tags))


@pytest.fixture(scope="module")
def rgb_to_cmyk(coated) -> Profile:
    axis = np.linspace(0, 1, 17)
    rgb = np.stack(np.meshgrid(axis, axis, axis, indexing="ij"), -1).reshape(-1, 3)
    inks = convert(standard_profile("srgb"), coated, rgb, intent="perceptual")
    return direct_profile("link", "RGB ", "CMYK", inks.reshape(17, 17, 17, 4), "sRGB to press")


@pytest.fixture(scope="module")
def warmer() -> Profile:
    axis = np.linspace(0, 1, 17)
    unit = np.stack(np.meshgrid(axis, axis, axis, indexing="ij"), -1).reshape(-1, 3)
    lab = unit_to_lab(unit, legacy=True)
    lab[:, 0] = 100 * (np.clip(lab[:, 0], 0, 100) / 100) ** 1.2
    lab[:, 2] += 0.1 * lab[:, 0]
    unit = np.clip(lab_to_unit(lab, legacy=True), 0, 1).reshape(17, 17, 17, 3)
    return direct_profile("abst", "Lab ", "Lab ", unit, "Warmer")


def named_profile() -> Profile:
    lab = np.array([[50.0, 60, 30], [80, -20, 40]])
    body = b"ncl2" + bytes(4) + struct.pack(">III", 0, 2, 0)
    body += b"Plinto ".ljust(32, b"\0") + bytes(32)
    for name, row in zip(("brick", "lime"), lab, strict=True):
        codes = np.round(lab_to_unit(row[None], legacy=True)[0] * 65535).astype(">u2").tobytes()
        body += name.encode().ljust(32, b"\0") + codes
    header = IccHeader(
        size=0,
        version=(4, 4, 0),
        device_class="nmcl",
        colour_space="RGB ",
        pcs="Lab ",
        rendering_intent=0,
    )
    tags = {"desc": values.pack_mluc("Names"), "cprt": values.pack_mluc("none"), "ncl2": body}
    return Profile(write_profile(header, tags))


def test_a_link_gives_what_its_grid_holds_and_the_profile_after_it_reads(
    rgb_to_cmyk, coated
) -> None:
    rgb = np.random.default_rng(1).random((200, 3)) * 255
    inks, lab = follow_path([PathStep(rgb_to_cmyk), PathStep(coated), PathStep(LAB)], rgb)[1:]
    exact = convert(standard_profile("srgb"), coated, rgb / 255, intent="perceptual") * 100
    assert np.abs(inks - exact).mean() < 1.0
    direct = follow_path(
        [PathStep(standard_profile("srgb")), PathStep(coated, "perceptual"), PathStep(LAB)], rgb
    )[2]
    assert delta_e_2000(lab, direct).mean() < 0.5
    alone = follow_path([PathStep(rgb_to_cmyk)], rgb)
    assert alone[0] == pytest.approx(inks)
    named = follow_path([PathStep(standard_profile("srgb")), PathStep(rgb_to_cmyk)], rgb)
    assert named[1] == pytest.approx(inks)


def test_a_link_is_what_little_cms_makes_of_it(rgb_to_cmyk, coated) -> None:
    rgb = np.random.default_rng(2).random((500, 3))
    flags = int(imagecodecs.CMS.FLAGS.NOOPTIMIZE) | int(imagecodecs.CMS.FLAGS.NOCACHE)
    theirs = imagecodecs.cms_transform(
        rgb.astype(np.float32)[None], rgb_to_cmyk.data, coated.data, colorspace="rgb",
        outcolorspace="lab", outdtype=np.float32, intent=1, flags=flags,
    )  # fmt: skip
    ours = follow_path([PathStep(rgb_to_cmyk), PathStep(coated), PathStep(LAB)], rgb * 255)[2]
    assert np.percentile(delta_e_2000(ours, np.asarray(theirs, float)[0]), 99) < 0.05


def test_an_abstract_profile_is_what_little_cms_makes_of_it(warmer) -> None:
    rgb = np.random.default_rng(3).random((500, 3))
    srgb = standard_profile("srgb")
    flags = int(imagecodecs.CMS.FLAGS.NOOPTIMIZE) | int(imagecodecs.CMS.FLAGS.NOCACHE)
    theirs = imagecodecs.cms_transform(
        rgb.astype(np.float32)[None], srgb.data, warmer.data, colorspace="rgb",
        outcolorspace="lab", outdtype=np.float32, intent=1, flags=flags,
    )  # fmt: skip
    ours = follow_path([PathStep(srgb), PathStep(warmer)], rgb * 255)[1]
    assert np.percentile(delta_e_2000(ours, np.asarray(theirs, float)[0]), 99) < 0.05


def test_an_abstract_profile_moves_colours_between_two_devices(warmer, coated) -> None:
    srgb = standard_profile("srgb")
    grey = np.array([[128.0, 128, 128]])
    plain = follow_path([PathStep(srgb), PathStep(LAB), PathStep(coated), PathStep(LAB)], grey)[-1]
    traced = follow_path([PathStep(srgb), PathStep(warmer), PathStep(coated), PathStep(LAB)], grey)
    assert plain[0, 2] == pytest.approx(0, abs=0.3)
    # L* 53.6 darker by the power, and b* up by a tenth of what it became.
    assert traced[1][0] == pytest.approx([100 * 0.536**1.2, 0, 10 * 0.536**1.2], abs=0.3)
    assert traced[-1][0] == pytest.approx(traced[1][0], abs=0.7)
    alone = follow_path([PathStep(warmer)], np.array([[53.6, 0, 0]]))[0]
    assert alone == pytest.approx(traced[1], abs=0.1)


def test_names_begin_a_path(coated) -> None:
    names = named_profile()
    assert colour_names(names) == ("Plinto brick", "Plinto lime")
    assert named_lab(names) == pytest.approx(np.array([[50.0, 60, 30], [80, -20, 40]]), abs=0.01)
    lab, inks = follow_path([PathStep(names), PathStep(coated)], np.array([[1.0], [0]]))
    assert lab[0] == pytest.approx([80, -20, 40], abs=0.01)
    assert inks[1, 1] > 60  # magenta makes the red


@pytest.mark.parametrize(
    ("steps", "word"),
    [
        (("link", "lab"), "gives CMYK"), (("link", "srgb"), "gives CMYK"), (("lab", "link"), "takes RGB"),
        (("coated", "link"), "takes RGB"), (("srgb", "names"), "cannot stand inside"),
        (("link", "abst"), "gives CMYK"),
    ],
)  # fmt: skip
def test_steps_that_do_not_fit_are_named(steps, word, rgb_to_cmyk, warmer, coated) -> None:
    known = {
        "link": rgb_to_cmyk, "lab": LAB, "srgb": standard_profile("srgb"), "coated": coated,
        "abst": warmer, "names": named_profile(),
    }  # fmt: skip
    path = [PathStep(known[s]) for s in steps]
    with pytest.raises(BadInput, match=word) as caught:
        follow_path(path, np.zeros((1, len(path[0].columns_in))))
    assert caught.value.remedy


def test_bpc_and_absolute_lead_through_an_abstract_profile_as_through_lab(coated) -> None:
    axis = np.linspace(0, 1, 2)
    same = np.stack(np.meshgrid(axis, axis, axis, indexing="ij"), -1)
    nothing = direct_profile("abst", "Lab ", "Lab ", same, "Nothing")
    colours = np.array([[20.0, 40, 200], [0, 0, 0], [250, 250, 250]])
    for intent, bpc in (("relative", True), ("relative", False), ("absolute", False)):
        paths = [
            follow_path(
                [PathStep(standard_profile("srgb")), PathStep(middle, intent, bpc), PathStep(coated, intent, bpc)],
                colours,
            )[-1]
            for middle in (LAB, nothing)
        ]  # fmt: skip
        assert paths[1] == pytest.approx(paths[0], abs=0.3)


def test_a_broken_link_is_refused(rgb_to_cmyk) -> None:
    wrong = bytearray(rgb_to_cmyk.data)
    wrong[20:24] = b"RGB "
    with pytest.raises(BadProfile, match="does not fit"):
        run_link(Profile(bytes(wrong)), np.zeros((1, 3)))
    with pytest.raises(BadProfile):
        run_abstract(Profile(bytes(wrong)), np.zeros((1, 3)))


def test_white_stays_white_in_xyz_lists() -> None:
    assert XYZ_to_Lab(np.array([0.9642, 1.0, 0.8249])) == pytest.approx([100, 0, 0], abs=0.02)


def _of_channels(channels: int) -> bytes:
    body = b"ncl2" + bytes(4) + struct.pack(">III", 0, 1, channels) + bytes(64)
    return body + b"brick".ljust(32, b"\0") + bytes(6) + bytes(2 * channels)


def test_names_have_fifteen_device_values_at_most() -> None:
    found = values.parse_named(_of_channels(15))
    assert found.names == ("brick",) or list(found.names) == ["brick"]
    with pytest.raises(BadProfile):
        values.parse_named(b"ncol" + _of_channels(3)[4:])
    with pytest.raises(BadProfile):
        values.parse_named(_of_channels(16))
