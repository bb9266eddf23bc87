"""Constrained least squares from Lab aims to mixtures of any inks, one colour at a time, all cores.

A mixture is what the solver moves: three colours and black, or the inks themselves. `spread` turns it
into the inks that print it: an extra ink takes the place of the two colours it lies between, a light
ink that of the low tones of its dark one. Inks follow the mixture without a jump, and the mixture the
aim, so that neighbouring colours get neighbouring inks. The steps are those of separate.py, on the
press's own table; box limits hold by freezing, the TAC by moving along its plane, a last step
projects hard.

A plan is what `spread` needs, as arrays (inks/mixing.py fills it): for every axis its dark and light
ink (-1: none), the tones of both along it (axes, samples, 2), the extra ink opposite to each of three
colours (-1: none), and the hand-over to it (3, samples, 2): extra ink, and the second colour.
"""

from __future__ import annotations

import numpy as np
from numba import njit, prange

from plinto_core.arrays import Floats
from plinto_core.kernels.separate import _cost, _residual, _solve

_PART = 64
"""Colours that a thread meets in the same room, one after the other."""


@njit(cache=True, inline="always")
def _along(curve, u):  # type: ignore[no-untyped-def]
    """Value and slope of two curves (samples, 2) at u in 0..1: (first, its slope, second, its slope)."""
    last = curve.shape[0] - 1
    v = min(max(u, 0.0), 1.0) * last
    c = int(v)
    if c > last - 1:
        c = last - 1
    f = v - c
    d0 = curve[c + 1, 0] - curve[c, 0]
    d1 = curve[c + 1, 1] - curve[c, 1]
    return curve[c, 0] + f * d0, d0 * last, curve[c, 1] + f * d1, d1 * last


@njit(cache=True)
def _spread(x, plan, y, e, u, du):  # type: ignore[no-untyped-def]
    """Inks y (n,) that print the mixture x (v,), and e (n, v), how they change with it.

    u (v,), du (v, v) : room to work in.
    """
    dark, light, tones, extra, hand = plan
    v = x.size
    n = y.size
    for k in range(v):
        u[k] = x[k]
        for j in range(v):
            du[k, j] = 0.0
        du[k, k] = 1.0
    for i in range(n):
        y[i] = 0.0
        for k in range(v):
            e[i, k] = 0.0
    if extra.size == 3 and extra.max() >= 0:
        d = 0
        for k in range(1, 3):
            if x[k] < x[d]:
                d = k
        h = (d + 1) % 3
        n2 = (d + 2) % 3
        if x[n2] > x[h]:
            h, n2 = n2, h
        p = 1.0 - x[d]
        if extra[d] >= 0 and p > 1e-9 and x[n2] > x[d]:
            hi = (x[h] - x[d]) / p
            lo = (x[n2] - x[d]) / p
            hd = (x[h] - 1.0) / (p * p)
            ld = (x[n2] - 1.0) / (p * p)
            o, do, s, ds = _along(hand[d], lo)
            q = max(1.0 - lo, 1e-9)
            share = min((hi - lo) / q, 1.0)
            a = s + (1.0 - s) * share
            ah = (1.0 - s) / q
            al = ds * (1.0 - share) + (1.0 - s) * (hi - 1.0) / (q * q)
            u[h] = x[d] + p * a
            du[h, h] = ah
            du[h, n2] = al
            du[h, d] = 1.0 - a + p * (ah * hd + al * ld)
            u[n2] = x[d] + p * s
            du[n2, n2] = ds
            du[n2, h] = 0.0
            du[n2, d] = 1.0 - s + p * ds * ld
            y[extra[d]] = p * o
            e[extra[d], n2] = do
            e[extra[d], d] = -o + p * do * ld
    for k in range(v):
        t0, d0, t1, d1 = _along(tones[k], u[k])
        y[dark[k]] = t0
        for j in range(v):
            e[dark[k], j] = d0 * du[k, j]
        if light[k] >= 0:
            y[light[k]] = t1
            for j in range(v):
                e[light[k], j] = d1 * du[k, j]


