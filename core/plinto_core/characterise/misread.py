"""Patches whose reading the others contradict: misread strips, sheets laid wrongly, spots and scratches.

A spline through all readings is a Gaussian process; what it says of a reading that it was not given, and
how surely, follows from one inverse matrix (Rippa 1999; Rasmussen and Williams 2006, 5.4.2). A reading
is contradicted where it is further from that than readings like it are from theirs, beside how sure
the prediction is. One wrong reading bends what is said of its neighbours: the worst are taken out first,
and those that the others no longer contradict come back. Strips are read one after the other: beside
two wrong readings less is asked of a third.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from scipy.spatial import cKDTree

from plinto_core.arrays import Floats, Mask
from plinto_core.characterise.forward_model import (
    QUINTIC_FROM,
    ROOT,
    lab_of_roots,
)
from plinto_core.characterise.ink_axes import InkAxes
from plinto_core.characterise.report import Misread
from plinto_core.characterise.spline import SplinePoints
from plinto_core.colorimetry.cielab import D50, XYZ_to_Lab
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.errors import BadMeasurement
from plinto_core.measurement.characterisation import Characterisation, Readings
from plinto_core.words import say

AT_ONCE = 3000
"""Readings that are judged by one another; more are dealt out to several such parts."""
TOO_MANY = 0.15
"""Share of contradicted readings above which it is not strips that are wrong."""
_APART = 6.0
"""How many times the spread of its neighbourhood a reading is off. Of clean charts with up to 3 % of noise
none is above 5 (docs/methods/profile-building.md)."""
_BESIDE, _STRIP, _COMPANIONS = 0.55, 6, 2
"""Share of that which is enough within so many readings of so many that are contradicted."""
_NEAR, _NEXT = 40, 20
"""Readings that make a neighbourhood, and among which only the worst is taken out at once."""
_LAB_STEP = 50.0
"""Difference in Lab that counts as far as an ink from none to full: noise changes with lightness."""
_RANK, _TO_MEDIAN = 30, 1.3
"""Percentile of the neighbourhood's misses, and what makes it the median of even noise: a low one stands where
half of the neighbours are in the same strip."""
_LEAST, _MOST = 0.5, 3.0
"""Least and most of a neighbourhood's spread, in medians of all."""
_SEEN, _REFLECTED = 2.0, 0.003
"""Difference in Lab, and in reflectance, below which no reading is called wrong."""
_MANY = 3.0
"""How many times more of both is allowed of five inks and more, whose mixtures charts show here and there only."""
_FEWEST, _PER_TERM = 40, 6
"""Readings, at all and for every term of the spline's polynomial, below which none is judged."""
_SMOOTHING = 1e-2
_ROUNDS, _PASSES, _STAGES = 60, 4, 3


