"""Points of a job as tables for others."""

from __future__ import annotations

from typing import Any

import pytest

from plinto_core.measurement.cgats import parse_cgats
from plinto_server.apps.jobs.swatches import as_cgats


def reading(**inks: float) -> dict[str, Any]:
    return {"inks": inks, "print_lab": (50.04, -3.06, 12.0)}


@pytest.mark.parametrize(
    ("inks", "fields", "row"),
    [
        ({"C": 10.04, "M": 0, "Y": 99.96, "K": 5}, ["CMYK_C", "CMYK_M", "CMYK_Y", "CMYK_K"], ["10.0", "0.0", "100.0", "5.0"]),
        ({"Brick": 10, "K": 20}, [], []), ({"M": 1, "C": 2, "Y": 3, "K": 4}, [], []),
    ],
)  # fmt: skip
def test_points_are_characterisation_data(inks, fields, row) -> None:
    text = as_cgats(['Sky "north"', "b"], [reading(**inks), reading(**inks)])
    (table,) = parse_cgats(text)
    assert table.fields == ["SAMPLE_ID", "SAMPLE_NAME", *fields, "LAB_L", "LAB_A", "LAB_B"]
    assert table.rows[0] == ["1", "Sky 'north'", *row, "50.0", "-3.1", "12.0"]
    assert table.rows[1][:2] == ["2", "b"]
    assert table.keywords["NUMBER_OF_SETS"] == "2"
    assert table.keywords["NUMBER_OF_FIELDS"] == str(len(table.fields))
