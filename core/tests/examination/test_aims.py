"""Aims as numbers against profiles and data whose print is known beforehand."""

from __future__ import annotations

import numpy as np
import pytest
from handmade import cmyk_profile, simple_print

from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.errors import BadInput
from plinto_core.examination import aims
from plinto_core.examination.aims import (
    Tolerances,
    against,
    aim_of_data,
    aim_of_profile,
    aim_of_rows,
    aim_rows,
    colour_name,
    parse_aim,
    read_aim,
)
from plinto_core.examination.page import examination_pdf
from plinto_core.examination.reach import solid_lab
from plinto_core.examination.report import examine
from plinto_core.examination.tones import InkTones, ink_tones
from plinto_core.measurement.characterisation import characterisation_from_text
from plinto_core.transform.chain import lab_of_device
from plinto_core.transform.standard_spaces import standard_profile


@pytest.fixture(scope="module")
def press():
    return cmyk_profile(simple_print, lambda lab: np.repeat(1 - lab[:, :1] / 100, 4, axis=1))


def test_rows_name_colours_and_tones_in_any_trade_word() -> None:
    aim = aim_of_rows(
        "  House\n coated ",
        "# from the contract\nwhite 93 0.2 -1.5\nCyan\t55;-37;-50\nyellow + magenta, 47, 66, 48\n"
        "key 80 12.5\nK 50 17\nPlum 2;30,5;40;-10\n",
        "contract 4",
    )
    assert aim.name == "House coated"
    assert aim.colours == {
        "paper": (93, 0.2, -1.5),
        "C": (55, -37, -50),
        "MY": (47, 66, 48),
        "Plum 2": (30.5, 40, -10),
    }
    assert aim.tones == {"K": [(50, 17), (80, 12.5)]}
    again = aim_of_rows(aim.name, aim_rows(aim), aim.source)
    assert again == aim
    assert read_aim(aim.model_dump_json().encode()) == aim


@pytest.mark.parametrize(
    ("said", "name"),
    [("M+Y", "MY"), ("ym", "MY"), ("Black", "K"), ("magenta+cyan", "CM"), ("CC", "CC"), ("Substrate", "paper"), ("Orange", "Orange")],
)  # fmt: skip
def test_a_colour_has_one_name(said, name) -> None:
    assert colour_name(said) == name


@pytest.mark.parametrize(
    ("text", "reason"),
    [
        ("", "no numbers"),
        ("# nothing\n\n", "no numbers"),
        ("C 50", "Row 1"),
        ("paper 93 0 0\n\nC 1 2 3 4", "Row 3"),
        ("93 0 0", "Row 1"),
        ("C 50 1 1\ncyan 51 1 1", "second time"),
        ("K 50 1\nK 50 2", "second time"),
        ("K 100 0", "less than 100"),
        ("C nan 0 0", "finite"),
        ("C 50 900 0", "200"),
    ],
)
def test_rows_that_are_no_aims_are_named(text, reason) -> None:
    with pytest.raises(BadInput, match=reason):
        aim_of_rows("A", text)


@pytest.mark.parametrize(
    "data",
    [b"{", b'{"kind": "policy"}', b'{"kind": "aim", "name": "", "colours": {}}', b"[" * 3000,
     b'{"kind": "aim", "name": "a", "colours": {"C": [1, 2]}}', b"\xff\xfe\x00"],
)  # fmt: skip
def test_files_without_aims_are_refused(data) -> None:
    with pytest.raises(BadInput):
        read_aim(data, "x.json")


def test_each_colour_and_tone_stands_beside_its_aim(press) -> None:
    mine = solid_lab(press)
    off = [mine["C"][0] + 2, mine["C"][1], mine["C"][2]]
    curve = next(t for t in ink_tones(press) if t.name == "K")
    at30 = float(np.interp(30, curve.asked, curve.printed)) - 30
    text = (
        f"paper {' '.join(map(str, mine['paper']))}\nC {' '.join(map(str, off))}\n"
        f"M+Y {' '.join(map(str, mine['MY']))}\nOrange 60 50 60\nK 30 {at30 + 4}\nG 50 10"
    )
    allowed = Tolerances(paper=1, solids=1, overprints=1, tones=3)
    found = against(press, aim_of_rows("House", text, "typed", allowed))
    by = {c.name: c for c in found.colours}
    expected = float(delta_e_2000(np.array([mine["C"]]), np.array([off]))[0])
    assert by["C"].de00 == pytest.approx(expected, abs=0.006)
    assert (by["paper"].holds, by["C"].holds, by["MY"].holds) == (True, False, True)
    assert [(t.ink, t.at, t.holds) for t in found.tones] == [("K", 30, False)]
    assert found.tones[0].missed == pytest.approx(-4, abs=0.01)
    assert found.left == ["Orange", "G"]
    assert found.holds is False
    assert found.increase_50 == {}
    wide = Tolerances(solids=5, tones=4.01)
    assert against(press, aim_of_rows("House", text, "", wide)).holds is True
    assert against(press, aim_of_rows("House", text)).holds is None
    # Overprints have a tolerance of their own: a tight one for solids does not judge them.
    over = aim_of_rows("O", "M+Y 40 0 0", "", Tolerances(solids=0.1))
    assert against(press, over).colours[0].holds is None


