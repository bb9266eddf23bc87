"""Measured files at the edges of what is taken: counts, ranges, scales, names, what is only noted."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from plinto_core.colorimetry.cielab import D50, Lab_to_XYZ, XYZ_to_Lab
from plinto_core.errors import BadMeasurement
from plinto_core.measurement import cgats, characterisation
from plinto_core.measurement.cgats import decode, parse_cgats
from plinto_core.measurement.characterisation import FEWEST, characterisation_from_text


def text(fields: list[str], rows: Any, head: str = "") -> str:
    lines = [
        "CGATS.17",
        head,
        "BEGIN_DATA_FORMAT",
        " ".join(fields),
        "END_DATA_FORMAT",
        "BEGIN_DATA",
    ]
    return "\n".join([*lines, *(" ".join(f"{v:.9g}" for v in row) for row in rows), "END_DATA"])


def ramp(
    count: int = 8, paper: float = 95.0, dark: float = 20.0, *, full: float = 100.0
) -> np.ndarray:
    """One ink from paper to solid: tone value, L*, a*, b*."""
    share = np.linspace(0, 1, count)
    return np.stack([share * full, paper + share * (dark - paper), 0 * share, 0 * share], axis=1)


LAB = ["LAB_L", "LAB_A", "LAB_B"]
ONE = ["1CLR_1", *LAB]


def taken(fields: list[str], rows: Any, head: str = "") -> list[str]:
    """Codes of the notes of a file that is taken."""
    found = characterisation_from_text(text(fields, rows, head))
    return [n.code.removeprefix("measurement.") for n in found.notes]


def refused(fields: list[str], rows: Any, head: str = "") -> str:
    with pytest.raises(BadMeasurement) as error:
        characterisation_from_text(text(fields, rows, head))
    return error.value.said.code.removeprefix("measurement.")


@pytest.mark.parametrize("inks", range(1, 9))
def test_as_many_patches_as_the_inks_need(inks) -> None:
    """The first steps are the inks alone, so that nothing else is missing."""
    rng = np.random.default_rng(inks)
    device = np.concatenate([np.zeros((1, inks)), np.eye(inks), rng.random((FEWEST[inks], inks))])
    rows = np.concatenate([device * 100, 95 - 80 * device.mean(axis=1, keepdims=True), np.zeros((len(device), 2))], axis=1)  # fmt: skip
    fields = [f"{'CMYK_' + 'CMYK'[i] if inks == 4 else f'{inks}CLR_{i + 1}'}" for i in range(inks)]
    assert taken([*fields, *LAB], rows[: FEWEST[inks]]) == []
    with pytest.raises(BadMeasurement) as error:
        characterisation_from_text(text([*fields, *LAB], rows[: FEWEST[inks] - 1]))
    said = error.value.said
    assert (said.code, said.values["fewest"]) == ("measurement.patches-few", FEWEST[inks])
    assert said.values["inks"] == ("a CMYK profile" if inks == 4 else f"a profile of {inks} channels")  # fmt: skip


@pytest.mark.parametrize(
    ("column", "value", "code"),
    [
        (0, 100.5, None), (0, 100.6, "shares-out-of-range"), (0, -0.1, None), (0, -0.11, "shares-out-of-range"),
        (1, float("inf"), "not-finite"), (1, 112, "impossible-colours"), (1, 109, None),
    ],
)  # fmt: skip
def test_values_that_cannot_be(column, value, code) -> None:
    rows = ramp(10)
    rows[5, column] = value
    if code is None:
        taken(ONE, rows)
    else:
        assert refused(ONE, rows) == code


def test_shares_of_one_are_noticed_up_to_one_percent() -> None:
    rows = ramp(full=1.01)
    assert taken(ONE, rows) == ["shares"]
    assert characterisation_from_text(text(ONE, rows)).device.max() == 1
    assert refused(ONE, ramp(full=1.02)) == "ink-not-alone"
    assert refused(ONE, ramp(full=49.9)) == "ink-not-alone"
    assert taken(ONE, ramp(full=50)) == []


def test_without_a_patch_of_paper_nothing_can_be_built() -> None:
    rows = ramp()
    rows[0, 0] = 0.5
    assert taken(ONE, rows) == []
    rows[0, 0] = 0.51
    assert refused(ONE, rows) == "no-paper"


def test_an_ink_must_have_been_printed_alone() -> None:
    share = np.linspace(0, 1, 7)
    device = np.stack(np.meshgrid(share, share, indexing="ij"), -1).reshape(-1, 2)
    rows = np.concatenate([device * 100, 95 - 40 * device.sum(axis=1, keepdims=True), 0 * device], axis=1)  # fmt: skip
    fields = ["2CLR_1", "2CLR_2", *LAB]
    assert taken(fields, rows) == []
    alone = (device[:, 0] == 0) & (device[:, 1] >= 0.5)
    mixed = rows.copy()
    mixed[alone, 0] = 0.6
    assert refused(fields, mixed) == "ink-not-alone"


@pytest.mark.parametrize(
    ("paper", "a", "lightest", "codes"),
    [
        (95, 0, 95, []), (88, 0, 92, []), (80, 0, 92, ["white-not-lightest"]), (36, 0, 36, ["white-not-lightest"]),
        (38, 0, 38, []), (70, 20, 70, []), (70, 34, 70, ["medium-coloured"]),
    ],
)  # fmt: skip
def test_papers_that_are_noted(paper, a, lightest, codes) -> None:
    """Y of L* 36 is 0.090 and of 38 is 0.101; of 92, 88 and 80 it is 0.807, 0.720 and 0.567; X of a* 20
    and 34 at L* 70 lies 0.17 and 0.29 of Y above the white's."""
    rows = ramp(10, paper=paper, dark=10)
    rows[0, 2], rows[1, 1] = a, lightest
    assert taken(ONE, rows) == codes


