"""Presses of two to eight inks: what their inks are for, and how colours become them."""

from __future__ import annotations

import numpy as np
import pytest
from any_inks import GREY, SEVEN, SIX, TWO, ink_set, printable, table, truth

from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.gamut.body import GamutBody
from plinto_core.inks.evenness import evenness
from plinto_core.inks.ink_set import InkSet
from plinto_core.inks.mixing import SIZES
from plinto_core.inks.rules import BlackRule, InkRules
from plinto_core.inks.separation import darkest_neutral, hold_total, separate
from plinto_core.kernels.mix import _spread

RULES = InkRules(tac=300, black=BlackRule(strength=45, start=25, limit=95))


def roles(simulated, names=None):
    return {c.name: c for c in ink_set(simulated, names).channels}


def test_extra_inks_lie_between_two_colours() -> None:
    found = roles(SEVEN)
    assert [found[n].role for n in "CMYK"] == ["colour", "colour", "colour", "black"]
    assert set(found["Orange"].between) == {"M", "Y"}
    assert set(found["Green"].between) == {"C", "Y"}
    assert set(found["Violet"].between) == {"C", "M"}
    # Screens of inks that are never printed together may stand alike.
    assert [found[n].angle for n in ("Orange", "Green", "Violet")] == [15, 75, 0]


def test_light_inks_know_their_dark_ones() -> None:
    found = roles(SIX)
    assert (found["Light cyan"].role, found["Light cyan"].of) == ("light", "C")
    assert (found["Light magenta"].role, found["Light magenta"].of) == ("light", "M")
    assert found["Light magenta"].angle == found["M"].angle


def test_inks_without_names_are_known_by_their_colours() -> None:
    found = roles(SEVEN, tuple("1234567"))
    assert [found[n].role for n in "1234"] == ["colour", "colour", "colour", "black"]
    assert set(found["6"].between) == {"1", "3"}
    assert [c.role for c in ink_set(TWO, ("1", "2")).channels] == ["colour", "black"]


@pytest.mark.parametrize("simulated", [SEVEN, SIX, TWO], ids=lambda s: s.key)
def test_what_can_be_printed_is_met_within_the_rules(simulated) -> None:
    tac = 180 if simulated is TWO else 280
    press, rules = table(simulated), RULES.model_copy(update={"tac": tac})
    aims = press.lab_of(printable(simulated, 3000, tac))
    found = separate(press, aims, rules)
    errors = delta_e_2000(press.lab_of(found.inks), aims)
    assert errors.mean() < 0.05
    assert np.percentile(errors, 99) < 0.5
    assert found.inks.sum(axis=1).max() <= tac / 100
    assert found.inks.min() >= 0
    assert found.inks.max() <= 1 + 1e-12


@pytest.mark.parametrize("simulated", [SEVEN, SIX], ids=lambda s: s.key)
def test_greys_run_evenly_and_have_no_extra_ink(simulated) -> None:
    press = table(simulated)
    darkest = darkest_neutral(press, RULES)
    # The last steps, where black and the total end together, are steeper on any press.
    lightness = np.linspace(100, darkest.lab[0] + 4, 512)
    aims = np.stack([lightness, 0 * lightness, 0 * lightness], axis=1)
    inks = separate(press, aims, RULES).inks
    even = evenness(inks, press.black)
    assert even.black_back <= 2
    assert even.step <= 2.7
    for extra in press.ink_set.of_role("extra"):
        assert inks[:, extra].max() < 0.01
    assert inks[-1, press.black] > 0.5


def test_an_extra_ink_takes_the_place_of_the_two_it_lies_between() -> None:
    press = table(SEVEN)
    solid = np.eye(7)
    for name, beside in (("Orange", "C"), ("Green", "M"), ("Violet", "Y")):
        place, away = SEVEN.channels.index(name), SEVEN.channels.index(beside)
        inks = separate(press, press.lab_of(solid[place][None]), RULES).inks[0]
        assert inks[place] > 0.97
        assert inks[away] < 0.02
        assert inks.sum() < 1.1


def test_light_inks_carry_the_lights_and_leave_the_solids() -> None:
    press = table(SIX)
    tints = np.zeros((3, 6))
    tints[:, 0] = (0.08, 0.5, 1.0)
    light, middle, full = separate(press, press.lab_of(tints), RULES).inks
    assert light[0] < 0.005
    assert light[4] > 0.15
    assert middle[4] > 0.02
    assert middle[0] > 0.3
    assert full[0] > 0.98
    assert full[4] < 0.02


