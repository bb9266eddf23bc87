"""Data from outside as a pydantic model, refused in words that name the field at fault."""

from __future__ import annotations

from typing import Any, Literal, TypeVar

from pydantic import BaseModel, ConfigDict, ValidationError

from plinto_core.errors import BadRecipe
from plinto_core.words import Said, say

Model = TypeVar("Model", bound=BaseModel)


class Report(BaseModel):
    """What long work says of itself: written once, kept, and read again by later versions.

    version : raised when a reader of the former one would misread it. Fields that came later have a
    value that says "not measured", so that reports from before them can be read.
    """

    model_config = ConfigDict(frozen=True)

    version: Literal[1] = 1


class Part(BaseModel):
    """A part of a report."""

    model_config = ConfigDict(frozen=True)


def checked(model: type[Model], data: Any, wording: str) -> Model:
    """Decoded JSON as a model; raises BadRecipe with the sentence `wording`, made of `place` and `why`."""
    try:
        return model.model_validate(data)
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(str(p) for p in first["loc"]) or "the whole"
        raise BadRecipe(say(wording, place=where, why=why(first))) from None


def why(problem: Any) -> str:
    """What one of pydantic's errors says; a sentence of ours with its code."""
    own = problem.get("ctx", {}).get("error")
    if isinstance(own, ValueError) and own.args and isinstance(own.args[0], Said):
        return own.args[0]
    return str(problem["msg"]).removeprefix("Value error, ")
