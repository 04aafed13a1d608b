"""Cure everything at once: the least movement of all free mounts that brings every judged figure into its band.

Sequential quadratic programming: at each round the figures' slopes by every free coordinate are taken as differences of
exact figures, and the shortest move from the original mounts that puts all of them inside, to first order, is found by
Hildreth's method on the dual. Multipliers are capped, so that bands which contradict each other are each met as far as
they can be instead of driving the mounts away, and so that what is only to be considered does not push far.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from oak_lever.cycle import cycle
from oak_lever.design.reader import DesignRefused
from oak_lever.design.types import Design, Point
from oak_lever.judge.findings import Bands, Finding, compared, findings
from oak_lever.judge.house import FIGURES, Severity
from oak_lever.motion.mechanism import Floats
from oak_lever.move.coordinates import coordinates, moved

_ROUNDS = 8
_ROWS = 11
_NUDGE_MM = 1.0
_MARGIN = 0.02
"""How far inside its band a figure is aimed at, of the band's width or its edge, more with each round: rounding to
whole increments comes after."""
_CAPS: dict[Severity, float] = {"stop": 1e4, "fix": 1e4, "consider": 15.0, "good": 0.0}
"""The most that a figure of that severity may push, mm of its strongest coordinate."""
_SWEEPS = 400
_BOUNDED = ("stop", "fix", "consider")
_GRAVEST: dict[str, Severity] = {figure.id: figure.severity for figure in FIGURES}


@dataclass(frozen=True)
class Settled:
    """Where the mounts go, by name; the judged figures there; findings made less grave, and graver; grave ones left."""

    at: dict[str, Point]
    figures: dict[str, float | None]
    cures: tuple[str, ...]
    worse: tuple[str, ...]
    left: tuple[str, ...]


def settle(design: Design, increment: float, bands: Bands | None = None, within: float = 150.0) -> Settled | None:
    """The least movement, in whole increments (mm), that leaves the fewest and least grave findings.

    None where no movement makes it better.
    """
    # links that have a locator beside them must not come to hold the axle sideways as well
    free = [c.directions for c in coordinates(design) if design.lateral is None or c.axis != "y"]
    if not free:
        return None
    directions = np.array(free)
    before = _judge(design, bands)
    best_cost, best = _cost(before), None
    at = np.zeros(len(free))
    for n in range(_ROUNDS):
        step = _round(design, directions, at, bands, within, _MARGIN * (1 + n))
        if step is None:
            break
        at = step
        whole = np.round(at / increment) * increment
        for trial in (at, whole):
            try:
                after = _judge(moved(design, np.tensordot(trial, directions, axes=1))[0], bands)
            except DesignRefused:
                continue
            if trial is whole and _cost(after) < best_cost:
                best_cost, best = _cost(after), (whole, after)
        if best_cost[0] == 0 and best_cost[1] == 0:
            break
    if best is None:
        return None
    _, places = moved(design, np.tensordot(best[0], directions, axes=1))
    return _as_settled(places, before, best[1])


def _judge(design: Design, bands: Bands | None, rows: int = 41) -> dict[str, Finding]:
    return {finding.id: finding for finding in findings(cycle(design, rows), bands)}


def _cost(found: dict[str, Finding]) -> tuple[int, int, int]:
    """Stops, fixes, considers: fewer of the graver is better whatever it does to the rest."""
    stops, fixes, considers = (sum(f.severity == grave for f in found.values()) for grave in _BOUNDED)
    return stops, fixes, considers


def _round(
    design: Design, directions: Floats, at: Floats, bands: Bands | None, within: float, inside: float
) -> Floats | None:
    """The next moves (F,) from the original mounts."""
    here = _values(design, directions, at, bands)
    if not here:
        return None
    slopes = {name: np.zeros(len(at)) for name in here}
    for n in range(len(at)):
        there = [_values(design, directions, at + sign * _NUDGE_MM * np.eye(len(at))[n], bands) for sign in (1, -1)]
        for name in here:
            if all(name in side for side in there):
                slopes[name][n] = (there[0][name][0] - there[1][name][0]) / (2 * _NUDGE_MM)
    rows, limits, caps = [], [], []
    for name, (value, low, high) in here.items():
        size = float(np.abs(slopes[name]).max())
        if size < 1e-9:
            continue
        margin = inside * (high - low if low is not None and high is not None else abs(high or low or 0.0))
        if high is not None:
            rows.append(slopes[name] / size)
            limits.append((high - margin - value + slopes[name] @ at) / size)
            caps.append(_CAPS[_GRAVEST[name]])
        if low is not None:
            rows.append(-slopes[name] / size)
            limits.append((value - low - margin - slopes[name] @ at) / size)
            caps.append(_CAPS[_GRAVEST[name]])
    if not rows:
        return None
    return np.clip(_shortest(np.array(rows), np.array(limits), caps), -within, within)


def _values(
    design: Design, directions: Floats, at: Floats, bands: Bands | None
) -> dict[str, tuple[float, float | None, float | None]]:
    """Value and band of every judged figure that has both; nothing for a design that is refused."""
    try:
        found = _judge(moved(design, np.tensordot(at, directions, axes=1))[0], bands, _ROWS)
    except DesignRefused:
        return {}
    return {
        name: (f.value, f.low, f.high)
        for name, f in found.items()
        if name == f.figure and f.value is not None and (f.low is not None or f.high is not None)
    }


def _shortest(rows: Floats, limits: Floats, caps: Sequence[float]) -> Floats:
    """The shortest m with rows @ m <= limits: Hildreth's dual coordinate ascent, multipliers capped (Hildreth 1957)."""
    gram = rows @ rows.T
    weight = np.zeros(len(limits))
    for _ in range(_SWEEPS):
        for i in range(len(limits)):
            slack = limits[i] + gram[i] @ weight
            weight[i] = min(max(0.0, weight[i] - slack / gram[i, i]), caps[i])
    return -rows.T @ weight


def _as_settled(at: dict[str, Point], before: dict[str, Finding], after: dict[str, Finding]) -> Settled:
    left = tuple(sorted(name for name, f in after.items() if f.severity in ("stop", "fix")))
    return Settled(at, {name: f.value for name, f in after.items()}, *compared(before, after), left)
