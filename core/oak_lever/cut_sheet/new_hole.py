"""Where along a row of holes one more would put the middle of the window, and whether there is metal for it."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from math import ceil, hypot, isfinite
from typing import Any

import numpy as np

from oak_lever.design.faults import Refused
from oak_lever.design.loads import JointKind
from oak_lever.design.parts import Spot, parts_of
from oak_lever.design.reader import design_data, design_from
from oak_lever.design.room import Holes
from oak_lever.design.types import Design
from oak_lever.design.values import Point
from oak_lever.judge.findings import findings_on
from oak_lever.judge.verdicts import verdicts_on
from oak_lever.motion.mechanism import Floats
from oak_lever.plates.brackets import PLANE_MM, CutBracket, Plate, bolts_of, brackets_made
from oak_lever.plates.outline import Flat
from oak_lever.weigh_up.racks import Combination, Figures, Site, combined, racked

WINDOW = ("anti_squat", "ic_length")
"""The figures whose bands together are the window."""
EDGE_BOLTS = 1.5
"""From a hole's center to any edge, another hole's too, bolt diameters: a house value."""
_STEP_MM = 1.0
_MOST_TRIED = 2000
_STEPS = 41
_LOOK_STEPS = 2
_NEARER = 0.02
"""A hole whose figures come no nearer to the window's middle than this part of its half width is no better."""


@dataclass(frozen=True)
class HoleAt:
    """A hole that is not there yet: the left mount's place, mm, chassis axes at ride; the holes of the row that it is
    between, by their numbers (`after` None past an end), and how far its center is from theirs. `metal`: how far its
    center is from the edge of the nearest other hole in the row or in the plate, None where no bolt is said; `plate`:
    from its plate's edge, below 0 outside it or out of its plane, None without a bracket. `middle`: how far its figures
    are from the window's middle, as a part of the half width (1 at the band's edge)."""

    at: Point
    before: int
    after: int | None
    from_before: float
    from_after: float | None
    metal: float | None
    plate: float | None
    middle: float
    set: Figures
    lengths: dict[str, float]


@dataclass(frozen=True)
class NewHole:
    """Of one site's row: the bolt's diameter, mm (None: no joint entry says it), and what must lie from a hole's center
    to any edge; its bracket; which of its holes is nearest to the window's middle, and how near; where the middle is;
    and, of the places with metal for a hole, the nearest to it: None where no place is better than the holes that are
    there. `against`: what then is a stop and was none. `design`: the document with it drilled, its mounts in it."""

    site: int
    mounts: tuple[str, ...]
    bolt: float | None
    edge: float | None
    bracket: str | None
    best: int | None
    best_middle: float | None
    best_set: Figures | None
    middle: HoleAt | None
    drilled: HoleAt | None
    against: tuple[str, ...]
    design: dict[str, Any] | None


def new_holes(design: Design) -> list[NewHole]:
    """Of each row of two holes or more, all other mounts where they stand, links made to fit: looked for every
    millimeter between two holes and past either end, as far again as the last two are apart. None where the figures of
    the window have no band.

    Raises:
        Refused: for a design without a rack.
    """
    bands = {
        one.figure.id: (one.low, one.high)
        for one in verdicts_on(design).checks
        if one.figure.id in WINDOW and not one.part and (one.low is not None or one.high is not None)
    }
    sites = racked(design)
    spots = {spot.name: spot for spot in parts_of(design).spots}
    brackets, _ = brackets_made(design)
    stand = [
        Site(one.mounts, (tuple(float(v) for v in spots[one.left].at),), 0, one.left)  # type: ignore[arg-type]
        for one in sites
    ]
    return [
        _looked(design, n, [*stand[:n], site, *stand[n + 1 :]], bands, spots[site.left], brackets)
        for n, site in enumerate(sites)
        if len(site.holes) > 1 and bands
    ]


