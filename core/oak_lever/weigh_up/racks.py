"""Every combination of the holes in a design's racks, with the links made to fit and with the links as they are."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import product
from math import isfinite, prod
from typing import Any

import numpy as np

from oak_lever.cycle import MOST_STEPS
from oak_lever.design.faults import Fault, Refused
from oak_lever.design.parts import Spot, parts_of
from oak_lever.design.room import Holes
from oak_lever.design.types import Design
from oak_lever.design.values import Point
from oak_lever.figures.rows import ROW_OF, setting_of, table
from oak_lever.motion.mechanism import Floats, Mechanism, mechanism_of
from oak_lever.motion.trace import Plan, trace
from oak_lever.tolerances import COINCIDENT_MM
from oak_lever.weigh_up.kept import kept_poses

MOST_COMBINATIONS = 20_000
_MIRROR_MM = 0.5
_THERE_MM = 0.05
_AT_ONCE = 500
SET = (
    "anti_squat", "anti_dive", "anti_lift_drive", "anti_lift_brake", "ic_x", "ic_height", "ic_length",
    "roll_center_height", "roll_axis_angle", "roll_steer",
)  # fmt: skip
"""Figures of the ride row of a combination whose links are made to fit."""
KEPT = ("pinion_change", "axle_x", "axle_y", "yaw", "anti_squat", "anti_dive", "ic_length", "roll_center_height")
"""Figures of the pose of a combination whose links stay as they are."""
Figures = dict[str, Any]


@dataclass(frozen=True)
class Site:
    """Mounts that go together from hole to hole: one, or two that are mirror images. `holes`: the left one's (mm,
    chassis axes at ride); `now`: the first hole that it stands in."""

    mounts: tuple[str, ...]
    holes: tuple[Point, ...]
    now: int | None
    left: str
    """The mount whose places the holes are; the other goes to their mirror images."""


@dataclass(frozen=True)
class Combination:
    """A choice of holes, an index a site: `lengths` of the bars that end in one, hole to hole, mm; `set`: figures with
    those bars made to fit; `kept`: with all bars as they are, the axle where that puts it. None: no such design."""

    at: tuple[int, ...]
    lengths: dict[str, float]
    set: Figures | None
    kept: Figures | None


@dataclass(frozen=True)
class HoleMap:
    design: str
    sites: tuple[Site, ...]
    combinations: tuple[Combination, ...]

    def data(self) -> dict[str, Any]:
        """As the file format has it."""
        return {
            "format": "oak-lever-holes", "version": 1, "design": self.design,
            "sites": [
                {"mounts": list(one.mounts), "holes": [list(at) for at in one.holes], "now": one.now}
                for one in self.sites
            ],
            "combinations": [
                {"at": list(one.at), "lengths": one.lengths, "set": one.set, "kept": one.kept}
                for one in self.combinations
            ],
        }  # fmt: skip


def sites_of(design: Design) -> list[Site]:
    """The sites of a design's racks, in the order of their first mount."""
    zones = design.room.zones if design.room else ()
    alone, racked = set(design.unpaired or ()), list[tuple[Spot, tuple[Point, ...]]]()
    for spot in (one for one in parts_of(design).spots if one.holds):
        names = {spot.name, spot.was}
        rows = (one.region for one in zones if names & {*one.mounts} and isinstance(one.region, Holes))
        row = next(rows, None)
        if row is not None:
            racked.append((spot, row.at))
    found, done = list[Site](), set[str]()
    for n, (spot, holes) in enumerate(racked):
        if spot.name in done:
            continue
        others = (one for one in racked[n + 1 :] if one[0].name not in done)
        twin = next((one for one in others if _mirrored(spot, one[0]) and not _parted(alone, spot, one[0])), None)
        both = [(spot, holes), *([twin] if twin else [])]
        done.update(one.name for one, _ in both)
        left, own = max(both, key=lambda one: one[0].at[1])  # of equals the first
        now = next((k for k, at in enumerate(own) if np.linalg.norm(np.subtract(at, left.at)) <= _THERE_MM), None)
        found.append(Site(tuple(one.name for one, _ in both), own, now, left.name))
    return found


