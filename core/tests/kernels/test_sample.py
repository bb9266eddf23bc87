from __future__ import annotations

import numpy as np
import pytest

from plinto_core.kernels.apply import CHUNK, max_total
from plinto_core.kernels.sample import sample_region


@pytest.fixture
def picture() -> np.ndarray:
    return np.random.default_rng(1).integers(0, 65536, (20, 30, 3)).astype(np.uint16)


def test_one_to_one_is_the_picture_itself(picture) -> None:
    assert np.array_equal(sample_region(picture, 0.0, 0.0, 30.0, 20.0, 30, 20), picture)


def test_far_in_every_pixel_is_a_square(picture) -> None:
    big = sample_region(picture, 3.0, 4.0, 2.0, 2.0, 16, 16)
    assert np.array_equal(big[:8, :8].reshape(-1, 3), np.repeat(picture[4, 3][None], 64, axis=0))
    assert np.array_equal(big[8:, 8:].reshape(-1, 3), np.repeat(picture[5, 4][None], 64, axis=0))


def test_between_pixels_is_their_mean() -> None:
    two = np.array([[[0], [100]]], np.uint8)
    assert sample_region(two, 0.5, 0.0, 1.0, 1.0, 1, 1)[0, 0, 0] == 50


def test_beyond_the_edges_the_edge_repeats(picture) -> None:
    out = sample_region(picture, -100.0, -100.0, 10.0, 10.0, 4, 4)
    assert (out == picture[0, 0]).all()
    out = sample_region(picture, 900.0, 900.0, 10.0, 10.0, 4, 4)
    assert (out == picture[-1, -1]).all()


def test_highest_total_is_found_where_it_stands_first() -> None:
    pixels = np.full((3 * CHUNK + 17, 4), 60, np.uint8)
    pixels[CHUNK + 5] = pixels[2 * CHUNK + 9] = (250, 251, 252, 253)
    assert max_total(pixels) == (1006, CHUNK + 5)
    assert max_total(np.zeros((3, 4), np.uint16)) == (0, 0)
