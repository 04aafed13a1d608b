"""What is written on a view, placed so that nothing overprints: mark-out figures in ladders at its edges, numbers in
balloons that touch nothing."""

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from math import cos, hypot, pi, sin
from typing import Literal

import numpy as np

from oak_lever.design.types import Design
from oak_lever.design.values import Point
from oak_lever.sheet.page import HAIR, Mark, Ring, Stroke, Words, Xy, line, wide
from oak_lever.sheet.views import View, mounts
from oak_lever.units import Units, bare

LADDER = 21.0
"""Room for a ladder of figures beside or below a view, mm."""
_SIZE = 2.5
_STEP = 3.3
_BALLOON = 2.1
_CLEAR = 0.5
_AMPLE = 8.0
"""More room than this around a balloon, mm, makes no place better."""
_LEADERS = tuple(4.5 + 1.5 * n for n in range(18))
_ANGLES = tuple(n * pi / 18 for n in range(36))

Edge = Literal["left", "right", "below"]


def spread(wanted: Sequence[float], step: float, low: float, high: float) -> list[float]:
    """The places nearest to the wanted ones (ascending) that are a step apart and within low to high; where there are
    too many for that, evenly over it. Isotonic regression by pooling adjacent violators."""
    n = len(wanted)
    if n < 2:
        return [min(max(value, low), high) for value in wanted]
    step = min(step, (high - low) / (n - 1))
    pools: list[list[float]] = []
    for index, value in enumerate(wanted):
        pools.append([value - step * index])
        while len(pools) > 1 and _mean(pools[-2]) > _mean(pools[-1]):
            pools[-2:] = [pools[-2] + pools[-1]]
    level = [_mean(pool) for pool in pools for _ in pool]
    return [min(max(at, low), high - step * (n - 1)) + step * index for index, at in enumerate(level)]


def _mean(values: Sequence[float]) -> float:
    return sum(values) / len(values)


@dataclass(frozen=True)
class Rung:
    """A figure that a ladder says: how far, from where in the chassis it is led."""

    value: float
    at: Point


def ladder(view: View, edge: Edge, rungs: Iterable[Rung], title: str, units: Units) -> Iterator[Mark]:
    """Figures from a datum, each led from its place to the edge of the view; like ones are said once."""
    once: dict[str, Rung] = {}
    for rung in sorted(rungs, key=lambda r: abs(r.value)):
        once.setdefault(bare(rung.value, units), rung)
    left, top, right, bottom = view.box
    ends = sorted((view.to(rung.at), text) for text, rung in once.items())
    across = edge == "below"
    ends.sort(key=lambda end: end[0][0 if across else 1])
    low, high = (left + _SIZE, right) if across else (top + _SIZE, bottom)
    for (at, text), place in zip(ends, spread([p[not across] for p, _ in ends], _STEP, low, high), strict=True):
        if across:
            yield line((at[0], at[1]), (at[0], bottom + 0.5), (place, bottom + 4.0), (place, bottom + 5.0), width=HAIR)
            yield Words(text, (place + _SIZE * 0.35, bottom + 5.6), _SIZE, "end", upright=True)
        else:
            way = -1.0 if edge == "left" else 1.0
            out = left if edge == "left" else right
            yield line(at, (out + way * 0.5, at[1]), (out + way * 4.0, place), (out + way * 5.0, place), width=HAIR)
            anchor: Literal["end", "start"] = "end" if edge == "left" else "start"
            yield Words(text, (out + way * 5.6, place + _SIZE * 0.35), _SIZE, anchor)
    if across:
        yield Words(title, (left, bottom + LADDER - 1.0), _SIZE * 0.9)
    else:
        yield Words(title, (left - LADDER + 1.0 if edge == "left" else right + 1.5, top - 1.5), _SIZE * 0.9)


def balloons(design: Design, view: View, seen: Sequence[Mark], written: Sequence[Mark]) -> Iterator[Mark]:
    """Each mount's number in a balloon on a leader; mounts that stand on each other in this view share the leader.

    `seen`: the marks of the view's parts; `written`: those of its ladders. A balloon touches neither, nor another one.
    """
    placing = _Placing(view, seen, written)
    for at, numbers in _stacks(design, view):
        yield from placing.balloon(at, [str(number) for number in numbers])


