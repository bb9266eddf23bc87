"""Forward model of a press of five inks and more: Yule-Nielsen modified Neugebauer with fitted primaries.

Sources: Neugebauer (1937); Yule and Nielsen (1951); Demichel (1924). A grid of patches does not scale
to seven inks, and a spline through thousands of them takes minutes; this model has one primary for
every overprint, all of them fitted at once to all patches in XYZ to the power of 1/n, where mixing by
area is linear. Primaries that no patch shows are drawn to what their inks multiply to. What the inks
do between paper and solid is taken from their ramps; what remains is fitted by terms that bend every
ink, alone and beside every other (the cells of a cellular model, without its patches).
"""

from __future__ import annotations

from dataclasses import dataclass
from itertools import combinations

import numpy as np
from scipy.interpolate import PchipInterpolator

from plinto_core.arrays import Floats
from plinto_core.characterise.report import ForwardFit
from plinto_core.colorimetry.cielab import D50, XYZ_to_Lab
from plinto_core.colorimetry.difference import delta_e_2000, in_figures
from plinto_core.errors import BadMeasurement
from plinto_core.measurement.characterisation import Characterisation
from plinto_core.words import say

FACTORS = (1.0, 1.5, 2.0, 2.5, 3.0)
"""Yule-Nielsen factors that are tried."""
RIDGES = (1e-5, 1e-4, 1e-3)
"""Weights that draw the primaries to their prior and the bends to none, that are tried."""
FOLDS = 5
_ALONE = 1e-6
_PART = 20_000
"""Colours that are evaluated at once."""


