"""The black that each method makes, at eleven greys and near-greys, as it was judged good.

Wanted changes of the separation are kept by running these tests with PLINTO_KEEP_CURVES=1; what
changed is then seen in the difference of curves.json. Those of former methods never change.
"""

from __future__ import annotations

import json
import os
from pathlib import Path

import numpy as np
import pytest

from plinto_core.errors import BadRecipe
from plinto_core.inks import ForwardTable, parse_ink_rules, separate
from plinto_core.inks.black import _by_share, black_wish
from plinto_core.inks.separation import PRESENT, Method

KEPT = Path(__file__).parent / "golden" / "curves.json"
CHROMAS = (0, 8, 20)
HUE = np.radians(70)
"""Warm near-greys, as of wood and skin in shade."""
WAYS = {
    "gcr 50": {"method": "gcr", "strength": 50, "start": 20},
    "gcr 100": {"method": "gcr", "strength": 100, "start": 0},
    "gcr 25, black to 70": {"method": "gcr", "strength": 25, "start": 40, "limit": 70},
    "ucr": {"method": "ucr", "strength": 60, "start": 50},
    "neutral": {"method": "neutral", "strength": 50, "start": 20},
    "neutral, reach 10": {"method": "neutral", "strength": 80, "start": 10, "reach": 10},
    "maximum": {"method": "maximum"},
    "none": {"method": "none"},
}


@pytest.fixture(scope="module")
def forward(coated) -> ForwardTable:
    return ForwardTable.of_profile(coated)


def curves(
    forward: ForwardTable, black: dict[str, object], method: Method
) -> dict[str, dict[str, list[float]]]:
    """Percent of K and C by chroma, at L* 95, 86 … 5 of what the rules can print."""
    rules = parse_ink_rules({"tac": 300, "black": black})
    found = {}
    lightness = np.linspace(95, max(5.0, forward.darkest(rules) + 1), 11)
    for chroma in CHROMAS:
        aims = np.stack(
            [lightness, np.full(11, chroma * np.cos(HUE)), np.full(11, chroma * np.sin(HUE))],
            axis=1,
        )
        inks = separate(forward, aims, rules, method=method).inks * 100
        found[str(chroma)] = {
            "K": [round(float(v), 1) for v in inks[:, 3]],
            "C": [round(float(v), 1) for v in inks[:, 0]],
        }
    return found


def _kept_as(method: Method) -> str:
    """Method 3 corrects in another way and separates as 2 does."""
    return str(min(method, 2))


@pytest.mark.parametrize("way", WAYS)
@pytest.mark.parametrize("method", [1, 2, 3])
def test_black_and_cyan_stay_where_they_were(forward, way, method) -> None:
    found = curves(forward, WAYS[way], method)
    if os.environ.get("PLINTO_KEEP_CURVES") and method == PRESENT:
        every = json.loads(KEPT.read_text())
        every.setdefault(_kept_as(method), {})[way] = found
        KEPT.write_text(json.dumps(every, indent=1) + "\n")
    kept = json.loads(KEPT.read_text())[_kept_as(method)][way]
    for chroma, inks in kept.items():
        for ink, values in inks.items():
            assert found[chroma][ink] == pytest.approx(values, abs=0.8), (way, chroma, ink)


def test_the_methods_differ_where_they_are_meant_to() -> None:
    kept = json.loads(KEPT.read_text())[_kept_as(PRESENT)]
    black = {way: np.array(kept[way]["0"]["K"]) for way in WAYS}
    assert black["none"].max() == 0
    assert (black["maximum"] >= black["gcr 50"] - 0.8).all()
    assert (black["gcr 100"] >= black["gcr 50"] - 0.8).all()
    # under colour removal begins later than grey component replacement
    assert black["ucr"][:4].max() < 1 < black["gcr 50"][5]
    assert black["gcr 25, black to 70"].max() <= 70
    # "neutral" works on greys and lets go of colours
    near, far = (np.array(kept["neutral, reach 10"][c]["K"]) for c in ("0", "20"))
    assert near[5] > far[5] + 2


@pytest.mark.parametrize(
    ("missed", "ends"),
    [
        ([0, 0, 0, 0, 0], (0.0, 1.0)),
        ([0, 0, 0, 1, 5], (0.0, 0.5 + 0.25 * 0.25)),
        ([3, 0.5, 0, 0, 0], (0.25 + 0.25 * 0.5, 1.0)),
        ([0.75, 0.125, 0.125, 2.125, 9], (0.25 - 0.25 * 0.2, 0.5 + 0.25 * 0.0625)),
        ([4, 3.75, 4.75, 6, 8], (0.25 - 0.05, 0.25 + 0.0125)),
    ],
)
def test_tones_begin_and_cease_between_the_levels(missed, ends) -> None:
    """Where the distance passes 0.25, or the least there is and 0.05; by its own share of the step."""
    tones, grey = np.linspace(0, 1, 5), np.array([50.0, 40, 30, 20, 10])
    found = _by_share(tones, grey, np.array(missed, float))
    assert (found[0], found[-1]) == pytest.approx(ends, abs=1e-9)
    assert (np.diff(found) >= 0).all()
    if missed == [0, 0, 0, 0, 0]:
        assert found == pytest.approx(np.linspace(0, 1, len(found)))


def test_black_that_begins_at_the_darkest_grey_is_a_number(forward) -> None:
    lab = np.stack([np.linspace(0, 100, 21), *np.zeros((2, 21))], axis=1)
    rule = {"method": "gcr", "start": 100}
    wish = black_wish(forward, lab, parse_ink_rules({"black": rule, "tac": 320}))
    assert np.isfinite(wish).all()
    assert (np.diff(wish) <= 0).all()
    assert not wish[7:].any()


@pytest.mark.parametrize("field", ["tac", "limits"])
def test_rules_hold_numbers_only(field) -> None:
    for wrong in (float("inf"), float("nan")):
        with pytest.raises(BadRecipe):
            parse_ink_rules({field: {"C": wrong} if field == "limits" else wrong})
