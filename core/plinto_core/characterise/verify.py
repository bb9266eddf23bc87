"""Measure a finished profile: round trip inside the gamut, ink really reached, its own check."""

from __future__ import annotations

from typing import Any

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import Lab_to_XYZ
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.icc.check import check_profile
from plinto_core.icc.profile import Profile
from plinto_core.inks.rules import InkRules
from plinto_core.transform.chain import lab_of_device
from plinto_core.transform.sides import xyz_to_device

SAMPLES = 20_000


def statistics(errors: Floats) -> dict[str, float]:
    """Mean, 95th and 99th percentile and maximum."""
    return {
        "mean": round(float(errors.mean()), 4),
        "p95": round(float(np.percentile(errors, 95)), 4),
        "p99": round(float(np.percentile(errors, 99)), 4),
        "max": round(float(errors.max()), 4),
    }


def inks_within(rules: InkRules, count: int = SAMPLES, seed: int = 11) -> Floats:
    """(about count, 4) seeded tone values that keep the rules' limits and TAC."""
    rng = np.random.default_rng(seed)
    inks = rng.random((count * 3, 4)) * rules.ink_limits()
    return np.asarray(inks[inks.sum(axis=1) <= rules.tac / 100 - 0.01][:count])


def verify_profile(data: bytes, rules: InkRules) -> dict[str, Any]:
    """Round trip dE00 of printable colours, highest TAC of every table, problems found."""
    profile = Profile(data)
    lab = lab_of_device(profile, inks_within(rules))
    back = xyz_to_device(profile, Lab_to_XYZ(lab), 1)
    errors = delta_e_2000(lab, lab_of_device(profile, back))
    tac = {}
    for tag in ("B2A0", "B2A1", "B2A2"):
        clut = profile.table(tag).clut
        if clut is not None:
            tac[tag] = round(float(clut.sum(axis=-1).max()) * 100, 2)
    return {
        "round_trip": statistics(errors),
        "tac_reached": tac,
        "size": len(data),
        "problems": [vars(p) for p in check_profile(data)],
    }
