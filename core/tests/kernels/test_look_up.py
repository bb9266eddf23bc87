"""The press's table and its derivatives as the solver reads them."""

from __future__ import annotations

import numpy as np
import pytest
from numba import njit
from scipy.interpolate import RegularGridInterpolator

from plinto_core.kernels import separate


@njit
def _read(table, size, x, lab, jac):
    separate._look_up(table, size, x.size, x, lab, jac)


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
