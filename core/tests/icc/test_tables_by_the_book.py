"""Tables and dictionaries of a profile, entry by entry, and what contradicts itself (ICC.1:2022, 10.9 to 10.13)."""

from __future__ import annotations

import struct

import numpy as np
import pytest
from handmade import linear_press

from plinto_core.errors import BadProfile
from plinto_core.icc.curves import SampledCurve
from plinto_core.icc.metadata import pack_dictionary, pack_sequence, parse_dictionary
from plinto_core.icc.tables import Table, pack_mab, pack_mft2, parse_mab, parse_mft

RNG = np.random.default_rng(6)


def curve(*points: float) -> SampledCurve:
    return SampledCurve(np.array(points))


STRAIGHT = curve(0, 1)


def refused(code: str, parse, data: bytes) -> None:
    with pytest.raises(BadProfile) as error:
        parse(data)
    assert error.value.said.code == f"icc.{code}"


def mft2(
    inputs: int = 3, outputs: int = 4, grid: int = 3, entries: tuple[int, int] = (2, 3)
) -> bytes:
    clut = RNG.random((grid,) * inputs + (outputs,))
    before = tuple(curve(*np.linspace(0, 1, entries[0])) for _ in range(inputs))
    after = tuple(curve(*np.linspace(0, 1, entries[1]) ** 2) for _ in range(outputs))
    return pack_mft2(Table("mft2", inputs, outputs, before, clut, (), None, after))


def test_sixteen_bit_tables_stand_where_the_standard_puts_them() -> None:
    data = mft2()
    made = parse_mft(data)
    assert (made.inputs, made.outputs, made.kind) == (3, 4, "mft2")
    assert struct.unpack_from(">HH", data, 48) == (2, 3)
    assert made.clut is not None
    first = struct.unpack_from(">4H", data, 52 + 3 * 2 * 2)
    assert made.clut[0, 0, 0] * 65535 == pytest.approx(first)
    # The last channel varies fastest, then the last input.
    second = struct.unpack_from(">4H", data, 52 + 3 * 2 * 2 + 8)
    assert made.clut[0, 0, 1] * 65535 == pytest.approx(second)
    assert made.after[0](np.array([0.5])) == pytest.approx(0.25, abs=1e-4)
    assert made.matrix is None
    with pytest.raises(ValueError, match="grid"):
        pack_mft2(Table("mft2", 3, 3, (STRAIGHT,) * 3, None, (), None, (STRAIGHT,) * 3))


def test_eight_bit_tables_have_curves_of_256() -> None:
    head = (
        b"mft1"
        + bytes(4)
        + bytes([3, 1, 2, 0])
        + np.round(np.eye(3) * 65536).astype(">i4").tobytes()
    )
    before = np.tile(np.arange(256, dtype=np.uint8), 3).tobytes()
    clut = np.arange(8, dtype=np.uint8).tobytes()
    after = (255 - np.arange(256, dtype=np.uint8)).tobytes()
    made = parse_mft(head + before + clut + after)
    assert made.clut is not None
    assert (made.clut.reshape(-1) * 255).tolist() == pytest.approx(list(range(8)))
    assert made.after[0](np.array([0.0, 1.0])).tolist() == [1, 0]


def test_a_matrix_is_for_three_inputs_and_other_than_one() -> None:
    data = bytearray(mft2())
    data[12:16] = struct.pack(">i", 32768)
    made = parse_mft(bytes(data))
    assert made.matrix is not None
    assert made.matrix.tolist() == [[0.5, 0, 0, 0], [0, 1, 0, 0], [0, 0, 1, 0]]
    four = bytearray(mft2(inputs=4, grid=2))
    four[12:16] = struct.pack(">i", 32768)
    assert parse_mft(bytes(four)).matrix is None


@pytest.mark.parametrize(
    ("entries", "usable"),
    [
        ((2, 2), True),
        ((4096, 4096), True),
        ((1, 2), False),
        ((2, 1), False),
        ((4097, 2), False),
        ((2, 4097), False),
    ],
)
def test_curves_have_2_to_4096_entries(entries, usable) -> None:
    data = bytearray(mft2(entries=(2, 2)))
    if usable:
        assert parse_mft(mft2(entries=entries)).before[0].table.size == entries[0]
        return
    struct.pack_into(">HH", data, 48, *entries)
    refused("table-curves", parse_mft, bytes(data))


