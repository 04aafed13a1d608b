"""Shocks, stops and straps through the motion: their lengths, how these change with travel and roll, what ends the
travel, and where the springs carry the truck."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import pairwise
from typing import Any, Literal

import numpy as np

from oak_lever.design.running import Shock, Stop, Strap
from oak_lever.design.types import Design
from oak_lever.motion.mechanism import Floats, Mechanism
from oak_lever.motion.trace import Plan, Traced, rotations, trace

GRAVITY = 9.80665
_NODE_MM = 5.0
"""Between poses this far apart a length is a cubic of the travel, by its slopes, to a millionth of a mm."""
_TOGETHER_MM = 0.05
_LOOK_MM = 0.25
_SMALL = 1e-9
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
        self._motions = (traced.heave[0], rolling / per_roll[:, None])

    @property
    def cosine(self) -> Floats:
        """(P,) of the articulation."""
        return self._cosine

    def on_axle(self, point: Sequence[float] | Floats) -> Moving:
        arm = self._turn @ (np.array(point) - self._mechanism.center[0])
        return Moving(
            self._state[:, :3] + arm, *(motion[:, :3] + np.cross(motion[:, 3:], arm) for motion in self._motions)
        )

    def on(self, carrier: str, point: Sequence[float]) -> Moving:
        """A point carried by the axle, or a link's own (see `motion.carried`)."""
        bars = self._mechanism.layout.bars
        b = next((n for n, bar in enumerate(bars) if bar.name == carrier), None)
        if b is None or bars[b].rigid:
            return self.on_axle(point)
        head, frame = self._mechanism.ends[0][0, b], self._mechanism.ends[1][0, b]
        bolt = self._mechanism.bolts[0, b, 1]
        still = np.zeros((1, 3))
        rest, _ = _frame((head - frame)[None], still, bolt)
        own = rest[0].T @ (np.array(point) - frame)
        joint = self.on_axle(head)
        turned = [_frame(joint.at - frame, motion, bolt) for motion in (joint.heave, joint.roll)]
        return Moving(frame + turned[0][0] @ own, turned[0][1] @ own, turned[1][1] @ own)


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
    three, d_three = np.cross(one, two), np.cross(d_one, two) + np.cross(one, d_two)
    return np.stack([one, two, three], axis=-1), np.stack([d_one, d_two, d_three], axis=-1)


def _dot(a: Floats, b: Floats) -> Floats:
    out: Floats = (a * b).sum(axis=-1, keepdims=True)
    return out


@dataclass(frozen=True)
class Through:
    """A strut in P poses: `length` mm, and its slopes by travel and by articulation (radians)."""

    length: Floats
    by_travel: Floats
    by_articulation: Floats


def through(eyes: Eyes, strut: Shock | Stop | Strap) -> Through:
    eye = eyes.on(strut.axle.on, strut.axle.at)
    span = eye.at - np.array(strut.frame.at)
    length = np.linalg.norm(span, axis=-1)
    way = span / length[:, None]
    return Through(length, (way * eye.heave).sum(axis=-1), (way * eye.roll).sum(axis=-1))


def strut_columns(design: Design, mechanism: Mechanism, traced: Traced) -> dict[Listed, dict[str, dict[str, Floats]]]:
    """By list, id and figure, (P,) each: `length` mm; of shocks `ratio`, shortening per mm of travel, and `ratio_roll`,
    per mm that the wheel on its side rises in articulation, NaN on the centerline."""
    assert design.corners is not None
    eyes = Eyes(mechanism, traced)
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


