"""Black points and their compensation (ISO 18619).

Where the standard leaves room, Plinto decides as the Little CMS library does, so that figures
can be compared: see docs/methods/profile-evaluation.md.
"""

from __future__ import annotations

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import D50, Lab_to_XYZ, XYZ_to_Lab
from plinto_core.icc.profile import A2B, B2A, Profile
from plinto_core.icc.spaces import is_subtractive
from plinto_core.keeping import Kept
from plinto_core.transform.sides import device_to_xyz, xyz_to_device

PERCEPTUAL, RELATIVE, SATURATION, ABSOLUTE = range(4)
PERCEPTUAL_BLACK = np.array([0.00336, 0.0034731, 0.00287])
"""XYZ of the reference medium's black of v4 perceptual tables (ICC.1:2022, 6.3.4.2)."""
_ZERO = np.zeros(3)


def source_black_point(profile: Profile, intent: int) -> Floats:
    """XYZ of the black point of a profile used as source."""
    return _cached(profile, intent, False)


def destination_black_point(profile: Profile, intent: int) -> Floats:
    """XYZ of the black point of a profile used as destination."""
    return _cached(profile, intent, True)


_POINTS: Kept[tuple[str, int, bool], Floats] = Kept(512)


def _cached(profile: Profile, intent: int, destination: bool) -> Floats:
    find = _destination if destination else _source
    return _POINTS.get((profile.colour_digest, intent, destination), lambda: find(profile, intent))


def _source(profile: Profile, intent: int) -> Floats:
    if profile.header.device_class in ("link", "abst", "nmcl") or intent == ABSOLUTE:
        return _ZERO
    if profile.is_v4 and intent in (PERCEPTUAL, SATURATION):
        if profile.is_matrix_shaper and profile.forward_table(intent) is None:
            return _darkest_colorant(profile, RELATIVE)
        return PERCEPTUAL_BLACK
    if (
        intent == RELATIVE
        and profile.header.device_class == "prtr"
        and profile.colour_space == "CMYK"
    ):
        return _perceptual_black_ink(profile)
    return _darkest_colorant(profile, intent)


def _supported(profile: Profile, intent: int, tags: tuple[str, ...]) -> bool:
    """Whether the profile states this very intent; a stand-in table has no black of its own."""
    return _states(profile, intent, tags) or profile.is_matrix_shaper


def _states(profile: Profile, intent: int, tags: tuple[str, ...]) -> bool:
    exact = profile.float_forward(intent) if tags is A2B else profile.float_backward(intent)
    return tags[intent] in profile or exact is not None


def _darkest_colorant(profile: Profile, intent: int) -> Floats:
    space = profile.colour_space
    if space in ("Lab ", "XYZ ") or not _supported(profile, intent, A2B):
        return _ZERO
    if (
        space.endswith("CLR")
        and profile.channels > 1
        and profile.backward_table(intent) is not None
    ):
        # All inks solid is no black: nobody prints five of them, and of two they are a colour.
        return _printed_black(profile, intent)
    value = 1.0 if is_subtractive(space) else 0.0
    device = np.full((1, profile.channels), value)
    xyz = device_to_xyz(profile, device, intent)[0]
    lightness = float(XYZ_to_Lab(xyz)[0])
    if space == "1CLR" and lightness <= 50.0:
        # A single ink has its colour everywhere; greys are met by lightness, and so is black.
        return _neutral(max(lightness, 0.0))
    return xyz if 0.0 <= lightness <= 50.0 else _ZERO


def _printed_black(profile: Profile, intent: int) -> Floats:
    """The black that a profile's own tables print for the darkest neutral, within its ink limits."""
    lightness = float(_round_trip(profile, np.zeros((1, 3)), intent)[0, 0])
    return _neutral(min(max(lightness, 0.0), 50.0))


