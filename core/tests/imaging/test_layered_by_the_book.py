"""Layered documents put together byte by byte: header, resources, layers, the flattened picture."""

from __future__ import annotations

import struct
from pathlib import Path

import numpy as np
import pytest
from packbits import packed_row

from plinto_core.errors import BadImage, CoreError, NotSupported
from plinto_core.imaging import composite
from plinto_core.imaging.reader import open_picture

RNG = np.random.default_rng(6)
MODES = {"grey": (1, 1), "RGB": (3, 3), "CMYK": (4, 4)}


def resource(number: int, data: bytes) -> bytes:
    return b"8BIM" + struct.pack(">H", number) + bytes(2) + struct.pack(">I", len(data)) + data + b"\0" * (len(data) % 2)  # fmt: skip


def layered(
    planes: np.ndarray, mode: int, *, version: int = 1, rle: bool = False, resources: bytes = b"",
    layers: int | None = None, depth: int | None = None,
) -> bytes:  # fmt: skip
    """(channels, height, width) planes as a document; layers : the count that is stored, or no section."""
    channels, height, width = planes.shape
    depth = depth or planes.dtype.itemsize * 8
    head = b"8BPS" + struct.pack(">H6xHIIHH", version, channels, height, width, depth, mode)
    wide = ">Q" if version == 2 else ">I"
    inner = b"" if layers is None else struct.pack(">h", layers)
    if layers:
        box = struct.pack(">iiiiH", 0, 0, 0, 0, 0) + b"8BIMnorm" + bytes([255, 0, 0, 0])
        inner += box + struct.pack(">I", 12) + bytes(12)
    inner += bytes(len(inner) % 2)
    info = struct.pack(wide, len(inner)) + inner + bytes(4) if layers is not None else b""
    section = struct.pack(wide, len(info)) + info
    body = planes.astype(planes.dtype.newbyteorder(">"))
    if rle:
        rows = [packed_row(r.tobytes()) for plane in body for r in plane]
        counts = b"".join(struct.pack(">I" if version == 2 else ">H", len(r)) for r in rows)
        image = struct.pack(">H", 1) + counts + b"".join(rows)
    else:
        image = struct.pack(">H", 0) + body.tobytes()
    return head + bytes(4) + struct.pack(">I", len(resources)) + resources + section + image


def read(tmp_path: Path, data: bytes):
    (tmp_path / "a.psd").write_bytes(data)
    with open_picture(tmp_path / "a.psd") as opened:
        return opened.facts, np.concatenate(list(opened.bands()))


def refused(tmp_path: Path, data: bytes) -> str:
    with pytest.raises(CoreError) as error:
        read(tmp_path, data)
    assert isinstance(error.value, BadImage | NotSupported)
    return error.value.said.code.removeprefix("imaging.")


@pytest.mark.parametrize("version", [1, 2])
@pytest.mark.parametrize("rle", [False, True])
@pytest.mark.parametrize("bits", [8, 16])
@pytest.mark.parametrize("space", MODES)
def test_planes_become_pixels(tmp_path, space, bits, rle, version) -> None:
    mode, channels = MODES[space]
    planes = RNG.integers(0, 2**bits, (channels, 300, 7)).astype(f"u{bits // 8}")
    facts, found = read(tmp_path, layered(planes, mode, rle=rle, version=version))
    wanted = planes.transpose(1, 2, 0)
    top = 2**bits - 1
    assert np.array_equal(found, top - wanted if space == "CMYK" else wanted)
    assert (facts.format, facts.width, facts.height) == (("PSD", "PSB")[version - 1], 7, 300)
    assert (facts.channels, facts.bits, facts.alpha, facts.extra_channels) == (channels, bits, "none", ())  # fmt: skip


@pytest.mark.parametrize(
    ("count", "layers", "alpha", "extra"),
    [
        (3, None, "none", ()), (4, None, "none", ("channel 4",)), (4, -1, "straight", ()),
        (4, 1, "none", ("channel 4",)), (5, -1, "straight", ("channel 5",)),
    ],
)  # fmt: skip
def test_the_first_extra_channel_is_transparency_where_the_count_of_layers_is_negative(
    tmp_path, count, layers, alpha, extra
) -> None:
    planes = RNG.integers(0, 256, (count, 4, 5)).astype(np.uint8)
    facts, found = read(tmp_path, layered(planes, 3, layers=layers))
    assert (facts.alpha, facts.extra_channels) == (alpha, extra)
    colours = planes.transpose(1, 2, 0).astype(float)
    opacity = colours[..., 3:4] / 255 if alpha == "straight" else 1.0
    assert found == pytest.approx(colours[..., :3] * opacity + 255 * (1 - opacity), abs=0.51)


