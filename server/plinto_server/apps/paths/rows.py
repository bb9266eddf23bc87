"""What a screen shows of followed colours: the steps, figures of two of them, some rows."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal, get_args

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import Lab_to_LCh
from plinto_core.errors import BadInput
from plinto_core.fields import Part, Report
from plinto_core.icc.spaces import is_subtractive
from plinto_core.paths.figures import (
    DifferenceFigures,
    Formula,
    difference,
    difference_figures,
)
from plinto_core.paths.follow import Followed
from plinto_core.swatches.swatches import Swatches

Sort = Literal["row", "name", "difference", "lightness", "chroma", "hue", "total"]
SORTS: tuple[Sort, ...] = get_args(Sort)


class WalkedStep(Part):
    """name : what the step refers to; columns : of its values; coloured : whether anything says which
    colours its numbers stand for."""

    name: str
    kind: str
    space: str
    columns: tuple[str, ...]
    coloured: bool


class FollowedRow(Part):
    """row : its place in the list, from 0; given : its numbers in the list; values, lab : after every step, lab None without a colour;
    difference : of the two steps compared; place : x and y in the picture, where the list has them."""

    row: int
    name: str
    given: tuple[float, ...]
    values: tuple[tuple[float, ...], ...]
    lab: tuple[tuple[float, ...] | None, ...]
    difference: float | None
    place: tuple[float, ...] | None


class InkOfSteps(Part):
    """Total ink of two steps over all colours, percent; saved : share of the first's that the second does
    not need, negative where it needs more."""

    first_mean: float
    second_mean: float
    first_most: float
    second_most: float
    saved: float


class FollowedReport(Report):
    """takes : the space that the path begins with; count : colours in all; found : those that answer to the filter; figures : of all of them, None where
    no two steps are compared; ink : where both are inks."""

    takes: str
    steps: tuple[WalkedStep, ...]
    count: int
    found: int
    figures: DifferenceFigures | None
    ink: InkOfSteps | None
    rows: tuple[FollowedRow, ...]


def report(
    names: Sequence[str],
    colours: Swatches,
    followed: Followed,
    *,
    pair: tuple[int | None, int | None],
    formula: Formula,
    thresholds: tuple[float, ...],
    sort: Sort,
    descending: bool,
    text: str,
    beyond: float,
    start: int,
    count: int,
) -> FollowedReport:
    """Rows in the order asked for; raises BadInput for steps that are not there or have no colours."""
    first, second = pair
    figures, signed = None, None
    if first is not None and second is not None:
        one, two = followed.colours(first), followed.colours(second)
        signed = difference(formula, one, two)
        figures = difference_figures(formula, one, two, colours.names, thresholds)
    elif first is not None or second is not None:
        raise BadInput("A difference has two steps: name the first and the second.")
    if signed is None and (sort == "difference" or beyond > 0):
        raise BadInput("Name the two steps whose difference is meant.")
    shown = _filtered(colours, signed, text, beyond)
    shown = shown[
        _order(colours, followed, signed, sort, shown, second if second is not None else 0)
    ]
    if descending:
        shown = shown[::-1]
    return FollowedReport(
        takes=followed.steps[0].space_in.strip(),
        steps=tuple(
            WalkedStep(
                name=name,
                kind=step.kind,
                space=step.space.strip(),
                columns=tuple(step.columns),
                coloured=lab is not None,
            )
            for name, step, lab in zip(names, followed.steps, followed.lab, strict=True)
        ),
        count=len(colours),
        found=len(shown),
        figures=figures,
        ink=_ink(followed, first, second),
        rows=tuple(_row(colours, followed, signed, int(i)) for i in shown[start : start + count]),
    )


def _ink(followed: Followed, first: int | None, second: int | None) -> InkOfSteps | None:
    if first is None or second is None:
        return None
    if not all(is_subtractive(followed.steps[step].space) for step in (first, second)):
        return None
    before, after = (followed.values[step].sum(axis=1) for step in (first, second))
    return InkOfSteps(
        first_mean=round(float(before.mean()), 1),
        second_mean=round(float(after.mean()), 1),
        first_most=round(float(before.max()), 1),
        second_most=round(float(after.max()), 1),
        saved=round(1 - float(after.mean()) / max(float(before.mean()), 1e-9), 4),
    )


def _filtered(colours: Swatches, signed: Floats | None, text: str, beyond: float) -> np.ndarray:
    keep = np.ones(len(colours), bool)
    if text.strip():
        wanted = text.strip().lower()
        keep &= np.array([wanted in name.lower() for name in colours.names])
    if signed is not None and beyond > 0:
        keep &= np.abs(signed) > beyond
    return np.flatnonzero(keep)


def _order(
    colours: Swatches,
    followed: Followed,
    signed: Floats | None,
    sort: Sort,
    shown: np.ndarray,
    step: int,
) -> np.ndarray:
    """Places in `shown`, ascending; differences by their size."""
    if sort == "row":
        return np.arange(len(shown))
    if sort == "name":
        names = np.array([colours.names[i].lower() for i in shown])
        return np.argsort(names, kind="stable")
    if sort == "difference":
        assert signed is not None
        return np.argsort(np.abs(signed[shown]), kind="stable")
    if sort == "total":
        if not is_subtractive(followed.steps[step].space):
            raise BadInput("Only inks have a total.", remedy="Sort by another column.")
        return np.argsort(followed.values[step][shown].sum(axis=1), kind="stable")
    lch = Lab_to_LCh(followed.colours(step))[shown]
    return np.argsort(lch[:, ("lightness", "chroma", "hue").index(sort)], kind="stable")


def _row(colours: Swatches, followed: Followed, signed: Floats | None, i: int) -> FollowedRow:
    place = None if colours.places is None else colours.places[i]
    return FollowedRow(
        row=i,
        name=colours.names[i],
        given=_rounded(colours.values[i], 4),
        values=tuple(_rounded(v[i], 2) for v in followed.values),
        lab=tuple(None if c is None else _rounded(c[i], 2) for c in followed.lab),
        difference=None if signed is None else round(float(signed[i]), 3) + 0.0,
        place=None if place is None or np.isnan(place).any() else _rounded(place, 1),
    )


def _rounded(values: Floats, digits: int) -> tuple[float, ...]:
    return tuple((np.round(values, digits) + 0.0).tolist())
