"""Neutral colours through a profile: the inks that make them, and what is printed then."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from pydantic import BaseModel, ConfigDict

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import D50, Lab_to_XYZ, XYZ_to_Lab
from plinto_core.icc.colorants import ink_names
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import is_subtractive
from plinto_core.transform.black_point import (
    ABSOLUTE,
    compensation,
    destination_black_point,
)
from plinto_core.transform.chain import intent_number
from plinto_core.transform.sides import device_to_xyz, xyz_to_device

STEPS = 201
"""L* 100 to 0 by halves."""
CHROMATIC = 1.0
"""C*ab from which a hue can be spoken of: below it is the noise of an 8-bit table."""
_TURN = 30.0
"""Degrees by which the hue must go back to count as a turn."""


class NeutralFigures(BaseModel):
    """chroma_mean, chroma_max : C*ab of what prints; worst : L* asked where it is greatest; turns : how
    often the hue of the path goes back on itself; lightness_back : greatest rise of L* where it was to
    fall."""

    model_config = ConfigDict(frozen=True)

    chroma_mean: float
    chroma_max: float
    worst: float
    turns: int
    lightness_back: float


@dataclass(frozen=True)
class Neutrals:
    """Neutral colours of falling lightness through one profile.

    asked : (n,) L* 100..0; inks : (n, channels) device values 0..1; printed : (n, 3) Lab that results,
    media-relative, or absolute for the absolute intent.
    """

    names: tuple[str, ...]
    subtractive: bool
    asked: Floats
    inks: Floats
    printed: Floats

    @property
    def total(self) -> Floats:
        """(n,) sum of the tone values, 1 for one full ink."""
        return np.asarray(self.inks.sum(axis=1))

    @property
    def chroma(self) -> Floats:
        """(n,) C*ab that results."""
        return np.asarray(np.hypot(self.printed[:, 1], self.printed[:, 2]))

    def figures(self) -> NeutralFigures:
        """The figures of the whole path."""
        chroma = self.chroma
        worst = int(chroma.argmax())
        lightness = self.printed[:, 0]
        back = float(np.maximum(lightness - np.minimum.accumulate(lightness), 0).max())
        return NeutralFigures(
            chroma_mean=round(float(chroma.mean()), 2),
            chroma_max=round(float(chroma[worst]), 2),
            worst=round(float(self.asked[worst]), 1),
            turns=_turns(self.printed[:, 1], self.printed[:, 2]),
            lightness_back=round(back, 2),
        )


def neutrals(profile: Profile, intent: str, *, bpc: bool = True, steps: int = STEPS) -> Neutrals:
    """L* 100 to 0 with a* = b* = 0 through a profile's backward and forward side.

    profile : with both ways; intent : of the backward side, the forward side is colorimetric; bpc : the
    black of the PCS is laid on the profile's own (never for absolute, as in every chain). Raises
    BadProfile where a way is missing.
    """
    asked = np.linspace(100.0, 0.0, steps)
    number = intent_number(intent)
    lab = np.stack([asked, np.zeros(steps), np.zeros(steps)], axis=1)
    xyz = Lab_to_XYZ(lab)
    if number == ABSOLUTE:
        xyz = xyz * (D50 / profile.media_white)
    elif bpc:
        scale, offset = compensation(np.zeros(3), destination_black_point(profile, number))
        xyz = xyz * scale + offset
    inks = xyz_to_device(profile, xyz, number)
    result = device_to_xyz(profile, inks, 1)
    if number == ABSOLUTE:
        result = result * (profile.media_white / D50)
    return Neutrals(
        ink_names(profile),
        is_subtractive(profile.colour_space),
        asked,
        inks,
        XYZ_to_Lab(result),
    )


def _turns(a: Floats, b: Floats) -> int:
    """How often the hue of a path turns back by more than 30 degrees."""
    coloured = np.hypot(a, b) >= CHROMATIC
    if coloured.sum() < 3:
        return 0
    hue = np.degrees(np.unwrap(np.arctan2(b[coloured], a[coloured])))
    return max(0, len(runs(hue, _TURN)) - 1)


def runs(values: Floats, least: float) -> list[tuple[int, int]]:
    """Stretches of one direction, as (first, last) indices; what goes back by less than `least`
    belongs to the stretch it lies in. A path that never moves by `least` has none."""
    found: list[tuple[int, int]] = []
    start = turn = 0
    way = 0
    for i, value in enumerate(values):
        if way == 0:
            low, high = int(values[: i + 1].argmin()), int(values[: i + 1].argmax())
            if values[high] - values[low] >= least:
                way = 1 if low < high else -1
                start, turn = (low, high) if way > 0 else (high, low)
            continue
        if (value - values[turn]) * way >= 0:
            turn = i
        elif (values[turn] - value) * way >= least:
            found.append((start, turn))
            start, turn, way = turn, i, -way
    if way:
        found.append((start, turn))
    return found
