"""Device links: the grid against the float path, and what interpolation keeps."""

from __future__ import annotations

import numpy as np
import pytest

from plinto_core.colorimetry import delta_e_2000
from plinto_core.errors import NotSupported
from plinto_core.transform import convert, lab_of_device
from plinto_core.transform.link import GRIDS, build_link, build_measured_link, grid_nodes, probes
from plinto_core.transform.standard_spaces import standard_profile


@pytest.mark.parametrize("space", ["srgb", "romm", "oprgb"])
def test_measured_link_keeps_the_limits_on_pixels(space, coated) -> None:
    source = standard_profile(space)

    def function(device):
        return convert(source, coated, device, intent="perceptual", bpc=True)

    def difference(a, b):
        return delta_e_2000(lab_of_device(coated, a), lab_of_device(coated, b))

    link, report = build_measured_link(function, 3, difference)
    pixels = np.random.default_rng(4).integers(0, 65536, (20_000, 3), dtype=np.uint16)
    inks = link.apply(pixels, bits=16) / 65535
    error = difference(function(pixels / 65535), inks)
    assert error.mean() <= 0.15
    assert np.percentile(error, 99) <= 0.6
    assert report.grid in (33, 49, 65)


@pytest.mark.parametrize("inputs", [3, 4])
@pytest.mark.parametrize("dtype", [np.uint8, np.uint16])
@pytest.mark.parametrize("bits", [8, 16])
def test_pixels_match_an_affine_function_exactly(inputs, dtype, bits) -> None:
    weights = np.random.default_rng(1).random((inputs, 4)) / inputs
    link = build_link(lambda d: d @ weights, inputs, size=5)
    top_in, top_out = np.iinfo(dtype).max, 65535 if bits == 16 else 255
    pixels = np.random.default_rng(2).integers(0, top_in + 1, (500, inputs)).astype(dtype)
    pixels[0], pixels[1] = 0, top_in
    expected = (pixels / top_in) @ weights * top_out
    assert np.abs(link.apply(pixels, bits=bits) - expected).max() <= 0.52


@pytest.mark.parametrize("inputs", [3, 4])
def test_a_sum_that_every_node_keeps_is_kept_by_every_pixel(inputs) -> None:
    rng = np.random.default_rng(5)
    nodes = rng.random((grid_nodes(inputs, 5).shape[0], 4))
    nodes *= 0.6 / np.maximum(nodes.mean(axis=1, keepdims=True), 0.6)
    link = build_link(lambda d: nodes, inputs, size=5)
    pixels = rng.integers(0, 65536, (50_000, inputs), dtype=np.uint16)
    assert link.apply(pixels, bits=16).astype(int).sum(axis=1).max() <= 2.4 * 65535 + 2


def test_grey_input_is_exact_for_every_level() -> None:
    link = build_link(lambda d: np.hstack([d**2, 1 - d]), 1)
    levels = np.arange(65536, dtype=np.uint16)[:, None]
    expected = np.hstack([(levels / 65535) ** 2, 1 - levels / 65535]) * 65535
    assert np.abs(link.apply(levels, bits=16) - expected).max() <= 0.51


def test_diagonal_and_edges_of_the_cube_stay_on_their_nodes() -> None:
    """Greys are interpolated between grey nodes only, so black-only greys stay black-only."""

    def function(device):
        grey = np.ptp(device, axis=1) == 0
        inks = np.full((device.shape[0], 4), 0.3)
        inks[grey] = 0
        inks[grey, 3] = 1 - device[grey, 0]
        return inks

    link = build_link(function, 3, size=9)
    ramp = np.repeat(np.arange(0, 65536, 77, dtype=np.uint16)[:, None], 3, axis=1)
    assert link.apply(ramp, bits=16)[:, :3].max() == 0


def test_more_than_four_outputs_are_written() -> None:
    link = build_link(lambda d: np.hstack([d, d]), 3, size=3)
    pixels = np.array([[0, 128, 255]], np.uint8)
    assert link.apply(pixels, bits=8)[0].tolist() == [0, 128, 255, 0, 128, 255]


@pytest.mark.parametrize("inputs", [2, 5, 6, 7, 8])
def test_links_of_any_inks_give_pixels_what_they_give_floats(inputs) -> None:
    def turned(device):
        return np.stack([device.mean(axis=1) ** 2, 1 - device[:, 0], device[:, -1]], axis=1)

    link = build_link(turned, inputs, size=5)
    rng = np.random.default_rng(inputs)
    # Values of every order of size, ends and equal ones among them.
    pixels = rng.integers(0, 65536, (3000, inputs)).astype(np.uint16)
    pixels[:50] = rng.choice([0, 65535, 16384, 32768], (50, inputs))
    found = link.apply(pixels, bits=16) / 65535
    exact = turned(pixels / 65535)
    assert np.abs(found[:, 1:] - exact[:, 1:]).max() < 2e-5
    assert np.abs(found[:, 0] - exact[:, 0]).max() < 0.04
    on_nodes = (pixels[:50] / 65535 * 4 % 1 == 0).all(axis=1)
    assert np.abs(found[:50][on_nodes] - exact[:50][on_nodes]).max(initial=0) < 2e-5


