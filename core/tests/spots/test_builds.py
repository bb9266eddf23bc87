"""Builds of spot colours against an exhaustive search, and against colours whose build is known."""

from __future__ import annotations

import csv
import io

import numpy as np
import pytest
from handmade import ink_profile

from plinto_core.colorimetry.difference import delta_e_94, delta_e_2000
from plinto_core.errors import BadInput, BadProfile
from plinto_core.inks.rules import BlackRule, InkRules
from plinto_core.spots.builds import SpotOptions, direction, spot_builds
from plinto_core.spots.table import aims_of, builds_csv
from plinto_core.swatches.swatches import swatches
from plinto_core.transform.chain import lab_of_device
from plinto_core.transform.standard_spaces import standard_profile

OPEN = InkRules(tac=400)


@pytest.fixture(scope="module")
def press(coated):
    return coated


def built(profile, aims, rules=OPEN, **options):
    names = tuple(f"S{i}" for i in range(len(aims)))
    return spot_builds(profile, rules, names, np.array(aims), SpotOptions(**options))


def lattice(count: int) -> np.ndarray:
    axis = np.arange(0, 101, 10)
    return np.stack(np.meshgrid(*[axis] * count, indexing="ij"), -1).reshape(-1, count)


def test_no_build_of_a_whole_lattice_is_nearer(press) -> None:
    rng = np.random.default_rng(7)
    aims = np.stack(
        [rng.uniform(15, 90, 24), rng.uniform(-90, 90, 24), rng.uniform(-90, 100, 24)], 1
    )
    rules = InkRules(tac=260, limits={"C": 90, "K": 80})
    device = lattice(4)
    device = device[(device.sum(1) <= 260) & (device[:, 0] <= 90) & (device[:, 3] <= 80)]
    lab = lab_of_device(press, device / 100, intent="absolute")
    for inks in (1, 2, 3, 4):
        found = built(press, aims, rules, inks=inks, gain=0)
        few = (device > 0).sum(1) <= inks
        for one, aim in zip(found, aims, strict=True):
            wanted = np.repeat(aim[None], few.sum(), 0)
            nearest = np.maximum(delta_e_2000(wanted, lab[few]), delta_e_94(wanted, lab[few])).min()
            printed = np.array(one.best.lab)
            reached = max(float(delta_e_2000(aim, printed)), float(delta_e_94(aim, printed)))
            assert reached <= nearest + 0.02
            assert len(one.best.inks) <= inks
            assert sum(one.best.inks.values()) <= 260
            assert one.best.inks.get("C", 0) <= 90
            assert one.best.inks.get("K", 0) <= 80


def test_a_printed_mixture_is_found_again_and_its_figures_are_its_print(press) -> None:
    mixed = np.array([[70, 40, 0, 0], [0, 25, 80, 0], [10, 0, 0, 30], [0, 100, 100, 0]], float)
    aims = lab_of_device(press, mixed / 100, intent="absolute")
    for one, row in zip(built(press, aims, inks=2), mixed, strict=True):
        used = {n: v for n, v in zip("CMYK", row, strict=True) if v}
        assert one.best.de00 < 0.15
        assert one.best.inks.keys() == used.keys()
        assert all(abs(one.best.inks[n] - v) <= 1 for n, v in used.items())
        again = np.array([[one.best.inks.get(n, 0) for n in "CMYK"]]) / 100
        print_lab = lab_of_device(press, again, intent="absolute")[0]
        assert np.abs(print_lab - one.best.lab).max() < 0.006
        assert one.best.de00 == pytest.approx(
            float(delta_e_2000(np.array(one.aim), print_lab)), abs=0.02
        )


def test_the_white_decides_what_is_sought(press) -> None:
    device = np.array([[0.3, 0.2, 0.1, 0.0]])
    relative = lab_of_device(press, device, intent="relative")
    (as_measured,) = built(press, relative, gain=0)
    (with_paper,) = built(press, relative, gain=0, white="relative")
    assert with_paper.best.de00 < 0.3
    assert with_paper.best.inks != as_measured.best.inks


def test_one_ink_more_must_bring_its_gain(press) -> None:
    aims = lab_of_device(press, np.array([[0.6, 0.3, 0.25, 0.0]]), intent="absolute")
    (best,) = built(press, aims, gain=0)
    assert len(best.best.inks) == 3
    (few,) = built(press, aims, gain=19)
    assert len(few.best.inks) == 1
    assert [len(b.inks) for b in few.counts] == [1, 2, 3]
    misses = [b.de00 for b in few.counts]
    assert misses == sorted(misses, reverse=True)
    brought = sorted([misses[0] - misses[1], misses[1] - misses[2]])
    assert len(built(press, aims, gain=brought[0] - 0.2)[0].best.inks) == 3
    assert len(built(press, aims, gain=brought[1] + 0.2)[0].best.inks) < 3


def test_of_equal_builds_the_one_with_less_ink_is_taken() -> None:
    def forward(inks):
        light = 100 - 80 * inks[:, 0] - 40 * inks[:, 1] - 20 * inks[:, 3]
        return np.stack([light, 0 * light, 0 * light], axis=1)

    press = ink_profile(4, forward, lambda lab: np.zeros((len(lab), 4)), back_grid=3)
    (found,) = built(press, [[68.0, 0, 0]], inks=1, white="relative")
    assert found.best.inks == {"C": 40}


