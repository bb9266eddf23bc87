"""Meshes of PDF divided as finely as their colours ask for: same places, right colours between corners."""

from __future__ import annotations

import numpy as np
import pikepdf
import pytest

from plinto_core.document.pdf.division import (
    MOST_PARTS,
    ORDER,
    TOLERANCE,
    divided_patches,
    divided_triangles,
    tensor_of_coons,
    triangles_of_flags,
    triangles_of_lattice,
)
from plinto_core.document.pdf.shadings import converted_shading, shading_samples
from plinto_core.document.pdf.spaces import read_space


def squared(values: np.ndarray) -> np.ndarray:
    return values**2


TRIANGLE = np.array([[[0.0, 0], [1, 0], [0, 1]]])
PRIMARIES = np.eye(3)[None]


def test_colours_between_the_corners_of_parts_are_right() -> None:
    places, colours = divided_triangles(TRIANGLE, PRIMARIES, squared, 10_000)
    assert len(places) == 8**2
    edges = places[:, 1:] - places[:, :1]
    assert np.abs(np.linalg.det(edges)).sum() / 2 == pytest.approx(0.5)
    rng = np.random.default_rng(2)
    weights = rng.dirichlet(np.ones(3), 20)
    at = np.einsum("pw,nwx->npx", weights, places).reshape(-1, 2)
    # The source's colour at a place is red, green and blue by its barycentric coordinates.
    source = np.stack([1 - at.sum(axis=1), at[:, 0], at[:, 1]], axis=1)
    made = np.einsum("pw,nwx->npx", weights, colours).reshape(-1, 3)
    assert np.abs(made - squared(source)).max() <= TOLERANCE
    assert np.abs(weights @ squared(PRIMARIES[0]) - squared(weights)).max() > 0.2


def test_what_is_straight_is_not_divided_and_no_more_than_allowed_is_made() -> None:
    assert len(divided_triangles(TRIANGLE, PRIMARIES, lambda v: v * 0.5, 100)[0]) == 1
    steep = lambda v: 1.0 * (v > 0.01)  # noqa: E731
    assert len(divided_triangles(TRIANGLE, PRIMARIES, steep, 10**6)[0]) == MOST_PARTS**2
    many = np.repeat(TRIANGLE, 40, axis=0), np.repeat(PRIMARIES, 40, axis=0)
    assert len(divided_triangles(*many, steep, 700)[0]) <= 700


def surface(points: np.ndarray, u: np.ndarray, v: np.ndarray) -> np.ndarray:
    basis = [np.stack([(1 - t) ** 3, 3 * t * (1 - t) ** 2, 3 * t**2 * (1 - t), t**3], axis=1) for t in (u, v)]  # fmt: skip
    return np.einsum("pi,pj,ijx->px", *basis, points)


def test_parts_of_a_patch_are_the_patch() -> None:
    rng = np.random.default_rng(5)
    points = rng.random((1, 4, 4, 2))
    corners = rng.random((1, 2, 2, 3))
    places, colours = divided_patches(points, corners, squared, 10_000)
    k = round(len(places) ** 0.5)
    assert k in (4, 8, 16)
    t = rng.random(30)
    for i, j in ((0, 0), (1, k - 1), (k - 1, 2)):
        part = surface(places[i * k + j], t, t[::-1])
        whole = surface(points[0], (i + t) / k, (j + t[::-1]) / k)
        assert np.abs(part - whole).max() < 1e-12
    u, v = 1 / k, (k - 1) / k
    at = corners[0, 0, 0] * (1 - u) * (1 - v) + corners[0, 0, 1] * (1 - u) * v + corners[0, 1, 0] * u * (1 - v) + corners[0, 1, 1] * u * v  # fmt: skip
    assert colours[k + k - 1, 0, 0] == pytest.approx(squared(at))


def test_a_coons_patch_of_a_flat_square_is_even() -> None:
    t = np.linspace(0, 1, 4)
    flat = np.stack(np.meshgrid(t, t, indexing="ij"), axis=-1)[None]
    bare = flat.copy()
    bare[:, 1:3, 1:3] = 99
    assert tensor_of_coons(bare) == pytest.approx(flat)


def test_triangles_of_flags_and_lattices() -> None:
    flags = np.array([0, 0, 0, 1, 2, 0, 0, 0, 0])
    assert triangles_of_flags(flags).tolist() == [[0, 1, 2], [1, 2, 3], [1, 3, 4], [5, 6, 7]]
    assert triangles_of_lattice(7, 3).tolist() == [[0, 1, 3], [1, 2, 4], [1, 3, 4], [2, 4, 5]]
    assert len(triangles_of_lattice(3, 3)) == 0


def mesh(pdf: pikepdf.Pdf, kind: int, data: bytes, **more: object) -> pikepdf.Stream:
    made = pikepdf.Stream(pdf, data)
    made.ShadingType, made.ColorSpace = kind, pikepdf.Name.DeviceRGB
    made.BitsPerCoordinate = made.BitsPerComponent = made.BitsPerFlag = 8
    made.Decode = pikepdf.Array([0, 255, 0, 255, 0, 1, 0, 1, 0, 1])
    for key, value in more.items():
        made[f"/{key}"] = value
    return made


def test_a_patch_that_takes_over_an_edge_is_whole_in_the_result() -> None:
    ring = [(0, 0), (0, 30), (0, 60), (0, 90), (30, 90), (60, 90), (90, 90), (90, 60), (90, 30), (90, 0), (60, 0), (30, 0)]  # fmt: skip
    first = bytes(
        [0, *(v for p in ring for v in p), *(255, 0, 0, 0, 255, 0, 0, 0, 255, 255, 255, 0)]
    )
    # Flag 2 goes on from the edge between the third and fourth corner.
    beyond = [(120, 0), (150, 0), (180, 0), (180, 30), (180, 60), (180, 90), (150, 90), (120, 90)]
    second = bytes([2, *(v for p in beyond for v in p), *(9, 9, 9, 200, 200, 200)])
    with pikepdf.new() as pdf:
        shading = mesh(pdf, 6, first + second)
        space = read_space(shading.ColorSpace)
        made = converted_shading(pdf, shading, space, lambda v: v, pikepdf.Name.DeviceRGB, 3)
        data = np.frombuffer(made.read_bytes(), np.uint8).reshape(2, -1)
        places = (
            np.ascontiguousarray(data[:, 1:129]).view(">u4").reshape(2, 16, 2) / (2**32 - 1) * 255
        )
        assert places[1, :4] == pytest.approx(
            np.array([(90, 90), (90, 60), (90, 30), (90, 0)]), abs=1e-3
        )
        assert shading_samples(made, space)[4:6] == pytest.approx(np.array([[0, 0, 1], [1, 1, 0]]))
        assert ORDER[3] == (0, 3)


def test_a_lattice_without_rows_is_refused() -> None:
    from plinto_core.errors import BadDocument

    with pikepdf.new() as pdf:
        shading = mesh(pdf, 5, bytes(10))
        with pytest.raises(BadDocument):
            converted_shading(
                pdf, shading, read_space(shading.ColorSpace), squared, pikepdf.Name.DeviceRGB, 3
            )
        empty = mesh(pdf, 4, b"")
        made = converted_shading(
            pdf, empty, read_space(empty.ColorSpace), squared, pikepdf.Name.DeviceRGB, 3
        )
        assert made.read_bytes() == b""
