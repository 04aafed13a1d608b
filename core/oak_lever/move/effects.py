"""What each move does to the figures, by one shop increment; and the single moves that cure a finding."""

from dataclasses import dataclass
from math import ceil

import numpy as np

from oak_lever.design.faults import Refused
from oak_lever.design.types import Design
from oak_lever.design.values import Point
from oak_lever.judge.judged import Judged, compared, judge
from oak_lever.judge.measures import measures
from oak_lever.motion.mechanism import Floats
from oak_lever.move.bounds import CURE_WITHIN_MM
from oak_lever.move.coordinates import Axis, Coordinate, Space, placed
from oak_lever.move.slopes import slopes

_ROWS = 11
"""Rows of a sweep for slopes: they tell which way to try; what is tried is judged on the whole cycle."""
_TRIES = 4
_WORTH_MM = 50.0
"""How much farther a cure may move a mount for each finding that it cures beside its own."""
_ENDLESS = 1e9
"""More increments than this are no number of increments."""
_FLAT = 1e-9
"""A figure that changes by less than this over an increment does not answer to it."""


@dataclass(frozen=True)
class Effect:
    """Moving these mounts together by one increment along an axis (+ for the first; its mirror image goes the other way
    in y) changes the figure by `change`."""

    axis: Axis
    mounts: tuple[str, ...]
    change: float


def all_effects(design: Design, increment_mm: float) -> dict[str, list[Effect]]:
    """What moves each figure: its change by one increment of each free coordinate, the strongest first.

    Half the difference between one increment either way, of the exact figure. Nothing where the figure does not exist.
    """
    space = Space(design)
    names, _, found = _slopes(space, increment_mm)
    return {
        name: _ranked(space.free, found[w] * increment_mm)
        for w, name in enumerate(names)
        if np.isfinite(found[w]).any()
    }


def effects(design: Design, figure: str, increment_mm: float) -> list[Effect]:
    """What moves one figure; empty where it does not exist."""
    return all_effects(design, increment_mm).get(figure, [])


def _slopes(space: Space, by_mm: float) -> tuple[tuple[str, ...], Floats, Floats]:
    """The figures' names, their values (W,) and slopes (W, F)."""
    names: tuple[str, ...] = ()

    def values(moves: Floats) -> Floats:
        nonlocal names
        taken = measures(space.swept(moves, _ROWS))
        names = tuple(taken)
        return np.stack([measure.value for measure in taken.values()], axis=-1)

    here, found = slopes(values, np.zeros(len(space.free)), by_mm)
    return names, here, found


def _ranked(free: list[Coordinate], change: Floats) -> list[Effect]:
    known = [n for n in range(len(free)) if np.isfinite(change[n])]
    return sorted(
        (Effect(free[n].axis, free[n].mounts, float(change[n])) for n in known), key=lambda effect: -abs(effect.change)
    )


@dataclass(frozen=True)
class Cure:
    """A move that brings a figure into its band: what to move, by how much (mm, whole increments), where the mounts are
    then, the judged figures after it, and the findings that it makes less grave (`cures`) and graver (`worse`)."""

    axis: Axis
    mounts: tuple[str, ...]
    by: float
    at: dict[str, Point]
    figures: dict[str, float | None]
    cures: tuple[str, ...]
    worse: tuple[str, ...]


def cures(design: Design, finding: str, increment_mm: float, most: int = 4) -> list[Cure]:
    """Single moves that cure a finding on a figure, those that cost least first: nothing made worse, then the shortest,
    one that cures more counting as shorter.

    Each is worked out on the exact figure, to as few whole increments as cure, within `CURE_WITHIN_MM`; locks hold.
    """
    space = Space(design)
    before = judge(space.swept(np.zeros((1, len(space.free)))))
    if finding not in before.figures or finding not in before.grave() or before.values()[finding] is None:
        return []
    search = _Search(space, finding, increment_mm, before)
    found = search.run()
    found.sort(key=lambda cure: (len(cure.worse), abs(cure.by) - _WORTH_MM * len(cure.cures)))
    return found[:most]


