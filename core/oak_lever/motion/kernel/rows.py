"""Errors of the rows, and their first and second derivatives by the state."""

from math import cos, sin, sqrt

import numpy as np

from oak_lever import tolerances as tol
from oak_lever.motion.compiling import compiled, inlined
from oak_lever.motion.kernel.state import CRANK, PITCH, ROLL, YAW, X, Y, Z

_NO_LENGTH = tol.NO_LENGTH_MM


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
            long = max(sqrt(d0 * d0 + d1 * d1 + d2 * d2), _NO_LENGTH)
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
