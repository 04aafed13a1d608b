"""The axle with wheels and brakes as one body in balance: the force in every constraint and in the springs.

Six equations of the body (forces, and moments about the axle's center) and one of the bell crank about its pin. With
more constraints than freedoms, of all forces that balance those with the least sum of squares, springs left out of it.
"""

from dataclasses import dataclass
from functools import cached_property
from math import isfinite, sqrt

import numpy as np

from oak_lever.design.faults import Fault, Refused
from oak_lever.design.links import RadiusArm
from oak_lever.design.parts import DISTANCE
from oak_lever.design.running_gear import Shock
from oak_lever.design.types import Design
from oak_lever.figures.forces import pushed
from oak_lever.figures.struts import Eyes
from oak_lever.motion.mechanism import Floats, Mechanism, mechanism_of
from oak_lever.motion.trace import Plan, Traced, rotations, trace
from oak_lever.motion.vectors import cross
from oak_lever.strength.cases import Case, loads_of
from oak_lever.units import GRAVITY

_RANK = 1e-9
"""Singular values below this part of the largest, moments in reaches, hold nothing."""
_BALANCE = 1e-7
"""What may be left of the loads, as a part of them, for rounding."""


def length_of(vector: Floats) -> float:
    """Of three numbers: numpy's own norm spends more on what it might be given than on the sum."""
    return sqrt(float(vector @ vector))


@dataclass(frozen=True)
class Spring:
    """A spring of a side in a pose: where it pushes (its axle-side eye), which way (unit, away from its frame eye), on
    which link (None: on the axle or what is rigid with it), and its part of the side's force."""

    at: Floats
    way: Floats
    link: str | None
    on: str
    part: float


@dataclass(frozen=True)
class Bar:
    """A bar in a pose: its axle joint, its frame joint, mm, chassis."""

    axle: Floats
    frame: Floats

    @cached_property
    def length(self) -> float:
        return length_of(self.frame - self.axle)

    @cached_property
    def way(self) -> Floats:
        out: Floats = (self.frame - self.axle) / self.length
        return out


@dataclass(frozen=True)
class Posed:
    """Where everything stands in a case's pose; `reached`: whether there is such a pose; `bind` its give, mm."""

    reached: bool
    bind: float | None
    center: Floats
    turn: Floats
    rows: dict[str, Floats]
    """Of each constraint by name: what a unit of its force does to the axle and the crank, (7, 1); of a radius arm (7,
    2), fore-aft and up."""
    bars: dict[str, Bar]
    springs: dict[str, tuple[Spring, ...]]
    crank: bool
    arms: dict[str, tuple[Floats, Floats, Floats]]
    """Of each radius arm: its eye and its two bolts."""
    crank_ways: dict[str, Floats]
    """Of each rod of a Watts link: the way in which its pull acts on the crank."""
    half_track: float

    @cached_property
    def solver(self) -> "_Solver | None":
        """What finds the forces of any case in this pose; None where none can be found."""
        columns = [one.reshape(7, -1) for one in self.rows.values()]
        whole = np.concatenate(columns, axis=1) if columns else np.empty((7, 0))
        pushes = np.stack([_side(self, self.springs[side]) for side in ("left", "right")], axis=-1)
        reach = max(float(np.abs(whole[3:6]).max(initial=1.0)), self.half_track, 1.0)
        scale = np.array([1.0, 1.0, 1.0, *[1.0 / reach] * 3, 1.0 / reach])[: 7 if self.crank else 6]
        return _solver(scale[:, None] * whole[: len(scale)], scale[:, None] * pushes[: len(scale)], scale)


@dataclass(frozen=True)
class Balance:
    """Forces that balance: of each constraint (N; of a radius arm fore-aft and up), and of each side's springs, N."""

    forces: dict[str, Floats]
    springs: dict[str, float]


def poses_of(design: Design, cases: list[Case]) -> tuple[Traced, list[int]]:
    """All cases' poses, solved at once, and which is whose."""
    plan = Plan()
    places = [plan.pose(case.travel, case.articulation) for case in cases]
    return trace(mechanism_of(design), plan.poses()), places


def posed(design: Design, traced: Traced, place: int) -> Posed:
    """Everything of one pose."""
    mechanism = mechanism_of(design)
    reached = bool(traced.reached[0, place])
    nothing = np.zeros(3)
    if not reached:
        return Posed(False, None, nothing, np.eye(3), {}, {}, {}, False, {}, {}, 0.0)
    state = traced.state[0, place]
    turn, center = rotations(state), state[:3]
    stands = _Stands(mechanism, state)
    rows, crank_ways = _rows(mechanism, stands)
    bars = {bar.name: Bar(*stands.ends(n)) for n, bar in enumerate(mechanism.layout.bars) if not bar.rigid}
    arms = {}
    for link in design.links:
        if isinstance(link, RadiusArm):
            eye, first, second = (stands.on_axle(np.array(at)) for at in (link.frame.at, *link.axle.at))
            arms[link.id] = eye, first, second
    eyes = Eyes(mechanism, traced)
    springs = {side: _springs(design, eyes, place, way, stands) for side, way in (("left", 1.0), ("right", -1.0))}
    return Posed(
        True, float(traced.bind[0, place]), center, turn, rows, bars, springs, mechanism.layout.crank_on is not None,
        arms, crank_ways, design.axle.track / 2.0,
    )  # fmt: skip


