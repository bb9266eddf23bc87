"""Solid inks and their overprints: what a press sheet is judged by first, and what a profile has to give
back as it is."""

from __future__ import annotations

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import Lab_to_XYZ
from plinto_core.icc.profile import Profile
from plinto_core.inks.forward import BLACK, TAC_MARGIN
from plinto_core.inks.rules import InkRules
from plinto_core.transform.chain import lab_of_device
from plinto_core.transform.sides import xyz_to_device

TINTS = (1.0, 0.9, 0.75, 0.5, 0.25)


def solids(rules: InkRules) -> Floats:
    """(30, 4) cyan, magenta and yellow alone and two by two, solid and in TINTS, as far as the rules let
    them."""
    one = np.eye(4)[:BLACK]
    full = np.concatenate([one, one + np.roll(one, 1, axis=0)]) * rules.ink_limits()
    most = rules.tac / 100 - TAC_MARGIN
    full *= np.minimum(1.0, most / np.maximum(full.sum(axis=1), 1e-9))[:, None]
    return np.concatenate([tint * full for tint in TINTS])


def stray_ink(profile: Profile, rules: InkRules) -> float:
    """The most, in percent of tone value, that a four-ink profile's relative colorimetric table gives
    the colour of a solid or of an overprint of two of an ink that it is not made of."""
    inks = solids(rules)[:6]
    back = xyz_to_device(profile, Lab_to_XYZ(lab_of_device(profile, inks)), 1)
    return round(float(back[inks <= 0.0].max()) * 100, 2)
