"""The kernel: from constraint rows to poses and their motions, one design and one pose at a time.

Plain loops over scalars, so that it compiles to straight machine code (see `compiling`); nothing is
allocated inside the loops. Angles are radians, lengths mm.

The axle's state is q = (x, y, z, roll, pitch, yaw, crank): the axle's center in the chassis frame, the
turns in R = Rz(yaw) Ry(pitch) Rx(roll), and the bell crank's turn. A pose is asked for by travel and articulation,
which fix z = radius + travel and, from sin(articulation) = (R e_y).e_z = cos(pitch) sin(roll), the roll. What is
left are the unknowns u = (x, y, pitch, yaw, crank).

As many rows as unknowns: Newton's method on the errors. More rows: Newton's method on the gradient of
half their sum of squares, second derivatives of the rows included, since where there is give the pose's own
derivative needs them. Both leave du/dtravel and du/darticulation behind as further right-hand sides of the
same elimination, by the implicit function theorem.
"""

from math import asin, cos, sin, sqrt
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from oak_lever import tolerances as tol
from oak_lever.motion.compiling import compiled, inlined

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]

X, Y, Z, ROLL, PITCH, YAW, CRANK = range(7)

_SETTLED = tol.SETTLED_MM
_STILL = tol.STILL
_NO_BIND = tol.NO_BIND_MM
_STOP_MM, _STOP_RAD = tol.STOP_MM, tol.STOP_RAD
_STEP_MM, _STEP_RAD = tol.STEP_MM, tol.STEP_RAD
_LOOSE = tol.LOOSE
_STRETCH = 4.0  # how much longer than the last step a step may be and still be expected to go on as that one did
_ITERATIONS = 12  # Newton doubles its digits each time: past this it is not converging
_DESCENTS = 200  # steps of the slow, sure way to the least give


class Rows(NamedTuple):
    """The constraint rows of one design; see `Mechanism` for shapes. `size` is the number of unknowns."""

    axis: Ints
    hand: Floats
    crank_on_axle: bool
    size: int
    body: Floats
    frame: Floats
    target: Floats
    arm: float
    tilt: float
    radius: float
    reach: float


class Work(NamedTuple):
    """Room to work in, made once: cosine and sine of roll, pitch and yaw; the rotation; axle point s, crank vector k,
    span d and a spare; errors of the rows, their derivatives by q, directions and lengths; second derivatives; the
    linear system; states."""

    trig: Floats
    rot: Floats
    vec: Floats
    err: Floats
    grad: Floats
    normal: Floats
    length: Floats
    tangent: Floats
    spin: Floats
    full: Floats
    system: Floats
    trial: Floats
    before: Floats
    spare: Floats


def room(rows: int, poses: int) -> tuple[Work, Floats, Floats, Floats, Floats]:
    """Everything the kernel works in, for that many rows and poses: (work, q, by, signs, scratch) of `trace`."""
    work = Work(
        np.zeros(6), np.zeros((3, 3)), np.zeros((4, 3)), np.zeros(rows), np.zeros((rows, 7)), np.zeros((rows, 3)),
        np.zeros(rows), np.zeros((7, 3)), np.zeros((3, 3)), np.zeros((7, 7)), np.zeros((5, 8)), np.zeros(7),
        np.zeros(7), np.zeros(7),
    )  # fmt: skip
    return work, np.zeros(7), np.zeros((poses, 9, 5)), np.zeros(poses), np.zeros((max(rows, 5), 5))


@inlined
def copy(source, target):
    for i in range(source.shape[0]):
        target[i] = source[i]


@inlined
def fill(target, value):
    for i in range(target.shape[0]):
        target[i] = value


@inlined
def turn(q, art, w):
    """Fill the work's trig and its rot = Rz(yaw) Ry(pitch) Rx(roll), axle to chassis, for q's pitch and yaw and the
    roll that gives the articulation of which `art` is sine and cosine; False where no roll gives it.

    Sines and cosines are what a pose costs most, so each is taken once.
    """
    cp, sp, cy, sy = cos(q[PITCH]), sin(q[PITCH]), cos(q[YAW]), sin(q[YAW])
    sr = art[0] / cp
    if not -1.0 < sr < 1.0:
        return False
    cr = sqrt(1.0 - sr * sr)
    trig, rot = w.trig, w.rot
    trig[0], trig[1], trig[2], trig[3], trig[4], trig[5] = cr, sr, cp, sp, cy, sy
    rot[0, 0], rot[0, 1], rot[0, 2] = cy * cp, cy * sp * sr - sy * cr, cy * sp * cr + sy * sr
    rot[1, 0], rot[1, 1], rot[1, 2] = sy * cp, sy * sp * sr + cy * cr, sy * sp * cr - cy * sr
    rot[2, 0], rot[2, 1], rot[2, 2] = -sp, cp * sr, cp * cr
    return True


