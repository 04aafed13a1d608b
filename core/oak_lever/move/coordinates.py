"""What may be moved: each mount or eye, or mirrored pair, along each axis that is not locked; and moving it."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from math import dist
from typing import Literal

import numpy as np

from oak_lever.cycle import STEPS, Swept, sweep_many
from oak_lever.design.faults import Refused
from oak_lever.design.parts import Spot, parts_of
from oak_lever.design.replaced import replaced
from oak_lever.design.types import Design
from oak_lever.design.values import Point
from oak_lever.motion.mechanism import Floats, mechanism_of

PAIR_MM = 0.01
"""Mounts nearer than this to each other's mirror image are a pair: less than a tape shows, more than rounding."""

SHARED_MM = 1.0
"""Mounts on one body nearer than this stand on one bolt."""

Axis = Literal["x", "y", "z"]
AXES: tuple[Axis, ...] = ("x", "y", "z")


@dataclass(frozen=True)
class Coordinate:
    """One thing to move: an axis of a mount, and of its mirror image, which goes the other way in y."""

    axis: Axis
    mounts: tuple[str, ...]
    directions: Floats
    """(K, 3) what one mm of it does to each of the points that it is one of."""


@dataclass(frozen=True)
class Shift:
    """Mounts moved together by so many mm along an axis, + for the first; its mirror image goes the other way in y."""

    axis: Axis
    mounts: tuple[str, ...]
    by: float


def spots(design: Design) -> list[Spot]:
    """Every point that constrains the axle, in the order of `mount_names`."""
    return [spot for spot in parts_of(design).spots if spot.holds]


def eyes(design: Design) -> list[Spot]:
    """Every point of what runs with the axle and constrains nothing, in the order of the file."""
    return [spot for spot in parts_of(design).spots if not spot.holds]


def twin_of(spot: Spot, among: Iterable[Spot]) -> Spot | None:
    """The mount of the same kind that stands at this one's mirror image, if it stands off the centerline."""
    x, y, z = spot.at
    if abs(y) < PAIR_MM:
        return None
    for other in among:
        near = max(abs(other.at[0] - x), abs(other.at[1] + y), abs(other.at[2] - z)) < PAIR_MM
        if other.name != spot.name and other.kind == spot.kind and near:
            return other
    return None


def joints_of(every: Sequence[Spot]) -> list[tuple[Spot, ...]]:
    """The mounts by the joint they are of: links that share a bolt share its place, and move with it together."""
    found: list[list[Spot]] = []
    for spot in every:
        for joint in found:
            if joint[0].on == spot.on and dist(joint[0].at, spot.at) < SHARED_MM:
                joint.append(spot)
                break
        else:
            found.append([spot])
    return [tuple(joint) for joint in found]


def coordinates(design: Design, part: str | None = None) -> list[Coordinate]:
    """Everything that may be moved of what constrains the axle, or else of one `part` that runs with it: locks and
    unpaired mounts of the design respected, a pair counted once, mounts that share a joint together.

    A mount on the truck's centerline stays on it.
    """
    every = spots(design) if part is None else eyes(design)
    alone, locks = set(design.unpaired or ()), design.locks or {}
    index = {spot.name: n for n, spot in enumerate(every)}
    joints = joints_of(every) if part is None else [(spot,) for spot in every]
    joint_of = {spot.name: joint for joint in joints for spot in joint}
    found: list[Coordinate] = []
    done: set[str] = set()
    for joint in joints:
        if joint[0].name in done or part not in (None, joint[0].part):
            continue
        twin = twin_of(joint[0], every)
        other = joint_of[twin.name] if twin is not None else ()
        if len(other) != len(joint) or any({spot.name, spot.was} & alone for spot in (*joint, *other)):
            other = ()
        both = (*joint, *other)
        done.update(spot.name for spot in both)
        held = "".join(locks.get(name, "") for spot in both for name in (spot.name, spot.was) if name is not None)
        for a, axis in enumerate(AXES):
            if axis in held or (axis == "y" and abs(joint[0].at[1]) < PAIR_MM):
                continue
            directions = np.zeros((len(every), 3))
            directions[[index[spot.name] for spot in joint], a] = 1.0
            directions[[index[spot.name] for spot in other], a] = -1.0 if axis == "y" else 1.0
            found.append(Coordinate(axis, tuple(spot.name for spot in both), directions))
    return found


def placed(design: Design, at: Mapping[str, Point]) -> Design:
    """The design with mounts elsewhere, by name, mm.

    Raises:
        KeyError: for a name that no mount has.
        Refused: where that makes no design (two ends at one point, say).
    """
    parts = parts_of(design)
    return replaced(design, {parts.spot(name).path: (float(x), float(y), float(z)) for name, (x, y, z) in at.items()})


class Movable:
    """Points of a design and the coordinates of them that are free: where moves take them.

    Moves are (N, F): how far, mm, along each of the F free coordinates, from where the design has its points.
    """

    def __init__(self, design: Design, every: Sequence[Spot], free: Sequence[Coordinate]) -> None:
        self.design, self.spots, self.free = design, list(every), list(free)
        self.directions = np.array([c.directions for c in self.free]).reshape(len(self.free), 3 * len(self.spots))
        self._stand = np.array([spot.at for spot in self.spots]).reshape(-1, 3)

    def mounts(self, moves: Floats) -> Floats:
        """(N, K, 3) where the points then are."""
        moved: Floats = self._stand + (moves @ self.directions).reshape(len(moves), -1, 3)
        return moved

    def at(self, move: Floats) -> dict[str, Point]:
        """Where the points that one move (F,) moves then are, by name."""
        by, now = (move @ self.directions).reshape(-1, 3), self.mounts(move[None])[0]
        return {
            self.spots[k].name: (float(x), float(y), float(z))
            for k, (x, y, z) in enumerate(now) if np.any(by[k] != 0.0)
        }  # fmt: skip

    def moved(self, move: Floats) -> Design | None:
        """The design that one move makes; None where that is none (two ends at one point, say)."""
        try:
            return placed(self.design, self.at(move))
        except Refused:
            return None

    def shifts(self, move: Floats) -> tuple[Shift, ...]:
        """One move, coordinate by coordinate."""
        return tuple(Shift(c.axis, c.mounts, float(by)) for c, by in zip(self.free, move, strict=True) if by != 0.0)


def part_space(design: Design, part: str) -> Movable:
    """What may be moved of a part that runs with the axle; the axle's own motion stays as it is."""
    return Movable(design, eyes(design), coordinates(design, part))


class Space(Movable):
    """What may be moved of what constrains the axle, and what the axle then does, for many moves."""

    def __init__(self, design: Design, free: Sequence[Coordinate] | None = None) -> None:
        super().__init__(design, spots(design), coordinates(design) if free is None else free)
        self.mechanism = mechanism_of(design)

    def swept(self, moves: Floats, steps: int = STEPS) -> Swept:
        """The moved designs through the design's travel and articulation."""
        return sweep_many(self.design, self.mechanism.with_mounts(self.mounts(moves)), steps)
