"""Shocks, stops and straps through the motion: their lengths, how these change with travel and roll, what ends the
travel, and where the springs carry the truck."""

import math
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache
from itertools import pairwise
from typing import Any, Literal

import numpy as np

from oak_lever.design.running_gear import Shock, Stop, Strap
from oak_lever.design.types import Design
from oak_lever.figures.forces import pushed
from oak_lever.motion.mechanism import Floats, Mechanism
from oak_lever.motion.trace import Plan, Traced, rotations, trace
from oak_lever.motion.vectors import cross
from oak_lever.units import GRAVITY

_NODE_MM = 5.0
"""Between poses this far apart a length is a cubic of the travel, by its slopes, to a millionth of a mm."""
_NODE_DEG = 0.5
_TOGETHER_MM = 0.05
_LOOK_MM = 0.25
_ROUNDS = 5
_MOST_POINTS = 100
_SMALL = 1e-9
_ROOT = 1e-13
Listed = Literal["shocks", "stops", "straps"]
LISTED: tuple[Listed, ...] = ("shocks", "stops", "straps")


@dataclass(frozen=True)
class Moving:
    """A point in P poses (P, 3), and how it moves per mm of travel and per radian of articulation."""

    at: Floats
    heave: Floats
    roll: Floats


class Eyes:
    """Where the axle-side points of struts stand, and how they move, in traced poses of one design."""

    def __init__(self, mechanism: Mechanism, traced: Traced) -> None:
        self._mechanism = mechanism
        self._state = traced.state[0]
        self._turn = rotations(self._state)
        across = self._turn[:, :, 1]
        self._cosine = np.sqrt(np.maximum(1.0 - across[:, 2] ** 2, 0.0))
        rolling = traced.rolling[0]
        # by sin(articulation) = (R e_y).e_z, the articulation that goes with a radian of roll
        per_roll = (rolling[:, 3] * across[:, 1] - rolling[:, 4] * across[:, 0]) / self._cosine
        self._known: dict[tuple[str, float, float, float], Moving] = {}
        self._frames: dict[int, tuple[Floats, Floats, Floats, Floats]] = {}
        self._motions = (traced.heave[0], rolling / per_roll[:, None])

    @property
    def cosine(self) -> Floats:
        """(P,) of the articulation."""
        return self._cosine

    def on_axle(self, point: Sequence[float] | Floats) -> Moving:
        x, y, z = (float(v) for v in point)
        key = ("axle", x, y, z)
        return self._remembered(key, lambda: self._on_axle(point))

    def _on_axle(self, point: Sequence[float] | Floats) -> Moving:
        arm = self._turn @ (np.array(point) - self._mechanism.center[0])
        return Moving(
            self._state[:, :3] + arm, *(motion[:, :3] + cross(motion[:, 3:], arm) for motion in self._motions)
        )

    def on(self, carrier: str, point: Sequence[float]) -> Moving:
        """A point carried by the axle, or a link's own (see `motion.carried`)."""
        b = self._bar(carrier)
        if b is None:
            return self.on_axle(point)
        x, y, z = (float(v) for v in point)
        key = (carrier, x, y, z)
        return self._remembered(key, lambda: self._on_link(b, point))

    def _on_link(self, b: int, point: Sequence[float]) -> Moving:
        rest, now, heave, roll = self._frames_of(b)
        frame = self._mechanism.ends[1][0, b]
        own = rest.T @ (np.array(point) - frame)
        return Moving(frame + now @ own, heave @ own, roll @ own)

    def _remembered(self, key: tuple[str, float, float, float], work: Callable[[], Moving]) -> Moving:
        found = self._known.get(key)
        if found is None:
            if len(self._known) >= _MOST_POINTS:
                self._known.clear()
            found = self._known[key] = work()
        return found

    def _frames_of(self, b: int) -> tuple[Floats, Floats, Floats, Floats]:
        """Of a link: its axes at ride (3, 3), in every pose (P, 3, 3), and their rates by travel and by
        articulation."""
        if b not in self._frames:
            head, frame = self._mechanism.ends[0][0, b], self._mechanism.ends[1][0, b]
            bolt = self._mechanism.bolts[0, b, 1]
            rest, _ = _frame((head - frame)[None], np.zeros((1, 3)), bolt)
            joint = self.on_axle(head)
            now, heave = _frame(joint.at - frame, joint.heave, bolt)
            _, roll = _frame(joint.at - frame, joint.roll, bolt)
            self._frames[b] = rest[0], now, heave, roll
        return self._frames[b]

    def _bar(self, carrier: str) -> int | None:
        """The link that carries, None for the axle and for what is rigid with it."""
        bars = self._mechanism.layout.bars
        return next((n for n, bar in enumerate(bars) if bar.name == carrier and not bar.rigid), None)

    def turned(self, carrier: str, way: Sequence[float]) -> Floats:
        """(P, 3) of a direction at ride, as its carrier has turned it."""
        b = self._bar(carrier)
        if b is None:
            out: Floats = self._turn @ np.array(way)
            return out
        rest, now, _, _ = self._frames_of(b)
        turned: Floats = now @ (rest.T @ np.array(way))
        return turned

    def over(self, carrier: str, point: Sequence[float], span: Floats) -> Floats | None:
        """(P,) mm that a point of a link stands over the line through the link's joints, measured along `span` (P,
        3), the way to the spring's other end, as it is seen along that line; None for what can't roll."""
        b = self._bar(carrier)
        if b is None:
            return None
        frame = self._mechanism.ends[1][0, b]
        along = self.on_axle(self._mechanism.ends[0][0, b]).at - frame
        one = along / np.linalg.norm(along, axis=-1, keepdims=True)
        out = self.on(carrier, point).at - frame
        up = span - _dot(span, one) * one
        found: Floats = (_dot(out - _dot(out, one) * one, up) / np.linalg.norm(up, axis=-1, keepdims=True))[:, 0]
        return found

    def seen_from(self, body: str, point: Sequence[float] | Floats) -> Floats:
        """(P, 3) where a point of the other of axle and frame stands, in this one's axes as at ride."""
        if body == "frame":
            return self.on_axle(point).at
        out: Floats = ((np.array(point) - self._state[:, :3])[:, None] @ self._turn)[:, 0] + self._mechanism.center[0]
        return out


