"""The invented printing conditions of the demo; every number here is made up.

supplies : see inks/consumption.py; ticket : what a print ticket starts with.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

from plinto_core.arrays import Floats
from plinto_core.colorimetry.spectra import reflectance_to_XYZ
from plinto_core.icc.colorants import SHORT
from plinto_core.measurement.characterisation import Characterisation
from plinto_core.measurement.charts import ink_chart, rgb_chart
from plinto_core.simulator.materials import (
    BLACK,
    BRICK,
    CYAN,
    GREEN,
    LIGHT_CYAN,
    LIGHT_MAGENTA,
    MAGENTA,
    ORANGE,
    PROOF_CYAN,
    PROOF_MAGENTA,
    PROOF_YELLOW,
    VIOLET,
    YELLOW,
    substrate,
)
from plinto_core.simulator.press import PressModel, RgbPrinter, measure_chart


@dataclass(frozen=True)
class SimulatedCondition:
    """A condition of the demo: what prints, on what, under which ink rules."""

    key: str
    name: str
    printer: str
    medium: str
    mirror: bool
    rules: dict[str, Any]
    model: PressModel | RgbPrinter
    process: str = "offset"
    supplies: dict[str, Any] = field(default_factory=dict)
    ticket: dict[str, Any] = field(default_factory=dict)

    @property
    def least_dot(self) -> float:
        """Percent below which its dots do not hold."""
        return 0.0 if isinstance(self.model, RgbPrinter) else self.model.least_dot * 100

    @property
    def channels(self) -> tuple[str, ...]:
        """Names of what the device takes: its inks, or R, G, B."""
        if isinstance(self.model, RgbPrinter):
            return ("R", "G", "B")
        return tuple(SHORT.get(ink.name.casefold(), ink.name) for ink in self.model.inks)

    def chart(self) -> Floats:
        """(n, channels) device values 0..1 of the chart that characterises it."""
        return rgb_chart() if isinstance(self.model, RgbPrinter) else ink_chart(len(self.channels))

    def measured(self) -> Characterisation:
        """The chart, printed and read by the bench instrument."""
        chart = self.chart()
        xyz = reflectance_to_XYZ(measure_chart(self.model, chart))
        return Characterisation(chart, xyz, self.name, [], self.channels)


def _supplies(film: float, price: float, black: float, medium: float) -> dict[str, Any]:
    """The same film and price for the three colours, another price for black."""
    inks = {n: {"film": film, "price": black if n == "K" else price} for n in ("C", "M", "Y", "K")}
    return {"inks": inks, "medium_price": medium, "currency": "EUR"}


def _gcr(tac: float, strength: float, start: float, limit: float) -> dict[str, Any]:
    black = {"method": "gcr", "strength": strength, "start": start, "limit": limit}
    return {"tac": tac, "black": black}


def _press(paper: Any, strengths: tuple[float, ...], **options: Any) -> PressModel:
    inks = (CYAN, MAGENTA, YELLOW, BLACK)
    films = tuple(ink.strength(s) for ink, s in zip(inks, strengths, strict=True))
    return PressModel(substrate=paper, inks=films, **options)


CONDITIONS: tuple[SimulatedCondition, ...] = (
    SimulatedCondition(
        "sheetfed-coated", "Sheetfed coated", "Four-colour sheetfed offset", "Gloss coated, 135 g/m²",
        False, _gcr(320, 50, 20, 98),
        _press(substrate(0.885, warm=0.02, brightener=0.05), (1.0, 1.0, 1.0, 1.08),
               gain=(0.15, 0.15, 0.15, 0.17), trap=0.93, surface=0.004, yule_nielsen=1.7),
        "offset", _supplies(1.2, 14, 9, 0.16), {"media": "Gloss coated, 135 g/m²", "passes": 1, "drying_minutes": 120},
    ),
    SimulatedCondition(
        "sheetfed-uncoated", "Sheetfed uncoated", "Four-colour sheetfed offset", "Uncoated, 120 g/m²",
        False, _gcr(290, 55, 20, 97),
        _press(substrate(0.87, warm=0.03, brightener=0.07), (0.72, 0.7, 0.72, 0.74),
               gain=(0.2, 0.2, 0.2, 0.22), trap=0.88, surface=0.022, yule_nielsen=2.1),
        "offset", _supplies(1.5, 14, 9, 0.14), {"media": "Uncoated, 120 g/m²", "passes": 1, "drying_minutes": 240},
    ),
    SimulatedCondition(
        "newsprint", "Newsprint", "Coldset web offset", "Newsprint, 45 g/m²",
        False, _gcr(240, 75, 15, 96),
        _press(substrate(0.66, warm=0.16), (0.62, 0.6, 0.62, 0.68),
               gain=(0.24, 0.24, 0.24, 0.26), trap=0.85, surface=0.03, yule_nielsen=2.2),
        "offset", _supplies(1.8, 8, 5, 0.05), {"media": "Newsprint, 45 g/m²", "passes": 1},
    ),
    SimulatedCondition(
        "polyester-satin", "Polyester satin", "Dye transfer calender", "Polyester satin, 110 g/m²",
        True, _gcr(300, 45, 30, 95),
        _press(substrate(0.9, warm=0.01, brightener=0.03), (1.05, 1.15, 1.1, 1.05),
               gain=(0.12, 0.12, 0.1, 0.14), trap=0.97, surface=0.009, yule_nielsen=2.0),
        "transfer", _supplies(7, 38, 32, 2.4), {"media": "Polyester satin, 110 g/m²", "passes": 4, "drying_minutes": 10},
    ),
    SimulatedCondition(
        "cotton-four-screen", "Cotton four-screen", "Four-screen carousel", "Unbleached cotton, 220 g/m²",
        False, _gcr(220, 60, 35, 92),
        _press(substrate(0.72, warm=0.22), (0.8, 0.8, 0.85, 0.85),
               gain=(0.22, 0.22, 0.2, 0.24), trap=0.7, surface=0.026, yule_nielsen=1.5),
        "screen", _supplies(28, 22, 18, 3.1), {"media": "Unbleached cotton, 220 g/m²", "passes": 2, "drying_minutes": 3},
    ),
)  # fmt: skip

PROOFER = SimulatedCondition(
    "proofing-inkjet", "Proofing inkjet", "Proofing inkjet", "Semi-matt proofing paper, 190 g/m²",
    False, _gcr(330, 40, 30, 95),
    PressModel(substrate(0.925, warm=0.005, brightener=0.015),
               (PROOF_CYAN, PROOF_MAGENTA, PROOF_YELLOW, BLACK.strength(1.5)),
               gain=(0.1, 0.1, 0.09, 0.12), trap=0.97, surface=0.002, yule_nielsen=1.6),
    "inkjet", _supplies(9, 60, 55, 4.2),
    {"media": "Semi-matt proofing paper, 190 g/m²", "passes": 1, "drying_minutes": 15},
)  # fmt: skip
"""What the demo proofs on: a whiter paper and cleaner inks than any of its presses."""


def _inks(film: float, prices: dict[str, float], medium: float) -> dict[str, Any]:
    """The same film of every ink at its own price."""
    inks = {n: {"film": film, "price": price} for n, price in prices.items()}
    return {"inks": inks, "medium_price": medium, "currency": "EUR"}


FURTHER: tuple[SimulatedCondition, ...] = (
    SimulatedCondition(
        "satin-canvas", "Satin canvas, six inks", "Wide-format inkjet", "Satin canvas, 340 g/m²",
        False, _gcr(280, 40, 30, 95),
        PressModel(substrate(0.88, warm=0.03, brightener=0.02),
                   (CYAN, MAGENTA, YELLOW, BLACK.strength(1.2), LIGHT_CYAN, LIGHT_MAGENTA),
                   gain=(0.14, 0.14, 0.12, 0.15, 0.12, 0.12), trap=0.95, surface=0.007, yule_nielsen=1.8),
        "inkjet",
        _inks(8, {"C": 85, "M": 85, "Y": 85, "K": 70, "Light cyan": 85, "Light magenta": 85}, 9.5),
        {"media": "Satin canvas, 340 g/m²", "passes": 8, "drying_minutes": 60},
    ),
    SimulatedCondition(
        "polyester-seven", "Polyester, seven inks", "Direct textile inkjet", "Polyester knit, 145 g/m²",
        False, _gcr(300, 45, 25, 95),
        PressModel(substrate(0.9, warm=0.01, brightener=0.03),
                   (CYAN, MAGENTA, YELLOW, BLACK, ORANGE, GREEN, VIOLET),
                   gain=(0.12,) * 7, trap=0.95, surface=0.009, yule_nielsen=1.9),
        "inkjet",
        _inks(9, {"C": 42, "M": 42, "Y": 42, "K": 36, "Orange": 58, "Green": 58, "Violet": 62}, 3.2),
        {"media": "Polyester knit, 145 g/m²", "passes": 6, "drying_minutes": 5},
    ),
    SimulatedCondition(
        "two-screens", "Brick and black, two screens", "Two-screen carousel", "Natural cotton, 180 g/m²",
        False, {"tac": 180, "black": {"method": "gcr", "strength": 60, "start": 25, "limit": 95}},
        PressModel(substrate(0.76, warm=0.18), (BRICK, BLACK),
                   gain=(0.2, 0.24), trap=0.75, surface=0.02, yule_nielsen=1.5),
        "screen", _inks(26, {"Brick": 24, "K": 18}, 2.4),
        {"media": "Natural cotton, 180 g/m²", "passes": 1, "drying_minutes": 3},
    ),
    SimulatedCondition(
        "film-flexo", "Freezer film, flexo", "Central-drum flexo press", "Film with opaque white, 50 µm",
        False, _gcr(280, 55, 25, 95),
        _press(substrate(0.83, warm=-0.01), (0.95, 0.95, 0.98, 1.0),
               gain=(0.26, 0.26, 0.26, 0.28), trap=0.9, surface=0.006, yule_nielsen=1.6, least_dot=0.03),
        "flexo", _supplies(1.6, 16, 12, 0.21), {"media": "Film with opaque white, 50 µm", "passes": 1},
    ),
    SimulatedCondition(
        "photo-rgb", "Photo paper, driven by RGB", "Photo printer with a driver of its own", "Pearl photo paper, 260 g/m²",
        False, {"tac": 300},
        RgbPrinter(PressModel(substrate(0.93, warm=0.005, brightener=0.02),
                   (PROOF_CYAN, PROOF_MAGENTA, PROOF_YELLOW),
                   gain=(0.08, 0.08, 0.08), trap=0.98, surface=0.003, yule_nielsen=1.6)),
        "photographic", {"medium_price": 6.5, "currency": "EUR"},
        {"media": "Pearl photo paper, 260 g/m²", "passes": 1, "drying_minutes": 10},
    ),
)  # fmt: skip
"""Presses of other inks than four, and a device that takes RGB."""
SIMULATED = {c.key: c for c in (*CONDITIONS, PROOFER, *FURTHER)}