@inlined
def roll_slopes(art, w):
    """Roll by pitch at that articulation, and by articulation, from sin(roll) = sin(articulation) / cos(pitch)."""
    trig = w.trig
    return trig[1] / trig[0] * trig[3] / trig[2], art[1] / (trig[2] * trig[0])


@compiled
def span_of(m, row, q, w):
    """Fill s (axle point from the axle's center), k (crank end from its pivot), d (frame point to axle point)."""
    body, rot, hand = m.body, w.rot, m.hand[row]
    s, k, d = w.vec[0], w.vec[1], w.vec[2]
    angle = m.tilt + q[CRANK]
    b0, b1, b2 = body[row, 0], body[row, 1], body[row, 2]
    k0, k1, k2 = 0.0, 0.0, 0.0
    if hand != 0.0:
        k1, k2 = -hand * m.arm * sin(angle), hand * m.arm * cos(angle)
    if hand != 0.0 and m.crank_on_axle:
        b1, b2 = b1 + k1, b2 + k2
        k0, k1, k2 = rot[0, 1] * k1 + rot[0, 2] * k2, rot[1, 1] * k1 + rot[1, 2] * k2, rot[2, 1] * k1 + rot[2, 2] * k2
    k[0], k[1], k[2] = k0, k1, k2
    for i in range(3):
        s[i] = rot[i, 0] * b0 + rot[i, 1] * b1 + rot[i, 2] * b2
        d[i] = q[i] + s[i] - m.frame[row, i]
        if hand != 0.0 and not m.crank_on_axle:
            d[i] -= k[i]


@inlined
def measure(m, q, w):
    """Errors of all rows, err (M,), and their derivatives by q, grad (M, 7); also each row's direction and length.

    For s turned about an axis a: d(s)/d(angle) = a x s, so d(err)/d(angle) = n.(a x s) = a.(s x n).
    """
    axis, hand, body, frame, rot, err, grad = m.axis, m.hand, m.body, m.frame, w.rot, w.err, w.grad
    cy, sy = w.trig[4], w.trig[5]
    r00, r01, r02 = rot[0, 0], rot[0, 1], rot[0, 2]
    r10, r11, r12 = rot[1, 0], rot[1, 1], rot[1, 2]
    r20, r21, r22 = rot[2, 0], rot[2, 1], rot[2, 2]
    for row in range(axis.shape[0]):
        b0, b1, b2 = body[row, 0], body[row, 1], body[row, 2]
        f0, f1, f2 = frame[row, 0], frame[row, 1], frame[row, 2]
        k1, k2 = 0.0, 0.0
        if hand[row] != 0.0:
            angle = m.tilt + q[CRANK]
            k1, k2 = -hand[row] * m.arm * sin(angle), hand[row] * m.arm * cos(angle)
            if m.crank_on_axle:
                b1, b2 = b1 + k1, b2 + k2
            else:
                f1, f2 = f1 + k1, f2 + k2
        s0, s1, s2 = r00 * b0 + r01 * b1 + r02 * b2, r10 * b0 + r11 * b1 + r12 * b2, r20 * b0 + r21 * b1 + r22 * b2
        d0, d1, d2 = q[X] + s0 - f0, q[Y] + s1 - f1, q[Z] + s2 - f2
        if axis[row] < 0:
            long = max(sqrt(d0 * d0 + d1 * d1 + d2 * d2), 1e-12)
            part = 1.0 / long
            n0, n1, n2 = d0 * part, d1 * part, d2 * part
            err[row] = long - m.target[row]
        else:
            long = np.inf
            n0, n1, n2 = 1.0 if axis[row] == 0 else 0.0, 1.0 if axis[row] == 1 else 0.0, 1.0 if axis[row] == 2 else 0.0
            err[row] = d0 * n0 + d1 * n1 + d2 * n2
        c0, c1, c2 = s1 * n2 - s2 * n1, s2 * n0 - s0 * n2, s0 * n1 - s1 * n0
        grad[row, X], grad[row, Y], grad[row, Z] = n0, n1, n2
        grad[row, ROLL] = r00 * c0 + r10 * c1 + r20 * c2
        grad[row, PITCH] = cy * c1 - sy * c0
        grad[row, YAW] = c2
        grad[row, CRANK] = 0.0
        if (
            hand[row] != 0.0 and m.crank_on_axle
        ):  # about the axle's own fore-aft axis: (axis x k).n, in the axle's frame
            grad[row, CRANK] = (n0 * r02 + n1 * r12 + n2 * r22) * k1 - (n0 * r01 + n1 * r11 + n2 * r21) * k2
        elif hand[row] != 0.0:
            grad[row, CRANK] = n1 * k2 - n2 * k1
        w.normal[row, 0], w.normal[row, 1], w.normal[row, 2] = n0, n1, n2
        w.length[row] = long