def _frame(along: Floats, moves: Floats, bolt: Floats) -> tuple[Floats, Floats]:
    """(P, 3, 3) with columns e1 along a link, e2 the part of its frame bolt square to it, e3; and their rates where its
    axle joint moves so (P, 3)."""
    long = np.linalg.norm(along, axis=-1, keepdims=True)
    one = along / long
    d_one = (moves - _dot(moves, one) * one) / long
    flat = bolt - _dot(one, bolt) * one
    size = np.linalg.norm(flat, axis=-1, keepdims=True)
    two = flat / size
    d_flat = -_dot(d_one, bolt) * one - _dot(one, bolt) * d_one
    d_two = (d_flat - _dot(d_flat, two) * two) / size
    three, d_three = cross(one, two), cross(d_one, two) + cross(one, d_two)
    return np.stack([one, two, three], axis=-1), np.stack([d_one, d_two, d_three], axis=-1)


def _dot(a: Floats, b: Floats) -> Floats:
    out: Floats = (a * b).sum(axis=-1, keepdims=True)
    return out


@lru_cache(maxsize=16)
def eyes_in(mechanism: Mechanism, traced: Traced) -> Eyes:
    """The eyes of one design in traced poses: the points that were asked about are remembered with them."""
    return Eyes(mechanism, traced)


@dataclass(frozen=True)
class Through:
    """A strut in P poses: `length` mm, and its slopes by travel and by articulation (radians)."""

    length: Floats
    by_travel: Floats
    by_articulation: Floats


def through(eyes: Eyes, strut: Shock | Stop | Strap) -> Through:
    eye = eyes.on(strut.axle.on, strut.axle.at)
    span = eye.at - np.array(strut.frame.at)
    length = np.sqrt((span * span).sum(axis=-1))
    way = span / length[:, None]
    return Through(length, (way * eye.heave).sum(axis=-1), (way * eye.roll).sum(axis=-1))


