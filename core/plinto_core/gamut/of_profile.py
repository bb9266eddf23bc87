"""The gamut of a profile, from its forward side; looked at once for each profile."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Protocol

import numpy as np
from scipy.spatial import cKDTree

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import Lab_to_XYZ
from plinto_core.gamut.body import GamutBody, as_seen
from plinto_core.gamut.sheets import device_sheets
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import is_subtractive
from plinto_core.keeping import Kept
from plinto_core.transform.chain import lab_of_device
from plinto_core.transform.sides import xyz_to_device
from plinto_core.transform.table import node_values

_BODIES: Kept[tuple[str, str], Gamut] = Kept(24)
_FINE = 129
"""Steps of a device channel where one or two make all the colours there are."""


class Gamut(Protocol):
    """What can be asked of any gamut."""

    def printable(self, lab: Floats) -> Floats:
        """(n, 3) Lab, what lies outside moved to the nearest colour that prints."""
        ...

    @property
    def volume(self) -> float:
        """In cubic CIELAB units."""
        ...


@dataclass(frozen=True)
class FlatGamut:
    """The colours of one or two inks, or of more that only make greys: a line or a surface without
    volume. lab : (n, 3) close samples."""

    lab: Floats

    def printable(self, lab: Floats) -> Floats:
        return np.asarray(self.lab[cKDTree(as_seen(self.lab)).query(as_seen(lab))[1]])

    @property
    def volume(self) -> float:
        return 0.0


def gamut_of(profile: Profile, *, intent: str = "relative") -> Gamut:
    """What a profile's device shows or prints, media-relative, or with its white for "absolute".

    Inks stay within the highest total that its own relative colorimetric table uses.
    """
    return _BODIES.get((profile.colour_digest, intent), lambda: _look(profile, intent))


def _look(profile: Profile, intent: str) -> Gamut:
    def lab_of(device: Floats) -> Floats:
        return lab_of_device(profile, device, intent=intent)

    if profile.channels < 3:
        axis = np.linspace(0, 1, _FINE)
        grid = np.stack(np.meshgrid(*[axis] * profile.channels, indexing="ij"), axis=-1)
        return FlatGamut(lab_of(grid.reshape(-1, profile.channels)))
    limits, total = np.ones(profile.channels), own_total(profile)
    body = GamutBody.of_device(lab_of, limits, total)
    if body.holds_centre:
        return body
    device = device_sheets(limits, float(limits.sum()) if total is None else total)
    return FlatGamut(lab_of(device.reshape(-1, profile.channels)))


def own_total(profile: Profile) -> float | None:
    """The highest total of inks, a sum of shares, that a profile's own relative table uses, or None."""
    if not is_subtractive(profile.colour_space):
        return None
    if profile.float_backward(1) is not None:
        axes = np.linspace(0, 100, 33), np.linspace(-128, 127, 33), np.linspace(-128, 127, 33)
        lab = np.stack(np.meshgrid(*axes, indexing="ij"), axis=-1).reshape(-1, 3)
        return float(xyz_to_device(profile, Lab_to_XYZ(lab), 1).sum(axis=1).max())
    tag = profile.backward_tag(1)
    if tag is None:
        return None
    inks = node_values(profile.table(tag))
    return float(inks.sum(axis=1).max()) if len(inks) else None
