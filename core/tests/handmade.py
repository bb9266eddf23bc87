"""Profiles made by hand from functions, so that what they do is known without reading them."""

from __future__ import annotations

import struct
from collections.abc import Callable

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.colorimetry.cielab import D50
from plinto_core.icc import Profile, values
from plinto_core.icc.curves import SampledCurve
from plinto_core.icc.header import IccHeader
from plinto_core.icc.spaces import space_of_channels
from plinto_core.icc.tables import Table, pack_mft2
from plinto_core.icc.write import write_profile
from plinto_core.transform.encoding import XYZ_SCALE, lab_to_unit, unit_to_lab

STRAIGHT = SampledCurve(np.linspace(0, 1, 2))


def cmyk_profile(
    forward: Callable[[Floats], Floats],
    backward: Callable[[Floats], Floats],
    *,
    grid: int = 5,
    back_grid: int = 33,
    name: str = "Made by hand",
) -> Profile:
    """A CMYK profile of PCS Lab: forward (n, 4) inks to Lab, backward (n, 3) Lab to inks."""
    return ink_profile(4, forward, backward, grid=grid, back_grid=back_grid, name=name)


def ink_profile(
    inks: int,
    forward: Callable[[Floats], Floats],
    backward: Callable[[Floats], Floats],
    *,
    grid: int = 5,
    back_grid: int = 33,
    name: str = "Made by hand",
) -> Profile:
    """The same for any number of inks."""
    axes = [np.linspace(0, 1, grid)] * inks
    device = np.stack(np.meshgrid(*axes, indexing="ij"), -1).reshape(-1, inks)
    lab = lab_to_unit(forward(device), legacy=True).reshape((grid,) * inks + (3,))
    axes = [np.linspace(0, 1, back_grid)] * 3
    units = np.stack(np.meshgrid(*axes, indexing="ij"), -1).reshape(-1, 3)
    back = np.clip(backward(unit_to_lab(units, legacy=True)), 0, 1)
    back = back.reshape((back_grid,) * 3 + (inks,))
    a2b = Table("mft2", inks, 3, (STRAIGHT,) * inks, np.clip(lab, 0, 1), (), None, (STRAIGHT,) * 3)
    b2a = Table("mft2", 3, inks, (STRAIGHT,) * 3, back, (), None, (STRAIGHT,) * inks)
    return _packed("Lab ", pack_mft2(a2b), pack_mft2(b2a), name, space_of_channels(inks))


def tinting_profile(
    tone: Callable[[Floats], Floats], solids: Floats, paper: Floats = D50
) -> Profile:
    """A CMYK profile of PCS XYZ whose single inks print the tone values `tone` says, exactly by
    Murray-Davies; solids : (4, 3) XYZ of the full inks."""
    nodes = np.stack(np.meshgrid(*[np.array([0.0, 1.0])] * 4, indexing="ij"), -1).reshape(-1, 4)
    xyz = np.maximum(paper + nodes @ (solids - paper), 0.001) / XYZ_SCALE
    curve = SampledCurve(tone(np.linspace(0, 1, 4001)))
    a2b = Table("mft2", 4, 3, (curve,) * 4, xyz.reshape(2, 2, 2, 2, 3), (), None, (STRAIGHT,) * 3)
    back = np.zeros((2, 2, 2, 4))
    back[0, 0, 0] = 1
    b2a = Table("mft2", 3, 4, (STRAIGHT,) * 3, back, (), None, (STRAIGHT,) * 4)
    return _packed("XYZ ", pack_mft2(a2b), pack_mft2(b2a), "Tints")


def _packed(pcs: str, a2b: bytes, b2a: bytes, name: str, space: str = "CMYK") -> Profile:
    header = IccHeader(size=0, version=(2, 4, 0), device_class="prtr", colour_space=space, pcs=pcs)
    tags = {
        "desc": values.pack_desc(name), "cprt": values.pack_text("None."), "wtpt": values.pack_xyz(D50),
        "A2B0": a2b, "A2B1": a2b, "A2B2": a2b, "B2A0": b2a, "B2A1": b2a, "B2A2": b2a,
    }  # fmt: skip
    return Profile(write_profile(header, tags))