def strut_columns(design: Design, mechanism: Mechanism, traced: Traced) -> dict[Listed, dict[str, dict[str, Floats]]]:
    """By list, id and figure, (P,) each: `length` mm; of shocks `ratio`, shortening per mm of travel, and `ratio_roll`,
    per mm that the wheel on its side rises in articulation, NaN on the centerline."""
    assert design.corners is not None
    eyes = eyes_in(mechanism, traced)
    found: dict[Listed, dict[str, dict[str, Floats]]] = {}
    for listed in LISTED:
        for strut in getattr(design.corners, listed):
            moved = through(eyes, strut)
            columns = {"length": moved.length}
            if listed == "shocks":
                side = float(np.sign(strut.axle.at[1])) or np.nan
                lift = design.axle.track / 2.0 * eyes.cosine
                columns |= {"ratio": -moved.by_travel, "ratio_roll": -side * moved.by_articulation / lift}
            found.setdefault(listed, {})[strut.id] = columns
    return found


Event = Literal["touches", "solid", "tight", "end", "shut", "open", "coils", "loose"]
ENDING: tuple[Event, ...] = ("solid", "end", "shut", "open", "coils")
"""The events that end the travel; the others only begin or cease to push."""


def events_of(strut: Shock | Stop | Strap) -> Iterator[tuple[Event, float, float]]:
    """What happens to a strut on its way, in the order in which the file's ends count: at which length (mm), and 1
    where it is past it when longer, -1 when shorter."""
    if isinstance(strut, Strap):
        yield "tight", strut.length, 1.0
        yield "end", strut.length * (1.0 + strut.stretch), 1.0
    elif isinstance(strut, Stop):
        yield "touches", strut.free, -1.0
        yield "solid", strut.solid, -1.0
    else:
        yield "shut", strut.compressed, -1.0
        yield ("loose" if strut.sort == "coil" else "open"), strut.extended, 1.0
        if strut.spring:
            yield "coils", strut.spring.preload + strut.extended - strut.spring.solid, -1.0


