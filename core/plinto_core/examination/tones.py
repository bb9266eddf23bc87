"""Tone values of single inks as a profile's forward side has them: tone value increase, lost tints."""

from __future__ import annotations

import numpy as np
from pydantic import BaseModel, ConfigDict

from plinto_core.arrays import Floats
from plinto_core.icc.colorants import ink_names
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import is_subtractive
from plinto_core.transform.sides import device_to_xyz

STEPS = 101
_LOST = 0.05
"""A tint that prints less than a twentieth of its tone value is lost."""
_STIMULUS = {"C": 0, "M": 1, "Y": 2, "K": 1}
"""The tristimulus value that an ink takes away most of: X, Y or Z."""


class InkTones(BaseModel):
    """One ink alone. Percent.

    asked : tone values of the file; printed : the tone values they print as; increase_50 : TVI at 50 %;
    increase_max : the greatest, at increase_at; vanishes : the highest tone value of which less than a
    twentieth prints, None where even the faintest tint shows.
    """

    model_config = ConfigDict(frozen=True)

    name: str
    asked: list[float]
    printed: list[float]
    increase_50: float
    increase_max: float
    increase_at: float
    vanishes: float | None


def ink_tones(profile: Profile) -> list[InkTones]:
    """Tone curves of all inks of a profile with subtractive colours, [] for others.

    The tone value that prints is (P - T) / (P - S) of one tristimulus value of paper, tint and solid
    (Murray-Davies): X for cyan, Z for yellow, Y for magenta, black and grey; for inks without a known
    name the one that the solid takes away most of.
    """
    if not is_subtractive(profile.colour_space):
        return []
    return [_tones(profile, i, name) for i, name in enumerate(ink_names(profile))]


def printed_tones(name: str, xyz: Floats, asked: Floats) -> Floats:
    """(n,) tone values 0..1 that an ink's tints print as, from (n, 3) XYZ of paper to solid.

    Murray-Davies in the tristimulus value that belongs to the ink; `asked` where the ink shows in none.
    """
    value = xyz[:, _stimulus(name, xyz)]
    span = value[0] - value[-1]
    return np.asarray((value[0] - value) / span if abs(span) > 1e-6 else asked)


def _stimulus(name: str, xyz: Floats) -> int:
    return _STIMULUS.get(name, int((xyz[0] - xyz[-1]).argmax()))


def _tones(profile: Profile, index: int, name: str) -> InkTones:
    tones = np.linspace(0, 1, STEPS)
    xyz = _tints(profile, index, tones)
    which = _stimulus(name, xyz)
    value = xyz[:, which]
    span = value[0] - value[-1]
    printed = printed_tones(name, xyz, tones)
    increase = (printed - tones) * 100
    top = int(increase.argmax())
    fine = np.linspace(0, 0.2, 81)[1:]
    faint = (value[0] - _tints(profile, index, fine)[:, which]) / span if abs(span) > 1e-6 else fine
    shown = np.flatnonzero(faint > _LOST * fine)
    last = fine[shown[0] - 1] if shown.size and shown[0] else 0.0 if shown.size else fine[-1]
    return InkTones(
        name=name,
        asked=[round(float(v) * 100, 2) for v in tones],
        printed=[round(float(v) * 100, 2) for v in printed],
        increase_50=round(float(np.interp(0.5, tones, increase)), 1),
        increase_max=round(float(increase[top]), 1),
        increase_at=round(float(tones[top]) * 100, 0),
        # The faintest two steps lie within what tables of 8 bits can tell apart.
        vanishes=round(float(last) * 100, 2) if last > 0.0051 else None,
    )


def _tints(profile: Profile, index: int, tones: Floats) -> Floats:
    device = np.zeros((tones.size, profile.channels))
    device[:, index] = tones
    return device_to_xyz(profile, device, 1)
