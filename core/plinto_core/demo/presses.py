"""The profiles of simulated presses, built beside each other: most of a build keeps one processor."""

from __future__ import annotations

import os
from collections.abc import Iterator, Sequence
from concurrent.futures import ProcessPoolExecutor
from concurrent.futures.process import BrokenProcessPool
from datetime import date
from multiprocessing import get_context

from plinto_core.characterise import BuildResult, BuildSettings, build_profile
from plinto_core.inks.rules import parse_ink_rules
from plinto_core.simulator import SimulatedCondition

_BUILT = date(2026, 1, 1)
"""What the demo's profiles are dated, so that they are the same whenever they are made."""
_MOST = 4
"""Processes; each holds up to half a gigabyte while it builds."""


def build_simulated(simulated: SimulatedCondition) -> BuildResult:
    """The profile of a simulated press, from its chart as an instrument would read it."""
    return build_profile(
        simulated.measured(),
        parse_ink_rules(simulated.rules),
        BuildSettings(description=f"{simulated.name} (simulated)", built=_BUILT),
    )


def build_all(presses: Sequence[SimulatedCondition]) -> Iterator[BuildResult]:
    """Results in the order of the presses, each as soon as it and those before it are there.

    Where processes cannot be had or fall, as for want of memory, the rest is built in this one.
    """
    done = 0
    processes = min(len(presses), os.cpu_count() or 1, _MOST)
    if processes > 1:
        try:
            with ProcessPoolExecutor(processes, mp_context=get_context("spawn")) as pool:
                for result in pool.map(build_simulated, presses):
                    yield result
                    done += 1
        except (BrokenProcessPool, OSError):
            pass
    yield from map(build_simulated, presses[done:])
