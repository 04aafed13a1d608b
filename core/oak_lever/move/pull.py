"""Pull a result: the least movement of the free mounts that gives wanted figures (`search.LeastMove`)."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np

from oak_lever.batch import figures_of_many
from oak_lever.design.types import Design
from oak_lever.design.values import Point
from oak_lever.figures.rows import COLUMNS
from oak_lever.judge.check import GOOD, STOP
from oak_lever.judge.judged import judge
from oak_lever.motion.mechanism import Floats
from oak_lever.motion.trace import Plan
from oak_lever.move.bounds import PULL_WITHIN_MM
from oak_lever.move.coordinates import Coordinate, Space, coordinates, placed, spots
from oak_lever.move.near import graver
from oak_lever.move.search import MET, LeastMove

_HALVINGS = 7
_ENOUGH = 4
"""More links than this hold the axle more than once."""


@dataclass(frozen=True)
class Wanted:
    """A figure of the cycle (`COLUMNS`) in one pose (mm, degrees), and the value it should have."""

    figure: str
    travel: float
    articulation: float
    value: float


@dataclass(frozen=True)
class Pulled:
    """Where the mounts go (by name, only those that move), what each wanted figure then is (None: it does not exist),
    whether all were met (to less than one increment, where whole ones were asked for), and how far the farthest mount
    moves, mm. `free`: how many coordinates were free to move; `stops`: findings that going all the way would make a
    stop of, so it goes only as far as stays sound; `worse`: of whole increments, every finding that is then graver, in
    words, on gaps and on what runs with the axle too."""

    at: dict[str, Point]
    got: tuple[float | None, ...]
    met: bool
    farthest: float
    free: int
    stops: tuple[str, ...]
    worse: tuple[str, ...] = ()


def pull(
    design: Design, wanted: Sequence[Wanted], within_mm: float = PULL_WITHIN_MM, increment_mm: float | None = None
) -> Pulled:
    """Move the free mounts the least that gives the wanted figures, or as nearly as they can be given; what is sound
    stays sound, and what can't be built is not gone to. With `increment_mm` each goes a whole number of increments:
    those about the exact move that come nearest to what is wanted.

    Where the shortest way makes a stop (links splayed until they fight a locator, say), ways that leave the links'
    mounts where they are sideways, or move only the locator, are tried too; if none spares it, the pull goes as far as
    stays sound, and says what stood in the way.

    Raises:
        ValueError: for a figure that the cycle does not have.
    """
    for want in wanted:
        if want.figure not in COLUMNS:
            raise ValueError(f"{want.figure} is not a figure of the cycle")
    tried: list[Pulled] = []
    before: dict[str, int] | None = None
    for free in _ways(design):
        space = Space(design, free)
        before = before or judge(space.swept(np.zeros((1, len(free))))).grave()
        tried.append(_pulled(space, _search(space, wanted, within_mm), before, increment_mm))
        if tried[-1].met and not tried[-1].stops:
            break
    best = min(tried, key=lambda one: (not one.met, _short_of(wanted, one.got)))
    return best if increment_mm is None else replace(best, worse=graver(design, placed(design, best.at)))


def _pulled(space: Space, solver: LeastMove, before: dict[str, int], increment: float | None) -> Pulled:
    move, got = solver.run()
    stops = _new_stops(space, move, before)
    if stops:
        move = _sound_part(space, move, before)
        got = solver.values(move[None])[0]
    met = bool((np.abs(got - solver.goal) <= MET).all())
    if increment is not None:
        move, got = solver.landed(move, increment, lambda one: not _new_stops(space, one, before))
    return Pulled(
        space.at(move), tuple(float(v) if np.isfinite(v) else None for v in got),
        met, float(np.abs(move).max(initial=0.0)), len(space.free), stops,
    )  # fmt: skip


def _new_stops(space: Space, move: Floats, before: dict[str, int]) -> tuple[str, ...]:
    after = judge(space.swept(move[None])).grave()
    return tuple(name for name, grave in after.items() if grave == STOP and before.get(name, GOOD) < STOP)


def _sound_part(space: Space, move: Floats, before: dict[str, int]) -> Floats:
    """As much of the move as makes no stop, by halving."""
    low, high = 0.0, 1.0
    for _ in range(_HALVINGS):
        middle = (low + high) / 2.0
        low, high = (low, middle) if _new_stops(space, middle * move, before) else (middle, high)
    return low * move


def _short_of(wanted: Sequence[Wanted], got: Sequence[float | None]) -> float:
    """How much is missing, in all; infinite where a figure does not exist."""
    return sum(
        abs(want.value - value) if value is not None else np.inf for want, value in zip(wanted, got, strict=True)
    )


def _ways(design: Design) -> Iterator[list[Coordinate]]:
    """What may move, in turn: everything; where a locator stands beside the links, no link sideways; the locator."""
    every = coordinates(design)
    yield every
    lateral = {spot.name for spot in spots(design) if spot.path[0] == "lateral"}
    if design.lateral is not None or len(design.links) > _ENOUGH:
        yield [c for c in every if c.axis != "y" or set(c.mounts) & lateral]
    if design.lateral is not None:
        yield [c for c in every if set(c.mounts) & lateral]


def _search(space: Space, wanted: Sequence[Wanted], within_mm: float) -> LeastMove:
    plan = Plan()
    places = [plan.pose(want.travel, want.articulation) for want in wanted]
    poses, names = plan.poses(), tuple({want.figure for want in wanted})

    def figures(moves: Floats) -> Floats:
        found, _ = figures_of_many(space.design, space.mounts(moves), poses, names)
        return np.stack([found[w.figure][:, at] for w, at in zip(wanted, places, strict=True)], axis=-1)

    return LeastMove(space, figures, np.array([want.value for want in wanted]), within_mm)
