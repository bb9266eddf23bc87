"""Functions against what ISO 32000-2, 7.10 says of each entry, and operators against its examples."""

from __future__ import annotations

import math

import numpy as np
import pikepdf
import pytest

from paperwork import values
from plinto_core.document.pdf.functions import digest_of, numbers, read_function, unpack
from plinto_core.errors import BadDocument, CoreError


def stream(pdf, data: bytes, **entries) -> pikepdf.Stream:
    return pikepdf.Stream(pdf, data, **entries)


def calculated(pdf, program: bytes, *x: float, most: float = 1e6, outputs: int = 1) -> list[float]:
    made = stream(
        pdf, program, FunctionType=4, Domain=[-1000, 1000] * len(x), Range=[-most, most] * outputs
    )
    return values(read_function(made), x).ravel().tolist()


@pytest.mark.parametrize(
    ("program", "wanted"),
    [
        (b"-4.5 abs", 4.5),
        (b"4.5 neg", -4.5),
        (b"3.2 ceiling", 4),
        (b"-4.8 ceiling", -4),
        (b"-4.8 floor", -5),
        (b"6.5 round", 7),
        (b"-6.5 round", -6),
        (b"-4.8 truncate", -4),
        (b"6.25 sqrt", 2.5),
        (b"30 sin", 0.5),
        (b"60 cos", 0.5),
        (b"100 ln", math.log(100)),
        (b"100 log", 2),
        (b"-47.8 cvi", -47),
        (b"5 cvr", 5),
        (b"true not", 0),
        (b"false not", 1),
        (b"9.9 1.1 add", 11),
        (b"9 1.5 sub", 7.5),
        (b"2.5 4 mul", 10),
        (b"3 2 div", 1.5),
        (b"7 2 idiv", 3),
        (b"-7 2 idiv", -3),
        (b"5 3 mod", 2),
        (b"-5 3 mod", -2),
        (b"0 1 atan", 0),
        (b"1 0 atan", 90),
        (b"-100 0 atan", 270),
        (b"4 4 atan", 45),
        (b"9 0.5 exp", 3),
        (b"2 3 exp", 8),
        (b"0 3 exp", 0),
        (b"4 4.0 eq", 1),
        (b"4 5 eq", 0),
        (b"4 5 ne", 1),
        (b"4 4 ne", 0),
        (b"5 4 gt", 1),
        (b"4 4 gt", 0),
        (b"4 4 ge", 1),
        (b"3 4 ge", 0),
        (b"3 4 lt", 1),
        (b"4 4 lt", 0),
        (b"4 4 le", 1),
        (b"5 4 le", 0),
        (b"99 1 and", 1),
        (b"52 7 and", 4),
        (b"17 5 or", 21),
        (b"7 3 xor", 4),
        (b"7 3 bitshift", 56),
        (b"142 -3 bitshift", 17),
        (b"1 2 exch sub", 1),
        (b"3 dup mul", 9),
        (b"8 9 pop", 8),
        (b"7 true { 1 add } if", 8),
        (b"7 false { 1 add } if", 7),
        (b"7 false { 1 add } { 2 add } ifelse", 9),
        # Where mathematics has no answer there is still a number, and no error.
        (b"5 0 div", 0),
        (b"5 0 idiv", 0),
        (b"5 0 mod", 0),
        (b"-4 sqrt", 0),
    ],
)
def test_operators(pdf, program, wanted) -> None:
    assert calculated(pdf, b"{ pop " + program + b" }", 0.3) == pytest.approx([wanted])


@pytest.mark.parametrize("program", [b"0 ln", b"0 log"])
def test_the_logarithm_of_nothing_is_held_by_the_range(pdf, program) -> None:
    assert calculated(pdf, b"{ pop " + program + b" }", 0.3, most=50) == [-50]


@pytest.mark.parametrize("program", [b"pop", b"exch", b"1 index", b"2000 exp", b"true if"])
def test_what_the_stack_does_not_hold_is_refused(pdf, program) -> None:
    made = stream(pdf, b"{ " + program + b" add }", FunctionType=4, Domain=[0, 1], Range=[0, 1])
    with pytest.raises(CoreError):
        values(read_function(made), 0.5)


def test_a_stack_of_more_than_128_is_refused(pdf) -> None:
    """What stands there at the beginning counts."""
    full = b"{ " + b"1 " * 127 + b"pop " * 127 + b"}"
    assert calculated(pdf, full, 0.5) == [0.5]
    over = b"{ " + b"1 " * 128 + b"pop " * 128 + b"}"
    with pytest.raises(BadDocument) as error:
        calculated(pdf, over, 0.5)
    assert error.value.said.code == "document.calculator-piles"


