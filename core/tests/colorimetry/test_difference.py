"""CIEDE2000 against the published pairs of Sharma, Wu and Dalal (2005)."""

from __future__ import annotations

import warnings
from functools import partial

import numpy as np
import pytest

from plinto_core.colorimetry import delta_e_76, delta_e_2000
from plinto_core.colorimetry.difference import delta_e_94, delta_e_cmc, lch_parts

PAIRS = [
    ((50, 2.6772, -79.7751), (50, 0, -82.7485), 2.0425),
    ((50, 3.1571, -77.2803), (50, 0, -82.7485), 2.8615),
    ((50, 2.8361, -74.0200), (50, 0, -82.7485), 3.4412),
    ((50, -1.3802, -84.2814), (50, 0, -82.7485), 1.0000),
    ((50, -1.1848, -84.8006), (50, 0, -82.7485), 1.0000),
    ((50, -0.9009, -85.5211), (50, 0, -82.7485), 1.0000),
    ((50, 0, 0), (50, -1, 2), 2.3669),
    ((50, -1, 2), (50, 0, 0), 2.3669),
    ((50, 2.49, -0.001), (50, -2.49, 0.0009), 7.1792),
    ((50, 2.49, -0.001), (50, -2.49, 0.0010), 7.1792),
    ((50, 2.49, -0.001), (50, -2.49, 0.0011), 7.2195),
    ((50, 2.49, -0.001), (50, -2.49, 0.0012), 7.2195),
    ((50, -0.001, 2.49), (50, 0.0009, -2.49), 4.8045),
    ((50, -0.001, 2.49), (50, 0.0010, -2.49), 4.8045),
    ((50, -0.001, 2.49), (50, 0.0011, -2.49), 4.7461),
    ((50, 2.5, 0), (50, 0, -2.5), 4.3065),
    ((50, 2.5, 0), (73, 25, -18), 27.1492),
    ((50, 2.5, 0), (61, -5, 29), 22.8977),
    ((50, 2.5, 0), (56, -27, -3), 31.9030),
    ((50, 2.5, 0), (58, 24, 15), 19.4535),
    ((50, 2.5, 0), (50, 3.1736, 0.5854), 1.0000),
    ((50, 2.5, 0), (50, 3.2972, 0), 1.0000),
    ((50, 2.5, 0), (50, 1.8634, 0.5757), 1.0000),
    ((50, 2.5, 0), (50, 3.2592, 0.3350), 1.0000),
    ((60.2574, -34.0099, 36.2677), (60.4626, -34.1751, 39.4387), 1.2644),
    ((63.0109, -31.0961, -5.8663), (62.8187, -29.7946, -4.0864), 1.2630),
    ((61.2901, 3.7196, -5.3901), (61.4292, 2.2480, -4.9620), 1.8731),
    ((35.0831, -44.1164, 3.7933), (35.0232, -40.0716, 1.5901), 1.8645),
    ((22.7233, 20.0904, -46.6940), (23.0331, 14.9730, -42.5619), 2.0373),
    ((36.4612, 47.8580, 18.3852), (36.2715, 50.5065, 21.2231), 1.4146),
    ((90.8027, -2.0831, 1.4410), (91.1528, -1.6435, 0.0447), 1.4441),
    ((90.9257, -0.5406, -0.9208), (88.6381, -0.8985, -0.7239), 1.5381),
    ((6.7747, -0.2908, -2.4247), (5.8714, -0.0985, -2.2286), 0.6377),
    ((2.0776, 0.0795, -1.1350), (0.9033, -0.0636, -0.5514), 0.9082),
]


@pytest.mark.parametrize(("one", "two", "expected"), PAIRS)
def test_published_pairs_to_four_decimals(one, two, expected) -> None:
    assert round(float(delta_e_2000(np.array(one), np.array(two))), 4) == expected


def test_difference_is_symmetric_and_broadcasts() -> None:
    rng = np.random.default_rng(1)
    lab = rng.uniform((0, -100, -100), (100, 100, 100), (3, 50, 3))
    assert np.allclose(delta_e_2000(lab, lab[:1]), delta_e_2000(lab[:1], lab), atol=1e-12)
    assert delta_e_2000(lab, lab[0, 0]).shape == (3, 50)


def test_cie_1976_is_the_euclidean_distance() -> None:
    assert delta_e_76(np.array([50.0, 3, 4]), np.array([50.0, 0, 0])) == pytest.approx(5)


@pytest.mark.parametrize(
    ("ours", "name", "options"),
    [
        (delta_e_94, "delta_E_CIE1994", {"textiles": False}),
        (delta_e_cmc, "delta_E_CMC", {"l": 2, "c": 1}),
    ],
)
def test_1994_and_cmc_are_what_another_library_says(ours, name, options) -> None:
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        import colour.difference
    theirs = partial(getattr(colour.difference, name), **options)
    rng = np.random.default_rng(3)
    one = rng.uniform([0, -80, -80], [100, 80, 80], (2000, 3))
    two = one + rng.normal(0, 4, (2000, 3))
    assert ours(one, two) == pytest.approx(theirs(one, two), abs=1e-6)
    # Both have a reference, and it is the first.
    assert np.abs(ours(one, two) - ours(two, one)).max() > 0.1


def test_parts_sum_up_to_the_1976_difference_and_carry_their_signs() -> None:
    rng = np.random.default_rng(4)
    one = rng.uniform([0, -80, -80], [100, 80, 80], (500, 3))
    two = one + rng.normal(0, 4, (500, 3))
    parts = np.stack(lch_parts(one, two))
    assert np.sqrt((parts**2).sum(axis=0)) == pytest.approx(delta_e_76(one, two))
    lightness, chroma, hue = lch_parts([[50, 40, 0]], [[45, 0, 50]])
    assert (lightness[0], chroma[0]) == pytest.approx((-5, 10))
    # From red to yellow the hue angle grows.
    assert hue[0] == pytest.approx(2 * np.sqrt(40 * 50) * np.sin(np.radians(45)))
    assert lch_parts([[50, 0, 50]], [[50, 40, 0]])[2][0] < 0
