"""The inks of a press and what each is for: read from the colours they print."""

from __future__ import annotations

import json
from collections.abc import Iterator
from typing import Literal

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.fields import Part
from plinto_core.icc.colorants import ink_names
from plinto_core.icc.profile import Profile
from plinto_core.transform.chain import lab_of_device
from plinto_core.words import say

Role = Literal["black", "colour", "light", "extra", "none"]
"""black : makes the greys darker; colour : one of up to three that make them; light : a thin version
of another; extra : takes the place of the two colours it lies between, and is in no grey; none : no
separation uses it, as white, varnish, or a second extra ink between the same two."""
ROLES_TAG = "plir"
"""Private tag of a profile that says the roles of its inks, as JSON text."""
MOST_OF_A_NAME = 31
"""Letters of an ink's name in a profile's table of colorants."""
HUES = (233.0, 355.0, 95.0)
"""CIELAB hues about which cyan, magenta and yellow lie, on any usual medium."""
_FAR = 60.0
"""Degrees of hue from there within which an ink is taken for one of the three."""
_NEUTRAL, _DARK = 20.0, 50.0
"""C*ab below and L* below which a solid is black."""
_ALIKE = 12.0
"""CIEDE2000 from an ink's ramp within which another ink's solid is a light version of it."""
_THIN = 0.85
"""Tone of the dark ink below which the light one's solid must lie."""
_STEPS = 65


class InkRole(Part):
    """What an ink is for, said by a person; as of InkChannel."""

    role: Role
    of: str = ""
    between: tuple[str, str] | None = None


class InkChannel(Part):
    """One ink. name : as recipes and plates say; of : the ink it is a light version of, or ""; between :
    the two colours an extra ink lies between; solid : Lab of its full tone, media-relative; angle : at
    which a screen of it usually stands, degrees. An extra ink has that of the colour it is never printed
    with, a light one that of its dark ink."""

    name: str
    role: Role
    of: str = ""
    between: tuple[str, str] | None = None
    solid: tuple[float, float, float]
    angle: float


class InkSet(Part):
    """The inks in the order of the profile's channels."""

    channels: tuple[InkChannel, ...]

    @property
    def names(self) -> tuple[str, ...]:
        return tuple(c.name for c in self.channels)

    def of_role(self, role: Role) -> list[int]:
        """Places of the inks that have a role."""
        return [i for i, c in enumerate(self.channels) if c.role == role]

    @property
    def black(self) -> int | None:
        """Place of the black ink, None where there is none."""
        found = self.of_role("black")
        return found[0] if found else None

    @classmethod
    def of_profile(cls, profile: Profile) -> InkSet:
        """By the names of its inks and by what its relative colorimetric A2B side says they print."""
        names = ink_names(profile)
        ramps = np.stack([lab_of_device(profile, ramp) for ramp in _ramps(len(names))])
        return cls.of_ramps(names, ramps, roles_of(profile, names))

    @classmethod
    def of_ramps(
        cls, names: tuple[str, ...], ramps: Floats, said: tuple[InkRole, ...] | None = None
    ) -> InkSet:
        """From (inks, steps, 3) Lab of every ink alone in even tones 0..1, media-relative.

        said : what a person says that they are for, in place of what their colours say.
        """
        solids = ramps[:, -1]
        if said is not None:
            return cls(channels=tuple(_said(names, solids, said)))
        chroma = np.hypot(solids[:, 1], solids[:, 2])
        hue = np.degrees(np.arctan2(solids[:, 2], solids[:, 1])) % 360
        light = _lights(names, ramps, solids)
        dark = [i for i in range(len(names)) if i not in light]
        black = _black(names, dark, solids[:, 0], chroma)
        colours = _colours(names, [i for i in dark if i != black], hue)
        found = []
        for i, name in enumerate(names):
            solid = tuple(round(float(v), 2) for v in solids[i])
            role: Role = "extra"
            if i in light:
                role = "light"
            elif i == black:
                role = "black"
            elif i in colours:
                role = "colour"
            between: tuple[str, str] | None = None
            if role == "extra" and len(colours) == 3:
                first, second = _neighbours(hue[i], colours, hue)
                between = (names[first], names[second])
            of = names[light[i]] if i in light else ""
            angle = _angle(i, names, black, colours, light, between)
            found.append(
                InkChannel(name=name, role=role, of=of, between=between, solid=solid, angle=angle)
            )
        return cls(channels=tuple(found))


def roles_of(profile: Profile, names: tuple[str, ...]) -> tuple[InkRole, ...] | None:
    """The roles that were written into a profile, None where there are none or they fit no more."""
    text = profile.text(ROLES_TAG)
    if not text:
        return None
    try:
        found = tuple(InkRole.model_validate(r) for r in json.loads(text))
    except (ValueError, TypeError, RecursionError):
        return None
    return None if roles_fit(names, found) else found