def _perceptual_black_ink(profile: Profile) -> Floats:
    """The black the perceptual table really prints, so that its ink limit counts."""
    if profile.backward_table(PERCEPTUAL) is None or not _supported(profile, PERCEPTUAL, A2B):
        return _ZERO
    lightness = float(_round_trip(profile, np.zeros((1, 3)), PERCEPTUAL)[0, 0])
    return _neutral(min(max(lightness, 0.0), 50.0))


def _neutral(lightness: float) -> Floats:
    return np.asarray(Lab_to_XYZ(np.array([lightness, 0.0, 0.0])))


def _round_trip(profile: Profile, lab: Floats, intent: int) -> Floats:
    xyz = Lab_to_XYZ(lab)
    if profile.is_v4 and intent in (PERCEPTUAL, SATURATION):
        scale, offset = compensation(_ZERO, PERCEPTUAL_BLACK)
        xyz = xyz * scale + offset
    device = xyz_to_device(profile, xyz, intent)
    return XYZ_to_Lab(device_to_xyz(profile, device, RELATIVE))


def _destination(profile: Profile, intent: int) -> Floats:
    if profile.header.device_class in ("link", "abst", "nmcl") or intent == ABSOLUTE:
        return _ZERO
    tables = _states(profile, intent, B2A)
    if profile.is_v4 and intent in (PERCEPTUAL, SATURATION):
        if profile.is_matrix_shaper and not tables:
            return _darkest_colorant(profile, RELATIVE)
        return PERCEPTUAL_BLACK
    # Of two, three, five and more inks as well: their perceptual tables fit blacks as those of four do.
    if not tables or not (
        profile.colour_space in ("GRAY", "RGB ") or is_subtractive(profile.colour_space)
    ):
        return _source(profile, intent)
    initial = XYZ_to_Lab(_source(profile, intent)) if intent == RELATIVE else np.zeros(3)
    return _fit_ramp(profile, intent, initial)


def _fit_ramp(profile: Profile, intent: int, initial: Floats) -> Floats:
    """Fit a parabola to the shadow end of the lightness round trip (ISO 18619, 6.3.4)."""
    ramp = np.linspace(0.0, 100.0, 256)
    lab = np.stack(
        [
            ramp,
            np.full(256, np.clip(initial[1], -50, 50)),
            np.full(256, np.clip(initial[2], -50, 50)),
        ],
        axis=1,
    )
    out = _round_trip(profile, lab, intent)[:, 0]
    out[1:] = np.minimum.accumulate(out[1:][::-1])[::-1]
    lowest, highest = out[0], out[255]
    if not lowest < highest:
        return _ZERO
    if intent == RELATIVE:
        straight = (ramp <= lowest + 0.2 * (highest - lowest)) | (np.abs(ramp - out) < 4.0)
        if straight.all():
            return np.asarray(Lab_to_XYZ(initial))
    share = (out - lowest) / (highest - lowest)
    low, high = (0.1, 0.5) if intent == RELATIVE else (0.03, 0.25)
    chosen = (share >= low) & (share < high)
    if chosen.sum() < 3:
        return _ZERO
    black = np.array([_vertex(ramp[chosen], share[chosen]), initial[1], initial[2]])
    return np.asarray(Lab_to_XYZ(black))


def _vertex(x: Floats, y: Floats) -> float:
    if x.size < 4:
        return 0.0
    a, b, c = np.polyfit(x, y, 2)
    if abs(a) < 1e-10:
        return 0.0
    under = b * b - 4 * a * c
    if under <= 0:
        return 0.0
    return float(np.clip((-b + np.sqrt(under)) / (2 * a), 0.0, 50.0))


def compensation(black_in: Floats, black_out: Floats) -> tuple[Floats, Floats]:
    """Scale and offset in XYZ that keep the white and take one black to the other."""
    if np.array_equal(black_in, black_out):
        return np.ones(3), np.zeros(3)
    below = black_in - D50
    scale = (black_out - D50) / below
    return scale, -D50 * (black_out - black_in) / below