@pytest.mark.parametrize(("across", "down", "meant"), [(300, 150, (300, 150)), (72.5, 72.5, (72.5, 72.5)), (0, 0, None)])  # fmt: skip
def test_pixels_an_inch_are_fixed_point(tmp_path, across, down, meant) -> None:
    said = struct.pack(">IHHIHH", round(across * 65536), 1, 1, round(down * 65536), 1, 1)
    facts, _ = read(
        tmp_path, layered(np.zeros((1, 2, 2), np.uint8), 1, resources=resource(1005, said))
    )
    assert facts.resolution == meant


def test_a_profile_is_found_and_a_picture_without_its_composite_is_refused(tmp_path) -> None:
    planes = np.zeros((3, 2, 2), np.uint8)
    facts, _ = read(tmp_path, layered(planes, 3, resources=resource(1039, b"a profile!")))
    assert facts.profile == b"a profile!"
    words = struct.pack(">I", 1) + "x".encode("utf-16-be")
    for has, wanted in ((1, None), (0, "layered-not-flattened")):
        said = struct.pack(">IB", 1, has) + words + words + struct.pack(">I", 1)
        data = layered(planes, 3, resources=resource(1057, said))
        if wanted is None:
            read(tmp_path, data)
        else:
            assert refused(tmp_path, data) == wanted


@pytest.mark.parametrize("version", [1, 2])
@pytest.mark.parametrize("rle", [False, True])
def test_one_byte_short_is_said(tmp_path, rle, version) -> None:
    data = layered(RNG.integers(0, 256, (3, 6, 5)).astype(np.uint8), 3, rle=rle, version=version)
    read(tmp_path, data)
    code = "layered-pixels" if rle else "damaged-in"
    assert refused(tmp_path, data[:-1]) == code
    rows = 18 * (2 * version if rle else 5)
    held = 6 * 18 if rle else 0
    # Within the counts of rows, or within the first planes.
    assert refused(tmp_path, data[: len(data) - held - rows // 2]) == code


@pytest.mark.parametrize(
    ("changes", "code"),
    [
        ({"mode": 7}, "layered-mode"), ({"depth": 32}, "layered-mode"), ({"depth": 1}, "layered-mode"),
        ({"version": 3}, "layered-mode"), ({"mode": 4}, "layered-channels"),
    ],
)  # fmt: skip
def test_kinds_that_are_not_read(tmp_path, changes, code) -> None:
    given = {"mode": 3, **changes}
    planes = np.zeros((3, 2, 2), np.uint8)
    assert refused(tmp_path, layered(planes, given.pop("mode"), **given)) == code


def test_a_header_that_cannot_be(tmp_path, monkeypatch) -> None:
    data = layered(np.zeros((3, 2, 2), np.uint8), 3)
    assert refused(tmp_path, data[:25]) == "layered-header"
    assert refused(tmp_path, data[:12] + struct.pack(">H", 57) + data[14:]) == "layered-channels"
    assert refused(tmp_path, data[:14] + bytes(4) + data[18:]) == "no-pixels"
    assert refused(tmp_path, data[:14] + b"\0\xff\xff\xff" * 2 + data[22:]) == "pixels-many"
    monkeypatch.setattr(composite, "_MAX_FILE", len(data))
    read(tmp_path, data)
    assert refused(tmp_path, data + b"\0") == "layered-large"


def test_channels_are_called_as_the_document_says(tmp_path) -> None:
    def pascal(*names: str) -> bytes:
        return b"".join(bytes([len(n)]) + n.encode("ascii") for n in names)

    planes = np.zeros((5, 2, 2), np.uint8)
    for given, names in (
        (("Gold", "Varnish"), ("Gold", "Varnish")),
        (("Mask", "Gold", "V" * 70), ("Gold", "V" * 60)),
        (("Gold",), ("Gold", "channel 5")),
    ):
        data = layered(planes, 3, resources=resource(1006, pascal(*given)))
        assert read(tmp_path, data)[0].extra_channels == names
