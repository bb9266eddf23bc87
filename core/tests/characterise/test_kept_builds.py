"""What profiles of simulated presses hold, as it was judged good: tables at colours between their nodes, darks
and lights for themselves, and the figures of their reports."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest
from kept import as_kept, rows_as_kept

from plinto_core.characterise import BuildResult
from plinto_core.colorimetry.cielab import Lab_to_XYZ
from plinto_core.icc import Profile
from plinto_core.icc.spaces import INTENTS
from plinto_core.transform.black_point import destination_black_point, source_black_point
from plinto_core.transform.sides import device_to_xyz, xyz_to_device

INKS, REFLECTED = 0.4, 0.15
"""Percent of an ink, and of what a perfect white reflects, by which a row may differ without being counted."""


def colours() -> dict[str, np.ndarray]:
    rng = np.random.default_rng(14)
    everywhere = rng.uniform((5, -70, -70), (97, 70, 80), (24, 3))
    darks = rng.uniform((0, -6, -6), (14, 6, 6), (12, 3))
    lights = rng.uniform((93, -3, -3), (100, 3, 8), (6, 3))
    greys = np.stack([np.linspace(0, 100, 15)] + [np.zeros(15)] * 2, axis=1)
    return {"colours": everywhere, "darks": darks, "lights": lights, "greys": greys}


def tables(profile: Profile) -> tuple[dict[str, Any], dict[str, Any]]:
    """Percent of every ink that colours are separated into, XYZ (white 100) that inks print as."""
    xyz = {name: Lab_to_XYZ(lab) for name, lab in colours().items()}
    inks = {
        f"{intent}, {name}": np.round(xyz_to_device(profile, asked, number) * 100, 2).tolist()
        for number, intent in enumerate(INTENTS)
        for name, asked in xyz.items()
    }
    rng = np.random.default_rng(15)
    device = rng.random((30, profile.channels)) * (rng.random((30, profile.channels)) < 0.6)
    printed: dict[str, Any] = {
        intent: np.round(device_to_xyz(profile, device, number) * 100, 3).tolist()
        for number, intent in enumerate(INTENTS)
    }
    printed["black points"] = [
        [np.round(of(profile, number) * 100, 3).tolist() for number in range(3)]
        for of in (source_black_point, destination_black_point)
    ]
    return inks, printed


def kept(name: str, data: bytes) -> None:
    inks, printed = tables(Profile(data))
    rows_as_kept(f"builds/{name}-inks", inks, abs=INKS, few=0.2)
    rows_as_kept(f"builds/{name}-printed", printed, abs=REFLECTED)


def report(name: str, build: BuildResult) -> None:
    as_kept(f"builds/{name}-report", build.report.model_dump(mode="json"), rel=0.02, abs=0.02)


def test_four_inks(coated_build) -> None:
    kept("coated", coated_build.data)
    report("coated", coated_build)


def test_four_inks_in_small_tables_of_version_4(coated_v4) -> None:
    kept("coated-small", coated_v4.data)
    assert coated_v4.raw("cprt")[:4] == coated_v4.raw("desc")[:4] == b"mluc"


def test_version_2_has_texts_of_its_own(coated) -> None:
    assert (coated.raw("cprt")[:4], coated.raw("desc")[:4]) == (b"text", b"desc")


@pytest.mark.parametrize("which", ["seven_build", "photo_build"])
def test_other_devices(which, request) -> None:
    build = request.getfixturevalue(which)
    kept(which.removesuffix("_build"), build.data)
    report(which.removesuffix("_build"), build)


def test_two_inks(two_inks) -> None:
    kept("two", two_inks.data)
