"""What the simulated printer says of a print."""

from __future__ import annotations

from plinto_core.document.reports.report import PolicyReport
from plinto_core.fields import Part, Report
from plinto_core.printing.guard import ColourDuty
from plinto_core.printing.medium import MediumSettings
from plinto_core.words import Said


class PrintedSheet(Part):
    """coverage : mean share by ink; millilitres : by ink, of one copy, inks of unknown supply left out;
    size_mm : of the sheet; tac_highest, tac_mean : percent."""

    page: int
    size_mm: tuple[float, float]
    coverage: dict[str, float]
    millilitres: dict[str, float]
    tac_highest: float
    tac_mean: float
    notes: tuple[Said, ...] = ()


class Agreement(Part):
    """dE00 between the predicted print and what the profile says, over `colours` of the sheets."""

    mean: float
    p95: float
    colours: int


class PrintReport(Report):
    """millilitres : by ink, of all copies; area_m2 : of all copies; roll_metres : of the roll that is
    used, None for sheets; ink_cost, medium_cost : in `currency`, the former None where what the inks take is not known; tac_rule, tac_highest : percent;
    policy : the run that brought the file to the printer's inks, None where it came ready."""

    sheets: tuple[PrintedSheet, ...]
    sheets_left_out: int
    copies: int
    millilitres: dict[str, float]
    area_m2: float
    roll_metres: float | None
    ink_cost: float | None
    medium_cost: float
    currency: str
    tac_rule: float | None
    tac_highest: float
    press_against_profile: Agreement | None
    policy: PolicyReport | None = None
    settings: MediumSettings | None = None
    colour: ColourDuty | None = None
