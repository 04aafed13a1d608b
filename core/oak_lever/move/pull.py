"""Pull a result: the least movement of the free mounts that gives wanted figures.

Sequential least norm: at each round the figures' slopes by every free coordinate are taken, and the step from the
*original* mounts of least length that meets the figures, to first order, within the bounds, is taken. What cannot be
met is met as nearly as it can be (least squares).
"""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from oak_lever.batch import figures_of_many
from oak_lever.design.types import Design
from oak_lever.design.values import Point
from oak_lever.figures.rows import COLUMNS
from oak_lever.judge.check import GOOD, STOP
from oak_lever.judge.judged import judge
from oak_lever.motion.mechanism import Floats
from oak_lever.motion.trace import Plan
from oak_lever.move.bounds import PULL_WITHIN_MM
from oak_lever.move.buildable import bounds_of, builds, clearances
from oak_lever.move.coordinates import Coordinate, Space, coordinates, placed, spots
from oak_lever.move.near import graver
from oak_lever.move.slopes import slopes

_ROUNDS = 24
MET = 2e-3
"""A figure this near (mm, degrees, percent) to what was wanted is met: a fiftieth of what any gauge shows. The least
give of links that bind is found no nearer."""
_EXACT = 1e-4
"""A figure this near is gone on with only for shorter moves."""
_NEARLY_MM = 1e-2
"""Once the figures are met, a further round is worth it only for more than this of the farthest coordinate."""
_SETTLED_MM = 1e-4
"""A round that moves no coordinate by more than this is the last."""
_PARTS = (1.0, 0.5, 0.25, 0.1, 0.03)
"""Parts of a step that are tried in turn where the whole of it leads away."""
_HALVINGS = 7
_LANDINGS = (1.0, 0.85, 0.6, 0.3)
"""Parts of the exact move that are rounded in turn, until one can be built."""
_LANDING_ROUNDS = 40
_DEPENDENT = 1e-9
"""Figures whose slopes depend on each other to this ratio are met as one."""


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
        tried.append(_pulled(space, _Solver(space, wanted, within_mm), before, increment_mm))
        if tried[-1].met and not tried[-1].stops:
            break
    best = min(tried, key=lambda one: (not one.met, _short_of(wanted, one.got)))
    return best if increment_mm is None else replace(best, worse=graver(design, placed(design, best.at)))


def _pulled(space: Space, solver: "_Solver", before: dict[str, int], increment: float | None) -> Pulled:
    move, got = solver.run()
    stops = _new_stops(space, move, before)
    if stops:
        move = _sound_part(space, move, before)
        got = solver.figures(move[None])[0]
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


_ENOUGH = 4
"""More links than this hold the axle more than once."""


