"""Evaluate profiles and chains in float; intents, black points, gamut test; device links."""

from plinto_core.transform.chain import Chain, Step, convert, lab_of_device
from plinto_core.transform.gamut_test import gamut_distance

__all__ = [
    "Chain",
    "Step",
    "convert",
    "gamut_distance",
    "lab_of_device",
]