class _Stands:
    """Points of a mechanism's one design in a pose."""

    def __init__(self, mechanism: Mechanism, state: Floats) -> None:
        self.mechanism, self.state = mechanism, state
        self.turn, self.center = rotations(state), state[:3]
        self.rest = mechanism.center[0]

    def on_axle(self, point: Floats) -> Floats:
        out: Floats = self.center + self.turn @ (point - self.rest)
        return out

    def swung(self, hand: float) -> Floats:
        """From the crank's pivot to its end, in its carrier's axes."""
        angle = float(self.mechanism.tilt[0] + self.state[6])
        arm = float(self.mechanism.arm[0]) * hand
        return np.array([0.0, -arm * np.sin(angle), arm * np.cos(angle)])

    def ends(self, n: int) -> tuple[Floats, Floats]:
        """The axle joint and the frame joint of a bar."""
        bar, mounts = self.mechanism.layout.bars[n], self.mechanism.mounts[0]
        head = (mounts[bar.axle.first] + mounts[bar.axle.second]) / 2.0
        tail = (mounts[bar.frame.first] + mounts[bar.frame.second]) / 2.0
        if bar.axle.hand:
            head = head + self.swung(bar.axle.hand)
        if bar.frame.hand:
            tail = tail + self.swung(bar.frame.hand)
        return self.on_axle(head), tail


def _rows(mechanism: Mechanism, stands: _Stands) -> tuple[dict[str, Floats], dict[str, Floats]]:
    """What a unit force of each constraint does, and the ways of the rods' pulls on the crank."""
    layout, mounts = mechanism.layout, mechanism.mounts[0]
    index = {bar.name: n for n, bar in enumerate(layout.bars)}
    found: dict[str, list[Floats]] = {}
    ways: dict[str, Floats] = {}
    for row in layout.rows:
        if row.axis != DISTANCE:
            point, way = stands.on_axle(mounts[row.on_axle]), np.eye(3)[row.axis]
            found.setdefault(row.name, []).append(_wrench(stands.center, point, way, 0.0))
            continue
        head, tail = stands.ends(index[row.name])
        way = (tail - head) / np.linalg.norm(tail - head)
        about = 0.0
        if row.hand:
            on_axle = layout.crank_on == "axle"
            pull = way if on_axle else -way
            pin = stands.turn[:, 0] if on_axle else np.array([1.0, 0.0, 0.0])
            pivot_at = mounts[row.on_axle if on_axle else row.on_frame]
            pivot = stands.on_axle(pivot_at) if on_axle else pivot_at
            about = float(cross((head if on_axle else tail) - pivot, pull) @ pin)
            ways[row.name] = pull
        found.setdefault(row.name, []).append(_wrench(stands.center, head, way, about))
    return {name: np.stack(columns, axis=-1) for name, columns in found.items()}, ways


def _wrench(center: Floats, at: Floats, force: Floats, about: float) -> Floats:
    """(7,) force, moment about the axle's center, moment about the crank's pin."""
    return np.concatenate([force, cross(at - center, force), [about]])


def _springs(design: Design, eyes: Eyes, place: int, side: float, stands: _Stands) -> tuple[Spring, ...]:
    shocks = [one for one in (design.corners.shocks if design.corners else ()) if one.spring or one.air]
    own = [one for one in shocks if one.axle.at[1] * side > 0.0]
    if not own:
        return (_seat(design, side, stands),)
    at = [eyes.on(one.axle.on, one.axle.at).at[place] for one in own]
    spans = [eye - np.array(one.frame.at) for eye, one in zip(at, own, strict=True)]
    push = [_push(one, span) for one, span in zip(own, spans, strict=True)]
    whole = sum(push)
    parts = [one / whole if whole > 0.0 else 1.0 / len(own) for one in push]
    rigid = {link.id for link in design.links if link.kind == "radius_arm"} | {"axle"}
    return tuple(
        Spring(eye, span / np.linalg.norm(span), None if one.axle.on in rigid else one.axle.on, one.axle.on, part)
        for eye, span, one, part in zip(at, spans, own, parts, strict=True)
    )


def _push(shock: Shock, span: Floats) -> float:
    return float(pushed(shock, np.array([np.linalg.norm(span)])).force[0])


