"""Constrained least squares from Lab aims to inks, one colour at a time, all cores.

Each aim is met by Levenberg-Marquardt steps on a multilinear table of the press. Box limits are
held by freezing variables at their bounds, the TAC by moving along its plane; the last step
projects hard, so neither is ever exceeded.

Four inks print a colour in many ways. `separate_held` takes black as given and lets the other inks
meet the aim, which has one answer and follows the aim smoothly; where they cannot, black gives way
just as far as it must. `separate_all` lets all inks move at once, drawn weakly towards a wish: how
recipes of method 1 were separated.
"""

from __future__ import annotations

import numpy as np
from numba import njit, prange

from plinto_core.arrays import Floats

MAX_INKS = 8
_MET = 1e-20
"""Square of a distance that is rounding and nothing else."""


@njit(cache=True, inline="always")
def _evaluate(table, size, n, x, lab, jac):  # type: ignore[no-untyped-def]
    """Multilinear value (3) and derivative (3, n) at x; table is flat, last ink fastest."""
    base = 0
    stride = 3
    f = np.empty(n)
    s = np.empty(n, np.int64)
    for k in range(n - 1, -1, -1):
        v = x[k] * (size - 1)
        c = int(v)
        if c > size - 2:
            c = size - 2
        f[k] = v - c
        s[k] = stride
        base += c * stride
        stride *= size
    for o in range(3):
        lab[o] = 0.0
        for k in range(n):
            jac[o, k] = 0.0
    for corner in range(1 << n):
        w = 1.0
        at = base
        for k in range(n):
            if corner >> k & 1:
                w *= f[k]
                at += s[k]
            else:
                w *= 1.0 - f[k]
        for o in range(3):
            lab[o] += w * table[at + o]
        for k in range(n):
            d = 1.0
            for j in range(n):
                if j != k:
                    d *= f[j] if corner >> j & 1 else 1.0 - f[j]
            if corner >> k & 1 == 0:
                d = -d
            if d != 0.0:
                for o in range(3):
                    jac[o, k] += d * table[at + o]
    for o in range(3):
        for k in range(n):
            jac[o, k] *= size - 1


@njit(cache=True, inline="always")
def _place(v, size):  # type: ignore[no-untyped-def]
    """Cell and the part of it at a tone value 0..1."""
    v *= size - 1
    c = min(int(v), size - 2)
    return c, v - c


@njit(cache=True, inline="always")
def _pair(table, at, step, f):  # type: ignore[no-untyped-def]
    """Between two nodes: value and difference."""
    d = table[at + step] - table[at]
    return table[at] + f * d, d


@njit(cache=True, inline="always")
def _face(table, at, third, fourth, g, h):  # type: ignore[no-untyped-def]
    """Among four nodes: value and its derivatives by the third and the fourth ink."""
    u, du = _pair(table, at, fourth, h)
    v, dv = _pair(table, at + third, fourth, h)
    return u + g * (v - u), v - u, du + g * (dv - du)


@njit(cache=True, inline="always")
def _block(table, at, second, third, fourth, f, g, h):  # type: ignore[no-untyped-def]
    """Among eight nodes: value and its derivatives by the second, third and fourth ink."""
    u, u2, u3 = _face(table, at, third, fourth, g, h)
    v, v2, v3 = _face(table, at + second, third, fourth, g, h)
    return u + f * (v - u), v - u, u2 + f * (v2 - u2), u3 + f * (v3 - u3)


@njit(cache=True, inline="always")
def _evaluate_four(table, size, x, lab, jac):  # type: ignore[no-untyped-def]
    """As `_evaluate` for four inks, one after the other: half the multiplications, nothing allocated."""
    third = 3 * size
    second = third * size
    first = second * size
    a, e = _place(x[0], size)
    b, f = _place(x[1], size)
    c, g = _place(x[2], size)
    d, h = _place(x[3], size)
    base = a * first + b * second + c * third + d * 3
    for o in range(3):
        u, u1, u2, u3 = _block(table, base + o, second, third, 3, f, g, h)
        v, v1, v2, v3 = _block(table, base + first + o, second, third, 3, f, g, h)
        lab[o] = u + e * (v - u)
        jac[o, 0] = (v - u) * (size - 1)
        jac[o, 1] = (u1 + e * (v1 - u1)) * (size - 1)
        jac[o, 2] = (u2 + e * (v2 - u2)) * (size - 1)
        jac[o, 3] = (u3 + e * (v3 - u3)) * (size - 1)


