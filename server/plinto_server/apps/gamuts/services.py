"""What is looked at side by side: bodies of profiles and conditions, clouds of pictures and lists."""

from __future__ import annotations

import base64
from dataclasses import dataclass
from typing import Any

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import Lab_to_XYZ
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.errors import BadInput, BadRecipe
from plinto_core.fields import Part, Report
from plinto_core.gamut.body import GamutBody
from plinto_core.gamut.on_screen import screen_values
from plinto_core.gamut.views import (
    BodyFigures,
    Limits,
    PairFigures,
    Sight,
    body_figures,
    body_of,
    pair_figures,
    thinned,
)
from plinto_core.icc.colorants import ink_names
from plinto_core.keeping import Kept
from plinto_core.recipes import parse_recipe
from plinto_core.transform.standard_spaces import standard_profile
from plinto_server import access
from plinto_server.apps.conditions.models import PrintingCondition
from plinto_server.apps.jobs.figures import small_picture
from plinto_server.apps.jobs.links import path_of, route_of
from plinto_server.apps.jobs.models import Destination, Job
from plinto_server.apps.paths.lists import load
from plinto_server.apps.paths.models import SwatchList
from plinto_server.apps.profiles.services import load_profile, usable_profile
from plinto_server.png import encode

MOST = 4
"""Bodies or pictures at once: more outlines cannot be told apart."""
_MOST_DOTS = 1500
_WHERE_EDGE = 360
"""Pixels of the longer side of a picture in which a colour is looked for."""
_CLOUDS = ("picture:", "list:")
_Key = tuple[str, Sight, float | None, Limits]
_FIGURES: Kept[_Key, BodyFigures] = Kept(32)
_PAIRS: Kept[tuple[Any, ...], PairFigures] = Kept(128)


class Body(Part):
    """tac : percent its inks are held to, None for what the profile's own table uses; figures : None for
    one or two inks, whose colours have no volume."""

    of: str
    name: str
    tac: float | None
    figures: BodyFigures | None


class Pair(Part):
    """One body's colours on another; body, on : places in the list of bodies."""

    body: int
    on: int
    figures: PairFigures


class Cloud(Part):
    """Colours of a picture, as the artwork means them after its corrections, or of a list, as they stand
    there.

    points : L*, a*, b*; names : of a list's colours, none for a picture; outside : for each body the share 0..1 of the colours that lie outside it by more
    than can be seen;
    away : for each body, which of the points do; far : for each body, by how many dE00 those lie outside,
    0 for the others; nearest : for each body, the printable colours nearest to
    those, in their order.
    """

    of: str
    name: str
    points: tuple[tuple[float, float, float], ...]
    names: tuple[str, ...]
    outside: tuple[float, ...]
    away: tuple[tuple[bool, ...], ...]
    far: tuple[tuple[float, ...], ...]
    nearest: tuple[tuple[tuple[float, float, float], ...], ...]


class Where(Part):
    """A job's picture in which one colour is looked for. share : 0..1 of it that is near; png : base64."""

    share: float
    width: int
    height: int
    png: str


class GamutsReport(Report):
    """Everything that was asked for, looked at in one way."""

    sight: Sight
    bodies: tuple[Body, ...]
    pairs: tuple[Pair, ...]
    clouds: tuple[Cloud, ...]


@dataclass(frozen=True)
class _Known:
    of: str
    name: str
    key: _Key
    body: GamutBody | None


def gamuts(user: Any, asked: list[str], sight: Sight, tac: float | None) -> GamutsReport:
    """Bodies and clouds by reference: profile:SHA-256 or profile:srgb, condition:3, recipe:7 (of a job's
    destination, with its own ink rules), picture:5 (a job), list:2 (swatches in Lab).

    tac : percent, in place of every condition's own. Raises BadInput, BadProfile or Http404.
    """
    asked = list(dict.fromkeys(asked))
    if len(asked) > MOST:
        raise BadInput(f"Up to {MOST} gamuts, pictures and lists are looked at together.")
    known = [_body(user, ref, sight, tac) for ref in asked if not ref.startswith(_CLOUDS)]
    bodies = tuple(Body(of=k.of, name=k.name, tac=k.key[2], figures=_figures(k)) for k in known)
    pairs = tuple(
        Pair(body=i, on=j, figures=_pair(a, b))
        for i, a in enumerate(known)
        for j, b in enumerate(known)
        if i != j and a.body is not None and b.body is not None
    )
    clouds = tuple(_cloud(user, ref, known) for ref in asked if ref.startswith(_CLOUDS))
    return GamutsReport(sight=sight, bodies=bodies, pairs=pairs, clouds=clouds)


