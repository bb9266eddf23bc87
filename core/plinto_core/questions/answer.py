"""What an answer consists of, whatever was asked."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.fields import Part, Report

Verdict = Literal["yes", "in part", "no", "first", "second", "alike", "told"]
"""told : the question is not answered by yes or no, or by one of two."""
MOST_PAIRS = 12


class FigureRow(Part):
    label: str
    values: tuple[float | None, ...]
    unit: str = ""
    digits: int = 1


class Figures(Part):
    """Rows of figures under columns; None where there is none."""

    columns: tuple[str, ...]
    rows: tuple[FigureRow, ...]


class Series(Part):
    """One line or cloud of a plot; ink : the ink whose colour it may have, "" for none."""

    name: str
    x: tuple[float, ...]
    y: tuple[float, ...]
    style: Literal["line", "dashed", "dotted", "points"] = "line"
    ink: str = ""


class Plot(Part):
    """level : a value of y that is looked for, with its name; square : x and y have one scale."""

    title: str
    x: str
    y: str
    series: tuple[Series, ...]
    level: tuple[str, float] | None = None
    square: bool = False
    reversed: bool = False


class ColourPair(Part):
    """Two colours to be seen beside each other, absolute Lab or as the answer says; de00 between them."""

    name: str
    first: tuple[float, float, float]
    second: tuple[float, float, float]
    de00: float


class Colours(Part):
    """Pairs, the furthest first; first, second : what the two of each pair are."""

    first: str
    second: str
    pairs: tuple[ColourPair, ...]


class FurtherView(Part):
    """Where the answer can be looked at and changed. page : which view; of : the parts it is opened
    with, by their keys; how : its settings."""

    label: str
    page: Literal["prints", "greys", "back", "gamuts", "path", "job", "proof"]
    of: tuple[str, ...]
    how: dict[str, str] = {}


class Answer(Report):
    """said : the answer in one sentence; more : what bears on it; done : the steps, one after the other,
    as one would take them oneself."""

    question: str
    asked: str
    parts: dict[str, str]
    verdict: Verdict
    said: str
    more: tuple[str, ...] = ()
    figures: Figures | None = None
    plot: Plot | None = None
    colours: Colours | None = None
    done: tuple[str, ...]
    views: tuple[FurtherView, ...] = ()


def series(name: str, x: Floats, y: Floats, style: str = "line", ink: str = "") -> Series:
    """A line from arrays, rounded to what a plot can show."""
    return Series(
        name=name,
        x=tuple(np.round(x, 3).tolist()),
        y=tuple(np.round(y, 3).tolist()),
        style=style,
        ink=ink,
    )


def pairs(
    names: Sequence[str], first: Floats, second: Floats, de00: Floats, said: tuple[str, str]
) -> Colours:
    """The pairs that differ most."""
    order = np.argsort(-de00, kind="stable")[:MOST_PAIRS]
    return Colours(
        first=said[0],
        second=said[1],
        pairs=tuple(
            ColourPair(
                name=names[i], first=three(first[i]), second=three(second[i]),
                de00=round(float(de00[i]), 2),
            )
            for i in order
        ),
    )  # fmt: skip


def three(lab: Floats) -> tuple[float, float, float]:
    return round(float(lab[0]), 2), round(float(lab[1]), 2), round(float(lab[2]), 2)
