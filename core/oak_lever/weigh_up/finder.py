"""Find places for all mounts at once: no stop, no fix, and then the most left over on every band.

Differential evolution (Storn and Price, 1997) over whole increments of what may be moved and over the holes of racks.
Cheap demands come first: whole batches are held against what can be built, then judged on few rows of the cycle; what
comes out sound is judged in full, what runs with the axle and every gap with it. Only what stood that is shown.
"""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, replace
from math import inf, isfinite
from time import monotonic
from typing import Any, Protocol

import numpy as np

from oak_lever.clearance.within import bounds_of_solid
from oak_lever.clearance.zones import IN_MM, zones_of
from oak_lever.cycle import sweep_many
from oak_lever.design.faults import Fault, Refused
from oak_lever.design.parts import part_said
from oak_lever.design.reader import design_data
from oak_lever.design.room import Holes
from oak_lever.design.types import Design
from oak_lever.design.values import Point
from oak_lever.figures.register import BY_ID
from oak_lever.judge.check import CONSIDER, GOOD
from oak_lever.judge.findings import title_of
from oak_lever.judge.gaps import near_pairs, too_near
from oak_lever.judge.judged import Judged, judge
from oak_lever.judge.verdicts import Verdicts, verdicts_on
from oak_lever.motion.mechanism import Floats, mechanism_of
from oak_lever.move.bounds import PULL_WITHIN_MM
from oak_lever.move.buildable import excess
from oak_lever.move.coordinates import AXES, Coordinate, Space, coordinates, placed, spots
from oak_lever.move.effects import figure_slopes
from oak_lever.move.near import loaded_more
from oak_lever.move.price import SEEN
from oak_lever.move.zones import moves_with
from oak_lever.weigh_up.excluded import Excluded, Misses
from oak_lever.weigh_up.racks import sites_of
from oak_lever.weigh_up.tolerance import ERROR_MM

INCREMENT_MM = 25.4 / 16.0
"""A sixteenth of an inch."""
MOST_FOUND = 6
APART_MM = 25.0
"""Two finds differ when some mount of theirs stands at least this far apart."""
_ROWS = 3
"""Rows of each sweep for a first judgment: both ends and the middle, the corners of the map among them."""
_MANY = 96
"""Candidates that evolve together."""
_SCALE, _CROSSED = 0.7, 0.6
"""Differential weight and crossover rate, in the middle of what their authors use."""
_FULLY = 2
"""So many sound ones of a generation are judged in full; of the others those before them stay."""
_SAME_MM = 0.5
"""A pair that comes this much nearer than it did comes nearer."""
_RESTART = 25
"""Generations without anything better, before all begin anew somewhere else; what was found is kept."""
_KEPT = 200
"""So many sound designs are kept, the best."""
_FULL_RESERVE = 1.0
_SMALL = 1e-9
_NOT_BUILT, _STOP_COSTS, _FIX_COSTS, _OUT_COSTS = 1e7, 1e4, 1e2, 10.0


class AtHand(Protocol):
    """What the shop has to make bars of."""

    def short(self, design: Design, names: Sequence[str]) -> Callable[[Floats], Floats]:
        """Of designs with other lengths of these bars, (N, B) mm: (N,) what they lack, mm.

        Raises:
            Refused: where no such design can be made of it.
        """

    def lacks(self, design: Design) -> Sequence[str]:
        """What of a design can't be made of it, in words."""


@dataclass(frozen=True)
class Demands:
    """What is asked beside the bands, mm: the longest and the shortest link that is wanted; the tape's error; the
    increment in which mounts go from where they stand; and what bars are to be made of."""

    longest: float = inf
    shortest: float = 0.0
    error: float = ERROR_MM
    increment: float = INCREMENT_MM
    at_hand: AtHand | None = None

    def __post_init__(self) -> None:
        faults = []
        if not self.shortest >= 0.0:
            faults.append(Fault("shortest", "must be 0 or more, mm"))
        if not self.longest > self.shortest:
            faults.append(Fault("longest", "must be more than the shortest"))
        if not (self.error >= 0.0 and isfinite(self.error)):
            faults.append(Fault("error", "must be 0 or more, mm"))
        if not (self.increment > 0.0 and isfinite(self.increment)):
            faults.append(Fault("increment", "must be above 0, mm"))
        if faults:
            raise Refused(faults)


