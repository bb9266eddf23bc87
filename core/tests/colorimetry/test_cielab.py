from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from plinto_core.colorimetry import (
    D50,
    Lab_to_LCh,
    Lab_to_XYZ,
    LCh_to_Lab,
    XYZ_to_Lab,
    bradford,
)
from plinto_core.colorimetry.spectra import (
    WAVELENGTHS,
    reflectance_to_XYZ,
    weights_d50,
)


def test_white_is_100_0_0() -> None:
    assert np.allclose(XYZ_to_Lab(D50), [100, 0, 0], atol=1e-12)


def test_published_middle_grey() -> None:
    """Y = 0.184187 is L* 50 by definition: ((50 + 16) / 116) cubed."""
    assert XYZ_to_Lab(D50 * ((66 / 116) ** 3))[0] == pytest.approx(50, abs=1e-9)


@given(st.tuples(st.floats(-20, 120), st.floats(-200, 200), st.floats(-200, 200)))
def test_lab_and_xyz_are_inverse_also_out_of_range(lab) -> None:
    given_lab = np.array(lab)
    assert np.allclose(XYZ_to_Lab(Lab_to_XYZ(given_lab)), given_lab, atol=1e-7)


def test_lch_round_trip_and_hue_quadrants() -> None:
    lab = np.array([[50, 10, 0], [50, 0, 10], [50, -10, 0], [50, 0, -10.0]])
    assert np.allclose(Lab_to_LCh(lab)[:, 2], [0, 90, 180, 270])
    assert np.allclose(LCh_to_Lab(Lab_to_LCh(lab)), lab)


def test_bradford_takes_one_white_to_the_other() -> None:
    d65 = np.array([0.95047, 1.0, 1.08883])
    assert np.allclose(bradford(d65) @ d65, D50, atol=1e-12)


def test_perfect_diffuser_is_the_pcs_white() -> None:
    assert np.allclose(reflectance_to_XYZ(np.ones(36)), D50, atol=1e-9)


def test_weights_repeat_the_derivation_of_astm_e2022() -> None:
    """The committed table against the data sets and the method of an independent library."""
    import warnings

    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        import colour
        from colour.colorimetry import SpectralShape, tristimulus_weighting_factors_ASTME2022

        fine = SpectralShape(360, 830, 1)
        observer = colour.MSDS_CMFS["CIE 1931 2 Degree Standard Observer"].copy().align(fine)
        light = colour.SDS_ILLUMINANTS["D50"].copy().align(fine)
        table = tristimulus_weighting_factors_ASTME2022(
            observer, light, SpectralShape(360, 830, 10), 20
        )
    nm = np.arange(360, 831, 10)
    kept = table[(nm >= 380) & (nm <= 730)].copy()
    kept[0] += table[nm < 380].sum(axis=0)
    kept[-1] += table[nm > 730].sum(axis=0)
    expected = kept * (D50 / kept.sum(axis=0))
    assert np.abs(weights_d50() - expected).max() < 2e-6


def test_spectra_at_other_wavelengths_are_interpolated() -> None:
    coarse = np.arange(380.0, 731.0, 20.0)
    slope = (WAVELENGTHS - 300) / 500
    assert np.allclose(
        reflectance_to_XYZ((coarse - 300) / 500, coarse), reflectance_to_XYZ(slope), atol=2e-3
    )