def roles_fit(names: tuple[str, ...], roles: tuple[InkRole, ...]) -> str:
    """Why roles do not make a set of inks, in one sentence; empty where they do."""
    if len(names) != len(roles):
        return say("inks.roles-count", inks=len(names), roles=len(roles))
    kinds = dict(zip(names, (r.role for r in roles), strict=True))
    colours = [n for n, kind in kinds.items() if kind == "colour"]
    if list(kinds.values()).count("black") > 1:
        return say("inks.two-blacks")
    if not colours and "black" not in kinds.values():
        return say("inks.no-greys")
    if len(colours) > 3:
        return say("inks.many-colours", colours=colours)
    sectors: dict[frozenset[str], str] = {}
    for name, role in zip(names, roles, strict=True):
        if role.role == "light" and kinds.get(role.of) not in ("black", "colour"):
            return say("inks.light-of-which", ink=name)
        if role.role != "extra":
            continue
        between = frozenset(role.between or ())
        if len(colours) < 3 or len(between) != 2 or not between <= set(colours):
            return say("inks.between-which", ink=name)
        if between in sectors:
            return say("inks.same-sector", first=sectors[between], second=name)
        sectors[between] = name
    return ""


def _said(
    names: tuple[str, ...], solids: Floats, said: tuple[InkRole, ...]
) -> Iterator[InkChannel]:
    kinds = [r.role for r in said]
    black = kinds.index("black") if "black" in kinds else None
    colours = [i for i, kind in enumerate(kinds) if kind == "colour"]
    light = {i: names.index(r.of) for i, r in enumerate(said) if r.role == "light"}
    for i, (name, role) in enumerate(zip(names, said, strict=True)):
        between = role.between if role.role == "extra" else None
        yield InkChannel(
            name=name,
            role=role.role,
            of=role.of if role.role == "light" else "",
            between=between,
            solid=tuple(round(float(v), 2) for v in solids[i]),
            angle=_angle(i, names, black, colours, light, between),
        )


def _ramps(inks: int) -> Floats:
    """(inks, steps, inks) tone values: every ink alone."""
    steps = np.linspace(0.0, 1.0, _STEPS)
    return np.stack([steps[:, None] * unit for unit in np.eye(inks)])


def _lights(names: tuple[str, ...], ramps: Floats, solids: Floats) -> dict[int, int]:
    """Light inks and the ink each is a light version of, the nearest one."""
    found: dict[int, int] = {}
    tones = np.linspace(0.0, 1.0, ramps.shape[1])
    for i, name in enumerate(names):
        best = _ALIKE
        for j in range(len(names)):
            if j == i or name in ("C", "M", "Y", "K"):
                continue
            away = delta_e_2000(np.broadcast_to(solids[i], ramps[j].shape), ramps[j])
            at = int(away.argmin())
            if (
                away[at] < best
                and tones[at] < _THIN
                and delta_e_2000(solids[i][None], ramps[i, :1])[0] > 5
            ):
                best = float(away[at])
                found[i] = j
    return {i: j for i, j in found.items() if j not in found}


def _black(
    names: tuple[str, ...], dark: list[int], lightness: Floats, chroma: Floats
) -> int | None:
    if "K" in names:
        return names.index("K")
    grey = [i for i in dark if chroma[i] < _NEUTRAL and lightness[i] < _DARK]
    return min(grey, key=lambda i: float(lightness[i])) if grey else None


def _colours(names: tuple[str, ...], dark: list[int], hue: Floats) -> list[int]:
    """The inks that make greys: those called C, M, Y, else by hue; none where three are not to be had
    among more, all where there are no more than three."""
    if len(dark) <= 3:
        return dark
    taken: list[int] = []
    for name, wanted in zip("CMY", HUES, strict=True):
        away = {i: abs((hue[i] - wanted + 180) % 360 - 180) for i in dark if i not in taken}
        best = names.index(name) if name in names else min(away, key=lambda i: float(away[i]))
        if name not in names and away[best] > _FAR:
            return []
        taken.append(best)
    return taken


_ANGLES = {"C": 15.0, "M": 75.0, "Y": 0.0, "K": 45.0}
_OTHERS = (75.0, 15.0, 0.0)
"""Angles of colours that are none of the process inks, in their order: the first one farthest from black."""


def _angle(
    ink: int,
    names: tuple[str, ...],
    black: int | None,
    colours: list[int],
    light: dict[int, int],
    between: tuple[str, str] | None,
) -> float:
    if ink in light:
        return _angle(light[ink], names, black, colours, {}, None)
    if between is not None:
        opposite = next(c for c in colours if names[c] not in between)
        return _angle(opposite, names, black, colours, light, None)
    if names[ink] in _ANGLES or ink == black:
        return _ANGLES.get(names[ink], _ANGLES["K"])
    place = [c for c in range(len(names)) if c != black].index(ink)
    return _OTHERS[place % len(_OTHERS)]


def _neighbours(own: float, colours: list[int], hue: Floats) -> tuple[int, int]:
    """The two of three colours between which a hue lies."""
    round_ = sorted(colours, key=lambda c: float((hue[c] - own) % 360))
    return round_[0], round_[-1]
