"""From one profile into another: the exact float path of a colour (ICC.1:2022, annex D)."""

from __future__ import annotations

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import D50, XYZ_to_Lab
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import INTENTS
from plinto_core.transform.black_point import (
    ABSOLUTE,
    PERCEPTUAL,
    SATURATION,
    compensation,
    destination_black_point,
    source_black_point,
)
from plinto_core.transform.sides import device_to_xyz, xyz_to_device


def intent_number(name: str) -> int:
    """0..3 for perceptual, relative, saturation, absolute."""
    return INTENTS.index(name)


def effective_bpc(source: Profile, destination: Profile, intent: int, *, bpc: bool) -> bool:
    """BPC as it acts: never for absolute, always into v4 perceptual and saturation tables."""
    if intent == ABSOLUTE:
        return False
    if intent in (PERCEPTUAL, SATURATION) and destination.is_v4:
        return True
    return bpc


def between(
    source: Profile, destination: Profile, intent: int, *, bpc: bool
) -> tuple[Floats, Floats]:
    """Scale and offset in XYZ that lead from one profile's PCS into another's."""
    if intent == ABSOLUTE:
        return source.media_white / destination.media_white, np.zeros(3)
    if effective_bpc(source, destination, intent, bpc=bpc):
        return compensation(
            source_black_point(source, intent), destination_black_point(destination, intent)
        )
    return np.ones(3), np.zeros(3)


def convert(
    source: Profile,
    destination: Profile,
    device: Floats,
    *,
    intent: str = "relative",
    bpc: bool = False,
) -> Floats:
    """(n, channels) device values 0..1 of one profile to those of another, exact float path."""
    number = intent_number(intent)
    scale, offset = between(source, destination, number, bpc=bpc)
    return xyz_to_device(
        destination, device_to_xyz(source, device, number) * scale + offset, number
    )


def lab_of_device(profile: Profile, device: Floats, *, intent: str = "relative") -> Floats:
    """(n, channels) device values 0..1 to (n, 3) Lab; absolute includes the medium's white."""
    number = intent_number(intent)
    xyz = device_to_xyz(profile, device, number)
    if number == ABSOLUTE:
        xyz = xyz * (profile.media_white / D50)
    return XYZ_to_Lab(xyz)
