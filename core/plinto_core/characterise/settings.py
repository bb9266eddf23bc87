"""What a build can be told."""

from __future__ import annotations

from datetime import date
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, Field

from plinto_core.fields import checked
from plinto_core.gamut.look import Perceptual


class BuildSettings(BaseModel):
    """What a build can be told; every key is optional. built : the day the profile carries, today if None;
    use_all : readings that the others contradict are used as well."""

    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False)

    description: str = Field("", max_length=200)
    version: Literal[2, 4] = 2
    size: Literal["small", "medium", "large"] = "medium"
    perceptual: Perceptual = Perceptual()
    use_all: bool = False
    built: date | None = None
    copyright: str = Field("No copyright stated.", max_length=500)


def parse_settings(data: Any) -> BuildSettings:
    """Settings from decoded JSON; raises BadRecipe."""
    return checked(BuildSettings, data, "characterise.not-usable")
