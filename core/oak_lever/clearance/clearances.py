"""The least gap of every pair of parts over a grid of travel and articulation."""

import functools
import itertools
from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from oak_lever.clearance.parts import Pair, Stage, pairs_of
from oak_lever.design.faults import Fault, Refused
from oak_lever.design.types import Design
from oak_lever.design.values import Point
from oak_lever.figures.allowed import left_by_ends
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
    at_a: tuple[float, float, float] | None
    at_b: tuple[float, float, float] | None


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
    design: Design, only: Wanted | None = None, grid: tuple[int, int] = GRID, shocks: bool = True,
    allowed: bool = True, spare_mm: float = np.inf, at: tuple[Poses, Ints] | None = None,
) -> list[Gap]:  # fmt: skip
    """The least gaps of the pairs that are asked for, those with no more than `spare_mm` over what is wanted: over the
    grid of travel and twist; where `allowed`, over what of it stops and straps let the axle come to, and where between
    its rows they come to their ends. `at`: these poses, of a design that moves as this one does."""
    poses, places = at or (allowed_poses(design, grid) if allowed else grid_of(design, grid))
    names = only.names if isinstance(only, Two) else None
    return gaps_at(Stage(design, poses, shocks, names=names), places, only, spare_mm)


def tightest(
    design: Design, asked: Sequence[Wanted], beside: Point = (0.0, 0.0, 0.0)
) -> list[Gap | None]:  # fmt: skip
    """For each of those that are asked for, its pair with the least to spare, as in `gaps_of`; what the frame carries
    stands `beside` (mm) where the design has it."""
    poses, places = allowed_poses(design, GRID)
    stage = Stage(design, poses, beside=beside)
    least: list[Gap | None] = [None] * len(asked)
    spare = [np.inf] * len(asked)
    for pairs, at, table in _looked(stage, places, lambda a, b: any(only(a, b) for only in asked)):
        for pair in pairs:  # each only as far as it may be the one
            of = [n for n, only in enumerate(asked) if only(pair.a.name, pair.b.name)]
            for gap in table.least([pair], at, max(spare[n] for n in of)):
                for n in of:
                    if gap.gap - gap.wanted < spare[n]:
                        least[n], spare[n] = gap, gap.gap - gap.wanted
    return least


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
    return gaps_at(Stage(design, plan.poses()), np.array([place]))


def gap_in(design: Design, two: "Two", at: Sequence[tuple[float, float]]) -> Gap | None:
    """The least gap of two parts in some poses, each a travel (mm) and an articulation (degrees); None where none of
    them is reached, or stops and straps let the axle come to none."""
    plan = Plan()
    places = np.array([plan.pose(*pose) for pose in at], dtype=np.int64)
    stage = Stage(design, plan.poses(), names=two.names)
    left = left_by_ends(design, stage.mechanism, stage.state[None])[0, places]
    return next(iter(gaps_at(stage, places[left >= 0.0], two)), None)


@functools.lru_cache(maxsize=64)
def _grid(droop: float, bump: float, articulation: float, grid: tuple[int, int]) -> tuple[Poses, Ints]:
    plan = Plan()
    places = plan.grid(np.linspace(-droop, bump, grid[0]), np.linspace(-articulation, articulation, grid[1]))
    return plan.poses(), places.ravel()


def gaps_at(stage: Stage, places: Ints, only: Wanted | None = None, spare_mm: float = np.inf) -> list[Gap]:
    """The least gap of every pair over the poses at `places`, of those as near the first in that order; of pairs with
    no more than `spare_mm` over what is wanted. The one with the least to spare first.

    Raises:
        Refused: where the tires are as wide as the track.
    """
    found = [gap for pairs, at, table in _looked(stage, places, only) for gap in table.least(pairs, at, spare_mm)]
    return sorted(found, key=lambda one: one.gap - one.wanted)