def racked(design: Design) -> list[Site]:
    """The same, of a design that has some.

    Raises:
        Refused: for a design without a rack.
    """
    sites = sites_of(design)
    if not sites:
        raise Refused([Fault("room.zones", "no zone of holes names a mount of a link or locator: there is no rack")])
    return sites


def _mirrored(one: Spot, other: Spot) -> bool:
    (x, y, z), (a, b, c) = one.at, other.at
    return one.on == other.on and max(abs(x - a), abs(y + b), abs(z - c)) <= _MIRROR_MM


def _parted(alone: set[str], *spots: Spot) -> bool:
    return any({spot.name, spot.was} & alone for spot in spots)


def hole_map(design: Design, steps: int = 41) -> HoleMap:
    """Every combination of the holes that a design's racks have, the last site running fastest; `steps` rows of
    straight travel are looked through for what the pinion does.

    Raises:
        Refused, ValueError: as `hole_maps`.
    """
    *_, whole = hole_maps(design, steps)
    return whole


def hole_maps(design: Design, steps: int = 41, at_once: int = _AT_ONCE) -> Iterator[HoleMap]:
    """The map as it grows by `at_once` combinations, the whole of it at last.

    Raises:
        Refused: for a design without a rack, or with more than `MOST_COMBINATIONS`.
        ValueError: for fewer than 2 or more than 2001 steps.
    """
    if not 2 <= steps <= MOST_STEPS:
        raise ValueError(f"steps must be from 2 to {MOST_STEPS}, not {steps}")
    sites = racked(design)
    many = combinations_of(sites)
    if many > MOST_COMBINATIONS:
        raise Refused([Fault("room.zones", f"{many} combinations of holes; at most {MOST_COMBINATIONS} are looked at")])
    choices = list(product(*(range(len(site.holes)) for site in sites)))
    found: list[Combination] = []
    for n in range(0, len(choices), at_once):
        found += combined(design, sites, choices[n : n + at_once], steps)
        yield HoleMap(design.name, tuple(sites), tuple(found))


def combinations_of(sites: Sequence[Site]) -> int:
    """How many combinations of holes there are."""
    return prod(len(site.holes) for site in sites)


@dataclass(frozen=True)
class Nearer:
    """One change of hole: which site goes to which of its holes, the combination that is, and what figures of `SET`
    and the pinion's swing then are more than now."""

    site: int
    hole: int
    combination: int
    changed: dict[str, float]


def one_change(found: HoleMap, at: tuple[int, ...], figure: str, by: float) -> Nearer | None:
    """The one change of hole, from the combination `at`, that brings a figure nearest to `by` more than it is, links
    made to fit; of those that come as near as a step of it can be told, the one that changes least else. None where no
    hole brings it that way."""
    index = {one.at: n for n, one in enumerate(found.combinations)}
    here = found.combinations[index[at]].set
    if here is None or here[figure] is None:
        return None
    best: tuple[float, float, Nearer] | None = None
    for site, one in enumerate(found.sites):
        for hole in range(len(one.holes)):
            n = index.get((*at[:site], hole, *at[site + 1 :]))
            there = found.combinations[n].set if n is not None and hole != at[site] else None
            if n is None or there is None or there[figure] is None or (there[figure] - here[figure]) * by <= 0.0:
                continue
            changed = {
                name: there[name] - here[name] for name in (*SET, "pinion_range")
                if there[name] is not None and here[name] is not None
            }  # fmt: skip
            off = abs(changed[figure] - by)
            else_ = sum(abs(changed.get(name, 0.0)) / size for name, size in _ELSE.items() if name != figure)
            ranked = (round(off / (abs(by) * _AS_NEAR)), else_, Nearer(site, hole, n, changed))
            best = min(best or ranked, ranked, key=lambda one: one[:2])
    return best[2] if best else None


