"""What the kernel works on: the rows of one design, the room it works in, the axle's state and its rotation."""

from math import cos, sin, sqrt
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from oak_lever.motion.compiling import inlined

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]

X, Y, Z, ROLL, PITCH, YAW, CRANK = range(7)


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


@inlined
def free_index(u):
    """Index in q of unknown u: x, y, pitch, yaw, crank."""
    return u if u < 2 else u + 2