def test_a_program_of_more_than_10_000_words_is_refused(pdf) -> None:
    most = b"{" + b" 1 add -1 add" * 2499 + b" 0 pop }"
    assert calculated(pdf, most, 0.5) == [0.5]
    with pytest.raises(BadDocument) as error:
        calculated(pdf, b"{" + b" 1 add -1 add" * 2500 + b" }", 0.5)
    assert error.value.said.code == "document.calculator-long"


@pytest.mark.parametrize("program", [b"1 add", b"{ 1 add } 2", b"{ 1 add } }"])
def test_a_program_is_one_block(pdf, program) -> None:
    with pytest.raises(BadDocument) as error:
        calculated(pdf, program, 0.5)
    assert error.value.said.code == "document.calculator-malformed"


@pytest.mark.parametrize("count", [2, 64, 65, 300])
def test_many_colours_come_out_as_each_by_itself(pdf, count) -> None:
    """Above 64 equal rows are worked out once: rows stay in their order, also with repeats."""
    made = stream(
        pdf, b"{ 2 copy add 3 1 roll sub }", FunctionType=4, Domain=[0, 1] * 2, Range=[-2, 2] * 2
    )
    x = np.stack([(np.arange(count) * 7 % 11) / 11, (np.arange(count) * 5 % 7) / 7], axis=1)
    wanted = np.stack([x[:, 0] + x[:, 1], x[:, 0] - x[:, 1]], axis=1)
    assert read_function(made)(x) == pytest.approx(wanted)


def test_a_program_leaves_as_many_numbers_for_each_colour(pdf) -> None:
    made = stream(pdf, b"{ dup 0.5 gt { 1 } if }", FunctionType=4, Domain=[0, 1], Range=[0, 1])
    with pytest.raises(BadDocument) as error:
        values(read_function(made), 0.2, 0.8)
    assert error.value.said.code == "document.calculator-unsteady"


@pytest.mark.parametrize("bits", [8, 16])
def test_samples_are_found_by_domain_encode_and_decode(pdf, bits) -> None:
    """Interpolated between samples as NumPy does it, with every entry away from what is usual."""
    samples = np.array([0, 40, 200, 255, 90])
    raw = samples.astype(np.uint8).tobytes()
    if bits == 16:
        raw = (samples * 257).astype(">u2").tobytes()
    f = read_function(
        stream(
            pdf, raw, FunctionType=0, Domain=[-1, 3], Range=[-5, 5], Size=[5], BitsPerSample=bits,
            Encode=[3.5, 0.5], Decode=[3, -2],
        )
    )  # fmt: skip
    x = np.array([-4, -1, -0.3, 0, 1.1, 2.9, 3, 9])
    at = 3.5 + (np.clip(x, -1, 3) + 1) / 4 * (0.5 - 3.5)
    wanted = 3 + np.interp(at, np.arange(5), samples / 255) * (-2 - 3)
    assert f(x[:, None]).ravel() == pytest.approx(wanted)


def test_without_decode_samples_fill_the_range_and_without_encode_the_table(pdf) -> None:
    f = read_function(
        stream(
            pdf, bytes([0, 255, 51, 0]), FunctionType=0, Domain=[0, 2], Range=[10, 20, -1, 0],
            Size=[2],
        )
    )  # fmt: skip
    assert values(f, 0, 1, 2) == pytest.approx(np.array([[10, 0], [11, -0.5], [12, -1]]))


def test_results_are_held_by_the_range(pdf) -> None:
    f = read_function(
        stream(
            pdf, bytes([0, 255]), FunctionType=0, Domain=[0, 1], Range=[0.25, 0.75], Size=[2],
            Decode=[0, 1],
        )
    )  # fmt: skip
    assert values(f, 0, 0.5, 1).ravel() == pytest.approx([0.25, 0.5, 0.75])
    g = read_function(pikepdf.Dictionary(FunctionType=2, Domain=[0, 1], N=1, Range=[0.2, 0.4]))
    assert values(g, 0, 0.3, 1).ravel() == pytest.approx([0.2, 0.3, 0.4])


