"""Each table type of a profile, evaluated by hand and by the evaluator."""

from __future__ import annotations

import numpy as np
import pytest

from plinto_core.colorimetry import D50, Lab_to_XYZ, XYZ_to_Lab
from plinto_core.icc import Profile
from plinto_core.icc.curves import ParametricCurve, SampledCurve
from plinto_core.icc.header import IccHeader
from plinto_core.icc.tables import Table, pack_mab, pack_mft2, parse_mft
from plinto_core.icc.values import pack_desc, pack_text, pack_xyz
from plinto_core.icc.write import write_profile
from plinto_core.kernels.interpolate import interpolate
from plinto_core.transform.encoding import XYZ_SCALE, lab_to_unit
from plinto_core.transform.link import grid_nodes
from plinto_core.transform.sides import device_to_xyz, xyz_to_device
from plinto_core.transform.table import run_table

IDENTITY = SampledCurve(np.linspace(0, 1, 2))
SQUARE = ParametricCurve(0, (2.0,))


def profile_of(tags: dict[str, bytes], space: str, pcs: str, version=(4, 4, 0)) -> Profile:
    header = IccHeader(size=0, version=version, device_class="prtr", colour_space=space, pcs=pcs)
    head = {"desc": pack_desc("t"), "cprt": pack_text("-"), "wtpt": pack_xyz(D50)}
    return Profile(write_profile(header, {**head, **tags}))


def affine(inputs: int, outputs: int, seed: int) -> tuple[np.ndarray, np.ndarray]:
    """A grid that is linear in its inputs, so that every interpolation is exact, and its weights."""
    weights = np.random.default_rng(seed).random((inputs, outputs)) / inputs
    grid = (grid_nodes(inputs, 3) @ weights).reshape((3,) * inputs + (outputs,))
    return grid, weights


@pytest.mark.parametrize("inputs", [1, 2, 3, 4, 5])
@pytest.mark.parametrize("tetrahedral", [True, False])
def test_every_dimension_is_interpolated_exactly_for_linear_tables(inputs, tetrahedral) -> None:
    grid, weights = affine(inputs, 3, inputs)
    x = np.random.default_rng(1).random((200, inputs))
    sizes = np.full(inputs, 3, dtype=np.int64)
    out = interpolate(np.ascontiguousarray(grid).reshape(-1), sizes, 3, x, tetrahedral)
    assert np.allclose(out, x @ weights, atol=1e-12)


def test_values_outside_and_broken_ones_are_clipped_not_followed() -> None:
    grid, _ = affine(3, 1, 0)
    table = Table("mft2", 3, 1, (IDENTITY,) * 3, grid, (), None, (IDENTITY,))
    wild = np.array([[np.nan, np.inf, -np.inf], [-5.0, 9, 0.5]])
    tame = np.array([[0.0, 1, 0], [0, 1, 0.5]])
    assert np.allclose(run_table(table, wild), run_table(table, tame))


def test_lut_a_to_b_runs_curves_grid_curves_matrix_curves() -> None:
    grid, weights = affine(4, 3, 2)
    matrix = np.hstack([np.diag([0.5, 0.6, 0.7]), np.array([[0.1], [0.0], [0.05]])])
    table = Table("mAB", 4, 3, (SQUARE,) * 4, grid, (SQUARE,) * 3, matrix, (IDENTITY,) * 3)
    x = np.random.default_rng(3).random((50, 4))
    by_hand = ((x**2 @ weights) ** 2) @ matrix[:, :3].T + matrix[:, 3]
    assert np.allclose(run_table(table, x), by_hand, atol=1e-12)


def test_lut_b_to_a_runs_the_other_way_round() -> None:
    grid, weights = affine(3, 4, 4)
    matrix = np.hstack([np.diag([0.5, 0.6, 0.7]), np.array([[0.1], [0.0], [0.05]])])
    table = Table("mBA", 3, 4, (SQUARE,) * 3, grid, (SQUARE,) * 3, matrix, (IDENTITY,) * 4)
    x = np.random.default_rng(5).random((50, 3))
    by_hand = ((x**2 @ matrix[:, :3].T + matrix[:, 3]) ** 2) @ weights
    assert np.allclose(run_table(table, x), by_hand, atol=1e-12)


def test_a_lut8_is_read_and_run() -> None:
    ramp = bytes(range(256))
    clut = bytes([0, 0, 0, 255, 255, 255])
    data = b"mft1" + bytes(4) + bytes([1, 3, 2, 0]) + np.eye(3).ravel().astype(">i4").tobytes()
    data = data[:12] + (np.eye(3).ravel() * 65536).astype(">i4").tobytes() + ramp + clut + ramp * 3
    table = parse_mft(data)
    assert np.allclose(
        run_table(table, np.array([[0.25], [1.0]])), [[0.25] * 3, [1] * 3], atol=0.003
    )


def test_an_xyz_connection_space_has_its_own_scale() -> None:
    nodes = grid_nodes(3, 2)
    clut = (nodes * D50 / XYZ_SCALE).reshape(2, 2, 2, 3)
    table = Table("mAB", 3, 3, (IDENTITY,) * 3, clut, (), None, (IDENTITY,) * 3)
    profile = profile_of({"A2B0": pack_mab(table)}, "RGB ", "XYZ ")
    assert np.allclose(device_to_xyz(profile, np.ones((1, 3)), 0), D50, atol=1e-4)
    assert np.allclose(device_to_xyz(profile, np.full((1, 3), 0.5), 3), D50 / 2, atol=1e-4)


@pytest.mark.parametrize(("pcs", "middle"), [("XYZ ", 0.25), ("Lab ", None)])
def test_grey_profiles_in_both_connection_spaces(pcs, middle) -> None:
    profile = profile_of({"kTRC": SQUARE.pack()}, "GRAY", pcs)
    xyz = device_to_xyz(profile, np.array([[0.5], [1.0]]), 1)
    assert np.allclose(xyz[1], D50, atol=1e-6)
    if middle is None:
        assert XYZ_to_Lab(xyz)[0] == pytest.approx([25, 0, 0], abs=1e-6)
    else:
        assert np.allclose(xyz[0], D50 * middle)
    assert np.allclose(xyz_to_device(profile, xyz, 1), [[0.5], [1.0]], atol=1e-6)


def test_a_missing_intent_falls_back_to_the_perceptual_table() -> None:
    nodes = grid_nodes(4, 2)
    lab = np.stack([100 - 90 * nodes.mean(axis=1), 0 * nodes[:, 0], 0 * nodes[:, 0]], axis=1)
    clut = lab_to_unit(lab, legacy=True).reshape(2, 2, 2, 2, 3)
    table = pack_mft2(Table("mft2", 4, 3, (IDENTITY,) * 4, clut, (), None, (IDENTITY,) * 3))
    profile = profile_of({"A2B0": table}, "CMYK", "Lab ", (2, 4, 0))
    device = np.array([[0.2, 0.4, 0.6, 0.8]])
    for intent in range(4):
        assert np.allclose(
            device_to_xyz(profile, device, intent), Lab_to_XYZ(np.array([[55.0, 0, 0]])), atol=1e-4
        )
