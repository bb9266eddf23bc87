"""Exactly one place manages colour, and it is the one that was declared."""

from __future__ import annotations

import itertools
from dataclasses import replace

import pytest

from plinto_core.printing import ColourDuty, SentColours, judge, refusal

INKS = SentColours(converts=True, made_for="a", prints="a", profile_in=False)
AS_IT_CAME = SentColours(
    converts=False, made_for="a", prints="a", profile_in=True, foreign=("RGB",)
)
READY = SentColours(converts=False, made_for="a", prints="a", profile_in=False)

OWN, OTHER = "a" * 64, "b" * 64


def worst(duty: ColourDuty, sent: SentColours) -> str:
    return judge(duty, sent)[0].level


def test_one_manager_as_declared_is_fine() -> None:
    assert [j.level for j in judge(ColourDuty(), INKS)] == ["fine"]
    assert worst(ColourDuty(manager="rip", rip="on"), AS_IT_CAME) == "fine"
    known = ColourDuty(manager="driver", driver="on", driver_profile=OWN)
    assert worst(known, replace(AS_IT_CAME, prints=OWN)) == "fine"
    assert worst(ColourDuty(manager="none", rip="absent"), READY) == "fine"


@pytest.mark.parametrize("place", ["driver", "rip"])
def test_twice_is_refused_and_says_where_to_switch_off(place) -> None:
    (found,) = judge(ColourDuty(**{place: "on"}), INKS)
    name = {"driver": "the driver", "rip": "the RIP"}[place]
    assert found.reason == f"Colour would be managed twice: by Plinto and by {name}."
    assert found.remedy == f"Switch colour management off in {name}."


def test_a_declared_rip_keeps_the_work_and_plinto_gives_way() -> None:
    found = refusal(judge(ColourDuty(manager="rip", rip="on"), INKS))
    assert found is not None
    assert "policy that leaves colours alone" in found.remedy


def test_never_is_refused_where_colours_are_no_inks() -> None:
    found = refusal(judge(ColourDuty(manager="none", driver="off", rip="off"), AS_IT_CAME))
    assert found is not None
    assert found.reason.startswith("Colour would never be managed: RGB goes out")
    assert refusal(judge(ColourDuty(manager="plinto"), AS_IT_CAME)) is not None


def test_a_wrong_declaration_is_refused() -> None:
    found = refusal(judge(ColourDuty(manager="rip", rip="off"), INKS))
    assert found is not None
    assert "says that the RIP manages colour, but Plinto does" in found.reason
    found = refusal(judge(ColourDuty(manager="none"), INKS))
    assert found is not None
    assert "nobody manages colour, but Plinto does" in found.reason


def test_colours_made_for_another_condition_are_refused() -> None:
    other = SentColours(converts=True, made_for="b", prints="a", profile_in=False)
    found = refusal(judge(ColourDuty(), other))
    assert found is not None
    assert "another printing condition" in found.reason


def test_profiles_that_invite_or_miss_a_conversion_are_warned_of() -> None:
    with_profile = SentColours(converts=True, made_for="a", prints="a", profile_in=True)
    assert worst(ColourDuty(rip="off"), with_profile) == "warn"
    assert worst(ColourDuty(rip="absent"), with_profile) == "fine"
    bare = SentColours(False, "a", "a", False, ("RGB",))
    assert worst(ColourDuty(manager="rip", rip="on"), bare) == "warn"
    partly = SentColours(True, "a", "a", False, ("Lab",))
    assert "leaves Lab" in judge(ColourDuty(rip="absent"), partly)[0].reason


def test_over_all_settings_only_one_manager_passes() -> None:
    for manager, driver, rip, converts in itertools.product(
        ("plinto", "driver", "rip", "none"), ("absent", "off", "on"), ("absent", "off", "on"), (True, False)
    ):  # fmt: skip
        sent = SentColours(converts, "a", "a", True, () if converts else ("RGB",))
        active = converts + (driver == "on") + (rip == "on")
        right = {"plinto": converts, "driver": driver == "on", "rip": rip == "on", "none": False}
        passes = refusal(judge(ColourDuty(manager=manager, driver=driver, rip=rip), sent)) is None
        assert passes == (active == 1 and right[manager])


def test_a_driver_that_cannot_be_switched_off_is_a_way_of_its_own() -> None:
    stuck = ColourDuty(driver="always")
    (found,) = judge(stuck, INKS)
    assert found.level == "refuse"
    assert "the driver cannot be switched off" in found.reason
    assert "print the chart through it" in found.remedy
    through = stuck.model_copy(update={"measured_through": True})
    assert worst(through, INKS) == "fine"
    left = ColourDuty(manager="driver", driver="always", driver_profile=OWN)
    assert worst(left, replace(AS_IT_CAME, prints=OWN)) == "fine"
    assert refusal(judge(ColourDuty(rip="always"), INKS)) is not None


def test_a_condition_measured_through_a_driver_that_is_off_is_refused() -> None:
    for driver in ("off", "absent"):
        found = refusal(judge(ColourDuty(driver=driver, measured_through=True), INKS))
        assert found is not None
        assert "driver does not convert" in found.reason


def test_what_the_driver_takes_by_itself_is_known_or_asked_about() -> None:
    sent = replace(AS_IT_CAME, prints=OWN)
    unknown, other = (
        judge(ColourDuty(manager="driver", driver="on", driver_profile=p), sent)
        for p in ("", OTHER)
    )
    assert [j.level for j in unknown] == ["warn"]
    assert "not known" in unknown[0].reason
    assert [j.level for j in other] == ["warn"]
    assert "another profile" in other[0].reason
    assert [j.level for j in judge(ColourDuty(driver="off"), INKS)] == ["fine"]