def _stacks(design: Design, view: View) -> list[tuple[Xy, list[int]]]:
    """Mounts by where they stand on the page: those within a joint's size of each other in one stack."""
    stacks: list[tuple[Xy, list[int]]] = []
    for number, spot in enumerate(mounts(design), 1):
        at = view.to(spot.at)
        near = next((numbers for place, numbers in stacks if hypot(place[0] - at[0], place[1] - at[1]) < 0.8), None)
        if near is None:
            stacks.append((at, [number]))
        else:
            near.append(number)
    return stacks


class _Placing:
    """What stands in a view already, as edges that a balloon may not touch."""

    def __init__(self, view: View, seen: Sequence[Mark], written: Sequence[Mark]) -> None:
        self._box = view.box
        self._edges = np.array([edge for mark in (*seen, *written) for edge in _edges_of(mark)]).reshape(-1, 4)
        self._filled = _Filled([m.points for m in seen if isinstance(m, Stroke) and m.closed and m.fill is not None])
        self._discs: list[Xy] = []

    def balloon(self, at: Xy, numbers: Sequence[str]) -> Iterator[Mark]:
        gap = 2 * _BALLOON + 0.3
        offsets = [(n - (len(numbers) - 1) / 2) * gap for n in range(len(numbers))]
        middle = self._place(at, offsets)
        discs = [(middle[0] + offset, middle[1]) for offset in offsets]
        nearest = min(discs, key=lambda disc: hypot(disc[0] - at[0], disc[1] - at[1]))
        apart = hypot(nearest[0] - at[0], nearest[1] - at[1])
        if apart > _BALLOON:
            part = _BALLOON / apart
            rim = (nearest[0] + (at[0] - nearest[0]) * part, nearest[1] + (at[1] - nearest[1]) * part)
            yield line(at, rim, width=HAIR)
            self._edges = np.vstack([self._edges, (*at, *rim)])
        for disc, number in zip(discs, numbers, strict=True):
            self._discs.append(disc)
            yield Ring(disc, _BALLOON, HAIR, fill=1.0)
            size = 2.5 if len(number) < 2 else 2.1
            yield Words(number, (disc[0], disc[1] + size * 0.35), size, "middle", bold=True)

    def _place(self, at: Xy, offsets: Sequence[float]) -> Xy:
        """The nearest free place; where there is none, the one with the most room."""
        left, top, right, bottom = self._box
        reach = _BALLOON + max(offsets)
        away = _apart(np.array([at]), self._edges)[0]
        ends = self._edges.reshape(-1, 2, 2) - np.array(at)
        farthest = np.hypot(ends[..., 0], ends[..., 1]).max(axis=1, initial=0.0)
        best, most = at, -np.inf
        for far in _LEADERS:
            around = [(at[0] + far * cos(turn), at[1] + far * sin(turn)) for turn in _ANGLES]
            inside = [(x, y) for x, y in around if left + reach < x < right - reach and top < y - reach < y < bottom]
            if not inside:
                continue
            # nothing nearer to the mount, or farther from it, comes near to a place so far out
            about = max(offsets) + _BALLOON + _AMPLE
            edges = self._edges[(away <= far + about) & (farthest >= far - about)]
            room = self._room(np.array(inside), offsets, at, edges)
            # whether one lies on steel is the slowest to find out: asked of the best alone, until one does not
            at_best = int(np.argmax(room))
            while room[at_best] > max(most, -_BALLOON) and self._on_steel(inside[at_best], offsets):
                room[at_best] = -_BALLOON
                at_best = int(np.argmax(room))
            if room[at_best] > most:
                best, most = inside[at_best], room[at_best]
            if most >= _CLEAR:
                break
        return best

    def _room(self, places: np.ndarray, offsets: Sequence[float], at: Xy, edges: np.ndarray) -> np.ndarray:
        """What is free of `edges` around balloons at each of the places, mm; below 0 where they would touch, or their
        leader would cross another balloon."""
        room = np.full(len(places), _AMPLE)
        for offset in offsets:
            discs = places + np.array([offset, 0.0])
            room = np.minimum(room, _apart(discs, edges).min(axis=1, initial=np.inf) - _BALLOON)
            if self._discs:
                apart = np.linalg.norm(discs[:, None, :] - np.array(self._discs), axis=2)
                room = np.minimum(room, apart.min(axis=1) - 2 * _BALLOON)
        if self._discs:
            leaders = np.hstack([np.broadcast_to(at, places.shape), places])
            crossed = _apart(np.array(self._discs), leaders).min(axis=0) < _BALLOON + 0.2
            room = np.where(crossed, -_BALLOON, room)
        return room

    def _on_steel(self, place: Xy, offsets: Sequence[float]) -> bool:
        return bool(self._filled.hold(np.array([(place[0] + offset, place[1]) for offset in offsets])).any())