@dataclass(frozen=True)
class GivesUp:
    """A figure of which another find has more left on its band: this one's value, the other's, and which of the finds
    that is."""

    figure: str
    value: float
    other: float
    of: int


@dataclass(frozen=True)
class Found:
    """A design that stood all demands: where its moved mounts are; its judged figures; the least that is left on any
    band after the tape's error (0: at its edge, 1: in its middle, or as far in as the edge is from nothing; below 0: an
    error may bring it out), and on which; how much is `left` on each; what it gives up against the others; findings to
    consider, in words; and parts that carry more there than is wanted of them, and did not, or were not as near their
    end: other steel mends those, no place does."""

    at: dict[str, Point]
    figures: dict[str, float | None]
    reserve: float
    tightest: str
    left: dict[str, float]
    gives_up: tuple[GivesUp, ...]
    considers: tuple[str, ...]
    weak: tuple[str, ...]
    document: dict[str, Any]


@dataclass(frozen=True)
class Search:
    """How far the finder is: candidates tried, designs judged in full, seconds gone; what it has found, the most
    reserve first; where it found nothing, what excludes what."""

    tried: int
    judged: int
    seconds: float
    found: tuple[Found, ...]
    excluded: Excluded | None


def find(
    design: Design, seconds: float = 20.0, seed: int = 1, demands: Demands | None = None, most: int | None = None
) -> Iterator[Search]:  # fmt: skip
    """Look for places, saying each second how far it is; the last is what it came to. It ends after so many `seconds`,
    or after `most` candidates: with the same seed and the same count it finds the same.

    Raises:
        Refused: for a design that nothing holds, one with nothing free to move, or demands that exclude each other.
    """
    search = _Finder(design, seed, demands or Demands())
    begun = said = monotonic()
    yield search.so_far(0.0)
    while True:
        now = monotonic()
        if now - begun >= seconds or (most is not None and search.tried >= most):
            break
        search.generation()
        if monotonic() - said > 1.0:
            said = monotonic()
            yield search.so_far(said - begun)
    search.finish()
    yield search.so_far(monotonic() - begun, last=True)


