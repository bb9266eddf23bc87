"""Curves of a profile, sampled and by formula, and the way back (ICC.1:2022, 10.6 and 10.18)."""

from __future__ import annotations

import struct

import numpy as np
import pytest

from plinto_core.errors import BadProfile
from plinto_core.icc.curves import MAX_ENTRIES, ParametricCurve, SampledCurve, parse_curve

X = np.linspace(0, 1, 21)


def para(kind: int, *values: float) -> bytes:
    fixed = np.round(np.array(values) * 65536).astype(">i4").tobytes()
    return b"para" + struct.pack(">IHH", 0, kind, 0) + fixed


FORMS = {
    0: ((2.0,), lambda x: x**2),
    1: ((2.0, 1.25, -0.25), lambda x: np.where(x >= 0.2, np.maximum(1.25 * x - 0.25, 0) ** 2, 0)),
    2: ((2.0, 1.0, -0.25, 0.125), lambda x: np.where(x >= 0.25, np.maximum(x - 0.25, 0) ** 2 + 0.125, 0.125)),
    3: ((2.0, 0.5, 0.5, 0.25, 0.5), lambda x: np.where(x >= 0.5, (0.5 * x + 0.5) ** 2, 0.25 * x)),
    4: ((2.0, 0.5, 0.5, 0.25, 0.5, -0.0625, 0.125), lambda x: np.where(x >= 0.5, (0.5 * x + 0.5) ** 2 - 0.0625, 0.25 * x + 0.125)),
}  # fmt: skip


@pytest.mark.parametrize("kind", FORMS)
def test_every_form_by_its_formula_and_back(kind) -> None:
    parameters, formula = FORMS[kind]
    curve, size = parse_curve(b"xxxx" + para(kind, *parameters), 4)
    assert size == 12 + 4 * len(parameters)
    assert isinstance(curve, ParametricCurve)
    assert (curve.kind, curve.parameters) == (kind, parameters)
    assert curve(X) == pytest.approx(formula(X))
    assert curve.pack() == para(kind, *parameters)
    inner = X[(X > 0.55) | ((X < 0.45) & (kind in (0, 3, 4)))]
    assert curve.inverse(curve(inner)) == pytest.approx(inner, abs=1e-9)


@pytest.mark.parametrize("kind", [5, 6, 65535])
def test_forms_that_are_none_and_curves_of_other_types(kind) -> None:
    with pytest.raises(BadProfile) as error:
        parse_curve(para(0, 1.0)[:8] + struct.pack(">H", kind) + bytes(60))
    assert error.value.said.code == "icc.curve-form"
    with pytest.raises(BadProfile) as error:
        parse_curve(b"text" + bytes(20))
    assert error.value.said.code == "icc.curve-type"


def test_formulas_without_a_way_back_answer_with_nought() -> None:
    assert ParametricCurve(0, (0.0,)).inverse(X).tolist() == [0] * 21
    assert ParametricCurve(1, (2.0, 0.0, 0.5)).inverse(X).tolist() == [0] * 21
    assert np.isfinite(ParametricCurve(1, (2.0, 0.0, 0.5))(X)).all()
    assert np.isfinite(ParametricCurve(0, (-1.0,))(X)).all()
    # A flat foot has one code for many values: the one where the rise begins, or none.
    assert ParametricCurve(2, FORMS[2][0]).inverse(np.array([0.0625])).tolist() == [0]


def curv(*values: int) -> bytes:
    return b"curv" + struct.pack(f">II{len(values)}H", 0, len(values), *values)


def test_tables_of_none_one_and_many_entries() -> None:
    straight, size = parse_curve(curv())
    assert size == 12
    assert straight(X) == pytest.approx(X)
    gamma, size = parse_curve(curv(640))
    assert size == 14
    assert gamma(X) == pytest.approx(X**2.5)
    table, size = parse_curve(curv(0, 13107, 65535))
    assert size == 18
    assert table(np.array([0.25, 0.5, 0.75])) == pytest.approx([0.1, 0.2, 0.6])
    assert table.inverse(np.array([0.1, 0.2, 0.6, -1, 2])) == pytest.approx([0.25, 0.5, 0.75, 0, 1])
    assert SampledCurve(np.array([0.3]))(X).tolist() == [0.3] * 21
    assert parse_curve(SampledCurve(np.array([0, 0.2, 1.0])).pack())[0](
        np.array([0.5])
    ) == pytest.approx([0.2], abs=1e-5)
    assert SampledCurve(np.linspace(0, 1, 9)).pack() == b"curv" + bytes(8)
    assert len(SampledCurve(np.array([-0.5, 0.5, 2.0])).pack()) == 12 + 6
    claim = b"curv" + struct.pack(">II", 0, MAX_ENTRIES + 1)
    with pytest.raises(BadProfile) as error:
        parse_curve(claim)
    assert error.value.said.code == "icc.curve-entries"


@pytest.mark.parametrize(
    ("table", "asked", "wanted"),
    [
        ([1, 0.5, 0], [0.25, 0.5, 0.75], [0.75, 0.5, 0.25]),
        ([0, 0, 0.5, 1, 1], [0, 0.25, 1], [0.25, 0.375, 0.75]),
        ([1, 1, 0.5, 0, 0], [1, 0.75, 0], [0.25, 0.375, 0.75]),
        ([0.4, 0.4], [0.4, 0.1], [0, 0]),
        ([0, 0.6, 0.4, 1], [0.3, 0.6, 0.8], [1 / 6, 2 / 3, 5 / 6]),
        ([0, 0.5, 0.5, 0.5, 1], [0.25, 0.5, 0.75], [0.125, 0.75, 0.875]),
    ],
)
def test_falling_flat_and_turning_tables_have_one_way_back(table, asked, wanted) -> None:
    assert SampledCurve(np.array(table, float)).inverse(np.array(asked)) == pytest.approx(wanted)


def test_a_way_back_leads_to_where_it_came_from() -> None:
    """Of tables in few steps too, which are level between them, as those of eight bits are."""
    for table in (
        np.round(np.linspace(0, 1, 256) ** 2.2 * 255) / 255,
        np.array([0, 0.2, 0.2, 0.2, 0.7, 0.7, 1.0]),
    ):
        curve = SampledCurve(table)
        y = np.linspace(0, 1, 1001)
        assert curve(curve.inverse(y)) == pytest.approx(y, abs=1e-12)