@njit(cache=True)
def _look(table, size, axes, y, active, lab, jac, room):  # type: ignore[no-untyped-def]
    """Multilinear Lab (3,) and derivative (3, n) of inks y on straightened axes.

    active (n,) : whether an ink may move; one that is out and may not is left out of the sum. One ink
    after the other is taken out of the corners of a cell, and out of the differences along those before.
    """
    f, g, s, at, places, values, slopes = room
    n = y.size
    base = 0
    stride = 3
    m = 0
    last = axes.shape[1] - 1
    for k in range(n - 1, -1, -1):
        t = y[k] * last
        c = int(t)
        if c > last - 1:
            c = last - 1
        slope = axes[k, c + 1] - axes[k, c]
        place = (axes[k, c] + (t - c) * slope) * (size - 1)
        cell = int(place)
        if cell > size - 2:
            cell = size - 2
        base += cell * stride
        if active[k] or place > cell:
            f[m] = place - cell
            g[m] = slope * last * (size - 1)
            s[m] = stride
            at[m] = k
            m += 1
        stride *= size
    places[0] = base
    for k in range(m):
        for c in range(1 << k):
            places[c + (1 << k)] = places[c] + s[k]
    for o in range(3):
        for k in range(n):
            jac[o, k] = 0.0
        for c in range(1 << m):
            values[c] = table[places[c] + o]
        for k in range(m - 1, -1, -1):
            half = 1 << k
            part = f[k]
            for c in range(half):
                d = values[c + half] - values[c]
                slopes[k, c] = d
                values[c] += part * d
            for j in range(k + 1, m):
                for c in range(half):
                    slopes[j, c] += part * (slopes[j, c + half] - slopes[j, c])
        lab[o] = values[0]
        for k in range(m):
            jac[o, at[k]] = slopes[k, 0] * g[k]


@njit(cache=True)
def _state(table, size, axes, x, plan, y, e, active, lab, jac_y, jac, u, du, room):  # type: ignore[no-untyped-def]
    """What the mixture x prints, how that changes with it (3, v), and its total of ink."""
    _spread(x, plan, y, e, u, du)
    n, v = e.shape
    total = 0.0
    for i in range(n):
        total += y[i]
        active[i] = False
        for k in range(v):
            if e[i, k] != 0.0:
                active[i] = True
    _look(table, size, axes, y, active, lab, jac_y, room)
    for o in range(3):
        for k in range(v):
            t = 0.0
            for i in range(n):
                t += jac_y[o, i] * e[i, k]
            jac[o, k] = t
    return total


@njit(cache=True)
def _total(x, plan, y, e, u, du):  # type: ignore[no-untyped-def]
    _spread(x, plan, y, e, u, du)
    total = 0.0
    for i in range(y.size):
        total += y[i]
    return total


@njit(cache=True)
def _within(x, limits, tac, held, plan, y, e, kept, u, du):  # type: ignore[no-untyped-def]
    """Into the box, then evenly down until the inks keep the TAC; the held axis stays as it is.

    Where an ink hands over to another a total may fall while an axis rises, so what halving finds keeps
    the TAC, and need not be the very least that must go.
    """
    v = x.size
    for k in range(v):
        if k != held:
            x[k] = min(max(x[k], 0.0), limits[k])
    if _total(x, plan, y, e, u, du) <= tac:
        return
    for k in range(v):
        kept[k] = x[k]
    low, high = 0.0, 1.0
    for _ in range(16):
        cut = 0.5 * (low + high)
        for k in range(v):
            if k != held:
                x[k] = max(0.0, kept[k] - cut)
        if _total(x, plan, y, e, u, du) > tac:
            low = cut
        else:
            high = cut
    for k in range(v):
        if k != held:
            x[k] = max(0.0, kept[k] - high)