def test_a_light_black_carries_the_light_greys() -> None:
    found = roles(GREY)
    assert (found["Light black"].role, found["Light black"].of) == ("light", "K")
    press = table(GREY)
    most = RULES.model_copy(update={"black": BlackRule(method="maximum")})
    light, dark = separate(press, np.array([[85.0, 0, 0], [22.0, 0, 0]]), most).inks
    assert light[3] < 0.02
    assert light[4] > 0.15
    assert dark[3] > 0.7
    # What black and light black print together is one tone of the mixture's black.
    plan = press.plan(RULES)
    tones = np.linspace(0.02, 0.98, 25)
    inks = plan.inks(tones[:, None] * np.eye(plan.axes)[plan.black], 5)
    assert np.abs(press.black_of(inks, RULES) - tones).max() < 0.02


@pytest.mark.parametrize("simulated", [SEVEN, GREY], ids=lambda s: s.key)
def test_the_black_that_is_there_stays_on_wish(simulated) -> None:
    press = table(simulated)
    inks = np.zeros((3, len(simulated.channels)))
    inks[:, :4] = [[0.3, 0.2, 0.2, 0.1], [0.1, 0.5, 0.4, 0.25], [0.0, 0.1, 0.6, 0.4]]
    aims = press.lab_of(inks)
    kept = separate(press, aims, InkRules(tac=300), starts=inks, keep_black=True).inks
    own = press.black_of(inks, RULES)
    assert np.abs(press.black_of(kept, RULES) - own).max() < 0.02
    assert delta_e_2000(press.lab_of(kept), aims).max() < 0.2
    # By a rule it would be another.
    ruled = separate(press, aims, RULES, starts=inks).inks
    assert np.abs(press.black_of(ruled, RULES) - own).max() > 0.05


def test_limits_of_single_inks_hold_for_all_of_them() -> None:
    for simulated, limits in ((SEVEN, {"Orange": 50, "C": 70}), (SIX, {"Light cyan": 40, "K": 60})):
        rules = RULES.model_copy(update={"limits": limits})
        aims = table(simulated).lab_of(printable(simulated, 1500, 300, seed=3))
        inks = separate(table(simulated), aims, rules).inks
        for name, most in limits.items():
            assert inks[:, simulated.channels.index(name)].max() <= most / 100 + 1e-9


def test_a_lower_total_prints_no_such_dark_greys() -> None:
    press = table(SEVEN)
    # Without black, since black alone is dark at any total.
    rules = [
        InkRules(tac=tac, limits={"K": 0}, black=BlackRule(method="none")) for tac in (300, 150)
    ]
    whole, lower = (press.darkest(r) for r in rules)
    reached = [darkest_neutral(press, r).lab[0] for r in rules]
    assert lower > whole + 5
    assert np.abs(np.array(reached) - [whole, lower]).max() < 6


def test_no_black_and_most_black() -> None:
    press = table(SEVEN)
    grey = np.array([[45.0, 0, 0]])
    none = RULES.model_copy(update={"black": BlackRule(method="none")})
    most = RULES.model_copy(update={"black": BlackRule(method="maximum")})
    assert separate(press, grey, none).inks[0, 3] == 0
    assert separate(press, grey, most).inks[0, 3] > 0.5


@pytest.mark.parametrize("simulated", [SEVEN, SIX], ids=lambda s: s.key)
def test_numbers_over_the_total_come_within_and_keep_their_colour(simulated) -> None:
    press, rules = table(simulated), InkRules(tac=260)
    inks = np.concatenate([printable(simulated, 200, 260), printable(simulated, 900, 420, seed=5)])
    held = hold_total(press, inks, rules)
    over = inks.sum(axis=1) > 2.6
    assert over.any()
    assert (held[~over] == inks[~over]).all()
    assert held.sum(axis=1).max() <= 2.6
    errors = delta_e_2000(press.lab_of(held[over]), press.lab_of(inks[over]))
    assert np.median(errors) < 1.0


def test_pure_black_stays_alone_over_the_total() -> None:
    black = np.zeros((1, 7))
    black[0, 3] = 1.0
    held = hold_total(table(SEVEN), black, InkRules(tac=100, limits={"K": 50}))
    assert held[0, 3] == 1.0
    assert held.sum() == 1.0
    # Only the TAC stands above it.
    lower = hold_total(table(SEVEN), black, InkRules(tac=80))
    assert lower[0].tolist() == [0, 0, 0, 0.8, 0, 0, 0]


