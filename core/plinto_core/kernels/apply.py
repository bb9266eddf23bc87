"""Apply a device link to pixels: tetrahedral for three inputs, Kuhn simplices for all others.

Every output is a convex combination of grid nodes, so a sum that all nodes keep (the TAC) is
kept by every pixel up to rounding. Tables hold four float32 per node (`WIDTH`), scaled to the
output's full range with the rounding half already added.
"""

from __future__ import annotations

import numpy as np
from numba import njit, prange

from plinto_core.arrays import Floats32, Pixels

WIDTH = 4
WIDE = 8
"""Of tables for five outputs and more: one pass of one vector, where two of four would cost twice."""
CHUNK = 8192


@njit(cache=True, fastmath=True)
def apply3_few(  # type: ignore[no-untyped-def]
    pixels, out, table, size, scale, outputs, start, stop
):  # fmt: skip
    """Pixels from start to stop on one core: what a few pixels are done with, where all cores would cost
    more to call than to work."""
    last = size - 2
    sz = np.int64(WIDTH)
    sy = sz * size
    sx = sy * size
    for i in range(start, stop):
        x = np.float32(pixels[i, 0]) * scale
        y = np.float32(pixels[i, 1]) * scale
        z = np.float32(pixels[i, 2]) * scale
        cx = min(np.int64(x), last)
        cy = min(np.int64(y), last)
        cz = min(np.int64(z), last)
        fx = x - np.float32(cx)
        fy = y - np.float32(cy)
        fz = z - np.float32(cz)
        base = cx * sx + cy * sy + cz * sz
        if fx >= fy:
            if fy >= fz:
                one, two, hi, mid, lo = sx, sx + sy, fx, fy, fz
            elif fx >= fz:
                one, two, hi, mid, lo = sx, sx + sz, fx, fz, fy
            else:
                one, two, hi, mid, lo = sz, sx + sz, fz, fx, fy
        elif fx >= fz:
            one, two, hi, mid, lo = sy, sx + sy, fy, fx, fz
        elif fy >= fz:
            one, two, hi, mid, lo = sy, sy + sz, fy, fz, fx
        else:
            one, two, hi, mid, lo = sz, sy + sz, fz, fy, fx
        w0 = np.float32(1.0) - hi
        w1 = hi - mid
        w2 = mid - lo
        p1 = base + one
        p2 = base + two
        p3 = base + sx + sy + sz
        # Written out: the compiler turns four equal lines into one vector operation.
        v0 = w0 * table[base] + w1 * table[p1] + w2 * table[p2] + lo * table[p3]
        v1 = w0 * table[base + 1] + w1 * table[p1 + 1] + w2 * table[p2 + 1] + lo * table[p3 + 1]
        v2 = w0 * table[base + 2] + w1 * table[p1 + 2] + w2 * table[p2 + 2] + lo * table[p3 + 2]
        v3 = w0 * table[base + 3] + w1 * table[p1 + 3] + w2 * table[p2 + 3] + lo * table[p3 + 3]
        out[i, 0] = np.int32(v0)
        if outputs > 1:
            out[i, 1] = np.int32(v1)
        if outputs > 2:
            out[i, 2] = np.int32(v2)
        if outputs > 3:
            out[i, 3] = np.int32(v3)


