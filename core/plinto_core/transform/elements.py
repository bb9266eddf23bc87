"""Run a float table of a profile (ICC.1:2022, 10.16)."""

from __future__ import annotations

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import D50, Lab_to_XYZ, XYZ_to_Lab
from plinto_core.errors import BadProfile
from plinto_core.icc.elements import CurveSet, Elements, MatrixElement
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import CHANNELS
from plinto_core.kernels.interpolate import interpolate
from plinto_core.words import say


def run_elements(elements: Elements, values: Floats) -> Floats:
    """(n, inputs) to (n, outputs), in the units of each end; numbers that are none count as 0."""
    out = np.nan_to_num(np.asarray(values, dtype=np.float64), nan=0.0, posinf=0.0, neginf=0.0)
    for step in elements.steps:
        if isinstance(step, CurveSet):
            out = np.stack([curve(out[:, i]) for i, curve in enumerate(step.curves)], axis=1)
        elif isinstance(step, MatrixElement):
            out = out @ step.matrix.T + step.offset
        else:
            grid = np.array(step.clut.shape[:-1], dtype=np.int64)
            held = np.ascontiguousarray(np.clip(out, 0.0, 1.0))
            flat = np.ascontiguousarray(step.clut).reshape(-1)
            out = np.asarray(interpolate(flat, grid, step.clut.shape[-1], held, True))
    return np.asarray(out)


def _fitting(profile: Profile, elements: Elements, tag: str, inputs: int, outputs: int) -> None:
    if (elements.inputs, elements.outputs) != (inputs, outputs):
        raise BadProfile(say("transform.table-misfit", tag=tag))


def float_to_xyz(profile: Profile, device: Floats, intent: int) -> Floats | None:
    """(n, channels) device values 0..1 to (n, 3) XYZ of the PCS, media-relative; None where the profile
    has no float table for the intent."""
    tag = profile.float_forward(intent)
    if tag is None:
        return None
    elements = profile.elements(tag)
    _fitting(profile, elements, tag, profile.channels, 3)
    out = run_elements(elements, device)
    xyz = Lab_to_XYZ(out) if profile.header.pcs == "Lab " else out
    # D2B3 says what stands on the medium, which is taken back to its white (8.10.2, 6.3.2.2).
    return xyz * (D50 / profile.media_white) if tag == "D2B3" else xyz


def xyz_to_float(profile: Profile, xyz: Floats, intent: int) -> Floats | None:
    """(n, 3) XYZ of the PCS, media-relative, to (n, channels) device values 0..1; None where the profile
    has no float table for the intent."""
    tag = profile.float_backward(intent)
    if tag is None:
        return None
    elements = profile.elements(tag)
    _fitting(profile, elements, tag, 3, profile.channels)
    if tag == "B2D3":
        xyz = xyz * (profile.media_white / D50)
    given = XYZ_to_Lab(xyz) if profile.header.pcs == "Lab " else xyz
    return np.asarray(np.clip(run_elements(elements, given), 0.0, 1.0))


def float_direct(profile: Profile, values: Floats, intent: int) -> Floats | None:
    """(n, channels) through the float table of a device link or an abstract profile, Lab and XYZ in their
    own units on either side; None where it has none."""
    tag = profile.float_forward(intent) or profile.float_forward(0)
    if tag is None:
        return None
    elements = profile.elements(tag)
    ends = CHANNELS[profile.colour_space], CHANNELS[profile.header.pcs]
    _fitting(profile, elements, tag, *ends)
    return run_elements(elements, values)
