"""How far the drag link turns the knuckle it steers, with its pitman held: what a front axle steers by itself."""

import math

import numpy as np
from numpy.typing import NDArray

from oak_lever.design.axle import Axle
from oak_lever.design.running_gear import Kingpin, Steering
from oak_lever.motion.mechanism import Floats
from oak_lever.motion.trace import Poses, rotations
from oak_lever.motion.vectors import cross

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
        self._out, self._beside = arm - self._along, cross(self._axis, arm)
        self.length = float(np.linalg.norm(np.array(steering.knuckle) - self._pitman))

    def _swing(self, state: Floats) -> tuple[Floats, Floats]:
        """(P,) each: the angle at which the length is greatest, and the cosine of how far from it the link's own length
        lies; beyond 1 where it can't be had, NaN where no turn changes it."""
        pitman = ((self._pitman - state[:, :3])[:, None] @ rotations(state))[:, 0] + self._center - self._pin
        away = self._along - pitman
        b, c = 2.0 * away @ self._out, 2.0 * away @ self._beside
        square = (away**2).sum(-1) + float(self._out @ self._out)
        most = np.hypot(b, c)
        flat = most <= _FLAT * np.maximum(square, 1.0)
        with np.errstate(invalid="ignore", divide="ignore"):
            return np.arctan2(c, b), np.where(flat, np.nan, (self.length**2 - square) / most)

    def follow(self, poses: Poses, state: Floats, reached: NDArray[np.bool_]) -> Floats:
        """(P,) radians, + to the left, with the axle at `state` (P, 7); NaN in poses not reached, and from where
        nothing keeps the knuckle on. Each pose is followed from its parent, so they must stand close (see
        `trace.finely`)."""
        turn = np.full(len(reached), math.nan)
        if not reached[0]:
            return turn
        top, part = self._swing(state)
        # on which side of the greatest length the knuckle stands, straight ahead: there it stays
        if not abs(part[0]) < 1.0 - _FLAT:
            return turn
        hand = 1.0 if math.sin(-top[0]) > 0.0 else -1.0
        keeps = reached & (np.abs(part) < 1.0 - _FLAT**2)
        there = (top + hand * np.arccos(np.where(keeps, part, 0.0))).tolist()
        found, parents, kept = turn.tolist(), poses.parent.tolist(), keeps.tolist()
        found[0] = 0.0
        whole = 2.0 * math.pi
        for p in range(1, len(found)):
            at = found[parents[p]]
            if kept[p] and not math.isnan(at):
                found[p] = there[p] + whole * round((at - there[p]) / whole)
        return np.array(found)
