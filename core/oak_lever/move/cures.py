"""What cures a finding: one mount or pair moved, two together, or what else a shop does about it, each with its price.

Everything is worked out on exact figures and judged anew. Nothing is offered that can't be built, that makes a new
stop, or that does not do what it says.
"""

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from math import ceil, isfinite

import numpy as np

from oak_lever.design.faults import Refused
from oak_lever.design.remembered import remembered
from oak_lever.design.types import Design
from oak_lever.judge.check import STOP, Check
from oak_lever.judge.judged import Judged, judge
from oak_lever.judge.verdicts import Verdicts, verdicts_on
from oak_lever.motion.mechanism import Floats
from oak_lever.move.bounds import CURE_WITHIN_MM
from oak_lever.move.buildable import builds
from oak_lever.move.clearing import clearing
from oak_lever.move.coordinates import Space, placed
from oak_lever.move.corner_moves import corner_cures
from oak_lever.move.effects import figure_slopes
from oak_lever.move.near import spared
from oak_lever.move.offers import Cure
from oak_lever.move.price import SEEN, priced
from oak_lever.move.remedies import Remedy, remedies
from oak_lever.move.words import Shift, shift_said
from oak_lever.move.zones import hops, into_zone
from oak_lever.units import Units

_TRIES = 4
_PAIRED = 6
"""How many of the strongest coordinates are tried two by two."""
_WORTH_MM = 50.0
"""How much farther a cure may move a mount for each finding that it cures beside its own."""
_ENDLESS = 1e9
"""More increments than this are no number of increments."""
_FLAT = 1e-9
"""A figure that changes by less than this over an increment does not answer to it."""


def cures(design: Design, finding: str, increment_mm: float, units: Units = "mm", most: int = 5) -> list[Cure]:
    """What cures a finding, by its id, what costs least first: single moves in whole increments, as few as cure, within
    `CURE_WITHIN_MM`; two mounts moved together where no single one does; what else there is to do where it is grave;
    and where nothing cures it, what helps most. Locks hold, zones too: a mount that belongs in a row of holes goes from
    hole to hole. None makes parts meet that did not. Empty for what is no finding.
    """
    before = verdicts_on(design)
    if finding not in before.grave:
        near = next((check for check, _ in before.gaps if check.id == finding), None)
        if near is None:
            return []
        a, b = near.place.parts
        return clearing(design, a, b, increment_mm, units, most)
    check = before.by_id[finding]
    if check.figure.of == "mount":
        places = into_zone(design, check.part, increment_mm, units)
        return spared(design, (c for place in places for c in priced(before, place, finding)), units, most)
    if check.figure.of != "design":
        return spared(design, corner_cures(before, check, increment_mm, units), units, most)
    found: list[Cure] = []
    if check.value is not None and finding in before.judged.figures:
        found = _Search(_space(design), before, check, increment_mm, units).run()
    found += [c for other in hops(design, units) for c in priced(before, other, finding, nearer=False)]
    found.sort(key=_cost)
    found = spared(design, found, units, most)
    if not found or check.grave == STOP:
        every = remedies(before, check, increment_mm, units)
        rest = (c for other in every for c in priced(before, other, finding, nearer=False))
        found += spared(design, rest, units, most)
    found.sort(key=lambda cure: not cure.meets)
    return found[:most]


@remembered(4)
def _space(design: Design) -> Space:
    return Space(design)


@remembered(4)
def _known_slopes(_: Design) -> dict[float, tuple[tuple[str, ...], Floats]]:
    return {}


def _slopes(space: Space, increment_mm: float) -> tuple[tuple[str, ...], Floats]:
    """The figures' names and slopes (W, F): the same for every finding on the design."""
    known = _known_slopes(space.design)
    if increment_mm not in known:
        names, _, slope = figure_slopes(space, increment_mm)
        known[increment_mm] = names, slope
    return known[increment_mm]


def _cost(cure: Cure) -> tuple[bool, int, float]:
    far = max((abs(shift.by) for shift in cure.shifts), default=0.0)
    return not cure.meets, len(cure.worse), far * len(cure.shifts) - _WORTH_MM * len(cure.cures)


@dataclass(frozen=True)
class _Try:
    """Moves (F,) tried, and how they are judged: row `row` of `judged`; `steps` along direction `way`."""

    way: int
    steps: int
    move: Floats
    judged: Judged
    row: int


