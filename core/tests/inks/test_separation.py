"""The solver: it meets what can be met, and never breaks a limit."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from plinto_core.colorimetry import delta_e_2000
from plinto_core.errors import BadRecipe
from plinto_core.inks import ForwardTable, parse_ink_rules, separate
from plinto_core.inks.black import black_wish
from plinto_core.inks.rules import InkRules
from plinto_core.inks.separation import darkest_black, darkest_neutral, hold_total


@pytest.fixture(scope="module")
def forward(coated) -> ForwardTable:
    return ForwardTable.of_profile(coated)


def greys(steps: int = 41) -> np.ndarray:
    return np.stack([np.linspace(100, 8, steps), np.zeros(steps), np.zeros(steps)], axis=1)


def rules_of(**black) -> InkRules:
    return parse_ink_rules({"tac": 320, "black": black})


@pytest.mark.parametrize("method", ["gcr", "ucr", "neutral", "maximum"])
def test_printable_colours_are_met_by_every_method(forward, method) -> None:
    rules = rules_of(method=method)
    rng = np.random.default_rng(2)
    inks = rng.random((8000, 4))
    aims = forward.lab_of(inks[inks.sum(axis=1) < 3.19])
    error = delta_e_2000(aims, forward.lab_of(separate(forward, aims, rules).inks))
    assert error.mean() <= 0.3
    assert np.percentile(error, 99) <= 1.0


@settings(max_examples=25, deadline=None)
@given(
    tac=st.floats(120, 400), k=st.floats(0, 100), c=st.floats(10, 100), seed=st.integers(0, 99),
    method=st.sampled_from(["gcr", "ucr", "neutral", "none", "maximum"]),
)  # fmt: skip
def test_no_rule_is_ever_broken(forward, tac, k, c, seed, method) -> None:
    rules = parse_ink_rules(
        {"tac": tac, "limits": {"C": c}, "black": {"method": method, "limit": k}}
    )
    rng = np.random.default_rng(seed)
    aims = rng.uniform((0, -128, -128), (100, 127, 127), (300, 3))
    inks = separate(forward, aims, rules).inks
    assert inks.min() >= 0
    assert inks.sum(axis=1).max() <= tac / 100 + 1e-9
    assert (inks <= rules.ink_limits() + 1e-9).all()


def test_strength_moves_the_greys_from_three_inks_to_black(forward) -> None:
    black = [
        separate(forward, greys(), rules_of(method="gcr", strength=s, start=10)).inks[20, 3]
        for s in (0, 50, 100)
    ]
    assert black[0] + 0.1 < black[1] < black[2] - 0.05


def test_black_starts_where_it_is_told(forward) -> None:
    rules = rules_of(method="gcr", strength=80, start=40)
    inks = separate(forward, greys(), rules).inks
    darkness = (100 - greys()[:, 0]) / (100 - forward.darkest(rules))
    assert inks[darkness < 0.38, 3].max() < 0.01
    assert inks[darkness > 0.6, 3].min() > 0.05


def test_no_black_prints_greys_of_three_inks(forward) -> None:
    inks = separate(forward, greys(), rules_of(method="none")).inks
    assert inks[:, 3].max() == 0
    assert inks[25, :3].min() > 0.3


def test_maximum_black_prints_light_greys_with_black_nearly_alone(forward) -> None:
    inks = separate(forward, greys(), rules_of(method="maximum")).inks
    assert inks[10, 3] > 5 * inks[10, :3].max()


def test_ucr_leaves_saturated_colours_alone(forward) -> None:
    lab = np.array([[40.0, 0, 0], [40.0, 45, 20]])
    wish = black_wish(forward, lab, rules_of(method="ucr", start=20))
    assert wish[0] > 20 * wish[1]


def test_keeping_black_changes_nothing_that_keeps_the_rules(forward) -> None:
    inks = np.array([[0.5, 0.4, 0.4, 0.2], [0.1, 0.0, 0.9, 0.0]])
    kept = separate(forward, forward.lab_of(inks), InkRules(tac=300), starts=inks, keep_black=True)
    assert np.abs(kept.inks - inks).max() < 1e-4


def test_what_is_nearly_met_is_met(forward) -> None:
    """A start that is off by a hundredth is no answer yet; one that is there stays as it is."""
    inks = np.array([[0.3, 0.4, 0.2, 0.1], [0.1, 0.2, 0.6, 0.0]])
    aims = forward.lab_of(inks)
    there = separate(forward, aims, InkRules(tac=300), starts=inks, keep_black=True)
    np.testing.assert_allclose(there.inks, inks, atol=1e-9)
    near = separate(
        forward, aims + np.array([0.005, 0, 0]), InkRules(tac=300), starts=inks, keep_black=True
    )
    assert near.missed.max() < 1e-4
    assert (np.abs(near.inks - inks).max(axis=1) > 1e-6).all()


def test_paper_stays_paper(forward) -> None:
    assert separate(forward, np.array([[100.0, 0, 0]]), rules_of()).inks.max() < 0.002


@pytest.mark.parametrize(
    "data",
    [
        {"tac": "much"}, {"tac": -5}, {"limits": {"": 50}}, {"limits": {"x" * 33: 50}}, {"limits": {"C\n": 50}}, {"limits": {"C": 150}},
        {"black": {"method": "magic"}}, {"black": {"strength": 200}}, {"colour": 1}, [], "x", None,
    ],
)  # fmt: skip
def test_wrong_rules_are_refused_with_a_sentence(data) -> None:
    with pytest.raises(BadRecipe, match="ink rules|limit"):
        parse_ink_rules(data)


def test_every_key_is_optional() -> None:
    assert parse_ink_rules({}).tac == 400


def test_neutral_only_gives_black_to_greys_and_not_to_colours(forward) -> None:
    rules = rules_of(method="neutral", start=10)
    grey = separate(forward, np.array([[40.0, 0, 0]]), rules).inks[0]
    colour = separate(forward, np.array([[40.0, 20, 10]]), rules).inks[0]
    assert grey[3] > 0.4
    assert colour[3] < 0.1


def test_reach_decides_how_far_from_the_greys_black_goes(forward) -> None:
    lab = np.array([[45.0, 25, 15]])
    near, far = (black_wish(forward, lab, rules_of(method="gcr", reach=r))[0] for r in (10, 120))
    assert near < 0.02 < far


def test_the_darkest_black_darkens_with_the_tac_and_keeps_it(forward) -> None:
    found = [darkest_black(forward, parse_ink_rules({"tac": t})) for t in (150, 240, 330)]
    assert found[0].lab[0] > found[1].lab[0] > found[2].lab[0]
    for tac, point in zip((150, 240, 330), found, strict=True):
        assert point.inks.sum() * 100 <= tac
        assert np.hypot(*point.lab[1:]) < 6


def test_the_reachable_colours_grow_with_the_tac(forward) -> None:
    volumes = [forward.body(parse_ink_rules({"tac": t})).volume for t in (140, 220, 320)]
    assert volumes[0] < volumes[1] <= volumes[2]


RAMPS = [
    {"method": "gcr", "strength": 0, "start": 0},
    {"method": "gcr", "strength": 50, "start": 20},
    {"method": "gcr", "strength": 75, "start": 60},
    {"method": "gcr", "strength": 100, "start": 0},
    {"method": "ucr", "start": 20},
    {"method": "ucr", "start": 70},
    {"method": "neutral", "start": 0},
    {"method": "maximum"},
]


def rough_press(forward: ForwardTable) -> ForwardTable:
    """The press as a profile with 8-bit tables tells of it: Lab in steps of 0.39, 1 and 1."""
    step = np.array([100 / 255, 1.0, 1.0])
    return ForwardTable(np.round(forward.lab / step) * step)


@pytest.mark.parametrize("black", RAMPS, ids=lambda b: "-".join(str(v) for v in b.values()))
@pytest.mark.parametrize("press", ["smooth", "rough"])
def test_black_runs_evenly_along_the_greys(forward, black, press) -> None:
    table = forward if press == "smooth" else rough_press(forward)
    rules = parse_ink_rules({"tac": 300, "black": black})
    inks = separate(table, greys(512), rules).inks * 100
    steps = np.diff(inks[:, 3])
    assert -steps[steps < 0].sum() <= 2.0
    assert steps.max() <= 2.5
    if press == "smooth":
        assert np.abs(np.diff(inks, axis=0)).max() <= 2.5
    assert inks.sum(axis=1).max() <= 300
    met = delta_e_2000(greys(512), table.lab_of(inks / 100))
    assert met[greys(512)[:, 0] > table.darkest(rules) + 3].max() < 0.3


@pytest.mark.parametrize("strength", [0, 25, 50, 75, 100])
def test_black_takes_the_share_that_its_strength_says(forward, strength) -> None:
    aims = greys(61)[20:40]
    colours = {
        name: separate(forward, aims, rules_of(start=0, **black)).inks[:, :3].mean(axis=1)
        for name, black in {
            "none": {"method": "none"},
            "all": {"method": "maximum"},
            "made": {"method": "gcr", "strength": strength},
        }.items()
    }
    share = (colours["none"] - colours["made"]) / (colours["none"] - colours["all"]) * 100
    depth = (100 - aims[:, 0]) / (100 - forward.darkest(rules_of(method="gcr")))
    middle = (depth > 0.42) & (depth < 0.6)
    assert middle.sum() > 5
    assert share[middle] == pytest.approx(strength, abs=5)


def test_black_gives_way_only_where_the_colour_needs_it(forward) -> None:
    """Asked for none, black comes only where three inks cannot print the aim within the TAC."""
    aims = greys(101)
    inks = separate(forward, aims, rules_of(method="gcr", strength=0, start=98)).inks
    without = separate(forward, aims, rules_of(method="none"))
    reached = without.missed < 0.005
    assert inks[reached & (aims[:, 0] > 30), 3].max() < 1e-9
    assert inks[-1, 3] > 0.5


def test_former_recipes_are_separated_as_they_were(forward) -> None:
    rules = rules_of(method="gcr", strength=50)
    former = separate(forward, greys(), rules, method=1).inks
    present = separate(forward, greys(), rules).inks
    assert np.abs(former - present).max() > 0.05


def test_the_darkest_grey_is_grey_where_the_darkest_colour_has_a_cast(forward) -> None:
    """A press whose black and overprints are brown: its deepest print is no grey."""
    brown = forward.lab.copy()
    brown[..., 2] += np.clip((45 - brown[..., 0]) / 45, 0, 1) * 30
    press = ForwardTable(brown)
    rules = parse_ink_rules({"tac": 300, "black": {"method": "maximum"}})
    colour, grey = darkest_black(press, rules).lab, darkest_neutral(press, rules).lab
    assert np.hypot(*colour[1:]) > 2
    assert np.hypot(*grey[1:]) <= 1.5
    assert grey[0] > colour[0]
    inks = darkest_neutral(press, rules).inks
    assert inks.sum() <= 3
    # a press without a cast has one black
    plain = darkest_neutral(forward, rules).lab
    assert plain[0] == pytest.approx(darkest_black(forward, rules).lab[0], abs=1)


@pytest.mark.parametrize("pure", [True, False])
def test_black_alone_over_the_total_stays_alone_where_it_is_protected(coated, pure) -> None:
    """Text stays black whatever the limit of pictures' black; set free it takes colours beside less black."""
    rules = parse_ink_rules({"tac": 300, "limits": {"K": 60}, "protect": {"pure_black": pure}})
    inks = np.array([[0, 0, 0, 0.9], [0, 0, 0, 0.5], [0.2, 0, 0, 0.9]])
    held = hold_total(ForwardTable.of_profile(coated), inks, rules)
    assert held[1] == pytest.approx(inks[1])
    assert held[2, 3] <= 0.6 + 1e-9
    if pure:
        assert held[0] == pytest.approx(inks[0])
    else:
        assert held[0, 3] <= 0.6 + 1e-9
        assert held[0, :3].min() > 0.05
    assert held[2, :3].max() > 0.2
