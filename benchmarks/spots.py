"""Builds of spot colours beside a general optimiser: python benchmarks/spots.py

Colours printed by known mixtures, and colours of a wide space that the press may not reach. SciPy's
Nelder-Mead starts from four random mixtures of the same inks and its best is rounded to whole percent;
both are judged by the same distance, the greater of CIEDE2000 and CIE 1994, under a total of 300 %.
"""

from __future__ import annotations

import time
from itertools import combinations

import numpy as np
from paths import press
from scipy.optimize import minimize

from plinto_core.arrays import Floats
from plinto_core.colorimetry.difference import delta_e_94, delta_e_2000
from plinto_core.inks.rules import InkRules
from plinto_core.spots.builds import SpotOptions, spot_builds
from plinto_core.transform.chain import lab_of_device
from plinto_core.transform.standard_spaces import standard_profile

TAC = 300.0
FEW = 12


def distance(aim: Floats, lab: Floats) -> Floats:
    return np.maximum(delta_e_2000(aim, lab), delta_e_94(aim, lab))


def main() -> None:
    profile = press(0)
    rng = np.random.default_rng(5)
    known = rng.integers(0, 101, (200, 4)).astype(float)
    known[np.arange(200), rng.integers(0, 4, 200)] = 0
    known = np.floor(known * np.minimum(1, TAC / known.sum(1))[:, None])
    printable = lab_of_device(profile, known / 100, intent="absolute")
    wide = lab_of_device(standard_profile("p3"), rng.uniform(0, 1, (200, 3)), intent="absolute")
    rules = InkRules(tac=TAC)
    names = tuple(map(str, range(200)))
    spot_builds(profile, rules, names[:2], printable[:2])
    for label, aims in (("printed by known mixtures", printable), ("random colours of P3", wide)):
        for inks in (2, 3, 4):
            began = time.perf_counter()
            found = spot_builds(profile, rules, names, aims, SpotOptions(inks=inks, gain=0))
            spent = time.perf_counter() - began
            miss = np.array([b.best.de00 for b in found])
            print(
                f"{label}, at most {inks} inks: {spent:.2f} s for 200, dE00 {miss.mean():.2f} mean, "
                f"{np.percentile(miss, 95):.2f} at 95 %, {miss.max():.2f} at most"
            )
        own = distance(aims[:FEW], np.array([b.best.lab for b in found[:FEW]]))
        began = time.perf_counter()
        other = np.array([general(profile, aim, rng) for aim in aims[:FEW]])
        spent = time.perf_counter() - began
        print(
            f"  SciPy on {FEW} of them, four inks: {spent:.1f} s, distance {other.mean():.3f} in the mean, "
            f"here {own.mean():.3f}; nearer there by at most {max(0.0, (own - other).max()):.3f}"
        )


def general(profile, aim: Floats, rng: np.random.Generator) -> float:
    """The best distance of Nelder-Mead over all four inks and over every three of them."""

    def printed(device: Floats) -> float:
        held = np.clip(device, 0, 1)
        over = max(0.0, held.sum() - TAC / 100)
        lab = lab_of_device(profile, held[None], intent="absolute")[0]
        return float(distance(aim, lab)) + 100 * over

    best = np.inf
    for subset in [(0, 1, 2, 3), *combinations(range(4), 3)]:
        for _ in range(4):
            start = rng.uniform(0, 0.7, len(subset))

            def of(tones: Floats, subset: tuple[int, ...] = subset) -> float:
                device = np.zeros(4)
                device[list(subset)] = tones
                return printed(device)

            made = minimize(of, start, method="Nelder-Mead", options={"xatol": 1e-4, "fatol": 1e-4})
            whole = np.round(np.clip(made.x, 0, 1) * 100) / 100
            best = min(best, of(whole))
    return best


if __name__ == "__main__":
    main()