def _looked(
    design: Design, n: int, sites: list[Site], bands: Mapping[str, tuple[float | None, float | None]], spot: Spot,
    brackets: list[CutBracket],
) -> NewHole:  # fmt: skip
    site = sites[n]
    bolt = _bolt(design, spot)
    bracket = next((one for one in brackets if spot.name in one.mounts), None)
    edge = None if bolt is None else EDGE_BOLTS * bolt
    here = _figured(design, n, sites, site.holes, _STEPS)
    offs = [_off(one, bands) for one in here]
    best = int(np.argmin(offs)) if min(offs) < np.inf else None
    places = list(_places(site.holes))
    tried = _figured(design, n, sites, tuple(at for at, _, _ in places), _LOOK_STEPS)
    found = [
        _hole(place, off, one, site, bracket, bolt)
        for place, off, one in zip(places, (_off(one, bands) for one in tried), tried, strict=True)
        if one.set is not None and off < np.inf
    ]
    better = [one for one in found if best is None or one.middle < offs[best] - _NEARER]
    middle = min(better, key=lambda one: one.middle, default=None)
    drilled = min((one for one in better if _metal(one, edge)), key=lambda one: one.middle, default=None)
    middle, drilled = (None if one is None else _whole(design, n, sites, one) for one in (middle, drilled))
    then = None if drilled is None else _with_hole(design, site, drilled.at)
    if then is None:
        drilled = None
    return NewHole(
        n, site.mounts, bolt, edge, bracket.id if bracket else None, best, None if best is None else offs[best],
        None if best is None else here[best].set, middle, drilled,
        () if then is None else _against(design, then), None if then is None else design_data(then),
    )  # fmt: skip


def _bolt(design: Design, spot: Spot) -> float | None:
    part: Any = design
    for step in spot.path[:-1]:
        part = part[step] if isinstance(step, int) else getattr(part, step)
    entry: JointKind | None = (design.joints or {}).get(getattr(part, "joint", None) or "")
    return entry.bolt if entry else None


def _places(holes: tuple[Point, ...]) -> Iterator[tuple[Point, int, int | None]]:
    """Between each two holes of the row and past its ends, with the numbers of the holes on either side."""
    row = np.array(holes)
    spans = [(row[n], row[n + 1], n, n + 1) for n in range(len(row) - 1)]
    ways = [
        (row[0], 2.0 * row[0] - row[1], 0, None), *spans, (row[-1], 2.0 * row[-1] - row[-2], len(row) - 1, None),
    ]  # fmt: skip
    far = sum(float(np.linalg.norm(end - start)) for start, end, _, _ in ways)
    step = max(_STEP_MM, far / _MOST_TRIED)
    for start, end, one, other in ways:
        count = ceil(float(np.linalg.norm(end - start)) / step)
        last = count if other is not None else count + 1
        for k in range(1, last):
            x, y, z = start + (end - start) * (k / count)
            yield (float(x), float(y), float(z)), one, other


def _figured(
    design: Design, n: int, sites: list[Site], holes: tuple[Point, ...], steps: int
) -> list[Combination]:  # fmt: skip
    """What the site's mounts do in each of some holes, all others where they stand."""
    site = sites[n]
    some = [*sites[:n], Site(site.mounts, holes, None, site.left), *sites[n + 1 :]]
    choices = [tuple(k if s == n else 0 for s in range(len(sites))) for k in range(len(holes))]
    return list(combined(design, some, choices, steps))


def _off(one: Combination, bands: Mapping[str, tuple[float | None, float | None]]) -> float:
    """How far from the window's middle, the farther of its figures: 0 in the middle, 1 at an edge. A band that is open
    at one end has no middle: 0 a tenth of its edge or more inside."""
    if one.set is None or not one.set["reached"]:
        return np.inf
    worst = 0.0
    for name, (low, high) in bands.items():
        value = one.set[name]
        if value is None or not isfinite(value):
            # an instant center that is nowhere is as long as can be
            if name == "ic_length" and high is None:
                continue
            return np.inf
        if low is not None and high is not None:
            off = abs(2.0 * value - low - high) / max(high - low, 1e-9)
        else:
            edge, inside = (low, 1.0) if low is not None else (high, -1.0)
            assert edge is not None
            off = 1.0 - inside * (value - edge) / max(0.1 * abs(edge), 1e-9)
        worst = max(worst, off)
    return worst