class _Genes:
    """What is sought over: holes of racks, and whole increments along free coordinates, each within its zone or within
    `PULL_WITHIN_MM`. Genes are (N, G) floats; `mounts` rounds them."""

    def __init__(self, design: Design, increment_mm: float) -> None:
        self.space = Space(design)
        self.increment_mm = increment_mm
        names = [spot.name for spot in spots(design)]
        index = {name: n for n, name in enumerate(names)}
        by_name = {spot.name: spot for spot in spots(design)}
        self.racks: list[tuple[Floats, Floats]] = []  # by hole: how far it is from here; by mount: which way it goes
        racked: set[str] = set()
        locks = design.locks or {}
        for site in sites_of(design):
            left = by_name[site.left]
            ways = moves_with(design, left)
            held = {axis for name in ways for axis in locks.get(name, "")}
            by = np.array(site.holes) - np.array(left.at)
            free = [row for row in by if all(abs(row[a]) <= IN_MM or axis not in held for a, axis in enumerate(AXES))]
            racked |= set(ways)
            if len(free) > 1:
                direction = np.zeros((len(names), 3))
                for name, way in ways.items():
                    direction[index[name]] = [1.0, way, 1.0]
                self.racks.append((np.array(free), direction))
        self.free = [c for c in coordinates(design) if not set(c.mounts) & racked]
        self.low, self.high = np.array([self._reach(design, c) for c in self.free]).reshape(-1, 2).T
        self.count = len(self.racks) + len(self.free)
        nearest = [float(np.linalg.norm(by, axis=1).argmin()) for by, _ in self.racks]
        self._now = np.array([*nearest, *[0.0] * len(self.free)])
        self._directions = np.array([c.directions for c in self.free]).reshape(len(self.free), 3 * len(names))

    def _reach(self, design: Design, one: Coordinate) -> tuple[float, float]:
        """How far along it goes, mm."""
        spot = next(spot for spot in spots(design) if spot.name == one.mounts[0])
        a, low, high = AXES.index(one.axis), -PULL_WITHIN_MM, PULL_WITHIN_MM
        bounded = [zone.region for zone in zones_of(design, spot) if not isinstance(zone.region, Holes)]
        for n, region in enumerate(bounded):
            least, greatest = (float(end[a]) - spot.at[a] for end in bounds_of_solid(region))
            low, high = (least, greatest) if n == 0 else (max(low, least), min(high, greatest))
        return low, max(low, high)

    def bounds(self) -> list[tuple[Coordinate, float, float]]:
        """How far each free coordinate may go, mm."""
        return list(zip(self.free, self.low.tolist(), self.high.tolist(), strict=True))

    def first(self, rng: np.random.Generator, many: int) -> Floats:
        """(N, G) as it is, and others anywhere: half of them near."""
        low, high = self.ends()
        genes = rng.uniform(low, high, (many, self.count))
        near = np.clip(self._now + rng.normal(0.0, 0.15, (many, self.count)) * (high - low), low, high)
        genes[: many // 2] = near[: many // 2]
        genes[0] = self._now
        return genes

    def ends(self) -> tuple[Floats, Floats]:
        """(G,) the least and the greatest of each gene."""
        holes = [len(by) - 1.0 for by, _ in self.racks]
        return np.array([*[0.0] * len(holes), *self.low]), np.array([*holes, *self.high])

    def mounts(self, genes: Floats) -> Floats:
        """(N, K, 3) where every mount then is."""
        split = len(self.racks)
        moves = np.round(genes[:, split:] / self.increment_mm) * self.increment_mm
        at: Floats = self.space.mechanism.mounts + (moves @ self._directions).reshape(len(genes), -1, 3)
        for n, (by, direction) in enumerate(self.racks):
            at = at + by[np.rint(genes[:, n]).astype(np.int64)][:, None] * direction
        return at


class _Finder:
    def __init__(self, design: Design, seed: int, demands: Demands) -> None:
        self.design, self.demands = design, demands
        self.genes = _Genes(design, self.demands.increment)
        if not self.genes.count:
            raise Refused([Fault("locks", "every mount is locked, or stands in the one hole that there is")])
        if not verdicts_on(design).cycled.located:
            raise Refused([Fault("links", "nothing holds this axle: complete its layout before places are sought")])
        self.stays = _stays(design)
        names = [bar.name for bar in mechanism_of(design).layout.bars]
        self.short = demands.at_hand.short(design, names) if demands.at_hand else None
        self.rng = np.random.default_rng(seed)
        self.misses = Misses()
        self.tried = self.judged = self._stale = 0
        self.best = inf
        self.sound: list[Found] = []
        self._done: dict[bytes, float] = {}
        self.people, self.costs = np.empty((0, self.genes.count)), np.empty(0)
        self._born(self.genes.first(self.rng, _MANY))

    # a generation

    def generation(self) -> None:
        """Each is crossed with what three others are apart, and gives way where that is better."""
        if self._stale > _RESTART:
            self._begin_anew()
        many, (low, high) = len(self.people), self.genes.ends()
        others = np.argsort(self.rng.random((many, many)), axis=1)[:, :3]
        a, b, c = (self.people[others[:, n]] for n in range(3))
        best = self.people[int(self.costs.argmin())]
        lead = np.where(self.rng.random((many, 1)) < 0.5, a, best)
        mutant = lead + self.rng.uniform(0.3, _SCALE, (many, 1)) * (b - c)
        mutant = np.where((mutant < low) | (mutant > high), self.rng.uniform(low, high, mutant.shape), mutant)
        cross = self.rng.random(mutant.shape) < _CROSSED
        cross[np.arange(many), self.rng.integers(0, self.genes.count, many)] = True
        self._born(np.where(cross, mutant, self.people))

    def _begin_anew(self) -> None:
        self._stale = 0
        self.people, self.costs = np.empty((0, self.genes.count)), np.empty(0)
        self._born(self.genes.first(self.rng, _MANY))

    def _born(self, genes: Floats) -> None:
        mounts = self.genes.mounts(genes)
        costs = self._cost(mounts)
        self.tried += len(genes)
        looked = 0
        for n in np.argsort(costs).tolist():
            if costs[n] >= _FIX_COSTS or (len(self.people) and costs[n] > self.costs[n]):
                continue
            looked += 1
            costs[n] += self._full(mounts[n]) if looked <= _FULLY else _FIX_COSTS
        if len(self.people):
            better = costs <= self.costs
            self.people = np.where(better[:, None], genes, self.people)
            self.costs = np.where(better, costs, self.costs)
        else:
            self.people, self.costs = genes, costs
        least = float(self.costs.min())
        self._stale = 0 if least < self.best - _SMALL else self._stale + 1
        self.best = min(self.best, least)

    def _cost(self, mounts: Floats) -> Floats:
        """(N,) what can't be built costs most, by how much; then stops, fixes, how far outside; then what is left."""
        moved = self.genes.space.mechanism.with_mounts(mounts)
        long = np.linalg.norm(moved.ends[1] - moved.ends[0], axis=-1)
        links = [n for n, bar in enumerate(moved.layout.bars) if bar.kind in ("lower", "upper")]
        apart = np.maximum(long - self.demands.longest, self.demands.shortest - long)[:, links]
        wrong = apart.max(1, initial=0.0)
        if self.short is not None:
            wrong += self.short(long)
        wrong += excess(self.design, moved)
        costs: Floats = _NOT_BUILT + wrong
        can = np.flatnonzero(wrong <= _SMALL)
        if len(can):
            judged = judge(sweep_many(self.design, moved.with_mounts(mounts[can]), _ROWS))
            width = _widths(judged)
            self.misses.seen(judged, width)
            costs[can] = _costs(judged, width)
        return costs

    # in full

    def _full(self, mounts: Floats) -> float:
        """What a design that looks sound costs more when all of it is judged; less than nothing where it stands."""
        key = np.round(mounts, 3).tobytes()
        if key not in self._done:
            self.judged += 1
            self._done[key] = self._judged(mounts)
        return self._done[key]

    def _judged(self, mounts: Floats) -> float:
        names = [spot.name for spot in spots(self.design)]
        now = self.genes.space.mechanism.mounts[0]
        at = {
            name: (round(float(x), 4), round(float(y), 4), round(float(z), 4))
            for name, (x, y, z), was in zip(names, mounts, now, strict=True) if np.abs(was - (x, y, z)).max() > _SMALL
        }  # fmt: skip
        try:
            moved = placed(self.design, at)
        except Refused:
            return _NOT_BUILT
        verdicts = verdicts_on(moved)
        against = self._against(moved, verdicts)
        if against:
            self.misses.full(against)
            return sum(_FIX_COSTS + by for by in against.values())
        left = _left(moved, verdicts, self.demands.error)
        tightest = min(left, key=lambda name: left[name], default="")
        reserve = left.get(tightest, _FULL_RESERVE)
        listed = verdicts.listed
        considers = tuple(title_of(moved, one, other is not None) for one, other in listed if one.grave == CONSIDER)
        weak = tuple(one.title for one in loaded_more(self.design, moved))
        self.sound.append(Found(at, verdicts.values, reserve, tightest, left, (), considers, weak, design_data(moved)))
        if len(self.sound) > 2 * _KEPT:
            self.sound = sorted(self.sound, key=_rank)[:_KEPT]
        return -reserve

    def _against(self, design: Design, verdicts: Verdicts) -> dict[str, float]:
        """What speaks against a design, in words, and how far each is out; what no mount of the links can help, and is
        no worse than it was, does not."""
        found = dict.fromkeys(self.demands.at_hand.lacks(design), _OUT_COSTS) if self.demands.at_hand else {}
        for one, other in verdicts.listed:
            if one.grave > max(CONSIDER, self.stays.get(one.id, GOOD)):
                found[title_of(design, one, other is not None)] = min(one.short, _FIX_COSTS)
        for gap, twin in near_pairs(design):
            if gap.gap < self.stays.get(f"{gap.a} {gap.b}", inf) - _SAME_MM:
                both = f"{part_said(design, gap.a)} and {part_said(design, gap.b)}"
                twins = ", and their mirror images" if twin else ""
                found[f"{both}{twins}: {'they meet' if gap.gap <= 0.0 else 'too near'}"] = gap.wanted - gap.gap
        return found

    # what it comes to

    def finish(self) -> None:
        """The best that have not been judged in full are."""
        mounts = self.genes.mounts(self.people)
        for n in np.argsort(self.costs)[: 2 * MOST_FOUND].tolist():
            if self.costs[n] < _FIX_COSTS:
                self._full(mounts[n])

    def so_far(self, seconds: float, last: bool = False) -> Search:
        found = _told_apart(_differing(self.design, self.sound))
        nothing = self.misses.excluded(self.genes.space, self.genes.bounds()) if last and not found else None
        return Search(self.tried, self.judged, seconds, found, nothing)


def _stays(design: Design) -> dict[str, float]:
    """What the design has already that no mount of the links moves: how grave findings on what runs with the axle are,
    by id; how near pairs come of which neither is held by the links, by their names."""
    held = {bar.name for bar in mechanism_of(design).layout.bars}
    grave = {
        one.id: float(one.grave) for one, _ in verdicts_on(design).listed if one.figure.of not in ("design", "mount")
    }
    return grave | {f"{g.a} {g.b}": g.gap for g in too_near(design).values() if not held & {g.a, g.b}}


def _costs(judged: Judged, width: Floats) -> Floats:
    """(N,) of candidates judged on few rows."""
    counts = judged.counts()
    with np.errstate(invalid="ignore"):  # of a figure that does not exist
        beyond = np.maximum(judged.value - judged.high, judged.low - judged.value) / width
    beyond = np.where(np.isfinite(beyond), beyond, 0.0)
    out = np.maximum(beyond, 0.0).sum(0)
    inside = np.minimum(-beyond, _FULL_RESERVE)
    some = np.isfinite(judged.value) & (np.isfinite(judged.low) | np.isfinite(judged.high))
    least = np.where(some, inside, _FULL_RESERVE).min(0, initial=_FULL_RESERVE)
    grave: Floats = counts @ np.array([_STOP_COSTS, _FIX_COSTS, 1.0])
    costs: Floats = grave + _OUT_COSTS * out - np.maximum(least, 0.0)
    return costs


def _widths(judged: Judged) -> Floats:
    """(F, N) half of a band's width, or how far its one edge is from nothing; no less than what a shop can see."""
    width = judged.high - judged.low
    edge = np.where(np.isfinite(judged.high), judged.high, judged.low)
    half = np.where(np.isfinite(width), width / 2.0, np.abs(edge))
    least = np.array([SEEN[BY_ID[name].unit] for name in judged.figures])[:, None]
    widths: Floats = np.where(np.isfinite(half) & (half > 0.0), half, least)
    return widths


def _left(design: Design, verdicts: Verdicts, error_mm: float) -> dict[str, float]:
    """What is left on the band of each of the axle's figures after the tape's error, in half widths of the band: all
    mounts off as chance has it (the root of the sum of squares). Nothing of a figure that is to be considered."""
    judged, space = verdicts.judged, Space(design, coordinates(design.model_copy(update={"locks": None})))
    names, _, slope = figure_slopes(space, error_mm or ERROR_MM)
    off = dict(zip(names, np.sqrt(np.nansum(slope**2, axis=1)) * error_mm, strict=True))
    width, found = _widths(judged), dict[str, float]()
    for row, name in enumerate(judged.figures):
        value, low, high = (float(one[row, 0]) for one in (judged.value, judged.low, judged.high))
        if isfinite(value) and judged.side[row, 0] == 0 and (isfinite(low) or isfinite(high)):
            inside = min(high - value, value - low) - float(off.get(name, 0.0))
            found[name] = float(np.clip(inside / float(width[row, 0]), -_FULL_RESERVE, _FULL_RESERVE))
    return found


def _differing(design: Design, sound: Sequence[Found]) -> list[Found]:
    """The soundest, each at least `APART_MM` from those before it in some mount."""
    here = {spot.name: spot.at for spot in spots(design)}
    kept: list[Found] = []
    for one in sorted(sound, key=_rank):
        if all(_apart(here, one, other) >= APART_MM for other in kept):
            kept.append(one)
        if len(kept) == MOST_FOUND:
            break
    return kept


def _rank(found: Found) -> tuple[int, int, float]:
    return len(found.weak), len(found.considers), -found.reserve


def _apart(here: dict[str, Point], one: Found, other: Found) -> float:
    ends = ((one.at.get(name, at), other.at.get(name, at)) for name, at in here.items())
    return max(float(np.linalg.norm(np.subtract(a, b))) for a, b in ends)


_MORE = 0.1
"""Less left than another by this part of a half width is given up."""


def _told_apart(found: Sequence[Found]) -> tuple[Found, ...]:
    """Each with what it gives up against the others."""
    told = []
    for one in found:
        given: list[GivesUp] = []
        for name, left in one.left.items():
            k = max(range(len(found)), key=lambda k, name=name: found[k].left.get(name, -inf))  # type: ignore[misc]
            value, other = one.figures.get(name), found[k].figures.get(name)
            if found[k].left.get(name, -inf) - left > _MORE and value is not None and other is not None:
                given.append(GivesUp(name, value, other, k))
        told.append(replace(one, gives_up=tuple(given)))
    return tuple(told)
