"""A profile plays only the parts that its class, space and tables allow."""

from __future__ import annotations

import pytest

from plinto_core.errors import BadProfile
from plinto_core.icc import Profile
from plinto_core.icc.parts import judge_part, parts_of
from plinto_core.transform.standard_spaces import standard_profile


def reclassed(profile: Profile, kind: bytes, *, without: tuple[str, ...] = ()) -> Profile:
    data = bytearray(profile.data)
    data[12:16] = kind
    for i in range(int.from_bytes(data[128:132], "big")):
        at = 132 + 12 * i
        if data[at : at + 4].decode() in without:
            data[at : at + 4] = b"gone"
    return Profile(bytes(data))


def test_standard_spaces_and_presses(coated) -> None:
    every = ("source", "arrival", "destination", "display")
    assert parts_of(standard_profile("srgb")) == every
    assert parts_of(standard_profile("grey")) == ("source", "destination")
    assert parts_of(coated) == ("source", "destination")
    assert parts_of(reclassed(standard_profile("p3"), b"spac")) == every


def test_an_rgb_printer_is_no_screen() -> None:
    printer = reclassed(standard_profile("srgb"), b"prtr")
    assert parts_of(printer) == ("source", "destination")
    with pytest.raises(BadProfile, match=r"cannot be the profile of a screen.*press or printer"):
        judge_part(printer, "display")


def test_a_press_is_no_screen(coated) -> None:
    with pytest.raises(BadProfile, match="for CMYK and not for RGB"):
        judge_part(coated, "display")


def test_a_one_way_profile_is_a_source_only(coated) -> None:
    way_in = reclassed(coated, b"scnr", without=("B2A0", "B2A1", "B2A2"))
    assert parts_of(way_in) == ("source",)
    with pytest.raises(BadProfile, match="not back"):
        judge_part(way_in, "destination")


@pytest.mark.parametrize("kind", [b"link", b"abst", b"nmcl"])
def test_links_abstract_and_named_profiles_play_none(kind) -> None:
    data = bytearray(standard_profile("srgb").data)
    data[12:16] = kind
    if kind == b"link":
        data[20:24] = b"RGB "
    assert parts_of(Profile(bytes(data))) == ()


def test_a_profile_without_tables_plays_none(coated) -> None:
    empty = reclassed(coated, b"prtr", without=("A2B0", "A2B1", "A2B2"))
    assert parts_of(empty) == ()
