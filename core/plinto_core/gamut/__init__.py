"""Gamut boundaries and gamut mapping."""

from plinto_core.gamut.body import GamutBody
from plinto_core.gamut.boundary import GamutBoundary
from plinto_core.gamut.look import Perceptual
from plinto_core.gamut.mapping import LOOKS, MappingLook, clip_colours, map_colours

__all__ = [
    "LOOKS",
    "GamutBody",
    "GamutBoundary",
    "MappingLook",
    "Perceptual",
    "clip_colours",
    "map_colours",
]
