"""Press simulator and bench instrument: stand-ins that print charts and measure them."""

from plinto_core.simulator.conditions import (
    CONDITIONS,
    FURTHER,
    PROOFER,
    SIMULATED,
    SimulatedCondition,
)
from plinto_core.simulator.press import PressModel, RgbPrinter, measure_chart

__all__ = [
    "CONDITIONS",
    "FURTHER",
    "PROOFER",
    "SIMULATED",
    "PressModel",
    "RgbPrinter",
    "SimulatedCondition",
    "measure_chart",
]
