"""Tones are lost where the artwork has steps, the print has none, and a plate is solid or all are bare."""

from __future__ import annotations

import numpy as np
import pytest

from plinto_core.examination.tones_lost import tones_lost

NAMES = ("C", "K")


def row(values) -> np.ndarray:
    return np.stack(
        [np.asarray(values, float), np.zeros(len(values)), np.zeros(len(values))], axis=1
    )


@pytest.mark.parametrize(
    ("printed", "cyan", "black", "lost"),
    [
        ([50, 51, 52, 53, 54], [0.5] * 5, [1.0] * 5, {"C": 0, "K": 0, "paper": 0}),
        ([50] * 5, [0.5] * 5, [1.0] * 5, {"C": 0, "K": 100, "paper": 0}),
        ([50, 50, 50, 51, 52], [0.5] * 5, [1, 1, 0.99, 0.8, 0.7], {"C": 0, "K": 50, "paper": 0}),
        ([100] * 5, [0] * 5, [0, 0, 0.005, 0, 0], {"C": 0, "K": 0, "paper": 100}),
        ([50] * 5, [0.99] * 5, [0.98] * 5, {"C": 100, "K": 100, "paper": 0}),
        ([50] * 5, [0.5] * 5, [0.97] * 5, {"C": 0, "K": 0, "paper": 0}),
        ([100] * 5, [0.02] * 5, [0] * 5, {"C": 0, "K": 0, "paper": 0}),
    ],
)
def test_by_plate(printed, cyan, black, lost) -> None:
    source = row([50, 51, 52, 53, 54])
    inks = np.stack([cyan, black], axis=1)
    assert tones_lost(source, row(printed), inks, NAMES, (1, 5)) == lost


def test_edges_and_flat_artwork_lose_nothing() -> None:
    inks = np.ones((4, 2))
    nothing = {"C": 0, "K": 0, "paper": 0}
    assert tones_lost(row([0, 50, 0, 50]), row([50] * 4), inks, NAMES, (1, 4)) == nothing
    assert tones_lost(row([50] * 4), row([50] * 4), inks, NAMES, (1, 4)) == nothing
    assert tones_lost(row([50, 51]), row([50, 50]), inks[:2], NAMES, (2, 1)) == nothing
