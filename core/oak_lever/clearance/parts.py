"""What moves, and what stands in the way: parts of convex pieces, each carried by a body through every pose."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from itertools import pairwise
from math import dist
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from oak_lever.clearance.solids import SEGMENT, Piece, ball, groups_of, tire, tube
from oak_lever.design.axle import HOUSING_TUBES
from oak_lever.design.links import TUBE_MM
from oak_lever.design.room import MOVING_GAP_MM, KeepOut
from oak_lever.design.running_gear import Shock
from oak_lever.design.types import Design
from oak_lever.design.values import Point
from oak_lever.figures.joints import joint_places
from oak_lever.figures.running_gear import FINE_DEG, FINE_MM
from oak_lever.figures.steer import Knuckle, kingpin_axis, turned_about
from oak_lever.motion.carried import carried
from oak_lever.motion.mechanism import Floats, Mechanism, mechanism_of
from oak_lever.motion.trace import Poses, finely, rotations, trace
from oak_lever.plates.brackets import bracket_spaces
from oak_lever.plates.truss import truss_spaces

Sort = Literal[
    "link", "arm", "rod", "tube", "housing", "tire", "shaft", "drag-link", "tie-rod", "shock", "bracket", "keep-out"
]
_SAME_MM = 1.0
"""Joints nearer than this are one joint: what meets there is not held apart."""
_STEERED = (-1.0, -0.5, 0.0, 0.5, 1.0)
_SHOULDER = 0.15
"""A tire's shoulder in its widths, where the file says nothing of it."""


@dataclass(frozen=True)
class Body:
    """What carries pieces: `turn` (P, 3, 3) times a point of theirs, plus `shift` (P, 3) mm, chassis frame."""

    turn: Floats
    shift: Floats


@dataclass(frozen=True)
class Solid:
    """A part by its name: its pieces in groups, each with the body that carries it; where its joints stand at ride; for
    a keep-out what it is bolted to and what gap it wants, and, as for a bracket, whether the axle carries it. `there`:
    in which poses it is looked at."""

    name: str
    sort: Sort
    groups: tuple[tuple[tuple[Piece, ...], Body], ...]
    joints: tuple[Floats, ...] = ()
    gap: float = 0.0
    apart_from: frozenset[str] = frozenset()
    on_axle: bool = False
    there: NDArray[np.bool_] | None = field(default=None, compare=False)

    @cached_property
    def places(self) -> tuple[list[float], ...]:
        """Its joints as plain numbers."""
        return tuple(joint.tolist() for joint in self.joints)

    @property
    def pieces(self) -> Iterator[tuple[Piece, Body]]:
        return ((piece, body) for group, body in self.groups for piece in group)


def housing_of(design: Design) -> tuple[Point, float]:
    """The middle and the radius of the housing's ball, mm."""
    axle = design.axle
    if axle.housing:
        return axle.housing.at, axle.housing.diameter / 2.0
    return (0.0, axle.pinion.joint[1], axle.tire_radius_loaded), HOUSING_TUBES * axle.tube_diameter / 2.0


