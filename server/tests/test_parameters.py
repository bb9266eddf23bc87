"""Query parameters: what is described is what is read."""

from __future__ import annotations

from typing import Any

import pytest
from rest_framework.exceptions import ValidationError
from rest_framework.request import Request
from rest_framework.test import APIRequestFactory

from plinto_server.parameters import Choice, Number, row_id

LEVEL = Number("level", -2, 50, 6, description="dE00")
NEEDED = Number("level", 0.5, 50)
SIDE = Choice("side", ("meant", "printed"), "printed")


def asked(**query: Any) -> Request:
    return Request(APIRequestFactory().get("/", query))


@pytest.mark.parametrize(("given", "read"), [("-2", -2), ("50", 50), ("7.25", 7.25), ("1e1", 10)])
def test_numbers_between_their_bounds(given, read) -> None:
    assert LEVEL.of(asked(level=given)) == read == LEVEL.given(asked(level=given))


@pytest.mark.parametrize(
    ("given", "why"),
    [
        ("-2.001", "level must lie between -2 and 50."), ("50.001", "level must lie between -2 and 50."),
        ("nan", "level must lie between -2 and 50."), ("inf", "level must lie between -2 and 50."),
        ("six", "level is not a number."), ("", "level is not a number."),
    ],
)  # fmt: skip
def test_other_numbers_are_refused(given, why) -> None:
    with pytest.raises(ValidationError, match=why):
        LEVEL.of(asked(level=given))
    with pytest.raises(ValidationError, match=why):
        LEVEL.given(asked(level=given))


@pytest.mark.parametrize(("given", "read"), [("3", 3), ("3.0", 3), ("3.7", None), ("0.5", None)])
def test_counts_are_whole(given, read) -> None:
    if read is None:
        with pytest.raises(ValidationError, match="level is a whole number"):
            Number("level", 0, 9, whole=True).of(asked(level=given))
    else:
        assert Number("level", 0, 9, whole=True).of(asked(level=given)) == read


def test_what_is_not_said() -> None:
    assert LEVEL.of(asked()) == 6
    assert LEVEL.of(asked(), 40) == 40
    assert LEVEL.given(asked()) is None
    assert NEEDED.of(asked(), 3) == 3
    with pytest.raises(ValidationError, match="level must be given"):
        NEEDED.of(asked())
    assert SIDE.of(asked()) == SIDE.given(asked()) == SIDE.of(asked(side="")) == "printed"
    assert Choice("side", ("meant",)).given(asked()) is None
    with pytest.raises(ValidationError, match="side must be given"):
        Choice("side", ("meant",)).of(asked())


def test_words_are_those_of_the_choice() -> None:
    assert SIDE.of(asked(side="meant")) == "meant"
    with pytest.raises(ValidationError, match="side must be one of meant, printed"):
        SIDE.of(asked(side="other"))


def test_what_is_described() -> None:
    level = {"type": "number", "minimum": -2, "maximum": 50, "default": 6}
    assert (LEVEL.type, LEVEL.required, NEEDED.required) == (level, False, True)
    assert NEEDED.type == {"type": "number", "minimum": 0.5, "maximum": 50}
    assert not Number("w", 0, 1, needed=False).required
    row = {"type": "integer", "minimum": 0, "maximum": 2147483648}
    assert (row_id("job").type, row_id("job").required) == (row, True)
    assert (SIDE.enum, SIDE.default, SIDE.required) == (("meant", "printed"), "printed", False)