def simple_print(inks: Floats) -> Floats:
    """Inks whose print is known: black takes L* away, magenta adds 20 a*, yellow 20 b*; cyan nothing."""
    return np.stack([100 * (1 - inks[:, 3]), 20 * inks[:, 1], 20 * inks[:, 2]], axis=1)


_INKS_TO_LAB = np.array([[-30.0, -45, -45], [-48, 70, -3], [-7, -4, 85], [-80, 0, 0]])


def linear_print(inks: Floats) -> Floats:
    """A press whose inks add up in Lab, far from any real one and known without reading a table."""
    return np.array([96.0, 0, -2]) + np.asarray(inks @ _INKS_TO_LAB) * 0.9


def linear_inks(lab: Floats) -> Floats:
    """Its chromatic inks solved from a* and b*, black for what lightness is left."""
    rest = (lab - np.array([96.0, 0, -2])) / 0.9
    m_over_c = rest[:, 1] / 70
    yellow = np.clip((rest[:, 2] + 10) / 90, 0, 1)
    cyan = np.clip(-rest[:, 2] / 90, 0, 1)
    magenta = np.clip(m_over_c + 0.3 * cyan, 0, 1)
    black = np.clip((-rest[:, 0] - 30 * cyan - 48 * magenta - 7 * yellow) / 80, 0, 0.95)
    return np.stack([cyan, magenta, yellow, black], axis=1)


def linear_press(name: str = "Made by hand") -> Profile:
    return cmyk_profile(linear_print, linear_inks, back_grid=17, name=name)


def with_tags(profile: Profile, tags: dict[str, bytes]) -> Profile:
    """The same profile with tags added, or others in their place."""
    own = {name: profile.raw(name) for name in profile.directory}
    return Profile(write_profile(profile.header, own | tags))


def mpet(inputs: int, outputs: int, *elements: bytes) -> bytes:
    """A multiProcessElementsType of elements that stand one after the other."""
    at = 16 + 8 * len(elements)
    head = b"mpet" + struct.pack(">IHHI", 0, inputs, outputs, len(elements))
    for element in elements:
        head += struct.pack(">II", at, len(element))
        at += len(element)
    return head + b"".join(elements)


def matf(matrix: Floats, offset: Floats) -> bytes:
    """A matrix element, (outputs, inputs), with its offsets."""
    numbers = np.concatenate([matrix.ravel(), offset]).astype(">f4").tobytes()
    return b"matf" + struct.pack(">IHH", 0, matrix.shape[1], matrix.shape[0]) + numbers


def clutf(grid: Floats) -> bytes:
    """A grid element, (g1, .., gn, outputs)."""
    points = bytes(grid.shape[:-1])
    head = b"clut" + struct.pack(">IHH", 0, len(points), grid.shape[-1])
    return head + points + bytes(16 - len(points)) + grid.astype(">f4").tobytes()


def parf(kind: int, *parameters: float) -> bytes:
    """A segment by a formula."""
    numbers = np.array(parameters).astype(">f4").tobytes()
    return b"parf" + struct.pack(">IHH", 0, kind, 0) + numbers


def samf(*samples: float) -> bytes:
    """A segment by samples; its first is the end of the segment before."""
    return b"samf" + struct.pack(">II", 0, len(samples)) + np.array(samples).astype(">f4").tobytes()


def cvst(*curves: tuple[tuple[float, ...], tuple[bytes, ...]]) -> bytes:
    """A set of curves, each its breaks and its segments."""
    packed = [
        b"curf" + struct.pack(">IHH", 0, len(parts), 0) + np.array(breaks).astype(">f4").tobytes() + b"".join(parts)
        for breaks, parts in curves
    ]  # fmt: skip
    at = 12 + 8 * len(packed)
    head = b"cvst" + struct.pack(">IHH", 0, len(packed), len(packed))
    for curve in packed:
        head += struct.pack(">II", at, len(curve))
        at += len(curve)
    return head + b"".join(packed)
