"""What cures a finding on the parts that run with the axle, and how such a figure is pulled: eyes and joints moved in
shop increments. The axle's own motion stays as it is, so each try costs no more than the part's own sums."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from math import dist, hypot, isfinite
from typing import Any

import numpy as np

from oak_lever.clearance.parts import housing_of
from oak_lever.clearance.within import outside
from oak_lever.clearance.zones import IN_MM, zones_of
from oak_lever.cycle import Cycle
from oak_lever.design.faults import Refused
from oak_lever.design.parts import Spot, parts_of
from oak_lever.design.reader import design_data
from oak_lever.design.types import Design
from oak_lever.design.values import Point
from oak_lever.judge.check import GOOD, Check
from oak_lever.judge.parts import check_of
from oak_lever.judge.verdicts import Verdicts, verdicts_on
from oak_lever.motion.mechanism import Floats
from oak_lever.move.bounds import CURE_WITHIN_MM, PULL_WITHIN_MM
from oak_lever.move.buildable import EYE_MM
from oak_lever.move.coordinates import AXES, PAIR_MM, Axis, placed, twin_of
from oak_lever.move.corner_remedies import corner_remedies
from oak_lever.move.near import graver
from oak_lever.move.offers import Cure
from oak_lever.move.price import SEEN, priced
from oak_lever.move.remedies import Remedy
from oak_lever.move.slopes import slopes
from oak_lever.move.words import Shift, shifts_said
from oak_lever.units import Units

_STEPS = (1, 2, 3, 4, 6, 8, 12, 16, 24, 32, 48, 64)
_ROUNDS = 12
_NOTHING_MOVED_MM = 30.0


@dataclass(frozen=True)
class Eye:
    """A point that may be moved along an axis, with its mirror image, which goes the other way in y."""

    axis: Axis
    spots: tuple[Spot, ...]

    def at(self, by: float) -> dict[str, Point]:
        """Where they then are, by name."""
        a, found = AXES.index(self.axis), {}
        for n, spot in enumerate(self.spots):
            point = list(spot.at)
            point[a] += -by if n and self.axis == "y" else by
            found[spot.name] = (point[0], point[1], point[2])
        return found


def eyes_of(design: Design, part: str) -> list[Eye]:
    """What of a part may be moved: its points along each axis that is not locked, a pair together."""
    every = [spot for spot in parts_of(design).spots if not spot.holds]
    alone, locks = set(design.unpaired or ()), design.locks or {}
    found: list[Eye] = []
    for spot in (one for one in every if one.part == part):
        twin = None if spot.name in alone else twin_of(spot, every)
        both = (spot,) if twin is None or twin.name in alone else (spot, twin)
        held = "".join(locks.get(one.name, "") for one in both)
        found += [
            Eye(axis, both) for axis in AXES if axis not in held and not (axis == "y" and abs(spot.at[1]) < PAIR_MM)
        ]
    return found


def can_stand(design: Design, at: dict[str, Point]) -> bool:
    """Whether eyes can stand there: off the floor, in their zones, in no keep-out that they are not bolted to, and not
    in the axle's tube, its housing or a tire, but for one that stands in it already."""
    parts = parts_of(design)
    for name, point in at.items():
        spot, where = parts.spot(name), np.array([point])
        if point[2] < EYE_MM or point[1] * spot.at[1] < 0.0:
            return False
        if in_axle(design, point) and not in_axle(design, spot.at):
            return False
        if any(zone.region.kind != "holes" and float(outside(zone.region, where)[0]) > IN_MM
               for zone in zones_of(design, spot)):  # fmt: skip
            return False
        for one in design.room.keep_outs if design.room else ():
            if one.on == spot.on and spot.part not in one.except_ and float(outside(one.solid, where)[0]) <= 0.0:
                return False
    return True


def in_axle(design: Design, point: Point) -> bool:
    """Whether a point stands inside the axle's tube, its housing or a tire, at ride."""
    axle, (x, y, z) = design.axle, point
    off, out = hypot(x, z - axle.tire_radius_loaded), abs(abs(y) - axle.track / 2.0)
    middle, radius = housing_of(design)
    tube = off < axle.tube_diameter / 2.0 and abs(y) < axle.track / 2.0
    tire = off < axle.tire_diameter / 2.0 and out < axle.tire_width / 2.0
    return tube or tire or dist(point, middle) < radius