def _edges_of(mark: Mark) -> Iterator[tuple[float, float, float, float]]:
    """A mark as straight edges; words as the box they fill."""
    if isinstance(mark, Words):
        x, y = mark.at
        long, high = wide(mark.text, mark.size, mark.bold), mark.size * 0.75
        start = {"start": 0.0, "middle": -long / 2, "end": -long}[mark.anchor]
        corners = [(x - high, y - start), (x, y - start - long)] if mark.upright else [
            (x + start, y - high), (x + start + long, y)]  # fmt: skip
        (a, b), (c, d) = corners
        points, closed = [(a, b), (c, b), (c, d), (a, d)], True
    elif isinstance(mark, Ring):
        (x, y), r = mark.center, mark.radius
        points, closed = [(x + r * cos(n * pi / 8), y + r * sin(n * pi / 8)) for n in range(16)], True
    else:
        points, closed = list(mark.points), mark.closed
    for (a, b), (c, d) in zip(points, [*points[1:], points[0]] if closed else points[1:], strict=False):
        yield a, b, c, d


def _apart(points: np.ndarray, edges: np.ndarray) -> np.ndarray:
    """From each point (N, 2) to each of the edges (E, 4), mm: (N, E)."""
    x, y = points[:, 0, None] - edges[:, 0], points[:, 1, None] - edges[:, 1]
    along_x, along_y = edges[:, 2] - edges[:, 0], edges[:, 3] - edges[:, 1]
    square = np.maximum(along_x * along_x + along_y * along_y, 1e-12)
    part = np.clip((x * along_x + y * along_y) / square, 0.0, 1.0)
    apart: np.ndarray = np.hypot(x - part * along_x, y - part * along_y)
    return apart


class _Filled:
    """Filled outlines."""

    def __init__(self, outlines: Sequence[Sequence[Xy]]) -> None:
        self._ends = [np.array(outline) for outline in outlines]
        self._low = np.array([ends.min(axis=0) for ends in self._ends]).reshape(-1, 2)
        self._high = np.array([ends.max(axis=0) for ends in self._ends]).reshape(-1, 2)

    def hold(self, points: np.ndarray) -> np.ndarray:
        """Which of the points lie in one of them: an odd number of its edges to the right of them."""
        held: np.ndarray = np.zeros(len(points), dtype=np.bool_)
        near = (self._low <= points.max(axis=0)) & (self._high >= points.min(axis=0))
        x, y = points[:, :1], points[:, 1:]
        for n in np.flatnonzero(near.all(axis=1)).tolist():
            (ax, ay), (bx, by) = self._ends[n].T, np.roll(self._ends[n], -1, axis=0).T
            with np.errstate(divide="ignore", invalid="ignore"):
                right = x < ax + (y - ay) * (bx - ax) / (by - ay)
            held |= (((ay > y) != (by > y)) & right).sum(axis=1) % 2 == 1
        return held


def dimension(a: Xy, b: Xy, text: str) -> Iterator[Mark]:
    """A level dimension line with its figure above it."""
    yield line(a, b, width=HAIR)
    for (x, y), way in ((a, 1.0), (b, -1.0)):
        yield Stroke(((x, y), (x + way * 2.4, y - 0.5), (x + way * 2.4, y + 0.5)), HAIR, closed=True, fill=0.0)
    yield Words(text, ((a[0] + b[0]) / 2, a[1] - 0.8), _SIZE, "middle")
