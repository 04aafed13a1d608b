"""Where mounts came to stand: least squares over raw readings, each mount drawn to its designed place.

Gauss and Newton, damped so that no step raises the sum (Levenberg and Marquardt; Nocedal, chapter 10). Readings that do
not fit are told by their studentized residuals (Baarda).
"""

from collections.abc import Sequence
from dataclasses import dataclass
from math import asin, cos, radians, sin, sqrt

import numpy as np

from oak_lever.design.fit import Along, Apart, FitLog, FitPose
from oak_lever.design.types import Design
from oak_lever.fit_up.readings import in_mm
from oak_lever.motion.mechanism import Floats, mechanism_of
from oak_lever.motion.trace import rotations
from oak_lever.move.coordinates import spots
from oak_lever.tolerances import COINCIDENT_MM

DRAWN_MM = 25.0
"""One standard deviation of where a mount is taken to be before anything is read: at its designed place, an inch."""
SURE_MM = 12.5
"""A mount is measured when in some direction it is known to this."""
SUSPECT = 3.0
_ALIKE = 1e-3
_LEVERAGE = 1e-6
_ROUNDS = 300
_STILL_MM = 1e-11
_DAMPED = 1e-6
_AXES = {"ahead": 0, "left": 1, "height": 2}


@dataclass(frozen=True)
class Suspect:
    """A reading that does not fit, by so many of its own standard deviations."""

    reading: str
    off: float


@dataclass(frozen=True)
class AsBuilt:
    """Mounts (K, 3) mm at ride, in the order of the design's; their covariance (3K, 3K); readings that do not fit."""

    names: tuple[str, ...]
    at: Floats
    covariance: Floats
    suspect: tuple[Suspect, ...]


def as_built(design: Design, log: FitLog) -> AsBuilt:
    """The mounts that the log's readings say."""
    problem = _Problem(design, log)
    at, cost = problem.designed.copy(), problem.cost(problem.designed)
    damped = 0.0
    for _ in range(_ROUNDS):
        slope, rest = problem.slopes(at)
        normal = slope.T @ slope
        down = slope.T @ rest
        step = np.linalg.solve(normal + damped * np.diag(np.diag(normal)), down)
        moved = at + step.reshape(at.shape)
        then = problem.cost(moved)
        if then <= cost:
            at, cost, damped = moved, then, damped / 10.0 if damped > _DAMPED else 0.0
            if np.abs(step).max(initial=0.0) < _STILL_MM:
                break
        elif np.abs(step).max(initial=0.0) < _STILL_MM:
            break
        else:
            damped = max(10.0 * damped, _DAMPED)
    slope, rest = problem.slopes(at)
    covariance: Floats = np.linalg.inv(slope.T @ slope).astype(np.float64)
    return AsBuilt(problem.names, at, covariance, problem.suspects(slope, rest, covariance))


class _Problem:
    """Readings that are used as rows: residuals over sigma, then how far each coordinate is from its design over
    `DRAWN_MM`."""

    def __init__(self, design: Design, log: FitLog) -> None:
        every = spots(design)
        self.names = tuple(spot.name for spot in every)
        index = {name: n for n, name in enumerate(self.names)}
        self.designed = mechanism_of(design).mounts[0]
        self.turn, self.center = _stood(design, log.pose)
        self.rest = np.array([0.0, 0.0, design.axle.tire_radius_loaded])
        self.on_axle = np.array([spot.on == "axle" for spot in every])
        self.used: list[tuple[str, float, float, int, int, int]] = []  # id, value, sigma, mount, other or -1, axis
        for one in log.readings:
            if one.left_out or not isinstance(one, Along | Apart):
                continue
            value, sigma = in_mm(one)
            if isinstance(one, Along):
                self.used.append((one.id, value, sigma, index[one.of], -1, _AXES[one.kind]))
            elif np.abs(self.designed[index[one.of]] - self.designed[index[one.to]]).max() >= COINCIDENT_MM:
                self.used.append((one.id, value, sigma, index[one.of], index[one.to], -1))

    def measured(self, at: Floats) -> Floats:
        """(K, 3) where mounts stood as they were measured."""
        carried = self.center + (at - self.rest) @ self.turn.T
        return np.where(self.on_axle[:, None], carried, at)

    def _rows(self, at: Floats) -> tuple[Floats, Floats]:
        """(R, 3K) slopes of the readings, and (R,) what is left of them; not yet over sigma."""
        where = self.measured(at)
        by = [self.turn if axle else np.eye(3) for axle in self.on_axle]
        slope, rest = np.zeros((len(self.used), at.size)), np.zeros(len(self.used))
        for n, (_, value, _, one, other, axis) in enumerate(self.used):
            if other < 0:
                slope[n, 3 * one : 3 * one + 3] = by[one][axis]
                rest[n] = value - where[one, axis]
                continue
            span = where[one] - where[other]
            long = float(np.linalg.norm(span))
            way = span / max(long, COINCIDENT_MM)
            slope[n, 3 * one : 3 * one + 3] += way @ by[one]
            slope[n, 3 * other : 3 * other + 3] -= way @ by[other]
            rest[n] = value - long
        return slope, rest

    def slopes(self, at: Floats) -> tuple[Floats, Floats]:
        """All rows over their sigma: slopes (R + 3K, 3K) and what is left (R + 3K,)."""
        slope, rest = self._rows(at)
        sigma = np.array([one[2] for one in self.used])
        drawn = np.eye(at.size) / DRAWN_MM
        back = (self.designed - at).ravel() / DRAWN_MM
        return np.concatenate([slope / sigma[:, None], drawn]), np.concatenate([rest / sigma, back])

    def cost(self, at: Floats) -> float:
        _, rest = self.slopes(at)
        return float(rest @ rest)

    def suspects(self, slope: Floats, rest: Floats, covariance: Floats) -> tuple[Suspect, ...]:
        """The largest first, of equals in the file's order."""
        found = []
        for n, one in enumerate(self.used):
            free = 1.0 - float(slope[n] @ covariance @ slope[n])
            if free > _LEVERAGE:
                off = abs(float(rest[n])) / sqrt(free)
                if off > SUSPECT:
                    found.append(Suspect(one[0], off))
        return tuple(_largest_first(found))


def _largest_first(found: Sequence[Suspect]) -> list[Suspect]:
    """By insertion: one goes before those that it is larger than by more than `_ALIKE`."""
    ordered: list[Suspect] = []
    for one in found:
        place = len(ordered)
        while place and one.off > ordered[place - 1].off + _ALIKE:
            place -= 1
        ordered.insert(place, one)
    return ordered


def _stood(design: Design, pose: FitPose) -> tuple[Floats, Floats]:
    """How the axle was turned (3, 3) and where its center stood (3,) when it was measured."""
    pitch = radians(pose.pinion_change) * (-1.0 if design.axle.end == "rear" else 1.0)
    across = max(-1.0, min(1.0, sin(radians(pose.articulation)) / cos(pitch)))
    state = np.array([0.0, 0.0, 0.0, asin(across), pitch, radians(pose.yaw), 0.0])
    height = design.axle.tire_radius_loaded + pose.travel
    return rotations(state), np.array([pose.axle_x, pose.axle_y, height])
