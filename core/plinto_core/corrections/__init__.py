"""Corrections of the artwork made while looking through the print: data, colour and place."""

from plinto_core.corrections.adjust import Adjustment
from plinto_core.corrections.masks import Place, region_weight
from plinto_core.corrections.model import ColourRange, Correction, Curves, HueBand, Region, Vivid

__all__ = [
    "Adjustment",
    "ColourRange",
    "Correction",
    "Curves",
    "HueBand",
    "Place",
    "Region",
    "Vivid",
    "region_weight",
]
