"""Which parts a profile can play: give artwork its meaning, be printed for, show on a screen."""

from __future__ import annotations

from typing import Literal

from plinto_core.errors import BadProfile
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import CHANNELS, CLASSES, is_subtractive
from plinto_core.words import say

Part = Literal["source", "arrival", "destination", "display"]
PARTS: tuple[Part, ...] = ("source", "arrival", "destination", "display")
MOST_INKS = 8
"""That a profile may have to be printed for."""
_COLOURS = ("RGB ", "GRAY", "CMYK")


def _ways(profile: Profile) -> tuple[bool, bool]:
    """Whether a profile leads from its device to colours, and back."""
    simple = profile.is_matrix_shaper or "kTRC" in profile
    forward = any(profile.forward_table(n) is not None for n in (0, 1))
    backward = any(profile.backward_table(n) is not None for n in (0, 1))
    return simple or forward, simple or backward


def why_not(profile: Profile, part: Part) -> str:
    """Why a profile cannot play a part, in one sentence; empty where it can."""
    kind, space = profile.header.device_class, profile.colour_space
    name = CLASSES[kind]
    if kind in ("link", "abst", "nmcl"):
        return say("icc.why-class", kind=name)
    inks = part in ("destination", "source") and is_subtractive(space)
    printed = inks and CHANNELS[space] <= MOST_INKS
    if space not in _COLOURS and not printed:
        wording = "icc.why-many-inks" if inks else "icc.why-space"
        return say(wording, space=space.strip(), most=MOST_INKS)
    forward, backward = _ways(profile)
    if not forward:
        return say("icc.why-no-colours")
    if part == "source":
        return ""
    if not backward:
        return say("icc.why-no-way-back")
    if part in ("arrival", "display") and space != "RGB ":
        return say("icc.why-not-rgb", space=space.strip())
    if part in ("arrival", "display") and kind not in ("mntr", "spac"):
        return say("icc.why-no-screen", kind=name)
    return ""


def why_not_examined(profile: Profile) -> str:
    """Why a profile's print cannot be examined; empty where it can: any number of inks, both ways."""
    kind = profile.header.device_class
    if kind in ("link", "abst", "nmcl"):
        return say("icc.why-class", kind=CLASSES[kind])
    if profile.colour_space in ("Lab ", "XYZ "):
        return say("icc.why-space", space=profile.colour_space.strip())
    forward, backward = _ways(profile)
    if not (forward and backward):
        return say("icc.why-one-way")
    return ""


def parts_of(profile: Profile) -> tuple[Part, ...]:
    """All parts that a profile can play."""
    return tuple(part for part in PARTS if not why_not(profile, part))


def judge_part(profile: Profile, part: Part) -> None:
    """Raise BadProfile, with the reason and what to choose instead, where a part does not fit."""
    reason = why_not(profile, part)
    if reason:
        raise BadProfile(say(f"icc.no-{part}", profile=profile.description, why=reason))
