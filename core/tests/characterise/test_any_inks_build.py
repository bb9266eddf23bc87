"""Profiles of other inks than four, and of a device that takes RGB: fitted, built, read back."""

from __future__ import annotations

import dataclasses

import numpy as np
import pytest
from any_inks import RGB, SEVEN, SIX, truth

from plinto_core.characterise import BuildSettings, build_profile, neugebauer
from plinto_core.characterise.neugebauer import fit_neugebauer
from plinto_core.characterise.verify import inks_within
from plinto_core.colorimetry.cielab import Lab_to_XYZ, XYZ_to_Lab
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.errors import BadMeasurement, BadRecipe
from plinto_core.icc import Profile
from plinto_core.icc.colorants import ink_names, parse_clrt
from plinto_core.icc.spaces import INTENTS
from plinto_core.icc.values import parse_xyz
from plinto_core.inks.rules import InkRules
from plinto_core.measurement.characterisation import (
    characterisation_from_text,
    format_characterisation,
)
from plinto_core.recipes.route import ColourRoute
from plinto_core.transform.chain import lab_of_device
from plinto_core.transform.sides import xyz_to_device
from plinto_core.transform.standard_spaces import standard_profile


@pytest.mark.parametrize("simulated", [SIX, SEVEN], ids=lambda s: s.key)
def test_the_model_of_many_inks_knows_mixtures_it_has_not_seen(simulated) -> None:
    model = fit_neugebauer(simulated.measured())
    rng = np.random.default_rng(8)
    device = rng.random((3000, len(simulated.channels)))
    device *= rng.random((3000, len(simulated.channels))) < 0.5
    device = device[device.sum(axis=1) < 3]
    errors = delta_e_2000(model(device), truth(simulated, device))
    assert errors.mean() < 0.5
    assert np.percentile(errors, 95) < 1.5
    # What the report states is what it is worth.
    assert model.validation.mean == pytest.approx(errors.mean(), rel=0.5)
    assert (model(np.zeros((1, len(simulated.channels)))) == [[100, 0, 0]]).all()


def test_seven_inks_come_back_as_they_went(seven_build) -> None:
    report = seven_build.report
    # With the small tables of this test; the usual ones come to 0.15 and 1.1 (docs/methods).
    assert report.round_trip.mean <= 0.45
    assert report.round_trip.p99 <= 2.0
    assert max(report.tac_reached.values()) <= 300
    assert report.greys.black_back <= 2
    assert report.greys.step <= 2.5
    assert report.problems == ()


def test_seven_inks_print_as_the_press_does(seven) -> None:
    rng = np.random.default_rng(9)
    device = rng.random((2000, 7)) * (rng.random((2000, 7)) < 0.4)
    errors = delta_e_2000(lab_of_device(seven, device), truth(SEVEN, device))
    assert errors.mean() < 0.7


def test_a_profile_names_its_inks(seven, coated, two_inks) -> None:
    assert seven.colour_space == "7CLR"
    assert ink_names(seven) == ("C", "M", "Y", "K", "Orange", "Green", "Violet")
    assert parse_clrt(seven.raw("clrt"))[:5] == ["Cyan", "Magenta", "Yellow", "Black", "Orange"]
    assert ink_names(two_inks) == ("Brick", "K")
    assert ink_names(coated) == ("C", "M", "Y", "K")


def test_names_that_are_missing_or_alike_leave_numbers(seven) -> None:
    at, _ = seven.directory["clrt"]
    for name in (b"Cyan", b"", b"\x07bell"):
        table = bytearray(seven.data)
        table[at + 12 + 38 : at + 44 + 38] = name.ljust(32, b"\0")
        assert ink_names(Profile(bytes(table))) == tuple("1234567")
    short = bytearray(seven.data)
    short[at + 8 : at + 12] = (200).to_bytes(4, "big")
    assert ink_names(Profile(bytes(short))) == tuple("1234567")


def test_a_device_that_takes_rgb(photo_build) -> None:
    profile = Profile(photo_build.data)
    assert profile.colour_space == "RGB "
    assert photo_build.report.round_trip.mean < 0.3
    assert photo_build.report.tac_reached == {}
    rgb = np.random.default_rng(3).random((1000, 3))
    errors = delta_e_2000(lab_of_device(profile, rgb), truth(RGB, rgb))
    assert errors.mean() < 0.3
    white = xyz_to_device(profile, Lab_to_XYZ(np.array([[100.0, 0, 0]])), 1)
    assert white.min() > 0.995
    greys = np.repeat(np.linspace(0, 1, 9)[:, None], 3, axis=1)
    assert (np.diff(lab_of_device(profile, greys)[:, 0]) > 0).all()


@pytest.mark.parametrize("simulated", [SEVEN, RGB], ids=lambda s: s.key)
def test_measurements_travel_as_text(simulated) -> None:
    data = simulated.measured()
    read = characterisation_from_text(format_characterisation(data))
    assert read.names == simulated.channels
    order = np.lexsort(read.device.T)
    own = np.lexsort(data.device.T)
    assert np.abs(read.device[order] - data.device[own]).max() < 1e-5
    assert np.abs(read.lab[order] - data.lab[own]).max() < 0.002


