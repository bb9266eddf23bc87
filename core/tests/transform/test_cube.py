from __future__ import annotations

import numpy as np
import pytest

from plinto_core.errors import BadInput
from plinto_core.transform.cube import parse_cube, read_cube


def cube(function, size: int = 5, head: str = "") -> bytes:
    rows = []
    axis = np.linspace(0, 1, size)
    for b in axis:
        for g in axis:
            for r in axis:
                rows.append(" ".join(f"{v:.6f}" for v in function(r, g, b)))
    return f'TITLE "trial"\n{head}LUT_3D_SIZE {size}\n# rows\n'.encode() + "\n".join(rows).encode()


def test_red_varies_fastest_and_values_between_nodes_are_interpolated() -> None:
    table = parse_cube(cube(lambda r, g, b: (r, g / 2, 1 - b)))
    assert table.title == "trial"
    colours = np.random.default_rng(1).random((50, 3))
    wanted = colours * [1, 0.5, -1] + [0, 0, 1]
    assert table.apply(colours) == pytest.approx(wanted, abs=1e-6)


def test_one_dimensional_tables_and_domains() -> None:
    table = parse_cube(
        b"LUT_1D_SIZE 3\nDOMAIN_MIN 0 0 0\nDOMAIN_MAX 2 2 2\n0 0 0\n.5 .25 0\n1 1 1\n"
    )
    assert table.apply(np.array([[1.0, 1.0, 0.5]])) == pytest.approx(np.array([[0.5, 0.25, 0.0]]))


@pytest.mark.parametrize(
    "data",
    [b"", b"LUT_3D_SIZE 2\n0 0 0\n", b"LUT_3D_SIZE 999\n", b"LUT_3D_SIZE two\n", b"\xff\xfe\x00",
     b"LUT_1D_SIZE 2\n0 0\n1 1\n", b"LUT_1D_SIZE 2\n0 0 nan\n1 1 1\n", b"LUT_1D_SIZE 2\nDOMAIN_MAX 0 0 0\n0 0 0\n1 1 1\n",
     b"LUT_1D_SIZE 2\nDOMAIN_MAX 1\n0 0 0\n1 1 1\n"],
)  # fmt: skip
def test_what_is_no_table_is_refused_with_a_sentence(data) -> None:
    with pytest.raises(BadInput):
        parse_cube(data)


def test_words_that_are_not_known_are_passed_over() -> None:
    known = parse_cube(b"LUT_1D_SIZE 2\n0 0 0\n1 1 1\n")
    more = parse_cube(b"LUT_1D_SIZE 2\nLUT_IN_VIDEO_RANGE\nauthor 7 8 9\n0 0 0\n1 1 1\n")
    assert np.array_equal(known.apply(np.eye(3)), more.apply(np.eye(3)))


def test_a_missing_file(tmp_path) -> None:
    with pytest.raises(BadInput, match="cannot be read"):
        read_cube(tmp_path / "no.cube")


def test_a_domain_that_begins_below_nought() -> None:
    table = parse_cube(b"LUT_1D_SIZE 2\nDOMAIN_MIN -1 0.5 0\nDOMAIN_MAX 3 1 4\n0 0 0\n1 1 1\n")
    found = table.apply(np.array([[1.0, 0.75, 1.0], [0.0, 0.25, 0.5]]))
    assert found == pytest.approx(np.array([[0.5, 0.5, 0.25], [0.25, 0.0, 0.125]]))


@pytest.mark.parametrize(
    "head",
    [
        "",
        "LUT_1D_SIZE 1",
        "LUT_3D_SIZE 1",
        "LUT_1D_SIZE 70000",
        "LUT_3D_SIZE 300",
        "LUT_1D_SIZE -2",
    ],
)
def test_a_size_outside_what_there_is(head) -> None:
    with pytest.raises(BadInput) as caught:
        parse_cube(f"{head}\n0 0 0\n1 1 1\n".encode())
    assert caught.value.said.code == "transform.cube-size"
