"""Data from outside as a pydantic model, refused in words that name the field at fault."""

from __future__ import annotations

from typing import Any, TypeVar

from pydantic import BaseModel, ValidationError

from plinto_core.errors import BadRecipe

Model = TypeVar("Model", bound=BaseModel)


def checked(model: type[Model], data: Any, what: str, *, remedy: str = "") -> Model:
    """Decoded JSON as a model; raises BadRecipe. `what` : its name with its verb, "The recipe is"."""
    try:
        return model.model_validate(data)
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(str(p) for p in first["loc"]) or "the whole"
        said = first["msg"].removeprefix("Value error, ")
        raise BadRecipe(f"{what} not usable: {where}: {said}.", remedy=remedy) from None
