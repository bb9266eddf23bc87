"""RGB and grey spaces generated from published primaries and transfer functions.

sRGB: IEC 61966-2-1. opRGB: IEC 61966-2-5. ROMM RGB: ISO 22028-2. P3 under D65 with the sRGB
transfer function: primaries of SMPTE RP 431-2. Grey: gamma 2.2.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.adaptation import bradford
from plinto_core.colorimetry.cielab import D50
from plinto_core.icc import values
from plinto_core.icc.curves import ParametricCurve, SampledCurve
from plinto_core.icc.header import IccHeader
from plinto_core.icc.profile import Profile
from plinto_core.icc.write import write_profile

D65_xy = (0.3127, 0.3290)
D50_xy = (0.3457, 0.3585)
_SRGB_CURVE = ParametricCurve(3, (2.4, 1 / 1.055, 0.055 / 1.055, 1 / 12.92, 0.04045))


@dataclass(frozen=True)
class RgbSpace:
    """Chromaticities of primaries and white, and the transfer function."""

    name: str
    primaries: tuple[tuple[float, float], tuple[float, float], tuple[float, float]]
    white: tuple[float, float]
    curve: ParametricCurve


SPACES: dict[str, RgbSpace] = {
    "srgb": RgbSpace("sRGB", ((0.64, 0.33), (0.30, 0.60), (0.15, 0.06)), D65_xy, _SRGB_CURVE),
    "oprgb": RgbSpace(
        "opRGB",
        ((0.64, 0.33), (0.21, 0.71), (0.15, 0.06)),
        D65_xy,
        ParametricCurve(0, (563 / 256,)),
    ),
    "romm": RgbSpace(
        "ROMM RGB",
        ((0.7347, 0.2653), (0.1596, 0.8404), (0.0366, 0.0001)),
        D50_xy,
        ParametricCurve(3, (1.8, 1.0, 0.0, 1 / 16, 0.031248)),
    ),
    "p3": RgbSpace("P3 D65", ((0.680, 0.320), (0.265, 0.690), (0.150, 0.060)), D65_xy, _SRGB_CURVE),
}


def _xyz(xy: tuple[float, float]) -> Floats:
    x, y = xy
    return np.array([x / y, 1.0, (1 - x - y) / y])


def rgb_matrix(space: RgbSpace) -> Floats:
    """(3, 3) linear RGB to XYZ under D50; its columns add up to the PCS white exactly."""
    columns = np.stack([_xyz(p) for p in space.primaries], axis=1)
    white = _xyz(space.white)
    matrix = columns * np.linalg.solve(columns, white)
    adapted = bradford(white, D50) @ matrix
    return np.asarray(adapted * (D50 / adapted.sum(axis=1))[:, None])


def _sampled(curve: ParametricCurve) -> SampledCurve:
    return SampledCurve(np.round(curve(np.linspace(0, 1, 4096)) * 65535) / 65535)


@cache
def standard_profile(key: str) -> Profile:
    """The profile of "srgb", "oprgb", "romm", "p3" or "grey", version 2, display class."""
    if key == "grey":
        return Profile(_grey())
    space = SPACES[key]
    matrix = np.round(rgb_matrix(space) * 65536) / 65536
    simple = space.curve.kind == 0
    if simple:
        gamma = round(space.curve.parameters[0] * 256)
        curve = b"curv" + bytes(4) + (1).to_bytes(4, "big") + gamma.to_bytes(2, "big")
    else:
        curve = _sampled(space.curve).pack()
    tags = {
        "desc": values.pack_desc(space.name),
        "cprt": values.pack_text("Generated from published primaries; free to use."),
        "wtpt": values.pack_xyz(D50),
        "chad": values.pack_sf32(bradford(_xyz(space.white), D50)),
    }
    for i, c in enumerate("rgb"):
        tags[f"{c}XYZ"] = values.pack_xyz(matrix[:, i])
        tags[f"{c}TRC"] = curve
    header = IccHeader(
        size=0, version=(2, 4, 0), device_class="mntr", colour_space="RGB ", pcs="XYZ "
    )
    return Profile(write_profile(header, tags))


def _grey() -> bytes:
    header = IccHeader(
        size=0, version=(2, 4, 0), device_class="mntr", colour_space="GRAY", pcs="XYZ "
    )
    gamma = b"curv" + bytes(4) + (1).to_bytes(4, "big") + round(2.2 * 256).to_bytes(2, "big")
    return write_profile(
        header,
        {
            "desc": values.pack_desc("Grey gamma 2.2"),
            "cprt": values.pack_text("Generated from a published function; free to use."),
            "wtpt": values.pack_xyz(D50),
            "kTRC": gamma,
        },
    )
