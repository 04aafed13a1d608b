"""What brings two parts apart that come too near: a mount or pair moved, or a link bent round what is in its way.

Every offer is measured anew through the whole travel and twist, against everything else too.
"""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import partial
from itertools import islice
from math import ceil, isfinite

import numpy as np

from oak_lever.clearance.clearances import GRID, Gap, allowed_poses, gap_in, gaps_of, two_of
from oak_lever.design.faults import Refused
from oak_lever.design.links import WALL_MM, Link
from oak_lever.design.parts import parts_of
from oak_lever.design.reader import design_data, design_from
from oak_lever.design.types import Design
from oak_lever.design.values import Point
from oak_lever.judge.gaps import MET_MM
from oak_lever.judge.verdicts import Verdicts, verdicts_on
from oak_lever.motion.mechanism import Floats
from oak_lever.move.bounds import CURE_WITHIN_MM
from oak_lever.move.buildable import fits
from oak_lever.move.coordinates import Movable, Shift, Space, part_space, spots, twin_of
from oak_lever.move.near import brought_nearer
from oak_lever.move.offers import Cure
from oak_lever.move.price import priced
from oak_lever.move.remedies import Remedy
from oak_lever.move.words import shifts_said
from oak_lever.move.zones import hops
from oak_lever.units import Units, length

_MOST_BEND_MM = 120.0
_ROUND = 8
"""Directions round a link in which a bend is tried."""
_PLACES = (0.0, -0.15, 0.15)
"""Where along a link its bend is tried, from where it comes nearest, in its length."""
_WORST = 2
"""In so many poses where two parts came too near is looked first."""
_ENDS = 0.12
"""A bend stands no nearer to an end than this part of the length: there the joint's end is threaded in."""


@dataclass(frozen=True)
class _Found:
    words: str
    price: str
    design: Design
    shifts: tuple[Shift, ...]
    far: float
    gap: float


class _Pair:
    """Two parts by name, as they are kept apart in designs like one."""

    def __init__(self, design: Design, a: str, b: str) -> None:
        self.design, self.names, self._both = design, frozenset((a, b)), two_of(a, b)
        self._own = allowed_poses(design, GRID)
        found = gaps_of(design, self._both, at=self._own)
        self.now: Gap | None = found[0] if found else None
        self._worst = [(found[0].travel, found[0].articulation)] if found else []

    def gap(self, design: Design, moves_alike: bool = False) -> float:
        """mm; less than nothing where no pose is reached. `moves_alike`: the axle goes through the same poses."""
        found = gaps_of(design, self._both, at=self._own if moves_alike else None)
        return found[0].gap if found else -1.0

    def short(self, design: Design | None, moves_alike: bool = False) -> float:
        """How much they lack, mm, of what is wanted between them, infinite for no design: nothing where they have it,
        through all travel and twist; else by the first pose in which they lack it, looked for where others did."""
        if design is None:
            return np.inf
        here = gap_in(design, self._both, self._worst) if self._worst else None
        if here is not None and here.gap < here.wanted - MET_MM:
            return here.wanted - here.gap
        at = self._own if moves_alike else None
        found = gaps_of(design, self._both, spare_mm=-MET_MM, at=at)  # measured no farther than that
        if not found:
            return 0.0
        self._worst = [(found[0].travel, found[0].articulation), *self._worst][:_WORST]
        return found[0].wanted - found[0].gap

    def clears(self, design: Design) -> bool:
        """Whether they are as far apart as is wanted, through all travel and twist."""
        return self.short(design) <= 0.0


