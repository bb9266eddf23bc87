"""Corrections of colour: source values to the XYZ that the print then aims at.

Curves act on the source's own numbers; lightness, chroma and hues act on its CIELAB colour. The
result stays in XYZ and is not forced back into the source's gamut, so that a correction may lead
to colours that the print can reach and the source's space cannot hold.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import Lab_to_XYZ, XYZ_to_Lab
from plinto_core.colorimetry.even_hue import even_hue, in_hue, made_real
from plinto_core.corrections.former import shifted_formerly
from plinto_core.corrections.model import ColourRange, Correction, Curves, Vivid
from plinto_core.corrections.shift import shifted
from plinto_core.icc.colorants import ink_names
from plinto_core.icc.profile import Profile
from plinto_core.inks.separation import PRESENT, Method
from plinto_core.transform.sides import device_to_xyz, matrix_to_xyz, profile_matrix
from plinto_core.transform.standard_spaces import SPACES, rgb_matrix
from plinto_core.transform.tone_curve import apply_curve

STRETCH = 0.6
_LEAST_GAIN = 0.01
"""C*ab that a colour has to gain, so that greys and what is as vivid as it gets stay to the bit."""


@dataclass(frozen=True)
class Adjustment:
    """What happens to the source's colours, in order; falsy where nothing does.

    method : of the recipe; before 3, lightness, chroma and hues are those of former.py.
    """

    corrections: tuple[Correction, ...] = ()
    vivid: Vivid | None = None
    method: Method = PRESENT

    def __bool__(self) -> bool:
        return bool(self.corrections) or (self.vivid is not None and self.vivid.strength > 0)

    def key(self) -> str:
        """Text that names all that decides colours."""
        parts = [c.model_dump_json(exclude={"name", "region", "black"}) for c in self.corrections]
        former = "former" if self.corrections and self.method < 3 else ""
        return "|".join([*parts, self.vivid.model_dump_json() if self.vivid else "", former])

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
        names = ink_names(source)
        for correction, weight in zip(self.corrections, weights, strict=True):
            if correction.curves is not None:
                changed = _through(correction.curves, device, names)
                device = device + weight[:, None] * (changed - device)
        xyz = vivid_xyz(source, device, intent, self.vivid)
        if not any(c.lightness or c.chroma or c.hues for c in self.corrections):
            return xyz
        lab = XYZ_to_Lab(xyz)
        shift = shifted_formerly if self.method < 3 else shifted
        for correction, weight in zip(self.corrections, weights, strict=True):
            lab = lab + weight[:, None] * (shift(correction, lab) - lab)
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


def vivid_xyz(source: Profile, device: Floats, intent: int, vivid: Vivid | None) -> Floats:
    """(n, channels) values to XYZ, as vivid as if they were read partly in a larger space.

    A matrix profile keeps its tone curves and white while its primaries move towards those of the larger
    space; any other profile's colours have their chroma widened. Of that colours take the chroma where it is
    more than their own; their lightness and hue stay, so that none prints duller.
    """
    xyz = device_to_xyz(source, device, intent)
    if vivid is None or vivid.strength == 0:
        return xyz
    share = vivid.strength / 100.0
    lab = XYZ_to_Lab(xyz)
    chroma, hue = np.hypot(lab[:, 1], lab[:, 2]), even_hue(made_real(lab))
    if vivid.space != "stretch" and source.is_matrix_shaper and not source.forward_table(intent):
        larger = rgb_matrix(SPACES[vivid.space])
        mixed = (1 - share) * profile_matrix(source) + share * larger
        wide = made_real(XYZ_to_Lab(matrix_to_xyz(source, device, mixed)))
        wider = np.hypot(wide[:, 1], wide[:, 2])
    else:
        wider = chroma * (1.0 + STRETCH * share)
    gains = wider > chroma + _LEAST_GAIN
    if gains.any():
        lab[gains] = in_hue(hue[gains], lab[gains, 0], wider[gains])
    return Lab_to_XYZ(lab)
