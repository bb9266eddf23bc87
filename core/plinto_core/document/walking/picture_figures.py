"""Figures of an image's pixels for its line in the report."""

from __future__ import annotations

import numpy as np

from plinto_core.document.rules.painting import INKS_OF


def most_ink(family: str, values: np.ndarray) -> float | None:
    """The highest total of (n, channels) values 0..1, in percent; None for what is no ink."""
    return (
        round(float(values.sum(axis=1).max()) * 100, 1)
        if family in INKS_OF and len(values)
        else None
    )


def mean_colour(family: str, values: np.ndarray) -> tuple[float, ...]:
    """Their mean, RGB to 255, others in percent."""
    scale = 255.0 if family == "RGB" else 100.0
    return tuple(round(float(v) * scale, 1) for v in values.mean(axis=0))