class _Tried:
    """A design whose parts are tried elsewhere: the motion solved once."""

    def __init__(self, design: Design, check: Check, cycled: Cycle) -> None:
        self.design, self.check, self.cycled = design, check, cycled
        self.fresh = check.figure.of in ("stop", "strap")
        self.seen = SEEN[check.figure.unit]

    def at(self, where: dict[str, Point]) -> Check | None:
        """The check with points there; None where that makes no design."""
        try:
            return check_of(self.cycled, placed(self.design, where), self.check, self.fresh)
        except (Refused, KeyError):
            return None


def corner_cures(before: Verdicts, check: Check, increment_mm: float, units: Units) -> list[Cure]:
    """What cures a finding on such a part, what costs least first: an eye or a joint moved by the fewest increments,
    alone or with its mirror image; another size, spring, strap or stop; where nothing does, what helps most."""
    tried = _Tried(before.design, check, before.cycled)
    eyes = eyes_of(before.design, check.part)
    found = [cure for eye in eyes for cure in _moved(tried, eye, increment_mm, units, before)]
    if not found:
        found = list(_together(tried, eyes, increment_mm, units, before))
    for kind in corner_remedies(before.cycled, check, increment_mm, units):
        found += _mildest(check, kind, before)
    if not found:
        found = sorted(_helped(tried, eyes, increment_mm, units, before), key=lambda cure: len(cure.worse))[:2]
    found.sort(key=lambda cure: (not cure.meets, len(cure.worse), len(cure.shifts) > 1, _far(cure)))
    return found


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


def _moved(tried: _Tried, eye: Eye, step: float, units: Units, before: Verdicts) -> Iterator[Cure]:
    """The fewest increments along one axis that bring the figure into its band."""
    for way in (1, -1):
        reached = 0
        for steps in _STEPS:
            if steps * step > CURE_WITHIN_MM:
                break
            then = tried.at(eye.at(way * steps * step))
            if then is None or then.short > tried.check.short + tried.seen:
                break
            if then.grave == GOOD:
                reached = steps
                break
        while reached > 1:
            then = tried.at(eye.at(way * (reached - 1) * step))
            if then is None or then.grave > GOOD:
                break
            reached -= 1
        if reached:
            yield from _cure(tried, {(eye.axis, eye.spots): way * reached * step}, units, before)
            return


Moves = dict[tuple[Axis, tuple[Spot, ...]], float]


def _cure(tried: _Tried, moves: Moves, units: Units, before: Verdicts) -> Iterator[Cure]:
    at = _where(moves)
    if not can_stand(tried.design, at):
        return
    shifts = tuple(Shift(axis, tuple(s.name for s in spots), by) for (axis, spots), by in moves.items() if by)
    words = shifts_said(tried.design, shifts, units)
    try:
        moved = placed(tried.design, at)
    except Refused:
        return
    yield from priced(before, Remedy(words, "", moved, shifts), tried.check.id)


def _where(moves: Moves) -> dict[str, Point]:
    """Where points are that moves along several axes take there."""
    found: dict[str, list[float]] = {}
    for (axis, spots), by in moves.items():
        for n, spot in enumerate(spots):
            point = found.setdefault(spot.name, list(spot.at))
            point[AXES.index(axis)] += -by if n and axis == "y" else by
    return {name: (x, y, z) for name, (x, y, z) in found.items()}


def _together(tried: _Tried, eyes: Sequence[Eye], step: float, units: Units, before: Verdicts) -> Iterator[Cure]:
    """All that may be moved, together: the least movement that meets the band, then on whole increments."""
    check = tried.check
    if check.value is None or not eyes:
        return
    goal = check.low if check.side < 0 else check.high
    if goal is None:
        return
    moves = _solved([tried], eyes, [goal + check.side * -0.5])
    if moves is None:
        return
    whole = np.ceil(np.abs(moves) / step - 0.3) * step * np.sign(moves)
    yield from _cure(
        tried, {(e.axis, e.spots): float(by) for e, by in zip(eyes, whole, strict=True) if by}, units, before
    )