@pytest.mark.parametrize("simulated", [SEVEN, SIX], ids=lambda s: s.key)
def test_inks_follow_their_mixture_without_a_jump_and_as_the_kernel_says(simulated) -> None:
    plan = table(simulated).plan(RULES)
    rng = np.random.default_rng(4)
    mixtures = rng.uniform(0.02, 0.98, (400, plan.axes))
    count, step = len(simulated.channels), 1e-6
    for x in mixtures:
        y, e = np.empty(count), np.empty((count, plan.axes))
        room = np.empty(plan.axes), np.empty((plan.axes, plan.axes))
        _spread(x, plan.arrays, y, e, *room)
        assert y.min() >= 0
        for axis in range(plan.axes):
            moved = x.copy()
            moved[axis] += step
            beside, _ = np.empty(count), np.empty((count, plan.axes))
            _spread(moved, plan.arrays, beside, _, *room)
            change = (beside - y) / step
            assert np.abs(change).max() < 40
            # Curves of a plan bend between their samples: a step over a bend lies between two slopes.
            assert np.abs(change - e[:, axis]).max() < 0.35


def test_the_nearest_print_of_two_inks_is_found() -> None:
    press = table(TWO)
    rng = np.random.default_rng(7)
    aims = np.stack([rng.uniform(35, 95, 40), rng.uniform(0, 40, 40), rng.uniform(0, 50, 40)], 1)
    none = InkRules(tac=180, black=BlackRule(method="none"))
    even = np.linspace(0, 1, 401)
    single = press.lab_of(np.stack([even, 0 * even], axis=1))
    found = press.lab_of(separate(press, aims, none).inks)

    def away(print_, aim):
        chroma = np.hypot(aim[1], aim[2])
        part = (print_[..., 1] - aim[1]) * aim[1] + (print_[..., 2] - aim[2]) * aim[2]
        cross = (print_[..., 2] - aim[2]) * aim[1] - (print_[..., 1] - aim[1]) * aim[2]
        return np.sqrt(
            (print_[..., 0] - aim[0]) ** 2
            + (part / chroma / (1 + 0.045 * chroma)) ** 2
            + (cross / chroma / (1 + 0.015 * chroma)) ** 2
        )

    for print_, aim in zip(found, aims, strict=True):
        assert away(print_, aim) <= away(single, aim).min() + 0.05


def test_seven_inks_reach_further_than_four_by_what_the_press_says() -> None:
    limits = np.ones(7)
    whole = GamutBody.of_device(lambda d: truth(SEVEN, d), limits, 3.0).volume
    four = np.array([1.0, 1, 1, 1, 0, 0, 0])
    part = GamutBody.of_device(lambda d: truth(SEVEN, d), four, 3.0).volume
    rules = InkRules(tac=300)
    own = table(SEVEN).body(rules).volume
    less = (
        table(SEVEN).body(InkRules(tac=300, limits={"Orange": 0, "Green": 0, "Violet": 0})).volume
    )
    assert whole > 1.3 * part
    assert own / less == pytest.approx(whole / part, rel=0.03)


def test_tables_of_many_inks_stay_within_memory() -> None:
    # Three numbers of eight bytes a node; a coarser grid for every further ink.
    assert max(3 * 8 * nodes**inks for inks, nodes in SIZES.items()) < 25e6
    assert list(SIZES) == list(range(1, 9))
    assert (np.diff(list(SIZES.values())) <= 0).all()
    assert min(SIZES.values()) >= 5


@pytest.mark.parametrize(("turn", "taken"), [(0, True), (55, True), (65, False)])
def test_an_ink_is_one_of_the_three_within_sixty_degrees_of_hue(turn, taken) -> None:
    """Four inks without names: without three colours that are far enough apart greys are made of none."""
    hues = np.radians(np.array([233.0, 355.0, 95.0 + turn, 150.0 + turn]))
    full = np.stack([np.full(4, 55.0), 60 * np.cos(hues), 60 * np.sin(hues)], axis=1)
    share = np.linspace(0, 1, 65)[None, :, None]
    ramps = np.array([100.0, 0, 0]) * (1 - share) + full[:, None] * share
    found = InkSet.of_ramps(("One", "Two", "Three", "Four"), ramps)
    assert ([c.role for c in found.channels].count("colour") == 3) == taken