@pytest.mark.parametrize(("scale", "note"), [(1, False), (100, False)])
def test_tristimulus_values_are_of_one_or_of_a_hundred(scale, note) -> None:
    rows = ramp()
    xyz = Lab_to_XYZ(rows[:, 1:])
    alone = np.concatenate([rows[:, :1], xyz * scale], axis=1)
    found = characterisation_from_text(text(["1CLR_1", "XYZ_X", "XYZ_Y", "XYZ_Z"], alone))
    assert found.xyz == pytest.approx(xyz, abs=1e-6)


@pytest.mark.parametrize(("apart", "noted"), [(0.99, False), (1.05, True)])
def test_lab_and_xyz_that_disagree_are_noted_and_lab_is_taken(apart, noted) -> None:
    rows = ramp()
    other = Lab_to_XYZ(rows[:, 1:] - [apart, 0, 0]) * 100
    both = np.concatenate([rows, other], axis=1)
    found = characterisation_from_text(text([*ONE, "XYZ_X", "XYZ_Y", "XYZ_Z"], both))
    assert [n.code for n in found.notes] == ["measurement.lab-xyz-disagree"] * noted
    assert found.lab == pytest.approx(XYZ_to_Lab(Lab_to_XYZ(rows[:, 1:])), abs=1e-5)


@pytest.mark.parametrize("scale", [1, 100])
def test_spectra_in_shares_and_in_percent(scale) -> None:
    bands = [f"SPECTRAL_NM{nm}" for nm in range(400, 710, 20)]
    share = np.linspace(0, 1, 8)
    rows = np.concatenate([share[:, None] * 100, np.repeat((0.9 - 0.8 * share)[:, None] * scale, len(bands), axis=1)], axis=1)  # fmt: skip
    found = characterisation_from_text(text(["1CLR_1", *bands], rows))
    assert [n.code for n in found.notes] == ["measurement.from-spectra"]
    assert found.xyz == pytest.approx((0.9 - 0.8 * share)[:, None] * D50, abs=2e-3)
    with pytest.raises(BadMeasurement):
        # Fifteen bands are too few.
        characterisation_from_text(text(["1CLR_1", *bands[:15]], rows[:, :16]))


@pytest.mark.parametrize(
    ("given", "names"),
    [
        ("Orange", ("Orange",)), ("cyan", ("C",)), ("", ("1",)), ("Orange, Green", ("1",)), (" Deep  Red ", ("Deep Red",)),
        ("O" * 60, ("O" * characterisation.MOST_NAME,)), ("A\x07", ("1",)),
    ],
)  # fmt: skip
def test_inks_are_called_as_the_keyword_says(given, names) -> None:
    found = characterisation_from_text(text(ONE, ramp(), f'INK_NAMES "{given}"'))
    assert found.names == names


