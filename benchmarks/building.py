"""Output profiles of four inks: time, round trip and clean solids, with tables fitted between their nodes
and with nodes that hold their own colours only; the spline beside scipy's; one run.

Usage: python benchmarks/building.py [MEASUREMENTS.txt TAC]...
Without files, the charts of the press simulator. Times are of processors, the second build of each.
"""

from __future__ import annotations

import sys
import time
from collections.abc import Iterator
from unittest.mock import patch

import numpy as np
from scipy.interpolate import RBFInterpolator

from plinto_core.arrays import Floats
from plinto_core.characterise import BuildSettings, build_profile, fit_forward_model
from plinto_core.characterise.forward_model import relative_lab
from plinto_core.characterise.ink_axes import InkAxes
from plinto_core.colorimetry.difference import delta_e_2000
from plinto_core.icc import Profile
from plinto_core.inks.rules import INKS, BlackRule, InkRules, parse_ink_rules
from plinto_core.measurement import read_characterisation
from plinto_core.measurement.characterisation import Characterisation
from plinto_core.simulator import CONDITIONS
from plinto_core.transform import convert, lab_of_device
from plinto_core.transform.link import grid_nodes
from plinto_core.transform.standard_spaces import standard_profile

Set = tuple[str, Characterisation, InkRules]


def sets(arguments: list[str]) -> Iterator[Set]:
    for path, tac in zip(arguments[::2], arguments[1::2], strict=True):
        rules = InkRules(tac=float(tac), black=BlackRule())
        yield path.rsplit("/", 1)[-1], read_characterisation(path), rules
    if not arguments:
        for simulated in CONDITIONS:
            if simulated.channels == INKS:
                yield simulated.name, simulated.measured(), parse_ink_rules(simulated.rules)


def _as_separated(forward: object, rules: object, grid: object, inks: Floats, *_: object) -> Floats:
    return inks


def building(name: str, data: Characterisation, rules: InkRules) -> None:
    print(f"{name}: {len(data.device)} patches")
    for what, fitted in (("fitted", True), ("own colours only", False)):
        with (
            patch("plinto_core.characterise.build.fit_inks", _as_separated)
            if not fitted
            else patch("plinto_core.characterise.build.ROOM", 0.5)
        ):
            for _ in range(2):
                wall, used = time.perf_counter(), time.process_time()
                report = build_profile(data, rules).report
                wall, used = time.perf_counter() - wall, time.process_time() - used
        trip, greys = report.round_trip, report.greys
        assert greys is not None
        print(
            f"  {what}: {used:.1f} s of processors, {wall:.1f} by the clock; round trip {trip.mean:.2f} "
            f"mean, {trip.p95:.2f} at 95 %, {trip.p99:.2f} at 99 %, {trip.max:.2f} greatest; stray ink "
            f"{report.stray_ink:.2f} %; greys: black back {greys.black_back:.2f}, step {greys.step:.2f}"
        )


def spline(data: Characterisation) -> None:
    nodes = grid_nodes(4, 17)
    for _ in range(2):
        used = time.process_time()
        model = fit_forward_model(data)
        fitted = time.process_time() - used
        used = time.process_time()
        ours = model.spline(model.axes(nodes))
        summed = time.process_time() - used
    lab = relative_lab(data)
    places = InkAxes.of_patches(data.amounts, lab)(data.amounts)
    used = time.process_time()
    smoothing = model.validation.smoothing
    known = RBFInterpolator(places, lab, kernel="quintic", degree=3, smoothing=smoothing)
    theirs = np.concatenate([known(p) for p in np.array_split(model.axes(nodes), 5)])
    print(
        f"  spline: {fitted:.2f} s for sixteen fits, {summed:.2f} s for {len(nodes)} nodes; scipy one fit "
        f"and the nodes {time.process_time() - used:.2f} s; apart {np.abs(ours - theirs).max():.1e}"
    )


def looks(data: Characterisation, rules: InkRules) -> None:
    """The perceptual look of small tables against that of large ones."""
    rgb = np.stack(np.meshgrid(*[np.linspace(0, 1, 9)] * 3, indexing="ij"), axis=-1).reshape(-1, 3)
    press = None
    found = []
    for size in ("large", "small"):
        profile = Profile(build_profile(data, rules, BuildSettings(size=size)).data)
        press = press or profile
        inks = convert(standard_profile("srgb"), profile, rgb, intent="perceptual")
        found.append(lab_of_device(press, inks))
    error = delta_e_2000(*found)
    print(
        f"  perceptual, small against large: {error.mean():.2f} mean, {np.percentile(error, 95):.2f} at "
        f"95 %, {error.max():.2f} greatest"
    )


def main() -> None:
    for name, data, rules in sets(sys.argv[1:]):
        building(name, data, rules)
        spline(data)
        looks(data, rules)


if __name__ == "__main__":
    main()
