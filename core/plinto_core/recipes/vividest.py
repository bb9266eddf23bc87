"""How to get the most vivid print of a picture: ways of mapping and of widening, tried and measured."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from typing import Any, Literal

from plinto_core.arrays import Floats
from plinto_core.corrections import Vivid
from plinto_core.corrections.adjust import Adjustment
from plinto_core.gamut.look import Perceptual
from plinto_core.recipes.fit import Fit, asked_by, measure_fit
from plinto_core.recipes.route import ColourRoute

Part = Literal["present", "steady", "fuller", "utmost"]
_BASES: tuple[tuple[str, Perceptual | None], ...] = (
    ("perceptual", None),
    ("perceptual", Perceptual(kind="balanced")),
    ("perceptual", Perceptual(kind="vivid")),
    ("relative", None),
    ("saturation", None),
)
_WIDER = (
    Vivid(space="stretch", strength=30),
    Vivid(space="stretch", strength=60),
    Vivid(space="p3", strength=50),
    Vivid(space="p3", strength=100),
    Vivid(space="oprgb", strength=60),
)
_CARRIED_ON = 3
"""Ways without widening that are tried with it as well, the most vivid ones."""
_MORE_FLAT, _LESS_DETAIL, _MORE_DRIFT = 0.005, 0.02, 0.5
"""What a way may lose against the present one and still count as keeping the steps: share of gradients
flattened, of detail, and a*, b* of greys."""
_COSTS = 1.5, 1.0, 0.05
"""What those are worth in vividness, where a way is to gain more than it loses."""
_SEEN = 0.005
"""Share of vividness below which two ways are alike."""


@dataclass(frozen=True)
class Way:
    """changes : the parts of a recipe that make it, as JSON; fit : what the picture becomes by it; part :
    "present" as it stands, "steady" the most vivid one that keeps gradients, detail and greys as they stand,
    "fuller" the one that gains most over what it loses of them, "utmost" the most vivid of all tried."""

    part: Part
    changes: dict[str, Any]
    fit: Fit


@dataclass(frozen=True)
class Vividest:
    """ways : the present one first, then those that are more vivid, at most three; tried : how many were
    measured."""

    ways: list[Way]
    tried: int


def vividest(
    route: ColourRoute,
    device: Floats,
    shape: tuple[int, ...],
    checkpoint: Callable[[], None] = lambda: None,
) -> Vividest | None:
    """The most vivid prints of a picture of (rows * columns, channels) values 0..1 under a route's condition
    and corrections; None where no colour of it is vivid, or a link makes the numbers.

    checkpoint : called before each trial, may raise to end it.
    """
    if route.conversion is not None or route.keeps_numbers:
        return None
    # All ways ask for the same colours, the artwork's without widening.
    asked = asked_by(replace(route, intent="relative", adjustment=_wider(route, None)), device)

    def tried(way: ColourRoute) -> Fit:
        checkpoint()
        return measure_fit(way, device, shape, asked)

    present = tried(route)
    if present.vividness is None:
        return None
    found = [(route, present)]
    for way in _plain(route):
        found.append((way, tried(way)))
    best = sorted(found[1:], key=lambda w: -_vividness(w[1]))[:_CARRIED_ON]
    for way, _ in best:
        for wide in _WIDER:
            wider = replace(way, adjustment=_wider(route, wide))
            found.append((wider, tried(wider)))
    ways = [Way("present", changes_of(route), present)]
    steady = [w for w in found if _keeps(w[1], present)]
    choices: list[tuple[Part, tuple[ColourRoute, Fit]]] = [
        ("steady", max(steady, key=lambda w: _vividness(w[1]))),
        ("fuller", max(found, key=lambda w: _value(w[1]))),
        ("utmost", max(found, key=lambda w: _vividness(w[1]))),
    ]
    for part, (way, fit) in choices:
        if _vividness(fit) > _vividness(ways[-1].fit) + _SEEN:
            ways.append(Way(part, changes_of(way), fit))
    return Vividest(ways, len(found))


def changes_of(route: ColourRoute) -> dict[str, Any]:
    """The parts of a recipe that decide how vivid its print is, as JSON."""
    return {
        "intent": route.intent,
        "bpc": route.bpc,
        "perceptual": route.perceptual.model_dump() if route.perceptual else None,
        "vivid": route.adjustment.vivid.model_dump() if route.adjustment.vivid else None,
    }


def _plain(route: ColourRoute) -> Iterator[ColourRoute]:
    for intent, perceptual in _BASES:
        yield replace(
            route,
            intent=intent,
            bpc=True,
            perceptual=perceptual,
            adjustment=_wider(route, None),
        )


def _wider(route: ColourRoute, wide: Vivid | None) -> Adjustment:
    return replace(route.adjustment, vivid=wide)


def _vividness(fit: Fit) -> float:
    return fit.vividness or 0.0


def _value(fit: Fit) -> float:
    """Vividness less what is lost for it; only differences between ways of one picture mean anything."""
    flat, detail, drift = _COSTS
    return _vividness(fit) - flat * fit.banding + detail * fit.detail - drift * fit.drift


def _keeps(fit: Fit, present: Fit) -> bool:
    return (
        fit.banding - present.banding <= _MORE_FLAT
        and present.detail - fit.detail <= _LESS_DETAIL
        and fit.drift - present.drift <= _MORE_DRIFT
    )