class _Solver:
    def __init__(self, space: Space, wanted: Sequence[Wanted], within_mm: float) -> None:
        self.space, self.wanted = space, wanted
        self.low, self.high = bounds_of(space, within_mm)
        self.goal = np.array([want.value for want in wanted])
        plan = Plan()
        self.places = [plan.pose(want.travel, want.articulation) for want in wanted]
        self.poses = plan.poses()
        self.names = tuple({want.figure for want in wanted})

    def figures(self, moves: Floats) -> Floats:
        """(N, W) the wanted figures after (N, F) moves."""
        found, _ = figures_of_many(self.space.design, self.space.mounts(moves), self.poses, self.names)
        return np.stack([found[w.figure][:, at] for w, at in zip(self.wanted, self.places, strict=True)], axis=-1)

    def run(self) -> tuple[Floats, Floats]:
        """The best moves (F,) and the figures there (W,)."""
        at = np.zeros(len(self.space.free))
        got = self.figures(at[None])[0]
        for _ in range(_ROUNDS if len(at) else 0):
            trial = self._round(at, got)
            if trial is None:
                break
            far, (at, got) = float(np.abs(trial[0] - at).max()), trial
            if far < _SETTLED_MM or (far < _NEARLY_MM and (np.abs(got - self.goal) <= _EXACT).all()):
                break
        return at, got

    def landed(self, exact: Floats, increment: float, sound: Callable[[Floats], bool]) -> tuple[Floats, Floats]:
        """The moves of whole increments about the exact ones whose figures come nearest to the goal, and those figures:
        one increment of one coordinate at a time is given or taken while that leads nearer. What the exact moves leave
        alone stays where it is."""
        moving = np.flatnonzero(np.abs(exact) > _SETTLED_MM)
        steps = np.concatenate([np.eye(len(exact))[moving], -np.eye(len(exact))[moving]]) * increment
        # a rounded move that can't be built, or makes a stop, is begun from less of it
        starts = [np.round(part * exact / increment) * increment for part in _LANDINGS]
        at = next((one for one in starts if self._within(one) and self._fits(one[None])[0] and sound(one)), 0.0 * exact)
        got = self.figures(at[None])[0]
        for _ in range(_LANDING_ROUNDS if len(moving) else 0):
            trials = at + steps
            reached = self.figures(trials)
            short = np.array([self._short(one) for one in reached])
            order = [n for n in np.argsort(short) if short[n] < self._short(got) - MET and self._within(trials[n])]
            better = next((n for n in order if self._fits(trials[n][None])[0] and sound(trials[n])), None)
            if better is None:
                break
            at, got = trials[better], reached[better]
        return at, got

    def _within(self, moves: Floats) -> bool:
        return bool(((moves >= self.low) & (moves <= self.high)).all())

    def _round(self, at: Floats, got: Floats) -> tuple[Floats, Floats] | None:
        """The next moves and the figures there; None where no part of the step leads nearer."""
        here, slope = slopes(self.figures, at)
        if not np.isfinite(slope).all() or not np.isfinite(here).all():
            return None
        step = self._buildable(slope, self.goal - here + slope @ at, at)
        least = self._short(got)
        trials = at + np.array(_PARTS)[:, None] * step
        fits, reached = self._fits(trials), self.figures(trials)
        for n, part in enumerate(_PARTS):
            short = self._short(reached[n])
            if fits[n] and (short < least or (short <= least and part == 1.0)):
                return trials[n], reached[n]
        return None

    def _buildable(self, slope: Floats, short: Floats, at: Floats) -> Floats:
        """The step from `at` to the least-norm moves; where it leads to what can't be built, the coordinate that has
        most to do with it stays where it is, and the others go on."""
        held = np.zeros(len(at), dtype=bool)
        while True:
            step = self._bounded(slope, short, at, held) - at
            if held.all() or self._fits((at + step)[None])[0]:
                return step
            loose = np.flatnonzero(~held & (step != 0.0))
            without = at + step - np.eye(len(at))[loose] * step[loose, None]
            held[loose[int(self._in_the_way(without).argmin())] if len(loose) else ~held] = True

    def _in_the_way(self, moves: Floats) -> Floats:
        """(N,) how much more can't be built, mm in all, than in the design as it stands."""
        space = self.space
        now, then = (
            clearances(space.design, m).by for m in (space.mechanism, space.mechanism.with_mounts(space.mounts(moves)))
        )
        excess: Floats = np.maximum(np.minimum(now, 0.0) - then, 0.0).sum(0)
        return excess

    def _fits(self, moves: Floats) -> NDArray[np.bool_]:
        space = self.space
        return builds(space.design, space.mechanism, space.mechanism.with_mounts(space.mounts(moves)))

    def _short(self, got: Floats) -> float:
        return float(np.linalg.norm(got - self.goal)) if np.isfinite(got).all() else np.inf

    def _bounded(self, slope: Floats, short: Floats, at: Floats, held: NDArray[np.bool_]) -> Floats:
        """Least-norm moves with slope @ moves = short, none beyond its bound: those that would be are held at it
        (Golub, chapter 5); those that are `held` anyway stay as they are `at`."""
        moves = np.where(held, at, 0.0)
        loose = ~held
        while loose.any():
            rest = short - slope[:, ~loose] @ moves[~loose]
            moves[loose] = np.linalg.lstsq(slope[:, loose], rest, rcond=_DEPENDENT)[0]
            over = loose & ((moves > self.high) | (moves < self.low))
            if not over.any():
                break
            moves[over] = np.clip(moves[over], self.low[over], self.high[over])
            loose &= ~over
        return moves
