"""Which parts a profile can play: give artwork its meaning, be printed for, show on a screen."""

from __future__ import annotations

from typing import Literal

from plinto_core.errors import BadProfile
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import CHANNELS, CLASSES, is_subtractive

Part = Literal["source", "arrival", "destination", "display"]
PARTS: tuple[Part, ...] = ("source", "arrival", "destination", "display")
_NAMES: dict[Part, str] = {
    "source": "the source of artwork",
    "arrival": "an arrival space",
    "destination": "a destination",
    "display": "the profile of a screen",
}
_WANTED: dict[Part, str] = {
    "source": "Choose a profile of a camera, scanner, screen, RGB space or press.",
    "arrival": "Choose the profile of an RGB space.",
    "destination": "Choose an output profile.",
    "display": "Choose the profile that was made of the screen, or of the space it is set to.",
}
MOST_INKS = 8
"""That a profile may have to be printed for."""
_COLOURS = ("RGB ", "GRAY", "CMYK")


def why_not(profile: Profile, part: Part) -> str:
    """Why a profile cannot play a part, in one sentence; empty where it can."""
    kind, space = profile.header.device_class, profile.colour_space
    name = CLASSES[kind]
    if kind in ("link", "abst", "nmcl"):
        return f"it is a profile of the class {name}"
    inks = part in ("destination", "source") and is_subtractive(space)
    printed = inks and CHANNELS[space] <= MOST_INKS
    if space not in _COLOURS and not printed:
        more = f"; at most {MOST_INKS} inks are worked with" if inks else ""
        return f"its colours are {space.strip()}{more}"
    forward = (
        profile.is_matrix_shaper or "A2B0" in profile or "A2B1" in profile or "kTRC" in profile
    )
    backward = (
        profile.is_matrix_shaper or "B2A0" in profile or "B2A1" in profile or "kTRC" in profile
    )
    if not forward:
        return "it does not say which colours its numbers stand for"
    if part == "source":
        return ""
    if not backward:
        return "it only leads from numbers to colours, and not back"
    if part in ("arrival", "display") and space != "RGB ":
        return f"it is for {space.strip()} and not for RGB"
    if part in ("arrival", "display") and kind not in ("mntr", "spac"):
        return f"it is of the class {name}; a press or printer is no screen and no RGB space"
    return ""


def why_not_examined(profile: Profile) -> str:
    """Why a profile's print cannot be examined; empty where it can: any number of inks, both ways."""
    kind = profile.header.device_class
    if kind in ("link", "abst", "nmcl"):
        return f"it is a profile of the class {CLASSES[kind]}"
    if profile.colour_space in ("Lab ", "XYZ "):
        return f"its colours are {profile.colour_space.strip()}"
    simple = profile.is_matrix_shaper or "kTRC" in profile
    forward = simple or "A2B0" in profile or "A2B1" in profile
    backward = simple or "B2A0" in profile or "B2A1" in profile
    if not (forward and backward):
        return "it leads only one way between numbers and colours"
    return ""


def parts_of(profile: Profile) -> tuple[Part, ...]:
    """All parts that a profile can play."""
    return tuple(part for part in PARTS if not why_not(profile, part))


def judge_part(profile: Profile, part: Part) -> None:
    """Raise BadProfile, with the reason and what to choose instead, where a part does not fit."""
    reason = why_not(profile, part)
    if reason:
        raise BadProfile(
            f"The profile {profile.description!r} cannot be {_NAMES[part]}: {reason}.",
            remedy=_WANTED[part],
        )
