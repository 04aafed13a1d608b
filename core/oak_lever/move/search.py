"""The searches that everything offered is made of, over whatever may be moved (`coordinates.Movable`).

`LeastMove`, for wanted values: sequential least norm. At each round the values' slopes by every free coordinate are
taken, and the step from the *original* points of least length that meets the values, to first order, within the bounds,
is taken. What cannot be met is met as nearly as it can be (least squares). `Toward`, for a figure outside its band: the
fewest whole increments along directions that bring it inside.
"""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from math import ceil, isfinite

import numpy as np
from numpy.typing import NDArray

from oak_lever.motion.mechanism import Floats
from oak_lever.move.bounds import CURE_WITHIN_MM
from oak_lever.move.buildable import bounds_of, fits, in_excess
from oak_lever.move.coordinates import Movable
from oak_lever.move.slopes import slopes

MET = 2e-3
"""A figure this near (mm, degrees, percent) to what was wanted is met: a fiftieth of what any gauge shows. The least
give of links that bind is found no nearer."""
_ROUNDS = 24
_EXACT = 1e-4
"""A figure this near is gone on with only for shorter moves."""
_NEARLY_MM = 1e-2
"""Once the figures are met, a further round is worth it only for more than this of the farthest coordinate."""
_SETTLED_MM = 1e-4
"""A round that moves no coordinate by more than this is the last."""
_PARTS = (1.0, 0.5, 0.25, 0.1, 0.03)
"""Parts of a step that are tried in turn where the whole of it leads away."""
_LANDINGS = (1.0, 0.85, 0.6, 0.3)
"""Parts of the exact move that are rounded in turn, until one can be built."""
_LANDING_ROUNDS = 40
_DEPENDENT = 1e-9
"""Figures whose slopes depend on each other to this ratio are met as one."""


class LeastMove:
    """`values` gives (N, W) for moves (N, F); `goal` (W,) is what they should be; no coordinate goes farther than
    `within_mm`, or than where it could no longer be built."""

    def __init__(self, space: Movable, values: Callable[[Floats], Floats], goal: Floats, within_mm: float) -> None:
        self.space, self.values, self.goal = space, values, goal
        self.low, self.high = bounds_of(space, within_mm)

    def run(self) -> tuple[Floats, Floats]:
        """The best moves (F,) and the figures there (W,)."""
        at = np.zeros(len(self.space.free))
        got = self.values(at[None])[0]
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
        at = next(
            (one for one in starts if self._within(one) and fits(self.space, one[None])[0] and sound(one)), 0.0 * exact
        )
        got = self.values(at[None])[0]
        for _ in range(_LANDING_ROUNDS if len(moving) else 0):
            trials = at + steps
            reached = self.values(trials)
            short = np.array([self._short(one) for one in reached])
            order = [n for n in np.argsort(short) if short[n] < self._short(got) - MET and self._within(trials[n])]
            better = next((n for n in order if fits(self.space, trials[n][None])[0] and sound(trials[n])), None)
            if better is None:
                break
            at, got = trials[better], reached[better]
        return at, got

    def _within(self, moves: Floats) -> bool:
        return bool(((moves >= self.low) & (moves <= self.high)).all())

    def _round(self, at: Floats, got: Floats) -> tuple[Floats, Floats] | None:
        """The next moves and the figures there; None where no part of the step leads nearer."""
        here, slope = slopes(self.values, at)
        if not np.isfinite(slope).all() or not np.isfinite(here).all():
            return None
        step = self._buildable(slope, self.goal - here + slope @ at, at)
        least = self._short(got)
        trials = at + np.array(_PARTS)[:, None] * step
        built, reached = fits(self.space, trials), self.values(trials)
        for n, part in enumerate(_PARTS):
            short = self._short(reached[n])
            if built[n] and (short < least or (short <= least and part == 1.0)):
                return trials[n], reached[n]
        return None

    def _buildable(self, slope: Floats, short: Floats, at: Floats) -> Floats:
        """The step from `at` to the least-norm moves; where it leads to what can't be built, the coordinate that has
        most to do with it stays where it is, and the others go on."""
        held = np.zeros(len(at), dtype=bool)
        while True:
            step = self._bounded(slope, short, at, held) - at
            if held.all() or fits(self.space, (at + step)[None])[0]:
                return step
            loose = np.flatnonzero(~held & (step != 0.0))
            without = at + step - np.eye(len(at))[loose] * step[loose, None]
            held[loose[int(in_excess(self.space, without).argmin())] if len(loose) else ~held] = True

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


_TRIES = 4
_PAIRED = 6
"""How many of the strongest coordinates are tried two by two."""
_ENDLESS = 1e9
"""More increments than this are no number of increments."""
_FLAT = 1e-9
"""A figure that changes by less than this over an increment does not answer to it."""
_TOWARD = (1.0, 0.5, 0.25, 0.1)
"""Parts of the farthest that are tried where nothing comes into its band."""


@dataclass(frozen=True)
class Seen:
    """What a figure is after a move (NaN: it does not exist), the edge of its band there, and whether it is inside."""

    value: float
    edge: float
    good: bool


@dataclass(frozen=True)
class _Try:
    """Moves (F,) tried: `steps` along direction `way`, and what the figure then is."""

    way: int
    steps: int
    move: Floats
    seen: Seen


