"""Which perceptual rendering is wanted: a named kind and three controls."""

from __future__ import annotations

from dataclasses import replace

from pydantic import BaseModel, ConfigDict, Field

from plinto_core.gamut.mapping import LOOKS, Kind, MappingLook


class Perceptual(BaseModel):
    """kind : faithful moves least, vivid keeps most chroma, balanced lies between; colourfulness, contrast :
    percent more or less of either; grey_a, grey_b : a* and b* that middle greys lean by."""

    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False)

    kind: Kind = "balanced"
    colourfulness: float = Field(0.0, ge=-50, le=50)
    contrast: float = Field(0.0, ge=-50, le=50)
    grey_a: float = Field(0.0, ge=-5, le=5)
    grey_b: float = Field(0.0, ge=-5, le=5)

    @property
    def look(self) -> MappingLook:
        """How colours are mapped for it."""
        named = LOOKS[self.kind]
        return replace(
            named,
            chroma=named.chroma * (1.0 + self.colourfulness / 100.0),
            contrast=self.contrast / 100.0,
            greys=(self.grey_a, self.grey_b),
        )
