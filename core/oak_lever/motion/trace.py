"""Asking for poses: which ones, each continued from which, and what comes back."""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from oak_lever.motion.mechanism import Floats, Mechanism


@dataclass(frozen=True, eq=False)
class Poses:
    """Poses to solve: `travel_mm` (P,), `articulation_deg` (P,), `parent` (P,) the earlier pose each is
    followed from. Pose 0 is ride."""

    travel_mm: Floats
    articulation_deg: Floats
    parent: NDArray[np.int64]

    def and_one(self, travel_mm: float, articulation_deg: float) -> "Poses":
        """These and, last, a single pose more: straight from ride to its travel, then twisted there."""
        return Poses(
            np.append(self.travel_mm, [travel_mm, travel_mm]),
            np.append(self.articulation_deg, [0.0, articulation_deg]),
            np.append(self.parent, [0, len(self.parent)]),
        )

    def and_pairs(self, travels_mm: Floats, articulations_deg: Floats) -> tuple["Poses", NDArray[np.int64]]:
        """These and, after them, one for each travel and articulation (N,), straight up and then twisted there; and the
        places (N,) of those."""
        first, count = len(self.parent), len(travels_mm)
        straight = first + np.arange(count)
        poses = Poses(
            np.concatenate([self.travel_mm, travels_mm, travels_mm]),
            np.concatenate([self.articulation_deg, np.zeros(count), articulations_deg]),
            np.concatenate([self.parent, np.zeros(count, dtype=np.int64), straight]),
        )
        return poses, straight + count


@lru_cache(maxsize=64)
def finely(poses: Poses, most_mm: float, most_deg: float) -> tuple[Poses, NDArray[np.int64]]:
    """The same poses with others put in on the way from each one's parent, no farther apart than that; and where in
    them the given ones stand."""
    travel, twist, parent, place = [], [], [], np.empty(len(poses.parent), dtype=np.int64)
    for p, root in enumerate(poses.parent):
        start = (0.0, 0.0) if root < 0 else (poses.travel_mm[root], poses.articulation_deg[root])
        end = (poses.travel_mm[p], poses.articulation_deg[p])
        parts = (abs(end[0] - start[0]) / most_mm, abs(end[1] - start[1]) / most_deg)
        steps = max(1, int(np.ceil(max(parts))))
        before = -1 if root < 0 else int(place[root])
        for n in range(1, steps + 1):
            travel.append(start[0] + (end[0] - start[0]) * n / steps if n < steps else end[0])
            twist.append(start[1] + (end[1] - start[1]) * n / steps if n < steps else end[1])
            parent.append(before)
            before = len(parent) - 1
        place[p] = before
    return Poses(np.array(travel), np.array(twist), np.array(parent, dtype=np.int64)), place


@dataclass(frozen=True, eq=False)
class Traced:
    """Solved poses of D designs.

    ``state`` (D, P, 7): x, y, z mm and roll, pitch, yaw, crank radians; ``heave``, ``rolling`` (D, P, 6): velocity of
    the axle's center (mm) and angular velocity (radians), chassis frame, per mm of travel and per radian of roll;
    ``bind`` (D, P) mm; ``reached`` (D, P). Everything of an unreached pose is NaN. ``ended`` (D, P): how far from its
    parent an unreached pose's path went (0 to 1; NaN where the parent was not reached either).
    """

    poses: Poses
    state: Floats
    heave: Floats
    rolling: Floats
    bind: Floats
    reached: NDArray[np.bool_]
    ended: Floats


def outward(values: Floats) -> tuple[NDArray[np.int64], NDArray[np.int64]]:
    """Order to solve sorted `values` in, and for each in that order the index (in that order) it follows; -1: ride.

    From zero outward on both sides, so that every pose is followed from its inner neighbor.
    """
    below = np.flatnonzero(values < 0)[::-1]
    above = np.flatnonzero(values >= 0)
    order = np.concatenate([below, above])
    parent = np.arange(-1, len(order) - 1)
    if len(below) and len(above):
        parent[len(below)] = -1
    return order, parent


