"""Gamuts side by side: one way of looking for all, outlines that any cut is read from, what one covers of
another, and clouds of colours against them."""

from __future__ import annotations

from typing import Literal

import numpy as np
from pydantic import BaseModel, ConfigDict

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import Lab_to_LCh, Lab_to_XYZ, XYZ_to_Lab
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.gamut.body import GamutBody
from plinto_core.gamut.of_profile import own_total
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import is_subtractive
from plinto_core.keeping import Kept
from plinto_core.transform.black_point import compensation
from plinto_core.transform.chain import lab_of_device

Sight = Literal["absolute", "paper", "black"]
"""How bodies are looked at: with the medium's white, with every white as white, or with every black as
black too (as relative colorimetric with BPC does)."""
SIGHTS: tuple[Sight, ...] = ("absolute", "paper", "black")
LIGHTNESSES = np.arange(0.0, 101.0)
HUES = np.arange(0.0, 360.0, 3.0)
_LATTICE = 6.0
"""CIELAB units between the colours that one body is printed on another by."""
Limits = tuple[float, ...]
"""Most tone value of each ink, 0..1."""
_BODIES: Kept[tuple[str, Sight, float | None, Limits], GamutBody | None] = Kept(48)


class GamutFigures(BaseModel):
    """volume : cubic CIELAB units; darkest, lightest : L* of the greys; most_chroma : C*ab of the most
    chromatic colour, at_lightness, at_hue : its L* and hue in degrees."""

    model_config = ConfigDict(frozen=True)

    volume: int
    darkest: float
    lightest: float
    most_chroma: float
    at_lightness: float
    at_hue: float


class BodyFigures(GamutFigures):
    """With what all cuts are drawn from. chroma : (101, 120) largest C*ab at L* 0 to 100 and hues of 0 to
    357 degrees, 0 where the body has no such lightness."""

    chroma: list[list[float]]


class PairFigures(BaseModel):
    """One body printed on another. coverage : share 0..1 of `body` that `on` holds; intersection : cubic
    CIELAB units; de00_mean, de00_p95 : of the body's colours to the nearest that `on` prints, those it
    prints counted as 0."""

    model_config = ConfigDict(frozen=True)

    coverage: float
    intersection: int
    de00_mean: float
    de00_p95: float


def body_of(
    profile: Profile, sight: Sight, tac: float | None = None, limits: Limits = ()
) -> GamutBody | None:
    """The body of a profile's colours, None for one or two inks, which have no volume.

    tac : percent that holds for the inks, None for what the profile's own table uses; limits : of single
    inks, () for none.
    """
    key = (profile.colour_digest, sight, tac, limits)
    return _BODIES.get(key, lambda: _look(profile, sight, tac, limits))


def _look(profile: Profile, sight: Sight, tac: float | None, most: Limits) -> GamutBody | None:
    if profile.channels < 3:
        return None
    limits = np.array(most) if most else np.ones(profile.channels)
    total = own_total(profile)
    if tac is not None and is_subtractive(profile.colour_space):
        total = tac / 100

    def lab_of(device: Floats) -> Floats:
        return lab_of_device(
            profile, device, intent="absolute" if sight == "absolute" else "relative"
        )

    body = GamutBody.of_device(lab_of, limits, total)
    if not body.holds_centre:
        return None
    if sight != "black":
        return body
    black = Lab_to_XYZ(np.array([body.lightness_range[0], 0.0, 0.0]))
    scale, offset = compensation(black, np.zeros(3))

    def stretched(device: Floats) -> Floats:
        return XYZ_to_Lab(Lab_to_XYZ(lab_of(device)) * scale + offset)

    made = GamutBody.of_device(stretched, limits, total)
    return made if made.holds_centre else None


def gamut_figures(body: GamutBody) -> GamutFigures:
    """How far a body reaches."""
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


def body_figures(body: GamutBody) -> BodyFigures:
    """All that the figures, the cuts and the leaves of a body are drawn from."""
    darkest, lightest = body.lightness_range
    lightness, hue = np.meshgrid(LIGHTNESSES, HUES, indexing="ij")
    chroma = body.chroma_at(lightness.reshape(-1), hue.reshape(-1)).reshape(lightness.shape)
    chroma[(darkest > LIGHTNESSES) | (lightest < LIGHTNESSES)] = 0.0
    return BodyFigures(**gamut_figures(body).model_dump(), chroma=np.round(chroma, 1).tolist())


def pair_figures(body: GamutBody, on: GamutBody) -> PairFigures:
    """What becomes of a body's colours on another."""
    lab = _colours_in(body)
    away = np.zeros(len(lab))
    outside = ~on.contains(lab)
    if outside.any():
        away[outside] = delta_e_2000(lab[outside], on.nearest(lab[outside]))
    return PairFigures(
        coverage=round(on.coverage(body), 4),
        intersection=round(body.intersection(on).volume),
        de00_mean=round(float(away.mean()), 2) if len(away) else 0.0,
        de00_p95=round(float(np.percentile(away, 95)), 2) if len(away) else 0.0,
    )


def _colours_in(body: GamutBody) -> Floats:
    """(n, 3) Lab on a lattice within a body, even in volume."""
    low, high = body.vertices.reshape(-1, 3).min(axis=0), body.vertices.reshape(-1, 3).max(axis=0)
    axes = [np.arange(a + _LATTICE / 2, b, _LATTICE) for a, b in zip(low, high, strict=True)]
    grid = np.stack(np.meshgrid(*axes, indexing="ij"), axis=-1).reshape(-1, 3)
    return np.asarray(grid[body.contains(grid)])


def thinned(lab: Floats, most: int) -> np.ndarray:
    """(n, 3) Lab to the places of at most `most` that stand for all: all of them where they are no more,
    else one colour of every cell that has any, cells of such a size that there are few enough; in order."""
    if len(lab) <= most:
        return np.arange(len(lab))
    cell = 1.0
    while True:
        _, first = np.unique(np.floor(lab / cell).astype(np.int32), axis=0, return_index=True)
        if len(first) <= most:
            return np.sort(first)
        cell *= 1.3