def _looked(stage: Stage, places: Ints, only: Wanted | None) -> Iterator[tuple[list[Pair], Ints, "Table"]]:
    """The pairs that are asked for, those together that are looked at in the same poses, and these.

    Raises:
        Refused: where the tires are as wide as the track.
    """
    if stage.design.axle.track <= stage.design.axle.tire_width:
        raise Refused([Fault("axle.track", "must be more than the tire's width")])
    looked = places[stage.reached[places]]
    if not len(looked):
        return
    together: dict[bytes, list[Pair]] = {}
    for pair in pairs_of(stage):
        if only is not None and not only(pair.a.name, pair.b.name):
            continue
        at = _there(pair, looked)
        if len(at):
            together.setdefault(at.tobytes(), []).append(pair)
    table = Table(stage.poses, itertools.chain.from_iterable(together.values()))
    for key, pairs in together.items():
        yield pairs, np.frombuffer(key, dtype=np.int64), table


@dataclass(frozen=True)
class Two:
    """Two parts alone, by their names."""

    names: frozenset[str]

    def __call__(self, one: str, other: str) -> bool:
        return frozenset((one, other)) == self.names


def two_of(a: str, b: str) -> Two:
    """Those two parts alone."""
    return Two(frozenset((a, b)))


def near_along(
    design: Design, poses: Poses, places: Ints, only: Wanted | None = None
) -> Iterator[list[Gap] | None]:  # fmt: skip
    """Of the pairs that are asked for, those that come nearer than is wanted, in each pose in turn; None for a pose
    that is not reached."""
    stage = Stage(design, poses, names=only.names if isinstance(only, Two) else None)
    pairs = [pair for pair in pairs_of(stage) if only is None or only(pair.a.name, pair.b.name)]
    table = Table(poses, pairs)
    for place in places:
        here = np.array([place])
        looked = [pair for pair in pairs if len(_there(pair, here))]
        found = table.least(looked, here, 0.0) if looked else []
        yield [gap for gap in found if gap.gap < gap.wanted] if stage.reached[place] else None


def spare_along(design: Design, poses: Poses, places: Ints) -> Iterator[float]:
    """The least that any pair has to spare over what is wanted, mm, in each pose in turn; NaN for one that is not
    reached."""
    stage = Stage(design, poses)
    pairs = pairs_of(stage)
    table = Table(poses, pairs)
    spare = np.inf
    for place in places:
        here = np.array([place])
        looked = [pair for pair in pairs if len(_there(pair, here))]
        if not stage.reached[place] or not looked:
            yield np.nan
            continue
        # poses lie beside each other: little more than in the last is looked at first
        found = table.least(looked, here, spare + _BESIDE_MM) or table.least(looked, here, np.inf)
        spare = min(gap.gap - gap.wanted for gap in found)
        yield spare


_BESIDE_MM = 50.0


def _there(pair: Pair, looked: Ints) -> Ints:
    """The poses in which both are looked at."""
    for part in (pair.a, pair.b):
        if part.there is not None:
            looked = looked[part.there[looked]]
    return looked


def _order(count: int) -> Ints:
    """The poses spread out first: what is found near in one of them is a bound for most of the others."""
    spread = np.unique(np.linspace(0, count - 1, min(count, 9)).round().astype(np.int64))
    rest = np.setdiff1d(np.arange(count), spread)
    return np.concatenate([spread, rest])


_ANY_MM = 1e300
_SLOTS = 4096
"""So many pairs of pieces are remembered with the direction in which they were last apart."""


