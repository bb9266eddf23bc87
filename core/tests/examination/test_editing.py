"""Changes in a copy: names, tags of other profiles, repair; and what a list shows of a profile."""

from __future__ import annotations

import struct
from dataclasses import replace

import numpy as np
import pytest
from handmade import cmyk_profile, linear_inks, linear_press, linear_print, tinting_profile
from handmade import with_tags as given_tags

from plinto_core.errors import BadProfile
from plinto_core.examination.brief import brief_facts
from plinto_core.examination.editing import renamed, repaired, with_tags
from plinto_core.icc import Profile, values
from plinto_core.icc.write import write_profile
from plinto_core.transform.standard_spaces import standard_profile


def refused(code: str, act, *given) -> None:
    with pytest.raises(BadProfile) as error:
        act(*given)
    assert error.value.said.code == f"examination.{code}"


def rewritten(profile: Profile, **changes) -> Profile:
    """With other entries in the header; colours stay as they are."""
    tags = {name: profile.raw(name) for name in profile.directory}
    return Profile(write_profile(replace(profile.header, **changes), tags))


@pytest.fixture(scope="module")
def press() -> Profile:
    return linear_press("Press")


def test_a_copy_has_another_name_and_the_same_colours(press) -> None:
    made = renamed(press, "  Coated,\t second   run ")
    assert made.description == "Coated, second run"
    assert made.colour_digest == press.colour_digest
    assert press.description == "Press"
    assert renamed(press, "x" * 200).description == "x" * 200
    four = rewritten(press, version=(4, 3, 0))
    assert renamed(four, "Größe").description == "Größe"


@pytest.mark.parametrize("name", ["", "  ", "x" * 201, "a\x01b"])
def test_names_have_one_to_200_letters(press, name) -> None:
    refused("description-length", renamed, press, name)


def test_former_profiles_hold_plain_letters_only(press) -> None:
    refused("description-letters", renamed, press, "Größe")


def test_a_way_back_is_taken_from_another_profile_of_the_medium(press) -> None:
    other = cmyk_profile(linear_print, lambda lab: linear_inks(lab) * 0.5, back_grid=9)
    made = with_tags(press, {"B2A0": other, "cprt": other})
    assert made.raw("B2A0") == other.raw("B2A0")
    assert made.raw("A2B0") == press.raw("A2B0")
    assert made.raw("B2A1") == press.raw("B2A1")


def test_tables_of_other_inks_spaces_versions_and_media_are_refused(press) -> None:
    srgb = standard_profile("srgb")
    refused("tag-missing", with_tags, press, {"gamt": press})
    refused("tables-other-inks", with_tags, press, {"rTRC": srgb})
    refused("tables-other-inks", with_tags, press, {"rXYZ": srgb})
    xyz = tinting_profile(lambda t: t, np.full((4, 3), 0.1))
    refused("tables-other-pcs", with_tags, press, {"B2A0": xyz})
    refused("tables-other-version", with_tags, press, {"A2B0": rewritten(press, version=(4, 3, 0))})
    # Words are not numbers: a description may come from anywhere.
    assert with_tags(press, {"desc": srgb}).description == srgb.description


@pytest.mark.parametrize(("away", "agrees"), [(0.019, True), (0.021, False)])
def test_two_whites_are_one_medium_within_two_hundredths(press, away, agrees) -> None:
    white = press.media_white + np.array([0, away, 0])
    other = given_tags(press, {"wtpt": values.pack_xyz(white)})
    if agrees:
        assert with_tags(press, {"A2B0": other}).raw("wtpt") == press.raw("wtpt")
    else:
        refused("tables-other-white", with_tags, press, {"A2B0": other})


def test_what_decides_no_colour_is_repaired_and_said(press) -> None:
    assert repaired(press) == (press, [])
    data = bytearray(press.data)
    data[64:68] = struct.pack(">I", 7)
    data[68:72] = struct.pack(">i", 65536)
    made, done = repaired(Profile(bytes(data)))
    assert len(done) == 2
    assert "illuminant" in done[0]
    assert "intent" in done[1]
    assert made.header.rendering_intent == 0
    assert made.header.illuminant == pytest.approx([0.9642, 1, 0.8249], abs=1e-4)
    assert made.raw("A2B0") == press.raw("A2B0")
    longer, done = repaired(Profile(press.data + b"\0\0\0\0"))
    assert len(done) == 1
    assert "size" in done[0]
    assert longer.header.size == len(longer.data)
    for intent in (0, 1, 2, 3):
        assert repaired(rewritten(press, rendering_intent=intent))[1] == []


def test_a_wrong_profile_id_is_computed_anew(press) -> None:
    whole = rewritten(press, version=(4, 3, 0))
    assert any(whole.header.profile_id)
    assert repaired(whole)[1] == []
    data = bytearray(whole.data)
    data[90] ^= 255
    made, done = repaired(Profile(bytes(data)))
    assert done == ["The profile ID was computed anew."]
    assert made.header.profile_id == whole.header.profile_id


def test_what_a_list_shows(press) -> None:
    dated = rewritten(press, created=(2026, 2, 9, 1, 2, 3), manufacturer="TE\x07R")
    facts = brief_facts(dated)
    assert facts["version"] == "2.4"
    assert (facts["created"], facts["maker"], facts["size"]) == (
        "2026-02-09",
        "TER",
        len(dated.data),
    )
    assert (facts["gives"], facts["examined"]) == ("", True)
    assert facts["white"] == pytest.approx([100, 0, 0], abs=0.1)
    grey = given_tags(press, {"wtpt": values.pack_xyz(np.array([0.3, 0.35, 0.2]))})
    # L* 65.7 of Y 0.35, by the definition of CIELAB.
    assert brief_facts(grey)["white"][0] == pytest.approx(65.7, abs=0.05)
    # A white that cannot be read counts as the perfect one.
    assert brief_facts(given_tags(press, {"wtpt": b"XYZ "}))["white"] == [100, 0, 0]


@pytest.mark.parametrize(
    ("created", "said"),
    [
        ((1990, 1, 1), "1990-01-01"), ((2100, 12, 31), "2100-12-31"), ((1989, 6, 6), ""),
        ((2101, 6, 6), ""), ((2020, 0, 6), ""), ((2020, 13, 6), ""), ((2020, 6, 0), ""), ((2020, 6, 32), ""),
    ],
)  # fmt: skip
def test_dates_that_are_none_are_not_shown(press, created, said) -> None:
    assert brief_facts(rewritten(press, created=(*created, 0, 0, 0)))["created"] == said
