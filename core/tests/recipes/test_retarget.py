from __future__ import annotations

from plinto_core.recipes import parse_recipe
from plinto_core.recipes.retarget import ConditionFacts, retarget

CMYK = ("C", "M", "Y", "K")
OFFSET = ConditionFacts("Coated", "a", CMYK, 320)
NEWS = ConditionFacts("Newsprint", "b", CMYK, 240)
CLOTH = ConditionFacts(
    "Satin", "c", CMYK, 300, process="transfer", mirror=True, ticket={"media": "Satin", "passes": 4}
)
SCREENS = ConditionFacts("Cotton", "d", CMYK, 220, process="screen")
SIX = ConditionFacts("Six", "e", ("1", "2", "3", "4", "5", "6"), 300, process="inkjet")  # fmt: skip
CORNERS = [[10, 10], [50, 10], [50, 50]]


def recipe_of(**changes):
    return parse_recipe({"destination": "a", "intent": "relative", **changes})


def ways(notes, way: str) -> str:
    return " ".join(n.text for n in notes if n.way == way)


def test_what_belongs_to_the_artwork_is_kept() -> None:
    recipe = recipe_of(corrections=[{"lightness": 10}], vivid={"strength": 40})
    found, notes = retarget(recipe, OFFSET, NEWS)
    assert found.destination == "b"
    assert (found.intent, found.corrections, found.vivid) == (
        "relative",
        recipe.corrections,
        recipe.vivid,
    )
    assert not ways(notes, "attention")


def test_the_tac_falls_to_what_the_new_medium_bears() -> None:
    found, notes = retarget(
        recipe_of(ink_rules={"tac": 320, "black": {"strength": 80}}), OFFSET, NEWS
    )
    assert found.ink_rules is not None
    assert found.ink_rules.tac == 240
    assert found.ink_rules.black is not None
    assert found.ink_rules.black.strength == 80
    assert "320 % became 240 %" in ways(notes, "adapted")


def test_a_tac_below_the_old_limit_keeps_its_share() -> None:
    found, _ = retarget(recipe_of(ink_rules={"tac": 288}), OFFSET, NEWS)
    assert found.ink_rules is not None
    assert found.ink_rules.tac == 216
    back, _ = retarget(found, NEWS, OFFSET)
    assert back.ink_rules is not None
    assert back.ink_rules.tac == 288


def test_what_was_made_for_the_old_press_is_listed() -> None:
    recipe = recipe_of(
        ink_rules={"tac": 300, "limits": {"C": 90}},
        plates={"K": {"curve": [[0, 0], [50, 60], [100, 100]], "minimum": 2}},
        corrections=[{"name": "hull", "region": {"corners": CORNERS}, "black": {"method": "none"}}],
    )
    found, notes = retarget(recipe, OFFSET, SCREENS)
    attention = ways(notes, "attention")
    for words in ("C 90 %", "Curves of plates K", "Black of hull", "Least dots", "films"):
        assert words in attention
    assert found.plates == recipe.plates
    assert notes[0].way == "attention"


def test_regions_of_black_are_named_and_those_without_a_name_too() -> None:
    region = {"region": {"corners": CORNERS}, "black": {"method": "none"}}
    corrections = [{"name": "hull", **region}, {"lightness": 3}, region]
    recipe = recipe_of(ink_rules={"tac": 240}, corrections=corrections)
    _, notes = retarget(recipe, OFFSET, NEWS)
    assert "Black of hull, a region is made again" in ways(notes, "attention")


def test_mirror_and_ticket_follow_the_new_process() -> None:
    found, notes = retarget(recipe_of(), OFFSET, CLOTH)
    assert found.delivery.mirror
    assert found.delivery.ticket.passes == 4
    assert "mirrored" in ways(notes, "adapted")
    back, _ = retarget(found, CLOTH, OFFSET)
    assert not back.delivery.mirror


def test_six_inks_take_the_rules_and_what_is_of_their_inks() -> None:
    recipe = recipe_of(
        ink_rules={"tac": 300, "limits": {"C": 80, "2": 70}}, plates={"K": {"minimum": 2}}, delivery={"films": {}},
        corrections=[{"region": {"corners": CORNERS}, "black": {"method": "none"}}],
    )  # fmt: skip
    found, notes = retarget(recipe, OFFSET, SIX)
    assert found.ink_rules.tac <= SIX.tac
    assert found.ink_rules.limits == {"2": 70}
    assert not found.plates
    assert found.corrections[0].black is None
    assert found.delivery.films is None
    assert "Limits of inks that Six does not have were left out: C." in ways(notes, "attention")


def test_films_and_rules_go_to_two_screens_and_no_rules_to_a_device_of_rgb() -> None:
    two = ConditionFacts("Two", "t", ("Brick", "K"), 180, process="screen")
    rgb = ConditionFacts("Photo", "p", ("R", "G", "B"), 300, process="photographic")
    recipe = recipe_of(
        ink_rules={"tac": 300, "limits": {"K": 90}}, delivery={"films": {}, "apart": False}
    )
    found, _ = retarget(recipe, OFFSET, two)
    assert found.delivery.films is not None
    assert found.ink_rules.limits == {"K": 90}
    assert found.ink_rules.tac <= 180
    apart = recipe_of(ink_rules={"tac": 300}, delivery={"apart": True})
    found, notes = retarget(apart, OFFSET, rgb)
    assert found.ink_rules is None
    assert not found.delivery.apart
    assert "Photo takes no inks" in ways(notes, "attention")
