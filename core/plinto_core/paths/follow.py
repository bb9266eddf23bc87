"""Colours followed along a path, exactly, and seen after every step with one and the same white."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal, get_args

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import D50, Lab_to_XYZ, XYZ_to_Lab
from plinto_core.errors import BadInput
from plinto_core.icc.profile import Profile
from plinto_core.transform.chain import lab_of_device
from plinto_core.transform.path import NumbersStep, PathStep, Step, follow_path, settled, unit_of
from plinto_core.words import say

View = Literal["paper", "absolute"]
"""Colours relative to each medium's own white, or as they are measured, the medium's white in them."""
VIEWS: tuple[View, ...] = get_args(View)


@dataclass(frozen=True)
class Followed:
    """What colours are after every step. steps : as they were walked; values : for each (n, channels) in
    people's units; lab : for each (n, 3) Lab in the view asked for, None where nothing says which colours
    its numbers stand for."""

    steps: tuple[Step, ...]
    values: tuple[Floats, ...]
    lab: tuple[Floats | None, ...]

    def colours(self, step: int) -> Floats:
        """The Lab of a step; raises BadInput where there is none."""
        found = self.lab[step] if 0 <= step < len(self.lab) else None
        if found is None:
            raise BadInput(say("paths.step-unseen", step=step + 1))
        return found


def follow(steps: Sequence[Step], values: Floats, view: View = "paper") -> Followed:
    """(n, channels of the first step) values in people's units along a path, as `follow_path` does.

    The colour of a device's numbers is what its colorimetric table says, whatever intent led there. Lab
    that came by the absolute intent carries its medium's white, other Lab is relative to it; a first list
    of Lab is taken as it stands in both views.
    """
    walked = settled(steps)
    found = follow_path(walked, values)
    lab: list[Floats | None] = []
    carried, white = False, D50
    for i, (step, held) in enumerate(zip(walked, found, strict=True)):
        reader = reader_of(walked, i)
        if reader is not None:
            white, carried = reader.media_white, False
            intent = "absolute" if view == "absolute" else "relative"
            lab.append(lab_of_device(reader, unit_of(step, held), intent=intent))
        elif step.space == "Lab ":
            # A step entered by the absolute intent keeps what it got; others lose the paper.
            if i and step.intent == "absolute":
                carried = True
            lab.append(_seen(held, white, carried=carried, view=view))
        else:
            lab.append(None)
    return Followed(tuple(walked), tuple(found), tuple(lab))


def reader_of(steps: Sequence[Step], i: int) -> Profile | None:
    """The profile that says what a step's numbers mean: its own, that of the numbers a table gives, or of
    the step after a link."""
    step = steps[i]
    own = step.gives if isinstance(step, NumbersStep) else step.profile
    reader = own if isinstance(step, NumbersStep) or step.kind == "device" else None
    if reader is None and step.space != "Lab " and i + 1 < len(steps):
        after = steps[i + 1]
        if isinstance(after, PathStep) and after.kind == "device" and after.space == step.space:
            reader = after.profile
    return reader


def _seen(lab: Floats, white: Floats, *, carried: bool, view: View) -> Floats:
    """Lab of the PCS in a view. white : (3,) XYZ of the medium it comes from; carried : whether it is in it."""
    if carried == (view == "absolute"):
        return lab
    ratio = white / D50
    return XYZ_to_Lab(Lab_to_XYZ(lab) * (ratio if view == "absolute" else 1 / ratio))