class Stage:
    """A design in P poses: every part of it as solids, in the order in which pairs are named; what stands on the frame
    in the way `beside` (mm) where the design has it; `names`: of these parts alone."""

    def __init__(
        self, design: Design, poses: Poses, shocks: bool = True, beside: Point = (0.0, 0.0, 0.0),
        names: frozenset[str] | None = None,
    ) -> None:  # fmt: skip
        self.design, self.poses, self._beside, self._names = design, poses, beside, names
        self._shocks = design.corners.shocks if shocks and design.corners else ()
        self._fine, self._place = poses, np.arange(len(poses.parent))
        if design.steering and self._has("drag-link"):
            self._fine, self._place = finely(poses, FINE_MM, FINE_DEG)
        self.mechanism: Mechanism = mechanism_of(design)
        traced = trace(self.mechanism, self._fine)
        self._states, self._reached = traced.state[0], traced.reached[0]
        self.reached: NDArray[np.bool_] = self._reached[self._place]
        self.state: Floats = np.where(self.reached[:, None], self._states[self._place], 0.0)

    def _has(self, name: str) -> bool:
        return self._names is None or name in self._names

    @cached_property
    def _axle(self) -> Body:
        turn = rotations(self.state)
        return Body(turn, self.state[:, :3] - turn @ self.mechanism.center[0])

    @cached_property
    def _frame(self) -> Body:
        count = len(self.state)
        return Body(np.tile(np.eye(3), (count, 1, 1)), np.tile(np.array(self._beside), (count, 1)))

    def _between(self, a: Floats, b: Floats, diameter: float) -> tuple[tuple[Piece], Body]:
        """A tube between two points (P, 3) each."""
        turn = np.zeros((len(a), 3, 3))
        turn[:, :, 0] = b - a
        return (Piece(diameter / 2.0, SEGMENT),), Body(turn, a)

    def carried(self, point: Sequence[float] | Floats) -> Floats:
        """(P, 3) of a point of the axle, given where it stands at ride."""
        at: Floats = self._axle.turn @ np.array(point) + self._axle.shift
        return at

    def moving(self) -> Iterator[Solid]:
        yield from self._bars()
        axle = self.design.axle
        half, r = (axle.track - axle.tire_width) / 2.0, axle.tire_radius_loaded
        ends = (0.0, half, r), (0.0, -half, r)
        yield Solid("axle-tube", "tube", (((tube(*ends, axle.tube_diameter),), self._axle),))
        middle, radius = housing_of(self.design)
        yield Solid("housing", "housing", (((ball(middle, 2.0 * radius),), self._axle),))
        for side, hand in (("left", 1.0), ("right", -1.0)):
            if self._has(f"tire-{side}"):
                yield Solid(f"tire-{side}", "tire", tuple(self._tire(hand)))
        if self.design.driveshaft and self._has("shaft"):
            yield self._shaft()
        if self.design.steering:
            yield from self._steering()
        for shock in self._shocks:
            if self._has(shock.id):
                yield self._shock(shock)
        yield from self._brackets()
        if self.design.truss and self._has("axle-truss"):
            yield self._truss()

    def _brackets(self) -> Iterator[Solid]:
        """Brackets as they are drawn; what is bolted in one shares its mount, what carries it is welded to it."""
        for one in bracket_spaces(self.design):
            name = f"bracket-{one.id}"
            if self._has(name):
                body = self._axle if one.on_axle else self._frame
                yield Solid(
                    name, "bracket", ((tuple(Piece(0.0, points) for points in one.plates), body),), one.mounts,
                    apart_from=frozenset(("axle-tube", "housing")) if one.on_axle else frozenset(), on_axle=one.on_axle,
                )  # fmt: skip

    def _truss(self) -> Solid:
        """It is welded to tube and housing, and brackets of the axle stand on it."""
        bays = tuple(Piece(0.0, points) for points in truss_spaces(self.design))
        return Solid(
            "axle-truss", "bracket", ((bays, self._axle),), apart_from=frozenset(("axle-tube", "housing")), on_axle=True
        )  # fmt: skip

    def _shock(self, shock: Shock) -> Solid:
        """A shock's body, or a spring: what carries its lower eye it is bolted to."""
        on, upper = shock.axle.on, np.array(shock.frame.at)
        if on == "axle":
            lower = self.carried(shock.axle.at)
        else:
            own = carried(self.mechanism, {on}, self.state)[on]
            lower = own.turn @ np.array(shock.axle.at) + own.shift
        piece = self._between(lower, np.broadcast_to(upper, lower.shape), shock.diameter)
        rigid = on == "axle" or any(bar.name == on and bar.rigid for bar in self.mechanism.layout.bars)
        return Solid(
            shock.id, "shock", (piece,), (np.array(shock.axle.at), upper),
            apart_from=frozenset((on, "axle-tube", "housing") if rigid else (on,)),
        )  # fmt: skip

    def _bars(self) -> Iterator[Solid]:
        heads, tails = joint_places(self.mechanism, self.state[None])
        rest = self.mechanism.ends
        tubes = {link.id: link.tube for link in self.design.links}
        lateral = getattr(self.design.lateral, "tube", None)
        for b, bar in enumerate(self.mechanism.layout.bars):
            if not self._has(bar.name):
                continue
            given = tubes.get(bar.name, lateral)
            diameter = given.diameter if given else TUBE_MM
            path = [heads[0, :, b], *self._bends(bar.name, getattr(given, "bends", ())), tails[0, :, b]]
            joints = [rest[0][0, b], rest[1][0, b]]
            if bar.rigid:
                mounts = self.mechanism.mounts[0]
                joints = [mounts[bar.axle.first], mounts[bar.axle.second], rest[1][0, b]]
            yield Solid(
                bar.name, "arm" if bar.rigid else "link" if bar.name in tubes else "rod",
                tuple(self._between(p, q, diameter) for p, q in pairwise(path)), tuple(joints),
            )  # fmt: skip

    def _bends(self, name: str, bends: Sequence[Point]) -> list[Floats]:
        if not bends:
            return []
        own = carried(self.mechanism, {name}, self.state)[name]
        return [own.turn @ np.array(bend) + own.shift for bend in bends]

    def _tire(self, hand: float) -> Iterator[tuple[tuple[Piece], Body]]:
        axle, steering = self.design.axle, self.design.steering
        shoulder = axle.tire_shoulder if axle.tire_shoulder is not None else _SHOULDER * axle.tire_width
        piece = tire(axle.tire_diameter / 2.0, axle.tire_width, shoulder)
        middle = np.array([0.0, hand * axle.track / 2.0, axle.tire_radius_loaded])
        if steering is None:
            yield (piece,), Body(self._axle.turn, self.carried(middle))
            return
        other = steering.kingpin.at[1] * hand < 0.0
        pin = np.array(steering.kingpin.at) * ([1.0, -1.0, 1.0] if other else [1.0, 1.0, 1.0])
        about = kingpin_axis(axle, steering.kingpin, mirrored=other)
        for part in _STEERED:
            turned = turned_about(about, np.radians(part * steering.lock))
            yield (piece,), Body(self._axle.turn @ turned, self.carried(pin + turned @ (middle - pin)))

    def _shaft(self) -> Solid:
        given, joint = self.design.driveshaft, self.design.axle.pinion.joint
        assert given is not None
        case = np.array(given.case.joint)
        piece = self._between(self.carried(joint), np.broadcast_to(case, (len(self.state), 3)), given.diameter)
        return Solid("shaft", "shaft", (piece,), (np.array(joint), case))

    def _steering(self) -> Iterator[Solid]:
        axle, given = self.design.axle, self.design.steering
        assert given is not None
        if given.tie_rod and self._has("tie-rod"):
            ends = given.tie_rod
            tie = tube(*ends, given.diameter)
            yield Solid("tie-rod", "tie-rod", (((tie,), self._axle),), tuple(np.array(e) for e in ends))
        if not self._has("drag-link"):
            return
        turn = Knuckle(axle, given).follow(self._fine, self._states, self._reached)[self._place]
        kept = ~np.isnan(turn)
        pin, pitman, knuckle = (np.array(p) for p in (given.kingpin.at, given.pitman, given.knuckle))
        arm = turned_about(kingpin_axis(axle, given.kingpin), np.where(kept, turn, 0.0)) @ (knuckle - pin)
        at = (self._axle.turn @ (pin + arm)[..., None])[..., 0] + self._axle.shift
        link = self._between(np.broadcast_to(pitman, at.shape), at, given.diameter)
        yield Solid("drag-link", "drag-link", (link,), (pitman, knuckle), there=kept)

    def keep_outs(self) -> Iterator[Solid]:
        for one in self.design.room.keep_outs if self.design.room else ():
            if self._has(one.id):
                yield self._keep_out(one)

    def _keep_out(self, one: KeepOut) -> Solid:
        body = self._axle if one.on == "axle" else self._frame
        return Solid(
            one.id, "keep-out", tuple((group, body) for group in groups_of(one.solid)), gap=one.gap,
            apart_from=frozenset(one.except_), on_axle=one.on == "axle",
        )  # fmt: skip


