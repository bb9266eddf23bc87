"""Query parameters that are described and read in one place: numbers between bounds, one of several words."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Generic, TypeVar

from drf_spectacular.utils import OpenApiParameter
from rest_framework import exceptions
from rest_framework.request import Request

LARGEST_ID = 2**31
Word = TypeVar("Word", bound=str)


class Number(OpenApiParameter):
    """A number from `low` to `high`; one that must be given where it has no default.

    description : says the unit.
    """

    def __init__(
        self, name: str, low: float, high: float, default: float | None = None, *,
        whole: bool = False, needed: bool | None = None, description: str = "",
    ) -> None:  # fmt: skip
        schema = {"type": "integer" if whole else "number", "minimum": low, "maximum": high}
        if default is not None:
            schema["default"] = default
        needed = default is None if needed is None else needed
        super().__init__(name, schema, required=needed, description=description)
        self.low, self.high, self.usual, self.whole = low, high, default, whole

    def of(self, request: Request, usual: float | None = None) -> float:
        """What a request says, else `usual`, else the default; raises ValidationError."""
        usual = self.usual if usual is None else usual
        given = request.query_params.get(self.name, usual)
        if given is None:
            raise exceptions.ValidationError(f"{self.name} must be given.")
        try:
            value = float(given)
        except ValueError as error:
            raise exceptions.ValidationError(f"{self.name} is not a number.") from error
        if not self.low <= value <= self.high:
            raise exceptions.ValidationError(
                f"{self.name} must lie between {self.low:g} and {self.high:g}."
            )
        if self.whole and value != int(value):
            raise exceptions.ValidationError(f"{self.name} is a whole number.")
        return value

    def given(self, request: Request) -> float | None:
        """What a request says, None where it says nothing; raises ValidationError."""
        return self.of(request) if self.name in request.query_params else None


class Choice(OpenApiParameter, Generic[Word]):
    """One of several words."""

    def __init__(
        self, name: str, choices: Sequence[Word], usual: Word | None = None, description: str = ""
    ) -> None:
        super().__init__(name, str, enum=choices, default=usual, description=description)
        self.choices, self.usual = choices, usual

    def given(self, request: Request) -> Word | None:
        """What a request says, else the default or None; an empty word says nothing. Raises ValidationError."""
        said = request.query_params.get(self.name)
        if not said:
            return self.usual
        for word in self.choices:
            if word == said:
                return word
        raise exceptions.ValidationError(f"{self.name} must be one of {', '.join(self.choices)}.")

    def of(self, request: Request) -> Word:
        """What a request says, else the default; raises ValidationError."""
        word = self.given(request)
        if word is None:
            raise exceptions.ValidationError(f"{self.name} must be given.")
        return word


def row_id(name: str) -> Number:
    """The number of a row."""
    return Number(name, 0, LARGEST_ID, whole=True)
