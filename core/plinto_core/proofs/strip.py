"""The control strip of a proof: patches in the press's inks, and the colours they stand for."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import combinations
from typing import Literal

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import D50, Lab_to_XYZ, XYZ_to_Lab
from plinto_core.gamut.outside import gamut_distance
from plinto_core.icc.colorants import ink_names
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import is_subtractive
from plinto_core.transform.black_point import RELATIVE
from plinto_core.transform.chain import lab_of_device
from plinto_core.transform.sides import xyz_to_device

PatchKind = Literal["paper", "solid", "overprint", "tone", "grey", "mix"]
TONES = (75, 50, 25)
GREYS = (80, 60, 40, 20)
"""L* of the greys, relative to the paper, as the press's own profile mixes them."""
MIXES: tuple[tuple[str, tuple[float, float, float]], ...] = (
    ("Skin", (70.0, 18.0, 19.0)),
    ("Earth", (42.0, 20.0, 28.0)),
    ("Leaf", (46.0, -30.0, 34.0)),
    ("Sky", (62.0, -10.0, -32.0)),
    ("Darkest", (0.0, 0.0, 0.0)),
)
"""Lab relative to the paper of what people look at first, as any picture may hold it."""


@dataclass(frozen=True)
class Patch:
    """inks : tone values 0..1 in the order of the press's channels."""

    name: str
    kind: PatchKind
    inks: tuple[float, ...]


def strip_patches(press: Profile) -> tuple[Patch, ...]:
    """The patches for a press of any inks, or for a device that takes RGB.

    Paper, solids and tones of every ink, overprints of two and of all chromatic inks (CMYK), greys
    and usual mixtures as the profile's own relative colorimetric table makes them.
    """
    names = ink_names(press)
    count = len(names)
    if not is_subtractive(press.colour_space):
        ends = [Patch("White", "paper", (1.0,) * count)]
        ends += [
            Patch(n, "solid", tuple(np.eye(count)[i])) for i, n in enumerate(names) if count > 1
        ]
        return (*ends, *_through_profile(press))
    found = [Patch("Paper", "paper", (0.0,) * count)]
    for i, name in enumerate(names):
        found.append(Patch(f"{name} 100", "solid", tuple(np.eye(count)[i])))
    if press.colour_space == "CMYK":
        for chosen in (*combinations(range(3), 2), (0, 1, 2)):
            label = "+".join(names[i] for i in chosen)
            found.append(Patch(label, "overprint", tuple(np.eye(count)[list(chosen)].sum(axis=0))))
    for i, name in enumerate(names):
        found += [Patch(f"{name} {t}", "tone", tuple(np.eye(count)[i] * t / 100)) for t in TONES]
    return (*found, *_through_profile(press))


def _through_profile(press: Profile) -> list[Patch]:
    wanted = [(f"Grey {level}", "grey", (float(level), 0.0, 0.0)) for level in GREYS]
    wanted += [(name, "mix", lab) for name, lab in MIXES]
    labs = np.array([lab for _, _, lab in wanted])
    inks = np.clip(xyz_to_device(press, Lab_to_XYZ(labs), RELATIVE), 0.0, 1.0)
    return [
        # Whole 8-bit steps: a strip may have to be typed, and be drawn in eight bits.
        Patch(name, kind, tuple(float(v) for v in np.round(row * 255) / 255))  # type: ignore[arg-type]
        for (name, kind, _), row in zip(wanted, inks, strict=True)
    ]


def aims(press: Profile, patches: tuple[Patch, ...]) -> Floats:
    """(n, 3) absolute Lab of the patches as the press prints them, by its profile's measured side."""
    inks = np.array([p.inks for p in patches], dtype=np.float64)
    return lab_of_device(press, inks, intent="absolute")


def beyond(proofer: Profile, lab: Floats) -> Floats:
    """dE00 by which absolute colours lie outside what the proofer prints.

    Its body is kept relative to its own paper, so absolute colours are seen from there.
    """
    relative = XYZ_to_Lab(Lab_to_XYZ(lab) * (D50 / proofer.media_white))
    return gamut_distance(proofer, relative)
