"""Every asked pose of every design."""

import numpy as np

from oak_lever import tolerances as tol
from oak_lever.motion.compiling import compiled, inlined
from oak_lever.motion.kernel.linear import rank
from oak_lever.motion.kernel.newton import correct
from oak_lever.motion.kernel.path import follow
from oak_lever.motion.kernel.rows import measure
from oak_lever.motion.kernel.state import CRANK, PITCH, YAW, Rows, X, Y, Z, copy, fill, roll_slopes, turn

_NO_BIND = tol.NO_BIND_MM
_LOOSE = tol.LOOSE
_NO_LENGTH = tol.NO_LENGTH_MM
_NO_TURN = tol.SINGULAR


@inlined
def motion_of(by, art, w, heave, rolling):
    """Fill heave and rolling (6,) with the velocity of the axle's center and the angular velocity (chassis frame).

    heave: per mm of travel, articulation held. rolling: per radian about x, travel held; NaN where the axle
    turns about no fore-aft axis.
    """
    roll_by_pitch, roll_by_art = roll_slopes(art, w)
    cp, sp, cy, sy = w.trig[2], w.trig[3], w.trig[4], w.trig[5]
    for kind in range(2):
        out = heave if kind == 0 else rolling
        pitch, yaw = by[kind, 2], by[kind, 3]
        roll = roll_by_pitch * pitch + (roll_by_art if kind == 1 else 0.0)
        out[0], out[1], out[2] = by[kind, 0], by[kind, 1], 1.0 if kind == 0 else 0.0
        out[3], out[4], out[5] = cy * cp * roll - sy * pitch, sy * cp * roll + cy * pitch, yaw - sp * roll
    turn = rolling[3]
    for i in range(6):
        rolling[i] = rolling[i] / turn if abs(turn) > _NO_TURN else np.nan


@compiled
def is_loose(m, w, scratch):
    """Whether the rows at ride leave the axle a free direction (turns scaled to what they move at `reach`)."""
    rows, size, reach, grad = m.axis.shape[0], m.size, m.reach, w.grad
    for row in range(rows):
        scratch[row, 0], scratch[row, 1] = grad[row, X], grad[row, Y]
        scratch[row, 2], scratch[row, 3] = grad[row, PITCH] / reach, grad[row, YAW] / reach
        if size == 5:
            scratch[row, 4] = grad[row, CRANK] / max(m.arm, _NO_LENGTH)
    return rows < size or rank(scratch, rows, size, _LOOSE) < size


@compiled
def stand(m, q, by, w, scratch):
    """Set q and its tangents `by` to ride; returns the determinant's sign there, 0 for a loose layout."""
    fill(q, 0.0)
    q[Z] = m.radius
    art = (0.0, 1.0)
    turn(q, art, w)
    measure(m, q, w)
    if is_loose(m, w, scratch):
        return 0.0
    sign, _ = correct(m, art, q, w)
    for i in range(by.shape[0]):
        fill(by[i], 0.0)
    for u in range(m.size):
        by[0, u], by[1, u] = w.system[u, m.size + 1], w.system[u, m.size + 2]
    return sign


@compiled
def give(m, q, w):
    """The largest error of any row at q, mm; 0 for a layout that can move freely."""
    if m.axis.shape[0] <= m.size:
        return 0.0
    measure(m, q, w)
    worst = 0.0
    for row in range(m.axis.shape[0]):
        worst = max(worst, abs(w.err[row]))
    return worst if worst > _NO_BIND else 0.0


@compiled
def trace(
    axis, hand, crank_on_axle, size, body, frame, target, arm, tilt, radius, reach,
    travel, articulation, sine, cosine, parent, w, q, by, signs, scratch, state, heave, rolling, bind, reached, ended,
):  # fmt: skip
    """Every asked pose of every design, each continued from its parent pose; pose 0 is ride.

    In: row arrays of `Mechanism`; travel (P,), articulation (P,) radians with its sine and cosine, parent (P,) index of
    an earlier pose; the `room` to work in.
    Out: state (D, P, 7); heave, rolling (D, P, 6); bind (D, P) mm; reached (D, P); ended (D, P), the fraction of
    the way from its parent at which an unreached pose's path came to its end (NaN where the parent already had).
    """
    designs, poses = body.shape[0], travel.shape[0]
    for n in range(designs):
        m = Rows(
            axis, hand, crank_on_axle, size, body[n], frame[n], target[n], arm[n], tilt[n], radius[n], reach[n]
        )  # fmt: skip
        for p in range(poses):
            origin = parent[p]
            art = (sine[p], cosine[p])
            sign, fraction = 0.0, np.nan
            if p == 0:
                sign = stand(m, q, by[0], w, scratch)
                fraction = 1.0 if sign != 0.0 else 0.0
            elif reached[n, origin]:
                copy(state[n, origin], q)
                for i in range(9):
                    for u in range(size):
                        by[p, i, u] = by[origin, i, u]
                fraction, sign = follow(
                    m, travel[origin], articulation[origin], travel[p], articulation[p], art, q, by[p], signs[origin],
                    w,
                )  # fmt: skip
            ended[n, p], signs[p] = fraction, sign
            reached[n, p] = fraction == 1.0
            if reached[n, p]:
                copy(q, state[n, p])
                motion_of(by[p], art, w, heave[n, p], rolling[n, p])
                bind[n, p] = give(m, q, w)
            else:
                fill(state[n, p], np.nan)
                fill(heave[n, p], np.nan)
                fill(rolling[n, p], np.nan)
                bind[n, p] = np.nan