@njit(cache=True, parallel=True, fastmath=True)
def apply3(
    pixels: Pixels, out: Pixels, table: Floats32, size: int, scale: np.float32, outputs: int
) -> None:
    """pixels : (n, 3); out : (n, outputs); table : flat (size**3 * WIDTH)."""
    n = pixels.shape[0]
    for chunk in prange((n + CHUNK - 1) // CHUNK):
        stop = min(n, (chunk + 1) * CHUNK)
        apply3_few(pixels, out, table, size, scale, outputs, chunk * CHUNK, stop)


@njit(cache=True, parallel=True, fastmath=True)
def apply3_wide(
    pixels: Pixels, out: Pixels, table: Floats32, size: int, scale: np.float32, outputs: int
) -> None:
    """pixels : (n, 3); out : (n, outputs); five to eight outputs; table : flat
    (size**3 * WIDE)."""
    n = pixels.shape[0]
    chunks = (n + CHUNK - 1) // CHUNK
    last = size - 2
    sz = np.int64(WIDE)
    sy = sz * size
    sx = sy * size
    for chunk in prange(chunks):
        value = np.empty(WIDE, np.float32)
        for i in range(chunk * CHUNK, min(n, (chunk + 1) * CHUNK)):
            x = np.float32(pixels[i, 0]) * scale
            y = np.float32(pixels[i, 1]) * scale
            z = np.float32(pixels[i, 2]) * scale
            cx = min(np.int64(x), last)
            cy = min(np.int64(y), last)
            cz = min(np.int64(z), last)
            fx = x - np.float32(cx)
            fy = y - np.float32(cy)
            fz = z - np.float32(cz)
            base = cx * sx + cy * sy + cz * sz
            if fx >= fy:
                if fy >= fz:
                    one, two, hi, mid, lo = sx, sx + sy, fx, fy, fz
                elif fx >= fz:
                    one, two, hi, mid, lo = sx, sx + sz, fx, fz, fy
                else:
                    one, two, hi, mid, lo = sz, sx + sz, fz, fx, fy
            elif fx >= fz:
                one, two, hi, mid, lo = sy, sx + sy, fy, fx, fz
            elif fy >= fz:
                one, two, hi, mid, lo = sy, sy + sz, fy, fz, fx
            else:
                one, two, hi, mid, lo = sz, sy + sz, fz, fy, fx
            w0 = np.float32(1.0) - hi
            w1 = hi - mid
            w2 = mid - lo
            p1 = base + one
            p2 = base + two
            p3 = base + sx + sy + sz
            for o in range(WIDE):
                value[o] = (
                    w0 * table[base + o]
                    + w1 * table[p1 + o]
                    + w2 * table[p2 + o]
                    + lo * table[p3 + o]
                )
            for o in range(outputs):
                out[i, o] = np.int32(value[o])


@njit(cache=True, fastmath=True)
def apply4_few(  # type: ignore[no-untyped-def]
    pixels, out, table, size, scale, outputs, start, stop
):  # fmt: skip
    """Pixels from start to stop on one core."""
    last = size - 2
    s3 = np.int64(WIDTH)
    s2 = s3 * size
    s1 = s2 * size
    s0 = s1 * size
    f = np.empty(4, np.float32)
    s = np.empty(4, np.int64)
    for i in range(start, stop):
        base = np.int64(0)
        s[0], s[1], s[2], s[3] = s0, s1, s2, s3
        for k in range(4):
            v = np.float32(pixels[i, k]) * scale
            c = min(np.int64(v), last)
            f[k] = v - np.float32(c)
            base += c * s[k]
        for a, b in ((0, 1), (2, 3), (0, 2), (1, 3), (1, 2)):
            if f[a] < f[b]:
                f[a], f[b] = f[b], f[a]
                s[a], s[b] = s[b], s[a]
        p1 = base + s[0]
        p2 = p1 + s[1]
        p3 = p2 + s[2]
        p4 = p3 + s[3]
        w0 = np.float32(1.0) - f[0]
        w1 = f[0] - f[1]
        w2 = f[1] - f[2]
        w3 = f[2] - f[3]
        w4 = f[3]
        for o in range(outputs):
            out[i, o] = np.int32(
                w0 * table[base + o]
                + w1 * table[p1 + o]
                + w2 * table[p2 + o]
                + w3 * table[p3 + o]
                + w4 * table[p4 + o]
            )


@njit(cache=True, parallel=True, fastmath=True)
def apply4(
    pixels: Pixels, out: Pixels, table: Floats32, size: int, scale: np.float32, outputs: int
) -> None:
    """pixels : (n, 4); out : (n, outputs); table : flat (size**4 * WIDTH)."""
    n = pixels.shape[0]
    for chunk in prange((n + CHUNK - 1) // CHUNK):
        stop = min(n, (chunk + 1) * CHUNK)
        apply4_few(pixels, out, table, size, scale, outputs, chunk * CHUNK, stop)


@njit(cache=True, parallel=True, fastmath=True)
def apply_any(
    pixels: Pixels, out: Pixels, table: Floats32, size: int, scale: np.float32, outputs: int
) -> None:
    """pixels : (n, inputs) of two inputs or more; out : (n, outputs); table : flat
    (size**inputs * WIDTH)."""
    n, inputs = pixels.shape
    chunks = (n + CHUNK - 1) // CHUNK
    last = size - 2
    for chunk in prange(chunks):
        f = np.empty(inputs, np.float32)
        s = np.empty(inputs, np.int64)
        for i in range(chunk * CHUNK, min(n, (chunk + 1) * CHUNK)):
            base = np.int64(0)
            stride = np.int64(WIDTH)
            # Sorted by insertion, the largest part first; few inks lie off the first node at once.
            for k in range(inputs - 1, -1, -1):
                v = np.float32(pixels[i, k]) * scale
                c = min(np.int64(v), last)
                part = v - np.float32(c)
                base += c * stride
                j = inputs - 1 - k
                while j > 0 and f[j - 1] < part:
                    f[j] = f[j - 1]
                    s[j] = s[j - 1]
                    j -= 1
                f[j] = part
                s[j] = stride
                stride *= size
            for o in range(outputs):
                at = base + o
                value = (np.float32(1.0) - f[0]) * table[at]
                for k in range(inputs):
                    at += s[k]
                    low = f[k + 1] if k + 1 < inputs else np.float32(0.0)
                    value += (f[k] - low) * table[at]
                out[i, o] = np.int32(value)


@njit(cache=True, parallel=True)
def apply1(pixels: Pixels, out: Pixels, table: Pixels) -> None:
    """pixels : (n,) used as an index; table : (entries, outputs); out : (n, outputs)."""
    for i in prange(pixels.shape[0]):
        for o in range(out.shape[1]):
            out[i, o] = table[pixels[i], o]


@njit(cache=True, parallel=True)
def max_total(pixels: Pixels) -> tuple[int, int]:
    """Largest sum over channels of (n, channels) and the index where it stands first."""
    n = pixels.shape[0]
    chunks = (n + CHUNK - 1) // CHUNK
    best = np.full(chunks, -1, np.int64)
    where = np.zeros(chunks, np.int64)
    for chunk in prange(chunks):
        for i in range(chunk * CHUNK, min(n, (chunk + 1) * CHUNK)):
            total = np.int64(0)
            for k in range(pixels.shape[1]):
                total += pixels[i, k]
            if total > best[chunk]:
                best[chunk] = total
                where[chunk] = i
    top = np.argmax(best)
    return best[top], where[top]


@njit(cache=True, parallel=True)
def plate_sums(pixels: Pixels) -> np.ndarray:
    """(channels,) sums of (n, channels) unsigned pixels."""
    n, channels = pixels.shape
    chunks = 64
    part = np.zeros((chunks, channels), np.int64)
    for chunk in prange(chunks):
        for i in range(chunk * n // chunks, (chunk + 1) * n // chunks):
            for c in range(channels):
                part[chunk, c] += pixels[i, c]
    return part.sum(axis=0)