@njit(cache=True)
def _look_up(table, size, n, x, lab, jac):  # type: ignore[no-untyped-def]
    """The shorter way where there are four inks, the general one elsewhere."""
    if n == 4:
        _evaluate_four(table, size, x, lab, jac)
    else:
        _evaluate(table, size, n, x, lab, jac)


@njit(cache=True, inline="always")
def _residual(lab, aim, chroma, ca, sa, weights, r):  # type: ignore[no-untyped-def]
    """Weighted differences in lightness, chroma and hue directions of the aim."""
    da = lab[1] - aim[1]
    db = lab[2] - aim[2]
    r[0] = weights[0] * (lab[0] - aim[0])
    r[1] = weights[1] / (1.0 + 0.045 * chroma) * (da * ca + db * sa)
    r[2] = weights[2] / (1.0 + 0.015 * chroma) * (db * ca - da * sa)


@njit(cache=True, inline="always")
def _solve(a, b, n):  # type: ignore[no-untyped-def]
    """Solve a x = b (two right sides) in place by Gauss with pivots."""
    for i in range(n):
        p = i
        for j in range(i + 1, n):
            if abs(a[j, i]) > abs(a[p, i]):
                p = j
        if p != i:
            for j in range(n):
                a[i, j], a[p, j] = a[p, j], a[i, j]
            for j in range(2):
                b[i, j], b[p, j] = b[p, j], b[i, j]
        if abs(a[i, i]) < 1e-14:
            a[i, i] = 1e-14
        for j in range(i + 1, n):
            m = a[j, i] / a[i, i]
            if m != 0.0:
                for k in range(i, n):
                    a[j, k] -= m * a[i, k]
                b[j, 0] -= m * b[i, 0]
                b[j, 1] -= m * b[i, 1]
    for i in range(n - 1, -1, -1):
        for c in range(2):
            v = b[i, c]
            for k in range(i + 1, n):
                v -= a[i, k] * b[k, c]
            b[i, c] = v / a[i, i]


@njit(cache=True, inline="always")
def _clip(x, limits, tac, n, held):  # type: ignore[no-untyped-def]
    """Into the box, then evenly down onto the TAC plane; the held ink stays as it is."""
    for k in range(n):
        if k != held:
            x[k] = min(max(x[k], 0.0), limits[k])
    for _ in range(n):
        total = 0.0
        count = 0
        for k in range(n):
            total += x[k]
            if x[k] > 0.0 and k != held:
                count += 1
        if total <= tac or count == 0:
            return
        cut = (total - tac) / count
        for k in range(n):
            if x[k] > 0.0 and k != held:
                x[k] = max(0.0, x[k] - cut)


@njit(cache=True, inline="always")
def _cost(r, x, wish, pull, n):  # type: ignore[no-untyped-def]
    total = r[0] * r[0] + r[1] * r[1] + r[2] * r[2]
    for k in range(n):
        d = pull[k] * (x[k] - wish[k])
        total += d * d
    return total


