"""Following the axle from one pose to another, and never over center: prediction along the tangent, correction, and the
determinant's sign to tell a jump by (Allgower, chapters 2 and 8)."""

from math import cos, sin, sqrt

import numpy as np

from oak_lever import tolerances as tol
from oak_lever.motion.compiling import inlined
from oak_lever.motion.kernel.newton import correct, descend, size_of
from oak_lever.motion.kernel.state import Z, copy, free_index, turn

_STOP_MM, _STOP_RAD = tol.STOP_MM, tol.STOP_RAD
_STEP_MM, _STEP_RAD = tol.STEP_MM, tol.STEP_RAD
_STRETCH = 4.0  # how much longer than the last step a step may be and still be expected to go on as that one did
_NEAR = 0.5  # how far from where the tangent pointed a pose may lie, of the step: farther, it is another branch
_SAME = 1e-12  # rounding of sums of products
_SAME_WAY = 1e-9  # two steps whose directions differ by less go on in one line


@inlined
def predict(m, by, dt, da, w):
    """Lay the expected change of the unknowns into the system's first right-hand side; `by` is as `advance` left it.

    Along the tangent; and where the path goes on as it came, along the polynomial through the last two steps'
    ends and their tangents, which leaves Newton one short step to do.
    """
    size = m.size
    ct, ca, h, k = by[8, 0], by[8, 1], by[8, 2], by[8, 3]
    s = ct * dt + ca * da
    straight = abs(s * s - dt * dt - da * da) < _SAME * (s * s + dt * dt + da * da)
    curved = h > 0.0 and straight and abs(s) < _STRETCH * h
    for u in range(size):
        change = by[0, u] * dt + by[1, u] * da
        if curved:
            bend = by[2, u] + by[3, u] * (s + h) + (by[4, u] + by[5, u] * (s + h + k)) * (s + h) * (s + h)
            change += s * s * bend
        w.system[u, size] = change


@inlined
def advance(m, before, q, by, dt, da, w):
    """Keep the tangents and the path's bend up with the pose, in `by` (9, 5), a column an unknown.

    Rows 0, 1: d/dtravel, d/darticulation. With s along the last step, from the pose, the path is expected at
    u(s) = u(0) + u'(0) s + s^2 z(s). z goes through the last step's start at s = -h (value and slope) and, where one
    came before it in the same direction, through that one's start at s = -(h + k): rows 2 to 5 are its divided
    differences on -h, -h, -(h + k), -(h + k). Rows 6, 7: the last step's change and the slope at its start.
    Row 8: the direction (cosines by travel and articulation), h, k.
    """
    size, system = m.size, w.system
    h = sqrt(dt * dt + da * da)
    ct, ca = dt / h, da / h
    same = abs(ct - by[8, 0]) + abs(ca - by[8, 1]) < _SAME_WAY and h < _STRETCH * by[8, 2] and by[8, 2] < _STRETCH * h
    k = by[8, 2] if same else 0.0
    near, far, between = -1.0 / h, -1.0 / (h + k), 1.0 / k if same else 0.0
    for u in range(size):
        i = free_index(u)
        change, slope = q[i] - before[i], by[0, u] * ct + by[1, u] * ca
        last_change, last_slope = by[6, u], by[7, u]
        by[0, u], by[1, u] = system[u, size + 1], system[u, size + 2]
        here = by[0, u] * ct + by[1, u] * ca
        z, z_slope = bend_at(near, -change, slope, here)
        square, cube = 0.0, 0.0
        if same:
            last, last_slope = bend_at(far, -change - last_change, last_slope, here)
            mean = (z - last) * between
            square = (z_slope - mean) * between
            cube = (last_slope - 2.0 * mean + z_slope) * between * between
        by[2, u], by[3, u], by[4, u], by[5, u] = z, z_slope, square, cube
        by[6, u], by[7, u] = change, slope
    by[8, 0], by[8, 1], by[8, 2], by[8, 3] = ct, ca, h, k


@inlined
def bend_at(over, change, slope, here):
    """z and dz/ds, at s = 1 / over, of u(s) = here s + s^2 z(s), from u(s) = change and u'(s) = slope."""
    z = (change * over - here) * over
    return z, ((slope - here) * over - 2.0 * z) * over


@inlined
def follow(m, t0, a0, t1, a1, art, q, by, sign, w):
    """Follow the axle from (t0, a0) towards (t1, a1); q and its tangents `by` (9, 5) are kept up with it.

    A step is taken only if the pose that Newton finds lies close to where the tangent pointed and the links
    have not gone over center on the way; else the step is halved. `art` is sine and cosine of a1.
    Returns (fraction reached, sign).
    """
    size, system, trial, before = m.size, w.system, w.trial, w.before
    gives = m.axis.shape[0] > size
    mm, rad = abs(t1 - t0), abs(a1 - a0)
    if mm == 0.0 and rad == 0.0:
        turn(q, art, w)
        return 1.0, sign
    longest = min(1.0, _STEP_MM / mm if mm > 0.0 else 1.0, _STEP_RAD / rad if rad > 0.0 else 1.0)
    least = min(_STOP_MM / mm if mm > 0.0 else np.inf, _STOP_RAD / rad if rad > 0.0 else np.inf)
    done, step = 0.0, longest
    while True:
        last = done + step >= 1.0 - _SAME
        goal = 1.0 if last else done + step
        dt, da = (goal - done) * (t1 - t0), (goal - done) * (a1 - a0)
        t, a = (t1, a1) if last else (t0 + goal * (t1 - t0), a0 + goal * (a1 - a0))
        turned = art if last else (sin(a), cos(a))
        copy(q, before)
        copy(q, trial)
        trial[Z] = m.radius + t
        predict(m, by, dt, da, w)
        for u in range(size):
            trial[free_index(u)] += system[u, size]
        ahead = size_of(m, w) + abs(dt) + m.reach * abs(da)
        found, moved = correct(m, turned, trial, w)
        fine = step <= least
        good = found != 0.0 and moved <= _NEAR * ahead and (found == sign or fine)
        if not good and fine and gives:
            copy(before, trial)
            trial[Z] = m.radius + t
            descend(m, turned, trial, w.spare, w)
            found, moved = correct(m, turned, trial, w)
            good = found != 0.0
        if good:
            done, sign = goal, found
            copy(trial, q)
            advance(m, before, q, by, dt, da, w)
            if last:
                return 1.0, sign
            step = min(2.0 * step, longest)
        elif fine:
            return done, sign
        else:
            step = max(0.5 * step, least)
