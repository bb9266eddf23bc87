"""A printing condition without its profile: press, medium, process, ink rules, prices, ticket."""

from __future__ import annotations

from typing import Any, Literal, get_args

from pydantic import BaseModel, ConfigDict, Field, field_validator

from plinto_core.fields import checked
from plinto_core.inks.consumption import Supplies
from plinto_core.inks.rules import InkRules
from plinto_core.words import say

Process = Literal[
    "offset", "flexo", "gravure", "screen", "transfer", "inkjet", "photographic", "display"
]
PROCESSES: tuple[Process, ...] = get_args(Process)


class ConditionTicket(BaseModel):
    """What a print ticket of the condition starts with: drying, and the pause between passes, in minutes; the
    platen gap in millimetres and heat in degrees Celsius, None as they are and off."""

    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False)

    media: str = Field("", max_length=100)
    passes: int = Field(1, ge=1, le=64)
    drying_minutes: float = Field(0, ge=0, le=10_000)
    pause_minutes: float = Field(0, ge=0, le=10_000)
    platen_gap: float | None = Field(None, ge=0, le=50)
    heat: float | None = Field(None, ge=0, le=300)


class PrintingCondition(BaseModel):
    """What is printed on what, and how; only the name is needed.

    mirror : the result is wanted mirrored, for transfer; least_dot : percent below which tints vanish
    on the press, 0 where all print; supplies : what inks and medium take and cost.
    """

    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False)

    name: str = Field(min_length=1, max_length=100)
    printer: str = Field("", max_length=100)
    medium: str = Field("", max_length=100)
    process: Process = "offset"
    mirror: bool = False
    least_dot: float = Field(0, ge=0, le=20)
    ink_rules: InkRules = InkRules()
    supplies: Supplies = Supplies()
    ticket: ConditionTicket = ConditionTicket()
    notes: str = Field("", max_length=2000)

    @field_validator("name", "printer", "medium")
    @classmethod
    def _one_line(cls, text: str) -> str:
        text = " ".join(text.split())
        if any(ord(c) < 32 for c in text):
            raise ValueError(say("conditions.characters"))
        return text

    @field_validator("name")
    @classmethod
    def _named(cls, text: str) -> str:
        if not text:
            raise ValueError(say("conditions.name-needed"))
        return text


def parse_condition(data: Any) -> PrintingCondition:
    """A condition from decoded JSON; raises BadRecipe with the field at fault."""
    return checked(PrintingCondition, data, "conditions.not-usable")