class _Search:
    """Looks along every free coordinate at once, each by its own number of increments."""

    def __init__(self, space: Space, finding: str, increment_mm: float, before: Judged) -> None:
        self.space, self.finding, self.increment_mm, self.before = space, finding, increment_mm, before
        self.row = before.figures.index(finding)
        self.ill = float(before.value[self.row, 0])
        self.low_side = before.side[self.row, 0] < 0
        self.farthest = int(CURE_WITHIN_MM / increment_mm)

    def run(self) -> list[Cure]:
        names, _, slope = _slopes(self.space, self.increment_mm)
        change = slope[names.index(self.finding)] * self.increment_mm
        goal = self._edge(self.before, 0)
        steps = {
            c: _whole((goal - self.ill) / change[c])
            for c in range(len(self.space.free))
            if np.isfinite(change[c]) and abs(change[c]) > _FLAT
        }
        found = self._shortened(self._reached(steps))
        return [self._cure(c, *one) for c, one in found.items() if self._builds(c, one[0])]

    def _reached(self, steps: dict[int, int]) -> dict[int, tuple[int, Judged, int]]:
        """By coordinate: how many increments bring the figure inside, by the secant from ride."""
        found: dict[int, tuple[int, Judged, int]] = {}
        for _ in range(_TRIES):
            steps = {c: n for c, n in steps.items() if n and abs(n) <= self.farthest}
            if not steps:
                break
            after = self._judged(steps)
            found |= {c: (n, after, row) for row, (c, n) in enumerate(steps.items()) if self._is_good(after, row)}
            steps = {
                c: self._next(n, after, row) for row, (c, n) in enumerate(steps.items()) if c not in found
            }  # fmt: skip
        return found

    def _next(self, steps: int, after: Judged, row: int) -> int:
        """A better guess; 0 where there is none."""
        value = float(after.value[self.row, row])
        slope = (value - self.ill) / steps
        if not np.isfinite(slope) or abs(slope) < _FLAT:
            return 0
        wanted = (self._edge(after, row) - self.ill) / slope
        if wanted * steps <= 0:
            return 0
        whole = _whole(wanted)
        return whole if whole != steps else steps + (1 if steps > 0 else -1)

    def _shortened(self, found: dict[int, tuple[int, Judged, int]]) -> dict[int, tuple[int, Judged, int]]:
        """With as few increments as still cure: a bent curve lets the first guess go too far."""
        trying = dict(found)
        while True:
            fewer = {c: n - (1 if n > 0 else -1) for c, (n, _, _) in trying.items() if abs(n) > 1}
            if not fewer:
                return found
            after = self._judged(fewer)
            trying = {c: (n, after, row) for row, (c, n) in enumerate(fewer.items()) if self._is_good(after, row)}
            found |= trying

    def _judged(self, steps: dict[int, int]) -> Judged:
        moves = np.zeros((len(steps), len(self.space.free)))
        for row, (c, n) in enumerate(steps.items()):
            moves[row, c] = n * self.increment_mm
        return judge(self.space.swept(moves))

    def _is_good(self, judged: Judged, row: int) -> bool:
        return bool(judged.side[self.row, row] == 0) and bool(judged.swept.traced.reached[row, 0])

    def _edge(self, judged: Judged, row: int) -> float:
        return float((judged.low if self.low_side else judged.high)[self.row, row])

    def _builds(self, c: int, steps: int) -> bool:
        """Whether the moved mounts still make a design."""
        try:
            placed(self.space.design, self.space.at(self._move(c, steps)))
        except Refused:
            return False
        return True

    def _move(self, c: int, steps: int) -> Floats:
        move = np.zeros(len(self.space.free))
        move[c] = steps * self.increment_mm
        return move

    def _cure(self, c: int, steps: int, after: Judged, row: int) -> Cure:
        coordinate = self.space.free[c]
        return Cure(
            coordinate.axis, coordinate.mounts, steps * self.increment_mm, self.space.at(self._move(c, steps)),
            after.values(row), *compared(self.before.grave(), after.grave(row)),
        )  # fmt: skip


def _whole(steps: float) -> int:
    """Whole increments, away from zero: to the band's edge and not short of it. 0 for what is no number."""
    if not np.isfinite(steps) or abs(steps) > _ENDLESS:
        return 0
    return ceil(steps) if steps > 0 else -ceil(-steps)
