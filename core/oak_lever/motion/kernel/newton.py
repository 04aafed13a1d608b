"""Newton's method on the errors; where there are more rows than unknowns, on the gradient of half their squares, with
second derivatives and damping (Nocedal, chapter 10)."""

from math import asin, sqrt

from oak_lever import tolerances as tol
from oak_lever.motion.compiling import compiled, inlined
from oak_lever.motion.kernel.linear import eliminate
from oak_lever.motion.kernel.rows import curvature, measure
from oak_lever.motion.kernel.state import CRANK, PITCH, ROLL, YAW, X, Y, Z, copy, free_index, roll_slopes, turn

_SETTLED = tol.SETTLED_MM
_STILL = tol.STILL
_ITERATIONS = 12  # Newton doubles its digits each time: past this it is not converging
_DESCENTS = 200  # steps of the slow, sure way to the least give
_ASTRAY = 10.0  # Newton that has gone farther than this times the layout's own size will not come back
_DAMP, _DAMP_LEAST = 1e-3, 1e-12  # damping at first, and the least: beside slopes of about 1
_DAMP_MORE, _DAMP_LESS = 8.0, 5.0  # Marquardt's rule: more after a step that made it worse, less after a good one


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
        if not moved < _ASTRAY * m.reach:
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
    damp = _DAMP
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
            damp *= _DAMP_MORE
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
            damp = max(damp / _DAMP_LESS, _DAMP_LEAST)
        else:
            damp *= _DAMP_MORE
            turn(q, art, w)
            measure(m, q, w)
        if step < _SETTLED:
            return
