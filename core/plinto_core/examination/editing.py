"""Changes to a profile in a copy: its name, tags from another one, repair of what is safe."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

import numpy as np

from plinto_core.errors import BadProfile
from plinto_core.icc import values
from plinto_core.icc.header import D50
from plinto_core.icc.profile import Profile
from plinto_core.icc.write import write_profile
from plinto_core.words import say

_SPACED = ("A2B", "B2A", "D2B", "B2D", "gamt")
_WHITE_AGREES = 0.02
"""XYZ by which two media whites may differ and still be one medium measured twice."""


def renamed(profile: Profile, description: str) -> Profile:
    """A copy with another description; raises BadProfile for an empty or long one."""
    name = " ".join(description.split())
    if not name or len(name) > 200 or any(ord(c) < 32 for c in name):
        raise BadProfile(say("examination.description-length"))
    if not profile.is_v4 and not name.isascii():
        raise BadProfile(say("examination.description-letters"))
    packed = values.pack_mluc(name) if profile.is_v4 else values.pack_desc(name)
    return _written(profile, {"desc": packed})


def with_tags(profile: Profile, taken: Mapping[str, Profile]) -> Profile:
    """A copy with tags taken from other profiles, by tag name.

    Tables must agree in colour space, PCS and version family, since the same numbers mean other colours
    else, and the media must be the same white. Raises BadProfile; what the halves give back together is
    for a round trip to tell.
    """
    new: dict[str, bytes] = {}
    for name, other in taken.items():
        if name not in other:
            raise BadProfile(say("examination.tag-missing", profile=other.description, tag=name))
        if name.startswith(_SPACED) or name.endswith("TRC") or name.endswith("XYZ"):
            _must_agree(profile, other)
        new[name] = other.raw(name)
    return _written(profile, new)


def _must_agree(profile: Profile, other: Profile) -> None:
    if profile.colour_space != other.colour_space:
        raise BadProfile(
            say(
                "examination.tables-other-inks",
                one=profile.colour_space.strip(),
                other=other.colour_space.strip(),
            )
        )
    if profile.header.pcs != other.header.pcs:
        raise BadProfile(
            say(
                "examination.tables-other-pcs",
                one=profile.header.pcs.strip(),
                other=other.header.pcs.strip(),
            )
        )
    if profile.is_v4 != other.is_v4:
        raise BadProfile(say("examination.tables-other-version"))
    if float(np.abs(profile.media_white - other.media_white).max()) > _WHITE_AGREES:
        raise BadProfile(say("examination.tables-other-white"))


def repaired(profile: Profile) -> tuple[Profile, list[str]]:
    """A copy with what can be mended safely, and what was done in words; [] where nothing was.

    The size in the header, the illuminant, the header's intent, the profile ID and tags that do not start
    on a multiple of four are mended, none of which decides a colour. Tables stay as they are.
    """
    done: list[str] = []
    header = profile.header
    if header.size != len(profile.data):
        done.append("The size in the header was corrected.")
    if not np.allclose(header.illuminant, D50, atol=0.002):
        header = replace(header, illuminant=D50.copy())
        done.append("The illuminant in the header was set to D50.")
    if header.rendering_intent > 3:
        header = replace(header, rendering_intent=0)
        done.append("The header's rendering intent was set to perceptual.")
    if any(offset % 4 for offset, _ in profile.directory.values()):
        done.append("Tags were moved to multiples of four bytes.")
    tags = {name: profile.raw(name) for name in profile.directory}
    made = Profile(write_profile(header, tags))
    if any(header.profile_id) and made.header.profile_id != header.profile_id and not done:
        done.append("The profile ID was computed anew.")
    return (made, done) if done else (profile, [])


def _written(profile: Profile, new: Mapping[str, bytes]) -> Profile:
    tags = {name: profile.raw(name) for name in profile.directory}
    return Profile(write_profile(profile.header, {**tags, **new}))
