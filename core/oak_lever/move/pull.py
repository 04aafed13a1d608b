"""Pull a result: the least movement of the free mounts that gives wanted figures.

Sequential least norm: at each round the figures' slopes by every free coordinate are taken (central differences of
exact figures, all in one batch), and the step from the *original* mounts of least length that meets the figures, to
first order, within the bounds, is taken. What cannot be met is met as nearly as it can be (least squares).
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from oak_lever.batch import NUDGE_MM, figures_of_many, mounts_of
from oak_lever.design.types import Design, Point
from oak_lever.figures.rows import COLUMNS
from oak_lever.motion.mechanism import Floats
from oak_lever.motion.trace import Plan, Poses
from oak_lever.move.coordinates import coordinates, moved

WITHIN_MM = 150.0
"""How far a pull may move a mount along an axis."""

_ROUNDS = 12
_MET = 1e-4
"""A figure this near (mm, degrees, percent) to what was wanted is met: a thousandth of what any gauge shows."""


@dataclass(frozen=True)
class Wanted:
    """A figure of the cycle (`COLUMNS`) in one pose, and the value it should have."""

    figure: str
    travel: float
    articulation: float
    value: float


@dataclass(frozen=True)
class Pulled:
    """Where the mounts go (by name, only those that move), what each wanted figure then is (None: it does not exist),
    whether all were met, and how far the farthest mount moves, mm. `free`: how many coordinates were free to move."""

    design: Design
    at: dict[str, Point]
    got: tuple[float | None, ...]
    met: bool
    farthest: float
    free: int


def pull(design: Design, wanted: Sequence[Wanted], within: float = WITHIN_MM) -> Pulled:
    """Move the free mounts the least that gives the wanted figures, or as nearly as they can be given.

    Raises:
        ValueError: for a figure that the cycle does not have.
    """
    for want in wanted:
        if want.figure not in COLUMNS:
            raise ValueError(f"{want.figure} is not a figure of the cycle")
    free = np.array([c.directions for c in coordinates(design)]).reshape(-1, len(mounts_of(design)), 3)
    solver = _Solver(design, wanted, free, within)
    best, got = solver.run()
    changed, at = moved(design, np.tensordot(best, free, axes=1) if len(free) else np.zeros_like(mounts_of(design)))
    short = np.abs(got - solver.goal)
    return Pulled(
        changed, at, tuple(float(v) if np.isfinite(v) else None for v in got), bool((short <= _MET).all()),
        float(np.abs(best).max(initial=0.0)), len(free),
    )  # fmt: skip


class _Solver:
    def __init__(self, design: Design, wanted: Sequence[Wanted], free: Floats, within: float) -> None:
        self.design, self.wanted, self.free, self.within = design, wanted, free, within
        self.base = mounts_of(design)
        self.goal = np.array([want.value for want in wanted])
        self.poses, self.places = _poses(wanted)
        self.names = tuple({want.figure for want in wanted})

    def figures(self, moves: Floats) -> Floats:
        """(N, W) the wanted figures after (N, F) moves."""
        mounts = self.base + np.tensordot(moves, self.free, axes=1)
        found, _ = figures_of_many(self.design, mounts, self.poses, self.names)
        return np.stack([found[w.figure][:, at] for w, at in zip(self.wanted, self.places, strict=True)], axis=-1)

    def run(self) -> tuple[Floats, Floats]:
        """The best moves (F,) and the figures there (W,)."""
        count = len(self.free)
        at = np.zeros(count)
        best, got = at, self.figures(at[None])[0]
        least = self._short(got)
        for _ in range(_ROUNDS if count else 0):
            around = np.concatenate([at + NUDGE_MM * np.eye(count), at - NUDGE_MM * np.eye(count), at[None]])
            values = self.figures(around)
            slopes = ((values[:count] - values[count:-1]) / (2 * NUDGE_MM)).T
            if not np.isfinite(slopes).all() or not np.isfinite(values[-1]).all():
                break
            target = self._bounded(slopes, self.goal - values[-1] + slopes @ at)
            step = target - at
            for part in (1.0, 0.5, 0.25, 0.1):
                trial = at + part * step
                reached = self.figures(trial[None])[0]
                short = self._short(reached)
                if short < least or (short <= least and part == 1.0):
                    break
            else:
                break
            settled = np.abs(trial - at).max() < 1e-4
            at, best, got, least = trial, trial, reached, short
            if settled or ((np.abs(got - self.goal) <= _MET).all() and np.abs(step).max() < 1e-2):
                break
        return best, got

    def _short(self, got: Floats) -> float:
        return float(np.linalg.norm(got - self.goal)) if np.isfinite(got).all() else np.inf

    def _bounded(self, slopes: Floats, short: Floats) -> Floats:
        """Least-norm moves with slopes @ moves = short, none beyond the bound: those that would be are held at it."""
        moves = np.zeros(slopes.shape[1])
        loose = np.ones(slopes.shape[1], dtype=bool)
        for _ in range(slopes.shape[1]):
            moves[loose] = np.linalg.lstsq(slopes[:, loose], short - slopes[:, ~loose] @ moves[~loose], rcond=1e-9)[0]
            over = loose & (np.abs(moves) > self.within)
            if not over.any():
                break
            moves[over] = np.sign(moves[over]) * self.within
            loose &= ~over
            if not loose.any():
                break
        return moves


def _poses(wanted: Sequence[Wanted]) -> tuple[Poses, list[int]]:
    plan, places = Plan(), []
    for want in wanted:
        at = 0
        if want.travel != 0.0 or want.articulation != 0.0:
            at = int(plan.grid(np.array([want.travel]), np.array([want.articulation]))[0, 0])
        places.append(at)
    return plan.poses(), places
