"""Profiles that are taken off CMYK wherever they stand."""

from __future__ import annotations

import pikepdf
import pytest
from pikepdf import Array, Dictionary, Name

from plinto_core.document.pdf.bare import bare_inks
from plinto_core.document.pdf.items import union


def tagged(pdf: pikepdf.Pdf, channels: int = 4) -> Array:
    return Array([Name.ICCBased, pdf.make_indirect(pikepdf.Stream(pdf, b"profile", N=channels))])


@pytest.mark.parametrize(("depth", "count"), [(0, 1), (3, 1), (10, 1), (11, 0), (60, 0)])
def test_as_deep_as_anything_means(pdf, depth, count) -> None:
    inner = Array([tagged(pdf)])
    for _ in range(depth):
        inner = Array([inner])
    pdf.Root["/Held"] = Dictionary(Inside=inner)
    assert bare_inks(pdf) == count


def test_only_profiles_of_four_inks(pdf) -> None:
    held = pdf.make_indirect(
        Dictionary(
            One=tagged(pdf, 1), Three=tagged(pdf, 3), Four=tagged(pdf),
            Palette=Array([Name.Indexed, tagged(pdf), 1, pikepdf.String(bytes(8))]),
            Spot=Array([Name.Separation, Name("/Ternholm Red"), tagged(pdf), Dictionary(FunctionType=2)]),
        )
    )  # fmt: skip
    pdf.Root["/Held"] = held
    assert bare_inks(pdf) == 3
    assert (str(held.Four), str(held.Palette[1]), str(held.Spot[2])) == ("/DeviceCMYK",) * 3
    assert (str(held.One[0]), str(held.Three[0])) == ("/ICCBased",) * 2
    assert bare_inks(pdf) == 0


@pytest.mark.parametrize(
    ("a", "b", "both"),
    [((1, 2, 3, 4), None, (1, 2, 3, 4)), (None, (1, 2, 3, 4), (1, 2, 3, 4)), (None, None, None), ((1, 9, 3, 10), (2, 4, 8, 5), (1, 4, 8, 10))],
)  # fmt: skip
def test_the_box_around_two_boxes(a, b, both) -> None:
    assert union(a, b) == both