class Travelled:
    """Every strut along one way that is reached, cubics between nodes with exact slopes at them: straight travel from
    ride (mm), or the twist at some travel (degrees)."""

    def __init__(self, design: Design, mechanism: Mechanism, twist_at: float | None = None) -> None:
        self._design = design
        plan, reach = Plan(), design.travel
        twisted = twist_at is not None
        low, high = (-reach.articulation, reach.articulation) if twisted else (-reach.droop, reach.bump)
        count = 1 + int(np.ceil((high - low) / (_NODE_DEG if twisted else _NODE_MM)))
        along = np.union1d(np.linspace(low, high, max(count, 2)), [0.0])
        places = plan.heave(along) if twist_at is None else plan.twist(along, plan.pose(twist_at, 0.0))
        traced = trace(mechanism, plan.poses())
        reached = traced.reached[0, places]
        self.along: Floats = along[reached]
        eyes = eyes_in(mechanism, traced)
        self.struts: list[tuple[Shock | Stop | Strap, Floats, Floats]] = []
        for strut in struts_of(design):
            moved = through(eyes, strut)
            slope = np.radians(moved.by_articulation) if twisted else moved.by_travel
            self.struts.append((strut, moved.length[places][reached], slope[places][reached]))

    def limits(self) -> dict[str, dict[str, Any] | None]:
        """`bump` and `droop`: where straight travel from ride is first ended by a strut, and by which; None where by
        none within what is reached."""
        return {"bump": self._limit(1.0), "droop": self._limit(-1.0)}

    def _limit(self, way: float) -> dict[str, Any] | None:
        ends = [(at, strut.id) for strut, event, at in self.events(way) if event in ENDING]
        if not ends:
            return None
        first = min(at for at, _ in ends)
        return {"travel": way * first + 0.0, "by": next(name for at, name in ends if at <= first + _TOGETHER_MM)}

    def events(self, way: float) -> Iterator[tuple[Shock | Stop | Strap, Event, float]]:
        """Everything that happens that way from ride, in the file's order: to which strut, what, and how far on."""
        for strut, length, slope in self.struts:
            for event, level, sign in events_of(strut):
                at = self._first(sign * (length - level), sign * slope, way)
                if at is not None:
                    yield strut, event, at

    @cached_property
    def _ways(self) -> tuple[tuple[slice, Floats], tuple[slice, Floats]]:
        """Down and up: the nodes from ride on, and how far each is from the one before; none where ride is not
        reached."""
        here = int(np.searchsorted(self.along, 0.0))
        there = here < len(self.along) and self.along[here] == 0.0
        ways = (slice(here, None, -1), slice(here, None)) if there else (slice(0, 0), slice(0, 0))
        down, up = ((nodes, np.abs(np.diff(self.along[nodes]))) for nodes in ways)
        return down, up

    def _first(self, past: Floats, slope: Floats, way: float) -> float | None:
        """How far that way from ride an end is first reached, mm; one that is past at ride only once it has come free,
        unless that way goes further past."""
        nodes, steps = self._ways[way > 0]
        level, rise = past[nodes], way * slope[nodes]
        if not len(level):
            return None
        free = level[0] < -_SMALL
        if not free and rise[0] >= -_SMALL:
            return 0.0
        steep = np.abs(rise)
        bend = 0.5 * steps * (steep[:-1] + steep[1:])
        # a cubic stays within its ends and half of what its end slopes span: elsewhere it passes 0 nowhere
        near = (np.minimum(level[:-1], level[1:]) - bend <= 0.0) & (np.maximum(level[:-1], level[1:]) + bend >= 0.0)
        for n in np.flatnonzero(near).tolist():
            step = float(steps[n])
            for root, rises in _crossings(level[n], level[n + 1], rise[n] * step, rise[n + 1] * step):
                if rises and free:
                    return abs(float(self.along[nodes][n])) + root * step
                free = not rises
        return None

    def settles_at(self, weight: float | None = None, only: Callable[[Shock], bool] = lambda _: True) -> float | None:
        """The travel where the springs carry the axle's sprung weight (or `weight`, N), of several the nearest to ride;
        None without springs or weight, or where there is none. `only`: which of them carry."""
        weight = sprung_weight(self._design) if weight is None else weight
        carry = [
            (s, length, slope)
            for s, length, slope in self.struts
            if isinstance(s, Shock) and (s.spring or s.air) and only(s)
        ]
        if not carry or weight <= 0.0 or len(self.along) < 2:
            return None
        looked, lifts = self._looked
        left = np.sum([lifts[s.id] for s, _, _ in carry], axis=0) - weight
        roots = [float(at) for at in looked[left == 0.0]]
        across = np.flatnonzero(left[:-1] * left[1:] < 0.0)
        roots += [self._root(carry, weight, float(looked[n]), float(looked[n + 1])) for n in across]
        return min(roots, key=abs) + 0.0 if roots else None

    @cached_property
    def _looked(self) -> tuple[Floats, dict[str, Floats]]:
        """Travels close to each other, and what each spring lifts there, N."""
        count = int(np.ceil((self.along[-1] - self.along[0]) / _LOOK_MM)) + 1
        looked = np.union1d(np.linspace(self.along[0], self.along[-1], count), [0.0])
        return looked, {
            strut.id: self._lifted(strut, length, slope, looked)
            for strut, length, slope in self.struts
            if isinstance(strut, Shock) and (strut.spring or strut.air)
        }

    def _root(self, carry: Sequence[tuple[Shock, Floats, Floats]], weight: float, low: float, high: float) -> float:
        """Between two travels on either side of it, closed in on by parts of a 32nd."""
        for _ in range(_ROUNDS):
            parts = np.linspace(low, high, 33)
            left = np.sum([self._lifted(*one, parts) for one in carry], axis=0) - weight
            n = int(np.flatnonzero(left[:-1] * left[1:] <= 0.0)[0])
            low, high = float(parts[n]), float(parts[n + 1])
        return (low + high) / 2.0

    def _lifted(self, shock: Shock, length: Floats, slope: Floats, at: Floats) -> Floats:
        """What a spring lifts the axle's end of the truck by at these travels: its force times its ratio, N."""
        here, moves = self.at(length, slope, at)
        out: Floats = pushed(shock, here).force * -moves
        return out

    def at(self, length: Floats, slope: Floats, at: Floats) -> tuple[Floats, Floats]:
        """A strut's length and its slope between the nodes."""
        n = np.clip(np.searchsorted(self.along, at, side="right") - 1, 0, len(self.along) - 2)
        step = self.along[n + 1] - self.along[n]
        t = (at - self.along[n]) / step
        a, b, c, d = _cubic(length[n], length[n + 1], slope[n] * step, slope[n + 1] * step)
        return ((a * t + b) * t + c) * t + d, ((3.0 * a * t + 2.0 * b) * t + c) / step


