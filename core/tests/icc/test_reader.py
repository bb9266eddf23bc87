"""Numbers are read where they stand and nowhere else, and standard spaces are what is published."""

from __future__ import annotations

import struct

import numpy as np
import pytest

from plinto_core.errors import BadProfile
from plinto_core.icc import check_profile, reader
from plinto_core.icc.values import parse_sf32, parse_xyz
from plinto_core.transform.sides import device_to_xyz
from plinto_core.transform.standard_spaces import SPACES, rgb_matrix, standard_profile

DATA = bytes(range(1, 13))


@pytest.mark.parametrize(
    ("read", "size", "wanted"),
    [
        (reader.u8, 1, 0x0C), (reader.u16, 2, 0x0B0C), (reader.u32, 4, 0x090A0B0C),
        (lambda d, o: reader.s15fixed16(d, o, 1)[0], 4, 0x090A0B0C / 65536), (lambda d, o: reader.u16_array(d, o, 1)[0], 2, 0x0B0C / 65535),
        (lambda d, o: reader.u8_array(d, o, 1)[0], 1, 12 / 255), (lambda d, o: reader.f32(d, o, 1)[0], 4, struct.unpack(">f", DATA[8:])[0]),
        (reader.signature, 4, "\t\n\x0b\x0c"),
    ],
)  # fmt: skip
def test_the_last_number_is_read_and_none_behind_it(read, size, wanted) -> None:
    assert read(DATA, 12 - size) == wanted
    for at in (13 - size, 12, -1, 10**12):
        with pytest.raises(BadProfile):
            read(DATA, at)


def test_negative_sizes_and_numbers_that_are_none() -> None:
    with pytest.raises(BadProfile):
        reader.need(DATA, 4, -1, "a test")
    reader.need(DATA, 12, 0, "a test")
    for value in (float("nan"), float("inf")):
        with pytest.raises(BadProfile):
            reader.f32(struct.pack(">f", value), 0, 1)
    assert reader.s15fixed16(struct.pack(">i", -98304), 0, 1)[0] == -1.5
    assert reader.ascii_text(b" a b \0rest") == "a b"


def test_values_of_another_type_or_none_are_refused() -> None:
    numbers = struct.pack(">3i", 65536, 32768, -65536)
    assert parse_xyz(b"XYZ " + bytes(4) + numbers).tolist() == [[1, 0.5, -1]]
    assert parse_sf32(b"sf32" + bytes(4) + numbers).tolist() == [1, 0.5, -1]
    for read, data in (
        (parse_xyz, b"sf32" + bytes(4) + numbers),
        (parse_sf32, b"XYZ " + bytes(4) + numbers),
        (parse_xyz, b"XYZ " + bytes(4) + numbers[:8]),
    ):
        with pytest.raises(BadProfile):
            read(data)


@pytest.mark.parametrize(
    ("key", "wanted"),
    [
        # Columns of published matrices under D50: IEC 61966-2-1 and ISO 22028-2; others from their chromaticities.
        ("srgb", [[0.4361, 0.3851, 0.1431], [0.2225, 0.7169, 0.0606], [0.0139, 0.0971, 0.7141]]),
        ("romm", [[0.7977, 0.1352, 0.0313], [0.2880, 0.7119, 0.0001], [0.0, 0.0, 0.8249]]),
        ("oprgb", [[0.6097, 0.2053, 0.1492], [0.3111, 0.6257, 0.0632], [0.0195, 0.0609, 0.7446]]),
        ("p3", [[0.5151, 0.2920, 0.1571], [0.2412, 0.6922, 0.0666], [-0.0011, 0.0419, 0.7841]]),
    ],
)
def test_primaries_under_d50(key, wanted) -> None:
    assert rgb_matrix(SPACES[key]) == pytest.approx(np.array(wanted), abs=2.5e-4)
    profile = standard_profile(key)
    assert check_profile(profile.data) == []
    assert (profile.header.version, profile.header.device_class, profile.header.pcs) == (
        (2, 4, 0),
        "mntr",
        "XYZ ",
    )
    assert device_to_xyz(profile, np.ones((1, 3)), 1)[0] == pytest.approx(
        [0.9642, 1, 0.8249], abs=1e-4
    )
    assert (
        pytest.approx(rgb_matrix(SPACES[key]), abs=1e-4) == device_to_xyz(profile, np.eye(3), 1).T
    )


@pytest.mark.parametrize(
    ("key", "value", "light"),
    [
        ("srgb", 0.5, ((0.5 + 0.055) / 1.055) ** 2.4), ("srgb", 0.04, 0.04 / 12.92), ("srgb", 0.05, ((0.05 + 0.055) / 1.055) ** 2.4),
        ("oprgb", 0.5, 0.5 ** (563 / 256)), ("romm", 0.5, 0.5**1.8), ("romm", 0.03, 0.03 / 16), ("p3", 0.5, ((0.5 + 0.055) / 1.055) ** 2.4),
        ("grey", 0.5, 0.5 ** (563 / 256)),
    ],
)  # fmt: skip
def test_transfer_functions_as_published(key, value, light) -> None:
    profile = standard_profile(key)
    channels = profile.channels
    y = device_to_xyz(profile, np.full((1, channels), value), 1)[0, 1]
    assert y == pytest.approx(light, rel=2e-3)
