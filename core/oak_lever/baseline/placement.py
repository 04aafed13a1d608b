"""Where the axles stand under the frame, from tape readings between its marks and the hubs: weighted least squares."""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

from oak_lever.baseline.spread import Spread, sigma_of, value_of
from oak_lever.motion.mechanism import Floats
from oak_lever.truck.types import Distance, Truck

END_ORDER = ("rear", "front")
SUSPECT = 3.0
"""A reading off by more than so many of its own sigmas is to be taken again."""
_SAYS = 1e-8
"""A direction that the readings hold by less than this part of the best held one is not held."""
_FREE = 1e-6
"""A reading with less than this left to disagree by agrees with whatever it says."""
_SHORT_MM = 50.0
"""A fore-aft or sideways distance below this at rest may lie either way: its sign is not known."""
_EQUAL = 1e-3
_STILL_MM = 1e-10
_MOST_STEPS = 100


@dataclass(frozen=True)
class Placed:
    """`figures` with their dependence on the readings; `off` by reading, how many sigmas it is off (those that can be
    off); `missed` by reading, what was read less what fits, mm; `unused`, readings whose direction is not known."""

    figures: dict[str, Spread]
    off: dict[str, float]
    missed: dict[str, float]
    leverage: dict[str, float]
    unused: tuple[str, ...]
    flipped: tuple[str, ...]
    """Readings whose points have changed sides on the way from where the stations put the axles."""

    @cached_property
    def suspect(self) -> list[tuple[str, float]]:
        """Readings to take again, the worst first; of equals, the one that stands first in the file."""
        over = [(name, off) for name, off in self.off.items() if off > SUSPECT]
        order = {name: n for n, name in enumerate(self.off)}
        ranked: list[list[tuple[str, float]]] = []
        for one in sorted(over, key=lambda item: -item[1]):
            if ranked and ranked[-1][0][1] - one[1] <= _EQUAL:
                ranked[-1].append(one)
            else:
                ranked.append([one])
        return [one for group in ranked for one in sorted(group, key=lambda item: order[item[0]])]


def place(truck: Truck, without: Sequence[str] = (), exchanged: tuple[str, str] | None = None) -> Placed:
    """The axles' `fore_aft` and `offset` (mm), `thrust_angle` (degrees, + turned left) and the `wheelbase` on each side
    (mm), as far as the readings give them; what they do not give is left out.

    Gauss-Newton from where the truck's stations put the axles, each reading weighing 1/sigma^2. What the readings fix
    is judged there, a thrust angle taken as the arc at half a track. `without` leaves readings out; `exchanged` takes
    two of them for each other's.
    """
    taken = [r for r in truck.readings if isinstance(r, Distance) and not r.left_out and r.id not in without]
    unused = tuple(r.id for r, odd in zip(taken, _Model(truck, taken).undecided(), strict=True) if odd)
    model = _Model(truck, [r for r in taken if r.id not in unused])
    if not model.readings:
        return Placed({}, {}, {}, {}, unused, ())
    read = np.array([value_of(r) for r in model.readings])
    if exchanged:
        one, other = ([r.id for r in model.readings].index(name) for name in exchanged)
        read[[one, other]] = read[[other, one]]
    return _fitted(model, read, unused)


def _fitted(model: "_Model", read: Floats, unused: tuple[str, ...]) -> Placed:
    weight = 1.0 / np.array([sigma_of(r) for r in model.readings])
    _, strong, across = np.linalg.svd(weight[:, None] * model.said(np.zeros(6))[1], full_matrices=False)
    held = across[: len(strong)][strong > _SAYS * strong.max()].T if strong.max() > 0.0 else np.zeros((6, 0))
    at = np.zeros(6)
    for _ in range(_MOST_STEPS):
        said, slopes = model.said(at)
        step = held @ np.linalg.lstsq(weight[:, None] * slopes @ held, weight * (read - said), rcond=None)[0]
        at = at + step
        if np.abs(step).max() < _STILL_MM:
            break
    said, slopes = model.said(at)
    slopes = slopes * weight[:, None]
    # how far one sigma of each reading moves each unknown: the pseudo-inverse in what the readings hold
    moved = held @ np.linalg.pinv(slopes @ held)
    missed = read - said
    names = [r.id for r in model.readings]
    leverage = np.einsum("rk,kr->r", slopes, moved)
    ways = model.figures(np.zeros(6))
    figures = {
        name: Spread(value, dict(zip(names, (slopes_at @ moved).tolist(), strict=True)))
        for name, (value, slopes_at) in model.figures(at).items()
        if _lies_in(ways[name][1], held)
    }
    off = {
        name: float(abs(m) * w / math.sqrt(1.0 - h))
        for name, m, w, h in zip(names, missed, weight, leverage, strict=True)
        if 1.0 - h > _FREE
    }
    return Placed(
        figures, off, dict(zip(names, missed.tolist(), strict=True)), dict(zip(names, leverage.tolist(), strict=True)),
        unused, tuple(name for name, odd in zip(names, model.flipped(at), strict=True) if odd),
    )  # fmt: skip