def clearing(design: Design, a: str, b: str, increment_mm: float, units: Units = "mm", most: int = 5) -> list[Cure]:
    """What gives two parts the gap that is wanted between them, what moves least first: mounts of either of them moved
    by as few whole increments as do it, or to another hole of their row, links bent by as little as does it. None makes
    a new stop, or brings others nearer than is wanted that were not. Empty where they are far enough apart, or are not
    held apart at all.
    """
    pair = _Pair(design, a, b)
    if pair.now is None or pair.now.gap >= pair.now.wanted - MET_MM:
        return []
    before, ways = verdicts_on(design), _ways(pair, increment_mm)
    hopped, found, sound = list(_hopped(pair, units)), list[_Found](), _Sound(before, units)
    for within in (_NEAR_MM, CURE_WITHIN_MM):
        found += _moved(pair, ways, within, units)
        reached = [one for one in (*found, *hopped) if one.far <= within or within == CURE_WITHIN_MM]
        moved = sound.first(reached, most)
        if len(moved) == most:  # a bend is dearer than any move
            return moved
    return sound.first([*found, *hopped, *_bent(pair, increment_mm, units)], most)


class _Sound:
    """What of a design's offers makes no new stop and brings nothing else too near; each is looked at once."""

    def __init__(self, before: Verdicts, units: Units) -> None:
        self._before, self._units = before, units
        self._known: dict[str, list[Cure]] = {}

    def first(self, found: list[_Found], most: int) -> list[Cure]:
        """The first of them, by how far they move anything."""
        cures = (cure for one in sorted(found, key=lambda one: one.far) for cure in self._cures(one))
        return list(islice(cures, most))

    def _cures(self, one: _Found) -> list[Cure]:
        if one.words not in self._known:
            self._known[one.words] = list(_sound(self._before, one, self._units))
        return self._known[one.words]


def _sound(before: Verdicts, one: _Found, units: Units) -> Iterator[Cure]:
    """The cure, where it makes no new stop and brings nothing else too near."""
    if not brought_nearer(before.design, one.design):
        price = f"{one.price} That leaves {length(one.gap, units)} between them.".strip()
        yield from priced(before, Remedy(one.words, price, one.design, one.shifts))


def _least(short: Callable[[int], float], now: float, most: int) -> int:
    """The fewest steps after which nothing is `short`, of which it is `now` with none; 0 where not even `most` do, of
    those tried."""
    steps, _ = _least_after(short, 0, now, most)
    return steps if steps <= most else 0


def _least_after(short: Callable[[int], float], low: int, lacks: float, most: int) -> tuple[int, float]:
    """The fewest steps after which nothing is `short`, where so much is after `low`: by the secant, every third time by
    halving, or by doubling where neither tells anything. Where not even `most` do, of those tried: one more than that,
    and what was short after the last that was tried."""
    high, slope = most + 1, 0.0
    tried = 0
    while high - low > 1:
        guess = low + ceil(lacks / slope) if slope > 0.0 and isfinite(lacks / slope) else 2 * low
        if high <= most and (slope <= 0.0 or tried % 3 == 2):
            guess = (low + high) // 2
        steps = min(max(guess, low + 1), high - 1)
        here = short(steps)
        if here <= 0.0:
            high = steps
        else:
            slope = (lacks - here) / (steps - low)
            low, lacks = steps, here
        tried += 1
    return high, lacks


@dataclass
class _Way:
    """A mount of either part, or an eye of a shock, with its mirror image, one way: what still is short, mm, after so
    many increments."""

    space: Movable
    move: Floats
    increment_mm: float
    steps: int
    lacks: float


def _ways(pair: _Pair, increment_mm: float) -> list[_Way]:
    """The ways that lead the two apart."""
    design, now = pair.design, pair.short(pair.design)
    owners = {spot.name: {spot.part, spot.name.partition(".")[0]} for spot in parts_of(design).spots}
    shocks = {one.id for one in design.corners.shocks} if design.corners else set()
    spaces: list[Movable] = [Space(design), *(part_space(design, name) for name in sorted(pair.names & shocks))]
    found = []
    for space in spaces:
        for c, coordinate in enumerate(space.free):
            if any(owners[name] & pair.names for name in coordinate.mounts):
                moves = [way * np.eye(len(space.free))[c] for way in (increment_mm, -increment_mm)]
                found += [_Way(space, move, increment_mm, 0, now) for move in moves if _helps(pair, space, move)]
    return found


