"""Corrections as data: what is changed, for which colours, and where in the picture."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, ConfigDict, Field, field_validator, model_validator

from plinto_core.inks.rules import BlackRule
from plinto_core.transform.tone_curve import Points
from plinto_core.words import say

MOST_CORNERS = 200


class _Frozen(BaseModel):
    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False)


class Curves(_Frozen):
    """Tone curves on the source's own numbers; the master acts first, on every channel."""

    master: Points | None = None
    channels: dict[Literal["R", "G", "B", "C", "M", "Y", "K"], Points] = Field(default_factory=dict)


class HueBand(_Frozen):
    """A change of the colours around one hue.

    hue : CIELAB hue angle in degrees; width : degrees to either side at which the change has
    faded out; shift : degrees; chroma, lightness : percent.
    """

    hue: float = Field(ge=0, le=360)
    width: float = Field(40, ge=10, le=120)
    shift: float = Field(0, ge=-45, le=45)
    chroma: float = Field(0, ge=-100, le=100)
    lightness: float = Field(0, ge=-50, le=50)


class ColourRange(_Frozen):
    """Colours near a Lab colour of the source; full within the radius (CIE 1976 units), faded
    out `softness` percent of the radius beyond it."""

    lab: tuple[float, float, float]
    radius: float = Field(20, ge=2, le=150)
    softness: float = Field(60, ge=10, le=300)


class Region(_Frozen):
    """A part of the picture: corners in percent of its width and height.

    softness : width of the edge in percent of the picture's shorter side; outside : everything
    but the part.
    """

    corners: tuple[tuple[float, float], ...]
    softness: float = Field(1.0, ge=0, le=50)
    outside: bool = False

    @field_validator("corners")
    @classmethod
    def _enough(cls, corners: tuple[tuple[float, float], ...]) -> tuple[tuple[float, float], ...]:
        if not 3 <= len(corners) <= MOST_CORNERS:
            raise ValueError(say("corrections.corner-count", most=MOST_CORNERS))
        if any(not (-100 <= x <= 200 and -100 <= y <= 200) for x, y in corners):
            raise ValueError(say("corrections.corner-far"))
        return corners


class Correction(_Frozen):
    """One correction; without region and colours it acts on the whole picture.

    lightness : −100..100, a tone change that keeps black and white; chroma : −100 (grey)
    .. 100 (doubled); black : how the black plate is made here instead, the colour being kept.
    """

    name: str = Field("", max_length=100)
    on: bool = True
    region: Region | None = None
    colours: ColourRange | None = None
    curves: Curves | None = None
    lightness: float = Field(0, ge=-100, le=100)
    chroma: float = Field(0, ge=-100, le=100)
    hues: tuple[HueBand, ...] = Field((), max_length=8)
    black: BlackRule | None = None

    @model_validator(mode="after")
    def _black_has_a_place(self) -> Correction:
        if self.black is not None and self.region is None:
            raise ValueError(say("corrections.black-outside"))
        return self


class Vivid(_Frozen):
    """The source widened: as much chroma as if its numbers were read partly in a larger space.

    space : the larger space, or "stretch", which widens chroma by up to 60 %; strength : percent.
    """

    space: Literal["oprgb", "p3", "romm", "stretch"] = "stretch"
    strength: float = Field(30, ge=0, le=100)