def test_wrong_measurements_are_refused_with_a_sentence() -> None:
    data = SEVEN.measured()
    with pytest.raises(BadRecipe, match="no ink 'Gold'"):
        build_profile(data, InkRules(limits={"Gold": 50}))
    with pytest.raises(BadRecipe, match="no ink to print with"):
        build_profile(data, InkRules(limits=dict.fromkeys(data.names, 0)))
    text = format_characterisation(data)
    with pytest.raises(BadMeasurement, match="at least 800"):
        characterisation_from_text(format_characterisation(_part(data, slice(None, None, 4))))
    solid = (data.device[:, 5] >= 0.5) & (np.delete(data.device, 5, axis=1).max(axis=1) < 0.01)
    with pytest.raises(BadMeasurement, match="Green is never printed alone"):
        characterisation_from_text(format_characterisation(_part(data, ~solid)))
    with pytest.raises(BadMeasurement, match="other inks or RGB"):
        characterisation_from_text(text.replace("7CLR_7", "7CLR_9"))
    no_solid = _part(data, data.device[:, 6] < 1)
    with pytest.raises(BadMeasurement, match="Ink 7 is not printed alone"):
        build_profile(no_solid, InkRules(tac=300), BuildSettings(size="small"))


def test_names_of_inks_that_are_alike_or_too_few_become_numbers() -> None:
    text = format_characterisation(SEVEN.measured())
    for names in ("Cyan, Cyan, Yellow, Black, Orange, Green, Violet", "Cyan, Magenta"):
        changed = text.replace("Cyan, Magenta, Yellow, Black, Orange, Green, Violet", names)
        assert characterisation_from_text(changed).names == tuple("1234567")


def _part(data, keep):
    return dataclasses.replace(data, device=data.device[keep], xyz=data.xyz[keep])


def test_overprints_are_expected_where_their_solids_multiply_to() -> None:
    device = np.array([[0, 0], [1, 0], [0, 1], [0.5, 0]], float)
    powered = np.array([[1, 1, 1], [0.5, 0.2, 0.0001], [0.4, 0.9, 0.02], [0.7, 0.7, 0.7]])
    paper, first, second, both = neugebauer._prior(device, powered, 1.0, 4)
    assert paper == pytest.approx([1, 1, 1])
    assert first == pytest.approx([0.5, 0.2, 0.002])
    assert second == pytest.approx([0.4, 0.9, 0.02])
    assert both == pytest.approx([0.2, 0.18, 0.002])
    squared = neugebauer._prior(device, powered, 2.0, 4)[3]
    assert squared[:2] == pytest.approx([0.2, 0.18]), "in powers as in reflectances"


@pytest.mark.filterwarnings("error")
@pytest.mark.parametrize(("name", "called"), [("Black", "K"), ("Brick", "Brick")])
def test_one_ink_is_built_from_its_ramp(name, called) -> None:
    share = np.linspace(0, 1, 21)
    lab = np.stack([95 - 75 * share**0.8, 40 * share, 30 * share], axis=1)
    rows = "\n".join(f"{s * 100} {v[0]} {v[1]} {v[2]}" for s, v in zip(share, lab, strict=True))
    head = f'INK_NAMES "{name}"\nBEGIN_DATA_FORMAT\n1CLR_1 LAB_L LAB_A LAB_B\nEND_DATA_FORMAT'
    data = characterisation_from_text(f"{head}\nBEGIN_DATA\n{rows}\nEND_DATA\n")
    assert data.names == (called,)
    steps: list[float] = []
    made = build_profile(data, InkRules(tac=90), BuildSettings(size="small"), progress=steps.append)
    assert steps == sorted(steps)
    assert len(set(steps)) == len(steps) > 5
    assert steps[-1] == 1
    profile = Profile(made.data)
    # A black of the medium is stated in version 2 only.
    assert XYZ_to_Lab(parse_xyz(profile.raw("bkpt")))[0] == pytest.approx([29.5, 0, 0], abs=1.5)
    fourth = build_profile(data, InkRules(tac=90), BuildSettings(size="small", version=4)).data
    assert "bkpt" not in Profile(fourth)
    assert (profile.colour_space, profile.channels, ink_names(profile)) == ("1CLR", 1, (called,))
    printed = lab_of_device(profile, share[:, None], intent="absolute")
    assert delta_e_2000(printed, lab).max() < 1.5
    for number in (0, 1, 2):
        back = xyz_to_device(profile, Lab_to_XYZ(lab_of_device(profile, share[:, None])), number)
        assert back.max() <= 0.9
        if number == 1:
            assert np.abs(back[:, 0] - np.minimum(share, 0.9)).max() < 0.02
        # Greys are met by their lightness: the darker, the more ink, and black is as much as may be.
        greys = np.stack([np.linspace(100, 0, 41), np.zeros(41), np.zeros(41)], axis=1)
        inks = xyz_to_device(profile, Lab_to_XYZ(greys), number)[:, 0]
        assert (np.diff(inks) >= -1e-4).all()
        assert inks[0] == pytest.approx(0, abs=1e-3)
        assert inks[-1] == pytest.approx(0.9, abs=0.03)
        if number < 2:
            route = ColourRoute(standard_profile("srgb"), profile, INTENTS[number], True)
            assert route.inks(np.zeros((1, 3)))[0, 0] == pytest.approx(0.9, abs=0.04)


@pytest.mark.parametrize(("names", "most"), [(tuple("CMYK"), 4), (tuple("ABCDEF"), 4), (tuple("ABC"), 3)])  # fmt: skip
def test_what_profiles_are_verified_with_keeps_the_rules(names, most) -> None:
    """No press lays more than four inks at once, however many it has."""
    rules = InkRules(tac=200, limits={names[0]: 50})
    found = inks_within(rules, 400, names=names)
    assert 0 < len(found) <= 400
    assert found.sum(axis=1).max() <= 1.99
    assert found[:, 0].max() <= 0.5 < found[:, 1].max()
    assert (found > 0).sum(axis=1).max() == most
    assert np.array_equal(found, inks_within(rules, 400, names=names))