class Table:
    """The parts of some pairs as the kernel's arrays, each piece, group and body once."""

    def __init__(self, poses: Poses, pairs: Iterable[Pair]) -> None:
        self._poses = poses
        parts = {id(part): part for pair in pairs for part in (pair.a, pair.b)}
        self._number = {key: n for n, key in enumerate(parts)}
        groups = [group for part in parts.values() for group in part.groups]
        bodies = list({id(body): body for _, body in groups}.values())
        of_body = {id(body): n for n, body in enumerate(bodies)}
        pieces = [piece for group, _ in groups for piece in group]
        counts = np.array([len(piece.points) for piece in pieces], dtype=np.int64)
        turns = np.stack([body.turn for body in bodies]) if bodies else np.empty((0, 0, 3, 3))
        balls = np.array([(*piece.ball, piece.round) for piece in pieces]).reshape(-1, 5)
        ranges = _ranges([len(group) for group, _ in groups])
        group_balls = np.array([_ball(balls[first:end]) for first, end in ranges]).reshape(-1, 5)
        of_parts = _ranges([len(part.groups) for part in parts.values()])
        part_balls = [
            _ball(group_balls[first:end]) if len({id(body) for _, body in part.groups}) == 1 else _ENDLESS
            for part, (first, end) in zip(parts.values(), of_parts, strict=True)
        ]
        self._groups = len(groups)
        self._arrays = (
            np.array([piece.kind for piece in pieces], dtype=np.int64), np.cumsum(counts) - counts, counts,
            np.array([piece.size for piece in pieces]).reshape(-1, 2), balls,
            np.array([of_body[id(body)] for group, body in groups for _ in group], dtype=np.int64),
            np.concatenate([piece.points for piece in pieces] or [np.empty((0, 3))]), turns,
            np.stack([body.shift for body in bodies]) if bodies else np.empty((0, 0, 3)), _reach(turns), ranges,
            group_balls, of_parts, np.array(part_balls).reshape(-1, 5),
        )  # fmt: skip

    def least(self, pairs: Sequence[Pair], at: Ints, spare_mm: float = np.inf) -> list[Gap]:
        """The least gap over the poses `at` of each pair that has no more than `spare_mm` over what is wanted."""
        from oak_lever.clearance import kernel

        count = len(pairs)
        gap, pose = np.empty(count), np.empty(count, dtype=np.int64)
        at_a, at_b = np.full((count, 3), np.nan), np.full((count, 3), np.nan)
        numbers = np.array([(self._number[id(pair.a)], self._number[id(pair.b)]) for pair in pairs], dtype=np.int64)
        room = _room(len(at), self._groups)
        most = np.array([pair.wanted for pair in pairs]) + min(spare_mm, _ANY_MM)
        kernel.least(
            *self._arrays, numbers.reshape(-1, 2), most, WITHIN_MM, at.copy(), _order(len(at)), *room, gap, pose, at_a,
            at_b,
        )  # fmt: skip
        poses = self._poses

        def told(n: int, pair: Pair) -> Gap:
            place = int(at[pose[n]])
            points = [
                None if gap[n] <= 0.0 or np.isnan(p[n]).any() else tuple((p[n] + 0.0).tolist()) for p in (at_a, at_b)
            ]
            return Gap(
                pair.a.name, pair.b.name, float(gap[n]), pair.wanted, float(poses.travel_mm[place]) + 0.0,
                float(poses.articulation_deg[place]) + 0.0, points[0], points[1],
            )  # fmt: skip

        return [told(n, pair) for n, pair in enumerate(pairs) if gap[n] <= most[n]]


def _room(poses: int, groups: int) -> tuple[Any, ...]:
    """What the kernel works in."""
    return (
        np.zeros(3), np.zeros(3), np.empty(groups), np.empty(groups), np.zeros((_SLOTS, 3)),
        np.empty(_SLOTS, dtype=np.int64), *(np.zeros((4, 3)) for _ in range(3)), np.zeros(4), np.zeros(3), np.zeros(2),
        *(np.zeros(3) for _ in range(7)), np.zeros((2, 2), dtype=np.int64), np.array([_ENDLESS, _ENDLESS]),
        np.zeros(2, dtype=np.int64), np.empty(poses),
    )  # fmt: skip


def _ranges(many: list[int]) -> Ints:
    """(N, 2) from where to where each lies, one after the other."""
    ends = np.cumsum(many, dtype=np.int64)
    return np.column_stack([ends - many, ends]).astype(np.int64).reshape(-1, 2)


def _reach(turns: Floats) -> Floats:
    """(B, P) by how much a body lengthens what it carries at most: 1, or what its turn is in all."""
    rigid = np.abs(turns.swapaxes(-1, -2) @ turns - np.eye(3)).max((-1, -2), initial=0.0) < _RIGID
    return np.where(rigid, 1.0 + _RIGID, np.sqrt((turns**2).sum((-1, -2))))


_RIGID = 1e-9
_ENDLESS = (0.0, 0.0, 0.0, 1e12, 0.0)
"""A ball about everything."""


def _ball(balls: Floats) -> tuple[float, ...]:
    """A ball about some: its middle, its radius about the cores, and the most that they are grown by."""
    middle = (balls[:, :3].min(0) + balls[:, :3].max(0)) / 2.0
    far = np.sqrt(((balls[:, :3] - middle) ** 2).sum(1)) + balls[:, 3]
    return (*middle.tolist(), float(far.max()), float(balls[:, 4].max()))
