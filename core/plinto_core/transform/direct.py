"""Profiles that lead from one space straight into another: device links, abstract profiles, named
colours (ICC.1:2022, 8.6 to 8.9)."""

from __future__ import annotations

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import Lab_to_XYZ, XYZ_to_Lab
from plinto_core.errors import BadProfile
from plinto_core.icc.profile import A2B, Profile
from plinto_core.icc.spaces import CHANNELS
from plinto_core.icc.tables import Table
from plinto_core.icc.values import parse_named
from plinto_core.transform.elements import float_direct
from plinto_core.transform.encoding import lab_to_unit, pcs_to_xyz, unit_to_lab, xyz_to_pcs
from plinto_core.transform.table import run_table
from plinto_core.words import say


def _table(profile: Profile, intent: int) -> Table:
    tag = A2B[intent] if A2B[intent] in profile else "A2B0"
    table = profile.table(tag)
    ends = (CHANNELS[profile.colour_space], CHANNELS[profile.header.pcs])
    if (table.inputs, table.outputs) != ends:
        raise BadProfile(say("transform.table-misfit", tag=tag))
    return table


def run_link(profile: Profile, device: Floats, intent: int = 0) -> Floats:
    """(n, channels) values 0..1, or Lab where the link begins with it, through a device link.

    Comes out 0..1, or as Lab where the link ends in it. Raises BadProfile for a link without a fitting
    table.
    """
    exact = float_direct(profile, device, intent)
    if exact is not None:
        return exact if profile.header.pcs == "Lab " else np.clip(exact, 0.0, 1.0)
    table = _table(profile, intent)
    legacy = table.kind == "mft2"
    if profile.colour_space == "Lab ":
        device = lab_to_unit(device, legacy=legacy)
    out = run_table(table, device, tetrahedral=profile.colour_space != "Lab ")
    if profile.header.pcs == "Lab ":
        return unit_to_lab(out, legacy=legacy)
    return np.asarray(np.clip(out, 0.0, 1.0))


def run_abstract(profile: Profile, lab: Floats, intent: int = 0) -> Floats:
    """(n, 3) Lab of the PCS through an abstract profile to (n, 3) Lab."""
    if profile.colour_space == profile.header.pcs == "Lab ":
        exact = float_direct(profile, lab, intent)
        if exact is not None:
            return exact
    table = _table(profile, intent)
    legacy = table.kind == "mft2"
    unit = xyz_to_pcs(Lab_to_XYZ(lab), profile.colour_space, legacy=legacy)
    out = run_table(table, unit, tetrahedral=profile.colour_space != "Lab ")
    return XYZ_to_Lab(pcs_to_xyz(out, profile.header.pcs, legacy=legacy))


def named_lab(profile: Profile) -> Floats:
    """(n, 3) Lab of a list of named colours, in its order."""
    pcs = parse_named(profile.raw("ncl2")).pcs
    # The list keeps the 16-bit encoding of lut16Type in every version of the standard.
    return XYZ_to_Lab(pcs_to_xyz(pcs, profile.header.pcs, legacy=True))


def colour_names(profile: Profile) -> tuple[str, ...]:
    """The names of a list of named colours."""
    return parse_named(profile.raw("ncl2")).names