def _seat(design: Design, side: float, stands: _Stands) -> Spring:
    """Where no spring is drawn: straight down on the axle over the inside of the tire."""
    axle = design.axle
    if axle.track <= axle.tire_width:
        words = "must be more than the tire's width: where no spring is drawn, one is taken over the tire's inside"
        raise Refused([Fault("axle.track", words)])
    point = np.array([0.0, side * (axle.track - axle.tire_width) / 2.0, axle.tire_radius_loaded])
    return Spring(stands.on_axle(point), np.array([0.0, 0.0, -1.0]), None, "axle", 1.0)


def spring_at_joint(bar: Bar, spring: Spring) -> tuple[Floats, Floats, float, Floats]:
    """Of a spring on a link pushing with 1 N: the transverse force that the link then gives the axle at its axle joint,
    that which it takes from its frame joint, the part along the link, and the spring's place off the joints' line."""
    way, long = bar.way, bar.length
    off = spring.at - bar.axle
    p = float(off @ way)
    d = off - p * way
    along = float(spring.way @ way)
    across = spring.way - along * way
    at_axle = ((long - p) * across + along * d) / long
    return at_axle, across - at_axle, along, d


def balance(design: Design, where: Posed, case: Case) -> Balance | None:
    """The forces in a case; None where none balance."""
    if not where.reached:
        return None
    solved = where.solver.forces(-_loads(design, where, case)) if where.solver else None
    if solved is None:
        return None
    forces, springs = solved
    found, n = {}, 0
    for name in where.rows:
        many = where.rows[name].shape[1]
        found[name] = forces[n : n + many]
        n += many
    return Balance(found, {"left": float(springs[0]), "right": float(springs[1])})


def _side(where: Posed, springs: tuple[Spring, ...]) -> Floats:
    """(7,) what a newton of a side's springs does to the axle."""
    total = np.zeros(7)
    for one in springs:
        if one.link is None:
            total += one.part * _wrench(where.center, one.at, one.way, 0.0)
        else:
            bar = where.bars[one.link]
            at_axle, _, _, _ = spring_at_joint(bar, one)
            total += one.part * _wrench(where.center, bar.axle, at_axle, 0.0)
    return total


def _loads(design: Design, where: Posed, case: Case) -> Floats:
    """(7,) of the ground on the tires, the axle's own weight, and the shaft's torque."""
    axle, loads = design.axle, loads_of(design)
    total = _wrench(where.center, where.center, np.array([0.0, 0.0, -axle.mass * GRAVITY]), 0.0)
    down = np.array([0.0, 0.0, axle.tire_radius_loaded])
    for side, force in ((1.0, case.left), (-1.0, case.right)):
        wheel = where.center + where.turn @ np.array([0.0, side * axle.track / 2.0, 0.0])
        total += _wrench(where.center, wheel - down, np.array(force), 0.0)
    if loads.final_ratio is not None and case.driven:
        torque = (case.left[0] + case.right[0]) * axle.tire_radius_loaded / loads.final_ratio
        total[3] += -torque if loads.shaft_turns == "usual" else torque
    return total


@dataclass(frozen=True)
class _Solver:
    """Of a pose: constraints (R, F) and springs (R, 2) in rows that are `scale` of what they were, and what finds their
    forces for a load."""

    a: Floats
    b: Floats
    scale: Floats
    to_forces: Floats
    to_springs: Floats

    def forces(self, load: Floats) -> tuple[Floats, Floats] | None:
        """f of the least sum of squares, and s, with a f + b s = the load (7,), scaled; None where there are none."""
        goal = self.scale * load[: len(self.scale)]
        forces = self.to_forces @ goal
        springs = self.to_springs @ (goal - self.a @ forces)
        rest = np.abs(self.a @ forces + self.b @ springs - goal).max(initial=0.0)
        if not isfinite(rest) or rest > _BALANCE * max(float(np.abs(goal).max(initial=0.0)), 1.0):
            return None
        return forces, springs


def _solver(a: Floats, b: Floats, scale: Floats) -> _Solver | None:
    """None where something is loose, or a spring stands square to all that it could hold."""
    sizes = np.linalg.svd(np.concatenate([a, b], axis=1), compute_uv=False)
    if len(sizes) < len(scale) or sizes[len(scale) - 1] <= _RANK * sizes[0]:
        return None
    left, held, _ = np.linalg.svd(b, full_matrices=True)
    rank = int((held > _RANK * max(held[0], _RANK)).sum())
    if rank < b.shape[1]:
        return None
    free = left[:, rank:].T  # what the springs can do nothing about
    to_forces: Floats = np.linalg.pinv(free @ a, rcond=_RANK) @ free
    to_springs: Floats = np.linalg.pinv(b).astype(float)
    return _Solver(a, b, scale, to_forces, to_springs)