def test_three_inputs_are_interpolated_between_eight_corners(pdf) -> None:
    rng = np.random.default_rng(5)
    samples = rng.integers(0, 256, (2, 3, 2))
    f = read_function(
        stream(
            pdf, samples.astype(np.uint8).tobytes(), FunctionType=0, Domain=[0, 1] * 3,
            Range=[0, 255], Size=[2, 3, 2],
        )
    )  # fmt: skip
    x, y, z = 0.25, 0.8, 0.6
    # The last of the array is the first input.
    plane = samples[0] * (1 - z) + samples[1] * z
    line = plane[1] * (1 - 0.6) + plane[2] * 0.6
    assert values(f, (x, y, z)).ravel() == pytest.approx([line[0] * 0.75 + line[1] * 0.25])


def test_an_input_of_one_sample_changes_nothing(pdf) -> None:
    f = read_function(
        stream(
            pdf, bytes([0, 255]), FunctionType=0, Domain=[0, 1] * 2, Range=[0, 1], Size=[1, 2],
        )
    )  # fmt: skip
    assert values(f, (0, 0.3), (1, 0.3)).ravel() == pytest.approx([0.3, 0.3])


@pytest.mark.parametrize(
    "wrong",
    [
        {"Size": [2, 2]},
        {"Size": [0]},
        {"Size": []},
        {"BitsPerSample": 3},
        {"BitsPerSample": 24 * 2},
    ],
)
def test_entries_that_contradict_each_other_are_refused(pdf, wrong) -> None:
    entries = {"FunctionType": 0, "Domain": [0, 1], "Range": [0, 1], "Size": [2], **wrong}
    with pytest.raises(BadDocument) as error:
        read_function(stream(pdf, bytes(64), **entries))
    assert error.value.said.code == "document.sampled-contradicts"


@pytest.mark.parametrize(("inputs", "refused"), [(12, False), (13, True)])
def test_more_than_twelve_inputs_with_corners_are_refused(pdf, inputs, refused) -> None:
    size = [2] * inputs + [1, 1]
    made = stream(
        pdf, bytes(2**inputs), FunctionType=0, Domain=[0, 1] * len(size), Range=[0, 1], Size=size
    )
    if refused:
        with pytest.raises(BadDocument) as error:
            read_function(made)
        assert error.value.said.code == "document.sampled-inputs"
    else:
        assert read_function(made)(np.full((1, len(size)), 0.5)) == pytest.approx(0)


@pytest.mark.parametrize(("bits", "count", "short"), [(1, 9, 1), (12, 3, 4), (24, 2, 5), (8, 3, 2)])
def test_data_that_end_too_soon_are_refused(bits, count, short) -> None:
    assert unpack(np.zeros(short + 1, np.uint8), bits, count).tolist() == [0] * count
    with pytest.raises(BadDocument) as error:
        unpack(np.zeros(short, np.uint8), bits, count)
    assert error.value.said.code == "document.data-short"


def test_pieces_are_stitched_by_bounds_and_each_is_met_by_its_encode() -> None:
    def line(low: float, high: float) -> pikepdf.Dictionary:
        return pikepdf.Dictionary(FunctionType=2, Domain=[0, 1], C0=[low], C1=[high], N=1)

    f = read_function(
        pikepdf.Dictionary(
            FunctionType=3, Domain=[-1, 3], Functions=[line(0, 1), line(10, 20), line(5, 6)],
            Bounds=[0, 2], Encode=[0, 1, 1, 0, 0.25, 0.75],
        )
    )  # fmt: skip
    found = values(f, -2, -1, -0.5, 0, 0.5, 2, 2.5, 3, 7).ravel()
    assert found == pytest.approx([0, 0, 0.5, 20, 17.5, 5.25, 5.5, 5.75, 5.75])


@pytest.mark.parametrize("wrong", [{"Functions": []}, {"Bounds": [0.5, 0.6]}, {"Encode": [0, 1]}])
def test_stitching_that_contradicts_itself_is_refused(wrong) -> None:
    part = pikepdf.Dictionary(FunctionType=2, Domain=[0, 1], N=1)
    entries = {"Functions": [part, part], "Bounds": [0.5], "Encode": [0, 1, 0, 1], **wrong}
    with pytest.raises(BadDocument) as error:
        read_function(pikepdf.Dictionary(FunctionType=3, Domain=[0, 1], **entries))
    assert error.value.said.code == "document.stitched-contradicts"


def test_exponential_entries_have_defaults_and_one_length() -> None:
    f = read_function(pikepdf.Dictionary(FunctionType=2, Domain=[0.25, 1]))
    assert values(f, 0, 0.5, 2).ravel() == pytest.approx([0.25, 0.5, 1])
    with pytest.raises(BadDocument) as error:
        read_function(pikepdf.Dictionary(FunctionType=2, Domain=[0, 1], C0=[0, 0], C1=[1]))
    assert error.value.said.code == "document.interpolation-ends"


