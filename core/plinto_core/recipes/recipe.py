"""A recipe as versioned, JSON-serialisable data."""

from __future__ import annotations

import hashlib
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from plinto_core.errors import BadRecipe
from plinto_core.inks.rules import InkRules

Intent = Literal["perceptual", "relative", "saturation", "absolute"]


class Delivery(BaseModel):
    """How the result is written."""

    model_config = ConfigDict(extra="forbid", frozen=True)

    format: Literal["TIFF", "JPEG", "PNG"] = "TIFF"
    bits: Literal[8, 16] = 16
    embed: bool = True
    compression: Literal["none", "lzw", "deflate"] = "deflate"
    quality: int = Field(95, ge=1, le=100)
    mirror: bool = False
    negative: bool = False


class Recipe(BaseModel):
    """From one picture to one condition.

    source : a profile reference that stands in for or overrules the embedded profile, or None
    to keep the embedded one; destination : a profile reference. A reference is a standard
    space's key ("srgb", …), a SHA-256 in the profile store, or a path, as the caller resolves.
    """

    model_config = ConfigDict(extra="forbid", frozen=True)

    version: Literal[1] = 1
    source: str | None = None
    destination: str
    intent: Intent = "perceptual"
    bpc: bool = True
    ink_rules: InkRules | None = None
    delivery: Delivery = Delivery()

    def colour_key(self, source_digest: str, destination_digest: str) -> str:
        """Hash of all that decides colours; the cache key of links."""
        rules = self.ink_rules.model_dump_json(exclude={"name"}) if self.ink_rules else ""
        parts = (source_digest, destination_digest, self.intent, str(self.bpc), rules)
        return hashlib.sha256("\n".join(parts).encode()).hexdigest()


def parse_recipe(data: Any) -> Recipe:
    """A recipe from decoded JSON; raises BadRecipe with the field at fault."""
    try:
        return Recipe.model_validate(data)
    except ValidationError as error:
        first = error.errors()[0]
        where = ".".join(str(p) for p in first["loc"]) or "the whole"
        raise BadRecipe(f"The recipe is not usable: {where}: {first['msg']}.") from None
