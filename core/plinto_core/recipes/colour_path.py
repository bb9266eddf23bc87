"""Colours along a chain of profiles in the units people use."""

from __future__ import annotations

import itertools
from dataclasses import dataclass

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import D50, Lab_to_XYZ, XYZ_to_Lab
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import channel_names, is_subtractive
from plinto_core.transform.black_point import (
    compensation,
    destination_black_point,
    source_black_point,
)
from plinto_core.transform.chain import convert, effective_bpc, intent_number
from plinto_core.transform.encoding import lab_to_unit, unit_to_lab
from plinto_core.transform.sides import device_to_xyz, xyz_to_device

LAB = None
"""Stands for the profile connection space as a step."""


@dataclass(frozen=True)
class PathStep:
    """A profile, or LAB for the PCS, and how colours come into it."""

    profile: Profile | None
    intent: str = "relative"
    bpc: bool = False

    @property
    def space(self) -> str:
        return "Lab " if self.profile is None else self.profile.colour_space

    @property
    def columns(self) -> list[str]:
        if self.space == "GRAY":
            return ["Grey"]
        return list(channel_names(self.space))

    def to_unit(self, values: Floats) -> Floats:
        """RGB and grey 0..255, inks 0..100, Lab or XYZ to 0..1 (Lab of the PCS stays Lab)."""
        if self.profile is None:
            return values
        if self.space == "Lab ":
            return lab_to_unit(values, legacy=_legacy(self.profile))
        return values / (100.0 if is_subtractive(self.space) else 255.0)

    def from_unit(self, values: Floats) -> Floats:
        """The inverse of to_unit."""
        if self.profile is None:
            return values
        if self.space == "Lab ":
            return unit_to_lab(values, legacy=_legacy(self.profile))
        return values * (100.0 if is_subtractive(self.space) else 255.0)


def _legacy(profile: Profile) -> bool:
    return "A2B0" in profile and profile.table("A2B0").kind == "mft2"


def _step(before: PathStep, after: PathStep, values: Floats) -> Floats:
    intent = intent_number(after.intent)
    if before.profile is not None and after.profile is not None:
        return convert(before.profile, after.profile, values, intent=after.intent, bpc=after.bpc)
    if before.profile is not None:
        xyz = device_to_xyz(before.profile, values, intent)
        if after.intent == "absolute":
            xyz = xyz * (before.profile.media_white / D50)
        elif after.bpc:
            scale, offset = compensation(source_black_point(before.profile, intent), np.zeros(3))
            xyz = xyz * scale + offset
        return XYZ_to_Lab(xyz)
    if after.profile is None:
        return values
    xyz = Lab_to_XYZ(values)
    if after.intent == "absolute":
        xyz = xyz * (D50 / after.profile.media_white)
    elif effective_bpc(after.profile, after.profile, intent, bpc=after.bpc):
        scale, offset = compensation(np.zeros(3), destination_black_point(after.profile, intent))
        xyz = xyz * scale + offset
    return xyz_to_device(after.profile, xyz, intent)


def follow_path(steps: list[PathStep], values: Floats) -> list[Floats]:
    """(n, channels) values of the first step to the values after every step, in people's units.

    RGB and grey 0..255, inks 0..100, Lab as L* a* b*. The exact float path, no grid.
    """
    unit = [steps[0].to_unit(np.asarray(values, dtype=np.float64))]
    for before, after in itertools.pairwise(steps):
        unit.append(_step(before, after, unit[-1]))
    return [step.from_unit(v) for step, v in zip(steps, unit, strict=True)]
