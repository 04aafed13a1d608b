"""Which reading to take next: the one that narrows most where the axle stands, and whether enough is known.

A further reading h with its sigma s takes (J P h)^2 / (h'P h + s^2) off the variance of what hangs on it, P being the
covariance of the mounts and J the slopes of pinion, fore-aft, center and square (Kalman's update; each in its own
tolerance)."""

from dataclasses import dataclass
from itertools import combinations
from math import sqrt

import numpy as np

from oak_lever.design.fit import Apart, FitLog
from oak_lever.design.types import Design
from oak_lever.fit_up.as_built import AsBuilt
from oak_lever.fit_up.readings import SIGMA_MM
from oak_lever.motion.mechanism import Floats
from oak_lever.weigh_up.outcomes import WITHIN
from oak_lever.weigh_up.tolerance import tolerance

ENOUGH = 0.5
"""Of its tolerance: known to this, one sigma, a place of the axle is known well enough."""
_KINDS = {"ahead": 0, "left": 1, "height": 2}
_AXES = ("x", "y", "z")


@dataclass(frozen=True)
class NextReading:
    """A reading to take: how well the worst of the axle's places is known now, and then, in its own tolerance (one
    sigma); `figure`: which that is now."""

    kind: str
    of: str
    to: str | None
    now: float
    then: float
    figure: str
    enough: bool


def spread_of(design: Design, built: AsBuilt) -> Floats | None:
    """(4,) how well pinion, fore-aft, center and square are known, one sigma each in its own tolerance; None where the
    axle is loose."""
    slopes = _slopes(design, built)
    return None if slopes is None else _spread(slopes, built)


def _spread(slopes: Floats, built: AsBuilt) -> Floats:
    out: Floats = np.sqrt(np.diag(slopes @ built.covariance @ slopes.T))
    return out


def next_reading(design: Design, log: FitLog, built: AsBuilt) -> NextReading | None:
    """The one to take next; None where the axle is loose."""
    slopes = _slopes(design, built)
    if slopes is None:
        return None
    p = built.covariance
    spread = _spread(slopes, built)
    taken = {frozenset((one.of, one.to)) for one in log.readings if isinstance(one, Apart) and not one.left_out}
    best: tuple[float, tuple[str, str, str | None]] | None = None
    for what, h in _candidates(built, taken):
        gain = slopes @ p @ h
        after = spread**2 - gain**2 / (float(h @ p @ h) + SIGMA_MM**2)
        worth = (float(np.sqrt(np.maximum(after, 0.0)).max()), what)
        if best is None or worth[0] < best[0] - 1e-12:
            best = worth
    assert best is not None, "every mount has a height"
    worst = int(spread.argmax())
    kind, of, to = best[1]
    return NextReading(
        kind, of, to, float(spread[worst]), best[0], tuple(WITHIN)[worst], bool(spread.max() <= ENOUGH)
    )  # fmt: skip


def _slopes(design: Design, built: AsBuilt) -> Floats | None:
    """(4, 3K) of each place of the axle by each mount's coordinates, in its tolerance; a radius arm's bolts: none."""
    found = tolerance(design).mounts
    if found is None:
        return None
    rows = np.zeros((len(WITHIN), 3 * len(built.names)))
    for k, name in enumerate(built.names):
        for a, axis in enumerate(_AXES):
            for r, (figure, within) in enumerate(WITHIN.items()):
                slope = found[name][axis][figure] if name in found else None
                rows[r, 3 * k + a] = (slope or 0.0) / within
    return rows


def _candidates(built: AsBuilt, taken: set[frozenset[str]]) -> list[tuple[tuple[str, str, str | None], Floats]]:
    """Each mount's height, place ahead and to the left; distances between mounts that were not taken yet."""
    found: list[tuple[tuple[str, str, str | None], Floats]] = []
    size = 3 * len(built.names)
    for k, name in enumerate(built.names):
        for kind, axis in _KINDS.items():
            h = np.zeros(size)
            h[3 * k + axis] = 1.0
            found.append(((kind, name, None), h))
    for one, other in combinations(range(len(built.names)), 2):
        span = built.at[one] - built.at[other]
        long = sqrt(float(span @ span))
        pair = (built.names[one], built.names[other])
        if long > 1.0 and frozenset(pair) not in taken:
            h = np.zeros(size)
            h[3 * one : 3 * one + 3], h[3 * other : 3 * other + 3] = span / long, -span / long
            found.append((("distance", *pair), h))
    return found
