"""The least gap of every pair of parts over a grid of travel and articulation."""

import functools
from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from oak_lever.clear.parts import Body, Pair, Stage, pairs_of
from oak_lever.design.faults import Fault, Refused
from oak_lever.design.types import Design
from oak_lever.design.values import Point
from oak_lever.figures.held import left_by_ends
from oak_lever.motion.mechanism import Floats, Ints, mechanism_of
from oak_lever.motion.trace import RIDE, Plan, Poses, trace

GRID = (21, 9)
MOST_GRID = 201
Wanted = Callable[[str, str], bool]
"""Which pairs are looked at, by their names."""
WITHIN_MM = 0.01
"""Poses whose gap is within this of the least are as near: the first of them is told."""


@dataclass(frozen=True)
class Gap:
    """A pair's least gap and where: mm; travel mm, articulation degrees; the nearest points, chassis frame, None where
    they meet."""

    a: str
    b: str
    gap: float
    wanted: float
    travel: float
    articulation: float
    at_a: Point | None
    at_b: Point | None


@dataclass(frozen=True)
class Clearances:
    """`pairs`: the one with the least to spare first; none where no pose is reached."""

    design: str
    travel: tuple[float, ...]
    articulation: tuple[float, ...]
    pairs: tuple[Gap, ...]

    def data(self) -> dict[str, Any]:
        """As plain JSON values."""
        return {
            "format": "oak-lever-clearances",
            "version": 1,
            "design": self.design,
            "travel": list(self.travel),
            "articulation": list(self.articulation),
            "pairs": [
                {**vars(pair), "at_a": pair.at_a and list(pair.at_a), "at_b": pair.at_b and list(pair.at_b)}
                for pair in self.pairs
            ],
        }


def clearances(design: Design, grid: tuple[int, int] = GRID, shocks: bool = False, allowed: bool = False) -> Clearances:
    """Over a grid of so many travels from full droop to full bump and articulations from one end to the other, each
    pose reached straight up and then twisted; `shocks`: the bodies of shocks and springs among the parts; `allowed`:
    only where stops and straps let the axle come.

    Raises:
        ValueError: for fewer than 2 or more than 201 of either.
        Refused: where the tires are as wide as the track.
    """
    if not all(2 <= count <= MOST_GRID for count in grid):
        raise ValueError(f"must be from 2x2 to {MOST_GRID}x{MOST_GRID}")
    reach = design.travel
    travels = np.linspace(-reach.droop, reach.bump, grid[0])
    twists = np.linspace(-reach.articulation, reach.articulation, grid[1])
    found = gaps_of(design, grid=grid, shocks=shocks, allowed=allowed)
    return Clearances(design.name, tuple(travels.tolist()), tuple(twists.tolist()), tuple(found))


def gaps_of(
    design: Design, only: Wanted | None = None, grid: tuple[int, int] = GRID, shocks: bool = True, allowed: bool = True
) -> list[Gap]:
    """The least gaps of the pairs that are asked for: over the grid of travel and twist; where `allowed`, over what of
    it stops and straps let the axle come to, and where between its rows they come to their ends."""
    poses, places = allowed_poses(design, grid) if allowed else grid_of(design, grid)
    return gaps_at(design, poses, places, only, shocks)


_EDGE_ROUNDS = 3


def allowed_poses(design: Design, grid: tuple[int, int]) -> tuple[Poses, Ints]:
    """The poses of the grid that stops and straps allow, in its order, and after them where, going up or down in each
    column, one comes to its end (regula falsi, to some hundredths of a mm)."""
    poses, places = grid_of(design, grid)
    if design.corners is None or not (design.corners.stops or design.corners.straps):
        return poses, places
    mechanism = mechanism_of(design)
    state = trace(mechanism, poses).state
    left = np.nan_to_num(left_by_ends(design, mechanism, state)[0], nan=np.inf)[places]
    cells = places.reshape(grid)
    table = np.where(np.isinf(left), _FAR_MM, left).reshape(grid)
    ends = [
        (float(poses.travel_mm[cells[n, a]]), float(poses.travel_mm[cells[m, a]]),
         float(poses.articulation_deg[cells[n, a]]), float(table[n, a]), float(table[m, a]))
        for n in range(grid[0]) for m in (n - 1, n + 1) if 0 <= m < grid[0]
        for a in range(grid[1]) if table[n, a] >= 0.0 > table[m, a]
    ]  # fmt: skip
    kept = places[table.ravel() >= 0.0]
    if not ends:
        return poses, kept
    inside, outside, twist, near, past = (np.array(column) for column in zip(*ends, strict=True))
    for _ in range(_EDGE_ROUNDS):
        there = inside + (outside - inside) * near / (near - past)
        asked, at = RIDE.and_pairs(there, twist)
        here = left_by_ends(design, mechanism, trace(mechanism, asked).state)[0, at]
        here = np.nan_to_num(np.where(np.isinf(here), _FAR_MM, here), nan=-1.0)
        held = here >= 0.0
        inside, near = np.where(held, there, inside), np.where(held, here, near)
        outside, past = np.where(held, outside, there), np.where(held, past, here)
        past = np.where(past >= 0.0, -_HAIR_MM, past)
    whole, ends_at = poses.and_pairs(inside, twist)
    return whole, np.concatenate([kept, ends_at])


_FAR_MM = 1e6
_HAIR_MM = 1e-6


def grid_of(design: Design, grid: tuple[int, int]) -> tuple[Poses, Ints]:
    """The poses of the grid over a design's travel and twist, and the places of those in it, in its order."""
    return _grid(design.travel.droop, design.travel.bump, design.travel.articulation, grid)


