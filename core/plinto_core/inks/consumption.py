"""What a run takes: ink in millilitres and cost, from coverage, inks and medium."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from pydantic import BaseModel, ConfigDict, Field

from plinto_core.errors import BadInput
from plinto_core.words import say


class InkSupply(BaseModel):
    """film : ml that a full tint lays on a square metre; price : currency units a litre."""

    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False)

    film: float = Field(ge=0, le=1000)
    price: float = Field(ge=0, le=1_000_000)


class Supplies(BaseModel):
    """The inks and the medium of a condition; price : currency units a square metre."""

    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False)

    inks: dict[str, InkSupply] = Field(default_factory=dict)
    medium_price: float = Field(0, ge=0, le=1_000_000)
    currency: str = Field("EUR", max_length=8)


@dataclass(frozen=True)
class Consumption:
    """millilitres, ink_cost : by ink for one square metre; area : square metres of one copy."""

    millilitres: dict[str, float]
    ink_cost: dict[str, float]
    medium_cost: float
    area: float | None
    copies: int
    currency: str

    @property
    def cost_per_square_metre(self) -> float:
        return sum(self.ink_cost.values()) + self.medium_cost

    @property
    def millilitres_of_run(self) -> dict[str, float] | None:
        """Ink for all copies; None where the print has no size."""
        if self.area is None:
            return None
        return {n: v * self.area * self.copies for n, v in self.millilitres.items()}

    @property
    def cost_of_run(self) -> float | None:
        if self.area is None:
            return None
        return self.cost_per_square_metre * self.area * self.copies


def consumption(
    coverage: Mapping[str, float],
    supplies: Supplies,
    *,
    size_mm: tuple[float, float] | None,
    copies: int = 1,
) -> Consumption:
    """From mean coverage (0..1 by ink) over the picture. Tone values are taken as the share of a
    full film: what the press's own tone value increase adds is optical and takes no ink."""
    if any(not 0 <= c <= 1.0001 for c in coverage.values()):
        raise BadInput(say("inks.coverage-range"))
    known = {n: supplies.inks[n] for n in coverage if n in supplies.inks}
    millilitres = {n: coverage[n] * ink.film for n, ink in known.items()}
    return Consumption(
        millilitres,
        {n: millilitres[n] / 1000 * ink.price for n, ink in known.items()},
        supplies.medium_price,
        size_mm[0] * size_mm[1] / 1e6 if size_mm else None,
        copies,
        supplies.currency,
    )