def _hole(
    place: tuple[Point, int, int | None], off: float, one: Combination, site: Site, bracket: CutBracket | None,
    bolt: float | None,
) -> HoleAt:  # fmt: skip
    at, before, after = place
    assert one.set is not None
    far = [float(np.linalg.norm(np.subtract(at, hole))) for hole in site.holes]
    plate = None
    others = list(far)
    if bracket is not None:
        flat = [_flat(one, at) for one in bracket.plates]
        plate = min(one.outline.depth(here) for one, here in zip(bracket.plates, flat, strict=True))
        beside = abs(_beside(bracket, at))
        plate = plate if beside <= PLANE_MM else min(plate, -beside)
        others += [hypot(flat[0][0] - u, flat[0][1] - v) for u, v, _ in bracket.plates[0].holes]
    return HoleAt(
        at, before, after, far[before], None if after is None else far[after],
        None if bolt is None else min(others) - bolt / 2.0, plate, off, one.set, one.lengths,
    )  # fmt: skip


def _flat(plate: Plate, at: Point) -> Flat:
    """A place of the chassis in the plate's own axes."""
    arm: Floats = np.array(at) - plate.origin
    return float(arm @ plate.u), float(arm @ plate.v)


def _beside(bracket: CutBracket, at: Point) -> float:
    """How far out of the bracket's own plane, midway between its plates, mm."""
    one, other = bracket.plates
    return float((np.array(at) - (one.origin + other.origin) / 2.0) @ np.cross(one.u, one.v))


def _metal(one: HoleAt, edge: float | None) -> bool:
    """Whether there is as much metal as is wanted to every other hole's edge and, of a bracket that is drawn, to its
    plate's; without a bolt that is known nobody can tell."""
    return edge is not None and one.metal is not None and one.metal >= edge and (one.plate is None or one.plate >= edge)


def _whole(design: Design, n: int, sites: list[Site], one: HoleAt) -> HoleAt:
    """The same with the pinion's swing looked through in as many steps as the hole map."""
    (found,) = _figured(design, n, sites, (one.at,), _STEPS)
    assert found.set is not None
    return HoleAt(**{**vars(one), "set": found.set})


def _against(design: Design, then: Design) -> tuple[str, ...]:
    """Titles of what is a stop then and was none."""
    was = {one.id for one in findings_on(design) if one.severity == "stop"}
    return tuple(one.title for one in findings_on(then) if one.severity == "stop" and one.id not in was)


def _with_hole(design: Design, site: Site, at: Point) -> Design | None:
    """The design with the hole in its row and in its bracket, its mounts in it; None where that makes no
    design."""
    data = design_data(design)
    spots = {spot.name: spot for spot in parts_of(design).spots}
    bolts = bolts_of(design)
    done = set[int]()
    for name in site.mounts:
        spot = spots[name]
        place = list(at) if name == site.left else [at[0], -at[1], at[2]]
        zones = design.room.zones if design.room else ()
        row = next(
            n for n, zone in enumerate(zones)
            if isinstance(zone.region, Holes) and {spot.name, spot.was} & {*zone.mounts}
        )  # fmt: skip
        if row not in done:  # one row for both sides has the left one's places
            data["room"]["zones"][row]["region"]["at"].append(place)
            done.add(row)
        part: Any = data
        for step in spot.path[:-1]:
            part = part[step]
        for bracket in data.get("brackets") or ():
            if name in bracket["mounts"]:
                bracket["holes"] = [*bracket.get("holes", []), list(spot.at), place]
                part["bolt"] = bolts[name].tolist()  # the plates are there: its bolt stays square to them
        part[spot.path[-1]] = place
    try:
        return design_from(data)
    except Refused:
        return None