@compiled
def cross(a, b, out):
    """Fill out with a x b; out may be b."""
    c0, c1, c2 = a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]
    out[0], out[1], out[2] = c0, c1, c2


@compiled
def curvature(m, q, w):
    """Fill full (7, 7) with the second derivative by q of half the sum of squared errors: grad' grad + sum err * hess.

    With T_i = d(span)/d(q_i): hess_ij = (T_i.T_j - (n.T_i)(n.T_j)) / length + n.d2(span), and for turns
    with i outside j in the order yaw, pitch, roll, crank: d2(s)/dij = a_i x (a_j x s).
    """
    axis, hand, crank_on_axle = m.axis, m.hand, m.crank_on_axle
    rot, err, grad, normal, tangent, spin, full = w.rot, w.err, w.grad, w.normal, w.tangent, w.spin, w.full
    s, k, second = w.vec[0], w.vec[1], w.vec[3]
    for i in range(7):
        for j in range(7):
            full[i, j] = 0.0
    spin[0, 0], spin[0, 1], spin[0, 2] = rot[0, 0], rot[1, 0], rot[2, 0]
    spin[1, 0], spin[1, 1], spin[1, 2] = -w.trig[5], w.trig[4], 0.0
    spin[2, 0], spin[2, 1], spin[2, 2] = 0.0, 0.0, 1.0
    for row in range(axis.shape[0]):
        span_of(m, row, q, w)
        for i in range(7):
            for c in range(3):
                tangent[i, c] = 1.0 if i == c else 0.0
        for i in range(3):
            cross(spin[i], s, tangent[ROLL + i])
        if hand[row] == 0.0:
            for c in range(3):
                tangent[CRANK, c] = 0.0
        elif crank_on_axle:
            cross(spin[0], k, tangent[CRANK])
        else:
            tangent[CRANK, 0], tangent[CRANK, 1], tangent[CRANK, 2] = 0.0, k[2], -k[1]
        for i in range(7):
            for j in range(i, 7):
                bend = 0.0
                if axis[row] < 0:
                    bend = tangent[i, 0] * tangent[j, 0] + tangent[i, 1] * tangent[j, 1] + tangent[i, 2] * tangent[j, 2]
                    bend = (bend - grad[row, i] * grad[row, j]) / w.length[row]
                if i >= ROLL and (j < CRANK or crank_on_axle):
                    # in q the outer turn comes later, except the crank, which is innermost of all
                    outer, inner = (i, j) if j == CRANK else (j, i)
                    if outer == CRANK:
                        outer = ROLL
                    cross(spin[outer - ROLL], tangent[inner], second)
                    bend += normal[row, 0] * second[0] + normal[row, 1] * second[1] + normal[row, 2] * second[2]
                elif i == CRANK and hand[row] != 0.0:
                    bend += normal[row, 1] * k[1] + normal[row, 2] * k[2]
                full[i, j] += grad[row, i] * grad[row, j] + err[row] * bend
    for i in range(7):
        for j in range(i):
            full[i, j] = full[j, i]


@inlined
def eliminate(a, size, columns, definite):
    """Solve in place a[:, :size] x = a[:, size:columns]; the answers take the right-hand sides' place.

    Returns the sign of the determinant; 0 where it is singular or, if `definite` is asked, not positive definite.
    """
    sign = 1.0
    for p in range(size):
        best = p
        if not definite:
            for i in range(p + 1, size):
                if abs(a[i, p]) > abs(a[best, p]):
                    best = i
        if best != p:
            sign = -sign
            for j in range(p, columns):
                a[p, j], a[best, j] = a[best, j], a[p, j]
        pivot = a[p, p]
        if not abs(pivot) > 1e-14 or (definite and pivot < 0.0):
            return 0.0
        if pivot < 0.0:
            sign = -sign
        part = 1.0 / pivot  # written out, so that the compiler keeps the pivot's row at hand: eight columns at most
        p1, p2, p3, p4, p5, p6, p7 = (
            a[p, 1] * part, a[p, 2] * part, a[p, 3] * part, a[p, 4] * part, a[p, 5] * part, a[p, 6] * part,
            a[p, 7] * part,
        )  # fmt: skip
        a[p, 1], a[p, 2], a[p, 3], a[p, 4], a[p, 5], a[p, 6], a[p, 7] = p1, p2, p3, p4, p5, p6, p7
        for i in range(size):
            if i != p:
                factor = a[i, p]
                a[i, 1] -= factor * p1
                a[i, 2] -= factor * p2
                a[i, 3] -= factor * p3
                a[i, 4] -= factor * p4
                a[i, 5] -= factor * p5
                a[i, 6] -= factor * p6
                a[i, 7] -= factor * p7
    return sign


