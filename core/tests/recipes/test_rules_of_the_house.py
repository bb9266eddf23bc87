from __future__ import annotations

import pytest

from plinto_core.errors import BadProfile, BadRecipe
from plinto_core.imaging import PictureFacts
from plinto_core.recipes.house_rules import HouseRules, decide_source, parse_house_rules
from plinto_core.transform.standard_spaces import SPACES, standard_profile


def resolve(reference: str):
    if reference not in (*SPACES, "grey"):
        raise BadProfile("unknown")
    return standard_profile(reference)


def facts(profile: str | None = None, channels: int = 3, **more) -> PictureFacts:
    data = standard_profile(profile).data if profile else None
    return PictureFacts("TIFF", 10, 10, channels, 8, profile=data, **more)


def decided(picture: PictureFacts, **rules):
    found = decide_source(picture, HouseRules(**rules), resolve)
    return found.source, found.arrival, found.question


def test_the_default_profile_is_kept_without_a_word() -> None:
    for differs in ("keep", "convert", "ask"):
        assert decided(facts("srgb"), differs=differs) == (None, None, "")


@pytest.mark.parametrize(
    ("differs", "expected"),
    [("keep", (None, None, "")), ("convert", (None, "srgb", "")), ("ask", (None, None, "differs"))],
)
def test_another_profile(differs, expected) -> None:
    assert decided(facts("romm"), differs=differs) == expected


@pytest.mark.parametrize(
    ("missing", "expected"), [("assign", ("p3", None, "")), ("ask", ("p3", None, "missing"))]
)
def test_no_profile(missing, expected) -> None:
    assert decided(facts(), rgb="p3", missing=missing) == expected


def test_refused_without_a_profile() -> None:
    with pytest.raises(BadRecipe, match="refuse"):
        decided(facts(), missing="refuse")


def test_a_useless_profile_counts_as_missing() -> None:
    broken = PictureFacts("TIFF", 10, 10, 3, 8, profile=b"nonsense")
    assert decided(broken) == ("srgb", None, "")
    assert decided(facts("grey")) == ("srgb", None, "")  # a grey profile in an RGB picture


def test_cmyk_without_a_default_is_asked_about() -> None:
    assert decided(facts(channels=4)) == (None, None, "missing")


def test_a_declared_srgb_picture() -> None:
    assert decided(facts(declared_srgb=True)) == (None, None, "")
    assert decided(facts(declared_srgb=True), rgb="p3", differs="convert") == (None, "p3", "")


@pytest.mark.parametrize("bad", [{"rgb": "nowhere"}, {"rgb": "grey"}, {"differs": "maybe"}, {"surprise": 1}, [], {"name": ""}])  # fmt: skip
def test_sets_that_cannot_hold_are_refused(bad) -> None:
    with pytest.raises(BadRecipe):
        parse_house_rules(bad, resolve)


def test_kinds_of_work_have_names_of_their_own() -> None:
    kinds = [{"name": "Poster", "conditions": ["coated"]}, {"name": "Bag"}]
    rules = parse_house_rules({"work": kinds}, resolve)
    assert [(k.name, k.conditions) for k in rules.work] == [("Poster", ("coated",)), ("Bag", ())]
    with pytest.raises(BadRecipe, match="Two kinds of work have the same name"):
        parse_house_rules({"work": [*kinds, {"name": "poster "}]}, resolve)
    with pytest.raises(BadRecipe):
        parse_house_rules({"work": [{"name": ""}]}, resolve)
