"""Inks that are called otherwise, in everything that names them."""

from __future__ import annotations

from plinto_core.icc import Profile
from plinto_core.inks.editing import with_inks
from plinto_core.inks.ink_set import InkRole, InkSet
from plinto_core.recipes.renaming import inks_renamed, renamed_recipe

NAMES = ("C", "M", "Y", "K", "Orange", "Green", "Violet")


def called(seven, *names: str) -> Profile:
    roles = {c.name: c for c in InkSet.of_profile(seven).channels}
    now = dict(zip(NAMES, names, strict=True))
    return Profile(
        with_inks(
            seven,
            names,
            [
                InkRole(
                    role=roles[n].role,
                    between=roles[n].between and tuple(now[b] for b in roles[n].between),
                )
                for n in NAMES
            ],
        )
    )


def test_only_names_that_are_new_go_to_their_inks(seven, coated) -> None:
    one = called(seven, *NAMES[:4], "Mandarin", "Green", "Violet")
    assert inks_renamed(seven, one) == {"Orange": "Mandarin"}
    # Two names that changed places may mean that the inks did: nothing follows them.
    turned = called(seven, *NAMES[:4], "Violet", "Green", "Orange")
    assert inks_renamed(seven, turned) == {}
    assert inks_renamed(coated, seven) == {}


def test_limits_plates_and_angles_follow() -> None:
    renamed = {"Orange": "Mandarin"}
    recipe = {
        "destination": "press",
        "ink_rules": {"tac": 250, "limits": {"Orange": 60, "K": 80}},
        "plates": {"Orange": {"gamma": 1.2}, "C": {"gamma": 0.9}},
        "delivery": {"bits": 8, "films": {"ruling": 40, "angles": {"Orange": 15}}},
    }
    assert renamed_recipe(recipe, renamed) == {
        "ink_rules": {"tac": 250, "limits": {"Mandarin": 60, "K": 80}},
        "plates": {"Mandarin": {"gamma": 1.2}, "C": {"gamma": 0.9}},
        "delivery": {"bits": 8, "films": {"ruling": 40, "angles": {"Mandarin": 15}}},
    }
    assert renamed_recipe(recipe, {"Green": "Leaf"}) == {}
    assert renamed_recipe({"destination": "press", "ink_rules": None}, renamed) == {}