def misread(data: Characterisation) -> tuple[Misread, ...] | None:
    """Readings that the others contradict, in the order in which they were read; None where there are too few
    to judge any."""
    readings = data.readings
    count = len(readings.device)
    # Terms of a square polynomial of the inks.
    if count < max(_FEWEST, _PER_TERM * (data.inks + 1) * (data.inks + 2) // 2):
        return None
    parts = -(-count // AT_ONCE)
    found: list[Misread] = []
    try:
        for part in range(parts):
            rows = np.arange(part, count, parts)
            found += _among(readings, rows, takes_rgb=data.takes_rgb)
    except np.linalg.LinAlgError:
        return None
    return tuple(sorted(found, key=lambda m: m.row))


def without(data: Characterisation, wrong: Sequence[Misread] | None) -> Characterisation:
    """The measurements without these readings; raises BadMeasurement where they are too many or cannot be done
    without."""
    count = len(data.readings.device)
    if not wrong:
        return data
    if len(wrong) > TOO_MANY * count:
        raise BadMeasurement(say("characterise.misread-many", count=len(wrong), of=count))
    try:
        return data.without([m.row - 1 for m in wrong])
    except BadMeasurement as error:
        names = [m.name for m in wrong[:12]]
        raise BadMeasurement(
            say("characterise.misread-needed", names=names, count=len(wrong), why=error.message)
        ) from error


def _among(readings: Readings, rows: np.ndarray, *, takes_rgb: bool) -> list[Misread]:
    device, xyz = readings.device[rows], readings.xyz[rows]
    amounts = 1.0 - device if takes_rgb else device
    kept = np.ones(len(rows), bool)
    for _ in range(_PASSES):
        # Axes and white are those of what is kept: a wrong solid bends them as well.
        process = _Process.of_readings(amounts, xyz, kept)
        now = process.kept_of(kept)
        if (now == kept).all():
            break
        kept = now
    if kept.all():
        return []
    expected = XYZ_to_Lab(np.maximum(process.told(kept)[0], 0.0) ** ROOT * process.white)
    read = XYZ_to_Lab(xyz)
    apart = delta_e_2000(expected, read)
    return [
        Misread(
            row=int(rows[i]) + 1,
            name=readings.names[rows[i]],
            device=tuple(float(v) for v in (device[i] * 100).round(2)),
            read=_rounded(read[i]),
            expected=_rounded(expected[i]),
            de00=round(float(apart[i]), 2),
        )
        for i in np.flatnonzero(~kept)
    ]


def _rounded(lab: Floats) -> tuple[float, float, float]:
    lightness, a, b = (round(float(v), 2) for v in lab)
    return lightness, a, b


@dataclass(frozen=True)
class _Process:
    """precision : (n, n) inverse of what readings have in common, noise among it; roots : (n, 3) of
    reflectance relative to `white`; lab : (n, 3) of them; near : (n, _NEAR) neighbours; doubt : 1, or _MANY."""

    precision: Floats
    roots: Floats
    lab: Floats
    white: Floats
    near: np.ndarray
    doubt: float

    @classmethod
    def of_readings(cls, amounts: Floats, xyz: Floats, kept: Mask) -> _Process:
        total = np.where(kept, amounts.sum(axis=1), np.inf)
        white = np.maximum(xyz[total <= total.min() + 1e-6].mean(axis=0), 1e-3)
        relative = np.maximum(xyz / white, 0.0)
        lab = XYZ_to_Lab(relative * D50)
        places = InkAxes.of_patches(amounts[kept], lab[kept])(amounts)
        roots = relative ** (1 / ROOT)
        # More inks than four have too few patches for a cubic polynomial of all of them.
        many = amounts.shape[1] > 4
        quintic = len(lab) >= QUINTIC_FROM and not many
        precision = SplinePoints(places, roots, quintic).precision(_SMOOTHING)
        made = cls(precision, roots, lab, white, np.empty(0), _MANY if many else 1.0)
        at = np.hstack([places, lab_of_roots(made.told(kept)[0]) / _LAB_STEP])
        count = min(_NEAR + 1, len(at))
        return replace(made, near=cKDTree(at).query(at, count)[1][:, 1:])

    def told(self, kept: Mask) -> tuple[Floats, Floats]:
        """(n, 3) roots that the kept readings but one's own tell, and (n,) how precisely."""
        weights, sure = self.precision @ self.roots, np.diag(self.precision).copy()
        told = np.empty_like(self.roots)
        out = np.flatnonzero(~kept)
        if len(out):
            own = np.linalg.inv(self.precision[np.ix_(out, out)])
            others = self.precision[:, out]
            told[out] = self.roots[out] - own @ weights[out]
            weights = weights - others @ (own @ weights[out])
            sure = sure - np.einsum("ij,jk,ik->i", others, own, others)
            sure[out] = 1.0 / np.diag(own)
        told[kept] = self.roots[kept] - weights[kept] / sure[kept, None]
        return told, np.maximum(sure, 1e-12)

    def _apart(self, kept: Mask) -> Floats:
        """(n,) how far readings are off, in spreads of their neighbourhood."""
        told, sure = self.told(kept)
        lab = lab_of_roots(told)
        off = np.linalg.norm(lab - self.lab, axis=1)
        scaled = off * np.sqrt(sure)
        usual = np.median(scaled[kept])
        around = np.where(kept, scaled, np.nan)[self.near]
        none = np.isnan(around).all(axis=1)
        around[none] = usual
        spread = np.nanpercentile(around, _RANK, axis=1) * _TO_MEDIAN
        spread = np.clip(spread, _LEAST * usual, _MOST * self.doubt * usual)
        reflected = np.maximum(told, 0.0) ** ROOT + self.doubt * np.array(
            [_REFLECTED, 0.0, _REFLECTED]
        )
        unseen = np.maximum(
            _SEEN * self.doubt, np.linalg.norm(XYZ_to_Lab(reflected * D50) - lab, axis=1)
        )
        return np.asarray(np.minimum(scaled / np.maximum(spread, 1e-12), off / unseen * _APART))

    def kept_of(self, kept: Mask) -> Mask:
        """(n,) readings that the others do not contradict, beginning with those of `kept`."""
        kept, limit = kept.copy(), np.full(len(kept), _APART)
        for _ in range(_STAGES):
            for _ in range(_ROUNDS):
                over = self._apart(kept) / limit
                among = np.where(kept, over, 0.0)
                worst = (over > 1) & kept & (among >= among[self.near[:, :_NEXT]].max(axis=1))
                if not worst.any():
                    break
                kept &= ~worst
            kept |= over <= 1
            beside = np.convolve(~kept, np.ones(2 * _STRIP + 1), "same") >= _COMPANIONS
            asked = np.where(beside, _BESIDE * _APART, _APART)
            if (asked == limit).all():
                break
            limit = asked
        return kept
