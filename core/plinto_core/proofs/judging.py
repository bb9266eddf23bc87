"""A read strip against its aims: every patch, the sums, and what a failure looks like."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.errors import BadInput
from plinto_core.fields import Part, Report
from plinto_core.proofs.strip import PatchKind
from plinto_core.proofs.tolerances import LIMITS, ProofTolerances
from plinto_core.words import Said, say

Lab = tuple[float, float, float]
SAME_PAPER = 1.5
"""dE00 within which two papers are taken for one: handling and instruments differ by less."""
DARKER = 3.0
"""L* by which a paper patch must be darker to be told as another paper: whiter ones may be bare."""
_CHROMATIC = 20.0
"""C* from which a solid has a hue worth judging; a black ink has none."""


class PatchAim(Part):
    """aim : absolute Lab that the press prints."""

    name: str
    kind: PatchKind
    aim: Lab


class PatchJudged(PatchAim):
    """read : absolute Lab; dh : ΔH*ab; dc : ΔCh, the distance in a* and b*; within : None where
    nothing is asked of this patch alone."""

    read: Lab
    de00: float
    dh: float
    dc: float
    within: bool | None


class Criterion(Part):
    """What a set of tolerances asks, what was found, and whether that is enough."""

    key: Literal["paper", "mean", "p95", "most", "solids", "solid_hue", "greys"]
    value: float
    limit: float | None
    within: bool | None


class Judgement(Report):
    """passes : None where nothing was asked; signs : what the differences look like, in words."""

    tolerances: ProofTolerances
    patches: tuple[PatchJudged, ...]
    criteria: tuple[Criterion, ...]
    passes: bool | None
    signs: tuple[Said, ...] = ()


def judge(
    asked: Sequence[PatchAim],
    read: Floats,
    tolerances: ProofTolerances,
    *,
    bare: Lab | None = None,
) -> Judgement:
    """Judge (n, 3) absolute Lab, read in the order of the patches asked for.

    bare : Lab of the proofer's own paper, to tell a paper that was not printed from another paper.
    Raises BadInput where the numbers do not fit the strip.
    """
    read = np.asarray(read, dtype=np.float64)
    if read.shape != (len(asked), 3) or not len(asked):
        raise BadInput(say("proofs.readings-count", patches=len(asked), readings=len(read)))
    if not np.isfinite(read).all():
        raise BadInput(say("proofs.reading-no-number"))
    aims = np.array([p.aim for p in asked], dtype=np.float64)
    de00 = delta_e_2000(aims, read)
    dc = np.hypot(*(read - aims)[:, 1:].T)
    dh = _hue_difference(aims, read)
    kinds = np.array([p.kind for p in asked])
    hued = (kinds == "solid") & (np.hypot(*aims[:, 1:].T) > _CHROMATIC)
    values = {
        "paper": _most(de00[kinds == "paper"]),
        "mean": float(de00.mean()),
        "p95": float(np.percentile(de00, 95)),
        "most": _most(de00),
        "solids": _most(de00[kinds == "solid"]),
        "solid_hue": _most(np.abs(dh[hued])),
        "greys": float(dc[kinds == "grey"].mean()) if (kinds == "grey").any() else None,
    }
    criteria = []
    for key in LIMITS:
        value, limit = values[key], getattr(tolerances, key)
        if value is None:
            continue
        within = None if limit is None else bool(value <= limit)
        criteria.append(Criterion(key=key, value=round(value, 3), limit=limit, within=within))
    judged = [c.within for c in criteria if c.within is not None]
    return Judgement(
        tolerances=tolerances,
        patches=tuple(
            PatchJudged(
                name=p.name, kind=p.kind, aim=p.aim, read=_lab(row), de00=round(float(d), 3),
                dh=round(float(h), 3), dc=round(float(c), 3),
                within=_alone(p.kind, float(d), tolerances),
            )
            for p, row, d, h, c in zip(asked, read, de00, dh, dc, strict=True)
        ),
        criteria=tuple(criteria),
        passes=all(judged) if judged else None,
        signs=tuple(_signs(kinds, aims, read, de00, tolerances, bare)),
    )  # fmt: skip


def _most(values: Floats) -> float | None:
    return float(values.max()) if values.size else None


def _lab(row: Floats) -> Lab:
    return round(float(row[0]), 3), round(float(row[1]), 3), round(float(row[2]), 3)


def _hue_difference(aims: Floats, read: Floats) -> Floats:
    """ΔH*ab with the sign of the turn (CIE 15): what of the distance is neither lightness nor chroma."""
    chroma = np.hypot(*aims[:, 1:].T), np.hypot(*read[:, 1:].T)
    left = ((read - aims)[:, 1:] ** 2).sum(axis=1) - (chroma[1] - chroma[0]) ** 2
    # A hue on the other side of grey has turned too, whichever way.
    turn = np.where(aims[:, 1] * read[:, 2] < aims[:, 2] * read[:, 1], -1.0, 1.0)
    return np.asarray(turn * np.sqrt(np.maximum(left, 0.0)))


def _alone(kind: str, de00: float, tolerances: ProofTolerances) -> bool | None:
    """Whether a patch keeps every limit that each patch of its kind has to keep by itself."""
    limits = [tolerances.most]
    if kind == "paper":
        limits.append(tolerances.paper)
    if kind == "solid":
        limits.append(tolerances.solids)
    asked = [limit for limit in limits if limit is not None]
    return all(de00 <= limit for limit in asked) if asked else None


def _signs(
    kinds: np.ndarray, aims: Floats, read: Floats, de00: Floats, tolerances: ProofTolerances,
    bare: Lab | None,
) -> list[Said]:  # fmt: skip
    found: list[Said] = []
    turned = delta_e_2000(aims, read[::-1])
    if turned.mean() < 0.5 * de00.mean() and de00.mean() > SAME_PAPER:
        return [say("proofs.read-backwards")]
    paper = np.flatnonzero(kinds == "paper")
    limit = tolerances.paper if tolerances.paper is not None else SAME_PAPER
    if paper.size and de00[paper[0]] > limit:
        found.append(_of_paper(aims[paper[0]], read[paper[0]], bare))
    others = kinds != "paper"
    shift = (read - aims)[others]
    if shift.size and abs(shift[:, 0].mean()) > SAME_PAPER:
        mean = float(shift[:, 0].mean())
        found.append(say("proofs.lighter" if mean > 0 else "proofs.darker", amount=abs(mean)))
    tint = shift[:, 1:].mean(axis=0) if shift.size else np.zeros(2)
    if np.hypot(*tint) > SAME_PAPER:
        found.append(say("proofs.lean", towards=_direction(tint), amount=float(np.hypot(*tint))))
    return found


def _of_paper(aim: Floats, read: Floats, bare: Lab | None) -> Said:
    seen = dict(zip("lab", (float(v) for v in read), strict=True))
    if bare is not None:
        own = np.array([bare])
        printed = delta_e_2000(own, aim[None])[0] > SAME_PAPER
        if printed and delta_e_2000(own, read[None])[0] <= SAME_PAPER:
            return say("proofs.paper-bare", **seen)
    if read[0] < aim[0] - DARKER:
        return say("proofs.paper-darker", **seen, by=float(aim[0] - read[0]))
    aims = dict(zip(("aim_l", "aim_a", "aim_b"), (float(v) for v in aim), strict=True))
    return say("proofs.paper-other", **seen, **aims)


def _direction(tint: Floats) -> Said:
    a, b = tint
    words = [
        (say("proofs.to-red" if a > 0 else "proofs.to-green"), abs(a)),
        (say("proofs.to-yellow" if b > 0 else "proofs.to-blue"), abs(b)),
    ]
    told = [w for w, size in words if size > 0.5 * max(abs(a), abs(b))]
    return told[0] if len(told) == 1 else say("proofs.to-two", one=told[0], two=told[1])
