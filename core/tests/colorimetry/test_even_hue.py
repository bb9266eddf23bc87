"""OKLab and IPT against published values and another library."""

from __future__ import annotations

import warnings

import numpy as np
import pytest

from plinto_core.colorimetry.adaptation import bradford
from plinto_core.colorimetry.cielab import D50
from plinto_core.colorimetry.even_hue import XYZ_to_IPT, XYZ_to_OKLab, even_hue, turn

D65 = np.array([0.3127 / 0.3290, 1.0, (1 - 0.3127 - 0.3290) / 0.3290])


def under_D50(xyz) -> np.ndarray:
    return np.asarray(xyz) @ bradford(D65, D50).T


@pytest.mark.parametrize(
    ("xyz", "published"),
    [
        ((0.950, 1.000, 1.089), (1.000, 0.000, 0.000)),
        ((1.0, 0.0, 0.0), (0.450, 1.236, -0.019)),
        ((0.0, 1.0, 0.0), (0.922, -0.671, 0.263)),
        ((0.0, 0.0, 1.0), (0.153, -1.415, -0.449)),
    ],
)
def test_oklab_gives_its_author_s_values(xyz, published) -> None:
    assert XYZ_to_OKLab(under_D50(xyz)) == pytest.approx(published, abs=1.5e-3)


def test_both_agree_with_another_library() -> None:
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        import colour
    xyz = np.random.default_rng(1).random((300, 3)) * [0.9, 1.0, 1.0]
    assert XYZ_to_OKLab(under_D50(xyz)) == pytest.approx(colour.XYZ_to_Oklab(xyz), abs=2e-3)
    assert XYZ_to_IPT(under_D50(xyz)) == pytest.approx(colour.XYZ_to_IPT(xyz), abs=2e-3)


def test_hues_turn_the_short_way() -> None:
    assert turn(np.array([190.0, -190.0, 359.0, 0.0])).tolist() == [-170, 170, -1, 0]
    lab = np.array([[50.0, 30, 0], [50, 0, 30], [50, -30, 0], [50, 0, -30]])
    assert (np.diff(np.unwrap(even_hue(lab), period=360)) > 45).all()