@dataclass(frozen=True)
class Pair:
    a: Solid
    b: Solid
    wanted: float


_Sorts = frozenset[Sort]
_AXLE: _Sorts = frozenset(("tube", "housing"))
_RODS: _Sorts = frozenset(("drag-link", "tie-rod"))
_TOGETHER: tuple[tuple[_Sorts, _Sorts], ...] = (
    (frozenset(("arm", "shaft")), _AXLE),
    (_AXLE | {"tire"}, _AXLE | {"tire"}),
    (_RODS, _RODS | {"tire"}),
)
"""Sorts of moving parts that belong together and are not held apart."""
_FREE_OF_AXLE: frozenset[Sort] = frozenset(("link", "rod", "shaft", "drag-link", "shock"))
"""What moves against the axle, and so against what the axle carries."""


def pairs_of(stage: Stage) -> list[Pair]:
    """Every two parts that are held apart, in the order of the parts, and the gap that is wanted between them."""
    moving, keep_outs = list(stage.moving()), list(stage.keep_outs())
    room = stage.design.room
    gap = room.gap if room else MOVING_GAP_MM
    excepted = {frozenset(names) for names in room.except_} if room else set()
    found = [
        Pair(part, out, out.gap)
        for part in moving
        for out in keep_outs
        if part.name not in out.apart_from and _passes(part, out)
    ]
    found += [
        Pair(a, b, max(a.gap, b.gap))
        for a in keep_outs
        for b in keep_outs
        if a.on_axle and not b.on_axle and a.name not in b.apart_from and b.name not in a.apart_from
    ]
    found += [
        Pair(a, b, gap)
        for n, a in enumerate(moving)
        for b in moving[n + 1 :]
        if not _belong(a, b)
    ]  # fmt: skip
    return [pair for pair in found if frozenset((pair.a.name, pair.b.name)) not in excepted]


def _passes(part: Solid, out: Solid) -> bool:
    """Whether a part moves past a keep-out: it is carried by the other body."""
    if part.sort == "bracket":
        return part.on_axle != out.on_axle
    return not out.on_axle or part.sort in _FREE_OF_AXLE


def _belong(a: Solid, b: Solid) -> bool:
    if a.sort == b.sort == "bracket" and a.on_axle == b.on_axle:
        return True
    if a.name in b.apart_from or b.name in a.apart_from:
        return True
    sorts = ((a.sort, b.sort), (b.sort, a.sort))
    if any(one in these and other in those for one, other in sorts for these, those in _TOGETHER):
        return True
    return any(dist(p, q) <= _SAME_MM for p in a.places for q in b.places)