@njit(cache=True)
def _room(n, v):  # type: ignore[no-untyped-def]
    """All that _meet works in, for n inks and v axes: a colour is met sooner than it is allocated."""
    point = (np.empty(n), np.empty((n, v)), np.empty(n, np.bool_), np.empty(v), np.empty((v, v)))
    steps = (np.empty(v), np.empty(v), np.empty(v), np.empty(v), np.empty(v, np.int64))
    matrices = (np.empty((v, v)), np.empty((v, v)), np.empty((v, 2)))
    colours = (np.empty(3), np.empty(3), np.empty(3), np.empty((3, n)), np.empty((3, v)))
    cell = (
        np.empty(n), np.empty(n), np.empty(n, np.int64), np.empty(n, np.int64),
        np.empty(1 << n, np.int64), np.empty(1 << n), np.empty((n, 1 << n)),
    )  # fmt: skip
    return point, steps, matrices, colours, cell


@njit(cache=True)
def _meet(  # type: ignore[no-untyped-def]
    table, size, axes, plan, n, x, aim, wish, pull, limits, tac, weights, held, iterations, r, room,
):  # fmt: skip
    """Move x towards the aim; returns the weighted distance that remains, r holds its parts."""
    v = x.size
    point, steps, matrices, colours, cell = room
    y, e, active, u, du = point
    trial, kept, load, gradient, free = steps
    hessian, system, right = matrices
    lab, trial_lab, trial_r, jac_y, jac = colours
    chroma = np.sqrt(aim[1] * aim[1] + aim[2] * aim[2])
    ca, sa = 1.0, 0.0
    if chroma > 1e-9:
        ca, sa = aim[1] / chroma, aim[2] / chroma
    wc = weights[1] / (1.0 + 0.045 * chroma)
    wh = weights[2] / (1.0 + 0.015 * chroma)
    _within(x, limits, tac, held, plan, y, e, kept, u, du)
    total = _state(
        table, size, axes, x, plan, y, e, active, lab, jac_y, jac, u, du, cell
    )  # fmt: skip
    _residual(lab, aim, chroma, ca, sa, weights, r)
    cost = _cost(r, x, wish, pull, v)
    damping = 1e-3
    for _ in range(iterations):
        for k in range(v):
            load[k] = 0.0
            for i in range(n):
                load[k] += e[i, k]
            jl = weights[0] * jac[0, k]
            jc = wc * (jac[1, k] * ca + jac[2, k] * sa)
            jh = wh * (jac[2, k] * ca - jac[1, k] * sa)
            jac[0, k], jac[1, k], jac[2, k] = jl, jc, jh
        for k in range(v):
            gradient[k] = pull[k] * pull[k] * (x[k] - wish[k])
            for o in range(3):
                gradient[k] += jac[o, k] * r[o]
            for j in range(v):
                hessian[k, j] = (
                    jac[0, k] * jac[0, j] + jac[1, k] * jac[1, j] + jac[2, k] * jac[2, j]
                )
            hessian[k, k] += pull[k] * pull[k]
        better = False
        previous = cost
        for _ in range(8):
            m = 0
            for k in range(v):
                low = x[k] <= 0.0 and gradient[k] > 0.0
                high = x[k] >= limits[k] and gradient[k] < 0.0
                if k != held and not low and not high:
                    free[m] = k
                    m += 1
            if m == 0:
                break
            for a in range(m):
                for b in range(m):
                    system[a, b] = hessian[free[a], free[b]]
                system[a, a] += damping * (hessian[free[a], free[a]] + 1.0)
                right[a, 0] = -gradient[free[a]]
                right[a, 1] = load[free[a]]
            _solve(system, right, m)
            step = 0.0
            along = 0.0
            for a in range(m):
                step += load[free[a]] * right[a, 0]
                along += load[free[a]] * right[a, 1]
            shift = 0.0
            if total + step > tac and abs(along) > 1e-12:
                shift = (step - (tac - total)) / along
            for k in range(v):
                trial[k] = x[k]
            for a in range(m):
                trial[free[a]] = x[free[a]] + right[a, 0] - shift * right[a, 1]
            _within(trial, limits, tac, held, plan, y, e, kept, u, du)
            trial_total = _state(
                table, size, axes, trial, plan, y, e, active, trial_lab, jac_y, jac, u, du, cell
            )  # fmt: skip
            _residual(trial_lab, aim, chroma, ca, sa, weights, trial_r)
            new = _cost(trial_r, trial, wish, pull, v)
            if new < cost:
                cost = new
                total = trial_total
                for k in range(v):
                    x[k] = trial[k]
                for o in range(3):
                    r[o] = trial_r[o]
                damping = max(damping * 0.2, 1e-9)
                better = True
                break
            damping = damping * 8.0 + 1e-4
        if not better or previous - cost < 1e-8 * (1.0 + cost):
            break
    return np.sqrt(r[0] * r[0] + r[1] * r[1] + r[2] * r[2])


