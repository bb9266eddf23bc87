"""The two sides of a profile: device values to XYZ of the PCS, and back, for one intent."""

from __future__ import annotations

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import D50, Lab_to_XYZ, XYZ_to_Lab
from plinto_core.errors import BadProfile, NotSupported
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import PCS_SPACES
from plinto_core.transform.elements import float_to_xyz, xyz_to_float
from plinto_core.transform.encoding import pcs_to_xyz, xyz_to_pcs
from plinto_core.transform.table import run_table
from plinto_core.words import say

_RGB = ("r", "g", "b")


def profile_matrix(profile: Profile) -> Floats:
    """(3, 3) linear RGB to XYZ of a matrix profile; raises BadProfile for one without inverse."""
    matrix = np.stack([profile.xyz(f"{c}XYZ") for c in _RGB], axis=1)
    if abs(float(np.linalg.det(matrix))) < 1e-9:
        raise BadProfile(say("transform.primaries-flat"))
    return matrix


def _refuse_odd_classes(profile: Profile) -> None:
    kind = profile.header.device_class
    if kind in ("nmcl", "link"):
        wording = "transform.is-named-list" if kind == "nmcl" else "transform.is-device-link"
        raise NotSupported(say(wording, profile=profile.description))


def device_to_xyz(profile: Profile, device: Floats, intent: int) -> Floats:
    """(n, channels) device values 0..1 to (n, 3) XYZ of the PCS, media-relative, Y = 1."""
    _refuse_odd_classes(profile)
    exact = float_to_xyz(profile, device, intent)
    if exact is not None:
        return exact
    tag = profile.forward_tag(intent)
    pcs = profile.header.pcs
    if tag is not None:
        table = profile.table(tag)
        if table.inputs != profile.channels or table.outputs != 3:
            raise BadProfile(say("transform.table-misfit", tag=tag))
        legacy = table.kind == "mft2"
        # Lab as a device space is indexed trilinearly, like every table addressed by Lab.
        tetrahedral = profile.colour_space not in PCS_SPACES
        return pcs_to_xyz(run_table(table, device, tetrahedral=tetrahedral), pcs, legacy=legacy)
    device = np.clip(np.asarray(device, dtype=np.float64), 0.0, 1.0)
    if profile.colour_space == "GRAY" and "kTRC" in profile:
        grey = profile.curve("kTRC")(device[:, 0])
        if pcs == "Lab ":
            return Lab_to_XYZ(np.stack([100.0 * grey, 0 * grey, 0 * grey], axis=1))
        return np.asarray(grey[:, None] * D50)
    if profile.is_matrix_shaper:
        return matrix_to_xyz(profile, device, profile_matrix(profile))
    raise BadProfile(say("transform.no-forward", profile=profile.description))


def matrix_to_xyz(profile: Profile, device: Floats, matrix: Floats) -> Floats:
    """(n, 3) values 0..1 through a matrix profile's tone curves and a (3, 3) matrix to XYZ."""
    device = np.clip(np.asarray(device, dtype=np.float64), 0.0, 1.0)
    linear = [profile.curve(f"{c}TRC")(device[:, i]) for i, c in enumerate(_RGB)]
    return np.asarray(np.stack(linear, axis=1) @ matrix.T)


def xyz_to_device(profile: Profile, xyz: Floats, intent: int) -> Floats:
    """(n, 3) XYZ of the PCS to (n, channels) device values 0..1."""
    _refuse_odd_classes(profile)
    exact = xyz_to_float(profile, xyz, intent)
    if exact is not None:
        return exact
    tag = profile.backward_tag(intent)
    pcs = profile.header.pcs
    if tag is not None:
        table = profile.table(tag)
        if table.outputs != profile.channels or table.inputs != 3:
            raise BadProfile(say("transform.table-misfit", tag=tag))
        unit = xyz_to_pcs(xyz, pcs, legacy=table.kind == "mft2")
        return np.clip(run_table(table, unit, tetrahedral=pcs != "Lab "), 0.0, 1.0)
    if profile.colour_space == "GRAY" and "kTRC" in profile:
        lightness = XYZ_to_Lab(xyz)[:, 0] / 100.0
        grey = lightness if pcs == "Lab " else xyz[:, 1]
        inverse = profile.curve("kTRC").inverse(np.clip(grey, 0.0, 1.0))
        return np.clip(inverse, 0.0, 1.0)[:, None]
    if profile.is_matrix_shaper:
        linear = np.clip(xyz @ np.linalg.inv(profile_matrix(profile)).T, 0.0, 1.0)
        device = [profile.curve(f"{c}TRC").inverse(linear[:, i]) for i, c in enumerate(_RGB)]
        return np.clip(np.stack(device, axis=1), 0.0, 1.0)
    raise BadProfile(say("transform.no-backward", profile=profile.description))