def _helped(tried: _Tried, eyes: Sequence[Eye], step: float, units: Units, before: Verdicts) -> Iterator[Cure]:
    """Along each axis as far as it helps."""
    for eye in eyes:
        best: tuple[float, float] | None = None
        for way in (1, -1):
            for steps in _STEPS:
                by = way * steps * step
                then = tried.at(eye.at(by)) if abs(by) <= CURE_WITHIN_MM else None
                if then is not None and then.short < (best[0] if best else tried.check.short) - tried.seen:
                    best = then.short, by
        if best:
            yield from _cure(tried, {(eye.axis, eye.spots): best[1]}, units, before)


def _solved(tried: Sequence[_Tried], eyes: Sequence[Eye], goals: Sequence[float]) -> Floats | None:
    """The least movement (F,) from where eyes are that gives figures their goals: at each round the least-norm step
    to first order from the start, within bounds; None where a figure does not exist."""
    move = np.zeros(len(eyes))
    wanted = np.array(goals)
    best, off = move, np.inf
    for _ in range(_ROUNDS):
        here, slope = slopes(lambda moves: _values(tried, eyes, moves), move)
        if not np.isfinite(here).all():
            break
        short = float(np.abs(wanted - here).max())
        if short < off - 1e-9:
            best, off = move, short
        if short < 0.02:
            return move
        if not np.isfinite(slope).all():
            break
        want = wanted - here + slope @ move
        move = np.clip(np.linalg.lstsq(slope, want, rcond=1e-6)[0], -PULL_WITHIN_MM, PULL_WITHIN_MM)
    return best if np.isfinite(off) else None


def _values(tried: Sequence[_Tried], eyes: Sequence[Eye], moves: Floats) -> Floats:
    """(N, W) of the figures after moves (N, F) of the eyes, mm; NaN where one does not exist."""
    out = np.full((len(moves), len(tried)), np.nan)
    for n, move in enumerate(moves):
        at = _where({(e.axis, e.spots): float(by) for e, by in zip(eyes, move, strict=True)})
        for w, one in enumerate(tried):
            then = one.at(at)
            if then is not None and then.value is not None:
                out[n, w] = then.value
    return out


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
    `PULL_WITHIN_MM`; `increment_mm`: then on whole increments.

    Raises:
        ValueError: for a figure that the design has not, for two parts at once, or where nothing of it may be moved.
    """
    before = verdicts_on(design)
    cycled, by_id = before.cycled, before.by_id
    for want in wanted:
        if want.check not in by_id:
            raise ValueError(f"{want.check} is no figure of this design")
    pulled = [by_id[want.check] for want in wanted]
    if len({one.part for one in pulled}) != 1:
        raise ValueError("figures of one part can be pulled at a time")
    eyes = eyes_of(design, pulled[0].part)
    if not eyes:
        raise ValueError("nothing of it is free to move")
    tried = [_Tried(design, one, cycled) for one in pulled]
    move = _solved(tried, eyes, [want.value for want in wanted])
    if move is None:
        raise ValueError("it has no value here to be pulled from")
    if increment_mm is not None:
        move = np.round(move / increment_mm) * increment_mm
    at = _where({(e.axis, e.spots): float(by) for e, by in zip(eyes, move, strict=True) if by})
    got = _values(tried, eyes, move[None])[0]
    values = tuple(float(v) for v in got) if np.isfinite(got).all() else ()
    near = 1.0 if increment_mm is None else 1.0 + increment_mm
    met = bool(values) and all(abs(v - want.value) <= near for v, want in zip(values, wanted, strict=True))
    stands = can_stand(design, at)
    then = placed(design, at) if stands else design
    return CornerPulled(
        at if stands else {}, values, met and stands, float(np.abs(move).max(initial=0.0)), design_data(then),
        graver(design, then),
    )  # fmt: skip


def corner_slopes(design: Design, check_id: str, increment_mm: float) -> list[tuple[Shift, float]]:
    """What an increment of each free point of the check's part does to it, the strongest first."""
    before = verdicts_on(design)
    check = before.by_id.get(check_id)
    if check is None:
        return []
    tried, eyes = _Tried(design, check, before.cycled), eyes_of(design, check.part)
    _, slope = slopes(lambda moves: _values([tried], eyes, moves), np.zeros(len(eyes)), increment_mm)
    found = [
        (Shift(eye.axis, tuple(s.name for s in eye.spots), increment_mm), float(by))
        for eye, by in zip(eyes, slope[0] * increment_mm, strict=True)
        if isfinite(by)
    ]
    return sorted(found, key=lambda one: -abs(one[1]))
