"""How much a profile prints at all: the figures of its gamut."""

from __future__ import annotations

import numpy as np
from pydantic import BaseModel, ConfigDict

from plinto_core.colorimetry.cielab import Lab_to_LCh
from plinto_core.gamut import GamutBody
from plinto_core.gamut.of_profile import gamut_of
from plinto_core.icc.profile import Profile


class GamutFigures(BaseModel):
    """Of the forward side, media-relative, within the total that the profile's own table uses.

    volume : cubic CIELAB units; darkest, lightest : L* of the greys; most_chroma : C*ab of the most
    chromatic colour, at_lightness, at_hue : its L* and hue in degrees.
    """

    model_config = ConfigDict(frozen=True)

    volume: int
    darkest: float
    lightest: float
    most_chroma: float
    at_lightness: float
    at_hue: float


def gamut_figures(profile: Profile) -> GamutFigures | None:
    """None where the colours have no volume, as those of one or two inks have none."""
    body = gamut_of(profile)
    if not isinstance(body, GamutBody):
        return None
    darkest, lightest = body.lightness_range
    lch = Lab_to_LCh(body.vertices.reshape(-1, 3))
    lightness, chroma, hue = (round(float(v), 1) for v in lch[np.argmax(lch[:, 1])])
    return GamutFigures(
        volume=round(body.volume),
        darkest=round(darkest, 1),
        lightest=round(lightest, 1),
        most_chroma=chroma,
        at_lightness=lightness,
        at_hue=hue % 360,
    )
