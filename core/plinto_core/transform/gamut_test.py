"""How far a colour lies outside what a profile can print."""

from __future__ import annotations

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import Lab_to_XYZ, XYZ_to_Lab
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.icc.profile import Profile
from plinto_core.transform.sides import device_to_xyz, xyz_to_device

THRESHOLD = 2.0
"""dE00 above which a colour counts as out of gamut: above the error of a table's round trip."""


def gamut_distance(profile: Profile, lab: Floats) -> Floats:
    """(n, 3) media-relative Lab to (n,) dE00 between it and its relative colorimetric print."""
    device = xyz_to_device(profile, Lab_to_XYZ(lab), 1)
    return delta_e_2000(lab, XYZ_to_Lab(device_to_xyz(profile, device, 1)))
