"""Tone curves and .cube tables at their edges; black points of presses made by hand."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest
from handmade import cmyk_profile, ink_profile, linear_press, simple_print
from kept import as_kept
from pydantic import TypeAdapter, ValidationError

from plinto_core.colorimetry.cielab import D50, Lab_to_XYZ
from plinto_core.errors import BadInput
from plinto_core.icc import Profile
from plinto_core.icc.write import write_profile
from plinto_core.transform import cube as cubes
from plinto_core.transform.black_point import (
    PERCEPTUAL_BLACK,
    _vertex,
    compensation,
    destination_black_point,
    source_black_point,
)
from plinto_core.transform.cube import format_cube, parse_cube, read_cube
from plinto_core.transform.standard_spaces import SPACES, standard_profile
from plinto_core.transform.tone_curve import Points, apply_curve

POINTS = TypeAdapter(Points)


@pytest.mark.parametrize(
    ("points", "usable"),
    [
        ([(0, 0)], False),
        ([(0, 0), (100, 100)], True),
        ([(i * 6, i) for i in range(16)], True),
        ([(i * 6, i) for i in range(17)], False),
        ([(-0.1, 0), (100, 100)], False),
        ([(0, -0.1), (100, 100)], False),
        ([(0, 0), (100.1, 100)], False),
        ([(0, 0), (100, 100.1)], False),
        ([(10, 0), (10.25, 100)], True),
        ([(10, 0), (10.24, 100)], False),
        ([(50, 0), (20, 100)], False),
    ],
)
def test_points_of_a_curve(points, usable) -> None:
    if usable:
        assert POINTS.validate_python(points)
    else:
        with pytest.raises(ValidationError):
            POINTS.validate_python(points)


def test_curves_are_level_beyond_their_ends_and_meet_every_point() -> None:
    points = ((10.0, 20.0), (40.0, 30.0), (60.0, 70.0), (90.0, 60.0))
    found = apply_curve(points, np.array([0, 0.05, 0.1, 0.4, 0.6, 0.9, 0.95, 1]))
    assert found == pytest.approx([0.2, 0.2, 0.2, 0.3, 0.7, 0.6, 0.6, 0.6])
    # Between two points it goes no further than they do, and straight lines stay straight.
    assert np.all(np.diff(apply_curve(points, np.linspace(0.4, 0.6, 50))) >= 0)
    assert apply_curve(
        ((0.0, 0.0), (30.0, 30.0), (100.0, 100.0)), np.array([0.15, 0.7])
    ) == pytest.approx([0.15, 0.7])


def rows(size: int, dimensions: int = 1) -> str:
    return "\n".join("0.5 0.25 1" for _ in range(size**dimensions))


def refused(text: str) -> str:
    with pytest.raises(BadInput) as error:
        parse_cube(text.encode())
    return error.value.said.code.removeprefix("transform.")


@pytest.mark.parametrize(
    ("text", "code"),
    [
        (rows(2), "cube-size"),
        (f"LUT_1D_SIZE 1\n{rows(1)}", "cube-size"),
        (f"LUT_2D_SIZE 2\n{rows(4)}", "cube-size"),
        ("LUT_1D_SIZE 65537\n", "cube-size"),
        ("LUT_1D_SIZE 65536\n", "cube-rows"),
        ("LUT_3D_SIZE 130\n", "cube-size"),
        ("LUT_3D_SIZE 129\n", "cube-rows"),
        (f"LUT_1D_SIZE 3\n{rows(2)}", "cube-rows"),
        (f"LUT_1D_SIZE 2\n{rows(3)}", "cube-rows"),
        (f"LUT_3D_SIZE 2\n{rows(2)}", "cube-rows"),
        ("LUT_1D_SIZE 2\n0 0\n1 1\n", "cube-rows"),
        ("LUT_1D_SIZE 2\n0 0 0 0\n1 1 1 1\n", "cube-rows"),
        ("LUT_1D_SIZE 2\n0 0 0\n1 1 nan\n", "cube-not-numbers"),
        (f"LUT_1D_SIZE 2\nDOMAIN_MIN 0 0\n{rows(2)}", "cube-domain"),
        (f"LUT_1D_SIZE 2\nDOMAIN_MAX 0 1 1\n{rows(2)}", "cube-domain"),
        (f"LUT_1D_SIZE 2\nDOMAIN_MIN 0 0 2\n{rows(2)}", "cube-domain"),
        (f"LUT_1D_SIZE 2\nDOMAIN_MIN 1 1 1\nDOMAIN_MAX 1.0000005 2 2\n{rows(2)}", "cube-domain"),
        (f"LUT_1D_SIZE\n{rows(2)}", "cube-line"),
        (f"LUT_1D_SIZE x\n{rows(2)}", "cube-line"),
        ("LUT_1D_SIZE 2\n0 0 0\n.1 0,2 0\n", "cube-line"),
    ],
)  # fmt: skip
def test_tables_that_cannot_be_read(text, code) -> None:
    assert refused(text) == code


def test_the_line_at_fault_is_counted_with_empty_ones() -> None:
    with pytest.raises(BadInput) as error:
        parse_cube(b"# note\n\nLUT_1D_SIZE 2\n0 0 0\n1 - 1\n")
    assert error.value.said.values["number"] == 5


def test_titles_notes_and_words_of_other_makers_are_passed_over() -> None:
    made = parse_cube(
        b'TITLE "A b"\nlut_1d_size 2 # two\nLUT_1D_INPUT_RANGE 0 1\nDOMAIN_MIN 0 0 0.5\n'
        b"DOMAIN_MAX 1 2 1\n0 0 0\n1 0.5 1 # last\n"
    )
    assert (made.title, made.size) == ("A b", 2)
    found = made.apply(np.array([[0.5, 1.0, 0.75], [2.0, -1.0, 0.2]]))
    assert found == pytest.approx(np.array([[0.5, 0.25, 0.5], [1, 0, 0]]))
    assert parse_cube(f"TITLE\nLUT_1D_SIZE 2\n{rows(2)}".encode()).title == ""
    assert len(parse_cube(f"TITLE {'x' * 300}\nLUT_1D_SIZE 2\n{rows(2)}".encode()).title) == 200


def test_results_are_held_within_nought_and_one() -> None:
    made = parse_cube(b"LUT_1D_SIZE 2\n-1 -1 -1\n2 2 2\n")
    assert made.apply(np.full((1, 3), 0.5)) == pytest.approx(0.5)
    assert made.apply(np.array([[0.0, 0.1, 1.0]])).tolist() == [[0, 0, 1]]
    cubic = parse_cube(("LUT_3D_SIZE 2\n" + "-1 2 0.5\n" * 8).encode())
    assert cubic.apply(np.array([[0.3, 0.4, 0.5]])).tolist() == [[0, 1, 0.5]]


def test_what_is_written_is_read_as_it_was() -> None:
    values = np.random.default_rng(2).random((4, 4, 4, 3))
    text = format_cube('A "quoted"\nname', values)
    again = parse_cube(text.encode())
    assert again.title == "A 'quoted' name"
    assert again.values == pytest.approx(values, abs=5e-7)
    assert again.digest != parse_cube(text.replace("0.", ".", 1).encode()).digest


def test_files_of_more_than_120_megabytes_are_not_read(tmp_path, monkeypatch) -> None:
    path = tmp_path / "a.cube"
    path.write_text(f"LUT_1D_SIZE 2\n{rows(2)}")
    assert cubes._MAX_BYTES == 120 * 1024 * 1024
    monkeypatch.setattr(cubes, "_MAX_BYTES", path.stat().st_size)
    assert read_cube(path).size == 2
    monkeypatch.setattr(cubes, "_MAX_BYTES", path.stat().st_size - 1)
    with pytest.raises(BadInput) as error:
        read_cube(path)
    assert error.value.said.code == "transform.cube-large"


def test_the_foot_of_a_parabola() -> None:
    """ISO 18619, 6.3.4: where the fitted parabola is nought, held to L* 0 to 50."""
    x = np.linspace(10, 30, 9)
    for roots, wanted in (((5, -7), 5), ((12, 3), 12), ((-2, -9), 0), ((70, 60), 50)):
        a, b = roots
        assert _vertex(x, (x - a) * (x - b)) == pytest.approx(wanted, abs=1e-6)
    # One that bends the other way has its lower nought first.
    assert _vertex(x, -(x - 45) * (x - 8)) == pytest.approx(8, abs=1e-6)
    assert _vertex(x, x**2 + 1) == 0
    assert _vertex(x, 3 * x - 6) == 0
    assert _vertex(x[:3], x[:3] ** 2) == 0


def test_compensation_is_linear_in_xyz_from_black_to_black_and_white_to_white() -> None:
    first, second = np.array([0.01, 0.02, 0.005]), np.array([0.03, 0.025, 0.03])
    scale, offset = compensation(first, second)
    assert first * scale + offset == pytest.approx(second)
    assert D50 * scale + offset == pytest.approx(D50, abs=1e-9)
    assert [v.tolist() for v in compensation(first, first.copy())] == [[1] * 3, [0] * 3]


def darkest_at(lightness: float, back: float) -> Profile:
    """A press whose black is L* `lightness` at 100 % and whose tables print no more than `back` of it."""
    return cmyk_profile(
        lambda inks: np.stack([100 - (100 - lightness) * inks[:, 3], 5 * inks[:, 1], 0 * inks[:, 0]], axis=1),
        lambda lab: np.stack(
            [0 * lab[:, 0], 0 * lab[:, 0], 0 * lab[:, 0], np.clip((100 - lab[:, 0]) / (100 - lightness), 0, back)], axis=1
        ),
    )  # fmt: skip


def as_version_4(profile: Profile) -> Profile:
    tags = {name: profile.raw(name) for name in profile.directory}
    return Profile(write_profile(replace(profile.header, version=(4, 3, 0)), tags))


def test_a_press_is_as_dark_as_its_tables_print() -> None:
    profile = darkest_at(10, 0.8)
    printed = Lab_to_XYZ(np.array([100 - 90 * 0.8, 0, 0]))
    assert source_black_point(profile, 1) == pytest.approx(printed, rel=0.02)
    # By full inks, for the intents that go by them: magenta leaves 5 of a*.
    assert source_black_point(profile, 0) == pytest.approx(
        Lab_to_XYZ(np.array([10.0, 5, 0])), rel=0.02
    )
    assert source_black_point(profile, 3).tolist() == [0, 0, 0]
    assert destination_black_point(profile, 3).tolist() == [0, 0, 0]


@pytest.mark.parametrize("darkest", [40, 60])
def test_a_black_lighter_than_50_is_none(darkest) -> None:
    profile = darkest_at(darkest, 1.0)
    black = source_black_point(profile, 0)
    assert (black[1] > 0.05) == (darkest == 40)
    assert source_black_point(profile, 1)[1] <= Lab_to_XYZ(np.array([50.0, 0, 0]))[1] * 1.001


def test_the_fourth_version_names_its_perceptual_black() -> None:
    profile = as_version_4(darkest_at(10, 0.8))
    for intent in (0, 2):
        assert source_black_point(profile, intent) == pytest.approx(PERCEPTUAL_BLACK)
        assert destination_black_point(profile, intent) == pytest.approx(PERCEPTUAL_BLACK)
    assert source_black_point(profile, 1)[1] > 2 * PERCEPTUAL_BLACK[1]


def test_black_points_of_all_kinds() -> None:
    six = ink_profile(
        6, lambda inks: simple_print(inks[:, :4]),
        lambda lab: np.stack([0 * lab[:, 0]] * 3 + [np.clip(0.9 - lab[:, 0] / 100, 0, 0.7)] + [0 * lab[:, 0]] * 2, axis=1),
        back_grid=9, grid=2,
    )  # fmt: skip
    profiles = {
        **{key: standard_profile(key) for key in (*SPACES, "grey")},
        "linear press": linear_press(), "dark": darkest_at(4, 0.97), "light": darkest_at(30, 0.6),
        "held": darkest_at(8, 0.5), "version 4": as_version_4(linear_press()), "six inks": six,
    }  # fmt: skip
    kept = {
        name: [
            [np.round(point(profile, intent) * 1000, 3).tolist() for intent in range(4)]
            for point in (source_black_point, destination_black_point)
        ]
        for name, profile in profiles.items()
    }
    as_kept("black-points", kept, rel=1e-3, abs=0.02)
