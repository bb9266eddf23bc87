"""Corrections of colour: source values to the XYZ that the print then aims at.

Curves act on the source's own numbers; lightness, chroma and hues act on its CIELAB colour. The
result stays in XYZ and is not forced back into the source's gamut, so that a correction may lead
to colours that the print can reach and the source's space cannot hold.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import Lab_to_LCh, Lab_to_XYZ, XYZ_to_Lab
from plinto_core.corrections.model import ColourRange, Correction, Curves, HueBand, Vivid
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import channel_names
from plinto_core.transform.sides import device_to_xyz, matrix_to_xyz, profile_matrix
from plinto_core.transform.standard_spaces import SPACES, rgb_matrix
from plinto_core.transform.tone_curve import apply_curve

STRETCH = 0.6
_NEUTRAL = 12.0
"""C*ab below which a hue's change fades, since neutral colours have no hue."""


@dataclass(frozen=True)
class Adjustment:
    """What happens to the source's colours, in order; falsy where nothing does."""

    corrections: tuple[Correction, ...] = ()
    vivid: Vivid | None = None

    def __bool__(self) -> bool:
        return bool(self.corrections) or (self.vivid is not None and self.vivid.strength > 0)

    def key(self) -> str:
        """Text that names all that decides colours."""
        parts = [c.model_dump_json(exclude={"name", "region", "black"}) for c in self.corrections]
        return "|".join([*parts, self.vivid.model_dump_json() if self.vivid else ""])

    def xyz(self, source: Profile, device: Floats, intent: int) -> Floats:
        """(n, channels) source values 0..1 to (n, 3) media-relative XYZ after all corrections.

        Which colours a correction is for is decided by the untouched source.
        """
        device = np.asarray(device, dtype=np.float64)
        if not self:
            return device_to_xyz(source, device, intent)
        original = None
        if any(c.colours for c in self.corrections):
            original = XYZ_to_Lab(device_to_xyz(source, device, 1))
        weights = [_weight(c.colours, original, device.shape[0]) for c in self.corrections]
        names = channel_names(source.colour_space)
        for correction, weight in zip(self.corrections, weights, strict=True):
            if correction.curves is not None:
                changed = _through(correction.curves, device, names)
                device = device + weight[:, None] * (changed - device)
        xyz = vivid_xyz(source, device, intent, self.vivid)
        if not any(c.lightness or c.chroma or c.hues for c in self.corrections):
            return xyz
        lab = XYZ_to_Lab(xyz)
        for correction, weight in zip(self.corrections, weights, strict=True):
            lab = lab + weight[:, None] * (_shifted(correction, lab) - lab)
        return Lab_to_XYZ(lab)


def _weight(colours: ColourRange | None, lab: Floats | None, count: int) -> Floats:
    if colours is None or lab is None:
        return np.ones(count)
    return colour_weight(colours, lab)


def colour_weight(colours: ColourRange, lab: Floats) -> Floats:
    """(n, 3) Lab to (n,) weight 0..1 of a colour range."""
    distance = np.linalg.norm(lab - np.array(colours.lab), axis=1)
    fade = colours.radius * colours.softness / 100.0
    share = np.clip((colours.radius + fade - distance) / fade, 0.0, 1.0)
    return np.asarray(share * share * (3 - 2 * share))


def _through(curves: Curves, device: Floats, names: tuple[str, ...]) -> Floats:
    out = device if curves.master is None else apply_curve(curves.master, device)
    if not curves.channels:
        return out
    out = out.copy()
    for i, name in enumerate(names):
        points = curves.channels.get(name)  # type: ignore[call-overload]
        if points is not None:
            out[:, i] = apply_curve(points, out[:, i])
    return out


def _shifted(correction: Correction, lab: Floats) -> Floats:
    if not (correction.lightness or correction.chroma or correction.hues):
        return lab
    lch = Lab_to_LCh(lab)
    lightness, chroma, hue = lch[:, 0], lch[:, 1], lch[:, 2]
    lightness = _lighter(lightness, correction.lightness)
    gain = np.full(chroma.shape, 1.0 + correction.chroma / 100.0)
    turn = np.zeros_like(hue)
    for band in correction.hues:
        weight = _hue_weight(band, chroma, hue)
        turn += weight * band.shift
        gain *= 1.0 + weight * band.chroma / 100.0
        lightness = lightness + weight * (_lighter(lightness, 2 * band.lightness) - lightness)
    angle = np.radians(hue + turn)
    chroma = chroma * gain
    return np.stack([lightness, chroma * np.cos(angle), chroma * np.sin(angle)], axis=1)


def _lighter(lightness: Floats, percent: float) -> Floats:
    """A power of L*: 0 and 100 stay, L* 50 goes to 71 at +100 and to 25 at -100."""
    if not percent:
        return lightness
    power = 2.0 ** (-percent / 100.0)
    return np.asarray(100.0 * (np.clip(lightness, 0.0, 100.0) / 100.0) ** power)


def _hue_weight(band: HueBand, chroma: Floats, hue: Floats) -> Floats:
    away = np.abs((hue - band.hue + 180.0) % 360.0 - 180.0)
    near = np.clip(1.0 - away / band.width, 0.0, 1.0)
    colourful = np.clip(chroma / _NEUTRAL, 0.0, 1.0)
    return np.asarray(near * near * (3 - 2 * near) * colourful * colourful * (3 - 2 * colourful))


def vivid_xyz(source: Profile, device: Floats, intent: int, vivid: Vivid | None) -> Floats:
    """(n, channels) values to XYZ, read partly in a larger space.

    A matrix profile keeps its tone curves and white while its primaries move towards those of
    the larger space; any other profile's colours have their chroma widened.
    """
    if vivid is None or vivid.strength == 0:
        return device_to_xyz(source, device, intent)
    share = vivid.strength / 100.0
    if vivid.space != "stretch" and source.is_matrix_shaper and not source.forward_tag(intent):
        larger = rgb_matrix(SPACES[vivid.space])
        return matrix_to_xyz(source, device, (1 - share) * profile_matrix(source) + share * larger)
    lab = XYZ_to_Lab(device_to_xyz(source, device, intent))
    lab[:, 1:] *= 1.0 + STRETCH * share
    return Lab_to_XYZ(lab)
