from __future__ import annotations

import numpy as np
import pikepdf
import pytest

from paperwork import values
from plinto_core.document.pdf import functions
from plinto_core.document.pdf.functions import read_function, unpack
from plinto_core.errors import BadDocument, CoreError


def test_exponential() -> None:
    f = read_function(
        pikepdf.Dictionary(FunctionType=2, Domain=[0, 1], C0=[0, 1], C1=[1, 0.5], N=2)
    )
    assert values(f, 0.5, 2.0) == pytest.approx(np.array([[0.25, 0.875], [1, 0.5]]))


def test_stitched() -> None:
    parts = [
        pikepdf.Dictionary(FunctionType=2, Domain=[0, 1], C0=[a], C1=[b], N=1)
        for a, b in ((0, 1), (5, 7))
    ]
    f = read_function(
        pikepdf.Dictionary(
            FunctionType=3, Domain=[0, 1], Functions=parts, Bounds=[0.4], Encode=[0, 1, 0, 1]
        )
    )
    assert values(f, 0.2, 0.4, 0.7).ravel() == pytest.approx([0.5, 5, 6])


def test_sampled_in_two_dimensions_with_the_first_input_fastest(pdf) -> None:
    stream = pikepdf.Stream(
        pdf,
        bytes([0, 255, 0, 255, 128, 255]),
        FunctionType=0,
        Domain=[0, 1, 0, 1],
        Range=[0, 1],
        Size=[2, 3],
        BitsPerSample=8,
    )
    f = read_function(stream)
    assert values(f, (1, 0), (0, 1), (0.5, 0.5)).ravel() == pytest.approx([1, 128 / 255, 0.5])


def test_the_calculator(pdf) -> None:
    program = (
        b"{ dup 0.5 gt { 1 exch sub } { 2 mul } ifelse 3 1 roll pop dup 360 mul cos 2 copy add }"
    )
    stream = pikepdf.Stream(
        pdf, program, FunctionType=4, Domain=[0, 1, 0, 1, 0, 1], Range=[-9, 9] * 4
    )
    found = values(read_function(stream), (0.1, 0.25, 0.4))
    # By hand: .1 .25 .4, .1 .25 .8, .8 .1 .25, .8 .1, .8 .1 cos 36°, and the sum of the last two.
    cosine = np.cos(np.radians(36))
    assert found.ravel() == pytest.approx([0.8, 0.1, cosine, 0.1 + cosine])


@pytest.mark.parametrize(
    ("program", "wanted"),
    [
        (b"{ 0 copy }", [0.25, 0.75]),
        (b"{ 1 copy }", [0.25, 0.75, 0.75]),
        (b"{ 0 index }", [0.25, 0.75, 0.75]),
        (b"{ 0.5 1 index }", [0.25, 0.75, 0.5, 0.75]),
        (b"{ 0 3 roll }", [0.25, 0.75]),
        (b"{ 2 1 roll }", [0.75, 0.25]),
        (b"{ 0.5 3 -1 roll }", [0.75, 0.5, 0.25]),
    ],
)
def test_copying_and_rolling_take_what_they_say_and_nothing_for_nothing(
    pdf, program, wanted
) -> None:
    stream = pikepdf.Stream(
        pdf, program, FunctionType=4, Domain=[0, 1, 0, 1], Range=[0, 1] * len(wanted)
    )
    assert values(read_function(stream), (0.25, 0.75)).ravel() == pytest.approx(wanted)


@pytest.mark.parametrize("bits", [1, 2, 4, 8, 12, 16, 24, 32])
def test_samples_of_every_width(bits) -> None:
    count = 9
    wanted = [(i * 7919) % 2**bits for i in range(count)]
    text = "".join(format(v, f"0{bits}b") for v in wanted)
    text += "0" * (-len(text) % 8)
    raw = np.frombuffer(int(text, 2).to_bytes(len(text) // 8, "big"), np.uint8)
    assert unpack(raw, bits, count).tolist() == wanted


@pytest.mark.parametrize(
    "program",
    [
        b"",
        b"{",
        b"{ 1 add",
        b"{ pop pop }",
        b"{ frobnicate }",
        b"{" * 200,
    ],
)
def test_hostile_calculators_are_refused(pdf, program) -> None:
    stream = pikepdf.Stream(pdf, program, FunctionType=4, Domain=[0, 1], Range=[0, 1])
    with pytest.raises(CoreError):
        values(read_function(stream), 0.5)


@pytest.mark.parametrize(("depth", "refused"), [(30, False), (40, True)])
def test_calculators_nest_up_to_a_depth(pdf, depth, refused) -> None:
    """Each level doubles where it holds; nested deeper than 32 it is refused before it is read."""
    program = b"{ 0.25 add }"
    for _ in range(depth):
        program = b"{ true " + program + b" if }"
    stream = pikepdf.Stream(pdf, program, FunctionType=4, Domain=[0, 1], Range=[0, 1])
    if refused:
        with pytest.raises(BadDocument, match="deep"):
            values(read_function(stream), 0.5)
    else:
        assert values(read_function(stream), 0.5) == pytest.approx(0.75)


def test_endless_functions_are_refused() -> None:
    inner = pikepdf.Dictionary(FunctionType=2, Domain=[0, 1], N=1)
    for _ in range(20):
        inner = pikepdf.Dictionary(
            FunctionType=3, Domain=[0, 1], Functions=[inner], Bounds=[], Encode=[0, 1]
        )
    with pytest.raises(BadDocument, match="nested"):
        read_function(inner)


def test_what_tells_deep_functions_apart_has_an_end_as_well() -> None:
    inner = pikepdf.Dictionary(FunctionType=2)
    for _ in range(functions._DEEPEST - 1):
        inner = pikepdf.Dictionary(Functions=inner)
    assert functions.digest_of(inner)
    for _ in range(2):
        inner = pikepdf.Dictionary(Functions=inner)
    with pytest.raises(BadDocument, match="nested"):
        functions.digest_of(inner)


def test_functions_of_too_many_samples_are_refused_before_they_are_read(pdf, monkeypatch) -> None:
    monkeypatch.setattr(functions, "_MOST_SAMPLES", 12)

    def sampled(size: int):
        return pikepdf.Stream(
            pdf, bytes(3 * size), FunctionType=0, Domain=[0, 1], Range=[0, 1] * 3, Size=[size],
            BitsPerSample=8,
        )  # fmt: skip

    assert values(read_function(sampled(4)), 0.5).shape == (1, 3)
    with pytest.raises(BadDocument, match="samples|large"):
        read_function(sampled(5))


def test_how_many_samples_are_too_many(pdf) -> None:
    def sampled(wide: int):
        return pikepdf.Stream(
            pdf, b"", FunctionType=0, Domain=[0, 1] * 2, Range=[0, 1], Size=[wide, 2000], BitsPerSample=8,
        )  # fmt: skip

    with pytest.raises(BadDocument) as many:
        read_function(sampled(2001))
    with pytest.raises(BadDocument) as short:
        read_function(sampled(2000))
    assert many.value.said.code != short.value.said.code
