"""Press simulator and bench instrument: stand-ins that print charts and measure them."""

from plinto_core.simulator.conditions import (
    CONDITIONS,
    PROOFER,
    SIMULATED,
    SimulatedCondition,
)
from plinto_core.simulator.press import PressModel, measure_chart

__all__ = [
    "CONDITIONS",
    "PROOFER",
    "SIMULATED",
    "PressModel",
    "SimulatedCondition",
    "measure_chart",
]