@pytest.mark.parametrize("kind", ["mAB", "mBA"])
def test_tables_of_elements_come_back_with_each_in_its_place(kind) -> None:
    inputs, outputs = (4, 3) if kind == "mAB" else (3, 4)
    clut = RNG.random((*(2, 3, 4, 5)[:inputs], outputs))
    before = tuple(curve(0, 0.2 + 0.1 * i, 1) for i in range(inputs))
    after = tuple(curve(0, 0.6 + 0.1 * i, 1) for i in range(outputs))
    middle = tuple(curve(0, 0.3 + 0.1 * i, 1) for i in range(3))
    matrix = np.array([[0.5, 0, 0.25, 0.125], [0, 1, 0, 0], [0, 0.5, 1, -0.25]])
    made = parse_mab(pack_mab(Table(kind, inputs, outputs, before, clut, middle, matrix, after)))
    assert made.clut is not None
    assert made.matrix is not None
    assert made.clut == pytest.approx(clut, abs=1e-5)
    assert made.matrix.tolist() == matrix.tolist()
    for found, wanted in ((made.before, before), (made.middle, middle), (made.after, after)):
        assert [c(np.array([0.5]))[0] for c in found] == pytest.approx(
            [c.table[1] for c in wanted], abs=1e-4
        )
    assert (made.kind, made.inputs, made.outputs) == (kind, inputs, outputs)


def test_elements_that_do_not_fit_are_refused() -> None:
    four = RNG.random((2, 2, 2, 2, 4))
    curves = (STRAIGHT,) * 4
    with_matrix = pack_mab(
        Table(
            "mAB",
            4,
            4,
            curves,
            four,
            (STRAIGHT,) * 3,
            np.hstack([np.eye(3), np.zeros((3, 1))]),
            curves,
        )
    )
    refused("matrix-channels", parse_mab, with_matrix)
    bare = bytearray(pack_mab(Table("mAB", 3, 3, (STRAIGHT,) * 3, None, (), None, (STRAIGHT,) * 3)))
    assert parse_mab(bytes(bare)).clut is None
    bare[8] = 4
    refused("table-no-grid", parse_mab, bytes(bare))
    whole = bytearray(
        pack_mab(Table("mAB", 4, 3, curves, four[..., :3], (), None, (STRAIGHT,) * 3))
    )
    at = struct.unpack_from(">I", whole, 24)[0]
    for place, value, code in (
        (at + 1, 1, "table-grid"),
        (at + 16, 3, "table-precision"),
        (at + 16, 0, "table-precision"),
    ):
        damaged = bytearray(whole)
        damaged[place] = value
        refused(code, parse_mab, bytes(damaged))
    eight = bytearray(whole)
    eight[at + 16] = 1
    made = parse_mab(bytes(eight))
    assert made.clut is not None
    assert made.clut.reshape(-1)[:4].tolist() == pytest.approx(
        [v / 255 for v in whole[at + 20 : at + 24]]
    )


def test_dictionaries_come_back_and_what_they_claim_is_bounded() -> None:
    entries = {"Name": "Wert", "Größe": "4 × 5", "": ""}
    data = pack_dictionary(entries)
    assert parse_dictionary(data) == entries
    assert data[:16] == b"dict" + bytes(4) + struct.pack(">II", 3, 16)
    assert struct.unpack_from(">4I", data, 16) == (16 + 3 * 16, 8, 16 + 3 * 16 + 8, 8)
    assert parse_dictionary(b"dict" + bytes(11)) == {}
    assert parse_dictionary(b"dict" + bytes(12)) == {}
    assert parse_dictionary(b"text" + data[4:]) == {}
    assert len(parse_dictionary(pack_dictionary({"a": "b"}))) == 1
    claims = bytearray(data)
    claims[8:12] = struct.pack(">I", 10**9)
    assert "Name" in parse_dictionary(bytes(claims))
    claims[12:16] = struct.pack(">I", 15)
    assert parse_dictionary(bytes(claims)) == {}


def test_a_sequence_names_its_profiles_in_order() -> None:
    one, two = linear_press("One"), linear_press("Two")
    data = pack_sequence([one, two])
    assert data[:12] == b"pseq" + bytes(4) + struct.pack(">I", 2)
    assert data[12:32] == bytes(20)
    names = [data.index(n.encode("utf-16-be")) for n in ("One", "Two")]
    assert names == sorted(names)
    assert len(pack_sequence([])) == 12
