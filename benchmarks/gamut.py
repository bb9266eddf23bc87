"""The gamut engine beside two independent ways to a volume: python benchmarks/gamut.py [PROFILE…]

CMYK: the union of all simplices of the forward table, counted on a lattice of 1.5 CIELAB units. RGB: the
integral of the Jacobian over RGB. Without profiles, sRGB and a CMYK profile built from the simulator.
"""

from __future__ import annotations

import sys
import time
from itertools import permutations

import numpy as np
from numba import njit

from plinto_core.arrays import Floats
from plinto_core.characterise import build_profile
from plinto_core.colorimetry.spectra import reflectance_to_XYZ
from plinto_core.gamut import GamutBody
from plinto_core.gamut.of_profile import gamut_of
from plinto_core.icc.profile import Profile
from plinto_core.inks.forward import ForwardTable
from plinto_core.inks.rules import InkRules, parse_ink_rules
from plinto_core.measurement import cmyk_chart
from plinto_core.measurement.characterisation import Characterisation
from plinto_core.simulator import CONDITIONS, measure_chart
from plinto_core.transform.chain import lab_of_device
from plinto_core.transform.standard_spaces import standard_profile

STEP = 1.5


@njit(cache=True)
def _fill(lab, orders, step, origin, taken):  # type: ignore[no-untyped-def]
    """Mark every lattice point in any simplex of the (size,) * 4 + (3,) table."""
    size = lab.shape[0]
    corner, four, edges = np.empty((5, 3)), np.empty((4, 3)), np.empty((3, 3))
    at = np.empty(4, np.int64)
    low, high = np.empty(3, np.int64), np.empty(3, np.int64)
    for cell in range((size - 1) ** 4):
        for p in range(orders.shape[0]):
            rest = cell
            for k in range(4):
                at[k] = rest % (size - 1)
                rest //= size - 1
            for v in range(5):
                for o in range(3):
                    corner[v, o] = lab[at[0], at[1], at[2], at[3], o]
                if v < 4:
                    at[orders[p, v]] += 1
            for skip in range(5):
                z = 0
                for v in range(5):
                    if v != skip:
                        four[z] = corner[v]
                        z += 1
                for a in range(3):
                    for o in range(3):
                        edges[o, a] = four[a + 1, o] - four[0, o]
                if abs(np.linalg.det(edges)) < 1e-9:
                    continue
                inverse = np.linalg.inv(edges)
                for o in range(3):
                    low[o] = int(np.ceil((four[:, o].min() - origin[o]) / step))
                    high[o] = int(np.floor((four[:, o].max() - origin[o]) / step))
                for u in range(low[0], high[0] + 1):
                    for v in range(low[1], high[1] + 1):
                        for w in range(low[2], high[2] + 1):
                            if taken[u, v, w]:
                                continue
                            x = origin[0] + u * step - four[0, 0]
                            y = origin[1] + v * step - four[0, 1]
                            t = origin[2] + w * step - four[0, 2]
                            total = 0.0
                            inside = True
                            for r in range(3):
                                part = inverse[r, 0] * x + inverse[r, 1] * y + inverse[r, 2] * t
                                inside = inside and part >= -1e-6
                                total += part
                            if inside and total <= 1 + 1e-6:
                                taken[u, v, w] = True


def counted(forward: ForwardTable, tac: float) -> float:
    """Volume by counting; mixtures over the TAC are reduced evenly onto its plane."""
    axis = np.linspace(0, 1, forward.size)
    inks = np.stack(np.meshgrid(*[axis] * 4, indexing="ij"), axis=-1).reshape(-1, 4)
    inks = inks * np.minimum(1.0, tac / np.maximum(inks.sum(axis=1), 1e-9))[:, None]
    lab = forward.lab_of(inks).reshape((forward.size,) * 4 + (3,))
    origin = np.array([-2.0, -130, -130]) + np.random.default_rng(1).random(3) * STEP
    taken = np.zeros((int(106 / STEP), int(260 / STEP), int(260 / STEP)), np.bool_)
    _fill(np.ascontiguousarray(lab), np.array(list(permutations(range(4)))), STEP, origin, taken)
    return float(taken.sum() * STEP**3)


def integrated(profile: Profile, steps: int = 129) -> float:
    """Volume of an RGB space: the mean of |det| of its Jacobian."""
    axis = (np.arange(steps) + 0.5) / steps
    rgb = np.stack(np.meshgrid(axis, axis, axis, indexing="ij"), axis=-1).reshape(-1, 3)

    def slope(channel: int) -> Floats:
        step = 1e-4 * np.eye(3)[channel]
        return (lab_of_device(profile, rgb + step) - lab_of_device(profile, rgb - step)) / 2e-4

    jacobian = np.stack([slope(k) for k in range(3)], axis=-1)
    return float(np.abs(np.linalg.det(jacobian)).mean())


def _row(name: str, ours: float, seconds: float, other: float, others: float) -> None:
    away = (ours / other - 1) * 100
    print(
        f"{name[:44]:44} {ours:>9.0f} {seconds:6.2f} s {other:>10.0f} {others:6.1f} s {away:+7.2f} %"
    )


def _seen(name: str, profile: Profile) -> None:
    if profile.colour_space == "RGB ":
        began = time.perf_counter()
        volume = gamut_of(profile).volume
        middle = time.perf_counter()
        other = integrated(profile)
        _row(name, volume, middle - began, other, time.perf_counter() - middle)
        return
    forward = ForwardTable.of_profile(profile)
    for tac in (400, 300, 220, 140):
        rules = InkRules() if tac == 400 else parse_ink_rules({"tac": tac})
        began = time.perf_counter()
        volume = GamutBody.of_device(forward.lab_of, np.ones(4), rules.tac / 100).volume
        middle = time.perf_counter()
        other = counted(forward, rules.tac / 100)
        _row(f"{name}, TAC {tac}", volume, middle - began, other, time.perf_counter() - middle)


def main() -> None:
    chart = cmyk_chart()
    print(f"{'':44} {'rays':>9} {'':>8} {'other way':>10}")
    if len(sys.argv) > 1:
        for path in sys.argv[1:]:
            _seen(path.rsplit("/", 1)[-1], Profile.read(path))
        return
    # Compiled before it is timed.
    gamut_of(standard_profile("p3"))
    _seen("sRGB", standard_profile("srgb"))
    xyz = reflectance_to_XYZ(measure_chart(CONDITIONS[1].model, chart))
    rules = parse_ink_rules(CONDITIONS[1].rules)
    built = build_profile(Characterisation(chart, xyz, "Uncoated"), rules)
    _seen("simulated sheetfed uncoated", Profile(built.data))


if __name__ == "__main__":
    main()
