"""Ink rules: TAC, limits per ink, black generation and black protection in one named set."""

from __future__ import annotations

from typing import Any, Literal

import numpy as np
from pydantic import BaseModel, ConfigDict, Field, field_validator

from plinto_core.arrays import Floats
from plinto_core.fields import checked
from plinto_core.words import say

Method = Literal["gcr", "ucr", "neutral", "none", "maximum"]
INKS = ("C", "M", "Y", "K")
"""The inks of four-colour printing; presses of other inks have the names of their profiles."""
MOST_NAME = 32
"""Characters of an ink's name, as profiles hold them."""


class BlackRule(BaseModel):
    """How black is made. Percentages 0..100.

    method : grey component replacement, under colour removal (near-neutral shadows), black in
    neutral colours only, none, or as much as black can do alone.

    strength : share of the grey component that black replaces in the lighter tones;
    start : darkness (0 paper, 100 darkest grey) below which no black is used;
    limit : the most black; reach : chroma C*ab at which the rule has faded to 1/e.
    """

    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False)

    method: Method = "gcr"
    strength: float = Field(50.0, ge=0, le=100)
    start: float = Field(20.0, ge=0, le=100)
    limit: float = Field(100.0, ge=0, le=100)
    reach: float = Field(45.0, ge=1, le=200)


class Protection(BaseModel):
    """Black that stays black ink alone. It wins over the method of black and over every limit of
    black; only the TAC stands above it.

    pure_black : where a CMYK source has black ink alone, its tone value stays, exactly;
    neutral_to_black : equal R, G and B, and grey pictures, print in black alone, the source's black
    as solid black; black_text : R = G = B = 0 prints as solid black alone.
    """

    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False)

    pure_black: bool = True
    neutral_to_black: bool = False
    black_text: bool = False


class InkRules(BaseModel):
    """One set of ink rules; every key of its JSON form is optional.

    Without a black rule a re-separation keeps the black of the profile, and a build uses the
    rule's defaults.
    """

    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False)

    name: str = Field("", max_length=200)
    tac: float = Field(400.0, ge=50, le=1500)
    limits: dict[str, float] = Field(default_factory=dict)
    black: BlackRule | None = None
    protect: Protection = Protection()

    @field_validator("limits")
    @classmethod
    def _known_inks(cls, limits: dict[str, float]) -> dict[str, float]:
        for name, value in limits.items():
            if not 0 < len(name) <= MOST_NAME or not name.isprintable():
                raise ValueError(say("inks.limit-name", ink=name[:40]))
            if not 0 <= value <= 100:
                raise ValueError(say("inks.limit-range", ink=name))
        return limits

    @property
    def solid_black(self) -> float:
        """Tone value 0..1 of protected solid black: full, unless the TAC itself is lower."""
        return min(1.0, self.tac / 100)

    def ink_limits(self, names: tuple[str, ...] = INKS) -> Floats:
        """Most tone value of each ink, 0..1; black's is the tighter of its two limits."""
        limits = np.array([self.limits.get(n, 100.0) / 100.0 for n in names])
        if "K" in names and self.black is not None:
            k = names.index("K")
            most = 0.0 if self.black.method == "none" else self.black.limit / 100.0
            limits[k] = min(limits[k], most)
        return limits


def parse_ink_rules(data: Any) -> InkRules:
    """Ink rules from decoded JSON; raises BadRecipe with the field at fault."""
    return checked(InkRules, data, "inks.rules-not-usable")