def _lies_in(way: Floats, held: Floats) -> bool:
    return bool(np.linalg.norm(way - held @ (held.T @ way)) <= _SAYS * np.linalg.norm(way))


_AXIS = {"along": 0, "across": 1}


class _Model:
    """What each reading should say with the axles at (fore-aft, offset, arc at half a track), rear then front, mm."""

    def __init__(self, truck: Truck, readings: Sequence[Distance]) -> None:
        self.readings = readings
        self._marks = {mark.id: np.array(mark.at) for mark in truck.marks}
        self._axles = [getattr(truck.axles, end) for end in END_ORDER]
        self._names = list(dict.fromkeys(name for r in readings for name in (r.from_, r.to)))
        place = {name: n for n, name in enumerate(self._names)}
        self._from = np.array([place[r.from_] for r in readings], dtype=np.int64)
        self._to = np.array([place[r.to] for r in readings], dtype=np.int64)
        self._axis = np.array([_AXIS.get(r.kind, -1) for r in readings], dtype=np.int64)
        self._still = self._along(self._apart(np.zeros(6))[0])

    def point(self, name: str, at: Floats) -> tuple[Floats, Floats]:
        """Where a mark or hub stands, and its slopes (3, 6) by the unknowns."""
        slopes = np.zeros((3, 6))
        if name in self._marks:
            return self._marks[name], slopes
        end, _, side = name.split("-")
        n, sign = END_ORDER.index(end), 1.0 if side == "left" else -1.0
        axle = self._axles[n]
        half = axle.track / 2.0
        ahead, left, arc = at[3 * n : 3 * n + 3]
        turn = arc / half
        slopes[0, 3 * n] = slopes[1, 3 * n + 1] = 1.0
        slopes[0, 3 * n + 2], slopes[1, 3 * n + 2] = -sign * math.cos(turn), -sign * math.sin(turn)
        hub = np.array([
            axle.station + ahead - sign * half * math.sin(turn), left + sign * half * math.cos(turn),
            axle.tire_radius_loaded,
        ])  # fmt: skip
        return hub, slopes

    def _apart(self, at: Floats) -> tuple[Floats, Floats]:
        """(R, 3) mm from each reading's first point to its second, and the slopes (R, 3, 6) of that by the unknowns."""
        points = [self.point(name, at) for name in self._names]
        where = np.array([point for point, _ in points]).reshape(-1, 3)
        slopes = np.array([slope for _, slope in points]).reshape(-1, 3, 6)
        return where[self._to] - where[self._from], slopes[self._to] - slopes[self._from]

    def _along(self, apart: Floats) -> Floats:
        """What lies along the axis that each reads along; NaN for straight distances."""
        read = np.take_along_axis(apart, np.maximum(self._axis, 0).reshape((-1,) + (1,) * (apart.ndim - 1)), axis=1)
        along: Floats = np.where((self._axis < 0).reshape(-1, *(1,) * (apart.ndim - 2)), np.nan, read[:, 0])
        return along

    def undecided(self) -> NDArray[np.bool_]:
        """(R,) whether a fore-aft or sideways distance is too short to say which way it lies."""
        return np.abs(self._still) < _SHORT_MM

    def said(self, at: Floats) -> tuple[Floats, Floats]:
        """(R,) what each reading should say, mm, and the slopes (R, 6) of that by the unknowns."""
        apart, slopes = self._apart(at)
        long = np.linalg.norm(apart, axis=1)
        straight = np.divide(apart, long[:, None], out=np.zeros_like(apart), where=long[:, None] > 0.0)
        sign, straight_on = np.sign(self._still), self._axis < 0
        along = np.where(straight_on, long, sign * self._along(apart))
        steep = np.where(
            straight_on[:, None], np.einsum("ri,rik->rk", straight, slopes), sign[:, None] * self._along(slopes)
        )
        return along, steep

    def flipped(self, at: Floats) -> NDArray[np.bool_]:
        """(R,) whether the two points lie the other way round than with the axles where the stations put them."""
        return self._along(self._apart(at)[0]) * self._still < 0.0

    def figures(self, at: Floats) -> dict[str, tuple[float, Floats]]:
        """By name: its value with the unknowns there, and its slopes (6,) by them."""
        found = {}
        for n, end in enumerate(END_ORDER):
            turn_deg = math.degrees(2.0 / self._axles[n].track)
            for k, (name, unit) in enumerate((("fore_aft", 1.0), ("offset", 1.0), ("thrust_angle", turn_deg))):
                way = np.zeros(6)
                way[3 * n + k] = unit
                found[f"{end}_{name}"] = (float(way @ at), way)
        for side in ("left", "right"):
            (front, by_front), (rear, by_rear) = (self.point(f"{end}-hub-{side}", at) for end in ("front", "rear"))
            found[f"wheelbase_{side}"] = (float(front[0] - rear[0]), by_front[0] - by_rear[0])
        return found
