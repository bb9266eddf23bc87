"""Colours into whatever a device prints, a body of colours or a line of tones."""

from __future__ import annotations

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.gamut.body import GamutBody
from plinto_core.gamut.boundary import GamutBoundary
from plinto_core.gamut.mapping import MappingLook, fit_lightness, map_colours
from plinto_core.gamut.of_profile import Gamut


def map_into(reach: Gamut, lab: Floats, look: MappingLook) -> Floats:
    """(n, 3) Lab of the source, black at L* 0, to Lab within what prints; of a line or a sheet of colours, as
    one or two inks make, only the tones are fitted."""
    if isinstance(reach, GamutBody):
        return map_colours(lab, GamutBoundary.of_body(reach), look)
    mapped = np.array(lab)
    darkest = float(reach.printable(np.zeros((1, 3)))[0, 0])
    mapped[:, 0] = fit_lightness(lab[:, 0], darkest, look.contrast)
    return mapped
