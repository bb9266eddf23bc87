"""How much a profile prints at all: the figures of its gamut."""

from __future__ import annotations

from plinto_core.gamut import GamutBody
from plinto_core.gamut.of_profile import gamut_of
from plinto_core.gamut.views import GamutFigures, gamut_figures
from plinto_core.icc.profile import Profile


def gamut_of_profile(profile: Profile) -> GamutFigures | None:
    """Of the forward side, media-relative, within the total that the profile's own table uses; None where
    the colours have no volume, as those of one or two inks have none."""
    body = gamut_of(profile)
    return gamut_figures(body) if isinstance(body, GamutBody) else None
