"""Device links: any function of device values, evaluated once on a grid, applied fast to pixels."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from plinto_core.arrays import Floats, Floats32, Pixels
from plinto_core.errors import NotSupported
from plinto_core.fields import Part
from plinto_core.keeping import Kept
from plinto_core.kernels.apply import (
    CHUNK,
    WIDE,
    WIDTH,
    apply1,
    apply3,
    apply3_few,
    apply3_wide,
    apply4,
    apply4_few,
    apply_any,
)
from plinto_core.kernels.interpolate import interpolate
from plinto_core.words import say

Function = Callable[[Floats], Floats]
GRIDS: dict[int, tuple[int, ...]] = {
    2: (129, 257), 3: (33, 49, 65), 4: (17, 23, 29), 5: (11,), 6: (9,), 7: (7,), 8: (5,),
}  # fmt: skip
"""Grid sizes tried in turn, by number of inputs. Seven inks of seven nodes are 800,000 already: what
goes through links of five inks and more is for the screen."""

_FEW = {3: apply3_few, 4: apply4_few}


def _axis(size: int) -> Floats:
    return np.linspace(0.0, 1.0, size)


def grid_nodes(inputs: int, size: int) -> Floats:
    """(size**inputs, inputs) device values of the nodes, last input fastest."""
    axes = np.meshgrid(*[_axis(size)] * inputs, indexing="ij")
    return np.stack(axes, axis=-1).reshape(-1, inputs)


@dataclass(frozen=True)
class DeviceLink:
    """A grid of `outputs` values 0..1 over `inputs` device channels."""

    inputs: int
    outputs: int
    size: int
    nodes: Floats32
    """(size**inputs, outputs), values 0..1."""
    curve: Floats | None = None
    """(m,) where on the axes device values 0, 1/(m-1), … 1 lie: rising, 0 to 1; None for evenly.
    Grids of linear-light numbers need it, since most of their nodes would lie in the highlights."""

    def _placed(self, pixels: Pixels) -> Pixels:
        """Pixels along the axes of the grid."""
        if self.curve is None:
            return pixels
        levels = np.linspace(0.0, 1.0, int(np.iinfo(pixels.dtype).max) + 1)
        lut = np.interp(levels, np.linspace(0.0, 1.0, self.curve.size), self.curve)
        return np.asarray(np.round(lut * 65535).astype(np.uint16)[pixels])

    def apply(self, pixels: Pixels, *, bits: int) -> Pixels:
        """(n, inputs) uint8 or uint16 pixels to (n, outputs) of 8 or 16 bits."""
        dtype, top = (np.uint16, 65535) if bits == 16 else (np.uint8, 255)
        full = np.iinfo(pixels.dtype).max
        if self.inputs == 1:
            out = np.empty((pixels.shape[0], self.outputs), dtype)
            values = np.arange(full + 1) * ((self.size - 1) / full)
            lut = np.stack(
                [
                    np.interp(values, np.arange(self.size), self.nodes[:, o])
                    for o in range(self.outputs)
                ],
                axis=1,
            )
            apply1(np.ascontiguousarray(pixels[:, 0]), out, np.round(lut * top).astype(dtype))
            return out
        pixels = self._placed(pixels)
        full = np.iinfo(pixels.dtype).max
        kernel = {3: apply3, 4: apply4}.get(self.inputs, apply_any)
        scale = np.float32((self.size - 1) / full)
        source = np.ascontiguousarray(pixels)
        if self.inputs == 3 and WIDTH < self.outputs <= WIDE:
            out = np.empty((pixels.shape[0], self.outputs), dtype)
            apply3_wide(source, out, _table(self.nodes, WIDE, top), self.size, scale, self.outputs)
            return out
        few = _FEW.get(self.inputs) if pixels.shape[0] <= CHUNK else None
        parts = []
        for start in range(0, self.outputs, WIDTH):
            outputs = min(WIDTH, self.outputs - start)
            out = np.empty((pixels.shape[0], outputs), dtype)
            if few is not None:
                few(
                    source, out, self._small_table(start, top), self.size, scale, outputs, 0,
                    pixels.shape[0],
                )  # fmt: skip
            else:
                table = _table(self.nodes[:, start : start + WIDTH], WIDTH, top)
                kernel(source, out, table, self.size, scale, outputs)
            parts.append(out)
        return parts[0] if len(parts) == 1 else np.concatenate(parts, axis=1)

    def _small_table(self, start: int, top: int) -> Floats32:
        """A table that is kept: a document of small pictures asks for it thousands of times."""
        if (start, top) not in self._tables:
            self._tables[start, top] = _table(self.nodes[:, start : start + WIDTH], WIDTH, top)
        return self._tables[start, top]

    @cached_property
    def _tables(self) -> dict[tuple[int, int], Floats32]:
        return {}

    def evaluate(self, device: Floats) -> Floats:
        """(n, inputs) floats 0..1 to (n, outputs) floats, by the same interpolation as pixels."""
        grid = np.full(self.inputs, self.size, dtype=np.int64)
        flat = np.ascontiguousarray(self.nodes, dtype=np.float64).reshape(-1)
        values = np.ascontiguousarray(device, dtype=np.float64)
        if self.curve is not None:
            values = np.interp(values, np.linspace(0.0, 1.0, self.curve.size), self.curve)
        return np.asarray(interpolate(flat, grid, self.outputs, values, True))


def _table(nodes: Floats32, width: int, top: int) -> Floats32:
    """Nodes as kernels take them: `width` values each, scaled to `top`, the rounding half added."""
    table = np.zeros((nodes.shape[0], width), np.float32)
    table[:, : nodes.shape[1]] = nodes * np.float32(top) + np.float32(0.5)
    return table.reshape(-1)


def build_link(
    function: Function, inputs: int, *, size: int | None = None, curve: Floats | None = None
) -> DeviceLink:
    """Evaluate `function` ((n, inputs) to (n, outputs), 0..1) on a grid of `size` per input.

    curve : see DeviceLink; not for one input, whose every level is a node.
    """
    if inputs != 1 and inputs not in GRIDS:
        raise NotSupported(say("transform.channels-unconverted", channels=inputs))
    if inputs == 1:
        size = 65536
    else:
        # A grid that a screen of three channels has would fill any memory with seven.
        size = size or GRIDS[inputs][0]
        size = min(size, GRIDS[inputs][-1]) if inputs > 4 else size
    device = grid_nodes(inputs, size)
    if curve is not None and inputs > 1:
        device = np.interp(device, curve, np.linspace(0.0, 1.0, curve.size))
    nodes = np.clip(function(device), 0.0, 1.0).astype(np.float32)
    return DeviceLink(inputs, nodes.shape[1], size, nodes, curve if inputs > 1 else None)


def probes(inputs: int) -> dict[str, Floats]:
    """Device values 0..1 that a link is measured at, by what they are: random ones, greys, near-greys
    and darks (of inks: the single inks, black most of all)."""
    rng = np.random.default_rng(20)
    ramp = np.linspace(0.0, 1.0, 1021)[:, None]
    if inputs != 3:
        alone = np.concatenate([ramp * unit for unit in np.eye(inputs)])
        return {"random": rng.random((4096, inputs)), "single inks": alone}
    near = np.clip(ramp + rng.uniform(-0.03, 0.03, (1021, inputs)), 0, 1)
    return {
        "random": rng.random((4096, inputs)),
        "greys": np.repeat(ramp, inputs, axis=1),
        "near-greys": near,
        "darks": rng.random((2048, inputs)) ** 3,
    }


class LinkError(Part):
    """A link against the function it stands for, in the unit of the difference; grid : nodes a side."""

    grid: int
    mean: float
    p99: float
    max: float


def build_measured_link(
    function: Function,
    inputs: int,
    difference: Callable[[Floats, Floats], Floats],
    *,
    mean: float = 0.15,
    percentile_99: float = 0.6,
    curve: Floats | None = None,
    everywhere: bool = True,
) -> tuple[DeviceLink, LinkError]:
    """The smallest grid whose error, by `difference` of outputs, stays within the limits.

    The limits hold, and the error is stated, for the worst kind of colours of `probes`; everywhere=False
    asks random ones only, as former recipes did. The largest grid is taken where none is good enough.
    """
    if inputs == 1:
        return build_link(function, 1), LinkError(grid=65536, mean=0.0, p99=0.0, max=0.0)
    asked = probes(inputs)
    kinds = list(asked.values()) if everywhere else [asked["random"]]
    exact = [function(probe) for probe in kinds]
    for size in GRIDS[inputs]:
        link = build_link(function, inputs, size=size, curve=curve)
        errors = [
            difference(e, link.evaluate(probe)) for e, probe in zip(exact, kinds, strict=True)
        ]
        stated = LinkError(
            grid=size,
            mean=max(float(e.mean()) for e in errors),
            p99=max(float(np.percentile(e, 99)) for e in errors),
            max=max(float(e.max()) for e in errors),
        )
        if stated.mean <= mean and stated.p99 <= percentile_99:
            break
    return link, stated


def link_cache(capacity: int = 256 << 20) -> Kept[str, DeviceLink]:
    """A home for links by recipe hash, bounded by bytes."""
    return Kept(capacity, lambda link: link.nodes.nbytes)
