"""Streams are unpacked no further than they may be."""

from __future__ import annotations

import zlib

import pikepdf
import pytest
from pikepdf import Array, Name

from plinto_core.document.pdf.bounds import check_unpacked, inflated_steps, read_bounded
from plinto_core.errors import BadDocument


def packed(pdf, data: bytes, layers: int) -> pikepdf.Stream:
    for _ in range(layers):
        data = zlib.compress(data)
    filters = Array([Name.FlateDecode] * layers) if layers != 1 else Name.FlateDecode
    return pikepdf.Stream(pdf, data, **({"Filter": filters} if layers else {}))


@pytest.mark.parametrize("layers", [0, 1, 2, 3])
def test_as_many_bytes_as_are_allowed_and_not_one_more(pdf, layers) -> None:
    data = bytes(i * 7 % 251 for i in range(50_000))
    stream = packed(pdf, data, layers)
    assert read_bounded(stream, 50_000, "A test") == data
    with pytest.raises(BadDocument) as error:
        read_bounded(stream, 49_999, "A test")
    assert error.value.said.code == "document.unpacks-large"
    with pytest.raises(BadDocument):
        check_unpacked(stream, 49_999 if layers < 2 else 10_000, "A test")


@pytest.mark.parametrize("layers", [1, 2])
def test_what_grows_a_thousandfold_is_stopped_on_its_way(pdf, layers) -> None:
    stream = packed(pdf, bytes(30_000_000), layers)
    assert len(stream.read_raw_bytes()) < 40_000
    with pytest.raises(BadDocument):
        check_unpacked(stream, 1_000_000, "A test")
    check_unpacked(stream, 30_000_000, "A test")


def test_damaged_data_are_left_to_who_reads_them(pdf) -> None:
    broken = pikepdf.Stream(pdf, b"no zlib" * 2000, Filter=Name.FlateDecode)
    check_unpacked(broken, 10, "A test")
    whole = zlib.compress(bytes(1000))
    assert b"".join(inflated_steps(whole + b"more behind the end")) == bytes(1000)
