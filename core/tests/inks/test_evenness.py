"""Evenness of ramps: steps that run back, large steps, bends."""

from __future__ import annotations

import numpy as np

from plinto_core.inks.evenness import evenness


def ramp(**inks: list[float]) -> np.ndarray:
    n = len(next(iter(inks.values())))
    return np.stack([np.array(inks.get(i, [0.0] * n)) for i in "CMYK"], axis=1)


def test_an_even_ramp_has_nothing_to_tell() -> None:
    found = evenness(ramp(C=[0, 0.1, 0.2, 0.3], K=[0, 0.01, 0.02, 0.03]))
    assert (found.black_back, found.black_step, found.step, found.bend) == (0, 1, 10, 0)


def test_black_that_falls_is_added_up() -> None:
    found = evenness(ramp(K=[0, 0.10, 0.07, 0.2, 0.15]))
    assert found.black_back == 8
    assert found.black_step == 13
    assert found.bend == 18


def test_other_inks_may_fall_since_black_takes_over() -> None:
    found = evenness(ramp(M=[0.3, 0.2, 0.1], K=[0, 0.1, 0.2]))
    assert found.black_back == 0
    assert found.step == 10
