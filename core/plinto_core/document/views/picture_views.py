"""A picture under a policy, small: as its colours are meant, as it prints, and its plates."""

from __future__ import annotations

from pathlib import Path

import numpy as np

from plinto_core.arrays import Pixels
from plinto_core.document.pdf.spaces import ColourSpace
from plinto_core.document.rules.colours import ColourMapper
from plinto_core.document.rules.policy import OutputPolicy, Rule
from plinto_core.document.runs.picture_policy import PicturePlan, plan_for
from plinto_core.document.views.press_view import plates_function
from plinto_core.document.views.separations import PagePlates
from plinto_core.errors import NotSupported, PolicyStop
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import FAMILY_OF, is_subtractive
from plinto_core.imaging.reader import OpenedPicture, open_picture
from plinto_core.imaging.resample import resampled
from plinto_core.recipes.sources import Resolve
from plinto_core.words import say

_USUAL_PPI = 72.0


def picture_as_meant(
    path: Path, policy: OutputPolicy, resolve: Resolve, *, edge: int = 800, screen: str = "srgb"
) -> tuple[Pixels, tuple[float, float]]:
    """(height, width, 3) uint8 in the screen's RGB, and the picture's size in points."""
    with open_picture(path) as picture:
        plan = plan_for(policy, picture.facts, resolve)
        small, size = small_picture(picture, edge)
    profile, _ = plan.mapper.source_of(plan.space)
    assert profile is not None
    return _on_screen(small, profile, resolve(screen)), size


def picture_as_printed(
    path: Path, policy: OutputPolicy, resolve: Resolve, *, edge: int = 800, screen: str = "srgb"
) -> tuple[Pixels, tuple[float, float]]:
    """As `picture_as_meant`, after the policy and seen on its medium; raises PolicyStop."""
    with open_picture(path) as picture:
        plan = plan_for(policy, picture.facts, resolve)
        _refuse_stops(plan)
        small, size = small_picture(picture, edge)
    made = plan.pixels(small, small.dtype.itemsize * 8)
    return _on_screen(made, _meaning(plan), resolve(screen)), size


def picture_plates(
    path: Path, policy: OutputPolicy, resolve: Resolve, *, edge: int = 800
) -> PagePlates:
    """The plates of a picture after a policy; raises PolicyStop, NotSupported."""
    press = resolve(policy.destination)
    if not is_subtractive(press.colour_space):
        raise NotSupported(say("document.no-plates"))
    with open_picture(path) as picture:
        plan = plan_for(policy, picture.facts, resolve)
        _refuse_stops(plan)
        small, size = small_picture(picture, edge)
    taken = ColourMapper(policy, press, resolve)
    if plan.changes or plan.space.family == taken.family == "CMYK":
        made = plan.pixels(small, 8)
        return PagePlates(taken.inks, np.ascontiguousarray(made), size)
    flat = small.reshape(-1, small.shape[2])
    onto = plates_function(taken, plan.space) if plan.space.family == "CMYK" else None
    if onto is not None:
        whole = onto(flat / np.iinfo(flat.dtype).max)
        eight = np.round(whole * 255).astype(np.uint8)
        return PagePlates(taken.inks, eight.reshape(*small.shape[:2], -1), size)
    inks = taken.images(plan.space, np.ascontiguousarray(flat), Rule(action="convert"), "relative")
    note = say("document.spaces-left", spaces=plan.space.family)
    eight = inks if inks.dtype == np.uint8 else (inks >> 8).astype(np.uint8)
    return PagePlates(taken.inks, eight.reshape(*small.shape[:2], -1), size, (note,))


def _refuse_stops(plan: PicturePlan) -> None:
    if plan.stops:
        raise PolicyStop(say("document.rule-stops-picture", number=plan.number))


def small_picture(picture: OpenedPicture, edge: int) -> tuple[Pixels, tuple[float, float]]:
    """A picture with its longer edge at `edge` pixels at most, and its size in points."""
    facts = picture.facts
    share = min(1.0, edge / max(facts.width, facts.height))
    wanted = (max(1, round(facts.height * share)), max(1, round(facts.width * share)))
    bands = picture.bands()
    if wanted != (facts.height, facts.width):
        bands = resampled(bands, (facts.height, facts.width), wanted)
    across, down = facts.resolution or (_USUAL_PPI, _USUAL_PPI)
    return np.concatenate(list(bands)), (facts.width / across * 72, facts.height / down * 72)


def _meaning(plan: PicturePlan) -> Profile:
    """The profile that tells how a result looks."""
    if plan.result is not None:
        return plan.result
    profile, _ = plan.mapper.source_of(plan.space)
    assert profile is not None
    return profile


def _on_screen(pixels: Pixels, profile: Profile, screen: Profile) -> Pixels:
    """By a measured link: a picture of 16 bit has nearly as many colours as pixels."""
    family = FAMILY_OF.get(profile.colour_space, "inks")
    space = ColourSpace(
        family, "ICCBased", profile.channels, f"ICC:{profile.digest}", profile=profile
    )
    mapper = ColourMapper(OutputPolicy(name="Screen", destination="srgb"), screen, lambda _: screen)
    flat = np.ascontiguousarray(pixels.reshape(-1, pixels.shape[2]))
    rgb = mapper.images(space, flat, Rule(action="convert", bpc=False), "relative")
    eight = rgb if rgb.dtype == np.uint8 else (rgb >> 8).astype(np.uint8)
    return np.ascontiguousarray(eight.reshape(*pixels.shape[:2], 3))
