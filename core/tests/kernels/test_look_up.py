"""The press's table and its derivatives as the solver reads them."""

from __future__ import annotations

import numpy as np
import pytest
from numba import njit
from scipy.interpolate import RegularGridInterpolator

from plinto_core.kernels import mix, separate


@njit
def _read(table, size, x, lab, jac):
    separate._look_up(table, size, x.size, x, lab, jac)


@njit
def _mixed(table, size, axes, y, active, lab, jac):
    mix._look(table, size, axes, y, active, lab, jac, mix._room(y.size, y.size)[4])


@pytest.mark.parametrize("inks", [3, 4, 5])
@pytest.mark.parametrize("size", [2, 5])
def test_value_and_derivatives_are_those_of_multilinear_interpolation(inks, size) -> None:
    rng = np.random.default_rng(inks)
    table = rng.random((size,) * inks + (3,)) * 100
    known = RegularGridInterpolator([np.linspace(0, 1, size)] * inks, table)
    lab, jac = np.empty(3), np.empty((3, inks))
    step = 1e-6
    for x in rng.uniform(0.02, 0.98, (40, inks)):
        _read(table.ravel(), size, x, lab, jac)
        assert np.allclose(lab, known(x)[0], atol=1e-9)
        for ink, by in enumerate(np.eye(inks) * step):
            cell = np.floor((x - by) * (size - 1)) == np.floor((x + by) * (size - 1))
            if cell.all():
                slope = (known(x + by) - known(x - by))[0] / (2 * step)
                assert np.allclose(jac[:, ink], slope, atol=1e-4)


@pytest.mark.parametrize("inks", [4, 5])
def test_solid_inks_are_read_in_the_last_cell(inks) -> None:
    rng = np.random.default_rng(7)
    table = rng.random((3,) * inks + (3,))
    lab, jac = np.empty(3), np.empty((3, inks))
    _read(table.ravel(), 3, np.ones(inks), lab, jac)
    last = (2,) * inks
    assert np.allclose(lab, table[last])
    for ink in range(inks):
        before = tuple(1 if k == ink else 2 for k in range(inks))
        assert np.allclose(jac[:, ink], 2 * (table[last] - table[before]))


@pytest.mark.parametrize("inks", [2, 5, 7])
def test_mixtures_are_read_on_their_bent_axes(inks) -> None:
    """Half of the inks may not move: those that are out are left out of the sum, and have no slope."""
    rng = np.random.default_rng(inks)
    size, samples = 3, 9
    table = rng.random((size,) * inks + (3,)) * 100
    axes = np.cumsum(rng.uniform(0.5, 1.5, (inks, samples)), axis=1)
    axes = (axes - axes[:, :1]) / (axes[:, -1:] - axes[:, :1])
    grid = RegularGridInterpolator([np.linspace(0, 1, size)] * inks, table)
    even = np.linspace(0, 1, samples)

    def known(y):
        return grid([np.interp(t, even, axis) for t, axis in zip(y, axes, strict=True)])[0]

    lab, jac, step = np.empty(3), np.empty((3, inks)), 1e-6
    for y in rng.uniform(0.01, 0.99, (30, inks)):
        active = rng.random(inks) < 0.5
        y[~active & (rng.random(inks) < 0.5)] = 0.0
        _mixed(table.ravel(), size, axes, y, active, lab, jac)
        assert np.allclose(lab, known(y), atol=1e-9)
        for ink, by in enumerate(np.eye(inks) * step):
            if not active[ink] and y[ink] == 0.0:
                assert not jac[:, ink].any()
                continue
            near = y[ink] * (samples - 1) % 1, np.interp(y[ink], even, axes[ink]) * (size - 1) % 1
            if min(*near, *(1 - n for n in near)) > 1e-3:
                slope = (known(y + by) - known(y - by)) / (2 * step)
                assert np.allclose(jac[:, ink], slope, rtol=1e-5, atol=1e-3)