@compiled
def rank(a, rows, columns, ratio):
    """Rank of a (destroyed) by elimination with full pivoting: pivots below `ratio` of the first count as none."""
    first = 0.0
    for p in range(min(rows, columns)):
        top, bi, bj = 0.0, p, p
        for i in range(p, rows):
            for j in range(p, columns):
                if abs(a[i, j]) > top:
                    top, bi, bj = abs(a[i, j]), i, j
        if p == 0:
            first = top
        if top <= ratio * first or top == 0.0:
            return p
        for j in range(columns):
            a[p, j], a[bi, j] = a[bi, j], a[p, j]
        for i in range(rows):
            a[i, p], a[i, bj] = a[i, bj], a[i, p]
        for i in range(p + 1, rows):
            factor = a[i, p] / a[p, p]
            for j in range(p, columns):
                a[i, j] -= factor * a[p, j]
    return min(rows, columns)


@inlined
def free_index(u):
    """Index in q of unknown u: x, y, pitch, yaw, crank."""
    return u if u < 2 else u + 2


@inlined
def newton_errors(m, art, w):
    """Lay out system (size, size + 3): by the unknowns | -err | -by travel | -by articulation."""
    size, err, grad, system = m.size, w.err, w.grad, w.system
    roll_by_pitch, roll_by_art = roll_slopes(art, w)
    for row in range(size):
        system[row, 0], system[row, 1] = grad[row, X], grad[row, Y]
        system[row, 2] = grad[row, PITCH] + roll_by_pitch * grad[row, ROLL]
        system[row, 3] = grad[row, YAW]
        if size == 5:
            system[row, 4] = grad[row, CRANK]
        system[row, size] = -err[row]
        system[row, size + 1] = -grad[row, Z]
        system[row, size + 2] = -roll_by_art * grad[row, ROLL]


@compiled
def newton_give(m, art, w):
    """The same for the least give: by the unknowns of the gradient | -gradient | its -by travel | -by articulation.

    Reduced from q to the unknowns with roll = asin(sin(articulation) / cos(pitch)) and its derivatives.
    """
    size, rows, err, grad, full, system = m.size, m.axis.shape[0], w.err, w.grad, w.full, w.system
    tr, tp = w.trig[1] / w.trig[0], w.trig[3] / w.trig[2]
    sec2r, sec2p = 1.0 + tr * tr, 1.0 + tp * tp
    by_p, by_a = roll_slopes(art, w)
    by_pp = sec2r * by_p * tp + tr * sec2p
    by_pa = sec2r * by_a * tp
    pull_roll = 0.0
    for row in range(rows):
        pull_roll += err[row] * grad[row, ROLL]
    for u in range(size):
        i = free_index(u)
        ri = by_p if i == PITCH else 0.0
        for v in range(size):
            j = free_index(v)
            rj = by_p if j == PITCH else 0.0
            system[u, v] = full[i, j] + ri * full[ROLL, j] + rj * full[i, ROLL] + ri * rj * full[ROLL, ROLL]
        pull = 0.0
        for row in range(rows):
            pull += err[row] * (grad[row, i] + ri * grad[row, ROLL])
        system[u, size] = -pull
        system[u, size + 1] = -(full[i, Z] + ri * full[ROLL, Z])
        system[u, size + 2] = -by_a * (full[i, ROLL] + ri * full[ROLL, ROLL])
    system[2, 2] += pull_roll * by_pp
    system[2, size + 2] -= pull_roll * by_pa


@inlined
def size_of(m, w):
    """Length of a change of the unknowns, mm: turns count by what they move at `reach`, the crank by its arm."""
    system, column = w.system, m.size
    total = system[0, column] ** 2 + system[1, column] ** 2
    total += (system[2, column] ** 2 + system[3, column] ** 2) * m.reach * m.reach
    if m.size == 5:
        total += (system[4, column] * m.arm) ** 2
    return sqrt(total)


