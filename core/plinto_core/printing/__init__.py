"""Printers: who manages colour on the way to them, their media, and a simulated RIP."""

from plinto_core.printing.guard import (
    ColourDuty,
    Judgement,
    SentColours,
    judge,
    judge_route,
    refusal,
)
from plinto_core.printing.medium import MediumSettings
from plinto_core.printing.rip import Printer, print_file

__all__ = [
    "ColourDuty",
    "Judgement",
    "MediumSettings",
    "Printer",
    "SentColours",
    "judge",
    "judge_route",
    "print_file",
    "refusal",
]
