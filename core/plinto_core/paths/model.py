"""A colour path as data: its steps by reference, with an intent and BPC into each."""

from __future__ import annotations

from typing import Annotated, Any, Literal, get_args

from pydantic import BaseModel, ConfigDict, Field, StringConstraints

from plinto_core.fields import checked
from plinto_core.icc.spaces import Intent

MOST_STEPS = 12
StepKind = Literal["profile", "condition", "table", "job", "inks", "reversal", "lab"]
STEP_KINDS: tuple[StepKind, ...] = get_args(StepKind)


class PathStepData(BaseModel):
    """kind : a profile, a printing condition, a .cube table, the recipe of a job, a condition separated anew
    by named ink rules, a reversal ("rgb", "cmyk" or "grey"), or Lab; ref : its reference as
    the caller resolves it, empty for Lab; intent, bpc : how colours come into it."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    kind: StepKind
    ref: Annotated[str, StringConstraints(max_length=200)] = ""
    intent: Intent = "relative"
    bpc: bool = True


class ColourPath(BaseModel):
    """name : as it is called; steps : in the order colours go through them."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    version: Literal[1] = 1
    name: Annotated[str, StringConstraints(max_length=100, strip_whitespace=True)] = ""
    steps: Annotated[tuple[PathStepData, ...], Field(min_length=1, max_length=MOST_STEPS)]


def parse_path(data: Any) -> ColourPath:
    """A path from decoded JSON; raises BadRecipe with the field at fault."""
    return checked(ColourPath, data, "paths.not-usable")
