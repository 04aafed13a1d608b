"""Which hole to try next on a truck that was driven: of each figure that stands out behind what was felt, the one
change of hole that brings it nearest to its band, links made to fit, judged anew."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from math import dist

from oak_lever.design.faults import Refused
from oak_lever.design.fit import Complaint
from oak_lever.design.parts import bars_of, parts_of, said
from oak_lever.design.types import Design
from oak_lever.design.values import Point
from oak_lever.figures.register import Unit
from oak_lever.judge.check import GOOD, STOP, Check
from oak_lever.judge.complaints import explained
from oak_lever.judge.findings import findings_on
from oak_lever.judge.verdicts import verdicts_on
from oak_lever.move.coordinates import placed
from oak_lever.weigh_up.racks import Site, sites_of

_WORTH = 0.1
"""A hole is offered that takes off at least this part of what a figure is off by."""
_LENGTH_MM = 0.5


@dataclass(frozen=True)
class HoleToTry:
    """A change of hole for one finding: its figure's value now and then, in its unit, and whether it is inside its band
    then; which mounts go, from which hole to which (counted from 1, as the zone lists them); by how much each bar is
    then longer, mm; and what is graver then than now, short of a stop, by name."""

    finding: str
    title: str
    unit: Unit | None
    now: float
    then: float
    inside: bool
    mounts: str
    was: int
    hole: int
    longer: dict[str, float]
    graver: tuple[str, ...]


def holes_to_try(design: Design, felt: Sequence[Complaint]) -> list[HoleToTry]:
    """For each finding behind what was felt that a hole mends or helps; one of each. A hole that makes a new stop is
    none: nor is one of a mount that stands in no hole now."""
    behind = dict.fromkeys(
        cause.finding for one in explained(design, findings_on(design)) if one.complaint in felt
        for cause in one.causes if cause.stands_out and cause.finding is not None
    )  # fmt: skip
    tried = list(_others(design)) if behind else []
    now = {one.id: one for one in verdicts_on(design).checks}
    own = _graves(design)
    found = []
    for name in behind:
        check = now.get(name)
        if check is None or check.value is None or not check.bad > 0.0:
            continue
        best = next(iter(_nearest(check, tried, own)), None)
        if best is not None:
            found.append(_said(design, check, *best))
    return found


Tried = tuple[Site, int, Design]


def _others(design: Design) -> Iterator[Tried]:
    """Every design that is one change of hole away."""
    for site in sites_of(design):
        for hole, at in enumerate(site.holes):
            if site.now is None or hole == site.now:
                continue
            x, y, z = at
            places: dict[str, Point] = {name: at if name == site.left else (x, -y, z) for name in site.mounts}
            try:
                yield site, hole, placed(design, places)
            except Refused:
                continue


def _nearest(
    check: Check, tried: Sequence[Tried], own: dict[str, int]
) -> Iterator[tuple[Site, int, Design, Check, tuple[str, ...]]]:
    """Those that bring it nearer and make no new stop, the nearest to its band first, of equals the shortest way."""
    nearer: list[tuple[bool, float, float, int, tuple[Site, int, Design, Check]]] = []
    for site, hole, moved in tried:
        then = next((one for one in verdicts_on(moved).checks if one.id == check.id), None)
        if then is None or then.value is None or check.bad - then.bad < _WORTH * abs(check.bad):
            continue
        assert site.now is not None
        far = dist(site.holes[site.now], site.holes[hole])
        nearer.append((then.grave > GOOD, max(then.bad, 0.0), far, len(nearer), (site, hole, moved, then)))
    for *_, (site, hole, moved, then) in sorted(nearer, key=lambda one: one[:4]):
        graves = _graves(moved)
        graver = [name for name, grave in graves.items() if grave > own.get(name, GOOD)]
        if all(graves[name] < STOP for name in graver):
            titles = {one.id: one.title for one in findings_on(moved)}
            yield site, hole, moved, then, tuple(dict.fromkeys(titles.get(name, name) for name in graver))


def _graves(design: Design) -> dict[str, int]:
    """How grave all is that is judged of it, what comes near to each other too, by id."""
    found = verdicts_on(design)
    return found.grave | {check.id: check.grave for check, _ in found.apart}


def _said(
    design: Design, check: Check, site: Site, hole: int, moved: Design, then: Check, graver: tuple[str, ...]
) -> HoleToTry:  # fmt: skip
    assert check.value is not None
    assert then.value is not None
    assert site.now is not None
    spots = {spot.name: spot for spot in parts_of(design).spots}
    mounts = " and ".join(f"{said(design, spots[name].part)}, {spots[name].words}" for name in site.mounts)
    longer = {
        one.id: by for one, other in zip(bars_of(parts_of(design)), bars_of(parts_of(moved)), strict=True)
        if abs(by := dist(other.a.at, other.b.at) - dist(one.a.at, one.b.at)) >= _LENGTH_MM
    }  # fmt: skip
    return HoleToTry(
        check.id, check.title or check.figure.name, check.figure.unit, check.value, then.value, then.grave <= GOOD,
        mounts, site.now + 1, hole + 1, longer, graver,
    )  # fmt: skip