def _body(user: Any, ref: str, sight: Sight, tac: float | None) -> _Known:
    kind, _, value = ref.partition(":")
    limits: Limits = ()
    if kind == "recipe" and value.isdecimal() and len(value) < 10:
        destination = access.own(user, Destination, int(value))
        name = f"{destination.job.name} for {destination.condition.name}"
        route = route_of(destination, parse_recipe(destination.recipe))
        profile, held, rules = route.destination, tac, route.rules
        if rules is not None:
            held = tac if tac is not None else rules.tac
            limits = tuple(rules.ink_limits(ink_names(profile)).tolist())
            if min(limits) >= 1.0:
                limits = ()
    elif kind == "condition" and value.isdecimal() and len(value) < 10:
        condition = access.own(user, PrintingCondition, int(value))
        profile, name = load_profile(condition.profile.sha256), condition.name
        held = tac if tac is not None else condition.tac
    elif kind == "profile" and value:
        profile = usable_profile(user, value)
        name, held = profile.description, tac
    else:
        raise BadInput(
            f"There is no gamut of {ref[:80]!r}.",
            remedy="Name profile:…, condition:…, recipe:…, picture:… or list:….",
        )
    key = (profile.colour_digest, sight, held, limits)
    return _Known(ref, name, key, body_of(profile, sight, held, limits))


def _figures(known: _Known) -> BodyFigures | None:
    body = known.body
    return None if body is None else _FIGURES.get(known.key, lambda: body_figures(body))


def _pair(a: _Known, b: _Known) -> PairFigures:
    first, second = a.body, b.body
    assert first is not None
    assert second is not None
    return _PAIRS.get((a.key, b.key), lambda: pair_figures(first, second))


def _cloud(user: Any, ref: str, known: list[_Known]) -> Cloud:
    kind, _, value = ref.partition(":")
    if not value.isdecimal() or len(value) > 9:
        raise BadInput(f"There is no {kind} {ref[:80]!r}.")
    name, lab, names = (_colours_of_list if kind == "list" else _colours_of_job)(user, int(value))
    places = thinned(lab, _MOST_DOTS)
    few = lab[places]
    away = [_away(k.body, few) for k in known]
    return Cloud(
        of=ref,
        name=name,
        points=tuple(tuple(row) for row in np.round(few, 1).tolist()),
        names=tuple(names[i] for i in places) if names else (),
        outside=tuple(round(float(_away(k.body, lab).mean()), 4) for k in known),
        away=tuple(tuple(out.tolist()) for out in away),
        far=tuple(_far(k.body, few, out) for k, out in zip(known, away, strict=True)),
        nearest=tuple(_nearest(k.body, few) for k in known),
    )


def _far(body: GamutBody | None, lab: Floats, outside: np.ndarray) -> tuple[float, ...]:
    far = np.zeros(len(lab))
    if body is not None and outside.any():
        far[outside] = body.distance(lab[outside])
    return tuple(np.round(far, 1).tolist())


def _nearest(body: GamutBody | None, lab: Floats) -> tuple[tuple[float, float, float], ...]:
    outside = _away(body, lab)
    if body is None or not outside.any():
        return ()
    return tuple(tuple(row) for row in np.round(body.nearest(lab[outside]), 1).tolist())


def _colours_of_list(user: Any, pk: int) -> tuple[str, Floats, tuple[str, ...]]:
    """A list's name, its (n, 3) Lab and their names; raises BadInput for numbers of a device."""
    kept = access.own(user, SwatchList, pk)
    listed = load(kept)
    if listed.space != "Lab ":
        raise BadInput(
            f"The list {kept.name!r} holds {kept.space}, and not colours.",
            remedy="Send it along a colour path into Lab first.",
        )
    return kept.name, listed.values, listed.names


def _colours_of_job(user: Any, pk: int) -> tuple[str, Floats, tuple[str, ...]]:
    job = access.own(user, Job, pk)
    destination = _first_destination(job)
    device, place, shape = small_picture(destination)
    lab = path_of(destination, parse_recipe(destination.recipe)).exact(
        lambda r, d: r.aim_lab(d), device, place, shape
    )
    return job.name, lab, ()


def _first_destination(job: Job) -> Destination:
    destination = job.destinations.order_by("pk").first()
    if destination is None:
        raise BadRecipe("The job has no destination, and so no recipe for its colours.")
    return destination


def _away(body: GamutBody | None, lab: Floats) -> np.ndarray:
    """Which colours lie outside a body, as a job's own figure counts them."""
    return np.ones(len(lab), bool) if body is None else body.misses(lab)


def where(user: Any, pk: int, lab: tuple[float, float, float], radius: float) -> Where:
    """Where in a job's picture a colour is: what lies within `radius` dE00 of it stays in colour, all
    else is shown in pale greys. Raises Http404, or BadRecipe for a job without a destination."""
    job = access.own(user, Job, pk)
    destination = _first_destination(job)
    path = path_of(destination, parse_recipe(destination.recipe))
    device, place, shape = small_picture(destination, _WHERE_EDGE)
    meant = path.exact(lambda r, d: r.aim_lab(d), device, place, shape)
    near = delta_e_2000(meant, np.array([lab])) <= radius
    screen = standard_profile("srgb")
    shown = screen_values(screen, Lab_to_XYZ(meant))
    pale = 0.55 + 0.4 * meant[:, :1].clip(0, 100) / 100
    pixels = np.where(near[:, None], shown, pale)
    picture = np.round(np.clip(pixels, 0, 1) * 255).astype(np.uint8).reshape(*shape, 3)
    return Where(
        share=round(float(near.mean()), 5),
        width=shape[1],
        height=shape[0],
        png=base64.b64encode(encode(picture, screen)).decode(),
    )
