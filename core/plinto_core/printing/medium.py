"""A medium in a printer: what the operator sets for it, and what it costs."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict, Field


class MediumSettings(BaseModel):
    """mirror : the print is wanted mirrored, for transfer; mirror_driver, mirror_machine : the driver's
    or the machine's own mirroring is switched on; platen_gap : millimetres; feed : percent of the nominal step, 0 for none; heat : degrees
    Celsius, None for unheated; roll_width : millimetres; roll_length : metres; roll_price : currency
    units a roll; ink_price : currency units a square metre, for printers that make their inks of RGB
    themselves."""

    model_config = ConfigDict(extra="forbid", frozen=True, allow_inf_nan=False)

    media_type: str = Field("", max_length=100)
    mirror: bool = False
    mirror_driver: bool = False
    mirror_machine: bool = False
    passes: int = Field(1, ge=1, le=64)
    drying_minutes: float = Field(0, ge=0, le=10_000)
    platen_gap: float | None = Field(None, ge=0, le=50)
    feed: float = Field(0, ge=-5, le=5)
    heat: float | None = Field(None, ge=0, le=300)
    roll_width: float | None = Field(None, gt=0, le=10_000)
    roll_length: float | None = Field(None, gt=0, le=100_000)
    roll_price: float | None = Field(None, ge=0, le=1_000_000)
    ink_price: float | None = Field(None, ge=0, le=1_000_000)
    currency: str = Field("EUR", max_length=8)

    @property
    def price_per_square_metre(self) -> float | None:
        """From the roll, None where one of its figures is missing."""
        if self.roll_width is None or self.roll_length is None or self.roll_price is None:
            return None
        return self.roll_price / (self.roll_width / 1000 * self.roll_length)

    @property
    def mirrored_by(self) -> str:
        """Where the print is mirrored, for the operator's ticket."""
        if not self.mirror:
            return "no"
        if self.mirror_driver:
            return "yes, in the driver"
        return "yes, in the machine" if self.mirror_machine else "yes, in the file"

    def length_on_roll(self, width: float, height: float) -> float | None:
        """Millimetres of roll that a print of width x height mm takes, turned where that saves;
        None where it does not fit."""
        if self.roll_width is None:
            return height
        ways = [h for w, h in ((width, height), (height, width)) if w <= self.roll_width + 1e-6]
        return min(ways) if ways else None

    def ticket_lines(self) -> list[tuple[str, str]]:
        """Names and values for the operator, in the order they are met."""
        lines = [
            ("Medium", self.media_type or "as the printer names it"),
            ("Mirror", self.mirrored_by),
            ("Passes", str(self.passes)),
            ("Drying", f"{self.drying_minutes:g} min" if self.drying_minutes else "none beyond the usual"),
            ("Platen gap", "as it is" if self.platen_gap is None else f"{self.platen_gap:g} mm"),
            ("Feed", f"{self.feed:+g} %" if self.feed else "0 %"),
            ("Heat", "off" if self.heat is None else f"{self.heat:g} °C"),
        ]  # fmt: skip
        return lines
