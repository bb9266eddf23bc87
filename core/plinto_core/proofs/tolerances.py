"""How far a proof may miss: named, editable sets."""

from __future__ import annotations

from typing import Any

from pydantic import BaseModel, ConfigDict, Field, field_validator

from plinto_core.fields import checked
from plinto_core.words import say

_Limit = Field(None, ge=0, le=100)


class ProofTolerances(BaseModel):
    """What is judged, and how far each may be missed; None is not judged. CIEDE2000 but where said.

    paper : the paper patch; mean, p95, most : of all patches; solids : the greatest of the solids;
    solid_hue : CIELAB hue difference (ΔH*ab), the greatest of the chromatic solids; greys : chroma
    difference (ΔCh) of the grey patches in the mean.
    """

    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False)

    name: str = Field(min_length=1, max_length=100)
    paper: float | None = _Limit
    mean: float | None = _Limit
    p95: float | None = _Limit
    most: float | None = _Limit
    solids: float | None = _Limit
    solid_hue: float | None = _Limit
    greys: float | None = _Limit

    @field_validator("name")
    @classmethod
    def _named(cls, text: str) -> str:
        text = " ".join(text.split())
        if not text:
            raise ValueError(say("proofs.name-needed"))
        return text


LIMITS = ("paper", "mean", "p95", "most", "solids", "solid_hue", "greys")
STARTING_SETS = (
    ProofTolerances(
        name="Contract proof", paper=3.0, mean=2.5, most=5.0, solids=3.0, solid_hue=2.5, greys=2.0
    ),
    ProofTolerances(
        name="Validation print", paper=3.5, mean=3.5, p95=6.0, solids=4.0, solid_hue=3.5, greys=3.0
    ),
)
"""Numbers to start from, for what ISO 12647-7 and ISO 12647-8 ask of; who has agreed on a standard
compares them with its text and edits them."""


def parse_tolerances(data: Any) -> ProofTolerances:
    """A set from decoded JSON; raises BadRecipe with the field at fault."""
    return checked(ProofTolerances, data, "proofs.tolerances-not-usable")