@inlined
def correct(m, art, q, w):
    """Newton from q, in place, at q's z and the given articulation.

    Returns (sign, moved): sign 0 where it did not converge, else the determinant's sign at the pose; moved, how
    far q went in mm. On success the last columns of `system` hold du/dtravel and du/darticulation.

    A last step shorter than `SETTLED_MM` is taken and not checked by another round: Newton squares its error. Where
    there is give the valley can be so flat that it does not, hence `STILL`.
    """
    rows, size, system = m.axis.shape[0], m.size, w.system
    moved = 0.0
    for _ in range(_ITERATIONS):
        if not turn(q, art, w):
            return 0.0, moved
        measure(m, q, w)
        if rows == size:
            newton_errors(m, art, w)
            sign = eliminate(system, size, size + 3, False)
        else:
            curvature(m, q, w)
            newton_give(m, art, w)
            sign = eliminate(system, size, size + 3, True)
        if sign == 0.0:
            return sign, moved
        step = size_of(m, w)
        moved += step
        if not moved < 10.0 * m.reach:
            return 0.0, moved
        for u in range(size):
            q[free_index(u)] += system[u, size]
        if step < (_SETTLED if rows == size else _STILL):
            q[ROLL] = asin(w.trig[1])
            return sign, moved
    return 0.0, moved


@compiled
def half_squares(err):
    total = 0.0
    for row in range(err.shape[0]):
        total += err[row] * err[row]
    return 0.5 * total


@compiled
def descend(m, art, q, trial, w):
    """Least give from q the slow, sure way (damped Gauss-Newton), in place; for where Newton's valley has ended."""
    rows, size, err, grad, full, system = m.axis.shape[0], m.size, w.err, w.grad, w.full, w.system
    damp = 1e-3
    turn(q, art, w)
    measure(m, q, w)
    cost = half_squares(err)
    for _ in range(_DESCENTS):
        for i in range(7):
            for j in range(7):
                full[i, j] = 0.0
                for row in range(rows):
                    full[i, j] += grad[row, i] * grad[row, j]
        newton_give(m, art, w)
        for u in range(size):
            system[u, u] += damp * (1.0 if u < 2 else m.reach * m.reach if u < 4 else m.arm * m.arm)
        if eliminate(system, size, size + 1, True) == 0.0:
            damp *= 10.0
            continue
        copy(q, trial)
        for u in range(size):
            trial[free_index(u)] += system[u, size]
        step = size_of(m, w)
        better = False
        if turn(trial, art, w):
            measure(m, trial, w)
            better = half_squares(err) < cost
        if better:
            cost = half_squares(err)
            copy(trial, q)
            damp = max(damp * 0.2, 1e-12)
        else:
            damp *= 8.0
            turn(q, art, w)
            measure(m, q, w)
        if step < 1e-6:
            return


@inlined
def predict(m, by, dt, da, w):
    """Lay the expected change of the unknowns into the system's first right-hand side; `by` is as `advance` left it.

    Along the tangent; and where the path goes on as it came, along the polynomial through the last two steps'
    ends and their tangents, which leaves Newton one short step to do.
    """
    size = m.size
    ct, ca, h, k = by[8, 0], by[8, 1], by[8, 2], by[8, 3]
    s = ct * dt + ca * da
    straight = abs(s * s - dt * dt - da * da) < 1e-12 * (s * s + dt * dt + da * da)
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
    same = abs(ct - by[8, 0]) + abs(ca - by[8, 1]) < 1e-9 and h < _STRETCH * by[8, 2] and by[8, 2] < _STRETCH * h
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
        last = done + step >= 1.0 - 1e-12
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
        good = found != 0.0 and moved <= 0.5 * ahead and (found == sign or fine)
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
        rolling[i] = rolling[i] / turn if abs(turn) > 1e-12 else np.nan


@compiled
def is_loose(m, w, scratch):
    """Whether the rows at ride leave the axle a free direction (turns scaled to what they move at `reach`)."""
    rows, size, reach, grad = m.axis.shape[0], m.size, m.reach, w.grad
    for row in range(rows):
        scratch[row, 0], scratch[row, 1] = grad[row, X], grad[row, Y]
        scratch[row, 2], scratch[row, 3] = grad[row, PITCH] / reach, grad[row, YAW] / reach
        if size == 5:
            scratch[row, 4] = grad[row, CRANK] / max(m.arm, 1e-9)
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