@njit(cache=True)
def _meet(  # type: ignore[no-untyped-def]
    table, size, n, x, aim, wish, pull, limits, tac, weights, held, iterations, tries, least, small, r,
):  # fmt: skip
    """Move x towards the aim; returns the weighted distance that remains, r holds its parts.

    held : an ink that is not moved, -1 for none; tries : of the damping at a step, least : its
    floor; small : the gain relative to the cost below which it ends.
    """
    lab = np.empty(3)
    trial_lab = np.empty(3)
    jac = np.empty((3, n))
    trial_r = np.empty(3)
    trial = np.empty(n)
    hessian = np.empty((n, n))
    system = np.empty((n, n))
    right = np.empty((n, 2))
    gradient = np.empty(n)
    free = np.empty(n, np.int64)
    chroma = np.sqrt(aim[1] * aim[1] + aim[2] * aim[2])
    ca, sa = 1.0, 0.0
    if chroma > 1e-9:
        ca, sa = aim[1] / chroma, aim[2] / chroma
    wc = weights[1] / (1.0 + 0.045 * chroma)
    wh = weights[2] / (1.0 + 0.015 * chroma)
    _clip(x, limits, tac, n, held)
    _look_up(table, size, n, x, lab, jac)
    _residual(lab, aim, chroma, ca, sa, weights, r)
    cost = _cost(r, x, wish, pull, n)
    # What is met already cannot be met better: most colours of a document are within the TAC as they are.
    if cost < _MET:
        return np.sqrt(cost)
    damping = 1e-3
    for _ in range(iterations):
        total = 0.0
        for k in range(n):
            total += x[k]
            jl = weights[0] * jac[0, k]
            jc = wc * (jac[1, k] * ca + jac[2, k] * sa)
            jh = wh * (jac[2, k] * ca - jac[1, k] * sa)
            jac[0, k], jac[1, k], jac[2, k] = jl, jc, jh
        for k in range(n):
            gradient[k] = pull[k] * pull[k] * (x[k] - wish[k])
            for o in range(3):
                gradient[k] += jac[o, k] * r[o]
            for j in range(n):
                hessian[k, j] = (
                    jac[0, k] * jac[0, j] + jac[1, k] * jac[1, j] + jac[2, k] * jac[2, j]
                )
            hessian[k, k] += pull[k] * pull[k]
        better = False
        previous = cost
        for _ in range(tries):
            m = 0
            for k in range(n):
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
                right[a, 1] = 1.0
            _solve(system, right, m)
            step = 0.0
            along = 0.0
            for a in range(m):
                step += right[a, 0]
                along += right[a, 1]
            shift = 0.0
            if total + step > tac and abs(along) > 1e-12:
                shift = (step - (tac - total)) / along
            for k in range(n):
                trial[k] = x[k]
            for a in range(m):
                trial[free[a]] = x[free[a]] + right[a, 0] - shift * right[a, 1]
            _clip(trial, limits, tac, n, held)
            _look_up(table, size, n, trial, trial_lab, jac)
            _residual(trial_lab, aim, chroma, ca, sa, weights, trial_r)
            new = _cost(trial_r, trial, wish, pull, n)
            if new < cost:
                cost = new
                for k in range(n):
                    x[k] = trial[k]
                for o in range(3):
                    r[o] = trial_r[o]
                damping = max(damping * 0.2, least)
                better = True
                break
            damping = damping * 8.0 + 1e-4
        if not better or previous - cost < small * (1.0 + cost):
            break
    return np.sqrt(r[0] * r[0] + r[1] * r[1] + r[2] * r[2])


@njit(cache=True, parallel=True)
def separate_all(
    table: Floats, size: int, aims: Floats, starts: Floats, wishes: Floats, pull: Floats,
    limits: Floats, tac: float, weights: Floats, iterations: int, inks: Floats, missed: Floats,
) -> None:  # fmt: skip
    """Fill inks (n, m) and missed (n,), the weighted distance that remains.

    table : flat grid of Lab; aims (n, 3) Lab; starts, wishes (n, m) tone values 0..1;
    pull (m,) weight of each wish; limits (m,); tac as a sum of shares; weights (3,) of L, C, H.
    """
    n = limits.size
    for i in prange(aims.shape[0]):
        x = starts[i].copy()
        missed[i] = _meet(
            table, size, n, x, aims[i], wishes[i], pull, limits, tac, weights, -1, iterations, 6,
            1e-6, 1e-7, np.empty(3),
        )  # fmt: skip
        for k in range(n):
            inks[i, k] = x[k]


@njit(cache=True, parallel=True)
def separate_held(
    table: Floats, size: int, aims: Floats, starts: Floats, wanted: Floats, black: int,
    pull: float, limits: Floats, tac: float, weights: Floats, iterations: int, enough: float,
    inks: Floats, missed: Floats,
) -> None:  # fmt: skip
    """Fill inks (n, m) and missed (n,) with black as wanted wherever the others can meet the aim so.

    wanted (n,) tone value of the ink `black`; pull : how strongly it holds on to that where it must
    give way; enough : the distance at which an aim counts as met; the rest as in separate_all.
    """
    n = limits.size
    for i in prange(aims.shape[0]):
        r = np.empty(3)
        x = starts[i].copy()
        x[black] = min(max(wanted[i], 0.0), min(limits[black], tac))
        pulls = np.zeros(n)
        wish = x.copy()
        away = np.inf
        # One call of _meet for both turns: compiled twice, it takes twice as long.
        for turn in range(2):
            held, steps = black, iterations
            if turn == 1:
                if away <= enough:
                    break
                held, steps, pulls[black] = -1, 2 * iterations, pull
            away = _meet(
                table, size, n, x, aims[i], wish, pulls, limits, tac, weights, held, steps, 8, 1e-9,
                1e-10, r,
            )  # fmt: skip
        for k in range(n):
            inks[i, k] = x[k]
        missed[i] = away
