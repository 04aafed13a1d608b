"""Pull a result: the least movement of the free mounts that gives wanted figures.

Sequential least norm: at each round the figures' slopes by every free coordinate are taken, and the step from the
*original* mounts of least length that meets the figures, to first order, within the bounds, is taken. What cannot be
met is met as nearly as it can be (least squares).
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from oak_lever.batch import figures_of_many
from oak_lever.design.types import Design
from oak_lever.design.values import Point
from oak_lever.figures.rows import COLUMNS
from oak_lever.motion.mechanism import Floats
from oak_lever.motion.trace import Plan
from oak_lever.move.bounds import PULL_WITHIN_MM
from oak_lever.move.coordinates import Space
from oak_lever.move.slopes import slopes

_ROUNDS = 12
MET = 1e-4
"""A figure this near (mm, degrees, percent) to what was wanted is met: a thousandth of what any gauge shows."""
_NEARLY_MM = 1e-2
"""Once the figures are met, a further round is worth it only for more than this of the farthest coordinate."""
_SETTLED_MM = 1e-4
"""A round that moves no coordinate by more than this is the last."""
_PARTS = (1.0, 0.5, 0.25, 0.1)
"""Parts of a step that are tried in turn where the whole of it leads away."""
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
    whether all were met, and how far the farthest mount moves, mm. `free`: how many coordinates were free to move."""

    at: dict[str, Point]
    got: tuple[float | None, ...]
    met: bool
    farthest: float
    free: int


def pull(design: Design, wanted: Sequence[Wanted], within_mm: float = PULL_WITHIN_MM) -> Pulled:
    """Move the free mounts the least that gives the wanted figures, or as nearly as they can be given.

    Raises:
        ValueError: for a figure that the cycle does not have.
    """
    for want in wanted:
        if want.figure not in COLUMNS:
            raise ValueError(f"{want.figure} is not a figure of the cycle")
    solver = _Solver(Space(design), wanted, within_mm)
    best, got = solver.run()
    short = np.abs(got - solver.goal)
    return Pulled(
        solver.space.at(best), tuple(float(v) if np.isfinite(v) else None for v in got), bool((short <= MET).all()),
        float(np.abs(best).max(initial=0.0)), len(solver.space.free),
    )  # fmt: skip


class _Solver:
    def __init__(self, space: Space, wanted: Sequence[Wanted], within_mm: float) -> None:
        self.space, self.wanted, self.within_mm = space, wanted, within_mm
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
            if far < _SETTLED_MM or (far < _NEARLY_MM and (np.abs(got - self.goal) <= MET).all()):
                break
        return at, got

    def _round(self, at: Floats, got: Floats) -> tuple[Floats, Floats] | None:
        """The next moves and the figures there; None where no part of the step leads nearer."""
        here, slope = slopes(self.figures, at)
        if not np.isfinite(slope).all() or not np.isfinite(here).all():
            return None
        step = self._bounded(slope, self.goal - here + slope @ at) - at
        least = self._short(got)
        for part in _PARTS:
            trial = at + part * step
            reached = self.figures(trial[None])[0]
            short = self._short(reached)
            if short < least or (short <= least and part == 1.0):
                return trial, reached
        return None

    def _short(self, got: Floats) -> float:
        return float(np.linalg.norm(got - self.goal)) if np.isfinite(got).all() else np.inf

    def _bounded(self, slope: Floats, short: Floats) -> Floats:
        """Least-norm moves with slope @ moves = short, none beyond the bound: those that would be are held at it."""
        moves = np.zeros(slope.shape[1])
        loose = np.ones(slope.shape[1], dtype=bool)
        while loose.any():
            rest = short - slope[:, ~loose] @ moves[~loose]
            moves[loose] = np.linalg.lstsq(slope[:, loose], rest, rcond=_DEPENDENT)[0]
            over = loose & (np.abs(moves) > self.within_mm)
            if not over.any():
                break
            moves[over] = np.sign(moves[over]) * self.within_mm
            loose &= ~over
        return moves
