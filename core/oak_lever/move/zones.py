"""Work inside what fits: mounts brought into their zones, moved from hole to hole, and the places that exist ranked."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import product

import numpy as np

from oak_lever.clearance.within import bounds_of_solid, nearest_place, outside
from oak_lever.clearance.zones import IN_MM, zones_of
from oak_lever.cycle import sweep_many
from oak_lever.design.faults import Refused
from oak_lever.design.parts import Spot, parts_of
from oak_lever.design.room import Holes, Zone
from oak_lever.design.types import Design
from oak_lever.design.values import Point
from oak_lever.figures.register import BY_ID
from oak_lever.judge.check import CONSIDER, FIX, STOP
from oak_lever.judge.gaps import too_near
from oak_lever.judge.judged import judge
from oak_lever.judge.verdicts import on_parts, verdicts_on
from oak_lever.motion.mechanism import Floats, mechanism_of
from oak_lever.move.buildable import builds
from oak_lever.move.coordinates import AXES, Shift, joints_of, placed, spots, twin_of
from oak_lever.move.remedies import Remedy
from oak_lever.move.words import shift_said
from oak_lever.units import Units

_MOST_HOPS = 60
_GRID = 5
"""Places tried along each axis of a zone that is no row of holes."""
_ROWS = 11


def into_zone(design: Design, name: str, increment_mm: float, units: Units) -> Iterator[Remedy]:
    """The mount, and its mirror image, to where its zone is nearest: on whole increments from where it stands, where
    one of those is inside; every hole of a row in turn, the nearest first."""
    spot = next((spot for spot in parts_of(design).spots if spot.name == name), None)
    for zone in zones_of(design, spot) if spot is not None else ():
        assert spot is not None
        for at in _goals(zone, spot.at, increment_mm):
            yield from _put(design, spot, at, units)


def _goals(zone: Zone, at: Point, increment_mm: float) -> list[Floats]:
    if isinstance(zone.region, Holes):
        return sorted(np.array(zone.region.at), key=lambda hole: float(np.linalg.norm(hole - at)))
    nearest = nearest_place(zone.region, at)
    steps = (nearest - at) / increment_mm
    around = [
        np.array(at) + increment_mm * np.array(whole)
        for whole in product(*((np.floor(s + 1e-9), np.ceil(s - 1e-9)) for s in steps))
    ]
    inside = [one for one in around if float(outside(zone.region, one[None])[0]) <= IN_MM]
    return [min(inside, key=lambda one: float(np.linalg.norm(one - at)), default=nearest)]


def hops(design: Design, units: Units) -> Iterator[Remedy]:
    """Every mount in a row of holes, with what shares its joint and its mirror image, in each other hole."""
    found: list[tuple[float, Spot, Floats]] = []
    done: set[str] = set()
    for spot in spots(design):
        for zone in zones_of(design, spot):
            if isinstance(zone.region, Holes) and spot.name not in done:
                done |= set(moves_with(design, spot))
                apart = [
                    (float(np.linalg.norm(np.array(hole) - spot.at)), spot, np.array(hole)) for hole in zone.region.at
                ]
                found += [one for one in apart if one[0] > IN_MM]
    for _, spot, hole in sorted(found, key=lambda one: one[0])[:_MOST_HOPS]:
        yield from _put(design, spot, hole, units)


def moves_with(design: Design, spot: Spot) -> dict[str, float]:
    """What moves with a mount, and which way in y: those on its joint, and its mirror image unless they are parted."""
    every = spots(design) if spot.holds else [one for one in parts_of(design).spots if not one.holds]
    joint = next((joint for joint in joints_of(every) if spot in joint), (spot,)) if spot.holds else (spot,)
    found = {one.name: 1.0 for one in joint}
    alone = set(design.unpaired or ())
    for one in joint:
        twin = twin_of(one, every)
        if twin is not None and not {one.name, one.was, twin.name, twin.was} & alone:
            found.setdefault(twin.name, -1.0)
    return found


def _put(design: Design, spot: Spot, at: Floats, units: Units) -> Iterator[Remedy]:
    """The mount there; nothing where a lock holds it, its mirror image would leave its own zone, or none can stand."""
    by = at - np.array(spot.at)
    both = moves_with(design, spot)
    every = {one.name: one for one in parts_of(design).spots}
    locks = "".join((design.locks or {}).get(name, "") for name in both)
    if any(abs(by[a]) > IN_MM and axis in locks for a, axis in enumerate(AXES)):
        return
    there = {name: np.array(every[name].at) + by * [1.0, way, 1.0] for name, way in both.items()}
    for name, point in there.items():
        if any(float(outside(zone.region, point[None])[0]) > IN_MM for zone in zones_of(design, every[name])):
            return
    try:
        moved = placed(design, {name: (float(x), float(y), float(z)) for name, (x, y, z) in there.items()})
    except Refused:
        return
    if not builds(design, mechanism_of(design), mechanism_of(moved))[0]:
        return
    shifts = tuple(Shift(axis, tuple(both), float(by[a])) for a, axis in enumerate(AXES) if abs(by[a]) > IN_MM)
    words = " and ".join(
        shift_said(design, shift, units) if n == 0 else _way(shift_said(design, shift, units), design, shift, units)
        for n, shift in enumerate(shifts)
    )
    yield Remedy(words, "", moved, shifts)


def _way(said: str, design: Design, shift: Shift, units: Units) -> str:
    """The way and how far alone, of a further shift of the same mounts."""
    first = shift_said(design, Shift("z", shift.mounts, 1.0), units).partition(" up ")[0]
    return said.removeprefix(first).strip()


@dataclass(frozen=True)
class Ranked:
    """A place of a zone: where the mount then is (and what moves with it), by name; how many stops, fixes and considers
    the design then has, and which, in words; how far from where it stands, mm."""

    at: dict[str, Point]
    stops: int
    fixes: int
    considers: int
    findings: tuple[str, ...]
    far: float


def ranked(design: Design, mount: str, increment_mm: float, most: int = 12) -> list[Ranked]:
    """The places that exist for a mount, the soundest design first, of equals the nearest: each hole of its row, or
    places spread over its zone, where something can be built and no two parts meet that do not now. The place where it
    stands is among them.

    Raises:
        ValueError: for a mount that is not there, or belongs in no zone.
    """
    spot = next((spot for spot in spots(design) if spot.name == mount), None)
    zones = zones_of(design, spot) if spot is not None else []
    if spot is None or not zones:
        raise ValueError(f"{mount} belongs in no zone")
    places = [
        np.array(spot.at),
        *(p for p in _spread(zones[0], spot.at, increment_mm) if float(np.linalg.norm(p - spot.at)) > IN_MM),
    ]
    both, every = moves_with(design, spot), [one.name for one in spots(design)]
    now = mechanism_of(design)
    mounts = np.repeat(now.mounts, len(places), axis=0)
    for n, place in enumerate(places):
        for name, way in both.items():
            mounts[n, every.index(name)] += (place - np.array(spot.at)) * [1.0, way, 1.0]
    keep = np.flatnonzero(builds(design, now, now.with_mounts(mounts)))
    judged = judge(sweep_many(design, now.with_mounts(mounts[keep]), _ROWS))
    found = []
    for row, n in enumerate(keep.tolist()):
        at = {name: _point(mounts[n, every.index(name)]) for name in both}
        far = float(np.linalg.norm(places[n] - np.array(spot.at)))
        found.append(_ranked(at, judged.grave(row), far))
    # what runs with the axle and the gaps take longer to judge: only where the links come out well enough to be told
    best = sorted(found, key=_rank)[: 2 * most]
    graves = {one.at[mount]: judged.grave(row) for row, one in enumerate(found)}
    whole = [_whole(design, one, graves[one.at[mount]]) for one in best]
    return sorted((one for one in whole if one is not None), key=_rank)[:most]


def _whole(design: Design, one: Ranked, grave: dict[str, int]) -> Ranked | None:
    """A place by everything that is judged there; None where it makes two parts meet."""
    then = placed(design, one.at) if one.far > IN_MM else design
    meet, met = ({pair for pair, gap in too_near(each).items() if gap.gap <= 0.0} for each in (then, design))
    if meet - met:
        return None
    more = [*on_parts(then), *(check for check, _ in verdicts_on(then).apart)]
    return _ranked(one.at, grave, one.far, [(check.figure.name, check.grave) for check in more])


def _ranked(at: dict[str, Point], grave: dict[str, int], far: float, more: Sequence[tuple[str, int]] = ()) -> Ranked:
    every = [*((BY_ID[name].name, one) for name, one in grave.items()), *more]
    stops, fixes, considers = (sum(one == level for _, one in every) for level in (STOP, FIX, CONSIDER))
    return Ranked(at, stops, fixes, considers, tuple(dict.fromkeys(name.lower() for name, _ in every)), far)


def _rank(one: Ranked) -> tuple[int, int, int, float]:
    return one.stops, one.fixes, one.considers, one.far


def _point(at: Floats) -> Point:
    x, y, z = (float(v) for v in at)
    return x, y, z


def _spread(zone: Zone, at: Point, increment_mm: float) -> Sequence[Floats]:
    """Places of a zone: its holes; or some all over it, whole increments from where the mount stands."""
    if isinstance(zone.region, Holes):
        return [np.array(hole) for hole in zone.region.at]
    low, high = bounds_of_solid(zone.region)
    parts = np.linspace(0.1, 0.9, _GRID)
    points = np.array([low + np.array(p) * (high - low) for p in product(parts, repeat=3)])
    points = np.array(at) + np.round((points - at) / increment_mm) * increment_mm
    return list(points[outside(zone.region, points) <= IN_MM])
