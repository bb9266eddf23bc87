"""Names and roles of inks said by a person: kept in the profile, followed by separation."""

from __future__ import annotations

import numpy as np
import pytest

from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.errors import BadInput
from plinto_core.icc import Profile
from plinto_core.icc.colorants import ink_names
from plinto_core.inks.editing import with_inks
from plinto_core.inks.ink_set import InkRole, InkSet, roles_fit
from plinto_core.inks.rules import parse_ink_rules
from plinto_core.inks.separation import separate
from plinto_core.recipes.route import ColourRoute, forward_table
from plinto_core.transform.standard_spaces import standard_profile

NAMES = ("C", "M", "Y", "K", "Orange", "Green", "Violet")
RULES = parse_ink_rules({"tac": 280})
AIMS = np.array([[60.0, 45, 55], [55, -45, 20], [35, 30, -45], [50, 0, 0], [30, 5, 5]])


def roles_of(profile) -> list[InkRole]:
    found = InkSet.of_profile(profile).channels
    return [InkRole(role=c.role, of=c.of, between=c.between) for c in found]


def test_what_the_profile_says_already_changes_nothing_that_prints(seven) -> None:
    again = Profile(with_inks(seven, NAMES, roles_of(seven)))
    assert ink_names(again) == NAMES
    assert again.colour_digest == seven.colour_digest
    assert InkSet.of_profile(again) == InkSet.of_profile(seven)


def test_names_reach_the_recipe_and_roles_the_inks(seven) -> None:
    roles = roles_of(seven)
    # Violet is varnish now, as far as separation is concerned.
    roles[6] = InkRole(role="none")
    names = (*NAMES[:4], "Mandarin", "Leaf", "Varnish")
    other = Profile(with_inks(seven, names, [*roles[:4], *roles[4:]]))
    assert ink_names(other) == names
    assert other.digest != seven.digest
    inks = separate(forward_table(other), AIMS, RULES).inks
    before = separate(forward_table(seven), AIMS, RULES).inks
    assert before[2, 6] > 0.3
    assert (inks[:, 6] == 0).all()
    assert inks[0, 4] > 0.3
    # Nor where all inks go on beyond what mixtures reach.
    mixed = np.random.default_rng(5).random((400, 7)) * np.array([1, 1, 1, 0.2, 1, 1, 1]) * 0.55
    aims = forward_table(seven).lab_of(mixed)
    assert (separate(forward_table(other), aims, RULES).inks[:, 6] == 0).all()
    assert (separate(forward_table(seven), aims, RULES).inks[:, 6] > 0.02).any()
    # Without it the violet is made of cyan and magenta, as near as they come.
    printed = forward_table(other).lab_of(inks)
    assert delta_e_2000(printed, AIMS).max() < 6
    rules = parse_ink_rules({"tac": 280, "limits": {"Mandarin": 40}})
    assert separate(forward_table(other), AIMS, rules).inks[0, 4] <= 0.4 + 1e-6
    keys = {ColourRoute(standard_profile("srgb"), p, "relative", True, RULES).key for p in (seven, other)}  # fmt: skip
    assert len(keys) == 2


def test_black_may_be_none_and_greys_are_made_of_colours(seven) -> None:
    roles = roles_of(seven)
    roles[3] = InkRole(role="none")
    other = Profile(with_inks(seven, NAMES, roles))
    inks = separate(forward_table(other), AIMS, RULES).inks
    assert (inks[:, 3] == 0).all()
    grey = forward_table(other).lab_of(inks[3:4])
    assert delta_e_2000(grey, AIMS[3:4])[0] < 1


def test_angles_follow_the_roles(seven) -> None:
    roles = roles_of(seven)
    roles[4] = InkRole(role="light", of="M")
    found = InkSet.of_profile(Profile(with_inks(seven, NAMES, roles))).channels
    assert (found[4].role, found[4].of, found[4].angle) == ("light", "M", found[1].angle)


@pytest.mark.parametrize(
    ("place", "role", "said"),
    [
        (4, InkRole(role="black"), "Two inks are black"),
        (4, InkRole(role="colour"), "three at most"),
        (4, InkRole(role="light", of="Green"), "say of which"),
        (4, InkRole(role="light", of="Teal"), "say of which"),
        (4, InkRole(role="extra"), "say which"),
        (4, InkRole(role="extra", between=("M", "K")), "say which"),
        (5, InkRole(role="extra", between=("Y", "M")), "between the same two"),
    ],
)
def test_roles_that_make_no_set_are_refused(seven, place, role, said) -> None:
    roles = roles_of(seven)
    roles[place] = role
    assert said in roles_fit(NAMES, tuple(roles))
    with pytest.raises(BadInput, match=said):
        with_inks(seven, NAMES, roles)


@pytest.mark.parametrize("colours", [1, 2, 3])
def test_an_extra_ink_needs_three_colours_of_which_it_lies_between_two(colours) -> None:
    names = (*"CMY"[:colours], "K", "Orange")
    roles = [*[InkRole(role="colour")] * colours, InkRole(role="black")]
    said = roles_fit(
        names, (*roles, InkRole(role="extra", between=("M", "Y" if colours > 2 else "C")))
    )
    assert ("say which" in said) is (colours < 3)
    assert roles_fit(names, (*roles, InkRole(role="none"))) == ""


@pytest.mark.parametrize(
    "names",
    [NAMES[:6], (*NAMES[:6], "orange"), (*NAMES[:6], ""), (*NAMES[:6], "x" * 32), (*NAMES[:6], "青"), (*NAMES[:6], "a\nb\x00")],
)  # fmt: skip
def test_names_that_a_profile_cannot_hold_are_refused(seven, names) -> None:
    with pytest.raises(BadInput):
        with_inks(seven, names, roles_of(seven)[: len(names)])


def test_the_four_of_cmyk_are_what_they_are(coated) -> None:
    with pytest.raises(BadInput, match="named by its colour space"):
        with_inks(coated, NAMES[:4], [InkRole(role="colour")] * 4)


def test_roles_that_are_damaged_are_read_from_the_colours_again(seven) -> None:
    data = with_inks(seven, NAMES, roles_of(seven))
    for wrong in (b'"role":"blank"', b'"role":"light"', b'"role":{black"'):
        broken = Profile(data.replace(b'"role":"black"', wrong))
        assert broken.data != data
        assert InkSet.of_profile(broken) == InkSet.of_profile(seven), wrong
