"""Aims in rows, from data and from files, and what is held against them, by hand."""

from __future__ import annotations

import numpy as np
import pytest
from handmade import linear_press
from kept import as_kept

from plinto_core.colorimetry.cielab import Lab_to_XYZ
from plinto_core.errors import BadInput
from plinto_core.examination.aims import (
    Tolerances,
    _colour,
    against,
    aim_of_data,
    aim_of_profile,
    aim_of_rows,
    aim_rows,
    colour_name,
    parse_aim,
    read_aim,
)
from plinto_core.measurement.characterisation import Characterisation


def refused(code: str, act, *given) -> None:
    with pytest.raises(BadInput) as error:
        act(*given)
    assert error.value.said.code == f"examination.{code}"


@pytest.mark.parametrize(
    ("said", "name"),
    [
        ("paper", "paper"), (" Paper ", "paper"), ("c", "C"), ("cyan", "C"), ("BLACK", "K"), ("m + y", "MY"), ("YC", "CY"),
        ("yellow+magenta+cyan", "CMY"), ("KC", "CK"), ("CC", "CC"), ("Gold", "Gold"), ("Cyan light", "Cyan light"),
    ],
)  # fmt: skip
def test_colours_have_one_name(said, name) -> None:
    assert colour_name(said) == name


def test_rows_of_colours_and_tones() -> None:
    text = (
        "# note\n\npaper 95 0 -2\nCyan;55,5;-37;-50\nM+Y\t47\t68\t48\nK 50 14.5\nK 80 9\ncyan 50 16"
    )
    aim = aim_of_rows("A", text, "from", Tolerances(paper=2, tones=3))
    assert aim.colours == {"paper": (95, 0, -2), "C": (55.5, -37, -50), "MY": (47, 68, 48)}
    assert aim.tones == {"K": [(50, 14.5), (80, 9)], "C": [(50, 16)]}
    again = aim_of_rows("A", aim_rows(aim), "from", aim.tolerances)
    assert again == aim
    assert parse_aim({"kind": "aim", **aim.model_dump(mode="json")}) == aim
    assert read_aim(text.encode(), "folder/My aim.txt").name == "My aim"


@pytest.mark.parametrize(
    ("text", "code"),
    [
        ("", "aim-empty"),
        ("# only", "aim-empty"),
        ("95 0 0", "aim-row"),
        ("C 1", "aim-row"),
        ("C 1 2 3 4", "aim-row"),
        ("C 50 1 2\ncyan 51 1 2", "aim-row-twice"),
    ],
)
def test_rows_at_fault_are_named(text, code) -> None:
    refused(code, aim_of_rows, "A", text)


@pytest.mark.parametrize(
    ("data", "code"),
    [
        (b"{", "aim-no-json"),
        (b"[" * 100_000, None),
        (b"{}", "aim-other-file"),
        (b'{"kind": "recipe"}', "aim-other-file"),
    ],
)
def test_files_that_are_no_aims(data, code) -> None:
    if code is None:
        with pytest.raises(BadInput):
            read_aim(data)
    else:
        refused(code, read_aim, data)


def test_an_aim_of_data_takes_solids_overprints_and_single_inks() -> None:
    tones = np.array([0, 0.25, 0.5, 0.75, 1])
    rows = [[0, 0, 0, 0]] + [
        [t if i == k else 0 for k in range(4)] for i in range(4) for t in tones[1:]
    ]
    rows += [[0, 1, 1, 0], [1, 1, 0, 0], [1, 1, 1, 0]]
    device = np.array(rows, float)
    lab = np.array([95.0, 0, -2]) + device @ np.array(
        [[-35.0, -36, -48], [-45, 72, -2], [-6, -5, 90], [-78, 0, 2]]
    )
    data = Characterisation(device, np.maximum(Lab_to_XYZ(lab), 1e-4), "Made by hand")
    aim = aim_of_data(data, "Made", "source")
    assert set(aim.colours) == {"paper", "C", "M", "Y", "K", "MY", "CM", "CMY"}
    assert aim.colours["C"] == pytest.approx((60, -36, -50), abs=0.01)
    assert [at for at, _ in aim.tones["K"]] == [25, 50, 75]
    # Murray-Davies on Y for black: what share of its darkness half a tone has.
    y = Lab_to_XYZ(np.array([[95.0, 0, -2], [56, 0, -1], [17, 0, 0]]))[:, 1]
    share = (y[0] - y[1]) / (y[0] - y[2]) * 100 - 50
    assert dict(aim.tones["K"])[50] == pytest.approx(share, abs=0.02)
    few = Characterisation(device[:4], data.xyz[:4], "few")
    assert aim_of_data(few, "few").tones == {}
    nothing = Characterisation(np.full((3, 4), 0.5), data.xyz[:3], "none")
    refused("aim-no-solids", aim_of_data, nothing, "none")


def test_what_is_held_against_an_aim() -> None:
    press = linear_press("Press")
    own = aim_of_profile(press)
    same = against(
        press,
        own.model_copy(update={"tolerances": Tolerances(paper=1, solids=1, overprints=1, tones=1)}),
    )
    assert same.holds is True
    assert max(c.de00 for c in same.colours) == 0
    rows = "paper 95.5 0 -2\nC 66 -40 -41\nMY 50 60 74\nRed 50 60 40\nC 50 12\nK 40 30\nGold 50 3"
    tolerances = Tolerances(paper=1, solids=0.5, overprints=5, tones=4)
    found = against(press, aim_of_rows("Other", rows, "here", tolerances))
    as_kept("examination/against", found.model_dump(mode="json"), abs=0.03)
    assert {c.name: c.tolerance for c in found.colours} == {"paper": 1, "C": 0.5, "MY": 5}
    assert found.left == ["Red", "Gold"]
    assert found.holds is False
    free = against(
        press,
        aim_of_rows(
            "Other", rows, "here", Tolerances(paper=None, solids=None, overprints=None, tones=None)
        ),
    )
    assert free.holds is None


@pytest.mark.parametrize(
    ("name", "tolerance"), [("paper", 1.0), ("C", 2.0), ("MY", 3.0), ("CMYK", 3.0), ("Orange", 2.0), ("Mint", 2.0)]
)  # fmt: skip
def test_each_kind_of_colour_has_its_tolerance(name, tolerance) -> None:
    allowed = Tolerances(paper=1.0, solids=2.0, overprints=3.0)
    for error, holds in ((tolerance, True), (tolerance + 0.004, True), (tolerance + 0.006, False)):
        found = _colour(name, (50.0, 0.0, 0.0), (50.0, 1.0, 0.0), error, allowed)
        assert (found.tolerance, found.holds) == (tolerance, holds)
    assert _colour(name, (1, 2, 3), (1, 2, 3), 99.0, Tolerances()).holds is None