def _moved(pair: _Pair, ways: list[_Way], within_mm: float, units: Units) -> Iterator[_Found]:
    """The ways that part the two within so far and had not before, each by the fewest increments."""
    for one in ways:
        most, space = int(within_mm / one.increment_mm), one.space
        if one.lacks <= 0.0 or one.steps >= most:
            continue
        short = partial(_short_after, pair, one)
        steps, one.lacks = _least_after(short, one.steps, one.lacks, most)
        one.steps = min(steps, most)
        if steps > most:
            continue
        one.lacks = 0.0
        there = space.moved(steps * one.move)
        if there is not None and fits(space, steps * one.move[None])[0]:
            shifts, far = space.shifts(steps * one.move), steps * one.increment_mm
            yield _Found(shifts_said(pair.design, shifts, units), "", there, shifts, far, pair.gap(there))


def _short_after(pair: _Pair, way: _Way, steps: int) -> float:
    return pair.short(way.space.moved(steps * way.move))


def _hopped(pair: _Pair, units: Units) -> Iterator[_Found]:
    """Mounts of either that stand in a row of holes, in another hole."""
    for other in hops(pair.design, units):
        mounts = {name for shift in other.shifts for name in shift.mounts}
        theirs = any(name.partition(".")[0] in pair.names for name in mounts)
        if theirs and pair.clears(other.design):
            far = max(abs(shift.by) for shift in other.shifts)
            yield _Found(other.words, "", other.design, other.shifts, far, pair.gap(other.design))


_PROBE_MM = 12.0
_NEAR_MM = 30.0
"""Moves within this are looked for first: where there are enough, no farther one is needed."""


def _helps(pair: _Pair, space: Movable, move: Floats) -> bool:
    """Whether that way leads the two apart; from inside each other nobody can tell, so every way is tried."""
    assert pair.now is not None
    if pair.now.gap <= 0.0:
        return True
    probe = space.moved(move * max(1.0, round(_PROBE_MM / float(np.abs(move).max()))))
    return probe is not None and pair.gap(probe) > pair.now.gap + MET_MM


# a link bent


def _bent(pair: _Pair, increment_mm: float, units: Units) -> Iterator[_Found]:
    for n, link in enumerate(pair.design.links):
        straight = not getattr(link.tube, "bends", ())
        if link.kind != "radius_arm" and link.id in pair.names and straight:
            yield from _least_bend(pair, n, increment_mm, units)