@njit(cache=True, parallel=True)
def mix(
    table: Floats, size: int, axes: Floats,
    dark: np.ndarray, light: np.ndarray, tones: Floats, extra: np.ndarray, hand: Floats,
    aims: Floats, starts: Floats, wanted: Floats, black: int, pulls: Floats, hold: float,
    limits: Floats, tac: float, weights: Floats, iterations: int, enough: float,
    mixtures: Floats, missed: Floats,
) -> None:  # fmt: skip
    """Fill mixtures (m, v) and missed (m,), the weighted distance that remains.

    table : flat grid of Lab, n inks of `size` nodes on axes straightened by axes (n, samples);
    aims (m, 3) Lab; starts (m, v); black : the axis that is held at wanted (m,), -1 for none; hold :
    how strongly it holds on to that where it must give way; pulls (v,) : weight of the starts on
    every axis; limits (v,); tac as a sum of shares; enough : the distance that counts as met, less than
    0 where black is to give way at once.
    """
    v = limits.size
    n = axes.shape[0]
    plan = (dark, light, tones, extra, hand)
    for part in prange((aims.shape[0] + _PART - 1) // _PART):
        r = np.empty(3)
        room = _room(n, v)
        for i in range(part * _PART, min((part + 1) * _PART, aims.shape[0])):
            x = starts[i].copy()
            strength = pulls.copy()
            if black >= 0:
                x[black] = min(max(wanted[i], 0.0), min(limits[black], tac))
            wish = x.copy()
            away = np.inf
            # One call of _meet for both turns: compiled twice, it takes twice as long.
            for turn in range(2):
                held, steps = black, iterations
                if turn == 0 and black >= 0 and enough < 0.0:
                    continue
                if turn == 1:
                    if black < 0 or away <= enough:
                        break
                    held, steps, strength[black] = -1, 2 * iterations, hold
                away = _meet(
                    table, size, axes, plan, n, x, aims[i], wish, strength, limits, tac, weights,
                    held, steps, r, room,
                )  # fmt: skip
            for k in range(v):
                mixtures[i, k] = x[k]
            missed[i] = away


@njit(cache=True, parallel=True)
def spread(
    mixtures: Floats, inks: int,
    dark: np.ndarray, light: np.ndarray, tones: Floats, extra: np.ndarray, hand: Floats,
) -> Floats:  # fmt: skip
    """(m, v) mixtures to the (m, inks) tone values that print them."""
    out = np.empty((mixtures.shape[0], inks))
    for i in prange(mixtures.shape[0]):
        v = mixtures.shape[1]
        e, u, du = np.empty((inks, v)), np.empty(v), np.empty((v, v))
        _spread(mixtures[i], (dark, light, tones, extra, hand), out[i], e, u, du)
    return out