class Plan:
    """Collects poses; `add` gives back where in the result they will stand."""

    def __init__(self) -> None:
        self._travel_mm, self._articulation_deg, self._parent = [0.0], [0.0], [-1]

    def heave(self, travels_mm: Floats) -> NDArray[np.int64]:
        """Straight travel; any order asked, rows in that order given."""
        return self._fan(travels_mm, np.zeros_like(travels_mm), travels_mm, 0)

    def twist(self, articulations_deg: Floats, at: int = 0) -> NDArray[np.int64]:
        """Articulation at the travel of the pose `at`."""
        travels_mm = np.full_like(articulations_deg, self._travel_mm[at])
        return self._fan(travels_mm, articulations_deg, articulations_deg, at)

    def grid(self, travels_mm: Floats, articulations_deg: Floats) -> NDArray[np.int64]:
        """(T, A) places of all pairs."""
        return np.stack([self.twist(articulations_deg, at=int(p)) for p in self.heave(travels_mm)])

    def pose(self, travel_mm: float, articulation_deg: float) -> int:
        """The place of a single pose: straight up, then twisted there."""
        if travel_mm == 0.0 and articulation_deg == 0.0:
            return 0
        return int(self.grid(np.array([travel_mm]), np.array([articulation_deg]))[0, 0])

    def poses(self) -> Poses:
        return Poses(
            np.array(self._travel_mm), np.array(self._articulation_deg), np.array(self._parent, dtype=np.int64)
        )

    def _fan(self, travels_mm: Floats, articulations_deg: Floats, values: Floats, root: int) -> NDArray[np.int64]:
        """Poses at those travels and articulations, followed from `root` outward along `values`."""
        by_value = np.argsort(values, kind="stable")
        order, parents = outward(values[by_value])
        order = by_value[order]
        start = len(self._travel_mm)
        self._travel_mm += travels_mm[order].tolist()
        self._articulation_deg += articulations_deg[order].tolist()
        self._parent += np.where(parents < 0, root, start + parents).tolist()
        places = np.empty(len(values), dtype=np.int64)
        places[order] = start + np.arange(len(values))
        return places


RIDE = Plan().poses()
"""Ride alone."""


class _Asked:
    """Poses, equal to others at the same travels and articulations that are followed from the same ones."""

    def __init__(self, poses: Poses) -> None:
        self.poses = poses
        self._key = (poses.travel_mm.tobytes(), poses.articulation_deg.tobytes(), poses.parent.tobytes())

    def __hash__(self) -> int:
        return hash(self._key)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Asked) and self._key == other._key


def trace(mechanism: Mechanism, poses: Poses) -> Traced:
    """Solve all poses of all designs of the mechanism, each by continuation from ride. Of one design it is remembered:
    nobody writes into it."""
    return _trace_one(mechanism, _Asked(poses)) if len(mechanism.mounts) == 1 else _trace(mechanism, poses)


@lru_cache(maxsize=96)
def _trace_one(mechanism: Mechanism, asked: _Asked) -> Traced:
    traced = _trace(mechanism, asked.poses)
    for values in (traced.state, traced.heave, traced.rolling, traced.bind, traced.reached, traced.ended):
        values.flags.writeable = False
    return traced


def _trace(mechanism: Mechanism, poses: Poses) -> Traced:
    from oak_lever.motion import kernel  # brings the compiler in: not before something is to be moved

    layout = mechanism.layout
    shape = (len(mechanism.mounts), len(poses.travel_mm))
    out = Traced(
        poses,
        np.empty((*shape, 7)),
        np.empty((*shape, 6)),
        np.empty((*shape, 6)),
        np.empty(shape),
        np.empty(shape, dtype=np.bool_),
        np.empty(shape),
    )
    angle = np.radians(poses.articulation_deg)
    with np.errstate(all="ignore"):
        kernel.trace(
            layout.axis, layout.hand, layout.crank_on == "axle", layout.unknowns,
            mechanism.body, mechanism.frame, mechanism.target, mechanism.arm, mechanism.tilt, mechanism.radius,
            mechanism.reach, poses.travel_mm, angle, np.sin(angle), np.cos(angle), poses.parent,
            *kernel.room(len(layout.rows), shape[1]),
            out.state, out.heave, out.rolling, out.bind, out.reached, out.ended,
        )  # fmt: skip
    return out


def rotations(state: Floats) -> Floats:
    """(..., 3, 3) rotation matrices, axle to chassis, of states (..., 7)."""
    cosine, sine = np.cos(state[..., 3:6]), np.sin(state[..., 3:6])
    cr, cp, cy = cosine[..., 0], cosine[..., 1], cosine[..., 2]
    sr, sp, sy = sine[..., 0], sine[..., 1], sine[..., 2]
    out = np.empty((*cr.shape, 3, 3))
    out[..., 0, 0], out[..., 0, 1], out[..., 0, 2] = cy * cp, cy * sp * sr - sy * cr, cy * sp * cr + sy * sr
    out[..., 1, 0], out[..., 1, 1], out[..., 1, 2] = sy * cp, sy * sp * sr + cy * cr, sy * sp * cr - cy * sr
    out[..., 2, 0], out[..., 2, 1], out[..., 2, 2] = -sp, cp * sr, cp * cr
    return out