def gaps_here(design: Design, travel_mm: float, articulation_deg: float) -> list[Gap]:
    """The gaps in a single pose; none where it is not reached."""
    plan = Plan()
    place = plan.pose(travel_mm, articulation_deg)
    return gaps_at(design, plan.poses(), np.array([place]))


@functools.lru_cache(maxsize=64)
def _grid(droop: float, bump: float, articulation: float, grid: tuple[int, int]) -> tuple[Poses, Ints]:
    plan = Plan()
    places = plan.grid(np.linspace(-droop, bump, grid[0]), np.linspace(-articulation, articulation, grid[1]))
    return plan.poses(), places.ravel()


def gaps_at(design: Design, poses: Poses, places: Ints, only: Wanted | None = None, shocks: bool = True) -> list[Gap]:
    """The least gap of every pair over the poses at `places`; of those as near the first in that order."""
    if design.axle.track <= design.axle.tire_width:
        raise Refused([Fault("axle.track", "must be more than the tire's width")])
    stage = Stage(design, poses, shocks)
    looked = places[stage.reached[places]]
    if not len(looked):
        return []
    groups: dict[bytes, list[Pair]] = {}
    for pair in pairs_of(stage):
        if only is not None and not only(pair.a.name, pair.b.name):
            continue
        at = _there(pair, looked)
        if len(at):
            groups.setdefault(at.tobytes(), []).append(pair)
    found = [gap for at, pairs in groups.items() for gap in _least(stage, pairs, np.frombuffer(at, dtype=np.int64))]
    return sorted(found, key=lambda one: one.gap - one.wanted)


def two_of(a: str, b: str) -> Wanted:
    """Those two parts alone."""
    names = {a, b}
    return lambda one, other: {one, other} == names


def gaps_along(design: Design, poses: Poses, places: Ints) -> Iterator[list[Gap] | None]:
    """Of every pair in each pose in turn; None for one that is not reached."""
    stage = Stage(design, poses)
    pairs = pairs_of(stage)
    for place in places:
        here = np.array([place])
        looked = [pair for pair in pairs if len(_there(pair, here))]
        yield None if not stage.reached[place] else _least(stage, looked, here) if looked else []


def _there(pair: Pair, looked: Ints) -> Ints:
    """The poses in which both are looked at."""
    for part in (pair.a, pair.b):
        if part.there is not None:
            looked = looked[part.there[looked]]
    return looked


def _least(stage: Stage, pairs: Sequence[Pair], at: Ints) -> list[Gap]:
    from oak_lever.clear import kernel

    table = _Table(at)
    first, many = list[int](), list[int]()
    combos: list[tuple[int, int]] = []
    for pair in pairs:
        first.append(len(combos))
        combos += [(table.add(*p), table.add(*q)) for p in pair.a.pieces for q in pair.b.pieces]
        many.append(len(combos) - first[-1])
    count = len(pairs)
    gap, pose = np.empty(count), np.empty(count, dtype=np.int64)
    at_a, at_b = np.full((count, 3), np.nan), np.full((count, 3), np.nan)
    kernel.least(
        *table.arrays(), np.array(first), np.array(many), np.array(combos).reshape(-1, 2), np.zeros((len(combos), 3)),
        WITHIN_MM, _order(len(at)), *(np.zeros((4, 3)) for _ in range(3)), np.zeros(4), np.zeros(3), np.zeros(2),
        np.zeros(3), np.zeros(3), np.empty(len(at)), gap, pose, at_a, at_b,
    )  # fmt: skip
    poses = stage.poses

    def told(n: int, pair: Pair) -> Gap:
        place = int(at[pose[n]])
        points = [None if gap[n] <= 0.0 or np.isnan(p[n]).any() else tuple((p[n] + 0.0).tolist()) for p in (at_a, at_b)]
        return Gap(
            pair.a.name, pair.b.name, float(gap[n]), pair.wanted, float(poses.travel_mm[place]) + 0.0,
            float(poses.articulation_deg[place]) + 0.0, points[0], points[1],
        )  # fmt: skip

    return [told(n, pair) for n, pair in enumerate(pairs)]


def _order(count: int) -> Ints:
    """The poses spread out first: what is found near in one of them is a bound for most of the others."""
    spread = np.unique(np.linspace(0, count - 1, min(count, 9)).round().astype(np.int64))
    rest = np.setdiff1d(np.arange(count), spread)
    return np.concatenate([spread, rest])


class _Table:
    """Pieces and bodies as the kernel's arrays, each once."""

    def __init__(self, at: Ints) -> None:
        self._at = at
        self._pieces: dict[tuple[int, int], int] = {}
        self._bodies: dict[int, int] = {}
        self._turns: list[Floats] = []
        self._shifts: list[Floats] = []
        self._rows: list[tuple[Any, int]] = []

    def add(self, piece: Any, body: Body) -> int:
        key = (id(piece), id(body))
        if key not in self._pieces:
            if id(body) not in self._bodies:
                self._bodies[id(body)] = len(self._turns)
                self._turns.append(body.turn[self._at])
                self._shifts.append(body.shift[self._at])
            self._pieces[key] = len(self._rows)
            self._rows.append((piece, self._bodies[id(body)]))
        return self._pieces[key]

    def arrays(self) -> tuple[Any, ...]:
        pieces = [piece for piece, _ in self._rows]
        counts = np.array([len(piece.points) for piece in pieces])
        return (
            np.array([piece.kind for piece in pieces]), np.concatenate([[0], np.cumsum(counts)[:-1]]), counts,
            np.array([piece.size for piece in pieces]), np.array([piece.round for piece in pieces]),
            np.array([body for _, body in self._rows]), np.concatenate([piece.points for piece in pieces]),
            np.stack(self._turns), np.stack(self._shifts),
        )  # fmt: skip