_AS_NEAR = 0.25
"""Changes whose misses are alike to this part of the step come as near."""
_ELSE = {
    "anti_squat": 10.0,
    "ic_length": 250.0,
    "roll_center_height": 25.0,
    "roll_axis_angle": 1.0,
    "pinion_range": 0.5,
}
"""What of each figure weighs as much as any other's, where it changes beside the one that is asked for."""


def combined(
    design: Design, sites: Sequence[Site], choices: Sequence[tuple[int, ...]], steps: int
) -> Iterator[Combination]:  # fmt: skip
    """What each choice of holes does, an index a site; `steps` rows of straight travel are looked through."""
    mechanism, fitted = mechanism_of(design), placed_in(design, sites, choices)
    bars, long = _lengths(mechanism, fitted, sites)
    is_one = (np.sqrt(((fitted.ends[1] - fitted.ends[0]) ** 2).sum(-1)) < COINCIDENT_MM).any(axis=1)
    sets, kepts = _set(design, fitted, steps), _kept(design, mechanism, fitted.mounts)
    for n, at in enumerate(choices):
        lengths = {name: float(long[n, b]) for b, name in bars}
        yield Combination(at, lengths, None if is_one[n] else sets[n], None if is_one[n] else kepts[n])


def placed_in(design: Design, sites: Sequence[Site], choices: Sequence[tuple[int, ...]]) -> Mechanism:
    """The designs with their mounts in those holes, links made to fit."""
    mechanism = mechanism_of(design)
    mounts = np.repeat(mechanism.mounts, len(choices), axis=0)
    index = {name: n for n, name in enumerate(mechanism.layout.mounts)}
    for s, site in enumerate(sites):
        holes = np.array(site.holes)[[at[s] for at in choices]]
        for name in site.mounts:
            mounts[:, index[name]] = holes * (1.0 if name == site.left else [1.0, -1.0, 1.0])
    return mechanism.with_mounts(mounts)


def _lengths(mechanism: Mechanism, fitted: Mechanism, sites: Sequence[Site]) -> tuple[list[tuple[int, str]], Floats]:
    """The bars that end in a site, by their places and names, and how long all are (D, B), mm."""
    moved = {mechanism.layout.mounts.index(name) for site in sites for name in site.mounts}
    bars = [
        (b, bar.name) for b, bar in enumerate(mechanism.layout.bars)
        if not bar.rigid and {bar.axle.first, bar.frame.first} & moved
    ]  # fmt: skip
    return bars, np.sqrt(((fitted.ends[1] - fitted.ends[0]) ** 2).sum(-1))


def _set(design: Design, fitted: Mechanism, steps: int) -> list[Figures]:
    plan = Plan()
    rows = plan.heave(np.linspace(-design.travel.droop, design.travel.bump, steps))
    traced = trace(fitted, plan.poses())
    figures = table(traced, setting_of(design))
    reached = traced.reached[:, rows]
    pinion = np.where(reached, figures[ROW_OF["pinion_change"]][:, rows], np.nan)
    found = []
    for n in range(len(fitted.mounts)):
        there = bool(traced.reached[n, 0])
        one: Figures = {"reached": there} | {name: plain(figures[ROW_OF[name], n, 0]) for name in SET}
        one["pinion_range"] = float(np.nanmax(pinion[n]) - np.nanmin(pinion[n])) if there and reached[n].any() else None
        found.append(one)
    return found


def _kept(design: Design, mechanism: Mechanism, mounts: Floats) -> list[Figures | None]:
    traced = kept_poses(mechanism, mounts)
    figures = table(traced, setting_of(design))
    return [
        {name: plain(figures[ROW_OF[name], n, 0]) for name in KEPT} if traced.reached[n, 0] else None
        for n in range(len(mounts))
    ]


def plain(value: float) -> float | None:
    """A figure as the file format has it: None where there is none."""
    return float(value) + 0.0 if isfinite(value) else None
