"""Which demands exclude each other where no place that was tried meets all of them, and what would have to give."""

from collections import Counter
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass, field
from math import ceil, inf

import numpy as np

from oak_lever.cycle import sweep_many
from oak_lever.judge.check import FIX
from oak_lever.judge.judged import Judged, judge
from oak_lever.motion.mechanism import Floats
from oak_lever.move.coordinates import Axis, Coordinate, Space

_MOST_MM = 150.0
"""Room that is longer by more than this is another truck."""


@dataclass(frozen=True)
class Miss:
    """The nearest that a figure comes to its band, of all places tried where `holding` is inside its own: its value
    there, the edge that it misses and by how much. `holding` "": whatever else holds or not."""

    figure: str
    holding: str
    value: float
    edge: float
    by: float


@dataclass(frozen=True)
class Gives:
    """More room for some mounts, so far beyond where they may now stand, mm (+ along the axis, for the first of them),
    brings the figure inside with the other one holding: worked out there."""

    figure: str
    mounts: tuple[str, ...]
    axis: Axis
    by: float


@dataclass(frozen=True)
class Excluded:
    """Why there is nothing: the misses of two figures that exclude each other, or of one that nothing brings inside;
    what room would do; and, of designs whose figures were sound, what spoke against them most often, in words."""

    misses: tuple[Miss, ...]
    gives: tuple[Gives, ...]
    against: tuple[str, ...]
    unbuildable: bool


@dataclass
class Misses:
    """What candidates came short of, kept as they are judged: the least excess of each figure (second index) among
    those that meet another (first index; the last row: among all), and where that was."""

    figures: tuple[str, ...] = ()
    least: Floats = field(default_factory=lambda: np.empty((0, 0)))
    value: Floats = field(default_factory=lambda: np.empty((0, 0)))
    edge: Floats = field(default_factory=lambda: np.empty((0, 0)))
    width: Floats = field(default_factory=lambda: np.empty(0))
    mounts: dict[tuple[int, int], Floats] = field(default_factory=dict)
    against: Counter[str] = field(default_factory=Counter)

    def seen(self, judged: Judged, width: Floats) -> None:
        """Candidates judged; `width` (F, D) is what makes the excess of one figure comparable to that of another."""
        if not self.figures:
            many = len(judged.figures)
            self.figures = judged.figures
            self.least, self.value, self.edge = (np.full((many + 1, many), inf) for _ in range(3))
            self.width = np.ones(many)
        faults = len(judged.ids) - len(judged.figures)
        grave = judged.severity[faults:] >= FIX
        with np.errstate(invalid="ignore"):  # of a figure that does not exist
            beyond = np.maximum(judged.value - judged.high, judged.low - judged.value)
        excess = np.where(grave & np.isfinite(beyond), np.maximum(beyond, 0.0), 0.0)
        held = (judged.severity[:faults] < FIX).all(0)
        edges = np.where(judged.side > 0, judged.high, judged.low)
        self.width = np.maximum(self.width, np.nanmedian(width, axis=1))
        for row in range(len(self.figures) + 1):
            met = np.flatnonzero(held & (~grave[row] if row < len(self.figures) else True))
            if not len(met):
                continue
            best = met[excess[:, met].argmin(1)]
            columns = np.arange(len(self.figures))
            better = np.flatnonzero(excess[columns, best] < self.least[row])
            for k in better.tolist():
                n = int(best[k])
                self.least[row, k], self.value[row, k] = excess[k, n], judged.value[k, n]
                self.edge[row, k] = edges[k, n]
                self.mounts[row, k] = judged.swept.mechanism.mounts[n]

    def full(self, against: Iterable[str]) -> None:
        """What speaks against a design whose figures looked sound, in words."""
        self.against.update(against)

    def excluded(self, space: Space, bounds: Sequence[tuple[Coordinate, float, float]]) -> Excluded:
        """Why nothing was found; `bounds`: how far each coordinate may go, mm."""
        against = tuple(words for words, _ in self.against.most_common(3))
        if not self.figures or not np.isfinite(self.least[-1]).any():
            return Excluded((), (), against, unbuildable=True)
        pairs = list(self._pairs())
        misses = tuple(self._miss(row, k) for row, k in pairs)
        gives = [one for row, k in pairs for one in self._gives(space, bounds, row, k)]
        return Excluded(misses, tuple(sorted(gives, key=lambda one: abs(one.by))[:3]), against, unbuildable=False)

    def _pairs(self) -> list[tuple[int, int]]:
        """The two that exclude each other the most, each while the other holds; or the one that nothing brings in."""
        many = len(self.figures)
        alone = self.least[many] / self.width
        if np.where(np.isfinite(alone), alone, 0.0).max(initial=0.0) > 0.0:
            return [(many, int(np.where(np.isfinite(alone), alone, 0.0).argmax()))]
        apart = self.least[:many] / self.width
        both = np.minimum(apart, apart.T)
        both = np.where(np.isfinite(both), both, 0.0)
        if both.max(initial=0.0) <= 0.0:
            return []
        i, k = (int(n) for n in np.unravel_index(int(both.argmax()), both.shape))
        return [(i, k), (k, i)]

    def _miss(self, row: int, k: int) -> Miss:
        holding = self.figures[row] if row < len(self.figures) else ""
        return Miss(
            self.figures[k], holding, float(self.value[row, k]), float(self.edge[row, k]), float(self.least[row, k])
        )

    def _gives(
        self, space: Space, bounds: Sequence[tuple[Coordinate, float, float]], row: int, k: int
    ) -> list[Gives]:  # fmt: skip
        """Each coordinate that stands at its end there, farther: as far as brings the figure inside, worked out."""
        at, found = self.mounts[row, k], list[Gives]()
        inside = self._inside(space, row, k)
        for one, low, high in bounds:
            names = [spot.name for spot in space.spots]
            n, a = names.index(one.mounts[0]), "xyz".index(one.axis)
            by = float(at[n, a] - space.mechanism.mounts[0, n, a])
            for end, way in ((high, 1.0), (low, -1.0)):
                if abs(by - end) < _AT_END_MM:
                    far = _least_far(lambda mm, one=one, way=way: inside(at + way * mm * one.directions))  # type: ignore[misc]
                    if far:
                        found.append(Gives(self.figures[k], one.mounts, one.axis, way * far))
        return found

    def _inside(self, space: Space, row: int, k: int) -> Callable[[Floats], bool]:
        def inside(mounts: Floats) -> bool:
            judged = judge(sweep_many(space.design, space.mechanism.with_mounts(mounts[None])))
            faults = len(judged.ids) - len(judged.figures)
            wanted = [faults + k, *([faults + row] if row < len(self.figures) else [])]
            held = bool((judged.severity[:faults, 0] < FIX).all())
            return held and bool((judged.severity[wanted, 0] < FIX).all())

        return inside


_AT_END_MM = 2.0
_STEPS_MM = 5.0


def _least_far(inside: Callable[[float], bool]) -> float:
    """The least room, in steps that a shop would speak of, that does it; 0 where none does."""
    return next((n * _STEPS_MM for n in range(1, ceil(_MOST_MM / _STEPS_MM) + 1) if inside(n * _STEPS_MM)), 0.0)