class Toward:
    """Looks along several directions at once (each a free coordinate, or two together), by its own number of steps.

    `look` says what the figure is after each of moves (N, F); `now` what it is as things stand, `low_side` whether it
    is too low; `change` (F,) what one increment of each coordinate does to it; less than `least` is no gain."""

    def __init__(
        self, space: Movable, look: Callable[[Floats], Sequence[Seen]], now: Seen, low_side: bool, change: Floats,
        increment_mm: float, least: float,
    ) -> None:  # fmt: skip
        self.space, self.look, self.now, self.low_side = space, look, now, low_side
        self.change, self.increment_mm, self.least = np.nan_to_num(change), increment_mm, least
        self.farthest = int(CURE_WITHIN_MM / increment_mm)
        self.ways: list[Floats] = []

    def stages(self) -> Iterator[list[Floats]]:
        """Moves (F,), in turn, to go on with only where nothing of those before will do: single coordinates that bring
        it inside; two together; where nothing does, the two that bring it nearest."""
        answers = [c for c in range(len(self.change)) if abs(self.change[c]) > _FLAT]
        yield self._along([np.eye(len(self.change))[c] for c in answers])
        yield self._along(self._twos(answers))
        yield self._nearest(answers)

    def _twos(self, answers: Sequence[int]) -> list[Floats]:
        """Two coordinates together, each in the measure of what it does: the shortest way to the edge for the two."""
        strong = sorted(answers, key=lambda c: -abs(self.change[c]))[:_PAIRED]
        ways = []
        for n, one in enumerate(strong):
            for other in strong[:n]:
                way = np.zeros(len(self.change))
                way[[one, other]] = self.change[[one, other]]
                ways.append(way / np.abs(way).max())
        return ways

    def _along(self, ways: list[Floats]) -> list[Floats]:
        self.ways = ways
        by_way = {w: float(way @ self.change) for w, way in enumerate(ways)}
        steps = {w: _whole((self.now.edge - self.now.value) / by) for w, by in by_way.items() if abs(by) > _FLAT}
        return [one.move for one in self._shortened(self._reached(steps)).values()]

    def _reached(self, steps: dict[int, int]) -> dict[int, _Try]:
        """By direction: how many steps bring the figure inside, by the secant from where it is."""
        found: dict[int, _Try] = {}
        for _ in range(_TRIES):
            steps = {w: n for w, n in steps.items() if n and abs(n) <= self.farthest}
            if not steps:
                break
            tried = self._looked(steps)
            found |= {one.way: one for one in tried if one.seen.good}
            steps = {one.way: self._next(one) for one in tried if one.way not in found}
        return found

    def _next(self, one: _Try) -> int:
        """A better guess; 0 where there is none."""
        slope = (one.seen.value - self.now.value) / one.steps
        if not isfinite(slope) or abs(slope) < _FLAT:
            return 0
        wanted = (one.seen.edge - self.now.value) / slope
        if wanted * one.steps <= 0:
            return 0
        whole = _whole(wanted)
        return whole if whole != one.steps else one.steps + (1 if one.steps > 0 else -1)

    def _shortened(self, found: dict[int, _Try]) -> dict[int, _Try]:
        """With as few steps as still cure, by halving: a bent curve lets the first guess go too far."""
        found, short = dict(found), dict.fromkeys(found, 0)
        while True:
            middle = {w: int((short[w] + t.steps) / 2) for w, t in found.items() if abs(t.steps - short[w]) > 1}
            if not middle:
                return found
            cured = {one.way: one for one in self._looked(middle) if one.seen.good}
            found |= cured
            short |= {way: steps for way, steps in middle.items() if way not in cured}

    def _looked(self, steps: dict[int, int]) -> list[_Try]:
        """Every direction's move, rounded to whole increments, looked at in one batch; what can't be built left out."""
        if not steps:
            return []
        ways, counts = list(steps), list(steps.values())
        moves = np.round(np.array([n * self.ways[w] for w, n in steps.items()])) * self.increment_mm
        kept = np.flatnonzero(fits(self.space, moves))
        seen = self.look(moves[kept]) if len(kept) else ()
        return [_Try(ways[k], counts[k], moves[k], one) for k, one in zip(kept, seen, strict=True)]

    def _nearest(self, answers: Sequence[int]) -> list[Floats]:
        """Each coordinate as far toward the band as it can go, or as helps; the two that help most."""
        toward = 1.0 if self.low_side else -1.0
        self.ways = [np.eye(len(self.change))[c] * np.sign(toward * self.change[c]) for c in answers]
        best: dict[int, tuple[float, _Try]] = {}
        for part in _TOWARD:
            steps = max(1, int(part * self.farthest))
            for one in self._looked(dict.fromkeys(range(len(self.ways)), steps)):
                gain = toward * (one.seen.value - self.now.value)
                if isfinite(gain) and gain > max(self.least, best.get(one.way, (0.0,))[0]):
                    best[one.way] = (gain, one)
        return [one.move for _, one in sorted(best.values(), key=lambda pair: -pair[0])[:2]]


def _whole(steps: float) -> int:
    """Whole increments, away from zero: to the band's edge and not short of it. 0 for what is no number."""
    if not np.isfinite(steps) or abs(steps) > _ENDLESS:
        return 0
    return ceil(steps) if steps > 0 else -ceil(-steps)
