"""Colours on a screen: what it has as it is, all else in its own hue and not clipped a channel at a time."""

from __future__ import annotations

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import Lab_to_XYZ, XYZ_to_Lab
from plinto_core.colorimetry.even_hue import even_hue, turn
from plinto_core.gamut.body import GamutBody
from plinto_core.gamut.boundary import GamutBoundary
from plinto_core.gamut.mapping import show_colours
from plinto_core.gamut.of_profile import gamut_of
from plinto_core.icc.profile import Profile
from plinto_core.transform.black_point import RELATIVE
from plinto_core.transform.chain import between, intent_number
from plinto_core.transform.sides import device_to_xyz, xyz_to_device

_TURNED = 3.0, 9.0
"""Degrees of OKLab hue by which clipping channels may turn a colour; from the second on its own hue is held in
full, between them in part, so that neighbours stay neighbours."""
_SHOWN = 0.5
"""CIELAB distance up to which a screen counts as showing a colour."""


def screen_values(screen: Profile, xyz: Floats) -> Floats:
    """(n, 3) XYZ relative to the screen's white to (n, channels) values 0..1 of the screen."""
    values = xyz_to_device(screen, xyz, RELATIVE)
    body = gamut_of(screen)
    if not isinstance(body, GamutBody):
        return values
    lab = XYZ_to_Lab(xyz)
    clipped = XYZ_to_Lab(device_to_xyz(screen, np.clip(values, 0.0, 1.0), RELATIVE))
    beyond = np.linalg.norm(clipped - lab, axis=1) > _SHOWN
    if beyond.any():
        lab, clipped = lab[beyond], clipped[beyond]
        away = np.abs(turn(even_hue(clipped) - even_hue(lab)))
        part = np.clip((away - _TURNED[0]) / (_TURNED[1] - _TURNED[0]), 0.0, 1.0)[:, None]
        seen = clipped + part * (
            show_colours(lab, GamutBoundary.of_body(body, rounded=False)) - clipped
        )
        values[beyond] = xyz_to_device(screen, Lab_to_XYZ(seen), RELATIVE)
    return values


def convert_to_screen(
    source: Profile, screen: Profile, device: Floats, *, intent: str = "relative", bpc: bool = True
) -> Floats:
    """(n, channels) values of a profile to values of a screen, under an intent (transform/chain.py)."""
    number = intent_number(intent)
    scale, offset = between(source, screen, number, bpc=bpc)
    return screen_values(screen, device_to_xyz(source, device, number) * scale + offset)