@pytest.mark.parametrize("domain", [[], [0], [0, 1, 2]])
def test_a_domain_is_pairs(domain) -> None:
    with pytest.raises(BadDocument) as error:
        read_function(pikepdf.Dictionary(FunctionType=2, Domain=domain, N=1))
    assert error.value.said.code == "document.function-domain"


@pytest.mark.parametrize("kind", [1, 5, -1])
def test_other_types_are_refused_by_their_number(kind) -> None:
    with pytest.raises(BadDocument) as error:
        read_function(pikepdf.Dictionary(FunctionType=kind, Domain=[0, 1]))
    assert error.value.said.code == "document.function-type"


def test_functions_of_one_output_each_stand_side_by_side() -> None:
    parts = pikepdf.Array(
        [
            pikepdf.Dictionary(FunctionType=2, Domain=[0, 1], C0=[a], C1=[b], N=1)
            for a, b in ((0, 1), (1, 0), (3, 5))
        ]
    )
    assert values(read_function(parts), 0.25) == pytest.approx(np.array([[0.25, 0.75, 3.5]]))


def test_what_tells_functions_apart_is_entries_and_samples(pdf) -> None:
    def made(data: bytes = b"\0\1", **more) -> pikepdf.Stream:
        entries = {"FunctionType": 0, "Domain": [0, 1], "Range": [0, 1], "Size": [2], **more}
        return stream(pdf, data, **entries)

    kept = digest_of(made())
    assert digest_of(made()) == kept
    assert digest_of(made(Metadata=3)) == kept
    assert len({kept, digest_of(made(b"\0\2")), digest_of(made(Decode=[1, 0]))}) == 3
    assert digest_of(pikepdf.Array([made(), 1])) != digest_of(pikepdf.Array([1, made()]))


@pytest.mark.parametrize("wrong", [["a"], [float("nan")], [float("inf")], [None]])
def test_numbers_are_finite_numbers(wrong) -> None:
    with pytest.raises(BadDocument):
        numbers(wrong)


def test_functions_inside_functions_have_an_end(pdf) -> None:
    plain = pikepdf.Dictionary(FunctionType=2, Domain=[0, 1], N=1)

    def held(depth: int) -> pikepdf.Array:
        return pikepdf.Array([held(depth - 1)]) if depth else pikepdf.Array([plain])

    assert values(read_function(held(7)), [0.25]) == pytest.approx(0.25)
    with pytest.raises(BadDocument) as error:
        read_function(held(8))
    assert error.value.said.code == "document.functions-deep"


@pytest.mark.parametrize("bits", [1, 2, 4, 8, 12, 16, 24, 32])
def test_samples_of_every_depth_run_on_without_gaps(pdf, bits) -> None:
    """Three outputs of two samples, most significant bit first; nothing is filled up between them."""
    top = 2**bits - 1
    samples = [0, top, top // 2, top, 1, top // 3]
    number = sum(v << bits * (5 - i) for i, v in enumerate(samples)) << (-6 * bits) % 8
    raw = number.to_bytes((6 * bits + 7) // 8, "big")
    f = read_function(stream(pdf, raw, FunctionType=0, Domain=[0, 1], Range=[0, 1] * 3, Size=[2], BitsPerSample=bits))  # fmt: skip
    assert values(f, 0, 1) == pytest.approx(np.array(samples).reshape(2, 3) / top)


@pytest.mark.parametrize(
    ("program", "wanted"),
    [
        (b"{ dup 0.5 lt { 2 mul } { 1 exch sub } ifelse }", lambda x: np.where(x < 0.5, 2 * x, 1 - x)),
        (b"{ dup 0.5 gt { dup mul } if }", lambda x: np.where(x > 0.5, x * x, x)),
        (b"{ pop 0.25 }", lambda x: 0.25 + 0 * x),
        (b"{ 10 20 30 4 3 roll 3 mul cvi index 4 1 roll pop pop pop 100 div }",
         lambda x: np.choose(np.minimum(np.trunc(3 * x), 2).astype(int), [0.3, 0.2, 0.1])),
    ],
)  # fmt: skip
def test_programs_that_part_by_the_colour_do_so_for_each(pdf, program, wanted) -> None:
    source = stream(pdf, program, FunctionType=4, Domain=[0, 1], Range=[0, 1])
    x = np.random.default_rng(2).random(70_000) * 0.99
    assert np.allclose(read_function(source)(x[:, None])[:, 0], wanted(x))
    for one in x[:20]:
        assert np.allclose(read_function(source)(np.array([[one]]))[0, 0], wanted(np.array([one])))
