"""Inks of presses with two to seven of them for colours everywhere, under each way of making black, as they
were judged good."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest
from any_inks import GREY, SEVEN, SIX, TWO, printable, table
from kept import rows_as_kept

from plinto_core.inks.rules import InkRules, parse_ink_rules
from plinto_core.inks.separation import darkest_black, darkest_neutral, hold_total, separate

WAYS: dict[str, dict[str, Any]] = {
    "gcr": {"tac": 280, "black": {"method": "gcr", "strength": 60, "start": 15}},
    "ucr": {"tac": 240, "black": {"method": "ucr", "strength": 50, "start": 40}},
    "neutral": {"tac": 300, "black": {"method": "neutral", "strength": 70, "reach": 15}},
    "none": {"tac": 250, "black": {"method": "none"}},
    "maximum": {"tac": 300, "black": {"method": "maximum"}},
    "limits": {"tac": 260, "limits": {"K": 85, "M": 70, "Light cyan": 45, "Orange": 40, "Brick": 90}},
}  # fmt: skip


def colours() -> np.ndarray:
    rng = np.random.default_rng(21)
    greys = np.stack([np.linspace(2, 100, 11)] + [np.zeros(11)] * 2, axis=1)
    return np.concatenate([greys, rng.uniform((8, -75, -75), (98, 75, 90), (30, 3))])


def percent(inks: np.ndarray) -> list[Any]:
    return np.round(inks * 100, 2).tolist()


@pytest.mark.parametrize("press", [TWO, GREY, SIX, SEVEN], ids=lambda s: s.key)
def test_other_presses(press) -> None:
    mix, found = table(press), {}
    for way, chosen in WAYS.items():
        rules = parse_ink_rules(chosen)
        found[way] = percent(separate(mix, colours(), rules).inks)
        found[f"{way}, darkest"] = percent(
            np.stack([of(mix, rules).inks for of in (darkest_black, darkest_neutral)])
        )
    own = printable(press, 12, 100 * len(press.channels), seed=5)
    found["within the total"] = percent(hold_total(mix, own, InkRules(tac=150)))
    aims = mix.lab_of(own)
    found["black kept"] = percent(
        separate(mix, aims, InkRules(tac=250), starts=own, keep_black=True).inks
    )
    rows_as_kept(f"separations/{press.key}", found, abs=0.4)
