"""Lists that are ready: neutrals, a device's chart, an ink set's solids, extreme colours."""

from __future__ import annotations

from dataclasses import replace
from itertools import combinations, product

import numpy as np

from plinto_core.colorimetry.cielab import LCh_to_Lab
from plinto_core.errors import BadInput
from plinto_core.gamut.views import HUES, LIGHTNESSES, body_figures, body_of
from plinto_core.icc.colorants import ink_names
from plinto_core.icc.profile import Profile
from plinto_core.icc.spaces import is_subtractive
from plinto_core.swatches.swatches import MOST, Swatches, swatches
from plinto_core.words import say

_SOLIDS = 8
"""Inks up to which overprints are listed."""


def neutrals(count: int = 21) -> Swatches:
    """L* 100 to 0 with a* = b* = 0, evenly; 2 to 1001 of them."""
    if not 2 <= count <= 1001:
        raise BadInput(say("swatches.neutral-steps"))
    lightness = np.linspace(100, 0, count)
    lab = np.stack([lightness, 0 * lightness, 0 * lightness], axis=1)
    return swatches("Lab ", lab, [f"L* {v:g}" for v in np.round(lightness, 2)], title="Neutrals")


def solids(profile: Profile) -> Swatches:
    """Paper, every ink alone, and the overprints of two, of three and of all of them."""
    names = _inks(profile)
    count = len(names)
    sets = [(), *((i,) for i in range(count))]
    depths = sorted({d for d in (2, 3, count) if 2 <= d <= count})
    sets += [c for depth in depths for c in combinations(range(count), depth)]
    values = np.zeros((len(sets), count))
    for row, inks in enumerate(sets):
        values[row, list(inks)] = 100
    said = ["paper" if not s else " ".join(names[i] for i in s) for s in sets]
    return swatches(profile.colour_space, values, said, title=f"Solids of {profile.description}")


def chart(profile: Profile, steps: int = 6) -> Swatches:
    """Every combination of evenly spaced device values, 2 to 21 steps a channel."""
    channels = profile.channels
    if not 2 <= steps <= 21 or steps**channels > MOST:
        raise BadInput(say("swatches.chart-steps", steps=steps, channels=channels, most=MOST))
    if profile.colour_space in ("Lab ", "XYZ "):
        raise BadInput(say("swatches.chart-device"))
    top = 100.0 if is_subtractive(profile.colour_space) else 255.0
    axis = np.linspace(0, top, steps)
    values = np.array(list(product(axis, repeat=channels)))
    names = ink_names(profile)
    said = [" ".join(f"{n}{v:.0f}" for n, v in zip(names, row, strict=True)) for row in values]
    title = f"Chart of {steps} steps, {profile.description}"
    return swatches(profile.colour_space, values, said, title=title)


def extremes(profile: Profile, hues: int = 24) -> Swatches:
    """A profile's most chromatic colour at every hue, even in hue, then its lightest and darkest grey;
    media-relative Lab. 3 to 120 hues."""
    if not 3 <= hues <= HUES.size:
        raise BadInput(say("swatches.hues", most=HUES.size))
    body = body_of(profile, "paper")
    if body is None:
        raise BadInput(say("swatches.no-body"))
    figures = body_figures(body)
    rows = np.array(figures.chroma)
    lch, names = [], []
    for hue in np.arange(hues) * (360.0 / hues):
        column = rows[:, round(float(hue) / float(HUES[1] - HUES[0])) % HUES.size]
        at = int(np.argmax(column))
        lch.append((LIGHTNESSES[at], column[at], hue))
        names.append(f"hue {hue:.0f}°")
    lch += [(figures.lightest, 0.0, 0.0), (figures.darkest, 0.0, 0.0)]
    names += ["lightest", "darkest"]
    title = f"Extreme colours of {profile.description}"
    return swatches("Lab ", LCh_to_Lab(np.array(lch)), names, title=title)


def device_bar(profile: Profile, count: int = 24) -> Swatches:
    """The outermost numbers of a device, as a bar that is laid beside a picture: the most colourful RGB
    around the hues, every ink alone and in pairs, or the steps of a grey; and white, a grey, black.

    count : of hues or steps, 3 to 120; inks have their own number.
    """
    if not 3 <= count <= HUES.size:
        raise BadInput(say("swatches.bar-hues", most=HUES.size))
    title = f"Bar of {profile.description}"
    space = profile.colour_space
    if space == "GRAY":
        grey = np.round(np.linspace(255, 0, count))
        return swatches(space, grey[:, None], [f"{v:.0f}" for v in grey], title=title)
    if space == "RGB ":
        around = np.arange(count) * 6.0 / count
        # Each channel is full for a third of the circle, away for a third, and goes between them.
        values = np.stack(
            [np.clip(2 - np.abs((around - at + 3) % 6 - 3), 0, 1) for at in (0, 2, 4)], axis=1
        )
        greys = np.repeat([[1.0], [0.5], [0.0]], 3, axis=1)
        numbers = np.round(np.concatenate([values, greys]) * 255)
        said = [" ".join(f"{v:.0f}" for v in row) for row in numbers]
        return swatches(space, numbers, said, title=title)
    return replace(solids(profile), title=title)


def _inks(profile: Profile) -> tuple[str, ...]:
    names = ink_names(profile)
    if not is_subtractive(profile.colour_space):
        raise BadInput(say("swatches.solids-no-inks"))
    if len(names) > _SOLIDS:
        raise BadInput(say("swatches.solids-many", most=_SOLIDS))
    return names