def test_tints_too_faint_for_the_press_are_not_used(press) -> None:
    aims = lab_of_device(press, np.array([[0.6, 0.02, 0.0, 0.0]]), intent="absolute")
    (free,) = built(press, aims, gain=0)
    assert min(free.best.inks.values()) < 5
    (held,) = built(press, aims, gain=0, least=5)
    assert all(min(b.inks.values()) >= 5 for b in held.counts)
    assert held.best.de00 > free.best.de00


def test_an_ink_that_the_rules_forbid_is_not_used(press) -> None:
    rules = InkRules(tac=300, black=BlackRule(method="none"))
    (found,) = built(press, [[20.0, 0, 0]], rules, inks=4)
    assert "K" not in found.best.inks
    none = InkRules(tac=300, limits=dict.fromkeys("CMYK", 3))
    with pytest.raises(BadProfile, match="no ink"):
        built(press, [[50.0, 0, 0]], none, least=5)
    (tight,) = built(press, [[20.0, 0, 0]], InkRules(tac=50), inks=4, least=20)
    assert sum(tight.best.inks.values()) <= 50
    assert len(tight.counts) == 2


def test_any_number_of_inks_is_built_of() -> None:
    def forward(inks):
        return np.stack(
            [95 - 60 * inks[:, 3] - 20 * inks[:, 5], 60 * inks[:, 4] - 40 * inks[:, 0], 70 * inks[:, 5]], axis=1,
        )  # fmt: skip

    six = ink_profile(6, forward, lambda lab: np.zeros((len(lab), 6)), grid=3, back_grid=3)
    aims = lab_of_device(six, np.array([[0, 0, 0, 0.0, 0.6, 0.5]]), intent="absolute")
    (found,) = built(six, aims, inks=2, gain=0)
    assert found.best.de00 < 0.6
    assert len(found.best.inks) == 2


def test_a_far_blue_keeps_its_hue(press) -> None:
    # Judged by CIEDE2000 alone a press without violet prints this 20 units towards green.
    (found,) = built(press, [[30.0, 30, -80]], inks=4)
    assert abs(found.hue) < 12
    assert found.chroma < -15
    assert found.best.inks["M"] > 70


@pytest.mark.parametrize(
    ("aim", "printed", "said"),
    [
        ([50, 40, 0], [52, 30, 0], "2.0 lighter, 10.0 less vivid"),
        ([50, 40, 0], [48.9, 44, 0], "1.1 darker, 4.0 more vivid"),
        ([50, 50, 0], [50, 49.75, 4.98], "5.0 towards red"),
        ([50, 40, 30], [50, 30, 40], "14.1 towards yellow"),
        ([50, 30, 40], [50, 40, 30], "14.1 towards red"),
        ([50, 0, -50], [50, 4.98, -49.75], "5.0 towards blue"),
        ([50, 0, -50], [50, -4.98, -49.75], "5.0 towards green"),
        ([50, 0, 0], [50.4, 0.1, 0], "as asked"),
    ],
)
def test_the_way_it_misses_in_words(aim, printed, said) -> None:
    found = direction(np.array(aim, float), np.array(printed, float))
    assert found.endswith(said)


def test_lists_and_profiles_without_measured_colours_or_inks_are_refused(press) -> None:
    with pytest.raises(BadInput, match="holds RGB"):
        aims_of(swatches("RGB ", np.zeros((2, 3))))
    with pytest.raises(BadInput, match="2000"):
        aims_of(swatches("Lab ", np.zeros((2001, 3))))
    with pytest.raises(BadProfile, match="has none"):
        built(standard_profile("srgb"), [[50.0, 0, 0]])


def test_the_table_has_a_row_for_every_colour_on_every_press(press) -> None:
    names, aims = aims_of(swatches("Lab ", np.array([[50.0, 20, 10], [30, 0, 0]]), ["=HYPER", "B"]))
    found = spot_builds(press, OPEN, names, aims)
    rows = list(csv.DictReader(io.StringIO(builds_csv([("P1", found), ("P2", found)]))))
    assert [(r["Colour"], r["Press"]) for r in rows] == [
        ("'=HYPER", "P1"), ("B", "P1"), ("'=HYPER", "P2"), ("B", "P2"),
    ]  # fmt: skip
    assert {n: int(rows[0][n]) for n in "CMYK" if n in rows[0] and int(rows[0][n])} == (
        found[0].best.inks
    )
    assert float(rows[1]["dE00"]) == found[1].best.de00


def test_what_the_total_is_too_tight_for_is_sought_along_it(press) -> None:
    # One ink more is over the total, one less is farther off: two have to change places.
    rng = np.random.default_rng(4)
    inks = np.zeros((30, 4))
    inks[np.arange(30), np.arange(30) % 3] = rng.integers(40, 100, 30)
    inks[np.arange(30), (np.arange(30) + 1) % 3] = rng.integers(40, 100, 30)
    aims = lab_of_device(press, inks / 100, intent="absolute")
    found = built(press, aims, InkRules(tac=73, limits={"K": 0}), inks=2, gain=0)
    one, other = (part.reshape(-1) for part in np.mgrid[0:74, 0:74])
    fits = one + other <= 73
    every = np.zeros((3, fits.sum(), 4))
    for k in range(3):
        every[k][:, k], every[k][:, (k + 1) % 3] = one[fits], other[fits]
    every = every.reshape(-1, 4)
    lab = lab_of_device(press, every / 100, intent="absolute")
    for aim, build in zip(aims, found, strict=True):
        asked = np.repeat(aim[None], len(lab), 0)
        nearest = np.maximum(delta_e_2000(asked, lab), delta_e_94(asked, lab)).min()
        printed = np.array(build.best.lab)
        assert max(delta_e_2000(aim, printed), delta_e_94(aim, printed)) <= nearest + 0.02