class Travelled:
    """Every strut through the straight travel that is reached: cubics between nodes, with exact slopes at them."""

    def __init__(self, design: Design, mechanism: Mechanism) -> None:
        assert design.corners is not None
        self._design = design
        plan, reach = Plan(), design.travel
        count = 1 + int(np.ceil((reach.bump + reach.droop) / _NODE_MM))
        travels = np.union1d(np.linspace(-reach.droop, reach.bump, max(count, 2)), [0.0])
        places = plan.heave(travels)
        traced = trace(mechanism, plan.poses())
        reached = traced.reached[0, places]
        self.travel = travels[reached]
        eyes = Eyes(mechanism, traced)
        self.struts: list[tuple[Shock | Stop | Strap, Floats, Floats]] = []
        for listed in LISTED:
            for strut in getattr(design.corners, listed):
                moved = through(eyes, strut)
                self.struts.append((strut, moved.length[places][reached], moved.by_travel[places][reached]))

    def limits(self) -> dict[str, dict[str, Any] | None]:
        """`bump` and `droop`: where straight travel from ride is first ended by a strut, and by which; None where by
        none within what is reached."""
        return {"bump": self._limit(1.0), "droop": self._limit(-1.0)}

    def _limit(self, way: float) -> dict[str, Any] | None:
        ends = [
            (at, strut.id) for strut, past, slope in self._ends() if (at := self._first(past, slope, way)) is not None
        ]
        if not ends:
            return None
        first = min(at for at, _ in ends)
        return {"travel": way * first + 0.0, "by": next(name for at, name in ends if at <= first + _TOGETHER_MM)}

    def _ends(self) -> Iterator[tuple[Shock | Stop | Strap, Floats, Floats]]:
        """Each end of each strut, in the file's order: how far past it is at the nodes (mm, below 0 before it), and
        that one's slopes."""
        for strut, length, slope in self.struts:
            if isinstance(strut, Strap):
                yield strut, length - strut.length * (1.0 + strut.stretch), slope
                continue
            if isinstance(strut, Stop):
                yield strut, strut.solid - length, -slope
                continue
            yield strut, strut.compressed - length, -slope
            yield strut, length - strut.extended, slope
            if strut.spring:
                yield strut, strut.spring.preload + strut.extended - strut.spring.solid - length, -slope

    def _first(self, past: Floats, slope: Floats, way: float) -> float | None:
        """How far that way from ride an end is first reached, mm; one that is past at ride only once it has come free,
        unless that way goes further past."""
        ride = np.flatnonzero(self.travel == 0.0)
        if not len(ride):
            return None
        here = int(ride[0])
        free = past[here] < -_SMALL
        if not free and way * slope[here] >= -_SMALL:
            return 0.0
        order = np.arange(here, len(past)) if way > 0 else np.arange(here, -1, -1)
        for n, m in pairwise(order.tolist()):
            step = abs(float(self.travel[m] - self.travel[n]))
            for root, rises in _crossings(past[n], past[m], way * slope[n] * step, way * slope[m] * step):
                if rises and free:
                    return abs(float(self.travel[n])) + root * step
                free = not rises
        return None

    def settles_at(self) -> float | None:
        """The travel where the springs carry the axle's sprung weight, of several the nearest to ride; None without
        springs or weight, or where there is none."""
        design = self._design
        share = design.vehicle.front_share if design.axle.end == "front" else 1.0 - design.vehicle.front_share
        weight = (design.vehicle.mass * share - design.axle.mass) * GRAVITY
        sprung = [(s, length, slope) for s, length, slope in self.struts if isinstance(s, Shock) and s.spring]
        if not sprung or weight <= 0.0 or len(self.travel) < 2:
            return None
        count = int(np.ceil((self.travel[-1] - self.travel[0]) / _LOOK_MM)) + 1
        looked = np.union1d(np.linspace(self.travel[0], self.travel[-1], count), [0.0])
        left = np.sum([self._lifted(*one, looked) for one in sprung], axis=0) - weight
        roots = [float(at) for at in looked[left == 0.0]]
        across = np.flatnonzero(left[:-1] * left[1:] < 0.0)
        roots += [self._root(sprung, weight, float(looked[n]), float(looked[n + 1])) for n in across]
        return min(roots, key=abs) + 0.0 if roots else None

    def _root(self, sprung: Sequence[tuple[Shock, Floats, Floats]], weight: float, low: float, high: float) -> float:
        def left(at: float) -> float:
            return float(sum(self._lifted(*one, np.array([at]))[0] for one in sprung)) - weight

        rising = left(high) > 0.0
        for _ in range(40):
            middle = (low + high) / 2.0
            low, high = (low, middle) if (left(middle) > 0.0) == rising else (middle, high)
        return (low + high) / 2.0

    def _lifted(self, shock: Shock, length: Floats, slope: Floats, at: Floats) -> Floats:
        """What a spring lifts the axle's end of the truck by at these travels: its force times its ratio, N."""
        assert shock.spring is not None
        n = np.clip(np.searchsorted(self.travel, at, side="right") - 1, 0, len(self.travel) - 2)
        step = self.travel[n + 1] - self.travel[n]
        t = (at - self.travel[n]) / step
        a, b, c, d = _cubic(length[n], length[n + 1], slope[n] * step, slope[n + 1] * step)
        here, moves = ((a * t + b) * t + c) * t + d, ((3.0 * a * t + 2.0 * b) * t + c) / step
        pressed = shock.spring.preload + shock.extended - here
        out: Floats = shock.spring.rate * np.maximum(pressed, 0.0) * -moves
        return out


def _cubic(start: Any, end: Any, slope: Any, last: Any) -> tuple[Any, Any, Any, Any]:
    """The cubic over 0 to 1 with these values and slopes at its ends, its highest coefficient first (Hermite)."""
    return 2.0 * start - 2.0 * end + slope + last, -3.0 * start + 3.0 * end - 2.0 * slope - last, slope, start


def _crossings(start: float, end: float, slope: float, last: float) -> list[tuple[float, bool]]:
    """Where the cubic over 0 to 1 passes 0, in turn, and whether it rises there."""
    a, b, c, d = _cubic(start, end, slope, last)
    size = max(abs(start), abs(end), abs(slope), abs(last))
    if size == 0.0 or (min(start, end) - 0.5 * (abs(slope) + abs(last)) > 0.0) or (
        max(start, end) + 0.5 * (abs(slope) + abs(last)) < 0.0
    ):  # fmt: skip
        return []
    roots = np.roots([a, b, c, d])
    real = sorted(float(r.real) for r in roots if abs(r.imag) < 1e-9 and -1e-12 < r.real <= 1.0 + 1e-12)
    return [(min(max(r, 0.0), 1.0), (3.0 * a * r + 2.0 * b) * r + c > 0.0) for r in real]
