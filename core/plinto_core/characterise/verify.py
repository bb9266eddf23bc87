"""Measure a finished profile: round trip inside the gamut, ink really reached, its own check."""

from __future__ import annotations

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.characterise.report import ProfileProblem, Verification
from plinto_core.characterise.solids import stray_ink
from plinto_core.colorimetry.cielab import Lab_to_XYZ
from plinto_core.colorimetry.difference import delta_e_2000, in_figures
from plinto_core.icc.check import check_profile
from plinto_core.icc.colorants import ink_names
from plinto_core.icc.profile import Profile
from plinto_core.inks.evenness import RAMP, evenness
from plinto_core.inks.rules import INKS, InkRules
from plinto_core.transform.chain import lab_of_device
from plinto_core.transform.sides import xyz_to_device
from plinto_core.transform.table import node_values

SAMPLES = 20_000


def inks_within(
    rules: InkRules, count: int = SAMPLES, seed: int = 11, names: tuple[str, ...] = INKS
) -> Floats:
    """(about count, inks) seeded tone values that keep the rules' limits and TAC.

    More than four inks are drawn four at a time at most: a press never lays all of them at once.
    """
    rng = np.random.default_rng(seed)
    inks = rng.random((count * 3, len(names))) * rules.ink_limits(names)
    if len(names) > 4:
        inks *= rng.random(inks.shape).argsort(axis=1) < 4
    return np.asarray(inks[inks.sum(axis=1) <= rules.tac / 100 - 0.01][:count])


def _neutrals() -> Floats:
    return np.stack([np.linspace(100, 0, RAMP), np.zeros(RAMP), np.zeros(RAMP)], axis=1)


def verify_profile(data: bytes, rules: InkRules) -> Verification:
    """Round trip dE00 of printable colours, highest TAC of every table, problems found."""
    profile = Profile(data)
    names = ink_names(profile)
    lab = lab_of_device(profile, inks_within(rules, names=names))
    back = xyz_to_device(profile, Lab_to_XYZ(lab), 1)
    errors = delta_e_2000(lab, lab_of_device(profile, back))
    tac = {}
    for tag in ("B2A0", "B2A1", "B2A2"):
        if profile.colour_space != "RGB ":
            tac[tag] = round(float(node_values(profile.table(tag)).sum(axis=1).max()) * 100, 2)
    return Verification(
        round_trip=in_figures(errors),
        tac_reached=tac,
        size=len(data),
        greys=evenness(
            xyz_to_device(profile, Lab_to_XYZ(_neutrals()), 1),
            names.index("K") if "K" in names else None,
        ),
        stray_ink=stray_ink(profile, rules) if names == INKS else None,
        problems=tuple(ProfileProblem(**vars(p)) for p in check_profile(data)),
    )
