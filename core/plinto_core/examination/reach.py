"""What a profile's backward tables really reach: total, black, the darkest that is printed."""

from __future__ import annotations

import numpy as np
from pydantic import BaseModel, ConfigDict

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import Lab_to_XYZ
from plinto_core.examination.neutrals import neutrals
from plinto_core.icc.colorants import ink_names
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import INTENTS, is_subtractive
from plinto_core.transform.chain import lab_of_device
from plinto_core.transform.sides import xyz_to_device
from plinto_core.transform.table import node_values

_SHOWN = 0.01
"""Tone value from which an ink counts as used: about three steps of an 8-bit table."""
_GRID = 33
"""Lab nodes per axis, closer than those of most tables, so that what lies between nodes counts too."""


class IntentReach(BaseModel):
    """What one rendering intent reaches. Percent, L* and Lab.

    tag : the table it is read from, None for matrix and curves; tac : the highest total of all colours,
    tac_neutral : of neutral ones; black_start : L* printed from which black is used, None where it never
    is; black_most : the highest tone value of black; darkest : Lab of the darkest neutral asked for, with
    BPC; inks : what prints it.
    """

    model_config = ConfigDict(frozen=True)

    intent: str
    tag: str | None
    tac: float
    tac_neutral: float
    black_start: float | None
    black_most: float | None
    darkest: tuple[float, float, float]
    inks: dict[str, float]


def solid_lab(profile: Profile) -> dict[str, tuple[float, float, float]]:
    """Paper, every ink solid and the overprints of the colours, as printed (absolute Lab); for RGB and grey
    the full primaries and black."""
    names = ink_names(profile)
    full = np.eye(len(names))
    if is_subtractive(profile.colour_space):
        rows = {"paper": np.zeros(len(names)), **dict(zip(names, full, strict=True))}
        if profile.colour_space in ("CMYK", "CMY "):
            for over in ("MY", "CY", "CM", "CMY"):
                rows[over] = np.array([1.0 if n in over else 0.0 for n in names])
    else:
        primaries = dict(zip(names, full, strict=True)) if len(names) > 1 else {}
        rows = {"paper": np.ones(len(names)), **primaries, "black": np.zeros(len(names))}
    device = np.stack(list(rows.values()))
    lab = lab_of_device(profile, device, intent="absolute")
    return {name: _rounded(lab[i]) for i, name in enumerate(rows)}


def reaches(profile: Profile) -> list[IntentReach]:
    """What every intent that has a table of its own reaches; raises BadProfile without a way back."""
    found = []
    seen: set[str | None] = set()
    for number, intent in enumerate(INTENTS[:3]):
        tag = profile.backward_table(number)
        if tag in seen:
            continue
        seen.add(tag)
        found.append(_reach(profile, intent, tag))
    return found


def _reach(profile: Profile, intent: str, tag: str | None) -> IntentReach:
    names = ink_names(profile)
    inked = is_subtractive(profile.colour_space)
    path = neutrals(profile, intent)
    every = everything(profile, INTENTS.index(intent))
    used = path.inks if inked else 1.0 - path.inks
    start = most = None
    if "K" in names:
        black = used[:, names.index("K")]
        most = round(float(every[:, names.index("K")].max()) * 100, 1)
        begun = np.flatnonzero(black >= _SHOWN)
        start = round(float(path.printed[begun[0], 0]), 1) if begun.size else None
    return IntentReach(
        intent=intent,
        tag=tag,
        # Tables and curves of RGB run on between the grid's colours.
        tac=round(float(max(every.sum(axis=1).max(), used.sum(axis=1).max())) * 100, 1),
        tac_neutral=round(float(used.sum(axis=1).max()) * 100, 1),
        black_start=start,
        black_most=most,
        darkest=_rounded(path.printed[-1]),
        inks={n: round(float(v) * 100, 1) for n, v in zip(names, path.inks[-1], strict=True)},
    )


def everything(profile: Profile, intent: int) -> Floats:
    """(n, channels) device values that stand for all an intent can give, as ink: a close grid of the PCS
    and every node of its table. RGB and grey count as the ink they leave out."""
    axis = np.linspace(0, 1, _GRID)
    lab = np.stack(np.meshgrid(axis * 100, axis * 255 - 128, axis * 255 - 128, indexing="ij"), -1)
    device = xyz_to_device(profile, Lab_to_XYZ(lab.reshape(-1, 3)), intent)
    tag = profile.backward_tag(intent)
    if tag is not None and profile.float_backward(intent) is None:
        device = np.concatenate([device, node_values(profile.table(tag))])
    return device if is_subtractive(profile.colour_space) else 1.0 - device


def _rounded(lab: Floats) -> tuple[float, float, float]:
    lightness, a, b = (round(float(v), 1) + 0.0 for v in lab)
    return lightness, a, b
