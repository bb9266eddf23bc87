"""Streams are unpacked no further than they may be."""

from __future__ import annotations

import zlib

import numpy as np
import pikepdf
import pytest
from pikepdf import Array, Name

from plinto_core.document.pdf import bounds
from plinto_core.document.pdf.bounds import check_unpacked, inflated_steps, read_bounded
from plinto_core.document.pdf.functions import read_function
from plinto_core.document.pdf.images import image_facts
from plinto_core.document.pdf.opening import open_document
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


@pytest.fixture(autouse=True)
def _usual():
    yield
    bounds.widen(1.0)
    bounds.begin_document()


def page_of(pdf, *parts: bytes) -> pikepdf.Page:
    pdf.add_blank_page()
    page = pdf.pages[-1]
    page.Contents = Array([packed(pdf, part, 1) for part in parts])
    return page


def test_the_parts_of_a_page_count_together(pdf) -> None:
    most = bounds._MOST_BYTES
    page = page_of(pdf, bytes(most // 2), bytes(most // 2))
    bounds.check_size_of_stream(page)
    page.Contents.append(packed(pdf, bytes(1), 1))
    with pytest.raises(BadDocument, match="unpacks to more"):
        bounds.check_size_of_stream(page)
    bounds.widen(10.0)
    bounds.check_size_of_stream(page)


def test_deep_samples_weigh_twice(pdf) -> None:
    """800 MB: 16,000 x 16,000 in 8-bit RGB, 8,300 x 8,300 in 16-bit RGB, and hardly more."""
    bounds.check_image(16_000, 16_000, 3, 8)
    bounds.check_image(8_300, 8_300, 3, 16)
    for wide, channels, bits in ((16_800, 3, 8), (14_500, 4, 8), (8_500, 3, 16), (16_000, 1, 16)):
        with pytest.raises(BadDocument):
            bounds.check_image(wide, wide, channels, bits)


def test_an_image_is_judged_before_it_is_unpacked(pdf, monkeypatch) -> None:
    stream = pikepdf.Stream(
        pdf, b"", Width=16_000, Height=16_000, ColorSpace=Name.DeviceRGB, BitsPerComponent=16
    )
    with pytest.raises(BadDocument, match="An image of the document unpacks"):
        image_facts(stream, pikepdf.Dictionary())


def test_steps_of_calculators_are_counted_for_a_document(pdf, monkeypatch, tmp_path) -> None:
    monkeypatch.setattr(bounds, "_MOST_WORK", 1000)
    source = pikepdf.Stream(
        pdf, b"{ dup mul dup { 2 mul } if }", FunctionType=4, Domain=[0, 1], Range=[0, 9]
    )
    double = read_function(source)
    ask = np.full((50, 1), 0.5)
    for _ in range(3):
        assert double(ask)[0, 0] == 0.5
    with pytest.raises(BadDocument) as error:
        double(ask)
    assert error.value.said.code == "document.calculator-work"
    pdf.add_blank_page()
    pdf.save(tmp_path / "another.pdf")
    with open_document(tmp_path / "another.pdf"):
        assert double(ask)[0, 0] == 0.5


def test_colours_of_a_stream_are_counted(pdf, monkeypatch) -> None:
    bounds.check_colours(bounds._MOST_COLOURS)
    with pytest.raises(BadDocument, match="250001 different colours; up to 250000"):
        bounds.check_colours(250_001)
    bounds.widen(2.0)
    bounds.check_colours(250_001)
