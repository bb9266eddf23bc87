"""Misread strips are found among noise, by the readings around them, and clean charts are left alone."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from plinto_core.characterise import BuildSettings, build_profile
from plinto_core.characterise.misread import misread, without
from plinto_core.colorimetry.cielab import XYZ_to_Lab
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.colorimetry.spectra import reflectance_to_XYZ
from plinto_core.errors import BadMeasurement
from plinto_core.icc import Profile
from plinto_core.inks.rules import parse_ink_rules
from plinto_core.measurement.characterisation import (
    RGB,
    Characterisation,
    Readings,
    characterisation_from_text,
    format_characterisation,
)
from plinto_core.simulator import SIMULATED, measure_chart
from plinto_core.transform import lab_of_device

STRIP = np.arange(60, 72)


def chart(key: str, seed: int, noise: float = 0.004, share: int = 2, dark: float = 0.0):
    """A press's chart in an order as on sheets, every `share`th patch of it, read with noise; dark : of the
    reflectance itself, which darks show most."""
    press = SIMULATED[key]
    rng = np.random.default_rng(seed)
    every = press.chart()
    paper, rest = (every[-1:], every[:-1]) if press.channels == RGB else (every[:1], every[1:])
    device = np.vstack([paper, rest[rng.permutation(len(rest))][::share]])
    read = measure_chart(press.model, device, noise=noise, seed=seed)
    read = np.maximum(read + rng.normal(0, dark, (len(read), 1)), 1e-5)
    return Characterisation(device, reflectance_to_XYZ(read), key, [], press.channels)


def shifted(data: Characterisation, rows: np.ndarray = STRIP) -> Characterisation:
    """The strip begun one patch late."""
    xyz = data.xyz.copy()
    xyz[rows] = data.xyz[rows + 1]
    return replace(data, xyz=xyz)


def test_twenty_clean_noisy_charts_raise_no_alarm() -> None:
    keys = ("sheetfed-coated", "newsprint", "polyester-satin", "cotton-four-screen", "photo-rgb")
    for seed in range(20):
        noise, dark = (0.001, 0.005, 0.01, 0.02)[seed // 5], (0.0, 0.0005, 0.0015)[seed % 3]
        data = chart(keys[seed % 5], seed, noise, dark=dark)
        assert misread(data) == (), (keys[seed % 5], noise, dark)
    # Two thousandths of reflectance are 15 in Lab of the darkest patches.
    assert misread(chart("sheetfed-coated", 5, 0.001, share=1, dark=0.002)) == ()


@pytest.mark.parametrize(
    ("key", "noise"),
    [("sheetfed-coated", 0.03), ("newsprint", 0.004), ("photo-rgb", 0.004), ("two-screens", 0.01)],
)
def test_a_strip_read_one_patch_late_is_named(key, noise) -> None:
    data = chart(key, 3, noise, share=1)
    found = misread(shifted(data))
    rows = {m.row - 1 for m in found}
    apart = delta_e_2000(data.lab[STRIP], data.lab[STRIP + 1])
    assert rows >= set(STRIP[apart > 5])
    assert rows <= set(STRIP)
    one = max(found, key=lambda m: m.de00)
    assert one.read == pytest.approx(data.lab[one.row], abs=0.01)
    assert delta_e_2000(np.array(one.expected), data.lab[one.row - 1]) < 0.2 * one.de00
    assert one.device == pytest.approx(data.device[one.row - 1] * 100, abs=0.01)


def test_two_strips_that_changed_places_are_found_where_neighbours_in_ink_stand_side_by_side() -> (
    None
):
    data = chart("sheetfed-coated", 4, 0.001, share=1)
    order = np.lexsort(data.device.T)
    data = replace(data, device=data.device[order], xyz=data.xyz[order])
    one, other = np.arange(400, 412), np.arange(412, 424)
    xyz = data.xyz.copy()
    xyz[one], xyz[other] = data.xyz[other], data.xyz[one]
    apart = delta_e_2000(data.lab[one], data.lab[other])
    rows = {m.row - 1 for m in misread(replace(data, xyz=xyz))}
    wrong = set(one[apart > 4]) | set(other[apart > 4])
    assert len(wrong) > 12
    assert rows >= wrong
    assert rows <= set(one) | set(other)


def test_what_little_shows_of_a_strip_is_found_by_what_more_shows() -> None:
    data = chart("sheetfed-coated", 4, 0.03, share=1)
    order = np.lexsort(data.device.T)
    data = replace(data, device=data.device[order], xyz=data.xyz[order])
    assert {m.row - 1 for m in misread(shifted(data, STRIP + 380))} == set(STRIP + 380)


def test_a_wrong_reading_of_a_repeated_patch_is_found_and_the_right_one_is_kept() -> None:
    data = chart("sheetfed-coated", 5)
    twice = Readings.numbered(np.vstack([data.device] * 2), np.vstack([data.xyz] * 2))
    twice.xyz[100] = data.xyz[200]
    found = misread(replace(data, read=twice))
    assert [m.row for m in found] == [101]
    left = without(replace(data, read=twice), found)
    at = (left.device == data.device[100]).all(axis=1)
    assert left.xyz[at] == pytest.approx(data.xyz[100:101], abs=1e-9)


def test_readings_are_called_by_place_and_name() -> None:
    data = shifted(chart("sheetfed-coated", 6))
    lines = format_characterisation(data).splitlines()
    begin = lines.index("BEGIN_DATA") + 1
    fields = lines.index("BEGIN_DATA_FORMAT") + 1
    lines[fields] = "SAMPLE_LOC\t" + lines[fields]
    for i in range(len(data.device)):
        lines[begin + i] = f"{'ABCDEFGHIJ'[i // 60]}{i % 60 + 1}\t" + lines[begin + i]
    found = misread(characterisation_from_text("\n".join(lines)))
    assert {"B1 61", "B12 72"} & {m.name for m in found}
    assert all(m.name == f"B{m.row - 60} {m.row}" for m in found)


def test_a_profile_is_built_without_them_or_with_all_when_asked() -> None:
    clean = chart("sheetfed-coated", 7, 0.001, share=1)
    wrong = shifted(clean)
    small = BuildSettings(size="small")
    rules = parse_ink_rules(SIMULATED["sheetfed-coated"].rules)
    left = build_profile(wrong, rules, small)
    used = build_profile(wrong, rules, small.model_copy(update={"use_all": True}))
    assert left.report.misread == used.report.misread
    assert left.report.misread
    assert left.report.forward_fit.patches == len(clean.device) - len(left.report.misread)
    assert used.report.forward_fit.patches == len(clean.device)
    apart = [
        delta_e_2000(
            lab_of_device(Profile(built.data), clean.device[STRIP]),
            XYZ_to_Lab(clean.xyz[STRIP] / clean.paper * [0.9642, 1, 0.8249]),
        ).max()
        for built in (left, used)
    ]
    assert apart[0] < 1.5
    assert apart[1] > 4 * apart[0]


def test_another_chart_s_readings_are_refused_in_a_sentence_and_used_when_asked() -> None:
    data = chart("newsprint", 8)
    other = replace(data, xyz=data.xyz[np.random.default_rng(1).permutation(len(data.xyz))])
    rng = np.random.default_rng(2)
    some = rng.choice(len(data.xyz), len(data.xyz) // 4, replace=False)
    part = replace(data, xyz=data.xyz.copy())
    part.xyz[some] = data.xyz[rng.permutation(some)]
    found = misread(part)
    assert len(found) > 0.15 * len(data.xyz)
    with pytest.raises(BadMeasurement, match="another chart"):
        without(part, found)
    # Where nothing agrees with anything there is nothing to judge by.
    assert len(misread(other)) < len(data.xyz)


def test_a_reading_that_cannot_be_spared_is_named() -> None:
    data = chart("sheetfed-coated", 9)
    found = misread(replace(data, xyz=np.vstack([data.xyz[300:301], data.xyz[1:]])))
    assert [m.row for m in found] == [1]
    with pytest.raises(BadMeasurement, match=r"no profile without them \(1\): .*paper"):
        without(data, found)


@pytest.mark.parametrize("count", [3, 20, 60])
def test_too_few_patches_to_judge_by_are_not_judged(count) -> None:
    data = chart("sheetfed-coated", 10)
    few = Characterisation(data.device[:count], data.xyz[:count], "few")
    assert misread(few) is None


def test_long_charts_are_judged_in_parts() -> None:
    data = chart("sheetfed-coated", 11, share=1)
    rng = np.random.default_rng(3)
    device = np.vstack([data.device, rng.random((2600, 4)) * [1, 1, 1, 0.6]])
    press = SIMULATED["sheetfed-coated"].model
    xyz = reflectance_to_XYZ(measure_chart(press, device, noise=0.004))
    long = Characterisation(device, xyz, "long")
    found = misread(shifted(long, STRIP + 2000))
    rows = {m.row - 1 for m in found}
    assert 8 <= len(rows) == len(found)
    assert rows <= set(STRIP + 2000)
