"""A recipe as versioned, JSON-serialisable data."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, Field, model_validator

from plinto_core.conditions.model import ConditionTicket
from plinto_core.corrections import Correction, Vivid
from plinto_core.fields import checked
from plinto_core.gamut.look import Perceptual
from plinto_core.icc.spaces import Intent
from plinto_core.imaging.films import FilmRules
from plinto_core.inks.plates import PlateRule
from plinto_core.inks.rules import InkRules
from plinto_core.inks.separation import PRESENT, Method
from plinto_core.words import say

MOST_REGIONS = 6
NO_LIMIT = 400.0
"""Percent of four solid inks: the total where nobody has set any."""


class Ticket(ConditionTicket):
    """What the operator must set besides the file; printed on the ticket, never on the picture."""

    driver_colour_management: Literal["off"] = "off"
    note: str = Field("", max_length=500)
    test_strip: bool = True


class Delivery(BaseModel):
    """How the result is written.

    width_mm : width of the print, None keeps what the artwork states; resolution : pixels per
    inch to resample to, None keeps the pixels; negative : the plates reversed, for film that is
    copied negative; dither : where numbers of 16 bits come to be 8 bits, whether those between two
    levels become a pattern of both: for smooth artwork (of 16 bits itself), always, never; turn : degrees
    clockwise; file_name : a pattern
    (see file_names.py); films : one-bit films in place of a picture; apart : a grey TIFF for every ink,
    black where the ink is full, in one ZIP; copies : the run.
    """

    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False)

    format: Literal["TIFF", "JPEG", "PNG", "PDF"] = "TIFF"
    bits: Literal[8, 16] = 16
    dither: Literal["smooth", "always", "never"] = "smooth"
    embed: bool = True
    compression: Literal["none", "lzw", "deflate"] = "deflate"
    tiles: bool = False
    quality: int = Field(95, ge=1, le=100)
    width_mm: float | None = Field(None, ge=1, le=100_000)
    resolution: float | None = Field(None, ge=10, le=10_000)
    mirror: bool = False
    negative: bool = False
    turn: Literal[0, 90, 180, 270] = 0
    file_name: str = Field("{artwork}_{condition}", min_length=1, max_length=120)
    films: FilmRules | None = None
    apart: bool = False
    copies: int = Field(1, ge=1, le=100_000_000)
    ticket: Ticket = Ticket()

    def dithers(self, artwork_bits: int) -> bool:
        """Whether a picture of so many bits a channel is dithered; films have dots of their own."""
        wanted = self.dither == "always" or (self.dither == "smooth" and artwork_bits > 8)
        return wanted and self.bits == 8 and self.films is None


class Recipe(BaseModel):
    """From one picture to one condition.

    version : by which method colours are corrected and inks separated, see inks/separation.py; files of
    former releases say 1 to 3 and give the bytes they gave then.

    page : which picture of a file with several; extra_channels : what happens to channels beside
    the colours and their transparency (white, varnish, spot inks): the run stops, or they are left
    out; source : a profile reference that stands in for or overrules the embedded profile, or None
    to keep the embedded one; negative : the artwork is a photographic negative, its own numbers are
    reversed before anything else; arrival : a space the colours are first converted into, relative
    colorimetric with BPC, as house rules may want; destination : a profile reference; numbers : what
    happens where the colours are in the destination's own space already, kept or made anew; link : a
    device link that makes the destination's numbers, in place of intent, BPC and ink rules. A
    reference is a standard space's key ("srgb", …), a SHA-256 in the profile store, or a path, as
    the caller resolves. before, after : .cube tables by reference.
    """

    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False)

    version: Method = PRESENT
    page: int = Field(0, ge=0, le=100_000)
    extra_channels: Literal["stop", "leave out"] = "stop"
    source: str | None = None
    negative: bool = False
    arrival: str | None = None
    destination: str
    numbers: Literal["keep", "separate"] = "keep"
    link: str | None = None
    intent: Intent = "perceptual"
    bpc: bool = True
    perceptual: Perceptual | None = None
    vivid: Vivid | None = None
    corrections: tuple[Correction, ...] = Field((), max_length=24)
    before: str | None = None
    ink_rules: InkRules | None = None
    plates: dict[str, PlateRule] = Field(default_factory=dict)
    after: str | None = None
    delivery: Delivery = Delivery()

    @model_validator(mode="before")
    @classmethod
    def _former_names(cls, data: Any) -> Any:
        """Files written before the arrival space had its name call it "working"."""
        if isinstance(data, dict) and "working" in data and "arrival" not in data:
            data = {("arrival" if key == "working" else key): value for key, value in data.items()}
        return data

    @model_validator(mode="after")
    def _regions(self) -> Recipe:
        regional = [c for c in self.corrections if c.region is not None]
        if len(regional) > MOST_REGIONS:
            raise ValueError(say("recipes.regions-many", most=MOST_REGIONS))
        if self.link is not None and self.ink_rules is not None:
            raise ValueError(say("recipes.link-and-rules-field"))
        if self.ink_rules is None and any(c.black for c in regional):
            raise ValueError(say("recipes.region-black"))
        return self


def tac_in_force(recipe: Recipe, of_condition: float | None) -> float | None:
    """Percent that the inks of this recipe may reach together; None where nobody has set any.

    of_condition : what the printing condition bears, None where it says nothing or there is none.
    The recipe's own ink rules decide, since they are what is separated and enforced by.
    """
    return of_condition if recipe.ink_rules is None else recipe.ink_rules.tac


def parse_recipe(data: Any) -> Recipe:
    """A recipe from decoded JSON; raises BadRecipe with the field at fault."""
    return checked(Recipe, data, "recipes.not-usable")
