"""lut8Type, lut16Type, lutAToBType and lutBToAType (ICC.1:2022, 10.10 to 10.13)."""

from __future__ import annotations

import struct
from dataclasses import dataclass, field
from math import prod

import numpy as np

from plinto_core.arrays import Floats
from plinto_core.errors import BadProfile
from plinto_core.icc import reader
from plinto_core.icc.curves import Curve, SampledCurve, parse_curve
from plinto_core.words import say

MAX_NODES = 40_000_000
MAX_CHANNELS = 15


@dataclass(frozen=True)
class Table:
    """One A2B, B2A or gamut table, its steps in the order in which they are applied.

    before : curves on the inputs; clut : (g1, .., gn, outputs) values 0..1 or None;
    after : curves on the outputs; matrix : (3, 4) or None.
    For a lutAToB the order is before, clut, middle, matrix, after; for a lutBToA it is
    before, matrix, middle, clut, after; for lut8 and lut16 matrix, before, clut, after.
    """

    kind: str
    inputs: int
    outputs: int
    before: tuple[Curve, ...] = ()
    clut: Floats | None = None
    middle: tuple[Curve, ...] = ()
    matrix: Floats | None = None
    after: tuple[Curve, ...] = field(default=())


def _check_size(nodes: int, outputs: int) -> None:
    if nodes * outputs > MAX_NODES:
        raise BadProfile(say("icc.table-numbers", count=nodes * outputs))


def _channels(data: bytes) -> tuple[int, int]:
    inputs, outputs = reader.u8(data, 8), reader.u8(data, 9)
    if not (1 <= inputs <= MAX_CHANNELS and 1 <= outputs <= MAX_CHANNELS):
        raise BadProfile(say("icc.table-channels", inputs=inputs, outputs=outputs))
    return inputs, outputs


def parse_mft(data: bytes) -> Table:
    """Read a lut8Type (mft1) or lut16Type (mft2)."""
    kind = reader.signature(data, 0)
    inputs, outputs = _channels(data)
    grid = reader.u8(data, 10)
    if grid < 2:
        raise BadProfile(say("icc.table-grid"))
    matrix = reader.s15fixed16(data, 12, 9).reshape(3, 3)
    nodes = grid**inputs
    _check_size(nodes, outputs)
    if kind == "mft1":
        entries_in = entries_out = 256
        offset, size, read = 48, 1, reader.u8_array
    else:
        entries_in, entries_out = reader.u16(data, 48), reader.u16(data, 50)
        offset, size, read = 52, 2, reader.u16_array
        if not (2 <= entries_in <= 4096 and 2 <= entries_out <= 4096):
            raise BadProfile(say("icc.table-curves"))
    before = read(data, offset, inputs * entries_in).reshape(inputs, entries_in)
    offset += inputs * entries_in * size
    clut = read(data, offset, nodes * outputs).reshape((grid,) * inputs + (outputs,))
    offset += nodes * outputs * size
    after = read(data, offset, outputs * entries_out).reshape(outputs, entries_out)
    return Table(
        kind=kind,
        inputs=inputs,
        outputs=outputs,
        before=tuple(SampledCurve(row) for row in before),
        clut=clut,
        after=tuple(SampledCurve(row) for row in after),
        matrix=None
        if inputs != 3 or np.allclose(matrix, np.eye(3), atol=1e-9)
        else np.hstack([matrix, np.zeros((3, 1))]),
    )


def _curve_set(data: bytes, offset: int, count: int) -> tuple[Curve, ...]:
    curves = []
    for _ in range(count):
        curve, size = parse_curve(data, offset)
        curves.append(curve)
        offset += (size + 3) & ~3
    return tuple(curves)


def _clut(data: bytes, offset: int, inputs: int, outputs: int) -> Floats:
    reader.need(data, offset, 20, "a table")
    grid = tuple(data[offset : offset + inputs])
    if min(grid) < 2:
        raise BadProfile(say("icc.table-grid"))
    nodes = prod(grid)
    _check_size(nodes, outputs)
    precision = data[offset + 16]
    if precision not in (1, 2):
        raise BadProfile(say("icc.table-precision", precision=precision))
    read = reader.u8_array if precision == 1 else reader.u16_array
    return read(data, offset + 20, nodes * outputs).reshape((*grid, outputs))