@pytest.mark.parametrize(("given", "names"), [("Red, Blue", ("Red", "Blue")), ("Red, Red", ("1", "2")), ("Red,", ("1", "2")), ("Red, Blue, Green", ("1", "2"))])  # fmt: skip
def test_two_inks_have_two_different_names(given, names) -> None:
    share = np.linspace(0, 1, 7)
    device = np.stack(np.meshgrid(share, share, indexing="ij"), -1).reshape(-1, 2)
    rows = np.concatenate([device * 100, 95 - 40 * device.sum(axis=1, keepdims=True), 0 * device], axis=1)  # fmt: skip
    made = characterisation_from_text(
        text(["2CLR_1", "2CLR_2", *LAB], rows, f'INK_NAMES "{given}"')
    )
    assert made.names == names


@pytest.mark.parametrize(("said", "noted"), [("10", False), ("11", True), ("9", True), ("many", False)])  # fmt: skip
def test_a_count_that_does_not_hold_is_noted(said, noted) -> None:
    assert taken(ONE, ramp(10), f"NUMBER_OF_SETS {said}") == ["announced"] * noted


def test_rgb_is_of_255_where_it_is_more_than_a_hundred() -> None:
    axis = np.linspace(0, 1, 6)
    device = np.stack(np.meshgrid(axis, axis, axis, indexing="ij"), -1).reshape(-1, 3)
    rows = np.concatenate([device, 10 + 85 * device.mean(axis=1, keepdims=True), np.zeros((len(device), 2))], axis=1)  # fmt: skip
    fields = ["RGB_R", "RGB_G", "RGB_B", *LAB]
    for full in (100, 255):
        found = characterisation_from_text(text(fields, rows * [full, full, full, 1, 1, 1]))
        assert found.takes_rgb
        assert found.device == pytest.approx(device)
        assert found.amounts == pytest.approx(1 - device)
        assert found.paper == pytest.approx(Lab_to_XYZ(np.array([[95.0, 0, 0]]))[0], abs=1e-6)
    assert refused(fields, rows * [260, 255, 255, 1, 1, 1]) == "rgb-out-of-range"


def test_too_much_of_anything(monkeypatch) -> None:
    monkeypatch.setattr(characterisation, "MOST_PATCHES", 10)
    assert taken(ONE, ramp(10)) == []
    assert refused(ONE, ramp(11)) == "patches-many"
    monkeypatch.setattr(cgats, "MAX_FIELDS", 4)
    parse_cgats(text(ONE, ramp()))
    with pytest.raises(BadMeasurement, match="fields"):
        parse_cgats(text([*ONE, "MORE"], np.zeros((2, 5))))
    monkeypatch.setattr(cgats, "MAX_BYTES", 5)
    assert decode(b"12345") == "12345"
    with pytest.raises(BadMeasurement):
        decode(b"123456")
    # Nothing of text has a nought in its first part; what comes later is not looked at.
    monkeypatch.undo()
    assert decode(b"a" * 4096 + b"\0") == "a" * 4096 + "\0"
    with pytest.raises(BadMeasurement):
        decode(b"a" * 4095 + b"\0")


@pytest.mark.parametrize(
    ("given", "code"),
    [
        ("BEGIN_DATA\n1 2\nEND_DATA", "file-no-format"), ("BEGIN_DATA_FORMAT\nA B\nEND_DATA_FORMAT\nBEGIN_DATA\n1 2 3\nEND_DATA", "file-rows"),
        ("BEGIN_DATA_FORMAT\nA\nEND_DATA_FORMAT\nBEGIN_DATA\n1", "file-short"), ("only words", "file-no-table"),
    ],
)  # fmt: skip
def test_tables_that_are_none(given, code) -> None:
    with pytest.raises(BadMeasurement) as error:
        parse_cgats(given)
    assert error.value.said.code == f"measurement.{code}"


def test_a_table_on_few_lines_and_a_second_of_the_same_format() -> None:
    one, two = parse_cgats(
        'KEY "a # b" # c\nBEGIN_DATA_FORMAT a \'b c\' END_DATA_FORMAT\nBEGIN_DATA 1 "x y" 2 z END_DATA\nBEGIN_DATA\n3 w END_DATA'
    )
    assert (one.keywords, one.fields) == ({"KEY": "a # b"}, ["A", "B C"])
    assert one.rows == [["1", "x y"], ["2", "z"]]
    assert (two.fields, two.rows, two.column("B C")) == (["A", "B C"], [["3", "w"]], ["w"])