def _least_bend(pair: _Pair, n: int, increment_mm: float, units: Units) -> Iterator[_Found]:
    """The least offset that clears, of the likeliest directions and some places along the link."""
    link = pair.design.links[n]
    head, tail = np.array(link.axle.at), np.array(link.frame.at)
    along = (tail - head) / np.linalg.norm(tail - head)
    across = np.cross(along, [0.0, 0.0, 1.0] if abs(along[2]) < 0.9 else [0.0, 1.0, 0.0])
    across /= np.linalg.norm(across)
    up = np.cross(across, along)
    readable = _with_bend(pair.design, n, head + 0.5 * (tail - head) + increment_mm * up)
    if readable is None:
        return
    turns = 2.0 * np.pi * np.arange(_ROUND) / _ROUND
    ways = [np.cos(t) * across + np.sin(t) * up for t in turns]
    middle = _nearest_part(pair, link.id)

    def corner(way: Floats, part: float, steps: int) -> Floats:
        at: Floats = head + np.clip(part, _ENDS, 1.0 - _ENDS) * (tail - head) + steps * increment_mm * way
        return at

    def bent(way: Floats, part: float, steps: int) -> Design:
        return _bent_elsewhere(pair.design, readable, n, corner(way, part, steps))

    most, now = int(_MOST_BEND_MM / increment_mm), pair.short(pair.design)
    likely = sorted(ways, key=lambda way: -pair.gap(bent(way, middle, most // 3), moves_alike=True))[:3]
    best: tuple[Floats, float, int] | None = None
    for way in likely:
        for part in (middle + by for by in _PLACES):
            steps = _least(lambda s, way=way, part=part: pair.short(bent(way, part, s), True), now, most)  # type: ignore[misc]
            if steps:
                best, most = (way, part, steps), steps - 1
    there = best and _with_bend(pair.design, n, corner(*best))
    if best and there:
        yield _bend_found(pair, n, there, best[2] * increment_mm, units)


def _nearest_part(pair: _Pair, name: str) -> float:
    """Where along the link, from its axle joint, it comes nearest: at the pose of the least gap; its middle where the
    two meet and no point is said."""
    gap = pair.now
    assert gap is not None
    at = gap.at_a if gap.a == name else gap.at_b
    if at is None:
        return 0.5
    link = next(one for one in pair.design.links if one.id == name)
    long = float(np.linalg.norm(np.array(link.frame.at) - np.array(link.axle.at)))
    from_frame = float(np.linalg.norm(np.array(at) - np.array(link.frame.at)))
    return float(np.clip(1.0 - from_frame / long, _ENDS, 1.0 - _ENDS))


def _with_bend(design: Design, n: int, at: Floats) -> Design | None:
    """With one corner in the link's tube, and its mirror image in the link that is its twin."""
    data = design_data(design)
    own = next(spot for spot in spots(design) if spot.name == f"{design.links[n].id}.frame")
    twin = twin_of(own, spots(design))
    alone = set(design.unpaired or ())
    sizes = {body.id: body.diameter for body in parts_of(design).bodies}
    for link in data["links"]:
        mine = link["id"] == design.links[n].id
        if mine or (twin is not None and link["id"] == twin.part and not {own.name, twin.name} & alone):
            x, y, z = (float(v) for v in at)
            tube = link.get("tube") or {"diameter": sizes[link["id"]], "wall": WALL_MM}
            link["tube"] = {**tube, "bends": [[x, y if mine else -y, z]]}
    try:
        return design_from(data)
    except Refused:
        return None


def _bent_elsewhere(straight: Design, bent: Design, n: int, at: Floats) -> Design:
    """A design that was read with a bend in a link, and in its mirror image, with that corner elsewhere: nothing else
    that a reader looks at changes."""
    links, (x, y, z) = list(bent.links), (float(v) for v in at)
    for k, link in enumerate(bent.links):
        if isinstance(link, Link) and link.tube is not None and link != straight.links[k]:
            corner = (x, y if k == n else -y, z)
            links[k] = link.model_copy(update={"tube": link.tube.model_copy(update={"bends": (corner,)})})
    return bent.model_copy(update={"links": tuple(links)})


def _bend_found(pair: _Pair, n: int, there: Design, offset: float, units: Units) -> _Found:
    link = pair.design.links[n]
    words = next(body.words for body in parts_of(pair.design).bodies if body.id == link.id)
    bent = [one.id for one, old in zip(there.links, pair.design.links, strict=True) if one != old]
    bends: tuple[Point, ...] = getattr(there.links[n].tube, "bends", ())
    corner = np.array(bends[0])
    head, tail = np.array(link.axle.at), np.array(link.frame.at)
    along = (tail - head) / np.linalg.norm(tail - head)
    from_axle = float((corner - head) @ along)
    off = corner - head - from_axle * along
    ways = _ways_said(off, float(corner[1]))
    return _Found(
        f"bend the {words}{' and its mirror image' if len(bent) > 1 else ''} by {length(offset, units)} {ways}, "
        f"{length(from_axle, units)} from its axle joint",
        "A bent link bends under load where a straight one does not: its strength must be reckoned anew, and its ends "
        "must keep it from rolling over.",
        there, (), 2.0 * offset, pair.gap(there),
    )  # fmt: skip


def _ways_said(off: Floats, y: float) -> str:
    """Which way an offset leads: the parts of it that matter, the largest first."""
    named = (
        (off[2], "up", "down"),
        (off[1] if y >= 0.0 else -off[1], "outward", "inward"),
        (off[0], "forward", "back"),
    )  # fmt: skip
    size = float(np.linalg.norm(off))
    told = sorted((one for one in named if abs(one[0]) > 0.3 * size), key=lambda one: -abs(one[0]))
    return " and ".join(more if by > 0.0 else less for by, more, less in told)
