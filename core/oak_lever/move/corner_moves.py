"""What cures a finding on the parts that run with the axle, and how such a figure is pulled: eyes and joints moved in
shop increments. The axle's own motion stays as it is, so each try costs no more than the part's own sums."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from math import isfinite, nan
from typing import Any

import numpy as np

from oak_lever.cycle import Cycle
from oak_lever.design.reader import design_data
from oak_lever.design.types import Design
from oak_lever.design.values import Point
from oak_lever.judge.check import GOOD, Check
from oak_lever.judge.parts import check_of
from oak_lever.judge.verdicts import Verdicts, verdicts_on
from oak_lever.motion.mechanism import Floats
from oak_lever.move.bounds import PULL_WITHIN_MM
from oak_lever.move.coordinates import Movable, Shift, part_space
from oak_lever.move.corner_remedies import corner_remedies
from oak_lever.move.near import graver
from oak_lever.move.offers import Cure
from oak_lever.move.price import SEEN, move_priced, priced
from oak_lever.move.remedies import Remedy
from oak_lever.move.search import MET, LeastMove, Seen, Toward
from oak_lever.move.slopes import slopes
from oak_lever.units import Units

_NOTHING_MOVED_MM = 30.0


class _Tried:
    """A design whose part is tried elsewhere: the motion solved once."""

    def __init__(self, space: Movable, check: Check, cycled: Cycle) -> None:
        self.space, self.check, self.cycled = space, check, cycled
        self.fresh = check.figure.of in ("stop", "strap")

    def checks(self, moves: Floats) -> list[Check | None]:
        """The check after each of moves (N, F); None where that makes no design."""
        designs = (self.space.moved(move) for move in moves)
        return [None if one is None else check_of(self.cycled, one, self.check, self.fresh) for one in designs]

    def values(self, moves: Floats) -> Floats:
        """(N,) its value after each of moves (N, F); NaN where there is none."""
        return np.array([nan if one is None or one.value is None else one.value for one in self.checks(moves)])

    def seen(self, moves: Floats) -> list[Seen]:
        """The same as a search looks at it."""
        return [_seen(one, self.check) for one in self.checks(moves)]


def _seen(check: Check | None, was: Check) -> Seen:
    if check is None or check.value is None:
        return Seen(nan, nan, good=False)
    edge = check.low if was.side < 0 else check.high
    return Seen(check.value, nan if edge is None else edge, check.grave == GOOD)


def corner_cures(before: Verdicts, check: Check, increment_mm: float, units: Units) -> list[Cure]:
    """What cures a finding on such a part, what costs least first: an eye or a joint moved by the fewest increments,
    alone or with its mirror image, or two together; another size, spring, strap or stop; where nothing does, what helps
    most."""
    found = _by_moving(before, check, increment_mm, units)
    for kind in corner_remedies(before.cycled, check, increment_mm, units):
        found += _mildest(check, kind, before)
    if any(cure.meets for cure in found):
        found = [cure for cure in found if cure.meets or not cure.shifts]
    found.sort(key=lambda cure: (not cure.meets, len(cure.worse), len(cure.shifts) > 1, _far(cure)))
    return found


def _by_moving(before: Verdicts, check: Check, increment_mm: float, units: Units) -> list[Cure]:
    space = part_space(before.design, check.part)
    tried = _Tried(space, check, before.cycled)
    if not space.free:
        return []
    _, slope = slopes(lambda moves: tried.values(moves)[:, None], np.zeros(len(space.free)), increment_mm)
    now, least = _seen(check, check), SEEN[check.figure.unit]
    search = Toward(space, tried.seen, now, check.side < 0, slope[0] * increment_mm, increment_mm, least)
    for moves in search.stages():
        found = [cure for move in moves for cure in move_priced(before, space, move, check, units)]
        if found:
            return found
    return []


def _far(cure: Cure) -> float:
    """How far anything moves; what moves nothing comes after a small move and before a large one."""
    return sum(abs(shift.by) for shift in cure.shifts) if cure.shifts else _NOTHING_MOVED_MM


def _mildest(check: Check, kind: Iterator[Remedy], before: Verdicts) -> list[Cure]:
    """Of one kind the first that cures, or else the last that helps."""
    helps: list[Cure] = []
    for other in kind:
        for cure in priced(before, other, check.id):
            helps = [cure]
        if helps and helps[0].meets:
            break
    return helps


@dataclass(frozen=True)
class Want:
    """A figure of what runs with the axle, by its check's id, and the value that is wanted of it, mm or degrees."""

    check: str
    value: float


@dataclass(frozen=True)
class CornerPulled:
    """What a pull came to: where the points then are, by name; the values that it got; whether those are what was
    wanted; the farthest that any point moved, mm; the design; and which findings are then graver, in words."""

    at: dict[str, Point]
    got: tuple[float, ...]
    met: bool
    farthest: float
    document: dict[str, Any]
    worse: tuple[str, ...]


def pull_corner(design: Design, wanted: Sequence[Want], increment_mm: float | None = None) -> CornerPulled:
    """Pull figures of one part to what is wanted of them, by the least movement of its free points, within
    `PULL_WITHIN_MM`; `increment_mm`: then on whole increments, those that come nearest.

    Raises:
        ValueError: for a figure that the design has not, for two parts at once, or where nothing of it may be moved.
    """
    before = verdicts_on(design)
    for want in wanted:
        if want.check not in before.by_id:
            raise ValueError(f"{want.check} is no figure of this design")
    pulled = [before.by_id[want.check] for want in wanted]
    if len({one.part for one in pulled}) != 1:
        raise ValueError("figures of one part can be pulled at a time")
    space = part_space(design, pulled[0].part)
    if not space.free:
        raise ValueError("nothing of it is free to move")
    if any(one.value is None for one in pulled):
        raise ValueError("it has no value here to be pulled from")
    tried = [_Tried(space, one, before.cycled) for one in pulled]

    def values(moves: Floats) -> Floats:
        return np.stack([one.values(moves) for one in tried], axis=-1)

    search = LeastMove(space, values, np.array([want.value for want in wanted]), PULL_WITHIN_MM)
    move, got = search.run()
    if increment_mm is not None:
        move, got = search.landed(move, increment_mm, lambda _: True)
    near = MET if increment_mm is None else increment_mm
    met = bool((np.abs(got - search.goal) <= near).all())
    then = space.moved(move) or design
    return CornerPulled(
        space.at(move), tuple(got.tolist()), met, float(np.abs(move).max(initial=0.0)), design_data(then),
        graver(design, then),
    )  # fmt: skip


def corner_slopes(design: Design, check_id: str, increment_mm: float) -> list[tuple[Shift, float]]:
    """What an increment of each free point of the check's part does to it, the strongest first."""
    before = verdicts_on(design)
    check = before.by_id.get(check_id)
    if check is None:
        return []
    space = part_space(design, check.part)
    tried = _Tried(space, check, before.cycled)
    _, slope = slopes(lambda moves: tried.values(moves)[:, None], np.zeros(len(space.free)), increment_mm)
    found = [
        (Shift(one.axis, one.mounts, increment_mm), float(by))
        for one, by in zip(space.free, slope[0] * increment_mm, strict=True)
        if isfinite(by)
    ]
    return sorted(found, key=lambda one: -abs(one[1]))