def test_a_profile_is_an_aim_for_itself(press) -> None:
    found = against(press, aim_of_profile(press))
    assert {c.de00 for c in found.colours} == {0.0}
    assert max(abs(t.missed) for t in found.tones) <= 0.01
    assert len(found.tones) == 4 * 9
    display = standard_profile("srgb")
    assert against(display, aim_of_profile(display)).solids.keys() == {
        "paper", "R", "G", "B", "black",
    }  # fmt: skip


def test_characterisation_data_become_an_aim_that_their_profile_meets(press) -> None:
    steps = [0, 10, 25, 40, 50, 75, 90, 100]
    alone = [[v if i == k else 0 for i in range(4)] for k in range(4) for v in steps[1:]]
    overs = [[0, 100, 100, 0], [100, 0, 100, 0], [100, 100, 0, 0], [100, 100, 100, 0]]
    fill = [[a, b, 20, 10] for a in range(0, 100, 8) for b in range(0, 100, 8)]
    device = np.array([[0, 0, 0, 0], *alone, *overs, *fill], dtype=float)
    lab = lab_of_device(press, device / 100, intent="absolute")
    rows = "\n".join(
        " ".join(f"{v:.4f}" for v in (*d, *colour)) for d, colour in zip(device, lab, strict=True)
    )
    text = (
        "CGATS.17\nDESCRIPTOR \"Invented set\"\nNUMBER_OF_FIELDS 7\nBEGIN_DATA_FORMAT\n"
        "CMYK_C CMYK_M CMYK_Y CMYK_K LAB_L LAB_A LAB_B\nEND_DATA_FORMAT\n"
        f"NUMBER_OF_SETS {len(device)}\nBEGIN_DATA\n{rows}\nEND_DATA\n"
    )  # fmt: skip
    aim = read_aim(text.encode(), "jobs/invented set.txt")
    assert aim.name == "invented set"
    assert set(aim.colours) == set(solid_lab(press))
    assert [at for at, _ in aim.tones["M"]] == steps[1:-1]
    found = against(press, aim)
    assert max(c.de00 for c in found.colours) < 0.1
    assert max(abs(t.missed) for t in found.tones) < 0.3
    without = characterisation_from_text(text.replace("100.0000", "99.0000"))
    assert set(aim_of_data(without, "A").colours) == {"paper"}
    assert aim_of_data(without, "A").tones == {}


def test_the_report_names_what_misses_its_aim(press) -> None:
    aim = aim_of_rows("House <b>", "paper 10 0 0\nC 50 60", "", Tolerances(paper=2, tones=1))
    found = examine(press, aim=aim)
    assert found.aim is not None
    assert found.aim.holds is False
    assert len(examination_pdf(found, {})) > len(examination_pdf(examine(press), {}))
    assert parse_aim(aim.model_dump(mode="json")) == aim


def test_an_aim_of_a_profile_has_its_name_short_and_on_one_line(coated, monkeypatch) -> None:
    for description, name in (
        ("Coated  stock\n2", "Coated stock 2"), ("A" * 140, "A" * 100), (" ", "A profile"),
    ):  # fmt: skip
        monkeypatch.setattr(type(coated), "description", description)
        assert aim_of_profile(coated).name == name


def test_what_misses_by_just_the_tolerance_holds() -> None:
    curve = InkTones(
        name="C", asked=[0, 100], printed=[0, 126], increase_50=13, increase_max=13, increase_at=50,
        vanishes=None,
    )  # fmt: skip
    assert [aims._tone(curve, 50.0, 10.0, allowed).holds for allowed in (3.0, 2.99, None)] == [
        True, False, None,
    ]  # fmt: skip
    assert aims._tone(curve, 50.0, 16.0, 3.0).holds, "too little as well"
    assert not aims._tone(curve, 50.0, 16.5, 3.0).holds
    for name, allowed in (
        ("paper", Tolerances(paper=3)), ("C", Tolerances(solids=3)), ("CM", Tolerances(overprints=3)),
    ):  # fmt: skip
        held = [aims._colour(name, (1,) * 3, (1,) * 3, e, allowed).holds for e in (3.0, 3.01)]
        assert held == [True, False]
    others = Tolerances(paper=3, overprints=3)
    assert aims._colour("C", (1,) * 3, (1,) * 3, 9, others).holds is None
