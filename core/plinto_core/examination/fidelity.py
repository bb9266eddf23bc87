"""What a profile gives back: printable colours through its backward and forward side."""

from __future__ import annotations

import numpy as np
from pydantic import BaseModel, ConfigDict

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import Lab_to_XYZ
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.examination.reach import everything
from plinto_core.examination.tones_lost import tones_lost
from plinto_core.icc.colorants import ink_names
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import is_subtractive
from plinto_core.transform.black_point import RELATIVE
from plinto_core.transform.chain import lab_of_device
from plinto_core.transform.sides import xyz_to_device

SAMPLES = 20_000
BANDS = (0.25, 0.5, 1.0, 2.0, 4.0, 8.0)
"""Upper ends in dE00 of the histogram's classes; the last class is open."""
_RAMPS, _STEPS = 300, 32


class Miss(BaseModel):
    """A colour that comes back wrong: Lab asked and printed, inks in percent, dE00."""

    model_config = ConfigDict(frozen=True)

    asked: tuple[float, float, float]
    printed: tuple[float, float, float]
    inks: dict[str, float]
    de00: float


class RoundTrip(BaseModel):
    """dE00 of colours inside the gamut; histogram : share of the colours by class of BANDS."""

    model_config = ConfigDict(frozen=True)

    mean: float
    p95: float
    p99: float
    max: float
    histogram: list[float]
    worst: list[Miss]


class PictureTrip(RoundTrip):
    """The same of a picture; tones_lost : percent of its gradients that print flat, by plate, see there;
    None for profiles that print no inks."""

    tones_lost: dict[str, float] | None


class Smoothness(BaseModel):
    """Along straight ramps inside the gamut with steps of 1 dE 1976: how far the print's steps and the
    inks bend. print_p99 : dE by which neighbouring steps differ, at 99 %; ink_p99, ink_max : second
    difference of the inks in percent; 0 is a straight line."""

    model_config = ConfigDict(frozen=True)

    print_p99: float
    ink_p99: float
    ink_max: float


def printable(profile: Profile, count: int = SAMPLES, seed: int = 11) -> Floats:
    """(about count, 3) media-relative Lab of seeded device colours that keep the total which the
    colorimetric table itself reaches."""
    rng = np.random.default_rng(seed)
    channels = profile.channels
    if not is_subtractive(profile.colour_space):
        return lab_of_device(profile, rng.random((count, channels)))
    top = float(everything(profile, RELATIVE).sum(axis=1).max())
    inks = rng.random((count * 4, channels))
    inks = inks[inks.sum(axis=1) <= top - 0.01][:count]
    return lab_of_device(profile, inks)


def round_trip(profile: Profile, colours: Floats | None = None) -> RoundTrip:
    """Colours through the colorimetric backward side and forward again.

    colours : (n, 3) media-relative Lab, such as a picture's, in or out of gamut; 20,000 printable ones
    where none are given.
    """
    lab = printable(profile) if colours is None else colours
    device = xyz_to_device(profile, Lab_to_XYZ(lab), RELATIVE)
    back = lab_of_device(profile, device)
    errors = delta_e_2000(lab, back)
    edges = np.array([0.0, *BANDS, np.inf])
    counted, _ = np.histogram(errors, edges)
    names = ink_names(profile)
    # A flat picture would list one colour twelve times.
    _, distinct = np.unique(np.round(lab, 1), axis=0, return_index=True)
    worst = [
        Miss(
            asked=_three(lab[i]),
            printed=_three(back[i]),
            inks={n: round(float(v) * 100, 1) for n, v in zip(names, device[i], strict=True)},
            de00=round(float(errors[i]), 2),
        )
        for i in distinct[np.argsort(errors[distinct])[::-1][:12]]
    ]
    return RoundTrip(
        mean=round(float(errors.mean()), 3),
        p95=round(float(np.percentile(errors, 95)), 3),
        p99=round(float(np.percentile(errors, 99)), 3),
        max=round(float(errors.max()), 3),
        histogram=[round(float(c) / errors.size, 4) for c in counted],
        worst=worst,
    )


def picture_trip(profile: Profile, colours: Floats, shape: tuple[int, ...]) -> PictureTrip:
    """What a profile gives back of a picture, by its colorimetric tables and without BPC.

    colours : (rows * columns, 3) media-relative Lab; shape : rows, columns.
    """
    lost = None
    if is_subtractive(profile.colour_space):
        inks = xyz_to_device(profile, Lab_to_XYZ(colours), RELATIVE)
        printed = lab_of_device(profile, inks)
        lost = tones_lost(colours, printed, inks, ink_names(profile), shape)
    return PictureTrip(**round_trip(profile, colours).model_dump(), tones_lost=lost)


def smoothness(profile: Profile, seed: int = 5) -> Smoothness:
    """How evenly inks and print follow straight ramps of colour."""
    ends = printable(profile, 4 * _RAMPS, seed)
    rng = np.random.default_rng(seed)
    start = ends[rng.integers(0, len(ends), _RAMPS)]
    towards = ends[rng.integers(0, len(ends), _RAMPS)] - start
    length = np.linalg.norm(towards, axis=1, keepdims=True)
    way = towards / np.maximum(length, 1e-9)
    steps = np.arange(_STEPS)[None, :, None]
    lab = start[:, None, :] + way[:, None, :] * steps
    inside = (steps[..., 0] <= length)[:, 2:]
    device = xyz_to_device(profile, Lab_to_XYZ(lab.reshape(-1, 3)), RELATIVE)
    printed = lab_of_device(profile, device).reshape(lab.shape)
    inks = device.reshape(_RAMPS, _STEPS, -1)
    bend = np.linalg.norm(np.diff(printed, 2, axis=1), axis=2)[inside]
    ink = (np.abs(np.diff(inks, 2, axis=1)).max(axis=2) * 100)[inside]
    if not bend.size:
        return Smoothness(print_p99=0.0, ink_p99=0.0, ink_max=0.0)
    return Smoothness(
        print_p99=round(float(np.percentile(bend, 99)), 3),
        ink_p99=round(float(np.percentile(ink, 99)), 2),
        ink_max=round(float(ink.max()), 2),
    )


def _three(lab: Floats) -> tuple[float, float, float]:
    lightness, a, b = (round(float(v), 1) + 0.0 for v in lab)
    return lightness, a, b