def struts_of(design: Design) -> Iterator[Shock | Stop | Strap]:
    """In the file's order: shocks, stops, straps."""
    for listed in LISTED:
        yield from getattr(design.corners, listed) if design.corners else ()


def sprung_weight(design: Design) -> float:
    """What the axle's springs carry, N: the truck's weight on that axle less the axle's own."""
    share = design.vehicle.front_share if design.axle.end == "front" else 1.0 - design.vehicle.front_share
    return (design.vehicle.mass * share - design.axle.mass) * GRAVITY


def _cubic(start: Any, end: Any, slope: Any, last: Any) -> tuple[Any, Any, Any, Any]:
    """The cubic over 0 to 1 with these values and slopes at its ends, its highest coefficient first (Hermite)."""
    return 2.0 * start - 2.0 * end + slope + last, -3.0 * start + 3.0 * end - 2.0 * slope - last, slope, start


def _crossings(start: float, end: float, slope: float, last: float) -> list[tuple[float, bool]]:
    """Where the cubic over 0 to 1 passes 0, in turn, and whether it rises there."""
    a, b, c, d = _cubic(start, end, slope, last)
    if max(abs(start), abs(end), abs(slope), abs(last)) == 0.0:
        return []
    return [(r, (3.0 * a * r + 2.0 * b) * r + c > 0.0) for r in _roots(a, b, c, d)]


def _roots(a: float, b: float, c: float, d: float) -> Iterator[float]:
    """Where a cubic passes 0 between 0 and 1, in turn: between its turning points by halving, each half tried first
    where Newton's step would go."""

    def value(t: float) -> float:
        return ((a * t + b) * t + c) * t + d

    ends = [0.0, *(t for t in _turning(3.0 * a, 2.0 * b, c) if 0.0 < t < 1.0), 1.0]
    at = [value(t) for t in ends]
    for n, (low, high) in enumerate(pairwise(ends)):
        if at[n] == 0.0:
            yield low
        elif at[n] * at[n + 1] < 0.0:
            yield _root_between(value, lambda t: (3.0 * a * t + 2.0 * b) * t + c, low, high, at[n] > 0.0)
    if at[-1] == 0.0:
        yield 1.0


def _turning(a: float, b: float, c: float) -> list[float]:
    """The zeros of a t^2 + b t + c, in turn."""
    square = b * b - 4.0 * a * c
    if square < 0.0:
        return []
    half = -0.5 * (b + math.copysign(math.sqrt(square), b))
    return sorted(top / under for top, under in ((half, a), (c, half)) if under != 0.0)


def _root_between(
    value: Callable[[float], float], slope: Callable[[float], float], low: float, high: float, falls: bool
) -> float:
    middle = (low + high) / 2.0
    while high - low > _ROOT:
        here = value(middle)
        if here == 0.0:
            return middle
        low, high = (middle, high) if (here > 0.0) == falls else (low, middle)
        steep = slope(middle)
        step = here / steep if steep else math.inf
        if abs(step) < _ROOT:
            return middle
        middle = middle - step if low < middle - step < high else (low + high) / 2.0
    return middle