def parse_mab(data: bytes) -> Table:
    """Read a lutAToBType (mAB) or lutBToAType (mBA)."""
    kind = reader.signature(data, 0)
    inputs, outputs = _channels(data)
    offset_b, offset_matrix, offset_m, offset_clut, offset_a = (
        reader.u32(data, 12 + 4 * i) for i in range(5)
    )
    forward = kind == "mAB "
    pcs_side, device_side = (outputs, inputs) if forward else (inputs, outputs)
    b = _curve_set(data, offset_b, pcs_side) if offset_b else ()
    m = _curve_set(data, offset_m, 3) if offset_m else ()
    a = _curve_set(data, offset_a, device_side) if offset_a else ()
    matrix = None
    if offset_matrix:
        numbers = reader.s15fixed16(data, offset_matrix, 12)
        matrix = np.hstack([numbers[:9].reshape(3, 3), numbers[9:].reshape(3, 1)])
    clut = _clut(data, offset_clut, inputs, outputs) if offset_clut else None
    if (matrix is not None or m) and pcs_side != 3:
        raise BadProfile(say("icc.matrix-channels"))
    if clut is None and inputs != outputs:
        raise BadProfile(say("icc.table-no-grid"))
    return Table(
        kind=kind.strip(),
        inputs=inputs,
        outputs=outputs,
        before=a if forward else b,
        clut=clut,
        middle=m,
        matrix=matrix,
        after=b if forward else a,
    )


def pack_mft2(table: Table) -> bytes:
    """Bytes of a lut16Type; every curve of one side must be a table of one length."""
    if table.clut is None:
        raise ValueError("lut16Type needs a grid")
    before = np.array([c.table for c in table.before if isinstance(c, SampledCurve)])
    after = np.array([c.table for c in table.after if isinstance(c, SampledCurve)])
    head = b"mft2" + bytes(4)
    head += bytes([table.inputs, table.outputs, table.clut.shape[0], 0])
    head += np.round(np.eye(3) * 65536).astype(">i4").tobytes()
    head += struct.pack(">HH", before.shape[1], after.shape[1])

    def u16(values: Floats) -> bytes:
        return np.round(np.clip(values, 0, 1) * 65535).astype(">u2").tobytes()

    return head + u16(before) + u16(table.clut) + u16(after)


def pack_mab(table: Table) -> bytes:
    """Bytes of a lutAToBType or lutBToAType with the elements the table has."""
    forward = table.kind == "mAB"
    a, b = (table.before, table.after) if forward else (table.after, table.before)
    body = bytearray(32)
    offsets = dict.fromkeys("bxmca", 0)

    def put(key: str, data: bytes) -> None:
        offsets[key] = len(body)
        body.extend(data + bytes(-len(data) % 4))

    def curves(items: tuple[Curve, ...]) -> bytes:
        return b"".join(p + bytes(-len(p) % 4) for p in (c.pack() for c in items))

    put("b", curves(b))
    if table.matrix is not None:
        m = np.concatenate([table.matrix[:, :3].ravel(), table.matrix[:, 3]])
        put("x", np.round(m * 65536).astype(">i4").tobytes())
        put("m", curves(table.middle))
    if table.clut is not None:
        grid = bytes(table.clut.shape[:-1])
        values = np.round(np.clip(table.clut, 0, 1) * 65535).astype(">u2").tobytes()
        put("c", grid + bytes(16 - len(grid)) + bytes([2, 0, 0, 0]) + values)
        put("a", curves(a))
    body[0:4] = table.kind.ljust(4).encode()
    body[8:10] = bytes([table.inputs, table.outputs])
    struct.pack_into(">5I", body, 12, *(offsets[k] for k in "bxmca"))
    return bytes(body)
