"""Profiles and pictures that many tests use, made once."""

from __future__ import annotations

from datetime import date

import numpy as np
import pytest
from hypothesis import HealthCheck, settings

from plinto_core.characterise import BuildResult, BuildSettings, build_profile
from plinto_core.colorimetry.spectra import reflectance_to_XYZ
from plinto_core.icc import Profile
from plinto_core.inks.rules import InkRules, parse_ink_rules
from plinto_core.measurement import cmyk_chart
from plinto_core.measurement.characterisation import Characterisation
from plinto_core.simulator import CONDITIONS, SIMULATED, measure_chart

# Machines that run the tests may be slow and shared; slowness is not what these tests look for.
settings.register_profile("steady", deadline=None, suppress_health_check=[HealthCheck.too_slow])
settings.load_profile("steady")


BUILT = date(2026, 1, 1)
"""What profiles of tests are dated, so that what is kept of them holds on every day."""


@pytest.fixture(scope="session")
def coated_measurements() -> Characterisation:
    chart = cmyk_chart()
    xyz = reflectance_to_XYZ(measure_chart(CONDITIONS[0].model, chart))
    return Characterisation(chart, xyz, "Sheetfed coated")


@pytest.fixture(scope="session")
def coated_rules() -> InkRules:
    return parse_ink_rules(CONDITIONS[0].rules)


@pytest.fixture(scope="session")
def coated_build(coated_measurements: Characterisation, coated_rules: InkRules) -> BuildResult:
    return build_profile(
        coated_measurements, coated_rules, BuildSettings(description="Coated", built=BUILT)
    )


@pytest.fixture(scope="session")
def coated(coated_build: BuildResult) -> Profile:
    return Profile(coated_build.data)


@pytest.fixture(scope="session")
def coated_v4(coated_measurements: Characterisation, coated_rules: InkRules) -> Profile:
    settings = BuildSettings(version=4, size="small", built=BUILT)
    return Profile(build_profile(coated_measurements, coated_rules, settings).data)


@pytest.fixture
def gradient() -> np.ndarray:
    """(40, 60, 3) uint16 with every corner of RGB nearby."""
    y, x = np.mgrid[0:40, 0:60]
    rgb = np.stack([x / 59, y / 39, 1 - (x + y) / 98], axis=-1)
    return np.round(rgb * 65535).astype(np.uint16)


def _further(key: str) -> BuildResult:
    simulated = SIMULATED[key]
    settings = BuildSettings(description=simulated.name, size="small", built=BUILT)
    return build_profile(simulated.measured(), parse_ink_rules(simulated.rules), settings)


@pytest.fixture(scope="session")
def seven_build() -> BuildResult:
    return _further("polyester-seven")


@pytest.fixture(scope="session")
def seven(seven_build: BuildResult) -> Profile:
    return Profile(seven_build.data)


@pytest.fixture(scope="session")
def two_inks() -> Profile:
    return Profile(_further("two-screens").data)


@pytest.fixture(scope="session")
def photo_build() -> BuildResult:
    return _further("photo-rgb")