class _Search:
    """Looks along several directions at once (each a free coordinate, or two together), by its own number of steps."""

    def __init__(self, space: Space, before: Verdicts, check: Check, increment_mm: float, units: Units) -> None:
        self.space, self.before, self.increment_mm, self.units = space, before, increment_mm, units
        self.check, finding = check, check.id
        self.row = before.judged.figures.index(finding)
        self.ill = float(before.judged.value[self.row, 0])
        self.low_side = check.side < 0
        self.farthest = int(CURE_WITHIN_MM / increment_mm)
        names, slope = _slopes(space, increment_mm)
        self.change = np.nan_to_num(slope[names.index(finding)]) * increment_mm if len(space.free) else np.empty(0)
        self.ways: list[Floats] = []

    def run(self) -> list[Cure]:
        answers = [c for c in range(len(self.change)) if abs(self.change[c]) > _FLAT]
        found = self._along([np.eye(len(self.change))[c] for c in answers])
        if not found and len(answers) > 1:
            found = self._along(self._twos(answers))
        return found or self._nearest(answers)

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

    def _along(self, ways: list[Floats]) -> list[Cure]:
        self.ways = ways
        goal = self._edge(self.before.judged, 0)
        by_way = {w: float(way @ self.change) for w, way in enumerate(ways)}
        steps = {w: _whole((goal - self.ill) / by) for w, by in by_way.items() if abs(by) > _FLAT}
        return self._cures(self._shortened(self._reached(steps)).values())

    def _reached(self, steps: dict[int, int]) -> dict[int, _Try]:
        """By direction: how many steps bring the figure inside, by the secant from where it is."""
        found: dict[int, _Try] = {}
        for _ in range(_TRIES):
            steps = {w: n for w, n in steps.items() if n and abs(n) <= self.farthest}
            if not steps:
                break
            tried = self._judged(steps)
            found |= {one.way: one for one in tried if self._is_good(one)}
            steps = {one.way: self._next(one) for one in tried if one.way not in found}
        return found

    def _next(self, one: _Try) -> int:
        """A better guess; 0 where there is none."""
        value = float(one.judged.value[self.row, one.row])
        slope = (value - self.ill) / one.steps
        if not isfinite(slope) or abs(slope) < _FLAT:
            return 0
        wanted = (self._edge(one.judged, one.row) - self.ill) / slope
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
            cured = {one.way: one for one in self._judged(middle) if self._is_good(one)}
            found |= cured
            short |= {way: steps for way, steps in middle.items() if way not in cured}

    def _judged(self, steps: dict[int, int]) -> list[_Try]:
        """Every direction's move, rounded to whole increments, judged in one batch; what can't be built left out."""
        if not steps:
            return []
        ways, counts = list(steps), list(steps.values())
        moves = np.round(np.array([n * self.ways[w] for w, n in steps.items()])) * self.increment_mm
        keep = builds(
            self.space.design, self.space.mechanism, self.space.mechanism.with_mounts(self.space.mounts(moves))
        )
        kept = np.flatnonzero(keep)
        if not len(kept):
            return []
        judged = judge(self.space.swept(moves[kept]))
        return [_Try(ways[k], counts[k], moves[k], judged, row) for row, k in enumerate(kept)]

    def _is_good(self, one: _Try) -> bool:
        return bool(one.judged.side[self.row, one.row] == 0) and bool(one.judged.swept.traced.reached[one.row, 0])

    def _edge(self, judged: Judged, row: int) -> float:
        return float((judged.low if self.low_side else judged.high)[self.row, row])

    def _nearest(self, answers: Sequence[int]) -> list[Cure]:
        """Where nothing cures it: each coordinate as far toward the band as it can go, or as helps."""
        toward = 1.0 if self.low_side else -1.0
        self.ways = [np.eye(len(self.change))[c] * np.sign(toward * self.change[c]) for c in answers]
        best: dict[int, tuple[float, _Try]] = {}
        for part in (1.0, 0.5, 0.25, 0.1):
            steps = max(1, int(part * self.farthest))
            for one in self._judged(dict.fromkeys(range(len(self.ways)), steps)):
                gain = toward * (float(one.judged.value[self.row, one.row]) - self.ill)
                if isfinite(gain) and gain > max(SEEN[self.check.figure.unit], best.get(one.way, (0.0,))[0]):
                    best[one.way] = (gain, one)
        ranked = sorted(best.values(), key=lambda pair: -pair[0])
        return self._cures(one for _, one in ranked[:2])

    def _cures(self, tried: Iterable[_Try]) -> list[Cure]:
        return [cure for one in tried for cure in self._cure(one)]

    def _cure(self, one: _Try) -> Iterator[Cure]:
        """The cure that a try is; none where it makes a new stop, or no design."""
        try:
            moved = placed(self.space.design, self.space.at(one.move))
        except Refused:
            return
        shifts = tuple(
            Shift(c.axis, c.mounts, float(by)) for c, by in zip(self.space.free, one.move, strict=True) if by != 0.0
        )
        words = " and ".join(shift_said(self.space.design, shift, self.units) for shift in shifts)
        yield from priced(self.before, Remedy(words, "", moved, shifts), self.check.id)


def _whole(steps: float) -> int:
    """Whole increments, away from zero: to the band's edge and not short of it. 0 for what is no number."""
    if not np.isfinite(steps) or abs(steps) > _ENDLESS:
        return 0
    return ceil(steps) if steps > 0 else -ceil(-steps)
