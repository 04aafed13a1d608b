"""What to correct at the truck: turns of adjusters, or a bracket moved, each worked out anew; the least work first."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations
from math import inf

import numpy as np

from oak_lever.design.fit import FitLog
from oak_lever.design.loads import per_turn, thread_room
from oak_lever.design.parts import across
from oak_lever.design.types import Design
from oak_lever.figures.rows import ROW_OF, setting_of, table
from oak_lever.fit_up.as_built import AsBuilt, as_built
from oak_lever.fit_up.fitted import BarLength, Fitted, fitted, joints_of
from oak_lever.fit_up.next_reading import spread_of
from oak_lever.motion.mechanism import Floats, mechanism_of
from oak_lever.weigh_up.kept import kept_poses
from oak_lever.weigh_up.outcomes import WITHIN

PLACES = tuple(WITHIN)
"""Where the axle stands: pinion (degrees), fore-aft and sideways (mm), square (degrees)."""
_STEP = 0.5
"""Turns are told in halves: a bar with one thread has its joint off to be turned."""
_MOST_OFFERED = 3
_ROUNDS = 3
_SIGMAS = 2.0
_WORTH_MM = 1.5
"""A bracket nearer to its place than this is left alone."""


@dataclass(frozen=True)
class Correction:
    """Something to do: turns by bar, + longer, and mounts to be moved to where they were designed, by so much (mm);
    where the axle then stands; `inside`: within every tolerance; `sure`: so even if what was read is off by two of its
    sigmas."""

    turns: dict[str, float]
    moves: dict[str, tuple[float, float, float]]
    then: dict[str, float]
    inside: bool
    sure: bool


@dataclass(frozen=True)
class Corrections:
    """Where the axle stands as built (None: it cannot be followed there), the tolerances either way, whether it is
    inside them, and what would correct it."""

    stands: dict[str, float] | None
    within: dict[str, float]
    inside: bool
    offered: tuple[Correction, ...]


def corrections(design: Design, log: FitLog, built: AsBuilt | None = None, found: Fitted | None = None) -> Corrections:
    """What to do about an axle that came out as the log says."""
    built = built or as_built(design, log)
    found = found or fitted(design, log)
    if found.as_made is None:
        return Corrections(None, WITHIN, False, ())
    stands = {name: found.as_made[name] or 0.0 for name in PLACES}
    if _inside(stands):
        return Corrections(stands, WITHIN, True, ())
    bench = _Bench(design, built, found.lengths)
    offered = [*_turned(bench), *_moved(bench, found)]
    offered.sort(key=lambda one: (not one.sure, not one.inside, 0.0 if one.sure else _far(one.then), _work(one)))
    helps = [one for one in offered if one.inside or _far(one.then) < _far(stands)]
    if helps and helps[0].inside:
        helps = [one for one in helps if one.inside and one.sure == helps[0].sure]
    return Corrections(stands, WITHIN, False, tuple(helps[:_MOST_OFFERED]))


def _inside(stands: dict[str, float]) -> bool:
    return all(abs(stands[name]) <= WITHIN[name] for name in PLACES)


def _far(stands: dict[str, float]) -> float:
    """The worst of the four, in its own tolerances."""
    return max(abs(stands[name]) / WITHIN[name] for name in PLACES)


def _work(one: Correction) -> tuple[int, int, float]:
    """Steel moved counts before bars turned, then how many, then how far."""
    far = sum(float(np.linalg.norm(by)) for by in one.moves.values()) + sum(map(abs, one.turns.values()))
    return len(one.moves), len(one.turns), far


class _Bench:
    """The axle as built, to be tried with other lengths and other places of mounts."""

    def __init__(self, design: Design, built: AsBuilt, lengths: dict[str, BarLength]) -> None:
        self.design, self.built, self.lengths = design, built, lengths
        self.mechanism = mechanism_of(design)
        self.start = self.mechanism.with_mounts(built.at[None])
        self.rows = [row.name for row in self.mechanism.layout.rows]
        self.more = np.array([lengths[n].made - lengths[n].needed if n in lengths else 0.0 for n in self.rows])
        known = spread_of(design, built)
        self.spread = dict(zip(PLACES, known, strict=True)) if known is not None else dict.fromkeys(PLACES, inf)
        self.turn: dict[str, float] = {}
        for name in lengths:
            a_turn = per_turn(design.joints, joints_of(design, name))
            if a_turn:
                self.turn[name] = a_turn

    def stands(self, at: Floats, turns: Sequence[dict[str, float]]) -> list[dict[str, float] | None]:
        """Where the axle stands with mounts there (D, K, 3) and bars turned so."""
        more = np.array([
            self.more + [self.turn[name] * one[name] if name in one else 0.0 for name in self.rows] for one in turns
        ])  # fmt: skip
        traced = kept_poses(self.start, at, more, self.mechanism.mounts)
        figures = table(traced, setting_of(self.design))
        return [
            {name: float(figures[ROW_OF[name], d, 0]) for name in PLACES} if traced.reached[d, 0] else None
            for d in range(len(turns))
        ]

    def turned(self, turns: Sequence[dict[str, float]]) -> list[dict[str, float] | None]:
        return self.stands(np.repeat(self.built.at[None], len(turns), axis=0), turns)

    def offered(
        self, turns: dict[str, float], moves: dict[str, tuple[float, float, float]], then: dict[str, float]
    ) -> Correction:
        """That correction, with how sure it is: what was read still says the same of mounts that are not moved."""
        sure = all(abs(then[name]) / WITHIN[name] + _SIGMAS * self.spread[name] <= 1.0 for name in PLACES)
        return Correction(turns, moves, then, _inside(then), sure)

    def has_thread(self, name: str, turns: float) -> bool:
        """Whether its threads let it be turned so, from how it was made."""
        room = thread_room(self.design.joints, joints_of(self.design, name))
        length = self.lengths[name]
        return room is not None and abs(length.made - length.designed + turns * self.turn[name]) <= room + 1e-9


def _turned(bench: _Bench) -> list[Correction]:
    """By turning one bar, both of a pair, any two, or all."""
    names = list(bench.turn)
    pairs = across(bench.design)
    groups: list[tuple[str, ...]] = [(name,) for name in names]
    groups += combinations(names, 2)
    groups += [tuple(names)] if len(names) > 2 else []
    groups.sort(key=lambda one: (len(one), len(one) == 2 and pairs.get(one[0]) != one[1]))
    found = []
    for group in groups:
        turns = _solved(bench, group)
        if turns is None:
            continue
        (then,) = bench.turned([turns])
        if then is not None and turns and all(bench.has_thread(name, by) for name, by in turns.items()):
            found.append(bench.offered(turns, {}, then))
    return found


def _solved(bench: _Bench, group: tuple[str, ...]) -> dict[str, float] | None:
    """Turns of these bars that bring the axle nearest to its place, in halves."""
    at = np.zeros(len(group))
    scale = np.array([1.0 / WITHIN[name] for name in PLACES])
    for _ in range(_ROUNDS):
        tries = [
            at,
            *(at + _STEP * unit for unit in np.eye(len(group))),
            *(at - _STEP * unit for unit in np.eye(len(group))),
        ]
        stood = bench.turned([dict(zip(group, one, strict=True)) for one in tries])
        if any(one is None for one in stood):
            return None
        values = np.array([[one[name] for name in PLACES] for one in stood if one is not None]) * scale
        slope = (values[1 : 1 + len(group)] - values[1 + len(group) :]).T / (2.0 * _STEP)
        at = at - np.linalg.lstsq(slope, values[0], rcond=1e-6)[0]
        if np.abs(at).max() > _MOST_TURNS:
            return None
    halves = np.round(at / _STEP) * _STEP
    return {name: float(by) for name, by in zip(group, halves, strict=True) if by != 0.0}


_MOST_TURNS = 60.0


def _moved(bench: _Bench, found: Fitted) -> list[Correction]:
    """By moving one bracket, or a pair of them, to where it was designed, no bar turned."""
    designed = bench.mechanism.mounts[0]
    off = {
        name: k for k, name in enumerate(bench.built.names)
        if found.mounts[name].measured and float(np.linalg.norm(found.mounts[name].off)) > _WORTH_MM
    }  # fmt: skip
    groups: list[tuple[str, ...]] = [*((name,) for name in off), *combinations(off, 2)]
    if not groups:
        return []
    at = np.repeat(bench.built.at[None], len(groups), axis=0)
    for d, group in enumerate(groups):
        for name in group:
            at[d, off[name]] = designed[off[name]]
    offered = []
    for group, then in zip(groups, bench.stands(at, [{}] * len(groups)), strict=True):
        if then is not None:
            moves = {name: _by(designed[off[name]] - bench.built.at[off[name]]) for name in group}
            offered.append(bench.offered({}, moves, then))
    return offered


def _by(move: Floats) -> tuple[float, float, float]:
    x, y, z = move.tolist()
    return x, y, z