@dataclass(frozen=True)
class Neugebauer:
    """tones : per ink, tone value to coverage; factor : of Yule and Nielsen; weights : (features, 3);
    validation : dE00 of patches the fit had not seen."""

    tones: tuple[PchipInterpolator, ...]
    factor: float
    weights: Floats
    floor: float
    validation: ForwardFit

    def __call__(self, device: Floats) -> Floats:
        """(n, inks) tone values 0..1 to (n, 3) media-relative Lab; paper is exactly 100 0 0."""
        device = np.asarray(device, dtype=np.float64)
        lab = np.concatenate(
            [
                _lab(_features(_covered(self.tones, part)) @ self.weights, self.factor)
                for part in np.array_split(device, 1 + len(device) // _PART)
            ]
        )
        lab[(device <= 0).all(axis=1)] = (100.0, 0.0, 0.0)
        lab[:, 0] = np.clip(lab[:, 0], self.floor, 100.0)
        return lab


def fit_neugebauer(data: Characterisation) -> Neugebauer:
    """Fit and cross-validate; raises BadMeasurement where an ink has no ramp."""
    xyz = data.xyz / data.paper * D50
    lab = XYZ_to_Lab(xyz)
    tried = []
    for factor in FACTORS:
        tones = tuple(_tone_curve(data.device, xyz, k, factor) for k in range(data.inks))
        features = _features(_covered(tones, data.device))
        aims = np.maximum(xyz, 1e-5) ** (1.0 / factor)
        prior = _prior(data.device, aims, factor, features.shape[1])
        for ridge in RIDGES:
            errors = _cross_validate(features, aims, prior, ridge, lab, factor)
            tried.append((float((errors**2).mean()), factor, ridge, errors))
    _, factor, ridge, errors = min(tried, key=lambda t: t[0])
    tones = tuple(_tone_curve(data.device, xyz, k, factor) for k in range(data.inks))
    features = _features(_covered(tones, data.device))
    aims = np.maximum(xyz, 1e-5) ** (1.0 / factor)
    prior = _prior(data.device, aims, factor, features.shape[1])
    weights = _solved(features, aims, prior, ridge)
    validation = ForwardFit(patches=len(xyz), smoothing=ridge, **in_figures(errors).model_dump())
    return Neugebauer(tones, factor, weights, max(0.0, float(lab[:, 0].min()) - 3.0), validation)


def _lab(powered: Floats, factor: float) -> Floats:
    return XYZ_to_Lab(np.maximum(powered, 1e-4) ** factor)


def _tone_curve(device: Floats, xyz: Floats, ink: int, factor: float) -> PchipInterpolator:
    """Tone value to coverage of one ink, by where its ramp lies between paper and solid."""
    alone = (np.delete(device, ink, axis=1) <= _ALONE).all(axis=1)
    order = np.argsort(device[alone, ink])
    tones, powered = device[alone, ink][order], xyz[alone][order] ** (1.0 / factor)
    if len(tones) < 3 or tones[0] > 0 or tones[-1] < 1.0:
        raise BadMeasurement(say("characterise.ink-not-alone", ink=ink + 1))
    way = powered[-1] - powered[0]
    cover = np.clip((powered - powered[0]) @ way / max(float(way @ way), 1e-12), 0.0, 1.0)
    cover = np.maximum.accumulate(cover)
    keep = np.concatenate([[True], np.diff(tones) > 1e-9])
    return PchipInterpolator(tones[keep], cover[keep])


def _covered(tones: tuple[PchipInterpolator, ...], device: Floats) -> Floats:
    return np.stack([np.clip(t(device[:, k]), 0, 1) for k, t in enumerate(tones)], axis=1)


def _features(cover: Floats) -> Floats:
    """(n, primaries + bends): areas of all overprints by Demichel, then how far each ink is from paper
    and solid, alone, skewed, and times the coverage of every other."""
    count, inks = cover.shape
    areas = np.ones((count, 1))
    for k in range(inks):
        c = cover[:, k : k + 1]
        areas = np.concatenate([areas * (1 - c), areas * c], axis=1)
    bend = cover * (1 - cover)
    skew = bend * (1 - 2 * cover)
    pairs = [bend[:, i] * cover[:, j] for i in range(inks) for j in range(inks) if i != j]
    both = [bend[:, i] * bend[:, j] for i, j in combinations(range(inks), 2)]
    return np.concatenate([areas, bend, skew, np.stack(pairs + both, axis=1)], axis=1)


def _prior(device: Floats, powered: Floats, factor: float, features: int) -> Floats:
    """(features, 3) to draw to: every overprint as its solids multiply to, no bends."""
    inks = device.shape[1]
    paper = powered[int(device.sum(axis=1).argmin())] ** factor
    shares = []
    for k in range(inks):
        alone = (np.delete(device, k, axis=1) <= _ALONE).all(axis=1)
        solid = powered[alone][int(device[alone, k].argmax())] ** factor
        shares.append(np.clip(solid / paper, 1e-3, 1.0))
    out = np.zeros((features, 3))
    for index in range(1 << inks):
        value = paper.copy()
        for k in range(inks):
            # The last ink's areas alternate fastest: its bit is the highest block.
            if index >> k & 1:
                value = value * shares[k]
        out[index] = np.maximum(value, 2e-3) ** (1.0 / factor)
    return out


def _solved(features: Floats, aims: Floats, prior: Floats, ridge: float) -> Floats:
    """Weights of least squares drawn to the prior."""
    normal = features.T @ features + ridge * len(features) * np.eye(features.shape[1])
    rest = features.T @ (aims - features @ prior)
    return prior + np.linalg.solve(normal, rest)


def _cross_validate(
    features: Floats, aims: Floats, prior: Floats, ridge: float, lab: Floats, factor: float
) -> Floats:
    order = np.random.default_rng(5).permutation(len(features))
    errors = np.empty(len(features))
    for fold in range(FOLDS):
        held = order[fold::FOLDS]
        kept = np.setdiff1d(order, held)
        weights = _solved(features[kept], aims[kept], prior, ridge)
        errors[held] = delta_e_2000(_lab(features[held] @ weights, factor), lab[held])
    return errors
