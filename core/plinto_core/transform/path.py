"""Colours along a path of profiles, links and abstract profiles, in the units people use."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import D50, Lab_to_XYZ, XYZ_to_Lab
from plinto_core.errors import BadInput
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import channel_names, is_subtractive
from plinto_core.transform.black_point import (
    ABSOLUTE,
    compensation,
    destination_black_point,
    source_black_point,
)
from plinto_core.transform.chain import effective_bpc, intent_number
from plinto_core.transform.direct import named_lab, run_abstract, run_link
from plinto_core.transform.encoding import lab_to_unit, unit_to_lab
from plinto_core.transform.sides import device_to_xyz, xyz_to_device
from plinto_core.words import say

LAB = None
"""Stands for the profile connection space as a step."""


@dataclass(frozen=True)
class PathStep:
    """A profile, or LAB for the PCS, and how colours come into it.

    A device link and an abstract profile are steps like others; a list of named colours can only be
    the first.
    """

    profile: Profile | None
    intent: str = "relative"
    bpc: bool = False

    @property
    def kind(self) -> str:
        """ "lab", "link", "abst", "nmcl", or "device" for all other profiles."""
        if self.profile is None:
            return "lab"
        kind = self.profile.header.device_class
        return kind if kind in ("link", "abst", "nmcl") else "device"

    @property
    def name(self) -> str:
        return "Lab" if self.profile is None else repr(self.profile.description)

    @property
    def space_in(self) -> str:
        """The space of the values that the step takes when a path begins with it."""
        if self.profile is None or self.kind == "abst":
            return "Lab "
        return self.profile.colour_space

    @property
    def space(self) -> str:
        """The space of the values after the step."""
        if self.profile is None or self.kind in ("abst", "nmcl"):
            return "Lab "
        return self.profile.header.pcs if self.kind == "link" else self.profile.colour_space

    @property
    def columns_in(self) -> list[str]:
        return ["Name"] if self.kind == "nmcl" else _columns(self.space_in)

    @property
    def columns(self) -> list[str]:
        return _columns(self.space)


@dataclass(frozen=True)
class NumbersStep:
    """What makes numbers of numbers without saying which colours they stand for: a .cube table, a recipe.

    run : (n, channels of space_in) values 0..1 to (n, channels of space) values 0..1; takes : whose
    numbers it wants, None for those of any profile of the space; gives : whose numbers come out, None for
    those of the profile before it. intent, bpc : how colours are brought to `takes` where they are not its
    numbers yet.
    """

    name: str
    space_in: str
    space: str
    run: Callable[[Floats], Floats]
    takes: Profile | None = None
    gives: Profile | None = None
    intent: str = "relative"
    bpc: bool = False

    kind = "numbers"
    profile = None

    @property
    def columns_in(self) -> list[str]:
        return _columns(self.space_in)

    @property
    def columns(self) -> list[str]:
        return _columns(self.space)


Step = PathStep | NumbersStep

REVERSED = {"rgb": "RGB ", "cmyk": "CMYK", "grey": "GRAY"}
"""Spaces whose numbers can be reversed, by the words people use."""


def reversal(of: str) -> NumbersStep:
    """Numbers counted from the other end: 0..1 to 1..0, for a table and a profile that count from
    opposite ends. of : a key of REVERSED; raises BadInput for others."""
    space = REVERSED.get(of)
    if space is None:
        raise BadInput(say("transform.no-reversal", of=of, known=", ".join(REVERSED)))
    name = of if of == "grey" else of.upper()
    return NumbersStep(f"Reversed {name}", space, space, lambda values: 1.0 - values)


def _columns(space: str) -> list[str]:
    return ["Grey"] if space == "GRAY" else list(channel_names(space))


def _to_unit(step: Step, space: str, values: Floats) -> Floats:
    """RGB and grey 0..255, inks 0..100 to 0..1; Lab stays Lab but in profiles of the space Lab."""
    if space == "Lab ":
        if step.kind != "device" or step.profile is None:
            return values
        return lab_to_unit(values, legacy=_legacy(step.profile))
    return values / (100.0 if is_subtractive(space) else 255.0)


def _from_unit(step: Step, values: Floats) -> Floats:
    """The inverse, for values after the step."""
    if step.space == "Lab ":
        if step.kind != "device" or step.profile is None:
            return values
        return unit_to_lab(values, legacy=_legacy(step.profile))
    return values * (100.0 if is_subtractive(step.space) else 255.0)


def unit_of(step: Step, values: Floats) -> Floats:
    """Values after a step, in people's units, as the 0..1 that its profile's tables take."""
    return _to_unit(step, step.space, values)


def _legacy(profile: Profile) -> bool:
    return "A2B0" in profile and profile.table("A2B0").kind == "mft2"


def _first(step: Step, values: Floats) -> Floats:
    """Values after the first step: what was given, or what a link, table or abstract profile makes of it."""
    if step.kind == "nmcl":
        assert step.profile is not None
        return np.asarray(named_lab(step.profile)[values[:, 0].astype(int)])
    unit = _to_unit(step, step.space_in, values)
    if isinstance(step, NumbersStep):
        return _run(step, unit)
    if step.kind == "link":
        assert step.profile is not None
        return run_link(step.profile, unit, intent_number(step.intent))
    if step.kind == "abst":
        assert step.profile is not None
        return run_abstract(step.profile, unit, intent_number(step.intent))
    return unit


def _run(step: NumbersStep, values: Floats) -> Floats:
    return np.asarray(np.clip(step.run(values), 0.0, 1.0))


def _into_numbers(before: Step, after: NumbersStep, values: Floats) -> Floats:
    """What a table or recipe makes of the values before it, brought to the numbers it wants."""
    meant = _read_by(before)
    if after.takes is not None and meant is not None:
        same = (
            meant.profile is not None and meant.profile.colour_digest == after.takes.colour_digest
        )
        if not same:
            values = _step(meant, PathStep(after.takes, after.intent, after.bpc), values)
    elif before.space != after.space_in:
        raise BadInput(
            say(
                "transform.step-takes",
                step=after.name,
                takes=after.space_in.strip(),
                before=before.name,
                gives=before.space.strip(),
            )
        )
    return _run(after, values)


def _read_by(step: Step) -> PathStep | None:
    """The step whose profile says what the values of a step mean, None where none does."""
    if isinstance(step, NumbersStep):
        return None if step.gives is None else PathStep(step.gives)
    return None if step.kind == "link" and step.space != "Lab " else step


def _step(before: Step, after: Step, values: Floats) -> Floats:
    intent = intent_number(after.intent)
    if isinstance(after, NumbersStep):
        return _into_numbers(before, after, values)
    if after.kind == "nmcl":
        raise BadInput(say("transform.named-inside-path", list=after.name))
    if after.kind == "link":
        return _into_link(before, after, values, intent)
    meant = _read_by(before)
    if meant is None:
        # What comes out are numbers, and the profile after them says what they mean.
        if after.kind != "device" or after.space != before.space:
            wording = "transform.link-gives" if before.kind == "link" else "transform.step-gives"
            raise BadInput(
                say(
                    wording,
                    before=before.name,
                    space=before.space.strip(),
                    after=after.name,
                )
            )
        return values
    xyz = _leave(meant, values, intent)
    scale, offset = _between(meant, after, intent)
    xyz = xyz * scale + offset
    if after.profile is None:
        return XYZ_to_Lab(xyz)
    if after.kind == "abst":
        return run_abstract(after.profile, XYZ_to_Lab(xyz), intent)
    return xyz_to_device(after.profile, xyz, intent)


def _into_link(before: Step, after: PathStep, values: Floats, intent: int) -> Floats:
    assert after.profile is not None
    if before.space != after.space_in:
        raise BadInput(
            say(
                "transform.link-takes",
                link=after.name,
                takes=after.space_in.strip(),
                before=before.name,
                gives=before.space.strip(),
            )
        )
    if before.space == "Lab " and before.kind == "device" and before.profile is not None:
        values = unit_to_lab(values, legacy=_legacy(before.profile))
    return run_link(after.profile, values, intent)


def _leave(before: PathStep, values: Floats, intent: int) -> Floats:
    """(n, 3) XYZ of the PCS that values of a step stand for."""
    if before.profile is None or before.kind in ("abst", "nmcl", "link"):
        return Lab_to_XYZ(values)
    return device_to_xyz(before.profile, values, intent)


def _between(before: PathStep, after: PathStep, intent: int) -> tuple[Floats, Floats]:
    """Scale and offset in XYZ that lead from one step's PCS into the next one's."""
    if intent == ABSOLUTE:
        white, new = (D50 if s.profile is None else s.profile.media_white for s in (before, after))
        return white / new, np.zeros(3)
    bpc = after.bpc
    if after.profile is not None:
        bpc = effective_bpc(after.profile, after.profile, intent, bpc=bpc)
    if not bpc:
        return np.ones(3), np.zeros(3)
    zero = np.zeros(3)
    return compensation(
        zero if before.profile is None else source_black_point(before.profile, intent),
        zero if after.profile is None else destination_black_point(after.profile, intent),
    )


def settled(steps: Sequence[Step]) -> list[Step]:
    """The steps of a path with what the numbers of tables mean: those of the profile before them, where
    they do not say."""
    said: list[Step] = []
    for step in steps:
        if isinstance(step, NumbersStep) and step.gives is None and said:
            meant = _read_by(said[-1])
            if meant is not None and meant.kind == "device" and meant.space == step.space:
                step = replace(step, gives=meant.profile)
        said.append(step)
    return said


def follow_path(steps: Sequence[Step], values: Floats) -> list[Floats]:
    """(n, channels) values for the first step to the values after every step, in people's units.

    RGB and grey 0..255, inks 0..100, Lab as L* a* b*; (n, 1) places in the list where the path begins
    with named colours. A path that begins with a link or an abstract profile has their result as the
    first. The exact float path, no grid. Raises BadInput where a step does not take what the one before
    it gives.
    """
    steps = settled(steps)
    after = [_first(steps[0], np.asarray(values, dtype=np.float64))]
    for i in range(1, len(steps)):
        after.append(_step(steps[i - 1], steps[i], after[-1]))
    return [_from_unit(step, v) for step, v in zip(steps, after, strict=True)]
