"""Presses of other inks than four, straight from the simulator, for tests."""

from __future__ import annotations

import dataclasses
from functools import cache

import numpy as np

from plinto_core.colorimetry.cielab import D50, XYZ_to_Lab
from plinto_core.colorimetry.spectra import reflectance_to_XYZ
from plinto_core.inks.ink_set import InkSet
from plinto_core.inks.mixing import MixTable
from plinto_core.simulator import SIMULATED
from plinto_core.simulator.materials import BLACK

SEVEN, SIX, TWO, RGB = (
    SIMULATED[key] for key in ("polyester-seven", "satin-canvas", "two-screens", "photo-rgb")
)

GREY = dataclasses.replace(
    SIX,
    key="light-black",
    model=dataclasses.replace(
        SIX.model,
        inks=(*SIX.model.inks[:4], BLACK.named("Light black", 0.25)),
        gain=SIX.model.gain[:5],
    ),
)
"""Four inks and a light black."""
_BY_KEY = {**SIMULATED, GREY.key: GREY}


def truth(simulated, device):
    """(n, channels) device values to (n, 3) media-relative Lab, without noise."""
    model = simulated.model
    bare = np.ones if simulated is RGB else np.zeros
    paper = reflectance_to_XYZ(model.reflectance(bare((1, len(simulated.channels)))))[0]
    parts = np.array_split(np.asarray(device, dtype=float), 1 + len(device) // 20_000)
    return np.concatenate(
        [XYZ_to_Lab(reflectance_to_XYZ(model.reflectance(p)) / paper * D50) for p in parts]
    )


def ink_set(simulated, names=None) -> InkSet:
    count = len(simulated.channels)
    steps = np.linspace(0, 1, 65)[:, None]
    ramps = np.stack([truth(simulated, steps * unit) for unit in np.eye(count)])
    return InkSet.of_ramps(names or simulated.channels, ramps)


@cache
def _table(key: str) -> MixTable:
    simulated = _BY_KEY[key]
    size = {2: 33, 5: 7, 6: 5, 7: 4}[len(simulated.channels)]
    return MixTable.of_function(ink_set(simulated), lambda d: truth(simulated, d), size=size)


def table(simulated) -> MixTable:
    """The press as the solver sees it, coarse enough to be made at once."""
    return _table(simulated.key)


def printable(simulated, count: int, tac: float, seed: int = 1):
    """(about count, inks) tone values, several of them out, that keep a TAC in percent."""
    rng = np.random.default_rng(seed)
    inks = rng.random((count * 3, len(simulated.channels)))
    inks *= rng.random(inks.shape) < 0.55
    return inks[inks.sum(axis=1) <= tac / 100 - 0.02][:count]
