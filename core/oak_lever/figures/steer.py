"""How far the drag link turns the knuckle it steers, with its pitman held: what a front axle steers by itself."""

import math

import numpy as np
from numpy.typing import NDArray

from oak_lever.design.axle import Axle
from oak_lever.design.running import Kingpin, Steering
from oak_lever.motion.mechanism import Floats
from oak_lever.motion.trace import Poses, rotations

_FLAT = 1e-9
"""Below this part of what a turn of the knuckle could do to the link's length, it does nothing to it."""


def kingpin_axis(axle: Axle, kingpin: Kingpin, mirrored: bool = False) -> Floats:
    """(3,) the unit direction, upward, that a knuckle turns about at ride: leaning back by the caster, its top in by
    the inclination; of the other knuckle its mirror image."""
    side = math.copysign(1.0, kingpin.at[1]) * (-1.0 if mirrored else 1.0)
    caster, inclined = (math.tan(math.radians(a)) for a in (axle.caster or 0.0, kingpin.inclination))
    way = np.array([-caster, -side * inclined, 1.0])
    turned: Floats = way / np.linalg.norm(way)
    return turned


def turned_about(axis: Floats, angle: Floats) -> Floats:
    """(..., 3, 3) rotations by `angle` (...) radians about a unit axis (3,): Rodrigues' formula."""
    x, y, z = axis
    cross = np.array([[0.0, -z, y], [z, 0.0, -x], [-y, x, 0.0]])
    a = np.asarray(angle)[..., None, None]
    out: Floats = np.eye(3) + np.sin(a) * cross + (1.0 - np.cos(a)) * (cross @ cross)
    return out


class Knuckle:
    """The drag link's length by the knuckle's turn: with a the angle, length^2 = m + b cos a + c sin a."""

    def __init__(self, axle: Axle, steering: Steering) -> None:
        self._center = np.array([0.0, 0.0, axle.tire_radius_loaded])
        self._pin, self._axis = np.array(steering.kingpin.at), kingpin_axis(axle, steering.kingpin)
        self._pitman, arm = np.array(steering.pitman), np.array(steering.knuckle) - self._pin
        self._along = self._axis * (arm @ self._axis)
        self._out, self._beside = arm - self._along, np.cross(self._axis, arm)
        self.length = float(np.linalg.norm(np.array(steering.knuckle) - self._pitman))

    def _swing(self, state: Floats) -> tuple[float, float]:
        """Of one pose (7,): the angle at which the length is greatest, and the cosine of how far from it the link's
        own length lies; beyond 1 where it can't be had, NaN where no turn changes it."""
        back = rotations(state).T
        pitman = back @ (self._pitman - state[:3]) + self._center - self._pin
        away = self._along - pitman
        b, c = 2.0 * float(away @ self._out), 2.0 * float(away @ self._beside)
        square = float(away @ away + self._out @ self._out)
        most = math.hypot(b, c)
        if most <= _FLAT * max(square, 1.0):
            return 0.0, math.nan
        return math.atan2(c, b), (self.length**2 - square) / most

    def follow(self, poses: Poses, state: Floats, reached: NDArray[np.bool_]) -> Floats:
        """(P,) radians, + to the left, with the axle at `state` (P, 7); NaN in poses not reached, and from where
        nothing keeps the knuckle on. Each pose is followed from its parent, so they must stand close (see
        `trace.finely`)."""
        turn = np.full(len(reached), math.nan)
        hand = self._hand(state[0]) if reached[0] else 0.0
        if hand == 0.0:
            return turn
        turn[0] = 0.0
        for p in range(1, len(reached)):
            if reached[p]:
                turn[p] = self._next(state[p], turn[poses.parent[p]], hand)
        return turn

    def _hand(self, state: Floats) -> float:
        """On which side of the greatest length the knuckle stands, straight ahead: there it stays. 0: on neither."""
        top, part = self._swing(state)
        if not abs(part) < 1.0 - _FLAT:
            return 0.0
        return 1.0 if math.sin(-top) > 0.0 else -1.0

    def _next(self, state: Floats, at: float, hand: float) -> float:
        if math.isnan(at):
            return at
        top, part = self._swing(state)
        if not abs(part) < 1.0 - _FLAT**2:
            return math.nan
        turn = top + hand * math.acos(part)
        return turn + 2.0 * math.pi * round((at - turn) / (2.0 * math.pi))