def test_totals_of_many_inks_are_kept_between_nodes() -> None:
    link = build_link(lambda d: np.hstack([d[:, :2], 1 - d[:, :2], d[:, 2:]]), 3, size=3)
    pixels = np.random.default_rng(2).integers(0, 256, (2000, 3)).astype(np.uint8)
    inks = link.apply(pixels, bits=16).astype(int)
    assert np.abs(inks[:, :4].sum(axis=1) - 2 * 65535).max() <= 4


def test_more_than_eight_channels_are_refused() -> None:
    with pytest.raises(NotSupported):
        build_link(lambda d: d, 9)


@pytest.mark.parametrize(("inputs", "size", "made"), [(3, 33, 33), (4, 33, 33), (5, 33, 11), (7, 5, 5), (8, 9, 5)])  # fmt: skip
def test_a_grid_of_many_inks_stays_within_memory(inputs, size, made) -> None:
    link = build_link(lambda d: d[:, :1], inputs, size=size)
    assert link.size == made
    assert link.nodes.shape == (made**inputs, 1)


def test_a_curve_puts_nodes_where_linear_light_needs_them() -> None:
    def function(device):
        return np.clip(device, 0, 1) ** (1 / 3)

    curve = np.linspace(0, 1, 1025) ** (1 / 3)
    even, curved = (build_link(function, 3, size=17, curve=c) for c in (None, curve))
    greys = np.linspace(0, 1, 500)[:, None].repeat(3, axis=1)
    assert np.abs(even.evaluate(greys) - function(greys)).max() > 0.1
    assert np.abs(curved.evaluate(greys) - function(greys)).max() < 0.02
    for dtype in (np.uint8, np.uint16):
        top = np.iinfo(dtype).max
        pixels = np.random.default_rng(1).integers(0, top + 1, (4000, 3)).astype(dtype)
        pixels[:2] = [[0, 0, 0], [top, top, top]]
        found = curved.apply(pixels, bits=16) / 65535
        assert np.abs(found - curved.evaluate(pixels / top)).max() < 0.003
        assert found[0].max() == 0
        assert found[1].min() == 1


def test_the_error_of_greys_is_stated_and_not_only_that_of_random_colours() -> None:
    """A function that bends along the greys alone, where random colours hardly come."""

    def function(device):
        spread = device.max(axis=1) - device.min(axis=1)
        wave = 0.2 * np.sin(60 * device.mean(axis=1)) * np.exp(-((spread / 0.01) ** 2))
        return np.clip(device * 0.5 + 0.25 + wave[:, None], 0, 1)

    def difference(a, b):
        return np.abs(a - b).max(axis=1) * 100

    _, blind = build_measured_link(function, 3, difference, everywhere=False)
    _, stated = build_measured_link(function, 3, difference)
    greys = np.linspace(0, 1, 1021)[:, None].repeat(3, axis=1)
    link = build_link(function, 3, size=stated.grid)
    true = difference(function(greys), link.evaluate(greys))
    assert blind.p99 < 1.5 < stated.p99
    assert stated.max >= true.max() * 0.95
    assert stated.mean >= true.mean() * 0.95
    assert stated.p99 >= np.percentile(true, 99) * 0.95


def test_every_kind_of_colour_is_probed() -> None:
    for inputs, kinds in (
        (3, {"random", "greys", "near-greys", "darks"}),
        (4, {"random", "single inks"}),
    ):
        found = probes(inputs)
        assert set(found) == kinds
        for values in found.values():
            assert values.shape[1] == inputs
            assert 0 <= values.min() <= values.max() <= 1
    assert np.ptp(probes(3)["greys"], axis=1).max() == 0
    assert (probes(3)["darks"].mean(axis=0) < 0.3).all()
    assert (probes(4)["single inks"] > 0).sum(axis=1).max() == 1
    ramp = np.linspace(0, 1, len(probes(3)["near-greys"]))[:, None]
    away = np.abs(probes(3)["near-greys"] - ramp)
    assert 0.029 < away.max() <= 0.03, "what a camera leaves of a cast"


@pytest.mark.parametrize(
    ("mean", "high", "expected"),
    [(0.1, 0.1, 0), (0.1, 9.0, -1), (0.5, 0.5, -1), (0.15, 0.15, 0), (0.1501, 0.1501, -1)],
)
def test_a_grid_is_good_enough_when_mean_and_percentile_both_are(mean, high, expected) -> None:
    """Errors are given: `mean` of most colours and `high` of every fiftieth."""

    def difference(a, b):
        errors = np.full(len(a), mean)
        errors[::50] = high
        return errors - (errors.mean() - mean if high == mean else 0.0)

    _, stated = build_measured_link(lambda d: d, 3, difference, everywhere=False)
    assert stated.grid == GRIDS[3][expected]
