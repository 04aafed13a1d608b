"""Cure everything at once: the least movement of all free mounts that brings every judged figure into its band.

Sequential quadratic programming: at each round the figures' slopes by every free coordinate are taken, and the shortest
move from the original mounts that puts all of them inside, to first order, is found by Hildreth's method on the dual.
Multipliers are capped, so that bands which contradict each other are each met as far as they can be instead of driving
the mounts away, and so that what is only to be considered does not push far.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from oak_lever.design.faults import Refused
from oak_lever.design.types import Design
from oak_lever.design.values import Point
from oak_lever.figures.register import BY_ID, Severity
from oak_lever.judge.judged import SEVERITIES, Judged, compared, judge, judgment
from oak_lever.motion.mechanism import Floats
from oak_lever.move.bounds import PULL_WITHIN_MM
from oak_lever.move.coordinates import Space, coordinates, placed
from oak_lever.move.slopes import slopes

_ROUNDS = 8
_ROWS = 11
_NUDGE_MM = 1.0
"""What a shop can just set: the slope over it says what a move does, kinks of a range's ends smoothed."""
_MARGIN = 0.02
"""How far inside its band a figure is aimed at, of the band's width or its edge, more with each round: rounding to
whole increments comes after."""
_CAPS: dict[Severity, float] = {"stop": 1e4, "fix": 1e4, "consider": 15.0}
"""The most that a figure of that severity may push, mm of its strongest coordinate."""
_SWEEPS = 400
_STILL = 1e-9
"""Multipliers that a whole sweep moves by less than this (mm) have found their place."""
_FLAT = 1e-9
"""A figure with no slope greater than this, per mm, does not answer to any mount."""


@dataclass(frozen=True)
class Settled:
    """Where the mounts go, by name; the judged figures there; findings made less grave, and graver; grave ones left."""

    at: dict[str, Point]
    figures: dict[str, float | None]
    cures: tuple[str, ...]
    worse: tuple[str, ...]
    left: tuple[str, ...]


def settle(design: Design, increment_mm: float, within_mm: float = PULL_WITHIN_MM) -> Settled | None:
    """The least movement, in whole increments, that leaves the fewest and least grave findings.

    None where no movement makes it better.
    """
    # links that have a locator beside them must not come to hold the axle sideways as well
    space = Space(design, [c for c in coordinates(design) if design.lateral is None or c.axis != "y"])
    if not space.free:
        return None
    at = np.zeros(len(space.free))
    before = judge(space.swept(at[None]))
    best_cost, best = _cost(before), None
    for n in range(_ROUNDS):
        step = _round(space, at, within_mm, _MARGIN * (1 + n))
        if step is None:
            break
        at = step
        whole = np.round(at / increment_mm) * increment_mm
        after = judge(space.swept(whole[None]))
        if _cost(after) < best_cost and _builds(space, whole):
            best_cost, best = _cost(after), (whole, after)
        if best_cost[:2] == (0, 0):
            break
    if best is None:
        return None
    move, after = best
    graves = before.grave(), after.grave()
    left = tuple(sorted(name for name, grave in graves[1].items() if SEVERITIES[grave] in ("stop", "fix")))
    return Settled(space.at(move), after.values(), *compared(*graves), left)


def _cost(judged: Judged) -> tuple[int, ...]:
    """Stops, fixes, considers: fewer of the graver is better whatever it does to the rest."""
    return tuple(judged.counts()[0].tolist())


def _builds(space: Space, move: Floats) -> bool:
    try:
        placed(space.design, space.at(move))
    except Refused:
        return False
    return True


def _round(space: Space, at: Floats, within_mm: float, inside: float) -> Floats | None:
    """The next moves (F,) from the original mounts; None where nothing answers."""
    judged: list[Judged] = []

    def values(moves: Floats) -> Floats:
        judged.append(judge(space.swept(moves, _ROWS)))
        return judged[-1].value.T

    here, slope = slopes(values, at, _NUDGE_MM)
    rows, limits, caps = [], [], []
    for w, name in enumerate(judged[-1].figures):
        size = float(np.abs(slope[w]).max(initial=0.0))
        if not np.isfinite(here[w]) or not np.isfinite(size) or size < _FLAT:
            continue
        low, high = float(judged[-1].low[w, -1]), float(judged[-1].high[w, -1])
        width = high - low if np.isfinite(high - low) else abs(high if np.isfinite(high) else low)
        for sign, edge in ((1.0, high), (-1.0, low)):
            if np.isfinite(edge):
                rows.append(sign * slope[w] / size)
                limits.append((sign * (edge - here[w] + slope[w] @ at) - inside * width) / size)
                caps.append(_CAPS[judgment(BY_ID[name]).severity])
    if not rows:
        return None
    moves: Floats = np.clip(_shortest(np.array(rows), np.array(limits), caps), -within_mm, within_mm)
    return moves


def _shortest(rows: Floats, limits: Floats, caps: Sequence[float]) -> Floats:
    """The shortest m with rows @ m <= limits: Hildreth's dual coordinate ascent, multipliers capped (Hildreth 1957)."""
    gram = (rows @ rows.T).tolist()
    weight = [0.0] * len(limits)
    for _ in range(_SWEEPS):
        moved = 0.0
        for i, limit in enumerate(limits.tolist()):
            slack = limit + sum(g * w for g, w in zip(gram[i], weight, strict=True) if w)
            new = min(max(0.0, weight[i] - slack / gram[i][i]), caps[i])
            moved = max(moved, abs(new - weight[i]))
            weight[i] = new
        if moved < _STILL:
            break
    move: Floats = -rows.T @ np.array(weight)
    return move
